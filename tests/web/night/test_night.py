"""The night's page over HTTP: beds shown, changed, undone, and nonsense sent to it."""

import re

import pytest

from caldarium.catalogue import load_catalogue

NIGHT = "/courses/1/night?person=mirel&night=2"
BASE = {"person": "mirel", "night": "2"}


def mirel(courses):
    return courses.get(1).course.people[2]


def test_the_coldest_bed_is_shown_first_and_first_on_the_shelf(client) -> None:
    shown = client.get("/courses/1/night").text
    assert "Mirel Kost, Wednesday night" in shown
    shelf = re.search(r'class="cut shelf".*?</svg>', shown, re.S)[0]
    names = re.findall(r'bed-name who"[^>]*>([^<]+)<', shelf)
    assert names[0] == "Mirel"
    assert len(names) == 10
    assert "wakes of cold near" in shown


def test_a_ranked_change_is_taken_and_undone(client, courses) -> None:
    shown = client.get(NIGHT).text
    keys = re.findall(r'name="take" value="([^"]+)"', shown)
    assert keys[0] == "wet=out"
    key = next(each for each in keys if each.startswith(("bag", "pad")))
    client.post("/courses/1/night", data=BASE | {"take": key})
    assert courses.get(1).revision == 2
    assert "bag" in key or mirel(courses).pads[0].id != "foam-pad" or len(mirel(courses).pads) == 2
    client.post("/courses/1/undo", data=BASE)
    assert [pad.id for pad in mirel(courses).pads] == ["foam-pad"]


def test_bedding_is_chosen_kept_and_taken_out(client, courses) -> None:
    form = BASE | {
        "over": "quilt-plus-8",
        "liner": "silk-liner",
        "cover": "bag-cover",
        "hammock": "hammock-full",
        "feet_on": "sit pad",
        "hot_bottle_l": "0,75",
    }
    before = courses.get(1).course.people[2].bedding.mass_g
    client.post("/courses/1/night", data=form)
    bedding = mirel(courses).bedding
    assert (bedding.over.id, bedding.liner.id, bedding.cover.id) == (
        "quilt-plus-8",
        "silk-liner",
        "bag-cover",
    )
    assert bedding.hammock.underquilt is not None
    assert bedding.hot_bottle_l == 0.75
    assert bedding.mass_g > before + 1500
    assert "open air below" in client.get(NIGHT).text
    client.post("/courses/1/night", data=BASE | {"hammock": "", "over": ""})
    assert mirel(courses).bedding.hammock is None
    assert mirel(courses).bedding.liner.id == "silk-liner"


@pytest.mark.parametrize(
    ("field", "text", "words"),
    [
        ("hot_bottle_l", "a lot", "no unit here"),
        ("hot_bottle_l", "40", "at most"),
        ("feet_on", "a dog", "must be"),
    ],
)
def test_nonsense_is_told_and_changes_nothing(client, courses, field, text, words) -> None:
    answer = client.post("/courses/1/night", data=BASE | {field: text})
    assert answer.status_code == 200
    assert words in answer.text
    assert courses.get(1).revision == 1
    if field == "hot_bottle_l":
        assert f'value="{text}"' in answer.text


def test_choices_beside_a_wrong_figure_stay_as_they_were_made(client, courses) -> None:
    form = BASE | {
        "hot_bottle_l": "a lot",
        "liner": "silk-liner",
        "over": "quilt-plus-8",
        "cover": "",
        "hammock": "hammock-full",
        "feet_on": "sit pad",
    }
    shown = client.post("/courses/1/night", data=form).text
    for chosen in ("silk-liner", "quilt-plus-8", "hammock-full"):
        assert f'<option value="{chosen}" selected>' in shown, chosen
    assert "<option selected>sit pad</option>" in shown
    assert courses.get(1).revision == 1


def test_hours_of_the_night_open_to_their_formulas(client) -> None:
    shown = client.get(NIGHT).text
    for name in ("comfortable until", "heat debt, most", "wakes of cold"):
        assert f">{name}<" in shown, name
    camp = client.get("/courses/1/shelter?night=2").text
    for name in ("snow by morning", "rain", "floor"):
        assert camp.count(f">{name}<") == 4, name


@pytest.mark.parametrize(
    ("query", "status"),
    [("night=99", 200), ("person=nobody", 404), ("night=-3&person=zz", 404), ("", 200)],
)
def test_nights_and_people_that_are_not_there(client, courses, query, status) -> None:
    assert client.get(f"/courses/1/night?{query}").status_code == status
    for form in ({"person": "nobody", "take": "bag=quilt-0"}, {"person": "runa", "take": "x=y"}):
        assert client.post("/courses/1/night", data=form).status_code == 404
    assert courses.get(1).revision == 1


def test_a_course_without_a_night_says_so(client, courses) -> None:
    course = courses.get(1).course
    number = courses.add(course.altered(days=course.days[4:]), "a day out")
    assert "ends before its first night" in client.get(f"/courses/{number}/night").text


def test_schools_of_the_bed_are_kept(client, courses) -> None:
    form = {
        "person": "mirel",
        "moment": "2.night",
        "day": "1",
        "allowances": "1",
        "school.liner_claims": "on",
        "school.wear_counts": "on",
    }
    client.post("/courses/1/route/edit", data=form, headers={"HX-Request": "true"})
    course = courses.get(1).course
    assert course.liner_claims
    assert course.wear_counts
    assert not course.clothes_in_bed


def test_nights_are_moved_in_the_table(client, courses) -> None:
    form = {"table": "1", "night": "2", "person": "mirel", "move.mirel.2": "dome"}
    shown = client.post("/courses/1/night", data=form).text
    course = courses.get(1).course
    assert [course.person("mirel").on_night(day).shelter for day in range(4)] == [
        *2 * ["light-two"],
        *2 * ["dome"],
    ]
    assert re.search(r"Last change: Mirel in [^.]+ from night 3", shown)
    client.post("/courses/1/night", data=form | {"move.mirel.2": "castle"})
    assert courses.get(1).revision == 2
    client.post("/courses/1/night", data=form | {"move.mirel.2": ""})
    assert courses.get(1).course.person("mirel").on_night(3).shelter is None


def test_another_bed_from_a_night_on(client, courses) -> None:
    form = BASE | {"bed": "1", "whose": "other", "bag": "quilt-plus-8", "pad0": "winter-pad-7"}
    client.post("/courses/1/night", data=form)
    mirel_now = mirel(courses)
    there = mirel_now.on_night(2)
    assert (there.bag.id, [pad.id for pad in there.pads]) == ("quilt-plus-8", ["winter-pad-7"])
    assert mirel_now.bag.id != "quilt-plus-8"
    assert mirel_now.on_night(1) is mirel_now
    shown = client.post("/courses/1/night", data=BASE | {"bed": "1", "whose": "lent"}).text
    assert mirel(courses).on_night(2).bag.id == "quilt-plus-8"
    assert mirel(courses).nights[0].bed.lent
    assert "lent bed" in shown
    # The whole form still shows the other bed: it must not become their own.
    own = mirel(courses).bag
    whole = {"bed": "1", "whose": "own", "bag": "quilt-plus-8", "pad0": "winter-pad-7"}
    client.post("/courses/1/night", data=BASE | whole | {"wet_out": "on", "pad0.r_value": "6"})
    assert mirel(courses).nights == ()
    assert mirel(courses).bag == own
    assert [pad.id for pad in mirel(courses).pads] == ["foam-pad"]
    assert not mirel(courses).bedding.wet_out


def test_figures_of_a_bed_are_typed_and_stay_its_own(client, courses) -> None:
    form = BASE | {"bed": "1", "bag.label_c": "-6 °C", "bag.width_cm": "150", "pad0.r_value": "3"}
    client.post("/courses/1/night", data=form | {"wet_out": "on"})
    bag, pad = mirel(courses).bag, mirel(courses).pads[0]
    assert (bag.label_c, bag.width_cm, pad.r_value) == (-6, 150, 3)
    assert mirel(courses).bedding.wet_out
    for field, text, message in (
        ("bag.width_cm", "wide", "is not a number"),
        ("bag.limit_c", "20", "warmer than the comfort one"),
        ("pad0.length_cm", "9 m", "no unit here"),
        ("pad0.width_cm", "5", "at least 30"),
    ):
        comfort = {"bag.label_c": "-6 °C"}
        shown = client.post("/courses/1/night", data=BASE | comfort | {field: text}).text
        place = shown[shown.index(f'id="{field}-note"') :].split("</p>")[0]
        assert message in place, (field, place)
        assert f'value="{text}"' in shown
    assert mirel(courses).bag.width_cm == 150


def test_changes_are_ranked_by_cost_too(client) -> None:
    def keys(by: str) -> list[str]:
        shown = client.get(f"/courses/1/night?person=mirel&night=2&by={by}").text
        return re.findall(r'name="take" value="([^"]+)"', shown)

    assert keys("")[0] == "wet=out"
    catalogue = load_catalogue()
    costs = [
        getattr(catalogue.everything[key.split("=")[1]], "cost", None)
        for key in keys("cost")
        if key != "wet=out"
    ]
    assert keys("cost") != keys("")
    assert all(costs[:5])
    assert costs[0] <= 100
