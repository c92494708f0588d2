"""Outfits compared, kept, copied and given back to the rules over HTTP."""

import re

import pytest

from caldarium.core.assess import assess
from caldarium.core.plan.kit import Garment

HALT = "3.north-top.halt"
BASE = {"person": "mirel", "moment": HALT, "day": "2"}
SIDES = f"a_person=mirel&a_moment={HALT}&b_person=mirel&b_moment={HALT}"


def edit(client, **fields) -> str:
    answer = client.post("/courses/1/edit", data=BASE | fields, headers={"HX-Request": "true"})
    assert answer.status_code == 200
    return answer.text


def worn(courses, person: int, moment: str) -> set[str]:
    found = assess(courses.get(1).course).people[person]
    return set(next(state.worn for state in found.moments if state.moment == moment))


def difference(text: str, name: str) -> list[str]:
    row = re.search(rf"<th scope=\"row\">{name}</th>(.*?)</tr>", text)[1]
    return re.findall(r"<td[^>]*>([^<]*)</td>", row)


def test_the_same_outfit_twice_does_not_differ(client) -> None:
    shown = client.get(f"/courses/1/outfits?{SIDES}").text
    one, other, by = difference(shown, "provides")
    assert one == other
    assert by in {"+0.00 clo", "0.00 clo"}
    assert "Wear this in the course" not in shown


def test_a_tried_outfit_differs_and_is_kept_only_when_asked(client, courses) -> None:
    before = worn(courses, 2, HALT)
    tried = sorted(before - {"light-synthetic-jacket", "wool-hat"})
    query = "".join(f"&b_worn={each}" for each in tried)
    shown = client.get(f"/courses/1/outfits?{SIDES}&b_for=mirel@{HALT}{query}").text
    one, other, by = difference(shown, "provides")
    assert float(other.split()[0]) < float(one.split()[0])
    assert by.startswith("−")
    assert courses.get(1).revision == 1
    assert "Not kept yet" in shown
    wanted = {"person": "mirel", "moment": HALT, "worn": " ".join(tried)}
    kept = client.post("/courses/1/outfits", data=wanted, follow_redirects=False)
    assert kept.status_code == 303
    assert worn(courses, 2, HALT) == set(tried)
    assert worn(courses, 2, "4.col.halt") != set(tried)


def test_ticks_count_only_for_whom_they_were_ticked(client) -> None:
    shown = client.get(f"/courses/1/outfits?{SIDES}&b_for=runa@{HALT}&b_worn=briefs").text
    one, other, _ = difference(shown, "provides")
    assert one == other


def test_two_people_and_two_moments_stand_side_by_side(client) -> None:
    shown = client.get(
        "/courses/1/outfits?a_person=runa&a_moment=1.camp&b_person=wren&b_moment=3.north-top.halt"
    ).text
    assert "Runa Bell, Mon" in shown
    assert "Wren Tarn, Wed" in shown
    assert shown.count('class="cut"') == 2


@pytest.mark.parametrize(
    ("query", "status"),
    [
        ("", 200),
        ("a_person=nobody", 404),
        ("a_moment=1.night", 200),
        ("a_worn=zz", 200),
        ("b_moment=none&b_person=zz", 404),
    ],
)
def test_sides_that_are_not_there_are_told(client, query, status) -> None:
    answer = client.get(f"/courses/1/outfits?{query}")
    assert answer.status_code == status
    assert ("What differs" in answer.text) == (status == 200)


def test_keeping_for_nobody_changes_nothing(client, courses) -> None:
    client.post("/courses/1/outfits", data={"person": "nobody", "moment": HALT, "worn": "briefs"})
    assert courses.get(1).revision == 1


def test_an_outfit_is_copied_to_the_same_kind_and_given_back(client, courses) -> None:
    edit(client, toggle="rain-jacket=off")
    here = worn(courses, 2, HALT)
    shown = edit(client, copy="1", copy_to="kind")
    assert "Mirel&#39;s outfit for every halt of mine" in shown
    for moment in ("1.lookout.halt", "4.col.halt"):
        assert worn(courses, 2, moment) == here
    assert worn(courses, 2, "3.camp") != here
    edit(client, copy="1", copy_to="free")
    assert "rain-jacket" in worn(courses, 2, HALT)
    assert worn(courses, 2, "4.col.halt") == here
    edit(client, copy="1", copy_to="free-all")
    assert not courses.get(1).course.people[2].overrules


def test_an_outfit_is_copied_to_everybody_as_far_as_they_have_it(client, courses) -> None:
    edit(client, toggle="wool-hat=off")
    edit(client, copy="1", copy_to="all")
    course = courses.get(1).course
    for row, person in enumerate(course.people):
        if any(piece.id == "wool-hat" for piece in person.garments):
            assert "wool-hat" not in worn(courses, row, HALT), person.id
    assert worn(courses, 9, HALT) >= {"big-down-jacket"}
    assert "wool-hat" in worn(courses, 0, "4.col.halt")


def test_a_nonsense_copy_changes_nothing(client, courses) -> None:
    edit(client, copy="1", copy_to="everywhere")
    edit(client, copy_to="kind")
    assert courses.get(1).revision == 1


def test_marks_allowances_and_schools_are_kept(client, courses) -> None:
    form = BASE | {
        "allowances": "1",
        "allow.fatigue": "on",
        "school.clothes_in_bed": "on",
        "leg.long-ridge.ticks": "1",
        "leg.long-ridge.scrub": "on",
    }
    client.post("/courses/1/route/edit", data=form, headers={"HX-Request": "true"})
    course = courses.get(1).course
    assert course.allowances == ("fatigue",)
    assert course.clothes_in_bed
    assert not course.hold_in_bag
    ridge = next(leg for leg in course.days[2].legs if leg.id == "long-ridge")
    assert ridge.scrub
    assert not ridge.lightning


def test_own_mitts_with_vents_and_treatment(client, courses) -> None:
    form = {
        "own_name": "own mitts",
        "layer": "insulation",
        "mass": "150 g",
        "thickness": "9 mm",
        "permeability": "15",
        "cut": "like liner gloves",
        "material": "synthetic fill",
        "fingers": "together",
        "vents": "none",
        "repels": "2 mm",
    }
    client.post("/courses/1/people/runa/own", data=form)
    mitts = courses.get(1).course.people[0].garments[-1]
    assert (mitts.fingers, mitts.repels_mm) == ("together", 2)
    wrong = client.post("/courses/1/people/runa/own", data=form | {"repels": "lots"}).text
    assert 'value="lots"' in wrong
    assert "repels-note" in wrong


def test_the_users_word_is_told_with_its_cost(client) -> None:
    assert "Your word" not in edit(client)
    shown = edit(client, toggle="rain-jacket=off")
    assert re.search(r"Your word, rain jacket off: 0\.\d\d clo less than by the rules", shown)
    assert "Your word" not in edit(client, toggle="rain-jacket=on")


def test_absurd_garments_are_refused_in_the_fields_words(client, courses) -> None:
    form = {
        "own_name": "own shirt",
        "layer": "base",
        "mass": "200 g",
        "thickness": "200 mm",
        "permeability": "300",
        "cut": "like wool tee",
        "material": "wool",
    }
    shown = client.post("/courses/1/people/runa/own", data=form).text
    assert "no garment&#39;s loft is that" in shown
    assert 'value="200 mm"' in shown
    light = client.post("/courses/1/people/runa/own", data=form | {"thickness": "2", "mass": "0"})
    assert "weigh it again" in light.text
    assert courses.get(1).revision == 1
    with pytest.raises(ValueError, match="cover share"):
        Garment.model_validate(
            courses.get(1).course.people[0].garments[0].model_dump() | {"cover": {"trunk": 1.3}}
        )


def test_every_side_opens_to_its_formulas(client) -> None:
    shown = client.get(f"/courses/1/outfits?{SIDES}").text
    assert shown.count("over the fingers") == 2
    assert shown.count("How this is computed") == 2
    bench = client.get(f"/courses/1/day?person=mirel&moment={HALT}").text
    assert "degrees for 100 g of it" in bench
    night = client.get("/courses/1/night?person=mirel&night=2").text
    assert "least margin with it" in night
