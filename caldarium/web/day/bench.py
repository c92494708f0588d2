"""The bench: one course on one screen, changed in place."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.day.day_heat import day_story
from caldarium.core.physics.bed import GROUNDS
from caldarium.core.physics.wind import EXPOSURES
from caldarium.core.plan.changes import find_person
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
from caldarium.web.day.bench_edit import apply_edit, copy_choices, day_entries, words_of
from caldarium.web.day.dial import read_dial
from caldarium.web.fields import Entry
from caldarium.web.page import assessed, courses_of, display_of, page, strips_for
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
GAP_ORDER = {"gap": 0, "hot": 1}


@dataclass(frozen=True)
class Cursor:
    """What is looked at: a person and a moment."""

    person: str
    moment: str


def place_cursor(course: Course, result: Assessment, person: str, moment: str) -> Cursor:
    """The asked-for cursor where it exists, else the worst gap of the course."""
    people = {each.person for each in result.people}
    moments = {each.id for each in result.timeline.moments}
    if person in people and moment in moments:
        return Cursor(person, moment)
    shown = [
        (each.gap, found.person, each.moment)
        for found in result.people
        for each in found.moments
        if each.state == "gap"
        and each.kind == "halt"
        and (person not in people or found.person == person)
    ]
    if shown and moment not in moments:
        _, worst_person, worst_moment = max(shown)
        return Cursor(worst_person, worst_moment)
    first = result.timeline.moments[0].id
    return Cursor(
        person if person in people else course.people[0].id, moment if moment in moments else first
    )


def jumps(course: Course, result: Assessment, cursor: Cursor) -> dict[str, Cursor]:
    """Where each step key leads: moments, people, and problems either way."""
    moments = [each.id for each in result.timeline.moments]
    people = [each.id for each in course.people]
    column, row = moments.index(cursor.moment), people.index(cursor.person)
    found = {
        "next_moment": Cursor(cursor.person, moments[(column + 1) % len(moments)]),
        "previous_moment": Cursor(cursor.person, moments[(column - 1) % len(moments)]),
        "next_person": Cursor(people[(row + 1) % len(people)], cursor.moment),
        "previous_person": Cursor(people[(row - 1) % len(people)], cursor.moment),
    }
    troubles = sorted(
        (people.index(each.person), moments.index(state.moment))
        for each in result.people
        for state in (*each.moments, *each.nights)
        if state.state in GAP_ORDER
    )
    if troubles:
        here = (row, column)
        later = [each for each in troubles if each > here] or troubles
        earlier = [each for each in troubles if each < here] or troubles
        for name, (p, m) in (("next_gap", later[0]), ("previous_gap", earlier[-1])):
            found[name] = Cursor(people[p], moments[m])
    return found


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
) -> HTMLResponse:
    """The whole bench; htmx morphs it in place."""
    display = display_of(request)
    rejected = rejected or Rejected()
    dial, dial_entries = read_dial(dialled or {}, display)
    try:
        course = turned(held.course, dial)
    except ValueError as fault:
        course, dial = held.course, Dial()
        rejected = Rejected(rejected.entries, f"The dial cannot go there: {words_of(fault)}.")
    result = assessed(request, held.id, course, kept=not dial.turned)
    cursor = place_cursor(course, result, person, moment)
    context = _context(held, course, result, cursor, display, strips_for(request))
    context |= {"dial_entries": dial_entries, "dial_words": dial_sentence(dial, display)}
    day = context["moment"].day
    entries = [
        rejected.entries.get(entry.field.name, entry)
        for entry in day_entries(held.course, day, display)
    ]
    template = "day/bench_body.html" if request.headers.get("hx-request") else "day/bench.html"
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
    person = find_person(course, cursor.person)
    found = next(each for each in result.people if each.person == cursor.person)
    moment = next(each for each in result.timeline.moments if each.id == cursor.moment)
    state = next((each for each in found.moments if each.moment == cursor.moment), None)
    night = _night_for(found.nights, moment.day)
    catalogue = load_catalogue()
    states = states_by_cell(result)
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
        "summary": course_sentence(course, result),
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
            "outfit_words": outfit_sentence(moment, state),
            "digit_words": digits_sentence(state),
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
    return bench_page(request, held, person, moment, dialled=request.query_params)


@router.post("/courses/{number}/edit")
async def edit(request: Request, number: int) -> Response:
    """Change what differs in the bench's form; what is wrong is shown where it was typed."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    courses = courses_of(request)
    course = courses.get(number).course
    result = assessed(request, number, course)
    entries, message = apply_edit(courses, number, course, form, display_of(request), result)
    return _answer(request, number, form, Rejected(entries, message))


@router.post("/courses/{number}/undo")
async def undo(request: Request, number: int) -> Response:
    """One step back."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    done = courses_of(request).undo(number)
    return _answer(request, number, form, Rejected(message="" if done else "Nothing to undo."))


@router.post("/courses/{number}/redo")
async def redo(request: Request, number: int) -> Response:
    """One step forward again."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    done = courses_of(request).redo(number)
    return _answer(request, number, form, Rejected(message="" if done else "Nothing to redo."))


def _answer(request: Request, number: int, form: dict[str, str], rejected: Rejected) -> Response:
    person, moment = form.get("person", ""), form.get("moment", "")
    plain = not request.headers.get("hx-request")
    if plain and not rejected.entries and not rejected.message:
        address = f"/courses/{number}?person={person}&moment={moment}"
        return RedirectResponse(address, status_code=303)
    return bench_page(request, courses_of(request).get(number), person, moment, rejected, form)


@router.post("/units")
def units(request: Request, units: Annotated[str, Form()] = "metric") -> Response:
    """Choose the units shown in this browser."""
    return _remember(request, "units", "customary" if units == "customary" else "metric")


@router.post("/light")
def light(request: Request, light: Annotated[str, Form()] = "day") -> Response:
    """Choose the page's light in this browser: day, or low glare for a headlamp."""
    return _remember(request, "light", "low" if light == "low" else "day")


def _remember(request: Request, name: str, value: str) -> Response:
    referer = request.headers.get("referer", "/")
    path = "/" + referer.split("://")[-1].partition("/")[2]
    response = RedirectResponse(path, status_code=303)
    response.set_cookie(name, value, max_age=31536000, samesite="strict", httponly=True)
    return response
