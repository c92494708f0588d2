"""A course outlined day by day: what somebody knows of each day, and what follows from that."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from pydantic import Field

from caldarium.core.physics.sun import sun_times
from caldarium.core.plan.course import Place
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.kit import Anchor
from caldarium.core.plan.legs import SET_OUT
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.value import Altitude, Celsius, Value
from caldarium.core.plan.weather_sources import Conditions

DISTANCE, WIND, SWING, HUMIDITY = 10.0, 4.0, 9.0, 70.0
"""What a day is thought to be where nobody said: the way [km], wind [m/s], between low and high
[K], humidity [%]. Judgement, ordinary days."""
LAPSE = 6.5
"""How air cools with height between the heights that forecasts are for [K/km]. Source: ICAO
standard atmosphere."""
SNOW_HIGH, FROZEN_LOW, SOAKED = -2.0, -3.0, 10.0
"""A day's high [°C] up to which its ground is taken for snow, a low [°C] up to which it is frozen,
and rain [mm] from which it is saturated: judgement."""
HOT, LATEST_START = 28.0, 10.0
"""High [°C] from which people set out at sunrise, and the latest start that the dark is waited out
to [h]: judgement."""
LEVEL = 20.0
"""Heights that differ by less are one [m]."""
STOP = 1 / 3
"""Stop at the high point or half way [h]: judgement."""
SINKAGE = 10.0
"""How deep people sink in snow where nobody said [cm]: judgement."""


class DayOutline(Value):
    """What is known of a day; None is unknown."""

    title: str = Field(default="", max_length=80)
    start_h: float | None = Field(default=None, ge=0, lt=24, description="people set out [h]")
    distance_km: float | None = Field(default=None, ge=0, le=80)
    up_m: float | None = Field(default=None, ge=0, le=6000, description="climb of the whole day")
    down_m: float | None = Field(default=None, ge=0, le=6000, description="fall of the whole day")
    camp_m: Altitude | None = Field(default=None, description="where the day ends [m]")
    top_m: Altitude | None = Field(default=None, description="the day's highest point [m]")
    ground: str | None = Field(default=None, description="under the bed")
    exposure: str | None = Field(default=None, description="to the wind")
    high_c: Celsius | None = None
    low_c: Celsius | None = None
    wind_ms: float | None = Field(default=None, ge=0, le=60)
    rain_mm: float | None = Field(default=None, ge=0, le=500, description="rain or snow [mm water]")
    rain_from_h: float | None = Field(default=None, ge=0, le=23)
    rain_hours: float | None = Field(default=None, ge=1, le=24)
    cloud_pct: float | None = Field(default=None, ge=0, le=100)
    humidity_pct: float | None = Field(default=None, ge=1, le=100)
    for_m: Altitude | None = Field(default=None, description="height the forecast is for [m]")


@dataclass(frozen=True)
class Filled:
    """A day with everything said: the figures, and the names of those that are defaults."""

    said: DayOutline
    by_default: frozenset[str]
    begins_m: float


def filled(
    rows: Sequence[DayOutline], place: Place, start: date, begins_m: float
) -> tuple[Filled, ...]:
    """Every day with its defaults, each from what is known.

    Args:
        rows: days in order; the first knows its high or its low.
        place: for the sun.
        start: the first day's date.
        begins_m: where the course begins [m].

    Returns:
        Days in order. Weather follows the day before; a camp the climb and fall, or the night
        before, the last of several days the start; ground and wind the weather; people set out
        at SET_OUT, later where it is dark then, at sunrise where the day is hot.

    Source: judgement, each default beside its figure above.
    """
    found: list[Filled] = []
    before, here = DayOutline(), begins_m
    for number, row in enumerate(rows):
        last = number == len(rows) - 1 and number > 0
        parts = _weather(row, before)
        parts |= _heights(row, here, begins_m if last else here)
        known = row.altered(**parts)
        snow = known.ground == "snow" or (known.ground is None and (known.high_c or 0) <= SNOW_HIGH)
        parts |= {
            name: value
            for name, value in (
                ("ground", "snow" if snow else _ground(known)),
                ("exposure", "snow" if snow else "heath"),
                ("start_h", _start(known, place, start + timedelta(days=number))),
                ("distance_km", DISTANCE),
                ("for_m", before.for_m if before.for_m is not None else known.camp_m),
            )
            if getattr(row, name) is None
        }
        whole = row.altered(**parts)
        found.append(Filled(whole, frozenset(parts), here))
        before, here = whole, whole.camp_m or 0.0
    return tuple(found)


def _weather(row: DayOutline, before: DayOutline) -> dict[str, float]:
    """Weather that nobody said of a day, after the day before."""
    found: dict[str, float] = {}
    high, low = row.high_c, row.low_c
    if high is None:
        usual = before.high_c if low is None or before.high_c is None else None
        found["high_c"] = usual if usual is not None else (low or 0.0) + SWING
    if low is None:
        top = high if high is not None else found["high_c"]
        usual = before.low_c if high is None else None
        found["low_c"] = usual if usual is not None else top - SWING
    for name, otherwise in (("wind_ms", WIND), ("rain_mm", 0.0), ("humidity_pct", HUMIDITY)):
        if getattr(row, name) is None:
            same = getattr(before, name) if name != "rain_mm" else None
            found[name] = otherwise if same is None else same
    if row.rain_from_h is None:
        found["rain_from_h"] = Conditions.model_fields["rain_from_h"].default
    if row.rain_hours is None:
        found["rain_hours"] = Conditions.model_fields["rain_hours"].default
    return found


def _heights(row: DayOutline, here: float, home: float) -> dict[str, float]:
    """Where a day ends and its highest point, where nobody said [m]."""
    found: dict[str, float] = {}
    camp = row.camp_m
    if camp is None:
        both = row.up_m is not None and row.down_m is not None
        camp = here + (row.up_m or 0) - (row.down_m or 0) if both else home
        found["camp_m"] = camp
    if row.top_m is None:
        climbed = here + row.up_m if row.up_m is not None else here
        fallen = camp + row.down_m if row.down_m is not None else camp
        found["top_m"] = max(here, camp, min(climbed, fallen) if row.up_m and row.down_m else 0.0)
        if row.up_m is not None and row.down_m is None:
            found["top_m"] = max(found["top_m"], climbed)
        if row.down_m is not None and row.up_m is None:
            found["top_m"] = max(found["top_m"], fallen)
    return found


def _ground(known: DayOutline) -> str:
    if (known.low_c or 0) <= FROZEN_LOW:
        return "frozen"
    return "saturated" if (known.rain_mm or 0) >= SOAKED else "dry"


def _start(known: DayOutline, place: Place, day: date) -> float:
    """When people set out: at SET_OUT, after sunrise where that is later, at sunrise if hot."""
    sun = sun_times(place.latitude, place.longitude, place.utc_offset_h, day)
    if not sun.crosses:
        return SET_OUT
    light = math.ceil(sun.rise * 2) / 2
    if (known.high_c or 0) >= HOT:
        return min(max(light, 4.0), SET_OUT)
    return min(max(light, SET_OUT), LATEST_START)


def outlined(days: Sequence[Filled]) -> tuple[Day, ...]:
    """Days of a course from their outlines; weather at the height the first day's is for.

    Args:
        days: from filled.

    Returns:
        Days in order, a night at the end of each but the last of several.

    Raises:
        ValidationError: where a day cannot be.

    Source: legs as people walk them, common practice: up to the high point, a stop, and on.
    """
    last = len(days) - 1
    return tuple(
        _day(each, days[0].said.for_m or 0.0, night=number < last or last == 0)
        for number, each in enumerate(days)
    )


def _day(each: Filled, reference_m: float, *, night: bool) -> Day:
    said = each.said
    warmer = LAPSE * ((said.for_m or 0.0) - reference_m) / 1000
    ground, exposure = said.ground or "dry", said.exposure or "heath"
    anchors: tuple[Anchor, ...] = ("broad or buried",) if ground == "snow" else ("pegs",)
    return Day(
        title=said.title,
        conditions=Conditions(
            high_c=(said.high_c or 0.0) + warmer,
            low_c=(said.low_c or 0.0) + warmer,
            wind_ms=said.wind_ms or 0.0,
            precipitation_mm=said.rain_mm or 0.0,
            rain_from_h=said.rain_from_h or 0.0,
            rain_hours=said.rain_hours or 8.0,
            cloud_pct=said.cloud_pct,
            humidity_pct=said.humidity_pct or HUMIDITY,
        ),
        legs=_legs(each),
        camp=Camp(ground=ground, exposure=exposure, anchors=anchors) if night else None,
    )


def _legs(each: Filled) -> tuple[Leg, ...]:
    """The day's way: up to the high point, a stop, and on; in halves where it only climbs, only
    falls or keeps its height."""
    said, here = each.said, each.begins_m
    distance, camp = said.distance_km or 0.0, said.camp_m or 0.0
    if not distance:
        return ()
    top = max(said.top_m or 0.0, here, camp)
    half = top if top > max(here, camp) + LEVEL else (here + camp) / 2
    share = _share(here, half, camp)
    extra = max((said.up_m or 0.0) - _up(here, half, camp), 0.0)
    if said.up_m is None and said.down_m is not None:
        extra = max(said.down_m - _up(camp, half, here), 0.0)
    snow = said.ground == "snow"
    common: dict[str, object] = {
        "exposure": said.exposure or "heath",
        "terrain": "snow" if snow else "track",
        "sinkage_cm": SINKAGE if snow else 0.0,
    }
    rise = max(half - here, 0.0)
    first = common | {
        "id": "out",
        "kind": "snow" if snow else _kind(here, half),
        "distance_km": round(distance * share, 3),
        "to_altitude_m": half,
        "climb_m": rise + extra if extra else None,
        "start_h": said.start_h,
    }
    on = common | {
        "id": "on",
        "kind": "snow" if snow else _kind(half, camp),
        "distance_km": round(distance - round(distance * share, 3), 3),
        "to_altitude_m": camp,
    }
    stop = Leg(
        id="stop",
        kind="rest",
        to_altitude_m=half,
        hours=STOP,
        exposure=said.exposure or "heath",
    )
    return (Leg.model_validate(first), stop, Leg.model_validate(on))


def _up(here: float, half: float, there: float) -> float:
    return max(half - here, 0.0) + max(there - half, 0.0)


def _share(here: float, half: float, camp: float) -> float:
    """Share of the way up to the stop: by height gone through, never less than a quarter."""
    first, second = abs(half - here), abs(camp - half)
    return min(max(first / (first + second), 0.25), 0.75) if first + second > LEVEL else 0.5


def _kind(before: float, after: float) -> str:
    if abs(after - before) <= LEVEL:
        return "traverse"
    return "ascent" if after > before else "descent"


SlipReason = Literal["camp above top", "high below low", "heights do not meet", "much snow"]
"""What was perhaps not meant. Figures: camp and top [m]; high and low [°C]; where the climb and
fall lead and the camp [m]; what falls [mm] and high [°C]."""
SNOWY_MM, SNOWY_C, APART_M = 12.0, -5.0, 60.0
"""Water [mm] that falls on a day of so low a high [°C] only seldom; heights that differ by more do
not meet [m]: judgement."""


def slips(row: DayOutline, begins_m: float) -> list[Finding[SlipReason]]:
    """What of a day was perhaps not meant; it can be taken as it is said.

    Args:
        row: as it was said.
        begins_m: where the day begins [m].

    Source: judgement.
    """
    told: list[Finding[SlipReason]] = []
    if row.camp_m is not None and row.top_m is not None and row.camp_m > row.top_m + LEVEL:
        told.append(Finding("camp above top", figures=(row.camp_m, row.top_m)))
    if row.high_c is not None and row.low_c is not None and row.high_c < row.low_c:
        told.append(Finding("high below low", figures=(row.high_c, row.low_c)))
    if row.up_m is not None and row.down_m is not None and row.camp_m is not None:
        leads = begins_m + row.up_m - row.down_m
        if abs(leads - row.camp_m) > APART_M:
            told.append(Finding("heights do not meet", figures=(leads, row.camp_m)))
    high = row.high_c if row.high_c is not None else math.inf
    if (row.rain_mm or 0) >= SNOWY_MM and high <= SNOWY_C:
        told.append(Finding("much snow", figures=(row.rain_mm or 0, high)))
    return told
