"""Whether a line of a list is asked on a course at all."""

from dataclasses import dataclass
from datetime import timedelta

import numpy as np

from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.gear_list import When
from caldarium.core.timeline.moments import Timeline


@dataclass(frozen=True)
class Ground:
    """What conditions of lists look at: snow, a glacier or a river on the way, highest place [m],
    lowest air that is forecast [°C], months, nights and people."""

    snow: bool
    glacier: bool
    river: bool
    highest_m: float
    coldest_c: float
    months: frozenset[int]
    nights: int
    people: int


def ground_of(course: Course, timeline: Timeline) -> Ground:
    """What conditions of lists look at on a course.

    Source: the course's own plan and forecast.
    """
    legs = [leg for day in course.days for leg in day.legs]
    camps = [day.camp for day in course.days if day.camp is not None]
    heights = [course.start_altitude_m, *(leg.to_altitude_m for leg in legs)]
    heights += [point[1] for leg in legs for point in leg.points]
    dates = [course.start + timedelta(days=at) for at in range(len(course.days))]
    return Ground(
        any(leg.on_snow for leg in legs) or any(camp.ground == "snow" for camp in camps),
        any(leg.glacier for leg in legs),
        any(leg.river for leg in legs),
        max(heights),
        float(np.min(timeline.hours.forecast, initial=np.inf)),
        frozenset(each.month for each in dates),
        len(camps),
        len(course.people),
    )


def applies(when: When, ground: Ground) -> bool:
    """Whether all that is said of a line is so; ages are asked of people by themselves.

    Source: the list's own word.
    """
    return (
        (not when.snow or ground.snow)
        and (not when.glacier or ground.glacier)
        and (not when.river or ground.river)
        and (when.above_m is None or ground.highest_m > when.above_m)
        and (when.below_c is None or ground.coldest_c < when.below_c)
        and (not when.months or bool(ground.months.intersection(when.months)))
        and ground.nights >= when.nights
        and ground.people >= when.people
    )


def of_age(when: When, person: Person) -> bool:
    """Whether a line is asked of somebody of that age; whose age nobody said is taken for grown up.

    Source: the list's own word.
    """
    if when.younger_than is None:
        return True
    return person.age is not None and person.age < when.younger_than
