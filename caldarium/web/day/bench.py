"""The bench: one course on one screen, changed in place."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.day.day_heat import DayStory
from caldarium.core.physics.bed import GROUNDS
from caldarium.core.physics.wind import EXPOSURES
from caldarium.core.plan.course import Person
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.dial import Dial, turned
from caldarium.store.courses import Held
from caldarium.web.cursor import check_asked, place_cursor
from caldarium.web.day.bench_edit import apply_edit
from caldarium.web.day.bench_panels import bed_panel, course_panel, load_panel, outfit_panel
from caldarium.web.day.dial import read_dial
from caldarium.web.day.story import body_part, stories_of
from caldarium.web.editing import editing
from caldarium.web.forms import Entry, Texts
from caldarium.web.page import assessed, courses_of, display_of, page, strips_for, wants_part
from caldarium.web.urls import course_url
from caldarium.web.weather.day_fields import day_entries
from caldarium.words.course import moment_name
from caldarium.words.day import (
    dial_sentence,
)
from caldarium.words.faults import fault_text

router = APIRouter()


@dataclass(frozen=True)
class Rejected:
    """Texts that were not taken, with their messages, to be shown where they were typed."""

    entries: dict[str, Entry] = field(default_factory=dict)
    message: str = ""


@dataclass(frozen=True)
class Looking:
    """Where one looks on the bench, and what of it was not taken."""

    person: str
    moment: str
    dialled: Mapping[str, str] = field(default_factory=dict)
    rejected: Rejected = field(default_factory=Rejected)
    before: Assessment | None = None
    """What was found before the change that was just made."""
    asked: bool = False
    """Whether an address asks for person and moment, which then must be there."""


def bench_page(request: Request, held: Held, looking: Looking) -> HTMLResponse:
    """The whole bench; htmx morphs it in place."""
    display = display_of(request)
    message = looking.rejected.message
    dial, dial_entries = read_dial(looking.dialled, display)
    try:
        course = turned(held.course, dial)
    except ValueError as fault:
        course, dial = held.course, Dial()
        message = f"The dial cannot go there: {fault_text(fault, display)}."
    result = assessed(request, held.id, course, kept=not dial.turned)
    if looking.asked and not dial.turned:
        check_asked(result, looking.person, looking.moment)
    cursor = place_cursor(course, result, looking.person, looking.moment)
    person, found = course.person(cursor.person), result.of(cursor.person)
    moment = result.timeline.moment(cursor.moment)
    state = next((each for each in found.moments if each.moment == cursor.moment), None)
    night = _night_for(found.nights, moment.day)
    entries = [
        looking.rejected.entries.get(entry.field.name, entry)
        for entry in day_entries(held.course, moment.day, display)
    ]
    panels: list[object] = [
        course_panel(course, result, cursor, display, strips_for(request), looking.before),
        load_panel(course, person, found, display),
    ]
    if state is not None:
        panels.append(outfit_panel(course, result, person, state, display))
        story = _story(request, result, person, moment, dial)
        if story is not None:
            panels.append(body_part(story, result, moment))
    if night is not None:
        panels.append(bed_panel(course, result, person, night, display))
    response = page(
        request,
        "day/bench_body.html" if wants_part(request) else "day/bench.html",
        *panels,
        held=held,
        course=course,
        cursor=cursor,
        person=person,
        found=found,
        moment=moment,
        moments=result.timeline.moments,
        day=moment.day,
        state=state,
        night_result=night,
        entries=entries,
        dial_entries=dial_entries,
        dial_words=dial_sentence(dial, display),
        message=message,
        catalogue=load_catalogue(),
        moment_name=moment_name,
        grounds=list(GROUNDS),
        exposures=list(EXPOSURES),
    )
    response.headers["Vary"] = "HX-Request"
    return response


def _story(
    request: Request, result: Assessment, person: Person, moment: Moment, dial: Dial
) -> DayStory | None:
    """How the body does, where that is known already; else the page asks for it. What the dial
    turns to is nowhere else."""
    stories = stories_of(request)
    if dial.turned:
        return stories.of(result, person, moment.day)
    return stories.known(result, person, moment.day)


def _night_for(nights: tuple, day: int):
    """The night at the end of the day looked at, or the last one."""
    return next((each for each in nights if each.day == day), nights[-1] if nights else None)


@router.get("/courses/{number}/day")
def show(
    request: Request,
    number: int,
    person: Annotated[str, Query()] = "",
    moment: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """The bench of a course."""
    held = courses_of(request).get(number)
    looking = Looking(person, moment, request.query_params, asked=True)
    return bench_page(request, held, looking)


@router.post("/courses/{number}/edit")
def change(request: Request, number: int, form: Texts) -> Response:
    """Change what differs in the bench's form; what is wrong is shown where it was typed."""
    edit = editing(request, number, form)
    result = assessed(request, number, edit.course)
    entries, message = apply_edit(edit, form, display_of(request), result)
    person, moment = form.get("person", ""), form.get("moment", "")
    if not wants_part(request) and not entries and not message:
        return RedirectResponse(
            course_url(number, "day", person=person, moment=moment), status_code=303
        )
    held = courses_of(request).get(number)
    looking = Looking(person, moment, form, Rejected(entries, message), result)
    return bench_page(request, held, looking)
