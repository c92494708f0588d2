"""The days of a new course as a table: one row a day, everything but the weather by default."""

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import ValidationError

from caldarium.core.physics.bed import GROUNDS
from caldarium.core.physics.wind import EXPOSURES
from caldarium.core.plan.outline import DayOutline, Filled
from caldarium.web.forms import Field, faults_at, read
from caldarium.web.plan.pasted import pasted_fields
from caldarium.words.typed import parse_span, span_text
from caldarium.words.units import Display, written

COLUMNS = (
    Field("title", "Name", "words"),
    Field("high_c", "High", "temperature"),
    Field("low_c", "Low", "temperature"),
    Field("wind_ms", "Wind", "wind"),
    Field("rain_mm", "Rain, snow", "rain"),
    Field("falls", "It falls", "span"),
    Field("cloud_pct", "Cloud", "percent"),
    Field("for_m", "Forecast for", "altitude"),
    Field("start_h", "Sets out", "clock"),
    Field("distance_km", "Distance", "distance"),
    Field("up_m", "Up", "altitude"),
    Field("down_m", "Down", "altitude"),
    Field("camp_m", "Ends at", "altitude"),
    Field("top_m", "High point", "altitude"),
    Field("ground", "Ground", "choice"),
    Field("exposure", "Open to wind", "choice"),
)
CHOICES = {"ground": tuple(GROUNDS), "exposure": tuple(EXPOSURES)}
HEADINGS = {
    "title": ("name", "title", "what", "stage", "place"),
    "start_h": ("start", "sets out", "set out", "departure", "leaves", "begins"),
    "distance_km": ("distance", "km", "miles", "length", "dist", "way"),
    "up_m": ("up", "climb", "ascent", "gain"),
    "down_m": ("down", "fall", "descent", "loss", "drop"),
    "camp_m": ("ends at", "end", "camp height", "camp", "night at", "finish"),
    "top_m": ("high point", "highest", "top", "summit", "max height", "pass"),
    "ground": ("ground", "under the bed", "surface"),
    "exposure": ("open to wind", "exposure", "cover", "exposed"),
    "high_c": ("high", "max", "maximum", "day temp", "hi"),
    "low_c": ("low", "min", "minimum", "night temp", "lo"),
    "wind_ms": ("wind",),
    "rain_mm": ("rain", "snow", "precipitation", "precip", "rain snow", "water"),
    "falls": ("it falls", "when", "hours of rain", "rain hours"),
    "cloud_pct": ("cloud", "sky"),
    "for_m": ("forecast for", "forecast height", "for height", "given for"),
}
_BY_CONDITIONS = {
    "high_c": "high_c",
    "low_c": "low_c",
    "wind_ms": "wind_ms",
    "rain_mm": "precipitation_mm",
    "humidity_pct": "humidity_pct",
    "cloud_pct": "cloud_pct",
}


def key(day: int, column: str) -> str:
    """Name of the field of a day's column."""
    return f"d{day}.{column}"


def pasted_days(text: str) -> tuple[dict[str, str], int, list[str]]:
    """Fields of the table as a pasted one says them, how many days, and unknown headings."""
    return pasted_fields("d", text, COLUMNS, HEADINGS)


def read_day(
    form: Mapping[str, str], day: int, display: Display
) -> tuple[DayOutline, dict[str, str], dict[str, str]]:
    """What a row says: the outline, texts as typed by column, and messages by column."""
    values: dict[str, Any] = {}
    texts: dict[str, str] = {}
    errors: dict[str, str] = {}
    for field in COLUMNS:
        text = form.get(key(day, field.name), "").strip()
        if not text:
            continue
        try:
            if field.kind == "words":
                values[field.name] = text
            elif field.kind == "choice":
                values[field.name] = _choice(field.name, text)
            elif field.kind == "span":
                values["rain_from_h"], values["rain_hours"] = parse_span(text)
            else:
                values[field.name], texts[field.name] = read(text, field.kind, display)
        except ValueError as fault:
            errors[field.name] = str(fault)
    try:
        return DayOutline(**values), texts, errors
    except ValidationError as fault:
        known = {field.name: field.name for field in COLUMNS}
        found = faults_at(fault, display, known | {"rain_hours": "falls"}, "title")
        good = {name: value for name, value in values.items() if name not in found}
        return DayOutline(**good), texts, errors | found


def _choice(column: str, text: str) -> str:
    """One of a column's words, known by its first letters."""
    asked = text.lower()
    matching = [each for each in CHOICES[column] if each.startswith(asked)]
    if len(matching) == 1 or asked in CHOICES[column]:
        return asked if asked in CHOICES[column] else matching[0]
    raise ValueError(f"one of {', '.join(CHOICES[column])}")


def defaults_told(days: Sequence[Filled], display: Display) -> dict[str, str]:
    """What stands in an empty field of each day, by the field's name."""
    found: dict[str, str] = {}
    for day, each in enumerate(days):
        for field in COLUMNS:
            value = getattr(each.said, field.name, None)
            if field.kind == "span":
                value = span_text(each.said.rain_from_h or 0, each.said.rain_hours or 0)
            if value is None or value == "":
                continue
            text = value if isinstance(value, str) else written(value, field.kind, display)
            found[key(day, field.name)] = text
    return found


def as_typed(texts: Sequence[Mapping[str, str]]) -> dict[str, str]:
    """Texts of the table that a course keeps as they were typed, by the course's own fields."""
    found: dict[str, str] = {}
    for day, row in enumerate(texts):
        for column, text in row.items():
            if column in _BY_CONDITIONS:
                found[f"days.{day}.conditions.{_BY_CONDITIONS[column]}"] = text
            elif column == "start_h":
                found[f"days.{day}.start"] = text
    return found
