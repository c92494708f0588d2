"""The wetness of every piece, carried from moment to moment through the course."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.day import wetness
from caldarium.core.day.dressing import Air, Choices
from caldarium.core.day.wetness import Roles
from caldarium.core.physics.drying import laid_out
from caldarium.core.physics.materials import DRYING_IN_BED, HEAT_OF_DRYING
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.wardrobe import Wardrobes
from caldarium.core.timeline.moments import Moment


@dataclass(frozen=True)
class Left:
    """What earlier days left behind: wetness of each piece and the rain it has met since it was dry
    [mm, P x G], the day on which and the hour at which that was so."""

    wet: Array
    shed: Array
    day: int
    hour: float

    def on(self, moment: Moment, dress: Wardrobes, nights: "Nights") -> tuple[Array, Array]:
        """Wetness and rain met at the start of a moment, dried by the hours of a night between.

        Args:
            moment: what comes next.
            dress: the pieces.
            nights: how they lie at night.

        Source: core.day.wetness, judgement.
        """
        if moment.fold or moment.day == self.day:
            return self.wet, self.shed
        dried = nights.dries(dress, self.day) * max(moment.start - self.hour, 0.0)
        return _dry(self.wet, dried), _dry(self.shed, dried * wetness.SOAKING_DEPTH)


def _dry(wet: Array, dried: Array) -> Array:
    return np.maximum(wet - dried, 0.0)


@dataclass(frozen=True)
class Track:
    """Wetness of each piece from 0 dry to 1 soaked at the end of every moment, and the rain it has
    met since it was dry [mm], P x M x G; heat that drying takes from the wearer [W/m², P x M]."""

    wet: Array
    shed: Array
    drying: Array


STANDS = ("halt", "hold", "camp", "dawn")
"""Kinds of moment for which insulation comes out."""


def by_role(dress: Wardrobes, choices: Choices, air: Air, cold: Flags) -> Flags:
    """Pieces that get wet at each moment by what they are for, whichever outfit is chosen.

    Args:
        dress: pieces of P people.
        choices: what can be worn.
        air: over P and M.
        cold: where what is worn in the least is short of comfort [P x M].

    Returns:
        Pieces [P x M x G]: the least outfit; where it is cold every other that may be worn, with
        insulation for standing only.

    Source: judgement; that a piece more must not make others wetter.
    """
    outfits = choices.outfits
    stands = np.array([moment.kind in STANDS for moment in air.moments], dtype=bool)
    waits = (dress.layer >= 0) & dress.insulates
    may = outfits[:, :, -1] & (stands[:, None] | ~waits[:, None])
    return outfits[:, :, 0] | (may & cold[..., None])


def in_huts(course: Course, people: Sequence[Person]) -> Flags:
    """On which nights people sleep in a hut [P x days]. Source: the plan."""
    huts = {shelter.id for shelter in course.shelters if shelter.kind == "hut"}
    days = range(len(course.days))
    if not huts:
        return np.zeros((len(people), len(course.days)), dtype=bool)
    return np.array(
        [[each.on_night(day).shelter in huts for day in days] for each in people], dtype=bool
    ).reshape(len(people), len(course.days))


@dataclass(frozen=True)
class Nights:
    """Pieces that are worn at night, which dry there [P x G], and on which nights people are in a
    hut [P x nights]."""

    in_bed: Flags
    huts: Flags

    def in_hut(self, day: int) -> Flags:
        """Who is in a hut on the night after a day [P]. Source: none, bookkeeping."""
        if not 0 <= day < self.huts.shape[1]:
            return np.zeros(len(self.huts), dtype=bool)
        found: Flags = self.huts[:, day]
        return found

    def dries(self, dress: Wardrobes, day: int) -> Array:
        """What an hour of the night after a day dries [1/h, P x G].

        Source: core.day.wetness, judgement.
        """
        beside = np.where(self.in_hut(day), wetness.DRYING_IN_HUT, wetness.DRYING_ASIDE)
        return np.where(self.in_bed, DRYING_IN_BED, beside[:, None]) / dress.holds


def wet_track(
    dress: Wardrobes,
    wears: Roles,
    moments: Sequence[Moment],
    sweat: Array,
    nights: Nights,
    left: Left | None = None,
) -> Track:
    """How wet every piece is at the end of every waking moment.

    Args:
        dress: pieces of P people.
        wears: what is worn, whatever outfit is chosen.
        moments: the M waking moments in order; folds are judged from the state they fall into and
            leave nothing behind, as they are not part of the plan.
        sweat: leaving the skin [g/(h m²), P x M].
        nights: how pieces lie at night.
        left: by the days before these moments; everything is dry where not given.

    Returns:
        The track.

    Source: core.day.wetness, judgement.
    """
    worn = wears.role
    lies = wetness.depth(dress, wears.least)
    gained, dried = (
        _held_back(dress, wears, moments, sweat, lies),
        _dried(dress, worn, moments, lies, nights),
    )
    reached = _reached(dress, wears, moments)
    ford = wetness.under_water(dress)
    wet, met, gone = (np.zeros(worn.shape) for _ in range(3))
    nothing = np.zeros(dress.clo.shape)
    left = left or Left(nothing, nothing, 0, moments[0].start if moments else 0.0)
    for column, moment in enumerate(moments):
        state, shed = left.on(moment, dress, nights)
        rain = reached[:, column]
        gain = gained[:, column] + wetness.wetted(dress, rain[:, None], shed[:, None])[:, 0]
        after = np.clip(state + gain - dried[:, column], 0.0, 1.0)
        if moment.ford:
            after = np.maximum(after, np.where(worn[:, column], ford, 0.0))
        shed = _dry(shed + rain, dried[:, column] * wetness.SOAKING_DEPTH)
        wet[:, column], met[:, column] = after, shed
        # What this moment's own sweat leaves again cost its heat where it left the skin.
        from_before = np.maximum(dried[:, column] - gained[:, column], 0.0)
        gone[:, column] = np.where(wears.least[:, column], np.minimum(from_before, state), 0.0)
        if not moment.fold:
            left = Left(after, shed, moment.day, moment.end)
    hours = np.array([moment.hours for moment in moments])
    capacity = dress.holds * dress.body_cover
    water = np.matmul(gone, capacity[..., None])[..., 0] / np.maximum(hours, 1e-9)
    return Track(wet, met, water * HEAT_OF_DRYING)


def _held_back(
    dress: Wardrobes, wears: Roles, moments: Sequence[Moment], sweat: Array, lies: wetness.Depth
) -> Array:
    """What each moment brings from the skin [P x M x G]."""
    hours = np.array([moment.hours for moment in moments])
    air = np.array([moment.air for moment in moments])
    return wetness.held_back(wears, dress, lies, sweat, air) * hours[:, None] / dress.holds[:, None]


def _reached(dress: Wardrobes, wears: Roles, moments: Sequence[Moment]) -> Array:
    """Rain and wet scrub that reach each piece in each moment [mm, P x M x G]."""
    found = np.zeros(wears.role.shape)
    depth = water_on_regions(moments)
    falls = np.flatnonzero(depth.any(axis=1))
    if len(falls):
        there = Roles(wears.least[:, falls], wears.role[:, falls])
        found[:, falls] = wetness.rain_reached(dress, there, depth[None, falls])
    return found


def water_on_regions(moments: Sequence[Moment]) -> Array:
    """Water that comes from outside onto each region in each moment [mm, M x 7].

    Source: core.day.wetness.
    """
    hours, falls, rate, air, wind = (
        np.array([getattr(moment, name) for moment in moments], dtype=float)
        for name in ("hours", "wet_hours", "precipitation", "air", "body_wind")
    )
    pace = np.array([moment.walk.speed if moment.walk else 0.0 for moment in moments])
    at_camp = np.array([moment.kind == "camp" for moment in moments])
    out = np.where(at_camp, np.minimum(wetness.OUT_AT_CAMP / np.maximum(hours, 1e-9), 1.0), 1.0)
    rain = wetness.on_regions(rate * hours * out, falls * out, np.hypot(wind, pace), air)
    brushed = np.array([moment.scrub for moment in moments]) * hours * wetness.SCRUB_MM
    return rain + brushed[:, None] * wetness.SCRUB_REGIONS


def _dried(
    dress: Wardrobes,
    worn: Flags,
    moments: Sequence[Moment],
    lies: wetness.Depth,
    nights: Nights,
) -> Array:
    """What each moment dries [P x M x G]."""
    hours = np.array([moment.hours for moment in moments])
    damp = np.array([moment.humidity for moment in moments])
    fair = np.array(
        [
            0.0 if moment.scrub else 1 - moment.wet_hours / max(moment.hours, 1e-9)
            for moment in moments
        ]
    )
    on_body = wetness.DRYING * (1 - 0.8 * np.minimum(damp, 100.0) / 100) * fair
    rate = np.where(worn, on_body[:, None] * lies.from_air, aside(moments, nights)[..., None])
    return rate * hours[:, None] / dress.holds[:, None]


def aside(moments: Sequence[Moment], nights: Nights) -> Array:
    """What pieces lose in an hour that are not worn [g/(h m²), P x M]: laid out at stops and camps
    while nothing falls, hung up in a hut, lying in a shelter; nothing while people walk.

    Args:
        moments: the M waking moments.
        nights: who is in a hut when.

    Source: core.physics.drying and core.day.wetness.
    """
    table = np.array(
        [(m.air, m.humidity, m.body_wind, m.sun, m.wet_hours / max(m.hours, 1e-9)) for m in moments]
    ).reshape(-1, 5)
    out = laid_out(*table[:, :4].T) * np.clip(1 - table[:, 4], 0.0, 1.0)
    rest = np.array(
        [m.kind == "halt" and not m.fold and m.hours >= wetness.LAID_OUT_FROM for m in moments]
    )
    at_camp = np.array([m.kind in ("camp", "dawn") for m in moments])
    huts = np.stack(
        [nights.in_hut(m.day - 1 if m.kind == "dawn" else m.day) for m in moments], axis=1
    )
    roof = np.where(huts, wetness.DRYING_IN_HUT, wetness.DRYING_ASIDE)
    return np.where(at_camp, np.maximum(roof, out), np.where(rest, out, 0.0))
