"""Other hours for a hot day: a part of the bench that is asked for where somebody is too hot."""

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from caldarium.core.what_if.heat_day import heat_day
from caldarium.core.what_if.other_hours import other_hours
from caldarium.web.cursor import LookedAt
from caldarium.web.page import display_of, page
from caldarium.words.day import hours_sentence, no_hours_sentence
from caldarium.words.heat import explain_heat_day, heat_moment_sentence
from caldarium.words.steps_day import explain_hours

router = APIRouter()


@router.get("/courses/{number}/hours")
def show_part(request: Request, seen: LookedAt) -> HTMLResponse:
    """When to set out, or to rest, so that less of the day is hot."""
    course, display = seen.held.course, display_of(request)
    found = other_hours(course, seen.person, seen.moment.day)
    strain = heat_day(course, seen.result.timeline, seen.person, seen.moment.day)
    return page(
        request,
        "day/hours_here.html",
        hours_found=[(hours_sentence(each, found.hot), each) for each in found.others],
        none_words=no_hours_sentence(found.hot),
        heat_words=heat_moment_sentence(strain.of(seen.moment.id), display),
        hours_steps=explain_hours(found) + explain_heat_day(strain, display),
    )
