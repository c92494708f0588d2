"""The load hour by hour: what is worn, carried, eaten, burnt, drunk, filled and wet.

When people eat, drink and burn fuel is judgement, named here; the sums are sums.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.load.drinking import DRINKS, drunk_by
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Moment, Timeline

BREAKFAST, ON_THE_WAY = 0.25, 0.35
"""Shares of a day's food eaten before setting out and while walking; the rest is eaten in camp:
judgement."""
COOKED_AFTER = 1.0
"""Dinner is eaten, and fuel burnt, so long after camp is reached [h]: judgement."""
BURNT_AT_DAWN = 0.4
"""Share of a day's fuel burnt in the morning: judgement."""
WET_AFTER_RAIN, WET_AFTER_DAMP = 0.25, 0.08
"""Water a shelter carries on from a night of rain, and from a damp one, over its mass: judgement.
"""
RAIN_NIGHT, DAMP_NIGHT = 1.0, 90.0
"""Rain in a night [mm], and its mean humidity [%], from which that is so: judgement."""


@dataclass(frozen=True)
class Rations:
    """The course's own clock of food, fuel and water over T times: days of food and fuel not yet
    eaten or burnt; days of both that still wait in caches; litres drunk since the last filling;
    and wetness of shelters as a share of their mass."""

    food: Array
    fuel: Array
    waiting: Array
    drunk: Array
    wet: Array


def _steps(timeline: Timeline) -> list[tuple[float, float, float]]:
    """First start, last end of walking, and dinner of each day [h on the course's clock]."""
    found: list[tuple[float, float, float]] = []
    for day, legs in enumerate(timeline.stages):
        first = 24 * day + (legs[0].start if legs else 9.0)
        last = 24 * day + (legs[-1].end if legs else 17.0)
        found.append((first, last, last + COOKED_AFTER))
    return found


def rations(course: Course, timeline: Timeline, times: Array) -> Rations:
    """Food, fuel, water and wet shelters at some times of the course.

    Args:
        course: for its caches and water points.
        timeline: for its legs and nights.
        times: on the course's clock [h, T].

    Source: judgement, see the constants.
    """
    days = len(course.days)
    food, fuel = np.full(times.shape, float(days)), np.full(times.shape, float(days))
    for first, last, dinner in _steps(timeline):
        walked = np.clip((times - first) / max(last - first, 1e-6), 0.0, 1.0)
        food -= BREAKFAST * (times >= first - 0.5) + ON_THE_WAY * walked
        food -= (1 - BREAKFAST - ON_THE_WAY) * (times >= dinner)
        fuel -= BURNT_AT_DAWN * (times >= first - 0.5) + (1 - BURNT_AT_DAWN) * (times >= dinner)
    waiting = np.zeros(times.shape)
    for cache in course.caches:
        waiting += cache.rations * (times < leg_end(timeline, cache.day, cache.leg))
    return Rations(
        food=food,
        fuel=fuel,
        waiting=np.minimum(waiting, np.minimum(food, fuel)),
        drunk=_drunk(course, timeline, times),
        wet=_wet(course, timeline, times),
    )


def leg_end(timeline: Timeline, day: int, leg: str) -> float:
    """When a leg ends, on the course's clock [h]. Source: the course's own plan."""
    return 24 * day + next(each.end for each in timeline.stages[day] if each.leg.id == leg)


def away(
    people: Sequence[Person], timeline: Timeline, times: Array, *, only_apart: bool = False
) -> list[dict[str, Array]]:
    """What waits in drop bags for its owner or was left in one, by person and purpose [kg, T].

    Args:
        people: P of them.
        timeline: for its legs.
        times: on the course's clock [h, T].
        only_apart: only teaching and camera kit.

    Source: the course's own plan.
    """
    found: list[dict[str, Array]] = []
    for person in people:
        own: dict[str, Array] = {}
        for item in person.items:
            if (item.waits_at or item.left_at) is None or (only_apart and not item.apart):
                continue
            gone = np.zeros(times.shape, dtype=bool)
            if item.waits_at is not None:
                gone |= times < leg_end(timeline, item.waits_at.day, item.waits_at.leg)
            if item.left_at is not None:
                gone |= times >= leg_end(timeline, item.left_at.day, item.left_at.leg)
            if gone.any():
                before = own.get(item.purpose, np.zeros(times.shape))
                own[item.purpose] = before + gone * item.mass_g / 1000
        if not only_apart:
            waits = _bed_away(person, timeline, times)
            if waits.any():
                own["sleep"] = own.get("sleep", np.zeros(times.shape)) + waits
        found.append(own)
    return found


def _bed_away(person: Person, timeline: Timeline, times: Array) -> Array:
    """What waits of a person's own bed while they sleep in another [kg, T]: until they are back at
    it in camp."""
    found = np.zeros(times.shape)
    for day, (_, last, _) in enumerate(_steps(timeline)):
        other = person.bed_without_own(day)
        if other is not None:
            there = {part.id for part in other.parts}
            mass = sum(part.mass_g for part in person.own_bed.parts if part.id not in there)
            mass += 0.0 if other.bedding.cot_g else person.bedding.cot_g
            plan = person.plan_of(day)
            still = plan is not None and plan.bed is not None and plan.bed.own_waits
            end = 24.0 * (day + 1) if still else last
            found = np.where((times >= 24.0 * day) & (times < end), mass / 1000, found)
    return found


def filled(person: Person) -> float:
    """Water somebody sets out with: what is planned, as far as the bottles hold it [L].

    Source: none, arithmetic.
    """
    holds = person.containers_l
    return person.water_l if holds is None else min(person.water_l, holds)


def filling_times(course: Course, timeline: Timeline) -> list[float]:
    """When bottles are filled: at the start, leaving camps with water, where legs say so [h].

    Source: the course's own marks.
    """
    steps = _steps(timeline)
    found = [steps[0][0]]
    for day, legs in enumerate(timeline.stages):
        found += [24 * day + each.end for each in legs if each.leg.water]
        camp = course.days[day].camp
        if camp is not None and camp.water and day + 1 < len(steps):
            found += [steps[day][1], steps[day + 1][0]]
    return sorted(found)


def _drunk(course: Course, timeline: Timeline, times: Array) -> Array:
    """Litres drunk since the last filling [T]."""
    planned = [each for each in timeline.moments if not each.fold and each.kind in DRINKS]
    points = [0.0]
    total = [0.0]
    for moment, rate in zip(planned, drunk_by(planned).tolist(), strict=True):
        points += [max(moment.start, points[-1]), max(moment.end, points[-1])]
        total += [total[-1], total[-1] + rate * moment.hours]
    so_far = np.interp(times, points, total)
    fills = np.array(filling_times(course, timeline))
    place = np.searchsorted(fills, times + 1e-9, side="right") - 1
    at_fill = np.interp(fills, points, total)
    return so_far - np.where(place >= 0, at_fill[np.maximum(place, 0)], 0.0)


def _wet(course: Course, timeline: Timeline, times: Array) -> Array:
    """Wetness of shelters by time, as a share of their mass [T]: until the next camp dries it."""
    hours = timeline.hours
    steps = _steps(timeline)
    found = np.zeros(times.shape)
    for night in (each for each in timeline.moments if each.kind == "night"):
        here = (hours.hour >= night.start) & (hours.hour <= night.end)
        rain = float(hours.precipitation[here].sum())
        damp = float(hours.humidity[here].mean()) if here.any() else 0.0
        share = WET_AFTER_RAIN if rain >= RAIN_NIGHT else WET_AFTER_DAMP * (damp >= DAMP_NIGHT)
        if night.day + 1 < len(steps):
            first, last, _ = steps[night.day + 1]
            found = np.where((times >= first - 0.5) & (times <= last), share, found)
    return found


@dataclass(frozen=True)
class Backs:
    """What P people have on and on their backs over T times [kg, P x T]; kept never changes.

    total of everything but what waits in caches and drop bags; food and fuel together, water, and
    water in shelters; eaten and burnt so far, what waits in caches, and away in drop bags.
    """

    kept: Array
    provisions: Array
    water: Array
    wet: Array
    used: Array
    waiting: Array
    away: Array

    @property
    def total(self) -> Array:
        """Skin out [kg]."""
        return self.kept[:, None] + self.provisions + self.water + self.wet - self.away


def backs(
    course: Course,
    people: Sequence[Person],
    timeline: Timeline,
    times: Array,
    kept_g: Array,
    shelter_g: Array,
) -> Backs:
    """What people carry and wear at some times.

    Args:
        course, people, timeline: the plan.
        times: on the course's clock [h, T].
        kept_g: everything that is neither eaten nor drunk, by person [g].
        shelter_g: of that, parts of shelters, which get wet [g].

    Source: sums of weighed masses; when things are eaten, drunk and wet by rations.
    """
    clock = rations(course, timeline, times)
    food = np.array([[person.food_g_a_day] for person in people])
    fuel = np.array([[person.fuel_g_a_day] for person in people])
    fill = np.array([[filled(person)] for person in people])
    days = len(course.days)
    waiting = (food + fuel) * clock.waiting
    left = food * clock.food + fuel * clock.fuel
    return Backs(
        kept=kept_g / 1000,
        provisions=(left - waiting) / 1000,
        water=np.maximum(fill - clock.drunk, 0.0),
        wet=shelter_g[:, None] * clock.wet / 1000,
        used=((food + fuel) * days - left) / 1000,
        waiting=waiting / 1000,
        away=np.array(
            [sum(own.values(), np.zeros(times.shape)) for own in away(people, timeline, times)]
        ).reshape(len(people), len(times)),
    )


def dry_stretches(
    course: Course, person: Person, timeline: Timeline
) -> list[tuple[float, float, float]]:
    """Stretches on which somebody has nothing left to drink.

    Args:
        course, person, timeline: the plan.

    Returns:
        Start and end on the course's clock [h], and what is missing by the end [L].

    Source: core.load.drinking.
    """
    fill = filled(person)
    awake = [m for m in timeline.moments if not m.fold and m.kind in DRINKS]
    if not awake:
        return []
    times = np.arange(awake[0].start, awake[-1].end + 0.125, 0.125)
    drunk = rations(course, timeline, times).drunk
    dry = (drunk > fill + 1e-9) & _walking(awake, times)
    found: list[tuple[float, float, float]] = []
    for at in np.flatnonzero(dry).tolist():
        missing = float(drunk[at] - fill)
        if found and times[at] - found[-1][1] < 0.3:
            found[-1] = (found[-1][0], float(times[at]), missing)
        else:
            found.append((float(times[at]), float(times[at]), missing))
    return found


def _walking(awake: Sequence[Moment], times: Array) -> Flags:
    inside = np.zeros(times.shape, dtype=bool)
    for moment in awake:
        inside |= (times >= moment.start) & (times < moment.end)
    return inside
