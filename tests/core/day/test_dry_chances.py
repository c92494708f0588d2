"""Wet things dry at stops in fair air, in huts, on the body and in bed; and are told to."""

import numpy as np

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.day.dry_chances import COUNTS_FROM, dry_chances
from caldarium.core.day.wet_track import Nights, aside, in_huts
from caldarium.core.day.wetness import DRYING_ASIDE, DRYING_IN_HUT
from caldarium.core.plan.changes import pitch, with_day
from caldarium.core.plan.course import Course
from caldarium.core.plan.route import Leg
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course
from caldarium.words.drying import dried_words
from tests.courses import from_nothing

SHELTERS = load_catalogue().shelters


def two_days(*, rain: float = 0.0, rest_h: float = 0.0) -> Course:
    """A ford in the morning, perhaps a rest after it, and a night out."""
    course = from_nothing(days=2, high=16, low=6, wind=3, rain=rain)
    up, down = course.days[0].legs
    legs = [up.altered(river=True)]
    if rest_h:
        legs.append(Leg(id="rest", kind="rest", hours=rest_h, to_altitude_m=up.to_altitude_m))
    return with_day(course, 0, course.days[0].altered(legs=(*legs, down)))


def wetness_of(course: Course) -> dict[str, dict[str, float]]:
    return {each.moment: each.wet for each in assess(course).people[0].moments}


def chances(course: Course, day: int = 0):
    result, person = assess(course), course.people[0]
    states = result.of(person.id).moments
    return dry_chances(course, result.timeline, person, states, day), person


def test_a_hut_dries_what_a_tent_leaves_wet() -> None:
    course = two_days()
    person = course.people[0].id
    tent, hut = (
        wetness_of(pitch(course, person, SHELTERS[kind])) for kind in ("tunnel-3", "plain-hut")
    )
    assert sum(tent["2.setting-out"].values()) > sum(hut["2.setting-out"].values()) + 0.2


def test_a_stop_of_an_hour_dries_and_ten_minutes_do_not() -> None:
    fair, brief = two_days(rest_h=2.0), two_days(rest_h=0.2)
    found, person = chances(fair)
    stop = [each for each in found if each.moment == "1.rest.halt"]
    assert {each.how for each in stop} <= {"on the body", "laid out"}
    assert not [e for e in chances(brief)[0] if e.how == "laid out" and "rest" in e.moment]
    for each in found:
        how, what = dried_words(person, each)
        assert how
        assert " to " in what


def aside_at(course: Course) -> dict[str, float]:
    """What pieces lose beside people at each moment of the first day [g/(h m²)]."""
    moments = [m for m in build_timeline(course).moments if m.day == 0 and m.kind != "night"]
    nights = Nights(np.zeros((1, 0), dtype=bool), in_huts(course, course.people))
    return dict(zip([m.id for m in moments], aside(moments, nights)[0].tolist(), strict=True))


def test_nothing_dries_in_the_open_while_it_rains() -> None:
    """In fair air what lies at a stop dries faster than in a tent; in rain not at all, and in camp
    as in a tent; while people walk nothing does."""
    fair, wet = two_days(rest_h=2.0), two_days(rain=40, rest_h=2.0)
    conditions = wet.days[0].conditions.altered(rain_from_h=0, rain_hours=24)
    wet = with_day(wet, 0, wet.days[0].altered(conditions=conditions))
    dry, rainy = aside_at(fair), aside_at(wet)
    assert dry["1.rest.halt"] > 2 * DRYING_ASIDE
    assert rainy["1.rest.halt"] == 0
    assert rainy["1.camp"] == DRYING_ASIDE <= dry["1.camp"]
    assert dry["1.up.moving"] == dry["1.up.halt"] == 0
    in_hut = pitch(wet, wet.people[0].id, SHELTERS["plain-hut"])
    assert aside_at(in_hut)["1.camp"] == DRYING_IN_HUT
    assert not [each for each in chances(wet)[0] if each.how == "laid out"]


def test_every_chance_of_every_demo_is_a_difference_of_the_assessment() -> None:
    seen = 0
    for name in DEMOS:
        course = demo_course(name)
        result = assess(course)
        for person in course.people[:4]:
            states = result.of(person.id).moments
            for day in range(len(course.days)):
                for each in dry_chances(course, result.timeline, person, states, day):
                    assert each.hours > 0
                    assert all(d.before - d.after >= COUNTS_FROM for d in each.pieces)
                    assert all(dried_words(person, each))
                    seen += 1
    assert seen > 10
