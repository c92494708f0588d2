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
LONGEST_RAIN = 2.0
"""Time in rain after which a garment is as wet as it will be at that rate [h]: judgement."""
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
"""Moisture a piece loses lying in a shelter or hut [g/(h m²)]: judgement."""
DRYING_IN_BED = 30.0
"""Moisture a piece loses worn in bed [g/(h m²)]: judgement."""


def fallen(rate: Values, hours: Values, air: Values) -> Array:
    """Water that stays on whoever stands in it.

    Args:
        rate: precipitation [mm/h of water].
        hours: time in it [h].
        air: temperature [°C]; well below freezing most snow is brushed off.

    Returns:
        Depth [mm].

    Source: judgement.
    """
    depth = array(rate) * np.minimum(array(hours), LONGEST_RAIN)
    return depth * np.where(array(air) < DRY_SNOW_BELOW, DRY_SNOW_SHARE, 1.0)


def rain_taken(dress: Wardrobes, worn: Flags, depth: Array) -> Array:
    """How far rain wets each worn piece, by what lies over it.

    Args:
        dress: pieces of n people.
        worn: outfits [n x K x G].
        depth: water on each region [mm, broadcasting with n x K x 7].

    Returns:
        Wetness gained, 0 to 1 [n x K x G].

    Source: judgement; a waterproof piece keeps itself and everything under it dry.
    """
    over = worn[..., None] & dress.covers[:, None]
    shut = _outside(over & dress.waterproof[:, None, :, None])
    layers = _outside(over & ~dress.waterproof[:, None, :, None])
    reach = np.where(shut > 0, 0.0, PASSED_ON**layers)
    area = dress.cover * REGION_SHARE
    area = area / np.maximum(area.sum(axis=-1, keepdims=True), 1e-9)
    reached = ((reach * area[:, None]) * depth[..., None, :]).sum(axis=-1)
    water = np.maximum(reached - dress.repels[:, None], 0.0)
    return np.clip(np.where(worn & ~dress.waterproof[:, None], water / SOAKING_DEPTH, 0.0), 0, 1)


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
    """How deep each worn piece lies [P x M x G]: what reaches it from the skin and from the air,
    each layer between leaving the share INWARD, over the skin that it covers."""

    from_skin: Array
    from_air: Array


def depth(dress: Wardrobes, worn: Flags) -> Depth:
    """Where each piece lies among those worn with it [P x M x G]. Source: judgement, INWARD."""
    over = (worn[..., None] & dress.covers[:, None]).astype(np.int8)
    counted = over.cumsum(axis=2, dtype=np.int8)
    inside, outside = counted - over, counted[:, :, -1:] - counted
    area = dress.cover * REGION_SHARE
    area = area / np.maximum(area.sum(axis=-1, keepdims=True), 1e-9)
    share = INWARD ** np.arange(dress.places + 1)
    return Depth(
        *(np.einsum("pmgr,pgr->pmg", share.take(each), area) for each in (inside, outside))
    )


def held_back(worn: Flags, dress: Wardrobes, lies: Depth, sweat: Array, air: Array) -> Array:
    """Sweat that stays in each worn piece.

    Args:
        worn: outfits [P x M x G].
        dress: pieces of P people.
        lies: how deep each piece lies.
        sweat: leaving the skin [g/(h m²), P x M].
        air: temperature [°C, M].

    Returns:
        Moisture [g/(h m²) of the piece, P x M x G]; inner layers take most.

    Source: judgement, TAKEN_UP, more under a barrier to vapour.
    """
    barrier = np.matmul(worn.astype(float), (dress.vapour * dress.body_cover)[..., None])[..., 0]
    share = np.where(air < COLD_AIR, TAKEN_UP, TAKEN_UP * np.minimum(barrier / BARRIER, 1.0))
    share = np.minimum(share * (1 + barrier / BARRIER), 0.9)
    return np.where(worn, (share * sweat)[..., None] * INWARD * lies.from_skin, 0.0)


def kept(dress: Wardrobes, wet: Array) -> Array:
    """Share of each piece's warmth left at a wetness of 0 to 1.

    Source: judgement, the share of its material in MATERIALS, in proportion to wetness.
    """
    return 1 - wet * (1 - dress.wet_share)[:, None]
