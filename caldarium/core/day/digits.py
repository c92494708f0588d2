"""Hands and feet of people in their clothing: which gloves go on, and how fingers and toes do."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.dressing import Air, Choices, Needs, best_alone, outer_permeability
from caldarium.core.day.wetness import kept
from caldarium.core.physics import cold
from caldarium.core.physics.allowances import Allowance, heat_to_digits
from caldarium.core.physics.clothing import REGIONS, STILL_LAYER, bent
from caldarium.core.physics.extremities import (
    FINGER,
    FOOT,
    FREEZES,
    MITT,
    START,
    TOE,
    WORKS,
    Digits,
    blood_heat,
    digits,
    hand_insulation,
    outer_layer,
)
from caldarium.core.physics.quantities import CLO, Array, Flags, Values
from caldarium.core.plan.wardrobe import Wardrobes

HANDS, FEET = REGIONS.index("hands"), REGIONS.index("feet")
EASY = 20.0
"""Fingers are kept this warm where gloves allow [°C]: judgement, they are stiff well before they
are numb."""
NEARLY = 0.5
"""Warmer fingers by less than this are not worth another glove [K]: judgement."""


@dataclass(frozen=True)
class Body:
    """How the body does while its digits cool: hours of the moment [M], what it wears and needs
    [m² K/W, P x M], and the share of the usual heat its digits get [M]."""

    hours: Array
    whole: Array
    needs: Needs
    share: Array

    def heat(self, digit: str, air: Air) -> Array:
        """Heat that the blood brings to them [W/m², P x M]. Source: core.physics.extremities."""
        rate = air.where.metabolic_rate
        need = self.needs
        return self.share * blood_heat(digit, rate, self.whole, need.minimal, need.neutral)


def body_of(air: Air, whole: Array, needs: Needs, allowances: tuple[Allowance, ...]) -> Body:
    """The body at each moment. Source: core.physics.allowances."""
    return Body(
        hours=np.array([moment.hours for moment in air.moments]),
        whole=whole,
        needs=needs,
        share=heat_to_digits(allowances, np.array([moment.altitude for moment in air.moments])),
    )


def fingers(dress: Wardrobes, worn: Flags, air: Air, body: Body) -> Digits:
    """Fingers of everybody in each of K outfits, [P x M x K].

    Source: core.physics.extremities; what wind leaves of the gloves by ISO 11079:2007 through the
        outermost, under the air layer of a cylinder.
    """
    local = kept(dress, air.wet) * dress.local[:, None, :, HANDS]
    mitts = dress.together & dress.handwear
    apart = np.matmul(worn, (local * ~mitts[:, None])[..., None])[..., 0]
    together = np.matmul(worn, (local * mitts[:, None])[..., None])[..., 0]
    clo = hand_insulation(apart, together)
    radius = np.where(together > 0, MITT, FINGER)
    return _digits(dress, worn, air, body, _Part("fingers", HANDS, FINGER), clo, radius)


def toes(dress: Wardrobes, worn: Flags, air: Air, body: Body) -> Digits:
    """Toes of everybody in each of K outfits, [P x M x K]. Source: as fingers."""
    local = kept(dress, air.wet) * dress.local[:, None, :, FEET]
    clo = bent(np.matmul(worn, local[..., None])[..., 0] * CLO, FOOT) / CLO
    return _digits(dress, worn, air, body, _Part("toes", FEET, TOE), clo, FOOT)


@dataclass(frozen=True)
class _Part:
    """Fingers or toes: their name, region, and the radius of one [m]."""

    digit: str
    region: int
    radius: float


def _digits(
    dress: Wardrobes,
    worn: Flags,
    air: Air,
    body: Body,
    part: _Part,
    clo: Array,
    radius: Values,
) -> Digits:
    where = air.where
    open_to = outer_permeability(dress, worn.astype(float), part.region)
    speed, walking = where.air_speed[..., None], where.walking_speed[..., None]
    temperature = where.air[..., None]
    layer = cold.air_layer(speed, walking)
    left = (clo * CLO + STILL_LAYER) * cold.wind_factor(speed, walking, open_to) - layer
    left = np.clip(left, 0.0, clo * CLO)
    resistance = left + outer_layer(clo, radius, speed, temperature)
    heat = np.broadcast_to(body.heat(part.digit, air)[..., None], clo.shape)
    return digits(resistance, clo, heat, temperature, part.radius)


def gloved(dress: Wardrobes, worn: Flags, choices: Choices, air: Air, body: Body) -> Flags:
    """Outfits with the fewest gloves in which fingers stay easy, or all where the body is short.

    Args:
        dress: the people's pieces.
        worn: outfits [P x M x G].
        choices: which gloves may change.
        air, body: what is met.

    Returns:
        Outfits [P x M x G]: gloves from the thinnest on until fingers stay above EASY, else those
        in which they end warmest.

    Source: judgement; working with the fewest gloves is common practice, no published source.
    """
    may = choices.free_hands
    most = int(dress.handwear.sum(axis=1).max(initial=0))
    if not most:
        return worn
    order = np.where(dress.handwear, dress.rung, np.inf).argsort(axis=1).argsort(axis=1)
    reached = (order[:, None, :] < np.arange(most + 1)[:, None]) & dress.handwear[:, None]
    tried = best_alone(dress, np.where(may[:, :, None], reached[:, None], worn[:, :, None]))
    end = fingers(dress, tried, air, body).at_end(body.hours[:, None])
    warmest: Array = end.max(axis=-1, keepdims=True) - NEARLY
    short: Flags = (body.whole < body.needs.held)[..., None]
    wanted: Array = np.where(short, warmest, np.minimum(EASY, warmest))
    rung: NDArray[np.intp] = np.argmax(end >= wanted, axis=-1)
    return np.take_along_axis(tried, rung[..., None, None], axis=2)[:, :, 0]


def bare_fingers(dress: Wardrobes, worn: Flags, air: Air, body: Body) -> Array:
    """Minutes that fingers work with no gloves at all, [P x M]. Source: fingers."""
    bare = worn & ~dress.handwear[:, None]
    return fingers(dress, bare[:, :, None], air, body).until(WORKS)[..., 0]


@dataclass(frozen=True)
class DigitDays:
    """Digits through whole days [P x M]: what is over them [clo], resistance to the air [m² K/W],
    heat brought [W/m²], where they tend and where they end [°C], minutes until they stop working
    and until cold injury threatens."""

    clo: Array
    resistance: Array
    heat: Array
    steady: Array
    at_end: Array
    works_for: Array
    safe_for: Array


def glove_rungs(dress: Wardrobes, everything: Flags) -> Flags:
    """Outfits [P x M x K x G] of everything that is worn, with gloves from none to all of them.

    Source: none, bookkeeping.
    """
    order = np.where(dress.handwear, dress.rung, np.inf).argsort(axis=1).argsort(axis=1)
    most = int(dress.handwear.sum(axis=1).max(initial=0))
    reached = (order[:, None, :] < np.arange(most + 1)[:, None]) | ~dress.handwear[:, None]
    return best_alone(dress, everything[:, :, None] & reached[:, None])


def warmest_starts(found: Digits, hours: Array, before: NDArray[np.intp]) -> Array:
    """Temperature at which each moment begins, the warmest that any of K outfits can have left
    [P x M].

    Args:
        found: in K outfits [P x M x K].
        hours: of each moment [M].
        before: place of the moment each follows, -1 for a day's first [M].

    Source: as through_days.
    """
    start = np.full(found.steady.shape[:2], START)
    for column, earlier in enumerate(before.tolist()):
        if earlier >= 0:
            fade = np.exp(-hours[earlier] / found.constant[:, earlier])
            steady = found.steady[:, earlier]
            ends = steady + (start[:, earlier, None] - steady) * fade
            start[:, column] = ends.max(axis=-1)
    return start


def through_days(found: Digits, body: Body, before: NDArray[np.intp]) -> DigitDays:
    """Digits that begin each moment as the one before left them.

    Args:
        found: in one outfit each [P x M x 1].
        body: for the hours.
        before: place of the moment each follows, -1 for a day's first [M].

    Source: core.physics.extremities; a day begins with warm fingers, judgement.
    """
    steady, fade = found.steady[..., 0], np.exp(-body.hours / found.constant[..., 0])
    start, end = np.full(steady.shape, START), np.empty(steady.shape)
    for column, earlier in enumerate(before.tolist()):
        if earlier >= 0:
            start[:, column] = end[:, earlier]
        here = steady[:, column]
        end[:, column] = here + (start[:, column] - here) * fade[:, column]
    begin = start[..., None]
    return DigitDays(
        clo=found.clo[..., 0],
        resistance=found.resistance[..., 0],
        heat=found.heat[..., 0],
        steady=steady,
        at_end=end,
        works_for=found.until(WORKS, begin)[..., 0],
        safe_for=found.until(FREEZES, begin)[..., 0],
    )
