"""The strip of ways and weather, the recorded way, and the body's day, as the figures say."""

import json
import re
from datetime import datetime, timedelta

import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.day.day_heat import DEBT_LIMIT, day_story
from caldarium.core.plan.changes import set_leg, start_leg
from caldarium.core.plan.way_legs import parse_cuts
from caldarium.core.plan.weather_sources import Hourly
from caldarium.core.worst import worst_by_moment
from caldarium.drawings.route_strip import route_strip
from caldarium.drawings.story import story_curve
from caldarium.drawings.way import way_profile
from caldarium.formats.gpx_files import read_gpx
from caldarium.words.units import Display
from tests.drawings.test_drawings import of_class, parsed
from tests.formats.test_ways_and_forecasts import hills

DISPLAY = Display()
HALT = "3.north-top.halt"


@pytest.mark.parametrize("only_day", [None, 0, 2, 4])
def test_every_leg_and_moment_has_its_place(demo, demo_result, only_day) -> None:
    drawn = parsed(route_strip(demo, demo_result, HALT, DISPLAY, only_day=only_day))
    days = demo.days if only_day is None else (demo.days[only_day],)
    legs = [each.get("data-leg") for each in of_class(drawn, "hold-leg")]
    assert legs == [leg.id for day in days for leg in day.legs]
    shown = [each.get("data-moment") for each in of_class(drawn, "pick")]
    assert shown == [m.id for m in demo_result.timeline.moments if only_day in (None, m.day)]


def test_cells_name_the_worst_person_and_how_many_share_it(demo, demo_result) -> None:
    drawn = parsed(route_strip(demo, demo_result, HALT, DISPLAY))
    worst = worst_by_moment(demo_result)
    for cell in of_class(drawn, "pick"):
        found = worst[cell.get("data-moment")]
        assert cell.get("data-person") == found.person
        told = "".join(cell.itertext())
        assert f"{found.sharing} of {found.people} {found.state}" in told


def test_the_axis_maps_hours_to_places_both_ways(demo, demo_result) -> None:
    text = route_strip(demo, demo_result, HALT, DISPLAY, only_day=2)
    steps = json.loads(re.search(r'data-axis="([^"]+)"', text)[1])
    hours, places = zip(*steps, strict=True)
    assert list(hours) == sorted(hours)
    assert list(places) == sorted(places)
    drawn = parsed(text)
    for leg in of_class(drawn, "hold-leg"):
        start = 48 + float(leg.get("data-start"))
        bar = next(each for each in leg if "leg" in (each.get("class") or "").split())
        assert float(bar.get("x")) == pytest.approx(np.interp(start, hours, places), abs=0.2)


def test_a_leg_in_the_dark_says_so(demo) -> None:
    early = start_leg(demo, 1, "climb", 3.0)
    drawn = parsed(route_strip(early, assess(early), "2.climb.moving", DISPLAY, only_day=1))
    dark = [each for each in of_class(drawn, "hold-leg") if list(of_class(each, "in-dark"))]
    assert [each.get("data-leg") for each in dark] == ["climb"]
    assert "in the dark" in "".join(dark[0].itertext())
    plain = parsed(route_strip(demo, assess(demo), "2.climb.moving", DISPLAY, only_day=1))
    assert not list(of_class(plain, "in-dark"))


def test_sources_are_named_over_their_hours(demo) -> None:
    first = datetime.combine(demo.start, datetime.min.time()) + timedelta(hours=30)
    source = Hourly(
        id="a",
        name="ridge station",
        kind="hourly file",
        altitude_m=900,
        first=first,
        air_c=(2.0,) * 40,
        wind_ms=(5.0,) * 40,
    )
    course = demo.altered(sources=(source,))
    drawn = parsed(route_strip(course, assess(course), HALT, DISPLAY))
    names = ["".join(each.itertext()) for each in of_class(drawn, "source")]
    assert names == ["typed for each day", "ridge station", "typed for each day"]


def test_steep_days_and_strong_gusts_stay_inside(demo) -> None:
    wild = set_leg(demo, 2, "long-ridge", to_altitude_m=1900)
    day = wild.days[2].altered(conditions=wild.days[2].conditions.altered(wind_ms=45))
    course = wild.altered(days=(*wild.days[:2], day, *wild.days[3:]))
    drawn = parsed(route_strip(course, assess(course), HALT, DISPLAY))
    for each in drawn.iter():
        for name in ("x", "x1", "x2"):
            if each.get(name) is not None:
                assert -5 <= float(each.get(name)) <= 1240
        for name in ("y", "y1", "y2"):
            if each.get(name) is not None:
                assert -5 <= float(each.get(name)) <= 305


def test_cuts_stand_where_they_are_on_the_way() -> None:
    track = read_gpx(hills()[0])
    text = way_profile(track, parse_cuts("7.5, 15n"), DISPLAY)
    whole, left, right = (
        float(re.search(rf'data-{name}="([\d.]+)"', text)[1]) for name in ("km", "left", "right")
    )
    drawn = parsed(text)
    day_cut = next(iter(of_class(drawn, "cut-line")))
    night = next(iter(of_class(drawn, "cut-night")))
    for line, km in ((day_cut, 7.5), (night, 15)):
        expected = left + (right - left) * km / whole
        assert float(line.get("x1")) == pytest.approx(expected, abs=0.1)
    assert "night 15" in "".join(drawn.itertext())


def test_the_bodys_day_draws_its_limit_and_its_moments(demo, demo_result) -> None:
    found = next(each for each in demo_result.people if each.person == "ossi")
    story = day_story(demo_result.timeline, demo.person("ossi"), found.moments, 2)
    moments = {m.id: m for m in demo_result.timeline.moments}
    drawn = parsed(story_curve(story, [moments[m.moment] for m in story.planned], DISPLAY))
    assert len(list(of_class(drawn, "span"))) == len(story.planned)
    limit = float(next(iter(of_class(drawn, "limit"))).get("y1"))
    rested = float(next(iter(of_class(drawn, "zero"))).get("y1"))
    assert rested < limit
    assert f"{DEBT_LIMIT:.0f}".replace("-", "−") in "".join(drawn.itertext())
    assert f"{story.stored.min():.0f}" in drawn.get("aria-label")
