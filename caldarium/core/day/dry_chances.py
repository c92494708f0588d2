"""Where on the way somebody's wet things dry: on the body, laid out, in a hut, in a shelter, in
bed."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np

from caldarium.core.day.states import MomentState
from caldarium.core.day.wet_track import Nights, aside, in_huts
from caldarium.core.day.wetness import DRYING_ASIDE, DRYING_IN_HUT
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Moment, Timeline

How = Literal["on the body", "laid out", "in a hut", "in a shelter", "overnight", "hut overnight"]
COUNTS_FROM = 0.05
"""Wetness lost from which drying is spoken of, as a share of soaked: judgement."""


@dataclass(frozen=True)
class Dried:
    """A piece that dries: its id, and wetness before and after [share of soaked]."""

    piece: str
    before: float
    after: float


@dataclass(frozen=True)
class Chance:
    """A time at which things dry: the moment, for a night the one it follows; how, for how long
    [h], what is lost then by things that nobody wears [g/(h m²)], and pieces that get drier."""

    moment: str
    how: How
    hours: float
    rate: float
    pieces: tuple[Dried, ...]


def dry_chances(
    course: Course,
    timeline: Timeline,
    person: Person,
    states: Sequence[MomentState],
    day: int,
) -> list[Chance]:
    """When somebody's things dry on one day and in the night after it.

    Args:
        course, timeline, person: whose.
        states: what was found for them, in order.
        day: from 0.

    Returns:
        In order of time; only where something gets drier.

    Source: differences of the wetness that the assessment found.
    """
    moments = {m.id: m for m in timeline.moments}
    planned = [s for s in states if not moments[s.moment].fold and s.day in (day, day + 1)]
    huts = in_huts(course, (person,))
    nights = Nights(np.zeros((1, 0), dtype=bool), huts)
    found: list[Chance] = []
    for before, after in pairwise(planned):
        if before.day != day:
            break
        moment = moments[after.moment]
        pieces = _drier(before, after)
        worn = tuple(each for each in pieces if each.piece in after.worn)
        if after.day != day:
            hut = bool(nights.in_hut(day)[0])
            hours = moment.start - moments[before.moment].end
            rate = DRYING_IN_HUT if hut else DRYING_ASIDE
            how: How = "hut overnight" if hut else "overnight"
            found.append(Chance(before.moment, how, hours, rate, pieces))
            continue
        found.append(Chance(moment.id, "on the body", moment.hours, 0.0, worn))
        rate = float(aside([moment], nights)[0, 0])
        rest = tuple(each for each in pieces if each.piece not in after.worn)
        found.append(Chance(moment.id, _how(moment, nights, rate), moment.hours, rate, rest))
    return [each for each in found if each.pieces]


def _drier(before: MomentState, after: MomentState) -> tuple[Dried, ...]:
    pairs = [(name, wet, after.wet.get(name, 0.0)) for name, wet in before.wet.items()]
    return tuple(Dried(*each) for each in pairs if each[1] - each[2] >= COUNTS_FROM)


def _how(moment: Moment, nights: Nights, rate: float) -> How:
    night = moment.day - 1 if moment.kind == "dawn" else moment.day
    if moment.kind not in ("camp", "dawn"):
        return "laid out"
    if bool(nights.in_hut(night)[0]) and rate <= DRYING_IN_HUT:
        return "in a hut"
    return "laid out" if rate > DRYING_ASIDE else "in a shelter"
