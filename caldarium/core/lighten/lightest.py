"""The lightest set for one person: found, bounded, proven, and judged by the course's verdict."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from caldarium.core.lighten.judging import Judge
from caldarium.core.lighten.mending import Mender
from caldarium.core.lighten.offers import own_grams
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.lighten.rounds import EnoughError, Learnt, Row, Search, Task, search


@dataclass(frozen=True)
class Lightest:
    """What was found for one person: the set, or none where nothing on offer holds; what it weighs
    [g]; the bound under which there is none, in the objective's own unit; whether it is proven."""

    person: str
    chosen: Chosen | None
    grams: float
    value: float
    bound: float
    proven: bool
    search: Search


def lightest(
    problem: Problem,
    heard: Callable[[Search], bool],
    start: Chosen | None = None,
    learnt: Learnt | None = None,
    must: Sequence[Row] = (),
) -> Lightest:
    """The lightest set of one person.

    Args:
        problem: what is asked.
        heard: hears how far it is; ends the search where it says so.
        start: a set to begin with, where one is known.
        learnt: by a search of the same sets by other weights; the best of those that hold is begun
            with, and what is learnt is added.
        must: rows of clothes and beds that a set must keep beside, though it may hold without.

    Source: core.lighten.rounds.
    """
    mender = Mender(problem, start)
    found = Search() if learnt is None else _begun(problem, learnt)
    judge = Judge(problem, mender, found)
    task = Task(
        problem.weights,
        problem.bounds,
        problem.rows(),
        judge.judge,
        mender.begun,
        mender.better,
        mender.nearby.near,
        problem.step,
        must,
    )

    def watch() -> None:
        if not heard(found):
            raise EnoughError

    told, problem.verdicts.watch = problem.verdicts.watch, watch
    try:
        search(task, heard, found)
    finally:
        problem.verdicts.watch = told
    if found.best is None:
        return Lightest(problem.person.id, None, 0.0, np.inf, found.bound, found.proven, found)
    chosen = problem.chosen(found.best)
    grams = own_grams(problem.person_in(chosen))
    return Lightest(
        problem.person.id,
        chosen,
        grams,
        found.value,
        found.bound,
        # Bounds know of no heavier ones.
        found.proven and grams <= problem.most_g,
        found,
    )


def as_found(problem: Problem, chosen: Chosen, best: Lightest) -> Lightest:
    """A set that holds in the place of the lightest that was found.

    Args:
        problem: what is asked.
        chosen: the set.
        best: what was found.

    Source: none, bookkeeping.
    """
    value = float(problem.weights @ problem.point_of(chosen))
    grams = own_grams(problem.person_in(chosen))
    proven = best.proven and value <= best.value
    return replace(best, chosen=chosen, grams=grams, value=value, proven=proven)


def _begun(problem: Problem, learnt: Learnt) -> Search:
    """A search that begins with what is known."""
    if not learnt.holding:
        return Search(learnt=learnt)
    best = min(learnt.holding, key=lambda point: float(problem.weights @ point))
    return Search(best=best, value=float(problem.weights @ best), learnt=learnt)
