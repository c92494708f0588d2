"""A recording is as long as the way, whatever the receiver wandered; and files of elsewhere."""

from dataclasses import replace

import numpy as np
import pytest

from caldarium.core.plan.afar import how_far
from caldarium.core.plan.course import Place
from caldarium.core.plan.legs import stages
from caldarium.core.plan.track import ground_distance, make_track
from caldarium.core.plan.way_legs import Cut, with_way

KILOMETRES = 18.0


def recorded(spacing: float, wander: float, memory: float, seed: int = 3):
    """Points of a winding way of KILOMETRES, every so many metres, with a receiver's error of so
    many metres that remembers a share of itself from point to point."""
    chance = np.random.default_rng(seed)
    count = int(KILOMETRES * 1000 / spacing)
    along = np.arange(count) * spacing
    turn = 0.6 * np.sin(along / 180) + 0.5 * np.sin(along / 61)
    east, north = (np.cumsum(part(turn)) * spacing for part in (np.cos, np.sin))
    error = np.zeros((count, 2))
    for at in range(1, count):
        fresh = chance.normal(0, wander, 2)
        error[at] = memory * error[at - 1] + np.sqrt(1 - memory**2) * fresh
    latitude = 61 + (north + error[:, 1]) / 111195
    longitude = 9 + (east + error[:, 0]) / 111195 / np.cos(np.radians(61))
    return latitude, longitude


@pytest.mark.parametrize(
    ("spacing", "wander", "memory"),
    [(1.1, 3, 0.0), (3, 3, 0.0), (5, 4, 0.0), (1.2, 4, 0.9), (6, 5, 0.5), (10, 5, 0.0)],
)
def test_a_recording_is_as_long_as_the_way(spacing, wander, memory) -> None:
    latitude, longitude = recorded(spacing, wander, memory)
    raw = ground_distance(latitude[:-1], longitude[:-1], latitude[1:], longitude[1:]).sum()
    assert raw > 1.2 * KILOMETRES
    still = np.zeros(len(latitude))
    track = make_track(latitude, longitude, still, still)
    assert track.distance[-1] == pytest.approx(KILOMETRES, rel=0.02)


def test_a_rest_in_a_recording_adds_nothing() -> None:
    latitude, longitude = recorded(2, 0.01, 0)
    chance = np.random.default_rng(1)
    half = len(latitude) // 2
    stands = (each[half] + chance.normal(0, 4e-5, 900) for each in (latitude, longitude))
    rested = [
        np.concatenate([each[:half], stood, each[half:]])
        for each, stood in zip((latitude, longitude), stands, strict=True)
    ]
    still = np.zeros(len(rested[0]))
    assert make_track(*rested, still, still).distance[-1] == pytest.approx(KILOMETRES, rel=0.03)


def test_a_planned_way_keeps_every_point() -> None:
    latitude, longitude = recorded(60, 0.01, 0)
    still = np.zeros(len(latitude))
    track = make_track(latitude, longitude, still, still)
    assert len(track.distance) == len(latitude)
    assert np.array_equal(track.latitude, latitude)


def test_files_of_elsewhere_are_asked_about() -> None:
    place = Place(name="x", latitude=62, longitude=12, utc_offset_h=1)
    assert how_far(place, 62.2, 12.1, "way") is None
    assert how_far(place, 63.5, 12, "station") is None
    assert how_far(place, 63.5, 12, "way") == pytest.approx(166.8, abs=1)
    assert how_far(place, -62, -168, "forecast") == pytest.approx(20015, abs=5)


def walked(pauses: dict[float, float], begun: float = 6.5, pace: float = 4.0):
    """A straight recorded way of 10 km up and down, at a pace [km/h], standing at some distances
    [km] for some hours."""
    along = np.arange(0, 10.0001, 0.03)
    hours = along / pace + sum((along > at) * stands for at, stands in pauses.items())
    latitude = 61 + along / 111.195
    heights = 500 + 60 * np.minimum(along, 10 - along)
    track = make_track(latitude, np.full(len(along), 9.0), heights, hours)
    return replace(track, begun=begun)


def test_a_recording_keeps_its_start_its_pauses_and_its_time(demo) -> None:
    track = walked({2.0: 0.5, 6.0: 0.25})
    course = with_way(demo, track, [Cut(5.0, False)], own_times=True)
    first, second = course.days[0].legs
    assert first.start_h == pytest.approx(6.5 + demo.place.utc_offset_h, abs=0.01)
    assert first.hours == pytest.approx(1.25, abs=0.03)
    assert (first.halt_min, second.halt_min) == (
        pytest.approx(30, abs=2),
        pytest.approx(15, abs=2),
    )
    assert second.start_h == pytest.approx(first.start_h + 1.75, abs=0.03)
    ends = [stage.end for stage in stages(course.days[0], course.start_altitude_m)]
    assert ends[-1] == pytest.approx(first.start_h + 2.5 + 0.75, abs=0.05)


def test_a_pause_where_a_leg_begins_is_no_part_of_it(demo) -> None:
    track = walked({5.0: 1.0})
    legs = with_way(demo, track, [Cut(5.0, False)], own_times=True).days[0].legs
    assert [leg.halt_every_h for leg in legs] == [0, 0]
    assert legs[1].start_h == pytest.approx(legs[0].start_h + 2.25, abs=0.03)


def test_a_way_without_times_keeps_none(demo) -> None:
    track = replace(walked({}), begun=float("nan"))
    legs = with_way(demo, track, [Cut(5.0, False)], own_times=True).days[0].legs
    assert legs[0].hours is None
    assert not track.has_times
