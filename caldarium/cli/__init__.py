"""The command line. Each command loads only the rooms it needs."""

import typer

from caldarium.cli import calc, course, run

app = typer.Typer(
    no_args_is_help=True,
    add_completion=False,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
)
app.add_typer(calc.app, name="calc", help="One figure from the core, as JSON.")
course.add_to(app)
run.add_to(app)


def main() -> None:
    """Entry point; bad arguments end with one line and exit code 2."""
    try:
        code = app(standalone_mode=False)
    except typer.TyperException as fault:
        message = getattr(fault, "format_message", lambda: str(fault))()
        typer.echo(f"caldarium: {' '.join(message.split())}", err=True)
        raise SystemExit(2) from None
    except typer.Abort:
        raise SystemExit(130) from None
    raise SystemExit(code or 0)
