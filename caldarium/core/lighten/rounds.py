"""Choosing proven: a program of whole numbers that learns what does not hold.

Whoever asks gives weights, rows that are known from the start, and a judge that looks at points: of
a broken one it names more rows, of a whole one it says whether it holds. A program that knows too
little asks too little: its least sum is a bound at any time, and once its own point holds that
point is proven.
"""

from collections.abc import Callable, Generator, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

import highspy
import numpy as np
from numpy.typing import NDArray

from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.programs import proven_best, quiet_solver

WHOLE = 1e-6
"""What differs by less from 0 or 1 is it."""
SAME = 1e-4
"""Sums that differ by less are the same; the least step of a mass is far more [g]."""
_NEEDLESS = (
    "mip_detect_symmetry",
    "mip_allow_restart",
    "mip_heuristic_run_root_reduced_cost",
    "mip_heuristic_run_rens",
    "mip_heuristic_run_rins",
    "mip_heuristic_run_feasibility_jump",
)
"""What HiGHS need not try where a good point is known already."""
_SPARED = {"mip_pscost_minreliable": 2, "mip_pool_soft_limit": 100}
"""Of what it does with care in large programs, how much is enough in these small dense ones: a
quarter quicker on programs of the demos' people."""
MOST_AT_ONCE = 12
"""Whole points that are judged together."""
MOST_NEAR = 6
"""How often what is next to whole points is looked at before another program is solved."""
NEAR = 0.01
"""Share of the bound above it within which is looked: about as much as a program lifts it."""
MOST_CUTS = 30
"""How often a broken point is cut before whole ones are asked for."""
MUST, MOST_MUST = 1e-4, 8
"""A row that must be kept is broken by more than that; so many are learnt at a time."""


@dataclass(frozen=True)
class Row:
    """Weights over some columns, and between what their sum must be."""

    columns: tuple[int, ...]
    weights: tuple[float, ...]
    least: float = -highspy.kHighsInf
    most: float = highspy.kHighsInf

    def over(self, point: Array) -> float:
        """By how much a point is over what it may be at most. Source: none, a sum."""
        return float(point[list(self.columns)] @ np.array(self.weights)) - self.most


def at_most(weights: Array, limit: float) -> Row:
    """A row from weights over all columns. Source: none, bookkeeping."""
    places = np.flatnonzero(np.abs(weights) > 1e-9)
    return Row(tuple(places.tolist()), tuple(weights[places].tolist()), most=limit)


@dataclass(frozen=True)
class Answer:
    """What a judge says of points: rows that they break; whole points that hold, among them or
    found on the way; whether the first of them holds."""

    rows: tuple[Row, ...] = ()
    holds: tuple[Array, ...] = ()
    passed: bool = False


@dataclass
class Learnt:
    """What is known of some points whatever they weigh: rows that every one keeps which passes, of
    broken points and of whole ones, and whole points that hold."""

    of_broken: list[Row] = field(default_factory=list)
    of_whole: list[Row] = field(default_factory=list)
    holding: list[Array] = field(default_factory=list)


@dataclass
class Search:
    """A search as it stands: the best whole point and what it sums to, the bound under which there
    is none, whether that is proven, how many points were looked at, and how many whole, and what
    was learnt, which a search by other weights may begin with; and the best point that the judge
    lets pass but that breaks a row which must be kept."""

    best: Array | None = None
    value: float = np.inf
    bound: float = -np.inf
    proven: bool = False
    looked_at: int = 0
    judged: int = 0
    learnt: Learnt = field(default_factory=Learnt)
    beside: Array | None = None


Kind = Literal["broken", "whole", "near"]
"""Points that need not be whole, whole ones of least weight, and whole ones next to those."""
Judge = Callable[[Sequence[Array], Kind], Answer]
"""Looks at points of a kind."""
Begin = Callable[[Array], Array | None]
"""Makes a whole point that holds out of a broken one; None where it cannot."""
Keep = Callable[[Array], Flags]
"""Which whole points keep every row that is known so far."""
Better = Callable[[Array, Keep], Array | None]
"""Makes a whole point that holds better; None where it cannot."""
Near = Callable[[Sequence[Array], float, float], Array]
"""Whole points next to others that weigh between two sums."""
Heard = Callable[[Search], bool]
"""Hears how far it is; says whether to go on."""


@dataclass(frozen=True)
class Task:
    """What is searched: weights of the columns and their bounds [V], rows that every point keeps,
    a judge, what makes a whole point of a broken one, and a whole point better, what is next to
    whole ones, the least by which a point must be better to be looked for, and rows of which the
    judge knows nothing, but which every point that passes must keep as well.

    Rows that a judge names hold for every whole point that passes.
    """

    weights: Array
    bounds: tuple[Array, Array]
    rows: Sequence[Row]
    judge: Judge
    begin: Begin
    better: Better
    near: Near | None = None
    step: float = SAME
    must: Sequence[Row] = ()


class EnoughError(Exception):
    """Whoever asked has heard enough: raised by what a search calls, and the search ends."""


def search(task: Task, heard: Heard, found: Search | None = None) -> Search:
    """The whole point of least weight that a judge lets pass.

    Args:
        task: what is searched; every column must be 0 or 1.
        heard: hears how far it is after each point; ends the search where it says so.
        found: where the search is written down as it goes on; what it has is begun with.

    Returns:
        The search at its end; without a best point where there is none.

    Source: outer approximation (Duran & Grossmann 1986) with cuts of broken points (Kelley 1960)
        and reduced-cost fixing (Dantzig, Fulkerson & Johnson 1954), from memory; HiGHS solves.
    """
    at_work = _Rounds(task, found or Search())
    try:
        for _ in at_work.steps():
            if not heard(at_work.found):
                break
    except EnoughError:
        pass
    return at_work.found


class _Rounds:
    """A search at work."""

    def __init__(self, task: Task, found: Search) -> None:
        self.task, self.found = task, found
        self.low, self.high = (np.array(each, dtype=float) for each in task.bounds)
        learnt = found.learnt
        self.rows = [*task.rows, *learnt.of_broken, *learnt.of_whole]
        self._known = len(task.rows)
        first = len(self.rows) - len(learnt.of_whole)
        self._of_whole = set(range(first, len(self.rows)))
        self._dense, self._limits = np.zeros((0, len(task.weights))), np.zeros((0, 2))
        self._program = quiet_solver()
        self._columns = np.arange(len(task.weights), dtype=np.int32)
        self._program.addVars(len(self._columns), self.low, self.high)
        self._program.changeColsCost(len(self._columns), self._columns, task.weights)
        for row in self.rows:
            _add(self._program, row)
        self._must = self._over_all(task.must)
        self._most = np.array([row.most for row in task.must])

    def _judge(self, points: Sequence[Array], kind: Kind) -> Answer:
        """What the judge says of points, and rows that they must keep and break."""
        over: Array = np.array(points) @ self._must.T - self._most
        worst: list[int] = np.argsort(-over.max(axis=0, initial=-np.inf)).tolist()
        lacks: list[bool] = np.logical_or.reduce(over > MUST, axis=1).tolist()
        broken = [self.task.must[k] for k in worst if over[:, k].max() > MUST][:MOST_MUST]
        kept = [point for point, lack in zip(points, lacks, strict=True) if not lack]
        if not kept:
            return Answer(tuple(broken))
        answer = self.task.judge(kept, kind)
        return replace(answer, rows=(*broken, *answer.rows), passed=answer.passed and not lacks[0])

    @property
    def _enough(self) -> float:
        """The most that a point may weigh to be looked for."""
        return self.found.value - self.task.step

    def steps(self) -> Iterator[None]:
        """Work point by point until it is proven."""
        begun = False
        while True:
            point = yield from self._broken()
            if point is None:
                break
            if not begun:
                begun = True
                first = self.task.begin(point) if self.found.best is None else self.found.best
                yield from self._take(() if first is None else (first,))
            self._fix()
            wholes = self._wholes()
            yield
            if not wholes or self.task.weights @ wholes[0] > self._enough:
                break
            least = float(self.task.weights @ wholes[0])
            self.found.bound = max(self.found.bound, least)
            self.found.judged += 1
            answer = self._judge(wholes, "whole")
            if answer.passed:
                self.found.best, self.found.value = wholes[0], least
                self.found.learnt.holding.append(wholes[0])
                break
            yield from self._take(answer.holds)
            self._learn_of_whole(answer.rows)
            yield from self._look_near(wholes)
        self.found.bound, self.found.proven = self.found.value, True
        yield

    def _broken(self) -> Generator[None, None, Array | None]:
        """The point of least weight that need not be whole, cut until nothing cuts it; None where
        there is none better than the best whole one."""
        point: Array | None = None
        for _ in range(MOST_CUTS):
            self.found.looked_at += 1
            if not proven_best(self._program):
                return None
            value = self._program.getInfo().objective_function_value
            if value > self._enough:
                return None
            point = np.clip(np.array(self._program.getSolution().col_value), 0.0, 1.0)
            self.found.bound = max(self.found.bound, value)
            yield
            answer = self._judge([point], "broken")
            if not answer.rows:
                break
            self._learn(answer.rows)
        return point

    def _look_near(self, points: Sequence[Array]) -> Iterator[None]:
        """Look at what is next to whole points and keeps every row, lightest first, for as long as
        there is some: a program would find these one by one."""
        if self.task.near is None:
            return
        known = {each.tobytes() for each in points}
        around, pool = list(points), np.zeros((0, len(self._columns)))
        for _ in range(MOST_NEAR):
            least = self.found.bound
            most = min(self._enough, least + NEAR * abs(least))
            pool = np.concatenate([pool, self.task.near(around, least, most)])
            pool = pool[self._keep_rows(pool) & (pool @ self.task.weights < most)]
            near = pool[np.argsort(pool @ self.task.weights, kind="stable")]
            new = {each.tobytes(): each for each in near}
            around = [each for key, each in new.items() if key not in known][:MOST_AT_ONCE]
            if not around:
                return
            answer = self._judge(around, "near")
            self.found.judged += 1
            yield from self._take(answer.holds)
            self._learn_of_whole(answer.rows)
            known |= {each.tobytes() for each in around}

    def _every_row(self) -> tuple[Array, Array]:
        """Weights of every row over all columns [R x V], and least and most of each [2 x R]."""
        new = self.rows[len(self._dense) :]
        if new:
            self._dense = np.concatenate([self._dense, self._over_all(new)])
            limits = np.array([(row.least, row.most) for row in new])
            self._limits = np.concatenate([self._limits, limits])
        return self._dense, self._limits.T

    def _over_all(self, rows: Sequence[Row]) -> Array:
        """The weights of rows over all columns [R x V]."""
        found = np.zeros((len(rows), len(self._columns)))
        for k, row in enumerate(rows):
            found[k, list(row.columns)] = row.weights
        return found

    def _keep_rows(self, points: Array) -> Flags:
        """Which whole points keep every row that is known."""
        dense, (least, most) = self._every_row()
        sums = points @ dense.T
        within: Flags = (sums >= least - WHOLE) & (sums <= most + WHOLE)
        return np.logical_and.reduce(within, axis=1)

    def _learn_of_whole(self, rows: Sequence[Row]) -> None:
        """Learn rows that no program may leave out, as points that need not be whole keep them."""
        self._of_whole |= set(range(len(self.rows), len(self.rows) + len(rows)))
        self.found.learnt.of_whole += rows
        self._add_rows(rows)

    def _learn(self, rows: Sequence[Row]) -> None:
        """Learn rows of points that need not be whole."""
        self.found.learnt.of_broken += rows
        self._add_rows(rows)

    def _add_rows(self, rows: Sequence[Row]) -> None:
        self.rows += rows
        for row in rows:
            _add(self._program, row)

    def _take(self, points: Sequence[Array]) -> Iterator[None]:
        """Whole points that hold, made better where that can be."""
        for each in points:
            point: Array | None = each
            while point is not None:
                self._write_down(point)
                yield
                point = self.task.better(point, self._keep_rows)

    def _write_down(self, point: Array) -> None:
        """Keep a whole point that holds, where it is one to keep."""
        found, value = self.found, float(self.task.weights @ point)
        if (self._must @ point > self._most + MUST).any():
            if found.beside is None or value < float(self.task.weights @ found.beside):
                found.beside = point
            return
        if point is not found.best:
            found.learnt.holding.append(point)
        if value < found.value - SAME:
            found.best, found.value = point, value

    def _fix(self) -> None:
        """Columns that would cost more than the best point has left are out for good."""
        solution, value = self._program.getSolution(), self._program.getInfo()
        spare = np.array(solution.col_dual)
        left = self._enough - value.objective_function_value
        out: Flags = (spare > left + SAME) & (self.low < 0.5) & (self.high > 0.5)
        if out.any():
            self.high[out] = 0.0
            self._program.changeColsBounds(len(self._columns), self._columns, self.low, self.high)

    def _wholes(self) -> list[Array]:
        """Whole points that keep every row, that of least weight first, and some of those found on
        the way to it; none where there is none better than the best."""
        program = quiet_solver()
        kept = np.flatnonzero(self.high > 0.5)
        count = len(kept)
        program.addVars(count, self.low[kept], self.high[kept])
        every = np.arange(count, dtype=np.int32)
        program.changeColsCost(count, every, self.task.weights[kept])
        program.changeColsIntegrality(count, every, np.full(count, highspy.HighsVarType.kInteger))
        _add_dense(program, *self._rows_that_bind(kept))
        program.setOptionValue("mip_rel_gap", 0.0)
        program.setOptionValue("mip_heuristic_effort", 0.0)
        for name in _NEEDLESS:
            program.setOptionValue(name, False)
        for name, enough in _SPARED.items():
            program.setOptionValue(name, enough)
        if np.isfinite(self.found.value):
            program.setOptionValue("objective_bound", self._enough + SAME)
        program.setOptionValue("mip_improving_solution_save", True)
        self.found.looked_at += 1
        if not proven_best(program):
            return []
        last = np.array(program.getSolution().col_value)
        ways = [np.array(each.col_value) for each in program.getSavedMipSolutions()]
        found = {np.round(each).tobytes(): np.round(each) for each in (last, *reversed(ways))}
        points: list[Array] = []
        for each in list(found.values())[:MOST_AT_ONCE]:
            point = np.zeros(len(self._columns))
            point[kept] = each
            points.append(point)
        return points

    def _rows_that_bind(self, kept: NDArray[np.intp]) -> tuple[Array, Array, Array]:
        """Rows known from the start, those at their limit where points may be broken, and those
        learnt of whole ones, over some columns; the others would only slow the program down, and
        are asked again of its answer."""
        dense, (least, most) = self._every_row()
        values = np.array(self._program.getSolution().row_value)
        slack = np.zeros(len(dense))
        known = len(values)
        slack[:known] = np.minimum(most[:known] - values, values - least[:known])
        bind: Flags = slack < 0.05 * np.abs(dense).max(axis=1, initial=0.0)
        bind[: self._known] = True
        bind[sorted(self._of_whole)] = True
        return dense[np.ix_(bind, kept)], least[bind], most[bind]


def _add_dense(program: highspy.Highs, weights: Array, least: Array, most: Array) -> None:
    """Add rows by their weights over all columns [R x V], and what they may be [R]."""
    rows, columns = np.nonzero(weights)
    starts = np.searchsorted(rows, np.arange(len(weights))).astype(np.int32)
    program.addRows(
        len(weights),
        least,
        most,
        len(columns),
        starts,
        columns.astype(np.int32),
        weights[rows, columns],
    )


def _add(program: highspy.Highs, row: Row) -> None:
    program.addRow(
        row.least,
        row.most,
        len(row.columns),
        np.array(row.columns, dtype=np.int32),
        np.array(row.weights, dtype=np.float64),
    )
