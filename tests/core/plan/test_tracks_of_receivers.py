"""A recording is as long as the way, whatever the receiver wandered; and files of elsewhere."""

import numpy as np
import pytest

from caldarium.core.plan.afar import how_far
from caldarium.core.plan.course import Place
from caldarium.core.plan.track import ground_distance, make_track

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
