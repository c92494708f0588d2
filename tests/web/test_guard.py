"""What is let in, what is refused, and what every answer carries."""

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.exc import OperationalError

from caldarium.web.guard import LARGEST_FORM


def test_head_answers_like_get_without_a_body(client) -> None:
    for address in ("/", "/courses/1", "/store", "/courses/1/export"):
        reply = client.head(address)
        assert reply.status_code == 200
        assert reply.content == b""
    assert client.head("/courses/99").status_code == 404


def test_pages_are_not_kept_by_caches_and_are_sent_small(client) -> None:
    reply = client.get("/courses/1")
    assert reply.headers["Cache-Control"] == "no-store"
    assert reply.headers["Content-Encoding"] == "gzip"
    assert "immutable" in client.get("/static/mark.svg?v=1").headers["Cache-Control"]


@pytest.mark.parametrize("host", ["testserver", "example.org", "127.0.0.1.example.org", ""])
def test_other_hosts_are_not_served(client, host) -> None:
    assert client.get("/", headers={"Host": host}).status_code == 421


def test_other_sites_change_nothing(client, courses) -> None:
    reply = client.post("/courses/1/delete", headers={"Origin": "http://example.org"})
    assert reply.status_code == 403
    assert courses.get(1).revision == 1


def test_bodies_without_end_are_stopped_whatever_their_length_says(client) -> None:
    data = b"name=" + b"x" * (LARGEST_FORM + 10)
    kind = {"Content-Type": "application/x-www-form-urlencoded"}
    assert client.post("/courses/1/edit", content=data, headers=kind).status_code == 413

    def pieces():
        for _ in range(60):
            yield b"a" * 50_000

    reply = client.post("/courses/1/edit", content=pieces(), headers=kind)
    assert reply.status_code == 413
    assert "larger than" in reply.text
    odd = client.post("/courses/1/edit", content=b"", headers=kind | {"Content-Length": "many"})
    assert odd.status_code == 400


@pytest.mark.parametrize(
    "back",
    ["//example.org/", "http://example.org", "/\\example.org", "javascript:x", "/a\r\nb", ""],
)
def test_nobody_is_sent_elsewhere(client, back) -> None:
    for address in ("/units", "/light", "/courses/1/undo", "/store/undo"):
        reply = client.post(address, data={"back": back}, follow_redirects=False)
        assert reply.headers["location"].startswith("/")
        assert not reply.headers["location"].startswith(("//", "/\\"))
        assert "example" not in reply.headers["location"]


def test_unreadable_figures_in_an_address_are_a_page(client) -> None:
    reply = client.get("/courses/one")
    assert reply.status_code == 422
    assert "<h1>" in reply.text


@pytest.mark.parametrize(
    ("fault", "words"),
    [
        ("database is locked", "Try again in a moment"),
        ("database or disk is full", "disk is full"),
        ("attempt to write a readonly database", "cannot be written"),
        ("database disk image is malformed", "caldarium restore"),
    ],
)
def test_a_change_that_the_disk_refuses_says_so_and_keeps_what_was_typed(
    client, courses, monkeypatch, fault, words
) -> None:
    def fail(*_args, **_kwargs):
        raise OperationalError("UPDATE", {}, Exception(fault))

    monkeypatch.setattr(courses, "change", fail)
    form = {"person": "runa", "day": "0", "wind_ms": "17 m/s", "moment": "1.setting-out"}
    calm = TestClient(client.app, base_url="http://127.0.0.1", raise_server_exceptions=False)
    reply = calm.post("/courses/1/edit", data=form)
    assert reply.status_code == 503
    assert "Not kept." in reply.text
    assert words in reply.text
    assert 'name="wind_ms" value="17 m/s"' in reply.text
    assert "Try again" in reply.text


def test_a_clash_is_shown_and_chosen(client, courses) -> None:
    mark = courses.get(1).mark
    form = {"person": "runa", "day": "0", "moment": "1.setting-out", "mark": mark}
    client.post("/courses/1/edit", data=form | {"wind_ms": "17"})
    reply = client.post("/courses/1/edit", data=form | {"wind_ms": "11"})
    assert reply.status_code == 409
    assert "changed meanwhile" in reply.text
    assert "as_typed" not in reply.text
    assert "<td>11 m/s</td>" in reply.text.replace(" <", "<").replace("> ", ">")
    assert courses.get(1).course.days[0].conditions.wind_ms == 17
    stands = courses.get(1).mark
    client.post("/courses/1/edit", data=form | {"wind_ms": "11", "mine_over": stands})
    assert courses.get(1).course.days[0].conditions.wind_ms == 11


def test_a_page_of_a_state_that_is_gone_says_so(client, courses) -> None:
    form = {"person": "runa", "day": "0", "moment": "1.setting-out"}
    client.post("/courses/1/edit", data=form | {"wind_ms": "17"})
    mark = courses.get(1).mark
    client.post("/courses/1/undo")
    client.post("/courses/1/edit", data=form | {"wind_ms": "19"})
    reply = client.post("/courses/1/edit", data=form | {"wind_ms": "3", "mark": mark})
    assert reply.status_code == 410
    assert "taken back since" in reply.text
    assert courses.get(1).course.days[0].conditions.wind_ms == 19


@pytest.mark.parametrize(
    "page",
    [
        "",
        "/route",
        "/night",
        "/shelter",
        "/load",
        "/lists",
        "/group",
        "/story",
        "/outfits",
        "/people/runa",
        "/climate",
        "/sources",
        "/gpx",
        "/compare",
        "/chances",
    ],
)
def test_undo_and_redo_stand_on_every_page(client, courses, page) -> None:
    courses.change(1, "a wind of 17", lambda now: now.altered(hold_h=7))
    shown = client.get(f"/courses/1{page}").text
    for name, step in (("undo", "a wind of 17"), ("redo", "nothing to redo")):
        button = shown[shown.index(f'id="{name}"') :].split("</button>")[0]
        assert f'title="{step}"' in button
        assert f'aria-keyshortcuts="{name[0]}"' in button
    mark = courses.get(1).mark
    client.post("/courses/1/undo", data={"mark": mark, "back": f"/courses/1{page}"})
    assert courses.get(1).course.hold_h != 7
