"""Cautions that follow from a course's plan, each with its day."""

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from caldarium.core.plan.course import Course
from caldarium.core.plan.findings import Finding
from caldarium.core.timeline.moments import Timeline

SLEEPING_FROM, SLEEPING_STEP = 3000.0, 500.0
"""Height from which sleeping height should not rise by more than a step a night [m].

Source: Luks et al. (2019), Wilderness Medical Society practice guidelines for the prevention and
treatment of acute altitude illness, Wilderness Environ. Med. 30(4S)."""
FIRST_NIGHT = 2800.0
"""First night's height from which that guideline calls the risk moderate [m]."""
DARK_WALK = 0.25
"""Time of walking outside civil twilight that is worth a word [h]: judgement."""


CautionReason = Literal["first night high", "sleeping height", "dark", "river", "lightning"]
"""Figures: first night and start [m]; gain and height [m]; hours in the dark, start and end of the
walk [h]. Names: the leg."""


@dataclass(frozen=True)
class Caution:
    """A caution for one day of a course (from 0)."""

    day: int
    why: Finding[CautionReason]


def cautions(course: Course, timeline: Timeline) -> list[Caution]:
    """Altitude, darkness, rivers and lightning in the order of the days.

    Args:
        course: the plan.
        timeline: its hours.

    Returns:
        The cautions. None means that nothing here was found, not that the day is safe.

    Source: each reason has its own in words.cautions.
    """
    found = [*_altitude(course), *_dark(timeline), *_marked(course)]
    return sorted(found, key=lambda each: each.day)


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
