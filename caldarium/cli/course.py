"""`caldarium assess | export | import`: whole courses as files."""

import json
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

if TYPE_CHECKING:
    from caldarium.core.plan.course import Course
    from caldarium.store.courses import Courses

DATABASE = Path("var/caldarium.sqlite")
Database = Annotated[Path, typer.Option("--database", help="database file")]


def read_course_file(path: Path) -> "Course":
    """The course in a file; told in one line where it cannot be read."""
    from caldarium.formats.course_json import read_course
    from caldarium.formats.fault import FileError

    try:
        return read_course(path.read_bytes())
    except OSError as fault:
        raise typer.BadParameter(f"cannot read {path}: {fault.strerror}") from None
    except FileError as fault:
        raise typer.BadParameter(f"{path}: {fault}") from None


def _courses(database: Path) -> "Courses":
    from caldarium.store.courses import Courses
    from caldarium.store.database import open_database

    return Courses(open_database(database))


def assess(course: Annotated[Path, typer.Argument(help="course JSON file")]) -> None:
    """The assessment of a course file, as JSON."""
    from caldarium.cli.quiet import solver_silent
    from caldarium.core.assess import assess as assess_course
    from caldarium.formats.assessment_json import assessment_document

    value = read_course_file(course)
    with solver_silent():
        document = assessment_document(value, assess_course(value))
    typer.echo(json.dumps(document, ensure_ascii=False))


def export_course(
    number: Annotated[int, typer.Argument(help="number of the course in the database")],
    database: Database = DATABASE,
) -> None:
    """A course of the database as one JSON document."""
    from caldarium.formats.course_json import write_course
    from caldarium.store.courses import NoSuchCourseError
    from caldarium.store.database import open_database
    from caldarium.store.logs import Logs, with_log

    if not database.exists():
        raise typer.BadParameter(f"no database at {database}")
    try:
        held = _courses(database).get(number)
        course = with_log(held.course, Logs(open_database(database)).of(number))
    except NoSuchCourseError:
        raise typer.BadParameter(f"no course {number} in {database}") from None
    typer.echo(write_course(course), nl=False)


def import_course(
    course: Annotated[Path, typer.Argument(help="course JSON file")], database: Database = DATABASE
) -> None:
    """Add a course file to the database, whole or not at all."""
    value = read_course_file(course)
    number = _courses(database).add(value, f"imported {course.name}")
    typer.echo(json.dumps({"course": number, "name": value.name}, ensure_ascii=False))


def add_to(app: typer.Typer) -> None:
    """Put these commands under their fixed names."""
    app.command("assess")(assess)
    app.command("export")(export_course)
    app.command("import")(import_course)
