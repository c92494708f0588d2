"""What is met with what a set weighs, and up to which load what fails is told to."""

import random
from collections.abc import Sequence

import numpy as np
import pytest

from caldarium.core.lighten import problem as asked
from caldarium.core.lighten.frontier import at_caution
from caldarium.core.lighten.halving import between, fail_up_to
from caldarium.core.lighten.judging import HEAVIER, LOAD_STEP, Judge, _Grown
from caldarium.core.lighten.lightest import lightest
from caldarium.core.lighten.mending import Mender
from caldarium.core.lighten.offers import own_grams
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.timeline.moments import build_timeline
from tests.core.lighten.cases import case
from tests.core.lighten.test_judging import least_of, of_somebody


@pytest.fixture(scope="module")
def problem() -> Problem:
    return of_somebody("high-plateau", 0)


FAILS_LIGHT = Chosen(tuple(range(18)), 0, 1), ("3.down-the-fan.hold", "fingers")
"""A set of these that fails so, and would not on the way under a heavier pack."""


@pytest.fixture(scope="module")
def under_a_load() -> Problem:
    told = case(8, 5)
    plan = at_caution(told.course, 0.2)
    return Problem(plan, told.person, build_timeline(plan), told.offers, told.wish)


def fails_under(problem: Problem, grown: _Grown, loads: Sequence[float]) -> list[bool]:
    """Whether a set fails as it should by the whole verdict, laden with so much in all [g]."""
    judged = problem.fully([grown.now] * len(loads), loads)
    return [grown.fail in each for each in judged]


def test_rows_know_up_to_which_load_something_fails(under_a_load: Problem) -> None:
    """What somebody walks under keeps them warm: no row may forbid a set that holds by that."""
    plan, judge = under_a_load, Judge(under_a_load, Mender(under_a_load))
    grown = judge._settled([judge._grown(*FAILS_LIGHT)])
    (up_to,) = judge._up_to(grown)
    here = plan.grams(grown[0].chosen)
    assert here < up_to < plan.most_g
    assert all(fails_under(plan, grown[0], np.linspace(here, up_to, 12).tolist()))
    assert not any(fails_under(plan, grown[0], [up_to + LOAD_STEP, plan.most_g]))
    row, point = judge._blocked(grown[0], [], up_to), plan.point_of(grown[0].chosen)
    # The same with something more that does nothing, at this many grams.
    weights = np.zeros(plan.columns.count)
    weights[list(row.columns)] = row.weights
    first = grown[0].chosen.clothes[0]
    a_gram = weights[first] / plan.pieces[first].mass_g
    assert a_gram < 0
    assert row.over(point) + a_gram * (up_to - here) > 0
    assert row.over(point) + a_gram * (up_to + HEAVIER - here) <= 1e-9


def test_rows_learnt_of_sets_forbid_none_that_holds_by_its_weight(problem: Problem) -> None:
    best = lightest(problem, lambda search: search.best is None).chosen
    assert best is not None
    chance = random.Random(2)
    judge = Judge(problem, Mender(problem))
    rows = []
    for _ in range(6):
        less = [n for n in best.clothes if chance.random() < 0.8]
        point = problem.point_of(Chosen(tuple(less), best.top, best.bottom))
        rows += judge.judge([point], "near").rows
    assert rows
    for row in rows:
        assert least_of(problem, row, best) <= row.most + 1e-6


def test_what_is_met_is_the_same_alone_and_among_others(problem: Problem) -> None:
    own = problem.chosen_of([each.key for each in problem.offers if each.source == "own"])
    assert own is not None
    here = problem.grams(own)
    assert here == pytest.approx(own_grams(problem.person_in(own)))
    light, heavy = problem.verdicts.laden(problem.under([own, own], [here, here + 2000.0]))
    (alone,) = problem.verdicts.laden(problem.under([own], [here + 2000.0]))
    for one, other in zip(
        vars(alone.air.where).values(), vars(heavy.air.where).values(), strict=True
    ):
        assert one == pytest.approx(other, rel=1e-12)
    rates = (light.air.where.metabolic_rate, heavy.air.where.metabolic_rate)
    assert (rates[1] >= rates[0] - 1e-9).all()
    assert (rates[1] > rates[0] + 1e-3).any()
    # Nothing is taken off somebody who carries more already.
    assert problem.under([own], [here - 500.0]) == [problem.person_in(own)]


def test_nothing_is_called_proven_that_weighs_more_than_bounds_allow_for(monkeypatch) -> None:
    monkeypatch.setattr(asked, "HEAVIEST_G", 500.0)
    monkeypatch.setattr(asked, "MORE_G", -2500.0)
    problem = of_somebody("hot-canyon", 1)
    found = lightest(problem, lambda _: True)
    assert found.chosen is not None
    assert found.grams > problem.most_g
    assert not found.proven


def test_what_a_better_set_may_weigh_hangs_on_what_is_made_least(problem: Problem) -> None:
    assert problem.grams_of_better(5000.0, 6000.0) == (
        5000.0 - asked.MOST_FAR_G,
        6000.0 + asked.ROOM_G,
    )
    assert problem.grams_of_better(-np.inf, np.inf) == (0.0, problem.most_g)
    assert problem.most_g == asked.HEAVIEST_G
    for_cost = of_somebody("hot-canyon", 0, objective="cost")
    assert for_cost.grams_of_better(50.0, 60.0) == (0.0, for_cost.most_g)


def test_the_last_place_that_fails_is_the_one_that_asking_all_gives() -> None:
    chance = random.Random(1)
    ends = [chance.randint(1, 500) for _ in range(60)]
    truth = [chance.randrange(end) for end in ends]
    asked_of: list[int] = []

    def fails(tried: Sequence[tuple[int, int]]) -> list[bool]:
        asked_of.append(len(tried))
        return [at <= truth[k] for k, at in tried]

    assert fail_up_to(ends, fails) == truth
    assert len(asked_of) <= 6
    assert fail_up_to([], fails) == []


def test_what_fails_again_further_on_is_told_no_further_than_it_is_known() -> None:
    assert fail_up_to([100], lambda tried: [at < 20 or at > 40 for _, at in tried]) == [19]


@pytest.mark.parametrize(("low", "high"), [(0, 1), (3, 5), (0, 7), (2, 600)])
def test_places_between_two_are_neither(low: int, high: int) -> None:
    found = between(low, high)
    assert all(low < each < high for each in found)
    assert bool(found) == (high - low > 1)
