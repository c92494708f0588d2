"""What of a thermometer's readings looks odd, so that somebody looks before they teach."""

from typing import Literal

import numpy as np

from caldarium.core.log.readings import LONG_GAP_H, STEP_H, aligned
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.log import Thermometer
from caldarium.core.timeline.moments import Timeline

JUMP_K = 15.0
"""Change between neighbouring means that is told [K]: no air does that in ten minutes. Judgement.
"""
STUCK_H = 12.0
"""Readings the same to the last digit for so long are told [h]: judgement."""
SUN_K = 8.0
"""By how much a thermometer is over the air as planned for an hour in daylight, and not at night,
where it most likely lay in the sun [K]: judgement."""
OddReason = Literal["not of the course", "holes", "jumps", "stuck", "in the sun", "ends early"]
"""Figures: hours that lie within the course, and of it; number of holes and the longest [h]; jumps
and the largest [K]; hours stuck, and at what [°C]; hours over, and by how much [K]; hours before
the course's end."""


def odd(course: Course, timeline: Timeline, thermometer: Thermometer) -> list[Finding[OddReason]]:
    """What of a thermometer's readings looks odd, so that somebody looks before they teach.

    Source: judgement, named above.
    """
    track = aligned(course, thermometer)
    whole = 24.0 * len(course.days)
    inside = (track.hour >= 0) & (track.hour < whole) & np.isfinite(track.celsius)
    if not inside.any():
        return [Finding("not of the course", figures=(0.0, whole))]
    found: list[Finding[OddReason]] = []
    hour, read = track.hour[inside], track.celsius[inside]
    steps = np.diff(hour)
    holes = steps[steps > LONG_GAP_H]
    if len(holes):
        found.append(Finding("holes", figures=(float(len(holes)), float(holes.max()))))
    change = np.abs(np.diff(read))[steps <= LONG_GAP_H]
    jumps = change[change > JUMP_K]
    if len(jumps) and thermometer.where not in ("bed", "pocket"):
        found.append(Finding("jumps", figures=(float(len(jumps)), float(jumps.max()))))
    run, value = _longest_run(read)
    if run * STEP_H >= STUCK_H:
        found.append(Finding("stuck", figures=(run * STEP_H, value)))
    if thermometer.where in ("outside", "nowhere"):
        over = _sunny(timeline, hour, read)
        if over is not None:
            found.append(Finding("in the sun", figures=over))
    if whole - hour[-1] > 2 * LONG_GAP_H and whole - hour[-1] > _evening(timeline, whole):
        found.append(Finding("ends early", figures=(float(whole - hour[-1]),)))
    return found


def _evening(timeline: Timeline, whole: float) -> float:
    """How long after the last night a course ends [h]."""
    nights = [moment.end for moment in timeline.moments if moment.kind == "night"]
    return whole - max(nights, default=whole)


def _longest_run(read: Array) -> tuple[int, float]:
    """How many readings in a row are the same, and which."""
    ends = np.flatnonzero(np.append(np.diff(read) != 0, True))
    lengths = np.diff(np.append(-1, ends))
    at = int(lengths.argmax())
    return int(lengths[at]), float(read[ends[at]])


def _sunny(timeline: Timeline, hour: Array, read: Array) -> tuple[float, float] | None:
    """Hours by day over the air as forecast by more than SUN_K beyond the night's own difference,
    and the most."""
    planned = np.interp(hour, timeline.hours.hour, timeline.hours.forecast)
    dark = np.interp(hour, timeline.hours.hour, timeline.hours.dark) > 0.5
    if not dark.any() or dark.all():
        return None
    over = read - planned - np.median((read - planned)[dark])
    sunny = over[~dark & (over > SUN_K)]
    if len(sunny) * STEP_H < 1.0:
        return None
    return float(len(sunny) * STEP_H), float(sunny.max())
