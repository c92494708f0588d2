"""Weather and route: the course hour by hour, its legs and its sources, changed in place."""

from dataclasses import dataclass, replace
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.physics.allowances import TIRED_AFTER
from caldarium.core.physics.bed import GROUNDS
from caldarium.core.physics.wind import EXPOSURES
from caldarium.core.timeline.cautions import cautions
from caldarium.core.timeline.hour_table import TYPED_NAME, hour_figures
from caldarium.core.what_if.compare import TYPED_ONLY, members_of
from caldarium.core.worst import worst_by_kind
from caldarium.drawings.route_strip import route_strip
from caldarium.store.courses import Held
from caldarium.web.cursor import check_asked, jumps, place_cursor
from caldarium.web.editing import editing
from caldarium.web.forms import Texts, whole
from caldarium.web.page import assessed, courses_of, display_of, page, strips_for, wants_part
from caldarium.web.urls import course_url
from caldarium.web.weather.day_fields import cell_name, day_table
from caldarium.web.weather.route_edit import (
    ALLOWANCES,
    ANCHORS,
    CAUTION_FIELDS,
    KINDS,
    SCHOOLS,
    TERRAINS,
    RouteFaults,
    apply_route_edit,
    leg_rows,
)
from caldarium.words.cautions import SOURCES, caution_told
from caldarium.words.course import course_sentence, moment_name, number
from caldarium.words.steps_weather import (
    explain_caution,
    explain_hour,
    explain_legs,
)
from caldarium.words.weather import caution_sentence, source_sentences

router = APIRouter()


@dataclass(frozen=True)
class Looking:
    """Where one looks on the way: whose moment, the whole course or a day of it, and the day that
    stays when the moment goes."""

    person: str = ""
    moment: str = ""
    zoom: str = ""
    day: str = ""


def route_page(
    request: Request,
    held: Held,
    looking: Looking,
    faults: RouteFaults | None = None,
) -> HTMLResponse:
    """The whole screen; htmx morphs it in place. Where the moment is gone, its day stays."""
    person, moment, zoom = looking.person, looking.moment, looking.zoom
    course, display, faults = held.course, display_of(request), faults or RouteFaults()
    result = assessed(request, held.id, course)
    moments = result.timeline.moments
    if looking.day and not any(each.id == moment for each in moments):
        moment = next((each.id for each in moments if each.day == whole(looking.day)), "")
    cursor = place_cursor(course, result, person, moment)
    here = next(each for each in result.timeline.moments if each.id == cursor.moment)
    hours = hour_figures(course, result.timeline, here.day)
    looked_at = min(hours, key=lambda hour: abs(24 * here.day + hour.clock - here.at))
    drawn = partial(route_strip, course, result, cursor.moment, display)
    wide, narrow = strips_for(request)
    template = "weather/route_body.html" if wants_part(request) else "weather/route.html"
    response = page(
        request,
        template,
        held=held,
        course=course,
        result=result,
        cursor=cursor,
        moment=here,
        day=here.day,
        zoom=zoom,
        jumps=jumps(course, result, cursor),
        worst=worst_by_kind(result),
        moment_names={each.id: moment_name(course, each) for each in moments},
        moment_name=moment_name,
        number=number,
        summary=course_sentence(course, result),
        caution_words=caution_sentence(course, display),
        first_moments=list({m.day: m for m in reversed(result.timeline.moments)}.values())[::-1],
        strip=drawn(only_day=here.day if zoom == "day" else None) if wide else None,
        day_strip=drawn(width=372, only_day=here.day) if narrow else None,
        table=day_table(course, display, faults.entries),
        rows=leg_rows(course, here.day, display, faults),
        faults=faults,
        cell_name=cell_name,
        cautions_found=[
            (caution_told(each, display), SOURCES[each.why.reason])
            for each in cautions(course, result.timeline)
            if each.day == here.day
        ],
        hours=hours,
        hour_steps=explain_hour(looked_at, display),
        looked_at=looked_at,
        leg_steps=explain_legs(result.timeline.stages[here.day], display),
        caution_steps=explain_caution(course, display),
        source_words=source_sentences(course, result.timeline, display),
        ensemble=members_of(course),
        sun=result.timeline.suns[here.day],
        kinds=KINDS,
        terrains=TERRAINS,
        anchors=ANCHORS,
        exposures=list(EXPOSURES),
        grounds=list(GROUNDS),
        caution_fields=CAUTION_FIELDS,
        allowances=ALLOWANCES,
        schools=SCHOOLS,
        tired_after=TIRED_AFTER,
        typed_name=TYPED_NAME,
        comparable=[(TYPED_ONLY, TYPED_NAME), *((s.id, s.name) for s in course.sources)],
    )
    response.headers["Vary"] = "HX-Request"
    return response


@router.get("/courses/{number}/route")
def show(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """The course's way and weather."""
    held = courses_of(request).get(number)
    check_asked(assessed(request, number, held.course), looking.person, looking.moment)
    return route_page(request, held, looking)


@router.post("/courses/{number}/route/edit")
def change(request: Request, number: int, form: Texts) -> Response:
    """Change what differs in the form; what is wrong is shown where it was typed."""
    edit = editing(request, number, form)
    faults = apply_route_edit(edit, form, display_of(request))
    looking = Looking(*(form.get(name, "") for name in ("person", "moment", "zoom", "day")))
    if not wants_part(request) and not faults.entries and not faults.message:
        where = course_url(number, "route", **vars(replace(looking, day="")))
        return RedirectResponse(where, status_code=303)
    return route_page(request, courses_of(request).get(number), looking, faults)
