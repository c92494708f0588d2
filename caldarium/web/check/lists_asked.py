"""Lists that are asked of a course: chosen, brought in, judged, and what is missing given."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.catalogue import shipped_lists
from caldarium.core.check.cures import cures_for, give_all, shelf_of
from caldarium.core.check.record import broken_since
from caldarium.core.lists.judge import judge
from caldarium.core.lists.kept import must_lines
from caldarium.core.plan.course import Course
from caldarium.core.plan.gear_list import Counted, GearList
from caldarium.core.plan.value import NotThereError
from caldarium.formats.fault import FileError
from caldarium.formats.gear_list_csv import read_gear_list_csv, write_gear_list_csv
from caldarium.formats.gear_list_json import read_gear_list, write_gear_list
from caldarium.store.gear_lists import GearLists
from caldarium.web.check.log import record_for
from caldarium.web.check.panels import (
    line_key,
    list_cards,
    list_panels,
    only_listed,
    open_rows,
)
from caldarium.web.editing import Editing, editing
from caldarium.web.forms import Sent, Texts, file_of
from caldarium.web.page import assessed, courses_of, display_of, idle_of, judged_of, page
from caldarium.web.stock.lending import supply_for
from caldarium.web.urls import course_url
from caldarium.words import check as words
from caldarium.words.faults import fault_text

router = APIRouter()
MOST_OPEN = 60
"""Open lines that are shown with their cures at once."""


@dataclass(frozen=True)
class Looking:
    """Whether the grams that are carried for lists alone are asked for; and from which open line
    on."""

    only: str = ""
    first: str = ""


@dataclass(frozen=True)
class Answer:
    """What came of a form: a message, and what is wrong with a file."""

    message: str = ""
    error: str = ""


def every_list(request: Request) -> dict[str, GearList]:
    """Lists that can be chosen, by id: the school's own, then those that ship."""
    kept: GearLists = request.app.state.gear_lists
    found = {each.id: each for each in kept.all()}
    return found | {each.id: each for each in shipped_lists() if each.id not in found}


@router.get("/courses/{number}/check")
def show(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """What lists ask, and how everybody stands."""
    return _page(request, number, looking, Answer())


def _page(request: Request, number: int, looking: Looking, answer: Answer) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    judged = judged_of(request, held, result)
    shelf = shelf_of(supply_for(request, number, course)) if course.lists else []
    broken = broken_since(judged, record_for(request, number))
    first = int(looking.first) if looking.first.isdecimal() and len(looking.first) < 6 else 0
    rows = open_rows(course, judged, display)
    first = first if first < len(rows) else 0
    only = None
    if looking.only and course.lists:
        idle = {each.id: idle_of(request, held, result, each.id) for each in course.people}
        only = only_listed(course, result, idle, display)
    return page(
        request,
        "check/lists.html",
        held=held,
        course=course,
        sentence=words.lists_sentence(judged, must_lines(course)),
        cards=list_cards(course, judged),
        choices=[
            (each.id, each.name, words.list_facts(each))
            for each in every_list(request).values()
            if each.id not in {own.id for own in course.lists}
        ],
        rows=[
            row.with_cures(cures_for(course, row.judged, shelf), display)
            for row in rows[first : first + MOST_OPEN]
        ],
        first=first,
        parts=[
            (at, f"{at + 1} to {min(at + MOST_OPEN, len(rows))}")
            for at in range(0, len(rows), MOST_OPEN)
        ],
        panels=list_panels(course, judged, display),
        only=only,
        broken=[words.broken_words(course, who, lost) for who, lost in broken.items()],
        message=answer.message,
        error=answer.error,
    )


@router.get("/courses/{number}/check/list.{kind}")
def export(request: Request, number: int, kind: str, name: str = "") -> Response:
    """One list of a course as JSON or CSV."""
    course = courses_of(request).get(number).course
    found = next((each for each in course.lists if each.id == name), None)
    if found is None or kind not in ("json", "csv"):
        raise NotThereError("list", name)
    text = write_gear_list(found) if kind == "json" else write_gear_list_csv(found)
    return Response(
        text,
        media_type="application/json" if kind == "json" else "text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="list-{found.id}.{kind}"'},
    )


@router.post("/courses/{number}/check/file")
def bring_in(request: Request, number: int, sent: Sent) -> Response:
    """A list from a file, JSON or CSV; kept for other courses as well."""
    form = {name: str(value) for name, value in sent.items() if isinstance(value, str)}
    name, data = file_of(sent)
    if not name:
        return _page(request, number, Looking(), Answer(error="Choose a file first."))
    stem = name.rpartition(".")[0] or name
    try:
        found = (
            read_gear_list(data)
            if data.lstrip()[:1] == b"{"
            else read_gear_list_csv(data, stem[:120])
        )
    except FileError as fault:
        return _page(request, number, Looking(), Answer(error=f"{name} was not taken. {fault}"))
    kept: GearLists = request.app.state.gear_lists
    edit = editing(request, number, form)
    try:
        edit.keep(f"list {found.name}", partial(_with_list, listed=found))
    except ValidationError as fault:
        told = fault_text(fault, display_of(request))
        return _page(request, number, Looking(), Answer(error=f"{name} was not taken: {told}."))
    kept.put(found)
    return RedirectResponse(course_url(number, "check"), 303)


def _with_list(course: Course, listed: GearList) -> Course:
    """The course with a list; one of its id before is replaced."""
    others = tuple(each for each in course.lists if each.id != listed.id)
    return course.altered(lists=(*others, listed))


def _without_list(course: Course, which: str) -> Course:
    return course.altered(
        lists=tuple(each for each in course.lists if each.id != which),
        counted=tuple(each for each in course.counted if each.list != which),
    )


@router.post("/courses/{number}/check")
def change(request: Request, number: int, form: Texts) -> Response:
    """Ask a list or not, say what counts, give what is missing."""
    edit, display = editing(request, number, form), display_of(request)
    act, _, value = form.get("act", "").partition("=")
    looking = Looking(form.get("only", ""), form.get("first", ""))
    message = ""
    try:
        if act == "add":
            message = _add(request, edit, form.get("list", ""))
        elif act == "drop":
            edit.keep("a list is not asked any more", partial(_without_list, which=value))
        elif act in ("counts", "counts-not", "unsaid"):
            _count(edit, act, value)
        elif act == "give":
            message = _give(request, edit, form, value)
    except ValidationError as fault:
        message = f"Not kept: {fault_text(fault, display)}."
    if message:
        return _page(request, number, looking, Answer(message=message))
    return RedirectResponse(course_url(number, "check", **vars(looking)), 303)


def _add(request: Request, edit: Editing, which: str) -> str:
    found = every_list(request).get(which)
    if found is None:
        return "Choose a list first."
    edit.keep(f"list {found.name}", partial(_with_list, listed=found))
    return ""


def _count(edit: Editing, act: str, value: str) -> None:
    """Let a piece count for a line, not count, or as its name and sort say."""
    which, entry, piece = (*value.split(" ", 2), "", "", "")[:3]
    listed = next((each for each in edit.course.lists if each.id == which), None)
    if listed is None or listed.entry(entry) is None:
        raise NotThereError("line", entry)

    def alter(course: Course) -> Course:
        about = (which, entry, piece)
        others = tuple(e for e in course.counted if (e.list, e.entry, e.piece) != about)
        if act == "unsaid":
            return course.altered(counted=others)
        said = Counted(list=which, entry=entry, piece=piece, counts=act == "counts")
        return course.altered(counted=(*others, said))

    edit.keep("what counts for a list", alter)


def _give(request: Request, edit: Editing, form: Mapping[str, str], value: str) -> str:
    """Give what is missing for one line to one person, or to everybody whom it is missing; tells
    what came of it."""
    course = edit.course
    timeline = assessed(request, edit.number, course, kept=False).timeline
    before = judge(course, timeline)
    asked = next((each for each in before if line_key(each) == value), None)
    if asked is None:
        raise NotThereError("line", value)
    to = form.get(f"to {value}", "")
    same = [e for e in before if (e.list, e.entry) == (asked.list, asked.entry) and not e.good]
    if asked.subject.of not in ("head", "instructor"):
        same = [asked]
    elif to != "all":
        same = [each for each in same if each.subject.id == (to or asked.subject.id)]
    supply = supply_for(request, edit.number, course)
    carrier = to or course.people[0].id
    after, given = give_all(course, same, form.get(f"cure {value}", ""), carrier, supply)
    if not given:
        return "Nothing was given: choose a piece that is there for it."
    told = words.given_words(course, given, display_of(request))
    edit.keep(told, lambda _course: after)
    was, now = (sum(not each.good for each in found) for found in (before, judge(after, timeline)))
    return f"{told}: {was} open lines became {now}."
