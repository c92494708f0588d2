"""A day's walking: up to the high point and down to the night's place."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING

from caldarium.core.effort import FASTEST, STEEPEST, TERRAIN

if TYPE_CHECKING:
    from caldarium.core.course import Route


@dataclass(frozen=True)
class Walk:
    """One way of a day's route: up or down. Speed [m/s], slope [%], clock times [h]."""

    start: float
    end: float
    from_altitude: float
    to_altitude: float
    speed: float
    grade: float
    terrain: float


def day_walks(route: Route, start_altitude: float, end_altitude: float) -> tuple[Walk, ...]:
    """A day's way up and way down; none on a rest day.

    Half the distance each way; the time is shared by Naismith's weights (an hour for 5 km and one
    for 600 m of climb).

    Source: Naismith (1892); sharing a given total by its weights is ours.
    """
    if route.walking_h == 0:
        return ()
    half = route.distance_km / 2
    ends = (start_altitude, route.high_point_m, end_altitude)
    climbs = [after - before for before, after in pairwise(ends)]
    weights = [half / 5 + max(climb, 0) / 600 for climb in climbs]
    walks: list[Walk] = []
    start = route.set_out_h
    for index, (climb, weight) in enumerate(zip(climbs, weights, strict=True)):
        hours = route.walking_h * weight / sum(weights)
        walks.append(
            Walk(
                start=start,
                end=start + hours,
                from_altitude=ends[index],
                to_altitude=ends[index + 1],
                speed=half / hours / 3.6,
                grade=climb / (half * 10),
                terrain=TERRAIN[route.terrain],
            )
        )
        start += hours + route.halt_min / 60
    return tuple(walks)


def walking_fault(route: Route, start_altitude: float, end_altitude: float) -> str:
    """Why the walking formula has no figure for this way; empty where it has.

    Source: range of core.effort.walking_power.
    """
    for walk in day_walks(route, start_altitude, end_altitude):
        name = "up" if walk.to_altitude == route.high_point_m else "down"
        if walk.speed > FASTEST or abs(walk.grade) > STEEPEST:
            return (
                f"the way {name} goes at {walk.speed:.1f} m/s and {walk.grade:.0f} %; the walking "
                f"formula ends at {FASTEST:g} m/s and {STEEPEST:g} %: give it more time or distance"
            )
    return ""
