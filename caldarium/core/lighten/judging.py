"""What is said of points: rows that a broken one breaks, and why a whole one does not hold."""

import math
from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations

import numpy as np

from caldarium.core.day.dressing import MOVING
from caldarium.core.lighten.day_bounds import Worn
from caldarium.core.lighten.digit_sets import DigitSets
from caldarium.core.lighten.halving import fail_up_to
from caldarium.core.lighten.laden import Laden
from caldarium.core.lighten.least_wet import is_barrier
from caldarium.core.lighten.mending import Mender
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.lighten.rounds import Answer, Kind, Row, Search, at_most
from caldarium.core.lighten.verdict import Fail
from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.quantities import CLO, Array

CLEARLY = 1e-4
"""A point is cut where it is over what is allowed by more than this share."""
SAME = 1e-9
"""What fails by no less than another, fails as it does."""
AT_A_TIME = 6
"""Moments, and nights, that are cut at one point."""
MOST_EXCLUDED = 4
"""Whole points of those looked at together of which it is told why they do not hold."""
LOAD_STEP = 5.0
"""Loads under which something fails are told apart by as much [g]."""
HEAVIER = 0.1
"""What weighs more by that is heavier: the least step of a mass [g]."""
MOST_REGROWN = 2
"""How often what grew too far is grown anew."""
MOST_BARRIERS = 2
"""Barriers that are looked at with and without, in all ways."""
MOST_MENDED = 2
"""And of which sets are made that do."""


Look = Callable[[Sequence[Chosen]], list[bool]]
"""Which of some sets fail in one way."""


def _is_cold(fail: Fail) -> bool:
    return fail[1] not in ("hot", "bed hot")


def _with(chosen: Chosen, more: Iterable[int]) -> Chosen:
    return replace(chosen, clothes=tuple(sorted({*chosen.clothes, *more})))


def _without(chosen: Chosen, gone: Iterable[int]) -> Chosen:
    return replace(chosen, clothes=tuple(sorted({*chosen.clothes} - {*gone})))


@dataclass(frozen=True)
class _Grown:
    """A set that fails, how, what sees which others do, the largest set found that fails so too,
    and the pieces outside that one that mend it."""

    chosen: Chosen
    fail: Fail
    look: Look
    now: Chosen
    blockers: Sequence[int]


class Judge:
    """Looks at points of a problem.

    Args:
        problem: whose points.
        mender: makes sets that hold of those that do not.
        search: as far as it is, which tells what a better set may weigh.
    """

    def __init__(self, problem: Problem, mender: Mender, search: Search | None = None) -> None:
        self.of, self._mender, self._glances = problem, mender, mender.glances
        self._search = Search() if search is None else search

    @cached_property
    def _barriers(self) -> set[int]:
        return {n for n, piece in enumerate(self.of.pieces) if is_barrier(piece)}

    def judge(self, points: Sequence[Array], kind: Kind) -> Answer:
        """Rows that points break; the course's verdict where bounds have nothing to say."""
        rows: list[Row] = []
        fit: list[Chosen] = []
        for point in points:
            broken = self._broken(point)
            rows += broken
            if kind != "broken" and not broken:
                fit.append(self.of.chosen(point))
        if not fit:
            return Answer(tuple(rows))
        first = self.of.chosen(points[0])
        verdicts = list(zip(fit, self.of.fully(fit), strict=True))
        holds = [self.of.point_of(chosen) for chosen, failing in verdicts if not failing]
        passed = any(chosen == first and not failing for chosen, failing in verdicts)
        fails = [(chosen, failing) for chosen, failing in verdicts if failing][:MOST_EXCLUDED]
        rows += self._excluded(fails)
        few = fails[:MOST_MENDED] if kind == "whole" else []
        mended = (self._mender.mended(chosen, failing) for chosen, failing in few)
        return Answer(tuple(rows), (*holds, *(each for each in mended if each is not None)), passed)

    def _broken(self, point: Array) -> list[Row]:
        """Bounds that a point breaks, as rows."""
        at = self.of.columns
        x, y, z = point[at.clothes], point[at.tops], point[at.bottoms]
        clad = point[: at.bottoms.start]
        rows: list[Row] = []
        seen = self.of.day.at(clad)
        for bound in self.of.day.worst(seen, self.of.allowed, CLEARLY, AT_A_TIME):
            weights = np.zeros(at.count)
            weights[: len(clad)] = bound.weights
            rows.append(at_most(weights, self.of.allowed[bound.at] - bound.constant))
        chained = [
            each
            for each in zip((at.fingers, at.toes), self.of.digits, strict=True)
            if each[1].binding
        ]
        if chained:
            worn = self.of.day.worn(seen)
            rows += [
                row for part, sets in chained for row in self._chained(point, worn, part, sets)
            ]
        if self.of.night is not None:
            for bound, top, bottom in self.of.night.bounds(x, y, z, 0.01, AT_A_TIME):
                weights = np.zeros(at.count)
                weights[at.clothes], weights[at.tops] = bound.weights, top
                weights[at.bottoms] = bottom
                rows.append(at_most(weights, 0.0))
        return [row for row in rows if row.over(point) > CLEARLY]

    def _chained(self, point: Array, worn: Worn, part: slice, sets: DigitSets) -> list[Row]:
        """Rows that a point breaks as its gloves, or what it has on its feet, ask more of a body
        through a day than it can wear, the worst first."""
        lacks: list[tuple[float, int, Array, Array]] = []
        share = point[part]
        for m in sets.short(share, worn.whole):
            some = worn.whole[list(sets.asked[m].moments)]
            slopes = sets.slopes(m, share, some)
            if slopes.any():
                needs = sets.of_sum(m, slopes)
                lacks.append((float(slopes @ some - share @ needs), m, slopes, needs))
        lacks.sort(key=lambda each: each[0])
        worst = [each for each in lacks[:AT_A_TIME] if each[0] < -CLEARLY * CLO]
        return [self._row(worn, part, *each[1:], sets) for each in worst]

    def _row(
        self, worn: Worn, part: slice, m: int, slopes: Array, needs: Array, sets: DigitSets
    ) -> Row:
        """What is worn in a sum over a day's moments is as much as each set needs, in clo."""
        weights, constant = np.zeros(self.of.columns.count), 0.0
        for slope, place in zip(slopes.tolist(), sets.asked[m].moments, strict=True):
            if slope:
                bound = self.of.day.worn_bound(place, worn)
                weights[: len(bound.weights)] -= slope * bound.weights
                constant += slope * bound.constant
        weights[part] += needs
        return at_most(weights / CLO, constant / CLO)

    def _excluded(self, fails: Sequence[tuple[Chosen, Collection[Fail]]]) -> list[Row]:
        """Rows that no set keeps which fails as these do."""
        rows: list[Row] = []
        grown: list[_Grown] = []
        self._glances.learn(
            [(each, each) for each, failing in fails if any(map(_is_cold, failing))]
        )
        for chosen, failing in fails:
            cold = sorted(filter(_is_cold, failing))
            # One of a kind is enough at a time: they mostly are of one cause.
            once: dict[str, Fail] = {each[1]: each for each in reversed(cold)}
            grown += [self._grown(chosen, fail) for fail in once.values()]
            if any(kind == "hot" for _, kind in failing):
                rows.append(self._otherwise_at_least(chosen))
            elif not once:
                rows.append(self._not_this(chosen))
        settled = self._settled(grown)
        with_barriers = self._only_with_barriers(settled)
        parts = zip(settled, with_barriers, self._up_to(settled), strict=True)
        return rows + [self._blocked(*each) for each in parts]

    def _only_with_barriers(self, grown: Sequence["_Grown"]) -> list[list[int]]:
        """The barriers of each without some of which it is not known to fail."""
        found = [[n for n in each.chosen.clothes if n in self._barriers] for each in grown]
        tried: list[tuple[int, _Grown]] = []
        for at, (each, barriers) in enumerate(zip(grown, found, strict=True)):
            if barriers and len(barriers) <= MOST_BARRIERS and self._plain(each.fail):
                for size in range(1, len(barriers) + 1):
                    for gone in combinations(barriers, size):
                        chosen, now = (_without(of, gone) for of in (each.chosen, each.now))
                        tried.append((at, replace(each, chosen=chosen, now=now)))
        fails: dict[int, bool] = {}
        for (at, _), still in zip(tried, self._still([each for _, each in tried]), strict=True):
            fails[at] = fails.get(at, True) and still
        return [[] if fails.get(at) else barriers for at, barriers in enumerate(found)]

    def _settled(self, grown: Sequence["_Grown"]) -> list["_Grown"]:
        """What grew too far, as it is less wet or less on does better, anew as wet as that is, then
        back to where it fails; to what was chosen where that itself fails only as it is worn."""
        found = list(grown)
        still = self._still([*grown, *(replace(each, now=each.chosen) for each in grown)])
        sure = still[len(grown) :]
        over = [k for k in range(len(grown)) if not still[k] and grown[k].now != grown[k].chosen]
        left = over
        for _ in range(MOST_REGROWN):
            again = [k for k in left if sure[k]]
            self._glances.learn([(found[k].now, found[k].chosen) for k in again])
            for k in again:
                found[k] = self._grown(found[k].chosen, found[k].fail, found[k].now)
            fails_now = dict(zip(again, self._still([found[k] for k in again]), strict=True))
            left = [k for k in left if not fails_now.get(k)]
        more = [[n for n in e.now.clothes if n not in e.chosen.clothes] for e in found]

        def fails(tried: Sequence[tuple[int, int]]) -> list[bool]:
            pairs = [(left[k], at) for k, at in tried]
            return self._still(
                [replace(found[k], now=_with(found[k].chosen, more[k][:at])) for k, at in pairs]
            )

        # What fails only as it is worn is shut out alone.
        ends = [len(more[k]) if sure[k] else 1 for k in left]
        for k, end in zip(left, fail_up_to(ends, fails), strict=True):
            now, blockers = _with(found[k].chosen, more[k][:end]), more[k][end:]
            found[k] = replace(found[k], now=now, blockers=[*found[k].blockers, *blockers])
        return found

    def _still(self, grown: Sequence["_Grown"], grams: Sequence[float] | None = None) -> list[bool]:
        """Which grown sets fail as they should, whatever of them is worn, laden as what was chosen
        or with as much as makes up so much [g]."""
        plain = [k for k, each in enumerate(grown) if self._plain(each.fail)]
        other = [k for k, each in enumerate(grown) if not self._plain(each.fail)]
        as_chosen = [grown[k].chosen for k in plain]
        laden = (
            self.of.laden(as_chosen)
            if grams is None
            else self.of.verdicts.laden(self.of.under(as_chosen, [grams[k] for k in plain]))
        )
        sure = self._surely([grown[k].now for k in plain], laden)
        judged = self.of.fully(
            [grown[k].now for k in other], None if grams is None else [grams[k] for k in other]
        )
        known = dict(zip([*plain, *other], [*sure, *judged], strict=True))
        return [each.fail in known[k] for k, each in enumerate(grown)]

    def _surely(self, sets: Sequence[Chosen], laden: Sequence[Laden]) -> list[frozenset[Fail]]:
        """What fails of each set, whatever of it is worn, laden as said."""
        if not sets:
            return []
        people = [self.of.person_in(each) for each in sets]
        return self.of.verdicts.surely(people, self.of.berths(sets), laden)

    def _plain(self, fail: Fail) -> bool:
        """Whether it is told of everything that is on, and must not be at all."""
        return fail[1] in ("gap", "bed", "fingers", "toes") and fail not in self.of.may_fail

    def _not_this(self, chosen: Chosen) -> Row:
        weights = np.ones(self.of.columns.count)
        for part in (self.of.columns.worn, self.of.columns.fingers, self.of.columns.toes):
            weights[part] = 0.0
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

    def _look(self, chosen: Chosen, fail: Fail, wet_as: Chosen) -> Look:
        """Which sets fail as one does: by a glance, as wet as in a set, or by verdict where that
        sees nothing of it."""
        deeper = fail[1] == "bed" and fail in self.of.may_fail
        if fail[1] in ("face", "hot", "bed hot") or deeper:
            return self._verdict(fail)
        known = self._glances.like(wet_as, chosen)
        # What a glance takes for a little better than it is, it takes for so of others too.
        seen = min(float(self._glances.beyond([chosen], known, fail)[0]), 0.0) - SAME

        def glance(tried: Sequence[Chosen]) -> list[bool]:
            if not tried:
                return []
            found: list[bool] = (self._glances.beyond(tried, known, fail) > seen).tolist()
            return found

        return glance

    def _verdict(self, fail: Fail) -> Look:
        """Which sets fail so by the course's verdict."""
        return lambda tried: [fail in each for each in self.of.fully(tried)]

    def _grown(self, chosen: Chosen, fail: Fail, wet_as: Chosen | None = None) -> "_Grown":
        """The largest set found that still fails, as wet as that which is chosen or another is, and
        the pieces outside it."""
        _, high = self.of.bounds
        look, now = self._look(chosen, fail, wet_as or chosen), chosen
        rest = [n for n in range(len(self.of.pieces)) if n not in now.clothes and high[n] > 0]
        rest.sort(key=lambda n: self._matters(n, fail))
        # With a barrier others may be wetter, so that nothing is said of sets with or without.
        blockers = [n for n in rest if n in self._barriers]
        rest = [n for n in rest if n not in self._barriers]
        if fail[1] in ("fingers", "toes"):
            # Where a body at its ease does not help, only what is on hands or feet can.
            region = REGIONS.index("hands" if fail[1] == "fingers" else "feet")
            body = [n for n in rest if self.of.warm[n, region] == 0]
            if look([_with(now, body)])[0]:
                now, rest = _with(now, body), [n for n in rest if n not in body]
        while rest:
            # Whatever mends it by itself now does so with more on as well.
            alone = look([_with(now, [each]) for each in rest])
            still = [each for each, fails in zip(rest, alone, strict=True) if fails]
            blockers += [each for each, fails in zip(rest, alone, strict=True) if not fails]
            together = look([_with(now, still[: k + 1]) for k in range(len(still))])
            most = max((k + 1 for k, fails in enumerate(together) if fails), default=0)
            now, rest = _with(now, still[:most]), still[most:]
        return _Grown(chosen, fail, look, now, blockers)

    def _blocked(self, grown: "_Grown", barriers: Sequence[int], up_to: float) -> Row:
        """A row of the pieces, tops and bottoms one of which is needed, or one of some barriers
        must go; what weighs more than so much [g] will do too."""
        chosen, fail, now = grown.chosen, grown.fail, grown.now
        at, (_, high) = self.of.columns, self.of.bounds
        weights = np.zeros(at.count)
        weights[list(grown.blockers)] = 1.0
        weights[list(barriers)] = -1.0
        moment = self.of.place.get(fail[0])
        if fail[1] == "bed":
            self._other_beds(now, fail, grown.look, weights)
        if moment is not None:
            # Another bag can only help where one is drawn round, and only a thicker one.
            thicker = self.of.bags[:, moment] > self.of.bags[chosen.top, moment]
            weights[at.tops] += thicker & (high[at.tops] > 0) & (weights[at.tops] == 0)
        limit = len(barriers) - 1.0
        if up_to < np.inf:
            # Between the least that any set weighs, which does nothing, and more than so much.
            heavier = up_to + HEAVIER
            least = min(self._better()[0], heavier - LOAD_STEP)
            weights += self.of.masses / (heavier - least)
            limit -= least / (heavier - least)
        return at_most(-weights, limit)

    def _better(self) -> tuple[float, float]:
        """Between what a set weighs that could be better than the best [g]."""
        return self.of.grams_of_better(self._search.bound, self._search.value)

    def _up_to(self, grown: Sequence["_Grown"]) -> list[float]:
        """The heaviest load of what is chosen up to which each still fails by day [g], infinity
        where under all that a better set may be: a heavier pack makes a walker warmer, and fingers
        and toes begin a stop as the way there left them."""
        _, most = self._better()
        found = [np.inf] * len(grown)
        light = [self.of.grams(each.chosen) for each in grown]
        able = [k for k, each in enumerate(grown) if self._hangs_on_load(each.fail)]
        able = [k for k in able if light[k] < most]
        still = self._still([grown[k] for k in able], [most] * len(able))
        left = [k for k, fails in zip(able, still, strict=True) if not fails]

        def fails(tried: Sequence[tuple[int, int]]) -> list[bool]:
            pairs = [(left[k], at) for k, at in tried]
            loads = [light[k] + LOAD_STEP * at for k, at in pairs]
            return self._still([grown[k] for k, _ in pairs], loads)

        ends = [math.ceil((most - light[k]) / LOAD_STEP) for k in left]
        for k, end in zip(left, fail_up_to(ends, fails), strict=True):
            found[k] = light[k] + LOAD_STEP * end
        return found

    def _hangs_on_load(self, fail: Fail) -> bool:
        """Whether a pack can matter to something that fails by day."""
        moment = self.of.place.get(fail[0])
        digits = fail[1] in ("fingers", "toes")
        return moment is not None and (digits or self.of.awake[moment].kind in MOVING)

    def _other_beds(self, now: Chosen, fail: Fail, look: Look, weights: Array) -> None:
        """Mark the tops and bottoms that mend what fails, alone or with the best of those that do
        not, in place."""
        at, (_, high) = self.of.columns, self.of.bounds
        tops = [k for k in range(len(self.of.tops)) if high[at.tops.start + k] > 0]
        under = [k for k in range(len(self.of.bottoms)) if high[at.bottoms.start + k] > 0]
        with_bottoms = look([replace(now, bottom=k) for k in under])
        dull = [k for k, fails in zip(under, with_bottoms, strict=True) if fails]
        weights[[at.bottoms.start + k for k in under if k not in dull]] = 1.0
        best = min(dull, key=self.of.lost_below, default=now.bottom)
        with_tops = look([replace(now, top=k, bottom=best) for k in tops])
        mends = [k for k, fails in zip(tops, with_tops, strict=True) if not fails]
        weights[[at.tops.start + k for k in mends]] = 1.0

    def _matters(self, at: int, fail: Fail) -> float:
        """How much a piece can do for something that fails; what can do nothing comes first."""
        region = {"fingers": "hands", "toes": "feet", "face": "head"}.get(fail[1])
        warm = self.of.warm[at]
        return float(warm.sum() + (100 * warm[REGIONS.index(region)] if region else 0.0))
