"""Sets that hold, made of others: quickly, and without any proof."""

from collections.abc import Collection
from dataclasses import replace
from functools import cached_property

import numpy as np

from caldarium.core.lighten.glances import Glances
from caldarium.core.lighten.nearby import Nearby
from caldarium.core.lighten.offers import own_pieces
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.lighten.rounds import Keep
from caldarium.core.lighten.verdict import Fail
from caldarium.core.physics.quantities import Array

MOST_MENDED = 8
"""How often a set that does not hold is changed at most."""
MOST_STEPS = 8
"""Changes that are made before a lighter set is judged."""
MOST_JUDGED = 3
"""Verdicts that are asked for on the way."""
ENOUGH = 1.5
"""How much more than what mends best for its weight would a change may weigh that is enough:
judgement."""
AT_ONCE = 4
"""Sets that are judged together."""


class Mender:
    """Makes sets of a problem better, or whole.

    Args:
        problem: whose sets.
        start: a set to begin with, where one is known.
    """

    def __init__(self, problem: Problem, start: Chosen | None = None) -> None:
        self.of, self._start, self.glances = problem, start, Glances(problem)
        self.nearby = Nearby(problem)
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
            kinds = [digits.kinds[k] for k in digits.sets[int(np.argmax(point[part]))]]
            have |= {max(kind, key=lambda n: (share[n], -weights[n])) for kind in kinds}
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

    def mended(self, now: Chosen, failing: Collection[Fail] = ()) -> Array | None:
        """A set that holds and is better than the best, made of one that does not: by the lightest
        change that seems to be enough, or by what mends most for its weight until one is.

        Args:
            now: the set.
            failing: what is known to fail of it.
        """
        now = self._allowed(now)
        known, nights = self.glances.like(now), self._short_nights(failing)
        lack, judged = float(self.glances.lacking([now], known, nights)[0]), 0
        for _ in range(MOST_MENDED):
            spent = float(self.of.weights @ self.of.point_of(now))
            tried = [each for each in self._neighbours(now) if spent + each[0] < self.best_value]
            tried = self._within_rules(tried)
            after = self.glances.lacking([each for _, each in tried], known, nights)
            more = np.array([each for each, _ in tried])
            enough = [tried[k] for k in np.flatnonzero(after == 0.0).tolist()]
            enough += [(0.0, now)] if lack == 0.0 and spent < self.best_value else []
            gains = np.where(more > 0, (lack - after) / (np.maximum(more, 0.0) + 10.0), -1.0)
            rate = float(gains.max(initial=0.0))
            enough.sort(key=lambda each: each[0])
            near = enough and (rate <= 0 or enough[0][0] * rate < ENOUGH * lack)
            if (near or lack == 0.0) and enough and judged < MOST_JUDGED:
                some = [each for _, each in enough[:AT_ONCE]]
                judged += 1
                verdicts = self.of.fully(some)
                for each, fails in zip(some, verdicts, strict=True):
                    if not fails and self.of.keeps_rules(each):
                        return self.of.point_of(each)
                # As wet as it now is, what looked to hold may be seen to lack.
                now, known = some[0], self.glances.like(some[0])
                nights |= self._short_nights(verdicts[0])
                lack = float(self.glances.lacking([now], known, nights)[0])
                continue
            if rate <= 0:
                return None
            most = int(np.argmax(gains))
            now, lack = tried[most][1], float(after[most])
        return None

    def _short_nights(self, failing: Collection[Fail]) -> set[str]:
        """Nights on which a bed is short that must not be: bounds may see nothing of it."""
        return {each[0] for each in failing if each[1] == "bed" and each not in self.of.may_fail}

    def _allowed(self, now: Chosen) -> Chosen:
        """A set without what may not be in it, in the heaviest bed where theirs may not be."""
        high, at, weights = self.of.bounds[1], self.of.columns, self.of.weights
        masses = self.of.masses * (high > 0)
        have = {n for n in now.clothes if high[n]}
        for pair in self.of.rivals():
            if have.issuperset(pair):
                have.discard(max(pair, key=lambda n: weights[n]))
        return Chosen(
            tuple(sorted(have)),
            now.top if high[at.tops][now.top] else int(np.argmax(masses[at.tops])),
            now.bottom if high[at.bottoms][now.bottom] else int(np.argmax(masses[at.bottoms])),
        )

    def _neighbours(self, now: Chosen) -> list[tuple[float, Chosen]]:
        """Sets with one piece more or less or exchanged, or another top or bottom, and what each
        weighs more."""
        at, weights, high = self.of.columns, self.of.weights, self.of.bounds[1]
        found: list[tuple[float, Chosen]] = []
        for other in range(len(self.of.pieces)):
            if other not in now.clothes and high[other]:
                more = tuple(sorted((*now.clothes, other)))
                found.append((float(weights[other]), replace(now, clothes=more)))
        for piece in now.clothes:
            rest = tuple(each for each in now.clothes if each != piece)
            found.append((-float(weights[piece]), replace(now, clothes=rest)))
            for other in self._in_place_of[piece]:
                if other not in now.clothes and high[other]:
                    swapped = tuple(sorted((*rest, other)))
                    saved = float(weights[other] - weights[piece])
                    found.append((saved, replace(now, clothes=swapped)))
        for part, name in ((at.tops, "top"), (at.bottoms, "bottom")):
            here = weights[part.start + getattr(now, name)]
            for k in range(part.stop - part.start):
                if k != getattr(now, name) and high[part.start + k]:
                    found.append((float(weights[part.start + k] - here), replace(now, **{name: k})))
        return found

    def better(self, point: Array, keep: Keep) -> Array | None:
        """A lighter point that holds, pieces or beds exchanged or left out; None for none.

        Of all such changes the one that saves most is taken, as long as any seems to hold; what
        rules ask is kept.

        Args:
            point: one that holds.
            keep: which points may hold, by what is known so far.
        """
        self.best_value = min(self.best_value, float(self.of.weights @ point))
        now = self.of.chosen(point)
        first = self._lighter(point, now, keep)
        path: list[Array] = []
        some = first
        while some and len(path) < MOST_STEPS:
            path.append(some[0])
            some = self._lighter(path[-1], now, keep)
        for tried in (path[::-1], first[1 : 1 + AT_ONCE]):
            verdicts = self.of.fully([self.of.chosen(each) for each in tried])
            for each, failing in zip(tried, verdicts, strict=True):
                if not failing:
                    return each
        return None

    def _lighter(self, point: Array, like: Chosen, keep: Keep) -> list[Array]:
        """Points by one change lighter that seem to hold, as wet as a set is, lightest first."""
        here = float(self.of.weights @ point)
        near = self.nearby.near([point], -np.inf, here - 1e-6)
        near = near[keep(near)]
        if not len(near):
            return []
        near = near[np.argsort(near @ self.of.weights, kind="stable")]
        tried = [self.of.chosen(each) for each in near]
        lacks = self.glances.lacking(tried, self.glances.like(like))
        return list(near[lacks == 0.0])

    def _within_rules(self, tried: list[tuple[float, Chosen]]) -> list[tuple[float, Chosen]]:
        kept = self.of.keep_rules([each for _, each in tried])
        return [each for each, keeps in zip(tried, kept, strict=True) if keeps]

    @cached_property
    def _in_place_of(self) -> list[list[int]]:
        """For each piece those that could do what it does: they share a region."""
        over = (self.of.warm > 0).astype(float)
        shares = (over @ over.T) > 0
        return [np.flatnonzero(row).tolist() for row in shares]
