"""Climate: planning values for a course's dates from an hourly file."""

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.plan.course import Course
from caldarium.core.timeline.climate import (
    PlanningValues,
    apply_planning,
    at_heights,
    planning_values,
)
from caldarium.formats.climate_files import read_climate
from caldarium.web.editing import editing
from caldarium.web.forms import Sent, Texts, file_of
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.urls import course_url
from caldarium.words.faults import fault_text
from caldarium.words.outline import far_sentence

router = APIRouter()


def _climate_page(
    request: Request,
    number: int,
    *,
    values: PlanningValues | None = None,
    message: str = "",
    far: str = "",
) -> HTMLResponse:
    held = courses_of(request).get(number)
    return page(
        request,
        "weather/climate.html",
        held=held,
        course=held.course,
        values=values,
        message=message,
        far=far,
        heights=at_heights(held.course, values) if values else [],
    )


@router.get("/courses/{number}/climate")
def show(request: Request, number: int) -> HTMLResponse:
    """Where the conditions come from, and the form for a file."""
    return _climate_page(request, number)


@router.post("/courses/{number}/climate")
def load(request: Request, number: int, form: Texts, sent: Sent) -> Response:
    """Show what a file says of these dates, or take it for the course."""
    edit, display = editing(request, number, form), display_of(request)
    name, data = file_of(sent)
    if not name:
        return _climate_page(request, number, message="Choose a file first.")
    try:
        record = read_climate(data)
        place = edit.course.place
        far = far_sentence(place, record.latitude, record.longitude, "station", display)
        values = planning_values(record, edit.course.start, len(edit.course.days))
        if form.get("action", "look") != "take":
            return _climate_page(request, number, values=values, far=far)
        edit.keep(
            f"conditions from {values.station}",
            lambda now: _taken(apply_planning(now, values), far),
        )
    except ValueError as fault:
        message = f"{name}: {fault_text(fault, display)}. Nothing was changed."
        return _climate_page(request, number, message=message)
    return RedirectResponse(course_url(number, "route"), status_code=303)


def _taken(course: Course, far: str) -> Course:
    """The course with its conditions' source told together with what is asked of it."""
    if not far:
        return course
    return course.altered(conditions_source=f"{course.conditions_source}; {far}"[:300])
