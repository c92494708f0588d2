"""The group: where gaps are, worst first, and one cure for several people."""

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import add_piece
from caldarium.core.plan.course import Course
from caldarium.core.what_if.cures import gap_moments, people_by_gaps, shared_cures
from caldarium.web.cursor import check_asked
from caldarium.web.editing import editing
from caldarium.web.forms import Texts
from caldarium.web.page import assessed, courses_of, page
from caldarium.web.urls import course_url
from caldarium.words.course import course_sentence, moment_name
from caldarium.words.day import gap_moment_sentence

router = APIRouter()
SHOWN_CURES = 8


@router.get("/courses/{number}/group")
def show(request: Request, number: int, moment: Annotated[str, Query()] = "") -> HTMLResponse:
    """Gaps by moment, and what would help most people at the one looked at."""
    held = courses_of(request).get(number)
    course = held.course
    result = assessed(request, number, course)
    check_asked(result, "", moment)
    gaps = gap_moments(result)
    moments = {each.id: each for each in result.timeline.moments}
    looked_at = next((each for each in gaps if each.moment == moment), gaps[0] if gaps else None)
    catalogue = list(load_catalogue().garments.values())
    found = shared_cures(course, result, moments[looked_at.moment], catalogue) if looked_at else []
    states = {
        (person.person, state.moment): state for person in result.people for state in person.moments
    }
    return page(
        request,
        "day/group.html",
        states=states,
        order=people_by_gaps(result),
        held=held,
        course=course,
        gaps=gaps,
        looked_at=looked_at,
        moments={name: moment_name(course, each) for name, each in moments.items()},
        people={person.id: person.name.split()[0] for person in course.people},
        cures=found[:SHOWN_CURES],
        summary=course_sentence(course, result),
        words={each.moment: gap_moment_sentence(each, len(course.people)) for each in gaps},
    )


@router.post("/courses/{number}/group")
def give(request: Request, number: int, form: Texts) -> Response:
    """Give one piece of the catalogue to several people, in one step."""
    edit = editing(request, number, form)
    garment = load_catalogue().garments.get(form.get("piece", ""))
    wanted = {edit.course.person(each).id for each in form.get("people", "").split()}
    if garment is not None and wanted:

        def alter(course: Course) -> Course:
            given = (
                add_piece(each, garment) if each.id in wanted else each for each in course.people
            )
            return course.altered(people=tuple(given))

        edit.keep(f"{garment.name} for {len(wanted)}", alter)
    address = course_url(number, "group", moment=form.get("moment", ""))
    return RedirectResponse(address, status_code=303)
