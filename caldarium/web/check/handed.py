"""What is handed out, to whom and with which receipt, and what comes back."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import cast, get_args

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.check.record import Back, HandBack, HandOut, Out, Record, Told
from caldarium.core.check.returned import piece_back
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Item
from caldarium.core.stock.inventory import Condition, Stored
from caldarium.core.stock.issue import store_key, stored_pieces
from caldarium.core.stock.lending import days_of
from caldarium.web.check.log import now_told, record_for, tell
from caldarium.web.forms import Sent, whole
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.stock.store import pieces_of
from caldarium.web.urls import course_url
from caldarium.words import check as words
from caldarium.words.course import counted
from caldarium.words.faults import fault_text

router = APIRouter()
CONDITIONS: tuple[Condition, ...] = get_args(Condition)
BACKS: tuple[Back, ...] = get_args(Back)
ALL_BACK = "Nothing is still out."


@dataclass(frozen=True)
class Planned:
    """A piece of the store that somebody has by the plan and that was not handed out yet."""

    key: str
    who: str
    name: str
    tag: str
    count: int
    condition: str


@dataclass(frozen=True)
class OutRow:
    """Something handed out: its token, whose, what, how many of how many are still out, and what
    was told of it."""

    token: str
    who: str
    name: str
    tag: str
    due: int
    count: int
    condition: str
    when: str
    back: list[str]


@dataclass(frozen=True)
class Answer:
    """What came of a form."""

    message: str = ""
    form: Mapping[str, str] = field(default_factory=dict)


@router.get("/courses/{number}/check/handed")
def show(request: Request, number: int) -> HTMLResponse:
    """What is out, what is due, and receipts."""
    return _page(request, number, Answer())


def _page(request: Request, number: int, answer: Answer) -> HTMLResponse:
    held = courses_of(request).get(number)
    course = held.course
    record = record_for(request, number)
    rows = [_row(course, each) for each in record.outs]
    due = [row for row in rows if row.due]
    receipts: dict[str, list[OutRow]] = {}
    for row in rows:
        receipts.setdefault(row.who, []).append(row)
    sentence = "Nothing has been handed out yet."
    if rows:
        out = sum(row.due for row in rows)
        sentence = ALL_BACK
        if out:
            last = days_of(course)[1]
            late = "overdue since" if date.today() > last else "due back after"
            still = counted(out, "piece is", "pieces are")
            sentence = f"{still} still out, {late} {last:%A %-d %B %Y}."
    return page(
        request,
        "check/handed.html",
        held=held,
        course=course,
        planned=_planned(request, course, record),
        due=due,
        back=[row for row in rows if row.back],
        receipts=receipts,
        sentence=sentence,
        message=answer.message,
        typed=answer.form,
        conditions=CONDITIONS,
        states=[(each, words.BACK_NAMES[each]) for each in BACKS],
    )


def _name(course: Course, who: str) -> str:
    """A member's name; of somebody who left, the id."""
    return next((each.name for each in course.people if each.id == who), who)


def _row(course: Course, out: Out) -> OutRow:
    back = [
        f"{counted(each.count, 'piece') + ' ' if out.what.count > 1 else ''}"
        f"{words.BACK_NAMES[each.state]}"
        f"{', ' + each.condition if each.condition else ''}"
        f"{': ' + each.note if each.note else ''}, {words.told_words(told)}"
        for told, each in out.back
    ]
    what = out.what
    return OutRow(
        out.told.token,
        _name(course, what.person),
        what.name,
        what.tag,
        out.due,
        what.count,
        what.condition,
        words.told_words(out.told),
        back,
    )


def _planned(request: Request, course: Course, record: Record) -> list[Planned]:
    """Pieces of the store in people's kit that were not handed to them yet."""
    pieces = pieces_of(request)
    out: dict[tuple[str, str], int] = {}
    for each in record.outs:
        if each.what.tag:
            key = (each.what.person, each.what.tag.lower())
            out[key] = out.get(key, 0) + each.what.count
    tagged = [
        (person, piece) for person in course.people for piece in stored_pieces(person) if piece.tag
    ]
    known = pieces.known([piece.tag for _, piece in tagged])
    found: list[Planned] = []
    for person, piece in tagged:
        key = store_key(piece)
        stored = known.get(key)
        many = piece.count if isinstance(piece, Item) else 1
        gone = min(out.get((person.id, key), 0), many)
        out[person.id, key] = out.get((person.id, key), 0) - gone
        if many - gone > 0 and stored is not None:
            found.append(
                Planned(
                    f"{person.id} {piece.id}",
                    person.name,
                    piece.name,
                    stored.tag,
                    many - gone,
                    stored.condition,
                )
            )
    return found


@router.post("/courses/{number}/check/handed")
def change(request: Request, number: int, sent: Sent) -> Response:
    """Hand something out, or take it back."""
    form = {name: str(value) for name, value in sent.items() if isinstance(value, str)}
    act, _, value = form.get("act", "").partition("=")
    course = courses_of(request).get(number).course
    message = ""
    try:
        if act == "plan":
            ticked = {str(each) for each in sent.getlist("out")}
            message = _hand_planned(request, number, course, ticked, form.get("by", ""))
        elif act == "out":
            message = _hand(request, number, course, form)
        elif act == "back":
            message = _take_back(request, number, course, [value], form)
        elif act == "all-back":
            due = record_for(request, number).due
            message = _take_back(request, number, course, [each.told.token for each in due], {})
    except ValidationError as fault:
        message = f"Not kept: {fault_text(fault, display_of(request))}."
    if message:
        return _page(request, number, Answer(message, form if act == "out" else {}))
    return RedirectResponse(course_url(number, "check/handed"), 303)


def _hand_planned(request: Request, number: int, course: Course, ticked: set[str], by: str) -> str:
    """Hand out what is ticked of what the plan has."""
    record = record_for(request, number)
    told: list[Told] = []
    for each in _planned(request, course, record):
        if each.key in ticked:
            out = HandOut(
                person=each.key.split(" ")[0],
                name=each.name,
                tag=each.tag,
                count=each.count,
                condition=cast(Condition, each.condition),
            )
            told.append(now_told(by, out))
    if not told:
        return "Tick what is handed out first."
    tell(request, number, told)
    return ""


def _hand(request: Request, number: int, course: Course, form: Mapping[str, str]) -> str:
    """Hand out one thing by its tag or by a name."""
    pieces = pieces_of(request)
    what = form.get("what", "").strip()
    if not what:
        return "Say what is handed out: a tag of the store, or a name."
    person = course.person(form.get("person", ""))
    stored = pieces.known([what]).get(what.lower())
    count = whole(form.get("count", "1") or "1", 1, 200)
    if count is None:
        return "How many is a whole number from 1 to 200."
    condition = form.get("condition", "") or (stored.condition if stored is not None else "good")
    out = HandOut.model_validate(
        {
            "person": person.id,
            "name": stored.name if stored is not None else what,
            "tag": stored.tag if stored is not None else "",
            "count": count,
            "condition": condition,
        }
    )
    tell(request, number, [now_told(form.get("by", ""), out)])
    return ""


def _take_back(
    request: Request, number: int, course: Course, tokens: Sequence[str], form: Mapping[str, str]
) -> str:
    """Take things back, and tell the store what became of its pieces."""
    by_token = {each.told.token: each for each in record_for(request, number).due}
    pieces = pieces_of(request)
    known = pieces.known([each.what.tag for each in by_token.values() if each.what.tag])
    nights = sum(day.camp is not None for day in course.days)
    told: list[Told] = []
    after: dict[str, Stored] = {}
    for token in tokens:
        out = by_token.get(token)
        if out is None:
            return "That is not out any more."
        count = whole(form.get(f"count {token}", "") or str(out.due), 1, out.due)
        if count is None:
            return f"Of {out.what.name} {out.due} are out: write how many come back."
        event = HandBack.model_validate(
            {
                "of": token,
                "state": form.get(f"state {token}", "returned"),
                "count": count,
                "condition": form.get(f"condition {token}") or None,
                "note": form.get(f"note {token}", "").strip(),
            }
        )
        told.append(now_told(form.get("by", ""), event))
        key = out.what.tag.lower()
        stored = after.get(key) or known.get(key)
        if stored is not None:
            after[key] = piece_back(stored, event, nights)
    if not told:
        return "Nothing is out."
    tell(request, number, told)
    for key, piece in after.items():
        events = [each.event for each in told if isinstance(each.event, HandBack)]
        mine = [e for e in events if by_token[e.of].what.tag.lower() == key]
        state = words.BACK_NAMES[mine[-1].state]
        pieces.put([piece], f"back from {course.name}: {state}")
    return ""
