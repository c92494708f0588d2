"""How heavy a bed mends by day what fails, and what is met with what a set weighs."""

import random
from collections.abc import Sequence

import numpy as np
import pytest

from caldarium.core.lighten import judging
from caldarium.core.lighten.bed_loads import Failing, between, fail_up_to, in_bed
from caldarium.core.lighten.lightest import lightest
from caldarium.core.lighten.problem import Problem
from tests.core.lighten.cases import at_random
from tests.core.lighten.test_judging import of_somebody


def by_asking(problem: Problem, failing: Failing) -> list[bool]:
    """Under which beds it fails whatever is worn, each asked."""
    worn, laden, fail = failing
    beds = problem.beds_by_mass
    fails = problem.verdicts.surely(
        [problem.person_in(worn)] * len(beds),
        problem.laden([in_bed(laden, bed) for bed in beds]),
    )
    return [fail in each for each in fails]


def test_fingers_that_a_heavier_bed_mends_fail_up_to_the_heaviest_that_does_not() -> None:
    """They begin a halt as the way there left them, warmer under a heavier pack."""
    problem, chance = of_somebody("autumn-fell", 5), random.Random(3)
    sets = [at_random(problem, chance) for _ in range(12)]
    people = [problem.person_in(each) for each in sets]
    sure = problem.verdicts.surely(people, problem.laden(sets))
    by_day = [
        (chosen, chosen, fail)
        for chosen, fails in zip(sets, sure, strict=True)
        for fail in sorted(fails)
        if fail[1] != "bed"
    ]
    mended = [
        (failing, most)
        for failing, most in zip(by_day, fail_up_to(problem, by_day), strict=True)
        if most < np.inf
    ]
    assert mended
    for failing, most in mended:
        assert problem.bed_grams(failing[0]) <= most < problem.beds_by_mass[-1].grams
        fails = by_asking(problem, failing)
        assert fails == [each.grams <= most for each in problem.beds_by_mass]


def test_what_fails_in_a_search_fails_up_to_the_bed_that_asking_every_bed_gives(
    monkeypatch,
) -> None:
    problem = of_somebody("high-plateau", 2)
    asked: list[tuple[Failing, float]] = []

    def noted(of: Problem, failing: Sequence[Failing]) -> list[float]:
        found = fail_up_to(of, failing)
        asked.extend(zip(failing, found, strict=True))
        return found

    monkeypatch.setattr(judging, "fail_up_to", noted)
    lightest(problem, lambda found: found.judged < 20 and not asked)
    assert asked
    for failing, most in asked[:2]:
        fails = by_asking(problem, failing)
        assert fails == [each.grams <= most for each in problem.beds_by_mass]


def test_what_is_met_is_the_same_alone_and_among_others() -> None:
    problem = of_somebody("high-plateau", 2)
    beds = [problem.beds_by_mass[0], problem.beds_by_mass[-1]]
    base = problem.chosen_of([each.key for each in problem.offers if each.source == "own"])
    assert base is not None
    sets = [in_bed(base, bed) for bed in beds]
    light, heavy = problem.laden(sets)
    (alone,) = problem.verdicts.laden([problem.person_in(sets[1])])
    for one, other in zip(
        vars(alone.air.where).values(), vars(heavy.air.where).values(), strict=True
    ):
        assert one == pytest.approx(other, rel=1e-12)
    assert vars(alone.needs).keys() == vars(heavy.needs).keys()
    assert (heavy.air.where.metabolic_rate >= light.air.where.metabolic_rate - 1e-9).all()
    assert (heavy.air.where.metabolic_rate > light.air.where.metabolic_rate + 1e-3).any()


@pytest.mark.parametrize(("low", "high"), [(0, 1), (3, 5), (0, 7), (2, 600)])
def test_places_between_two_are_neither(low: int, high: int) -> None:
    found = between(low, high)
    assert all(low < each < high for each in found)
    assert bool(found) == (high - low > 1)
