"""What is handed out, to whom and with which receipt, and what comes back."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import get_args

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.check.handing import ToHand, piece_back, to_hand_out
from caldarium.core.check.record import Back, HandBack, HandOut, Out, Record, Told
from caldarium.core.plan.course import Course
from caldarium.core.stock.inventory import Condition, Stored
from caldarium.core.stock.issue import stored_pieces
from caldarium.core.stock.lending import days_of
from caldarium.web.check.log import now_told, record_for, tell
from caldarium.web.forms import Answer, Sent, whole
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.stock.store import pieces_of
from caldarium.web.urls import course_url
from caldarium.words import check as words
from caldarium.words.faults import fault_text

router = APIRouter()
CONDITIONS: tuple[Condition, ...] = get_args(Condition)
BACKS: tuple[Back, ...] = get_args(Back)


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
    return page(
        request,
        "check/handed.html",
        held=held,
        course=course,
        planned=_to_hand(request, course, record),
        due=due,
        back=[row for row in rows if row.back],
        receipts=receipts,
        sentence=words.due_sentence(record, days_of(course)[1], date.today()),
        message=answer.message,
        typed=answer.form,
        errors=answer.errors,
        conditions=CONDITIONS,
        states=[(each, words.BACK_NAMES[each]) for each in BACKS],
    )


def _name(course: Course, who: str) -> str:
    """A member's name; of somebody who left, the id."""
    return next((each.name for each in course.people if each.id == who), who)


def _row(course: Course, out: Out) -> OutRow:
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
        [words.back_words(what, told, each) for told, each in out.back],
    )


def _to_hand(request: Request, course: Course, record: Record) -> list[ToHand]:
    tags = [piece.tag for person in course.people for piece in stored_pieces(person) if piece.tag]
    return to_hand_out(course, record, pieces_of(request).known(tags))


@router.post("/courses/{number}/check/handed")
def change(request: Request, number: int, sent: Sent) -> Response:
    """Hand something out, or take it back."""
    form = {name: str(value) for name, value in sent.items() if isinstance(value, str)}
    act, _, value = form.get("act", "").partition("=")
    course = courses_of(request).get(number).course
    answer = Answer()
    try:
        if act == "plan":
            ticked = {str(each) for each in sent.getlist("out")}
            answer = _hand_planned(request, number, course, ticked, form.get("by", ""))
        elif act == "out":
            answer = _hand(request, number, course, form)
        elif act == "back":
            answer = _take_back(request, number, course, [value], form)
        elif act == "all-back":
            due = record_for(request, number).due
            answer = _take_back(request, number, course, [each.told.token for each in due], {})
    except ValidationError as fault:
        answer = Answer(message=f"Not kept: {fault_text(fault, display_of(request))}.")
    if answer.message or answer.errors:
        return _page(request, number, replace(answer, form=form))
    return RedirectResponse(course_url(number, "check/handed"), 303)


def _hand_planned(
    request: Request, number: int, course: Course, ticked: set[str], by: str
) -> Answer:
    """Hand out what is ticked of what the plan has."""
    told = [
        now_told(
            by,
            HandOut(
                person=each.person.id,
                name=each.stored.name,
                tag=each.stored.tag,
                count=each.count,
                condition=each.stored.condition,
            ),
        )
        for each in _to_hand(request, course, record_for(request, number))
        if f"{each.person.id} {each.piece}" in ticked
    ]
    tell(request, number, told)
    return Answer() if told else Answer(message="Tick what is handed out first.")


def _hand(request: Request, number: int, course: Course, form: Mapping[str, str]) -> Answer:
    """Hand out one thing by its tag or by a name."""
    what = form.get("what", "").strip()
    count = whole(form.get("count", "1") or "1", 1, 200)
    errors: dict[str, str] = {}
    if not what:
        errors["what"] = "Say what is handed out: a tag of the store, or a name."
    if count is None:
        errors["count"] = "Write a whole number from 1 to 200."
    if errors:
        return Answer(errors=errors)
    person = course.person(form.get("person", ""))
    stored = pieces_of(request).known([what]).get(what.lower())
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
    return Answer()


def _take_back(
    request: Request, number: int, course: Course, tokens: Sequence[str], form: Mapping[str, str]
) -> Answer:
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
            return Answer(message="That is not out any more.")
        count = whole(form.get(f"count {token}", "") or str(out.due), 1, out.due)
        if count is None:
            message = f"{out.due} are out: write how many of them come back."
            return Answer(errors={f"count {token}": message})
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
        return Answer(message="Nothing is out.")
    tell(request, number, told)
    for key, piece in after.items():
        events = [each.event for each in told if isinstance(each.event, HandBack)]
        mine = [e for e in events if by_token[e.of].what.tag.lower() == key]
        state = words.BACK_NAMES[mine[-1].state]
        pieces.put([piece], f"back from {course.name}: {state}")
    return Answer()
