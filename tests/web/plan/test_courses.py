"""Courses made, imported, exported, deleted; people and climate files."""

import json
import re

import pytest

from caldarium.core.assess import assess
from caldarium.core.plan.log import Log
from caldarium.demo import DEMOS, demo_course
from caldarium.formats.assessment_json import assessment_document
from caldarium.formats.course_json import read_course
from caldarium.store.logs import with_log
from tests.formats.test_climate_files import ISLAND, epw_of

FORM = {
    "name": "Birch weekend",
    "place": "Long water",
    "where": "61°30'N 9°E",
    "start": "2026-10-03",
    "days": "2",
    "start_altitude": "1,000 ft",
    "d0.camp_m": "700 m",
    "d0.top_m": "1100",
    "d0.distance_km": "10",
    "d0.start_h": "half past 8",
    "d0.exposure": "heath",
    "d0.high_c": "50F",
    "d0.low_c": "minus 2",
    "d0.wind_ms": "18 km/h",
    "d0.rain_mm": "0.1 in",
    "d0.falls": "afternoon",
    "rows": "2",
    "p0.name": "Ada Lind",
    "p0.mass": "150 lb",
    "p0.height": "5'8",
    "p0.age": "41",
    "p0.sleeper": "cold",
    "p0.kit": "winter",
    "p0.role": "on",
    "p1.name": "Bo Fell",
    "p1.mass": "80",
    "p1.height": "181",
    "p1.sleeper": "0.2",
    "p1.kit": "nothing yet",
    "action": "make",
}


def make(client, **changes):
    form = FORM | {name.replace("__", "."): text for name, text in changes.items()}
    return client.post("/courses/new", data=form, follow_redirects=False)


def test_new_course_from_nothing(client, courses):
    answer = make(client)
    assert answer.headers["location"] == "/courses/2"
    course = courses.get(2).course
    assert course.start_altitude_m == pytest.approx(304.8)
    assert course.days[0].conditions.high_c == pytest.approx(10)
    assert course.days[0].conditions.wind_ms == pytest.approx(5)
    assert course.people[0].body_mass_kg == pytest.approx(68.04, abs=0.01)
    assert course.people[0].height_m == pytest.approx(1.727, abs=0.001)
    assert (course.people[0].instructor, course.people[0].age) == (True, 41)
    assert course.people[0].sleeper_index > 1
    assert course.people[1].garments == ()
    assert course.days[1].camp is None
    assert (course.place.zone, course.place.utc_offset_h) == ("Europe/Oslo", 2)
    assert 'value="50F"' in client.get("/courses/2/day?moment=1.out.moving").text
    assert assess(course).people[0].nights


def test_what_nobody_said_follows_from_what_is_known(client, courses):
    least = {
        "place": "Somewhere",
        "where": "63.4, 14.6",
        "start": "2027-02-05",
        "days": "3",
        "start_altitude": "500",
        "d0.high_c": "-17",
        "action": "make",
    }
    answer = client.post("/courses/new", data=least, follow_redirects=False)
    assert answer.headers["location"] == "/courses/2"
    course = courses.get(2).course
    assert course.name == "Somewhere, February 2027"
    assert [day.camp.ground for day in course.days[:2]] == ["snow", "snow"]
    assert course.days[0].legs[0].terrain == "snow"
    assert course.days[0].legs[0].start_h == 8.5
    assert course.ends[-1] == 500
    assert (course.place.zone, course.place.utc_offset_h) == ("Europe/Stockholm", 1)
    assert len(course.people) == 1


def test_defaults_are_shown_before_anything_is_made(client, courses):
    shown = client.post("/courses/new", data=FORM | {"action": "look", "d0.low_c": ""}).text
    assert 'placeholder="1 °C"' in shown
    assert "clock of Europe/Oslo, UTC+2" in shown
    assert len(courses.list()) == 1


@pytest.mark.parametrize(
    ("field", "text", "message"),
    [
        ("start", "soon", "a date as"),
        ("days", "0", "whole number of days"),
        ("days", "2.5", "whole number of days"),
        ("where", "95, 12", "between -90 and 90"),
        ("where", "east", "no latitude and longitude"),
        ("d0.high_c", "hot", "is not a number"),
        ("d0.low_c", "-90", "at least -60"),
        ("d0.wind_ms", "fresh", "is not a number"),
        ("d0.rain_mm", "-3", "at least 0"),
        ("d0.cloud_pct", "130", "at most 100"),
        ("start_altitude", "", "height where the way begins"),
        ("d0.top_m", "30 furlongs", "is no unit"),
        ("d1.camp_m", "1.234", "can mean 1234 or 1.234"),
        ("d0.distance_km", "79", "before 23:00"),
        ("d0.ground", "lava", "one of"),
        ("d0.falls", "sometimes", "write all day"),
        ("d0.start_h", "26", "clock times go"),
        ("p0.mass", "9", "at least 25"),
        ("p0.height", "tall", "is not a number"),
        ("p0.age", "old", "whole years"),
        ("p0.kit", "armour", "one of"),
        ("p1.name", "", "a name"),
        ("p1.sleeper", "7", "at most 2"),
    ],
)
def test_bad_fields_are_told_and_nothing_typed_is_lost(client, courses, field, text, message):
    answer = make(client, **{field.replace(".", "__"): text})
    assert message in answer.text
    assert 'aria-invalid="true"' in answer.text
    typed = {name: FORM[name] for name in ("place", "start_altitude", "p0.mass", "d0.rain_mm")}
    for kept in (typed | {field: text.strip()}).values():
        assert f'value="{kept}"' in answer.text
    assert len(courses.list()) == 1


@pytest.mark.parametrize(
    ("changes", "asked"),
    [
        ({"d0__camp_m": "1300 m"}, "above its high point"),
        ({"d0__high_c": "-9"}, "the other way round?"),
        ({"d0__up_m": "500", "d0__down_m": "400"}, "climb and fall lead to"),
        ({"d0__high_c": "-9", "d0__low_c": "-12", "d0__rain_mm": "14 mm"}, "deep snow"),
    ],
)
def test_slips_are_asked_and_taken_when_meant(client, courses, changes, asked):
    answer = make(client, **changes)
    assert "Is this meant so?" in answer.text
    assert asked in answer.text
    assert len(courses.list()) == 1
    typing = make(client, **changes | {"action": "look"}).text
    assert asked in typing
    assert 'name="sure"' not in typing
    sure = re.search(r'name="sure" value="([^"]+)"', answer.text)[1]
    assert make(client, **changes, sure=sure).headers["location"] == "/courses/2"
    again = make(client, **changes | {"d1__high_c": "1", "d1__low_c": "2"}, sure=sure)
    assert "Is this meant so?" in again.text


def test_rows_come_and_go_without_losing_what_is_typed(client):
    more = make(client, action="add").text
    assert 'name="p2.name"' in more
    assert 'value="Bo Fell"' in more
    fewer = make(client, action="remove").text
    assert 'name="p1.name"' not in fewer


def test_days_and_people_are_pasted_from_a_spreadsheet(client, courses):
    days = (
        "Day temp\tLow\tDistance (km)\tSummit\tMood\n-17\t-26\t6,5\t560\tgood\n-19\t-27\t7\t840\t\n"
    )
    shown = make(client, action="paste_days", pasted_days=days)
    assert "2 days put into the table. Not known, so left out: Mood." in shown.text
    assert 'value="6,5"' in shown.text
    people = "Ines Rook, 54 kg, 160, 35, cold, canyon\nJost Adair; 13 st 1; 6ft; ; warm; same"
    shown = make(client, action="paste_people", pasted_people=people.replace(",", ";"))
    assert "2 people put into the table." in shown.text
    assert 'value="13 st 1"' in shown.text
    form = FORM | {"d0.camp_m": "", "d0.top_m": ""}
    for at, cells in enumerate(
        (("54 kg", "160", "35", "cold", "canyon"), ("13 st 1", "6ft", "", "warm", "same"))
    ):
        names = ("mass", "height", "age", "sleeper", "kit")
        form |= {f"p{at}.{name}": cell for name, cell in zip(names, cells, strict=True)}
    client.post("/courses/new", data=form)
    course = courses.get(2).course
    assert course.people[1].garments == course.people[0].garments
    assert course.people[1].body_mass_kg == pytest.approx(83.0, abs=0.1)


def test_a_place_of_before_is_known_again(client, courses):
    form = FORM | {"place": "skarn fell plateau", "where": ""}
    client.post("/courses/new", data=form)
    assert courses.get(2).course.place.latitude == pytest.approx(67.9)


def test_a_way_gives_place_height_and_legs(client, courses):
    points = "".join(
        f'<trkpt lat="{61 + at / 500}" lon="9"><ele>{400 + 12 * min(at, 60 - at)}</ele></trkpt>'
        for at in range(61)
    )
    gpx = f'<gpx version="1.1" creator="t"><trk><trkseg>{points}</trkseg></trk></gpx>'
    form = {"place": "Way", "start": "2026-10-03", "days": "2", "d0.high_c": "9", "action": "make"}
    files = {"file": ("way.gpx", gpx.encode())}
    answer = client.post("/courses/new", data=form, files=files, follow_redirects=False)
    assert answer.headers["location"] == "/courses/2"
    course = courses.get(2).course
    assert course.place.latitude == pytest.approx(61)
    assert course.start_altitude_m == pytest.approx(400, abs=15)
    assert max(course.tops) == pytest.approx(760, abs=25)
    far = client.post("/courses/new", data=form | {"where": "46, 7"}, files=files)
    assert "km from Way: is it the one that you mean?" in far.text
    assert "way.gpx is kept" in far.text
    hidden = dict(re.findall(r'type="hidden" name="(\w+)" value="([^"]*)"', far.text))
    again = form | {"where": "46, 7"} | hidden
    assert client.post("/courses/new", data=again, follow_redirects=False).status_code == 303
    assert max(courses.get(3).course.tops) == pytest.approx(760, abs=25)
    broken = client.post("/courses/new", data=form, files={"file": ("way.gpx", b"<gpx")})
    assert "way.gpx:" in broken.text
    assert len(courses.list()) == 3


def test_a_course_is_copied_to_other_dates(client, courses):
    answer = client.post(
        "/courses/1/copy", data={"name": "Next year", "start": "2027-01-10"}, follow_redirects=False
    )
    assert answer.headers["location"] == "/courses/2"
    before, made = courses.get(1).course, courses.get(2).course
    assert (made.name, made.place.utc_offset_h, made.place.zone) == (
        "Next year",
        1,
        "Europe/Stockholm",
    )
    assert (made.days, made.people) == (before.days, before.people)
    wrong = client.post("/courses/1/copy", data={"name": "", "start": "soon"})
    assert "a date as" in wrong.text
    assert "a name of" in wrong.text


@pytest.mark.parametrize("name", DEMOS)
def test_every_course_that_ships_opens_with_one_click(client, courses, name):
    assert f'value="{name}"' in client.get("/").text
    answer = client.post("/courses/demo", data={"name": name}, follow_redirects=False)
    assert answer.headers["location"] == "/courses/2"
    assert client.app.state.logs.of(2) == demo_course(name).log
    assert courses.get(2).course == with_log(demo_course(name), Log())
    assert client.post("/courses/demo", data={"name": "none"}).status_code == 404


def test_export_import_same_to_the_last_digit(client, courses, demo_result):
    data = client.get("/courses/1/export")
    assert 'filename="skarn-fell-autumn-course.json"' in data.headers["content-disposition"]
    answer = client.post(
        "/courses/import", files={"file": ("course.json", data.content)}, follow_redirects=False
    )
    assert answer.headers["location"] == "/courses/2"
    again = courses.get(2).course
    assert assessment_document(again, assess(again)) == assessment_document(again, demo_result)
    logs = client.app.state.logs
    assert not logs.of(1).empty
    assert logs.of(2) == logs.of(1)
    assert read_course(data.content) == with_log(courses.get(1).course, logs.of(1))


def test_broken_import_changes_nothing(client, courses):
    answer = client.post("/courses/import", files={"file": ("x.json", b'{"a": ')})
    assert "x.json was not taken" in answer.text
    assert "line 1" in answer.text
    document = json.loads(client.get("/courses/1/export").content)
    document["days"][0]["conditions"]["low_c"] = 40
    answer = client.post("/courses/import", files={"file": ("y.json", json.dumps(document))})
    assert "the high must not be below the low" in answer.text
    assert courses.count() == 1


def test_delete_and_bring_back(client, courses):
    client.post("/courses/1/delete")
    assert client.get("/courses/1").status_code == 404
    assert "was deleted" in client.get("/").text
    client.post("/courses/1/restore")
    assert courses.get(1).course.name.startswith("Skarn")
    assert client.post("/courses/9/restore").status_code == 404


@pytest.mark.parametrize("kind", ["tmy3", "epw"])
def test_climate_file_is_looked_at_then_taken_then_undone(client, courses, kind):
    data = ISLAND.read_bytes() if kind == "tmy3" else epw_of(ISLAND)
    before = courses.get(1).course
    files = {"file": ("station", data)}
    seen = client.post("/courses/1/climate", files=files, data={"action": "look"})
    assert "25 days of 1996, 1999" in seen.text
    assert courses.get(1).course == before
    client.post("/courses/1/climate", files=files, data={"action": "take"})
    after = courses.get(1).course
    assert after.conditions_altitude_m == 7
    assert "percentile" in after.spread.source
    client.post("/courses/1/undo", data={"person": "runa", "moment": "1.lookout.halt"})
    assert courses.get(1).course == before


def test_broken_climate_file_names_its_line_and_changes_nothing(client, courses):
    data = ISLAND.read_bytes()[:200_000]
    answer = client.post(
        "/courses/1/climate", files={"file": ("cut.csv", data)}, data={"action": "take"}
    )
    assert "cut.csv: line" in answer.text
    assert "Nothing was changed" in answer.text
    assert courses.get(1).revision == 1


def test_person_figures_and_pieces(client, courses):
    base = "/courses/1/people/runa"
    figures = {
        "name": "Runa Bell",
        "body_mass_kg": "130 lb",
        "height_m": "1.66 m",
        "sleeper_index": "1.3",
        "food_g_a_day": "700 g",
        "fuel_g_a_day": "40 g",
        "water_l": "2",
    }
    client.post(base + "/body", data=figures)
    client.post(base + "/give", data={"piece": "c:big-down-jacket"})
    own = {
        "own_name": "Aunt's sweater",
        "layer": "mid",
        "mass": "14 oz",
        "thickness": "5",
        "permeability": "450",
        "cut": "like mid fleece 200",
        "material": "wool",
    }
    page = client.get(base).text
    cut = page.split('<select id="cut"')[1].split("<option>")[1].split("<")[0]
    client.post(base + "/own", data=own | {"cut": cut})
    client.post(base + "/remove", data={"piece": "wool-hat"})
    person = courses.get(1).course.people[0]
    assert person.body_mass_kg == pytest.approx(58.967, abs=0.01)
    assert (person.sleeper_index, person.water_l) == (1.3, 2)
    names = {piece.id for piece in person.garments}
    assert {"big-down-jacket", "aunt-s-sweater"} <= names
    assert "wool-hat" not in names


@pytest.mark.parametrize(
    ("room", "form", "message"),
    [
        ("body", {"name": "", "body_mass_kg": "58 kg"}, "a name"),
        ("body", {"name": "Runa", "body_mass_kg": "heavy"}, "is not a number"),
        (
            "body",
            {
                "name": "Runa",
                "body_mass_kg": "3 kg",
                "height_m": "1.66 m",
                "sleeper_index": "1",
                "food_g_a_day": "700 g",
                "fuel_g_a_day": "40 g",
                "water_l": "1",
            },
            "at least 25",
        ),
        ("own", {"own_name": "", "layer": "item", "mass": "20"}, "a name"),
        (
            "own",
            {
                "own_name": "Vest",
                "layer": "mid",
                "mass": "x",
                "thickness": "5",
                "permeability": "100",
            },
            "is not a number",
        ),
        (
            "own",
            {
                "own_name": "Vest",
                "layer": "mid",
                "mass": "90",
                "thickness": "500",
                "permeability": "100",
                "material": "wool",
            },
            "loft is that",
        ),
        ("give", {}, "tick what to give"),
    ],
)
def test_bad_person_input_is_told_and_kept(client, courses, room, form, message):
    answer = client.post(f"/courses/1/people/runa/{room}", data=form)
    assert message in answer.text
    for text in form.values():
        if text and text not in ("moon boots",):
            assert text in answer.text
    assert courses.get(1).revision == 1


def test_people_join_and_leave(client, courses):
    client.post("/courses/1/people")
    assert courses.get(1).course.people[-1].id == "new-member"
    client.post("/courses/1/people/new-member/leave")
    assert len(courses.get(1).course.people) == 10


def test_whoever_others_count_on_can_leave(client, courses) -> None:
    """A bed, a wish, a part and shared kit that named somebody are free when they go."""
    client.post("/courses/1/night", data={"person": "runa", "night": "0", "beside": "tavi"})
    client.post(
        "/courses/1/shelter",
        data={
            "night": "0",
            "rule.a": "runa",
            "rule.b": "tavi",
            "rule.kind": "together",
            "rule.add": "1",
            "part.tunnel-east.poles": "tavi",
        },
    )
    client.post("/courses/1/load", data={"person": "runa", "carry.stove.0": "tavi"})
    gone = client.post("/courses/1/people/tavi/leave")
    assert gone.status_code == 200
    course = courses.get(1).course
    assert "tavi" not in {person.id for person in course.people}
    assert course.people[0].bedding.beside is None
    assert course.sleep_rules == ()
    for path in ("", "/load", "/shelter", "/night"):
        assert client.get(f"/courses/1{path}").status_code == 200
    courses.undo(1)
    assert courses.get(1).course.people[0].bedding.beside == "tavi"


def test_a_cache_goes_with_its_leg(client, courses) -> None:
    lay = {"person": "runa", "act": "add-cache", "cache_at": "2.back", "cache_rations": "2"}
    client.post("/courses/1/food", data=lay)
    assert courses.get(1).course.caches
    form = {"person": "runa", "moment": "3.camp", "day": "2", "zoom": "", "act": "remove=back"}
    client.post("/courses/1/route/edit", data=form, headers={"HX-Request": "true"})
    course = courses.get(1).course
    assert "back" not in {leg.id for leg in course.days[2].legs}
    assert course.caches == ()
