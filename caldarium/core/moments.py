"""The course in time: where the party is each hour, in what air, and the moments that matter."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from caldarium.core.course import Course
from caldarium.core.legs import SET_OUT, Stage, Walk, stages
from caldarium.core.quantities import Array
from caldarium.core.sun import SunTimes
from caldarium.core.weather import Met, Weather
from caldarium.core.wind import EXPOSURES, frostbite_time, wind_at_height, wind_chill

DAWN_HOURS = 1.0
SETTING_OUT_HOURS = 0.25
BED_TIME = 21.5
SLEEP_HOURS = 8.0
SETTLING_HOURS = 0.5
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


@dataclass(frozen=True)
class Moment:
    """A time with its own clothing, and the air it happens in.

    start and end [h since midnight of the first day], altitude [m], air and wet bulb [°C], wind
    and gust at 10 m and wind at body height [m/s], humidity [%], precipitation [mm/h], wind chill
    [°C, NaN outside its range], frostbite time [min, NaN outside its range]; at is the hour it is
    judged at. A fold takes no time of its own on the strip: a hold, or the worst of the halts
    within a leg, repeats of which there are.
    """

    id: str
    kind: str
    day: int
    leg: str
    start: float
    end: float
    at: float
    altitude: float
    air: float
    wet_bulb: float
    wind: float
    gust: float
    body_wind: float
    humidity: float
    precipitation: float
    wind_chill: float
    frostbite: float
    dark_hours: float
    source: int
    fold: bool = False
    repeats: int = 1
    walk: Walk | None = None

    @property
    def hours(self) -> float:
        """How long it lasts [h]."""
        return self.end - self.start


@dataclass(frozen=True)
class Hours:
    """The strip: every hour of the course at the party's own height.

    hour [h since first midnight], altitude [m], air [°C] at the chosen caution, forecast [°C] as
    forecast, wind and gust at 10 m where the party is [m/s], humidity [%], precipitation [mm/h],
    wet bulb [°C], dark (1 between sunset and sunrise), cloud [%, NaN where unknown], source the
    number of the one that rules.
    """

    hour: Array
    altitude: Array
    air: Array
    forecast: Array
    wind: Array
    gust: Array
    humidity: Array
    precipitation: Array
    wet_bulb: Array
    dark: Array
    cloud: Array
    source: NDArray[np.intp]


@dataclass(frozen=True)
class Timeline:
    """Hours, legs and moments of a course, and its sun."""

    hours: Hours
    moments: tuple[Moment, ...]
    suns: tuple[SunTimes, ...]
    stages: tuple[tuple[Stage, ...], ...]


@dataclass(frozen=True)
class _Sample:
    """A moment before it is known when in its span it is worst.

    starts: when it may begin, one time unless it floats within its leg.
    """

    id: str
    kind: str
    day: int
    leg: str
    starts: tuple[float, ...]
    length: float
    path: tuple[tuple[float, float], ...]
    exposure: str
    fold: bool = False
    repeats: int = 1
    walk: Walk | None = None

    def altitudes(self, times: Array) -> Array:
        """Altitude at those times [m]."""
        if len(self.path) == 1:
            return np.full(times.shape, self.path[0][1])
        clock, height = zip(*self.path, strict=True)
        return np.interp(times, clock, height)


def build_timeline(course: Course) -> Timeline:
    """Every hour and every moment of a course, in the air of its own height.

    Args:
        course: the plan.

    Returns:
        The timeline. Moving is judged in its mean air, every other moment in its coldest hour by
        wind chill; a hold, and the halt within a leg, where they would be worst.

    Source: air and wind by the functions of core.weather and core.wind; the plan of moments is
        common practice, no published source.
    """
    weather = Weather(course)
    plan = tuple(stages(day, start) for day, start in zip(course.days, course.starts, strict=True))
    samples = _samples(course, plan)
    hour = np.arange(24 * len(course.days), dtype=float)
    path = _way(course, plan)
    altitude = np.interp(hour, [step[0] for step in path], [step[1] for step in path])
    met = weather.at(hour, altitude)
    factor = _exposure_by_hour(course, plan, hour)
    dark = [
        not weather.suns[int(h // 24)].rise <= h % 24 <= weather.suns[int(h // 24)].set
        for h in hour.tolist()
    ]
    hours = Hours(
        hour=hour,
        altitude=altitude,
        air=met.air,
        forecast=met.forecast,
        wind=met.wind * factor,
        gust=met.gust * factor,
        humidity=met.humidity,
        precipitation=met.precipitation,
        wet_bulb=met.wet_bulb,
        dark=np.array(dark, dtype=float),
        cloud=weather.cloud(hour),
        source=met.source,
    )
    return Timeline(hours, _moments(course, weather, samples), tuple(weather.suns), plan)


def _way(course: Course, plan: tuple[tuple[Stage, ...], ...]) -> list[tuple[float, float]]:
    """Hours and altitudes of the whole course, in order."""
    path = [(-1.0, course.start_altitude_m)]
    for index, legs in enumerate(plan):
        for stage in legs:
            path += [(24 * index + clock, height) for clock, height in stage.profile]
    return path


def _exposure_by_hour(course: Course, plan: tuple[tuple[Stage, ...], ...], hour: Array) -> Array:
    """Factor of the place's exposure on the wind, by hour."""
    factor = np.ones(hour.shape)
    here = 1.0
    marks: list[tuple[float, float]] = []
    for index, legs in enumerate(plan):
        for stage in legs:
            marks.append((24 * index + stage.start, EXPOSURES[stage.leg.exposure].factor))
        camp = course.days[index].camp
        if camp is not None:
            end = legs[-1].end if legs else SET_OUT
            marks.append((24 * index + end, EXPOSURES[camp.exposure].factor))
    for begin, value in marks:
        factor = np.where(hour >= begin, value, factor)
        here = value
    return factor if marks else factor * here


def _samples(course: Course, plan: tuple[tuple[Stage, ...], ...]) -> list[_Sample]:
    found: list[_Sample] = []
    for index, legs in enumerate(plan):
        camp_before = course.days[index - 1].camp if index else None
        woke_in = camp_before.exposure if camp_before else None
        found += _day_samples(course, index, legs, woke_in)
    return found


def _day_samples(
    course: Course, index: int, legs: tuple[Stage, ...], woke_in: str | None
) -> list[_Sample]:
    midnight = 24.0 * index
    lower = course.starts[index]
    out = midnight + (legs[0].start if legs else SET_OUT)
    found: list[_Sample] = []

    def add(kind: str, start: float, end: float, altitude: float, exposure: str,
            leg: str = "") -> None:  # fmt: skip
        name = ".".join(part for part in (str(index + 1), leg, kind.replace(" ", "-")) if part)
        path = ((start, altitude),)
        found.append(_Sample(name, kind, index, leg, (start,), end - start, path, exposure))

    if woke_in is not None and out - midnight >= DAWN_HOURS:
        add("dawn", out - DAWN_HOURS, out, lower, woke_in)
    set_out = False
    for stage in legs:
        leg, walk = stage.leg, stage.walk
        start, end = midnight + stage.start, midnight + stage.end
        if walk is None:
            kind = "camp" if leg.kind == "camp" else "halt"
            add(kind, start, end, leg.to_altitude_m, leg.exposure, leg.id)
            continue
        if not set_out:
            first = min(start + SETTING_OUT_HOURS, (start + end) / 2)
            add("setting out", start, first, stage.from_altitude, leg.exposure)
            start, set_out = first, True
        found += _walking(course, index, stage, start, end)
    arrived = midnight + legs[-1].end if legs else out
    camp = course.days[index].camp
    if camp is not None:
        rise = midnight + 24 + _rising(course, index + 1)
        bed = max(min(midnight + BED_TIME, rise - SLEEP_HOURS), arrived + SETTLING_HOURS)
        add("camp", arrived, bed, course.ends[index], camp.exposure)
        add("night", bed, rise, course.ends[index], camp.exposure)
    return found


def _walking(course: Course, index: int, stage: Stage, start: float, end: float) -> list[_Sample]:
    """Moving, the worst halt within the leg, and the hold where it would be worst."""
    leg, walk, midnight = stage.leg, stage.walk, 24.0 * index
    assert walk is not None
    path = tuple((midnight + clock, height) for clock, height in stage.profile)
    name = f"{index + 1}.{leg.id}"
    found = [
        _Sample(f"{name}.moving", "moving", index, leg.id, (start,), end - start, path,
                leg.exposure, walk=walk)
    ]  # fmt: skip
    if walk.halts:
        pause = leg.halt_min / 60
        every = leg.halt_every_h + pause
        begins = tuple(
            midnight + stage.start + (number + 1) * every - pause for number in range(walk.halts)
        )
        found.append(
            _Sample(f"{name}.halt", "halt", index, leg.id, begins, pause, path, leg.exposure,
                    fold=True, repeats=walk.halts)
        )  # fmt: skip
    begins = tuple(np.linspace(midnight + stage.start, end, TIMES_LOOKED_AT).tolist())
    found.append(
        _Sample(f"{name}.hold", "hold", index, leg.id, begins, course.hold_h, path, leg.exposure,
                fold=True)
    )  # fmt: skip
    return found


def _rising(course: Course, index: int) -> float:
    if index >= len(course.days):
        return 7.0
    legs = course.days[index].legs
    out = legs[0].start_h if legs and legs[0].start_h is not None else SET_OUT
    return max(out - DAWN_HOURS, 0.0)


def _felt(met: Met, factor: Array) -> Array:
    """What decides the worst hour: wind chill where it is defined, else the air [°C]."""
    chill = wind_chill(met.air, 3.6 * met.wind * factor)
    return np.where(np.isfinite(chill), chill, met.air)


def _placed(weather: Weather, samples: list[_Sample]) -> list[_Sample]:
    """Samples with the one start at which those that float would be worst."""
    floating = [at for at, sample in enumerate(samples) if len(sample.starts) > 1]
    if not floating:
        return samples
    most = max(len(samples[at].starts) for at in floating)
    starts = np.array([_padded(samples[at].starts, most) for at in floating])
    heights = np.array(
        [samples[at].altitudes(row) for at, row in zip(floating, starts, strict=True)]
    )
    lengths = np.array([samples[at].length for at in floating])
    factor = np.array([EXPOSURES[samples[at].exposure].factor for at in floating])
    window = np.linspace(0, 1, 7)
    times = starts[..., None] + lengths[:, None, None] * window
    met = weather.at(times, np.broadcast_to(heights[..., None], times.shape))
    worst = np.argmin(_felt(met, factor[:, None, None]).min(axis=-1), axis=1)
    placed = list(samples)
    for row, at in enumerate(floating):
        start, height = float(starts[row, worst[row]]), float(heights[row, worst[row]])
        placed[at] = replace(samples[at], starts=(start,), path=((start, height),))
    return placed


def _padded(values: tuple[float, ...], length: int) -> list[float]:
    return [*values, *[values[-1]] * (length - len(values))]


def _moments(course: Course, weather: Weather, planned: list[_Sample]) -> tuple[Moment, ...]:
    samples = _placed(weather, planned)
    starts = np.array([sample.starts[0] for sample in samples])
    ends = starts + np.array([sample.length for sample in samples])
    times = np.linspace(starts, ends, TIMES_LOOKED_AT, axis=1)
    heights = np.array([s.altitudes(row) for s, row in zip(samples, times, strict=True)])
    moving = np.array([sample.kind == "moving" for sample in samples])
    heights[moving] = heights[moving].mean(axis=1, keepdims=True)
    met = weather.at(times, heights)
    exposures = [EXPOSURES[sample.exposure] for sample in samples]
    factor = np.array([exposure.factor for exposure in exposures])
    coldest = np.argmin(_felt(met, factor[:, None]), axis=1)
    at = np.where(moving, TIMES_LOOKED_AT // 2, coldest)
    rows = np.arange(len(samples))
    air, wind = met.air[rows, at], met.wind[rows, at] * factor
    lee = np.array([course.hold_wind_share if s.kind == "hold" else 1.0 for s in samples])
    roughness = np.array([exposure.roughness for exposure in exposures])
    columns = {
        "at": times[rows, at],
        "altitude": heights[rows, at],
        "air": air,
        "wet_bulb": met.wet_bulb[rows, at],
        "wind": wind,
        "gust": met.gust.max(axis=1) * factor,
        "body_wind": wind_at_height(wind, roughness) * lee,
        "humidity": met.humidity[rows, at],
        "precipitation": _mean_rates(weather, starts, ends),
        "wind_chill": wind_chill(air, 3.6 * wind),
        "frostbite": frostbite_time(air, 3.6 * wind),
        "dark_hours": _dark_hours(weather.suns, starts, ends),
        "source": met.source[rows, at],
    }
    table = {name: values.tolist() for name, values in columns.items()}
    begin, finish = starts.tolist(), ends.tolist()
    return tuple(
        Moment(
            id=sample.id,
            kind=sample.kind,
            day=sample.day,
            leg=sample.leg,
            start=begin[row],
            end=finish[row],
            fold=sample.fold,
            repeats=sample.repeats,
            walk=sample.walk,
            **{name: values[row] for name, values in table.items()},
        )
        for row, sample in enumerate(samples)
    )


def _mean_rates(weather: Weather, starts: Array, ends: Array) -> Array:
    """Mean precipitation over each moment [mm/h]."""
    middles = (np.arange(TIMES_LOOKED_AT) + 0.5) / TIMES_LOOKED_AT
    return weather.precipitation(starts[:, None] + (ends - starts)[:, None] * middles).mean(axis=1)


def _dark_hours(suns: list[SunTimes], starts: Array, ends: Array) -> Array:
    """How much of each moment lies outside civil twilight [h]."""
    light = np.zeros(starts.shape)
    for day in range(-1, len(suns) + 1):
        sun = suns[min(max(day, 0), len(suns) - 1)]
        first, last = np.maximum(starts, 24 * day + sun.dawn), np.minimum(ends, 24 * day + sun.dusk)
        light = light + np.maximum(last - first, 0.0)
    return np.maximum(ends - starts - light, 0.0)


def planning_gust(moment: Moment) -> float:
    """Gust to plan a night's shelter for [m/s].

    Source: the source's own gusts, else mean wind times GUST_FACTOR: judgement.
    """
    return moment.gust
