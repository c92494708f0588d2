"""Pages of packs: shown, moved by hand and let go, said what pieces are like, figures refused."""

import re

import pytest

from caldarium.core.plan.rucksack import STRAPS, ZONES
from caldarium.demo import DEMOS, demo_course
from tests.courses import from_nothing


def mark_of(text: str) -> str:
    return re.search(r'name="mark" value="([^"]+)"', text).group(1)


def zones_in(text: str) -> dict[str, str]:
    """Where each piece is, by the selects of the page."""
    found = {}
    for name, body in re.findall(r'<select name="zone\.([^"]+)"[^>]*>(.*?)</select>', text, re.S):
        found[name] = re.search(r'value="([^"]+)" selected', body).group(1)
    return found


def pack_of(client, who: str = "runa") -> dict:
    people = client.get("/courses/1/export").json()["people"]
    return next(each for each in people if each["id"] == who)["rucksack"]


def send(client, **form: str):
    text = client.get("/courses/1/pack").text
    sent = {"mark": mark_of(text), "person": "runa", "day": "0"} | form
    return client.post("/courses/1/pack", data=sent, follow_redirects=True)


def test_every_piece_has_a_place_a_number_and_a_reason(client) -> None:
    text = client.get("/courses/1/pack?day=1").text
    zones = zones_in(text)
    assert len(zones) > 12
    assert set(zones.values()) <= set(ZONES)
    assert zones["bag-minus-1"] == "foot"
    assert "The pack cut along the spine" in text
    assert "Since the morning before" in text
    assert "inside the liner" in text


def test_a_piece_moved_by_hand_stays_is_told_and_let_go(client) -> None:
    text = client.get("/courses/1/pack").text
    form = {f"zone.{name}": zone for name, zone in zones_in(text).items()}
    form["zone.head-torch"] = "foot"
    text = send(client, act="place", **form).text
    assert zones_in(text)["head-torch"] == "foot"
    assert "head torch and cells lies under everything" in text
    (placed,) = pack_of(client)["placed"]
    assert (placed["piece"], placed["zone"], placed["marks"]) == ("head-torch", "foot", None)
    text = send(client, act="free=head-torch").text
    assert zones_in(text)["head-torch"] != "foot"
    assert pack_of(client)["placed"] == []


def test_what_is_sent_as_it_stands_or_is_no_zone_changes_nothing(client) -> None:
    zones = zones_in(client.get("/courses/1/pack").text)
    send(client, act="place", **{f"zone.{name}": zone for name, zone in zones.items()})
    send(client, act="place", **{"zone.head-torch": "nowhere", "zone.nothing": "lid"})
    send(client, act="dance")
    assert pack_of(client)["placed"] == []


def test_what_a_piece_is_like_is_said_and_taken_back(client) -> None:
    text = client.get("/courses/1/pack?day=0&person=runa&piece=wash-kit").text
    assert "What it is like, by its kind" in text
    act = {"act": "marks=wash-kit", "piece": "wash-kit", "mark.leaks": "on"}
    text = send(client, **act).text
    assert "What it is like, as you said" in text
    assert pack_of(client)["placed"][0]["marks"] == ["leaks"]
    text = send(client, act="unmark=wash-kit", piece="wash-kit").text
    assert "by its kind" in text
    assert pack_of(client)["placed"] == []


def test_figures_of_a_pack_are_kept_as_typed_and_refused_where_typed(client) -> None:
    text = send(client, act="figures", main_l="50 L", rated_kg="9 kg", side_l="2").text
    assert 'value="50 L"' in text
    assert pack_of(client)["main_l"] == 50
    assert "in a pack made for 9" in text
    wrong = send(client, act="figures", main_l="roomy", back_cm="7 m")
    assert 'value="roomy"' in wrong.text
    assert wrong.text.count('class="error"') >= 2
    assert pack_of(client)["main_l"] == 50
    text = send(client, act="figures", heavy_things="low", sides_g="900 g").text
    course = client.get("/courses/1/export").json()
    assert (course["heavy_things"], course["sides_g"]) == ("low", 900)
    assert "low on this day" in text


def test_without_a_liner_down_is_told_to_get_wet_on_a_wet_day(client) -> None:
    send(client, act="liner=off")
    text = client.get("/courses/1/pack?day=1&person=runa").text
    assert "no liner" in text
    assert "Use a liner" in text
    assert "may get wet where it is" in text
    send(client, act="liner=on")
    assert "may get wet where it is" not in client.get("/courses/1/pack?day=1").text


def test_cards_are_for_everybody_with_what_is_shared(client) -> None:
    text = client.get("/courses/1/pack/cards?day=2").text
    assert text.count("The pack cut along the spine") == 10
    assert "Shared kit: who carries what" in text


@pytest.mark.parametrize("query", ["day=99", "day=x", "day=-1", "piece=nothing", "first=7"])
def test_odd_questions_are_answered(client, query: str) -> None:
    assert client.get(f"/courses/1/pack?{query}").status_code == 200
    assert client.get(f"/courses/1/pack/cards?{query}").status_code == 200
    assert client.get("/courses/1/pack?person=nobody").status_code == 404


def test_every_demo_course_and_one_without_a_walk(client, courses) -> None:
    numbers = [courses.add(demo_course(name), "another") for name in DEMOS]
    for number in numbers:
        for person in courses.get(number).course.people[:3]:
            for day in range(3):
                address = f"/courses/{number}/pack?person={person.id}&day={day}"
                assert client.get(address).status_code == 200
    still = courses.add(from_nothing(legs=False, days=2), "made")
    assert "no pack to fill" in client.get(f"/courses/{still}/pack").text
    assert "no pack to fill" in client.get(f"/courses/{still}/pack/cards").text


def test_a_pack_that_nobody_named_is_told(client, courses) -> None:
    number = courses.add(from_nothing(kit=None), "made")
    assert "Nobody said which pack this is" in client.get(f"/courses/{number}/pack").text
    assert "which pack each has" in client.get(f"/courses/{number}").text


@pytest.mark.parametrize("name", list(DEMOS))
def test_bags_by_air_have_a_card_of_their_own(client, name: str) -> None:
    number = client.app.state.courses.add(demo_course(name), "another")
    text = client.get(f"/courses/{number}/pack/cards?bags=air").text
    assert text.count("hold bag, in this order") == len(demo_course(name).people)
    assert "Carriers&#39; rules" in text or "Carriers' rules" in text


def test_straps_are_said_and_what_hangs_where_none_is_is_told(client) -> None:
    text = client.get("/courses/1/pack").text
    assert "lashed under the foot" in text
    send(client, act="figures", straps="shown", **{"strap.lid": "on", "strap.under": "on"})
    assert pack_of(client)["straps"] == ["under", "lid"]
    text = client.get("/courses/1/pack").text
    assert "lashed under the foot" in text
    assert "lashed at the back" not in text.partition("<tbody>")[2].partition("</tbody>")[0]
    send(client, act="figures", straps="shown", **{"strap.nowhere": "on"})
    assert pack_of(client)["straps"] == []
    form = {"act": "place", "zone.head-torch": "lashed"}
    assert "The pack has no strap where head torch" in send(client, **form).text
    every = {f"strap.{each}": "on" for each in STRAPS}
    send(client, act="figures", straps="shown", **every)
    assert pack_of(client)["straps"] is None
