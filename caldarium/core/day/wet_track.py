"""The wetness of every piece, carried from moment to moment through the course."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.day import wetness
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.wardrobe import Wardrobes
from caldarium.core.timeline.moments import Moment

RAINS_FROM = 0.1
"""Precipitation in which nothing dries [mm/h]: judgement."""


@dataclass(frozen=True)
class Left:
    """What earlier days left behind: wetness of each piece [P x G], the day on which and the hour
    at which that was so."""

    wet: Array
    day: int
    hour: float

    def on(self, moment: Moment, overnight: Array) -> Array:
        """Wetness at the start of a moment, dried by the hours of a night between.

        Args:
            moment: what comes next.
            overnight: what an hour of the night dries [1/h, P x G].

        Source: core.day.wetness, judgement.
        """
        if moment.fold or moment.day == self.day:
            return self.wet
        return np.maximum(self.wet - overnight * max(moment.start - self.hour, 0.0), 0.0)


def overnight(dress: Wardrobes, in_bed: Flags) -> Array:
    """What an hour of the night dries [1/h, P x G]. Source: core.day.wetness, judgement."""
    return np.where(in_bed, wetness.DRYING_IN_BED, wetness.DRYING_ASIDE) / dress.holds


def wet_track(
    dress: Wardrobes,
    worn: Flags,
    moments: Sequence[Moment],
    sweat: Array,
    in_bed: Flags,
    left: Left | None = None,
) -> Array:
    """How wet every piece is at the end of every waking moment.

    Args:
        dress: pieces of P people.
        worn: outfits [P x M x G].
        moments: the M waking moments in order; folds are judged from the state they fall into and
            leave nothing behind, as they are not part of the plan.
        sweat: leaving the skin [g/(h m²), P x M].
        in_bed: pieces worn at night, which dry there [P x G].
        left: by the days before these moments; everything is dry where not given.

    Returns:
        Wetness of each piece from 0 dry to 1 soaked, P x M x G.

    Source: core.day.wetness, judgement.
    """
    lies = wetness.depth(dress, worn)
    gained, dried = _gains(dress, worn, moments, sweat, lies), _dried(dress, worn, moments, lies)
    ford = wetness.under_water(dress)
    night = overnight(dress, in_bed)
    found = np.zeros(worn.shape)
    left = left or Left(np.zeros(dress.clo.shape), 0, moments[0].start if moments else 0.0)
    for column, moment in enumerate(moments):
        state = left.on(moment, night)
        after = np.clip(state + gained[:, column] - dried[:, column], 0.0, 1.0)
        if moment.ford:
            after = np.maximum(after, np.where(worn[:, column], ford, 0.0))
        found[:, column] = after
        if not moment.fold:
            left = Left(after, moment.day, moment.end)
    return found


def _gains(
    dress: Wardrobes, worn: Flags, moments: Sequence[Moment], sweat: Array, lies: wetness.Depth
) -> Array:
    """What each moment brings from outside and from the skin [P x M x G]."""
    hours = np.array([moment.hours for moment in moments])
    air = np.array([moment.air for moment in moments])
    held = wetness.held_back(worn, dress, lies, sweat, air) * hours[:, None] / dress.holds[:, None]
    depth = water_on_regions(moments)
    wet = np.flatnonzero(depth.any(axis=1))
    if len(wet):
        held[:, wet] += wetness.rain_taken(dress, worn[:, wet], depth[None, wet])
    return held


def water_on_regions(moments: Sequence[Moment]) -> Array:
    """Water that comes from outside onto each region in each moment [mm, M x 7].

    Source: core.day.wetness, judgement.
    """
    hours = np.array([moment.hours for moment in moments])
    rain = wetness.fallen(
        np.array([moment.precipitation for moment in moments]),
        hours,
        np.array([moment.air for moment in moments]),
    )
    brushed = np.array([moment.scrub for moment in moments]) * np.minimum(
        hours, wetness.LONGEST_RAIN
    )
    return rain[:, None] + brushed[:, None] * wetness.SCRUB_MM * wetness.SCRUB_REGIONS


def _dried(dress: Wardrobes, worn: Flags, moments: Sequence[Moment], lies: wetness.Depth) -> Array:
    """What each moment dries [P x M x G]."""
    hours = np.array([moment.hours for moment in moments])
    damp = np.array([moment.humidity for moment in moments])
    rains = np.array([moment.precipitation > RAINS_FROM or moment.scrub for moment in moments])
    at_camp = np.array([moment.kind in ("camp", "dawn") for moment in moments])
    on_body = wetness.DRYING * (1 - 0.8 * np.minimum(damp, 100.0) / 100) * ~rains
    aside = wetness.DRYING_ASIDE * at_camp
    rate = np.where(worn, on_body[:, None] * lies.from_air, aside[:, None])
    return rate * hours[:, None] / dress.holds[:, None]
