"""The open forecast document: hourly weather for one place, with or without an ensemble."""

import json
from datetime import UTC, datetime, timedelta
from typing import Any, Literal, Self

from pydantic import AwareDatetime, Field, ValidationError, model_validator

from caldarium.core.course import Course
from caldarium.core.value import Altitude, Value
from caldarium.core.weather_sources import (
    MOST_HOURS,
    Hourly,
    HourlyCelsius,
    HourlyPercent,
    HourlyRain,
    HourlyWind,
    Member,
    SourceKind,
)
from caldarium.formats.course_json import describe
from caldarium.formats.fault import FileError, decode

FORMAT = "caldarium-forecast"


class Forecast(Value):
    """A forecast. Times carry their offset from UTC; figures are SI and hold for the hour."""

    format: Literal["caldarium-forecast"] = FORMAT
    version: Literal[1] = 1
    name: str = Field(min_length=1, max_length=120)
    place: str = Field(default="", max_length=120)
    latitude: float = Field(ge=-90, le=90)
    longitude: float = Field(ge=-180, le=180)
    altitude_m: Altitude
    issued: AwareDatetime
    first: AwareDatetime = Field(description="the full hour that the first figures are for")
    air_c: tuple[HourlyCelsius | None, ...] = Field(min_length=1, max_length=MOST_HOURS)
    wind_ms: tuple[HourlyWind | None, ...] = Field(max_length=MOST_HOURS)
    gust_ms: tuple[HourlyWind | None, ...] = Field(default=(), max_length=MOST_HOURS)
    precipitation_mm: tuple[HourlyRain | None, ...] = Field(default=(), max_length=MOST_HOURS)
    humidity_pct: tuple[HourlyPercent | None, ...] = Field(default=(), max_length=MOST_HOURS)
    cloud_pct: tuple[HourlyPercent | None, ...] = Field(default=(), max_length=MOST_HOURS)
    members: tuple[Member, ...] = Field(default=(), max_length=60)

    @model_validator(mode="after")
    def _issued_before_it_ends(self) -> Self:
        if self.issued > self.first + timedelta(hours=len(self.air_c)):
            raise ValueError("issued after its last hour: this is not a forecast")
        return self


def read_forecast(data: bytes) -> Forecast:
    """A forecast from a JSON document.

    Raises:
        FileError: naming line and column for text that is not JSON, and the path of the value
            for JSON that is not a forecast.
    """
    text = decode(data)
    try:
        document = json.loads(text)
    except RecursionError:
        raise FileError("nested too deeply for a forecast", 1, 1) from None
    except json.JSONDecodeError as fault:
        raise FileError(f"not JSON: {fault.msg}", fault.lineno, fault.colno) from None
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise FileError(f'not a forecast document: "format" must be "{FORMAT}"', 1, 1)
    try:
        return Forecast.model_validate_json(text)
    except ValidationError as fault:
        raise FileError(describe(fault)) from None


def as_source(
    forecast: Forecast, course: Course, kind: SourceKind = "forecast file", identifier: str = "x"
) -> Hourly:
    """A forecast as a weather source in the clock time of a course's place.

    Raises:
        FileError: where the document's hours do not begin on the course's full hours, or its
            columns differ in length.
    """
    offset = timedelta(hours=course.place.utc_offset_h)

    def local(time: datetime) -> datetime:
        return (time.astimezone(UTC) + offset).replace(tzinfo=None)

    try:
        return Hourly(
            id=identifier,
            name=forecast.name,
            kind=kind,
            place=forecast.place,
            altitude_m=forecast.altitude_m,
            issued=local(forecast.issued),
            first=local(forecast.first),
            air_c=forecast.air_c,
            wind_ms=forecast.wind_ms,
            gust_ms=forecast.gust_ms,
            precipitation_mm=forecast.precipitation_mm,
            humidity_pct=forecast.humidity_pct,
            cloud_pct=forecast.cloud_pct,
            members=forecast.members,
        )
    except ValidationError as fault:
        raise FileError(describe(fault)) from None


def forecast_schema() -> dict[str, Any]:
    """JSON Schema of the forecast document."""
    schema = Forecast.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | schema
