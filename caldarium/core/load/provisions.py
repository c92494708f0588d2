"""Energy: what the days take out of people, and what their food holds."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.day.states import MomentState
from caldarium.core.load.supplies import ration
from caldarium.core.night.nights import Night
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Timeline

KCAL_A_WH = 0.8598
RESTING_W = 80.0
"""Heat of somebody asleep where no night was judged [W]: judgement."""


@dataclass(frozen=True)
class DayNeed:
    """What one day takes: energy spent, eaten, and of that in what needs no stove [kcal], and
    food [g]."""

    day: int
    spent: float
    eaten: float
    ready: float
    grams: float


def day_needs(
    course: Course,
    timeline: Timeline,
    person: Person,
    states: Sequence[MomentState],
    nights: Sequence[Night],
) -> list[DayNeed]:
    """Energy of one person's days.

    Args:
        course, timeline: the plan.
        person: whose.
        states, nights: what was found for them.

    Source: the assessment's own metabolic rates over the hours; rations by core.load.supplies.
    """
    moments = {each.id: each for each in timeline.moments}
    made = [night.watts_made for night in nights]
    resting = float(np.mean(made)) if made else RESTING_W
    listed: list[DayNeed] = []
    for day in range(len(course.days)):
        awake = [state for state in states if state.day == day and not moments[state.moment].fold]
        hours = sum(moments[state.moment].hours for state in awake)
        work = sum(state.watts * moments[state.moment].hours for state in awake)
        spent = (work + resting * max(24.0 - hours, 0.0)) * KCAL_A_WH
        eaten = ration(course, person, day)
        listed.append(DayNeed(day, spent, eaten.kcal, eaten.ready_kcal, eaten.grams))
    return listed


def hungriest(needs: Sequence[DayNeed]) -> DayNeed:
    """The day that falls shortest in energy. Source: day_needs."""
    return max(needs, key=lambda each: each.spent - each.eaten)
