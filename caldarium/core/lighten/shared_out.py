"""What is scarce, shared out: it gets prices, and everybody looks for their lightest set at those.

Prices come from a program of everybody's sets together that need not be whole and take no piece
more often than there is. Whatever the prices, what all sets weigh at them less what all pieces
bring is a bound that no split is under; of the sets that were found on the way another program
takes one for each person.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property, partial
from itertools import pairwise
from operator import is_

import highspy
import numpy as np

from caldarium.core.lighten.judging import Judge
from caldarium.core.lighten.lightest import Lightest, as_found, lightest
from caldarium.core.lighten.mending import Mender
from caldarium.core.lighten.offers import look_of
from caldarium.core.lighten.problem import GRACES, Chosen, Grace, Problem
from caldarium.core.lighten.proposal import Question, problem_of
from caldarium.core.lighten.rounds import MOST_CUTS, EnoughError, Learnt, Row, Search
from caldarium.core.physics.quantities import Array
from caldarium.core.programs import proven_best, quiet_solver

MOST_TURNS, MOST_REPAIRS = 3, 2
"""How often prices are made; and how often, where no known sets fit together, people look for some
one after another, each with what is left."""
NEAR, NEAR_TOGETHER = 0.005, 0.01
"""Share of what is carried within which a bound is near enough, of one person at prices, and of
all."""
LACKING, DEAREST = 10.0, 4.0
"""What a piece counts that is not there: in heaviest sets, so that none is taken where it need not
be; and to make prices by, in what the heaviest bed with it, or it itself, counts."""
AS_BEFORE = 0.5
"""Of new prices, how much are those that gave the best bound: they would jump to and fro."""
SAME = 1e-3
"""Sums that differ by less are the same."""
Heard = Callable[[float, Search], bool]
"""Hears the share that is done, and how far a search is; says whether that goes on. What it does
not let begin ends all that is left."""
Look = tuple[frozenset[str], ...]
"""How the clothes of a set look, its top and its bottom."""


@dataclass
class Member:
    """Somebody who shares.

    question is what is asked of their set, things which of R scarce things each offer is, by key;
    grace is what may go on failing, as far as it was found to be needed; at_least is what they
    carry at least where nothing is scarce, and proven whether that is all; none whether no set of
    theirs holds; learnt what is known of their sets.
    """

    question: Question
    things: Mapping[str, int]
    count: int
    grace: Grace = GRACES[0]
    at_least: float = -np.inf
    proven: bool = False
    none: bool = False
    learnt: Learnt = field(default_factory=Learnt)

    @cached_property
    def problem(self) -> Problem:
        """What is asked of their set. Source: core.lighten.problem."""
        return problem_of(self.question, self.grace, self.things.keys())

    def milder(self) -> "Member":
        """The same of whom less is asked, where there is less to ask; with none otherwise.

        Source: core.lighten.problem.
        """
        at = GRACES.index(self.grace) + 1
        if at == len(GRACES):
            return replace(self, none=True)
        return Member(self.question, self.things, self.count, GRACES[at])

    @cached_property
    def judge(self) -> Judge:
        """Looks at points that need not be whole. Source: core.lighten.judging."""
        return Judge(self.problem, Mender(self.problem))

    @cached_property
    def uses(self) -> Array:
        """Which things each column of the problem takes [V x R]. Source: none, bookkeeping."""
        at, problem = self.problem.columns, self.problem
        found = np.zeros((at.count, self.count))
        parts = [(at.clothes.start + n, (place,)) for n, place in enumerate(problem.places)]
        parts += [(at.tops.start + k, bed.offers) for k, bed in enumerate(problem.tops)]
        parts += [(at.bottoms.start + k, bed.offers) for k, bed in enumerate(problem.bottoms)]
        for column, places in parts:
            for offer in (problem.offers[place] for place in places):
                # What somebody has already, lent as it may be, is taken from nobody.
                if offer.source != "own" and offer.key in self.things:
                    found[column, self.things[offer.key]] = 1.0
        return found

    @cached_property
    def _looks(self) -> list[str]:
        """How each offer looks."""
        return [look_of(each.piece) for each in self.problem.offers]

    @cached_property
    def _beds(self) -> tuple[dict[frozenset[str], int], dict[frozenset[str], int]]:
        """Places of tops and of bottoms by how their pieces look."""
        tops, bottoms = (
            {frozenset(self._looks[at] for at in bed.offers): k for k, bed in enumerate(beds)}
            for beds in (self.problem.tops, self.problem.bottoms)
        )
        return tops, bottoms

    @cached_property
    def _clothes(self) -> dict[str, int]:
        """Places of clothes by look, own ones first."""
        places = list(enumerate(self.problem.places))
        return {self._looks[at]: n for n, at in reversed(places)}

    def look(self, chosen: Chosen) -> Look:
        """How the clothes, the top and the bottom of a set look. Source: none, bookkeeping."""
        clothes = [self.problem.places[n] for n in chosen.clothes]
        top, bottom = self.problem.tops[chosen.top], self.problem.bottoms[chosen.bottom]
        parts = (clothes, top.offers, bottom.offers)
        return tuple(frozenset(self._looks[at] for at in part) for part in parts)

    def like(self, look: Look) -> Chosen | None:
        """A set that looks so; None where not all of it is on offer, or rules forbid it.

        Source: none, bookkeeping.
        """
        tops, bottoms = self._beds
        clothes, top, bottom = look
        if not self._clothes.keys() >= clothes or top not in tops or bottom not in bottoms:
            return None
        places = sorted(self._clothes[each] for each in clothes)
        found = Chosen(tuple(places), tops[top], bottoms[bottom])
        _, high = self.problem.bounds
        fits = bool((self.problem.point_of(found) <= high).all())
        return found if fits and self.problem.keeps_rules(found) else None

    @property
    def sets(self) -> list[Chosen]:
        """All sets that are known to hold. Source: none, bookkeeping."""
        return list(dict.fromkeys(map(self.problem.chosen, self.learnt.holding)))

    def lightest_of(self, left: Array) -> Array | None:
        """What the lightest set takes that is known and takes no more than what is left [R]; None
        where there is none.

        Source: none, bookkeeping.
        """
        points = [self.problem.point_of(each) for each in self.sets]
        fit = [each for each in points if (each @ self.uses <= left + SAME).all()]
        if not fit:
            return None
        best = min(fit, key=lambda point: float(self.problem.weights @ point))
        return best @ self.uses

    def with_set(self, chosen: Chosen | None) -> Lightest:
        """A set, or none, as what was found for them. Source: none, bookkeeping."""
        search = Search(bound=self.at_least, learnt=self.learnt)
        who = self.question.person.id
        nothing = Lightest(who, None, 0.0, np.inf, self.at_least, self.none, search)
        if chosen is None:
            return nothing
        alone = replace(nothing, value=self.at_least + SAME, proven=self.proven)
        return as_found(self.problem, chosen, alone)


@dataclass(frozen=True)
class SharedOut:
    """Everybody as they are asked in the end, and a set for each, None for whom none is known; the
    sum of what is made least, the bound under which no split is that leaves nobody short, whether
    no more is taken than there is, and what each thing costs [R]."""

    members: tuple[Member, ...]
    sets: tuple[Chosen | None, ...]
    value: float
    bound: float
    fits: bool
    prices: Array

    @property
    def proven(self) -> bool:
        """Whether no split is lighter. Source: the bound."""
        pairs = zip(self.members, self.sets, strict=True)
        known = all(each.none or chosen is not None for each, chosen in pairs)
        return self.fits and known and self.value - self.bound <= SAME


def shared_out(asked: Sequence[Member], counts: Array, heard: Heard) -> SharedOut:
    """The lightest split of what there is.

    Args:
        asked: who share; what is found is learnt there.
        counts: how many there are of each thing [R].
        heard: hears how far it is; ends the search of a person where it says so.

    Raises:
        EnoughError: it was ended before anything was known.

    Source: Dantzig & Wolfe 1960 (decomposition) and Geoffrion 1974 (its bound), from memory.
    """
    members, seen = list(asked), set[tuple[int, Look]]()
    best: SharedOut | None = None

    def goes_on(share: float, value: float = 0.0) -> bool:
        return heard(share, Search(bound=value))

    for each in members:
        if not goes_on(0.0):
            raise EnoughError
        each.at_least = _Together([each], np.full(len(counts), np.inf)).least()
    prices = _Together(members, counts).prices(partial(goes_on, 0.0))
    for turn in range(MOST_TURNS):
        bound = -float(prices @ counts)
        for at in range(len(members)):
            share = (turn + at / len(members)) / MOST_TURNS
            members[at], least = _bound_at(prices, members[at], share, heard)
            bound += least
        on = goes_on((turn + 1) / MOST_TURNS)
        if on:
            _pass_on(members, seen)
        split = _Split(members, counts)
        now = replace(split.whole(), bound=bound, prices=prices)
        # A bound on somebody who is asked less by now says nothing any more.
        same = best is not None and all(map(is_, members, best.members))
        if best is not None and same and best.bound > bound:
            now = replace(now, bound=best.bound, prices=best.prices)
        near = now.fits and now.value - now.bound <= NEAR_TOGETHER * abs(now.value)
        idle = (
            best is not None
            and best.fits
            and now.bound <= best.bound + SAME
            and now.value >= best.value - SAME
        )
        best = now
        if not on or near or idle or (now.fits and not prices.any()):
            break
        prices = AS_BEFORE * best.prices + (1 - AS_BEFORE) * split.prices()
    assert best is not None
    first: list[int] = []
    for _ in range(MOST_REPAIRS):
        if best.fits or not goes_on(1.0):
            break
        members = list(best.members)
        first = _of_what_is_left(members, counts, first, heard)
        _pass_on(members, seen)
        now = _Split(members, counts).whole()
        same = all(map(is_, members, best.members))
        best = replace(now, bound=best.bound if same else -np.inf, prices=best.prices)
    return best


def _of_what_is_left(
    members: list[Member], counts: Array, first: Sequence[int], heard: Heard
) -> list[int]:
    """Look one after another for sets of what is left, some first, in place; who found none."""
    order = [*first, *(at for at in range(len(members)) if at not in first)]
    left, without = counts.copy(), list[int]()
    for at in order:
        taken = members[at].lightest_of(left)
        if taken is None and not members[at].none:
            prices = np.where(left < 1 - SAME, _dearest(members), 0.0)
            members[at], _ = _bound_at(prices, members[at], 1.0, heard)
            taken = members[at].lightest_of(left)
        if taken is None:
            without.append(at)
        else:
            left = left - taken
    return without


def _pass_on(members: Sequence[Member], seen: set[tuple[int, Look]]) -> None:
    """Try what holds for one on the others, each once: people are much alike."""
    looks = [[each.look(chosen) for chosen in each.sets] for each in members]
    for at, (member, own) in enumerate(zip(members, looks, strict=True)):
        seen |= {(at, look) for look in own}
        new = dict.fromkeys(look for some in looks for look in some if (at, look) not in seen)
        seen |= {(at, look) for look in new}
        tried = [chosen for chosen in map(member.like, new) if chosen is not None]
        verdicts = zip(tried, member.problem.fully(tried), strict=True)
        member.learnt.holding += [
            member.problem.point_of(chosen) for chosen, failing in verdicts if not failing
        ]


def _bound_at(prices: Array, member: Member, share: float, heard: Heard) -> tuple[Member, float]:
    """Somebody as they are asked, and what they carry at least at prices, 0 where nothing holds;
    what is found is learnt."""
    asked = {key: float(prices[at]) for key, at in member.things.items() if prices[at] > SAME}

    def hears(search: Search) -> bool:
        known = bool(asked) and search.best is not None
        near = known and search.value - search.bound <= NEAR * abs(search.value)
        return heard(share, search) and not near

    while not member.none:
        found = lightest(member.problem.priced(asked), hears, learnt=member.learnt)
        if found.chosen is not None or not found.proven:
            if not asked:
                member.at_least = max(member.at_least, found.bound)
                member.proven = found.proven
            return member, found.bound
        member = member.milder()
    return member, 0.0


class _Together:
    """The program of everybody's points, which need not be whole."""

    def __init__(self, members: Sequence[Member], counts: Array) -> None:
        self._members, self._solver, self._value = members, quiet_solver(), 0.0
        starts = np.cumsum([0, *(each.problem.columns.count for each in members)])
        self._parts = [slice(a, b) for a, b in pairwise(starts.tolist())]
        for part, each in zip(self._parts, members, strict=True):
            problem = each.problem
            low, high = problem.bounds
            columns = np.arange(part.start, part.stop, dtype=np.int32)
            self._solver.addVars(len(low), low, high)
            self._solver.changeColsCost(len(low), columns, problem.weights)
        uses = np.concatenate([each.uses for each in members])
        self._things = len(counts)
        for count, taken, dearest in zip(counts, uses.T, _dearest(members), strict=True):
            # What is not there can be had for more than it saves, so that there is an answer.
            lacking = self._solver.getNumCol()
            self._solver.addVar(0.0, highspy.kHighsInf)
            self._solver.changeColCost(lacking, dearest)
            columns = np.append(np.flatnonzero(taken), lacking).astype(np.int32)
            each_taken = np.append(np.ones(len(columns) - 1), -1.0)
            self._solver.addRow(-highspy.kHighsInf, float(count), len(columns), columns, each_taken)
        for part, each in zip(self._parts, members, strict=True):
            known = [*each.problem.rows(), *each.learnt.of_broken, *each.learnt.of_whole]
            self._add(known, part)

    def _add(self, rows: Sequence[Row], part: slice) -> None:
        for row in rows:
            columns = part.start + np.array(row.columns, dtype=np.int32)
            weights = np.array(row.weights, dtype=np.float64)
            self._solver.addRow(
                row.least, row.most, len(columns), columns.astype(np.int32), weights
            )

    def least(self) -> float:
        """What everybody carries at least. Source: none, a program."""
        self.prices()
        return self._value

    def prices(self, goes_on: Callable[[float], bool] = lambda _: True) -> Array:
        """What one more of each thing would save [R].

        Args:
            goes_on: hears what everybody carries at least as far as it is known.

        Source: the program's duals.
        """
        duals = np.zeros(self._things)
        for _ in range(MOST_CUTS):
            if not proven_best(self._solver):
                break
            self._value = float(self._solver.getInfo().objective_function_value)
            solution = self._solver.getSolution()
            duals = np.array(solution.row_dual)[: self._things]
            point = np.clip(np.array(solution.col_value), 0.0, 1.0)
            cut = False
            for part, each in zip(self._parts, self._members, strict=True):
                rows = each.judge.judge([point[part]], "broken").rows
                each.learnt.of_broken += rows
                self._add(rows, part)
                cut = cut or bool(rows)
            if not cut or not goes_on(self._value):
                break
        return np.maximum(-duals, 0.0)


def _dearest(members: Sequence[Member]) -> Array:
    """The most that each thing may cost [R]."""
    uses = np.concatenate([each.uses for each in members])
    weights = np.abs(np.concatenate([each.problem.weights for each in members]))
    found: Array = DEAREST * (weights[:, None] * uses).max(axis=0, initial=1.0)
    return found


class _Split:
    """The program that takes one of the sets that are known for each person."""

    def __init__(self, members: Sequence[Member], counts: Array) -> None:
        self._members, self._counts = members, counts
        self._sets = [(at, chosen) for at, each in enumerate(members) for chosen in each.sets]
        points = [(members[at], members[at].problem.point_of(each)) for at, each in self._sets]
        self._values = np.array([each.problem.weights @ point for each, point in points])
        self._uses = np.array([point @ each.uses for each, point in points])
        self._uses = self._uses.reshape(len(points), len(counts))

    def _program(self, lacking: Array) -> highspy.Highs:
        """Rows of the people, then of the things; columns of the sets, then of what is lacking, and
        what that counts."""
        solver, nowhere = quiet_solver(), (0, np.zeros(0, np.int32), np.zeros(0))
        people = len(self._members)
        for each in self._members:
            one = float(bool(each.sets))
            solver.addRow(one, one, *nowhere)
        for count in self._counts:
            solver.addRow(-highspy.kHighsInf, float(count), *nowhere)
        for (at, _), value, used in zip(self._sets, self._values, self._uses, strict=True):
            things = np.flatnonzero(used)
            rows = np.array([at, *(people + things)], dtype=np.int32)
            solver.addCol(float(value), 0.0, 1.0, len(rows), rows, np.array([1.0, *used[things]]))
        for at, each in enumerate(lacking.tolist()):
            row = np.array([people + at], dtype=np.int32)
            solver.addCol(each, 0.0, highspy.kHighsInf, 1, row, np.array([-1.0]))
        return solver

    def prices(self) -> Array:
        """What one more of each thing would save, where sets may be taken in part [R].

        Source: the program's duals.
        """
        solver = self._program(_dearest(self._members))
        proven_best(solver)
        duals = np.array(solver.getSolution().row_dual)[len(self._members) :]
        return np.maximum(-duals, 0.0)

    def whole(self) -> SharedOut:
        """The lightest split; its bound is none. Source: the program."""
        most = LACKING * float(np.abs(self._values).max(initial=1.0))
        solver, count = self._program(np.full(len(self._counts), most)), len(self._sets)
        every = np.arange(count, dtype=np.int32)
        whole = np.full(count, highspy.HighsVarType.kInteger)
        solver.changeColsIntegrality(count, every, whole)
        proven_best(solver)
        taken = np.flatnonzero(np.array(solver.getSolution().col_value)[:count] > 0.5)
        sets = dict(self._sets[at] for at in taken.tolist())
        fits = bool((self._uses[taken].sum(axis=0) <= self._counts + SAME).all())
        value, nothing = float(self._values[taken].sum()), np.zeros(len(self._counts))
        chosen = tuple(sets.get(at) for at in range(len(self._members)))
        return SharedOut(tuple(self._members), chosen, value, -np.inf, fits, nothing)
