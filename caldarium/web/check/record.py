"""The record of a check, to print and to keep."""

from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from caldarium.core.check.record import (
    PARTY,
    Tick,
    Unsign,
    broken_since,
    key_of,
    lines_for,
    mended,
)
from caldarium.web.check.log import record_for
from caldarium.web.page import assessed, courses_of, judged_of, page
from caldarium.words import check as words

router = APIRouter()


@dataclass(frozen=True)
class Sheet:
    """One person's lines, or the party's, as they were looked at, and the signature."""

    name: str
    signed: str
    rows: list[tuple[str, str, str]]
    open: int


@router.get("/courses/{number}/check/record")
def show(request: Request, number: int) -> HTMLResponse:
    """What was looked at, by whom and when, what failed and how it was mended."""
    held = courses_of(request).get(number)
    course = held.course
    judged = judged_of(request, held, assessed(request, number, course))
    record = record_for(request, number)
    texts = {(each.id, e.id): e.text for each in course.lists for e in each.entries}
    names = {each.id: each.name for each in course.people} | {PARTY: "The party"}
    names |= {each.id: each.name for each in course.shelters}
    sheets: list[Sheet] = []
    for who in (*(each.id for each in course.people), PARTY):
        rows: list[tuple[str, str, str]] = []
        unseen = 0
        for each in lines_for(judged, who):
            told, tick = record.ticks.get(key_of(each)), record.tick(key_of(each))
            if told is None or tick is None:
                unseen += 1
                continue
            rows.append(
                (texts[each.list, each.entry], words.said_words(tick), words.told_words(told))
            )
        signed = record.signed.get(who)
        if rows or unseen or signed is not None:
            sheets.append(
                Sheet(
                    names[who], words.told_words(signed) if signed is not None else "", rows, unseen
                )
            )
    failed = [
        (
            names.get(each.key[2], each.key[2]),
            texts.get(each.key[:2], each.key[1]),
            words.told_words(each.failed),
            words.said_words(each.now.event) if isinstance(each.now.event, Tick) else "",
            words.told_words(each.now) if each.now is not each.failed else "",
        )
        for each in mended(record)
    ]
    taken = [
        (
            names.get(each.event.subject, each.event.subject),
            each.event.reason,
            words.told_words(each),
        )
        for each in record.unsigned
        if isinstance(each.event, Unsign)
    ]
    broken = broken_since(judged, record)
    return page(
        request,
        "check/record.html",
        held=held,
        course=course,
        sheets=sheets,
        failed=failed,
        taken=taken,
        lists=[(each.name, words.list_facts(each)) for each in course.lists],
        broken=[words.broken_words(course, who, lost) for who, lost in broken.items()],
    )
