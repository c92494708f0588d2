"""Sets that hold, made of others: quickly, and without any proof."""

from dataclasses import replace

import numpy as np

from caldarium.core.lighten.offers import own_pieces
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.lighten.verdict import AT_A_TIME
from caldarium.core.physics.quantities import Array

MOST_MENDED = 8
"""Pieces that are added at most to a set that does not hold."""


class Mender:
    """Makes sets of a problem better, or whole.

    Args:
        problem: whose sets.
        start: a set to begin with, where one is known.
    """

    def __init__(self, problem: Problem, start: Chosen | None = None) -> None:
        self.of, self._start = problem, start
        self.best_value = np.inf

    def begun(self, point: Array) -> Array | None:
        """A whole point that holds, out of a broken one: what it has most of, and what then mends
        most for its weight until nothing lacks."""
        if self._start is not None:
            known = self.mended(self._start)
            if known is not None:
                return known
        at, weights, high = self.of.columns, self.of.weights, self.of.bounds[1]
        share = point[at.clothes]
        have = {int(n) for n in np.flatnonzero((share > 0.4) & (high[at.clothes] > 0))}
        for part, digits in zip((at.fingers, at.toes), self.of.digits, strict=True):
            have |= set(digits.sets[int(np.argmax(point[part]))])
        for rule in self.of.rules:
            there = [n for n in rule.pieces if n in have]
            best = sorted(rule.pieces, key=lambda n: (-share[n], weights[n]))
            if rule.most is not None and len(there) > rule.most:
                have -= set(there) - set(best[: rule.most])
            missing = rule.least - len(have & set(rule.pieces))
            have |= set([n for n in best if n not in have and high[n] > 0][: max(missing, 0)])
        tops, bottoms = point[at.tops], point[at.bottoms]
        likely = Chosen(tuple(sorted(have)), int(np.argmax(tops)), int(np.argmax(bottoms)))
        found = self.mended(likely)
        now = self.of.chosen_of([piece.id for piece in own_pieces(self.of.person)])
        return self.mended(now) if found is None and now is not None else found

    def mended(self, now: Chosen) -> Array | None:
        """A set that holds, made of one that does not by what mends most for its weight."""
        weights, high = self.of.weights, self.of.bounds[1]
        now = self._allowed(now)
        lack = self.of.measured([now])[0][1]
        for _ in range(MOST_MENDED):
            spent = float(weights @ self.of.point_of(now))
            if lack == 0.0:
                holds = self.of.keeps_rules(now) and not self.of.fully([now])[0]
                return self.of.point_of(now) if holds else None
            if spent >= self.best_value - 1e-6:
                return None
            tried = [each for each in self._neighbours(now, high) if each[0] > 0]
            left = self.best_value - spent
            tried = [each for each in tried if each[0] < left and self.of.keeps_rules(each[1])]
            if not tried:
                return None
            found = self.of.measured([each for _, each in tried])
            gains = [
                (lack - after) / (more + 10.0) * (2.0 if after == 0.0 else 1.0)
                for (more, _), (_, after) in zip(tried, found, strict=True)
            ]
            most = int(np.argmax(gains))
            if gains[most] <= 0:
                return None
            now, lack = tried[most][1], found[most][1]
        return None

    def _allowed(self, now: Chosen) -> Chosen:
        """A set without what may not be in it, in the heaviest bed where theirs may not be."""
        high, at = self.of.bounds[1], self.of.columns
        top, bottom = self.of.heaviest_bed
        return Chosen(
            tuple(n for n in now.clothes if high[n]),
            now.top if high[at.tops.start + now.top] else top,
            now.bottom if high[at.bottoms.start + now.bottom] else bottom,
        )

    def _neighbours(self, now: Chosen, high: Array) -> list[tuple[float, Chosen]]:
        """Sets with one piece more or less or exchanged, or another top or bottom, and what each
        weighs more."""
        at, weights = self.of.columns, self.of.weights
        found: list[tuple[float, Chosen]] = []
        for other in range(len(self.of.pieces)):
            if other not in now.clothes and high[other]:
                more = tuple(sorted((*now.clothes, other)))
                found.append((float(weights[other]), replace(now, clothes=more)))
        for piece in now.clothes:
            rest = tuple(each for each in now.clothes if each != piece)
            found.append((-float(weights[piece]), replace(now, clothes=rest)))
            for other in range(len(self.of.pieces)):
                if other not in now.clothes and high[other] and self._alike(piece, other):
                    swapped = tuple(sorted((*rest, other)))
                    saved = float(weights[other] - weights[piece])
                    found.append((saved, replace(now, clothes=swapped)))
        for part, name in ((at.tops, "top"), (at.bottoms, "bottom")):
            here = weights[part.start + getattr(now, name)]
            for k in range(part.stop - part.start):
                if k != getattr(now, name) and high[part.start + k]:
                    found.append((float(weights[part.start + k] - here), replace(now, **{name: k})))
        return found

    def better(self, point: Array) -> Array | None:
        """A lighter point that passes, one piece or bed exchanged or left out; None for none.

        Of all such the one that saves most is taken; what rules and fingers ask is kept.
        """
        weights = self.of.weights
        self.best_value = min(self.best_value, float(weights @ point))
        now = self.of.chosen(point)
        _, high = self.of.bounds
        tried = [each for each in self._neighbours(now, high) if each[0] < -1e-6]
        tried = [each for each in tried if self.of.keeps_rules(each[1])]
        tried.sort(key=lambda each: each[0])
        for first in range(0, len(tried), AT_A_TIME):
            some = [each for _, each in tried[first : first + AT_A_TIME]]
            for each, seen in zip(some, self.of.glance(some), strict=True):
                if not seen and not self.of.fully([each])[0]:
                    return self.of.point_of(each)
        return None

    def _alike(self, one: int, other: int) -> bool:
        """Whether a piece could do what another does: they share a region."""
        return bool(((self.of.warm[one] > 0) & (self.of.warm[other] > 0)).any())
