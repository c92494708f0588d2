"""The body in time: a core and a skin node, blood between them, sweat and shivering.

Source: Gagge, Fobelets & Berglund (1986), ASHRAE Trans. 92(2), the two-node model; constants as in
ASHRAE Fundamentals ch. 9. Checked against a published implementation in tests/oracles.
"""

import math
from typing import Any, Generic, NamedTuple, TypeVar

import numpy as np

from caldarium.core.physics.quantities import Array, Values, array

Number = TypeVar("Number", float, Array)
SKIN_NEUTRAL, CORE_NEUTRAL, BODY_NEUTRAL = 33.7, 36.8, 36.49
"""Set points of skin, core and mean body [°C]."""
FLOW_NEUTRAL, DILATION, CONSTRICTION = 6.3, 120.0, 0.5
FLOW_RANGE = (0.5, 90.0)
"""Skin blood flow [L/(h m²)]."""
SWEAT_GAIN, MOST_SWEAT = 170.0, 500.0
"""Regulatory sweating [g/(h m² K)] and its ceiling [g/(h m²)]."""
SHIVER_GAIN = 19.4
LATENT = 0.68
"""Heat of evaporation [W h/g]."""
SPECIFIC_HEAT = 0.97
"""Of the body [W h/(kg K)]."""
STEP_HOURS = 1 / 60


class Surroundings(NamedTuple, Generic[Number]):
    """What heat and vapour leave through: floats for one body, arrays of one shape for many.

    operative temperature [°C], vapour pressure [kPa], sensible resistance from skin to air
    [m² K/W], evaporative resistance [m² kPa/W], metabolic rate [W/m²].
    """

    operative: Number
    vapour: Number
    sensible: Number
    evaporative: Number
    metabolic_rate: Number


class Body(NamedTuple, Generic[Number]):
    """A body's state: skin and core [°C], skin blood flow [L/(h m²)], regulatory sweat
    [g/(h m²)], skin wettedness, shivering [W/m²], heat stored since the beginning [W h/m²]."""

    skin: Number
    core: Number
    flow: Number
    sweat: Number
    wettedness: Number
    shivering: Number
    stored: Number


CORE_RANGE = (10.0, 45.0)
"""Core beyond which no life is left to compute [°C]; the model runs on at the end it reached."""
DRY_BELOW = 25.0
"""How far below what surrounds it sweat can cool bare skin [K]: bounds a step of a minute, which is
long for bare skin in a gale; judgement."""
RESTED = Body(SKIN_NEUTRAL, CORE_NEUTRAL, FLOW_NEUTRAL, 0.0, 0.06, 0.0, 0.0)
"""One body at its set points. Source: Gagge et al. (1986)."""


def rested(shape: tuple[int, ...]) -> Body[Array]:
    """Bodies at their set points. Source: Gagge et al. (1986)."""
    return Body(*(np.full(shape, value) for value in RESTED))


def skin_share(flow: Number) -> Number:
    """Share of the body's mass that counts as skin. Source: Gagge et al. (1986)."""
    return 0.0417737 + 0.7451833 / (flow + 0.585417)


def _minute(
    body: Body[Any],
    around: Surroundings[Any],
    mass_by_area: Any,
    exp: Any,
    maximum: Any,
    minimum: Any,
) -> Body[Any]:
    """One step of the balance, with the functions for floats or for arrays."""
    skin, core, flow, sweat, _, shivering, stored = body
    operative, vapour, sensible, evaporative, rate = around
    share = skin_share(flow)
    at_skin = 0.133322 * exp(18.6686 - 4030.183 / (skin + 235))
    most = maximum((at_skin - vapour) / evaporative, 1e-6)
    wettedness = minimum(0.06 + 0.94 * LATENT * sweat / most, 1.0)
    made = rate + shivering
    breath = 0.0173 * made * (5.867 - vapour) + 0.0014 * made * (34 - operative)
    through = (core - skin) * (5.28 + 1.163 * flow)
    dry = (skin - operative) / sensible
    into_skin = (through - dry - wettedness * most) * STEP_HOURS
    into_core = (made - through - breath) * STEP_HOURS
    skin = skin + into_skin / (SPECIFIC_HEAT * share * mass_by_area)
    core = core + into_core / (SPECIFIC_HEAT * (1 - share) * mass_by_area)
    core = minimum(maximum(core, CORE_RANGE[0]), CORE_RANGE[1])
    skin = minimum(maximum(skin, minimum(core, operative) - DRY_BELOW), maximum(core, operative))
    mean = share * skin + (1 - share) * core
    warm_skin = maximum(skin - SKIN_NEUTRAL, 0.0)
    cold_skin = maximum(SKIN_NEUTRAL - skin, 0.0)
    warm_core = maximum(core - CORE_NEUTRAL, 0.0)
    cold_core = maximum(CORE_NEUTRAL - core, 0.0)
    flow = (FLOW_NEUTRAL + DILATION * warm_core) / (1 + CONSTRICTION * cold_skin)
    warm = maximum(mean - BODY_NEUTRAL, 0.0)
    return Body(
        skin,
        core,
        minimum(maximum(flow, FLOW_RANGE[0]), FLOW_RANGE[1]),
        minimum(SWEAT_GAIN * warm * exp(warm_skin / 10.7), MOST_SWEAT),
        wettedness,
        SHIVER_GAIN * cold_skin * cold_core,
        stored + into_skin + into_core,
    )


def lived(
    body: Body[Number], around: Surroundings[Number], hours: float, mass_by_area: Number
) -> Body[Number]:
    """A body, or many, after some time in one place.

    Args:
        body: where it begins.
        around: what it meets, of the body's shape.
        hours: how long [h], in whole minutes.
        mass_by_area: body mass over surface [kg/m²].

    Returns:
        The body then.

    Source: Gagge, Fobelets & Berglund (1986).
    """
    # NumPy on single numbers is many times slower, and the bench waits for one body.
    one = isinstance(body.skin, float)
    functions = (math.exp, max, min) if one else (np.exp, np.maximum, np.minimum)
    for _ in range(max(round(hours / STEP_HOURS), 1)):
        body = _minute(body, around, mass_by_area, *functions)
    return body


def gagge_surroundings(
    air: Values, wind: Values, vapour: Values, clo: Values, metabolic_rate: Values
) -> Surroundings[Array]:
    """Resistances of an even outfit as the model's authors take them, for comparison.

    Args:
        air: air and radiant temperature [°C].
        wind: [m/s].
        vapour: pressure [kPa].
        clo: intrinsic insulation [clo].
        metabolic_rate: [W/m²].

    Returns:
        The surroundings at sea level.

    Source: Gagge, Fobelets & Berglund (1986).
    """
    rate, layer = array(metabolic_rate), 0.155 * array(clo)
    met = rate / 58.2
    stirred = np.where(met > 0.85, 5.66 * np.maximum(met - 0.85, 0) ** 0.39, 0.0)
    convection = np.maximum(np.maximum(8.600001 * array(wind) ** 0.53, 3.0), stirred)
    factor = 1 + 0.15 * array(clo)
    outer = 1 / (factor * (convection + 4.7))
    lewis = 2.2 / 0.133322
    evaporative = 1 / (lewis * factor * convection) + layer / (lewis * 0.45)
    shape = np.broadcast_shapes(np.shape(air), layer.shape, rate.shape, convection.shape)
    parts = (array(air), array(vapour), outer + layer, evaporative, rate)
    return Surroundings(*(np.broadcast_to(part, shape).astype(float) for part in parts))
