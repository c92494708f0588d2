"""Water on the way: a habit in the cool, sweat in the heat, and what bottles then lack."""

import pytest

from caldarium.core.assess import assess
from caldarium.core.load.drinking import DRINKS, drunk_by, sweat_on_the_way
from caldarium.core.load.water import dry_stretches
from caldarium.core.timeline.moments import build_timeline
from tests.courses import KINDS


def walks(course):
    moments = build_timeline(course).moments
    return [each for each in moments if each.kind == "moving"]


def test_in_the_cool_people_drink_by_habit(demo) -> None:
    cool = [each for each in walks(demo) if each.day == 2]
    assert drunk_by(cool) == pytest.approx([DRINKS["moving"]] * len(cool))


def test_a_hot_canyon_takes_far_more_and_bottles_run_dry() -> None:
    course = KINDS["hot canyon"]()
    noon = walks(course)
    # Two thirds of a litre to a litre and a quarter an hour: common practice, no published source.
    assert 0.65 <= max(drunk_by(noon)) <= 1.25
    assert max(sweat_on_the_way(noon)) > max(drunk_by(noon))
    person = course.people[0].altered(water_l=1.0, containers_l=1.0)
    (dry,) = dry_stretches(course, (person,), build_timeline(course))
    assert sum(each.litres for each in dry) > 1


def test_the_load_falls_by_what_is_drunk() -> None:
    course = KINDS["hot canyon"]()
    cooler = course.altered(
        days=tuple(
            day.altered(conditions=day.conditions.altered(high_c=14, low_c=8))
            for day in course.days
        )
    )
    water = [min(assess(each).people[0].load.water) for each in (course, cooler)]
    assert water[0] <= water[1]
