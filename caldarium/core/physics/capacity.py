"""What a body can keep up: its capacity, what altitude leaves of it, and the pace that fits.

Source: named at each function; shares of capacity kept up for a day are common practice, no
published source.
"""

import numpy as np

from caldarium.core.physics.effort import FASTEST, way_power
from caldarium.core.physics.quantities import Array, Values, array

ORDINARY_UPTAKE = 40.0
"""Oxygen uptake at most of an ordinarily fit adult [ml/(min kg)]: judgement."""
WATTS = 20.9 / 60
"""Metabolic power of oxygen [W min/ml]: 20.9 kJ/L, mixed food. Source: ISO 8996:2021."""
FALLS_FROM, FALLS_BY = 1500.0, 0.105
"""Altitude from which the capacity falls [m], and the share lost for each kilometre above it.
Source: Buskirk, Kollias, Akers, Prokop & Reategui (1967), J. Appl. Physiol. 23: 3.2 % for 1,000 ft
above 5,000; from memory."""
SLOWEST = 0.1
"""A pace below this is no walking [m/s]: judgement."""


def capacity_left(altitude: Values) -> Array:
    """Share of the aerobic capacity that is left at an altitude.

    Args:
        altitude: [m].

    Returns:
        Share, 1 up to FALLS_FROM.

    Source: FALLS_BY; within 0.04 of the means of Fulco, Rock & Cymerman (1998), Aviat. Space
        Environ. Med. 69, at 4,000, 6,000 and 8,848 m, from memory.
    """
    return np.maximum(1 - FALLS_BY * np.maximum(array(altitude) - FALLS_FROM, 0.0) / 1000, 0.1)


def kept_up(mass: Values, uptake: Values, altitude: Values, share: Values) -> Array:
    """Metabolic power that somebody can keep up.

    Args:
        mass: of the body [kg].
        uptake: of oxygen at most, at sea level [ml/(min kg)].
        altitude: [m].
        share: of the capacity there that can be kept up.

    Returns:
        Power [W].

    Source: capacity_left; oxygen by WATTS.
    """
    return array(mass) * array(uptake) * WATTS * capacity_left(altitude) * array(share)


def pace_kept(
    power: Values,
    mass: Values,
    load: Values,
    slope: Values,
    terrain: Values,
    climbing: Values = 1.0,
) -> Array:
    """Pace at which a way takes a power.

    Args:
        power: [W].
        mass: of the body [kg].
        load: worn and carried [kg].
        slope: either way [%].
        terrain: factor eta.
        climbing: share of the way that climbs.

    Returns:
        Speed [m/s], at most FASTEST; 0 where even the slowest takes more.

    Source: way_power, which grows with speed, halved 24 times.
    """
    watts, *where = np.broadcast_arrays(*map(array, (power, mass, load, slope, terrain, climbing)))
    body, carried, grade, eta, up = where
    low, high = np.zeros(watts.shape), np.full(watts.shape, FASTEST)
    for _ in range(24):
        middle = (low + high) / 2
        takes = way_power(body, carried, middle, grade, eta, up)
        low, high = np.where(takes <= watts, middle, low), np.where(takes <= watts, high, middle)
    return np.where(low < SLOWEST, 0.0, low)
