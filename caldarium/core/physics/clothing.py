"""Garments and outfits: insulation of a piece, of the whole, and region by region."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics import cold
from caldarium.core.physics.quantities import CLO, Array, Values, array, within

STILL_LAYER = 0.085
"""Air layer on a body at rest in still air [m² K/W]. Source: ISO 11079:2007."""
REGIONS = ("head", "trunk", "arms", "hands", "thighs", "lower legs", "feet")
REGION_SHARE = np.array([0.07, 0.35, 0.14, 0.05, 0.19, 0.13, 0.07])
"""Share of the skin by region. Source: Hardy & DuBois (1938), J. Nutr. 15."""

SMALL = np.array([True, False, False, True, False, False, True])
"""Regions that are thin or small: head, hands, feet."""
RADIUS = np.array([0.09, 0.14, 0.045, 0.025, 0.075, 0.05, 0.03])
"""Radius of a cylinder about as thick as each region [m]: judgement on ordinary bodies."""
CONDUCTIVITY = 0.048
"""Of still-air insulation as thick as the garment formula has it [W/(m K)]. Source: the slope of
that formula, 0.135 clo a millimetre."""

THICKNESS_RANGE = (0.0, 100.0)
"""Layer thickness accepted [mm]."""
FULL_LOFT = 8.0
"""Thickness to which a ruler's millimetres count whole; beyond it half, for seams, quilting and the
weight of what lies over it [mm]: judgement, held against whole arctic sets."""
_SUM_OFFSET, _SUM_SLOPE = 0.161, 0.835
_GARMENT_BASE, _GARMENT_SLOPE, _GARMENT_OFFSET = 0.534, 0.135, 0.0549
_WHOLE_COVER = 0.3
"""Share of the body from which the offset of the garment line holds; below it falls in proportion,
or small pieces would be made too warm where they are: judgement."""
_SMALL_BASE = 0.25
"""What a piece is worth before its thickness on head, hands and feet [clo]: judgement, hardly any
air is caught under it there."""
_CAUGHT = 0.2
"""Air caught between layers, at most [clo]: judgement, near the offset of the ensemble line."""


def garment_insulation(thickness: Values, cover: Values) -> Array:
    """Insulation a garment adds to the whole body, from a ruler and the share it covers.

    Args:
        thickness: of the layer [mm], above 0 to 100.
        cover: share of the body's skin covered, above 0 to 1.

    Returns:
        Effective insulation I_clu [clo], not below 0; NaN outside those ranges.

    Source: McCullough, Jones & Huck (1985), in ASHRAE Fundamentals ch. 9.
    """
    millimetres, share = array(thickness), array(cover)
    known = (
        (millimetres > THICKNESS_RANGE[0])
        & (millimetres <= THICKNESS_RANGE[1])
        & (share > 0)
        & (share <= 1)
    )
    clo = (_GARMENT_BASE + _GARMENT_SLOPE * millimetres) * share - _GARMENT_OFFSET
    return within(np.maximum(clo, 0.0), known)


def ensemble_insulation(garments: Values) -> Array:
    """Basic insulation of a whole outfit from its garments.

    Args:
        garments: insulation of each garment [clo], along the last axis.

    Returns:
        I_cl [clo]; 0 for no garment at all.

    Source: McCullough, Jones & Huck (1985), in ASHRAE Fundamentals ch. 9 and ISO 9920:2007.
    """
    pieces = array(garments)
    total = pieces.sum(axis=-1)
    return np.where(total > 0, _SUM_OFFSET + _SUM_SLOPE * total, 0.0)


def worn_loft(thickness: Values) -> Array:
    """Thickness that a layer has where it is worn.

    Args:
        thickness: by the ruler, lying flat [mm].

    Returns:
        Thickness [mm]; half of what is beyond FULL_LOFT.

    Source: judgement, see FULL_LOFT.
    """
    loft = array(thickness)
    return np.minimum(loft, FULL_LOFT) + np.maximum(loft - FULL_LOFT, 0.0) / 2


def ruler_on_regions(thickness: Values) -> Array:
    """Insulation of a measured layer over the skin that it covers, as if flat.

    Args:
        thickness: of the layer [mm].

    Returns:
        Local insulation [clo] by region, last axis of length 7.

    Source: the garment formula of ASHRAE Fundamentals ch. 9 at full cover, with worn_loft; less
        base on small regions: judgement.
    """
    loft = worn_loft(thickness)
    base = np.where(SMALL, _SMALL_BASE, _GARMENT_BASE - _GARMENT_OFFSET)
    return base + _GARMENT_SLOPE * loft[..., np.newaxis]


def layer_on_region(garment_clo: Values, body_cover: Values, region_cover: Values) -> Array:
    """Local insulation of one garment of a table over each region, as if flat.

    The garment formula is turned round: what a piece of this thickness would add if it covered
    everything, times the share of the region that it does cover.

    Args:
        garment_clo: effective insulation on the whole body [clo].
        body_cover: share of the body's skin covered.
        region_cover: share of each region covered, last axis of length 7.

    Returns:
        Local layer insulation [clo] by region.

    Source: the garment formula of ASHRAE Fundamentals ch. 9, inverted; the local use, and an offset
        that falls with small cover, are ours.
    """
    share = array(body_cover)
    offset = _GARMENT_OFFSET * np.minimum(1.0, share / _WHOLE_COVER)
    full = (array(garment_clo) + offset) / share - _GARMENT_OFFSET
    return np.maximum(full, 0.0)[..., np.newaxis] * array(region_cover)


def bent(flat: Values, radius: Values) -> Array:
    """Insulation of a layer bent round a cylinder, for the skin under it.

    Args:
        flat: the same layer on a flat surface [m² K/W].
        radius: of the bare cylinder [m].

    Returns:
        Insulation [m² K/W]; always less than flat.

    Source: steady conduction through a cylinder of CONDUCTIVITY.
    """
    bare = array(radius)
    return bare / CONDUCTIVITY * np.log1p(array(flat) * CONDUCTIVITY / bare)


def region_insulation(layers: Values) -> Array:
    """Basic insulation over each region from the summed layers there, bent round it.

    Args:
        layers: summed local layer insulation as if flat [clo], last axis of length 7.

    Returns:
        Basic insulation [clo]; a region with almost nothing on goes to zero without a step.

    Source: bent with RADIUS; air between layers up to _CAUGHT: judgement in place of the ensemble
        line, whose slope of 0.835 allows for the compression that bending already has.
    """
    summed = array(layers)
    return bent((summed + np.minimum(summed, _CAUGHT)) * CLO, RADIUS) / CLO


NORMAL_TO = 3.3
"""Air speed at which the equation for ordinary clothing is lowest; from there on its fall is that
of ISO 11079 [m/s]."""
LIGHT, ORDINARY, HEAVY = 0.6, 1.4, 2.0
"""Insulation of outfits below which the air layer takes over, up to which the equation for ordinary
clothing holds, and from which that of cold protective clothing does [clo]."""
OPEN_CLOTH, SHUT_CLOTH = 100.0, 10.0
"""Air permeability of the outer piece from which an outfit loses as ordinary clothing does, and to
which as cold protective clothing [l/(m² s)]: judgement, between them by the logarithm."""


def ordinary_factor(air_speed: Values, walking_speed: Values) -> Array:
    """Share of the still total insulation that wind and movement leave of ordinary clothing.

    Args:
        air_speed: relative [m/s].
        walking_speed: [m/s], 0 to 1.2.

    Returns:
        Share, 0 to 1.

    Source: ISO 9920:2007, clothing of 0.6 to 1.4 clo, air of 0.15 to 3.5 m/s; held beyond
        NORMAL_TO, where it would turn up.
    """
    wind = np.clip(array(air_speed), 0.15, NORMAL_TO) - 0.15
    walking = array(walking_speed)
    factor = np.exp(-0.281 * wind + 0.044 * wind**2 - 0.492 * walking + 0.176 * walking**2)
    return np.minimum(factor, 1.0)


def moving_factor(
    outfit: Values, air_speed: Values, walking_speed: Values, permeability: Values
) -> Array:
    """Share of the still total insulation that wind and movement leave, for any outfit.

    Args:
        outfit: still insulation of the whole outfit [clo].
        air_speed: relative [m/s].
        walking_speed: [m/s].
        permeability: of the outermost layer there [l/(m² s)].

    Returns:
        Share, 0 to 1.

    Source: ISO 9920:2007 for ordinary clothing, ISO 11079:2007 annex A for cold protective
        clothing; between them by the outfit's insulation and by how shut its outer piece is,
        judgement.
    """
    speed, shut = array(air_speed), array(permeability)
    speeds = (speed, np.minimum(speed, NORMAL_TO))
    protective, held = cold.wind_factors(speeds, walking_speed, shut)
    ordinary = ordinary_factor(speed, walking_speed) * protective / held
    thick = np.clip((array(outfit) - ORDINARY) / (HEAVY - ORDINARY), 0.0, 1.0)
    tight = np.clip(np.log(OPEN_CLOTH / shut) / np.log(OPEN_CLOTH / SHUT_CLOTH), 0.0, 1.0)
    share = 1 - (1 - thick) * (1 - tight)
    return ordinary + share * (protective - ordinary)


@dataclass(frozen=True)
class Moving:
    """Relative air speed and walking speed [m/s], arrays of one shape."""

    air_speed: Array
    walking_speed: Array


def total_insulation(basic: Values, where: Moving, permeability: Values) -> Array:
    """Clothing and air layer together in wind and movement, by region.

    Args:
        basic: still basic insulation by region [m² K/W], last axis of length 7.
        where: wind and movement.
        permeability: of the outermost layer there [l/(m² s)].

    Returns:
        Total insulation [m² K/W], never less than the bare air layer's.

    Source: moving_factor; outfits below LIGHT lie between the air layer of ISO 11079:2007 and
        clothing in proportion, as ISO 9920:2007 has it.
    """
    still = array(basic)
    whole = still + STILL_LAYER / cold.area_factor(still)
    outfit = uniform_equivalent(whole, STILL_LAYER)[..., np.newaxis] / CLO
    speed, walking = where.air_speed[..., np.newaxis], where.walking_speed[..., np.newaxis]
    bare = cold.air_layer(speed, walking)
    clothed = whole * moving_factor(outfit, speed, walking, permeability)
    light = np.minimum(outfit / LIGHT, 1.0)
    return np.maximum(bare + light * (clothed - bare), bare)


def uniform_equivalent(totals: Values, layer: Values) -> Array:
    """Clothing that, worn evenly, would lose the same heat as these regions in parallel.

    Args:
        totals: total insulation by region [m² K/W], last axis of length 7.
        layer: insulation of the bare air layer [m² K/W].

    Returns:
        Resultant clothing insulation [m² K/W], not below 0.

    Source: parallel heat paths over the regions of Hardy & DuBois (1938); the air layer lies on
        the enlarged surface as in ISO 11079:2007.
    """
    whole = 1 / (REGION_SHARE / array(totals)).sum(axis=-1)
    bare = array(layer)
    slope = 1.197
    half = 1 - slope * whole
    root = np.sqrt(np.maximum(half**2 - 4 * slope * (bare - whole), 0.0))
    return np.maximum((root - half) / (2 * slope), 0.0)


def to_clo(resistance: Values) -> Array:
    """Insulation in clo from m² K/W. Source: Gagge, Burton & Bazett (1941)."""
    return array(resistance) / CLO


def from_clo(clo: Values) -> Array:
    """Insulation in m² K/W from clo. Source: Gagge, Burton & Bazett (1941)."""
    return array(clo) * CLO
