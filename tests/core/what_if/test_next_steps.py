"""The next best steps are what they say, on every course that ships and on others."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.plan.log import Log
from caldarium.core.plan.unsaid import unsaid
from caldarium.core.plan.value import NotThereError
from caldarium.core.tally import STEPS, Tally, step_states, tally
from caldarium.core.what_if.next_steps import Shelves, Step, Weighed, next_steps, taken
from caldarium.demo import DEMOS, demo_course, demo_store
from caldarium.words.overview import next_effect, next_title, step_sentences, unsaid_words
from caldarium.words.units import Display
from tests.courses import from_nothing

SHELVES = Shelves(load_catalogue().everything, demo_store())


@pytest.mark.parametrize("name", DEMOS)
def test_each_step_does_what_its_card_says(name) -> None:
    course = demo_course(name)
    result = assess(course)
    found = next_steps(course, result, SHELVES)
    assert 1 <= len(found) <= 3
    assert [each.gain for each in found] == sorted((e.gain for e in found), reverse=True)
    for each in found:
        after = assess(taken(course, each.step, SHELVES))
        assert each.before == tally(result)
        assert each.after == tally(after)
        grams = 1000 * sum(
            new.load.by_day[0] - old.load.by_day[0]
            for new, old in zip(after.people, result.people, strict=True)
        )
        assert each.grams == pytest.approx(grams, abs=0.5)
        assert each.step.kind == "leave out" or each.closes > 0
        assert next_title(course, each.step, SHELVES.everything, SHELVES.stored)
        assert next_effect(each).endswith(".")


def test_the_cold_demos_are_nearly_in_order_after_a_few_steps() -> None:
    course = demo_course("high-plateau")
    for _ in range(8):
        result = assess(course)
        found = [e for e in next_steps(course, result, SHELVES) if e.step.kind != "leave out"]
        if not found:
            break
        course = taken(course, found[0].step, SHELVES)
    left = tally(assess(course))
    assert left.gaps <= 1
    assert (left.cold_beds, left.unfit) == (0, 0)


def test_heat_is_cured_by_the_clock() -> None:
    course = demo_course("hot-canyon")
    found = next_steps(course, assess(course), SHELVES)
    assert found[0].step.kind == "hours"
    assert found[0].after.hot < found[0].before.hot


def test_leaving_idle_things_at_home_opens_nothing() -> None:
    course = demo_course("hot-canyon")
    (leave,) = (
        each
        for each in next_steps(course, assess(course), SHELVES)
        if each.step.kind == "leave out"
    )
    assert leave.grams < -1000
    assert leave.after.hot <= leave.before.hot
    assert leave.after.gaps == leave.before.gaps == 0
    assert not any("sun-hat" in each for each in leave.step.what)


def test_people_without_a_roof_are_given_one() -> None:
    course = from_nothing(days=2, people=2, high=6, low=-1, wind=9, rain=12)
    found = next_steps(course, assess(course), SHELVES)
    (roof,) = (each for each in found if each.step.kind == "shelter")
    assert roof.after.unfit == 0
    assert {each.shelter for each in taken(course, roof.step, SHELVES).people} != {None}


def test_a_mild_day_with_enough_to_wear_asks_for_nothing() -> None:
    course = from_nothing(high=19, low=15, wind=1, camp=False)
    found = next_steps(course, assess(course), SHELVES)
    assert all(each.step.kind == "leave out" for each in found)


@pytest.mark.parametrize(
    "step",
    [
        Step("pieces", "day", ("nobody",), ("down-hood",)),
        Step("pieces", "day", ("runa",), ("moon-boots",)),
        Step("pieces", "day", ("runa",), ("tunnel-3",)),
        Step("lend", "beds", ("runa",), ("Z-99",)),
        Step("hours", "heat", what=("climb",), where="9", at=5),
        Step("hours", "heat", what=("nowhere",), where="1", at=5),
        Step("shelter", "shelter", ("runa",), ("down-hood",)),
    ],
)
def test_what_is_not_there_is_refused(demo, step) -> None:
    with pytest.raises(NotThereError):
        taken(demo, step, SHELVES)


def test_grams_weigh_against_what_is_closed() -> None:
    before = Tally(gaps=3, cold_beds=0, at_risk=0, hot=0, unfit=0, overladen=0)
    after = Tally(gaps=1, cold_beds=0, at_risk=0, hot=0, unfit=0, overladen=0)
    light = Weighed(Step("roof", "holds"), 100, before, after)
    heavy = Weighed(Step("roof", "holds"), 1500, before, after)
    assert light.gain > 0 > heavy.gain
    assert light.closes == heavy.closes == 8


@pytest.mark.parametrize("name", DEMOS)
def test_every_step_of_the_work_has_its_state_and_sentence(name) -> None:
    course = demo_course(name)
    result = assess(course)
    said = step_sentences(course, result, (), Log(), Display())
    states = step_states(tally(result), unsaid(course))
    assert [each.step for each in states] == list(STEPS)
    for each in states:
        assert said[each.step].endswith(".")
        assert (each.standing == "problems") is (each.problems > 0)
    told = [unsaid_words(course, each) for each in unsaid(course)]
    assert len({words for words, _ in told}) == len(told) > 3


def test_what_is_typed_is_said(demo) -> None:
    silent = {each.matter: each for each in unsaid(demo)}
    assert silent["humidity"].days == (0, 1)
    typed = demo.altered(
        as_typed={"days.0.conditions.humidity_pct": "70 %", "days.1.conditions.humidity_pct": "70"}
    )
    assert "humidity" not in {each.matter for each in unsaid(typed)}
    assert silent["sleeper"].people == ("runa",)
    assert "group kit" in {each.matter for each in unsaid(demo.altered(group=()))}
