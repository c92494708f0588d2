"""GPX in and out: tracks and routes as a way, camps as waypoints."""

import re
from dataclasses import dataclass, replace
from datetime import datetime
from xml.etree.ElementTree import ParseError, XMLParser

import gpxpy.gpx
import numpy as np

from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course
from caldarium.core.plan.track import Track, make_track
from caldarium.formats.fault import FileError
from caldarium.formats.size import DEEPEST

MOST_POINTS = 400_000
_LARGE = 1_000_000  # bytes
MOST_PIECES = 20
"""Pieces in which the text of one element may come."""
LOWEST, HIGHEST = -450.0, 9000.0
"""Heights outside these are a receiver's fault and taken as missing [m]."""
_DECLARED = re.compile(rb"<!\s*(DOCTYPE|ENTITY)", re.IGNORECASE)


def read_gpx(data: bytes) -> Track:
    """The way in a GPX file: all its tracks one after another, else all its routes.

    Raises:
        FileError: for what is not GPX, declares entities, or has fewer than two points.
    """
    if _DECLARED.search(data):
        raise FileError("declares a document type or entities, which a way does not need", 1, 1)
    if b"\x00" in data[:400]:
        raise FileError("not UTF-8 text; save the file as UTF-8", 1, 1)
    if max(data.count(b"<trkpt"), data.count(b"<rtept")) > MOST_POINTS:
        raise FileError(f"more than {MOST_POINTS:,} points: thin the track first")
    large = len(data) > _LARGE
    if large and b"trkpt" not in data and b"rtept" not in data:
        # A small file is parsed, so that its first fault is named; a large one is not worth it.
        raise FileError("fewer than two points of a track or route: no way to follow")
    seen = _Points()
    try:
        parser = XMLParser(target=seen)
        parser.feed(data)
        parser.close()
    except ParseError as fault:
        line, column = fault.position
        raise FileError("not well-formed XML", line, column + 1) from None
    except FileError:
        raise
    except (ValueError, LookupError) as fault:
        raise FileError(f"not readable as text: {str(fault)[:80]}", 1, 1) from None
    points = seen.found["trkpt"] or seen.found["rtept"]
    if len(points) < 2:
        raise FileError("fewer than two points of a track or route: no way to follow")
    return _track(points)


@dataclass(slots=True)
class _Point:
    """A point as its file writes it."""

    lat: str | None
    lon: str | None
    ele: str | None = None
    time: str | None = None


class _Points:
    """Takes the points of a file as they come by, and keeps nothing else of it."""

    def __init__(self) -> None:
        self.found: dict[str, list[_Point]] = {"trkpt": [], "rtept": []}
        self._depth = 0
        self._point: _Point | None = None
        self._within = ""
        self._text: list[str] = []

    def start(self, tag: str, attributes: dict[str, str]) -> None:
        name = _local(tag)
        self._depth += 1
        if self._depth == 1 and name != "gpx":
            raise FileError(f"not GPX: its outermost element is {name[:40]}", 1, 1)
        if self._depth > DEEPEST:
            raise FileError("nested too deeply for a way", 1, 1)
        if name in self.found:
            self._point = _Point(attributes.get("lat"), attributes.get("lon"))
            self.found[name].append(self._point)
            if len(self.found[name]) > MOST_POINTS:
                raise FileError(f"more than {MOST_POINTS:,} points: thin the track first")
        elif self._point is not None and name in ("ele", "time"):
            self._within, self._text = name, []

    def data(self, text: str) -> None:
        if self._within and len(self._text) < MOST_PIECES:
            self._text.append(text)

    def end(self, tag: str) -> None:
        name = _local(tag)
        self._depth -= 1
        if self._within and name == self._within and self._point is not None:
            setattr(self._point, name, "".join(self._text)[:60])
            self._within = ""
        elif name in self.found:
            self._point = None

    def close(self) -> None:
        """The parser's target ends; nothing is left to do."""


def _local(tag: str) -> str:
    return tag.rpartition("}")[2]


def _number(text: str | None) -> float:
    try:
        return float(text or "nan")
    except ValueError:
        return float("nan")


def _track(points: list[_Point]) -> Track:
    latitude = np.array([_number(point.lat) for point in points])
    longitude = np.array([_number(point.lon) for point in points])
    outside = ~(np.abs(latitude) <= 90) | ~(np.abs(longitude) <= 180)
    if outside.any():
        number = int(np.argmax(outside)) + 1
        raise FileError(f"point {number} has no place on the Earth: lat -90 to 90, lon -180 to 180")
    height = np.array([_number(each.ele) for each in points])
    height[~((height >= LOWEST) & (height <= HIGHEST))] = np.nan
    hours, begun = _hours([each.time for each in points])
    track = replace(make_track(latitude, longitude, height, hours), begun=begun)
    if track.distance[-1] < 0.05:
        raise FileError("all points lie within 50 m: no way to follow")
    if track.distance[-1] > 2000:
        raise FileError(f"{track.distance[-1]:,.0f} km long: not a course on foot")
    return track


def _hours(times: list[str | None]) -> tuple[Array, float]:
    """Hours since the first time that is there, and that time's clock in UTC [h]; NaN for none."""
    seconds = np.full(len(times), np.nan)
    for at, text in enumerate(times):
        if text:
            try:
                seconds[at] = datetime.fromisoformat(text.strip()).timestamp()
            except (ValueError, OverflowError, OSError):
                continue
    known = np.flatnonzero(np.isfinite(seconds))
    if not len(known):
        return seconds, float("nan")
    first = seconds[known[0]]
    return (seconds - first) / 3600, float(first % 86400 / 3600)


def write_gpx(course: Course) -> str:
    """A course's ways as one track a day, a segment a leg, and its camps as waypoints.

    Only legs that came from a way have one; camps stand at the end of their day's last such leg.
    """
    gpx = gpxpy.gpx.GPX()
    gpx.creator = "Caldarium"
    gpx.name = course.name
    for index, day in enumerate(course.days):
        track = gpxpy.gpx.GPXTrack(name=f"Day {index + 1} {day.title}".strip())
        end: tuple[float, float, float, float] | None = None
        for leg in day.legs:
            if not leg.points:
                continue
            segment = gpxpy.gpx.GPXTrackSegment()
            for _, height, latitude, longitude in leg.points:
                segment.points.append(
                    gpxpy.gpx.GPXTrackPoint(latitude, longitude, elevation=round(height, 1))
                )
            track.segments.append(segment)
            end = leg.points[-1]
        if track.segments:
            gpx.tracks.append(track)
        if day.camp is not None and end is not None:
            gpx.waypoints.append(
                gpxpy.gpx.GPXWaypoint(
                    end[2],
                    end[3],
                    elevation=round(course.ends[index], 1),
                    name=f"Camp {index + 1}",
                    description=f"{day.camp.ground} ground",
                )
            )
    return gpx.to_xml()
