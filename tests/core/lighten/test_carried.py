"""What a milder step of caution teaches binds the later ones, and shuts out no set that holds at
both."""

from itertools import product

import numpy as np
import pytest

from caldarium.core.lighten import rounds
from caldarium.core.lighten.carried import carried
from caldarium.core.lighten.frontier import at_caution
from caldarium.core.lighten.lightest import lightest
from caldarium.core.lighten.offers import own_pieces
from caldarium.core.lighten.problem import Problem
from caldarium.core.lighten.rounds import Answer, Task, at_most, search
from caldarium.core.timeline.moments import build_timeline
from tests.core.lighten.cases import case, kept_sets, nothing


def to_the_end(search) -> bool:
    return True


def at(problem: Problem, deviations: float) -> Problem:
    """The same question at a step of caution."""
    plan = at_caution(problem.course, deviations)
    return Problem(plan, problem.person, build_timeline(plan), problem.offers, problem.wish)


def test_rows_carried_over_shut_out_no_set_that_holds_at_both_steps() -> None:
    rows_seen = held_seen = 0
    for seed in (2, 5, 8, 11, 14, 17):
        asked = case(seed, 5)
        milder, later = at(asked, 0.2), at(asked, 1.4)
        learnt = lightest(milder, to_the_end).search.learnt
        rows = carried([*learnt.of_broken, *learnt.of_whole], milder, later)
        rows_seen += len(rows)
        listed = [chosen for _, chosen in kept_sets(later)]
        for chosen, failing in zip(listed, later.fully(listed), strict=True):
            keys = [piece.id for piece in own_pieces(later.person_in(chosen))]
            there = milder.chosen_of(keys)
            if failing or there is None or milder.fully([there])[0]:
                continue
            held_seen += 1
            point = later.point_of(chosen)
            assert all(row.over(point) <= 1e-6 for row in rows), (seed, chosen)
    assert rows_seen > 10
    assert held_seen > 8


def test_a_bed_that_the_milder_step_left_out_counts_as_the_best_it_knows(monkeypatch) -> None:
    """It may mend what those of the milder step do: a row must not ask for more."""
    asked = case(5, 5)
    milder, later = at(asked, 0.2), at(asked, 1.4)
    weights = np.zeros(milder.columns.count)
    weights[0] = -1.0
    weights[milder.columns.tops.start] = -2.0
    row = at_most(weights, -1.0)
    (known,) = carried([row], milder, later)
    assert sorted(known.weights) == [-2.0, -1.0]
    monkeypatch.setattr(milder, "keys_of", lambda beds: [frozenset({str(k)}) for k in range(9)])
    (unknown,) = carried([row], milder, later)
    assert sorted(unknown.weights) == [*(-2.0,) * len(later.tops), -1.0]


def test_nothing_is_carried_over_where_other_pieces_may_be_taken() -> None:
    asked = case(5, 5)
    milder, later = at(asked, 0.2), at(asked, 1.4)
    row = at_most(-np.ones(milder.columns.count) * (np.arange(milder.columns.count) < 3), -1.0)
    assert carried([row], milder, later)
    later.bounds[1][0] = 1.0 - later.bounds[1][0]
    assert carried([row], milder, later) == []


@pytest.mark.parametrize("seed", range(8))
def test_rows_that_the_judge_does_not_know_bind_as_well(seed: int) -> None:
    """Against every point of eight columns; the judge lets pass what has any two of some, and
    proposes points that break those rows."""
    dice = np.random.default_rng(seed)
    weights = dice.integers(10, 90, 8).astype(float)
    must = [at_most(-(dice.random(8) < 0.4).astype(float), -1.0) for _ in range(4)]
    must = [row for row in must if row.columns]
    wanted = (dice.random(8) < 0.6).astype(float)
    wanted[0] = wanted[1] = 1.0

    def judge(points, kind) -> Answer:
        lacking = [point for point in points if wanted @ point < 2 - 1e-6]
        rows = (at_most(-wanted, -2.0),) if lacking else ()
        if kind == "broken":
            return Answer(rows)
        holds = tuple(point for point in points if wanted @ point > 2 - 1e-6)
        return Answer(rows, holds, bool(holds) and holds[0] is points[0])

    def begin(_point):
        return wanted * (np.cumsum(wanted) <= 2)

    everything = (np.zeros(8), np.ones(8))
    task = Task(weights, everything, (), judge, begin, nothing, must=must)
    found = search(task, to_the_end)
    truth = min(
        weights @ point
        for point in map(np.array, product((0.0, 1.0), repeat=8))
        if wanted @ point >= 2 and all(row.over(point) <= 1e-9 for row in must)
    )
    assert found.proven
    assert found.value == pytest.approx(truth)
    assert all(row.over(found.best) <= 1e-6 for row in must)
    first = begin(None)
    broken = any(row.over(first) > 1e-6 for row in must)
    assert (found.beside is not None) == broken
    if broken:
        assert found.beside.tolist() == first.tolist()


def test_a_point_that_passes_does_not_speak_for_one_before_that_breaks_a_row() -> None:
    must = [at_most(np.array([-1.0, 0.0]), -1.0)]

    def judge(points, kind) -> Answer:
        return Answer((), tuple(points), passed=True)

    ends = (np.zeros(2), np.ones(2))
    task = Task(np.ones(2), ends, (), judge, nothing, nothing, must=must)
    bad, good = np.array([0.0, 1.0]), np.array([1.0, 0.0])
    answer = rounds._Rounds(task, rounds.Search())._judge([bad, good], "whole")
    assert not answer.passed
    assert answer.rows == tuple(must)
    assert [point.tolist() for point in answer.holds] == [[1.0, 0.0]]
