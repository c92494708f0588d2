"""One night of a log: the air as it was forecast with its band, and what thermometers read."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.log.readings import LONG_GAP_H, SETTLES_H, Track
from caldarium.core.log.right import BAND_SDS, Band
from caldarium.core.physics.quantities import Array
from caldarium.core.timeline.moments import Moment, Timeline
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.units import Display, clock_text

WIDTH, HEIGHT, LEFT, RIGHT, TOP, BOTTOM = 360.0, 196.0, 42.0, 250.0, 14.0, 168.0
BEDS = 44.0
"""Height that beds take above the air, on a scale of their own, as they are so much warmer."""
BETWEEN = 8.0
"""Room between the figures of both scales."""
AROUND_H = 2.0
TICKS, BED_TICKS = 4, 1
LEAST_SPAN_K, LEAST_BED_SPAN_K = 8.0, 6.0
LABEL_ROW = 13.0
LONGEST_LABEL = 18
MOST_POINTS = 400


@dataclass(frozen=True)
class _Scale:
    """Where a temperature is drawn."""

    low: float
    high: float
    top: float
    bottom: float

    def y(self, celsius: float) -> float:
        """Height on the page."""
        share = (celsius - self.low) / (self.high - self.low)
        return self.bottom - share * (self.bottom - self.top)


def log_night(
    timeline: Timeline,
    night: Moment,
    band: Band,
    air: Sequence[tuple[str, Track]],
    beds: Sequence[tuple[str, Track]],
    display: Display,
    name: str,
) -> Svg:
    """Predicted band and measured lines of one night on one axis, beds over it.

    Args:
        timeline: the course as forecast.
        night: its moment.
        band: of its low.
        air: names and readings of thermometers outside and in shelters.
        beds: names and readings of those in beds.
        display: units.
        name: of the night, for those who hear it.
    """
    first, last = night.start - AROUND_H, night.end + AROUND_H
    hours = np.linspace(first, last, 60)
    forecast = np.interp(hours, timeline.hours.hour, timeline.hours.forecast)
    lines = [(told, *_points(track, first, last)) for told, track in air]
    warm = [(told, *_points(track, night.start + SETTLES_H, night.end)) for told, track in beds]
    warm = [each for each in warm if len(each[2])]
    wide = BAND_SDS * band.sd
    values = [forecast - wide, forecast + wide, *(celsius for _, _, celsius in lines)]
    scale = _scale(values, LEAST_SPAN_K, TOP + (BEDS + BETWEEN if warm else 0.0), BOTTOM)

    def x(hour: float) -> float:
        return LEFT + (hour - first) / (last - first) * (RIGHT - LEFT)

    width = x(night.end) - x(night.start)
    parts: list[Svg] = [rect(x(night.start), TOP, width, BOTTOM - TOP, "log-asleep")]
    parts += _grid(scale, TICKS, display)
    hour = float(np.ceil(first / 3) * 3)
    while hour <= last:
        parts.append(line(x(hour), BOTTOM, x(hour), BOTTOM + 4, "grid"))
        parts.append(text(x(hour), BOTTOM + 17, clock_text(hour % 24), "axis", "middle"))
        hour += 3
    pairs = list(zip(hours.tolist(), forecast.tolist(), strict=True))
    upper = [(x(h), scale.y(f + wide)) for h, f in pairs]
    lower = [(x(h), scale.y(f - wide)) for h, f in pairs]
    told = title("the forecast and its band, in which four nights of five should lie")
    parts.append(element("g", told, path([*upper, *reversed(lower)], "log-band", closed=True)))
    parts.append(path([(x(h), scale.y(f)) for h, f in pairs], "log-forecast"))
    labels = [(scale.y(pairs[-1][1]), "forecast")]
    drawn = [(scale, each) for each in lines]
    if warm:
        over = _scale([c for _, _, c in warm], LEAST_BED_SPAN_K, TOP, TOP + BEDS - 10)
        parts += _grid(over, BED_TICKS, display)
        drawn += [(over, each) for each in warm]
    for number, (on, (told_name, at, celsius)) in enumerate(drawn):
        class_ = f"log-line log-line-{number % 4}"
        for run in _runs(at, celsius):
            points = [(x(h), on.y(c)) for h, c in run]
            parts.append(element("g", title(told_name), path(points, class_)))
        if len(celsius):
            labels.append((on.y(float(celsius[-1])), told_name))
    parts += _labels(labels)
    label = f"{name}: forecast with its band, and what was measured"
    return drawing(WIDTH, HEIGHT, label, *parts, class_="log-night")


def _scale(values: Sequence[Array], span: float, top: float, bottom: float) -> _Scale:
    known = [each for each in values if len(each)]
    low = min(float(each.min()) for each in known) - 0.5
    high = max(float(each.max()) for each in known) + 0.5
    return _Scale(low, max(high, low + span), top, bottom)


def _grid(scale: _Scale, ticks: int, display: Display) -> list[Svg]:
    parts: list[Svg] = []
    for step in range(ticks + 1):
        celsius = scale.low + (scale.high - scale.low) * step / ticks
        at = scale.y(celsius)
        parts.append(line(LEFT, at, RIGHT, at, "grid"))
        parts.append(text(LEFT - 5, at + 4, display.temperature(celsius), "axis", "end"))
    return parts


def _points(track: Track, first: float, last: float) -> tuple[Array, Array]:
    inside = (track.hour >= first) & (track.hour <= last) & np.isfinite(track.celsius)
    hour, celsius = track.hour[inside], track.celsius[inside]
    every = max(len(hour) // MOST_POINTS, 1)
    return hour[::every], celsius[::every]


def _runs(hour: Array, celsius: Array) -> list[list[tuple[float, float]]]:
    """Readings without a hole between them."""
    runs: list[list[tuple[float, float]]] = []
    before = -np.inf
    for at, read in zip(hour.tolist(), celsius.tolist(), strict=True):
        if at - before > LONG_GAP_H:
            runs.append([])
        runs[-1].append((at, read))
        before = at
    return [run for run in runs if len(run) > 1]


def _labels(labels: list[tuple[float, str]]) -> list[Svg]:
    """Names at the ends of lines, none over another."""
    parts: list[Svg] = []
    at = TOP - LABEL_ROW
    for wanted, name in sorted(labels):
        at = max(wanted + 4, at + LABEL_ROW)
        short = name if len(name) <= LONGEST_LABEL else f"{name[: LONGEST_LABEL - 1]}…"
        parts.append(element("g", title(name), text(RIGHT + 6, at, short, "axis")))
    return parts
