"""The camp's page over HTTP: verdicts by night, people moved between shelters, nonsense."""

import re

import pytest

from caldarium.demo import demo_store


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
    assert "Wren Tarn has no shelter" in client.get("/courses/1/shelter").text
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
    form = FACTS | {
        "height_m": "1.25 m",
        "anchor.trees": "on",
        "held_up": "1",
        "pole.wren": "on",
        field: text,
    }
    shown = client.post("/courses/1/shelter", data=form).text
    assert courses.get(1).revision == 1
    card = shown[shown.index('name="facts" value="light-two"') :].split("</form>")[0]
    error = card[card.index('class="error"') :].split("</p>")[0]
    assert message in error
    assert f'id="light-two-{field}-note"' in card
    assert 'value="1.25 m"' in card
    assert 'name="anchor.trees" checked' in card
    assert 'name="pole.wren" checked' in card
    assert "<option selected>worn" in card
    assert f'value="{text}"' in card


def test_anchors_and_borrowed_poles_are_said_on_the_card(client, courses) -> None:
    def tent():
        return next(each for each in courses.get(1).course.shelters if each.id == "light-two")

    form = FACTS | {"anchor.pegs": "on", "anchor.stones and lines": "on"}
    form |= {"held_up": "1", "pole.wren": "on", "pole.mirel": "on", "poles": "6"}
    shown = client.post("/courses/1/shelter", data=form).text
    assert tent().anchors == ("pegs", "stones and lines")
    assert tent().poles_from == ("mirel", "wren")
    assert "it needs 6 walking poles, 4 are there" in shown
    assert "the ground takes stones and lines, it came with pegs" not in shown
    assert "its poles walk with Wren Tarn, who sleeps elsewhere" in shown
    client.post("/courses/1/shelter", data=FACTS | {"held_up": "1"})
    assert tent().poles_from == ()
    assert tent().anchors == ("pegs", "stones and lines")
    client.post("/courses/1/shelter", data=FACTS | {"held_up": "1", "pole.nobody": "on"})
    assert tent().poles_from == ()


ENTERED = {
    "night": "0",
    "facts": "new",
    "name": "Blue dome",
    "kind": "single skin",
    "places": "3",
    "mass_g": "3.2 kg",
    "gust_ms": "20 m/s",
    "length_m": "2.1 m",
    "width_m": "1.9",
    "height_m": "",
    "who": "runa",
}


def test_a_shelter_of_ones_own_is_entered_whole(client, courses) -> None:
    shown = client.post("/courses/1/shelter", data=ENTERED).text
    tent = next(each for each in courses.get(1).course.shelters if each.name == "Blue dome")
    assert (tent.kind, tent.places, tent.mass_g, tent.width_m) == ("single skin", 3, 3200, 1.9)
    assert tent.height_m is None
    assert courses.get(1).course.person("runa").shelter == tent.id == "blue-dome"
    assert "Blue dome" in shown
    assert 'value="3.2 kg"' in shown
    card = {"night": "0", "facts": "blue-dome", "name": "Blue house", "kind": "bothy"}
    client.post("/courses/1/shelter", data=card | {"entrances": "2", "gust_at_m": "2 m"})
    tent = courses.get(1).course.shelter("blue-dome")
    assert (tent.name, tent.kind, tent.entrances, tent.gust_at_m) == ("Blue house", "bothy", 2, 2)


def test_it_can_be_for_later_nights_only(client, courses) -> None:
    client.post("/courses/1/shelter", data=ENTERED | {"night": "2", "from_night": "on"})
    runa = courses.get(1).course.person("runa")
    assert [runa.on_night(day).shelter for day in range(4)] == 2 * ["tunnel-east"] + 2 * [
        "blue-dome"
    ]
    client.post("/courses/1/shelter", data={"night": "3", "in.tavi": "dome", "from_night": "on"})
    tavi = courses.get(1).course.person("tavi")
    assert [tavi.on_night(day).shelter for day in range(4)] == 3 * ["tunnel-east"] + ["dome"]


@pytest.mark.parametrize(
    ("field", "text", "message"),
    [
        ("places", "many", "is not a number"),
        ("places", "2.5", "whole number"),
        ("places", "0", "at least 1"),
        ("gust_ms", "", "type a number"),
        ("width_m", "40 m", "at most"),
        ("name", "  ", "needs a name"),
    ],
)
def test_what_is_wrong_with_it_is_told_and_kept(client, courses, field, text, message) -> None:
    shown = client.post("/courses/1/shelter", data=ENTERED | {field: text}).text
    assert courses.get(1).revision == 1
    form = shown[shown.index('id="enter"') :].split("</form>")[0]
    assert message in form[form.index('class="error"') :].split("</p>")[0]
    assert 'value="3.2 kg"' in form
    assert f'value="{text}"' in form or field == "name"


def test_the_plan_answers_while_somebody_types(client, courses) -> None:
    at = "/courses/1/shelter/draw?facts=light-two&night=2"
    wide = client.get(f"{at}&width_m=1.9 m&gust_ms=40 m/s").text
    assert "2.1 m by 1.9 m" in wide
    assert "gusts pass" not in wide
    assert "gusts pass" in client.get(f"{at}&gust_ms=9 m/s").text
    assert client.get(f"{at}&width_m=many").status_code == 204
    assert client.get(f"{at}&places=0").status_code == 204
    assert courses.get(1).revision == 1


def test_what_is_typed_of_a_camp(client, courses) -> None:
    form = {"night": "2", "camp": "1", "hollow_k": "5 K", "slope_deg": "8", "bivouac": "on"}
    shown = client.post("/courses/1/shelter", data=form).text
    camp = courses.get(1).course.days[2].camp
    assert (camp.hollow_k, camp.slope_deg, camp.bivouac) == (5, 8, True)
    assert "slide off their pads" in shown
    wrong = client.post("/courses/1/shelter", data=form | {"hollow_k": "deep"}).text
    assert "is not a number" in wrong[wrong.index('id="camp-hollow_k-note"') :].split("</p>")[0]
    assert 'value="deep"' in wrong
    assert courses.get(1).course.days[2].camp.hollow_k == 5


def test_nobody_is_unsheltered_by_accident(client, courses) -> None:
    shown = client.post("/courses/1/shelter", data={"night": "2", "in.wren": ""}).text
    assert "Wren Tarn has no shelter:" in shown
    assert "Give them one, or say that the bivouac is planned" in shown
    before = shown[shown.index('class="summary"') :].split("</p>")[0]
    planned = {"night": "2", "camp": "1", "bivouac": "on"}
    after = client.post("/courses/1/shelter", data=planned).text
    assert "Wren Tarn has no shelter, as planned" in after
    summary = after[after.index('class="summary"') :].split("</p>")[0]
    assert int(before.split(" unfit")[0].split()[-1]) > int(summary.split(" unfit")[0].split()[-1])


def test_a_course_in_which_nobody_has_a_shelter_still_shows_its_camp(client, courses) -> None:
    client.post("/courses/1/shelter", data={f"in.{p.id}": "" for p in courses.get(1).course.people})
    assert courses.get(1).course.shelters == ()
    shown = client.get("/courses/1/shelter").text
    assert "have no shelter:" in shown
    assert 'id="enter"' in shown


def test_parts_are_told_apart_and_put_together_again(client, courses) -> None:
    def parts():
        return [each.name for each in courses.get(1).course.shelter("light-two").parts]

    form = {"night": "0", "part.add": "light-two", "part_name": "poles", "part_mass": "300 g"}
    client.post("/courses/1/shelter", data=form)
    assert parts() == ["poles"]
    for field, text, message in (
        ("part_mass", "heavy", "is not a number"),
        ("part_mass", "9 kg", "9"),
        ("part_mass", "", "type a number"),
        ("part_name", " ", "needs a name"),
    ):
        shown = client.post("/courses/1/shelter", data=form | {field: text}).text
        place = shown[shown.index(f'id="light-two-{field}-note"') :].split("</p>")[0]
        assert message in place, (field, text, place)
    assert parts() == ["poles"]
    client.post("/courses/1/shelter", data={"night": "0", "part.drop": "light-two/poles"})
    assert parts() == []


def test_a_shelter_comes_from_the_store(client, courses) -> None:
    client.app.state.pieces.put(demo_store(), "filled")
    shown = client.get("/courses/1/shelter?night=0").text
    tag = re.search(r'value="=([^"]+)"', shown)[1]
    client.post("/courses/1/shelter", data={"night": "0", "in.runa": f"={tag}"})
    tent = courses.get(1).course.person("runa").shelter
    assert tent not in ("tunnel-east", None)
    again = client.get("/courses/1/shelter?night=0").text
    assert f'value="={tag}"' not in again
