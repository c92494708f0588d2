"""Cooler hours for a hot day: found by the whole assessment, and true when taken."""

from caldarium.core.assess import assess
from caldarium.core.plan.changes import set_leg
from caldarium.core.what_if.other_hours import EARLIEST, other_hours
from caldarium.words.day import hours_sentence, no_hours_sentence
from tests.courses import KINDS


def hot_moments(course, day: int = 0) -> int:
    found = assess(course).people[0].moments
    return sum(m.state == "hot" and m.day == day and m.kind != "hold" for m in found)


def test_setting_out_before_dawn_leaves_less_heat_and_what_is_said_comes_true() -> None:
    course = KINDS["hot canyon"]()
    found = other_hours(course, course.people[0], 0)
    assert found.hot == hot_moments(course) > 2
    early = next(each for each in found.others if each.kind == "early")
    assert early.start >= EARLIEST
    assert early.hot < found.hot
    assert hot_moments(set_leg(course, 0, early.leg, start_h=early.start)) == early.hot
    assert "Setting out at" in hours_sentence(early, found.hot)


def test_a_cool_day_asks_for_nothing(demo) -> None:
    found = other_hours(demo, demo.people[0], 2)
    assert (found.hot, found.others) == (0, ())
    assert no_hours_sentence(0) == ""


def test_where_no_hour_is_cooler_that_is_said() -> None:
    course = KINDS["hot canyon"]()
    same = course.days[0].conditions.altered(high_c=44, low_c=43, humidity_pct=80)
    course = course.altered(days=tuple(each.altered(conditions=same) for each in course.days))
    found = other_hours(course, course.people[0], 0)
    assert found.hot > 0
    assert all(each.hot < found.hot for each in found.others)
    assert "No other hours" in no_hours_sentence(found.hot)
