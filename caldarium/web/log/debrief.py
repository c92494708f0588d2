"""The debrief: what is to be said, the lists for the store, the next course, a test night."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.log.debrief import Debrief
from caldarium.core.log.next_course import (
    Proposal,
    may_stay,
    night_near_road,
    proposals,
    with_proposals,
)
from caldarium.core.log.upkeep import TASKS, Task, Upkeep, upkeep, upkept
from caldarium.core.plan.log import PARTY, Found
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.issue import stored_pieces
from caldarium.web import forms
from caldarium.web.forms import Sent, Texts
from caldarium.web.log.answers import event_of
from caldarium.web.log.logged import Logged, logged, now_entry
from caldarium.web.page import assessed, courses_of, display_of, idles_of, logs_of, page
from caldarium.web.plan.about import on_dates
from caldarium.web.plan.new_course import read_date
from caldarium.web.stock.store import pieces_of
from caldarium.web.urls import course_url
from caldarium.words import debrief as words
from caldarium.words import log as log_words
from caldarium.words.faults import fault_text

router = APIRouter()


@dataclass(frozen=True)
class Answer(forms.Answer):
    """What came of a form, and which lessons were ticked; None for all."""

    chosen: frozenset[str] | None = None


@dataclass(frozen=True)
class ToDo:
    """Something to do for the store, the tag it is known by, and what its history says."""

    task: str
    words: str
    tag: str
    known: bool
    done: bool
    history: list[str]


def _offered(request: Request, found: Logged) -> list[Proposal]:
    """What the next course could begin with; the ledger of whoever never used something says
    whether it can stay at home."""
    held, course = found.held, found.course
    result = assessed(request, held.id, course)
    who = sorted({each.person for each in found.debrief.unused})
    idle = idles_of(request, held, result, who)
    return proposals(course, found.review, may_stay(course, result, idle))


@router.get("/courses/{number}/debrief")
def show(request: Request, number: int) -> HTMLResponse:
    """What is to be said after the course."""
    return _page(request, number, Answer())


def _page(request: Request, number: int, answer: Answer) -> HTMLResponse:
    found = logged(request, number)
    course, display = found.course, display_of(request)
    said, offered = found.debrief, _offered(request, found)
    timeline = found.teaching.lived.result.timeline
    chosen = answer.chosen if answer.chosen is not None else {each.key for each in offered}
    things = _things(said)
    return page(
        request,
        "log/debrief.html",
        held=found.held,
        course=course,
        sentence=words.debrief_sentence(course, said, display),
        unused=[
            (words.subject_name(course, each.person), each.name, display.mass(each.grams), each.tag)
            for each in said.unused
        ],
        steps=words.explain_debrief(course, said, display),
        cold=[words.cold_words(course, timeline, each) for each in said.cold],
        slack=[words.slack_words(course, each, display) for each in said.slack],
        things=[
            (each, words.subject_name(course, each.subject), words.found_words(each))
            for each in things
        ],
        todos=_todos(request, found, things),
        proposals=[
            (each.key, words.proposal_words(course, each, display), each.key in chosen)
            for each in offered
        ],
        nights=[
            (each.day, log_words.night_name(course, each.day))
            for each in timeline.moments
            if each.kind == "night"
        ],
        what_names=log_words.WHAT_NAMES,
        task_names=words.TASK_NAMES,
        party=PARTY,
        message=answer.message,
        errors=answer.errors,
        form=answer.form,
    )


def _things(said: Debrief) -> list[Found]:
    return [each for each in said.found if each.what != "unused"]


def _todos(request: Request, found: Logged, things: Sequence[Found]) -> list[ToDo]:
    pieces = pieces_of(request)
    tags = {each.tag.lower() for each in things if each.tag}
    for person in found.course.people:
        tags |= {piece.tag.lower() for piece in stored_pieces(person)}
    known = pieces.known(sorted(tags))
    return [
        ToDo(
            each.task,
            words.upkeep_words(found.course, each),
            each.tag,
            each.tag.lower() in known,
            _done(each, known),
            [f"{event.at:%-d %b %Y} {event.words}" for event in pieces.history(each.tag)][-5:]
            if each.tag.lower() in known
            else [],
        )
        for each in upkeep(found.course, things, known)
    ]


def _done(each: Upkeep, known: Mapping[str, Stored]) -> bool:
    piece = known.get(each.tag.lower())
    return piece is not None and each.task == "mend" and piece.condition == "to mend"


@router.post("/courses/{number}/debrief")
def change(request: Request, number: int, form: Texts) -> Response:
    """A word on a thing, taken back, or carried to the store."""
    course = courses_of(request).get(number).course
    act, _, value = form.get("act", "").partition("=")
    if act == "store":
        return _to_store(request, number, value, form.get("task", ""))
    fields = {**form, "kind": "found"}
    try:
        event = event_of(fields, course, display_of(request))
    except (ValidationError, ValueError) as fault:
        told = {"thing": f"Not kept: {fault_text(fault, display_of(request))}."}
        return _page(request, number, Answer(told, form))
    assert isinstance(event, Found)
    tagged = _with_tag(request, event) if not event.tag else event
    logs_of(request).tell(number, [now_entry(form.get("by", ""), tagged)])
    return RedirectResponse(course_url(number, "debrief"), 303)


def _with_tag(request: Request, event: Found) -> Found:
    """What was said of a thing, with its tag where its name is a tag of the store."""
    known = pieces_of(request).known([event.name.lower()])
    piece = known.get(event.name.lower())
    return event.altered(name=piece.name, tag=piece.tag) if piece is not None else event


def _to_store(request: Request, number: int, tag: str, task: str) -> Response:
    """A piece of the store as the debrief leaves it."""
    piece = pieces_of(request).get(tag)
    course = courses_of(request).get(number).course
    known: dict[str, Task] = {each: each for each in TASKS}
    if task in known:
        after = upkept(piece, known[task])
        pieces_of(request).put([after], f"after {course.name}: {task} {tag}")
    return RedirectResponse(course_url(number, "debrief"), 303)


@router.post("/courses/{number}/debrief/next")
def make_next(request: Request, number: int, sent: Sent) -> Response:
    """The next course: this one on new dates, with the differences that were ticked."""
    found = logged(request, number)
    form = {name: value for name, value in sent.items() if isinstance(value, str)}
    chosen = frozenset(str(each) for each in sent.getlist("take"))
    errors: dict[str, str] = {}
    name, start = _named_and_dated(form, errors, "name", "start")
    if errors or start is None:
        return _page(request, number, Answer(errors, form, chosen=chosen))
    offered = _offered(request, found)
    plan = on_dates(found.course, start).altered(name=name, sources=())
    try:
        made = with_proposals(plan, offered, chosen)
    except ValidationError as fault:
        told = {"name": f"Not made: {fault_text(fault, display_of(request))}."}
        return _page(request, number, Answer(told, form, chosen=chosen))
    count = len([each for each in offered if each.key in chosen])
    made_of = f"from {found.course.name}, with {count} of its lessons"
    return RedirectResponse(course_url(courses_of(request).add(made, made_of)), 303)


@router.post("/courses/{number}/debrief/test-night")
def make_test(request: Request, number: int, form: Texts) -> Response:
    """A test night near the road with the same people, beds and tents."""
    course = courses_of(request).get(number).course
    errors: dict[str, str] = {}
    name, start = _named_and_dated(form, errors, "test_name", "test_start")
    nights = {str(day): day for day in range(len(course.days) - 1)}
    if form.get("night", "") not in nights:
        errors["night"] = "choose a night"
    if errors or start is None:
        return _page(request, number, Answer(errors, form))
    try:
        made = on_dates(night_near_road(course, nights[form["night"]], name), start)
    except ValidationError as fault:
        told = {"test_name": f"Not made: {fault_text(fault, display_of(request))}."}
        return _page(request, number, Answer(told, form))
    made_of = f"a test night for {course.name}"
    return RedirectResponse(course_url(courses_of(request).add(made, made_of)), 303)


def _named_and_dated(
    form: Mapping[str, str], errors: dict[str, str], name_field: str, start_field: str
) -> tuple[str, date | None]:
    name = form.get(name_field, "").strip()
    if not 1 <= len(name) <= 120:
        errors[name_field] = "a name of at most 120 letters"
    return name, read_date(form, errors, start_field)
