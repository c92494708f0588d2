"""What is learnt of sets that fail forbids no set that holds."""

from dataclasses import replace

import numpy as np
import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.lighten.frontier import at_caution
from caldarium.core.lighten.judging import Judge
from caldarium.core.lighten.lightest import lightest
from caldarium.core.lighten.mending import Mender
from caldarium.core.lighten.nearby import Nearby
from caldarium.core.lighten.offers import offers_for
from caldarium.core.lighten.problem import Chosen, Objective, Problem, Wish
from caldarium.core.lighten.rounds import Row
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course
from tests.core.lighten.cases import case

HOLDS = """
    briefs rain-jacket rain-trousers thick-socks leather-boots over-mitts light-crew-synthetic
    mid-down-jacket light-trousers thin-hat wool-mitts thin-socks quilt-0 thin-foam torso-foam
"""


def of_somebody(name: str, at: int, objective: Objective = "grams") -> Problem:
    """What is asked of somebody of a demo with the whole catalogue to buy."""
    course = demo_course(name)
    person = course.people[at]
    offers = offers_for(person, Supply(everything=load_catalogue().everything), ["own", "buy"])
    return Problem(course, person, build_timeline(course), offers, Wish(objective))


def least_of(problem: Problem, row: Row, chosen: Chosen) -> float:
    """The least that a row can be at a set, with the gloves and socks of it that suit it best."""
    at, weights = problem.columns, np.zeros(problem.columns.count)
    weights[list(row.columns)] = row.weights
    found = float(weights @ problem.point_of(chosen))
    for part, digits in zip((at.fingers, at.toes), problem.digits, strict=True):
        kinds = {k for k, of in enumerate(digits.kinds) if set(of) & set(chosen.clothes)}
        fit = [k for k, each in enumerate(digits.sets) if set(each) <= kinds]
        found += min(weights[part.start + k] for k in fit)
    return found


def learnt(problem: Problem, points) -> tuple[Row, ...]:
    return Judge(problem, Mender(problem)).judge(points, "near").rows


@pytest.mark.parametrize("name", DEMOS)
def test_what_fails_beside_a_set_that_holds_does_not_forbid_it(name: str) -> None:
    problem = of_somebody(name, 1)
    found = lightest(problem, lambda search: search.best is None)
    assert found.chosen is not None
    dice = np.random.default_rng(4)
    here = problem.point_of(found.chosen)
    near = Nearby(problem).near([here], found.value - 400.0, found.value + 200.0)
    rows: list[Row] = []
    for _ in range(3):
        rows += learnt(problem, near[dice.choice(len(near), 8, replace=False)])
    assert rows
    for row in rows:
        assert least_of(problem, row, found.chosen) <= row.most + 1e-6


def test_what_fails_with_a_vapour_barrier_says_nothing_of_sets_without() -> None:
    """Over barrier socks the shirt gets wetter, and with it the bed: one piece more is colder."""
    problem = of_somebody("autumn-fell", 8)
    holds = problem.chosen_of(HOLDS.split())
    assert holds is not None
    less = " ".join(HOLDS.split()).replace("thick-socks", "liner-socks vapour-socks")
    fails = problem.chosen_of(less.split())
    assert fails is not None
    of_holds, of_fails = problem.fully([holds, fails])
    assert not of_holds
    assert ("3.night", "bed") in of_fails
    point = Nearby(problem).near([problem.point_of(fails)], 0.0, np.inf)[:1]
    point[0, problem.columns.clothes] = problem.point_of(fails)[problem.columns.clothes]
    rows = Judge(problem, Mender(problem)).judge(list(point), "whole").rows
    assert rows
    for row in rows:
        assert least_of(problem, row, holds) <= row.most + 1e-6


def test_a_bed_that_bounds_see_nothing_of_is_mended_where_its_night_is_known() -> None:
    problem = of_somebody("autumn-fell", 5)
    mender = Mender(problem)
    base = lightest(problem, lambda found: found.best is None).chosen
    tried = [replace(base, top=k) for k in range(len(problem.tops))]
    tried += [replace(base, bottom=k) for k in range(len(problem.bottoms))]
    short = [
        (chosen, failing)
        for chosen, failing in zip(tried, problem.fully(tried), strict=True)
        if failing
        and all(kind == "bed" for _, kind in failing)
        and mender.glances.lacking([chosen], mender.glances.like(chosen))[0] == 0
    ]
    assert short
    mended = [mender.mended(chosen, failing) for chosen, failing in short[:6]]
    assert all(point is not None for point in mended)
    assert not any(problem.fully([problem.chosen(point) for point in mended]))


def test_what_a_heavier_bed_mends_on_the_way_is_not_forbidden_at_a_stop() -> None:
    """Fingers begin a stop as the way there left them, warmer under a heavier pack."""
    asked = case(8, 5)
    plan = at_caution(asked.course, 0.2)
    problem = Problem(plan, asked.person, build_timeline(plan), asked.offers, asked.wish)
    light = Chosen(tuple(range(18)), 0, 1)
    heavy = replace(light, bottom=0)
    of_light, of_heavy = problem.fully([light, heavy])
    assert not of_heavy
    assert ("3.down-the-fan.hold", "fingers") in of_light
    point = Nearby(problem).near([problem.point_of(light)], 0.0, np.inf)[:1]
    point[0, : problem.columns.worn.stop] = problem.point_of(light)[: problem.columns.worn.stop]
    point[0, problem.columns.bottoms] = problem.point_of(light)[problem.columns.bottoms]
    rows = Judge(problem, Mender(problem)).judge(list(point), "near").rows
    assert rows
    for row in rows:
        assert least_of(problem, row, heavy) <= row.most + 1e-6


def test_a_bed_is_seen_as_wet_as_under_the_load_of_another_set() -> None:
    """Who walks under less sweats less and lies in drier clothes: a set that is grown with all that
    does not mend it is carried by nobody, and looked at under the load of what it grew from."""
    problem, night = of_somebody("autumn-fell", 9), ("3.night", "bed")
    mender = Mender(problem)
    light = lightest(problem, lambda found: found.best is None).chosen
    assert light is not None
    glances, dice, drier = mender.glances, np.random.default_rng(2), []
    for top in (light.top, 0, 3):
        more = dice.choice(len(problem.pieces), 40, replace=False).tolist()
        heavy = replace(light, clothes=tuple(sorted({*light.clothes, *more})), top=top)
        people, berths = [problem.person_in(heavy)], problem.berths([heavy])
        (failing,) = problem.verdicts.surely(people, berths, problem.laden([light]))
        seen, own = (
            float(glances.beyond([heavy], known, night)[0])
            for known in (glances.like(heavy, light), glances.like(heavy))
        )
        assert (seen > 0) == (night in failing)
        drier.append(own - seen)
    assert max(drier) > 0.05
