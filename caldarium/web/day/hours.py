"""Other hours for a hot day: a part of the bench that is asked for where somebody is too hot."""

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from caldarium.core.what_if.other_hours import other_hours
from caldarium.web.cursor import LookedAt
from caldarium.web.page import page
from caldarium.words.day import hours_sentence, no_hours_sentence
from caldarium.words.steps_day import explain_hours

router = APIRouter()


@router.get("/courses/{number}/hours")
def show_part(request: Request, seen: LookedAt) -> HTMLResponse:
    """When to set out, or to rest, so that less of the day is hot."""
    found = other_hours(seen.held.course, seen.person, seen.moment.day)
    return page(
        request,
        "day/hours_here.html",
        hours_found=[(hours_sentence(each, found.hot), each) for each in found.others],
        none_words=no_hours_sentence(found.hot),
        hours_steps=explain_hours(found),
    )
