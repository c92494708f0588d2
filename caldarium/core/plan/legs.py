"""A day's legs in time: when each starts and ends, how fast and how steep it goes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from caldarium.core.physics.effort import FASTEST, STEEPEST, TERRAIN, snow_terrain_factor
from caldarium.core.physics.quantities import Array, Values, array
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.route import STILL

if TYPE_CHECKING:
    from caldarium.core.plan.route import Day, Leg

LATEST_END = 23.0
"""When a day's legs must have ended [h]."""
SET_OUT = 8.5
"""When a day starts where nothing else is said [h]."""
NAISMITH_CLIMB = 600.0
"""Climb that takes an hour [m]. Source: Naismith (1892), 2,000 ft an hour."""
QUICKEST = 1.2
"""Pace downhill at most, over that on the level. Source: the highest speed of Tobler (1993), 6 km/h
where 5 is walked on the level."""
LANGMUIR_STEP, LANGMUIR_HOURS = 300.0, 1 / 6
LANGMUIR_GENTLE, LANGMUIR_STEEP = 5.0, 12.0
"""Descent corrected in steps of 300 m by 10 min, by slope [degrees]. Source: Langmuir (1984)."""


@dataclass(frozen=True)
class Walk:
    """A walking leg in time.

    Clock times [h since the day's midnight], halts within it included; altitudes at its ends [m];
    speed while walking [m/s]; slope [%], the same up and down; share of the way that climbs.
    """

    start: float
    end: float
    from_altitude: float
    to_altitude: float
    speed: float
    slope: float
    climbing: float
    terrain: float
    halts: int


@dataclass(frozen=True)
class Stage:
    """A leg with its place in the day; walk is None where nobody walks."""

    leg: Leg
    start: float
    end: float
    from_altitude: float
    walk: Walk | None

    @property
    def profile(self) -> tuple[tuple[float, float], ...]:
        """Clock time [h] and altitude [m] along the leg, at least its two ends."""
        leg = self.leg
        if not leg.points or leg.distance_km <= 0:
            return ((self.start, self.from_altitude), (self.end, leg.to_altitude_m))
        whole = leg.points[-1][0] or 1.0
        span = self.end - self.start
        return tuple((self.start + span * point[0] / whole, point[1]) for point in leg.points)


def naismith_hours(distance: Values, climb: Values, fall: Values, pace: Values = 5.0) -> Array:
    """Walking time by distance, climb and fall, without halts, and without end to haste downhill.

    Args:
        distance: [km].
        climb, fall: total up and down [m].
        pace: on the level [km/h].

    Returns:
        Time [h]: the level pace, an hour for each 600 m up; ten minutes less for each 300 m down
        between 5 and 12 degrees, ten more where it is steeper.

    Source: Naismith (1892), Scottish Mountaineering Club Journal; correction of Langmuir (1984),
        Mountaincraft and Leadership; both from memory.
    """
    up, down, length = array(climb), array(fall), array(distance)
    share = down / np.maximum(up + down, 1e-9)
    slope = np.degrees(np.arctan2(down, np.maximum(length * share * 1000, 1e-9)))
    steps = down / LANGMUIR_STEP * LANGMUIR_HOURS
    gentle = (slope >= LANGMUIR_GENTLE) & (slope <= LANGMUIR_STEEP)
    change = np.where(gentle, -steps, np.where(slope > LANGMUIR_STEEP, steps, 0.0))
    return np.maximum(length / array(pace) + up / NAISMITH_CLIMB + change, 0.0)


def climb_and_fall(leg: Leg, from_altitude: float) -> tuple[float, float]:
    """Total climb and fall of a leg [m]: as given, never less than its ends ask for.

    Source: none, bookkeeping.
    """
    rise = leg.to_altitude_m - from_altitude
    climb = leg.climb_m if leg.climb_m is not None else 0.0
    fall = leg.fall_m if leg.fall_m is not None else 0.0
    climb = max(climb, rise, 0.0)
    fall = max(fall, -rise, 0.0)
    return max(climb, fall + rise), max(fall, climb - rise)


def walking_hours(leg: Leg, from_altitude: float, *, hurried: bool = False) -> float:
    """Time spent walking on a leg [h], as given or by Naismith and Langmuir.

    Args:
        leg: the leg.
        from_altitude: where it begins [m].
        hurried: whether QUICKEST may be passed.

    Source: naismith_hours, never quicker than QUICKEST.
    """
    if leg.hours is not None:
        return leg.hours
    climb, fall = climb_and_fall(leg, from_altitude)
    hours = float(naismith_hours(leg.distance_km, climb, fall, leg.pace_kmh))
    return hours if hurried else max(hours, leg.distance_km / (QUICKEST * leg.pace_kmh))


def halts_in(leg: Leg, hours: float) -> int:
    """How many halts fall within a leg: one each time its interval is over, none at the end.

    Source: common practice, no published source.
    """
    if not leg.halt_every_h:
        return 0
    return max(int(np.ceil(hours / leg.halt_every_h - 1e-6)) - 1, 0)


def stages(day: Day, start_altitude: float) -> tuple[Stage, ...]:
    """A day's legs one after another.

    Args:
        day: the day.
        start_altitude: where it begins [m].

    Returns:
        The legs in time; a leg without a start of its own follows at once. A day that would not
        end in time goes downhill as quickly as Langmuir lets it: earlier versions planned so, and
        their courses still open.

    Source: walking_hours.
    """
    found = _staged(day, start_altitude, hurried=False)
    if found and found[-1].end > LATEST_END:
        return _staged(day, start_altitude, hurried=True)
    return found


def _staged(day: Day, start_altitude: float, *, hurried: bool) -> tuple[Stage, ...]:
    found: list[Stage] = []
    clock, altitude = SET_OUT, start_altitude
    for leg in day.legs:
        start = leg.start_h if leg.start_h is not None else clock
        if leg.kind in STILL:
            end = start + (leg.hours or 0.0)
            found.append(Stage(leg, start, end, altitude, None))
        else:
            walk = _walk(leg, start, altitude, hurried=hurried)
            end = walk.end
            found.append(Stage(leg, start, end, altitude, walk))
        clock, altitude = end, leg.to_altitude_m
    return tuple(found)


def _walk(leg: Leg, start: float, altitude: float, *, hurried: bool) -> Walk:
    climb, fall = climb_and_fall(leg, altitude)
    hours = walking_hours(leg, altitude, hurried=hurried)
    halts = halts_in(leg, hours)
    factor = TERRAIN.get(leg.terrain)
    return Walk(
        start=start,
        end=start + hours + halts * leg.halt_min / 60,
        from_altitude=altitude,
        to_altitude=leg.to_altitude_m,
        speed=leg.distance_km / hours / 3.6 if hours else 0.0,
        slope=(climb + fall) / (leg.distance_km * 10) if leg.distance_km else 0.0,
        climbing=climb / (climb + fall) if climb + fall else 0.5,
        terrain=factor if factor is not None else float(snow_terrain_factor(leg.sinkage_cm)),
        halts=halts,
    )


def refuse_day(day: Day, start_altitude: float, number: int) -> None:
    """Refuse a day whose legs cannot be walked as planned.

    Args:
        day: with its legs.
        start_altitude: where it begins [m].
        number: of the day, from 1, for the message.

    Source: range of core.physics.effort.walking_power.
    """
    clock = 0.0
    for place, stage in enumerate(stages(day, start_altitude), 1):
        where = {"day": number, "leg": place, "kind": stage.leg.kind}
        if stage.start < clock - 1e-6:
            raise refused("leg overlaps", **where)
        if stage.leg.kind in STILL and abs(stage.leg.to_altitude_m - stage.from_altitude) > 0.5:
            raise refused("leg stays", **where, altitude_m=stage.from_altitude)
        clock = stage.end
        walk = stage.walk
        if walk is None:
            continue
        if not walk.end > walk.start:
            raise refused("leg takes no time", **where)
        if walk.speed > FASTEST or walk.slope > STEEPEST:
            limits = {"fastest_ms": FASTEST, "steepest": STEEPEST}
            raise refused("leg too fast", **where, speed_ms=walk.speed, slope=walk.slope, **limits)
    if clock > LATEST_END:
        raise refused("day too long", day=number)


def up_and_down(
    distance_km: float,
    hours: float,
    start_altitude: float,
    high_point: float,
    end_altitude: float,
) -> tuple[float, float]:
    """Hours for the way up and the way down of a day given as a whole, half the distance each way.

    Source: Naismith (1892); sharing a given total by its weights is ours.
    """
    half = distance_km / 2
    climbs = (high_point - start_altitude, end_altitude - high_point)
    weights = [half / 5 + max(climb, 0) / NAISMITH_CLIMB for climb in climbs]
    whole = sum(weights) or 1.0
    return hours * weights[0] / whole, hours * weights[1] / whole
