"""What to lay out for each morning and for camp, by person, on a phone and on paper."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse

from caldarium.core.assess import Assessment
from caldarium.core.check.laid_out import LaidOut, laid_out
from caldarium.core.pack.contents import first_walk
from caldarium.core.plan.course import Course, Person
from caldarium.store.courses import Held
from caldarium.web.forms import whole
from caldarium.web.pack.pack import plan_of
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.words.course import weekday
from caldarium.words.laid_out import LaidWords, laid_words

router = APIRouter()
AT_ONCE = 12
"""Cards on one page."""


@dataclass(frozen=True)
class Looking:
    """Whose things, on which day; everybody's cards where `all` is said, from which person on."""

    person: str = ""
    day: str = ""
    all: str = ""
    first: str = ""


@router.get("/courses/{number}/check/laid-out")
def show(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """One person's day laid out, or everybody's to print."""
    held = courses_of(request).get(number)
    course = held.course
    result = assessed(request, number, course)
    day = whole(looking.day, 0, len(course.days) - 1) or 0
    person = course.person(looking.person or course.people[0].id)
    first = whole(looking.first, 0, len(course.people) - 1) or 0
    people = course.people[first : first + AT_ONCE] if looking.all else (person,)
    return page(
        request,
        "check/laid_out.html",
        held=held,
        course=course,
        person=person,
        day=day,
        whole_party=bool(looking.all),
        first=first,
        parts=[
            (at, f"{at + 1} to {min(at + AT_ONCE, len(course.people))}")
            for at in range(0, len(course.people), AT_ONCE)
        ]
        if looking.all
        else [],
        days=[(at, weekday(course, at, whole=True)) for at in range(len(course.days))],
        cards=[(each, _laid(request, held, result, each, day)) for each in people],
    )


def _laid(request: Request, held: Held, result: Assessment, person: Person, day: int) -> LaidWords:
    walks = first_walk(result.timeline, day) is not None
    plan = plan_of(request, held, result, person, day) if walks else None
    course: Course = held.course
    found: LaidOut = laid_out(course, person, result, day, plan)
    return laid_words(course, found, plan, display_of(request))
