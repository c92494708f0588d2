"""Garments and outfits: insulation of a piece, of the whole, and region by region."""

import numpy as np

from caldarium.core.physics.cold import area_factor, wind_factor
from caldarium.core.physics.quantities import CLO, Array, Values, array, within

REGIONS = ("head", "trunk", "arms", "hands", "thighs", "lower legs", "feet")
REGION_SHARE = np.array([0.07, 0.35, 0.14, 0.05, 0.19, 0.13, 0.07])
"""Share of the skin by region. Source: Hardy & DuBois (1938), J. Nutr. 15."""

THICKNESS_RANGE = (0.0, 100.0)
"""Layer thickness accepted [mm]. The regression was fitted on ordinary garments up to about
20 mm; thicker loft is extended on the same line, about 0.048 W/(m K), and marked an estimate."""
_SUM_OFFSET, _SUM_SLOPE, _GARMENT_OFFSET = 0.161, 0.835, 0.0549


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
    clo = (0.534 + 0.135 * millimetres) * share - _GARMENT_OFFSET
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


def layer_on_region(garment_clo: Values, body_cover: Values, region_cover: Values) -> Array:
    """Local insulation of one garment over each region.

    The garment formula is turned round: what a piece of this thickness would add if it covered
    everything, times the share of the region that it does cover.

    Args:
        garment_clo: effective insulation on the whole body [clo].
        body_cover: share of the body's skin covered.
        region_cover: share of each region covered, last axis of length 7.

    Returns:
        Local layer insulation [clo] by region.

    Source: the garment formula of ASHRAE Fundamentals ch. 9, inverted; the local use is ours.
    """
    share = array(body_cover)
    full = (array(garment_clo) + _GARMENT_OFFSET) / share - _GARMENT_OFFSET
    return np.maximum(full, 0.0)[..., np.newaxis] * array(region_cover)


def region_insulation(layers: Values) -> Array:
    """Basic insulation over each region from the summed layers there.

    The same line as for whole outfits, so that an outfit that covers everything evenly has the
    same figure by region and whole; a region with almost nothing on goes to zero without a step.

    Args:
        layers: summed local layer insulation [clo].

    Returns:
        Basic insulation [clo].

    Source: ASHRAE Fundamentals ch. 9 ensemble line; the local use is ours.
    """
    summed = array(layers)
    return _SUM_SLOPE * summed + np.minimum(summed, _SUM_OFFSET)


def total_insulation(
    basic: Values, air_speed: Values, walking_speed: Values, permeability: Values
) -> Array:
    """Clothing and air layer together in wind and movement.

    Args:
        basic: basic insulation [m² K/W].
        air_speed: relative [m/s].
        walking_speed: [m/s].
        permeability: of the outermost layer there [l/(m² s)].

    Returns:
        Total insulation [m² K/W].

    Source: ISO 11079:2007, annex A.
    """
    still = array(basic)
    return (still + 0.085 / area_factor(still)) * wind_factor(
        air_speed, walking_speed, permeability
    )


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
