"""One person's day as the body lives it."""

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse

from caldarium.core.day.day_heat import day_story
from caldarium.drawings.story import story_curve
from caldarium.web.cursor import check_asked, place_cursor
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.words.course import moment_name
from caldarium.words.day import story_sentence, told_by_story
from caldarium.words.steps_day import explain_story

router = APIRouter()


@router.get("/courses/{number}/story")
def show(
    request: Request,
    number: int,
    person: Annotated[str, Query()] = "",
    moment: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """Heat and moisture through the day of the moment looked at."""
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    check_asked(result, person, moment)
    cursor = place_cursor(course, result, person, moment)
    moments = {each.id: each for each in result.timeline.moments}
    day = moments[cursor.moment].day
    found = next(each for each in result.people if each.person == cursor.person)
    member = course.person(cursor.person)
    story = day_story(result.timeline, member, found.moments, day)
    return page(
        request,
        "day/story.html",
        held=held,
        course=course,
        person=member,
        cursor=cursor,
        day=day,
        story=story,
        words=story_sentence(story, display),
        told={each.moment: told_by_story(each) for each in story.moments},
        drawing=story_curve(story, [moments[each.moment] for each in story.planned], display),
        steps=explain_story(story, display),
        names={name: moment_name(course, each) for name, each in moments.items()},
        days=list({m.day: m.id for m in reversed(result.timeline.moments)}.items())[::-1],
    )
