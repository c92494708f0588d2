"""Two outfits, or two people, side by side; nothing is kept until it is asked for."""

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.assess import Assessment
from caldarium.core.plan.changes import wear, with_person
from caldarium.core.plan.course import Course
from caldarium.core.what_if.try_on import TriedOn, try_on
from caldarium.drawings.outfit import outfit_cut
from caldarium.web.cursor import check_asked, place_cursor
from caldarium.web.editing import editing
from caldarium.web.forms import Texts
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.urls import course_url
from caldarium.words.course import moment_name
from caldarium.words.day import breaking_sentence, digits_sentence, outfit_sentence, wet_sentence
from caldarium.words.outfit_table import comparison, reach_of
from caldarium.words.steps_day import explain_moment
from caldarium.words.units import Display

router = APIRouter()
SIDES = ("a", "b")


@router.get("/courses/{number}/outfits")
def show(request: Request, number: int) -> HTMLResponse:
    """Both sides, each with its person, its moment and its pieces on or off."""
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    for side in SIDES:
        query = request.query_params
        check_asked(result, query.get(f"{side}_person", ""), query.get(f"{side}_moment", ""))
    sides = {side: _side(request, course, result, side) for side in SIDES}
    return page(
        request,
        "day/outfits.html",
        held=held,
        course=course,
        sides=sides,
        awake=[each for each in result.timeline.moments if each.kind != "night"],
        moment_name=moment_name,
        rows=comparison(sides["a"], sides["b"], display),
        drawings={
            side: outfit_cut(each.person, each.state, display, reach=reach_of(sides.values()))
            for side, each in sides.items()
        },
        steps={
            side: explain_moment(each.moment, each.state, display) for side, each in sides.items()
        },
        words={side: _words(each, display) for side, each in sides.items()},
    )


def _side(request: Request, course: Course, result: Assessment, side: str) -> TriedOn:
    """One side as the address asks for it; pieces count only for the person they were ticked for,
    and the moment they were ticked at."""
    query = request.query_params
    cursor = place_cursor(
        course, result, query.get(f"{side}_person", ""), query.get(f"{side}_moment", "")
    )
    awake = [each.id for each in result.timeline.moments if each.kind != "night"]
    moment = cursor.moment if cursor.moment in awake else awake[0]
    ticked_for = query.get(f"{side}_for")
    worn = query.getlist(f"{side}_worn") if ticked_for == f"{cursor.person}@{moment}" else None
    return try_on(course, result, cursor.person, moment, worn)


def _words(side: TriedOn, display: Display) -> list[str]:
    found = [
        outfit_sentence(side.moment, side.state, display),
        digits_sentence(side.state, display),
        wet_sentence(side.person, side.state, display),
        breaking_sentence(side.breaking, display),
    ]
    return [words for words in found if words]


@router.post("/courses/{number}/outfits")
def keep(request: Request, number: int, form: Texts) -> Response:
    """Wear a tried outfit in the course."""
    edit = editing(request, number, form)
    person, moment, wanted = form.get("person", ""), form.get("moment", ""), form.get("worn", "")
    result = assessed(request, number, edit.course)
    result.timeline.moment(moment)
    name = edit.course.person(person).name.split()[0]

    def alter(course: Course) -> Course:
        return with_person(course, wear(course.person(person), [moment], wanted.split()))

    edit.keep(f"{name}: a tried outfit", alter)
    return RedirectResponse(
        course_url(number, "day", person=person, moment=moment), status_code=303
    )
