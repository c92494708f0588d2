"""The course in time: where the party is each hour, in what air, and the moments that matter."""

from dataclasses import dataclass
from datetime import timedelta

import numpy as np

from caldarium.core.air import carry_air
from caldarium.core.course import Course, Day, Shift
from caldarium.core.quantities import Array
from caldarium.core.sun import SunTimes, day_curve, sun_times
from caldarium.core.walks import Walk, day_walks
from caldarium.core.wind import (
    EXPOSURES,
    GUST_FACTOR,
    frostbite_time,
    wind_at_height,
    wind_chill,
)

DAWN_HOURS = 1.0
SETTING_OUT_HOURS = 0.25
BED_TIME = 21.5
TIMES_LOOKED_AT = 13
KINDS = ("dawn", "setting out", "moving", "halt", "hold", "camp", "night")
ACTIVITY = {
    "dawn": "packing up",
    "setting out": "setting out",
    "halt": "standing",
    "hold": "seated",
    "camp": "camp work",
    "night": "asleep",
}
NO_SHIFT = Shift(high_k=0, low_k=0, wind_ms=0)


@dataclass(frozen=True)
class Moment:
    """A time with its own clothing, and the air it happens in.

    start and end [h since midnight of the first day], altitude [m], air [°C], wind at 10 m and
    at body height [m/s], humidity [%], precipitation [mm/h], wind chill [°C, NaN outside its
    range], frostbite time [min, NaN outside its range].
    """

    id: str
    kind: str
    day: int
    start: float
    end: float
    altitude: float
    air: float
    wind: float
    body_wind: float
    humidity: float
    precipitation: float
    wind_chill: float
    frostbite: float
    walk: Walk | None = None

    @property
    def hours(self) -> float:
        """How long it lasts [h]."""
        return self.end - self.start


@dataclass(frozen=True)
class Hours:
    """The strip: every hour of the course at the party's own height.

    hour [h since first midnight], altitude [m], air [°C] at the chosen caution, forecast [°C] as
    forecast, wind at 10 m [m/s], precipitation [mm/h], dark (True between sunset and sunrise).
    """

    hour: Array
    altitude: Array
    air: Array
    forecast: Array
    wind: Array
    humidity: Array
    precipitation: Array
    dark: Array


@dataclass(frozen=True)
class Timeline:
    """Hours and moments of a course, and its sun."""

    hours: Hours
    moments: tuple[Moment, ...]
    suns: tuple[SunTimes, ...]


def planned_shift(course: Course) -> Shift:
    """How much worse than the conditions this course's caution plans for.

    Source: the course's own spread.
    """
    levels = {"cautious": course.spread.cautious, "expedition": course.spread.expedition}
    return levels.get(course.caution, NO_SHIFT)


class _Sky:
    """The course's weather at any hour and height."""

    def __init__(self, course: Course) -> None:
        self.course = course
        place = course.place
        self.suns = [
            sun_times(
                place.latitude,
                place.longitude,
                place.utc_offset_h,
                course.start + timedelta(days=index),
            )
            for index in range(len(course.days))
        ]

    def air(self, hours: Array, shift: Shift) -> Array:
        """Temperature at the conditions altitude [°C]."""
        conditions = [day.conditions for day in self.course.days]
        lows = np.array([each.low_c + shift.low_k for each in conditions])
        highs = np.array([each.high_c + shift.high_k for each in conditions])
        return day_curve(hours, lows, np.maximum(highs, lows), self.suns)

    def by_day(self, name: str, hours: Array) -> Array:
        """A condition that holds for the whole of its day."""
        values = np.array([getattr(day.conditions, name) for day in self.course.days])
        index = np.clip(np.floor(hours / 24).astype(int), 0, len(values) - 1)
        return values[index]

    def precipitation(self, hours: Array, shift: Shift) -> Array:
        """Rate at those hours [mm/h]."""
        rate = np.zeros_like(hours)
        for index, day in enumerate(self.course.days):
            each = day.conditions
            depth = each.precipitation_mm * shift.precipitation_factor + shift.precipitation_mm
            start = 24 * index + each.rain_from_h
            inside = (hours >= start) & (hours < start + each.rain_hours)
            rate = rate + np.where(inside, depth / each.rain_hours, 0.0)
        return rate


@dataclass(frozen=True)
class _Sample:
    moment_id: str
    kind: str
    day: int
    start: float
    end: float
    altitude: float
    exposure: str
    walk: Walk | None = None


def build_timeline(course: Course) -> Timeline:
    """Every hour and every moment of a course, in the air of its own height.

    Args:
        course: the plan.

    Returns:
        The timeline. Moving is judged in its mean air, every other moment in its coldest hour;
        a hold at the coldest end of the day's walking.

    Source: air and wind by the functions of core.air and core.wind; the plan of moments is common
        practice, no published source.
    """
    sky = _Sky(course)
    shift = planned_shift(course)
    walks, samples = _plan(course, sky, shift)
    hour = np.arange(24 * len(course.days), dtype=float)
    altitude = _altitudes(course, walks, hour)
    source = course.conditions_altitude_m
    planned = sky.air(hour, shift)
    humidity = sky.by_day("humidity_pct", hour)
    state = carry_air(planned, humidity, source, altitude, course.lapse_k_per_km)
    forecast = sky.air(hour, NO_SHIFT) - course.lapse_k_per_km * (altitude - source) / 1000
    dark = np.array([_is_dark(sky.suns[int(h // 24)], h % 24) for h in hour], dtype=float)
    hours = Hours(
        hour, altitude, state.air, forecast, sky.by_day("wind_ms", hour) + shift.wind_ms,
        state.humidity, sky.precipitation(hour, shift), dark,
    )  # fmt: skip
    return Timeline(hours, _moments(course, sky, shift, samples), tuple(sky.suns))


def _is_dark(sun: SunTimes, clock: float) -> bool:
    return not sun.rise <= clock <= sun.set


def _start_altitude(course: Course, index: int) -> float:
    return course.days[index - 1].end_altitude_m if index else course.start_altitude_m


def _plan(course: Course, sky: _Sky, shift: Shift) -> tuple[list[tuple[Walk, ...]], list[_Sample]]:
    all_walks: list[tuple[Walk, ...]] = []
    samples: list[_Sample] = []
    for index, day in enumerate(course.days):
        lower = _start_altitude(course, index)
        walks = day_walks(day.route, lower, day.end_altitude_m)
        all_walks.append(walks)
        previous = course.days[index - 1].camp if index else None
        samples += _day_samples(course, sky, shift, index, day, walks, lower,
                                previous.exposure if previous else None)  # fmt: skip
    return all_walks, samples


def _day_samples(
    course: Course, sky: _Sky, shift: Shift, index: int, day: Day, walks: tuple[Walk, ...],
    lower: float, woke_in: str | None,
) -> list[_Sample]:  # fmt: skip
    midnight = 24.0 * index
    route = day.route
    out = route.set_out_h + midnight
    found: list[_Sample] = []

    def add(kind: str, start: float, end: float, altitude: float, exposure: str,
            walk: Walk | None = None, suffix: str = "") -> None:  # fmt: skip
        name = f"{index + 1}.{kind.replace(' ', '-')}{suffix}"
        found.append(_Sample(name, kind, index, start, end, altitude, exposure, walk))

    if woke_in is not None and route.set_out_h >= DAWN_HOURS:
        add("dawn", out - DAWN_HOURS, out, lower, woke_in)
    arrived = out
    if walks:
        up, down = walks
        add("setting out", out, out + SETTING_OUT_HOURS, lower, route.exposure)
        top, leave = midnight + up.end, midnight + down.start
        arrived = midnight + down.end
        add("moving", out + SETTING_OUT_HOURS, top, (lower + route.high_point_m) / 2,
            route.exposure, up, "-up")  # fmt: skip
        add("halt", top, leave, route.high_point_m, route.exposure)
        add("moving", leave, arrived, (route.high_point_m + day.end_altitude_m) / 2,
            route.exposure, down, "-down")  # fmt: skip
        ends = ((out, lower), (top, route.high_point_m), (arrived, day.end_altitude_m))
        cold = sky.air(np.array([end[0] for end in ends]), shift)
        cold = cold - course.lapse_k_per_km * np.array([end[1] for end in ends]) / 1000
        start, altitude = ends[int(np.argmin(cold))]
        add("hold", start, start + course.hold_h, altitude, route.exposure)
    if day.camp is not None:
        bed = max(midnight + BED_TIME, arrived + 0.5)
        rise = midnight + 24 + _rising(course, index + 1)
        add("camp", arrived, bed, day.end_altitude_m, day.camp.exposure)
        add("night", bed, rise, day.end_altitude_m, day.camp.exposure)
    return found


def _rising(course: Course, index: int) -> float:
    if index >= len(course.days):
        return 7.0
    return max(course.days[index].route.set_out_h - DAWN_HOURS, 0.0)


def _judged_at(sky: _Sky, shift: Shift, samples: list[_Sample]) -> Array:
    """Hour at which each moment is judged: the middle of moving, else its coldest time."""
    starts = np.array([sample.start for sample in samples])
    ends = np.array([sample.end for sample in samples])
    times = np.linspace(starts, ends, TIMES_LOOKED_AT, axis=1)
    coldest = times[np.arange(len(samples)), np.argmin(sky.air(times, shift), axis=1)]
    moving = np.array([sample.kind == "moving" for sample in samples])
    return np.where(moving, 0.5 * (starts + ends), coldest)


def _mean_rates(sky: _Sky, shift: Shift, samples: list[_Sample]) -> Array:
    """Mean precipitation over each moment [mm/h]."""
    starts = np.array([sample.start for sample in samples])
    spans = np.array([sample.end for sample in samples]) - starts
    middles = (np.arange(TIMES_LOOKED_AT) + 0.5) / TIMES_LOOKED_AT
    return sky.precipitation(starts[:, None] + spans[:, None] * middles, shift).mean(axis=1)


def _altitudes(course: Course, walks: list[tuple[Walk, ...]], hour: Array) -> Array:
    times, heights = [-1.0], [course.start_altitude_m]
    for index, pair in enumerate(walks):
        for walk in pair:
            times += [24 * index + walk.start, 24 * index + walk.end]
            heights += [walk.from_altitude, walk.to_altitude]
        if not pair:
            times += [24 * index + 12.0, 24 * index + 12.01]
            heights += [_start_altitude(course, index), course.days[index].end_altitude_m]
    return np.interp(hour, times, heights)


def _moments(course: Course, sky: _Sky, shift: Shift, samples: list[_Sample]) -> tuple[Moment, ...]:
    at = _judged_at(sky, shift, samples)
    altitude = np.array([sample.altitude for sample in samples])
    state = carry_air(
        sky.air(at, shift), sky.by_day("humidity_pct", at), course.conditions_altitude_m,
        altitude, course.lapse_k_per_km,
    )  # fmt: skip
    exposures = [EXPOSURES[sample.exposure] for sample in samples]
    wind = sky.by_day("wind_ms", at) + shift.wind_ms
    wind = wind * np.array([exposure.factor for exposure in exposures])
    body_wind = wind_at_height(wind, np.array([exposure.roughness for exposure in exposures]))
    lee = np.array([course.hold_wind_share if s.kind == "hold" else 1.0 for s in samples])
    body_wind = body_wind * lee
    chill = wind_chill(state.air, 3.6 * wind)
    frostbite = frostbite_time(state.air, 3.6 * wind)
    rates = _mean_rates(sky, shift, samples)
    return tuple(
        Moment(
            id=sample.moment_id,
            kind=sample.kind,
            day=sample.day,
            start=sample.start,
            end=sample.end,
            altitude=sample.altitude,
            air=float(state.air[index]),
            wind=float(wind[index]),
            body_wind=float(body_wind[index]),
            humidity=float(state.humidity[index]),
            precipitation=float(rates[index]),
            wind_chill=float(chill[index]),
            frostbite=float(frostbite[index]),
            walk=sample.walk,
        )
        for index, sample in enumerate(samples)
    )


def planning_gust(moment: Moment) -> float:
    """Gust to plan a night's shelter for [m/s].

    Source: mean wind times GUST_FACTOR: judgement.
    """
    return moment.wind * GUST_FACTOR
