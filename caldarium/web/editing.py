"""Changing a course from a page: from what its form showed, in named steps."""

from collections.abc import Callable, Mapping
from dataclasses import replace

from fastapi import Request

from caldarium.core.plan.course import Course
from caldarium.store.courses import Courses, Seen
from caldarium.web.page import courses_of

Change = Callable[[Course], Course]
MARK, MINE_OVER = "mark", "mine_over"
"""Fields of every form that changes a course: the state it showed, and the state over which the
user's own is to be taken."""


class Editing:
    """One form's changes to one course.

    What is changed is the course as the form showed it; what somebody else has done since stays,
    or is told where both changed the same thing.
    """

    def __init__(self, courses: Courses, number: int, seen: Seen) -> None:
        self._courses, self._seen = courses, seen
        self.number = number
        self.course = courses.seen(number, seen.mark)
        """The course as the form showed it."""

    def keep(self, words: str, alter: Change) -> bool:
        """Make one change, named for undo; see Courses.change."""
        mark = self._courses.change(self.number, words, alter, self._seen)
        if mark:
            self._seen = replace(self._seen, mark=mark)
        return bool(mark)

    @property
    def now(self) -> Course:
        """The course with what was kept so far."""
        return self._courses.seen(self.number, self._seen.mark)


def editing(request: Request, number: int, form: Mapping[str, str]) -> Editing:
    """The course that a form changes, as the form showed it.

    Raises:
        NoSuchCourseError: if there is none.
        MovedOnError: where that state is not kept any more.
    """
    seen = Seen(form.get(MARK, ""), form.get(MINE_OVER, ""))
    return Editing(courses_of(request), number, seen)
