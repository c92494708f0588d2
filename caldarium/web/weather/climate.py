"""Climate: planning values for a course's dates from an hourly file."""

from typing import Annotated

from fastapi import APIRouter, File, Form, Request, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.timeline.climate import (
    PlanningValues,
    apply_planning,
    at_heights,
    planning_values,
)
from caldarium.formats.climate_files import read_climate
from caldarium.formats.fault import FileError
from caldarium.web.page import courses_of, page

router = APIRouter()


def _climate_page(
    request: Request, number: int, *, values: PlanningValues | None = None, message: str = ""
) -> HTMLResponse:
    held = courses_of(request).get(number)
    return page(
        request,
        "weather/climate.html",
        held=held,
        course=held.course,
        values=values,
        message=message,
        heights=at_heights(held.course, values) if values else [],
    )


@router.get("/courses/{number}/climate")
def show(request: Request, number: int) -> HTMLResponse:
    """Where the conditions come from, and the form for a file."""
    return _climate_page(request, number)


@router.post("/courses/{number}/climate")
async def load(
    request: Request,
    number: int,
    file: Annotated[UploadFile, File()],
    action: Annotated[str, Form()] = "look",
) -> Response:
    """Show what a file says of these dates, or take it for the course."""
    held = courses_of(request).get(number)
    name = file.filename or "the file"
    try:
        record = read_climate(await file.read())
        values = planning_values(record, held.course.start, len(held.course.days))
    except FileError as fault:
        return _climate_page(request, number, message=f"{name}: {fault}. Nothing was changed.")
    except ValueError as fault:
        return _climate_page(request, number, message=f"{name}: {fault}. Nothing was changed.")
    if action != "take":
        return _climate_page(request, number, values=values)
    courses_of(request).change(
        number, f"conditions from {values.station}", lambda now: apply_planning(now, values)
    )
    return RedirectResponse(f"/courses/{number}", status_code=303)
