"""Small courses with the verdicts that experienced people give: common practice, no published
source. Figures that decide are the model's own; what is asked here are the words."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.plan.course import Person
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.weather_sources import Conditions
from tests.courses import from_nothing

PIECES = load_catalogue().garments
WALKING = (
    "briefs",
    "light-base-top",
    "walking-trousers",
    "thick-socks",
    "leather-boots",
    "wool-hat",
)
GLOVES = ("liner-gloves", "fleece-gloves")


def somebody(*names: str, **parts) -> Person:
    pieces = tuple(PIECES[name] for name in names)
    return Person(id="a", name="A", body_mass_kg=70, height_m=1.75, garments=pieces, **parts)


def day_of(person: Person, *legs: Leg, altitude: float = 600, **weather):
    """One day of one person, everything at one height."""
    conditions = Conditions(**{"humidity_pct": 70, **weather})
    course = from_nothing(kit=None).altered(
        start_altitude_m=altitude,
        conditions_altitude_m=altitude,
        caution="as forecast",
        days=(Day(conditions=conditions, legs=legs, camp=Camp()),),
        people=(person,),
    )
    return course, assess(course)


def walk(**parts) -> Leg:
    made = {"id": "walk", "kind": "traverse", "start_h": 9, "distance_km": 9, "hours": 2.4}
    return Leg(**(made | {"to_altitude_m": 600, "halt_every_h": 1, "halt_min": 20} | parts))


def state(result, kind: str):
    return next(each for each in result.people[0].moments if each.kind == kind)


def test_setting_out_cool_is_good_practice_and_the_walk_is_right() -> None:
    _, result = day_of(
        somebody(*WALKING, *GLOVES, "mid-fleece-200"), walk(), high_c=4, low_c=0, wind_ms=2
    )
    assert state(result, "setting out").state in ("cool", "snug")
    assert state(result, "moving").state in ("snug", "slack", "cool")


@pytest.mark.parametrize("jacket", ["big-down-jacket", "light-down-jacket", "belay-jacket"])
@pytest.mark.parametrize("low", [-12, -4, 6])
def test_nobody_walks_in_a_down_jacket_unless_something_is_wrong(jacket, low) -> None:
    kit = (*WALKING, *GLOVES, "mid-fleece-200", "rain-jacket", "light-long-underwear", jacket)
    brisk = walk(hours=1.8)
    _, result = day_of(somebody(*kit), brisk, high_c=low + 4, low_c=low, wind_ms=3)
    moving = state(result, "moving")
    assert moving.state != "gap"
    assert jacket not in moving.worn
    assert jacket in state(result, "halt").worn


def test_a_halt_in_wind_with_a_light_jacket_is_cold_by_a_little() -> None:
    kit = (*WALKING, *GLOVES, "mid-fleece-200", "rain-jacket", "light-synthetic-jacket")
    _, result = day_of(somebody(*kit), walk(), high_c=-1, low_c=-3, wind_ms=8)
    halt = state(result, "halt")
    assert halt.state in ("gap", "cool")
    assert halt.endurance < 1.2
    assert halt.gap < 0.8


def test_standing_in_camp_in_a_very_warm_jacket_is_fine_for_a_while() -> None:
    kit = (*WALKING, *GLOVES, "expedition-down-jacket")
    _, result = day_of(somebody(*kit), walk(), high_c=-3, low_c=-7, wind_ms=1)
    assert state(result, "camp").endurance > 0.25
    assert state(result, "halt").state in ("cool", "snug", "slack")


def test_a_race_in_cold_rain_is_warm_moving_and_dangerous_stopped() -> None:
    kit = ("briefs", "synthetic-tee", "shorts", "thin-socks", "trail-shoes", "light-rain-jacket")
    runs = walk(distance_km=16, hours=2.0)
    _, result = day_of(
        somebody(*kit, uptake_ml=55),
        runs,
        high_c=6,
        low_c=4,
        wind_ms=6,
        precipitation_mm=20,
        rain_from_h=8,
        rain_hours=10,
    )
    assert state(result, "moving").state in ("snug", "cool", "slack")
    assert state(result, "halt").state == "gap"
    assert state(result, "hold").state == "gap"


def test_a_canyon_at_34_degrees_is_hot_with_a_load_and_not_cold() -> None:
    kit = ("briefs", "synthetic-tee", "shorts", "thin-socks", "trail-shoes", "sun-hat")
    climb = walk(start_h=11, kind="ascent", distance_km=6, hours=2.2, to_altitude_m=950)
    course, result = day_of(
        somebody(*kit, water_l=4, containers_l=4),
        climb,
        high_c=34,
        low_c=20,
        wind_ms=1,
        humidity_pct=25,
        cloud_pct=0,
    )
    moving = state(result, "moving")
    assert moving.state in ("hot", "slack")
    assert moving.sweat > 0.6
    for caution in ("cautious", "expedition"):
        harder = assess(course.altered(caution=caution))
        assert state(harder, "moving").state == "hot"


def test_single_boots_lose_toes_on_a_high_summit_day_and_double_ones_do_not() -> None:
    ends = {}
    for boots in ("leather-boots", "double-boots"):
        kit = (
            *(each for each in WALKING if each != "leather-boots"),
            boots,
            "warm-long-underwear",
            "heavy-fleece",
            "storm-jacket",
            "storm-trousers",
            "expedition-down-jacket",
            "heavy-balaclava",
            "down-mitts",
        )
        climb = walk(start_h=5, kind="ascent", distance_km=4, hours=5, to_altitude_m=5900)
        course, _ = day_of(somebody(*kit), climb, altitude=5200, high_c=-12, low_c=-20, wind_ms=7)
        result = assess(course.altered(allowances=("altitude",)))
        ends[boots] = state(result, "halt").toes.at_end
    assert ends["leather-boots"] < 12
    assert ends["double-boots"] > ends["leather-boots"] + 3


def test_wet_without_a_shell_is_a_problem_that_a_shell_cures() -> None:
    dry, wet = [], []
    for more in ((), ("rain-jacket", "rain-trousers")):
        kit = (*WALKING, *GLOVES, "mid-fleece-200", "light-synthetic-jacket", *more)
        _, result = day_of(
            somebody(*kit),
            walk(hours=3, distance_km=11),
            high_c=5,
            low_c=2,
            wind_ms=7,
            precipitation_mm=18,
            rain_from_h=8,
            rain_hours=8,
        )
        wet.append(state(result, "halt").gap)
        dry.append(state(result, "halt").water)
    assert dry[1] < 0.5 * dry[0]
    assert wet[1] < wet[0]
