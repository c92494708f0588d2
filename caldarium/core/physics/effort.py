"""Heat made by the body: walking with a load, and the quiet hours."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.quantities import MET, Array, Values, array, within

FASTEST, STEEPEST = 2.4, 40.0
"""Ends of the walking formula: speed [m/s] and slope either way [%]."""
STANDING = 1.44
"""Metabolic power of standing [W/kg]. Source: Looney et al. (2019)."""
GRAVITY = 9.81
TERRAIN = {
    "hard": 1.0,
    "track": 1.1,
    "light brush": 1.2,
    "heavy brush": 1.5,
    "bog": 1.8,
    "loose sand": 2.1,
}
"""Terrain factors eta. Source: Pandolf, Givoni & Goldman (1977); Soule & Goldman (1972)."""


@dataclass(frozen=True)
class RestingClass:
    """A quiet activity and its metabolic rate [met]."""

    met: float
    source: str


_CLASSES = "ISO 8996:2021 and ASHRAE Fundamentals ch. 9, classes; value within the class: judgement"
RESTING = {
    "asleep": RestingClass(0.75, _CLASSES),
    "seated": RestingClass(1.0, _CLASSES),
    "standing": RestingClass(1.2, _CLASSES),
    "sitting in camp": RestingClass(1.2, _CLASSES + ": sitting, cooking, fetching"),
    "camp work": RestingClass(1.8, _CLASSES),
    "packing up": RestingClass(1.8, _CLASSES),
    "setting out": RestingClass(2.0, _CLASSES),
}


def snow_terrain_factor(sinkage: Values) -> Array:
    """Terrain factor of snow.

    Args:
        sinkage: depth of the footprint [cm], 0 to 35.

    Returns:
        Factor eta; NaN outside that range.

    Source: Pandolf, Haisman & Goldman (1976), Ergonomics 19.
    """
    depth = array(sinkage)
    return within(1.30 + 0.082 * depth, (depth >= 0) & (depth <= 35))


def body_area(body_mass: Values, height: Values) -> Array:
    """Surface area of the body.

    Args:
        body_mass: [kg], 25 to 200.
        height: [m], 1.2 to 2.3.

    Returns:
        Area [m²]; NaN outside those ranges.

    Source: DuBois & DuBois (1916), Arch. Intern. Med. 17.
    """
    mass, tall = array(body_mass), array(height)
    known = (mass >= 25) & (mass <= 200) & (tall >= 1.2) & (tall <= 2.3)
    area = 0.202 * np.where(known, mass, 70) ** 0.425 * np.where(known, tall, 1.75) ** 0.725
    return within(area, known)


def standing_power(body_mass: Values, load: Values) -> Array:
    """Metabolic power of standing with a load.

    Args:
        body_mass: body without load [kg].
        load: worn and carried [kg].

    Returns:
        Power [W].

    Source: standing term of Looney et al. (2019); for the load, that of Pandolf, Givoni & Goldman
        (1977), J. Appl. Physiol. 43.
    """
    mass, carried = array(body_mass), array(load)
    return STANDING * mass + 2.0 * (mass + carried) * (carried / mass) ** 2


def walking_power(
    body_mass: Values, load: Values, speed: Values, grade: Values, terrain: Values = 1.0
) -> Array:
    """Metabolic power of walking with a load, uphill and downhill.

    Args:
        body_mass: body without load [kg], 25 to 200.
        load: worn and carried [kg], 0 to the body's own mass.
        speed: [m/s], 0 to 2.4.
        grade: slope [%], -40 to 40; negative is downhill.
        terrain: factor eta, 1 or more.

    Returns:
        Power [W], never below standing with that load; NaN outside those ranges.

    Source: Looney et al. (2019), Med. Sci. Sports Exerc. 51, with its graded term, on body and
        load together; standing under a load and the terrain factor by the terms of Pandolf, Givoni
        & Goldman (1977), J. Appl. Physiol. 43. That the ground costs by what Pandolf's own speed
        and climbing terms say, and leaves the slow term alone, is ours.
    """
    mass, carried, pace = array(body_mass), array(load), array(speed)
    slope, eta = array(grade), array(terrain)
    known = (
        (mass >= 25)
        & (mass <= 200)
        & (carried >= 0)
        & (carried <= mass)
        & (pace >= 0)
        & (pace <= FASTEST)
        & (np.abs(slope) <= STEEPEST)
        & (eta >= 1)
    )
    mass, pace = np.where(known, mass, 70.0), np.where(known, pace, 0.0)
    slope = np.where(known, slope, 0.0)
    total = mass + np.where(known, carried, 0.0)
    level = 1.94 * pace**0.43 + 0.24 * pace**4
    graded = 0.34 * pace * slope * (1 - 1.05 ** (1 - 1.1 ** (slope + 32)))
    ground = (eta - 1) * (1.5 * pace**2 + 0.35 * pace * np.maximum(slope, 0.0))
    standing = standing_power(mass, np.where(known, carried, 0.0))
    power = standing + total * (level + graded + ground)
    return within(np.maximum(power, standing), known)


def way_power(
    body_mass: Values,
    load: Values,
    speed: Values,
    slope: Values,
    terrain: Values,
    climbing: Values,
) -> Array:
    """Metabolic power of a way that goes up and down at one slope.

    Args:
        body_mass: body without load [kg].
        load: worn and carried [kg].
        speed: [m/s].
        slope: either way [%], 0 or more.
        terrain: factor eta.
        climbing: share of the way that climbs.

    Returns:
        Power [W]; NaN where walking_power is.

    Source: walking_power, up and down by their share of the way.
    """
    up, down = (
        walking_power(body_mass, load, speed, side * array(slope), terrain) for side in (1, -1)
    )
    share = array(climbing)
    return share * up + (1 - share) * down


def climbing_power(mass: Values, speed: Values, grade: Values) -> Array:
    """Power that climbing stores as height, given back as heat on the way down.

    Args:
        mass: of body and load [kg].
        speed: along the way [m/s].
        grade: slope [%]; negative is downhill.

    Returns:
        Power [W], negative downhill.

    Source: mass times gravity times rise a second; its place in the heat balance as the external
        work of ISO 11079:2007.
    """
    slope = array(grade) / 100
    return array(mass) * GRAVITY * array(speed) * slope / np.hypot(1.0, slope)


def resting_rate(activity: str) -> float:
    """Metabolic rate of a quiet activity.

    Args:
        activity: a key of RESTING.

    Returns:
        Rate [W/m²].

    Raises:
        KeyError: for an activity that is not listed.

    Source: ISO 8996:2021 classes.
    """
    return RESTING[activity].met * MET
