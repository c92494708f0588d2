"""Sets next to a set: a piece more, one less, or one in the place of another.

Programs of whole numbers find sets that fail one after another, most of which differ from those
before in one piece: looking at these first spares programs.
"""

from collections.abc import Sequence

import numpy as np

from caldarium.core.lighten.problem import Problem
from caldarium.core.lighten.rounds import WHOLE
from caldarium.core.physics.quantities import Array, Flags


class Nearby:
    """Whole points next to others, of one problem.

    Args:
        problem: whose points.
    """

    def __init__(self, problem: Problem) -> None:
        self.of, at = problem, problem.columns
        self._low, self._high = problem.bounds
        self._worn = {piece: at.worn.start + k for k, piece in enumerate(problem.turning)}
        self._sets: list[tuple[slice, Array, Array, Array]] = []
        for part, sets in zip((at.fingers, at.toes), problem.digits, strict=True):
            kinds = np.zeros((at.count, len(sets.kinds)))
            for k, pieces in enumerate(sets.kinds):
                kinds[[self._worn.get(piece, piece) for piece in pieces], k] = 1.0
            needs = np.zeros((len(sets.kinds), len(sets.sets)))
            for k, one in enumerate(sets.sets):
                needs[list(one), k] = 1.0
            asks = [sets.of_sum(m, sets.asked[m].weights.mean(axis=0)) for m in sets.binding]
            worth = -np.sum(asks, axis=0) if asks else np.zeros(len(sets.sets))
            self._sets.append((part, kinds, needs, worth))

    def near(self, points: Sequence[Array], least: float, most: float) -> Array:
        """Whole points that weigh between two sums and differ from some by one exchange.

        Args:
            points: whole ones.
            least, most: sums of weights; most itself is not reached.

        Returns:
            Points [N x V], each with the fingers' and toes' sets that ask least of the body.

        Source: none, enumeration.
        """
        found = [self._around(point, least, most) for point in points]
        return np.concatenate([np.zeros((0, self.of.columns.count)), *found])

    def _around(self, point: Array, least: float, most: float) -> Array:
        """What is next to one point."""
        at, weights = self.of.columns, self.of.weights
        here = float(weights @ point)
        out = np.flatnonzero((point[at.clothes] > 0.5) & (self._low[at.clothes] < 0.5))
        into = np.flatnonzero((point[at.clothes] < 0.5) & (self._high[at.clothes] > 0.5))
        pairs = [(int(i), None) for i in out] + [(None, int(j)) for j in into]
        pairs += [(int(i), int(j)) for i in out for j in into]
        for part in (at.tops, at.bottoms):
            now = part.start + int(np.argmax(point[part]))
            others = np.flatnonzero(self._high[part] > 0.5) + part.start
            pairs += [(now, int(k)) for k in others if k != now]
        gone = np.array([0.0 if i is None else weights[i] for i, _ in pairs])
        come = np.array([0.0 if j is None else weights[j] for _, j in pairs])
        fits: Flags = (here - gone + come >= least - WHOLE) & (here - gone + come < most)
        kept = [pairs[k] for k in np.flatnonzero(fits)]
        found = np.tile(point, (len(kept), 1))
        for row, (i, j) in enumerate(kept):
            if i is not None:
                found[row, i] = 0.0
            if j is not None:
                found[row, j] = 1.0
        return self._dressed(found)

    def _dressed(self, points: Array) -> Array:
        """Points with what follows of their clothes: which socks are worn, and the sets of gloves
        and of what is on the feet that ask least of the body."""
        for piece, column in self._worn.items():
            points[:, column] = np.minimum(points[:, column], points[:, piece])
            rivals = [self._worn[b] for b in self.of.turns_with(piece)]
            free = points[:, rivals].sum(axis=1) < 0.5
            points[:, column] = np.where(free, points[:, piece], points[:, column])
        for part, kinds, needs, worth in self._sets:
            lacks = (1.0 - np.minimum(points @ kinds, 1.0)) @ needs
            best = np.argmax(np.where(lacks < 0.5, worth, -np.inf), axis=1)
            points[:, part] = 0.0
            points[np.arange(len(points)), part.start + best] = 1.0
        return points
