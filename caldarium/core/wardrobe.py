"""Wardrobes: what people carry as arrays, in order from skin to air, ready for dressing."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from caldarium.core.clothing import REGION_SHARE, REGIONS, garment_insulation, layer_on_region
from caldarium.core.course import Person
from caldarium.core.kit import Garment
from caldarium.core.materials import MATERIALS
from caldarium.core.quantities import Array, Flags

LAYER_ORDER = {"base": 0, "mid": 1, "insulation": 2, "shell": 3}
VENT_OPEN = {"none": 1.0, "some": 0.9, "wide": 0.75}
"""Share of the warmth under a piece that is left with its openings wide: judgement."""
COVERED = 0.3
"""Share of a region from which a piece lies over it and not beside it: judgement."""
_SMALL = {"hands", "head", "feet"}


@dataclass(frozen=True)
class Wardrobes:
    """Pieces of P people over up to G places each, from skin to air; empty places are blank.

    garments by person; cover and local insulation [clo] [P x G x 7]; clo, air permeability
    [l/(m² s)], share of warmth left when soaked, water held then [g/m²], rain shed [mm], vapour
    resistance [m² Pa/W], share of warmth left with vents open, share of the skin and of the face
    covered [P x G]; covers [P x G x 7] and the other flags [P x G]; handwear covers nothing else,
    and its fingers are apart or together; base and shell are the pieces of that layer worn when it
    is, instead those that another worn all day leaves no place for, rung the place of a piece in
    the order of putting on.
    """

    garments: tuple[tuple[Garment, ...], ...]
    cover: Array
    local: Array
    clo: Array
    permeability: Array
    wet_share: Array
    holds: Array
    repels: Array
    vapour: Array
    vented: Array
    body_cover: Array
    face: Array
    covers: Flags
    waterproof: Flags
    handwear: Flags
    together: Flags
    base: Flags
    shell: Flags
    always: Flags
    instead: Flags
    only_at_camp: Flags
    only_asleep: Flags
    layer: Array
    rung: Array

    @property
    def places(self) -> int:
        """Places by person, G."""
        return self.clo.shape[1]

    def take(self, people: NDArray[np.intp]) -> "Wardrobes":
        """The wardrobes of some people, in that order, repeats allowed; garments are left out.

        Source: none, bookkeeping.
        """
        arrays = {name: part[people] for name, part in vars(self).items() if name != "garments"}
        return Wardrobes(garments=(), **arrays)

    def ids(self, row: int) -> list[str]:
        """Ids of one person's pieces, in place order."""
        return [piece.id for piece in self.garments[row]]


@dataclass(frozen=True)
class Warmth:
    """Pieces as arrays over N: cover [N x 7], share of the skin covered, effective insulation on
    the whole body and over the skin that is covered [clo, N]."""

    cover: Array
    body_cover: Array
    clo: Array
    local: Array


def warmth(pieces: Sequence[Garment]) -> Warmth:
    """Insulation of pieces, tabulated or from their thickness.

    Small pieces hardly count on the whole body and yet are thick where they are: a thickness is
    taken for full cover, a tabulated figure is turned round by the share of the body covered.

    Source: ISO 9920:2007 tables, or McCullough et al. in ASHRAE Fundamentals ch. 9; the local use
        is ours.
    """
    rows = [[piece.cover.get(region, 0.0) for region in REGIONS] for piece in pieces]
    cover = np.array(rows).reshape(len(pieces), len(REGIONS))
    body = cover @ REGION_SHARE
    ruler = np.array([piece.thickness_mm or np.nan for piece in pieces])
    table = np.array([np.nan if piece.clo is None else piece.clo for piece in pieces])
    measured = np.isfinite(ruler)
    return Warmth(
        cover=cover,
        body_cover=body,
        clo=np.where(measured, garment_insulation(ruler, body), table),
        local=np.where(
            measured, garment_insulation(ruler, 1.0), layer_on_region(table, body, 1.0)[..., 0]
        ),
    )


def regions_covered(piece: Garment) -> set[str]:
    """Regions that a piece lies over. Source: COVERED."""
    return {region for region, share in piece.cover.items() if share >= COVERED}


def _vapour(piece: Garment) -> float:
    """Vapour resistance beyond ordinary cloth, measured or by material [m² Pa/W]."""
    measured = piece.vapour_resistance
    return MATERIALS[piece.material].vapour if measured is None else measured


def _first_worn(garments: Iterable[Garment], layer: str) -> set[str]:
    """Of pieces in one layer that would lie over the same region, the first listed is worn."""
    taken: set[str] = set()
    chosen: set[str] = set()
    for piece in garments:
        if piece.layer != layer or piece.only_asleep:
            continue
        regions = regions_covered(piece)
        if not regions & taken:
            chosen.add(piece.id)
            taken |= regions
    return chosen


def _never_together(garments: tuple[Garment, ...]) -> set[str]:
    """Pieces worn all day in the place of one listed before them: second trousers, second boots."""
    found: set[str] = set()
    for layer in ("mid", "shell"):
        all_day = [piece for piece in garments if piece.always and piece.layer == layer]
        found |= {piece.id for piece in all_day} - _first_worn(all_day, layer)
    return found


def _putting_on(pieces: Sequence[Garment], clo: Sequence[float]) -> list[int]:
    """Place of each piece in the order of putting on: small pieces first, shells last."""

    def key(place: int) -> tuple[bool, bool, float]:
        piece = pieces[place]
        large = bool(regions_covered(piece) - _SMALL)
        return (piece.layer == "shell", large, LAYER_ORDER[piece.layer] + clo[place])

    rungs = [0] * len(pieces)
    for rung, place in enumerate(sorted(range(len(pieces)), key=key)):
        rungs[place] = rung
    return rungs


def wardrobes(people: Sequence[Person]) -> Wardrobes:
    """What each person carries, from skin to air and by warmth within a layer.

    Source: insulation by core.clothing.
    """
    listed = [piece for person in people for piece in person.garments]
    found = warmth(listed)
    clo: list[float] = found.clo.tolist()
    rows: list[list[int]] = []
    begin = 0
    for person in people:
        here = range(begin, begin + len(person.garments))
        begin = here.stop
        rows.append(sorted(here, key=lambda at: (LAYER_ORDER[listed[at].layer], clo[at])))
    places = max((len(row) for row in rows), default=0)
    at = np.array([row + [-1] * (places - len(row)) for row in rows], dtype=int)
    at = at.reshape(len(rows), places)
    empty = at < 0

    def over_places(values: Sequence[float] | Array, blank: float = 0.0) -> Array:
        padded = np.concatenate([np.asarray(values, dtype=float), [blank]])
        return padded[at]

    def flags(values: Sequence[bool]) -> Flags:
        return over_places(values) > 0

    materials = [MATERIALS[piece.material] for piece in listed]
    first: list[bool] = []
    instead: list[bool] = []
    for person in people:
        chosen = _first_worn(person.garments, "base") | _first_worn(person.garments, "shell")
        spare = _never_together(person.garments)
        first += [piece.id in chosen for piece in person.garments]
        instead += [piece.id in spare for piece in person.garments]
    rungs = np.zeros(at.shape)
    for number, row in enumerate(rows):
        pieces = [listed[each] for each in row]
        rungs[number, : len(row)] = _putting_on(pieces, [clo[each] for each in row])
    cover = np.where(empty[..., None], 0.0, found.cover[at] if listed else 0.0)
    layer = over_places([LAYER_ORDER[piece.layer] for piece in listed], -1.0)
    return Wardrobes(
        garments=tuple(tuple(listed[each] for each in row) for row in rows),
        cover=cover,
        local=over_places(found.local)[..., None] * cover,
        clo=over_places(found.clo),
        permeability=over_places([piece.air_permeability for piece in listed], 1.0),
        wet_share=over_places([material.wet_share for material in materials], 1.0),
        holds=over_places([material.holds for material in materials], 1.0),
        repels=over_places([piece.repels_mm for piece in listed]),
        vapour=over_places([_vapour(piece) for piece in listed]),
        vented=over_places([VENT_OPEN[piece.vents] for piece in listed], 1.0),
        body_cover=over_places(found.body_cover),
        face=over_places([piece.face for piece in listed]),
        covers=cover >= COVERED,
        waterproof=flags([piece.waterproof for piece in listed]),
        handwear=flags([regions_covered(piece) == {"hands"} for piece in listed]),
        together=flags([piece.fingers == "together" for piece in listed]),
        base=flags(first) & (layer == LAYER_ORDER["base"]),
        shell=flags(first) & (layer == LAYER_ORDER["shell"]),
        always=flags([piece.always for piece in listed]) & ~flags(instead),
        instead=flags(instead),
        only_at_camp=flags([piece.only_at_camp for piece in listed]),
        only_asleep=flags([piece.only_asleep for piece in listed]),
        layer=layer,
        rung=rungs,
    )


def layer_cut(person: Person, worn: frozenset[str]) -> dict[str, list[tuple[str, float]]]:
    """Worn pieces over each region from skin to air, with local insulation [clo].

    Args:
        person: whose pieces.
        worn: ids of the pieces worn.

    Returns:
        By region: (garment id, clo) pairs, inside first.

    Source: core.clothing.layer_on_region.
    """
    dress = wardrobes((person,))
    return {
        region: [
            (piece.id, float(dress.local[0, place, column]))
            for place, piece in enumerate(dress.garments[0])
            if piece.id in worn and dress.local[0, place, column] > 0
        ]
        for column, region in enumerate(REGIONS)
    }
