"""The lists' page over HTTP: swaps tried and taken, lists beside each other, caps, nonsense."""

import pytest

from caldarium.demo import demo_store

ADDRESS = "/courses/1/lists"
JACKET = "?person=mirel&out=light-synthetic-jacket"


def test_swaps_are_tried_taken_and_taken_back(client, courses) -> None:
    shown = client.get(ADDRESS + JACKET).text
    assert 'id="swaps"' in shown
    assert "for light synthetic jacket" in shown
    assert 'value="+big-down-jacket"' in shown
    form = {"person": "mirel", "out": "light-synthetic-jacket", "take": "+big-down-jacket"}
    shown = client.post(ADDRESS, data=form).text
    assert "Mirel: big down jacket for light synthetic jacket" in shown
    mirel = next(each for each in courses.get(1).course.people if each.id == "mirel")
    ids = {each.id for each in mirel.garments}
    assert "big-down-jacket" in ids
    assert "light-synthetic-jacket" not in ids
    client.post("/courses/1/undo")
    mirel = next(each for each in courses.get(1).course.people if each.id == "mirel")
    assert "light-synthetic-jacket" in {each.id for each in mirel.garments}


def test_pieces_of_the_store_can_take_a_place(client, courses) -> None:
    client.app.state.pieces.put(demo_store(), "filled")
    mirel = next(each for each in courses.get(1).course.people if each.id == "mirel")
    shown = client.get(f"{ADDRESS}?person=mirel&out={mirel.bag.id}").text
    assert 'value="store:B-05"' in shown
    client.post(ADDRESS, data={"person": "mirel", "out": mirel.bag.id, "take": "store:B-05"})
    mirel = next(each for each in courses.get(1).course.people if each.id == "mirel")
    assert mirel.bag.name == "winter bag -14"
    assert mirel.bag.mass_g == 1750


def test_a_list_lies_beside_another_person_or_another_course(client, courses, demo) -> None:
    shown = client.get(f"{ADDRESS}?person=mirel&beside=1.wren").text
    assert 'id="compared"' in shown
    assert "Wren Tarn, here" in shown
    other = demo.altered(name="Last year", people=demo.people[:2])
    number = courses.add(other, "made")
    shown = client.get(f"{ADDRESS}?person=runa&beside={number}.runa").text
    assert "Runa Bell, Last year" in shown
    assert "all for sleep" in shown
    assert client.get(f"{ADDRESS}?person=runa&out=nothing&beside=99.zz").status_code == 200
    assert client.get(f"{ADDRESS}?person=nobody").status_code == 404


def test_caps_by_air_are_kept_and_wrong_ones_told_where_typed(client, courses) -> None:
    shown = client.post(ADDRESS, data={"person": "runa", "hold_kg": "20 lb", "cabin_kg": "7"}).text
    course = courses.get(1).course
    assert course.hold_kg == pytest.approx(20 * 0.45359237)
    assert course.cabin_kg == 7
    assert "travel within the caps" in shown
    shown = client.post(ADDRESS, data={"person": "runa", "hold_kg": "", "cabin_kg": "7 kg"}).text
    assert courses.get(1).course.hold_kg is None
    for text, message in (("heavy", "heavy"), ("900 kg", "100"), ("-1 kg", "-1")):
        before = courses.get(1).revision
        shown = client.post(ADDRESS, data={"person": "runa", "hold_kg": text}).text
        assert courses.get(1).revision == before
        assert f'value="{text}"' in shown
        error = shown[shown.index('id="hold_kg-error"') :].split("</p>")[0]
        assert message in error or "0" in error


@pytest.mark.parametrize(
    "form",
    [
        {"person": "mirel", "out": "light-synthetic-jacket", "take": "+palace"},
        {"person": "nobody", "out": "light-synthetic-jacket", "take": "+big-down-jacket"},
        {"person": "mirel", "out": "nothing", "take": "+big-down-jacket"},
    ],
)
def test_what_is_not_there_is_not_swapped(client, courses, form) -> None:
    shown = client.post(ADDRESS, data=form)
    assert shown.status_code == 404
    assert "There is no p" in shown.text
    assert courses.get(1).revision == 1
