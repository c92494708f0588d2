"""`caldarium demo | serve | backup | restore`: the running application and its database."""

import json
import os
import socket
from pathlib import Path
from typing import Annotated

import typer

from caldarium.cli.course import DATABASE, Database

Port = Annotated[int, typer.Option(help="loopback port", min=1, max=65535, envvar="PORT")]
HOST = "127.0.0.1"


def _serve(database: Path, port: int, reload: bool = False) -> None:
    import uvicorn

    from caldarium.web.app import create_app

    _refuse_taken(port)
    typer.echo(f"Caldarium is at http://{HOST}:{port}/  (stop with Ctrl-C)")
    if reload:
        os.environ["CALDARIUM_DATABASE"] = str(database)
        uvicorn.run(
            "caldarium.web.app:from_environment",
            factory=True,
            reload=True,
            reload_dirs=[str(Path(__file__).parents[1])],
            host=HOST,
            port=port,
        )
    else:
        uvicorn.run(create_app(database), host=HOST, port=port, log_level="warning")


def _refuse_taken(port: int) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((HOST, port))
        except OSError:
            raise typer.BadParameter(
                f"port {port} is taken; choose another, as in PORT={port + 1} make demo"
            ) from None


def serve(database: Database = DATABASE, port: Port = 8000) -> None:
    """Serve the application on this machine only."""
    _serve(database, port)


def demo(
    database: Database = Path("var/demo.sqlite"),
    port: Port = 8000,
    fresh: Annotated[bool, typer.Option(help="start over with the shipped demo")] = False,
    reload: Annotated[bool, typer.Option(help="serve anew when the code changes")] = False,
) -> None:
    """Serve the demo course; what was changed is kept unless --fresh."""
    from caldarium.demo.furnish import furnish
    from caldarium.store.database import open_database, set_aside

    _refuse_taken(port)
    if fresh:
        aside = set_aside(database)
        if aside is not None:
            typer.echo(f"What was there is kept as {aside}")
    furnish(open_database(database))
    _serve(database, port, reload)


def backup(
    target: Annotated[Path, typer.Argument(help="file to write")], database: Database = DATABASE
) -> None:
    """Copy the database, even while it is in use, to one file."""
    from caldarium.store.database import back_up

    try:
        back_up(database, target)
    except (OSError, ValueError) as fault:
        raise typer.BadParameter(str(fault)) from None
    typer.echo(json.dumps({"backup": str(target), "bytes": target.stat().st_size}))


def restore(
    source: Annotated[Path, typer.Argument(help="backup to bring back")],
    database: Database = DATABASE,
) -> None:
    """Bring a backup back in the place of the database, which is kept under another name."""
    from caldarium.store.database import restore as bring_back

    try:
        aside = bring_back(source, database)
    except (OSError, ValueError, RuntimeError) as fault:
        raise typer.BadParameter(str(fault)) from None
    kept = str(aside) if aside else None
    typer.echo(json.dumps({"restored": str(database), "kept": kept}))


def add_to(app: typer.Typer) -> None:
    """Put these commands under their fixed names."""
    app.command("demo")(demo)
    app.command("serve")(serve)
    app.command("backup")(backup)
    app.command("restore")(restore)
