"""Sun, the day's curve, the day's walking, shelters and changes of a course."""

from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.physics.sun import SunTimes, day_curve, sun_times
from caldarium.core.plan.changes import (
    add_piece,
    fresh_id,
    pitch,
    remove_piece,
    with_day,
)
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.legs import stages
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.versions import route_legs
from caldarium.core.plan.weather_sources import Conditions
from caldarium.core.timeline.moments import build_timeline, planning_gust

PLAIN = [SunTimes(6, 12, 18, True, 5.5, 18.5)] * 2
MILD = Conditions(high_c=8, low_c=2, wind_ms=3)
LEG = {"id": "a", "kind": "ascent", "distance_km": 5, "to_altitude_m": 700}


def test_sun_at_the_equinox_on_the_equator() -> None:
    # Nautical almanac: sunrise near 06:04 and sunset near 18:11 local mean time; from memory.
    sun = sun_times(0, 0, 0, date(2026, 3, 20))
    assert sun.rise == pytest.approx(6.07, abs=0.1)
    assert sun.set == pytest.approx(18.18, abs=0.1)
    assert sun.crosses


def test_clock_follows_the_places_offset() -> None:
    west, east = (sun_times(46, 9, offset, date(2026, 9, 21)) for offset in (1, 2))
    assert east.rise - west.rise == pytest.approx(1, abs=1e-6)


@pytest.mark.parametrize(("day", "light"), [(date(2026, 6, 21), 20), (date(2026, 12, 21), 6)])
def test_polar_day_and_night_have_stand_ins(day: date, light: float) -> None:
    sun = sun_times(78, 15, 1, day)
    assert not sun.crosses
    assert sun.set - sun.rise == pytest.approx(light)


def test_curve_meets_low_and_high_and_never_leaves_them() -> None:
    hours = np.arange(0, 48, 0.1)
    curve = day_curve(hours, np.array([-4.0, 1.0]), np.array([8.0, 6.0]), PLAIN)
    at = {hour: float(curve[round(hour * 10)]) for hour in (6, 14, 30, 38)}
    assert at == {
        6: pytest.approx(-4),
        14: pytest.approx(8),
        30: pytest.approx(1),
        38: pytest.approx(6),
    }
    assert curve.min() >= -4 - 1e-9
    assert curve.max() <= 8 + 1e-9
    assert np.abs(np.diff(curve)).max() < 0.4


def test_walks_meet_at_the_high_point_and_share_the_time() -> None:
    given = {
        "distance_km": 12,
        "walking_h": 5,
        "high_point_m": 1200,
        "set_out_h": 8,
        "halt_min": 30,
    }
    legs = tuple(Leg(**leg) for leg in route_legs(given, 400, 700))
    day = Day(conditions=MILD, legs=legs)
    up, stop, down = stages(day, 400)
    assert (up.from_altitude, up.leg.to_altitude_m, down.leg.to_altitude_m) == (400, 1200, 700)
    assert (up.end - up.start) + (down.end - down.start) == pytest.approx(5)
    assert stop.end - stop.start == pytest.approx(0.5)
    assert up.walk.slope == pytest.approx(100 * 800 / 6000)
    assert up.walk.climbing == 1
    assert down.walk.climbing == 0
    assert up.walk.speed < down.walk.speed
    assert route_legs({"distance_km": 0, "walking_h": 0, "high_point_m": 400}, 400, 400) == []
    with pytest.raises(ValueError, match="rest day"):
        route_legs({"distance_km": 0, "walking_h": 0, "high_point_m": 400}, 400, 500)


def test_strip_is_party_height_at_every_hour(demo) -> None:
    hours = build_timeline(demo).hours
    assert hours.altitude.min() >= 280
    assert hours.altitude.max() == pytest.approx(1320, abs=60)
    assert hours.altitude[2 * 24 + 3] == pytest.approx(1120)
    assert set(hours.dark.tolist()) == {0.0, 1.0}


def test_a_wall_of_a_day_is_refused_not_called_snug(demo) -> None:
    day = demo.days[1]
    for leg in ({"to_altitude_m": 4000}, {"hours": 0.5}):
        first = day.legs[0].altered(**leg)
        with pytest.raises(ValidationError, match="leg too fast"):
            with_day(demo, 1, day.altered(legs=(first,)))


def test_air_beyond_every_formula_is_a_gap(demo) -> None:
    day = demo.days[1]
    arctic = day.conditions.model_copy(update={"low_c": -58.0, "high_c": -57.0})
    result = assess(with_day(demo, 1, day.model_copy(update={"conditions": arctic})))
    camp = next(m for m in result.people[9].moments if m.moment == "2.camp")
    assert camp.state == "gap"


def test_gust_is_above_the_wind(demo_result) -> None:
    for moment in demo_result.timeline.moments:
        assert planning_gust(moment) > moment.wind


def test_bag_takes_the_bags_place_and_ids_stay_unique(demo) -> None:
    catalogue, person = load_catalogue(), demo.person("runa")
    assert add_piece(person, catalogue.bags["bag-minus-14"]).bag.id == "bag-minus-14"
    twice = add_piece(person, catalogue.garments["wool-hat"])
    assert [p.id for p in twice.garments].count("wool-hat") == 1
    assert "wool-hat-2" in {p.id for p in twice.garments}
    assert remove_piece(person, "bag-minus-1").bag is None
    assert fresh_id("Über Jacke!", ["ber-jacke"]) == "ber-jacke-2"
    with pytest.raises(KeyError):
        demo.person("nobody")
    with pytest.raises(ValidationError, match="unknown shelter"):
        pitch(demo, "runa", "castle")


@pytest.mark.parametrize(
    ("kind", "fields", "words"),
    [
        (Conditions, {"high_c": 1, "low_c": 2, "wind_ms": 0}, "high below low"),
        (Conditions, {"high_c": float("nan"), "low_c": 2, "wind_ms": 0}, "finite"),
        (Leg, LEG | {"terrain": "lava"}, "not one of"),
        (Leg, LEG | {"exposure": "moon"}, "not one of"),
        (Leg, LEG | {"distance_km": 0}, "needs distance"),
        (Leg, LEG | {"kind": "rest"}, "needs duration"),
        (Leg, LEG | {"kind": "rest", "hours": 1}, "has no distance"),
        (Day, {"conditions": MILD, "legs": (LEG, LEG)}, "twice"),
        (Camp, {"ground": "lava"}, "not one of"),
        (
            Garment,
            {
                "id": "a",
                "name": "a",
                "layer": "mid",
                "cover": {"tail": 1},
                "clo": 1,
                "air_permeability": 1,
                "material": "wool",
                "mass_g": 1,
            },
            "unknown region",
        ),
        (
            Garment,
            {
                "id": "a",
                "name": "a",
                "layer": "mid",
                "cover": {"arms": 1},
                "air_permeability": 1,
                "material": "wool",
                "mass_g": 1,
            },
            "thickness or clo",
        ),
    ],
)
def test_parts_of_a_course_refuse_nonsense(kind, fields, words) -> None:
    with pytest.raises(ValidationError, match=words):
        kind.model_validate(fields)
