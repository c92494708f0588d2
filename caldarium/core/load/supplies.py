"""Food and fuel as accounts: what is carried, waits in caches, is eaten and burnt, and runs out.

An account never goes below nothing: what would be eaten or burnt of an empty one is missing, and
said with its hour. Nobody eats from a cache before reaching it.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.load.clock import day_hours, leg_end
from caldarium.core.load.drinking import boiled_on
from caldarium.core.load.once import once
from caldarium.core.load.stoves import STOVES, boiling_point, fuel_for
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import MOST_FUEL_G, Course, Person
from caldarium.core.plan.group_kit import units
from caldarium.core.plan.provisions import Dish, Meal
from caldarium.core.timeline.moments import Timeline

MEALS: tuple[Meal, ...] = ("breakfast", "on the way", "dinner")
MEAL_SHARES = {"breakfast": 0.25, "on the way": 0.35, "dinner": 0.4}
"""Shares of a day's food where there is no menu: judgement."""
COOKED_MEALS = ("breakfast", "dinner")
"""Meals that are cooked where there is no menu: judgement."""
KCAL_A_GRAM = 4.2
"""Energy of a mixed trail ration [kcal/g]: judgement; fat has 9, starch and protein 4."""
BURNT_AT_DAWN = 0.4
"""Share of what is boiled in a day that is boiled in the morning: judgement."""
_LEAST_G = 0.5
"""A shortage below this is none [g]."""


def dishes_on(course: Course, day: int) -> tuple[Dish, ...]:
    """What is on the menu of a day: its own dishes at each meal, or those of every day.

    Source: none, bookkeeping.
    """
    menu = course.provisions.menu
    own = {dish.meal for dish in menu if dish.day == day}
    return tuple(
        dish for dish in menu if dish.day == day or (dish.day is None and dish.meal not in own)
    )


@dataclass(frozen=True)
class Ration:
    """What one person eats on a day [g, kcal], and of that what needs no stove."""

    grams: float
    kcal: float
    ready_g: float
    ready_kcal: float
    by_meal: tuple[float, float, float]


def ration(course: Course, person: Person, day: int) -> Ration:
    """Somebody's food of a day: the menu's where it has any, else what they plan a day.

    Source: the user's menu and labels; MEAL_SHARES and KCAL_A_GRAM where there are none.
    """
    dishes = dishes_on(course, day)
    if not dishes:
        grams = person.food_g_a_day
        ready = sum(share for meal, share in MEAL_SHARES.items() if meal not in COOKED_MEALS)
        return Ration(
            grams,
            grams * KCAL_A_GRAM,
            grams * ready,
            grams * ready * KCAL_A_GRAM,
            (
                grams * MEAL_SHARES["breakfast"],
                grams * MEAL_SHARES["on the way"],
                grams * MEAL_SHARES["dinner"],
            ),
        )
    kcal = [_kcal(dish) for dish in dishes]
    ready = [
        (dish.mass_g, each) for dish, each in zip(dishes, kcal, strict=True) if not dish.cooked
    ]
    breakfast, way, dinner = (
        sum(dish.mass_g for dish in dishes if dish.meal == meal) for meal in MEALS
    )
    return Ration(
        sum(dish.mass_g for dish in dishes),
        sum(kcal),
        sum(grams for grams, _ in ready),
        sum(each for _, each in ready),
        (breakfast, way, dinner),
    )


def _kcal(dish: Dish) -> float:
    return dish.mass_g * KCAL_A_GRAM if dish.kcal is None else dish.kcal


@dataclass(frozen=True)
class Account:
    """What there is of something over time [g, ... x T]: supplied so far (carried from the start
    or taken up since), asked for so far, missing so far, and what still waits in caches."""

    supplied: Array
    asked: Array
    missing: Array
    waiting: Array

    @property
    def left(self) -> Array:
        """What is carried [g]. Source: none, arithmetic."""
        return self.supplied - self.asked + self.missing

    @property
    def used(self) -> Array:
        """What was eaten or burnt so far [g]. Source: none, arithmetic."""
        return self.asked - self.missing


AT_ONCE = 1e-9
"""What is taken up at the very moment at which it is asked for is there by then [h]."""


def account(
    start: Array, arrivals: Sequence[tuple[float, Array]], asked_at: "Asked", times: Array
) -> Account:
    """An account that is filled at some times and drawn on steadily, and never below nothing.

    Args:
        start: what there is from the start [g, R].
        arrivals: when more is taken up [h], and how much [g, R].
        asked_at: what was asked for up to some times, as a function of times [h, T] to [g, R x T].
        times: on the course's clock [h, T].

    Returns:
        The account of R rows. What is missing by a time is the most by which what was asked for
        had passed what was supplied up to then: nobody eats a missed meal later.

    Source: the reflection of a path at zero, arithmetic.
    """
    order = sorted(arrivals, key=lambda each: each[0])
    supplied = np.repeat(start[:, None], len(times), axis=1)
    asked = asked_at(times)
    waiting = np.zeros(supplied.shape)
    missing = np.zeros(supplied.shape)
    there = start.copy()
    for when, much in order:
        since = when - AT_ONCE
        just_before = np.maximum(asked_at(np.array([since]))[:, 0] - there, 0.0)
        reached = times >= since
        missing = np.maximum(missing, just_before[:, None] * reached)
        supplied = supplied + much[:, None] * reached
        waiting = waiting + much[:, None] * ~reached
        there = there + much
    missing = np.maximum(missing, asked - supplied)
    return Account(supplied, asked, np.maximum(missing, 0.0), waiting)


class Asked:
    """What was asked for up to some times, from steps and steady stretches.

    Args:
        steps: when something is taken at once [h], and how much [g, R].
        stretches: from when to when something is taken steadily [h], and how much [g, R].
    """

    def __init__(
        self,
        steps: Sequence[tuple[float, Array]],
        stretches: Sequence[tuple[float, float, Array]] = (),
    ) -> None:
        self._steps, self._stretches = steps, stretches

    def __call__(self, times: Array) -> Array:
        """What was asked for up to these times [h, T]: [g, R x T]. Source: none, arithmetic."""
        at = [(times >= when).astype(float) for when, _ in self._steps]
        at += [
            np.clip((times - start) / max(end - start, 1e-6), 0.0, 1.0)
            for start, end, _ in self._stretches
        ]
        much = [each for *_, each in self._steps] + [each for *_, each in self._stretches]
        if not at:
            return np.zeros((1, len(times)))
        # Added up step by step and not by a matrix product, whose last digit depends on how many
        # people there are.
        return (np.array(much)[:, :, None] * np.array(at)[:, None, :]).sum(axis=0)

    @property
    def moments(self) -> list[float]:
        """When something begins or ends to be asked for [h]. Source: none, bookkeeping."""
        found = [when for when, _ in self._steps]
        return sorted({*found, *(each for a, b, _ in self._stretches for each in (a, b))})


def _meals(course: Course, people: Sequence[Person], timeline: Timeline) -> Asked:
    steps: list[tuple[float, Array]] = []
    stretches: list[tuple[float, float, Array]] = []
    for day, hours in enumerate(day_hours(timeline)):
        meals = np.array([ration(course, person, day).by_meal for person in people])
        steps += [(hours.breakfast, meals[:, 0]), (hours.dinner, meals[:, 2])]
        stretches.append((hours.first, hours.last, meals[:, 1]))
    return Asked(steps, stretches)


def food_account(
    course: Course, people: Sequence[Person], timeline: Timeline, times: Array
) -> Account:
    """Everybody's food [g, P x T].

    Args:
        course, people, timeline: the plan; each cache holds so many days of each person's food.
        times: on the course's clock [h, T].

    Source: account; when things are eaten is judgement.
    """
    whole = food_planned(course, people)
    caches = [
        (leg_end(timeline, cache.day, cache.leg), cache.rations * whole / len(course.days))
        for cache in course.caches
    ]
    start = np.maximum(whole - sum((much for _, much in caches), np.zeros(len(people))), 0.0)
    return account(start, caches, _meals(course, people, timeline), times)


def food_planned(course: Course, people: Sequence[Person]) -> Array:
    """Food of all days, by person [g, P]. Source: ration."""
    days = range(len(course.days))
    return np.array(
        [sum(ration(course, person, day).grams for day in days) for person in people]
    ).reshape(len(people))


@dataclass(frozen=True)
class CampNeed:
    """What a camp's stoves do: its day, whether snow is melted, where water boils [°C], litres
    boiled and litres made for the bottles by the whole party, fuel in the evening and the next
    morning [g], minutes of flame on all stoves together, and pots."""

    day: int
    melted: bool
    boils_at: float
    boiled_l: float
    bottled_l: float
    evening_g: float
    morning_g: float
    minutes: float
    pots: int

    @property
    def grams(self) -> float:
        """Fuel of both [g]. Source: none, arithmetic."""
        return self.evening_g + self.morning_g


@once
def camp_needs(course: Course, timeline: Timeline) -> list[CampNeed]:
    """What the party's stoves burn at each camp.

    Water for food and drinks is boiled; that for the next day's bottles is melted where there is
    only snow, and boiled where that is how it is treated.

    Args:
        course: for heads, stoves and camps.
        timeline: for the air and height of each camp.

    Source: core.load.stoves; BURNT_AT_DAWN is judgement.
    """
    plan, heads = course.provisions, len(course.people)
    burns = STOVES[plan.stove]
    at_camp = {each.day: each for each in timeline.moments if each.kind == "camp"}
    at_dawn = {each.day: each for each in timeline.moments if each.kind == "dawn"}
    found: list[CampNeed] = []
    for day, camp in enumerate(each.camp for each in course.days):
        evening = at_camp.get(day)
        if camp is None or evening is None:
            continue
        snow, dawn = camp.melts, at_dawn.get(day + 1, evening)
        boiled = heads * boiled_on(course, timeline, day)
        bottled = 0.0
        if day + 1 < len(course.days) and (snow or (camp.water and plan.treated == "boiled")):
            bottled = sum(person.filled_l for person in course.people)
        height, cold = evening.altitude, evening.air

        def burnt(
            litres: float, air: float, boil: bool, snow: bool = snow, h: float = height
        ) -> float:
            return float(fuel_for(litres, h, air, snow=snow, boiled=boil, stove=plan.stove))

        lit = burns.priming_g * stoves_of(course) if boiled or bottled else 0.0
        first = burnt(boiled * (1 - BURNT_AT_DAWN), cold, True)
        first += burnt(bottled, cold, plan.treated == "boiled") + lit
        last = burnt(boiled * BURNT_AT_DAWN, dawn.air, True) + lit * (boiled > 0)
        pots = int(np.ceil((boiled + bottled) / plan.pot_l - 1e-9))
        flame = (first + last - 2 * lit) * burns.kj_g / plan.stove_kw / 60
        found.append(
            CampNeed(
                day=day,
                melted=snow,
                boils_at=float(boiling_point(height)),
                boiled_l=boiled,
                bottled_l=bottled,
                evening_g=first,
                morning_g=last,
                minutes=max(flame, 0.0),
                pots=pots,
            )
        )
    return found


def stoves_of(course: Course) -> int:
    """How many stoves burn beside each other: as typed, or one for every three heads.

    Source: judgement; two stoves for four is common practice, no published source.
    """
    return course.provisions.stoves or -(-len(course.people) // 3)


def fuel_in_cans(course: Course, people: Sequence[Person]) -> Array:
    """Fuel in cans and bottles that are pieces of their own, by who carries them [g, P].

    Source: their net content; what nobody was given is split evenly.
    """
    own: dict[str | None, float] = {}
    for unit in units(course):
        own[unit.carrier] = own.get(unit.carrier, 0.0) + unit.fuel_g
    even = own.get(None, 0.0) / len(course.people)
    return np.array(
        [
            own.get(person.id, 0.0) + even + sum(item.fuel_g for item in person.on_back)
            for person in people
        ]
    ).reshape(len(people))


def _helped(course: Course) -> float:
    """Fuel that helpers carry [g]."""
    if not course.helpers:
        return 0.0
    helpers = {helper.id for helper in course.helpers}
    cans = sum(unit.fuel_g for unit in units(course) if unit.carrier in helpers)
    return cans + sum(
        item.fuel_g
        for person in course.people
        for item in person.items
        if item not in person.on_back
    )


@dataclass(frozen=True)
class Fuel:
    """The party's fuel as one account [g, 1 x T], and everybody's part of what is carried, waits
    and was burnt [g, P x T]."""

    party: Account
    carried: Array
    waiting: Array
    burnt: Array


def _cans_that_wait(people: Sequence[Person], timeline: Timeline) -> list[tuple[float, Array]]:
    """When people reach cans of theirs in drop bags [h], and the fuel in them [g, P]."""
    found: list[tuple[float, Array]] = []
    for row, person in enumerate(people):
        for item in person.on_back:
            around = person.around(item)
            if item.fuel_g and around.waits_at is not None and around.left_at is None:
                much = np.zeros(len(people))
                much[row] = item.fuel_g
                end = around.waits_at
                found.append((leg_end(timeline, end.day, end.leg), much))
    return found


def _fuel_rows(
    course: Course, people: Sequence[Person], timeline: Timeline, times: Array
) -> tuple[Array, Array]:
    """What each of some people was supplied with so far, and what of theirs still waits [g]."""
    planned = np.array([person.fuel_g_a_day for person in people]) * len(course.days)
    caches = [
        (leg_end(timeline, cache.day, cache.leg), cache.rations * planned / len(course.days))
        for cache in course.caches
    ]
    cached = sum((much for _, much in caches), np.zeros(len(people)))
    bags = _cans_that_wait(people, timeline)
    bagged = sum((much for _, much in bags), np.zeros(len(people)))
    start = np.maximum(planned - cached, 0.0) + fuel_in_cans(course, people) - bagged
    supplied = np.repeat(start[:, None], len(times), axis=1)
    waiting = np.zeros(supplied.shape)
    for when, much in (*caches, *bags):
        supplied = supplied + much[:, None] * (times >= when)
        waiting = waiting + much[:, None] * (times < when)
    return supplied, waiting


def fuel_account(
    course: Course, people: Sequence[Person], timeline: Timeline, times: Array
) -> Fuel:
    """The party's fuel: all that anybody carries burns for all, from everybody's share alike.

    Args:
        course, timeline: the plan, for the whole party.
        people: whose part is told.
        times: on the course's clock [h, T].

    Source: account; camp_needs.
    """
    hours = day_hours(timeline)
    steps: list[tuple[float, Array]] = []
    for need in camp_needs(course, timeline):
        steps.append((hours[need.day].dinner, np.array([need.evening_g])))
        if need.day + 1 < len(hours):
            steps.append((hours[need.day + 1].breakfast, np.array([need.morning_g])))
    reached = [leg_end(timeline, cache.day, cache.leg) for cache in course.caches]
    reached += [when for when, _ in _cans_that_wait(course.people, timeline)]
    looked = np.array(sorted({-1e6, *reached}))
    supplied, _ = _fuel_rows(course, course.people, timeline, looked)
    total = supplied.sum(axis=0) + _helped(course)
    arrivals = [
        (float(when), np.array([total[at] - total[at - 1]]))
        for at, when in enumerate(looked)
        if at > 0
    ]
    party = account(np.array([total[0]]), arrivals, Asked(steps), times)
    own, waiting = _fuel_rows(course, people, timeline, times)
    left = np.divide(
        party.left[0], party.supplied[0], where=party.supplied[0] > 0, out=np.zeros(len(times))
    )
    carried = own * np.clip(left, 0.0, 1.0)
    return Fuel(party, carried, waiting, own - carried)


@dataclass(frozen=True)
class Shortage:
    """Something that runs out: from and to when [h on the course's clock], and how much is missing
    in all [g]."""

    start: float
    end: float
    grams: float


def shortages(asked_at: Sequence[float], missing: Array) -> list[Shortage]:
    """Stretches over which more and more is missing.

    Args:
        asked_at: times looked at [h, T], in order.
        missing: by then [g, T].

    Source: none, arithmetic.
    """
    found: list[Shortage] = []
    if missing[-1] - missing[0] <= _LEAST_G:
        return found
    for at in range(1, len(asked_at)):
        more = float(missing[at] - missing[at - 1])
        if more <= _LEAST_G:
            continue
        if found and found[-1].end == asked_at[at - 1]:
            last = found.pop()
            found.append(Shortage(last.start, asked_at[at], last.grams + more))
        else:
            found.append(Shortage(asked_at[at - 1], asked_at[at], more))
    return found


def food_shortages(
    course: Course, people: Sequence[Person], timeline: Timeline
) -> list[tuple[Shortage, ...]]:
    """When people have nothing left to eat, by person. Source: food_account, each quarter hour."""
    times = _quarters(course)
    found = food_account(course, people, timeline, times)
    return [tuple(shortages(times.tolist(), row)) for row in found.missing]


def _quarters(course: Course) -> Array:
    return np.arange(0.0, 24.0 * len(course.days) + 0.01, 0.25)


def food_left(course: Course, person: Person, timeline: Timeline) -> float:
    """Food carried out again [g]. Source: food_account."""
    end = np.array([24.0 * len(course.days) + 1])
    return float(food_account(course, (person,), timeline, end).left[0, 0])


@dataclass(frozen=True)
class FuelVerdict:
    """How the party's fuel stands: all there is and all that is needed [g], the spare that the
    rule wants [g], when it runs out, and every camp."""

    there: float
    needed: float
    spare_wanted: float
    out: tuple[Shortage, ...]
    camps: tuple[CampNeed, ...]

    @property
    def missing(self) -> float:
        """What cannot be burnt because it is not there [g]. Source: none, arithmetic."""
        return sum(each.grams for each in self.out)

    @property
    def over(self) -> float:
        """What is there beyond need and spare, below nothing where it does not reach [g].

        Source: none, arithmetic.
        """
        return self.there - self.needed - self.spare_wanted


def fuel_verdict(course: Course, timeline: Timeline) -> FuelVerdict:
    """The party's fuel against what its camps need.

    Source: fuel_account; the spare is the user's rule.
    """
    camps = tuple(camp_needs(course, timeline))
    needed = sum(each.grams for each in camps)
    times = _quarters(course)
    party = fuel_account(course, course.people, timeline, times).party
    return FuelVerdict(
        there=float(party.supplied[0, -1]),
        needed=needed,
        spare_wanted=course.provisions.spare_share * needed,
        out=tuple(shortages(times.tolist(), party.missing[0])),
        camps=camps,
    )


def fuel_wanted(course: Course, found: FuelVerdict) -> float:
    """Fuel a head and day with which the spare is kept [g], to the next five grams.

    Source: core.load.supplies.
    """
    heads = len(course.people) * len(course.days)
    planned = sum(person.fuel_g_a_day for person in course.people) / len(course.people)
    return min(max(-(-(planned - found.over / heads) // 5) * 5, 0.0), MOST_FUEL_G)
