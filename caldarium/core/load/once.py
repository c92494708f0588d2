"""What rests on the course and its timeline alone is worked out once for both of them."""

from collections.abc import Callable
from typing import TypeVar

from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import Timeline

Found = TypeVar("Found")


def once(work: Callable[[Course, Timeline], Found]) -> Callable[[Course, Timeline], Found]:
    """The same function, which remembers its last answer for the very same two values.

    Both are immutable, so that the answer cannot grow old; one is kept, replaced in one step.

    Args:
        work: gives something for a course and its timeline.

    Source: none, bookkeeping.
    """
    last: list[tuple[Course, Timeline, Found]] = []

    def remembered(course: Course, timeline: Timeline) -> Found:
        known = last[0] if last else None
        if known is not None and known[0] is course and known[1] is timeline:
            return known[2]
        found = work(course, timeline)
        last[:] = [(course, timeline, found)]
        return found

    remembered.__doc__, remembered.__name__ = work.__doc__, work.__name__
    return remembered
