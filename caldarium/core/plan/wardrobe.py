"""Wardrobes: what people carry as arrays, in order from skin to air, ready for dressing."""

import operator
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from caldarium.core.physics.clothing import (
    REGION_SHARE,
    REGIONS,
    garment_insulation,
    layer_on_region,
    ruler_on_regions,
    worn_loft,
)
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Garment

WINDPROOF = 60.0
"""Air permeability up to which a piece keeps the wind out of what lies under it [l/(m² s)].
Judgement; common practice counts tightly woven and coated cloth as windproof."""
SKIN, OUTSIDE = 0, 5
"""Ranks of what lies on the skin and of shells. Between them, from the inside: open middle layers,
open insulation, windproof middle layers, windproof insulation."""
_RANKS = {"base": (SKIN, SKIN), "mid": (1, 3), "insulation": (2, 4), "shell": (OUTSIDE, OUTSIDE)}
LINER = 0.45
"""Warmth over the skin below which something next to the skin of hands or feet is a liner, to be
worn under another [clo]: judgement."""
VENT_OPEN = {"none": 1.0, "some": 0.9, "wide": 0.75}
"""Share of the warmth under a piece that is left with its openings wide: judgement."""
COVERED = 0.3
"""Share of a region from which a piece lies over it and not beside it: judgement."""
_SMALL = {"hands", "head", "feet"}
_LEGS = {"thighs", "lower legs"}


def rank(piece: Garment) -> int:
    """Where a piece lies from skin to air: what keeps the wind out lies over what does not.

    Source: common practice, no published source; WINDPROOF.
    """
    return _RANKS[piece.layer][piece.air_permeability <= WINDPROOF]


@dataclass(frozen=True)
class Wardrobes:
    """Pieces of P people over up to G places each, from skin to air; empty places are blank.

    garments by person; cover and local insulation [clo] [P x G x 7]; clo, air permeability
    [l/(m² s)], share of warmth left when soaked, water held then [g/m²], rain shed [mm], vapour
    resistance [m² Pa/W], share of warmth left with vents open, share of the skin and of the face
    covered [P x G]; covers [P x G x 7] and the other flags [P x G]. handwear covers nothing else,
    and its fingers are apart or together; insulates is what keeps a body warm that stands still;
    base is what is on the skin whatever happens, shell what is worn in rain, windshell in dry wind;
    instead has its place taken by another all day; day_long may be put on under trousers in the
    morning and stays. layer is the rank, see rank; rung and moving_rung the places in the order of
    putting on, standing and on the move. beats says of each piece which others come off when it
    goes on [P x G x G].
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
    insulates: Flags
    base: Flags
    shell: Flags
    windshell: Flags
    always: Flags
    instead: Flags
    day_long: Flags
    only_at_camp: Flags
    only_asleep: Flags
    layer: Array
    rung: Array
    moving_rung: Array
    beats: Flags

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
    the whole body [clo, N], and over the skin that is covered, by region and as if flat [clo,
    N x 7]."""

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
        clo=np.where(measured, garment_insulation(worn_loft(ruler), body), table),
        local=np.where(
            measured[:, None],
            ruler_on_regions(ruler),
            layer_on_region(table, body, np.ones((len(pieces), len(REGIONS)))),
        ),
    )


def regions_covered(piece: Garment) -> set[str]:
    """Regions that a piece lies over. Source: COVERED."""
    return {region for region, share in piece.cover.items() if share >= COVERED}


class _Figures(NamedTuple):
    """What one piece is, as wardrobes need it: its row of numbers, see _COLUMNS, the regions it
    lies over, its rank, and its warmth over the skin that it covers [clo]."""

    piece: Garment
    row: Array
    regions: frozenset[str]
    rank: float
    warmth: float


_COLUMNS = (
    "clo",
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
        "layer": rank(piece),
    }
    figures = [float(numbers[name]) for name in _COLUMNS]
    row = np.array([*figures, *found.cover[0].tolist(), *found.local[0].tolist()])
    if len(_KNOWN) >= _MOST_KNOWN:
        _KNOWN.clear()
    thickest = float((found.cover[0] * found.local[0]).max())
    known = _KNOWN[id(piece)] = _Figures(piece, row, regions, float(rank(piece)), thickest)
    return known


def _one_a_place(pieces: Iterable[_Figures], better: Callable[[_Figures], Any]) -> set[str]:
    """Of pieces that would lie in the same place the best is worn, whatever their order."""
    chosen: list[_Figures] = []
    for each in sorted(pieces, key=better):
        if not any(_same_place(each, other) for other in chosen):
            chosen.append(each)
    return {each.piece.id for each in chosen}


def _same_place(one: _Figures, other: _Figures) -> bool:
    """Whether two pieces lie over the same place: shells where they share more than half of the
    regions of the larger, so that a cape goes over trousers; others where they share any."""
    shared = len(one.regions & other.regions)
    if one.piece.layer == "shell":
        return 2 * shared > max(len(one.regions), len(other.regions))
    return shared > 0


def _in_rain(each: _Figures) -> tuple[bool, float, float, str]:
    piece = each.piece
    return (not piece.waterproof, piece.air_permeability, -each.warmth, piece.id)


def _in_dry_wind(each: _Figures) -> tuple[float, float, str]:
    piece = each.piece
    resists = each.row[_COLUMNS.index("vapour")]
    return (float(resists), piece.air_permeability, piece.id)


_RIVALS: dict[tuple[int, int], tuple[_Figures, _Figures, bool]] = {}
_MOST_RIVALS = 1 << 18


def _rivals(one: _Figures, other: _Figures) -> bool:
    """Whether two pieces take each other's place, see _take_turns; the same two are asked once."""
    key = (id(one), id(other))
    known = _RIVALS.get(key)
    if known is not None and known[0] is one and known[1] is other:
        return known[2]
    if len(_RIVALS) >= _MOST_RIVALS:
        _RIVALS.clear()
    found = _take_turns(one, other)
    _RIVALS[key] = (one, other, found)
    return found


def _take_turns(one: _Figures, other: _Figures) -> bool:
    """Whether two pieces take each other's place: shells over one region; hats, gloves, mitts or
    socks of one layer, unless one is a liner to go under the other."""
    if one.piece.only_asleep or other.piece.only_asleep or not _same_place(one, other):
        return False
    if one.piece.layer != other.piece.layer or one.piece.always != other.piece.always:
        return False
    if one.piece.layer == "shell":
        return True
    if (one.regions | other.regions) - _SMALL - {"lower legs"}:
        return False
    if one.piece.fingers != other.piece.fingers:
        return False
    liners = [one.piece.layer == "base" and each.warmth < LINER for each in (one, other)]
    return not any(liners) or all(liners)


def _never_together(pieces: Sequence[_Figures]) -> set[str]:
    """Pieces worn all day in the place of another: second trousers, second boots, second socks."""
    found: set[str] = set()
    for layer in ("mid", "shell"):
        all_day = [each for each in pieces if each.piece.always and each.piece.layer == layer]
        worn = _one_a_place(all_day, lambda each: (-each.warmth, each.piece.id))
        found |= {each.piece.id for each in all_day} - worn
    socks = [each for each in pieces if each.piece.always and each.piece.layer == "base"]
    for one in socks:
        better = (other for other in socks if _warmer(other, one) and _rivals(one, other))
        found |= {one.piece.id} if any(better) else set()
    return found


def _warmer(one: _Figures, other: _Figures) -> bool:
    return (one.warmth, other.piece.id) > (other.warmth, one.piece.id)


def _putting_on(pieces: Sequence[_Figures], *, moving: bool) -> list[int]:
    """Place of each piece in the order of putting on: small pieces first, then from the skin on,
    shells last; insulation after them while moving."""

    def key(place: int) -> tuple[float, ...]:
        each = pieces[place]
        large = bool(each.regions - _SMALL)
        late = moving and large and each.piece.layer == "insulation"
        shell = each.piece.layer == "shell"
        return (late, shell, large, each.rank, each.warmth)

    rungs = [0] * len(pieces)
    for rung, place in enumerate(sorted(range(len(pieces)), key=key)):
        rungs[place] = rung
    return rungs


_FLAGS = ("base", "shell", "windshell", "instead", "day_long", "insulates")


class _Rack(NamedTuple):
    """One person's pieces as listed and from skin to air, their numbers, flags by name, places in
    the order of putting on, standing and moving, and which beat which."""

    listed: tuple[Garment, ...]
    pieces: tuple[Garment, ...]
    numbers: list[Array]
    flags: dict[str, list[bool]]
    rung: list[int]
    moving_rung: list[int]
    beats: Flags


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
    figures = [_figures(piece) for piece in garments]
    row = sorted(figures, key=lambda each: (each.rank, each.warmth, each.piece.id))
    awake = [each for each in row if not each.piece.only_asleep]
    shells = [each for each in awake if each.piece.layer == "shell" and not each.piece.always]
    tight = [each for each in shells if each.piece.air_permeability <= WINDPROOF]
    under = [each for each in awake if each.piece.layer == "base" and not each.piece.only_at_camp]
    named = {
        "base": _one_a_place(under, lambda each: (each.warmth, each.piece.id)),
        "shell": _one_a_place(shells, _in_rain),
        "windshell": _one_a_place(tight, _in_dry_wind),
        "instead": _never_together(row),
        "day_long": {
            each.piece.id
            for each in awake
            if each.piece.layer == "base" and each.piece.only_at_camp and each.regions & _LEGS
        },
        "insulates": {
            each.piece.id
            for each in row
            if each.piece.layer == "insulation" and each.regions - _SMALL
        },
    }
    rung = _putting_on(row, moving=False)
    beats = np.array(
        [
            [rung[one] > rung[other] and _rivals(row[one], row[other]) for other in range(len(row))]
            for one in range(len(row))
        ],
        dtype=bool,
    ).reshape(len(row), len(row))
    return _Rack(
        garments,
        tuple(each.piece for each in row),
        [each.row for each in row],
        {name: [each.piece.id in chosen for each in row] for name, chosen in named.items()},
        rung,
        _putting_on(row, moving=True),
        beats,
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
    blank = np.array([_BLANK.get(name, 0.0) for name in _COLUMNS] + [0.0] * 2 * len(REGIONS))
    numbers = np.tile(blank, (len(rows), places, 1))
    flags = {name: np.zeros((len(rows), places), dtype=bool) for name in _FLAGS}
    rung, moving_rung = (np.zeros((len(rows), places)) for _ in range(2))
    beats = np.zeros((len(rows), places, places), dtype=bool)
    for number, row in enumerate(rows):
        count = len(row.pieces)
        if count:
            numbers[number, :count] = row.numbers
            for name, values in row.flags.items():
                flags[name][number, :count] = values
            rung[number, :count] = row.rung
            moving_rung[number, :count] = row.moving_rung
            beats[number, :count, :count] = row.beats
    figures = {name: numbers[..., place] for place, name in enumerate(_COLUMNS)}
    cover, local = np.split(numbers[..., len(_COLUMNS) :], 2, axis=-1)
    layer = figures["layer"]
    return Wardrobes(
        garments=tuple(row.pieces for row in rows),
        cover=cover,
        local=local * cover,
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
        always=(figures["always"] > 0) & ~flags["instead"],
        only_at_camp=figures["only_at_camp"] > 0,
        only_asleep=figures["only_asleep"] > 0,
        layer=layer,
        rung=rung,
        moving_rung=moving_rung,
        beats=beats,
        **flags,
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
