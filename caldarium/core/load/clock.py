"""When a day's walking and meals are, on the course's clock."""

from dataclasses import dataclass

from caldarium.core.timeline.moments import Timeline

BREAKFAST_BEFORE = 0.5
"""Breakfast is eaten, and the morning's fuel burnt, so long before the first leg [h]: judgement."""
COOKED_AFTER = 1.0
"""Dinner is eaten, and fuel burnt, so long after camp is reached [h]: judgement."""


@dataclass(frozen=True)
class DayHours:
    """First start, last end of walking, breakfast and dinner of a day [h on the course's clock]."""

    first: float
    last: float
    breakfast: float
    dinner: float


def day_hours(timeline: Timeline) -> list[DayHours]:
    """When each day's walking and meals are. Source: the plan; the constants are judgement."""
    found: list[DayHours] = []
    for day, legs in enumerate(timeline.stages):
        first = 24 * day + (legs[0].start if legs else 9.0)
        last = 24 * day + (legs[-1].end if legs else 17.0)
        found.append(DayHours(first, last, first - BREAKFAST_BEFORE, last + COOKED_AFTER))
    return found


def leg_end(timeline: Timeline, day: int, leg: str) -> float:
    """When a leg ends, on the course's clock [h]. Source: the course's own plan."""
    return 24 * day + next(each.end for each in timeline.stages[day] if each.leg.id == leg)
