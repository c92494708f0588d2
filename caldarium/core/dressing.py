"""Dressing: which of the carried pieces are worn at each moment, and what they are worth there.

Pieces go on along one ladder (hands and head, then middle layers, then insulation), shells when
rain or wind asks for them. Among the rungs the outfit nearest to neutral without passing it is
worn; where that would be a gap, the next rung up.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from caldarium.core import cold
from caldarium.core.clothing import (
    REGION_SHARE,
    REGIONS,
    garment_insulation,
    layer_on_region,
    region_insulation,
    total_insulation,
    uniform_equivalent,
)
from caldarium.core.course import Course, Garment, Person
from caldarium.core.moments import Moment
from caldarium.core.quantities import CLO, Array, Flags
from caldarium.core.wetness import DRY_SHARE, soaking

BARE_PERMEABILITY = 1000.0
"""Outermost 'layer' of a bare region [l/(m² s)]: as open as a loose knit. Judgement."""
SHELL_WIND = 5.0
"""Wind at the body from which a shell is worn [m/s]: judgement."""
SHELL_RAIN = 0.1
"""Rain from which a shell is worn [mm/h]: judgement."""
LAYER_ORDER = {"base": 0, "mid": 1, "insulation": 2, "shell": 3}
LARGE_REGIONS = ~np.isin(np.array(REGIONS), ["hands", "head", "feet"])
BAG_REGIONS = np.array([0.0, 1.0, 1.0, 0.5, 1.0, 1.0, 1.0])
BAG_PERMEABILITY = 50.0
BAG_IN_HOLD = 0.6
"""Share of a bag's rated insulation that it keeps round a sitting person: judgement."""


@dataclass(frozen=True)
class Wardrobe:
    """A person's pieces as arrays over G garments, in order from skin to air.

    local [clo, G x 7], clo [G], permeability [l/(m² s), G], covers [G x 7, bool].
    """

    garments: tuple[Garment, ...]
    local: Array
    clo: Array
    permeability: Array
    covers: Flags
    waterproof: Flags
    wet_share: Array
    base: Flags
    shell: Flags


def wardrobe(person: Person) -> Wardrobe:
    """A person's garments, ordered from skin to air and by warmth within a layer.

    Source: insulation by core.clothing.
    """
    measured = {piece.id: garment_clo(piece) for piece in person.garments}
    ordered = sorted(
        person.garments, key=lambda piece: (LAYER_ORDER[piece.layer], measured[piece.id])
    )
    first_of_kind = _first_worn(person.garments, "base") | _first_worn(person.garments, "shell")
    clo = np.array([measured[piece.id] for piece in ordered])
    cover = np.array([[piece.cover.get(region, 0.0) for region in REGIONS] for piece in ordered])
    cover = cover.reshape(len(ordered), len(REGIONS))
    where_worn = np.array([local_clo(piece) for piece in ordered])
    local = where_worn[:, None] * cover if ordered else cover
    return Wardrobe(
        garments=tuple(ordered),
        local=local,
        clo=clo,
        permeability=np.array([piece.air_permeability for piece in ordered]),
        covers=cover >= 0.3,
        waterproof=np.array([piece.waterproof for piece in ordered], dtype=bool),
        wet_share=np.array([DRY_SHARE[piece.material] for piece in ordered]),
        base=np.array([p.layer == "base" and p.id in first_of_kind for p in ordered], dtype=bool),
        shell=np.array([p.layer == "shell" and p.id in first_of_kind for p in ordered], dtype=bool),
    )


@lru_cache(maxsize=4096)
def _clo_from_ruler(thickness: float, cover: float) -> float:
    return float(garment_insulation(thickness, cover))


def garment_clo(piece: Garment) -> float:
    """Effective insulation of a piece on the whole body [clo], tabulated or from its thickness.

    Source: ISO 9920:2007 tables, or McCullough et al. in ASHRAE Fundamentals ch. 9.
    """
    if piece.clo is not None:
        return piece.clo
    assert piece.thickness_mm is not None
    return _clo_from_ruler(piece.thickness_mm, piece.body_cover)


def local_clo(piece: Garment) -> float:
    """Insulation of a piece over the skin it covers [clo].

    Small pieces hardly count on the whole body and yet are thick where they are: a thickness is
    taken for full cover, a tabulated figure is turned round by the share of the body covered.

    Source: McCullough et al. in ASHRAE Fundamentals ch. 9; the local use is ours.
    """
    if piece.thickness_mm is not None:
        return _clo_from_ruler(piece.thickness_mm, 1.0)
    assert piece.clo is not None
    return float(layer_on_region(piece.clo, piece.body_cover, 1.0).item())


def _first_worn(garments: tuple[Garment, ...], layer: str) -> set[str]:
    """Of pieces in one layer that would lie over the same region, the first listed is worn."""
    taken: set[str] = set()
    chosen: set[str] = set()
    for piece in garments:
        if piece.layer != layer or piece.only_asleep:
            continue
        regions = {region for region, share in piece.cover.items() if share >= 0.3}
        if not regions & taken:
            chosen.add(piece.id)
            taken |= regions
    return chosen


@dataclass(frozen=True)
class Air:
    """The moments of a course as arrays over M, for dressing."""

    moments: tuple[Moment, ...]
    where: cold.Exposure
    soaking: Array
    stormy: Flags
    held: Flags


def moment_air(moments: tuple[Moment, ...], rates: Array, air_speed: Array, pace: Array) -> Air:
    """What a person meets at each moment, given metabolic rates [W/m²] and speeds [m/s].

    Source: ISO 11079:2007 lower bounds of air speed (0.4 m/s) and rate (58 W/m²) are applied.
    """
    values = {
        name: np.array([getattr(moment, name) for moment in moments])
        for name in ("air", "humidity", "precipitation", "hours", "body_wind")
    }
    where = cold.exposure(
        values["air"], np.clip(air_speed, 0.4, 18), values["humidity"],
        np.clip(rates, 58, 400), pace,
    )  # fmt: skip
    return Air(
        moments=moments,
        where=where,
        soaking=soaking(values["precipitation"], values["hours"], values["air"]),
        stormy=(values["precipitation"] > SHELL_RAIN) | (values["body_wind"] >= SHELL_WIND),
        held=np.array([moment.kind == "hold" for moment in moments], dtype=bool),
    )


def candidates(person: Person, dress: Wardrobe, air: Air) -> Flags:
    """Outfits along the ladder, from least to most, [M x K x G].

    Source: order of dressing is common practice, no published source.
    """
    moments = air.moments
    at_camp = np.array([m.kind in ("camp", "dawn", "night") for m in moments], dtype=bool)
    count = len(dress.garments)
    awake = np.array([not piece.only_asleep for piece in dress.garments], dtype=bool)
    shy = np.array([piece.only_at_camp for piece in dress.garments], dtype=bool)
    always = np.array([piece.always for piece in dress.garments], dtype=bool)
    forced = ((dress.base & ~shy) | always) & awake
    forced = np.broadcast_to(forced, (len(moments), count)).copy()
    forced |= dress.shell & air.stormy[:, None]
    outer = np.array([piece.layer != "base" for piece in dress.garments], dtype=bool)
    optional = awake & ~dress.base & ~always & outer
    shells = np.array([piece.layer == "shell" for piece in dress.garments], dtype=bool)
    optional &= ~(shells & ~dress.shell)
    allowed = (optional & (~shy | at_camp[:, None])) | (dress.base & shy & at_camp[:, None])
    rungs = _ladder(dress)
    outfits = [forced]
    for index in rungs:
        if not allowed[:, index].any():
            continue
        worn = outfits[-1].copy()
        worn[:, index] |= allowed[:, index]
        outfits.append(worn)
    stacked = np.stack(outfits, axis=1)
    for word in person.overrules:
        for moment_index, moment in enumerate(moments):
            if moment.id == word.moment:
                for index, piece in enumerate(dress.garments):
                    if piece.id == word.garment:
                        stacked[moment_index, :, index] = word.worn
    return stacked


def _ladder(dress: Wardrobe) -> list[int]:
    large = [bool(np.any(row & LARGE_REGIONS)) for row in dress.covers]
    warmth: list[float] = dress.clo.tolist()

    def rung(index: int) -> tuple[bool, bool, float]:
        layer = dress.garments[index].layer
        return (layer == "shell", large[index], LAYER_ORDER[layer] + warmth[index])

    return sorted(range(len(dress.garments)), key=rung)


@dataclass(frozen=True)
class Worth:
    """What outfits are worth in their air; leading axes as the outfits given.

    regions [m² K/W, ... x 7] total with air layer, whole [m² K/W] resultant clothing insulation.
    """

    regions: Array
    whole: Array


def worth(dress: Wardrobe, outfits: Flags, air: Air, bag_clo: float) -> Worth:
    """Insulation of outfits in wind, movement and wet, by region and whole.

    Args:
        dress: the person's pieces.
        outfits: [M x K x G].
        air: over M.
        bag_clo: a sleeping bag drawn round in a hold [clo]; 0 for none.

    Returns:
        The worth, [M x K].

    Source: core.clothing by region, outermost piece's permeability for each region.
    """
    worn = outfits.astype(float)
    kept = _wet_shares(dress, outfits, air)
    layers = np.matmul(worn * kept if kept is not None else worn, dress.local)
    permeability = _outer_permeability(dress, outfits)
    bag = np.where(air.held, bag_clo, 0.0)[:, None, None] * BAG_REGIONS
    layers = layers + bag
    wrapped = np.broadcast_to(bag > 0, permeability.shape)
    permeability = np.where(wrapped, np.minimum(permeability, BAG_PERMEABILITY), permeability)
    speed = air.where.air_speed[:, None, None]
    walking = air.where.walking_speed[:, None, None]
    totals = total_insulation(region_insulation(layers) * CLO, speed, walking, permeability)
    bare = cold.air_layer(air.where.air_speed, air.where.walking_speed)
    totals = np.maximum(totals, bare[:, None, None])
    return Worth(totals, uniform_equivalent(totals, bare[:, None]))


def _wet_shares(dress: Wardrobe, outfits: Flags, air: Air) -> Array | None:
    """Share of each piece's warmth left [M x K x G]; wet only where no waterproof shell covers."""
    if not bool((air.soaking > 0).any()) or not dress.garments:
        return None
    waterproof = (outfits & dress.waterproof).astype(float)
    protected = np.matmul(waterproof, dress.covers.astype(float)) > 0
    area = np.maximum(dress.local, 0) * REGION_SHARE
    whole = np.maximum(area.sum(axis=1), 1e-9)
    open_share = np.matmul((~protected).astype(float), (area / whole[:, None]).T)
    wet = air.soaking[:, None, None] * open_share * ~dress.waterproof
    return 1 - wet * (1 - dress.wet_share)


def _outer_permeability(dress: Wardrobe, outfits: Flags) -> Array:
    """Permeability of the outermost worn piece over each region [M x K x 7]."""
    outer = np.full((*outfits.shape[:2], len(REGIONS)), BARE_PERMEABILITY)
    for index in range(len(dress.garments)):
        here = outfits[:, :, index, None] & dress.covers[index]
        outer = np.where(here, dress.permeability[index], outer)
    return outer


def without_each(outfits: Flags) -> Flags:
    """The fullest outfit with each piece left out in turn, [M x G x G].

    Source: none, bookkeeping.
    """
    full = outfits[:, -1, :]
    return full[:, None, :] & ~np.eye(full.shape[1], dtype=bool)


@dataclass(frozen=True)
class Choice:
    """The outfit worn at each moment: rung [M], and the worth of every rung."""

    rung: NDArray[np.intp]
    outfits: Flags
    worth: Worth


def choose(outfits: Flags, values: Worth, minimal: Array, neutral: Array) -> Choice:
    """The rung nearest to neutral without passing it, or the next one up from a gap.

    Args:
        outfits: [M x K x G].
        values: their worth.
        minimal, neutral: need [m² K/W, M].

    Returns:
        The choice.

    Source: common practice, no published source: warm enough first, then least sweat.
    """
    whole = values.whole
    below = whole <= neutral[:, None] + 1e-12
    highest_below = np.where(below, whole, -np.inf)
    rung: NDArray[np.intp] = np.argmax(highest_below, axis=1)
    rung = np.where(below.any(axis=1), rung, np.argmin(whole, axis=1))
    rows = np.arange(len(rung))
    short = whole[rows, rung] < minimal
    above = np.where(whole > neutral[:, None], whole, np.inf)
    can_rise = np.isfinite(above).any(axis=1)
    rung = np.where(short & can_rise, np.argmin(above, axis=1), rung)
    return Choice(rung, outfits, values)


def bag_round_shoulders(course: Course, bag: Array | None) -> float:
    """Insulation of the sleeping bag round a person who waits [clo]; 0 where it is not used.

    Source: judgement, BAG_IN_HOLD of the bag's own resistance less air and base layer.
    """
    if bag is None or not course.hold_in_bag or not bool(np.isfinite(bag)):
        return 0.0
    return max(float(bag) / CLO - 1.2, 0.0) * BAG_IN_HOLD


def layer_cut(
    person: Person, worn: frozenset[str], left: float = 1.0
) -> dict[str, list[tuple[str, float]]]:
    """Worn pieces over each region from skin to air, with local insulation [clo].

    Args:
        person: whose pieces.
        worn: ids of the pieces worn.
        left: share that wind, movement and wet leave, applied to every layer.

    Returns:
        By region: (garment id, clo) pairs, inside first.

    Source: core.clothing.layer_on_region.
    """
    dress = wardrobe(person)
    return {
        region: [
            (piece.id, float(dress.local[row, column]) * left)
            for row, piece in enumerate(dress.garments)
            if piece.id in worn and dress.local[row, column] > 0
        ]
        for column, region in enumerate(REGIONS)
    }
