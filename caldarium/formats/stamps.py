"""Times as devices write them: dates in any order, apart from clock times or not, zoned or not.

Times are seconds since 1970 as if the clock that wrote them were UTC.
"""

import re
from datetime import datetime
from itertools import pairwise
from typing import Literal, NoReturn

import numpy as np

from caldarium.core.physics.quantities import Array
from caldarium.formats.fault import FileError

DayFirst = Literal["as in the file", "day first", "month first"]
Date = tuple[int, int, int]

_ISO = re.compile(r"^(\d{4})-(\d\d)-(\d\d)[ T](\d\d):(\d\d)(:\d\d)?(\.\d+)?(Z|[+-]\d\d:?\d\d)?$")
_DATE = r"(?P<a>\d{1,4})[./-](?P<b>\d{1,2})[./-](?P<c>\d{1,4})"
_CLOCK = r"(?P<h>\d{1,2}):(?P<m>\d\d)(?::(?P<s>\d\d)(?:\.\d+)?)?\s*(?P<p>[AaPp]\.?[Mm]\.?)?"
_BOTH = re.compile(rf"^{_DATE}[ T,]+{_CLOCK}$")
_ONLY_DATE, _ONLY_CLOCK = re.compile(rf"^{_DATE}$"), re.compile(rf"^{_CLOCK}$")
_ZONE = re.compile(r"\b(?:UTC|GMT)\s*(?P<sign>[+-])\s*(?P<h>\d{1,2})(?::?(?P<m>\d\d))?", re.I)
_PLAIN_UTC = re.compile(r"\b(?:UTC|GMT|Zulu)\b", re.I)


def tells_date(cell: str) -> bool:
    """Whether a cell holds a date, with a clock time or without. Source: none, a format."""
    return bool(_ISO.match(cell) or _BOTH.match(cell) or _ONLY_DATE.match(cell))


def tells_both(cell: str) -> bool:
    """Whether a cell holds a date and a clock time. Source: none, a format."""
    return bool(_ISO.match(cell) or _BOTH.match(cell))


def tells_clock(cell: str) -> bool:
    """Whether a cell holds a clock time alone. Source: none, a format."""
    return bool(_ONLY_CLOCK.match(cell))


def zone_of(text: str) -> float | None:
    """Hours ahead of UTC that a header names, as UTC, GMT+02:00; None where it names none.

    Source: none, a format.
    """
    match = _ZONE.search(text)
    if match:
        hours = int(match["h"]) + int(match["m"] or 0) / 60
        return -hours if match["sign"] == "-" else hours
    return 0.0 if _PLAIN_UTC.search(text) else None


def seconds_of(texts: list[str], dates: DayFirst, line: int) -> tuple[Array, float | None]:
    """A column of times.

    Args:
        texts: one or more.
        dates: how dates are meant where they could be either.
        line: of the first.

    Returns:
        Seconds, and the hours ahead of UTC that every time carries itself, None for none.

    Raises:
        FileError: naming the line of the first that is no time, or where day and month cannot be
            told apart.
    """
    match = _ISO.match(texts[0])
    if match is None:
        return _other(texts, dates, line), None
    zone = match[8]
    if zone:
        if any(not text.endswith(zone) for text in texts):
            return _of_many_zones(texts, line), 0.0
        texts = [text[: -len(zone)] for text in texts]
    try:
        stamps = np.array(texts, dtype="datetime64[s]")
    except ValueError:
        _name_fault(texts, line)
    return stamps.astype(np.int64).astype(np.float64), _offset(zone)


def _offset(zone: str | None) -> float | None:
    if not zone:
        return None
    if zone == "Z":
        return 0.0
    digits = zone[1:].replace(":", "")
    hours = int(digits[:2]) + int(digits[2:]) / 60
    return -hours if zone[0] == "-" else hours


def _of_many_zones(texts: list[str], line: int) -> Array:
    """Times whose zone changes on the way, as UTC."""
    found: list[float] = []
    for number, text in enumerate(texts):
        try:
            found.append(datetime.fromisoformat(text).timestamp())
        except ValueError:
            raise _no_time(text, line + number) from None
    return np.array(found)


def _name_fault(texts: list[str], line: int) -> NoReturn:
    for number, text in enumerate(texts):
        try:
            np.datetime64(text, "s")
        except ValueError:
            raise _no_time(text, line + number) from None
    raise _no_time(texts[0], line)


def _no_time(text: str, line: int) -> FileError:
    return FileError(f"“{text[:40]}” is not a time; write it as 2031-09-14 06:00", line, 1)


def _other(texts: list[str], dates: DayFirst, line: int) -> Array:
    """Times of any other spelling; each day and each clock time is read once."""
    found = np.empty(len(texts))
    parts: list[tuple[Date, float]] = []
    days: dict[str, Date] = {}
    clocks: dict[str, float] = {}
    for number, text in enumerate(texts):
        day, _, clock = text.partition(" ")
        if day not in days or clock not in clocks:
            match = _BOTH.match(text)
            if match is None:
                raise _no_time(text, line + number)
            days[day] = (int(match["a"]), int(match["b"]), int(match["c"]))
            clocks[clock] = _clock(match, text, line + number)
        parts.append((days[day], clocks[clock]))
    order = _order(list(days.values()), texts[0], dates, line)
    midnights: dict[Date, float] = {}
    for number, (day, clock) in enumerate(parts):
        if day not in midnights:
            midnights[day] = _midnight(day, order, texts[number], line + number)
        found[number] = midnights[day] + clock
    return found


def _clock(match: re.Match[str], text: str, line: int) -> float:
    hour, minute, second = int(match["h"]), int(match["m"]), int(match["s"] or 0)
    if match["p"]:
        hour = hour % 12 + (12 if match["p"][0] in "pP" else 0)
    if hour > 23 or minute > 59 or second > 59:
        raise _no_time(text, line)
    return 3600.0 * hour + 60 * minute + second


def _midnight(day: Date, order: Date, text: str, line: int) -> float:
    at_day, at_month, at_year = order
    year = day[at_year] + (2000 if day[at_year] < 100 else 0)
    try:
        midnight = datetime(year, day[at_month], day[at_day])
    except ValueError:
        raise _no_time(text, line) from None
    return float(np.datetime64(midnight, "s").astype(np.int64))


def _order(days: list[Date], text: str, dates: DayFirst, line: int) -> Date:
    """Where day, month and year stand in dates that are in the order of the file.

    Dots mean day first. Slashes mean nothing: a figure over 12 tells, or that time only runs
    forward one way, or that neighbouring days differ in the day and not in the month, or the user.
    """
    if days[0][0] > 31:
        return 2, 1, 0
    day_first, month_first = (0, 1, 2), (1, 0, 2)
    if dates != "as in the file":
        return day_first if dates == "day first" else month_first
    if any(day[0] > 12 for day in days) or "." in text.split(" ", maxsplit=1)[0]:
        return day_first
    if any(day[1] > 12 for day in days):
        return month_first
    by = [
        [(each[year], each[month], each[day]) for each in days]
        for day, month, year in (day_first, month_first)
    ]
    forward = [all(one < other for one, other in pairwise(each)) for each in by]
    if forward[0] != forward[1]:
        return day_first if forward[0] else month_first
    one_month = [len({(year, month) for year, month, _ in each}) == 1 for each in by]
    if len(days) > 1 and one_month[0] != one_month[1]:
        return day_first if one_month[0] else month_first
    raise FileError(f"“{text[:40]}” could have the day or the month first: say which", line, 1)
