"""The camp's page over HTTP: verdicts by night, people moved between shelters, nonsense."""

import pytest


def test_every_shelter_is_drawn_and_judged(client) -> None:
    shown = client.get("/courses/1/shelter?night=2").text
    assert shown.count('class="cut tent"') == 4
    assert "light tent, two is unfit for the night" in shown
    assert "the ground takes stones and lines, it came with pegs" in shown
    assert "carbon monoxide" in shown
    assert "0.65" in shown or "m tall" in shown


def test_the_page_opens_on_a_night_that_is_unfit(client) -> None:
    assert "The camp, Tuesday night" in client.get("/courses/1/shelter").text
    assert "The camp, Tuesday night" in client.get("/courses/1/shelter?night=77").text


def test_people_move_and_move_back(client, courses) -> None:
    client.post("/courses/1/shelter", data={"night": "2", "in.mirel": "dome", "in.wren": ""})
    people = {each.id: each.shelter for each in courses.get(1).course.people}
    assert people["mirel"] == "dome"
    assert people["wren"] is None
    assert "Without shelter: Wren Tarn" in client.get("/courses/1/shelter").text
    client.post("/courses/1/undo", data={"night": "2"})
    client.post("/courses/1/undo", data={"night": "2"})
    assert {each.id: each.shelter for each in courses.get(1).course.people}["mirel"] == "light-two"


def test_one_more_shelter_is_pitched(client, courses) -> None:
    client.post("/courses/1/shelter", data={"in.mirel": "+dome-2", "in.lumi": "+dome-2"})
    course = courses.get(1).course
    assert "light-two" not in {each.id for each in course.shelters}
    assert {p.shelter for p in course.people if p.id in ("mirel", "lumi")} <= {
        each.id for each in course.shelters
    }


@pytest.mark.parametrize(
    ("form", "status"), [({"in.mirel": "+palace"}, 404), ({"in.nobody": "dome"}, 303), ({}, 303)]
)
def test_nonsense_changes_nothing(client, courses, form, status) -> None:
    answer = client.post("/courses/1/shelter", data=form, follow_redirects=False)
    assert answer.status_code == status
    assert courses.get(1).revision == 1


def test_parts_wishes_and_insects_are_kept_and_taken_back(client, courses) -> None:
    form = {"night": "0", "part.tunnel-east.poles": "runa"}
    client.post("/courses/1/shelter", data=form)
    assert courses.get(1).course.shelters[0].parts[2].carried_by == "runa"
    wish = {"night": "0", "rule.a": "runa", "rule.b": "tavi", "rule.kind": "apart"}
    shown = client.post("/courses/1/shelter", data=wish | {"rule.add": "1"}).text
    assert "Runa and Tavi were to sleep apart" in shown
    client.post("/courses/1/shelter", data={"night": "0", "rule.drop": "0"})
    assert courses.get(1).course.sleep_rules == ()
    client.post("/courses/1/shelter", data={"night": "0", "camp": "1", "insects": "on"})
    assert courses.get(1).course.days[0].camp.insects
    assert not courses.get(1).course.days[0].camp.water
    client.post("/courses/1/shelter", data={"night": "0", "camp": "1", "water": "on"})
    assert not courses.get(1).course.days[0].camp.insects
    assert courses.get(1).course.days[0].camp.water


def test_the_whole_camp_is_one_picture_that_says_what_was_chosen(client, courses) -> None:
    shown = client.get("/courses/1/shelter?night=2").text
    camp = shown[shown.index('class="cut tent camp"') :].split("</svg>")[0]
    people = courses.get(1).course.people
    assert all(f'data-person="{person.id}"' in camp for person in people)
    assert camp.count("data-shelter=") == 4
    assert "snow-wall" not in camp
    form = {"night": "2", "camp": "1", "water": "on", "windbreak": "both", "cooking": "porch"}
    shown = client.post("/courses/1/shelter", data=form).text
    assert "snow-wall" in shown
    assert "Cooking in the porch" in shown
    here = courses.get(1).course.days[2].camp
    assert (here.windbreak, here.cooking) == ("both", "porch")
    client.post("/courses/1/shelter", data=form | {"windbreak": "a hedge", "in.wren": ""})
    assert courses.get(1).course.days[2].camp.windbreak == "both"
    shown = client.get("/courses/1/shelter?night=2").text
    assert 'data-shelter=""' in shown


@pytest.mark.parametrize(
    "form",
    [
        {"part.tunnel-east.poles": "nobody"},
        {"part.tunnel-east.chimney": "runa"},
        {"rule.a": "runa", "rule.b": "runa", "rule.add": "1"},
        {"rule.drop": "7"},
        {"camp": "1", "night": "99", "insects": "on"},
    ],
)
def test_nonsense_about_the_camp_changes_nothing(client, courses, form) -> None:
    ghost = "nobody" in form.values()
    answer = client.post("/courses/1/shelter", data=form)
    assert answer.status_code == (404 if ghost else 200)
    assert courses.get(1).revision == 1


FACTS = {"night": "2", "facts": "light-two", "net": "on", "condition": "worn"}


def test_what_is_known_of_a_shelter_is_typed_and_counts(client, courses) -> None:
    form = FACTS | {"gust_ms": "40 mph", "gust_known": "by its maker", "porch_m2": "1.5"}
    shown = client.post("/courses/1/shelter", data=form).text
    tent = next(each for each in courses.get(1).course.shelters if each.id == "light-two")
    assert tent.gust_ms == pytest.approx(40 * 0.44704)
    assert (tent.gust_known, tent.condition, tent.porch_m2) == ("by its maker", "worn", 1.5)
    assert tent.net and not tent.inner_first
    assert 'value="40 mph"' in shown
    assert "pitch it once before it is needed" in shown
    client.post("/courses/1/shelter", data=FACTS | {"porch_m2": "", "gust_ms": "40 mph"})
    tent = next(each for each in courses.get(1).course.shelters if each.id == "light-two")
    assert tent.porch_m2 is None


@pytest.mark.parametrize(
    ("field", "text", "message"),
    [
        ("gust_ms", "strong", "strong"),
        ("gust_ms", "", "type a number"),
        ("gust_ms", "500 m/s", "80"),
        ("length_m", "2.2 kg", "kg"),
        ("porch_m2", "-3", "0"),
        ("wall_mm", "many", "many"),
    ],
)
def test_wrong_facts_are_told_where_they_were_typed(client, courses, field, text, message) -> None:
    form = FACTS | {"height_m": "1.25 m", "anchor.trees": "on", "poles": "wren", field: text}
    shown = client.post("/courses/1/shelter", data=form).text
    assert courses.get(1).revision == 1
    card = shown[shown.index('name="facts" value="light-two"') :].split("</form>")[0]
    error = card[card.index('role="alert"') :].split("</p>")[0]
    assert message in error
    assert f'id="light-two-{field}-error"' in card
    assert 'value="1.25 m"' in card
    assert 'name="anchor.trees" checked' in card
    assert 'value="wren" selected' in card
    assert "<option selected>worn" in card
    assert f'value="{text}"' in card


def test_anchors_and_borrowed_poles_are_said_on_the_card(client, courses) -> None:
    def tent():
        return next(each for each in courses.get(1).course.shelters if each.id == "light-two")

    form = FACTS | {"anchor.pegs": "on", "anchor.stones and lines": "on", "poles": "wren"}
    shown = client.post("/courses/1/shelter", data=form).text
    assert tent().anchors == ("pegs", "stones and lines")
    assert tent().poles_from == ("wren",)
    assert "the ground takes stones and lines, it came with pegs" not in shown
    assert "its poles walk with Wren Tarn, who sleeps elsewhere" in shown
    client.post("/courses/1/shelter", data=FACTS | {"poles": "its own poles"})
    assert tent().poles_from == ()
    assert tent().anchors == ("pegs", "stones and lines")
    client.post("/courses/1/shelter", data=FACTS | {"poles": "somebody"})
    assert tent().poles_from == ()
