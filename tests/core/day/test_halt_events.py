"""What happens within a halt: the jacket goes on, something hot is drunk, something is eaten."""

import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.day.day_heat import day_story
from caldarium.core.load.drinking import boiled_on
from caldarium.core.load.supplies import camp_needs
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.intake import EATEN_FOR, drink_heat, food_heat, longer_with
from caldarium.core.plan.changes import set_leg
from caldarium.core.what_if.more_cures import DRINK_L, otherwise
from caldarium.demo import DEMOS, demo_course
from caldarium.words.day import beside_sentence, otherwise_sentence
from caldarium.words.steps_day import explain_moment
from caldarium.words.units import Display

HALT, LEG, DAY = "3.north-top.halt", "north-top", 2


def with_halt(demo, **parts):
    return set_leg(demo, DAY, LEG, **parts)


def halt_of(course, who: str = "ossi", moment: str = HALT):
    result = assess(course)
    state = next(each for each in result.of(who).moments if each.moment == moment)
    told = day_story(result.timeline, course.person(who), result.of(who).moments, DAY)
    return result, state, next(each for each in told.moments if each.moment == moment)


def test_heat_of_a_drink_and_of_a_meal_by_hand() -> None:
    """Half a litre that falls by 23 K gives 0.5 x 4186 x 23 J = 48.1 kJ = 13.4 W h; a tenth of 600
    kcal over three hours is 23.3 W."""
    assert float(drink_heat(0.5)) == pytest.approx(48.139 / 3.6, rel=1e-4)
    assert float(food_heat(600)) == pytest.approx(600 * 4186.8 / 3600 * 0.1 / EATEN_FOR, rel=1e-3)
    assert float(longer_with(0.0)) == 1.0
    assert float(longer_with(0.5)) == pytest.approx(1 + 13.372 / 1.8 / 40, rel=1e-4)


def test_a_hot_drink_counts_in_the_verdict_as_it_says(demo, demo_result) -> None:
    result, state, _ = halt_of(with_halt(demo, hot_drink_l=0.5))
    before = next(each for each in demo_result.of("ossi").moments if each.moment == HALT)
    moment = result.timeline.moment(HALT)
    assert moment.by_clothing == pytest.approx(moment.must_hold / float(longer_with(0.5)))
    assert state.must_hold == before.must_hold
    assert state.need_min < before.need_min
    assert state.need_steady == pytest.approx(before.need_steady, abs=0.001)
    if state.worn == before.worn:
        assert state.endurance == pytest.approx(before.endurance * float(longer_with(0.5)))
    assert "0.5 L of hot drink" in beside_sentence(moment, state, Display())
    steps = " ".join(step.formula for step in explain_moment(moment, state, Display()))
    assert "adds 7 W h/m²" in steps


@pytest.mark.parametrize("name", DEMOS)
def test_a_drink_that_is_said_to_close_a_gap_closes_it(name: str) -> None:
    """And one never opens or widens one."""
    course = demo_course(name).altered(caution="expedition")
    result = assess(course)
    halts = [m for m in result.timeline.moments if m.kind == "halt"]
    legs = {(m.day, m.leg) for m in halts}
    warm = course
    for day, leg in legs:
        warm = set_leg(warm, day, leg, hot_drink_l=DRINK_L)
    after = {p.person: {s.moment: s for s in p.moments} for p in assess(warm).people}
    for person in course.people:
        for state in result.of(person.id).moments:
            now = after[person.id][state.moment]
            if state.kind != "halt":
                continue
            assert now.gap <= state.gap + 0.01
            if state.state == "gap":
                found = otherwise(course, person, result.timeline.moment(state.moment), state)
                words = otherwise_sentence(found, Display())
                assert ("hot drink closes it" in words) == found.drink_closes
                if found.drink_closes:
                    assert now.state != "gap", (person.name, state.moment)


def test_a_drink_warms_the_body_of_the_story(demo) -> None:
    """Most of its heat is still there when the halt ends."""
    person = demo.person("ossi")
    area = float(body_area(person.body_mass_kg, person.height_m))
    _, _, without = halt_of(demo)
    _, _, drunk = halt_of(with_halt(demo, hot_drink_l=0.5))
    gained = (drunk.stored - without.stored) * area
    assert 0.4 * 13.4 < gained < 13.4
    assert drunk.core > without.core


def test_a_jacket_that_goes_on_late_leaves_people_colder(demo) -> None:
    stored = [
        halt_of(demo.altered(jacket_after_min=minutes))[2].stored for minutes in (0.0, 3.0, 10.0)
    ]
    assert stored == sorted(stored, reverse=True)
    assert stored[0] - stored[2] > 0.2
    at_most = assess(demo.altered(jacket_after_min=30.0)).timeline.moment(HALT)
    assert at_most.jacket_after == pytest.approx(at_most.hours / 2)


def test_what_is_eaten_warms_for_three_hours(demo) -> None:
    _, _, without = halt_of(demo)
    result, _, eaten = halt_of(with_halt(demo, eaten_kcal=900))
    assert eaten.stored > without.stored
    person = demo.person("ossi")
    told = day_story(result.timeline, person, result.of("ossi").moments, DAY)
    plain = assess(demo)
    before = day_story(plain.timeline, person, plain.of("ossi").moments, DAY)
    later = [
        (one.stored - other.stored, result.timeline.moment(one.moment))
        for one, other in zip(told.planned, before.planned, strict=True)
    ]
    end = result.timeline.moment(HALT).start + EATEN_FOR
    assert any(more > 0.05 and moment.start > end - EATEN_FOR for more, moment in later)
    assert all(abs(more) < 1e-9 for more, moment in later if moment.end <= end - EATEN_FOR)


def test_what_is_drunk_hot_is_boiled_at_the_camp_before(demo) -> None:
    timeline = assess(demo).timeline
    course = with_halt(demo, hot_drink_l=0.5)
    after = assess(course).timeline
    plain = [boiled_on(demo, timeline, day) for day in range(3)]
    found = [boiled_on(course, after, day) for day in range(3)]
    assert found[DAY - 1] - plain[DAY - 1] == pytest.approx(0.5)
    assert (found[0], found[2]) == (plain[0], plain[2])
    burnt = [
        {each.day: each.evening_g + each.morning_g for each in camp_needs(one, when)}
        for one, when in ((demo, timeline), (course, after))
    ]
    assert burnt[1][DAY - 1] > burnt[0][DAY - 1]
    assert np.isfinite(list(burnt[1].values())).all()
