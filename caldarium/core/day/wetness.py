"""What water does to clothing: how much each material takes up, and what warmth it then keeps.

Rain, wet scrub, a ford and sweat wet the pieces that are worn; body heat dries them again. Shares,
capacities and rates are judgement, named and kept together here: no standard gives them.
"""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.clothing import REGION_SHARE
from caldarium.core.physics.quantities import Array, Flags, Values, array
from caldarium.core.plan.wardrobe import Wardrobes

SOAKING_DEPTH = 4.0
"""Rain on an unprotected garment that counts as soaked [mm]: judgement."""
FALLS_ON = np.array([0.5, 0.2, 0.25, 0.2, 0.1, 0.1, 0.4])
"""Share of what falls on flat ground that falls on each region from above: judgement on the
outline of somebody walking seen from there."""
FACES = 1 / np.pi
"""Of what drives against a wall that faces it, what a cylinder gets by its surface. Source: a
cylinder's width over its girth."""
RECKONED = 0.3
"""What a piece of cloth gets of the rain by which its soaking depth is reckoned: walking in light
wind, judgement."""
OUT_AT_CAMP = 1.0
"""Time at a camp spent outside, pitching and fetching, before people are under a roof [h]:
judgement."""
DRY_SNOW_BELOW = -2.0
"""Air temperature below which snow mostly falls off before it melts [°C]: judgement."""
DRY_SNOW_SHARE = 0.25
PASSED_ON = 0.5
"""Share of rain that a layer which is not waterproof lets through: judgement."""
SCRUB_MM = 6.0
"""What brushing wet vegetation brings, as rain [mm/h]: judgement."""
SCRUB_REGIONS = np.array([0.0, 0.1, 0.3, 0.5, 1.0, 1.0, 1.0])
FORD_REGIONS = np.array([0.0, 0.0, 0.0, 0.0, 0.2, 1.0, 1.0])
"""Share of each region under water in a ford, knee deep with the boots on: judgement."""
TAKEN_UP = 0.35
"""Share of the sweat that clothing in cold air holds back as moisture: judgement."""
COLD_AIR = 10.0
"""Air above which sweat passes through ordinary clothing [°C]: judgement."""
BARRIER = 25.0
"""Extra vapour resistance that doubles what is held back [m² Pa/W]: judgement."""
INWARD = 0.5
"""Share of the moisture on its way out that each layer leaves to the next: judgement."""
DRYING = 60.0
"""Moisture given back to dry air, worn [g/(h m²)]: judgement."""
DRYING_ASIDE = 12.0
"""Moisture a piece loses lying in a shelter [g/(h m²)]: judgement."""
DRYING_IN_HUT = 40.0
"""And hung up in a hut by a stove [g/(h m²)]: judgement."""
LAID_OUT_FROM = 0.5
"""A stop of so long is one at which wet things are laid out [h]: judgement."""


def driving_rain(rate: Values, wind: Values) -> Array:
    """Rain that drives against a wall which faces it.

    Args:
        rate: on flat ground [mm/h].
        wind: there [m/s].

    Returns:
        Rain [mm/h of wall].

    Source: ISO 15927-3:2009, airfield index, from memory.
    """
    return 2 / 9 * array(wind) * array(rate) ** (8 / 9)


def on_regions(depth: Values, hours: Values, wind: Values, air: Values) -> Array:
    """Water that stays on each region of whoever stands or walks in it.

    Args:
        depth: fallen on flat ground [mm of water].
        hours: in which it fell [h].
        wind: felt, walking included [m/s].
        air: temperature [°C]; well below freezing most snow is brushed off.

    Returns:
        Depth by region [mm, last axis of length 7], in rain as soaking depths are reckoned.

    Source: driving_rain and FALLS_ON; the brushing off is judgement.
    """
    fell = array(depth)
    rate = fell / np.maximum(array(hours), 1e-9)
    drives = driving_rain(rate, wind) * array(hours) * FACES
    reaches = fell[..., None] * FALLS_ON + np.where(fell > 0, drives, 0.0)[..., None]
    stays = np.where(array(air) < DRY_SNOW_BELOW, DRY_SNOW_SHARE, 1.0)
    return reaches / RECKONED * stays[..., None]


@dataclass(frozen=True)
class Roles:
    """Pieces that are worn whatever else is, and those that get wet by their role [n x K x G]."""

    least: Flags
    role: Flags


def rain_reached(dress: Wardrobes, roles: Roles, depth: Array) -> Array:
    """Rain that reaches pieces, by what of the least outfit lies over them.

    Args:
        dress: pieces of n people.
        roles: over n x K.
        depth: water on each region [mm, broadcasting with n x K x 7].

    Returns:
        Depth over the piece [mm, n x K x G]; none on a waterproof one.

    Source: judgement; a waterproof piece keeps itself and everything under it dry.
    """
    over = roles.least[..., None] & dress.covers[:, None]
    shut = _outside(over & dress.waterproof[:, None, :, None])
    layers = _outside(over & ~dress.waterproof[:, None, :, None])
    reach = np.where(shut > 0, 0.0, PASSED_ON**layers)
    area = dress.cover * REGION_SHARE
    area = area / np.maximum(area.sum(axis=-1, keepdims=True), 1e-9)
    reached = ((reach * area[:, None]) * depth[..., None, :]).sum(axis=-1)
    return np.where(roles.role & ~dress.waterproof[:, None], reached, 0.0)


def wetted(dress: Wardrobes, reached: Array, shed: Array) -> Array:
    """How far rain wets pieces that have shed some already.

    Args:
        dress: pieces of n people.
        reached: what reaches them now [mm, n x K x G].
        shed: what has since they were dry [mm, n x K x G].

    Returns:
        Wetness gained, the same in one shower or in two [n x K x G].

    Source: judgement, SOAKING_DEPTH.
    """
    repels = dress.repels[:, None]
    gone = np.maximum(shed + reached - repels, 0.0) - np.maximum(shed - repels, 0.0)
    return gone / SOAKING_DEPTH


def _outside(over: Flags) -> Array:
    """Pieces over each piece and region, counted from the outside in [n x K x G x 7]."""
    counted = over[..., ::-1, :].cumsum(axis=-2)[..., ::-1, :]
    return counted - over


def under_water(dress: Wardrobes) -> Array:
    """How far a ford soaks each piece where it is worn, 0 to 1 [P x G].

    Source: judgement, FORD_REGIONS; water comes in over the top of any boot.
    """
    area = dress.cover * REGION_SHARE
    return (area @ FORD_REGIONS) / np.maximum(area.sum(axis=-1), 1e-9)


@dataclass(frozen=True)
class Depth:
    """How deep each piece lies [P x M x G]: what reaches it from the skin and from the air,
    each layer between leaving the share INWARD, over the skin that it covers."""

    from_skin: Array
    from_air: Array


def depth(dress: Wardrobes, least: Flags) -> Depth:
    """Where each piece lies among the least outfit [P x M x G]. Source: judgement, INWARD."""
    over = (least[..., None] & dress.covers[:, None]).astype(np.int8)
    counted = over.cumsum(axis=2, dtype=np.int8)
    inside, outside = counted - over, counted[:, :, -1:] - counted
    area = dress.cover * REGION_SHARE
    area = area / np.maximum(area.sum(axis=-1, keepdims=True), 1e-9)
    share = INWARD ** np.arange(dress.places + 1)
    return Depth(
        *(np.einsum("pmgr,pgr->pmg", share.take(each), area) for each in (inside, outside))
    )


def held_back(roles: Roles, dress: Wardrobes, lies: Depth, sweat: Array, air: Array) -> Array:
    """Sweat that stays in each piece.

    Args:
        roles: over P and M.
        dress: pieces of P people.
        lies: how deep each piece lies.
        sweat: leaving the skin [g/(h m²), P x M].
        air: temperature [°C, M].

    Returns:
        Moisture [g/(h m²) of the piece, P x M x G]; inner layers take most.

    Source: judgement, TAKEN_UP, more under a barrier to vapour.
    """
    barrier = np.matmul(roles.least.astype(float), (dress.vapour * dress.body_cover)[..., None])[
        ..., 0
    ]
    share = np.where(air < COLD_AIR, TAKEN_UP, TAKEN_UP * np.minimum(barrier / BARRIER, 1.0))
    share = np.minimum(share * (1 + barrier / BARRIER), 0.9)
    return np.where(roles.role, (share * sweat)[..., None] * INWARD * lies.from_skin, 0.0)


def kept(dress: Wardrobes, wet: Array) -> Array:
    """Share of each piece's warmth left at a wetness of 0 to 1.

    Source: judgement, the share of its material in MATERIALS, in proportion to wetness.
    """
    return 1 - wet * (1 - dress.wet_share)[:, None]
