"""The demo courses and store, as data in the open formats."""

from collections.abc import Mapping
from importlib.resources import files
from types import MappingProxyType

from caldarium.core.plan.course import Course
from caldarium.core.stock.inventory import Stored
from caldarium.formats.course_json import read_course
from caldarium.formats.gear_csv import read_gear

DEMOS: Mapping[str, str] = MappingProxyType(
    {
        "autumn-fell": "Autumn fell: ten people on a sub-arctic plateau; sleet, frozen ground",
        "deep-winter": "Deep winter: six people on snow in deep cold; a pass, a snow hole",
        "high-plateau": "High plateau: five people on a volcano; strong sun, cold nights",
        "hot-canyon": "Hot canyon: four people in dry heat; little shade, warm nights",
    }
)
"""Courses that ship, by the name of their file, the main one first, with what is special there."""


def demo_course(name: str = "autumn-fell") -> Course:
    """One of the courses that ship; the autumn fell plateau where none is named.

    Raises:
        KeyError: where none has that name.
    """
    if name not in DEMOS:
        raise KeyError(name)
    return read_course(files(__name__).joinpath(f"{name}.json").read_bytes())


def demo_store() -> tuple[Stored, ...]:
    """The store of the school that runs the demo course."""
    preview = read_gear(files(__name__).joinpath("store.csv").read_bytes())
    assert not preview.problems
    return tuple(row.piece for row in preview.rows)
