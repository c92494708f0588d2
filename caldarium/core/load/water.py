"""Water on the way: where bottles are filled, what is in them, and where nothing is left."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.load.clock import day_hours, leg_end
from caldarium.core.load.drinking import DRINKS, boiled_on, drunk_by
from caldarium.core.load.once import once
from caldarium.core.load.supplies import BURNT_AT_DAWN, fuel_account
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import MOST_WATER_L, Course, Person
from caldarium.core.timeline.moments import Timeline

LOOKED_AT = 0.125
"""Hours between the times at which bottles are looked at."""
COOKING = 0.5
"""Time over which a meal's water is taken [h]: judgement."""
LEAST_DRY = 0.15
"""Water missing on a stretch below which it is not worth a word [L]: judgement, a mouthful at each
of a few halts."""


@dataclass(frozen=True)
class Filling:
    """Where bottles are filled [h on the course's clock]: as planned; or from a cache, by no more
    than so many litres a head and as far as the bottles hold it; or only to a share where fuel to
    melt snow for the rest was missing."""

    at: float
    at_most_l: float = float("inf")
    share: float = 1.0


@once
def fillings(course: Course, timeline: Timeline) -> list[Filling]:
    """Where bottles are filled: at the start, in camps with water or with snow to melt, where legs
    say so, and from caches that hold water.

    Source: the course's own marks; melting by core.load.supplies.
    """
    hours = day_hours(timeline)
    found = [Filling(hours[0].first)]
    for day, legs in enumerate(timeline.stages):
        found += [Filling(24 * day + each.end) for each in legs if each.leg.water]
        camp = course.days[day].camp
        if camp is None or day + 1 == len(hours):
            continue
        if camp.water:
            found += [Filling(hours[day].last), Filling(hours[day + 1].first)]
        elif camp.melts:
            found.append(Filling(hours[day + 1].first, share=_melted(course, timeline, day)))
    found += [
        Filling(leg_end(timeline, cache.day, cache.leg), at_most_l=cache.water_l)
        for cache in course.caches
        if cache.water_l > 0
    ]
    return sorted(found, key=lambda each: each.at)


def _melted(course: Course, timeline: Timeline, day: int) -> float:
    """Share of an evening's melting for which there is fuel."""
    dinner = day_hours(timeline)[day].dinner
    around = np.array([dinner - 1e-6, dinner])
    party = fuel_account(course, (), timeline, around).party
    asked, used = (float(each[0, 1] - each[0, 0]) for each in (party.asked, party.used))
    return used / asked if asked > 0 else 1.0


@dataclass(frozen=True)
class Bottles:
    """What is in people's bottles over time, and what they would have drunk so far beyond that
    [L, P x T]."""

    left: Array
    missing: Array


def bottles(course: Course, people: Sequence[Person], timeline: Timeline, times: Array) -> Bottles:
    """Water carried, and missed.

    Args:
        course, people, timeline: the plan.
        times: on the course's clock [h, T].

    Source: fillings; core.load.drinking.
    """
    points, total = _taken(course, timeline)
    full = np.array([person.filled_l for person in people])[:, None]
    holds = [np.inf if each.containers_l is None else each.containers_l for each in people]
    holds = np.maximum(np.array(holds)[:, None], full)
    drunk = np.interp(times, points, total)[None, :]
    left = np.maximum(full - drunk, 0.0)
    missing = np.maximum(drunk - full, 0.0)
    level, missed, since = full, np.zeros(full.shape), 0.0
    for fill in fillings(course, timeline):
        so_far = float(np.interp(fill.at, points, total))
        wanted = so_far - since
        missed = missed + np.maximum(wanted - level, 0.0)
        level = np.maximum(level - wanted, 0.0)
        brim = holds if np.isfinite(fill.at_most_l) else full * fill.share
        level = np.maximum(level, np.minimum(brim, level + fill.at_most_l))
        since = so_far
        here = times >= fill.at - 1e-9
        after = drunk[:, here] - so_far
        left[:, here] = np.maximum(level - after, 0.0)
        missing[:, here] = missed + np.maximum(after - level, 0.0)
    return Bottles(left, missing)


@dataclass(frozen=True)
class Dry:
    """A stretch on which somebody has nothing left to drink: start and end [h on the course's
    clock], and what is missing over it [L]."""

    start: float
    end: float
    litres: float


@once
def _taken(course: Course, timeline: Timeline) -> tuple[list[float], list[float]]:
    """What a head takes out of bottles so far: times in order [h], and litres by then. At a camp
    with neither water nor snow what is boiled comes out of them too."""
    planned = [each for each in timeline.moments if not each.fold and each.kind in DRINKS]
    taken = [
        (moment.start, moment.end, rate * moment.hours)
        for moment, rate in zip(planned, drunk_by(planned).tolist(), strict=True)
    ]
    hours = day_hours(timeline)
    for day, camp in enumerate(each.camp for each in course.days):
        if camp is None or camp.water or camp.melts or day + 1 == len(hours):
            continue
        dinner, breakfast = hours[day].dinner, hours[day + 1].breakfast
        boiled = boiled_on(course, timeline, day)
        taken.append((dinner, dinner + COOKING, boiled * (1 - BURNT_AT_DAWN)))
        taken.append((breakfast - COOKING, breakfast, boiled * BURNT_AT_DAWN))
    points, total = [0.0], [0.0]
    for start, end, litres in sorted(taken):
        points += [max(start, points[-1]), max(end, points[-1])]
        total += [total[-1], total[-1] + litres]
    return points, total


def dry_stretches(
    course: Course, people: Sequence[Person], timeline: Timeline
) -> list[tuple[Dry, ...]]:
    """Stretches on which people have nothing left to drink, by person.

    Args:
        course, people, timeline: the plan.

    Source: bottles; LEAST_DRY.
    """
    awake = [each for each in timeline.moments if not each.fold and each.kind in DRINKS]
    if not awake:
        return [() for _ in people]
    times = np.arange(awake[0].start, 24.0 * len(course.days) + LOOKED_AT, LOOKED_AT)
    missing = bottles(course, people, timeline, times).missing
    found: list[tuple[Dry, ...]] = []
    for row in missing:
        mine: list[Dry] = []
        for at in np.flatnonzero(np.diff(row) > 1e-9).tolist():
            more, start, end = float(row[at + 1] - row[at]), float(times[at]), float(times[at + 1])
            if mine and start - mine[-1].end < 2 * LOOKED_AT:
                last = mine.pop()
                mine.append(Dry(last.start, end, last.litres + more))
            else:
                mine.append(Dry(start, end, more))
        found.append(tuple(each for each in mine if each.litres >= LEAST_DRY))
    return found


def water_wanted(person: Person, stretches: Sequence[Dry]) -> float:
    """Water that somebody would fill so as never to run out [L], to the next half litre and no
    more than anybody fills.

    Source: what is filled and what is missing on the worst stretch.
    """
    most = max((each.litres for each in stretches), default=0.0)
    return min(-(-(person.filled_l + most) // 0.5) * 0.5, MOST_WATER_L)
