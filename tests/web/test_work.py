"""Long work beside the pages: followed, stopped, kept, and its failure said."""

import time
from threading import Event

import pytest

from caldarium.web.load import load as room
from caldarium.web.work import KEPT_WORKS, Answering, Works


def test_it_is_followed_and_kept() -> None:
    works, half, on = Works(), Event(), Event()

    def task(heard) -> int:
        heard(0.5)
        half.set()
        on.wait(20)
        return 7

    work = works.begin("a", task)
    assert half.wait(20)
    assert (work.state, work.share, work.outcome) == ("running", 0.5, None)
    assert works.begin("a", task) is work
    waits = works.begin("b", task)
    assert waits.state == "waiting"
    on.set()
    works.settle(20)
    assert (work.state, work.outcome, waits.outcome) == ("done", 7, 7)
    assert works.begin("a", task) is work


@pytest.mark.parametrize("at_once", [True, False])
def test_it_is_stopped_at_its_next_step_and_can_be_begun_again(at_once: bool) -> None:
    works, begun, on = Works(), Event(), Event()

    def task(heard) -> int:
        begun.set()
        on.wait(20)
        heard(0.5)
        return 7

    if at_once:
        holds = Event()
        works.begin("before", lambda _heard: holds.wait(20))
    work = works.begin("a", task)
    if not at_once:
        assert begun.wait(20)
    works.stop("a")
    works.stop("nothing")
    on.set()
    if at_once:
        holds.set()
    work.wait(20)
    assert (work.state, work.outcome, begun.is_set()) == ("stopped", None, not at_once)
    again = works.begin("a", task)
    again.wait(20)
    assert again.outcome == 7


def test_the_oldest_is_forgotten() -> None:
    works = Works()
    for number in range(KEPT_WORKS + 1):
        works.begin(number, lambda _heard: 1)
    works.settle(20)
    assert works.of(0) is None
    assert works.of(1) is not None


def test_a_failure_is_said_on_the_page(client, monkeypatch, caplog) -> None:
    def breaks(*given) -> None:
        raise RuntimeError

    monkeypatch.setattr(room, "when_idle_matters", breaks)
    client.post("/courses/1/load/matters")
    client.app.state.works.settle(20)
    assert "That did not work" in client.get("/courses/1/load/matters").text
    assert "long work failed" in caplog.text
    monkeypatch.undo()
    client.post("/courses/1/load/matters", data={"act": "stop"})
    client.post("/courses/1/load/matters")
    client.app.state.works.settle(60)
    assert "standard deviations" in client.get("/courses/1/load/matters").text


def test_what_was_looked_at_does_not_change_under_the_page() -> None:
    works, on = Works(), Event()
    work = works.begin("a", lambda _heard: on.wait(20) and 7)
    seen = works.of("a")
    on.set()
    work.wait(20)
    assert seen is not None
    assert seen.goes_on
    assert seen.outcome is None
    done = works.of("a")
    assert done is not None
    assert (done.state, done.outcome) == ("done", 7)


def test_work_gives_way_while_a_page_is_answered_and_never_for_ever() -> None:
    answering = Answering()
    works = Works(answering)
    told: list[float] = []

    def task(heard) -> str:
        began = time.monotonic()
        heard(0.5)
        told.append(time.monotonic() - began)
        return "done"

    answering.now = 1
    work = works.begin("one", task)
    time.sleep(0.15)
    assert told == []
    answering.now = 0
    work.wait(10)
    assert work.outcome == "done"
    answering.now = 1
    other = works.begin("another", task)
    other.wait(10)
    assert other.outcome == "done"


def test_what_is_answered_is_counted_and_let_go(client) -> None:
    answering = client.app.state.works._answering
    client.get("/")
    client.get("/nowhere")
    assert answering.now == 0
