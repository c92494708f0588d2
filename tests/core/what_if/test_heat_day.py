"""A day of predicted heat strain: on every demo, in the canyon, and where it is never warm."""

import math

import pytest

from caldarium.core.assess import assess
from caldarium.core.physics.heat_strain import CORE_LIMIT
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.what_if.dial import Dial, turned
from caldarium.core.what_if.heat_day import WARM_FROM, heat_day
from caldarium.demo import DEMOS, demo_course
from caldarium.words.heat import explain_heat_day, heat_day_sentence, heat_moment_sentence
from caldarium.words.units import Display


@pytest.mark.parametrize("name", DEMOS)
def test_every_day_of_every_demo_is_told_where_it_is_warm(name: str) -> None:
    course = demo_course(name)
    timeline = build_timeline(course)
    warm = {m.id for m in timeline.moments if m.warm.air >= WARM_FROM}
    for person in course.people[:3]:
        for day in range(len(course.days)):
            found = heat_day(course, timeline, person, day)
            assert {each.moment for each in found.moments} <= warm
            lost = [each.lost_so_far for each in found.moments]
            assert lost == sorted(lost)
            for each in found.moments:
                assert 36 < each.core <= each.highest < 42
                assert (each.highest > CORE_LIMIT) == math.isfinite(each.held_for)
                assert "ISO 7933" in heat_moment_sentence(each, Display())
            told = heat_day_sentence(found, Display())
            assert bool(told) == bool(found.moments) == bool(explain_heat_day(found, Display()))


def test_a_canyon_costs_more_water_than_people_may_lose() -> None:
    """Common practice, no published source: 34 °C with a load is a water and shade problem."""
    course = demo_course("hot-canyon")
    timeline = build_timeline(course)
    found = heat_day(course, timeline, course.people[0], 1)
    assert found.too_dry
    assert found.moments[-1].lost_so_far > 3.5
    assert max(each.highest for each in found.moments) > CORE_LIMIT
    assert "drink through the day" in heat_day_sentence(found, Display())
    hot = {s.moment for s in assess(course).people[0].moments if s.state == "hot"}
    assert any(each.moment in hot and each.highest > CORE_LIMIT for each in found.moments)


def test_hotter_is_never_less_strain() -> None:
    course = demo_course("hot-canyon")
    hotter = turned(course, Dial(colder=-3))
    person = course.people[0]
    before, after = (heat_day(each, build_timeline(each), person, 0) for each in (course, hotter))
    peaks = [max(each.highest for each in found.moments) for found in (before, after)]
    assert peaks[1] > peaks[0]


def test_a_cold_day_is_not_told_of() -> None:
    course = demo_course("deep-winter")
    found = heat_day(course, build_timeline(course), course.people[0], 0)
    assert found.moments == ()
    assert heat_day_sentence(found, Display()) == ""
    assert heat_moment_sentence(found.of("1.camp"), Display()) == ""
