"""The check itself, at the table or on the way: person by person, line by line, on a phone too.

A page that runs its script keeps what is tapped in the browser and sends it when the server
answers; without a script every button is a form of its own.
"""

import json
import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, JSONResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.check.record import (
    PARTY,
    Record,
    Sign,
    Tick,
    Told,
    Unsign,
    broken_since,
    held_now,
    key_of,
    lines_for,
    unready,
)
from caldarium.core.check.sample import sample
from caldarium.core.lists.judge import Judged
from caldarium.core.plan.course import Course
from caldarium.web.check.log import now_told, record_for, tell
from caldarium.web.forms import Texts
from caldarium.web.page import assessed, courses_of, display_of, judged_of, page
from caldarium.web.urls import course_url
from caldarium.words import check as words
from caldarium.words.faults import fault_text

router = APIRouter()
MOST_TOLD = 500
"""Things told in one request."""
SAMPLE = 10


@dataclass(frozen=True)
class Looking:
    """Whose lines are open, how many are drawn at random, and with which seed."""

    person: str = ""
    draw: str = ""
    seed: str = ""


@dataclass(frozen=True)
class LineToCheck:
    """A line to look at: what is asked, how the plan stands, what was said of it last, by a word
    and as a sentence, and tags of the pieces that would meet it."""

    list: str
    entry: str
    subject: str
    text: str
    must: bool
    by_plan: str
    good: bool
    about: str
    said: str
    told: str
    tags: str


@dataclass(frozen=True)
class ToCheck:
    """Somebody, or the party: their lines, how many were looked at and are not there, whether they
    are signed off, by whom and when, what stands in the way, and what broke since."""

    id: str
    name: str
    lines: list[LineToCheck]
    seen: int
    absent: int
    signed: str
    unready: str
    broken: str


@router.get("/courses/{number}/check/table")
def show(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """Everybody's lines, to be looked at."""
    return _page(request, number, looking)


def _page(request: Request, number: int, looking: Looking, message: str = "") -> HTMLResponse:
    held = courses_of(request).get(number)
    course = held.course
    result = assessed(request, number, course)
    judged = judged_of(request, held, result)
    record = record_for(request, number)
    drawn = _drawn(judged, looking)
    shown = [each for each in judged if drawn is None or each in drawn]
    subjects = [(each.id, each.name) for each in course.people] + [(PARTY, "the party")]
    broken = {
        who: words.broken_words(course, who, lost)
        for who, lost in broken_since(judged, record).items()
    }
    listed = [
        _to_check(request, course, judged, shown, record, who, name, broken.get(who, ""))
        for who, name in subjects
    ]
    listed = [each for each in listed if each.lines]
    return page(
        request,
        "check/table.html",
        held=held,
        course=course,
        listed=listed,
        opened=looking.person or (listed[0].id if listed else ""),
        drawn=None if drawn is None else len(drawn),
        sample=SAMPLE,
        message=message,
        party=PARTY,
        said_names=words.SAID_NAMES,
        lists={each.id: each.name for each in course.lists},
    )


def _drawn(judged: Sequence[Judged], looking: Looking) -> list[Judged] | None:
    """The lines of a random sample; None where all are looked at."""
    if not looking.draw.isdecimal() or len(looking.draw) > 3:
        return None
    seed = int(looking.seed) if looking.seed.isdecimal() and len(looking.seed) < 10 else 0
    return sample(judged, int(looking.draw), seed)


@router.get("/courses/{number}/check/sample")
def draw(request: Request, number: int, count: str = "") -> Response:
    """A new random sample."""
    courses_of(request).get(number)
    many = int(count) if count.isdecimal() and 0 < len(count) < 4 else SAMPLE
    address = course_url(number, "check/table", draw=many, seed=secrets.randbelow(10**8))
    return RedirectResponse(address, 303)


def _to_check(
    request: Request,
    course: Course,
    judged: Sequence[Judged],
    shown: Sequence[Judged],
    record: Record,
    who: str,
    name: str,
    broken: str,
) -> ToCheck:
    entries = {(each.id, e.id): e for each in course.lists for e in each.entries}
    names = {each.id: each.name for each in course.lists}
    display = display_of(request)
    lines: list[LineToCheck] = []
    for each in lines_for(shown, who):
        entry = entries[each.list, each.entry]
        told = record.ticks.get(key_of(each))
        tick = record.tick(key_of(each))
        about = names[each.list] if len(names) > 1 else ""
        if each.subject.of == "tent":
            about = f"{words.subject_name(course, each.subject)}; {about}".strip("; ")
        lines.append(
            LineToCheck(
                each.list,
                each.entry,
                each.subject.id,
                entry.text,
                entry.must,
                words.judged_words(each, course, display),
                each.good,
                about,
                tick.said if tick is not None else "",
                f"{words.said_words(tick)}, {words.told_words(told)}" if tick and told else "",
                " ".join(piece.tag.lower() for piece in each.pieces if piece.tag),
            )
        )
    signed = record.signed.get(who)
    wait = unready(course, judged, record, who)
    return ToCheck(
        who,
        name,
        lines,
        sum(bool(line.said) for line in lines),
        sum(line.said == "no" for line in lines),
        words.told_words(signed) if signed is not None else "",
        words.unready_words(wait, course, who) if wait is not None else "",
        broken,
    )


async def _body(request: Request) -> bytes:
    return await request.body()


@router.post("/courses/{number}/check/tell")
def take(request: Request, number: int, body: Annotated[bytes, Depends(_body)]) -> JSONResponse:
    """Things tapped on a page, whenever it could send them: each kept once, by its token.

    The body is JSON: `told`, a list of what core.check.record.Told has. The answer says which
    tokens are kept now, and of the others why not.
    """
    courses_of(request).get(number)
    listed = _listed(body)
    if listed is None:
        return JSONResponse({"kept": [], "refused": [], "error": "not a list of things"}, 400)
    good: list[Told] = []
    refused: list[dict[str, str]] = []
    for each in listed[:MOST_TOLD]:
        try:
            told = Told.model_validate(each)
        except ValidationError as fault:
            token = str(each.get("token", ""))[:64] if isinstance(each, dict) else ""
            refused.append({"token": token, "why": fault_text(fault, display_of(request))})
            continue
        if told.event.kind == "tick":
            good.append(told)
        else:
            refused.append({"token": told.token, "why": "is not told from here"})
    tell(request, number, good)
    return JSONResponse({"kept": [each.token for each in good], "refused": refused})


def _listed(body: bytes) -> list[Any] | None:
    try:
        found = json.loads(body)
    except (ValueError, RecursionError):
        return None
    listed = found.get("told") if isinstance(found, dict) else None
    return listed if isinstance(listed, list) else None


@router.post("/courses/{number}/check/table")
def change(request: Request, number: int, form: Texts) -> Response:
    """A tick, a signature, or one taken back, without a script."""
    held = courses_of(request).get(number)
    course = held.course
    act, _, value = form.get("act", "").partition("=")
    looking = Looking(form.get("subject", ""), form.get("draw", ""), form.get("seed", ""))
    by, who = form.get("by", ""), form.get("subject", "")
    message = ""
    try:
        if act == "said":
            tick = {"said": value, "subject": form.get("line_of", who)}
            tick |= {name: form.get(name, "").strip() for name in ("list", "entry", "tag", "note")}
            tell(request, number, [now_told(by, Tick.model_validate(tick))])
        elif act in ("sign", "unsign"):
            if who != PARTY:
                course.person(who)
            if act == "unsign":
                again = Unsign(subject=who, reason=form.get("reason", ""))
                tell(request, number, [now_told(by, again)])
            else:
                message = _sign(request, number, who, by)
    except ValidationError as fault:
        message = f"Not kept: {fault_text(fault, display_of(request))}."
    if message:
        return _page(request, number, looking, message)
    address = course_url(
        number, "check/table", person=looking.person, draw=looking.draw, seed=looking.seed
    )
    return RedirectResponse(f"{address}#to-{who}", 303)


def _sign(request: Request, number: int, who: str, by: str) -> str:
    """Sign somebody or the course off; a message where that cannot be yet."""
    held = courses_of(request).get(number)
    judged = judged_of(request, held, assessed(request, number, held.course))
    if not by.strip():
        return "Say who checks: write a name at “Checked by” first."
    wait = unready(held.course, judged, record_for(request, number), who)
    if wait is not None:
        return words.unready_words(wait, held.course, who)
    tell(request, number, [now_told(by, Sign(subject=who, held=held_now(judged)))])
    return ""
