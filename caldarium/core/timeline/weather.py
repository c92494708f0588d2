"""The weather of a course at any hour and height: which source rules, and how bad to plan for."""

from dataclasses import dataclass, replace
from datetime import datetime, time, timedelta
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from caldarium.core.physics.air import carry_air, saturation_pressure, wet_bulb
from caldarium.core.physics.quantities import Array, array
from caldarium.core.physics.sun import SunTimes, day_curve, sun_times
from caldarium.core.physics.wind import GUST_FACTOR
from caldarium.core.plan.course import Course
from caldarium.core.plan.weather_sources import Hourly, Shift

NO_SHIFT = Shift(high_k=0, low_k=0, wind_ms=0)
TYPED = -1
"""Number of the source that is typed by the day."""
RAINS_FROM = 0.1
"""Precipitation that wets, and in which nothing dries [mm/h]: judgement."""
LEAST_MEMBERS = 5
UNKNOWN_LEAD = 3.0
"""Days since issue assumed for a source that does not say [d]: judgement."""


@dataclass(frozen=True)
class ForecastError:
    """Standard deviations of a forecast: temperature [K], wind [m/s], rain as a share."""

    air: Array
    wind: Array
    rain: Array


@dataclass(frozen=True)
class Growth:
    """A standard deviation on the day of issue, its growth a day, and where it ends."""

    first: float
    a_day: float
    most: float


ERROR_GROWTH = (Growth(1.2, 0.4, 5.0), Growth(1.0, 0.35, 4.0), Growth(0.2, 0.05, 0.6))
"""Of air [K], wind [m/s] and rain [share]: judgement."""


def forecast_error(lead_days: Array) -> ForecastError:
    """How far a single forecast is usually off, by days since it was issued.

    Args:
        lead_days: [d]; negative counts as 0.

    Returns:
        Standard deviations: from 1.2 K, growing by 0.4 K a day to at most 5 K; from 1 m/s by
        0.35 m/s a day to at most 4 m/s; from 20 % of the rain by 5 % a day to at most 60 %.

    Source: judgement; that error grows with lead time until it is that of climate is common
        practice, no published source.
    """
    lead = np.maximum(lead_days, 0.0)
    grown = (np.minimum(each.first + each.a_day * lead, each.most) for each in ERROR_GROWTH)
    return ForecastError(*grown)


def deviations(course: Course) -> float:
    """Standard deviations the course's caution stands for. Source: the course itself."""
    known = {"cautious": course.cautious_sd, "expedition": course.expedition_sd}
    return known.get(course.caution, 0.0)


def planned_shift(course: Course) -> Shift:
    """How much worse than the typed conditions this course's caution plans for.

    Source: the course's own spread.
    """
    levels = {"cautious": course.spread.cautious, "expedition": course.spread.expedition}
    return levels.get(course.caution, NO_SHIFT)


@dataclass(frozen=True)
class Met:
    """Weather at some times and heights; arrays of one shape.

    air at the chosen caution and forecast as forecast [°C], humidity [%], wind and gust at 10 m
    in the open [m/s], precipitation [mm/h], wet bulb [°C], source the number of the one that rules,
    TYPED for the day's own. warm_air [°C], warm_humidity [%] and warm_wind [m/s] are as far on the
    warm side of the forecast as air and wind are on the cold one.
    """

    air: Array
    forecast: Array
    humidity: Array
    wind: Array
    gust: Array
    precipitation: Array
    wet_bulb: Array
    source: NDArray[np.intp]
    warm_air: Array
    warm_humidity: Array
    warm_wind: Array

    def colder(self, by: Array) -> "Met":
        """The same with cold air lying there [K]; the warm side stays as it is.

        Source: none, subtraction; the wet bulb of air that is nearly saturated follows it.
        """
        if not by.any():
            return self
        return replace(
            self, air=self.air - by, forecast=self.forecast - by, wet_bulb=self.wet_bulb - by
        )


@dataclass(frozen=True)
class Fallen:
    """Precipitation in some spans of time: water [mm], and the hours of them in which it fell."""

    depth: Array
    hours: Array


class _Series:
    """An hourly source as arrays over its hours, planned and as forecast."""

    def __init__(self, source: Hourly, midnight: datetime, sd: float) -> None:
        self.altitude = source.altitude_m
        self.begin = (source.first - midnight).total_seconds() / 3600
        self.hours = np.arange(len(source.air_c), dtype=float) + self.begin
        self.forecast = _numbers(source.air_c)
        wind, rain = _numbers(source.wind_ms), _numbers(source.precipitation_mm, source)
        if len(source.members) >= LEAST_MEMBERS:
            share = NormalDist().cdf(sd)
            self.forecast = _percentile(source, "air_c", 0.5)
            self.air = _percentile(source, "air_c", 1 - share)
            self.wind = _percentile(source, "wind_ms", share)
            self.warm_air = _percentile(source, "air_c", share)
            self.warm_wind = _percentile(source, "wind_ms", 1 - share)
            self.rain = _percentile(source, "precipitation_mm", share)
            before = np.maximum(_percentile(source, "wind_ms", 0.5), 0.1)
        else:
            error = forecast_error(self._lead(source, midnight))
            self.air = self.forecast - sd * error.air
            self.wind = wind + sd * error.wind
            self.warm_air = self.forecast + sd * error.air
            self.warm_wind = np.maximum(wind - sd * error.wind, 0.0)
            self.rain = rain * (1 + sd * error.rain)
            before = np.maximum(wind, 0.1)
        gust = _numbers(source.gust_ms, source) * self.wind / before
        self.gust = np.where(np.isfinite(gust), gust, self.wind * GUST_FACTOR)
        self.humidity = _numbers(source.humidity_pct, source)
        self.cloud = _numbers(source.cloud_pct, source)
        self.known = np.isfinite(self.forecast) & np.isfinite(wind)

    def _lead(self, source: Hourly, midnight: datetime) -> Array:
        if source.issued is None:
            return np.full(len(self.hours), UNKNOWN_LEAD)
        issued = (source.issued - midnight).total_seconds() / 3600
        return (self.hours - issued) / 24

    def at(self, name: str, hours: Array) -> Array:
        """A figure between its hours, straight from one to the next that is known."""
        values: Array = getattr(self, name)
        known = np.isfinite(values)
        if not known.any():
            return np.full(hours.shape, np.nan)
        return np.interp(hours, self.hours[known], values[known])

    def falling(self, hours: Array) -> Array:
        """Precipitation of the hour that a time lies in."""
        index = np.clip(np.floor(hours - self.begin).astype(int), 0, len(self.rain) - 1)
        return self.rain[index]


def _numbers(values: tuple[float | None, ...], source: Hourly | None = None) -> Array:
    if not values and source is not None:
        return np.full(len(source.air_c), np.nan)
    return np.array(values, dtype=float)


def _percentile(source: Hourly, name: str, share: float) -> Array:
    runs = np.array([getattr(each, name) for each in source.members])
    return array(np.quantile(runs, share, axis=0))


def _running(values: Array) -> Array:
    """Sums from nothing on."""
    return np.concatenate([np.zeros(1), np.cumsum(values)])


class Weather:
    """A course's weather at any hour and height, at its caution."""

    def __init__(self, course: Course) -> None:
        self.course = course
        self.shift = planned_shift(course)
        place = course.place
        self.suns: list[SunTimes] = [
            sun_times(
                place.latitude,
                place.longitude,
                place.utc_offset_h,
                course.start + timedelta(days=index),
            )
            for index in range(len(course.days))
        ]
        conditions = [day.conditions for day in course.days]
        self._typed = {
            name: np.array([getattr(each, name) for each in conditions], dtype=float)
            for name in (
                "low_c",
                "high_c",
                "wind_ms",
                "humidity_pct",
                "precipitation_mm",
                "rain_from_h",
                "rain_hours",
                "cloud_pct",
            )
        }
        midnight = datetime.combine(course.start, time())
        sd = deviations(course)
        self.series = [
            _Series(source, midnight, sd) if source.used else None for source in course.sources
        ]
        self.rules = self._ruling()
        self._fallen = self._accumulated()

    def _ruling(self) -> NDArray[np.intp]:
        """Which source rules each hour of the course and of the night after it."""
        hours = np.arange(24 * len(self.course.days) + 24)
        rules = np.full(len(hours), TYPED)
        for number, series in reversed(list(enumerate(self.series))):
            if series is not None:
                index = (hours - series.begin).astype(int)
                inside = (index >= 0) & (index < len(series.known))
                known = inside & series.known[np.clip(index, 0, len(series.known) - 1)]
                rules = np.where(known, number, rules)
        return rules

    def at(self, hours: Array, altitude: Array) -> Met:
        """Weather at times [h since midnight of the first day] and heights [m].

        Source: core.physics.air carries it from the height of the source that rules; typed days by
            core.physics.sun.day_curve.
        """
        course = self.course
        rule, shift = self._rule(hours), self.shift
        air, forecast = self._by_day_curve(hours, shift), self._by_day_curve(hours, NO_SHIFT)
        warmer = Shift(high_k=-shift.high_k, low_k=-shift.low_k, wind_ms=0)
        warm_air = self._by_day_curve(hours, warmer)
        still = self._day_value("wind_ms", hours)
        wind, warm_wind = still + shift.wind_ms, np.maximum(still - shift.wind_ms, 0.0)
        humidity, warm_humidity = (
            self._typed_humidity(hours, each, mean)
            for each, mean in ((air, shift), (warm_air, warmer))
        )
        height = np.full(hours.shape, course.conditions_altitude_m)
        gust = wind * GUST_FACTOR
        for number, series in enumerate(self.series):
            here = rule == number
            if series is None or not here.any():
                continue
            height = np.where(here, series.altitude, height)
            air = np.where(here, series.at("air", hours), air)
            forecast = np.where(here, series.at("forecast", hours), forecast)
            wind = np.where(here, series.at("wind", hours), wind)
            warm_air = np.where(here, series.at("warm_air", hours), warm_air)
            warm_wind = np.where(here, series.at("warm_wind", hours), warm_wind)
            gust = np.where(here, series.at("gust", hours), gust)
            damp = series.at("humidity", hours)
            humidity, warm_humidity = (
                np.where(here & np.isfinite(damp), damp, typed)
                for typed in (humidity, warm_humidity)
            )
        state = carry_air(air, humidity, height, altitude, course.lapse_k_per_km)
        warm = carry_air(warm_air, warm_humidity, height, altitude, course.lapse_k_per_km)
        return Met(
            air=state.air,
            forecast=forecast - course.lapse_k_per_km * (altitude - height) / 1000,
            humidity=state.humidity,
            wind=wind,
            gust=gust,
            precipitation=self.precipitation(hours),
            wet_bulb=wet_bulb(state.air, state.humidity, state.pressure),
            source=rule,
            warm_air=warm.air,
            warm_humidity=warm.humidity,
            warm_wind=warm_wind,
        )

    def _rule(self, hours: Array) -> NDArray[np.intp]:
        return self.rules[np.clip(np.floor(hours).astype(int), 0, len(self.rules) - 1)]

    def precipitation(self, hours: Array) -> Array:
        """Rate at those hours [mm/h]. Source: the source that rules."""
        rule, rain = self._rule(hours), self._typed_rain(hours)
        for number, series in enumerate(self.series):
            if series is not None:
                fallen = series.falling(hours)
                rain = np.where((rule == number) & np.isfinite(fallen), fallen, rain)
        return rain

    def fallen(self, starts: Array, ends: Array) -> Fallen:
        """Precipitation between two times, the same however they are divided.

        Source: the sources that rule.
        """
        marks, water, wet = self._fallen
        depth = np.interp(ends, marks, water) - np.interp(starts, marks, water)
        hours = np.interp(ends, marks, wet) - np.interp(starts, marks, wet)
        return Fallen(np.maximum(depth, 0.0), np.maximum(hours, 0.0))

    def _accumulated(self) -> tuple[Array, Array, Array]:
        """Times between which it falls evenly [h], with the water until then [mm] and the hours in
        which some fell."""
        begin = 24 * np.arange(len(self.course.days)) + self._typed["rain_from_h"]
        end = begin + self._typed["rain_hours"]
        hours = np.arange(len(self.rules) + 1, dtype=float)
        marks = np.unique(np.concatenate([hours, begin, end]))
        rate = self.precipitation((marks[1:] + marks[:-1]) / 2)
        spans = np.diff(marks)
        water, wet = rate * spans, (rate > RAINS_FROM) * spans
        return marks, _running(water), _running(wet)

    def cloud(self, hours: Array) -> Array:
        """Cloud cover [%]; NaN where the source that rules does not say. Source: that source."""
        rule = self._rule(hours)
        cover = self._day_value("cloud_pct", hours)
        for number, series in enumerate(self.series):
            if series is not None:
                cover = np.where(rule == number, series.at("cloud", hours), cover)
        return cover

    def _by_day_curve(self, hours: Array, shift: Shift) -> Array:
        lows = self._typed["low_c"] + shift.low_k
        highs = np.maximum(self._typed["high_c"] + shift.high_k, lows)
        return day_curve(hours, lows, highs, self.suns)

    def _typed_humidity(self, hours: Array, air: Array, shift: Shift) -> Array:
        """Humidity of a typed day: its mean says how much vapour the air holds, all day long.

        Source: vapour of the mean humidity at the mean of high and low; that an air mass keeps its
            vapour through a day is common practice, no published source.
        """
        mean = (self._day_value("low_c", hours) + self._day_value("high_c", hours)) / 2
        mean = mean + (shift.low_k + shift.high_k) / 2
        holds = saturation_pressure(mean) / saturation_pressure(air)
        return np.minimum(self._day_value("humidity_pct", hours) * holds, 100.0)

    def _day_value(self, name: str, hours: Array) -> Array:
        values = self._typed[name]
        return values[np.clip(np.floor(hours / 24).astype(int), 0, len(values) - 1)]

    def _typed_rain(self, hours: Array) -> Array:
        shift, rate = self.shift, np.zeros(hours.shape)
        depth = self._typed["precipitation_mm"] * shift.precipitation_factor
        depth = depth + shift.precipitation_mm
        for day, (fallen, start, lasts) in enumerate(
            zip(depth, self._typed["rain_from_h"], self._typed["rain_hours"], strict=True)
        ):
            since = hours - 24 * day - start
            rate = rate + np.where((since >= 0) & (since < lasts), fallen / lasts, 0.0)
        return rate
