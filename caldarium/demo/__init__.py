"""The demo courses, as data in the open course format."""

from importlib.resources import files

from caldarium.core.course import Course
from caldarium.formats.course_json import read_course


def demo_course() -> Course:
    """The autumn fell plateau."""
    return read_course(files(__name__).joinpath("autumn-fell.json").read_bytes())
