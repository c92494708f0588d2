"""Hourly weather from a CSV file: any delimiter, decimal comma, units in the header.

Columns, by the first word of their header, in any order; only time, air and wind are needed:

    time           clock time of the place, as 2026-09-21 06:00
    air            temperature [°C, °F, K]
    wind, gust     mean and gust at 10 m [m/s, km/h, mph, kn]
    rain           water that falls in the hour [mm, in]
    humidity       [%]
    cloud          cover [%]

A unit stands in the header, as `air (°F)`, `wind [km/h]` or `wind km/h`; without one the metric
unit named first here is meant. An empty cell is a missing figure. Rows every two or three hours are
filled between; longer holes stay missing.
"""

import csv
import io
import re
from dataclasses import dataclass, replace
from datetime import datetime

import numpy as np

from caldarium.core.plan.weather_sources import MOST_HOURS
from caldarium.formats.fault import FileError, decode
from caldarium.formats.size import header_text, refuse_table
from caldarium.formats.table import delimiter_of
from caldarium.words.typed import parse_quantity
from caldarium.words.units import DEFAULT_UNIT, shown_unit

COLUMNS = {
    "air": ("air_c", "temperature", (-80.0, 60.0)),
    "temperature": ("air_c", "temperature", (-80.0, 60.0)),
    "wind": ("wind_ms", "wind", (0.0, 90.0)),
    "gust": ("gust_ms", "wind", (0.0, 90.0)),
    "rain": ("precipitation_mm", "rain", (0.0, 200.0)),
    "precipitation": ("precipitation_mm", "rain", (0.0, 200.0)),
    "humidity": ("humidity_pct", "percent", (0.0, 100.0)),
    "cloud": ("cloud_pct", "percent", (0.0, 100.0)),
}
NEEDED = ("air_c", "wind_ms")
LONGEST_FILL = 3
"""Longest step between rows that is filled [h]."""
_HEADER = re.compile(r"^([a-z]+) ?[(\[,/]? ?([^)\]]*)[)\]]?$", re.IGNORECASE)
_TIMES = (
    "%Y-%m-%d %H:%M",
    "%Y-%m-%dT%H:%M",
    "%Y-%m-%d %H:%M:%S",
    "%Y-%m-%dT%H:%M:%S",
    "%d.%m.%Y %H:%M",
)


@dataclass(frozen=True)
class HourlyFigures:
    """Hours of a file: the first, figures by field of a source, None where missing, and notes."""

    first: datetime
    figures: dict[str, tuple[float | None, ...]]
    notes: tuple[str, ...] = ()


@dataclass(frozen=True)
class _Column:
    place: int
    field: str
    kind: str
    unit: str
    limits: tuple[float, float]


def read_hourly_csv(data: bytes) -> HourlyFigures:
    """Hourly figures of a CSV file.

    Raises:
        FileError: naming line and column of the first thing that is wrong.
    """
    refuse_table(data)
    text = decode(data)
    lines = text.splitlines()
    start = next((at for at, line in enumerate(lines) if line.strip()[:1] not in ("", "#")), None)
    if start is None:
        raise FileError("the file is empty", 1, 1)
    delimiter = delimiter_of(lines[start], start + 1)
    try:
        rows = list(csv.reader(io.StringIO("\n".join(lines[start:])), delimiter=delimiter))
    except csv.Error as fault:
        raise FileError(f"not CSV: {fault}", start + 1, 1) from None
    time_at, columns = _columns(rows[0], start + 1)
    times: list[datetime] = []
    values: dict[str, list[float | None]] = {column.field: [] for column in columns}
    for number, row in enumerate(rows[1:], start + 2):
        if not any(cell.strip() for cell in row):
            continue
        times.append(_time(row, time_at, number, times))
        if (times[-1] - times[0]).total_seconds() / 3600 >= MOST_HOURS:
            raise FileError(f"longer than {MOST_HOURS // 24} days; cut the file", number, 1)
        for column in columns:
            values[column.field].append(_figure(row, column, number))
    if len(times) < 2:
        raise FileError("at least two rows of hours are needed", start + 1, 1)
    found = _by_hour(times, values)
    bare = [_assumed(column) for column in columns if not column.unit]
    if bare:
        found = replace(found, notes=(*found.notes, f"without units, taken as {', '.join(bare)}"))
    return found


def _assumed(column: _Column) -> str:
    """A column without a unit, with the one it was given."""
    name = next(name for name, (field, _, _) in COLUMNS.items() if field == column.field)
    return f"{name} in {shown_unit(DEFAULT_UNIT[column.kind])}"


def _columns(header: list[str], line: int) -> tuple[int, list[_Column]]:
    time_at: int | None = None
    found: list[_Column] = []
    for place, cell in enumerate(header):
        match = _HEADER.match(header_text(cell, line, _at(header, place)))
        word = match[1].lower() if match else ""
        if word in ("time", "date") and time_at is None:
            time_at = place
        elif match and word in COLUMNS:
            field, kind, limits = COLUMNS[word]
            unit = match[2].strip()
            try:
                parse_quantity(f"1 {unit}", kind)
            except ValueError as fault:
                raise FileError(f"{cell.strip()}: {fault}", line, _at(header, place)) from None
            if field in {column.field for column in found}:
                raise FileError(f"{word} stands twice", line, _at(header, place))
            found.append(_Column(place, field, kind, unit, limits))
    if time_at is None:
        raise FileError("no column named time", line, 1)
    for field in NEEDED:
        if field not in {column.field for column in found}:
            raise FileError(f"no column named {'air' if field == 'air_c' else 'wind'}", line, 1)
    return time_at, found


def _at(row: list[str], place: int) -> int:
    return sum(len(cell) + 1 for cell in row[:place]) + 1


def _time(row: list[str], place: int, line: int, before: list[datetime]) -> datetime:
    text = row[place].strip() if place < len(row) else ""
    for form in _TIMES:
        try:
            found = datetime.strptime(text, form)
            break
        except ValueError:
            continue
    else:
        message = f"“{text[:40]}” is not a time; write it as 2026-09-21 06:00"
        raise FileError(message, line, _at(row, place))
    if found.minute or found.second:
        raise FileError("times are on the full hour", line, _at(row, place))
    if before and found <= before[-1]:
        raise FileError("times must rise from row to row", line, _at(row, place))
    return found


def _figure(row: list[str], column: _Column, line: int) -> float | None:
    text = row[column.place].strip() if column.place < len(row) else ""
    if text in ("", "-", "NA", "NaN", "nan", "null"):
        return None
    try:
        value = parse_quantity(f"{text} {column.unit}", column.kind)
    except ValueError as fault:
        raise FileError(str(fault), line, _at(row, column.place)) from None
    low, high = column.limits
    if not low <= value <= high:
        raise FileError(
            f"{text} {column.unit} is outside what {column.kind} can be here",
            line,
            _at(row, column.place),
        )
    return value


def _by_hour(times: list[datetime], values: dict[str, list[float | None]]) -> HourlyFigures:
    """Rows spread over every hour; steps of two or three hours are filled between."""
    at = [round((each - times[0]).total_seconds() / 3600) for each in times]
    steps = np.diff(at)
    hours = at[-1] + 1
    filled = bool((steps > 1).any() and (steps <= LONGEST_FILL).any())
    figures: dict[str, tuple[float | None, ...]] = {}
    for field, listed in values.items():
        series = np.full(hours, np.nan)
        series[at] = [np.nan if value is None else value for value in listed]
        for begin, step in zip(at[:-1], steps.tolist(), strict=True):
            if 1 < step <= LONGEST_FILL:
                inside = np.arange(begin, begin + step + 1)
                if field == "precipitation_mm":
                    series[inside[:-1]] = series[begin] / step
                else:
                    ends = series[[begin, begin + step]]
                    series[inside[1:-1]] = np.interp(inside[1:-1], inside[[0, -1]], ends)
        figures[field] = tuple(None if np.isnan(value) else float(value) for value in series)
    notes = ("rows up to three hours apart, filled between",) if filled else ()
    if (steps > LONGEST_FILL).any():
        notes += (f"holes of up to {int(steps.max())} h stay missing",)
    return HourlyFigures(times[0], figures, notes)
