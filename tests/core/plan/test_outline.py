"""What follows from what is known of a day, and slips that are asked."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from caldarium.catalogue.zones import offset_on, zone_of
from caldarium.core.plan.course import Course, Person, Place
from caldarium.core.plan.legs import climb_and_fall, stages
from caldarium.core.plan.outline import LAPSE, DayOutline, filled, outlined, slips

PLACE = Place(name="Somewhere", latitude=62, longitude=12, utc_offset_h=1)
SUMMER = date(2027, 7, 1)


def days_of(*rows: DayOutline, begins: float = 400.0, start: date = SUMMER, place: Place = PLACE):
    ready = filled(rows, place, start, begins)
    return ready, outlined(ready)


def course_of(*rows: DayOutline, begins: float = 400.0) -> Course:
    ready, days = days_of(*rows, begins=begins)
    return Course(
        name="x",
        place=PLACE,
        start=SUMMER,
        start_altitude_m=begins,
        conditions_altitude_m=ready[0].said.for_m,
        days=days,
        people=(Person(id="a", name="A", body_mass_kg=70, height_m=1.75),),
    )


def test_a_single_figure_makes_a_day() -> None:
    course = course_of(DayOutline(high_c=14))
    day = course.days[0]
    assert (day.conditions.high_c, day.conditions.low_c) == (14, 5)
    assert day.camp is not None
    assert sum(leg.distance_km for leg in day.legs) == pytest.approx(10)
    assert course.ends == (400,)


def test_weather_follows_the_day_before_and_rain_does_not() -> None:
    first = DayOutline(high_c=9, low_c=1, wind_ms=8, rain_mm=6)
    ready, days = days_of(first, DayOutline(), DayOutline(low_c=-2))
    assert [day.conditions.high_c for day in days] == [9, 9, 7]
    assert [day.conditions.wind_ms for day in days] == [8, 8, 8]
    assert [day.conditions.precipitation_mm for day in days] == [6, 0, 0]
    assert "wind_ms" in ready[1].by_default
    assert "wind_ms" not in ready[0].by_default


def test_the_last_of_several_days_ends_where_the_first_began() -> None:
    course = course_of(DayOutline(high_c=9, camp_m=900), DayOutline(), DayOutline())
    assert course.ends == (900, 900, 400)
    assert course.days[-1].camp is None
    assert all(day.camp is not None for day in course.days[:-1])


def test_climb_and_fall_say_camp_and_high_point() -> None:
    course = course_of(DayOutline(high_c=9, up_m=700, down_m=300))
    assert course.ends == (800,)
    legs = course.days[0].legs
    start, climbed, fallen = 400.0, 0.0, 0.0
    for leg in legs:
        up, down = climb_and_fall(leg, start)
        climbed, fallen, start = climbed + up, fallen + down, leg.to_altitude_m
    assert (climbed, fallen) == (pytest.approx(700), pytest.approx(300))
    assert course.tops == (1100,)


@pytest.mark.parametrize(
    ("weather", "ground", "terrain"),
    [
        ({"high_c": -8}, "snow", "snow"),
        ({"high_c": 3, "low_c": -5}, "frozen", "track"),
        ({"high_c": 9, "rain_mm": 15}, "saturated", "track"),
        ({"high_c": 19, "low_c": 8}, "dry", "track"),
        ({"high_c": 19, "low_c": 8, "ground": "snow"}, "snow", "snow"),
    ],
)
def test_ground_follows_the_weather_unless_it_is_said(weather, ground, terrain) -> None:
    _, (day,) = days_of(DayOutline(**weather))
    assert day.camp.ground == ground
    assert day.legs[0].terrain == terrain
    assert ("broad or buried" in day.camp.anchors) is (ground == "snow")


def test_people_set_out_when_there_is_light_and_before_the_heat() -> None:
    def start(high: float, when: date, latitude: float) -> float:
        place = Place(name="x", latitude=latitude, longitude=12, utc_offset_h=1)
        _, (day,) = days_of(DayOutline(high_c=high), start=when, place=place)
        return day.legs[0].start_h

    assert start(12, SUMMER, 62) == 8.5
    assert 9 <= start(-12, date(2027, 12, 30), 62) <= 10
    assert 4 <= start(34, SUMMER, 36) <= 6
    assert start(-20, date(2027, 12, 30), 75) == 8.5


def test_forecasts_for_other_heights_are_brought_to_the_first_ones() -> None:
    rows = (
        DayOutline(high_c=10, low_c=2, for_m=1000, camp_m=1200),
        DayOutline(high_c=10, low_c=2, for_m=2000, camp_m=1200),
    )
    course = course_of(*rows)
    assert course.conditions_altitude_m == 1000
    assert course.days[1].conditions.high_c == pytest.approx(10 + LAPSE)


def test_a_day_without_distance_is_a_rest_day() -> None:
    course = course_of(DayOutline(high_c=9, distance_km=0), DayOutline())
    assert course.days[0].legs == ()


@given(
    begins=st.floats(0, 3000),
    rows=st.lists(
        st.fixed_dictionaries(
            {"high_c": st.floats(-30, 40)},
            optional={
                "distance_km": st.floats(4, 18),
                "camp_m": st.floats(0, 3000),
                "top_m": st.floats(0, 3000),
                "up_m": st.floats(0, 900),
                "wind_ms": st.floats(0, 30),
            },
        ),
        min_size=1,
        max_size=4,
    ),
)
def test_whatever_is_known_the_days_hang_together(begins, rows) -> None:
    ready, days = days_of(*(DayOutline(**row) for row in rows), begins=begins)
    here = begins
    for each, day, row in zip(ready, days, rows, strict=True):
        assert each.by_default.isdisjoint(row)
        assert day.legs[-1].to_altitude_m == each.said.camp_m
        distance = sum(leg.distance_km for leg in day.legs)
        assert distance == pytest.approx(row.get("distance_km", 10.0), abs=0.002)
        walked = stages(day, here)
        assert walked[0].from_altitude == here
        top = max(here, *(leg.to_altitude_m for leg in day.legs))
        assert top >= max(row.get("camp_m", 0), here) - 1e-6
        here = day.legs[-1].to_altitude_m


def test_slips_are_found_and_nothing_else() -> None:
    assert slips(DayOutline(high_c=9, low_c=1, camp_m=700, top_m=900), 400) == []
    wrong = DayOutline(high_c=1, low_c=9, camp_m=900, top_m=700, up_m=100, down_m=0)
    assert [each.reason for each in slips(wrong, 400)] == [
        "camp above top",
        "high below low",
        "heights do not meet",
    ]
    assert [each.reason for each in slips(DayOutline(high_c=-10, rain_mm=14), 0)] == ["much snow"]


@pytest.mark.parametrize(
    ("latitude", "longitude", "day", "zone", "hours"),
    [
        (51.5, -0.13, date(2027, 1, 15), "Europe/London", 0),
        (51.5, -0.13, date(2027, 7, 15), "Europe/London", 1),
        (-33.9, 151.2, date(2027, 1, 15), "Australia/Sydney", 11),
        (27.7, 85.3, date(2027, 5, 1), "Asia/Kathmandu", 5.75),
        (36.2, -113.0, date(2027, 7, 1), "America/Phoenix", -7),
    ],
)
def test_a_place_has_its_zone_and_the_zone_its_clock(latitude, longitude, day, zone, hours) -> None:
    """Well-known zones and their rules of daylight saving, from memory."""
    assert zone_of(latitude, longitude) == zone
    assert offset_on(zone, day) == hours


def test_the_sea_has_a_clock_and_nonsense_has_none() -> None:
    assert offset_on(zone_of(40, -30), date(2027, 1, 1)) == -2
    with pytest.raises(ValueError, match="no time zone"):
        offset_on("Nowhere/Never", date(2027, 1, 1))
