"""Courses: the list, a new one, files in and out, deleting and bringing back."""

import re

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.formats.course_json import read_course, write_course
from caldarium.formats.fault import FileError
from caldarium.web.forms import Sent, Texts, file_of
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.plan.new_course import build_course, empty_form, with_rows
from caldarium.web.urls import course_url

router = APIRouter()


def _list(request: Request, *, status: int = 200, message: str = "") -> HTMLResponse:
    courses = courses_of(request)
    return page(
        request,
        "plan/courses.html",
        status=status,
        listed=courses.list(),
        message=message,
        deleted=courses.last_deleted(),
    )


@router.get("/")
def courses(request: Request) -> HTMLResponse:
    """All courses."""
    return _list(request)


@router.get("/courses/new")
def new(request: Request) -> HTMLResponse:
    """The form for a new course."""
    return page(request, "plan/new_course.html", form=empty_form(display_of(request)), errors={})


@router.post("/courses/new")
def create(request: Request, form: Texts) -> Response:
    """A new course, or the same form with what was typed and what is wrong."""
    if form.get("action", "").startswith(("add", "remove")):
        return page(request, "plan/new_course.html", form=with_rows(form), errors={})
    course, errors = build_course(form, display_of(request))
    if course is None:
        return page(request, "plan/new_course.html", form=with_rows(form), errors=errors)
    number = courses_of(request).add(course, "made")
    return RedirectResponse(course_url(number), status_code=303)


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
    course = courses_of(request).get(number).course
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
