"""What can be outermost of a set, and so stand in the wind: not what lies under rain jacket,
trousers or boots that every set has."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from caldarium.core.lighten.rules import Rule
from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.figures import COVERED, WINDPROOF, rank, regions_covered
from caldarium.core.plan.kit import Garment

CERTAIN = ("footwear", "trousers", "rain above", "rain below")
"""Rules by which something lies over part of a body whatever else is chosen."""


@dataclass(frozen=True)
class Outside:
    """What decides how open a person is to the wind: regions that each of N pieces lies over while
    it is there [M x N x 7], its air permeability [l/(m² s), N], rank and place from skin to air
    [N], the rank of what lies over each region whatever is chosen, -1 where nothing does [M x 7],
    and pieces that are worn over the skin wherever they are taken, they or others like them [N]."""

    covers: Flags
    permeability: Array
    rank: Array
    place: NDArray[np.intp]
    over: Array
    free: Flags


def outside_of(
    pieces: Sequence[Garment],
    place: NDArray[np.intp],
    cover: Array,
    there: Flags,
    sure: Flags,
    usable: Flags,
    rules: Sequence[Rule],
) -> Outside:
    """What can be outermost.

    Args:
        pieces: everything on offer that may be taken or not, N of it.
        place: of each from skin to air [N].
        cover: share of each region [N x 7].
        there: where each may be worn [M x N].
        sure: where each is worn, if it is taken, as long as no other takes its place [M x N].
        usable: which of them may be taken at all [N].
        rules: that every set keeps.

    Source: core.plan.wardrobe; which rules put something on is common practice, no published
        source.
    """
    ranks = np.array([rank(piece) for piece in pieces], dtype=float)
    over = np.full((len(there), len(REGIONS)), -1.0)
    for rule in rules:
        if rule.name in CERTAIN and rule.least > 0:
            among = {*rule.pieces, *_in_their_place(pieces, rule)}
            some = [at for at in sorted(among) if usable[at]]
            if not some:
                continue
            always = sure[:, some].all(axis=1)
            for r in np.flatnonzero((cover[some] >= COVERED).all(axis=0)).tolist():
                over[:, r] = np.where(always, np.maximum(over[:, r], ranks[some].min()), over[:, r])
    free: Flags = np.array(
        [piece.layer in ("mid", "insulation") and not piece.always for piece in pieces], dtype=bool
    )
    return Outside(
        covers=there[..., None] & (cover >= COVERED),
        permeability=np.array([piece.air_permeability for piece in pieces], dtype=float),
        rank=ranks,
        place=place,
        over=over,
        free=free & (sure | ~there).all(axis=0),
    )


def _in_their_place(pieces: Sequence[Garment], rule: Rule) -> list[int]:
    """Pieces that could be worn in the place of those of a rule."""
    kept = [pieces[at] for at in rule.pieces]
    found: list[int] = []
    for at, piece in enumerate(pieces):
        worn = piece.always or piece.waterproof or piece.air_permeability <= WINDPROOF
        found += [at] if worn and any(_rival(piece, other) for other in kept) else []
    return found


def _rival(one: Garment, other: Garment) -> bool:
    return (
        one.layer == other.layer
        and one.always == other.always
        and bool(regions_covered(one) & regions_covered(other))
    )
