"""Stoves: what it takes to melt snow and boil water, by fuel, cold and height."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.air import standard_pressure
from caldarium.core.physics.quantities import Array, Values, array
from caldarium.core.plan.provisions import Stove

WATER_KJ, ICE_KJ, MELTS_KJ = 4.19, 2.1, 334.0
"""Heat of water and ice [kJ/(kg K)], and of melting [kJ/kg]."""
FROM_A_STREAM = 5.0
"""Temperature of water from a stream, and to which snow is melted to drink [°C]: judgement."""
INTO_THE_POT = 0.5
"""Share of a flame's heat that reaches the water, out of the wind: judgement."""
_ANTOINE = (8.07131, 1730.63, 233.426)
_MMHG = 7.500617


@dataclass(frozen=True)
class Burns:
    """A kind of stove: heat of its fuel [kJ/g], air from which it fades [°C], the share of a flame
    that reaches the water below that, and fuel spent on lighting it each time [g].

    Heats of combustion are handbook figures (lower heating values), from memory; that gas without
    a regulator or preheat fades below freezing is common practice, no published source; the rest
    is judgement.
    """

    kj_g: float
    fades_below: float
    faded: float
    priming_g: float


STOVES: dict[Stove, Burns] = {
    "gas": Burns(46.0, 0.0, 0.35, 0.0),
    "gas, warmed": Burns(46.0, -18.0, 0.35, 0.0),
    "liquid": Burns(43.5, -40.0, 0.4, 4.0),
    "alcohol": Burns(26.8, -5.0, 0.25, 2.0),
}


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


def heat_for(litres: Values, altitude: Values, air: Values, *, snow: bool, boiled: bool) -> Array:
    """Heat that water takes [kJ].

    Args:
        litres: of water.
        altitude: of the camp [m].
        air: at the stove [°C].
        snow: whether it is melted.
        boiled: to the boil; else only until it can be drunk, which water from a stream can.

    Source: heat capacities and latent heat of handbooks.
    """
    to = boiling_point(altitude) if boiled else array(FROM_A_STREAM)
    if snow:
        heat = ICE_KJ * np.maximum(-array(air), 0) + MELTS_KJ + WATER_KJ * to
    else:
        heat = WATER_KJ * (to - FROM_A_STREAM)
    return array(litres) * heat


def fuel_for(
    litres: Values,
    altitude: Values,
    air: Values,
    *,
    snow: bool,
    boiled: bool = True,
    stove: Stove = "gas",
) -> Array:
    """Fuel that melts or boils so much water [g], lighting the stove apart.

    Args:
        litres, altitude, air, snow, boiled: see heat_for.
        stove: kind of stove.

    Source: heat_for; STOVES and INTO_THE_POT.
    """
    burns = STOVES[stove]
    share = np.where(array(air) < burns.fades_below, burns.faded, INTO_THE_POT)
    return heat_for(litres, altitude, air, snow=snow, boiled=boiled) / (burns.kj_g * share)
