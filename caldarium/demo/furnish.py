"""A database gets the demo where it has nothing yet."""

from sqlalchemy import Engine

from caldarium.demo import demo_course, demo_store
from caldarium.store.courses import Courses
from caldarium.store.pieces import Pieces


def furnish(engine: Engine) -> None:
    """Put the demo's course and store where there is no course, and no store."""
    courses, pieces = Courses(engine), Pieces(engine)
    if not courses.count():
        courses.add(demo_course(), "the demo course")
    if not pieces.count():
        pieces.put(demo_store(), "the demo store")
