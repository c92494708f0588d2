"""What a day asks at least of a set: cuts that no set which holds can break.

The verdict's own physics made looser only: dry clothes, everything worn, every region as shut as
its tightest piece. Heat lost is then a sum over regions, each convex in the layers there, so that
any slope gives a straight bound: the conjugate of the region's loss, found on a grid that errs
downward.
"""

from bisect import bisect_right
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.dressing import BAG_PERMEABILITY, BAG_REGIONS, Air
from caldarium.core.physics import cold
from caldarium.core.physics.clothing import (
    HEAVY,
    REGION_SHARE,
    STILL_LAYER,
    moving_factor,
    region_insulation,
)
from caldarium.core.physics.quantities import CLO, Array, Flags

GRID = 400
"""Points at which a region's loss is known; between them it counts as the lower of its ends."""

LEVELS = np.array(
    [1, 2, 3, 4, 5, 8, 10, 12, 15, 20, 25, BAG_PERMEABILITY, 60, 100, 150, 200, 400, 1000]
)
"""Air permeabilities that are told apart, each piece as shut as the next lower [l/(m² s)]."""


@dataclass(frozen=True)
class Bound:
    """A straight bound on what is lost at a place in a list of moments or nights: at least a
    constant and weights over the columns."""

    at: int
    weights: Array
    constant: float


@dataclass(frozen=True)
class DayBounds:
    """Losses of one person at M moments over V columns, each of which is a piece or a bed.

    local insulation [clo, M x V x 7]; level of the column's air permeability among the K that
    there are, K for one that shuts nothing in a region [M x V x 7]; heat that a region may lose in
    still air by insulation, on a grid [clo, GRID] and [W/(m² K), 7 x GRID]; share of it that
    passes with wind by moment and level [M x K].
    """

    local: Array
    level: NDArray[np.intp]
    grid: Array
    still: Array
    passes: Array

    def at(self, x: Array) -> tuple[Array, Array]:
        """Insulation [clo, M x 7] and the loss that is certain at least [W/(m² K), M x 7 x K], by
        the level that each region is taken as shut to."""
        layers = (self._layers @ x).reshape(-1, 7)
        place = np.minimum(np.searchsorted(self.grid, layers, side="right"), GRID - 1)
        still = self.still[np.arange(7), place]
        loss = still[:, :, None] * self.passes[:, None, :]
        # Whatever shuts better than a level takes off what it would save.
        share = self._shut(x)
        saved = np.maximum(loss[:, :, :, None] - loss[:, :, None, :], 0.0)
        return layers, loss - np.matmul(saved, share[..., None])[..., 0]

    def _shut(self, x: Array) -> Array:
        """How much of each level is there over each region [M x 7 x K]."""
        return (self._shuts @ x).reshape(*self.local.shape[::2], -1)

    @cached_property
    def _shuts(self) -> Array:
        """Which columns are of each level over each region [M 7 K x V]."""
        levels = np.array(range(self.passes.shape[1]))
        found: Array = np.asarray(self.level[..., None] == levels, dtype=float)
        return found.transpose(0, 2, 3, 1).reshape(-1, self.local.shape[1])

    @cached_property
    def _layers(self) -> Array:
        """Insulation of each column [clo, M 7 x V]."""
        return self.local.transpose(0, 2, 1).reshape(-1, self.local.shape[1])

    def certain(self, x: Array) -> Array:
        """Loss that is certain at least at each moment [W/(m² K), M]."""
        return self.at(x)[1].max(axis=2).sum(axis=1)

    def bounds(self, x: Array, allowed: Array, short: float, most: int) -> list[Bound]:
        """Bounds that a point breaks, the worst first.

        Args:
            x: of the columns, 0 to 1.
            allowed: loss that each moment allows at this point [W/(m² K), M].
            short: by what share of that a point must be over it.
            most: how many are looked for.
        """
        layers, loss = self.at(x)
        over = loss.max(axis=2).sum(axis=1) / allowed - 1
        order: list[int] = np.argsort(-over)[:most].tolist()
        worst = [m for m in order if over[m] > short]
        # Of levels that bound alike the tightest: what is there already is then in no doubt.
        near: Flags = loss >= loss.max(axis=2, keepdims=True) - 1e-9
        tightest: NDArray[np.intp] = near.argmax(axis=2)
        found = [self._bound(m, layers[m], tightest[m]) for m in worst]
        return [
            each
            for each in found
            if each.weights @ x + each.constant > allowed[each.at] * (1 + short)
        ]

    def _bound(self, m: int, layers: Array, levels: NDArray[np.intp]) -> Bound:
        weights = np.zeros(self.local.shape[1])
        constant = 0.0
        grid: list[float] = self.grid.tolist()
        there: list[float] = layers.tolist()
        for r in range(7):
            place = min(bisect_right(grid, there[r]), GRID - 1)
            k = int(levels[r])
            passes = self.passes[m]
            near, far = self.grid[place - 1], self.grid[place]
            slope = (self.still[r, place - 1] - self.still[r, place]) / (far - near) * passes[k]
            # The loss at the far end of each cell against the layers at its near end.
            least = np.array(
                [(self.still[r, 1:] * each + slope * self.grid[:-1]).min() for each in passes]
            )
            beyond = self.still[r, -1] * passes + slope * self.grid[-1]
            least = np.minimum(least, beyond)
            constant += least[k]
            weights -= slope * self.local[m, :, r]
            saved = np.append(np.maximum(least[k] - least, 0.0), 0.0)
            weights -= saved[self.level[m, :, r]]
        return Bound(m, weights, float(constant))


def finely(most: float) -> Array:
    """A grid from nothing to the most there is, finest where little is worn.

    Source: none, bookkeeping.
    """
    return most * np.linspace(0.0, 1.0, GRID) ** 2


def loss_allowed(need: Array, bare: Array) -> Array:
    """Loss of the skin at an insulation that is needed [W/(m² K)].

    Args:
        need: resultant insulation [m² K/W].
        bare: of the air layer [m² K/W].

    Source: core.physics.clothing.uniform_equivalent, turned round.
    """
    return 1 / (need + bare / cold.area_factor(need))


def day_bounds(
    air: Air, local: Array, covers: Flags, permeability: Array, bags: Array
) -> DayBounds:
    """Bounds of one person's moments.

    Args:
        air: of one person over M moments.
        local: of each piece while it is there, 0 while it is away [clo, M x N x 7].
        covers: regions that it lies over while it is there [M x N x 7].
        permeability: of each piece [l/(m² s), N].
        bags: of each bed's bag drawn round in a hold [clo, C x M].

    Returns:
        Bounds over N pieces and C beds.

    Source: core.physics.clothing and core.day.dressing, loosened.
    """
    moments, count, _ = local.shape
    beds = len(bags)
    known = np.unique([*np.minimum(LEVELS, permeability.min(initial=1e9)), *LEVELS[1:]])
    levels: NDArray[np.intp] = np.full((moments, count + beds, 7), len(known), dtype=np.intp)
    levels[:, :count] = np.where(
        covers, (np.searchsorted(known, permeability, side="right") - 1)[:, None], len(known)
    )
    bag_level = int(np.searchsorted(known, BAG_PERMEABILITY, side="right") - 1)
    round_them = (bags.T > 0)[..., None] & (BAG_REGIONS > 0)
    levels[:, count:] = np.where(round_them, bag_level, len(known))
    layers = np.concatenate([local, bags.T[..., None] * BAG_REGIONS], axis=1)
    speed, walking = air.where.air_speed[0], air.where.walking_speed[0]
    most = float(local.sum(axis=1).max(initial=1.0)) + float(bags.max(initial=0.0))
    grid = finely(most + 0.01)
    whole = region_insulation(np.repeat(grid[:, None], 7, axis=1)) * CLO
    whole = whole + STILL_LAYER / cold.area_factor(whole)
    # What passes is lowest for an outfit as light or as heavy as there is, whichever is less.
    factors = [
        moving_factor(outfit, speed[:, None], walking[:, None], known) for outfit in (0.0, HEAVY)
    ]
    bare = cold.air_layer(speed, walking)
    kept = np.maximum(np.maximum(*factors), bare[:, None] / STILL_LAYER)
    return DayBounds(
        local=layers,
        level=levels,
        grid=grid,
        still=(REGION_SHARE / whole).T,
        passes=1 / kept,
    )
