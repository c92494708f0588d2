"""Wardrobes: what people carry as arrays, in order from skin to air, ready for dressing."""

import operator
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from caldarium.core.physics.clothing import (
    REGIONS,
)
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Person
from caldarium.core.plan.figures import (
    BLANK,
    COLUMNS,
    COVERED,
    MOST_KNOWN,
    WINDPROOF,
    Figures,
    figures_of,
)
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.turns import (
    SMALL,
    in_dry_wind,
    in_rain,
    never_together,
    one_a_place,
    which_rival,
)

_LEGS = {"thighs", "lower legs"}
_OF_ALL = ("beats", "rung", "moving_rung")
"""What hangs on which pieces there are."""


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

    def some(self, places: NDArray[np.intp], count: int) -> "Wardrobes":
        """Some places of the first wardrobe, for many; garments are left out.

        Source: none, bookkeeping.
        """
        arrays = {name: part[0, places] for name, part in vars(self).items() if name != "garments"}
        arrays["beats"] = arrays["beats"][:, places]
        many = {name: np.broadcast_to(v, (count, *v.shape)) for name, v in arrays.items()}
        return Wardrobes(garments=(), **many)

    def having(self, has: Flags) -> "Wardrobes":
        """The first wardrobe, of S people who have some of its pieces each; other places are blank.

        Args:
            has: which pieces each has [S x G].

        Returns:
            Their wardrobes; what takes whose place, and the order of putting on, are left as they
            are of all pieces.

        Source: none, bookkeeping.
        """
        count = len(has)
        arrays: dict[str, NDArray[Any]] = {}
        for name, part in vars(self).items():
            if name == "garments":
                continue
            if name in _OF_ALL:
                arrays[name] = np.broadcast_to(part[0], (count, *part[0].shape))
                continue
            there = has.reshape(*has.shape, *(1,) * (part.ndim - 2))
            blank = np.array(BLANK.get(name, 0.0), dtype=part.dtype)
            arrays[name] = np.where(there, part[0], blank)
        return Wardrobes(garments=self.garments[:1] * count, **arrays)

    def ids(self, row: int) -> list[str]:
        """Ids of one person's pieces, in place order."""
        return [piece.id for piece in self.garments[row]]


def _putting_on(pieces: Sequence[Figures], *, moving: bool) -> list[int]:
    """Place of each piece in the order of putting on: small pieces first, then from the skin on,
    shells last; insulation after them while moving."""

    def key(place: int) -> tuple[float, ...]:
        each = pieces[place]
        large = bool(each.regions - SMALL)
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
    if len(_RACKS) >= MOST_KNOWN:
        _RACKS.clear()
    rack = _RACKS[key] = _hung(garments)
    return rack


def _hung(garments: tuple[Garment, ...]) -> _Rack:
    figures = [figures_of(piece) for piece in garments]
    row = sorted(figures, key=lambda each: (each.rank, each.warmth, each.piece.id))
    awake = [each for each in row if not each.piece.only_asleep]
    shells = [each for each in awake if each.piece.layer == "shell" and not each.piece.always]
    tight = [each for each in shells if each.piece.air_permeability <= WINDPROOF]
    under = [each for each in awake if each.piece.layer == "base" and not each.piece.only_at_camp]
    named = {
        "base": one_a_place(under, lambda each: (each.warmth, each.piece.id)),
        "shell": one_a_place(shells, in_rain),
        "windshell": one_a_place(tight, in_dry_wind),
        "instead": never_together(row),
        "day_long": {
            each.piece.id
            for each in awake
            if each.piece.layer == "base" and each.piece.only_at_camp and each.regions & _LEGS
        },
        "insulates": {
            each.piece.id
            for each in row
            if each.piece.layer == "insulation" and each.regions - SMALL
        },
    }
    rung = _putting_on(row, moving=False)
    beats = which_rival(row) & np.greater.outer(rung, rung)
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
    blank = np.array([BLANK.get(name, 0.0) for name in COLUMNS] + [0.0] * 2 * len(REGIONS))
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
    figures = {name: numbers[..., place] for place, name in enumerate(COLUMNS)}
    cover, local = np.split(numbers[..., len(COLUMNS) :], 2, axis=-1)
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
