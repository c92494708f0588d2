"""Other hours for a hot day: a part of the bench that is asked for where somebody is too hot."""

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse

from caldarium.core.what_if.other_hours import other_hours
from caldarium.web.cursor import check_asked, place_cursor
from caldarium.web.page import assessed, courses_of, page
from caldarium.words.day import hours_sentence, no_hours_sentence

router = APIRouter()


@router.get("/courses/{number}/hours")
def show_part(
    request: Request,
    number: int,
    person: Annotated[str, Query()] = "",
    moment: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """When to set out, or to rest, so that less of the day is hot."""
    held = courses_of(request).get(number)
    result = assessed(request, number, held.course)
    check_asked(result, person, moment)
    cursor = place_cursor(held.course, result, person, moment)
    day = result.timeline.moment(cursor.moment).day
    found = other_hours(held.course, held.course.person(cursor.person), day)
    return page(
        request,
        "day/hours_here.html",
        hours_found=[(hours_sentence(each, found.hot), each) for each in found.others],
        none_words=no_hours_sentence(found.hot),
    )
