"""What thermometers say of nights at camp: lows, lifts of shelters, beds."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.log.readings import SETTLES_H, STEP_H, Track, aligned, mean_of, middles
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Thermometer
from caldarium.core.timeline.moments import Timeline


@dataclass(frozen=True)
class Measured:
    """What thermometers say of one night at camp: the lowest mean over an hour outside [°C], how
    warm it was in shelters over outside [K], and each bed's mean [°C]; None or not there where
    nothing was read."""

    low: float | None
    lifts: dict[str, float]
    beds: dict[str, float]


LOW_OVER_H = 1.0
"""The low of a night is the lowest mean over so long, as forecasts mean it [h]: judgement."""
ENOUGH = 0.8
"""Share of a night that must be read before its low counts: judgement."""


def measured_nights(
    course: Course, timeline: Timeline, thermometers: Sequence[Thermometer]
) -> dict[int, Measured]:
    """What was measured of every night, by its day.

    Source: means of readings; several thermometers at one place are averaged.
    """
    tracks = [(each, aligned(course, each)) for each in thermometers if each.where != "nowhere"]
    found: dict[int, Measured] = {}
    for night in timeline.moments:
        if night.kind != "night":
            continue
        there = [
            (each, track) for each, track in tracks if track.share(night.start, night.end) >= ENOUGH
        ]
        outside = [track for each, track in there if each.where == "outside"]
        lows = [_low(track, night.start, night.end) for track in outside]
        lifts: dict[str, list[float]] = {}
        beds: dict[str, list[float]] = {}
        for each, track in there:
            if each.where == "shelter" and outside:
                lifts.setdefault(each.of, []).append(_over(track, outside, night.start, night.end))
            elif each.where == "bed":
                beds.setdefault(each.of, []).append(
                    float(track.between(night.start, night.end).mean())
                )
        found[night.day] = Measured(
            float(np.mean(lows)) if lows else None,
            {name: float(np.mean(values)) for name, values in lifts.items()},
            {name: float(np.mean(values)) for name, values in beds.items()},
        )
    return found


def _low(track: Track, start: float, end: float) -> float:
    """The lowest mean over LOW_OVER_H of a night."""
    read = track.at(middles(start, end))
    read = read[np.isfinite(read)]
    over = min(round(LOW_OVER_H / STEP_H), len(read))
    runs = np.concatenate([np.zeros(1), np.cumsum(read)])
    return float((runs[over:] - runs[:-over]).min()) / over


def _over(track: Track, outside: Sequence[Track], start: float, end: float) -> float:
    """How much warmer it was than outside, of the hours after settling [K]."""
    hours = np.arange(start + SETTLES_H, end, STEP_H)
    over = track.at(hours) - mean_of(outside, hours)
    known = np.isfinite(over)
    return float(over[known].sum() / known.sum()) if known.any() else 0.0
