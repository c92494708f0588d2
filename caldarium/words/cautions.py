"""Cautions that follow from a course's plan, each with its day and its source."""

from dataclasses import dataclass
from itertools import pairwise

from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import Timeline
from caldarium.words.units import Display, clock_text, hours_text

SLEEPING_FROM, SLEEPING_STEP = 3000.0, 500.0
"""Height from which sleeping height should not rise by more than a step a night [m].

Source: Luks et al. (2019), Wilderness Medical Society practice guidelines for the prevention and
treatment of acute altitude illness, Wilderness Environ. Med. 30(4S)."""
FIRST_NIGHT = 2800.0
"""First night's height from which that guideline calls the risk moderate [m]."""
DARK_WALK = 0.25
"""Time of walking outside civil twilight that is worth a word [h]: judgement."""


@dataclass(frozen=True)
class Caution:
    """A caution for one day of a course (from 0)."""

    day: int
    words: str
    source: str


def cautions(course: Course, timeline: Timeline, display: Display) -> list[Caution]:
    """Altitude, darkness, rivers and lightning in the order of the days.

    Args:
        course: the plan.
        timeline: its hours.
        display: units for the words.

    Returns:
        The cautions. None means that nothing here was found, not that the day is safe.

    Source: each names its own.
    """
    found = [*_altitude(course, display), *_dark(timeline), *_marked(course)]
    return sorted(found, key=lambda each: each.day)


def _altitude(course: Course, display: Display) -> list[Caution]:
    source = "Wilderness Medical Society guidelines, Luks et al. 2019; medical advice goes first"
    nights = [
        end for day, end in zip(course.days, course.ends, strict=True) if day.camp is not None
    ]
    found: list[Caution] = []
    if nights and nights[0] >= FIRST_NIGHT and course.start_altitude_m < 1200:
        words = (
            f"First night at {display.altitude(nights[0])} straight from "
            f"{display.altitude(course.start_altitude_m)}: sleep lower first, or allow days."
        )
        found.append(Caution(0, words, source))
    for day, (before, after) in enumerate(pairwise(nights), 1):
        gain = after - max(before, SLEEPING_FROM - SLEEPING_STEP)
        if after > SLEEPING_FROM and gain > SLEEPING_STEP:
            words = (
                f"Sleeping height rises by {display.altitude(after - before)} to "
                f"{display.altitude(after)}: above {display.altitude(SLEEPING_FROM)} no more than "
                f"{display.altitude(SLEEPING_STEP)} a night, and a rest day every three or four."
            )
            found.append(Caution(day, words, source))
    return found


def _dark(timeline: Timeline) -> list[Caution]:
    return [
        Caution(
            moment.day,
            f"Moving in the dark for {hours_text(moment.dark_hours)}, from "
            f"{clock_text(moment.start)} to {clock_text(moment.end)}: lights at hand.",
            "civil twilight by place and date (astral)",
        )
        for moment in timeline.moments
        if moment.kind == "moving" and moment.dark_hours > DARK_WALK
    ]


def _marked(course: Course) -> list[Caution]:
    found: list[Caution] = []
    for day, each in enumerate(course.days):
        for leg in each.legs:
            name = leg.title or leg.kind
            if leg.river:
                words = (
                    f"River crossing on {name}: look at it before the group stands in it, keep an "
                    "escape, pack undone, dry layers on the far side; rain and afternoon melt "
                    "raise it."
                )
                found.append(Caution(day, words, "marked by you; common practice"))
            if leg.lightning:
                words = (
                    f"Lightning on {name}: plan to be off it before storms build, know the way "
                    "down; leave ridges, lone trees and water at the first thunder."
                )
                found.append(Caution(day, words, "marked by you; common practice"))
    return found
