"""Readings of thermometers on the course's own clock, and what of them looks odd."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, timezone

import numpy as np

from caldarium.core.physics.quantities import Array
from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import MOST_READINGS, STEP_MIN, Thermometer

EPOCH = datetime(1970, 1, 1)
STEP_H = STEP_MIN / 60
AROUND_H = 24.0
"""How much before and after a course is kept of a longer file [h]."""
LONG_GAP_H = 2.0
"""A hole longer than that is told, and nothing is read into its middle [h]; many loggers read once
an hour."""
SETTLES_H = 1.0
"""What the first hour shows is often the pocket that a logger came from: common practice, no
published source."""


@dataclass(frozen=True)
class Track:
    """Readings by the course's own clock: hours since midnight of its first day, rising, and what
    was read [°C, NaN in holes]."""

    hour: Array
    celsius: Array

    def between(self, start: float, end: float) -> Array:
        """What was read between two hours [°C]. Source: none, bookkeeping."""
        inside = self.celsius[(self.hour >= start) & (self.hour < end)]
        return inside[np.isfinite(inside)]

    def share(self, start: float, end: float) -> float:
        """Share of the time between two hours of which something is known.

        Source: LONG_GAP_H.
        """
        return float(np.isfinite(self.at(middles(start, end))).mean())

    def at(self, hours: Array) -> Array:
        """Readings at hours, NaN in the middle of holes longer than LONG_GAP_H [°C].

        Source: linear between readings.
        """
        known = np.isfinite(self.celsius)
        if not known.any():
            return np.full(np.shape(hours), np.nan)
        where, read = self.hour[known], self.celsius[known]
        found = np.interp(hours, where, read)
        after = np.searchsorted(where, hours).clip(0, len(where) - 1)
        before = (after - 1).clip(0)
        near = np.minimum(np.abs(where[after] - hours), np.abs(where[before] - hours))
        return np.where(near <= LONG_GAP_H / 2, found, np.nan)


def middles(start: float, end: float) -> Array:
    """The middles of steps between two hours [h]. Source: none, bookkeeping."""
    return np.arange(start + STEP_H / 2, max(end, start + STEP_H), STEP_H)


def midnight(course: Course) -> datetime:
    """Midnight before the first day, by the place's own clock. Source: none, bookkeeping."""
    zone = timezone(timedelta(hours=course.place.utc_offset_h))
    return datetime.combine(course.start, datetime.min.time(), zone)


def begins(course: Course) -> float:
    """Seconds since 1970 at the first midnight, as if the place's own clock were UTC.

    Source: none, bookkeeping.
    """
    return (midnight(course).replace(tzinfo=None) - EPOCH).total_seconds()


def course_hour(course: Course, when: datetime) -> float:
    """Hours since midnight of the first day by the course's clock [h].

    Source: none, bookkeeping.
    """
    return (when - midnight(course)).total_seconds() / 3600


def aligned(course: Course, thermometer: Thermometer) -> Track:
    """Readings as the course's clock has them; a clock that runs off is pulled straight.

    Args:
        course: whose clock it is.
        thermometer: its readings by its own clock.

    Returns:
        The middle of each step and its reading. What the clock was ahead is taken off, evenly
        growing from the first reading to the last.

    Source: a quartz clock drifts evenly at one temperature; no more is known of it.
    """
    steps = np.arange(len(thermometer.celsius))
    zone = timezone(timedelta(hours=thermometer.utc_offset_h))
    first = course_hour(course, thermometer.first.replace(tzinfo=zone))
    read = [np.nan if each is None else each for each in thermometer.celsius]
    hour = first + (steps + 0.5) * STEP_H - _ahead_s(thermometer) / 3600
    order = np.argsort(hour, kind="stable")
    return Track(hour[order], np.array(read)[order])


def in_steps(seconds: Array, celsius: Array) -> tuple[float, tuple[float | None, ...]]:
    """Readings at any times as means over STEP_MIN.

    Args:
        seconds: when they were read, rising or not, by one clock [s].
        celsius: what was read; NaN is none.

    Returns:
        Where the first step begins by that clock [s], and the means to a hundredth, None where
        nothing was read.

    Source: none, means.
    """
    width = STEP_MIN * 60
    known = np.isfinite(celsius)
    bins = np.floor(seconds[known] / width).astype(np.int64)
    first = int(bins.min())
    count = int(bins.max()) - first + 1
    total = np.bincount(bins - first, weights=celsius[known], minlength=count)
    many = np.bincount(bins - first, minlength=count)
    with np.errstate(invalid="ignore", divide="ignore"):
        means = np.round(total / many, 2)
    listed = tuple(None if np.isnan(each) else float(each) for each in means)
    return float(first * width), listed


def kept_window(course: Course, first: datetime, count: int, offset_h: float) -> tuple[int, int]:
    """Which steps of a longer file are kept: those round the course, or, where none lies there,
    the first that there is room for.

    Args:
        course: for its dates.
        first, count: of the steps, by the logger's clock.
        offset_h: of that clock over UTC.

    Returns:
        From which step on, and before which.

    Source: none, bookkeeping.
    """
    begin = course_hour(course, first.replace(tzinfo=UTC) - timedelta(hours=offset_h))
    least = int(max(np.floor((-AROUND_H - begin) / STEP_H), 0))
    most = int(min(np.ceil((24 * len(course.days) + AROUND_H - begin) / STEP_H), count))
    if most <= least:
        return 0, min(count, MOST_READINGS)
    return least, min(most, least + MOST_READINGS)


Channels = Sequence[tuple[str, Array]]
"""Names, and what was read at times common to all [°C, NaN where nothing]."""


def thermometers_of(
    course: Course,
    taken: Sequence[str],
    seconds: Array,
    channels: Channels,
    offset_h: float,
    source: str,
) -> list[Thermometer]:
    """What was read as thermometers of a course, in steps and cut to its days.

    Args:
        course: for its dates.
        taken: ids of those that are there.
        seconds: when it was read, since 1970 by the logger's clock.
        channels: what was read.
        offset_h: hours that the logger's clock is ahead of UTC.
        source: file or device.

    Returns:
        One for each channel that has any reading within what is kept, placed nowhere yet.

    Source: in_steps, kept_window.
    """
    used = list(taken)
    found: list[Thermometer] = []
    for name, celsius in channels:
        if not np.isfinite(celsius).any():
            continue
        first, means = in_steps(seconds, celsius)
        begin = EPOCH + timedelta(seconds=first)
        least, most = kept_window(course, begin, len(means), offset_h)
        kept = means[least:most]
        if all(each is None for each in kept):
            continue
        used.append(fresh_id(name, used))
        found.append(
            Thermometer(
                id=used[-1],
                name=name[:120],
                first=begin + timedelta(hours=least * STEP_H),
                utc_offset_h=offset_h,
                celsius=kept,
                source=source[:200],
            )
        )
    return found


def in_utc(thermometer: Thermometer) -> tuple[Array, Array]:
    """Seconds since 1970 in UTC to the full minute, rising, and what was read [°C].

    Source: none, bookkeeping.
    """
    steps = np.arange(len(thermometer.celsius))
    begin = (thermometer.first - EPOCH).total_seconds() - 3600 * thermometer.utc_offset_h
    seconds = begin + steps * STEP_H * 3600 - _ahead_s(thermometer)
    read = np.array([np.nan if each is None else each for each in thermometer.celsius])
    minutes, first = np.unique(np.round(seconds / 60) * 60, return_index=True)
    return minutes, read[first]


def _ahead_s(thermometer: Thermometer) -> Array:
    """What the clock was ahead at each step [s]."""
    steps = np.arange(len(thermometer.celsius))
    drift = thermometer.ahead_last_s - thermometer.ahead_first_s
    return thermometer.ahead_first_s + drift * steps / max(len(steps) - 1, 1)


def mean_of(tracks: Sequence[Track], hours: Array) -> Array:
    """What thermometers read together at hours [°C]; NaN where none did.

    Source: none, means.
    """
    read = np.stack([each.at(hours) for each in tracks])
    known = np.isfinite(read)
    many = known.sum(axis=0)
    return np.where(many, np.where(known, read, 0.0).sum(axis=0) / np.maximum(many, 1), np.nan)
