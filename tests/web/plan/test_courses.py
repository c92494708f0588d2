"""Courses made, imported, exported, deleted; people and climate files."""

import json

import pytest

from caldarium.core.assess import assess
from caldarium.formats.assessment_json import assessment_document
from caldarium.formats.course_json import read_course
from tests.formats.test_climate_files import ISLAND, epw_of

FORM = {
    "name": "Birch weekend",
    "place": "Long water",
    "start": "2026-10-03",
    "days": "2",
    "latitude": "61.5",
    "longitude": "9",
    "utc_offset": "2",
    "start_altitude": "1,000 ft",
    "camp_altitude": "700 m",
    "high_point": "1100",
    "distance": "10",
    "walking": "4 h",
    "exposure": "heath",
    "ground": "dry",
    "high": "50F",
    "low": "-2",
    "wind": "18 km/h",
    "rain": "0.1 in",
    "humidity": "80",
    "conditions_altitude": "",
    "rows": "2",
    "person_0_name": "Ada Lind",
    "person_0_mass": "150 lb",
    "person_0_height": "5 ft 8 in",
    "person_0_sleeper": "1",
    "person_0_kit": "winter",
    "person_0_instructor": "on",
    "person_1_name": "Bo Fell",
    "person_1_mass": "80",
    "person_1_height": "181 cm",
    "person_1_sleeper": "0.2",
    "person_1_kit": "nothing yet",
    "action": "make",
}


def make(client, **changes):
    return client.post("/courses/new", data=FORM | changes, follow_redirects=False)


def test_new_course_from_nothing(client, courses):
    answer = make(client)
    assert answer.headers["location"] == "/courses/2"
    course = courses.get(2).course
    assert course.start_altitude_m == pytest.approx(304.8)
    assert course.days[0].conditions.high_c == pytest.approx(10)
    assert course.days[0].conditions.wind_ms == pytest.approx(5)
    assert course.people[0].body_mass_kg == pytest.approx(68.04, abs=0.01)
    assert course.people[0].instructor
    assert course.people[1].garments == ()
    assert course.days[1].camp is None
    assert 'value="50F"' in client.get("/courses/2/day").text
    assert assess(course).people[0].nights


@pytest.mark.parametrize(
    ("field", "text", "message"),
    [
        ("name", " ", "give the course a name"),
        ("start", "soon", "a date as"),
        ("days", "0", "whole number of days"),
        ("days", "2.5", "whole number of days"),
        ("latitude", "95", "between -90 and 90"),
        ("longitude", "east", "type a number"),
        ("utc_offset", "40", "between -12 and 14"),
        ("high", "hot", "is not a number"),
        ("high", "-9", "must not be below the low"),
        ("low", "-90", "at least -60"),
        ("wind", "fresh", "is not a number"),
        ("rain", "-3", "at least 0"),
        ("humidity", "130", "at most 100"),
        ("camp_altitude", "", "type a number"),
        ("high_point", "30 furlongs", "is no unit"),
        ("walking", "20 h", "before 23:00"),
        ("distance", "0", "neither distance nor walking time"),
        ("person_0_mass", "9", "at least 25"),
        ("person_0_height", "tall", "is not a number"),
        ("person_1_name", "", "a name"),
        ("person_1_sleeper", "7", "at most 2"),
    ],
)
def test_bad_fields_are_told_and_nothing_typed_is_lost(client, courses, field, text, message):
    answer = make(client, **{field: text})
    assert message in answer.text
    assert 'aria-invalid="true"' in answer.text
    typed = {name: FORM[name] for name in ("place", "start_altitude", "person_0_mass", "rain")}
    for kept in (typed | {field: text.strip()}).values():
        assert f'value="{kept}"' in answer.text
    assert len(courses.list()) == 1


def test_rows_come_and_go_without_losing_what_is_typed(client):
    more = make(client, action="add").text
    assert 'name="person_2_name"' in more
    assert 'value="Bo Fell"' in more
    fewer = make(client, action="remove").text
    assert 'name="person_1_name"' not in fewer


def test_export_import_same_to_the_last_digit(client, courses, demo_result):
    data = client.get("/courses/1/export")
    assert 'filename="skarn-fell-autumn-course.json"' in data.headers["content-disposition"]
    answer = client.post(
        "/courses/import", files={"file": ("course.json", data.content)}, follow_redirects=False
    )
    assert answer.headers["location"] == "/courses/2"
    again = courses.get(2).course
    assert assessment_document(again, assess(again)) == assessment_document(again, demo_result)
    assert read_course(data.content) == courses.get(1).course


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
    client.post(base + "/add", data={"piece": "big-down-jacket"})
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
        ("add", {"piece": "moon boots"}, "choose a piece"),
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
    client.post("/courses/1/load", data=lay)
    assert courses.get(1).course.caches
    form = {"person": "runa", "moment": "3.camp", "day": "2", "zoom": "", "act": "remove=back"}
    client.post("/courses/1/route/edit", data=form, headers={"HX-Request": "true"})
    course = courses.get(1).course
    assert "back" not in {leg.id for leg in course.days[2].legs}
    assert course.caches == ()
