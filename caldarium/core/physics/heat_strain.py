"""Predicted heat strain: core temperature and water lost through hours in the heat, minute by
minute."""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from caldarium.core.physics import cold
from caldarium.core.physics.air import saturation_pressure
from caldarium.core.physics.extremities import RADIANT
from caldarium.core.physics.quantities import CLO, Array, Values, array

CORE_LIMIT = 38.0
"""Rectal temperature at which work is to stop [°C]. Source: ISO 7933:2023, WHO 1969."""
HEAT_OF_BODY = 57.83
"""Heat that a kilogram of body takes, spread over a minute [W min/(kg K)]. Source: ISO 7933:2023.
"""
SKIN_KEEPS, CORE_KEEPS, SWEAT_KEEPS = (float(np.exp(-1 / minutes)) for minutes in (3, 10, 10))
"""What a minute leaves of skin, core and sweat on their way to a new state. Source: ISO 7933:2023.
"""
MOST_SWEAT, MOST_SWEAT_TRAINED = 400.0, 500.0
"""The most that can be sweated, unacclimatised and acclimatised [W/m²]. Source: ISO 7933:2023."""
MOST_WET, MOST_WET_TRAINED = 0.85, 1.0
GRAMS = 60 / 2.43 / 1000
"""Water lost for a watt in a minute [g]. Source: ISO 7933:2023, 2.43 kJ/g as its program has it."""
PERMEABILITY, LEWIS = 0.38, 16.7
"""Moisture permeability index of ordinary clothing, and the Lewis relation [K/kPa]. Source: ISO
7933:2023."""
NAKED, CLOTHED = 0.2, 0.6
"""Insulation up to which skin is as bare skin, and from which as clothed [clo]. Source: ISO
7933:2023."""


class Strained(NamedTuple):
    """N bodies: rectal, core and skin temperature [°C], the core that the work asks for [°C], share
    of the skin in the body's mean temperature, sweat [W/m²], and water lost since the beginning
    [g]."""

    rectal: Array
    core: Array
    skin: Array
    asked: Array
    weight: Array
    sweat: Array
    lost: Array


def at_rest(count: int) -> Strained:
    """Bodies before they begin. Source: ISO 7933:2023."""
    full = [np.full(count, value) for value in (36.8, 36.8, 34.1, 36.8, 0.3, 0.0, 0.0)]
    return Strained(*full)


def strained(
    body: Strained,
    where: cold.Exposure,
    resultant: Values,
    evaporative: Values,
    mass: Values,
    area: Values,
    minutes: int,
    *,
    acclimatised: bool = False,
) -> Iterator[Strained]:
    """Bodies after each minute in one place, drinking freely.

    Args:
        body: as they come there [N].
        where: what they meet; made for air of 15 to 50 °C, 100 to 450 W of work, up to 1 clo.
        resultant, evaporative: resistance from skin to air in wind and movement, to heat [m² K/W]
            and to vapour [m² kPa/W].
        mass, area: of the bodies [kg, m²].
        minutes: how long.
        acclimatised: whether to this heat.

    Yields:
        The bodies after each minute.

    Source: ISO 7933:2023, annexes A and E, from memory; heat through clothing by its resultant
        insulation instead of the temperature of its surface.
    """
    vapour = array(where.humidity) / 100 * saturation_pressure(where.air)
    rate, air, whole = array(where.metabolic_rate), array(where.air), array(resultant)
    layer = cold.air_layer(where.air_speed, where.walking_speed)
    radiates = np.minimum(RADIANT * layer, 1.0)
    operative = air + radiates * (array(where.radiant) - air)
    passes = 1 / array(evaporative)
    heat_of = HEAT_OF_BODY * array(mass) / array(area)
    breath = 0.001516 * rate * (28.56 + 0.115 * air + 0.641 * vapour - air)
    wet_breath = 0.00127 * rate * (59.34 + 0.53 * air - 11.63 * vapour)
    most = np.full(rate.shape, MOST_SWEAT_TRAINED if acclimatised else MOST_SWEAT)
    most_wet = MOST_WET_TRAINED if acclimatised else MOST_WET
    worn = (whole - layer) / CLO
    clothed = np.clip((worn - NAKED) / (CLOTHED - NAKED), 0.0, 1.0)
    for _ in range(minutes):
        skin = body.skin * SKIN_KEEPS + (1 - SKIN_KEEPS) * _steady_skin(
            where, vapour, body.rectal, clothed
        )
        asked = body.asked * CORE_KEEPS + (0.0036 * rate + 36.6) * (1 - CORE_KEEPS)
        stores = heat_of * (asked - body.asked) * (1 - body.weight)
        dry = (skin - operative) / whole
        can = np.maximum((_over_skin(skin) - vapour) * passes, 0.0)
        must = rate - stores - array(where.work) - breath - wet_breath - dry
        sweat = body.sweat * SWEAT_KEEPS + _required_sweat(must, can, most) * (1 - SWEAT_KEEPS)
        dries = _evaporated(sweat, can, most_wet)
        gains = must - dries + stores
        core, weight = _core(body, skin, gains / heat_of)
        rectal = body.rectal + (2 * core - 1.962 * body.rectal - 1.31) / 9
        lost = body.lost + (sweat + wet_breath) * array(area) * GRAMS
        body = Strained(rectal, core, skin, asked, weight, sweat, lost)
        yield body


def vapour_resistance(resultant: Values, still: Values) -> Array:
    """Resistance of clothing and air to vapour in wind and movement.

    Args:
        resultant: insulation in wind and movement [m² K/W].
        still: of the same in still air, standing [m² K/W].

    Returns:
        Resistance [m² kPa/W].

    Source: ISO 9920:2007 and ISO 7933:2023, annex D: permeability 0.38, more where wind and
        movement take warmth, at most 0.9; Lewis 16.7 K/kPa.
    """
    left = np.minimum(array(resultant) / array(still), 1.0)
    permeability = np.minimum(PERMEABILITY * ((2.6 * left - 6.5) * left + 4.9), 0.9)
    return array(resultant) / permeability / LEWIS


def _steady_skin(where: cold.Exposure, vapour: Array, rectal: Array, clothed: Array) -> Array:
    """Skin that this place leads to [°C]."""
    air, radiant = array(where.air), array(where.radiant)
    wind = np.minimum(array(where.air_speed), 3.0)
    bare = 7.19 + 0.064 * air + 0.061 * radiant + 0.198 * vapour - 0.348 * wind + 0.616 * rectal
    dressed = 12.17 + 0.02 * air + 0.044 * radiant + 0.194 * vapour - 0.253 * wind
    dressed = dressed + 0.0053 * array(where.metabolic_rate) + 0.513 * rectal
    return bare + (dressed - bare) * clothed


def _over_skin(skin: Array) -> Array:
    """Saturation pressure over skin [kPa]. Source: ISO 7933:2023."""
    return 0.6105 * np.exp(17.27 * skin / (skin + 237.3))


def _required_sweat(must: Array, can: Array, most: Array) -> Array:
    """Sweat that would evaporate what must be [W/m²], at most what can be sweated."""
    wet = np.where(can > 0, must / np.maximum(can, 1e-6), 2.0)
    wet = np.clip(wet, 0.0, 1.7)
    works = np.where(wet <= 1, 1 - wet**2 / 2, (2 - wet) ** 2 / 2)
    asks = np.where(wet >= 1.7, most, must / np.maximum(works, 0.05))
    return np.where(must <= 0, 0.0, np.minimum(asks, most))


def _evaporated(sweat: Array, can: Array, most_wet: float) -> Array:
    """What of the sweat evaporates [W/m²]."""
    share = can / np.maximum(sweat, 1e-6)
    wet = np.where(share >= 0.5, -share + np.sqrt(share**2 + 2), 1.0)
    return np.where(sweat <= 0, 0.0, np.minimum(wet, most_wet) * can)


def _core(body: Strained, skin: Array, warms: Array) -> tuple[Array, Array]:
    """Core temperature after a minute, and the skin's weight there, which depends on it."""
    core = body.core
    weight = body.weight
    for _ in range(20):
        weight = np.clip(0.3 - 0.09 * (core - 36.8), 0.1, 0.3)
        fresh = warms + body.skin * body.weight / 2 - skin * weight / 2
        fresh = (fresh + body.core * (1 - body.weight / 2)) / (1 - weight / 2)
        if float(np.max(np.abs(fresh - core), initial=0.0)) < 1e-4:
            return fresh, weight
        core = (core + fresh) / 2
    return core, weight
