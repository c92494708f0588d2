"""The bench over HTTP: edits, what is refused, undo."""

import re

import pytest

from caldarium.core.assess import assess
from caldarium.demo import demo_course
from caldarium.web.guard import POLICY

BASE = {"person": "mirel", "moment": "3.north-top.halt", "day": "2"}


def edit(client, **fields):
    return client.post("/courses/1/edit", data=BASE | fields, headers={"HX-Request": "true"})


def day(courses, index=2):
    return courses.get(1).course.days[index]


@pytest.mark.parametrize(
    ("field", "text", "read"),
    [
        ("high_c", "50F", lambda d: d.conditions.high_c),
        ("low_c", "-1,5", lambda d: d.conditions.low_c),
        ("wind_ms", "36 km/h", lambda d: d.conditions.wind_ms),
        ("precipitation_mm", "1 in", lambda d: d.conditions.precipitation_mm),
        ("humidity_pct", "55", lambda d: d.conditions.humidity_pct),
        ("end_altitude_m", "3,000 ft", lambda d: d.legs[-1].to_altitude_m),
        ("high_point_m", "1400", lambda d: max(leg.to_altitude_m for leg in d.legs)),
    ],
)
def test_each_condition_is_taken_kept_as_typed_and_undone(client, courses, field, text, read):
    wanted = {
        "high_c": 10,
        "low_c": -1.5,
        "wind_ms": 10,
        "precipitation_mm": 25.4,
        "humidity_pct": 55,
        "end_altitude_m": 914.4,
        "high_point_m": 1400,
    }
    before = read(day(courses))
    answer = edit(client, **{field: text})
    assert read(day(courses)) == pytest.approx(wanted[field])
    shown = re.search(rf'name="{field}" value="([^"]*)"', answer.text)
    assert shown is not None
    assert shown[1].startswith(text)
    client.post("/courses/1/undo", data=BASE)
    assert read(day(courses)) == before


@pytest.mark.parametrize(
    ("field", "text", "message"),
    [
        ("high_c", "warm", "is not a number"),
        ("high_c", "500", "at most 50"),
        ("low_c", "30", "must not be below the low"),
        ("wind_ms", "-4", "at least 0"),
        ("wind_ms", "4 stones", "is no unit here"),
        ("end_altitude_m", "99999", "at most 8000"),
        ("humidity_pct", "", "type a number"),
        ("cloud_pct", "120", "at most 100"),
        ("falls", "at times", "write all day, morning"),
        ("falls", "10-10:20", "an hour at least"),
    ],
)
def test_bad_values_are_told_at_the_field_and_kept(client, courses, field, text, message):
    revision = courses.get(1).revision
    answer = edit(client, **{field: text})
    assert answer.status_code == 200
    assert courses.get(1).revision == revision
    assert message in answer.text
    assert re.search(rf'name="{field}" value="{text}"[^>]* aria-invalid="true"', answer.text)


def test_when_it_falls_and_cloud_are_taken_and_let_go(client, courses):
    edit(client, falls="afternoon", cloud_pct="80")
    here = day(courses).conditions
    assert (here.rain_from_h, here.rain_hours, here.cloud_pct) == (12, 6, 80)
    shown = edit(client, falls="22:00-4:00", cloud_pct="").text
    here = day(courses).conditions
    assert (here.rain_from_h, here.rain_hours, here.cloud_pct) == (22, 6, None)
    assert 'value="22:00–04:00"' in shown
    client.post("/courses/1/undo", data=BASE)
    assert day(courses).conditions.rain_from_h in (12, 22)


def test_one_bad_field_does_not_hold_up_a_good_one(client, courses):
    answer = edit(client, high_c="hot", wind_ms="3")
    assert day(courses).conditions.wind_ms == 3
    assert 'value="hot" aria-invalid' in answer.text


def test_untouched_texts_change_nothing(client, courses):
    page = client.get("/courses/1/day?person=mirel&moment=3.north-top.halt").text
    fields = dict(
        re.findall(r'<input class="input is-small" id="f-\w+" name="(\w+)" value="([^"]*)"', page)
    )
    assert len(fields) == 9
    edit(client, **fields)
    assert courses.get(1).revision == 1


def test_kit_is_swapped(client, courses):
    edit(client, bag="bag-minus-14")
    edit(client, pad_1="winter-pad-7", pad_2="foam-pad")
    edit(client, swap="1", swap_out="mid-fleece-200", swap_in="heavy-fleece")
    edit(client, swap="1", swap_out="", swap_in="big-down-jacket")
    edit(client, swap="1", swap_out="wool-hat", swap_in="")
    edit(client, shelter="dome")
    person = courses.get(1).course.people[2]
    assert person.bag.id == "bag-minus-14"
    assert [pad.id for pad in person.pads] == ["winter-pad-7", "foam-pad"]
    names = {piece.id for piece in person.garments}
    assert {"heavy-fleece", "big-down-jacket"} <= names
    assert not {"mid-fleece-200", "wool-hat"} & names
    assert person.shelter == "dome"


def test_new_shelter_and_none(client, courses):
    edit(client, shelter="+plain-hut")
    course = courses.get(1).course
    assert course.people[2].shelter == "plain-hut"
    edit(client, shelter="")
    course = courses.get(1).course
    assert course.people[2].shelter is None
    assert "plain-hut" not in {each.id for each in course.shelters}


def test_piece_is_put_off_and_on(client):
    answer = edit(client, toggle="light-synthetic-jacket=off")
    assert 'value="light-synthetic-jacket=on" aria-pressed="false"' in answer.text
    answer = edit(client, toggle="light-synthetic-jacket=on")
    assert 'value="light-synthetic-jacket=off" aria-pressed="true"' in answer.text


def test_undo_and_redo_walk_the_whole_way(client, courses):
    first = courses.get(1).course
    edit(client, wind_ms="20")
    edit(client, caution="expedition")
    last = courses.get(1).course
    for _ in range(3):
        client.post("/courses/1/undo", data=BASE)
    assert courses.get(1).course == first
    for _ in range(3):
        client.post("/courses/1/redo", data=BASE)
    assert courses.get(1).course == last


def test_stale_person_or_day_is_told(client):
    gone = edit(client, person="nobody", wind_ms="3")
    assert gone.status_code == 404
    assert "no person “nobody”" in gone.text
    assert 'name="wind_ms" value="3"' in gone.text
    assert "that day is not in the course" in edit(client, day="77").text.lower()


def test_every_moment_of_every_person_has_a_page(client, demo_result):
    for moment in demo_result.timeline.moments:
        page = client.get("/courses/1/day", params={"person": "runa", "moment": moment.id})
        assert page.status_code == 200
        assert "nan" not in re.sub(r"<option.*?</option>", "", page.text).lower().split()


def test_customary_units_all_through(client, courses):
    client.cookies.set("units", "customary")
    page = client.get("/courses/1/day?person=mirel&moment=3.north-top.halt").text
    assert "°F" in page
    assert 'value="46.4 °F"' in page
    edit(client, high_c="50")
    assert day(courses).conditions.high_c == pytest.approx(10)


def test_headers_and_other_sites(client):
    answer = client.get("/")
    assert answer.headers["Content-Security-Policy"] == POLICY
    assert "unsafe" not in POLICY
    hostile = {"Origin": "http://elsewhere.example"}
    assert client.post("/courses/1/undo", data=BASE, headers=hostile).status_code == 403
    assert client.get("/", headers={"Host": "elsewhere.example"}).status_code == 421


def test_no_inline_script_or_style_and_no_address_off_the_machine(client):
    for path in ("/", "/courses/1", "/courses/new", "/courses/1/people/runa", "/courses/1/climate"):
        page = client.get(path).text
        assert not re.search(r"<script(?![^>]*src=)|\sstyle=|\son\w+=", page), path
        assert not re.search(r'(href|src)="https?:', page), path


def test_static_files_carry_their_hash_and_stay(client):
    url = re.search(r'href="(/static/app\.css\?v=\w+)"', client.get("/").text)
    assert url is not None
    assert "immutable" in client.get(url[1]).headers["Cache-Control"]


def test_unknown_course_and_page(client):
    assert client.get("/courses/99").status_code == 404
    assert client.get("/nowhere").status_code == 404


def test_a_leg_too_hard_is_told_and_walked_at_the_pace_all_can_keep(client, courses):
    where = {"person": "lumi", "moment": "2.climb.moving", "day": "1"}
    shown = client.get("/courses/1/day?person=lumi&moment=2.climb.moving").text
    assert "Too hard to keep up" in shown
    key = re.search(r'name="party_pace" value="([^"]+)"', shown)
    assert key is not None
    before = day(courses, 1).legs[0].hours
    after = client.post("/courses/1/edit", data=where | {"party_pace": key[1]})
    assert day(courses, 1).legs[0].hours > before
    assert "Too hard to keep up" not in after.text
    client.post("/courses/1/undo", data=where)
    assert day(courses, 1).legs[0].hours == before
    client.post("/courses/1/edit", data=where | {"party_pace": "nowhere"})
    assert day(courses, 1).legs[0].hours == before


def test_a_change_says_what_became_of_the_problems(client):
    shown = client.get("/courses/1/day?person=mirel&moment=3.north-top.halt").text
    assert "before" not in shown[: shown.index("strip-wide")]
    colder = edit(client, low_c="-9", high_c="-6").text
    said = re.search(r"(\d+) gaps \((\d+) before", colder)
    assert said is not None
    assert int(said[1]) > int(said[2])
    again = client.get("/courses/1/day?person=mirel").text
    assert "before" not in again[: again.index("strip-wide")]


def test_parts_that_come_by_themselves_come_once(client):
    body = client.get("/courses/1/body?person=pell&moment=2.climb.moving").text
    assert "Body heat, segment by segment" in body
    assert "hx-get" not in body
    assert "hx-get" not in client.get("/courses/1/body?person=pell&moment=2.night").text
    hours = client.get("/courses/1/hours?person=pell&moment=2.climb.moving").text
    assert "Setting out at" in hours
    assert "hot moments as planned" in hours
    assert "hx-get" not in hours
    for part in ("body", "hours"):
        assert client.get(f"/courses/1/{part}?person=nobody&moment=2.night").status_code == 404


def test_a_hot_drink_is_planned_from_the_bench(client, courses) -> None:
    """Where it is offered, for the leg that is looked at, and for none that is not there."""
    client.post("/courses/1/edit", data=BASE | {"caution": "expedition"})
    state = assess(courses.get(1).course)
    who, moment = next(
        (person.person, each.moment)
        for person in state.people
        for each in person.moments
        if each.kind == "halt" and each.state == "gap"
    )
    day = state.timeline.moment(moment).day
    where = {"person": who, "moment": moment, "day": str(day)}
    shown = client.get("/courses/1/day", params=where).text
    key = re.search(r'name="halt_drink" value="([^"]+)"', shown)
    assert key is not None
    after = client.post("/courses/1/edit", data=where | {"halt_drink": key[1]}).text
    legs = {each.id: each for each in courses.get(1).course.days[day].legs}
    assert legs[key[1]].hot_drink_l == 0.5
    assert "0.5 L of hot drink, which counts" in after
    assert 'name="halt_drink"' not in after
    mark = courses.get(1).mark
    client.post("/courses/1/edit", data=where | {"halt_drink": "nowhere"})
    assert courses.get(1).mark == mark


def test_heat_is_told_in_time_also_where_the_verdict_is_not_hot(client, courses) -> None:
    """The two voices differ; where half of the skin must be wet both are heard."""
    course = demo_course("hot-canyon")
    number = courses.add(course, "made")
    result = assess(course)
    warm = next(
        (found.person, each)
        for found in result.people
        for each in found.moments
        if each.state != "hot" and each.strain > 0.5 and each.kind == "moving"
    )
    where = {"person": warm[0], "moment": warm[1].moment}
    assert f"/courses/{number}/hours" in client.get(f"/courses/{number}/day", params=where).text
    part = client.get(f"/courses/{number}/hours", params=where).text
    assert "By predicted heat strain (ISO 7933) core" in part
