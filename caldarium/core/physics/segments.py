"""The body in eleven segments: size, tissue, blood and nerves of each, for people of any size.

Arms and legs are pairs that are alike, so that each pair is one segment of twice the tissue.

Source: Takahashi, Nomoto, Yoda, Hisayama, Ogata, Ozeki & Tanabe (2021), Energy and Buildings 231,
whose anatomy is that of Stolwijk (1971) and Tanabe et al. (2002). Muscle and fat of head and pelvis
lie in their core here, and head, neck and trunk take their blood straight from the pool.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.quantities import Array

SEGMENTS = (
    "head",
    "neck",
    "chest",
    "back",
    "pelvis",
    "upper arms",
    "forearms",
    "hands",
    "thighs",
    "lower legs",
    "feet",
)
TRUNK, LIMBS = slice(0, 5), slice(5, 11)
"""Segments without vessels of their own, and arms and legs, three segments each from the trunk."""
HEAD, CHEST, HANDS, FEET = (SEGMENTS.index(each) for each in ("head", "chest", "hands", "feet"))
UNDER = np.array(
    [
        REGIONS.index(each)
        for each in ("head", "head", "trunk", "trunk", "trunk", "arms", "arms", "hands")
    ]
    + [REGIONS.index(each) for each in ("thighs", "lower legs", "feet")]
)
"""Region of clothing over each segment."""
SIDES = np.array([1, 1, 1, 1, 1, 2, 2, 2, 2, 2, 2])
STANDARD_MASS, STANDARD_HEIGHT, STANDARD_AREA = 74.43, 1.72, 1.868
"""Of the body that the figures below are of [kg, m, m²]; of pairs they are of one side."""
BLOOD_FLOW_AREA = 2.59 * 60 / 290
"""Blood that the heart moves over that of the standard body, by surface [1/m²]: cardiac index
2.59 L/(min m²) and 290 L/h."""
BLOOD_HEAT = 1.067
"""Of blood [W h/(L K)]."""


def _pairs(*values: float) -> Array:
    return np.array(values) * SIDES


AREA = _pairs(0.110, 0.029, 0.175, 0.161, 0.221, 0.096, 0.063, 0.050, 0.209, 0.112, 0.056)
"""Skin [m²]."""
CORE_CAPACITY = _pairs(
    2.2309, 0.564, 10.2975, 9.3935, 13.844, 1.6994, 1.1209, 0.1536, 5.3117, 2.867, 0.2097
)
SKIN_CAPACITY = _pairs(0.1885, 0.058, 0.441, 0.406, 0.556, 0.126, 0.084, 0.088, 0.334, 0.169, 0.107)
POOL_CAPACITY = 6.2
"""Heat capacities [W h/K]; the pool's with all vessels."""
CONDUCTANCE = _pairs(1.95, 0.909, 1.785, 1.643, 8.3, 1.501, 0.982, 2.183, 2.468, 1.326, 3.370)
"""From core to skin [W/K], 15 % fat."""
COUNTERCURRENT = 2 * np.array([[0.537, 0.351, 0.762], [0.826, 0.444, 0.992]])
VESSEL_TO_CORE = 2 * np.array([[0.586, 0.383, 1.534], [0.810, 0.435, 1.816]])
SURFACE_VEIN = 2 * np.array([[57.735, 37.768, 16.634], [102.012, 54.784, 24.277]])
"""Between artery and vein, from either to the core, and from the vein under the skin to it, of arms
and legs from the trunk outwards [W/K]."""
CORE_FLOW = _pairs(36.198, 15.240, 89.214, 87.663, 33.519, 1.808, 0.940, 0.217, 1.406, 0.164, 0.080)
SKIN_FLOW = _pairs(1.754, 0.325, 1.967, 1.475, 2.272, 0.91, 0.508, 1.114, 1.456, 0.651, 0.934)
"""Blood at rest [L/h]."""
MOST_SHUNTED = 2 * np.array([1.71, 2.16])
"""Through the shunts of hands and feet at most [L/h]."""
BASAL = _pairs(
    0.19930, 0.00324, 0.28689, 0.25677, 0.15263, 0.01435, 0.00409, 0.00106, 0.01557, 0.00422, 0.0025
)
BASAL_SKIN = _pairs(
    0.00152,
    0.00033,
    0.00211,
    0.00187,
    0.00300,
    0.00059,
    0.00031,
    0.00059,
    0.00144,
    0.00027,
    0.00118,
)
WORK = _pairs(0, 0, 0.091, 0.08, 0.129, 0.0262, 0.0139, 0.005, 0.201, 0.099, 0.005)
SHIVER = _pairs(
    0.0339,
    0.0436,
    0.27394,
    0.24102,
    0.38754,
    0.00243,
    0.00137,
    0.0002,
    0.0039,
    0.00175,
    0.00035,
)
"""Where heat is made: shares of the basal rate in core and skin, of work and of shivering."""
RECEPTORS = _pairs(
    0.0549, 0.0146, 0.1492, 0.1321, 0.2122, 0.0227, 0.0117, 0.0923, 0.0501, 0.0251, 0.0167
)
SWEAT = _pairs(0.064, 0.017, 0.146, 0.129, 0.206, 0.051, 0.026, 0.0155, 0.073, 0.036, 0.0175)
"""Shares of what the skin feels, and of sweat."""
DILATES = np.array(
    [0.0692, 0.0992, 0.0580, 0.0679, 0.0707, 0.0400, 0.0373, 0.0632, 0.0736, 0.0411, 0.0623]
)
CONSTRICTS = np.array(
    [0.0213, 0.0213, 0.0638, 0.0638, 0.0638, 0.0213, 0.0213, 0.1489, 0.0213, 0.0213, 0.1489]
)
"""How strongly the skin's vessels open and close."""


@dataclass(frozen=True)
class Anatomy:
    """N bodies, arrays over N and segments: skin [m²], capacities of core, skin and pool [W h/K],
    conductance from core to skin, and of the vessels of arms and legs [W/K, N x 2 x 3], blood flow
    over that of the standard body [N]."""

    area: Array
    core: Array
    skin: Array
    pool: Array
    conductance: Array
    countercurrent: Array
    vessel: Array
    surface_vein: Array
    flow: Array


@lru_cache(maxsize=512)
def _one(mass: float, height: float) -> tuple[Array, ...]:
    by_area = float(body_area(mass, height)) / STANDARD_AREA
    by_mass = mass / STANDARD_MASS
    sphere, cylinder = by_mass / by_area, by_area**2 / by_mass
    shape = np.array([sphere] * 2 + [cylinder] * 9)
    flow = BLOOD_FLOW_AREA * by_area * STANDARD_AREA
    return (
        AREA * by_area,
        CORE_CAPACITY * by_mass,
        SKIN_CAPACITY * by_mass,
        np.array(POOL_CAPACITY * flow),
        CONDUCTANCE * shape,
        COUNTERCURRENT * cylinder,
        VESSEL_TO_CORE * cylinder,
        SURFACE_VEIN * cylinder,
        np.array(flow),
    )


def anatomy(mass: Array, height: Array) -> Anatomy:
    """Bodies of some sizes.

    Args:
        mass: of the body [kg, N].
        height: [m, N].

    Returns:
        N bodies.

    Source: Takahashi et al. (2021): spheres and cylinders of the standard body, by mass and
        surface.
    """
    bodies = [_one(*each) for each in zip(mass.tolist(), height.tolist(), strict=True)]
    return Anatomy(*(np.stack(part) for part in zip(*bodies, strict=True)))
