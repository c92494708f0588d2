"""Readings of logging thermometers from a CSV file, as they come: any delimiter, decimal comma,
lines before the header, units and zone in the header, several channels, irregular steps.

Of the columns the first that holds times is the time, or one of dates beside one of clock times.
Every other column of figures that is not said to be something else (%, V, number, event) is a
channel. A unit stands in the header, as `inside (°F)` or `T [K]`; without one degrees Celsius are
meant.
"""

import csv
import gc
import io
import re
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from caldarium.core.physics.quantities import Array
from caldarium.formats.cells import text_of
from caldarium.formats.fault import FileError
from caldarium.formats.size import refuse_table
from caldarium.formats.stamps import (
    DayFirst,
    seconds_of,
    tells_both,
    tells_clock,
    tells_date,
    zone_of,
)
from caldarium.formats.table import delimiter_of

MOST_ROWS = 2_700_000
"""Five years of minutes."""
HEADER_WITHIN = 40
MOST_CHANNELS = 16
COLDEST, HOTTEST = -90.0, 90.0
"""Readings beyond which a figure is no temperature of a course [°C]."""
MISSING = frozenset(("", "-", "--", "---", "na", "n/a", "nan", "null", "none", "err", "error"))
_UNIT = re.compile(
    r"(?:[(\[,/]|\s|^)\s*(°\s*[CF]|deg\s*[CF]|[CFK]|celsius|fahrenheit|kelvin)\b", re.I
)
_OTHER = re.compile(
    r"%|\brh\b|humid|batt|\bvolt|\bV\)|record|^#|^no\.?$|^n$|index|event|light|lux|pressure|hpa|dew",
    re.I,
)


@dataclass(frozen=True)
class Channel:
    """One column of a file: its name, and what was read [°C, NaN where nothing]."""

    name: str
    celsius: Array


@dataclass(frozen=True)
class ThermometerFile:
    """What a file holds: when it was read by the file's own clock [s since 1970 as if that clock
    were UTC], the hours that the file says its clock is ahead of UTC, None where it does not; its
    channels, and what of it was passed over or taken for granted."""

    seconds: Array
    utc_offset_h: float | None
    channels: tuple[Channel, ...]
    notes: tuple[str, ...]

    @property
    def read(self) -> tuple[tuple[str, Array], ...]:
        """The channels as names and readings. Source: none, bookkeeping."""
        return tuple((each.name, each.celsius) for each in self.channels)


def read_thermometers(data: bytes, dates: DayFirst = "as in the file") -> ThermometerFile:
    """Readings of a CSV file.

    Args:
        data: the file.
        dates: how dates such as 03/04/2031 are meant, where the file itself does not tell.

    Raises:
        FileError: naming line and column of the first thing that is wrong; nothing is taken then.
    """
    refuse_table(data, MOST_ROWS)
    with _collector_paused():
        return _read(data, dates)


@contextmanager
def _collector_paused() -> Iterator[None]:
    """Half a million rows are half a million lists, in which there is nothing to collect."""
    was_on = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_on:
            gc.enable()


def _read(data: bytes, dates: DayFirst) -> ThermometerFile:
    lines = text_of(data)[0].splitlines()
    at, delimiter = _header(lines)
    rows = _rows(lines[at:], at + 1, delimiter)
    header = [" ".join(cell.split()) for cell in rows[0]]
    notes: list[str] = []
    whole = [row for row in rows[1:] if len(row) >= len(header)]
    short = sum(any(cell.strip() for cell in row) for row in rows[1:] if len(row) < len(header))
    if short:
        notes.append(f"{short} rows too short, passed over")
    if not whole:
        raise FileError("no rows of readings under the header", at + 2, 1)
    columns: list[tuple[str, ...]] = list(zip(*whole, strict=False))
    time_at, clock_at = _time_columns(columns[: len(header)], at + 2)
    texts = list(map(str.strip, columns[time_at]))
    if clock_at is not None:
        clocks = map(str.strip, columns[clock_at])
        texts = [f"{day} {clock}" for day, clock in zip(texts, clocks, strict=True)]
    seconds, zone = seconds_of(texts, dates, at + 2)
    channels: list[Channel] = []
    for place, name in enumerate(header):
        if place in (time_at, clock_at):
            continue
        celsius = _channel(name, columns[place], decimal_comma=delimiter != ",", notes=notes)
        if celsius is not None:
            channels.append(Channel(_plain(name) or f"channel {len(channels) + 1}", celsius))
    if not channels:
        raise FileError("no column of temperatures", at + 1, 1)
    if len(channels) > MOST_CHANNELS:
        raise FileError(f"more than {MOST_CHANNELS} channels", at + 1, 1)
    back = int((np.diff(seconds) < 0).sum())
    if back:
        notes.append(f"times go back {back} times; the rows were put in order")
        order = np.argsort(seconds, kind="stable")
        seconds = seconds[order]
        channels = [Channel(each.name, each.celsius[order]) for each in channels]
    offset = zone if zone is not None else zone_of(" ".join(lines[: at + 1]))
    return ThermometerFile(seconds, offset, tuple(channels), tuple(notes))


def _rows(lines: list[str], line: int, delimiter: str) -> list[list[str]]:
    try:
        return list(csv.reader(lines, delimiter=delimiter))
    except csv.Error as fault:
        raise FileError(f"not CSV: {fault}", line, 1) from None


def _header(lines: list[str]) -> tuple[int, str]:
    """The line of the header, the last with anything on it before the first row that tells a date,
    and what parts its cells."""
    for at, line in enumerate(lines[: HEADER_WITHIN + 1]):
        for delimiter in (";", "\t", "|", ","):
            cells = [cell.strip().strip('"') for cell in line.split(delimiter)]
            if len(cells) < 2 or not any(tells_date(cell) for cell in cells):
                continue
            above = next((n for n in range(at - 1, -1, -1) if lines[n].count(delimiter)), None)
            if above is None:
                raise FileError("no header above the first row: name its columns", at + 1, 1)
            return above, delimiter
    start = next((n for n, line in enumerate(lines) if line.strip()), None)
    if start is None:
        raise FileError("the file is empty", 1, 1)
    delimiter_of(lines[start], start + 1)
    message = f"no row with a time such as 2031-09-14 06:00 within {HEADER_WITHIN} lines"
    raise FileError(message, start + 1, 1)


def _time_columns(columns: list[tuple[str, ...]], line: int) -> tuple[int, int | None]:
    """The column of times, and that of clock times where dates stand apart."""
    first = [column[0].strip() for column in columns]
    for place, cell in enumerate(first):
        if tells_both(cell):
            return place, None
    for place, cell in enumerate(first):
        if tells_date(cell):
            clock = next((at for at, each in enumerate(first) if tells_clock(each)), None)
            if clock is None:
                raise FileError("dates, but no clock times", line, 1)
            return place, clock
    raise FileError("no column of times", line, 1)


def _channel(
    name: str, column: tuple[str, ...], *, decimal_comma: bool, notes: list[str]
) -> Array | None:
    """A column in degrees Celsius; None, and a note, where it is no temperature."""
    told = f"“{name[:40]}”"
    if _OTHER.search(name) and not _UNIT.search(name):
        notes.append(f"{told} is not a temperature, passed over")
        return None
    read = _figures(column, decimal_comma=decimal_comma)
    if read is None:
        notes.append(f"{told} is not in figures, passed over")
        return None
    match = _UNIT.search(name)
    unit = match[1].replace("deg", "").replace("°", "").strip()[:1].upper() if match else "C"
    celsius = {"F": (read - 32) / 1.8, "K": read - 273.15}.get(unit, read)
    beyond = np.isfinite(celsius) & ((celsius < COLDEST) | (celsius > HOTTEST))
    if beyond.any():
        notes.append(f"{told}: {int(beyond.sum())} readings beyond any air, passed over")
        celsius = np.where(beyond, np.nan, celsius)
    return celsius if np.isfinite(celsius).any() else None


def _figures(column: tuple[str, ...], *, decimal_comma: bool) -> Array | None:
    """Figures of a column, NaN where empty; None where most of it is not in figures."""
    try:
        return np.fromiter(map(float, column), np.float64, len(column))
    except ValueError:
        pass
    found = np.full(len(column), np.nan)
    bad = 0
    for place, cell in enumerate(column):
        try:
            found[place] = float(cell.replace(",", ".") if decimal_comma else cell)
        except ValueError:
            text = cell.strip().lower()
            if text in MISSING:
                continue
            try:
                found[place] = float(text.replace("−", "-"))
            except ValueError:
                bad += 1
    return found if bad * 2 < len(column) else None


def _plain(name: str) -> str:
    """A header without its unit."""
    return re.sub(r"[(\[].*?[)\]]", "", name).strip(" ,:;/")[:100]


def write_thermometers(read: Sequence[tuple[str, Array, Array]]) -> str:
    """Several thermometers as one CSV file.

    Args:
        read: name, seconds since 1970 in UTC, rising, and what was read [°C].

    Source: none, a format.
    """
    seconds = np.unique(np.concatenate([np.zeros(0), *(times for _, times, _ in read)]))
    channels: list[Channel] = []
    for name, times, celsius in read:
        column = np.full(len(seconds), np.nan)
        column[np.searchsorted(seconds, times)] = celsius
        channels.append(Channel(name, column))
    return write_thermometer(seconds, tuple(channels))


def write_thermometer(seconds: Array, channels: tuple[Channel, ...]) -> str:
    """Readings as a CSV file in UTC that read_thermometers reads back.

    Source: none, a format.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["time (UTC)", *(f"{each.name} (°C)" for each in channels)])
    for place, second in enumerate(seconds.tolist()):
        when: datetime = np.datetime64(int(second), "s").astype(datetime)
        read = [float(each.celsius[place]) for each in channels]
        cells = [f"{each:.2f}" if np.isfinite(each) else "" for each in read]
        writer.writerow([when.strftime("%Y-%m-%d %H:%M:%S"), *cells])
    return out.getvalue()
