"""The strip as a table: every person at every moment, in words and figures."""

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.words.course import moment_name
from caldarium.words.day import bed_cell, moment_cell

router = APIRouter()


@router.get("/courses/{number}/table")
def show(request: Request, number: int) -> HTMLResponse:
    """All that the strip shows, and what decides it."""
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    cells = {
        (person.person, state.moment): moment_cell(state)
        for person in result.people
        for state in person.moments
    }
    cells |= {
        (person.person, night.moment): bed_cell(night, display)
        for person in result.people
        for night in person.nights
    }
    return page(
        request,
        "day/table.html",
        held=held,
        course=course,
        moments=result.timeline.moments,
        cells=cells,
        moment_name=moment_name,
    )
