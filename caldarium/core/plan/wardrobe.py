"""Wardrobes: what people carry as arrays, in order from skin to air, ready for dressing."""

import operator
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from caldarium.core.physics.clothing import (
    REGION_SHARE,
    REGIONS,
    garment_insulation,
    layer_on_region,
)
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Garment

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


class _Figures(NamedTuple):
    """What one piece is, as wardrobes need it: its row of numbers, see _COLUMNS, and the regions it
    lies over."""

    piece: Garment
    row: Array
    regions: frozenset[str]


_COLUMNS = (
    "clo",
    "local",
    "permeability",
    "wet_share",
    "holds",
    "repels",
    "vapour",
    "vented",
    "body_cover",
    "face",
    "waterproof",
    "handwear",
    "together",
    "always",
    "only_at_camp",
    "only_asleep",
    "layer",
)
_BLANK = {"permeability": 1.0, "wet_share": 1.0, "holds": 1.0, "vented": 1.0, "layer": -1.0}
_KNOWN: dict[int, _Figures] = {}
_MOST_KNOWN = 4096


def _figures(piece: Garment) -> _Figures:
    """Figures of a piece; the same object is measured once, as pieces never change."""
    known = _KNOWN.get(id(piece))
    if known is not None and known.piece is piece:
        return known
    found, material = warmth((piece,)), MATERIALS[piece.material]
    regions = frozenset(regions_covered(piece))
    vapour = piece.vapour_resistance
    numbers = {
        "clo": found.clo[0],
        "local": found.local[0],
        "permeability": piece.air_permeability,
        "wet_share": material.wet_share,
        "holds": material.holds,
        "repels": piece.repels_mm,
        "vapour": material.vapour if vapour is None else vapour,
        "vented": VENT_OPEN[piece.vents],
        "body_cover": found.body_cover[0],
        "face": piece.face,
        "waterproof": piece.waterproof,
        "handwear": regions == frozenset({"hands"}),
        "together": piece.fingers == "together",
        "always": piece.always,
        "only_at_camp": piece.only_at_camp,
        "only_asleep": piece.only_asleep,
        "layer": LAYER_ORDER[piece.layer],
    }
    row = np.array([*(float(numbers[name]) for name in _COLUMNS), *found.cover[0].tolist()])
    if len(_KNOWN) >= _MOST_KNOWN:
        _KNOWN.clear()
    known = _KNOWN[id(piece)] = _Figures(piece, row, regions)
    return known


def _first_worn(pieces: Iterable[_Figures], layer: str) -> set[str]:
    """Of pieces in one layer that would lie over the same region, the first listed is worn."""
    taken: set[str] = set()
    chosen: set[str] = set()
    for piece, _, regions in pieces:
        if piece.layer != layer or piece.only_asleep:
            continue
        if not regions & taken:
            chosen.add(piece.id)
            taken |= regions
    return chosen


def _never_together(pieces: Sequence[_Figures]) -> set[str]:
    """Pieces worn all day in the place of one listed before them: second trousers, second boots."""
    found: set[str] = set()
    for layer in ("mid", "shell"):
        all_day = [each for each in pieces if each.piece.always and each.piece.layer == layer]
        found |= {each.piece.id for each in all_day} - _first_worn(all_day, layer)
    return found


def _putting_on(pieces: Sequence[_Figures]) -> list[int]:
    """Place of each piece in the order of putting on: small pieces first, shells last."""

    def key(place: int) -> tuple[bool, bool, float]:
        piece, row, regions = pieces[place]
        large = bool(regions - _SMALL)
        return (piece.layer == "shell", large, LAYER_ORDER[piece.layer] + float(row[0]))

    rungs = [0] * len(pieces)
    for rung, place in enumerate(sorted(range(len(pieces)), key=key)):
        rungs[place] = rung
    return rungs


class _Rack(NamedTuple):
    """One person's pieces as listed and from skin to air, their numbers, which are the first of
    base and shell, which another leaves no place for, and places in the order of putting on."""

    listed: tuple[Garment, ...]
    pieces: tuple[Garment, ...]
    numbers: list[Array]
    first: list[bool]
    instead: list[bool]
    rung: list[int]


_RACKS: dict[tuple[int, ...], _Rack] = {}


def _in_order(garments: tuple[Garment, ...]) -> _Rack:
    """Pieces in order; the same objects in the same places are put in order once."""
    key = tuple(map(id, garments))
    known = _RACKS.get(key)
    if known is not None and all(map(operator.is_, known.listed, garments)):
        return known
    if len(_RACKS) >= _MOST_KNOWN:
        _RACKS.clear()
    rack = _RACKS[key] = _hung(garments)
    return rack


def _hung(garments: tuple[Garment, ...]) -> _Rack:
    listed = [_figures(piece) for piece in garments]
    row = sorted(listed, key=lambda each: (LAYER_ORDER[each.piece.layer], float(each.row[0])))
    first = _first_worn(listed, "base") | _first_worn(listed, "shell")
    spare = _never_together(listed)
    return _Rack(
        garments,
        tuple(each.piece for each in row),
        [each.row for each in row],
        [each.piece.id in first for each in row],
        [each.piece.id in spare for each in row],
        _putting_on(row),
    )


def wardrobes(people: Sequence[Person], at_least: int = 0) -> Wardrobes:
    """What each person carries, from skin to air and by warmth within a layer.

    Args:
        people: P of them.
        at_least: places, for arrays as wide as others.

    Source: insulation by core.physics.clothing.
    """
    rows = [_in_order(person.garments) for person in people]
    places = max([at_least, *(len(row.pieces) for row in rows)])
    blank = np.array([_BLANK.get(name, 0.0) for name in _COLUMNS] + [0.0] * len(REGIONS))
    numbers = np.tile(blank, (len(rows), places, 1))
    base_or_shell, instead = (np.zeros((len(rows), places), dtype=bool) for _ in range(2))
    rung = np.zeros((len(rows), places))
    for number, row in enumerate(rows):
        count = len(row.pieces)
        if count:
            numbers[number, :count] = row.numbers
            base_or_shell[number, :count] = row.first
            instead[number, :count] = row.instead
            rung[number, :count] = row.rung
    figures = {name: numbers[..., place] for place, name in enumerate(_COLUMNS)}
    cover = numbers[..., len(_COLUMNS) :]
    layer = figures["layer"]
    return Wardrobes(
        garments=tuple(row.pieces for row in rows),
        cover=cover,
        local=figures["local"][..., None] * cover,
        clo=figures["clo"],
        permeability=figures["permeability"],
        wet_share=figures["wet_share"],
        holds=figures["holds"],
        repels=figures["repels"],
        vapour=figures["vapour"],
        vented=figures["vented"],
        body_cover=figures["body_cover"],
        face=figures["face"],
        covers=cover >= COVERED,
        waterproof=figures["waterproof"] > 0,
        handwear=figures["handwear"] > 0,
        together=figures["together"] > 0,
        base=base_or_shell & (layer == LAYER_ORDER["base"]),
        shell=base_or_shell & (layer == LAYER_ORDER["shell"]),
        always=(figures["always"] > 0) & ~instead,
        instead=instead,
        only_at_camp=figures["only_at_camp"] > 0,
        only_asleep=figures["only_asleep"] > 0,
        layer=layer,
        rung=rung,
    )


def layer_cut(person: Person, worn: frozenset[str]) -> dict[str, list[tuple[str, float]]]:
    """Worn pieces over each region from skin to air, with local insulation [clo].

    Args:
        person: whose pieces.
        worn: ids of the pieces worn.

    Returns:
        By region: (garment id, clo) pairs, inside first.

    Source: core.physics.clothing.layer_on_region.
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
