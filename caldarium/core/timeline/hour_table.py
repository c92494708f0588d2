"""Every hour of a course in figures: what the strip draws, and what follows from it."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from caldarium.core.physics.air import (
    boiling_point,
    dew_point,
    precipitation_kind,
    saturation_pressure,
    standard_pressure,
)
from caldarium.core.physics.heat import heat_index, wet_bulb_globe
from caldarium.core.physics.quantities import Array
from caldarium.core.physics.sky import CALM, DEW_SPREAD, cloud_base, sky_temperature, uv_factor
from caldarium.core.physics.wind import frostbite_time, wind_chill
from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import Timeline
from caldarium.core.timeline.weather import TYPED

TYPED_NAME = "typed for the day"
Hint = Literal["in cloud", "frost if clear", "dew if clear", "low cloud"]
"""What an hour's figures hint at; a low cloud is within 400 m."""


@dataclass(frozen=True)
class HourFigures:
    """One hour where the party is; NaN where a figure does not exist.

    Temperatures [°C], wind [m/s], precipitation [mm/h], frostbite [min], pressure [kPa],
    sky the night sky's temperature [°C], uv over sea level.
    """

    day: int
    clock: float
    altitude: float
    air: float
    forecast: float
    wind: float
    gust: float
    humidity: float
    precipitation: float
    falls: str
    dew_point: float
    wet_bulb: float
    wind_chill: float
    frostbite: float
    heat_index: float
    wet_bulb_globe: float
    pressure: float
    boiling: float
    sky: float
    uv: float
    light: str
    hint: Hint | None
    cloud_base: float
    source: str


def hour_figures(course: Course, timeline: Timeline, day: int | None = None) -> list[HourFigures]:
    """Figures of every hour of a course, or of one day.

    Args:
        course: for names and dates.
        timeline: its hours.
        day: from 0; None for all.

    Returns:
        One row an hour.

    Source: the functions of core.physics: air, wind, heat and sky.
    """
    hours = timeline.hours
    vapour = hours.humidity / 100 * saturation_pressure(hours.air)
    dew = dew_point(vapour)
    pressure = standard_pressure(hours.altitude)
    chill = wind_chill(hours.air, 3.6 * hours.wind)
    cloud = np.where(np.isfinite(hours.cloud), hours.cloud, 0.0)
    columns: dict[str, Array] = {
        "altitude": hours.altitude,
        "air": hours.air,
        "forecast": hours.forecast,
        "wind": hours.wind,
        "gust": hours.gust,
        "humidity": hours.humidity,
        "precipitation": hours.precipitation,
        "dew_point": dew,
        "wet_bulb": hours.wet_bulb,
        "wind_chill": chill,
        "frostbite": frostbite_time(hours.air, 3.6 * hours.wind),
        "heat_index": heat_index(hours.air, hours.humidity),
        "wet_bulb_globe": np.where(
            hours.air >= 20, wet_bulb_globe(hours.air, hours.humidity), np.nan
        ),
        "pressure": pressure,
        "boiling": boiling_point(pressure),
        "sky": np.where(hours.dark > 0, sky_temperature(hours.air, dew, cloud), np.nan),
        "uv": np.where(hours.dark > 0, np.nan, uv_factor(hours.altitude)),
    }
    table = {name: values.tolist() for name, values in columns.items()}
    falls: list[str] = precipitation_kind(hours.wet_bulb).tolist()
    names = [source.name for source in course.sources]
    found: list[HourFigures] = []
    for row, hour in enumerate(hours.hour.tolist()):
        here = int(hour // 24)
        if day is not None and here != day:
            continue
        number = int(hours.source[row])
        hint, base = _hint(timeline, row, float(dew[row]))
        found.append(
            HourFigures(
                day=here,
                clock=hour % 24,
                falls=falls[row] if hours.precipitation[row] > 0.02 else "",
                light=_light(timeline, here, hour % 24),
                hint=hint,
                cloud_base=base,
                source=TYPED_NAME if number == TYPED else names[number],
                **{name: values[row] for name, values in table.items()},
            )
        )
    return found


def _light(timeline: Timeline, day: int, clock: float) -> str:
    sun = timeline.suns[day]
    if sun.rise <= clock <= sun.set:
        return "day"
    return "twilight" if sun.dawn <= clock <= sun.dusk else "dark"


def _hint(timeline: Timeline, row: int, dew: float) -> tuple[Hint | None, float]:
    """Dew, frost or cloud, where the figures hint at it, and the cloud's base [m]."""
    hours = timeline.hours
    air, height = float(hours.air[row]), float(hours.altitude[row])
    base = float(cloud_base(height, air, dew))
    if hours.humidity[row] >= 99:
        return "in cloud", base
    cover = float(hours.cloud[row])
    clear = not np.isfinite(cover) or cover < 50
    dry = hours.precipitation[row] < 0.02
    if hours.dark[row] and clear and dry and hours.wind[row] < CALM and air - dew < DEW_SPREAD:
        return ("frost if clear" if air < 1 else "dew if clear"), base
    return ("low cloud" if base - height < 400 else None), base
