"""Planning values from years of hourly weather near the dates of a course."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from caldarium.core.physics.air import air_at_altitude
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.weather_sources import Conditions, Shift, Spread

WINDOW_DAYS = 10


@dataclass(frozen=True)
class ClimateRecord:
    """Hourly weather of a station. Arrays of one length; NaN where the file has no figure.

    year, month, day, air [°C], humidity [%], wind at 10 m [m/s], precipitation [mm/h].
    """

    station: str
    kind: str
    latitude: float
    longitude: float
    altitude: float
    year: Array
    month: Array
    day: Array
    air: Array
    humidity: Array
    wind: Array
    precipitation: Array
    notes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Quantity:
    """Median and the two planning percentiles of one quantity, and how many days or hours."""

    median: float
    cautious: float
    expedition: float
    count: int


@dataclass(frozen=True)
class PlanningValues:
    """What a station's record says of the dates of a course, at the station's height."""

    station: str
    kind: str
    altitude: float
    days: int
    years: tuple[int, ...]
    low: Quantity
    high: Quantity
    wind: Quantity
    precipitation: Quantity | None
    humidity: float
    notes: tuple[str, ...] = ()


def planning_values(record: ClimateRecord, start: date, days: int) -> PlanningValues:
    """Median and percentile conditions within 10 days of a course's dates, all years.

    Args:
        record: hourly weather.
        start: first day of the course.
        days: length of the course.

    Returns:
        Median, and the 10th and 2nd percentile of daily low and high, the 90th and 98th of hourly
        wind and daily precipitation. A planning year counts one year for each month.

    Raises:
        ValueError: where the record has fewer than ten complete days in the window.

    Source: percentiles as in numpy (linear interpolation); the window is the product's choice.
    """
    wanted = {
        ((start + timedelta(days=offset)).month, (start + timedelta(days=offset)).day)
        for offset in range(-WINDOW_DAYS, days + WINDOW_DAYS)
    }
    inside = np.array(
        [pair in wanted for pair in zip(record.month.tolist(), record.day.tolist(), strict=True)]
    )
    key = (record.year * 10000 + record.month * 100 + record.day)[inside]
    _, position, counts = np.unique(key, return_inverse=True, return_counts=True)
    air = record.air[inside]
    low, high = (np.full(len(counts), fill) for fill in (np.inf, -np.inf))
    np.minimum.at(low, position, air)
    np.maximum.at(high, position, air)
    complete = (counts == 24) & np.isfinite(low) & np.isfinite(high)
    if complete.sum() < 10:
        raise refused("too few days")
    rain = np.asarray(
        np.bincount(position, weights=record.precipitation[inside], minlength=len(counts)), float
    )
    rain = rain[complete & np.isfinite(rain)]
    wind = record.wind[inside]
    return PlanningValues(
        station=record.station,
        kind=record.kind,
        altitude=record.altitude,
        days=int(complete.sum()),
        years=tuple(sorted({int(year) for year in record.year[inside].tolist()})),
        low=_quantity(low[complete], (10, 2)),
        high=_quantity(high[complete], (10, 2)),
        wind=_quantity(wind[np.isfinite(wind)], (90, 98)),
        precipitation=_quantity(rain, (90, 98)) if len(rain) >= 10 else None,
        humidity=float(np.nanmean(record.humidity[inside])),
        notes=record.notes
        + (() if len(rain) >= 10 else ("no usable precipitation near these dates",)),
    )


def _quantity(values: Array, levels: tuple[float, float]) -> Quantity:
    if not len(values):
        raise refused("no wind")
    median, cautious, expedition = np.percentile(values, (50, *levels)).tolist()
    return Quantity(median, cautious, expedition, len(values))


def at_heights(course: Course, values: PlanningValues) -> list[tuple[str, float, list[float]]]:
    """Planning temperatures carried from the station to the heights of a course.

    Args:
        course: for its heights and lapse.
        values: from planning_values.

    Returns:
        Name, height [m], and low then high at median, cautious and expedition [°C].

    Source: core.physics.air, lapse of the course.
    """
    camp = max(course.ends)
    top = max(course.tops)
    rows: list[tuple[str, float, list[float]]] = []
    for name, height in (("station", values.altitude), ("highest camp", camp), ("high point", top)):
        figures = [
            float(air_at_altitude(each, values.altitude, height, course.lapse_k_per_km))
            for quantity in (values.low, values.high)
            for each in (quantity.median, quantity.cautious, quantity.expedition)
        ]
        rows.append((name, height, figures))
    return rows


def apply_planning(course: Course, values: PlanningValues) -> Course:
    """The course with every day's conditions from a climate record.

    The conditions are kept at the station's height; the timeline carries them to camp and high
    point by the course's lapse.

    Args:
        course: the plan.
        values: from planning_values.

    Returns:
        The course with median conditions and the percentiles as its cautions.

    Source: planning_values.
    """
    rain = values.precipitation
    conditions = Conditions(
        high_c=values.high.median,
        low_c=min(values.low.median, values.high.median),
        wind_ms=values.wind.median,
        precipitation_mm=rain.median if rain else 0.0,
        humidity_pct=min(max(values.humidity, 1.0), 100.0),
    )
    spread = Spread(
        cautious=_shift(values, "cautious"),
        expedition=_shift(values, "expedition"),
        source=f"10th and 2nd percentile of {values.days} days, wind and rain 90th and 98th",
    )
    years = f"{values.years[0]} to {values.years[-1]}"
    typed = {key: text for key, text in course.as_typed.items() if ".conditions." not in key}
    typed.pop("conditions_altitude_m", None)
    return course.altered(
        conditions_altitude_m=values.altitude,
        conditions_source=f"{values.kind}, {values.station}, {years}",
        spread=spread,
        days=tuple(day.altered(conditions=conditions) for day in course.days),
        as_typed=typed,
    )


def _shift(values: PlanningValues, level: str) -> Shift:
    def difference(quantity: Quantity) -> float:
        return getattr(quantity, level) - quantity.median

    rain = values.precipitation
    return Shift(
        high_k=difference(values.high),
        low_k=difference(values.low),
        wind_ms=difference(values.wind),
        precipitation_mm=difference(rain) if rain else 0.0,
    )
