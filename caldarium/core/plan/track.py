"""A recorded or planned way: how long, how much up and down without its noise, and where to cut."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray

from caldarium.core.physics.quantities import Array, Flags, Values, array
from caldarium.core.plan.refusal import refused

EARTH = 6371.0088
"""Mean radius of the Earth [km]. Source: IUGG."""
STEP = 0.025
"""Spacing at which heights are smoothed [km]: judgement, below the length of real rises."""
WINDOW = 9
"""Points of the running median and mean, about 200 m of way: judgement, above the noise."""
DENSE, DENSE_POINTS = 0.015, 50
"""Spacing of the points below which a file is a recording [km], where it has more than so many."""
SMOOTHED, STRIDE = 0.08, 0.02
"""Length of way over which a recording's places are smoothed, and spacing of what is kept [km]."""
THRESHOLD = 5.0
"""Rise or fall that counts at all [m]: judgement, above what a receiver wanders."""
STOP_HOURS = 5.0
"""A break in time that counts as a night [h]: judgement."""
PAUSE_HOURS, SLOW = 1 / 12, 2.0
"""A stand that counts as a pause [h], and a pace below which nobody is taken to walk [km/h]:
judgement."""
LEG_POINTS = 120


@dataclass(frozen=True)
class Track:
    """A way as arrays over its points: degrees, km from its start, m, hours from the first point.

    Height and time are NaN where the file has none; begun is the clock in UTC at which the hours
    count from [h since midnight].
    """

    latitude: Array
    longitude: Array
    distance: Array
    height: Array
    hours: Array
    begun: float = float("nan")

    @property
    def has_times(self) -> bool:
        """Whether most points have a time, of a clock that is known. Source: none, bookkeeping."""
        return bool(np.isfinite(self.hours).mean() > 0.5) and bool(np.isfinite(self.begun))

    @property
    def has_heights(self) -> bool:
        """Whether most points have a height. Source: none, bookkeeping."""
        return bool(np.isfinite(self.height).mean() > 0.5)


def ground_distance(
    latitude: Values, longitude: Values, to_latitude: Values, to_longitude: Values
) -> Array:
    """Distance along the Earth's surface [km] between points in degrees.

    Source: haversine formula on a sphere, within 0.6 % of the ellipsoid.
    """
    lat, lon, to_lat, to_lon = (
        np.radians(array(each)) for each in (latitude, longitude, to_latitude, to_longitude)
    )
    half = np.sin((to_lat - lat) / 2) ** 2
    half = half + np.cos(lat) * np.cos(to_lat) * np.sin((to_lon - lon) / 2) ** 2
    return 2 * EARTH * np.arcsin(np.sqrt(np.clip(half, 0, 1)))


def make_track(latitude: Array, longitude: Array, height: Array, hours: Array) -> Track:
    """A track from its points, without what a receiver wanders beside the way.

    A dense recording is smoothed over SMOOTHED and thinned to points STRIDE apart; of any other
    only points that stay where the one before was are left out.

    Source: ground_distance; the lengths are judgement, above what receivers wander under trees.
    """
    steps = ground_distance(latitude[:-1], longitude[:-1], latitude[1:], longitude[1:])
    moving = steps[steps > 1e-6]
    keep = np.concatenate([[True], steps > 1e-6])
    if len(moving) > DENSE_POINTS and float(np.median(moving)) < DENSE:
        window = int(np.clip(2 * round(SMOOTHED / float(np.median(moving)) / 2) + 1, 3, 61))
        latitude, longitude = (_running_mean(each, window) for each in (latitude, longitude))
        keep = _apart(latitude, longitude)
    latitude, longitude = latitude[keep], longitude[keep]
    steps = ground_distance(latitude[:-1], longitude[:-1], latitude[1:], longitude[1:])
    distance = np.concatenate([[0.0], np.cumsum(steps)])
    return Track(latitude, longitude, distance, height[keep], hours[keep])


def _running_mean(values: Array, window: int) -> Array:
    """Means over a window that narrows to nothing at both ends, which stay where they are."""
    places = np.arange(len(values))
    half = np.minimum(np.minimum(places, places[::-1]), window // 2)
    sums = np.concatenate([[0.0], np.cumsum(values)])
    return (sums[places + half + 1] - sums[places - half]) / (2 * half + 1)


def _apart(latitude: Array, longitude: Array) -> Flags:
    """Points that lie STRIDE from the last one kept; the first and the last always are."""
    keep = np.zeros(len(latitude), dtype=bool)
    keep[[0, -1]] = True
    last = 0
    for at in range(1, len(latitude)):
        gone = ground_distance(latitude[last], longitude[last], latitude[at], longitude[at])
        if float(gone) >= STRIDE:
            keep[at], last = True, at
    return keep


def smoothed(distance: Array, height: Array) -> tuple[Array, Array]:
    """Heights at even steps with the receiver's noise taken off.

    Args:
        distance: along the way [km], rising.
        height: [m]; NaN is filled from its neighbours.

    Returns:
        Distance [km] and height [m]: a running median, which takes single wrong points out, then
        a running mean; the ends are kept.

    Source: median and mean filters; their width is judgement.
    """
    known = np.isfinite(height)
    count = max(int(distance[-1] / STEP) + 1, 2)
    even = array(np.linspace(0.0, float(distance[-1]), count))
    resampled = array(np.interp(even, distance[known], height[known]))
    width = min(WINDOW, count if count % 2 else count - 1)
    if width < 3:
        return even, resampled
    middle = array(np.median(_windows(resampled, width), axis=1))
    return even, array(_windows(middle, width).mean(axis=1))


def _windows(values: Array, width: int) -> Array:
    """Running windows; beyond either end the way goes on as it came, turned about the end."""
    pad = width // 2
    before = 2 * values[0] - values[1 : pad + 1][::-1]
    after = 2 * values[-1] - values[-pad - 1 : -1][::-1]
    return array(sliding_window_view(np.concatenate([before, values, after]), width))


def climb_totals(height: Array, threshold: float = THRESHOLD) -> tuple[float, float]:
    """Total climb and fall [m] of heights in order, counting only what exceeds a threshold.

    Source: rises and falls between turning points that differ by the threshold or more, common
        practice, no published source.
    """
    known = height[np.isfinite(height)]
    if len(known) < 2:
        return 0.0, 0.0
    if threshold <= 0:
        steps = np.diff(known)
        return float(steps[steps > 0].sum()), float(-steps[steps < 0].sum())
    low = high = turn = extreme = float(known[0])
    direction = 0
    climb = fall = 0.0
    for value in known.tolist():
        if direction == 0:
            low, high = min(low, value), max(high, value)
            if value - low >= threshold:
                direction, turn, extreme = 1, low, value
            elif high - value >= threshold:
                direction, turn, extreme = -1, high, value
        elif (value - extreme) * direction > 0:
            extreme = value
        elif abs(value - extreme) >= threshold:
            climb, fall = climb + max(extreme - turn, 0.0), fall + max(turn - extreme, 0.0)
            direction, turn, extreme = -direction, extreme, value
    return climb + max(extreme - turn, 0.0), fall + max(turn - extreme, 0.0)


def overnight_cuts(track: Track) -> list[float]:
    """Distances [km] at which the way stops for a night, by breaks in its times.

    Source: judgement, STOP_HOURS.
    """
    if not np.isfinite(track.hours).any():
        return []
    known = np.isfinite(track.hours)
    hours, distance = track.hours[known], track.distance[known]
    breaks = np.flatnonzero(np.diff(hours) >= STOP_HOURS)
    return [float(distance[each]) for each in breaks]


@dataclass(frozen=True)
class Timed:
    """How a recording went along a piece of its way: when it began [h from the first point], time
    moving [h], and its pauses, each [h]."""

    begins: float
    moving: float
    pauses: tuple[float, ...]


def timed(track: Track, begin: float, end: float) -> Timed | None:
    """How the recording went between two distances [km], None where it has no times there.

    Source: steps of the clock longer than PAUSE_HOURS beyond a slow pace are pauses; judgement.
    """
    known = np.isfinite(track.hours)
    hours, distance = track.hours[known], track.distance[known]
    inside = np.flatnonzero((distance >= begin - 1e-9) & (distance <= end + 1e-9))
    if len(inside) < 2:
        return None
    here = hours[inside]
    steps, way = np.diff(here), np.diff(distance[inside])
    stood = steps - way / SLOW
    paused = stood > PAUSE_HOURS
    # A pause where the piece begins belongs to the one before.
    first = int(paused[0]) if len(paused) > 1 else 0
    pauses = tuple(stood[first:][paused[first:]].tolist())
    return Timed(float(here[first]), float(steps[first:].sum() - sum(pauses)), pauses)


def even_cuts(track: Track, parts: int) -> list[float]:
    """Distances [km] that part a way into equal lengths. Source: none, a proposal."""
    return [float(track.distance[-1] * part / parts) for part in range(1, parts)]


@dataclass(frozen=True)
class Part:
    """A piece of a way: ends [km], climb and fall smoothed and raw [m], points for a leg."""

    begin: float
    end: float
    climb: float
    fall: float
    raw_climb: float
    raw_fall: float
    from_altitude: float
    to_altitude: float
    points: tuple[tuple[float, float, float, float], ...]

    @property
    def length(self) -> float:
        """Way [km]. Source: none, a difference."""
        return self.end - self.begin


def parts(track: Track, cuts: list[float]) -> list[Part]:
    """A way cut into pieces.

    Args:
        track: with heights.
        cuts: distances [km] inside the way, rising.

    Returns:
        The pieces, with at most LEG_POINTS points each.

    Raises:
        ValueError: where the way has no heights, or a cut lies outside it.

    Source: smoothed, climb_totals.
    """
    if not track.has_heights:
        raise refused("no heights")
    whole = float(track.distance[-1])
    edges = [0.0, *cuts, whole]
    if any(after - before < 0.05 for before, after in pairwise(edges)):
        raise refused("bad cuts", whole_km=whole)
    even, flat = smoothed(track.distance, track.height)
    found: list[Part] = []
    for begin, end in pairwise(edges):
        inside = (even > begin) & (even < end)
        at = np.concatenate([[begin], even[inside], [end]])
        heights = np.interp(at, even, flat)
        climb, fall = climb_totals(heights)
        raw = track.height[(track.distance >= begin) & (track.distance <= end)]
        raw_climb, raw_fall = climb_totals(raw, 0.0)
        found.append(
            Part(
                begin,
                end,
                climb,
                fall,
                raw_climb,
                raw_fall,
                float(heights[0]),
                float(heights[-1]),
                _thinned(track, at, heights),
            )
        )
    return found


def totals(pieces: list[Part]) -> dict[str, float]:
    """Climb and fall of all pieces together, smoothed and raw [m]. Source: climb_totals."""
    names = ("climb", "fall", "raw_climb", "raw_fall")
    return {name: float(sum(getattr(piece, name) for piece in pieces)) for name in names}


def _thinned(
    track: Track, at: Array, heights: Array
) -> tuple[tuple[float, float, float, float], ...]:
    keep: NDArray[np.intp] = np.unique(
        np.linspace(0, len(at) - 1, min(LEG_POINTS, len(at))).round().astype(int)
    )
    where = at[keep]
    columns = (
        where - at[0],
        heights[keep],
        np.interp(where, track.distance, track.latitude),
        np.interp(where, track.distance, track.longitude),
    )
    rows = np.stack(columns, axis=1).round(6).tolist()
    return tuple((row[0], row[1], row[2], row[3]) for row in rows)
