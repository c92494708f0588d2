"""One rule of time: how long clothing must hold, and what that asks for."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caldarium.core.assess import assess
from caldarium.core.physics import cold
from caldarium.core.timeline.held import must_hold
from tests.courses import KINDS


@pytest.mark.parametrize(
    ("kind", "hours", "held"),
    [
        ("halt", 1 / 3, 2 / 3),
        ("halt", 0.1, 0.5),
        ("setting out", 0.25, 0.25),
        ("moving", 3.0, 3.0),
        ("moving", 12.0, 8.0),
        ("camp", 9.0, 1.0),
        ("camp", 0.5, 0.5),
        ("hold", 4.0, 4.0),
    ],
)
def test_every_kind_has_its_time(demo, kind, hours, held) -> None:
    assert must_hold(demo, kind, hours) == pytest.approx(held)


def test_the_course_says_otherwise(demo) -> None:
    other = demo.altered(halt_factor=3, halt_least_h=1, camp_sit_h=2)
    assert must_hold(other, "halt", 0.5) == 1.5
    assert must_hold(other, "halt", 0.1) == 1
    assert must_hold(other, "camp", 9.0) == 2
    long = demo.altered(hold_h=12)
    assert must_hold(long, "hold", 12.0) == 12


@given(st.floats(-40, 5), st.floats(0.4, 15), st.floats(60, 200), st.floats(0.2, 8))
def test_what_is_needed_for_a_time_holds_exactly_so_long(air, wind, rate, hours) -> None:
    where = cold.exposure(air, wind, 60, rate, 0.3)
    need = cold.required_insulation(cold.MINIMAL, where, enforce_range=False, hours=hours)
    steady = cold.required_insulation(cold.MINIMAL, where, enforce_range=False)
    assert need <= steady + 1e-9
    if need > 1e-6 and need < 7.9:
        found = cold.duration_limited_exposure(cold.MINIMAL, need, where, enforce_range=False)
        assert float(found) == pytest.approx(hours, rel=1e-3)


def test_word_number_and_endurance_agree_on_every_kind_of_course() -> None:
    for name in ("six people, three days", "deep winter", "hot canyon"):
        for person in assess(KINDS[name]()).people:
            for each in person.moments:
                short = each.provided < each.need_min - 0.05
                if each.state == "gap":
                    assert each.endurance < each.must_hold
                else:
                    assert not short
                assert each.gap == pytest.approx(max(each.need_min - each.provided, 0))


def test_caution_never_cools_a_hot_course() -> None:
    course = KINDS["hot canyon"]()
    strains = []
    for caution in ("as forecast", "cautious", "expedition"):
        found = assess(course.altered(caution=caution))
        walking = [m for m in found.people[0].moments if m.kind == "moving"]
        assert all(m.state == "hot" for m in walking)
        strains.append(np.mean([m.strain for m in walking]))
    assert strains == sorted(strains)


def test_heat_is_told_with_air_sun_and_water() -> None:
    from caldarium.words.day import outfit_sentence
    from caldarium.words.units import Display

    course = KINDS["hot canyon"]()
    found = assess(course)
    state = next(m for m in found.people[0].moments if m.kind == "moving")
    told = outfit_sentence(found.timeline.moment(state.moment), state, Display())
    assert told.startswith("Heat: at ")
    assert "in the sun" in told
    assert "of sweat an hour" in told


def test_a_hot_walk_is_a_caution_of_its_day() -> None:
    from caldarium.core.timeline.cautions import cautions
    from caldarium.core.timeline.moments import build_timeline
    from caldarium.words.cautions import caution_told
    from caldarium.words.units import Display

    for name, days in (("hot canyon", {0, 1}), ("deep winter", set())):
        course = KINDS[name]()
        found = [
            each for each in cautions(course, build_timeline(course)) if each.why.reason == "heat"
        ]
        assert {each.day for each in found} == days
        for each in found:
            assert "Walk before dawn" in caution_told(each, Display())
            assert each.why.figures[0] >= 26


def test_recovery_is_the_debt_over_what_the_next_moment_stores(demo_result) -> None:
    found = demo_result.of("ossi").moments
    kinds = {each.id: each for each in demo_result.timeline.moments}
    planned = [each for each in found if not kinds[each.moment].fold]
    told = 0
    for here, following in pairwise(planned):
        if here.day != following.day:
            assert here.recovery == float("inf")
            continue
        if np.isfinite(here.recovery):
            told += 1
            assert here.recovery > 0
            # Whoever stores heat at neutral skin wears more than neutral.
            assert following.provided > following.need_neutral - 0.1
    assert told
