"""Older course documents, brought to the present form without losing what they say."""

from typing import Any

from caldarium.core.plan.legs import up_and_down
from caldarium.core.plan.refusal import refused

_MOMENTS = {
    "moving-up": "up.moving",
    "halt": "top.halt",
    "moving-down": "down.moving",
    "hold": "up.hold",
}


def upgraded(document: dict[str, Any]) -> dict[str, Any]:
    """A course document of any version as one of the present version.

    Raises:
        KeyError, TypeError, ValueError: where it is not a course document of the version it names.

    Source: none, bookkeeping.
    """
    if document.get("version") == 1:
        document = _legs_from_routes(document)
    return document


def _legs_from_routes(document: dict[str, Any]) -> dict[str, Any]:
    """Version 1 said a day as one way up and one way down; version 2 as legs."""
    days: list[dict[str, Any]] = []
    altitude = float(document["start_altitude_m"])
    for day in document["days"]:
        kept = {key: value for key, value in day.items() if key not in ("route", "end_altitude_m")}
        end = float(day["end_altitude_m"])
        days.append(kept | {"legs": _day_legs(day["route"], altitude, end)})
        altitude = end
    people = [
        person
        | {
            "overrules": [
                rule | {"moment": _renamed(str(rule["moment"]))}
                for rule in person.get("overrules", ())
            ]
        }
        for person in document["people"]
    ]
    typed = {
        key: text
        for key, text in document.get("as_typed", {}).items()
        if not key.endswith((".high_point_m", ".end_altitude_m"))
    }
    return document | {"version": 2, "days": days, "people": people, "as_typed": typed}


def _day_legs(route: dict[str, Any], start: float, end: float) -> list[dict[str, Any]]:
    """Legs of a version 1 day; one that rested and yet ended elsewhere gets an easy way there."""
    if float(route.get("walking_h", 6)) or abs(end - start) <= 0.5:
        return route_legs(route, start, end)
    easy = {"id": "way", "kind": "traverse", "distance_km": max(2.0, abs(end - start) / 100)}
    return [easy | {"to_altitude_m": end, "exposure": route.get("exposure", "open")}]


def _renamed(moment: str) -> str:
    day, _, kind = moment.partition(".")
    return f"{day}.{_MOMENTS.get(kind, kind)}"


def route_legs(route: dict[str, Any], start: float, end: float) -> list[dict[str, Any]]:
    """Legs of a day given as a whole: up, a stop at the high point, and down.

    Args:
        route: set_out_h, distance_km, walking_h, high_point_m, terrain, exposure, halt_min.
        start, end: altitude where the day begins and ends [m].

    Returns:
        Legs as in a course document; none for a rest day.

    Source: none, bookkeeping.
    """
    distance = float(route.get("distance_km", 12))
    hours = float(route.get("walking_h", 6))
    top = float(route["high_point_m"])
    if not hours:
        if abs(end - start) > 0.5:
            raise refused("rest day moves")
        return []
    up, down = up_and_down(distance, hours, start, top, end)
    common = {
        "distance_km": distance / 2,
        "terrain": route.get("terrain", "track"),
        "exposure": route.get("exposure", "open"),
        "halt_every_h": 0,
    }
    stop = {
        "id": "top",
        "kind": "rest",
        "to_altitude_m": top,
        "hours": float(route.get("halt_min", 20)) / 60,
        "exposure": common["exposure"],
    }
    return [
        common
        | {
            "id": "up",
            "kind": "ascent",
            "to_altitude_m": top,
            "hours": up,
            "start_h": route.get("set_out_h", 8.5),
        },
        stop,
        common | {"id": "down", "kind": "descent", "to_altitude_m": end, "hours": down},
    ]
