"""Courses: the list, a new one, files in and out, deleting and bringing back."""

import re
from typing import Annotated

from fastapi import APIRouter, File, Request, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.formats.course_json import read_course, write_course
from caldarium.formats.fault import FileError
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.plan.new_course import build_course, empty_form, with_rows

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
async def create(request: Request) -> Response:
    """A new course, or the same form with what was typed and what is wrong."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    if form.get("action", "").startswith(("add", "remove")):
        return page(request, "plan/new_course.html", form=with_rows(form), errors={})
    course, errors = build_course(form, display_of(request))
    if course is None:
        return page(request, "plan/new_course.html", form=with_rows(form), errors=errors)
    number = courses_of(request).add(course, "made")
    return RedirectResponse(f"/courses/{number}", status_code=303)


@router.post("/courses/import")
async def import_file(request: Request, file: Annotated[UploadFile, File()]) -> Response:
    """A course from a file, whole or not at all."""
    try:
        course = read_course(await file.read())
    except FileError as fault:
        name = file.filename or "the file"
        return _list(request, message=f"{name} was not taken. {fault}")
    number = courses_of(request).add(course, f"imported {file.filename}")
    return RedirectResponse(f"/courses/{number}", status_code=303)


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
    return RedirectResponse(f"/courses/{number}", status_code=303)
