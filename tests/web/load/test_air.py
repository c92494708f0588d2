"""By air over HTTP: caps, what is worn on the plane, and what is hired and bought."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.stock.inventory import Stored, with_defaults
from caldarium.core.stock.issue import give

AIR = "/courses/1/air"


def test_caps_by_air_are_kept_and_wrong_ones_told_where_typed(client, courses) -> None:
    shown = client.post(AIR, data={"person": "runa", "hold_kg": "20 lb", "cabin_kg": "7"}).text
    course = courses.get(1).course
    assert course.hold_kg == pytest.approx(20 * 0.45359237)
    assert course.cabin_kg == 7
    assert "travel within the caps" in shown
    shown = client.post(AIR, data={"person": "runa", "hold_kg": "", "cabin_kg": "7 kg"}).text
    assert courses.get(1).course.hold_kg is None
    for text, message in (("heavy", "heavy"), ("900 kg", "100"), ("-1 kg", "-1")):
        before = courses.get(1).revision
        shown = client.post(AIR, data={"person": "runa", "hold_kg": text}).text
        assert courses.get(1).revision == before
        assert f'value="{text}"' in shown
        error = shown[shown.index('id="hold_kg-note"') :].split("</p>")[0]
        assert message in error or "0" in error


def test_what_is_worn_on_the_plane_is_chosen(client, courses) -> None:
    shown = client.get(f"{AIR}?person=runa").text
    assert 'value="pack=leather-boots"' in shown
    client.post(AIR, data={"person": "runa", "act": "pack=leather-boots"})
    client.post(AIR, data={"person": "runa", "act": "wear=rain-jacket"})
    runa = courses.get(1).course.person("runa")
    assert "rain-jacket" in runa.on_plane
    assert "leather-boots" not in runa.on_plane
    assert "briefs" in runa.on_plane
    assert 'value="wear=leather-boots"' in client.get(f"{AIR}?person=runa").text


def test_what_is_hired_and_bought_is_listed_with_cost_and_place_and_never_flown(
    client, courses
) -> None:
    boots = with_defaults(
        Stored(
            tag="H-1",
            name="hired double boots",
            kind="garment",
            like="double-boots",
            mass_g=2450,
            owner="hire",
            place="harbour street hire",
            cost=40,
        )
    )
    client.app.state.pieces.put([boots], "for hire")
    courses.change(1, "given", lambda now: give(now, "runa", boots, load_catalogue().everything))
    shown = client.get(f"{AIR}?person=runa").text
    assert "1 piece, 40 in the school's own money" in shown.replace("&#39;", "'")
    assert "harbour street hire" in shown
    assert "Hired or bought on arrival: hired double boots" in shown


def test_room_counts_beside_mass(client, courses) -> None:
    form = {"person": "runa", "hold_l": "20 L", "cabin_l": "10 L", "bag_g": "1.2 kg"}
    shown = client.post(AIR, data=form).text
    course = courses.get(1).course
    assert (course.hold_l, course.cabin_l, course.bag_g) == (20, 10, 1200)
    assert "the hold bag is over by" in shown
