"""A course with what happened on it, worked out once for each state of both."""

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from fastapi import Request

from caldarium.core.log.learned import Teaching, teach
from caldarium.core.log.right import Low, Outcome, lows, outcomes
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
    teaching: Teaching
    outcomes: Sequence[Outcome]
    lows: Sequence[Low]

    @property
    def course(self) -> Course:
        """The plan as it stands."""
        return self.held.course


def logged(request: Request, number: int) -> Logged:
    """A course with its log, computed from the last time where neither has changed."""
    known: dict[int, Logged] = request.app.state.logged
    held, log = courses_of(request).get(number), logs_of(request).of(number)
    found = known.get(number)
    if found is not None and found.held.mark == held.mark and found.log == log:
        if found.held == held:
            return found
        # Undone and done again: the same plan, with other steps about it.
        found = Logged(held, log, found.teaching, found.outcomes, found.lows)
    else:
        teaching = teach(held.course, log)
        found = Logged(held, log, teaching, outcomes(teaching), lows(teaching))
    known[number] = found
    while len(known) > KEPT:
        known.pop(next(iter(known)), None)
    return found


def now_entry(by: str, event: Event) -> Entry:
    """Something told at this moment from a form."""
    return Entry(
        token=secrets.token_hex(16), at=datetime.now(UTC), by=by[:120].strip(), event=event
    )
