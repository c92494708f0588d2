"""The demo course and store, as data in the open formats."""

from importlib.resources import files

from caldarium.core.plan.course import Course
from caldarium.core.stock.inventory import Stored
from caldarium.formats.course_json import read_course
from caldarium.formats.gear_csv import read_gear


def demo_course() -> Course:
    """The autumn fell plateau."""
    return read_course(files(__name__).joinpath("autumn-fell.json").read_bytes())


def demo_store() -> tuple[Stored, ...]:
    """The store of the school that runs the demo course."""
    preview = read_gear(files(__name__).joinpath("store.csv").read_bytes())
    assert not preview.problems
    return tuple(row.piece for row in preview.rows)
