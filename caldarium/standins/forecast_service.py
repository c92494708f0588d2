"""A simulated forecast service: made-up weather for any place and date, the same for the same seed.

It behaves as such services do: it answers late, sometimes not at all, sometimes with a run that is
older than the one asked for, and its runs for the same days come closer to what will happen the
later they are issued. The weather is invented and means nothing outside this application.
"""

import hashlib
import json
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import numpy as np
from numpy.typing import NDArray

Series = NDArray[np.float64]
MEMBERS = 20
LONGEST_LEAD = 16 * 24
"""Hours a run reaches."""
RUN_HOURS = 6
STALE_HOURS = 30
ERROR_SHARE, STALE_SHARE = 0.12, 0.12


class ServiceError(RuntimeError):
    """The service did not answer; asking again may help."""


@dataclass(frozen=True)
class Asked:
    """What is asked for: a place, its days, and the run. Degrees, metres, times in UTC."""

    place: str
    latitude: float
    longitude: float
    altitude_m: float
    first: datetime
    hours: int
    issued: datetime
    seed: int = 0
    attempt: int = 0


@dataclass(frozen=True)
class Answer:
    """A forecast document as bytes, and how long the service took [s]."""

    body: bytes
    delay: float


def ask(asked: Asked) -> Answer:
    """The service's answer.

    Args:
        asked: place, days and run.

    Returns:
        A forecast document (see docs/forecast.schema.json) with MEMBERS runs; it ends where the
        run does, so that far days may be missing.

    Raises:
        ServiceError: where the service is down or knows nothing of those days.
    """
    luck = _random(asked, "luck", asked.attempt).random(3)
    delay = 0.2 + 1.3 * float(luck[0])
    if luck[1] < ERROR_SHARE:
        raise ServiceError("the forecast service is busy; ask again in a moment")
    issued = asked.issued.replace(
        hour=asked.issued.hour // RUN_HOURS * RUN_HOURS, minute=0, second=0, microsecond=0
    )
    if luck[2] < STALE_SHARE:
        issued -= timedelta(hours=STALE_HOURS)
    lead = (asked.first - issued).total_seconds() / 3600
    hours = min(asked.hours, int(LONGEST_LEAD - lead))
    if lead < -asked.hours or hours < 1:
        raise ServiceError(
            f"a run of {issued:%Y-%m-%d %H:%M} UTC reaches {LONGEST_LEAD // 24} days; the course "
            "lies outside it"
        )
    return Answer(json.dumps(_document(asked, issued, hours)).encode(), delay)


def _random(asked: Asked, *more: object) -> np.random.Generator:
    """Random numbers that depend on the place, the seed and what else is named."""
    place = (round(asked.latitude, 1), round(asked.longitude, 1), asked.seed, *more)
    digest = hashlib.sha256(repr(place).encode()).digest()
    return np.random.default_rng(int.from_bytes(digest[:8], "big"))


def _document(asked: Asked, issued: datetime, hours: int) -> dict:
    first = asked.first.replace(minute=0, second=0, microsecond=0)
    epoch = datetime(2000, 1, 1, tzinfo=UTC)
    time = (first - epoch).total_seconds() / 3600 + np.arange(hours, dtype=np.float64)
    lead = np.maximum((first - issued).total_seconds() / 3600 + time - time[0], 0) / 24
    members = []
    for number in range(MEMBERS):
        wander = _random(asked, "run", issued.isoformat(), number)
        members.append(_weather(asked, time, lead, wander))
    middle = {name: np.median([run[name] for run in members], axis=0) for name in members[0]}
    return {
        "format": "caldarium-forecast",
        "version": 1,
        "name": f"simulated forecast, run of {issued:%d %b %H:%M} UTC",
        "place": asked.place,
        "latitude": asked.latitude,
        "longitude": asked.longitude,
        "altitude_m": asked.altitude_m,
        "issued": issued.isoformat(),
        "first": first.isoformat(),
        "air_c": _rounded(middle["air"]),
        "wind_ms": _rounded(middle["wind"]),
        "gust_ms": _rounded(middle["wind"] * 1.55),
        "precipitation_mm": _rounded(middle["rain"]),
        "humidity_pct": _rounded(middle["humidity"], 0),
        "cloud_pct": _rounded(middle["cloud"], 0),
        "members": [
            {
                "air_c": _rounded(run["air"]),
                "wind_ms": _rounded(run["wind"]),
                "precipitation_mm": _rounded(run["rain"]),
            }
            for run in members
        ],
    }


def _rounded(values: Series, decimals: int = 1) -> list[float]:
    return np.round(values, decimals).tolist()


def _waves(random: np.random.Generator, time: Series, periods: tuple[float, float]) -> Series:
    """A smooth wandering figure of variance one: waves of random period [h] and phase."""
    count = 9
    lengths = random.uniform(*periods, count)
    phases = random.uniform(0, 2 * np.pi, count)
    heights: Series = random.uniform(0.6, 1.4, count).astype(np.float64)
    waves = np.sin(2 * np.pi * time[:, None] / lengths + phases) * heights
    spread = float(np.sqrt(0.5 * (heights**2).sum()))
    return (waves.sum(axis=1) / spread).astype(np.float64)


def _weather(
    asked: Asked, time: Series, lead: Series, wander: np.random.Generator
) -> dict[str, Series]:
    """One run: what will happen, and an error that grows with lead time."""
    error = np.minimum(0.35 + 0.28 * lead, 2.6)
    front = _waves(_random(asked, "front"), time, (40, 150))
    front = front + 0.35 * error * _waves(wander, time, (30, 140))
    warm = _waves(_random(asked, "warm"), time, (70, 260))
    warm = warm + 0.4 * error * _waves(wander, time, (60, 200))
    north = abs(asked.latitude)
    season = np.cos(2 * np.pi * (time / 24 / 365.25 - 200 / 365.25))
    season = season * (1 if asked.latitude >= 0 else -1)
    sea_level = 27.5 - 0.42 * max(north - 15, 0) + min(0.24 * north, 16) * season
    noon = (time + asked.longitude / 15) % 24
    wet = 1 / (1 + np.exp(-3 * (front - 0.9)))
    daily = (5.5 - 3.5 * wet) * np.cos(2 * np.pi * (noon - 14.5) / 24)
    air = sea_level - 0.0065 * asked.altitude_m + daily + 3.2 * warm - 1.5 * np.maximum(front, 0)
    wind = 3.0 + asked.altitude_m / 900 + 2.4 * np.maximum(front + 0.6, 0)
    wind = wind * (1 + 0.12 * _waves(wander, time, (4, 18)))
    rain = np.maximum(front - 0.9, 0) ** 1.4 * 1.6 * (1 + 0.5 * _waves(wander, time, (3, 9)))
    cloud = np.clip(100 / (1 + np.exp(-2.2 * (front - 0.1))), 0, 100)
    humidity = np.clip(68 + 16 * wet + 8 * front - 1.4 * daily, 20, 100)
    return {
        "air": np.clip(air, -60, 50),
        "wind": np.clip(wind, 0.3, 45),
        "rain": np.maximum(rain, 0.0) * (rain > 0.05),
        "humidity": humidity,
        "cloud": cloud,
    }
