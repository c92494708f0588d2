"""From a recorded way and its cuts to a course's legs."""

import re
from dataclasses import dataclass

from caldarium.core.plan.changes import with_days
from caldarium.core.plan.course import Course
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.route import Leg
from caldarium.core.plan.track import Part, Track, even_cuts, overnight_cuts, parts, timed

HIGH_ENOUGH = 100.0
"""Height of a day's top over both its ends that makes it worth a cut [m]: judgement."""


@dataclass(frozen=True)
class Cut:
    """Where a way is cut [km], and whether the course sleeps there."""

    at: float
    night: bool


def proposed_cuts(track: Track, days: int) -> list[Cut]:
    """Cuts to begin with: nights where the times break off, else equal days; tops of days.

    Source: overnight_cuts, even_cuts; judgement.
    """
    nights = overnight_cuts(track)[: days - 1] or even_cuts(track, days)
    cuts = [Cut(round(each, 1), True) for each in nights]
    edges = [0.0, *(cut.at for cut in cuts), float(track.distance[-1])]
    if not track.has_heights:
        return cuts
    for part in parts(track, [cut.at for cut in cuts]):
        top = max(part.points, key=lambda point: point[1])
        ends = max(part.from_altitude, part.to_altitude)
        at = round(part.begin + top[0], 1)
        if top[1] - ends > HIGH_ENOUGH and min(abs(at - edge) for edge in edges) > 0.3:
            cuts.append(Cut(at, False))
    return sorted(cuts, key=lambda cut: cut.at)


def cuts_text(cuts: list[Cut]) -> str:
    """Cuts as people type them: kilometres, an n after those with a night.

    Source: none, notation.
    """
    return ", ".join(f"{cut.at:g}{'n' if cut.night else ''}" for cut in cuts)


def parse_cuts(text: str) -> list[Cut]:
    """Cuts as typed, such as "4.2, 12.5n, 18".

    Raises:
        ValueError: with a sentence for the person who typed it.

    Source: none, notation.
    """
    found: list[Cut] = []
    for word in re.split(r"[;,\s]+", text.strip()):
        if not word:
            continue
        match = re.fullmatch(r"(\d+(?:\.\d+)?)(?:\s*km)?\s*(n?)", word.lower())
        if match is None:
            raise refused("no cut", typed=word)
        found.append(Cut(float(match[1]), match[2] == "n"))
    return sorted(found, key=lambda cut: cut.at)


def with_way(
    course: Course,
    track: Track,
    cuts: list[Cut],
    first_day: int = 0,
    *,
    own_times: bool = False,
) -> Course:
    """The course with the legs of a recorded way from one day on.

    Args:
        course: the plan; days that the way does not reach keep their legs.
        track: the way.
        cuts: where it is cut.
        first_day: the day it begins on, from 0.
        own_times: whether legs start, walk and pause as the recording did, by the place's clock.

    Returns:
        The course.

    Raises:
        ValueError: where the way has no heights, or more nights than the course has days.

    Source: core.plan.track.
    """
    pieces = parts(track, [cut.at for cut in cuts])
    days: list[list[Part]] = [[]]
    for place, piece in enumerate(pieces):
        days[-1].append(piece)
        if place < len(cuts) and cuts[place].night:
            days.append([])
    if first_day + len(days) > len(course.days):
        raise refused("way too long", days=len(days), first=first_day + 1, course=len(course.days))
    changed = list(course.days)
    for offset, way in enumerate(days):
        index = first_day + offset
        starts = course.days[index].legs
        start = starts[0].start_h if starts else None
        legs = tuple(
            _leg(number, piece, start if number == 1 else None).altered(
                **(_as_recorded(course, track, piece) if own_times else {})
            )
            for number, piece in enumerate(way, 1)
        )
        changed[index] = changed[index].altered(legs=legs)
    begin = course.start_altitude_m if first_day else round(pieces[0].from_altitude, 1)
    return with_days(course, changed, start_altitude_m=begin)


def _as_recorded(course: Course, track: Track, piece: Part) -> dict[str, object]:
    """Start, time and halts of a leg as the recording had them; nothing where it has no times."""
    found = timed(track, piece.begin, piece.end)
    if found is None or not track.has_times:
        return {}
    clock = (track.begun + found.begins + course.place.utc_offset_h) % 24
    told: dict[str, object] = {"start_h": round(clock, 4), "hours": round(found.moving, 4)}
    if not found.pauses:
        return told | {"halt_every_h": 0}
    number = len(found.pauses)
    return told | {
        "halt_every_h": min(found.moving / (number + 1), 8.0),
        "halt_min": min(max(60 * sum(found.pauses) / number, 1.0), 180.0),
    }


def _leg(number: int, piece: Part, start: float | None) -> Leg:
    kind = "traverse"
    if piece.climb > 2 * piece.fall + 30:
        kind = "ascent"
    elif piece.fall > 2 * piece.climb + 30:
        kind = "descent"
    return Leg.model_validate(
        {
            "id": f"way-{number}",
            "kind": kind,
            "start_h": start,
            "distance_km": round(piece.length, 2),
            "to_altitude_m": round(piece.to_altitude, 1),
            "climb_m": round(piece.climb),
            "fall_m": round(piece.fall),
            "points": piece.points,
        }
    )
