"""Figures of single pieces: what they cover, how warm they are and where they lie, once each."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from caldarium.core.physics.clothing import (
    REGION_SHARE,
    REGIONS,
    garment_insulation,
    layer_on_region,
    ruler_on_regions,
    worn_loft,
)
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.kit import Garment

WINDPROOF = 60.0
"""Air permeability up to which a piece keeps the wind out of what lies under it [l/(m² s)].
Judgement; common practice counts tightly woven and coated cloth as windproof."""
SKIN, OUTSIDE = 0, 5
"""Ranks of what lies on the skin and of shells. Between them, from the inside: open middle layers,
open insulation, windproof middle layers, windproof insulation."""
_RANKS = {"base": (SKIN, SKIN), "mid": (1, 3), "insulation": (2, 4), "shell": (OUTSIDE, OUTSIDE)}
VENT_OPEN = {"none": 1.0, "some": 0.9, "wide": 0.75}
"""Share of the warmth under a piece that is left with its openings wide: judgement."""
COVERED = 0.3
"""Share of a region from which a piece lies over it and not beside it: judgement."""


def rank(piece: Garment) -> int:
    """Where a piece lies from skin to air: what keeps the wind out lies over what does not.

    Source: common practice, no published source; WINDPROOF.
    """
    return _RANKS[piece.layer][piece.air_permeability <= WINDPROOF]


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


class Figures(NamedTuple):
    """What one piece is, as wardrobes need it: its row of numbers, see COLUMNS, the regions it
    lies over, its rank, and its warmth over the skin that it covers [clo]."""

    piece: Garment
    row: Array
    regions: frozenset[str]
    rank: float
    warmth: float


COLUMNS = (
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
BLANK = {"permeability": 1.0, "wet_share": 1.0, "holds": 1.0, "vented": 1.0, "layer": -1.0}
_KNOWN: dict[int, Figures] = {}
MOST_KNOWN = 4096
"""Pieces, and wardrobes, whose figures are kept."""


def figures_of(piece: Garment) -> Figures:
    """Figures of a piece; the same object is measured once, as pieces never change.

    Source: warmth, and the piece's own fields.
    """
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
    figures = [float(numbers[name]) for name in COLUMNS]
    row = np.array([*figures, *found.cover[0].tolist(), *found.local[0].tolist()])
    if len(_KNOWN) >= MOST_KNOWN:
        _KNOWN.clear()
    thickest = float((found.cover[0] * found.local[0]).max())
    known = _KNOWN[id(piece)] = Figures(piece, row, regions, float(rank(piece)), thickest)
    return known
