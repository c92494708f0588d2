"""Which pieces take whose place: shells, what is worn all day, small pieces of one layer."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Any

import numpy as np

from caldarium.core.physics.quantities import Flags
from caldarium.core.plan.figures import COLUMNS, WINDPROOF, Figures, figures_of
from caldarium.core.plan.kit import Garment

LINER = 0.45
"""Warmth over the skin below which something next to the skin of hands or feet is a liner, to be
worn under another [clo]: judgement."""
SMALL = {"hands", "head", "feet"}
"""Regions of small pieces, which go on first."""
_SMALL_OR_SOCKS = SMALL | {"lower legs"}


def one_a_place(pieces: Iterable[Figures], better: Callable[[Figures], Any]) -> set[str]:
    """Of pieces that would lie in the same place the best is worn, whatever their order.

    Source: common practice, no published source.
    """
    chosen: list[Figures] = []
    for each in sorted(pieces, key=better):
        if not any(same_place(each, other) for other in chosen):
            chosen.append(each)
    return {each.piece.id for each in chosen}


def same_place(one: Figures, other: Figures) -> bool:
    """Whether two pieces lie over the same place: shells where they share more than half of the
    regions of the larger, so that a cape goes over trousers; others where they share any.

    Source: judgement.
    """
    shared = len(one.regions & other.regions)
    if one.piece.layer == "shell":
        return 2 * shared > max(len(one.regions), len(other.regions))
    return shared > 0


def in_rain(each: Figures) -> tuple[bool, float, float, str]:
    """What is worn in rain comes first. Source: common practice, no published source."""
    piece = each.piece
    return (not piece.waterproof, piece.air_permeability, -each.warmth, piece.id)


def in_dry_wind(each: Figures) -> tuple[float, float, str]:
    """What is worn in dry wind comes first. Source: common practice, no published source."""
    piece = each.piece
    resists = each.row[COLUMNS.index("vapour")]
    return (float(resists), piece.air_permeability, piece.id)


def rivals(one: Figures, other: Figures) -> bool:
    """Whether two pieces take each other's place: shells over one region; hats, gloves, mitts or
    socks of one layer, unless one is a liner to go under the other.

    Source: common practice, no published source.
    """
    sort = _sort(one)
    return sort is not None and sort == _sort(other) and _exclude(one, other)


def which_rival(pieces: Sequence[Figures]) -> Flags:
    """Which of G pieces take each other's place [G x G]. Source: rivals."""
    by_sort: dict[_Sort, list[int]] = {}
    for at, each in enumerate(pieces):
        sort = _sort(each)
        if sort is not None:
            by_sort.setdefault(sort, []).append(at)
    found = np.zeros((len(pieces), len(pieces)), dtype=bool)
    for places in by_sort.values():
        for one, other in combinations(places, 2):
            found[one, other] = found[other, one] = _exclude(pieces[one], pieces[other])
    return found


_Sort = tuple[str, bool, str]
"""Layer, whether it is worn all day, and whether fingers are apart."""


def _sort(each: Figures) -> _Sort | None:
    """Of what sort a piece is: only others of that can take its place; None where none can."""
    piece = each.piece
    if piece.only_asleep:
        return None
    if piece.layer == "shell":
        return piece.layer, piece.always, ""
    return None if each.regions - _SMALL_OR_SOCKS else (piece.layer, piece.always, piece.fingers)


def _exclude(one: Figures, other: Figures) -> bool:
    """Whether of two pieces of a sort one is worn."""
    if not same_place(one, other):
        return False
    if one.piece.layer == "shell":
        return True
    liners = [one.piece.layer == "base" and each.warmth < LINER for each in (one, other)]
    return not any(liners) or all(liners)


def _first_all_day(each: Figures) -> tuple[float, str]:
    return (-each.warmth, each.piece.id)


def never_together(pieces: Sequence[Figures]) -> set[str]:
    """Pieces worn all day in the place of another: second trousers, second boots, second socks.

    Source: common practice, no published source.
    """
    found: set[str] = set()
    for layer in ("mid", "shell"):
        all_day = [each for each in pieces if each.piece.always and each.piece.layer == layer]
        worn = one_a_place(all_day, _first_all_day)
        found |= {each.piece.id for each in all_day} - worn
    socks = [each for each in pieces if each.piece.always and each.piece.layer == "base"]
    for one in socks:
        better = (other for other in socks if _warmer(other, one) and rivals(one, other))
        found |= {one.piece.id} if any(better) else set()
    return found


def _warmer(one: Figures, other: Figures) -> bool:
    return (one.warmth, other.piece.id) > (other.warmth, one.piece.id)


@dataclass(frozen=True)
class _Row:
    """Pieces that stand in a row for places, the first first: where they are among others, and
    which of them would lie in the same place."""

    places: tuple[int, ...]
    same: Flags

    def chosen(self, has: Flags) -> Flags:
        """Of those that S sets have the ones that get a place [S x G]."""
        found = np.zeros(has.shape, dtype=bool)
        for at, place in enumerate(self.places):
            before = [self.places[k] for k in np.flatnonzero(self.same[at, :at]).tolist()]
            found[:, place] = has[:, place] & ~found[:, before].any(axis=1)
        return found


@dataclass(frozen=True)
class Turns:
    """Which pieces take whose place in any set of some pieces: worn all day [G]; rows of those for
    one place, of shells in rain and in dry wind; which socks are worn in the place of which
    [G x G]."""

    always: Flags
    all_day: tuple[_Row, ...]
    in_rain: _Row
    in_dry_wind: _Row
    socks: Flags

    def instead(self, has: Flags) -> Flags:
        """Pieces of S sets whose place another has all day [S x G]. Source: as wardrobes."""
        found = (has.astype(np.float32) @ self.socks.astype(np.float32)) > 0
        for row in self.all_day:
            waits = np.zeros(has.shape, dtype=bool)
            waits[:, row.places] = has[:, row.places]
            found |= waits & ~row.chosen(has)
        return found & has

    def shells(self, has: Flags) -> tuple[Flags, Flags]:
        """Shells that S sets have on in rain, and in dry wind [S x G]. Source: as wardrobes."""
        return self.in_rain.chosen(has), self.in_dry_wind.chosen(has)


def turns_of(pieces: Sequence[Garment]) -> Turns:
    """Which pieces take whose place in any set of some pieces; see wardrobes.

    Source: common practice, no published source.
    """
    figures = [figures_of(piece) for piece in pieces]
    place = {id(each): at for at, each in enumerate(figures)}

    def row(some: Iterable[Figures], better: Callable[[Figures], Any]) -> _Row:
        listed = sorted(some, key=better)
        same = [[same_place(one, other) for other in listed] for one in listed]
        count = len(listed)
        return _Row(
            tuple(place[id(each)] for each in listed),
            np.array(same, dtype=bool).reshape(count, count),
        )

    def all_day(layer: str) -> list[Figures]:
        return [each for each in figures if each.piece.always and each.piece.layer == layer]

    shells = [
        each
        for each in figures
        if each.piece.layer == "shell" and not each.piece.always and not each.piece.only_asleep
    ]
    socks = np.zeros((len(figures), len(figures)), dtype=bool)
    under = all_day("base")
    which = which_rival(under)
    for at, one in enumerate(under):
        for other in np.flatnonzero(which[at]).tolist():
            socks[place[id(one)], place[id(under[other])]] = _warmer(one, under[other])
    return Turns(
        always=np.array([piece.always for piece in pieces], dtype=bool),
        all_day=tuple(row(all_day(layer), _first_all_day) for layer in ("mid", "shell")),
        in_rain=row(shells, in_rain),
        in_dry_wind=row(
            (each for each in shells if each.piece.air_permeability <= WINDPROOF), in_dry_wind
        ),
        socks=socks,
    )
