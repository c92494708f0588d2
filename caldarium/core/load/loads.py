"""Load: what is worn, what is carried, and what is eaten and burnt on the way."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from caldarium.core.load.load_hours import Backs, away, backs
from caldarium.core.load.supplies import Shortage, food_shortages
from caldarium.core.load.water import Dry, bottles, dry_stretches
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.group_kit import group_grams, units
from caldarium.core.plan.kit import WARMER_G, Helper, Purpose
from caldarium.core.timeline.moments import Moment, Timeline

PURPOSES: tuple[Purpose, ...] = (
    "warmth",
    "sleep",
    "shelter",
    "safety",
    "food and water",
    "group",
    "comfort",
)
Standing = Literal["within budget", "over budget", "over the limit"]
BEFORE_BREAKFAST = 0.75
"""How long before the first leg a day's load is told, with the whole day's food in it [h]."""


@dataclass(frozen=True)
class Load:
    """Masses of one person [kg]. `by_day` is setting out in the morning, consumables included.

    kept is what is neither eaten nor drunk, by purpose; worn what is on the body on the first walk;
    apart teaching and camera kit on the back, by purpose and hour. By hour of the course: worn
    clothes, food and fuel, water to drink, water in the shelter; eaten and burnt so far, and what
    waits in caches; away what is in drop bags of kept, by purpose; when water and food run
    out. budget and limit are of the
    whole, skin out.
    """

    worn: float
    carried: float
    consumed_a_day: float
    by_day: tuple[float, ...]
    by_purpose: tuple[dict[str, float], ...]
    body_mass: float
    kept: dict[str, float]
    apart: dict[str, tuple[float, ...]]
    budget: float
    limit: float
    hour: tuple[float, ...]
    worn_by_hour: tuple[float, ...]
    provisions: tuple[float, ...]
    water: tuple[float, ...]
    wet: tuple[float, ...]
    used: tuple[float, ...]
    waiting: tuple[float, ...]
    away: dict[str, tuple[float, ...]]
    dry: tuple[Dry, ...]
    hungry: tuple[Shortage, ...]

    @property
    def share_of_body(self) -> float:
        """First morning's load over body mass."""
        return self.by_day[0] / self.body_mass

    @property
    def by_hour(self) -> tuple[float, ...]:
        """Everything on body and back by hour, skin out [kg]."""
        return self.totals()

    def counted(self, purpose: str, *, worn: bool = True, apart: bool = True) -> tuple[float, ...]:
        """What counts of a purpose by hour, with or without what is worn, and with or without
        teaching and camera kit [kg]. Source: schools of accounting, common practice, no published
        source."""
        mass = np.full(len(self.hour), self.kept[purpose])
        if purpose == "food and water":
            mass += np.array(self.provisions) + np.array(self.water)
        elif purpose == "shelter":
            mass += np.array(self.wet)
        mass -= np.array(self.away.get(purpose, 0.0))
        if purpose == "warmth" and not worn:
            mass = np.maximum(mass - np.array(self.worn_by_hour), 0.0)
        return tuple((mass if apart else mass - np.array(self.apart.get(purpose, 0.0))).tolist())

    def totals(self, *, worn: bool = True, apart: bool = True) -> tuple[float, ...]:
        """The whole by hour by the schools chosen [kg]. Source: counted."""
        parts = [self.counted(purpose, worn=worn, apart=apart) for purpose in PURPOSES]
        return tuple(sum(each) for each in zip(*parts, strict=True))

    def standing(self, kilograms: float) -> Standing:
        """How a load stands against budget and limit. Source: the course's own figures."""
        if kilograms > self.limit:
            return "over the limit"
        return "over budget" if kilograms > self.budget else "within budget"


def part_grams(course: Course) -> dict[str, float]:
    """What each person carries of shelters that have parts, part by part [g].

    Source: sums of weighed masses; a part that nobody was given is split between the sleepers.
    """
    found = {person.id: 0.0 for person in course.people}
    for shelter in course.shelters:
        sleepers = [person.id for person in course.people if shelter.id in person.shelters]
        for part in shelter.parts:
            backs = [part.carried_by] if part.carried_by in found else sleepers
            for back in backs:
                found[str(back)] += part.mass_g / len(backs)
    return found


def shelter_share(course: Course, person: Person) -> float:
    """A person's part of the shelters [g]: parts given to them by hand, and an even share of the
    rest of the shelter they sleep in.

    Source: common practice, no published source.
    """
    found = 0.0
    names = {other.id for other in course.people}
    for shelter in course.shelters:
        given = [part for part in shelter.parts if part.carried_by in names]
        found += sum(part.mass_g for part in given if part.carried_by == person.id)
        if shelter.id in person.shelters:
            sleepers = sum(shelter.id in other.shelters for other in course.people)
            found += (shelter.mass_g - sum(part.mass_g for part in given)) / sleepers
    return found


def warmers_g(course: Course, person: Person) -> float:
    """A person's warmers for every night, carried out again when spent [g].

    Source: WARMER_G.
    """
    nights = (at for at, day in enumerate(course.days) if day.camp is not None)
    return WARMER_G * sum(person.bed_on(at).bedding.warmers for at in nights)


def kept_grams(course: Course, people: Sequence[Person]) -> list[dict[str, float]]:
    """Everything people carry or wear that is neither eaten nor drunk, by purpose [g].

    Source: sums of weighed masses.
    """
    of_group = group_grams(course)
    found: list[dict[str, float]] = []
    for person in people:
        base: dict[str, float] = {purpose: 0.0 for purpose in PURPOSES}
        base["warmth"] = sum(piece.mass_g for piece in person.garments)
        base["sleep"] = sum(part.mass_g for part in person.bed_parts) + person.cot_g
        base["sleep"] += warmers_g(course, person)
        base["shelter"] = shelter_share(course, person)
        for item in person.on_back:
            base[item.purpose] += item.kept_g
        for purpose, grams in of_group.get(person.id, {}).items():
            base[purpose] += grams
        found.append(base)
    return found


SLED_SHARE = 0.3
"""What of a sled's mass counts as on the back of whoever draws it: judgement; it slides."""


@dataclass(frozen=True)
class HelperLoad:
    """What a helper carries at the start [kg]."""

    helper: Helper
    mass: float

    @property
    def over(self) -> float:
        """What is beyond its limit [kg], 0 for nothing. Source: none, arithmetic."""
        return max(self.mass - self.helper.limit_kg, 0.0)


def helper_loads(course: Course) -> list[HelperLoad]:
    """What porters, animals and sleds carry. Source: sums of masses."""
    carried = {helper.id: 0.0 for helper in course.helpers}
    for unit in units(course):
        if unit.carrier in carried:
            carried[unit.carrier] += unit.mass_g / 1000
    for person in course.people:
        for item in person.items:
            on = person.around(item).on
            if on in carried:
                carried[on] += item.grams / 1000
    return [HelperLoad(helper, carried[helper.id]) for helper in course.helpers]


def _drawn(course: Course, people: Sequence[Person]) -> Array:
    """What of sleds counts as on the backs of those who draw them [kg, P]."""
    drawn = dict.fromkeys((person.id for person in people), 0.0)
    for each in helper_loads(course):
        if each.helper.kind == "sled" and each.helper.drawn_by in drawn:
            drawn[each.helper.drawn_by] += SLED_SHARE * each.mass
    return np.array([drawn[person.id] for person in people]).reshape(len(people))


def _apart(person: Person, gone: dict[str, Array], hours: int) -> dict[str, tuple[float, ...]]:
    """Teaching and camera kit on the back, by purpose and hour [kg]."""
    grams: dict[str, float] = {}
    for item in person.on_back:
        if item.apart:
            grams[item.purpose] = grams.get(item.purpose, 0.0) + item.kept_g
    return {
        purpose: tuple((mass / 1000 - gone.get(purpose, np.zeros(hours))).tolist())
        for purpose, mass in grams.items()
    }


def _backs(
    course: Course,
    people: Sequence[Person],
    timeline: Timeline,
    times: Array,
    kept: Sequence[dict[str, float]],
) -> Backs:
    whole = np.array([sum(each.values()) for each in kept])
    shelters = np.array([shelter_share(course, person) for person in people])
    return backs(course, people, timeline, times, whole, shelters)


def loads_at(course: Course, people: Sequence[Person], timeline: Timeline, times: Array) -> Array:
    """Everything on body and back at some times, skin out, and what counts of a sled that is
    drawn [kg, P x T].

    Args:
        course, people, timeline: the plan.
        times: on the course's clock [h, T].

    Source: core.load.load_hours.
    """
    total = _backs(course, people, timeline, times, kept_grams(course, people)).total
    return total + _drawn(course, people)[:, None] if course.helpers else total


def party_loads(
    course: Course,
    people: Sequence[Person],
    timeline: Timeline,
    worn_g: Array,
    awake: Sequence[Moment],
) -> list[Load]:
    """Loads of people, hour by hour.

    Args:
        course, people, timeline: the plan.
        worn_g: clothes worn at each waking moment [g, P x M].
        awake: those moments.

    Returns:
        The loads; what is worn counts in them, food and fuel fall as they go, water is refilled.

    Source: sums of weighed masses; when things are eaten and drunk by core.load.load_hours.
    """
    kept = kept_grams(course, people)
    days = len(course.days)
    mornings = np.array(
        [
            24 * day + (legs[0].start if legs else 9.0) - BEFORE_BREAKFAST
            for day, legs in enumerate(timeline.stages)
        ]
    )
    early = _backs(course, people, timeline, mornings, kept)
    setting_out = mornings + BEFORE_BREAKFAST + 1e-6
    filled = bottles(course, people, timeline, setting_out).left
    hourly = _backs(course, people, timeline, timeline.hours.hour, kept)
    bags = away(people, timeline, timeline.hours.hour)
    apart_bags = away(people, timeline, timeline.hours.hour, only_apart=True)
    early_bags = away(people, timeline, mornings)
    dry = dry_stretches(course, people, timeline)
    hungry = food_shortages(course, people, timeline)
    planned = [place for place, moment in enumerate(awake) if not moment.fold]
    starts = np.array([awake[place].start for place in planned])
    at = np.maximum(np.searchsorted(starts, timeline.hours.hour + 1e-9, side="right") - 1, 0)
    items = np.array([sum(i.kept_g for i in p.on_back if i.worn) for p in people])[:, None]
    worn = (worn_g[:, planned][:, at] + items) / 1000 if planned else np.zeros(hourly.water.shape)
    moving = next((p for p, m in enumerate(awake) if m.kind == "moving"), 0)
    first_worn = (worn_g[:, moving] + items[:, 0]) / 1000 if awake else items[:, 0] / 1000
    found: list[Load] = []
    for row, (person, base) in enumerate(zip(people, kept, strict=True)):
        in_kg = {purpose: grams / 1000 for purpose, grams in base.items()}
        by_purpose: list[dict[str, float]] = []
        for day in range(days):
            left = dict(in_kg)
            left["food and water"] += float(early.provisions[row, day] + filled[row, day])
            left["shelter"] += float(early.wet[row, day])
            for purpose, gone in early_bags[row].items():
                left[purpose] -= float(gone[day])
            by_purpose.append(left)
        by_day = tuple(sum(parts.values()) for parts in by_purpose)
        mass = person.body_mass_kg
        found.append(
            Load(
                worn=float(first_worn[row]),
                carried=by_day[0] - float(first_worn[row]),
                consumed_a_day=float(hourly.used[row, -1]) / days,
                by_day=by_day,
                by_purpose=tuple(by_purpose),
                body_mass=mass,
                kept=in_kg,
                apart=_apart(person, apart_bags[row], len(timeline.hours.hour)),
                budget=person.budget_kg or course.budget_share * mass,
                limit=course.limit_share * mass,
                hour=tuple(timeline.hours.hour.tolist()),
                worn_by_hour=tuple(worn[row].tolist()),
                provisions=tuple(hourly.provisions[row].tolist()),
                water=tuple(hourly.water[row].tolist()),
                wet=tuple(hourly.wet[row].tolist()),
                used=tuple(hourly.used[row].tolist()),
                waiting=tuple(hourly.waiting[row].tolist()),
                away={name: tuple(mass.tolist()) for name, mass in bags[row].items()},
                dry=dry[row],
                hungry=hungry[row],
            )
        )
    return found
