"""Readings on the course's clock: drift and zones by hand, means, what looks odd."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.log.measured import measured_nights
from caldarium.core.log.odd import odd
from caldarium.core.log.readings import (
    STEP_H,
    aligned,
    in_steps,
    in_utc,
    kept_window,
    thermometers_of,
)
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import MOST_READINGS, Thermometer
from caldarium.demo import demo_course


@pytest.fixture(scope="module")
def plan() -> Course:
    return demo_course()


@pytest.fixture(scope="module")
def timeline(plan: Course):
    return assess(plan.altered(caution="as forecast")).timeline


def read(plan: Course, celsius, first: str = "2026-09-21 00:00", **more) -> Thermometer:
    parts = {"utc_offset_h": plan.place.utc_offset_h, "where": "outside"} | more
    begin = datetime.strptime(first, "%Y-%m-%d %H:%M")
    return Thermometer(id="t", name="t", first=begin, celsius=tuple(celsius), **parts)


def test_the_courses_own_clock_begins_at_midnight_of_its_first_day(plan: Course) -> None:
    track = aligned(plan, read(plan, [1.0, 2.0, 3.0]))
    assert track.hour.tolist() == pytest.approx([5 / 60, 15 / 60, 25 / 60])


@pytest.mark.parametrize(("offset", "hour"), [(2.0, 6.0), (0.0, 8.0), (-4.0, 12.0), (5.5, 2.5)])
def test_a_clock_of_another_zone_is_moved_by_the_difference(
    plan: Course, offset: float, hour: float
) -> None:
    """06:00 by a clock that stands so far ahead of UTC; the course's own is two hours ahead."""
    track = aligned(plan, read(plan, [0.0], "2026-09-21 06:00", utc_offset_h=offset))
    assert track.hour[0] == pytest.approx(hour + STEP_H / 2)


def test_a_clock_that_runs_off_is_pulled_straight_by_hand(plan: Course) -> None:
    """Right at its first reading and 12 minutes fast after ten hours: the middle is six minutes
    early, the last twelve."""
    track = aligned(plan, read(plan, [0.0] * 61, ahead_last_s=720))
    assert track.hour[0] == pytest.approx(5 / 60)
    assert track.hour[30] == pytest.approx(5 + 5 / 60 - 0.1)
    assert track.hour[60] == pytest.approx(10 + 5 / 60 - 0.2)


def test_a_clock_of_another_year_is_brought_back(plan: Course) -> None:
    wrong = datetime(2000, 1, 1)
    ahead = (wrong - datetime(2026, 9, 21)).total_seconds()
    found = read(plan, [1.0] * 6, "2000-01-01 00:00", ahead_first_s=ahead, ahead_last_s=ahead)
    assert aligned(plan, found).hour[0] == pytest.approx(5 / 60, abs=1e-6)


def test_irregular_readings_become_means_by_hand() -> None:
    seconds = np.array([0.0, 60.0, 599.0, 600.0, 2400.0, 2410.0])
    celsius = np.array([1.0, 2.0, 6.0, 10.0, np.nan, 4.0])
    first, means = in_steps(seconds, celsius)
    assert first == 0
    assert means == (3.0, 10.0, None, None, 4.0)


def test_a_year_is_cut_to_the_course_and_a_day_round_it(plan: Course) -> None:
    least, most = kept_window(plan, datetime(2026, 1, 1), 6 * 24 * 365, 2.0)
    assert (most - least) * STEP_H == pytest.approx(24 * (len(plan.days) + 2))
    begin = datetime(2026, 1, 1) + timedelta(hours=least * STEP_H)
    assert begin == datetime(2026, 9, 20)
    assert kept_window(plan, datetime(1999, 1, 1), 9999, 2.0) == (0, MOST_READINGS)


def test_times_in_utc_are_those_of_the_file(plan: Course) -> None:
    seconds, celsius = in_utc(read(plan, [1.0, None, 2.0], "2026-09-21 06:00"))
    begin = datetime(2026, 9, 21, 4, tzinfo=UTC).timestamp()
    assert seconds.tolist() == [begin, begin + 600, begin + 1200]
    assert celsius[0] == 1.0
    assert np.isnan(celsius[1])


def test_a_nights_low_is_the_lowest_mean_over_an_hour(plan: Course, timeline) -> None:
    night = next(m for m in timeline.moments if m.kind == "night" and m.day == 1)
    values = [5.0] * (6 * 24 * 5)
    cold = int((night.start + 4) / STEP_H)
    for at in range(cold, cold + 6):
        values[at] = -3.0
    values[cold + 20] = -20.0
    found = measured_nights(plan, timeline, [read(plan, values)])
    assert found[1].low == pytest.approx(min(-3.0, (5 * 5 - 20) / 6))
    assert found[0].low == pytest.approx(5.0)


def test_a_night_half_read_counts_for_nothing(plan: Course, timeline) -> None:
    night = next(m for m in timeline.moments if m.kind == "night" and m.day == 0)
    upto = int((night.start + night.hours / 2) / STEP_H)
    found = measured_nights(plan, timeline, [read(plan, [1.0] * upto)])
    assert found[0].low is None


def test_lifts_and_beds_are_told_apart(plan: Course, timeline) -> None:
    whole = 6 * 24 * 5
    outside = read(plan, [0.0] * whole)
    inside = read(plan, [2.5] * whole, where="shelter", of="dome").altered(id="i")
    bed = read(plan, [28.0] * whole, where="bed", of="runa").altered(id="b")
    found = measured_nights(plan, timeline, [outside, inside, bed])
    assert found[2].lifts == {"dome": pytest.approx(2.5)}
    assert found[2].beds == {"runa": pytest.approx(28.0)}
    without = measured_nights(plan, timeline, [inside, bed])
    assert without[2].lifts == {}


def test_what_looks_odd_is_said(plan: Course, timeline) -> None:
    hours = np.arange(0, 120, STEP_H) + STEP_H / 2
    air = np.interp(hours, timeline.hours.hour, timeline.hours.forecast)
    wiggle = air + 0.05 * np.sin(np.arange(len(air)))
    reasons = lambda values, **more: {  # noqa: E731
        each.reason for each in odd(plan, timeline, read(plan, values, **more))
    }
    assert reasons(wiggle.tolist()) == set()
    sunny = np.where((hours > 36) & (hours < 38.5), wiggle + 12, wiggle)
    assert reasons(sunny.tolist()) == {"in the sun"}
    hole = [None if 40 < hour < 44 else float(v) for hour, v in zip(hours, wiggle, strict=True)]
    assert "holes" in reasons(hole)
    assert "ends early" in reasons(wiggle[: 6 * 60].tolist())
    assert "stuck" in reasons([3.0] * len(wiggle))
    jump = wiggle.copy()
    jump[300] += 25
    assert "jumps" in reasons(jump.tolist())
    assert reasons(wiggle.tolist(), first="2026-11-21 00:00") == {"not of the course"}


def test_channels_become_thermometers_with_ids_of_their_own(plan: Course) -> None:
    seconds = np.arange(0, 3600 * 48, 300.0) + datetime(2026, 9, 21, tzinfo=UTC).timestamp()
    channels = (("T °", np.full(len(seconds), 2.0)), ("T °", np.full(len(seconds), 3.0)))
    empty = ("none", np.full(len(seconds), np.nan))
    found = thermometers_of(plan, ["t"], seconds, (*channels, empty), 2.0, "file")
    assert [each.id for each in found] == ["t-2", "t-3"]
    assert {each.celsius[0] for each in found} == {2.0, 3.0}
