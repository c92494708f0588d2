"""All commands but `calc`, which has a door of its own for the sake of speed."""

import typer

from caldarium.cli import course, lighten, run

app = typer.Typer(
    no_args_is_help=True,
    add_completion=False,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
    epilog="caldarium calc --help lists single figures from the core.",
)
course.add_to(app)
run.add_to(app)
lighten.add_to(app)
