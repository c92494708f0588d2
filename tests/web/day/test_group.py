"""The what-if dial, cures on the bench, and the group's gaps over HTTP."""

import re

import pytest

HALT = "/courses/1/day?person=mirel&moment=3.north-top.halt"
BASE = {"person": "mirel", "moment": "3.north-top.halt", "day": "2"}


def gaps(text: str) -> int:
    return int(re.search(r"(\d+) gaps? \(worst", text)[1])


def test_the_dial_changes_what_is_seen_and_keeps_nothing(client, courses) -> None:
    plain = client.get(HALT).text
    colder = client.get(HALT + "&dial_colder=4&dial_windier=3").text
    assert gaps(colder) > gaps(plain)
    assert "What if: 4 K colder, +3.0 m/s wind. Nothing of this is kept." in colder
    assert 'name="high_c" value="8 °C"' in colder
    assert courses.get(1).revision == 1
    edited = client.post(
        "/courses/1/edit",
        data=BASE | {"dial_colder": "4", "wind_ms": "9 m/s"},
        headers={"HX-Request": "true"},
    ).text
    assert "What if: 4 K colder" in edited
    assert courses.get(1).course.days[2].conditions.wind_ms == 9
    assert courses.get(1).course.days[2].conditions.high_c == 8


@pytest.mark.parametrize(
    ("name", "text", "words"),
    [
        ("colder", "very", "is not a number"),
        ("colder", "80", "at most 30"),
        ("higher", "9 furlongs", "is no unit here"),
        ("held", "40 h", "at most 20"),
        ("slower", "100", "The dial cannot go there"),
    ],
)
def test_bad_turns_are_told_and_kept(client, courses, name, text, words) -> None:
    if name == "slower":
        late = {"act": "start=climb@15.5"} | BASE | {"day": "1"}
        client.post("/courses/1/route/edit", data=late, headers={"HX-Request": "true"})
    shown = client.get(f"{HALT}&dial_{name}={text}").text
    assert words in shown
    assert re.search(rf'name="dial_{name}" value="{text}', shown)


def test_a_cure_is_taken_in_one_step(client, courses) -> None:
    shown = client.get("/courses/1/day?person=mirel&moment=3.north-top.halt").text
    assert re.search(r"Cheapest cure: [a-z -]+, [\d,]+ g, closes it whole", shown)
    piece = re.search(r'name="add_piece" value="([^"]+)"', shown)[1]
    client.post("/courses/1/edit", data=BASE | {"add_piece": piece}, headers={"HX-Request": "true"})
    mirel = courses.get(1).course.people[2]
    assert piece in {each.id for each in mirel.garments}
    client.post(
        "/courses/1/edit",
        data=BASE | {"add_piece": "no-such-piece"},
        headers={"HX-Request": "true"},
    )
    assert courses.get(1).revision == 2


def test_the_groups_gaps_and_one_cure_for_several(client, courses) -> None:
    shown = client.get("/courses/1/group?moment=3.north-top.halt").text
    short = re.search(r"(\d+) of 10 are short", shown)
    assert short is not None
    form = dict(
        re.findall(
            r'<input type="hidden" name="(piece|people)" value="([^"]*)"',
            shown[shown.index('class="cure"') :],
        )[:2]
    )
    client.post("/courses/1/group", data=form | {"moment": "3.north-top.halt"})
    given = [
        p.id
        for p in courses.get(1).course.people
        if form["piece"] in {each.id for each in p.garments}
    ]
    assert set(form["people"].split()) <= set(given)
    after = client.get("/courses/1/group?moment=3.north-top.halt").text
    assert short[0] not in after
    client.post("/courses/1/undo", data={"moment": "3.north-top.halt"})
    assert client.get("/courses/1/group?moment=3.north-top.halt").text.count('class="cure"') >= 1
    revision = courses.get(1).revision
    client.post("/courses/1/group", data={"piece": "nothing", "people": "mirel"})
    assert courses.get(1).revision == revision


def test_a_course_without_gaps_says_so(client) -> None:
    for day in range(5):
        warm = {
            "high_c": "24",
            "low_c": "19",
            "wind_ms": "1",
            "precipitation_mm": "0",
            "day": f"{day}",
            "caution": "as forecast",
        }
        client.post("/courses/1/edit", data=BASE | warm, headers={"HX-Request": "true"})
    assert "No gaps by day" in client.get("/courses/1/group").text


def test_the_day_of_the_body_beside_the_verdicts(client) -> None:
    shown = client.get("/courses/1/story?person=ossi&moment=3.north-top.halt").text
    assert "Body heat of Ossi Vane, Wednesday" in shown
    assert "L of sweat over the day" in shown
    assert "already in debt when it begins: warm up, eat, move" in shown
    assert shown.count('class="tag-state') == 11
    assert shown.count("<small>apart</small>") == 4
    assert "Body heat of" in client.get("/courses/1/story?person=ossi").text
    assert client.get("/courses/1/story?person=nobody&moment=nothing").status_code == 404
