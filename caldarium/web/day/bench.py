"""The bench: one course on one screen, changed in place."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.day.day_heat import day_story
from caldarium.core.physics.bed import GROUNDS
from caldarium.core.physics.wind import EXPOSURES
from caldarium.core.plan.course import Course
from caldarium.core.what_if.cures import (
    additions,
    best_by_region,
    breaking_point,
    cures,
    glove_cures,
)
from caldarium.core.what_if.dial import Dial, turned
from caldarium.core.what_if.try_on import overrule_cost
from caldarium.core.worst import worst_by_kind
from caldarium.drawings.bed import bed_cut
from caldarium.drawings.heat_strip import heat_strip
from caldarium.drawings.load import load_days
from caldarium.drawings.outfit import outfit_cut
from caldarium.drawings.strip import states_by_cell, strip
from caldarium.store.courses import Held
from caldarium.web.cursor import Cursor, check_asked, jumps, place_cursor
from caldarium.web.day.bench_edit import apply_edit, copy_choices, day_entries
from caldarium.web.day.dial import read_dial
from caldarium.web.editing import editing
from caldarium.web.forms import Entry, Texts
from caldarium.web.page import assessed, courses_of, display_of, page, strips_for, wants_part
from caldarium.web.urls import course_url
from caldarium.words.course import course_sentence, moment_name
from caldarium.words.day import (
    breaking_sentence,
    cure_sentence,
    dial_sentence,
    digits_sentence,
    glove_sentence,
    outfit_sentence,
    overrule_sentence,
    story_here_sentence,
    wet_sentence,
)
from caldarium.words.faults import fault_text
from caldarium.words.load import load_sentence
from caldarium.words.night import bed_sentence, shelter_sentence
from caldarium.words.steps_day import (
    explain_additions,
    explain_breaking,
    explain_cures,
    explain_moment,
)
from caldarium.words.steps_load import explain_load
from caldarium.words.steps_night import explain_night, explain_shelter
from caldarium.words.units import Display
from caldarium.words.weather import caution_sentence

router = APIRouter()


@dataclass(frozen=True)
class Rejected:
    """Texts that were not taken, with their messages, to be shown where they were typed."""

    entries: dict[str, Entry] = field(default_factory=dict)
    message: str = ""


def bench_page(
    request: Request,
    held: Held,
    person: str,
    moment: str,
    rejected: Rejected | None = None,
    dialled: Mapping[str, str] | None = None,
    *,
    asked: bool = False,
) -> HTMLResponse:
    """The whole bench; htmx morphs it in place. What was asked for by its address must be there."""
    display = display_of(request)
    rejected = rejected or Rejected()
    dial, dial_entries = read_dial(dialled or {}, display)
    try:
        course = turned(held.course, dial)
    except ValueError as fault:
        course, dial = held.course, Dial()
        rejected = Rejected(
            rejected.entries, f"The dial cannot go there: {fault_text(fault, display)}."
        )
    result = assessed(request, held.id, course, kept=not dial.turned)
    if asked and not dial.turned:
        check_asked(result, person, moment)
    cursor = place_cursor(course, result, person, moment)
    context = _context(held, course, result, cursor, display, strips_for(request))
    context |= {"dial_entries": dial_entries, "dial_words": dial_sentence(dial, display)}
    day = context["moment"].day
    entries = [
        rejected.entries.get(entry.field.name, entry)
        for entry in day_entries(held.course, day, display)
    ]
    template = "day/bench_body.html" if wants_part(request) else "day/bench.html"
    response = page(
        request, template, **context, entries=entries, day=day, message=rejected.message
    )
    response.headers["Vary"] = "HX-Request"
    return response


def _context(
    held: Held,
    course: Course,
    result: Assessment,
    cursor: Cursor,
    display: Display,
    strips: tuple[bool, bool],
) -> dict:
    person = course.person(cursor.person)
    found = next(each for each in result.people if each.person == cursor.person)
    moment = next(each for each in result.timeline.moments if each.id == cursor.moment)
    state = next((each for each in found.moments if each.moment == cursor.moment), None)
    night = _night_for(found.nights, moment.day)
    catalogue = load_catalogue()
    states = states_by_cell(result, display)
    drawn = partial(strip, course, result, cursor.person, cursor.moment)
    wide, narrow = strips
    context = {
        "held": held,
        "course": course,
        "result": result,
        "cursor": cursor,
        "jumps": jumps(course, result, cursor),
        "person": person,
        "found": found,
        "moment": moment,
        "state": state,
        "night_result": night,
        "moment_name": moment_name,
        "worst": worst_by_kind(result),
        "states": states,
        "first_moments": list({m.day: m for m in reversed(result.timeline.moments)}.values())[::-1],
        "catalogue": catalogue,
        "grounds": list(GROUNDS),
        "exposures": list(EXPOSURES),
        "summary": course_sentence(course, result, display),
        "caution_words": caution_sentence(course, display),
        "strip": drawn(display, states=states) if wide else None,
        "day_strip": drawn(display, width=372, only_day=moment.day, states=states)
        if narrow
        else None,
        "load_drawing": load_days(course, found.load, display),
        "load_words": load_sentence(person, found, display),
        "load_steps": explain_load(course, person, found.load, display),
        "shelter_words": [
            (each.fit, shelter_sentence(course, each, display))
            for each in result.shelters
            if each.shelter == person.shelter and night is not None and each.day == night.day
        ],
    }
    if state is not None:
        pieces = catalogue.garments.values()
        added = additions(course, person, moment, state, pieces)
        helping = cures(added, state) if state.state == "gap" else []
        gloves = glove_cures(course, person, moment, state, pieces)
        story = day_story(result.timeline, person, found.moments, moment.day, (moment.id,))
        planned = [m for m in result.timeline.moments if m.day == moment.day and not m.fold]
        breaking = breaking_point(course, person, moment, state)
        context |= {
            "cures": helping[:6],
            "additions": best_by_region(added),
            "glove_words": glove_sentence(state, gloves, display),
            "story_words": story_here_sentence(story, moment.id),
            "heat_drawing": heat_strip(story, [m for m in planned if m.kind != "night"], moment.id),
            "copy_choices": copy_choices(moment),
            "cure_words": cure_sentence(helping, state, display),
            "break_words": breaking_sentence(breaking, display),
            "outfit_drawing": outfit_cut(person, state, display),
            "outfit_words": outfit_sentence(moment, state, display),
            "digit_words": digits_sentence(state, display),
            "overrule_words": overrule_sentence(
                overrule_cost(course, result, cursor.person, cursor.moment)
            ),
            "wet_words": wet_sentence(person, state, display),
            "outfit_steps": explain_moment(moment, state, display)
            + explain_additions(best_by_region(added), display)
            + explain_cures(helping, state, display)
            + explain_breaking(breaking, display),
        }
    if night is not None:
        context |= {
            "bed_drawing": bed_cut(person, night, display),
            "bed_words": bed_sentence(night, display),
            "bed_steps": explain_night(night, display)
            + [
                step
                for each in result.shelters
                if each.shelter == person.shelter and each.day == night.day
                for step in explain_shelter(each, display)
            ],
        }
    return context


def _night_for(nights: tuple, day: int):
    """The night at the end of the day looked at, or the last one."""
    return next((each for each in nights if each.day == day), nights[-1] if nights else None)


@router.get("/courses/{number}")
def show(
    request: Request,
    number: int,
    person: Annotated[str, Query()] = "",
    moment: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """The bench of a course."""
    held = courses_of(request).get(number)
    return bench_page(request, held, person, moment, dialled=request.query_params, asked=True)


@router.post("/courses/{number}/edit")
def change(request: Request, number: int, form: Texts) -> Response:
    """Change what differs in the bench's form; what is wrong is shown where it was typed."""
    edit = editing(request, number, form)
    result = assessed(request, number, edit.course)
    entries, message = apply_edit(edit, form, display_of(request), result)
    person, moment = form.get("person", ""), form.get("moment", "")
    if not wants_part(request) and not entries and not message:
        return RedirectResponse(course_url(number, person=person, moment=moment), status_code=303)
    held = courses_of(request).get(number)
    return bench_page(request, held, person, moment, Rejected(entries, message), form)
