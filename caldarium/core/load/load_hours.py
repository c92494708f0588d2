"""The load hour by hour: what is worn, carried, eaten, burnt, drunk, filled and wet.

When people eat, drink and burn fuel is judgement, named here; the sums are sums.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.load.clock import day_hours, leg_end
from caldarium.core.load.supplies import food_account, fuel_account
from caldarium.core.load.water import bottles
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment, Item, LegEnd
from caldarium.core.timeline.moments import Timeline

WET_AFTER_RAIN, WET_AFTER_DAMP = 0.25, 0.08
"""Water a shelter carries on from a night of rain, and from a damp one, over its mass: judgement.
"""
RAIN_NIGHT, DAMP_NIGHT = 1.0, 90.0
"""Rain in a night [mm], and its mean humidity [%], from which that is so: judgement."""


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
        things = [
            (item.purpose, item.kept_g, *_ends(person.around(item)))
            for item in person.on_back
            if item.apart or not only_apart
        ]
        if not only_apart:
            things += [("warmth", each.mass_g, *_ends(each)) for each in person.garments]
        for purpose, grams, waits_at, left_at in things:
            if waits_at is not None or left_at is not None:
                gone = is_away(waits_at, left_at, timeline, times)
                before = own.get(purpose, np.zeros(times.shape))
                own[purpose] = before + gone * grams / 1000
        if not only_apart:
            waits = _bed_away(person, timeline, times)
            if waits.any():
                own["sleep"] = own.get("sleep", np.zeros(times.shape)) + waits
        found.append(own)
    return found


def _ends(piece: Item | Garment) -> tuple[LegEnd | None, LegEnd | None]:
    return piece.waits_at, piece.left_at


def is_away(
    waits_at: LegEnd | None, left_at: LegEnd | None, timeline: Timeline, times: Array
) -> Flags:
    """Times at which a thing waits for its owner or was left [T]: until it is fetched, where it
    was left before the place at which it waits.

    Source: the course's own plan.
    """
    waits, left = (
        None if end is None else leg_end(timeline, end.day, end.leg) for end in (waits_at, left_at)
    )
    not_yet = np.zeros(times.shape, dtype=bool) if waits is None else times < waits
    no_more = np.zeros(times.shape, dtype=bool) if left is None else times >= left
    if waits is not None and left is not None and left < waits:
        return not_yet & no_more
    return not_yet | no_more


def _bed_away(person: Person, timeline: Timeline, times: Array) -> Array:
    """What waits of a person's own bed while they sleep in another [kg, T]: until they are back at
    it in camp."""
    found = np.zeros(times.shape)
    for day, last in enumerate(each.last for each in day_hours(timeline)):
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


def _wet(timeline: Timeline, times: Array) -> Array:
    """Wetness of shelters by time, as a share of their mass [T]: until the next camp dries it."""
    hours = timeline.hours
    walked = day_hours(timeline)
    found = np.zeros(times.shape)
    for night in (each for each in timeline.moments if each.kind == "night"):
        here = (hours.hour >= night.start) & (hours.hour <= night.end)
        rain = float(hours.precipitation[here].sum())
        damp = float(hours.humidity[here].mean()) if here.any() else 0.0
        share = WET_AFTER_RAIN if rain >= RAIN_NIGHT else WET_AFTER_DAMP * (damp >= DAMP_NIGHT)
        if night.day + 1 < len(walked):
            carried = walked[night.day + 1]
            here = (times >= carried.breakfast) & (times <= carried.last)
            found = np.where(here, share, found)
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
        kept_g: everything that is neither eaten, burnt nor drunk, by person [g].
        shelter_g: of that, parts of shelters, which get wet [g].

    Source: sums of weighed masses; food, fuel and water by their accounts.
    """
    food = food_account(course, people, timeline, times)
    fuel = fuel_account(course, people, timeline, times)
    return Backs(
        kept=kept_g / 1000,
        provisions=(food.left + fuel.carried) / 1000,
        water=bottles(course, people, timeline, times).left,
        wet=shelter_g[:, None] * _wet(timeline, times) / 1000,
        used=(food.used + fuel.burnt) / 1000,
        waiting=(food.waiting + fuel.waiting) / 1000,
        away=np.array(
            [sum(own.values(), np.zeros(times.shape)) for own in away(people, timeline, times)]
        ).reshape(len(people), len(times)),
    )
