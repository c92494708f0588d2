"""Files of another place: how far what they are of lies from where the course is."""

from typing import Literal

from caldarium.core.plan.course import Place
from caldarium.core.plan.track import ground_distance

What = Literal["way", "forecast", "station"]
FAR: dict[What, float] = {"way": 60.0, "forecast": 60.0, "station": 250.0}
"""From how far on a file is perhaps not meant [km]: judgement; stations stand far apart."""


def how_far(place: Place, latitude: float, longitude: float, what: What) -> float | None:
    """How far from its place something of a course lies [km], None where that is near enough.

    Source: ground_distance; FAR.
    """
    away = float(ground_distance(place.latitude, place.longitude, latitude, longitude))
    return away if away > FAR[what] else None
