"""Hourly climate files in: TMY3 CSV and EPW, recognised by their own first line."""

import csv
import io
import math
from dataclasses import dataclass

import numpy as np

from caldarium.core.timeline.climate import ClimateRecord
from caldarium.formats.fault import FileError, decode
from caldarium.formats.size import refuse_table

LARGEST_FILE = 60_000_000
HOURS_A_YEAR = 8760
WETTEST_YEAR = 5000.0
"""Yearly precipitation above which the column is taken for another unit [mm]: judgement. In some
TMY3 files the figures look like tenths of a millimetre."""
EPW_HEADER_LINES = 8


@dataclass(frozen=True)
class _Column:
    """Where a quantity stands in a row (from 0), its plausible range, and its missing marks."""

    name: str
    index: int
    low: float
    high: float
    missing: float | None = None
    optional: bool = False


def read_climate(data: bytes) -> ClimateRecord:
    """An hourly climate record from a TMY3 CSV or EPW file.

    Args:
        data: the file as uploaded.

    Returns:
        The record; figures marked missing in the file are NaN.

    Raises:
        FileError: naming line and column of the first fault; nothing is read in part.
    """
    if len(data) > LARGEST_FILE:
        raise FileError("larger than 60 MB: not a climate file of one station", 1, 1)
    if not data.strip():
        raise FileError("the file is empty", 1, 1)
    refuse_table(data)
    text = decode(data)
    if "\0" in text:
        raise FileError(
            "holds NUL characters; save the file as UTF-8 text", 1, text.index("\0") + 1
        )
    rows = _split(text)
    if rows[0][0].strip().upper() == "LOCATION":
        return _read_epw(rows)
    if len(rows) > 1 and rows[1] and rows[1][0].strip().startswith("Date (MM/DD/YYYY)"):
        return _read_tmy3(rows)
    raise FileError(
        'neither EPW (starts with "LOCATION,") nor TMY3 CSV (second line starts with '
        '"Date (MM/DD/YYYY),Time (HH:MM)")',
        1,
        1,
    )


def _split(text: str) -> list[list[str]]:
    reader = csv.reader(io.StringIO(text), strict=True)
    rows: list[list[str]] = []
    try:
        rows.extend(reader)
    except csv.Error as fault:
        raise FileError(f"not comma-separated text: {fault}", reader.line_num, 1) from None
    while rows and not any(cell.strip() for cell in rows[-1]):
        rows.pop()
    if not rows or not rows[0]:
        raise FileError("the first line is empty", 1, 1)
    return rows


def _number(row: list[str], index: int, line: int, name: str) -> float:
    """A finite number from a cell; columns count from 1 in characters of the line as written."""
    if index >= len(row):
        raise FileError(
            f"the line ends before {name} (field {index + 1})", line, _column(row, len(row))
        )
    try:
        number = float(row[index])
    except ValueError:
        number = math.nan
    if not math.isfinite(number):
        raise FileError(f"{name} is {row[index]!r}, not a number", line, _column(row, index))
    return number


def _column(row: list[str], index: int) -> int:
    return sum(len(cell) + 1 for cell in row[:index]) + 1


def _measured(row: list[str], line: int, column: _Column) -> float:
    if column.optional and (column.index >= len(row) or not row[column.index].strip()):
        return math.nan
    number = _number(row, column.index, line, column.name)
    if column.missing is not None and number == column.missing:
        return math.nan
    if not column.low <= number <= column.high:
        if column.optional:
            return math.nan
        raise FileError(
            f"{column.name} is {number:g}, outside {column.low:g} to {column.high:g}",
            line,
            _column(row, column.index),
        )
    return number


def _station_number(row: list[str], index: int, name: str, low: float, high: float) -> float:
    number = _number(row, index, 1, name)
    if not low <= number <= high:
        raise FileError(
            f"{name} is {number:g}, outside {low:g} to {high:g}", 1, _column(row, index)
        )
    return number


def _calendar(year: float, month: float, day: float, line: int, column: int) -> None:
    if not (1 <= month <= 12 and 1 <= day <= 31 and 1800 <= year <= 2200):
        raise FileError(f"no such date: {year:g}-{month:g}-{day:g}", line, column)


def _record(
    rows: list[list[str]],
    first: int,
    dates: list[tuple[float, float, float]],
    columns: tuple[_Column, ...],
    station: dict[str, object],
) -> ClimateRecord:
    hours = len(rows) - first
    if hours < HOURS_A_YEAR:
        raise FileError(
            f"the file ends after {hours} hours; a year has {HOURS_A_YEAR}", len(rows), 1
        )
    table = np.array(
        [
            [_measured(row, number, column) for column in columns]
            for number, row in enumerate(rows[first:], first + 1)
        ]
    )
    for position, column in enumerate(columns[:3]):
        if np.isnan(table[:, position]).mean() > 0.1:
            raise FileError(f"more than a tenth of {column.name} is missing", first + 1, 1)
    calendar = np.array(dates)
    depth, notes = table[:, 3], ()
    yearly = np.nansum(depth) / hours * HOURS_A_YEAR
    if yearly > WETTEST_YEAR:
        depth = np.full(hours, np.nan)
        notes = (f"precipitation left out: {yearly:,.0f} mm a year is not credible",)
    return ClimateRecord(
        **station,  # type: ignore[arg-type]
        year=calendar[:, 0],
        month=calendar[:, 1],
        day=calendar[:, 2],
        air=table[:, 0],
        humidity=table[:, 1],
        wind=table[:, 2],
        precipitation=depth,
        notes=notes,
    )


def _read_tmy3(rows: list[list[str]]) -> ClimateRecord:
    head = rows[0]
    names = [cell.strip() for cell in rows[1]]

    def place(name: str) -> int:
        if name not in names:
            raise FileError(f"no column {name!r} in the header", 2, 1)
        return names.index(name)

    columns = (
        _Column("dry-bulb temperature", place("Dry-bulb (C)"), -90, 60, -9900),
        _Column("relative humidity", place("RHum (%)"), 0, 110, -9900),
        _Column("wind speed", place("Wspd (m/s)"), 0, 60, -9900),
        _Column("precipitation", place("Lprecip depth (mm)"), 0, 500, -9900, optional=True),
    )
    dates: list[tuple[float, float, float]] = []
    for line, row in enumerate(rows[2:], 3):
        parts = row[0].split("/") if row else []
        if len(parts) != 3 or not all(part.isdigit() for part in parts):
            found = row[0] if row else ""
            raise FileError(f"{found!r} is not a date as MM/DD/YYYY", line, 1)
        month, day, year = (float(part) for part in parts)
        _calendar(year, month, day, line, 1)
        dates.append((year, month, day))
    station = {
        "station": (head[1].strip().title() if len(head) > 1 else "") or head[0],
        "kind": "TMY3",
        "latitude": _station_number(head, 4, "latitude", -90, 90),
        "longitude": _station_number(head, 5, "longitude", -180, 180),
        "altitude": _station_number(head, 6, "altitude", -450, 8000),
    }
    return _record(rows, 2, dates, columns, station)


def _read_epw(rows: list[list[str]]) -> ClimateRecord:
    head = rows[0]
    columns = (
        _Column("dry-bulb temperature", 6, -90, 70, 99.9),
        _Column("relative humidity", 8, 0, 110, 999),
        _Column("wind speed", 21, 0, 60, 999),
        _Column("precipitation", 33, 0, 500, 999, optional=True),
    )
    dates: list[tuple[float, float, float]] = []
    for line, row in enumerate(rows[EPW_HEADER_LINES:], EPW_HEADER_LINES + 1):
        year, month, day = (
            _number(row, index, line, name) for index, name in enumerate(("year", "month", "day"))
        )
        _calendar(year, month, day, line, 1)
        dates.append((year, month, day))
    station = {
        "station": head[1].strip() if len(head) > 1 else "",
        "kind": "EPW",
        "latitude": _station_number(head, 6, "latitude", -90, 90),
        "longitude": _station_number(head, 7, "longitude", -180, 180),
        "altitude": _station_number(head, 9, "altitude", -450, 8000),
    }
    return _record(rows, EPW_HEADER_LINES, dates, columns, station)
