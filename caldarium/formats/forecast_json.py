"""The open forecast document: hourly weather for one place, with or without an ensemble."""

from datetime import UTC, datetime, timedelta
from typing import Any, Literal, Self

from pydantic import AwareDatetime, Field, ValidationError, model_validator

from caldarium.core.plan.course import Course
from caldarium.core.plan.value import Altitude
from caldarium.core.plan.weather_sources import Hourly, HourlyFigures, SourceKind
from caldarium.formats.course_json import describe
from caldarium.formats.fault import FileError
from caldarium.formats.json_text import read_object

FORMAT = "caldarium-forecast"


class Forecast(HourlyFigures):
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
    text, _ = read_object(data, FORMAT, "forecast document")
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
            **{name: getattr(forecast, name) for name in HourlyFigures.model_fields},
        )
    except ValidationError as fault:
        raise FileError(describe(fault)) from None


def forecast_schema() -> dict[str, Any]:
    """JSON Schema of the forecast document."""
    schema = Forecast.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | schema
