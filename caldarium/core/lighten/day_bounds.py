"""What a day asks at least of a set: cuts that no set which holds can break.

The verdict's own physics made looser only: dry but for what surely gets wet, everything worn, every
region as shut as the tightest piece that can be outermost there. Heat lost is then a sum over
regions, each convex in the layers there, so that any slope gives a straight bound: the conjugate of
the region's loss, found on a grid that errs downward.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.dressing import BAG_PERMEABILITY, BAG_REGIONS, BARE_PERMEABILITY, Air
from caldarium.core.lighten.outside import Outside
from caldarium.core.physics import cold
from caldarium.core.physics.clothing import (
    HEAVY,
    REGION_SHARE,
    STILL_LAYER,
    moving_factor,
    region_insulation,
    uniform_equivalent,
)
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.plan.figures import SKIN

GRID = 4000
"""Points at which a region's loss is known; between them it counts as the lower of its ends."""

LEVELS = np.array(
    [1, 2, 3, 4, 5, 8, 10, 12, 15, 20, 25, BAG_PERMEABILITY, 60, 100, 150, 200, 400, 1000]
)
"""Air permeabilities that are told apart where pieces have more, each as shut as the next lower
[l/(m² s)]."""
MOST_LEVELS = 40
AGAIN = 3
"""How often the least outfit is found from what passes through it, and the other way round."""


@dataclass(frozen=True)
class Bound:
    """A straight bound on what is lost at a place in a list of moments or nights: at least a
    constant and weights over the columns."""

    at: int
    weights: Array
    constant: float


class Seen(NamedTuple):
    """What is certain of a point: insulation [clo, M x 7], the least of what is bounded by region
    [M x 7], such as the loss [W/(m² K)], and the kind by whose figure each region is bounded; kinds
    of which that is less are counted by how much of them is there [M x 7]; the point itself [V]."""

    layers: Array
    least: Array
    by: NDArray[np.intp]
    point: Array


@dataclass(frozen=True)
class Curves:
    """What falls ever slower with insulation over a region: a grid of insulation [clo, GRID], what
    it is there in still air [7 x GRID], and by how much wind multiplies that at each moment where a
    kind is outermost, in order from the least, the last of them bare skin [M x K + 1]."""

    grid: Array
    still: Array
    times: Array

    @cached_property
    def falls(self) -> Array:
        """How steeply it falls in each cell of the grid, never steeper than in the one before
        [7 x GRID]."""
        falls = np.full(self.still.shape, np.inf)
        falls[:, 1:] = -np.diff(self.still, axis=1) / np.diff(self.grid)
        return np.minimum.accumulate(falls, axis=1)


class Worn(NamedTuple):
    """What a body wears at most at a point: resultant insulation at each moment [m² K/W, M]; total
    insulation, with the air layer, of the whole [m² K/W, M]; and by region, turned round, as Curves
    have it."""

    whole: Array
    total: Array
    seen: Seen


@dataclass(frozen=True)
class DayBounds:
    """What one person loses and wears at M moments over V columns, each of which is a piece, a bed,
    or a piece that takes turns while it is worn.

    local insulation [clo, M x V x 7]; kind of the column among the K that there are, by how open it
    is and how deep it lies, K for one that is outermost nowhere in a region [M x V x 7]; grid of
    insulation [clo, GRID]; heat that regions lose [W/(m² K)]; their total insulation, less than
    nothing [m² K/W]; where on the grid the insulation ends that can lie there where a kind is
    outermost [M x 7 x K + 1]; kinds that lie on the skin [K]; columns that are worn over those
    wherever they are taken [M x V x 7]; insulation of the air layer [m² K/W, M].
    """

    local: Array
    kind: NDArray[np.intp]
    grid: Array
    lost: Curves
    kept: Curves
    ends: NDArray[np.intp]
    inner: Flags
    over: Flags
    bare: Array

    def at(self, x: Array) -> Seen:
        """What is certainly lost at a point, of columns 0 to 1. Source: see the module."""
        there = np.flatnonzero(x)
        layers = (x[there] @ self._layers[there]).reshape(-1, 7)
        return self._seen(x, layers, self.lost)

    def worn(self, seen: Seen) -> Worn:
        """What the body wears at most at a point. Source: see the module."""
        kept = self._seen(seen.point, seen.layers, self.kept)
        totals = -kept.least
        whole = uniform_equivalent(totals, self.bare)
        return Worn(whole, 1 / (REGION_SHARE / totals).sum(axis=1), kept)

    def _seen(self, x: Array, layers: Array, curves: Curves) -> Seen:
        there = np.flatnonzero(x)
        place = np.minimum(np.searchsorted(self.grid, layers, side="right"), GRID - 1)
        far = np.minimum(place[..., None], self.ends)
        found = curves.still[np.arange(7)[:, None], far] * curves.times[:, None]
        share = (x[there] @ self._shuts[there].astype(float)).reshape(found.shape)
        # Nothing is worse than bare skin.
        found = np.minimum(found, found[..., -1:])
        order: NDArray[np.intp] = found.argsort(axis=-1)
        ranked = np.take_along_axis(found, order, axis=-1)
        shares = np.take_along_axis(share, order, axis=-1)
        bounds = ranked * (1 - shares.cumsum(axis=-1) + shares) + (
            (ranked * shares).cumsum(axis=-1) - ranked * shares
        )
        # Of kinds that bound alike the one that loses least: what is there is then in no doubt.
        near: Flags = bounds >= bounds.max(axis=-1, keepdims=True) - 1e-9
        best: NDArray[np.intp] = near.argmax(axis=-1)[..., None]
        certain = np.take_along_axis(bounds, best, axis=-1)[..., 0]
        kind = np.take_along_axis(order, best, axis=-1)[..., 0]
        return Seen(layers, certain, kind, x)

    @cached_property
    def _shuts(self) -> Flags:
        """Which columns are of each kind over each region [V x M 7 K + 1]."""
        kinds = np.array(range(self.lost.times.shape[1]))
        found: Flags = self.kind.transpose(1, 0, 2)[..., None] == kinds
        found[..., -1] = False
        return found.reshape(self.local.shape[1], -1)

    @cached_property
    def _layers(self) -> Array:
        """Insulation of each column [clo, V x M 7]."""
        return self.local.transpose(1, 0, 2).reshape(self.local.shape[1], -1)

    def certain(self, x: Array) -> Array:
        """Loss that is certain at least at each moment [W/(m² K), M]."""
        return self.at(x).least.sum(axis=1)

    def worst(self, seen: Seen, allowed: Array, short: float, most: int) -> list[Bound]:
        """Bounds where a point loses more than is allowed, the worst first.

        Args:
            seen: of the point.
            allowed: loss that each moment allows there [W/(m² K), M].
            short: by what share of that a point must be over it.
            most: how many are looked for.
        """
        over = seen.least.sum(axis=1) / allowed - 1
        order: list[int] = np.argsort(-over)[:most].tolist()
        return [self.bound(m, seen) for m in order if over[m] > short]

    def bound(self, m: int, seen: Seen) -> Bound:
        """A bound on what is lost at a moment, at a point. Source: see the module."""
        return self._straight(m, seen, self.lost, np.ones(7))

    def worn_bound(self, m: int, worn: Worn) -> Bound:
        """A bound on what is worn at a moment, at a point: at most a constant and weights over the
        columns [m² K/W].

        Source: the whole is a mean of the regions that is nowhere under its tangents.
        """
        total = float(worn.total[m])
        shares = REGION_SHARE * (total / worn.seen.least[m]) ** 2
        each = self._straight(m, worn.seen, self.kept, shares)
        # What the body wears rises with the total ever slower, too.
        thin, factor = float(self.bare[m]), float(cold.area_factor(worn.whole[m]))
        slope = float(cold.area_factor(1.0)) - 1.0
        rises = 1 / (1 - thin * slope / factor**2)
        constant = float(worn.whole[m]) - rises * (each.constant + total)
        return Bound(m, -rises * each.weights, constant)

    def _straight(self, m: int, seen: Seen, curves: Curves, shares: Array) -> Bound:
        """A straight bound from below on a sum over the regions by their shares."""
        layers, by = seen.layers[m], seen.by[m]
        weights = np.zeros(self.local.shape[1])
        constant = 0.0
        times = curves.times[m]
        places = np.maximum(_places(self.grid, layers), 1)
        kinds = np.minimum(self.kind[m], len(times) - 1)
        for r in range(7):
            k, ends = int(by[r]), self.ends[m, r]
            place = int(places[r])
            # The slope of the kind that bounds this region here, none beyond where that ends.
            slope = float(curves.falls[r, place] * times[k]) if place <= ends[k] else 0.0
            # A kind is least where it falls as steeply: in that cell or beside it, by the figure at
            # the far end of a cell and the layers at its near end.
            steep = _places(-curves.falls[r], -slope / times)
            cells = np.clip(steep + np.array([[-1], [0], [1]]), 1, ends)
            here = curves.still[r, cells] * times + slope * self.grid[cells - 1]
            least = here.min(axis=0)
            most = min(least[k], least[-1])
            constant += shares[r] * most
            weights -= shares[r] * slope * self.local[m, :, r]
            saved = shares[r] * np.maximum(most - least, 0.0)
            saved[-1] = 0.0
            over = seen.point * self.over[m, :, r]
            at = int(over.argmax())
            if over[at] > 0.5:
                # With that over them, none of what lies on the skin is outermost.
                most_inner = float(saved[:-1][self.inner].max(initial=0.0))
                saved[:-1][self.inner] = 0.0
                constant -= most_inner
                weights[at] += most_inner
            weights -= saved[kinds[:, r]]
        return Bound(m, weights, float(constant))


def _places(values: Array, wanted: Array) -> NDArray[np.intp]:
    """The first places in rising values that are over or as great as some, the last for none."""
    found: NDArray[np.intp] = np.searchsorted(values, wanted).astype(np.intp)
    return np.minimum(found, len(values) - 1)


def _bulged(grid: Array, values: Array) -> Array:
    """The least that is over some values [7 x GRID] and rises ever slower.

    A rise is at least as steep as any after it.
    """
    slopes = np.diff(values, axis=1) / np.diff(grid)
    least = np.maximum.accumulate(slopes[:, ::-1], axis=1)[:, ::-1]
    risen = (least * np.diff(grid)).cumsum(axis=1)
    found: Array = np.concatenate([values[:, :1], values[:, :1] + risen], axis=1)
    return found


def finely(most: float, points: int) -> Array:
    """A grid from nothing to the most there is, finest where little is worn.

    Source: none, bookkeeping.
    """
    return most * np.linspace(0.0, 1.0, points) ** 2


def loss_allowed(need: Array, bare: Array) -> Array:
    """Loss of the skin at an insulation that is needed [W/(m² K)].

    Args:
        need: resultant insulation [m² K/W].
        bare: of the air layer [m² K/W].

    Source: core.physics.clothing.uniform_equivalent, turned round.
    """
    return 1 / (need + bare / cold.area_factor(need))


def _levels(permeability: Array) -> Array:
    """Air permeabilities that are told apart [l/(m² s)]."""
    every = np.unique([*permeability, BAG_PERMEABILITY, LEVELS[-1]])
    if len(every) <= MOST_LEVELS:
        return every
    return np.unique([*np.minimum(LEVELS, permeability.min()), *LEVELS[1:]])


def _kept(speed: Array, walking: Array, known: Array, allowed: Array) -> Array:
    """Share of the still insulation that is left at most at each level, of an outfit in which a
    moment can hold [M x K].

    Wind takes from still insulation, so that what holds is as thick as that in still air at least;
    between such an outfit and the thickest the share lies between theirs.
    """
    bare = cold.air_layer(speed, walking)[:, None] / STILL_LAYER
    speeds, thick = (speed[:, None], walking[:, None]), np.zeros((len(speed), 1))
    heavy = moving_factor(HEAVY, *speeds, known)
    kept = np.ones((len(speed), len(known)))
    for _ in range(AGAIN):
        kept = np.maximum(np.maximum(moving_factor(thick, *speeds, known), heavy), bare)
        total = np.maximum(1 / (allowed * kept.max(axis=1)), STILL_LAYER)
        thick = uniform_equivalent(np.repeat(total[:, None], 7, axis=1), STILL_LAYER)[:, None] / CLO
    # Never more of what is more open, so that levels stand in order.
    found: Array = np.maximum.accumulate(kept[:, ::-1], axis=1)[:, ::-1]
    return found


def day_bounds(
    air: Air, local: Array, outside: Outside, bags: Array, allowed: Array, turning: Sequence[int]
) -> DayBounds:
    """Bounds of one person's moments.

    Args:
        air: of one person over M moments.
        local: of each piece while it is there, 0 while it is away [clo, M x N x 7].
        outside: how open pieces are, and where they can be outermost.
        bags: of each bed's bag drawn round in a hold [clo, C x M].
        allowed: loss that each moment allows, infinite where any will do [W/(m² K), M].
        turning: pieces, W of them, that count where they are worn, and not where they are carried.

    Returns:
        Bounds over N pieces, C beds and W pieces that are worn.

    Source: core.physics.clothing and core.day.dressing, loosened.
    """
    moments, count, _ = local.shape
    beds, bagged = len(bags), float(bags.max(initial=0.0))
    known = _levels(outside.permeability)
    level = np.searchsorted(known, outside.permeability, side="right") - 1
    pairs, of_piece = np.unique(
        np.column_stack([outside.rank, level]).reshape(-1, 2), axis=0, return_inverse=True
    )
    bag_kind, kinds = len(pairs), len(pairs) + 1
    kind: NDArray[np.intp] = np.full((moments, count + beds, 7), kinds, dtype=np.intp)
    may = outside.covers & (outside.rank[:, None] >= outside.over[:, None])
    kind[:, :count] = np.where(may, of_piece.reshape(-1, 1), kinds)
    kind[:, count:] = np.where((bags.T > 0)[..., None] & (BAG_REGIONS > 0), bag_kind, kinds)
    layers = np.concatenate([local, bags.T[..., None] * BAG_REGIONS], axis=1)
    most = float(local.sum(axis=1).max(initial=1.0)) + bagged
    grid = finely(most + 0.01, GRID)
    whole = region_insulation(np.repeat(grid[:, None], 7, axis=1)) * CLO
    whole = whole + STILL_LAYER / cold.area_factor(whole)
    speeds = (air.where.air_speed[0], air.where.walking_speed[0])
    kept = _kept(*speeds, known, allowed)
    others = np.searchsorted(known, [BAG_PERMEABILITY, BARE_PERMEABILITY])
    of_kind = np.concatenate([pairs[:, 1].astype(int), others])
    # Under the outermost lies no more than what comes before it from skin to air, what covers only
    # a little of a region, and a bag.
    order = np.argsort(outside.place)
    over = np.where(outside.covers, local, 0.0)[:, order].cumsum(axis=1)[:, np.argsort(order)]
    beside = np.where(outside.covers, 0.0, local).sum(axis=1)
    deepest = np.full((moments, 7, kinds + 1), most + 0.01)
    for k in range(len(pairs)):
        mine = of_piece.reshape(-1) == k
        deepest[..., k] = np.where(outside.covers, over, 0.0)[:, mine].max(axis=1) + beside
    deepest[..., -1] = beside
    deepest += bags.max(axis=0, initial=0.0)[:, None, None] * BAG_REGIONS[:, None]
    ends = np.maximum(_places(grid, deepest), 1)
    turns = list(turning)
    layers = np.concatenate([layers, layers[:, turns]], axis=1)
    kind = np.concatenate([kind, kind[:, turns]], axis=1)
    layers[:, turns], kind[:, turns] = 0.0, kinds
    return DayBounds(
        local=layers,
        kind=kind,
        grid=grid,
        lost=Curves(grid, (REGION_SHARE / whole).T, 1 / kept[:, of_kind]),
        kept=Curves(grid, -_bulged(grid, whole.T), kept[:, of_kind]),
        ends=ends,
        inner=np.append(pairs[:, 0] == SKIN, False),
        over=np.concatenate(
            [
                outside.covers & outside.free[:, None],
                np.zeros((moments, beds + len(turns), 7), bool),
            ],
            axis=1,
        ),
        bare=cold.air_layer(*speeds),
    )
