"""The overview: what to do next, done and told; the bar on every page; old addresses."""

import json
import re
from html import unescape

import pytest

from caldarium.core.plan.log import Log
from caldarium.demo import DEMOS, demo_course, demo_store
from caldarium.store.logs import with_log
from tests.courses import KINDS


def begin(client, number: int = 1) -> str:
    client.post(f"/courses/{number}/next", data={"act": "begin"})
    client.app.state.works.settle(60)
    return client.get(f"/courses/{number}").text


def card_of(text: str) -> dict[str, str]:
    """What the first card of the page would send."""
    step = re.search(r'name="step" value="([^"]*)"', text)[1]
    return {"step": unescape(step), "act": "take"}


@pytest.mark.parametrize("name", DEMOS)
def test_a_step_is_worked_out_taken_told_and_undone(client, courses, name) -> None:
    client.app.state.pieces.put(demo_store(), "the store")
    number = courses.add(demo_course(name), "made")
    assert "Work out the next best steps" in client.get(f"/courses/{number}").text
    shown = begin(client, number)
    sent = card_of(shown)
    title = re.search(r"<h3>(.*?)</h3>", shown)[1]
    answer = client.post(f"/courses/{number}/next", data=sent, follow_redirects=False)
    assert answer.headers["location"].startswith(f"/courses/{number}?since=")
    after = client.get(answer.headers["location"]).text
    assert "What a problem counts" in shown or "what a problem counts" in shown
    assert "before" in re.search(r'class="summary">(.*?)<span', after)[1]
    assert f"Last change: {title}." in after
    client.post(f"/courses/{number}/undo", data={})
    assert courses.get(number).course == with_log(demo_course(name), Log())


@pytest.mark.parametrize(
    "sent",
    [
        {"kind": "magic", "aim": "day"},
        {"kind": "pieces", "aim": "day", "at": "soon"},
        {"kind": "hours", "aim": "heat", "what": ["climb"], "where": "1", "at": "99"},
        {"kind": "pieces", "aim": "day", "who": ["ghost"], "what": ["down-hood"]},
        {"kind": "leave out", "aim": "idle grams", "what": ["runa x", "ghost y"]},
        {"kind": "shelter", "aim": "shelter", "who": ["runa"]},
        {"kind": "lend", "aim": "beds", "who": ["runa"], "what": ["none"]},
        {},
    ],
)
def test_a_step_that_cannot_be_is_told_and_changes_nothing(client, courses, sent) -> None:
    reply = client.post("/courses/1/next", data={"step": json.dumps(sent), "act": "take"})
    assert reply.status_code in (404, 422)
    assert "alert" in reply.text or "Not kept" in reply.text
    assert courses.get(1).undo is None


def test_work_is_stopped_and_begun_anew_after_a_change(client, courses) -> None:
    client.post("/courses/1/next", data={"act": "begin"})
    client.post("/courses/1/next", data={"act": "stop"})
    client.app.state.works.settle(60)
    courses.change(1, "caution", lambda now: now.altered(caution="expedition"))
    assert "Work out the next best steps" in client.get("/courses/1").text


@pytest.mark.parametrize("kind", ["no kit at all", "a rest day only", "one day and home"])
def test_any_course_has_an_overview_with_words_for_every_step(client, courses, kind) -> None:
    number = courses.add(KINDS[kind](), "made")
    shown = begin(client, number)
    for step in ("Course", "Weather and route", "Day", "Night", "Shelter", "Load"):
        assert re.search(rf'scope="row">\s*<a href="[^"]*">{step}</a>', shown), step
    assert "Not said yet" in shown


def test_the_bar_is_on_every_page_with_its_step_marked(client) -> None:
    for page, step in {
        "": "Course",
        "/people/runa": "Course",
        "/route": "Weather and route",
        "/sources": "Weather and route",
        "/chances": "Weather and route",
        "/day": "Day",
        "/group": "Day",
        "/night": "Night",
        "/shelter": "Shelter",
        "/lists": "Load",
        "/load/matters": "Load",
    }.items():
        shown = client.get(f"/courses/1{page}").text
        marked = re.findall(r'aria-current="step"[^>]*>([^<]*?) ?<', shown)
        assert marked == [step], page


def test_a_change_on_the_bench_brings_the_bar_along(client) -> None:
    form = {"person": "runa", "moment": "1.setting-out", "day": "0", "low_c": "-9"}
    part = client.post("/courses/1/edit", data=form, headers={"HX-Request": "true"}).text
    assert part.count('id="work-bar"') == 1
    assert 'hx-swap-oob="true"' in part
    whole = client.get("/courses/1/day").text
    assert 'hx-swap-oob="true"' not in whole


def test_addresses_of_a_moment_as_they_were_lead_to_the_bench(client) -> None:
    answer = client.get("/courses/1?person=runa&moment=2.camp", follow_redirects=False)
    assert answer.status_code == 307
    assert answer.headers["location"] == "/courses/1/day?person=runa&moment=2.camp"


def test_name_place_dates_and_length_are_changed_in_place(client, courses) -> None:
    form = {
        "name": "Skarn, later",
        "where": "46°30'N 7°E",
        "start": "2026-12-01",
        "days": "7",
        "start_altitude": "300 m",
    }
    client.post("/courses/1/about", data=form)
    course = courses.get(1).course
    assert (course.name, course.start.isoformat(), len(course.days)) == (
        "Skarn, later",
        "2026-12-01",
        7,
    )
    assert (course.place.zone, course.place.utc_offset_h) == ("Europe/Zurich", 1)
    assert course.start_altitude_m == 300
    assert all(day.camp is not None for day in course.days[:-1])
    assert course.days[-1].camp is None
    client.post("/courses/1/about", data={"days": "2"})
    assert len(courses.get(1).course.days) == 2
    for page in ("", "/day", "/night", "/load"):
        assert client.get(f"/courses/1{page}").status_code == 200


@pytest.mark.parametrize(
    ("field", "text", "told"),
    [
        ("name", " ", "a name of 1"),
        ("where", "over there", "no latitude"),
        ("start", "soon", "a date as"),
        ("days", "22", "whole number of days"),
        ("start_altitude", "1.234", "can mean 1234"),
        ("start_altitude", "9000", "at most"),
    ],
)
def test_what_cannot_be_of_place_and_dates_is_told_there(
    client, courses, field, text, told
) -> None:
    shown = client.post("/courses/1/about", data={field: text}).text
    assert told in shown
    assert f'value="{text}"' in shown
    assert courses.get(1).undo is None
