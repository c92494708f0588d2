"""Shelters: how much warmer it is inside, and whether the walls stand the night's gusts."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.quantities import Array, Values, array


@dataclass(frozen=True)
class ShelterClass:
    """Lift of a calm night with every place taken [K], and wind that reaches the sleeper."""

    lift: float
    wind_share: float
    floor: float | None
    source: str


_JUDGED = "judgement, within common practice, no published source"
SHELTER_CLASSES = {
    "double skin": ShelterClass(4.0, 0.05, None, _JUDGED),
    "single skin": ShelterClass(2.5, 0.1, None, _JUDGED),
    "tarp": ShelterClass(0.0, 0.5, None, _JUDGED),
    "hammock tarp": ShelterClass(0.0, 0.6, None, _JUDGED),
    "bivouac bag": ShelterClass(2.0, 0.1, None, _JUDGED),
    "group shelter": ShelterClass(6.0, 0.1, None, _JUDGED + ": sitting close in one bag"),
    "snow shelter": ShelterClass(0.0, 0.0, -5.0, _JUDGED + ": holds near -5 °C"),
    "igloo": ShelterClass(0.0, 0.0, -4.0, _JUDGED + ": holds near -4 °C"),
    "bothy": ShelterClass(2.0, 0.05, None, _JUDGED + ": stone walls, no stove"),
    "hut": ShelterClass(6.0, 0.0, None, _JUDGED),
}


def thermal_lift(kind: str, taken: int, places: int, outside: Values, wind: Values) -> Array:
    """Inside over outside temperature of an occupied shelter: a simple figure for now.

    Args:
        kind: a key of SHELTER_CLASSES.
        taken: sleepers inside.
        places: places it has.
        outside: air temperature [°C].
        wind: at the walls [m/s]; it flushes the warmth out.

    Returns:
        Lift [K].

    Source: judgement; 3 to 5 K for two in a closed double-skin tent on a calm night is common
        practice, no published source.
    """
    shape = SHELTER_CLASSES[kind]
    full = min(taken / places, 1.0) if places else 0.0
    lift = shape.lift * full / (1 + 0.1 * array(wind))
    if shape.floor is not None:
        lift = np.maximum(lift, shape.floor - array(outside))
    return lift
