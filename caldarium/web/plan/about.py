"""Name, place and dates of a course, changed in place."""

from collections.abc import Mapping
from datetime import date

from fastapi import APIRouter, Request
from fastapi.responses import RedirectResponse, Response
from pydantic import ValidationError

from caldarium.catalogue.zones import offset_on, zone_of
from caldarium.core.plan.course import Course
from caldarium.core.plan.dates import with_length
from caldarium.web.editing import editing
from caldarium.web.forms import Texts, read, whole
from caldarium.web.page import courses_of, display_of
from caldarium.web.plan.new_course import MOST_DAYS, read_date
from caldarium.web.plan.overview import about_texts, overview_page
from caldarium.web.urls import course_url
from caldarium.words.faults import fault_text
from caldarium.words.typed import parse_position
from caldarium.words.units import Display

router = APIRouter()


@router.post("/courses/{number}/about")
def change(request: Request, number: int, form: Texts) -> Response:
    """Change what differs of name, place, dates and the height of the start."""
    edit, display = editing(request, number, form), display_of(request)
    errors: dict[str, str] = {}
    wanted = about_texts(edit.course, display) | dict(form)
    start = read_date(wanted, errors)
    days = whole(wanted["days"].strip(), 1, MOST_DAYS)
    if days is None:
        errors["days"] = f"a whole number of days from 1 to {MOST_DAYS}"
    found = _figures(edit.course, wanted, display, errors)
    for name in ("name", "place"):
        if not 1 <= len(wanted[name].strip()) <= 120:
            errors[name] = "a name of 1 to 120 letters"
    if not errors and start is not None and days is not None:

        def alter(now: Course) -> Course:
            moved = with_length(now, days).altered(name=wanted["name"].strip(), **found)
            place = moved.place.altered(name=wanted["place"].strip())
            return on_dates(moved.altered(place=place), start)

        try:
            edit.keep("name, place or dates", alter)
            return RedirectResponse(course_url(number), status_code=303)
        except ValidationError as fault:
            errors["start_altitude"] = fault_text(fault, display)
    held = courses_of(request).get(number)
    return overview_page(request, held, about=wanted, errors=errors, status=422)


def _figures(
    course: Course, form: Mapping[str, str], display: Display, errors: dict[str, str]
) -> dict[str, object]:
    """The position and the height of the start, where they differ from what was shown."""
    shown, found = about_texts(course, display), dict[str, object]()
    if form["where"].strip() != shown["where"]:
        try:
            north, east = parse_position(form["where"])
            zone = zone_of(north, east)
            found["place"] = course.place.altered(latitude=north, longitude=east, zone=zone)
        except ValueError as fault:
            errors["where"] = str(fault)
    if form["start_altitude"].strip() != shown["start_altitude"]:
        try:
            found["start_altitude_m"], _ = read(form["start_altitude"], "altitude", display)
        except ValueError as fault:
            errors["start_altitude"] = str(fault)
    return found


def on_dates(course: Course, start: date) -> Course:
    """The course beginning on a date, by the clock that its place has then; one whose zone nobody
    knows keeps its clock while it keeps its date."""
    place = course.place
    if not place.zone and start == course.start:
        return course
    zone = place.zone or zone_of(place.latitude, place.longitude)
    moved = place.altered(zone=zone, utc_offset_h=offset_on(zone, start))
    return course.altered(start=start, place=moved)
