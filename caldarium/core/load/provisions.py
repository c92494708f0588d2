"""Food and fuel: what the days take out of people, and what it takes to boil their water."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.day.states import MomentState
from caldarium.core.night.nights import Night
from caldarium.core.physics.air import standard_pressure
from caldarium.core.physics.quantities import Array, Values, array
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Timeline

KCAL_A_GRAM = 4.2
"""Energy of a mixed trail ration [kcal/g]: judgement; fat has 9, starch and protein 4."""
KCAL_A_WH = 0.8598
WATER_KJ, ICE_KJ, MELTS_KJ = 4.19, 2.1, 334.0
"""Heat of water and ice [kJ/(kg K)], and of melting [kJ/kg]."""
GAS_KJ_G = 46.0
"""Heat of combustion of liquefied gas [kJ/g]: handbook figure, from memory."""
INTO_THE_POT, IN_THE_COLD = 0.5, 0.35
"""Share of it that reaches the water, and in air below COLD_STOVE, where gas without a regulator or
preheat fades: judgement; that it fades below freezing is common practice, no published source."""
COLD_STOVE = 0.0
FROM_A_STREAM = 5.0
"""Temperature of water from a stream [°C]: judgement."""
_ANTOINE = (8.07131, 1730.63, 233.426)
_MMHG = 7.500617


def boiling_point(altitude: Values) -> Array:
    """Temperature at which water boils.

    Args:
        altitude: above sea level [m], -500 to 9,000.

    Returns:
        Temperature [°C].

    Source: Antoine equation of water to 100 °C, constants from memory; ISO 2533 for pressure.
    """
    a, b, c = _ANTOINE
    return b / (a - np.log10(standard_pressure(altitude) * _MMHG)) - c


def fuel_for(litres: Values, altitude: Values, air: Values, snow: bool) -> Array:
    """Gas that boils so much water.

    Args:
        litres: of water.
        altitude: of the camp [m].
        air: at the stove [°C].
        snow: whether the water is melted.

    Returns:
        Gas [g].

    Source: heat capacities of handbooks; losses are judgement.
    """
    outside = array(air)
    if snow:
        heat = ICE_KJ * np.maximum(-outside, 0) + MELTS_KJ + WATER_KJ * boiling_point(altitude)
    else:
        heat = WATER_KJ * (boiling_point(altitude) - FROM_A_STREAM)
    share = np.where(outside < COLD_STOVE, IN_THE_COLD, INTO_THE_POT)
    return array(litres) * heat / (GAS_KJ_G * share)


@dataclass(frozen=True)
class DayNeed:
    """What one day takes: energy spent and eaten [kcal], boiling point at its camp [°C], gas that
    the planned litres take [g] and gas planned [g]; no camp, no cooking."""

    day: int
    spent: float
    eaten: float
    boils_at: float | None
    gas: float
    planned: float
    melted: bool


def day_needs(
    course: Course,
    timeline: Timeline,
    person: Person,
    states: Sequence[MomentState],
    nights: Sequence[Night],
) -> list[DayNeed]:
    """Energy and fuel of one person's days.

    Args:
        course, timeline: the plan.
        person: whose.
        states, nights: what was found for them.

    Source: the assessment's own metabolic rates over the hours; judgement for rations and stoves.
    """
    moments = {each.id: each for each in timeline.moments}
    resting = float(np.mean([night.watts_made for night in nights])) if nights else 80.0
    evenings = {m.day: m for m in timeline.moments if m.kind == "camp"}
    listed: list[DayNeed] = []
    for day, plan in enumerate(course.days):
        awake = [state for state in states if state.day == day and not moments[state.moment].fold]
        hours = sum(moments[state.moment].hours for state in awake)
        work = sum(state.watts * moments[state.moment].hours for state in awake)
        spent = (work + resting * max(24.0 - hours, 0.0)) * KCAL_A_WH
        camp, evening = plan.camp, evenings.get(day)
        melted = camp is not None and not camp.water and camp.ground == "snow"
        gas, boils = 0.0, None
        if camp is not None and evening is not None:
            boils = float(boiling_point(evening.altitude))
            litres = course.boiled_l_a_day
            gas = float(fuel_for(litres, evening.altitude, evening.air, melted))
        listed.append(
            DayNeed(
                day,
                spent,
                person.food_g_a_day * KCAL_A_GRAM,
                boils,
                gas,
                person.fuel_g_a_day if camp else 0.0,
                melted,
            )
        )
    return listed


def hungriest(needs: Sequence[DayNeed]) -> DayNeed:
    """The day that falls shortest in energy. Source: day_needs."""
    return max(needs, key=lambda each: each.spent - each.eaten)
