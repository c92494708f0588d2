"""Which source rules which hour, what caution adds, and what follows from height and place."""

from datetime import datetime, timedelta

import numpy as np
import pytest
from pydantic import ValidationError

from caldarium.core.assess import assess
from caldarium.core.plan.changes import add_leg, find_leg, remove_leg, set_leg, start_leg, with_day
from caldarium.core.plan.versions import upgraded
from caldarium.core.plan.weather_sources import Hourly, Member
from caldarium.core.timeline.cautions import cautions
from caldarium.core.timeline.hour_table import TYPED_NAME, hour_figures
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.timeline.weather import TYPED, Weather, forecast_error
from caldarium.core.what_if.compare import TYPED_ONLY, compare, gap_chances, ruled_by
from caldarium.core.worst import worst_by_kind, worst_by_moment
from caldarium.words.cautions import caution_told
from caldarium.words.steps_weather import (
    explain_caution,
    explain_chances,
    explain_hour,
    explain_legs,
    explain_way,
)
from caldarium.words.typed import parse_clock
from caldarium.words.units import Display
from caldarium.words.weather import source_sentences

DISPLAY = Display()


def source(course, name="a", hours=120, air=4.0, wind=6.0, begin=0, **more) -> Hourly:
    first = datetime.combine(course.start, datetime.min.time()) + timedelta(hours=begin)
    return Hourly(
        id=name,
        name=f"source {name}",
        kind="hourly file",
        altitude_m=310,
        first=first,
        issued=first - timedelta(days=2),
        air_c=(air,) * hours,
        wind_ms=(wind,) * hours,
        **more,
    )


def test_first_source_that_knows_an_hour_rules_it(demo) -> None:
    short = source(demo, "short", hours=30, begin=10)
    course = demo.altered(sources=(short, source(demo, "long", hours=60, air=9.0)))
    ruling = build_timeline(course).hours.source
    assert ruling[9] == 1
    assert (ruling[10:40] == 0).all()
    assert (ruling[40:60] == 1).all()
    assert (ruling[60:] == TYPED).all()
    told = source_sentences(course, build_timeline(course), DISPLAY)
    assert "rules 30 of 120 h" in told[0]
    assert "without gusts, rain, humidity, cloud" in told[0]
    assert "typed conditions rule 60 of 120 h" in told[-1]


def test_a_missing_figure_asks_the_next_source_and_set_aside_rules_nothing(demo) -> None:
    holes = source(demo, "holes")
    air = (*holes.air_c[:20], None, *holes.air_c[21:])
    course = demo.altered(sources=(holes.altered(air_c=air), source(demo, "next", air=1.0)))
    ruling = build_timeline(course).hours.source
    assert (ruling[19], ruling[20], ruling[21]) == (0, 1, 0)
    aside = course.altered(sources=tuple(each.altered(used=False) for each in course.sources))
    assert (build_timeline(aside).hours.source == TYPED).all()


def test_source_height_lapse_and_typed_rain_fill_in(demo) -> None:
    course = demo.altered(sources=(source(demo),), caution="as forecast")
    hours = build_timeline(course).hours
    at_high_camp = 24 + 23
    assert hours.altitude[at_high_camp] == pytest.approx(1120)
    assert hours.air[at_high_camp] == pytest.approx(4.0 - 6.5 * 0.81)
    assert hours.precipitation.sum() == pytest.approx(
        build_timeline(demo.altered(caution="as forecast")).hours.precipitation.sum()
    )


def test_caution_grows_with_lead_time(demo) -> None:
    early = source(demo)
    late = early.altered(issued=early.issued - timedelta(days=6))
    airs = [
        build_timeline(demo.altered(sources=(each,), caution="cautious")).hours
        for each in (early, late)
    ]
    assert (airs[1].air < airs[0].air).all()
    drops = airs[0].forecast - airs[0].air
    assert drops[-1] > drops[0] > 0
    assert float(forecast_error(np.array(2.0)).air) == pytest.approx(2.0)
    assert float(forecast_error(np.array(60.0)).air) == 5.0


def test_deviations_scale_what_caution_takes_off(demo) -> None:
    course = demo.altered(sources=(source(demo),))
    one = build_timeline(course).hours
    two = build_timeline(course.altered(caution="expedition")).hours
    assert two.forecast - two.air == pytest.approx(2 * (one.forecast - one.air))
    with pytest.raises(ValidationError, match="caution order"):
        course.altered(cautious_sd=3)


def test_an_ensemble_plans_by_its_own_percentile(demo) -> None:
    hours = 120
    members = tuple(
        Member(
            air_c=(2.0 + number,) * hours,
            wind_ms=(3.0 + number,) * hours,
            precipitation_mm=(0.0,) * hours,
        )
        for number in range(11)
    )
    course = demo.altered(sources=(source(demo, members=members),))
    met = Weather(course).at(np.array([5.5]), np.array([310.0]))
    assert met.forecast[0] == pytest.approx(7.0)
    assert met.air[0] == pytest.approx(np.quantile(np.arange(2, 13), 0.15866), abs=0.01)
    assert met.wind[0] == pytest.approx(np.quantile(np.arange(3, 14), 0.84134), abs=0.01)
    chances = gap_chances(course)
    colder = [chances["mirel", night] for night in ("2.night", "4.night")]
    assert 0 <= colder[1] <= colder[0] <= 1
    assert set(chances) == {
        (person.id, moment.id)
        for person in course.people
        for moment in build_timeline(course).moments
    }
    assert gap_chances(demo) == {}


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"wind_ms": (1.0,)}, "uneven hours"),
        ({"air_c": ()}, "at least 1 item"),
        ({"first": datetime(2026, 9, 21, 6, 30)}, "full hour"),
        ({"members": (Member(air_c=(1,), wind_ms=(1,), precipitation_mm=(0,)),)}, "uneven member"),
    ],
)
def test_uneven_sources_are_refused(demo, change, words) -> None:
    with pytest.raises(ValidationError, match=words):
        source(demo).altered(**change)


def test_comparing_names_what_flips(demo) -> None:
    cold, mild = source(demo, "cold", air=-8.0, wind=12.0), source(demo, "mild", air=12.0, wind=2.0)
    course = demo.altered(sources=(cold, mild))
    found = compare(ruled_by(course, "mild"), ruled_by(course, "cold"))
    assert found.gaps[1] > found.gaps[0]
    assert all(each.before != each.after for each in found.flips)
    assert all(day.high == pytest.approx(-20, abs=1) for day in found.days[1:4])
    same = compare(ruled_by(course, TYPED_ONLY), demo.altered(sources=()))
    assert same.flips == ()
    with pytest.raises(KeyError):
        ruled_by(course, "nobody")


def test_every_hour_has_its_figures(demo, demo_result) -> None:
    rows = hour_figures(demo, demo_result.timeline)
    assert len(rows) == 120
    assert {row.source for row in rows} == {TYPED_NAME}
    assert {row.light for row in rows} == {"day", "twilight", "dark"}
    high = next(row for row in rows if row.altitude > 1300 or row.altitude == 1120)
    assert 95 < high.boiling < 97
    assert "snow" in {row.falls for row in rows if row.day == 2}
    for row in rows:
        assert row.dew_point <= row.wet_bulb + 1e-6
        assert row.wet_bulb <= row.air + 1e-6
        assert row.gust >= row.wind


def test_altitude_rule_speaks_above_3000_m(demo) -> None:
    # Luks et al. (2019): above 3,000 m no more than 500 m of sleeping height a night.
    heights = {"2.climb": 3900, "2.shoulder": 3900, "2.plateau": 3800}
    days = []
    for index, day in enumerate(demo.days):
        legs = tuple(
            leg.altered(
                to_altitude_m=heights.get(f"{index + 1}.{leg.id}", 2900),
                hours=None,
                distance_km=0 if leg.kind == "rest" else 14,
                climb_m=None,
                fall_m=None,
            )
            if leg.kind != "rest"
            else leg.altered(to_altitude_m=heights.get(f"{index + 1}.{leg.id}", 2900))
            for leg in day.legs
        )
        days.append(day.altered(legs=legs))
    course = demo.altered(start_altitude_m=2700, conditions_altitude_m=2900, days=tuple(days))
    found = cautions(course, build_timeline(course))
    assert any(
        "no more than 500 m a night" in caution_told(each, DISPLAY) and each.day == 1
        for each in found
    )
    plain = cautions(demo, build_timeline(demo))
    assert not any("Sleeping height" in caution_told(each, DISPLAY) for each in plain)
    assert {each.day for each in plain if "River" in caution_told(each, DISPLAY)} == {3}
    assert {each.day for each in plain if "Lightning" in caution_told(each, DISPLAY)} == {2}


def test_moving_before_dawn_is_marked(demo) -> None:
    early = start_leg(demo, 1, "climb", 3.0)
    found = cautions(early, build_timeline(early))
    assert any(
        "Moving in the dark" in caution_told(each, DISPLAY) and each.day == 1 for each in found
    )
    night = next(m for m in build_timeline(early).moments if m.id == "1.night")
    assert night.end == pytest.approx(24 + 2)
    assert night.start < 21.5


def test_worst_of_each_kind_and_moment(demo_result) -> None:
    kinds = worst_by_kind(demo_result)
    assert list(kinds) == ["dawn", "setting out", "moving", "halt", "hold", "camp", "night"]
    assert kinds["halt"].state == "gap"
    assert kinds["night"].person == "mirel"
    cells = worst_by_moment(demo_result)
    assert cells["3.north-top.halt"].sharing == 5
    assert cells["2.climb.moving"].state == "hot"


def test_legs_are_set_moved_added_and_removed(demo) -> None:
    later = start_leg(demo, 2, "stone-field", 9.5)
    before, after = (build_timeline(c).moments for c in (demo, later))
    starts = [{m.id: m.start for m in moments} for moments in (before, after)]
    assert starts[1]["3.back.moving"] - starts[0]["3.back.moving"] == pytest.approx(1)
    raised = set_leg(demo, 2, "long-ridge", to_altitude_m=1400)
    assert find_leg(raised, 2, "north-top").to_altitude_m == 1400
    longer = add_leg(demo, 0)
    assert longer.days[0].legs[-1].kind == "traverse"
    assert remove_leg(longer, 0, longer.days[0].legs[-1].id) == demo
    with pytest.raises(KeyError):
        remove_leg(demo, 0, "nothing")
    with pytest.raises(ValidationError, match="leg overlaps"):
        set_leg(demo, 2, "back", start_h=9.0)
    with pytest.raises(ValidationError, match="day too long"):
        start_leg(demo, 2, "stone-field", 20.0)


def test_time_is_naismiths_where_none_is_given(demo) -> None:
    free = set_leg(demo, 1, "climb", hours=None, halt_every_h=0)
    moving = next(m for m in build_timeline(free).moments if m.id == "2.climb.moving")
    assert moving.walk.end - moving.walk.start == pytest.approx(6 / 5 + 870 / 600)
    slow = set_leg(free, 1, "climb", pace_kmh=3)
    walk = next(m for m in build_timeline(slow).moments if m.id == "2.climb.moving").walk
    assert walk.end - walk.start == pytest.approx(6 / 3 + 870 / 600)


def test_halts_within_a_leg_are_counted_and_the_worst_is_judged(demo) -> None:
    climb = set_leg(demo, 1, "climb", halt_every_h=0.5, halt_min=5)
    moments = {m.id: m for m in build_timeline(climb).moments}
    halt, moving = moments["2.climb.halt"], moments["2.climb.moving"]
    assert halt.repeats == moving.walk.halts == 5
    assert halt.hours == pytest.approx(5 / 60)
    assert moving.start - 0.25 < halt.start < moving.end
    assert halt.fold


def test_deep_snow_is_harder_than_hard_snow(demo) -> None:
    rates = []
    for sinkage in (0, 20):
        course = set_leg(demo, 1, "plateau", terrain="snow", sinkage_cm=sinkage)
        tried = assess(course).people[0].efforts
        rates.append(next(each.takes for each in tried if each.moment == "2.plateau.moving"))
    assert rates[1] > 1.3 * rates[0]


@pytest.mark.parametrize(
    ("text", "hours"), [("8:30", 8.5), ("08.15", 8.25), ("7", 7), ("6.5 h", 6.5), ("0:00", 0)]
)
def test_clock_times_as_typed(text, hours) -> None:
    assert parse_clock(text) == pytest.approx(hours)


@pytest.mark.parametrize("text", ["25:00", "8:75", "teatime", "", "-1"])
def test_no_clock_times(text) -> None:
    with pytest.raises(ValueError, match="clock time"):
        parse_clock(text)


def test_first_version_of_the_format_reads_as_legs(demo) -> None:
    present = demo.model_dump(mode="json")
    route = {
        "set_out_h": 8,
        "distance_km": 10,
        "walking_h": 5,
        "high_point_m": 900,
        "terrain": "bog",
        "exposure": "ridge",
        "halt_min": 15,
    }
    old = present | {"version": 1, "start_altitude_m": 280, "days": []}
    for day, end in zip(present["days"], (310, 400, 500, 600, 280), strict=True):
        kept = {key: day[key] for key in ("title", "conditions", "camp")}
        old["days"].append(kept | {"route": route, "end_altitude_m": end})
    old["people"] = [dict(person) for person in present["people"]]
    rule = {"moment": "2.halt", "garment": "mid-fleece-200", "worn": False}
    old["people"][0]["overrules"] = [rule]
    for name in ("sources", "cautious_sd", "expedition_sd"):
        old.pop(name)
    course = type(demo).model_validate(upgraded(old))
    assert course.ends == (310, 400, 500, 600, 280)
    assert [leg.id for leg in course.days[1].legs] == ["up", "top", "down"]
    assert course.people[0].overrules[0].moment == "2.top.halt"
    assert "2.top.halt" in {m.id for m in build_timeline(course).moments}
    assert upgraded(present) is present
    moved = {**route, "distance_km": 0, "walking_h": 0}
    old["days"][3] = old["days"][3] | {"route": moved, "end_altitude_m": 900}
    assert type(demo).model_validate(upgraded(old)).ends[3] == 900


def test_a_rest_day_between_camps_stays_put(demo) -> None:
    rest = with_day(demo, 2, demo.days[2].altered(legs=()))
    assert rest.ends[2] == rest.ends[1] == 1120


def test_every_figure_of_the_hour_the_legs_and_the_caution_opens_to_its_source(demo) -> None:
    course = demo.altered(sources=(source(demo, hours=60),))
    timeline = build_timeline(course)
    hour = hour_figures(course, timeline, 2)[10]
    free = set_leg(demo, 1, "climb", hours=None)
    legs = explain_legs(build_timeline(free).stages[1], DISPLAY)
    told = [
        *explain_hour(hour, DISPLAY),
        *legs,
        *explain_caution(course, DISPLAY),
        *explain_way({"climb": 300, "fall": 200, "raw_climb": 900, "raw_fall": 800}, DISPLAY),
        *explain_chances(20),
    ]
    assert all(step.name and step.value and step.formula and step.source for step in told)
    by_name = {step.name: step for step in told}
    assert by_name["air"].value == DISPLAY.temperature(hour.air, 1)
    assert by_name["heat index"].value == "no figure here"
    assert "Naismith" in by_name["climb, walking"].source
    assert by_name["shoulder"].formula == "as typed"
    assert by_name["forecasts"].value == "k = 1"
    assert by_name["up, raw"].value == "900 m"
