"""Cautions that follow from a course's plan, each with its day."""

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from caldarium.core.physics.heat import wet_bulb_globe
from caldarium.core.plan.course import Course
from caldarium.core.plan.findings import Finding
from caldarium.core.timeline.moments import Moment, Timeline

SLEEPING_FROM, SLEEPING_STEP = 3000.0, 500.0
"""Height from which sleeping height should not rise by more than a step a night [m].

Source: Luks et al. (2019), Wilderness Medical Society practice guidelines for the prevention and
treatment of acute altitude illness, Wilderness Environ. Med. 30(4S)."""
FIRST_NIGHT = 2800.0
"""First night's height from which that guideline calls the risk moderate [m]."""
DARK_WALK = 0.25
"""Time of walking outside civil twilight that is worth a word [h]: judgement."""


HEAT_FROM = 26.0
"""WBGT from which hard work wants rest and shade even of people used to heat [°C]. Source: ISO
7243:2017, reference value of a high metabolic rate; from memory."""


CautionReason = Literal["heat", "first night high", "sleeping height", "dark", "river", "lightning"]
"""Figures: WBGT and air [°C], start and end of the walk [h]; first night and start [m]; gain and
height [m]; hours in the dark, start and end of the walk [h]. Names: the leg."""


@dataclass(frozen=True)
class Caution:
    """A caution for one day of a course (from 0)."""

    day: int
    why: Finding[CautionReason]


def cautions(course: Course, timeline: Timeline) -> list[Caution]:
    """Heat, altitude, darkness, rivers and lightning in the order of the days.

    Args:
        course: the plan.
        timeline: its hours.

    Returns:
        The cautions. None means that nothing here was found, not that the day is safe.

    Source: each reason has its own in words.cautions.
    """
    found = [*_heat(course, timeline), *_altitude(course), *_dark(timeline), *_marked(course)]
    return sorted(found, key=lambda each: each.day)


def _heat(course: Course, timeline: Timeline) -> list[Caution]:
    """The hottest walk of each day on the warm side of the forecast."""
    worst: dict[int, tuple[float, Moment]] = {}
    for moment in timeline.moments:
        if moment.kind == "moving":
            index = float(wet_bulb_globe(moment.warm.air, moment.warm.humidity))
            if index >= HEAT_FROM and index > worst.get(moment.day, (0.0, moment))[0]:
                worst[moment.day] = index, moment
    names = {leg.id: leg.title or leg.kind for day in course.days for leg in day.legs}
    return [
        Caution(
            day,
            Finding(
                "heat",
                (names.get(moment.leg, moment.leg),),
                (index, moment.warm.air, moment.start, moment.end),
            ),
        )
        for day, (index, moment) in worst.items()
    ]


def _altitude(course: Course) -> list[Caution]:
    nights = [
        end for day, end in zip(course.days, course.ends, strict=True) if day.camp is not None
    ]
    found: list[Caution] = []
    if nights and nights[0] >= FIRST_NIGHT and course.start_altitude_m < 1200:
        heights = (nights[0], course.start_altitude_m)
        found.append(Caution(0, Finding("first night high", figures=heights)))
    for day, (before, after) in enumerate(pairwise(nights), 1):
        gain = after - max(before, SLEEPING_FROM - SLEEPING_STEP)
        if after > SLEEPING_FROM and gain > SLEEPING_STEP:
            found.append(Caution(day, Finding("sleeping height", figures=(after - before, after))))
    return found


def _dark(timeline: Timeline) -> list[Caution]:
    return [
        Caution(
            moment.day,
            Finding("dark", figures=(moment.dark_hours, moment.start, moment.end)),
        )
        for moment in timeline.moments
        if moment.kind == "moving" and moment.dark_hours > DARK_WALK
    ]


def _marked(course: Course) -> list[Caution]:
    found: list[Caution] = []
    for day, each in enumerate(course.days):
        for leg in each.legs:
            name = (leg.title or leg.kind,)
            if leg.river:
                found.append(Caution(day, Finding("river", name)))
            if leg.lightning:
                found.append(Caution(day, Finding("lightning", name)))
    return found
