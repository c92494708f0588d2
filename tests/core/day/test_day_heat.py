"""A day's heat and moisture: what a hot climb leaves behind, and what a cold halt takes."""

import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.day.day_heat import DEBT_LIMIT, day_story
from caldarium.core.plan.changes import set_leg
from caldarium.core.what_if.dial import Dial, turned
from caldarium.words.day import story_here_sentence, story_sentence, told_by_story
from caldarium.words.units import Display


def story(course, result, person="pell", day=1):
    found = next(each for each in result.people if each.person == person)
    return day_story(result.timeline, course.person(person), found.moments, day)


def test_the_hot_climb_leaves_sweat_in_the_clothing(demo, demo_result) -> None:
    told = story(demo, demo_result)
    moments = {each.moment: each for each in told.moments}
    climb = moments["2.climb.moving"]
    assert climb.sweat > 0.1
    assert climb.core > 36.9
    assert moments["2.climb.halt"].apart
    assert moments["2.climb.halt"] not in told.planned
    assert "L of sweat over the day" in story_sentence(told, Display())


def test_a_story_of_the_cold_side_agrees_with_no_verdict_of_heat(demo, demo_result) -> None:
    told = story(demo, demo_result)
    words = story_here_sentence(told, "2.climb.moving")
    assert next(e.state for e in told.moments if e.moment == "2.climb.moving") == "hot"
    assert "the verdict is of the warm one" in words
    assert "agrees" not in words


def test_sweat_in_cold_air_makes_the_next_halt_colder(demo) -> None:
    fit = demo.altered(people=tuple(each.altered(uptake_ml=65) for each in demo.people))
    cold = turned(set_leg(fit, 1, "climb", hours=1.6), Dial(colder=9))
    told = story(cold, assess(cold))
    moments = {each.moment: each for each in told.moments}
    climb, rest = moments["2.climb.moving"], moments["2.shoulder.halt"]
    assert climb.sweat > 0.05
    assert climb.water > 5
    assert rest.water > 0
    assert rest.kept < 1
    assert all(0.4 <= each.kept <= 1 for each in told.moments)


def test_colder_days_store_less(demo, demo_result) -> None:
    colder = turned(demo, Dial(colder=6))
    before = story(demo, demo_result, "ossi", 2)
    after = story(colder, assess(colder), "ossi", 2)
    assert after.stored.min() < before.stored.min()


def test_debt_is_carried_from_moment_to_moment(demo, demo_result) -> None:
    told = story(demo, demo_result, "ossi", 2)
    assert told.stored.min() < DEBT_LIMIT
    first = next(place for place, each in enumerate(told.planned) if each.in_debt)
    assert 0 < told.planned[first].held_for <= 2
    for each in told.planned[first + 1 :]:
        if each.in_debt:
            assert each.lowest <= told.stored.max()
    carried = [each for each in told.moments if each.held_for == 0]
    assert carried
    assert all("in debt when it begins" in told_by_story(each) for each in carried)
    assert np.all(np.diff(told.hour) > 0)
    total = sum(each.stored for each in told.planned)
    assert total == pytest.approx(float(told.stored[-1]), abs=1e-6)


def test_a_fold_is_lived_from_where_the_walk_ended(demo, demo_result) -> None:
    whole = story(demo, demo_result, "runa", 2)
    found = next(each for each in demo_result.people if each.person == "runa")
    person = demo.person("runa")
    plan_only = day_story(demo_result.timeline, person, found.moments, 2, ())
    assert plan_only.moments == whole.planned
    assert len(whole.moments) > len(whole.planned)
    assert np.array_equal(plan_only.stored, whole.stored)


def test_story_and_verdict_differ_where_they_should(demo, demo_result) -> None:
    told = [story(demo, demo_result, person.id, 2) for person in demo.people]
    kinds = {(each.state == "gap", each.in_debt) for day in told for each in day.moments}
    assert {(True, True), (False, False)} <= kinds
    for day in told:
        for each in day.moments:
            by_heat = each.in_debt != (each.state == "gap")
            assert each.differs == (by_heat or bool(each.cold_digits))
