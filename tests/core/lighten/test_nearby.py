"""What is next to a set: all of it, each a point that can be; and it changes no answer."""

from itertools import combinations

import numpy as np
import pytest

from caldarium.core.lighten import rounds
from caldarium.core.lighten.lightest import lightest
from caldarium.core.lighten.nearby import Nearby
from caldarium.core.lighten.rounds import Answer, Row, Task, at_most, search
from tests.core.lighten.cases import case, nothing


def to_the_end(search) -> bool:
    return True


@pytest.mark.parametrize("seed", [2, 4, 7])
def test_every_exchange_of_one_piece_is_looked_at(seed: int) -> None:
    problem = case(seed, 8)
    found = lightest(problem, to_the_end)
    assert found.chosen is not None
    at, (low, high) = problem.columns, problem.bounds
    here = problem.point_of(found.chosen)
    near = Nearby(problem).near([here], 0.0, np.inf)
    out = [n for n in found.chosen.clothes if low[n] < 1]
    into = [n for n in range(len(problem.pieces)) if here[n] < 1 and high[n] > 0]
    beds = int(high[at.tops].sum() + high[at.bottoms].sum()) - 2
    assert len(near) == len(out) + len(into) + len(out) * len(into) + beds
    assert len({each[at.clothes].tobytes() + each[at.tops].tobytes() for each in near}) > len(out)
    for each in near:
        clothes = np.abs(each - here)[at.clothes].sum()
        assert clothes + np.abs(each - here)[at.tops].sum() <= 2
        for part, sets in ((at.fingers, problem.digits[0]), (at.toes, problem.digits[1])):
            (k,) = np.flatnonzero(each[part])
            there = [any(each[piece] for piece in kind) for kind in sets.kinds]
            whole = [all(there[kind] for kind in one) for one in sets.sets]
            assert whole[k] or not any(whole)
    value = float(problem.weights @ here)
    lighter = Nearby(problem).near([here], value - 50.0, value)
    sums = lighter @ problem.weights
    assert ((sums >= value - 50.001) & (sums < value)).all()
    every = near @ problem.weights
    assert len(lighter) == ((every >= value - 50) & (every < value)).sum()


@pytest.mark.parametrize("seed", range(6))
def test_looking_near_changes_no_answer(seed: int, monkeypatch) -> None:
    """Points pass that hold one of each of some hidden groups; every subset is tried."""
    monkeypatch.setattr(rounds, "NEAR", 10.0)
    dice = np.random.default_rng(seed)
    count = 9
    weights = dice.integers(5, 60, count).astype(float)
    groups = [dice.choice(count, size=3, replace=False) for _ in range(5)]
    sets = (list(each) for size in range(count + 1) for each in combinations(range(count), size))
    least = min(
        weights[each].sum() for each in sets if all(set(each) & set(group) for group in groups)
    )
    looked: list[str] = []

    def judge(points, kind) -> Answer:
        rows: list[Row] = []
        looked.append(kind)
        for point in points if kind != "broken" else ():
            for group in groups:
                if not point[group].sum():
                    row = np.zeros(count)
                    row[group] = -1.0
                    rows.append(at_most(row, -1.0))
                    break
        passed = kind == "whole" and not rows
        return Answer(tuple(rows), (), passed)

    def near(points, low, high):
        flips = [np.abs(point - each) for point in points for each in np.eye(count)]
        flips = [each for each in flips if low - 1e-6 <= weights @ each < high]
        return np.array(flips).reshape(-1, count)

    bounds = (np.zeros(count), np.ones(count))
    for around in (None, near):
        task = Task(weights, bounds, [], judge, nothing, nothing, around)
        found = search(task, to_the_end)
        assert found.proven
        assert found.value == pytest.approx(least)
    assert "near" in looked
