"""Courses: the list, a new one, a copy, files in and out, deleting and bringing back."""

import re

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from starlette.datastructures import FormData

from caldarium.core.plan.course import Place
from caldarium.core.plan.track import Track
from caldarium.demo import DEMOS, demo_course
from caldarium.formats.course_json import read_course, write_course
from caldarium.formats.fault import FileError
from caldarium.formats.gpx_files import read_gpx
from caldarium.store.logs import with_log
from caldarium.web.forms import Sent, Texts, file_of
from caldarium.web.page import courses_of, display_of, logs_of, page
from caldarium.web.plan import outline_form, roster_form
from caldarium.web.plan.about import on_dates
from caldarium.web.plan.new_course import (
    SURE,
    Draft,
    answer_to,
    drafted,
    empty_form,
    read_date,
    rearranged,
)
from caldarium.web.urls import course_url
from caldarium.words.faults import fault_text
from caldarium.words.units import Display

router = APIRouter()
REMEMBERED = 30
"""Courses whose places are remembered."""


def _list(request: Request, *, status: int = 200, message: str = "") -> HTMLResponse:
    courses = courses_of(request)
    return page(
        request,
        "plan/courses.html",
        status=status,
        listed=courses.list(),
        demos=DEMOS,
        message=message,
        deleted=courses.last_deleted(),
    )


@router.get("/")
def courses(request: Request) -> HTMLResponse:
    """All courses."""
    return _list(request)


@router.post("/courses/demo")
def open_demo(request: Request, form: Texts) -> Response:
    """A course that ships, as one of the user's own."""
    name = form.get("name", "")
    if name not in DEMOS:
        return _list(request, status=404, message="There is no such course to open.")
    number = courses_of(request).add(demo_course(name), "a course that ships")
    return RedirectResponse(course_url(number), status_code=303)


def _places(request: Request) -> dict[str, Place]:
    """Places of the courses changed last, by their names in small letters."""
    found: dict[str, Place] = {}
    stored = courses_of(request)
    for each in stored.list()[:REMEMBERED]:
        place = stored.get(each.id).course.place
        found.setdefault(place.name.lower(), place)
    return found


def _new_page(request: Request, draft: Draft, answer: str = "") -> HTMLResponse:
    """The page of a new course, and the answer to what it asks once somebody wanted it made."""
    return page(
        request,
        "plan/new_course.html",
        draft=draft,
        form=draft.form,
        errors=draft.errors,
        day_columns=outline_form.COLUMNS,
        choices=outline_form.CHOICES,
        day_key=outline_form.key,
        people_columns=roster_form.COLUMNS,
        people_key=roster_form.key,
        people_defaults=roster_form.defaults_told(display_of(request)),
        kits=roster_form.kit_names(),
        places=sorted(each.name for each in _places(request).values()),
        sure=SURE,
        answer=answer,
    )


@router.get("/courses/new")
def new(request: Request) -> HTMLResponse:
    """The page for a new course."""
    return _new_page(request, Draft(empty_form()))


@router.post("/courses/new")
def create(request: Request, texts: Texts, sent: Sent) -> Response:
    """A new course; or the same page with what was typed, its defaults, and what is wrong or
    asked."""
    display = display_of(request)
    form, message = rearranged(empty_form() | texts)
    way, fault = _way_of(request, form, sent, display)
    draft = drafted(form, display, _places(request), way)
    if fault:
        draft.errors["file"] = fault
    draft.message = message
    making = form.get("action", "make") == "make"
    if making and draft.course is not None and not fault:
        number = courses_of(request).add(draft.course, "made")
        return RedirectResponse(course_url(number), status_code=303)
    if not making:
        # What is not there yet is not wrong yet; what was typed and cannot be read is.
        draft.errors = {name: told for name, told in draft.errors.items() if form.get(name)}
    return _new_page(request, draft, answer_to(draft) if making else "")


def _way_of(
    request: Request, form: dict[str, str], sent: FormData, display: Display
) -> tuple[Track | None, str]:
    """The way of a file that was sent, now or with the page before, and what is wrong with it. A
    browser forgets a chosen file when its page comes back, so the way is kept by a key."""
    ways = request.app.state.ways
    name, data = file_of(sent)
    if not name or not data:
        kept = ways.find(form.get("way", ""))
        form["way_name"] = kept[0] if kept else ""
        return (kept[1] if kept else None), ""
    try:
        track = read_gpx(data)
    except ValueError as fault:
        return None, f"{name}: {fault_text(fault, display)}"
    if not track.has_heights:
        return None, f"{name} has no heights"
    form["way"], form["way_name"] = ways.keep(name, track), name
    return track, ""


@router.get("/courses/{number}/copy")
def ask_copy(request: Request, number: int) -> HTMLResponse:
    """What a copy of a course is to be called and when it begins."""
    held = courses_of(request).get(number)
    form = {"name": f"{held.course.name}, again"[:120], "start": held.course.start.isoformat()}
    return page(request, "plan/copy.html", held=held, course=held.course, form=form, errors={})


@router.post("/courses/{number}/copy")
def copy(request: Request, number: int, form: Texts) -> Response:
    """A course once more on other dates: ways, people and kit as they are, its own clock; hourly
    weather of the old dates stays behind."""
    held = courses_of(request).get(number)
    errors: dict[str, str] = {}
    name = form.get("name", "").strip()
    if not 1 <= len(name) <= 120:
        errors["name"] = "a name of at most 120 letters"
    start = read_date(form, errors)
    if errors or start is None:
        return page(
            request, "plan/copy.html", held=held, course=held.course, form=form, errors=errors
        )
    kept = held.course.sources if start == held.course.start else ()
    made = on_dates(held.course, start).altered(name=name, sources=kept)
    return RedirectResponse(
        course_url(courses_of(request).add(made, f"copied from {held.course.name}")),
        status_code=303,
    )


@router.post("/courses/import")
def import_file(request: Request, form: Sent) -> Response:
    """A course from a file, whole or not at all."""
    name, data = file_of(form)
    if not name:
        return _list(request, message="Choose a file first.")
    try:
        course = read_course(data)
    except FileError as fault:
        return _list(request, message=f"{name} was not taken. {fault}")
    number = courses_of(request).add(course, f"imported {name}")
    return RedirectResponse(course_url(number), status_code=303)


@router.get("/courses/{number}/export")
def export(request: Request, number: int) -> Response:
    """The course as one JSON document."""
    course = with_log(courses_of(request).get(number).course, logs_of(request).of(number))
    name = re.sub(r"[^a-z0-9]+", "-", course.name.lower()).strip("-") or "course"
    return Response(
        write_course(course),
        media_type="application/json",
        headers={"Content-Disposition": f'attachment; filename="{name}.json"'},
    )


@router.post("/courses/{number}/delete")
def remove(request: Request, number: int) -> Response:
    """Put a course away; the list offers it back."""
    courses_of(request).delete(number)
    return RedirectResponse("/", status_code=303)


@router.post("/courses/{number}/restore")
def restore(request: Request, number: int) -> Response:
    """Bring a deleted course back."""
    courses_of(request).restore(number)
    return RedirectResponse(course_url(number), status_code=303)
