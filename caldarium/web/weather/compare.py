"""Two weathers of a course side by side, and an ensemble's chance of each gap: long work both."""

from functools import partial
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.plan.course import Course
from caldarium.core.timeline.hour_table import TYPED_NAME
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.what_if.compare import TYPED_ONLY, compare, gap_chances, members_of, ruled_by
from caldarium.web.forms import Texts
from caldarium.web.page import courses_of, page, works_of
from caldarium.web.urls import course_url
from caldarium.words.course import moment_name
from caldarium.words.steps_weather import explain_chances

router = APIRouter()


def _names(course: Course) -> dict[str, str]:
    return {TYPED_ONLY: TYPED_NAME} | {source.id: source.name for source in course.sources}


@router.get("/courses/{number}/compare")
def show_comparison(
    request: Request,
    number: int,
    before: Annotated[str, Query()] = "",
    after: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """Two sources of a course's weather side by side, and the verdicts that differ."""
    held = courses_of(request).get(number)
    course, names = held.course, _names(held.course)
    unknown = next((each for each in (before, after) if each not in names), None)
    return page(
        request,
        "weather/compare.html",
        held=held,
        course=course,
        work=works_of(request).of((number, held.mark, "compare", before, after)),
        message="" if unknown is None else f"There is no source {unknown[:60]} in this course.",
        before=names.get(before, before),
        after=names.get(after, after),
        people={person.id: person.name for person in course.people},
        moments={m.id: moment_name(course, m) for m in build_timeline(course).moments},
        names=list(names.items()),
        chosen=(before, after),
    )


@router.post("/courses/{number}/compare")
def work_out_comparison(request: Request, number: int, form: Texts) -> Response:
    """Begin to compare two sources, or stop."""
    held = courses_of(request).get(number)
    before, after = form.get("before", ""), form.get("after", "")
    about = (number, held.mark, "compare", before, after)
    if form.get("act") == "stop":
        works_of(request).stop(about)
    elif {before, after} <= set(_names(held.course)):
        one, other = (ruled_by(held.course, each) for each in (before, after))
        works_of(request).begin(about, partial(compare, one, other))
    where = course_url(number, "compare", before=before[:200], after=after[:200])
    return RedirectResponse(where, status_code=303)


@router.get("/courses/{number}/chances")
def show_chances(request: Request, number: int) -> HTMLResponse:
    """The chance of each gap over an ensemble's runs."""
    held = courses_of(request).get(number)
    course = held.course
    work = works_of(request).of((number, held.mark, "chances"))
    chances = (work.outcome if work else None) or {}
    ensemble = members_of(course)
    return page(
        request,
        "weather/chances.html",
        held=held,
        course=course,
        work=work,
        chances=chances,
        ensemble=ensemble,
        steps=explain_chances(len(ensemble.members)) if ensemble else [],
        moments=[
            (m.id, moment_name(course, m))
            for m in build_timeline(course).moments
            if any(chances.get((person.id, m.id), 0) > 0 for person in course.people)
        ],
    )


@router.post("/courses/{number}/chances")
def work_out_chances(request: Request, number: int, form: Texts) -> Response:
    """Begin to judge every run of the ensemble, or stop."""
    held = courses_of(request).get(number)
    about = (number, held.mark, "chances")
    if form.get("act") == "stop":
        works_of(request).stop(about)
    elif members_of(held.course):
        works_of(request).begin(about, partial(gap_chances, held.course))
    return RedirectResponse(course_url(number, "chances"), status_code=303)
