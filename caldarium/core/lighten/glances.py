"""What is seen of sets at a glance: the quick look, measured by what may fail, to find sets that
are worth a verdict."""

from collections.abc import Collection, Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.dressing import Needs
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.lighten.quick import Known, Quick
from caldarium.core.lighten.verdict import Fail, slack
from caldarium.core.physics import cold
from caldarium.core.physics.quantities import CLO, Array, Flags

A_CLO_IN_BED = 10.0
"""Heat that a bed lacks which counts as much as one clo by day, to compare sets by [W/m²]."""
DIGITS = ("fingers", "toes")
MOST_KNOWN = 32
"""Sets of which it is kept what was found; one that failed is asked about more than once."""


class Glances:
    """Glances at sets of a problem.

    Args:
        problem: whose sets.
    """

    def __init__(self, problem: Problem) -> None:
        self.of = problem
        self._ids = problem.everything.ids(0)
        at = {name: place for place, name in enumerate(self._ids)}
        self._places = np.array([at[piece.id] for piece in problem.pieces], dtype=np.intp)
        there = np.zeros((len(problem.awake), len(self._ids)), dtype=bool)
        there[:, self._places] = problem.there
        self.quick = Quick(
            problem.everything, there, problem.air, problem.bags, problem.course.allowances
        )
        self._days = np.array([moment.day for moment in problem.awake])
        self._nights = [each.id for each in problem.timeline.moments if each.kind == "night"]
        self._hours = np.array([moment.hours for moment in problem.awake])
        self._known: dict[tuple[Chosen, Chosen], Known] = {}
        self._floors = {kind: self._floor(kind) for kind in ("gap", *DIGITS)}

    @cached_property
    def _hard(self) -> NDArray[np.intp]:
        """Moments at which somebody in next to nothing would lack something, and what comes before
        them on their day: at others no set is short."""
        has = np.zeros((1, len(self._ids)), dtype=bool)
        for rule in self.of.rules:
            light = sorted(rule.pieces, key=lambda n: self.of.warm[n].sum())[: rule.least]
            has[0, self._places[light]] = True
        dry = np.zeros((len(self._hours), len(self._ids)))
        needs = Needs(*(part[0] for part in vars(self.of.needs).values()))
        known = Known(dry, self.of.air.where, needs, np.zeros(len(self._hours), dtype=bool))
        seen = self.quick.lacks(has, np.zeros(1, dtype=np.intp), known)
        lacks = (seen.insulation > 0) | (seen.fingers > 0) | (seen.toes > 0)
        rows = np.arange(len(self._hours))
        last = {
            day: int(rows[lacks[0] & (self._days == day)].max(initial=-1)) for day in self._days
        }
        return rows[[row <= last[self._days[row]] for row in rows.tolist()]]

    def _floor(self, kind: str) -> Array:
        """What each moment may lack, where it may fail [clo, or share of the moment]."""
        hours = self._hours
        found = np.zeros(len(hours))
        for moment, failing in self.of.may_fail:
            if failing == kind:
                m = self.of.place[moment]
                most = self.of.may_fail[moment, failing] + slack(failing)
                found[m] = most if kind == "gap" else (60 * hours[m] + most) / 60 / hours[m]
        return found

    def like(self, chosen: Chosen, laden_as: Chosen | None = None) -> Known:
        """How wet everything is, and what is needed, as in one set, or in that under the load of
        another.

        Source: core.day.wet_track; what it has not is as wet as is certain.
        """
        asked = (chosen, laden_as or chosen)
        self.learn([asked])
        return self._known[asked]

    def learn(self, sets: Sequence[tuple[Chosen, Chosen]]) -> None:
        """Find that of some sets at once, each under a load, which is quicker. Source: as like."""
        new = [each for each in dict.fromkeys(sets) if each not in self._known]
        if len(self._known) + len(new) > MOST_KNOWN:
            self._known = {each: self._known[each] for each in sets if each in self._known}
        if new:
            self._known |= dict(zip(new, self._found(new), strict=True))

    def _found(self, asked: Sequence[tuple[Chosen, Chosen]]) -> list[Known]:
        sets = [chosen for chosen, _ in asked]
        people = [self.of.person_in(each) for each in sets]
        laden = self.of.laden([laden_as for _, laden_as in asked])
        dress, ready = self.of.verdicts.ready(people, self.of.berths(sets), laden)
        at = {name: place for place, name in enumerate(self._ids)}
        found: list[Known] = []
        for row, chosen in enumerate(sets):
            mine = [at[name] for name in dress.ids(row)]
            wet = np.zeros((len(self.of.awake), len(self._ids)))
            wet[:, self._places] = self.of.soaked
            wet[:, mine] = ready.air.wet[row][:, : len(mine)]
            known = Known(
                wet,
                cold.Exposure(*(part[row : row + 1] for part in vars(ready.air.where).values())),
                Needs(*(part[row] for part in vars(ready.needs).values())),
                np.zeros(len(wet), dtype=bool),
            )
            under = self.quick.day_long[mine]
            worn: Flags = ready.whatever.outfits[row, :, -1, : len(mine)][:, under]
            if worn.size:
                mornings = worn.any(axis=1)
            else:
                mornings = self.quick.mornings(*self.having([chosen]), known)[0]
            found.append(replace(known, mornings=mornings))
        return found

    def having(self, tried: Sequence[Chosen]) -> tuple[Flags, NDArray[np.intp]]:
        """Sets as what they have, by place in the wardrobe of everything [S x N], and their tops
        [S]. Source: none, bookkeeping."""
        has = np.zeros((len(tried), len(self._ids)), dtype=bool)
        for row, each in enumerate(tried):
            has[row, self._places[list(each.clothes)]] = True
        return has, np.array([each.top for each in tried], dtype=np.intp)

    def lacking(self, tried: Sequence[Chosen], known: Known, nights: Collection[str] = ()) -> Array:
        """How much sets lack in all, to compare them by [S]; 0 of what seems to hold.

        Args:
            tried: the sets.
            known: wetness and needs to go by.
            nights: on which beds are looked at as they are, and not by their bounds alone.

        Source: the quick look; beds by core.night.
        """
        if not tried:
            return np.zeros(0)
        has, tops = self.having(tried)
        rows = self._hard
        seen = self.quick.lacks(has, tops, known, rows)
        found = _over(seen.insulation / CLO - self._floors["gap"][rows]).sum(axis=1)
        for kind, hurt in zip(DIGITS, (seen.fingers, seen.toes), strict=True):
            found += _over(hurt / 60 / self._hours[rows] - self._floors[kind][rows]).sum(axis=1)
        night, x = self.of.night, has[:, self._places].astype(float)
        if night is not None:
            short = night.short_of(x, tops, np.array([each.bottom for each in tried]))
            found += _over(short).sum(axis=1) / A_CLO_IN_BED
        if nights:
            places = [self._nights.index(each) for each in sorted(nights)]
            found += _over(self._beds(tried, known)[:, places]).sum(axis=1) / A_CLO_IN_BED
        return found + self.of.bare(x)

    def beyond(self, tried: Sequence[Chosen], known: Known, fail: Fail) -> Array:
        """By how much sets seem to fail in one way [S]; what is not over 0 seems to hold.

        Source: the quick look; beds by core.night.
        """
        moment, kind = fail
        if kind == "bed":
            return self._beds(tried, known)[:, self._nights.index(moment)]
        m = self.of.place[moment]
        has, tops = self.having(tried)
        if kind == "gap":
            seen = self.quick.lacks(has, tops, known, np.array([m]), digits=False)
            return seen.insulation[:, 0] / CLO - self._floors["gap"][m]
        rows = np.flatnonzero((self._days == self._days[m]) & (np.arange(len(self._days)) <= m))
        seen = self.quick.lacks(has, tops, known, rows)
        hurt = seen.fingers if kind == "fingers" else seen.toes
        return hurt[:, -1] / 60 / self.of.awake[m].hours - self._floors[kind][m]

    def _beds(self, tried: Sequence[Chosen], known: Known) -> Array:
        """Heat that beds lack on each night [W/m², S x nights]."""
        has, _ = self.having(tried)
        berths = self.of.berths(tried)
        return self.of.verdicts.beds_short(berths, self.of.everything, has, known.wet)


def _over(lack: Array) -> Array:
    return np.maximum(lack, 0.0)
