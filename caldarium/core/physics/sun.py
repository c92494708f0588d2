"""Sun and the day's temperature between its low and its high."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from functools import lru_cache

import numpy as np
from astral import Observer
from astral.sun import dawn, dusk, elevation, noon, sunrise, sunset

from caldarium.core.physics.quantities import Array

HOURS_AFTER_NOON = 2.0
CIVIL = 6.0
"""Depression of the sun at the end of civil twilight [degrees]."""
NIGHT_DECAY = 2.2
"""Decay constant of the evening fall over one night. Source: Parton & Logan (1981)."""


@dataclass(frozen=True)
class SunTimes:
    """Clock times of one date [h]. Where the sun does not cross the horizon, `crosses` is False
    and rise and set are stand-ins that shape the day's temperature: judgement. Dawn and dusk are
    the ends of civil twilight; with none they lie half a day from noon, or at noon."""

    rise: float
    noon: float
    set: float
    crosses: bool
    dawn: float
    dusk: float

    @property
    def light(self) -> float:
        """Hours a day with the sun up [h]; 0 or 24 where it does not cross the horizon.

        Source: none, a difference.
        """
        if self.crosses:
            return self.set - self.rise
        return 24.0 if self.dusk - self.dawn >= 24 and self.set - self.rise > 12 else 0.0


@lru_cache(maxsize=512)
def sun_times(latitude: float, longitude: float, utc_offset: float, day: date) -> SunTimes:
    """Sunrise, solar noon and sunset in the place's clock time.

    Args:
        latitude, longitude: degrees north and east.
        utc_offset: hours ahead of UTC.
        day: the date.

    Returns:
        Times [h] of that date; a sunset after midnight is above 24.

    Source: astral (NOAA solar equations).
    """
    observer = Observer(latitude, longitude)
    midnight = datetime(day.year, day.month, day.day, tzinfo=UTC) - timedelta(hours=utc_offset)

    def clock(moment: datetime) -> float:
        return (moment - midnight).total_seconds() / 3600

    mid = clock(noon(observer, day)) % 24
    first, last = _twilight(observer, day, midnight, mid)
    try:
        rise, down = clock(sunrise(observer, day)), clock(sunset(observer, day))
    except ValueError as fault:
        above = "above" in str(fault)
        half = 10.0 if above else 3.0
        return SunTimes(mid - half, mid, mid + half, False, first, last)
    rise = mid - (mid - rise) % 24
    down = mid + (down - mid) % 24
    return SunTimes(rise, mid, down, True, first, last)


def _twilight(observer: Observer, day: date, midnight: datetime, mid: float) -> tuple[float, float]:
    """Civil dawn and dusk [h]; half a day from noon where it stays light, noon where it is dark."""
    try:
        first = (dawn(observer, day) - midnight).total_seconds() / 3600
        last = (dusk(observer, day) - midnight).total_seconds() / 3600
    except ValueError:
        dark = elevation(observer, noon(observer, day)) < -CIVIL
        return (mid, mid) if dark else (mid - 12, mid + 12)
    return mid - (mid - first) % 24, mid + (last - mid) % 24


def day_curve(hours: Array, lows: Array, highs: Array, suns: list[SunTimes]) -> Array:
    """Temperature hour by hour from each day's low and high.

    The low is at sunrise, the high two hours after solar noon, a sine between; from sunset an
    exponential fall that ends exactly at the next low. Beyond either end the first and last days
    repeat.

    Args:
        hours: since midnight of the first day [h], any shape.
        lows, highs: by day [°C].
        suns: by day.

    Returns:
        Temperature [°C] at those hours.

    Source: Parton & Logan (1981), Agric. Meteorol. 23 (form; constants as stated above).
    """
    order = [0, *range(len(suns)), len(suns) - 1, len(suns) - 1]
    day = np.arange(-1, len(suns) + 2)
    rises = np.array([suns[index].rise for index in order]) + 24 * day
    noons = np.array([suns[index].noon for index in order]) + 24 * day
    sets = np.array([suns[index].set for index in order]) + 24 * day
    low, high = lows[order], highs[order]
    here = np.clip(np.searchsorted(rises, hours, side="right") - 1, 0, len(order) - 2)
    start, end = rises[here], rises[here + 1]
    peak = noons[here] + HOURS_AFTER_NOON - start
    light = sets[here] - start
    since = hours - start
    rise = high[here] - low[here]
    by_day = low[here] + rise * np.sin(0.5 * np.pi * np.clip(since / peak, 0.0, 2.0))
    evening = low[here] + rise * np.sin(0.5 * np.pi * np.minimum(light / peak, 2.0))
    passed = np.clip((since - light) / np.maximum(end - start - light, 1e-6), 0, 1)
    last = np.exp(-NIGHT_DECAY)
    share = (np.exp(-NIGHT_DECAY * passed) - last) / (1 - last)
    after = low[here + 1]
    return np.where(since <= light, by_day, after + (evening - after) * share)
