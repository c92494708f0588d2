"""The record of a check: the last word stands, signatures wait, what breaks after them is said."""

from datetime import UTC, datetime, timedelta

import pytest
from pydantic import ValidationError

from caldarium.core.check.handing import piece_back
from caldarium.core.check.record import (
    PARTY,
    HandBack,
    HandOut,
    Sign,
    Tick,
    Told,
    Unsign,
    broken_since,
    held_now,
    key_of,
    lines_for,
    mended,
    record_of,
    unready,
)
from caldarium.core.check.sample import sample
from caldarium.core.lists.judge import judge
from caldarium.core.lists.kept import must_lines
from caldarium.core.plan.changes import remove_piece, with_person
from caldarium.core.stock.inventory import Stored
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import demo_course

NOON = datetime(2026, 9, 20, 12, tzinfo=UTC)
COURSE = demo_course()
JUDGED = judge(COURSE, build_timeline(COURSE))
RUNA = [each for each in lines_for(JUDGED, "runa")]


def told(event, minutes: int = 0, token: str = "") -> Told:
    at = NOON + timedelta(minutes=minutes)
    return Told(token=token or f"token-{id(event)}-{minutes}", at=at, by="Hale", event=event)


def tick(line, said: str = "yes", **more: str) -> Tick:
    return Tick(subject=line.subject.id, list=line.list, entry=line.entry, said=said, **more)


def test_the_last_word_stands_by_the_time_at_which_it_was_said() -> None:
    line = RUNA[0]
    late, early = told(tick(line), 5), told(tick(line, "no"), 1)
    record = record_of([late, early])
    assert record.tick(key_of(line)).said == "yes"
    (found,) = mended(record)
    assert (found.failed, found.now) == (early, late)
    assert record_of([]).tick(key_of(line)) is None


def test_nobody_is_signed_off_before_every_line_is_there_or_lent() -> None:
    must = must_lines(COURSE)
    asked = [each for each in RUNA if (each.list, each.entry) in must]
    ticks = [told(tick(each), at) for at, each in enumerate(asked)]
    assert unready(COURSE, JUDGED, record_of(ticks[:-1]), "runa").reason == "not checked"
    absent = [*ticks, told(tick(asked[0], "no"), 60)]
    assert unready(COURSE, JUDGED, record_of(absent), "runa").reason == "not there"
    lent = [*absent, told(tick(asked[0], "lent", tag="S-07"), 61)]
    assert unready(COURSE, JUDGED, record_of(lent), "runa") is None
    assert unready(COURSE, JUDGED, record_of(lent), PARTY).reason == "people first"


def test_a_signature_is_taken_back_with_a_reason_and_the_courses_with_it() -> None:
    signed = [told(Sign(subject="runa"), 1), told(Sign(subject=PARTY), 2)]
    assert set(record_of(signed).signed) == {"runa", PARTY}
    with pytest.raises(ValidationError):
        Unsign(subject="runa", reason="  ")
    record = record_of([*signed, told(Unsign(subject="runa", reason="torch broke"), 3)])
    assert not record.signed
    assert [each.event.reason for each in record.unsigned] == ["torch broke"]


def test_a_change_after_the_signature_that_breaks_a_line_is_said() -> None:
    record = record_of([told(Sign(subject="runa", held=held_now(JUDGED)))])
    assert not broken_since(JUDGED, record)
    bare = with_person(COURSE, remove_piece(COURSE.person("runa"), "rain-jacket"))
    lost = broken_since(judge(bare, build_timeline(bare)), record)
    assert {each.entry for each in lost["runa"]} == {"rain-above"}


def test_what_is_handed_out_is_due_until_all_of_it_is_told_of() -> None:
    out = told(HandOut(person="runa", name="bottle", tag="K-03", count=3), token="the-token")
    some = told(HandBack(of="the-token", state="returned", count=2), 5)
    record = record_of([out, some])
    assert [each.due for each in record.due] == [1]
    rest = told(HandBack(of="the-token", state="missing"), 6)
    assert not record_of([out, some, rest]).due


def test_a_piece_of_the_store_learns_what_became_of_it() -> None:
    bag = Stored(tag="B-1", name="bag", kind="bag", mass_g=1000, nights_used=10)
    many = Stored(tag="K-3", name="bottle", kind="water", mass_g=100, count=3)

    def after(piece: Stored, state: str, **more) -> Stored:
        return piece_back(piece, HandBack(of="the-token", state=state, **more), 4)

    assert after(bag, "returned").nights_used == 14
    assert after(bag, "damaged").condition == "to mend"
    assert after(bag, "wet", condition="worn").condition == "worn"
    assert after(bag, "missing").retired
    assert after(many, "returned") == many
    assert after(many, "missing", count=2).count == 1
    assert after(many, "missing", count=3).retired


def test_a_sample_is_drawn_without_repeats_again_for_one_seed_and_evenly() -> None:
    assert sample(JUDGED, 10, 7) == sample(JUDGED, 10, 7)
    drawn = sample(JUDGED, 10, 7)
    assert len({key_of(each) for each in drawn}) == 10
    assert len(sample(JUDGED, 999, 1)) == len(JUDGED)
    assert sample(JUDGED, -1, 1) == []
    counts = dict.fromkeys(map(key_of, JUDGED), 0)
    for seed in range(600):
        for each in sample(JUDGED, 10, seed):
            counts[key_of(each)] += 1
    mean = 6000 / len(counts)
    assert max(counts.values()) < 2 * mean
    assert min(counts.values()) > mean / 3
