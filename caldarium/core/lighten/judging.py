"""What is said of points: rows that a broken one breaks, and why a whole one does not hold."""

from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import replace

import numpy as np

from caldarium.core.lighten.mending import Mender
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.lighten.rounds import Answer, Row, at_most
from caldarium.core.lighten.verdict import Fail
from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.quantities import Array

CLEARLY = 1e-4
"""A point is cut where it is over what is allowed by more than this share."""
AT_A_TIME = 6
"""Moments, and nights, that are cut at one point."""
BARE_LOSS = 40.0
"""More than bare skin loses in any wind [W/(m² K)]."""


Look = Callable[[Sequence[Chosen]], list[frozenset[Fail]]]
"""What fails of some sets."""


def _with(chosen: Chosen, more: Iterable[int]) -> Chosen:
    return replace(chosen, clothes=tuple(sorted({*chosen.clothes, *more})))


class Judge:
    """Looks at points of a problem.

    Args:
        problem: whose points.
        mender: makes sets that hold of those that do not.
    """

    def __init__(self, problem: Problem, mender: Mender) -> None:
        self.of, self._mender = problem, mender

    def judge(self, point: Array, whole: bool) -> Answer:
        """Rows that a point breaks; the course's verdict where bounds have nothing to say."""
        at = self.of.columns
        x, y, z = point[at.clothes], point[at.tops], point[at.bottoms]
        clad = np.concatenate([x, y])
        rows: list[Row] = []
        for bound in self.of.day.bounds(clad, self.of.allowed, CLEARLY, AT_A_TIME):
            weights = np.zeros(at.count)
            weights[: len(clad)] = bound.weights
            rows.append(at_most(weights, self.of.allowed[bound.at] - bound.constant))
        for part, allows in zip((at.fingers, at.toes), self.of.allows, strict=True):
            if not np.isfinite(allows).any():
                continue
            # A set that asks nothing allows whatever is lost bare.
            most = np.where(np.isfinite(allows), allows, BARE_LOSS)
            here = point[part] @ most
            for bound in self.of.day.bounds(clad, here, CLEARLY, AT_A_TIME):
                weights = np.zeros(at.count)
                weights[: len(clad)] = bound.weights
                weights[part] = -most[:, bound.at]
                rows.append(at_most(weights, -bound.constant))
        if self.of.night is not None:
            for bound, top, bottom in self.of.night.bounds(x, y, z, 0.01, AT_A_TIME):
                weights = np.zeros(at.count)
                weights[at.clothes], weights[at.tops] = bound.weights, top
                weights[at.bottoms] = bottom
                rows.append(at_most(weights, 0.0))
        if rows or not whole:
            return Answer(tuple(rows))
        chosen = self.of.chosen(point)
        failing = self.of.fully([chosen])[0]
        if not failing:
            return Answer()
        return Answer(tuple(self._excluded(chosen, failing)), self._holding(chosen))

    def _excluded(self, chosen: Chosen, failing: Collection[Fail]) -> list[Row]:
        """Rows that no set keeps which fails as this one does."""
        listed = sorted(failing, key=lambda each: (each[1] in ("gap", "bed"), each), reverse=True)
        cold = [each for each in listed if each[1] not in ("hot", "bed hot")]
        # One of a kind is enough at a time: they mostly are of one cause.
        once: dict[str, Fail] = {each[1]: each for each in reversed(cold)}
        rows = [self._grown(chosen, each) for each in once.values()]
        if any(kind == "hot" for _, kind in failing):
            rows.append(self._otherwise_at_least(chosen))
        return rows or [self._not_this(chosen)]

    def _not_this(self, chosen: Chosen) -> Row:
        weights = np.ones(self.of.columns.count)
        weights[self.of.columns.fingers] = weights[self.of.columns.toes] = 0.0
        inside = [
            *chosen.clothes,
            self.of.columns.tops.start + chosen.top,
            self.of.columns.bottoms.start + chosen.bottom,
        ]
        weights[inside] = -1.0
        return at_most(-weights, len(inside) - 1.0)

    def _otherwise_at_least(self, chosen: Chosen) -> Row:
        """Another of what is worn whatever else is: only that decides heat."""
        weights = np.zeros(self.of.columns.count)
        inside = 0
        for at, piece in enumerate(self.of.pieces):
            if piece.always or piece.layer in ("base", "shell"):
                weights[at] = -1.0 if at in chosen.clothes else 1.0
                inside += at in chosen.clothes
        return at_most(-weights, inside - 1.0)

    def _grown(self, chosen: Chosen, fail: Fail) -> Row:
        """A piece more is needed, or another bed, than the largest set found that fails just so."""
        at, (_, high) = self.of.columns, self.of.bounds
        rest = [n for n in range(len(self.of.pieces)) if n not in chosen.clothes and high[n] > 0]
        rest.sort(key=lambda n: self._matters(n, fail))
        at_a_glance = fail in self.of.glance([chosen])[0]
        look = self.of.glance if at_a_glance else self.of.fully
        now = chosen
        if fail[1] in ("fingers", "toes") and not at_a_glance:
            # Where a body at its ease does not help, only what is on hands or feet can.
            region = REGIONS.index("hands" if fail[1] == "fingers" else "feet")
            body = [n for n in rest if self.of.warm[n, region] == 0]
            if fail in look([_with(now, body)])[0]:
                now, rest = _with(now, body), [n for n in rest if n not in body]
        now, blockers = self._grown_clothes(now, rest, fail, look)
        # A glance looks at everything on; where less on does better the set was grown too far.
        grown = [n for n in now.clothes if n not in chosen.clothes]
        while at_a_glance and grown and fail not in self.of.fully([now])[0]:
            far, grown = grown[len(grown) // 2 :], grown[: len(grown) // 2]
            blockers += far
            now = _with(chosen, grown)
        weights = np.zeros(at.count)
        weights[blockers] = 1.0
        moment = self.of.place.get(fail[0])
        if fail[1] == "bed" or self._mended_by_a_load(now, fail, look):
            self._other_beds(now, fail, look, weights)
        if moment is not None:
            # Another bag can only help where one is drawn round, and only a thicker one.
            thicker = self.of.bags[:, moment] > self.of.bags[chosen.top, moment]
            weights[at.tops] += thicker & (high[at.tops] > 0) & (weights[at.tops] == 0)
        return at_most(-weights, -1.0)

    def _mended_by_a_load(self, now: Chosen, fail: Fail, look: Look) -> bool:
        """Whether a heavier bed mends what fails by day: a heavier pack makes a walker warmer."""
        if self.of.place.get(fail[0]) is None or look == self.of.glance:
            return False
        top, bottom = self.of.heaviest_bed
        return fail not in look([replace(now, top=top, bottom=bottom)])[0]

    def _grown_clothes(
        self, now: Chosen, rest: list[int], fail: Fail, look: Look
    ) -> tuple[Chosen, list[int]]:
        """The largest set found that still fails, and the pieces outside it."""
        blockers: list[int] = []
        while rest:
            # Whatever mends it by itself now does so with more on as well.
            alone = look([_with(now, [each]) for each in rest])
            still = [each for each, found in zip(rest, alone, strict=True) if fail in found]
            blockers += [each for each in rest if each not in still]
            sizes = sorted({len(still), *(2**k for k in range(7) if 2**k < len(still))})
            together = look([_with(now, still[:size]) for size in sizes]) if still else []
            fine = [size for size, found in zip(sizes, together, strict=False) if fail in found]
            most = max(fine, default=0)
            now, rest = _with(now, still[:most]), still[most:]
        return now, blockers

    def _other_beds(self, now: Chosen, fail: Fail, look: Look, weights: Array) -> None:
        """Mark the tops and bottoms that mend what fails, alone or with the best of those that do
        not, in place."""
        at, (_, high) = self.of.columns, self.of.bounds
        tops = [k for k in range(len(self.of.tops)) if high[at.tops.start + k] > 0]
        under = [k for k in range(len(self.of.bottoms)) if high[at.bottoms.start + k] > 0]
        with_bottoms = look([replace(now, bottom=k) for k in under])
        dull = [k for k, found in zip(under, with_bottoms, strict=True) if fail in found]
        weights[[at.bottoms.start + k for k in under if k not in dull]] = 1.0
        least = self.of.lost_below if fail[1] == "bed" else self.of.lightness
        best = min(dull, key=least, default=now.bottom)
        with_tops = look([replace(now, top=k, bottom=best) for k in tops])
        weights[
            [
                at.tops.start + k
                for k, found in zip(tops, with_tops, strict=True)
                if fail not in found
            ]
        ] = 1.0

    def _holding(self, chosen: Chosen) -> tuple[Array, ...]:
        """A set that holds, made of one that does not, where that is better than the best."""
        mended = self._mender.mended(chosen)
        return () if mended is None else (mended,)

    def _matters(self, at: int, fail: Fail) -> float:
        """How much a piece can do for something that fails; what can do nothing comes first."""
        region = {"fingers": "hands", "toes": "feet", "face": "head"}.get(fail[1])
        warm = self.of.warm[at]
        return float(warm.sum() + (100 * warm[REGIONS.index(region)] if region else 0.0))
