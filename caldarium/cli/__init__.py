"""The command line. Each command loads only the rooms it needs."""

import typer

from caldarium.cli import calc, course, run

app = typer.Typer(no_args_is_help=True, add_completion=False, rich_markup_mode=None)
app.add_typer(calc.app, name="calc", help="One figure from the core, as JSON.")
course.add_to(app)
run.add_to(app)


def main() -> None:
    """Entry point; bad arguments end with one line and exit code 2."""
    from click import ClickException

    try:
        code = app(standalone_mode=False)
    except ClickException as fault:
        typer.echo(f"caldarium: {fault.format_message()}", err=True)
        raise SystemExit(2) from None
    raise SystemExit(code or 0)
