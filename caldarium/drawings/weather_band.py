"""The weather over the course's hours: light and dark, wind, temperature, what falls, the way."""

import math
from dataclasses import dataclass
from datetime import timedelta

import numpy as np

from caldarium.core.assess import Assessment
from caldarium.core.physics.air import precipitation_kind
from caldarium.core.plan.course import Course
from caldarium.drawings.svg import Svg, element, line, path, rect, text, title
from caldarium.drawings.time_axis import TimeAxis
from caldarium.words.units import Display, clock_text


@dataclass(frozen=True)
class Layout:
    """Heights of the band's parts, from its top [drawing units]."""

    wind_top: float
    wind_reach: float
    sky_top: float
    sky_bottom: float
    ground: float
    profile: float
    rain: float
    names: float


SMALL = Layout(18.0, 16.0, 32.0, 92.0, 118.0, 44.0, 30.0, 11.0)
LARGE = Layout(18.0, 30.0, 62.0, 140.0, 226.0, 70.0, 40.0, -5.0)
WIND_SCALE = 20.0
"""Wind that fills the wind's part of the band [m/s]."""


class WeatherBand:
    """Upper part of a strip."""

    def __init__(
        self,
        course: Course,
        result: Assessment,
        axis: TimeAxis,
        display: Display,
        width: float,
        layout: Layout,
    ) -> None:
        self.course, self.axis, self.display, self.width = course, axis, display, width
        self.layout, self.suns, self.stages = layout, result.timeline.suns, result.timeline.stages
        hours = result.timeline.hours
        inside = (hours.hour > axis.start) & (hours.hour < min(axis.end, hours.hour[-1]))
        self.hour = np.concatenate([[axis.start], hours.hour[inside], [axis.end]])

        def at(values: np.ndarray) -> np.ndarray:
            return np.interp(self.hour, hours.hour, values)

        self.air, self.forecast, self.wind = at(hours.air), at(hours.forecast), at(hours.wind)
        self.gust = at(hours.gust)
        here = np.minimum(self.hour.astype(int), len(hours.hour) - 1)
        self.rain = hours.precipitation[here]
        self.falls = precipitation_kind(hours.wet_bulb)[here].tolist()
        self.source = hours.source[here].tolist()
        self.x = [axis.x(float(hour)) for hour in self.hour]
        self.way = self._way()
        everything = np.concatenate([self.air, self.forecast, [0.0]])
        self.low, self.high = float(everything.min()) - 1, float(everything.max()) + 1

    def _way(self) -> list[tuple[float, float]]:
        """Hours and altitudes of the way, with every point of its legs."""
        path_points = [(self.axis.start, 0.0), (self.axis.end, 0.0)]
        known = [(-1.0, self.course.start_altitude_m)]
        for day, legs in enumerate(self.stages):
            for stage in legs:
                known += [(24 * day + clock, height) for clock, height in stage.profile]
        times, heights = zip(*known, strict=True)
        inside = [each for each in known if self.axis.start < each[0] < self.axis.end]
        ends = [(hour, float(np.interp(hour, times, heights))) for hour, _ in path_points]
        return [ends[0], *inside, ends[1]]

    def y(self, celsius: float) -> float:
        """Where a temperature stands."""
        share = (celsius - self.low) / (self.high - self.low)
        return self.layout.sky_bottom - share * (self.layout.sky_bottom - self.layout.sky_top)

    def parts(self) -> list[Svg]:
        """Everything from the bottom layer up."""
        return [
            *self._nights(),
            self._profile(),
            *self._rain(),
            *self._band(),
            *self._wind(),
            *self._scales(),
            *self._days(),
            *self._places(),
            *self._strongest(),
        ]

    def sketch(self) -> list[Svg]:
        """Light and dark, the way, what falls and the temperature, without words or scales."""
        return [*self._nights(), self._profile(), *self._rain(), *self._band()]

    def _nights(self) -> list[Svg]:
        found: list[Svg] = []
        for day in range(-1, len(self.suns) + 1):
            sun = self.suns[min(max(day, 0), len(self.suns) - 1)]
            if sun.light >= 24:
                continue
            base = 24.0 * day
            night = (base + sun.set, base + 24 + sun.rise)
            dark = (base + sun.dusk, base + 24 + sun.dawn)
            for (begin, end), kind in ((night, "twilight"), (dark, "dark")):
                first, last = max(begin, self.axis.start), min(end, self.axis.end)
                if last > first:
                    x = self.axis.x(first)
                    top = self.layout.wind_top
                    found.append(
                        rect(x, top, self.axis.x(last) - x, self.layout.ground - top, kind)
                    )
        return found

    def _profile(self) -> Svg:
        heights = [height for _, height in self.way]
        low, reach = min(heights), max(max(heights) - min(heights), 200.0)
        ground = self.layout.ground
        top = [
            (self.axis.x(hour), ground - 6 - self.layout.profile * (height - low) / reach)
            for hour, height in self.way
        ]
        return path([(top[0][0], ground), *top, (top[-1][0], ground)], "profile", closed=True)

    def _band(self) -> list[Svg]:
        planned = [(x, self.y(float(t))) for x, t in zip(self.x, self.air, strict=True)]
        forecast = [(x, self.y(float(t))) for x, t in zip(self.x, self.forecast, strict=True)]
        zero = self.y(0)
        return [
            path([*planned, *reversed(forecast)], "doubt", closed=True),
            line(self.x[0], zero, self.width - 2, zero, "zero"),
            path(forecast, "forecast"),
            path(planned, "air"),
        ]

    def _wind(self) -> list[Svg]:
        """A stroke for the mean wind, leaning as it blows harder, and a tick for its gusts."""
        found: list[Svg] = []
        reach, top = self.layout.wind_reach, self.layout.wind_top
        dense = 2 if len(self.x) > 40 else 1
        for index in range(0, len(self.x), dense):
            mean, gust = float(self.wind[index]), float(self.gust[index])
            length, tip = (min(each / WIND_SCALE, 1.0) * reach for each in (mean, gust))
            words = (
                f"{clock_text(float(self.hour[index]))}: wind {self.display.wind(mean)}, gusts "
                f"{self.display.wind(gust)}"
            )
            x = self.x[index]
            found.append(
                element(
                    "line",
                    title(words),
                    x1=x,
                    y1=top,
                    x2=x + length * 0.35,
                    y2=top + length,
                    class_="wind",
                )
            )
            gust_x = x + tip * 0.35
            found.append(line(gust_x - 2, top + tip, gust_x + 2, top + tip, "gust"))
        return found

    def _rain(self) -> list[Svg]:
        most = max(float(self.rain.max()), 2.0)
        found: list[Svg] = []
        for index, rate in enumerate(self.rain):
            if rate > 0.02:
                x = self.x[index]
                width = self.axis.x(float(self.hour[index]) + 1) - x - 0.6
                height = 4 + self.layout.rain * float(rate) / most
                words = title(f"{self.falls[index]} {self.display.rain(float(rate))} an hour")
                found.append(
                    rect(x, self.layout.ground - height, width, height, self.falls[index], words)
                )
        return found

    def _scales(self) -> list[Svg]:
        left, layout = self.x[0] - 6, self.layout
        found = [
            text(left, layout.wind_top + 10, "wind", "axis", "end"),
            text(left, layout.ground - 2, "rain, height", "axis", "end"),
        ]
        for value in (float(self.air.max()), float(self.air.min())):
            words = f"{self.display.degrees(value)}°"
            found.append(text(left, self.y(value) + 4, words, "axis", "end"))
        return found

    def _days(self) -> list[Svg]:
        found: list[Svg] = []
        seen: set[int] = set()
        taken: list[tuple[float, float]] = []
        for slot in self.axis.slots:
            day = slot.moment.day
            if day in seen:
                continue
            seen.add(day)
            name = f"{self.course.start + timedelta(days=day):%a %-d %b}"
            words = f"{name}  {self.course.days[day].title}".strip()
            found.append(line(slot.x, 2, slot.x, self.layout.ground, "day-line"))
            found.append(text(slot.x + 4, 12, words, "day-name"))
            taken.append((slot.x - 16, slot.x + 8 + 6.6 * len(words)))
        return found + self._clock(taken)

    def _clock(self, taken: list[tuple[float, float]]) -> list[Svg]:
        """Clock times along the top, wherever one fits."""
        if self.layout.names > 0:
            return []
        found: list[Svg] = []
        last = 0.0
        for hour in range(math.ceil(self.axis.start), int(self.axis.end) + 1):
            x = self.axis.x(hour)
            free = all(not begin < x + 16 < end + 32 for begin, end in taken)
            if free and x - last > 44 and x < self.width - 18:
                found.append(text(x, 12, clock_text(hour), "axis", "middle"))
                found.append(line(x, 15, x, self.layout.wind_top, "zero"))
                last = x
        return found

    def _places(self) -> list[Svg]:
        found: list[Svg] = []
        for slot in self.axis.slots:
            words = self.display.altitude(slot.moment.altitude)
            if slot.moment.fold:
                top = self.layout.wind_top
                found.append(rect(slot.x, top, slot.width, self.layout.ground - top, "fold"))
            elif slot.moment.kind == "night":
                y = self.layout.ground + self.layout.names
                found.append(text(slot.middle, y, f"▲ {words}", "camp-name", "middle"))
            elif slot.moment.kind == "halt" and self.layout.names > 0:
                y = self.layout.ground + self.layout.names
                found.append(text(slot.middle, y, words, "camp-name", "middle"))
        return found

    def _strongest(self) -> list[Svg]:
        """Each day's strongest gust as a figure, where there is room for one."""
        if self.layout.names > 0:
            return []
        found: list[Svg] = []
        last = -100.0
        for day in sorted({slot.moment.day for slot in self.axis.slots}):
            here = np.flatnonzero((self.hour >= 24 * day) & (self.hour < 24 * day + 24))
            if len(here):
                at = int(here[np.argmax(self.gust[here])])
                tip = min(float(self.gust[at]) / WIND_SCALE, 1.0) * self.layout.wind_reach
                words = f"gusts {self.display.wind(float(self.gust[at]))}"
                y = self.layout.wind_top + tip + 11
                x = min(self.x[at] + 6, self.width - 80)
                if x - last > 78:
                    found.append(text(x, y, words, "gust-name"))
                    last = x
        return found
