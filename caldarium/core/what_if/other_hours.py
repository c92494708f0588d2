"""Heat is often cured by the clock: setting out earlier, or resting through the middle of the day.

That people walk before dawn and rest in the shade at noon is common practice, no published source.
"""

from dataclasses import dataclass
from typing import Literal

from pydantic import ValidationError

from caldarium.core.assess import assess_people
from caldarium.core.plan.changes import set_leg
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import build_timeline

EARLIEST = 3.0
"""Nobody is asked to set out before this [h]: judgement."""
NOON_FROM, NOON_TO = 11.0, 16.0
"""The hours rested through in the shade: common practice, no published source."""


@dataclass(frozen=True)
class OtherHours:
    """A day at other hours: which leg begins when [h], and what is left of the day's hot and short
    moments for this person, holds apart."""

    kind: Literal["early", "rest"]
    leg: str
    start: float
    hot: int
    gaps: int


@dataclass(frozen=True)
class Found:
    """The day as planned, its hot and short moments, and the best other hours of each kind that
    leave fewer hot and no more short ones."""

    hot: int
    gaps: int
    others: tuple[OtherHours, ...]


def other_hours(course: Course, person: Person, day: int) -> Found:
    """Hours at which a hot day is less so.

    Args:
        course: the plan.
        person: whose day.
        day: from 0.

    Returns:
        What was found. The latest start before dawn that leaves least, and the rest.

    Source: the whole assessment, again for each start.
    """
    hot, gaps = _counts(course, person, day)
    stages = build_timeline(course).stages[day]
    walks = [stage for stage in stages if stage.walk is not None]
    if not walks or not hot:
        return Found(hot, gaps, ())
    tried: dict[str, list[OtherHours]] = {"early": [], "rest": []}
    first = walks[0]
    start = float(int(first.start - 0.01))
    while start >= EARLIEST:
        tried["early"].append(_at(course, person, day, "early", first.leg.id, start))
        if tried["early"][-1].hot == 0:
            break
        start -= 1
    for stage in walks:
        if stage.end > NOON_FROM and stage.start < NOON_TO:
            tried["rest"].append(_at(course, person, day, "rest", stage.leg.id, NOON_TO))
            break
    better = [
        min(found, key=lambda each: (each.hot, -each.start)) for found in tried.values() if found
    ]
    kept = (each for each in better if each.hot < hot and each.gaps <= gaps)
    return Found(hot, gaps, tuple(kept))


def _counts(course: Course, person: Person, day: int) -> tuple[int, int]:
    found = assess_people(course, (person,), build_timeline(course))[0]
    here = [each.state for each in found.moments if each.day == day and each.kind != "hold"]
    return here.count("hot"), here.count("gap")


def _at(
    course: Course,
    person: Person,
    day: int,
    kind: Literal["early", "rest"],
    leg: str,
    start: float,
) -> OtherHours:
    """The day with one leg begun at an hour; nothing gained where it does not fit."""
    try:
        hot, gaps = _counts(set_leg(course, day, leg, start_h=start), person, day)
    except ValidationError:
        hot = gaps = 10**6
    return OtherHours(kind, leg, start, hot, gaps)
