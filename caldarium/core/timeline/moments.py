"""The course in time: where the party is each hour, in what air, and the moments that matter."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from caldarium.core.physics.intake import longer_with
from caldarium.core.physics.quantities import Array
from caldarium.core.physics.sky import cold_pool
from caldarium.core.physics.sun import SunTimes
from caldarium.core.physics.sunshine import (
    ALBEDO,
    OTHER_ALBEDO,
    SHADE,
    cloud_share,
    solar_elevation,
    sun_on_body,
)
from caldarium.core.physics.wind import EXPOSURES, frostbite_time, wind_at_height, wind_chill
from caldarium.core.plan.course import Course
from caldarium.core.plan.legs import SET_OUT, Stage, Walk, stages
from caldarium.core.plan.value import NotThereError
from caldarium.core.timeline.day_plan import TIMES_LOOKED_AT, Sample, course_samples
from caldarium.core.timeline.held import must_hold
from caldarium.core.timeline.weather import Met, Weather

KINDS = ("dawn", "setting out", "moving", "halt", "hold", "camp", "night")
ACTIVITY = {
    "dawn": "packing up",
    "setting out": "setting out",
    "halt": "standing",
    "hold": "seated",
    "camp": "sitting in camp",
    "night": "asleep",
}

HALF_OF_SUN = 0.5
"""Weight of the sun against the air where the hottest time of a moment is looked for: judgement."""
SHADE_SOUGHT = 0.5
"""Share of the sun that reaches people who sit and can choose where, on the warm side: judgement.
"""
IN_A_LEE = ("hold", "camp")
"""Kinds of moment at which people sit out of the wind, as the course's lee lets them."""
GROUP_SHELTER_WIND = 0.1
"""Share of the wind that is left in a group shelter, sat in close together: judgement."""


@dataclass(frozen=True)
class WarmSide:
    """A moment's hottest time on the warm side of the forecast: air [°C], wind at body height
    [m/s], humidity [%] and what the sun adds to the surroundings' temperature [K]."""

    air: float
    wind: float
    humidity: float
    sun: float


@dataclass(frozen=True)
class Moment:
    """A time with its own clothing, and the air it happens in.

    start and end [h since midnight of the first day], altitude [m], air and wet bulb [°C], wind
    and gust at 10 m and wind at body height [m/s], humidity [%], precipitation [mm/h] and the hours
    in which it falls, wind chill [°C, NaN outside its range], frostbite time [min, NaN outside its
    range]; at is the hour it is judged at, sun what sunshine adds to the surroundings' temperature
    then [K], and warm the other side of it; must_hold the time that clothing has to hold [h]; lee
    the share of the wind that is left where people sit, 1 where they do not, and roof whether a
    group shelter goes over them; drink_l and eaten_kcal what each has hot and eats in it [L, kcal],
    jacket_after how long it takes until what is worn there is on [h]. A fold takes no time of its
    own on the strip: a hold, or the worst of the halts within a leg,
    repeats of which there are.
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
    wet_hours: float
    wind_chill: float
    frostbite: float
    dark_hours: float
    source: int
    must_hold: float
    sun: float
    warm: WarmSide
    lee: float
    roof: bool
    fold: bool = False
    repeats: int = 1
    walk: Walk | None = None
    ford: bool = False
    scrub: bool = False
    drink_l: float = 0.0
    eaten_kcal: float = 0.0
    jacket_after: float = 0.0

    @property
    def by_clothing(self) -> float:
        """Time for which clothing by itself has to hold [h]; a hot drink does the rest of it.

        Source: core.physics.intake.
        """
        return self.must_hold / float(longer_with(self.drink_l)) if self.drink_l else self.must_hold

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

    def moment(self, identifier: str) -> Moment:
        """A moment by id.

        Raises:
            NotThereError: where there is none.
        """
        for moment in self.moments:
            if moment.id == identifier:
                return moment
        raise NotThereError("moment", identifier)


def build_timeline(course: Course) -> Timeline:
    """Every hour and every moment of a course, in the air of its own height.

    Args:
        course: the plan.

    Returns:
        The timeline. Moving is judged in its mean air, every other moment in its coldest hour by
        wind chill; a hold, and the halt within a leg, where they would be worst.

    Source: air and wind by the functions of core.timeline.weather and core.physics.wind; the plan
        of moments is common practice, no published source.
    """
    weather = Weather(course)
    plan = tuple(stages(day, start) for day, start in zip(course.days, course.starts, strict=True))
    samples = course_samples(course, plan)
    hour = np.arange(24 * len(course.days), dtype=float)
    path = _way(course, plan)
    altitude = np.interp(hour, [step[0] for step in path], [step[1] for step in path])
    met = weather.at(hour, altitude)
    met = met.colder(_pooled(course, samples, weather, hour, met.warm_wind))
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
    return factor


def _felt(met: Met, factor: Array) -> Array:
    """What decides the worst hour: wind chill where it is defined, else the air [°C]."""
    chill = wind_chill(met.air, 3.6 * met.wind * factor)
    return np.where(np.isfinite(chill), chill, met.air)


def _placed(weather: Weather, samples: list[Sample]) -> list[Sample]:
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


def _moments(course: Course, weather: Weather, planned: list[Sample]) -> tuple[Moment, ...]:
    samples = _placed(weather, planned)
    starts = np.array([sample.starts[0] for sample in samples])
    ends = starts + np.array([sample.length for sample in samples])
    times = np.linspace(starts, ends, TIMES_LOOKED_AT, axis=1)
    heights = np.array([s.altitudes(row) for s, row in zip(samples, times, strict=True)])
    moving = np.array([sample.kind == "moving" for sample in samples])
    heights[moving] = heights[moving].mean(axis=1, keepdims=True)
    met = weather.at(times, heights)
    met = met.colder(_pooled(course, samples, weather, times, met.warm_wind))
    exposures = [EXPOSURES[sample.exposure] for sample in samples]
    factor = np.array([exposure.factor for exposure in exposures])
    coldest = np.argmin(_felt(met, factor[:, None]), axis=1)
    at = np.where(moving, TIMES_LOOKED_AT // 2, coldest)
    rows = np.arange(len(samples))
    air, wind = met.air[rows, at], met.wind[rows, at] * factor
    roof = np.array([s.kind == "hold" for s in samples]) & course.hold_in_shelter
    lee = np.array([course.hold_wind_share if s.kind in IN_A_LEE else 1.0 for s in samples])
    lee = np.where(roof, np.minimum(lee, GROUP_SHELTER_WIND), lee)
    roughness = np.array([exposure.roughness for exposure in exposures])
    cold_sun, warm_sun = _sunshine(course, weather, times, heights, [e.name for e in exposures])
    shaded = np.array([[SHADE_SOUGHT if s.kind in IN_A_LEE else 1.0] for s in samples])
    warm_sun = warm_sun * shaded
    hottest = np.argmax(met.warm_air + HALF_OF_SUN * warm_sun, axis=1)
    warm_wind = wind_at_height(met.warm_wind[rows, hottest] * factor, roughness) * lee
    warm = zip(
        met.warm_air[rows, hottest].tolist(),
        warm_wind.tolist(),
        met.warm_humidity[rows, hottest].tolist(),
        warm_sun[rows, hottest].tolist(),
        strict=True,
    )
    fallen = weather.fallen(starts, ends)
    open_sky = np.where(roof, 0.0, 1.0)
    columns = {
        "at": times[rows, at],
        "altitude": heights[rows, at],
        "air": air,
        "wet_bulb": met.wet_bulb[rows, at],
        "wind": wind,
        "gust": met.gust.max(axis=1) * factor,
        "body_wind": wind_at_height(wind, roughness) * lee,
        "humidity": met.humidity[rows, at],
        "precipitation": open_sky * fallen.depth / np.maximum(ends - starts, 1e-9),
        "wet_hours": open_sky * fallen.hours,
        "wind_chill": wind_chill(air, 3.6 * wind),
        "frostbite": frostbite_time(air, 3.6 * wind),
        "dark_hours": _dark_hours(weather.suns, starts, ends),
        "source": met.source[rows, at],
        "sun": cold_sun[rows, at],
        "lee": lee,
        "roof": roof,
        "must_hold": np.array([must_hold(course, s.kind, s.length) for s in samples]),
    }
    table: dict[str, list[Any]] = {name: values.tolist() for name, values in columns.items()}
    table["warm"] = [WarmSide(*each) for each in warm]
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
            ford=sample.ford,
            scrub=sample.scrub,
            drink_l=sample.drink_l,
            eaten_kcal=sample.eaten_kcal,
            jacket_after=_jacket_after(course, sample),
            **{name: values[row] for name, values in table.items()},
        )
        for row, sample in enumerate(samples)
    )


def _jacket_after(course: Course, sample: Sample) -> float:
    """Time at a halt in what was walked in [h], at most half of it."""
    late = course.jacket_after_min / 60
    return min(late, sample.length / 2) if sample.kind == "halt" else 0.0


IN_CAMP = ("camp", "night", "dawn")


def _pooled(
    course: Course, samples: list[Sample], weather: Weather, times: Array, wind: Array
) -> Array:
    """How much colder than its surroundings a camp in a hollow is at those times [K].

    The more caution, the less wind is counted on to stir the hollow.
    """
    hollow = np.zeros(times.shape)
    for sample in samples:
        place = sample.day - 1 if sample.kind == "dawn" else sample.day
        camp = course.days[place].camp if sample.kind in IN_CAMP and place >= 0 else None
        if camp is not None and camp.hollow_k:
            start = sample.starts[0]
            here = (times >= start) & (times <= start + sample.length)
            hollow = np.where(here, camp.hollow_k, hollow)
    if not hollow.any():
        return hollow
    clock = np.mod(times, 24)
    day = np.clip(times // 24, 0, len(weather.suns) - 1).astype(int)
    up = np.array([[sun.rise, sun.set] for sun in weather.suns])[day]
    dark = (clock < up[..., 0]) | (clock > up[..., 1])
    return cold_pool(hollow, weather.cloud(times), wind) * dark


def _sunshine(
    course: Course, weather: Weather, times: Array, heights: Array, exposures: list[str]
) -> tuple[Array, Array]:
    """What the sun adds at those times on the cold side and on the warm side [K].

    By cloud where that is known; else half of a clear day's on the cold side and all of it on the
    warm one; none where it rains. Source: core.physics.sunshine; the halves are judgement.
    """
    place = course.place
    day = course.start.timetuple().tm_yday + np.floor(times / 24)
    high = solar_elevation(
        place.latitude, place.longitude, place.utc_offset_h, day, np.mod(times, 24)
    )
    albedo = np.array([[ALBEDO.get(each, OTHER_ALBEDO)] for each in exposures])
    shade = np.array([[SHADE.get(each, 1.0)] for each in exposures])
    clear = sun_on_body(high, heights, albedo) * shade
    clear = np.where(weather.precipitation(times) > 0, 0.0, clear)
    share = cloud_share(weather.cloud(times))
    known = np.isfinite(share)
    return clear * np.where(known, share, 0.5), clear * np.where(known, share, 1.0)


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
