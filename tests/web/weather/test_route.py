"""Weather and route over HTTP: legs, sources, files and the service, and what is refused."""

import json
import re
from itertools import pairwise

import pytest

from caldarium.web.weather import sources as sources_room
from tests.formats.test_ways_and_forecasts import CSV, answer, gpx, hills

BASE = {"person": "mirel", "moment": "3.north-top.halt", "day": "2", "zoom": ""}


def edit(client, **fields):
    form = BASE | {name.replace("__", "."): value for name, value in fields.items()}
    return client.post("/courses/1/route/edit", data=form, headers={"HX-Request": "true"})


def leg(courses, identifier, day=2):
    return next(each for each in courses.get(1).course.days[day].legs if each.id == identifier)


@pytest.mark.parametrize(
    ("field", "text", "value"),
    [
        ("start_h", "9:10", 9 + 1 / 6),
        ("distance_km", "3 mi", 4.828032),
        ("to_altitude_m", "4,100 ft", 1249.68),
        ("climb_m", "300", 300),
        ("fall_m", "220 m", 220),
        ("hours", "90 min", 1.5),
        ("hours", "", None),
        ("pace_kmh", "4", 4),
        ("halt_every_h", "45 min", 0.75),
        ("halt_min", "5", 5),
        ("hot_drink_l", "300 ml", 0.3),
        ("eaten_kcal", "450", 450),
        ("kind", "snow", "snow"),
        ("terrain", "snow", "snow"),
        ("exposure", "forest", "forest"),
        ("title", "over the stones", "over the stones"),
    ],
)
def test_each_part_of_a_leg_is_taken_and_undone(client, courses, field, text, value) -> None:
    before = getattr(leg(courses, "stone-field"), field)
    edit(client, **{f"leg__stone-field__{field}": text})
    found = getattr(leg(courses, "stone-field"), field)
    assert found == (pytest.approx(value) if isinstance(value, float) else value)
    client.post("/courses/1/undo", data=BASE)
    assert getattr(leg(courses, "stone-field"), field) == before


@pytest.mark.parametrize(
    ("field", "text", "message"),
    [
        ("start_h", "teatime", "is no clock time"),
        ("start_h", "22:30", "before 23:00"),
        ("distance_km", "far", "is not a number"),
        ("distance_km", "0", "needs a distance"),
        ("distance_km", "90", "at most 80"),
        ("to_altitude_m", "9500", "at most 8000"),
        ("to_altitude_m", "5000", "the walking formula ends at"),
        ("hours", "0.2", "the walking formula ends at"),
        ("pace_kmh", "30", "at most 8"),
        ("halt_min", "0", "at least 1"),
        ("hot_drink_l", "5 l", "at most 2"),
        ("eaten_kcal", "lots", "is not a number"),
        ("title", "x" * 90, "at most 80 characters"),
    ],
)
def test_bad_legs_are_told_at_the_field_and_kept(client, courses, field, text, message) -> None:
    revision = courses.get(1).revision
    shown = edit(client, **{f"leg__stone-field__{field}": text}).text
    assert courses.get(1).revision == revision
    assert f'id="e-stone-field-{field}"' in shown
    assert message in shown
    assert f'name="leg.stone-field.{field}" value="{text}"' in shown


def test_a_good_name_is_taken_beside_a_bad_figure(client, courses) -> None:
    shown = edit(client, leg__back__title="long way back", leg__back__hours="0.1").text
    assert leg(courses, "back").title == "long way back"
    assert 'id="e-back-hours"' in shown
    assert 'name="leg.back.start_h" value=""' in shown


@pytest.mark.parametrize(
    "crafted",
    [{"lapse": "steep"}, {"act": "start=back@inf"}, {"leg.back.terrain": "lava"}, {"day": "x"}],
)
def test_crafted_requests_are_told_and_change_nothing(client, courses, crafted) -> None:
    answer = client.post(
        "/courses/1/route/edit", data=BASE | crafted, headers={"HX-Request": "true"}
    )
    assert answer.status_code == 200
    assert courses.get(1).revision == 1


def test_ticks_kinds_and_camp(client, courses) -> None:
    edit(client, **{"leg__long-ridge__ticks": "1", "leg__long-ridge__river": "on"})
    assert leg(courses, "long-ridge").river
    assert not leg(courses, "long-ridge").lightning
    edit(client, **{"leg__back__kind": "rest"})
    assert (leg(courses, "back").kind, leg(courses, "back").hours) == ("descent", 1.4)
    edit(client, camp_ground="snow", camp_exposure="ridge", **{"anchor__broad or buried": "on"})
    camp = courses.get(1).course.days[2].camp
    assert (camp.ground, camp.exposure, camp.anchors) == ("snow", "ridge", ("broad or buried",))


def test_legs_are_added_moved_dragged_and_removed(client, courses) -> None:
    edit(client, act="add")
    assert len(courses.get(1).course.days[2].legs) == 5
    edit(client, act="remove=leg")
    assert len(courses.get(1).course.days[2].legs) == 4
    edit(client, act="later=stone-field")
    assert leg(courses, "stone-field").start_h == pytest.approx(8.75)
    edit(client, act="start=stone-field@10.01")
    assert leg(courses, "stone-field").start_h == pytest.approx(10)
    gone = edit(client, act="remove=leg")
    assert gone.status_code == 404
    assert "There is no leg “leg”" in gone.text
    assert "must end before 23:00" in edit(client, act="start=stone-field@22").text
    assert edit(client, act="start=stone-field@x").status_code == 200


def test_removing_the_leg_under_the_cursor_keeps_the_day(client) -> None:
    shown = client.post(
        "/courses/1/route/edit",
        data=BASE | {"act": "remove=north-top"},
        headers={"HX-Request": "true"},
    ).text
    assert "Legs of Wednesday" in shown


def test_cautions_and_lapse(client, courses) -> None:
    edit(client, caution="expedition", lapse="8", expedition_sd="2.5")
    course = courses.get(1).course
    assert (course.caution, course.lapse_k_per_km, course.expedition_sd) == ("expedition", 8, 2.5)
    shown = edit(client, cautious_sd="3").text
    assert "less cautious" in shown
    assert 'id="f-cautious_sd" name="cautious_sd" value="3"' in shown
    assert "a number" in edit(client, cautious_sd="much").text
    edit(client, jacket_after_min="8")
    assert courses.get(1).course.jacket_after_min == 8
    assert "at most 30" in edit(client, jacket_after_min="90").text


def test_what_is_had_at_a_stop_is_said_of_the_stop(client, courses) -> None:
    shown = edit(client, **{"leg__north-top__hot_drink_l": "0.4 l"}).text
    assert leg(courses, "north-top").hot_drink_l == 0.4
    assert 'name="leg.north-top.eaten_kcal"' in shown
    assert 'name="leg.north-top.halt_min"' not in shown


def upload(client, name: str, data: bytes, **more):
    return client.post(
        "/courses/1/sources/file", files={"file": (name, data)}, data=more, follow_redirects=False
    )


def test_files_become_the_first_source(client, courses) -> None:
    assert upload(client, "station.csv", CSV.encode(), altitude="1,000 ft").status_code == 303
    assert upload(client, "forecast.json", answer()).status_code == 303
    first, second = courses.get(1).course.sources
    assert (first.kind, second.kind) == ("forecast file", "hourly file")
    assert second.altitude_m == pytest.approx(304.8)
    page = client.get("/courses/1/route").text
    assert "rules 120 of 120 h" in page
    assert "Chance of each gap" in page
    for action, count in (("first", 2), ("drop", 1)):
        ticks = {f"used.{each.id}": "on" for each in (first, second)}
        edit(client, act=f"{action}={second.id}", sources="1", **ticks)
        assert len(courses.get(1).course.sources) == count
    edit(client, sources="1")
    assert not courses.get(1).course.sources[0].used


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [
        ("a.csv", b"nonsense", "one column only"),
        ("a.csv", CSV.replace("41", "hot").encode(), "line 2, column 18"),
        ("a.json", b'{"format": "caldarium-forecast"}', "version|name"),
        ("a.json", b"{", "line 1, column 2"),
        ("a.bin", b"\xff\xfe\x00", "not UTF-8"),
    ],
)
def test_bad_files_change_nothing(client, courses, name, data, words) -> None:
    revision = courses.get(1).revision
    shown = upload(client, name, data, altitude="300").text
    assert re.search(words, shown)
    assert "Nothing was changed" in shown
    assert courses.get(1).revision == revision


def test_csv_needs_its_height(client, courses) -> None:
    assert "is not a number" in upload(client, "a.csv", CSV.encode(), altitude="high").text
    assert courses.get(1).course.sources == ()


ASKED = {"issued": "2026-09-18", "hour": "06:00", "service_altitude": "310", "seed": "4"}


@pytest.fixture
def prompt(monkeypatch) -> None:
    """A service that does not make the tests wait."""
    monkeypatch.setattr(sources_room, "sleep", lambda _seconds: None)


def test_the_service_answers_or_says_why_not(client, courses, prompt) -> None:
    seen, notes = set(), []
    for attempt in range(30):
        reply = client.post(
            "/courses/1/sources/service",
            data=ASKED | {"attempt": f"{attempt}"},
            follow_redirects=False,
        )
        seen.add(reply.status_code)
        if reply.status_code == 200:
            assert "busy" in reply.text
            assert f'name="attempt" value="{attempt + 1}"' in reply.text
        elif attempt > 1:
            notes.append(courses.get(1).course.sources[0].notes)
            courses.undo(1)
    assert seen == {200, 303}
    assert any("stale" in note for note in notes)
    client.post("/courses/1/chances")
    before = courses.get(1).course.sources[-1].id
    client.post("/courses/1/compare", data={"before": before, "after": ""})
    client.app.state.works.settle(60)
    assert client.get("/courses/1/chances").text.count(" %</a>") > 3
    assert "gaps before" in client.get(f"/courses/1/compare?before={before}&after=").text
    assert "There is no source x" in client.get("/courses/1/compare?before=x").text
    client.post("/courses/1/compare", data={"before": "x" * 9999, "after": ""})
    assert "gaps before" not in client.get("/courses/1/compare?before=x").text


@pytest.mark.parametrize(
    ("field", "text", "words"),
    [
        ("issued", "soon", "a date and a time"),
        ("service_altitude", "up", "is not a number"),
        ("issued", "2026-01-01", "reaches 16 days|busy"),
    ],
)
def test_bad_questions_to_the_service(client, courses, prompt, field, text, words) -> None:
    shown = client.post("/courses/1/sources/service", data=ASKED | {field: text}).text
    assert re.search(words, shown)
    assert text in shown
    assert courses.get(1).course.sources == ()


def look(client, data: bytes):
    return client.post("/courses/1/gpx", files={"file": ("way.gpx", data)})


def test_a_way_is_looked_at_cut_taken_and_undone(client, courses) -> None:
    shown = look(client, hills()[0]).text
    assert courses.get(1).revision == 1
    key = re.search(r'name="key" value="([^"]+)"', shown)[1]
    cuts = re.search(r'name="cuts" value="([^"]+)"', shown)[1]
    assert "Raw, every wiggle counted" in shown
    again = client.post("/courses/1/gpx/take", data={"key": key, "cuts": "5", "action": "look"})
    assert '<td class="number">5.0 km</td>' in again.text
    for bad, words in (
        ({"cuts": "here"}, "is no cut"),
        ({"cuts": "40"}, "cuts must rise"),
        ({"cuts": "4n,8n,9n,10n,12n"}, "the course only 5"),
        ({"first_day": "9"}, "a day from 1 to 5"),
        ({"key": "gone"}, "no longer in memory"),
    ):
        data = {"key": key, "cuts": cuts, "first_day": "1"} | bad
        told = client.post("/courses/1/gpx/take", data=data).text
        assert words in told
        if "first_day" in bad:
            assert 'name="first_day" value="9"' in told
        assert courses.get(1).revision == 1
    taken = client.post(
        "/courses/1/gpx/take",
        data={"key": key, "cuts": cuts, "first_day": "2"},
        follow_redirects=False,
    )
    assert taken.status_code == 303
    assert courses.get(1).course.days[1].legs[0].points
    exported = client.get("/courses/1/export.gpx")
    assert exported.text.count("<trkseg>") >= 3
    client.post("/courses/1/undo", data=BASE)
    assert courses.get(1).course.days[1].legs[0].id == "climb"


def test_ways_that_are_none(client, courses) -> None:
    flat = "".join(f'<trkpt lat="{60 + i / 100}" lon="20"/>' for i in range(20))
    assert "has no heights" in look(client, gpx(flat)).text
    assert "not well-formed" in look(client, b"<gpx").text
    assert courses.get(1).revision == 1


def test_every_hour_stands_in_the_table(client) -> None:
    shown = client.get("/courses/1/route?moment=3.north-top.halt&zoom=day").text
    assert shown.count('<th scope="row">') >= 24
    assert "<td>in cloud</td>" in shown
    metric = json.loads(re.search(r"data-axis=\"([^\"]+)\"", shown)[1])
    assert all(after[0] > before[0] for before, after in pairwise(metric))


def test_the_table_of_days_is_typed_and_pasted_in_place(client, courses) -> None:
    shown = client.get("/courses/1/route").text
    assert shown.count('class="row-entries weather-days"') == 5
    base = {"person": "runa", "moment": "", "day": "0"}
    client.post(
        "/courses/1/route/edit", data=base | {"day.2.low_c": "minus 4", "day.4.falls": "night"}
    )
    days = courses.get(1).course.days
    assert days[2].conditions.low_c == -4
    assert (days[4].conditions.rain_from_h, days[4].conditions.rain_hours) == (20, 10)
    wrong = client.post("/courses/1/route/edit", data=base | {"day.3.wind_ms": "fresh"}).text
    assert 'id="day.3.wind_ms-note"' in wrong
    assert 'value="fresh"' in wrong
    table = "high\tlow\tsnow\tcamp\n6\t-1\t4\t320\n12\t1\t\t1100\n"
    client.post("/courses/1/route/edit", data=base | {"act": "paste", "pasted_days": table})
    now = courses.get(1).course
    assert [day.conditions.high_c for day in now.days[:3]] == [6, 12, 8]
    assert now.ends[:2] == (320, 1100)
    empty = client.post("/courses/1/route/edit", data=base | {"act": "paste"}).text
    assert "Nothing was pasted" in empty
