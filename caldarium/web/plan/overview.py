"""The overview of a course: its strip, each step's state, what to do next, what nobody has said."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import TypeAdapter, ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.check.record import broken_since
from caldarium.core.plan.course import Course
from caldarium.core.plan.unsaid import unsaid
from caldarium.core.tally import tally
from caldarium.core.what_if.next_steps import Shelves, Step, next_steps, taken
from caldarium.core.worst import worst_by_moment
from caldarium.drawings.overview_strip import overview_strip, thumb
from caldarium.store.courses import Held, MovedOnError
from caldarium.web.check.log import record_for
from caldarium.web.editing import editing
from caldarium.web.forms import Texts, faults_at
from caldarium.web.page import (
    assessed,
    courses_of,
    display_of,
    judged_of,
    logs_of,
    page,
    strips_for,
    works_of,
)
from caldarium.web.stock.lending import available
from caldarium.web.urls import course_url
from caldarium.web.work import Told
from caldarium.words.check import broken_words
from caldarium.words.course import course_sentence, moment_name, weekday
from caldarium.words.outline import zone_sentence
from caldarium.words.overview import (
    AIMS,
    course_facts,
    grams_words,
    next_effect,
    next_title,
    step_sentences,
    unsaid_words,
)
from caldarium.words.steps import Step as Explained
from caldarium.words.steps_next import explain_next
from caldarium.words.typed import position_text
from caldarium.words.units import Display, written

router = APIRouter()
_STEP = TypeAdapter(Step)
SAID_AT = {
    "course": "people",
    "weather": "route",
    "day": "people",
    "night": "people",
    "shelter": "shelter",
    "load": "load",
    "pack": "pack",
}
"""Where what is unsaid of a step is said."""


def _shelves(request: Request, number: int, course: Course) -> Shelves:
    return Shelves(load_catalogue().everything, available(request, number, course))


def _said_at(course: Course, step: str) -> str:
    """The end of the address at which something of a step is said."""
    where = SAID_AT[step]
    return f"people/{course.people[0].id}" if where == "people" else where


def _seen_before(request: Request, held: Held, mark: str) -> Assessment | None:
    """What was found for a course as it was, where that is still kept."""
    if not mark or mark == held.mark:
        return None
    try:
        before = courses_of(request).seen(held.id, mark)
    except MovedOnError:
        return None
    return assessed(request, held.id, before, kept=False)


def about_texts(course: Course, display: Display) -> dict[str, str]:
    """What stands in the fields of name, place and dates."""
    return {
        "name": course.name,
        "place": course.place.name,
        "where": position_text(course.place.latitude, course.place.longitude),
        "start": course.start.isoformat(),
        "days": str(len(course.days)),
        "start_altitude": written(course.start_altitude_m, "altitude", display),
    }


def overview_page(
    request: Request,
    held: Held,
    *,
    since: str = "",
    message: str = "",
    about: Mapping[str, str] | None = None,
    errors: Mapping[str, str] | None = None,
    status: int = 200,
) -> HTMLResponse:
    """The overview, with what was typed of name, place and dates and what is wrong with it."""
    course, display = held.course, display_of(request)
    before = _seen_before(request, held, since)
    result = assessed(request, held.id, course)
    wide, narrow = strips_for(request)
    judged = judged_of(request, held, result)
    broken = broken_since(judged, record_for(request, held.id))
    worst = worst_by_moment(result)
    address = partial(_moment_address, held.id)
    drawn = partial(overview_strip, course, result, display, address)
    return page(
        request,
        "plan/overview.html",
        _next_panel(request, held, display),
        status=status,
        held=held,
        course=course,
        facts=course_facts(course),
        summary=course_sentence(course, result, before),
        message=message,
        form=about or about_texts(course, display),
        errors=errors or {},
        clock_words=zone_sentence(course.place),
        found=tally(result),
        strip=drawn() if wide else None,
        day_strips=[drawn(width=372, only_day=day) for day in range(len(course.days))]
        if narrow
        else [],
        worst=[
            (moment_name(course, moment), moment.id, worst[moment.id])
            for moment in result.timeline.moments
            if moment.id in worst
        ],
        names={each.id: each.name for each in course.people},
        sentences=step_sentences(course, result, judged, logs_of(request).of(held.id), display),
        broken=[broken_words(course, who, lost) for who, lost in broken.items()],
        laid=[
            (weekday(course, at, whole=True), course_url(held.id, "check/laid-out", day=at))
            for at in range(len(course.days))
        ],
        unsaid=[
            (*unsaid_words(course, each), course_url(held.id, _said_at(course, each.step)))
            for each in unsaid(course)
        ],
    )


def _moment_address(number: int, person: str, moment: str) -> str:
    return course_url(number, "day", person=person, moment=moment)


@dataclass(frozen=True)
class Card:
    """What a card of the next steps shows, and the step as its form sends it."""

    title: str
    aim: str
    effect: str
    grams: str
    step: str


@dataclass(frozen=True)
class NextPanel:
    """The next best steps: the work that looks for them, and what it found."""

    work: Told | None
    cards: list[Card]
    next_steps: list[Explained]


def _next_panel(request: Request, held: Held, display: Display) -> NextPanel:
    work = works_of(request).of((held.id, held.mark, "next"))
    if work is None or work.outcome is None:
        return NextPanel(work, [], [])
    shelves, found = _shelves(request, held.id, held.course), work.outcome
    titles = [
        next_title(held.course, each.step, shelves.everything, shelves.stored) for each in found
    ]
    cards = [
        Card(
            title,
            AIMS[each.step.aim],
            next_effect(each),
            grams_words(each.grams, display),
            _STEP.dump_json(each.step).decode(),
        )
        for title, each in zip(titles, found, strict=True)
    ]
    return NextPanel(work, cards, explain_next(list(zip(titles, found, strict=True)), display))


@router.get("/courses/{number}")
def show(
    request: Request,
    number: int,
    since: Annotated[str, Query()] = "",
    person: Annotated[str, Query()] = "",
    moment: Annotated[str, Query()] = "",
) -> Response:
    """The overview of a course; addresses of a moment, as they were before, lead to the bench."""
    if person or moment:
        where = course_url(number, "day", person=person, moment=moment)
        return RedirectResponse(where, status_code=307)
    return overview_page(request, courses_of(request).get(number), since=since)


@router.get("/courses/{number}/thumb")
def small_strip(request: Request, number: int) -> HTMLResponse:
    """The course as a small strip with its state, for the list of courses."""
    held = courses_of(request).get(number)
    display = display_of(request)
    result = assessed(request, number, held.course)
    return page(
        request,
        "plan/thumb.html",
        held=held,
        facts=course_facts(held.course),
        strip=thumb(held.course, result, display),
        summary=course_sentence(held.course, result),
    )


@router.post("/courses/{number}/next")
def work_out(request: Request, number: int, form: Texts) -> Response:
    """Begin to look for the next best steps, stop, or take one."""
    held = courses_of(request).get(number)
    works, act = works_of(request), form.get("act", "begin")
    about = (number, held.mark, "next")
    if act == "take":
        return _take(request, held, form)
    if act == "stop":
        works.stop(about)
    else:
        works.stop_where(lambda each: _is_stale(each, about))
        result = assessed(request, number, held.course)
        shelves = _shelves(request, number, held.course)
        works.begin(about, partial(next_steps, held.course, result, shelves))
    return RedirectResponse(course_url(number), status_code=303)


def _is_stale(other: object, about: tuple[int, str, str]) -> bool:
    """Whether a work looks for the next steps of a course as it was."""
    return (
        isinstance(other, tuple)
        and (other[0], other[-1]) == (about[0], about[-1])
        and other != about
    )


def _take(request: Request, held: Held, form: dict[str, str]) -> Response:
    """Do one of the steps, in one step of undo."""
    edit = editing(request, held.id, form)
    shelves = _shelves(request, held.id, held.course)
    try:
        step = _STEP.validate_json(form.get("step", ""))
        taken(edit.course, step, shelves)
        name = next_title(edit.course, step, shelves.everything, shelves.stored)
        edit.keep(name, lambda now: taken(now, step, shelves))
    except ValidationError as fault:
        told = "; ".join(faults_at(fault, display_of(request), {}, "step").values())
        message = f"Not kept: {told}."
        return overview_page(request, held, message=message, status=422)
    return RedirectResponse(course_url(held.id, since=held.mark), status_code=303)
