"""Weather sources into a course: hourly CSV, forecast documents, and the forecast service."""

import asyncio
from datetime import UTC, datetime, time, timedelta
from typing import Annotated

from fastapi import APIRouter, File, Form, Request, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.course import Course
from caldarium.core.plan.weather_sources import Hourly
from caldarium.formats.course_json import describe
from caldarium.formats.fault import FileError
from caldarium.formats.forecast_json import as_source, read_forecast
from caldarium.formats.hourly_csv import read_hourly_csv
from caldarium.standins.forecast_service import Asked, ServiceError, ask
from caldarium.web.fields import Field, read, written
from caldarium.web.page import courses_of, display_of, page

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
async def from_file(
    request: Request,
    number: int,
    file: Annotated[UploadFile, File()],
    altitude: Annotated[str, Form()] = "",
) -> Response:
    """Take an hourly CSV or a forecast document as a source, whole or not at all."""
    course = courses_of(request).get(number).course
    name = file.filename or "the file"
    data = await file.read()
    try:
        if data.lstrip()[:1] in (b"{", b"["):
            source = as_source(read_forecast(data), course)
        else:
            source = _from_csv(data, name, altitude, request)
    except FileError as fault:
        message = f"{name}: {fault}. Nothing was changed."
        return _sources_page(request, number, {"altitude": altitude}, {"file": message})
    except ValidationError as fault:
        message = f"{name}: {describe(fault)}. Nothing was changed."
        return _sources_page(request, number, {"altitude": altitude}, {"file": message})
    except ValueError as fault:
        return _sources_page(request, number, {"altitude": altitude}, {"altitude": str(fault)})
    return _taken(request, number, source, {"altitude": altitude}, "file")


def _from_csv(data: bytes, name: str, altitude: str, request: Request) -> Hourly:
    height, _ = read(altitude, "altitude", display_of(request))
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
async def from_service(request: Request, number: int) -> Response:
    """Ask the simulated forecast service for the course's place and days."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    course = courses_of(request).get(number).course
    again = form | {"attempt": f"{_whole(form.get('attempt', '')) + 1}"}
    try:
        issued = datetime.combine(
            datetime.fromisoformat(form.get("issued", "")).date(),
            time.fromisoformat(form.get("hour", "06:00")),
        )
    except ValueError:
        return _sources_page(request, number, form, {"issued": "a date and a time, as 06:00"})
    try:
        height, _ = read(form.get("service_altitude", ""), "altitude", display_of(request))
    except ValueError as fault:
        return _sources_page(request, number, form, {"service_altitude": str(fault)})
    asked = _asked(course, issued, height, form)
    try:
        answer = ask(asked)
        await asyncio.sleep(answer.delay)
        forecast = read_forecast(answer.body)
        source = as_source(forecast, course, "forecast service")
    except ServiceError as fault:
        return _sources_page(request, number, again, {"service": f"{fault}. Nothing was changed."})
    except FileError as fault:
        message = f"the service's answer: {fault}. Nothing was changed."
        return _sources_page(request, number, again, {"service": message})
    except ValidationError as fault:
        return _sources_page(request, number, form, {"service_altitude": describe(fault)})
    if forecast.issued < asked.issued - timedelta(hours=12):
        source = source.altered(notes="older than the run asked for: the service gave a stale one")
    return _taken(request, number, source, again, "service")


def _whole(text: str) -> int:
    return int(text) if text.isdigit() and len(text) < 9 else 0


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
        seed=_whole(form.get("seed", "")),
        attempt=_whole(form.get("attempt", "")),
    )


def _taken(
    request: Request, number: int, source: Hourly, form: dict[str, str], place: str
) -> Response:
    """Put a source before all others, in one step."""

    def alter(course: Course) -> Course:
        name = fresh_id(source.name, [each.id for each in course.sources])
        return course.altered(sources=(source.altered(id=name), *course.sources))

    try:
        courses_of(request).change(number, f"weather: {source.name}", alter)
    except ValidationError as fault:
        return _sources_page(request, number, form, {place: describe(fault)})
    return RedirectResponse(f"/courses/{number}/route", status_code=303)
