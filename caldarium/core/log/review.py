"""A course's log gone through once: what it teaches, what came, what is left to be said."""

from collections.abc import Sequence
from dataclasses import dataclass

from caldarium.core.log.debrief import Debrief, debrief
from caldarium.core.log.learned import Teaching, teach
from caldarium.core.log.right import Low, Outcome, lows, outcomes
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Log


@dataclass(frozen=True)
class Review:
    """What follows from a log: what it teaches, its nights and moments against the plan, lows
    against the forecast, and the debrief."""

    teaching: Teaching
    outcomes: Sequence[Outcome]
    lows: Sequence[Low]
    debrief: Debrief


def review(course: Course, log: Log) -> Review:
    """Go through a log. Source: core.log.learned, core.log.right, core.log.debrief."""
    teaching = teach(course, log)
    came = outcomes(teaching)
    return Review(teaching, came, lows(teaching), debrief(teaching, came))
