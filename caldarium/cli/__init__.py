"""The command line. Each command loads only the rooms it needs."""

import sys
from typing import NoReturn


def main() -> None:
    """Entry point; bad arguments end with one line on standard error and exit code 2."""
    if sys.argv[1:2] == ["calc"]:
        _calc(sys.argv[2:])
        return
    import typer
    from sqlalchemy.exc import DatabaseError

    from caldarium.cli.commands import app
    from caldarium.store.database import InUseError, NotADatabaseError, told_of

    try:
        code = app(standalone_mode=False)
    except (NotADatabaseError, InUseError) as fault:
        _refuse(str(fault))
    except DatabaseError as fault:
        _refuse(told_of(fault))
    except typer.TyperException as fault:
        _refuse(fault.format_message() if hasattr(fault, "format_message") else str(fault))
    except typer.Abort:
        raise SystemExit(130) from None
    raise SystemExit(code or 0)


def _calc(arguments: list[str]) -> None:
    from caldarium.cli.calc import ArgumentError, run

    try:
        run(arguments)
    except ArgumentError as fault:
        _refuse(str(fault))


def _refuse(message: str) -> NoReturn:
    print(f"caldarium: {' '.join(message.split())}", file=sys.stderr)
    raise SystemExit(2)
