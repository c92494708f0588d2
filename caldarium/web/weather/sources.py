"""Weather sources into a course: hourly CSV, forecast documents, and the forecast service."""

from datetime import UTC, datetime, time, timedelta
from time import sleep
from typing import Literal

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.course import EARLIEST, LATEST, Course
from caldarium.core.plan.weather_sources import Hourly
from caldarium.formats.course_json import describe
from caldarium.formats.fault import FileError
from caldarium.formats.forecast_json import Forecast, as_source, read_forecast
from caldarium.formats.hourly_csv import read_hourly_csv
from caldarium.standins.forecast_service import Asked, ServiceError, ask
from caldarium.web.editing import Editing, editing
from caldarium.web.forms import Field, Sent, Texts, file_of, read, whole, written
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.urls import course_url
from caldarium.words.faults import fault_text
from caldarium.words.outline import far_sentence
from caldarium.words.units import Display

router = APIRouter()
ALTITUDE = Field("altitude", "Height the figures are for", "altitude")


def _sources_page(
    request: Request, number: int, form: dict[str, str], errors: dict[str, str]
) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    day_before = course.start - timedelta(days=3)
    shown = {
        "altitude": written(course.conditions_altitude_m, "altitude", display),
        "issued": f"{day_before:%Y-%m-%d}",
        "hour": "06:00",
        "seed": "0",
        "attempt": "0",
        "service_altitude": written(course.conditions_altitude_m, "altitude", display),
    } | form
    return page(
        request, "weather/sources.html", held=held, course=course, form=shown, errors=errors
    )


@router.get("/courses/{number}/sources")
def show(request: Request, number: int) -> HTMLResponse:
    """The forms that bring weather in."""
    return _sources_page(request, number, {}, {})


@router.post("/courses/{number}/sources/file")
def from_file(request: Request, number: int, form: Texts, sent: Sent) -> Response:
    """Take an hourly CSV or a forecast document as a source, whole or not at all."""
    edit, display = editing(request, number, form), display_of(request)
    typed = {"altitude": form.get("altitude", "")}
    name, data = file_of(sent)
    if not name:
        return _sources_page(request, number, typed, {"file": "Choose a file first."})
    try:
        if data.lstrip()[:1] in (b"{", b"["):
            source = _of_document(read_forecast(data), edit.course, display)
        else:
            source = _from_csv(data, name, typed["altitude"], display)
    except (FileError, ValidationError) as fault:
        told = describe(fault, display) if isinstance(fault, ValidationError) else str(fault)
        message = f"{name}: {told}. Nothing was changed."
        return _sources_page(request, number, typed, {"file": message})
    except ValueError as fault:
        return _sources_page(request, number, typed, {"altitude": fault_text(fault, display)})
    return _taken(request, edit, source, typed, "file")


def _of_document(forecast: Forecast, course: Course, display: Display) -> Hourly:
    """A forecast document as a source, with a note where it is for somewhere else."""
    source = as_source(forecast, course)
    far = far_sentence(course.place, forecast.latitude, forecast.longitude, "forecast", display)
    return source.altered(notes=f"{source.notes}; {far}"[-400:].lstrip("; ")) if far else source


def _from_csv(data: bytes, name: str, altitude: str, display: Display) -> Hourly:
    height, _ = read(altitude, "altitude", display)
    found = read_hourly_csv(data)
    return Hourly.model_validate(
        {
            "id": "x",
            "name": name[:120],
            "kind": "hourly file",
            "altitude_m": height,
            "first": found.first,
            "notes": "; ".join(found.notes),
        }
        | found.figures
    )


@router.post("/courses/{number}/sources/service")
def from_service(request: Request, number: int, form: Texts) -> Response:
    """Ask the simulated forecast service for the course's place and days."""
    edit, display = editing(request, number, form), display_of(request)
    again = form | {"attempt": f"{(whole(form.get('attempt'), most=10**6) or 0) + 1}"}
    try:
        issued = datetime.combine(
            datetime.fromisoformat(form.get("issued", "")).date(),
            time.fromisoformat(form.get("hour", "06:00")).replace(tzinfo=None),
        )
        height, _ = read(form.get("service_altitude", ""), "altitude", display)
        asked = _asked(edit.course, issued, height, form)
    except (ValueError, OverflowError) as fault:
        wrong = {"issued": "a date and a time, as 2031-09-14 and 06:00"}
        if _is_date(form.get("issued", "")):
            wrong = {"service_altitude": fault_text(ValueError(str(fault)), display)}
        return _sources_page(request, number, form, wrong)
    try:
        answer = ask(asked)
        sleep(answer.delay)
        forecast = read_forecast(answer.body)
        source = as_source(forecast, edit.course, "forecast service")
    except ServiceError as fault:
        return _sources_page(request, number, again, {"service": f"{fault}. Nothing was changed."})
    except FileError as fault:
        message = f"the service's answer: {fault}. Nothing was changed."
        return _sources_page(request, number, again, {"service": message})
    except ValidationError as fault:
        return _sources_page(
            request, number, form, {"service_altitude": fault_text(fault, display)}
        )
    if forecast.issued < asked.issued - timedelta(hours=12):
        source = source.altered(notes="older than the run asked for: the service gave a stale one")
    return _taken(request, edit, source, again, "service")


def _is_date(text: str) -> bool:
    try:
        return EARLIEST <= datetime.fromisoformat(text).year <= LATEST
    except ValueError:
        return False


def _asked(course: Course, issued: datetime, height: float, form: dict[str, str]) -> Asked:
    offset = timedelta(hours=course.place.utc_offset_h)
    midnight = datetime.combine(course.start, time(), tzinfo=UTC) - offset
    return Asked(
        place=course.place.name,
        latitude=course.place.latitude,
        longitude=course.place.longitude,
        altitude_m=height,
        first=midnight,
        hours=24 * len(course.days) + 24,
        issued=issued.replace(tzinfo=UTC) - offset,
        seed=whole(form.get("seed")) or 0,
        attempt=whole(form.get("attempt")) or 0,
    )


def _taken(
    request: Request, edit: Editing, source: Hourly, form: dict[str, str], place: str
) -> Response:
    """Put a source before all others, in one step."""

    def alter(course: Course) -> Course:
        name = fresh_id(source.name, [each.id for each in course.sources])
        return course.altered(sources=(source.altered(id=name), *course.sources))

    try:
        edit.keep(f"weather: {source.name}", alter)
    except ValidationError as fault:
        told = {place: fault_text(fault, display_of(request))}
        return _sources_page(request, edit.number, form, told)
    return RedirectResponse(course_url(edit.number, "route"), status_code=303)


@router.get("/schemas/{name}.json")
def schema(name: Literal["forecast", "course"]) -> dict[str, object]:
    """The schema of a document that is taken, for whoever writes one."""
    return (Forecast if name == "forecast" else Course).model_json_schema()
