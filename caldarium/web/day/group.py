"""The group: where gaps are, worst first, and one cure for several people."""

from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import add_piece, find_person
from caldarium.core.plan.course import Course
from caldarium.core.what_if.cures import gap_moments, people_by_gaps, shared_cures
from caldarium.web.page import assessed, courses_of, page
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
def give(
    request: Request,
    number: int,
    piece: Annotated[str, Form()] = "",
    people: Annotated[str, Form()] = "",
    moment: Annotated[str, Form()] = "",
) -> Response:
    """Give one piece of the catalogue to several people, in one step."""
    garment = load_catalogue().garments.get(piece)
    wanted = set(people.split())
    if garment is not None and wanted:

        def alter(course: Course) -> Course:
            given = (
                add_piece(find_person(course, each.id), garment) if each.id in wanted else each
                for each in course.people
            )
            return course.altered(people=tuple(given))

        courses_of(request).change(number, f"{garment.name} for {len(wanted)}", alter)
    return RedirectResponse(f"/courses/{number}/group?moment={moment}", status_code=303)


@router.post("/courses/{number}/group/undo")
def undo(request: Request, number: int, moment: Annotated[str, Form()] = "") -> Response:
    """One step back."""
    courses_of(request).undo(number)
    return RedirectResponse(f"/courses/{number}/group?moment={moment}", status_code=303)
