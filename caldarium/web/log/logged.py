"""A course with what happened on it, worked out once for each state of both."""

import secrets
from dataclasses import dataclass
from datetime import UTC, datetime

from fastapi import Request

from caldarium.core.log.debrief import Debrief
from caldarium.core.log.learned import Teaching
from caldarium.core.log.review import Review, review
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Entry, Event, Log
from caldarium.store.courses import Held
from caldarium.web.page import courses_of, logs_of

KEPT = 40


@dataclass(frozen=True)
class Logged:
    """A course, its log, and what follows from them."""

    held: Held
    log: Log
    review: Review

    @property
    def course(self) -> Course:
        """The plan as it stands."""
        return self.held.course

    @property
    def teaching(self) -> Teaching:
        """What the log teaches."""
        return self.review.teaching

    @property
    def debrief(self) -> Debrief:
        """What is left to be said."""
        return self.review.debrief


def logged(request: Request, number: int) -> Logged:
    """A course with its log, computed from the last time where neither has changed."""
    known: dict[int, Logged] = request.app.state.logged
    held, log = courses_of(request).get(number), logs_of(request).of(number)
    found = known.get(number)
    same = found is not None and found.held.mark == held.mark and found.log == log
    # The same plan may have other steps about it, undone and done again.
    known[number] = Logged(held, log, found.review if found and same else review(held.course, log))
    while len(known) > KEPT:
        known.pop(next(iter(known)), None)
    return known[number]


def now_entry(by: str, event: Event) -> Entry:
    """Something told at this moment from a form."""
    return Entry(
        token=secrets.token_hex(16), at=datetime.now(UTC), by=by[:120].strip(), event=event
    )
