"""Pieces by a few letters, sets by name, several people at once."""

import re

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.kit_sets import set_of, with_set
from caldarium.demo import demo_store

BASE = "/courses/1/people/runa"


def values(text: str) -> list[str]:
    return re.findall(r'name="piece" value="([^"]+)"', text)


def test_pieces_are_found_by_a_few_letters_of_each_word(client) -> None:
    client.app.state.pieces.put(demo_store(), "the store")
    found = values(client.get(BASE + "/shelf", params={"q": "dow jack"}).text)
    assert "c:big-down-jacket" in found
    assert any(each.startswith("s:G-") for each in found)
    assert all("down" in each or each.startswith("s:") for each in found)
    assert "letters in its name" in client.get(BASE + "/shelf", params={"q": "zzz"}).text
    assert values(client.get(BASE + "/shelf").text) == []


def test_several_pieces_are_given_in_one_step_and_the_store_counts_them(client, courses) -> None:
    client.app.state.pieces.put(demo_store(), "the store")
    before = courses.get(1).course.person("runa")
    wanted = ["c:down-hood", "c:sun-hat", "s:B-05"]
    client.post(BASE + "/give", data={"piece": wanted})
    now = courses.get(1)
    assert len(now.course.person("runa").garments) == len(before.garments) + 2
    assert now.course.person("runa").bag.id == "s-b-05"
    assert now.undo == "Runa: 3 pieces given"
    shown = client.get(BASE + "/shelf", params={"q": "b-05"}).text
    assert "2 of 3 left" in shown
    assert client.post(BASE + "/give", data={"piece": "c:moon-boots"}).status_code == 404
    assert client.post(BASE + "/give", data={"piece": "s:none"}).status_code == 404
    assert "tick what to give" in client.post(BASE + "/give", data={}).text


@pytest.mark.parametrize("how", ["instead", "besides"])
def test_a_set_is_given_whole(client, courses, how) -> None:
    before = courses.get(1).course.person("runa")
    client.post(BASE + "/set", data={"set": "catalogue:winter", "how": how})
    now = courses.get(1).course.person("runa")
    names = {each.id for each in now.garments}
    wanted = {each.id for each in load_catalogue().kit("winter")["garments"]}
    assert wanted <= names
    assert (names == wanted) is (how == "instead")
    assert now.bag.id == "bag-minus-14"
    assert len(now.pads) == (2 if how == "instead" else 3)
    assert (before.name, before.shelter) == (now.name, now.shelter)
    assert "choose a set" in client.post(BASE + "/set", data={"set": "own:none"}).text


def test_somebody_has_the_same_kit_as_another(client, courses) -> None:
    client.post(BASE + "/set", data={"set": "like:hale", "how": "instead"})
    course = courses.get(1).course
    assert course.person("runa").garments == course.person("hale").garments
    assert course.person("runa").bag == course.person("hale").bag


def test_a_list_is_kept_as_a_set_of_the_schools_own(client, courses) -> None:
    client.post(BASE + "/keep-set", data={"act": "keep", "set_name": "Autumn learners"})
    assert 'value="own:Autumn learners"' in client.get("/courses/1/people/tavi").text
    client.post("/courses/1/people/tavi/set", data={"set": "own:autumn learners", "how": "instead"})
    course = courses.get(1).course
    assert course.person("tavi").garments == course.person("runa").garments
    assert "letters" in client.post(BASE + "/keep-set", data={"set_name": " "}).text
    client.post(BASE + "/keep-set", data={"act": "forget", "own": "Autumn learners"})
    assert client.app.state.kit_sets.all() == []


def test_a_set_leaves_behind_what_belongs_to_one_course(demo) -> None:
    person = demo.person("hale").altered(bedding={"beside": "wren"})
    kit = set_of(person, "hale's")
    assert kit.bedding.beside is None
    assert kit.grams > 5000
    twice = with_set(with_set(person, kit, instead=False), kit, instead=False)
    assert twice.garments == person.garments


def test_people_join_from_a_spreadsheet_all_or_none(client, courses) -> None:
    roster = "name\tmass\theight\tage\nNell Ash\t60\t168\t14\nRuna Bell\t9 st 4\t5ft5\t\n"
    client.post(BASE + "/roster", data={"roster": roster})
    course = courses.get(1).course
    assert [each.id for each in course.people[-2:]] == ["nell-ash", "runa-bell"]
    assert course.person("nell-ash").age == 14
    assert "a child has more skin" in client.get("/courses/1/people/nell-ash").text
    assert 'value="9 st 4"' in client.get("/courses/1/people/runa-bell").text
    wrong = client.post(BASE + "/roster", data={"roster": "name,mass\nA,60\nB,heavy\n"})
    assert "row 2, mass: “heavy” is not a number" in wrong.text
    assert "A,60" in wrong.text
    assert len(courses.get(1).course.people) == 12
    assert "paste rows" in client.post(BASE + "/roster", data={"roster": ""}).text


def test_age_and_role_are_figures_like_others(client, courses) -> None:
    form = {"figures": "1", "age": "62", "instructor": "on"}
    client.post(BASE + "/body", data=form)
    person = courses.get(1).course.person("runa")
    assert (person.age, person.instructor) == (62, True)
    assert "shiver later" in client.get(BASE).text
    assert "at least 5" in client.post(BASE + "/body", data={"age": "2"}).text
