"""How sure a verdict is: the spread of its margin by what nobody knows exactly."""

from dataclasses import replace
from typing import Literal

import numpy as np

from caldarium.core.day.dressing import Air, worth
from caldarium.core.physics import cold
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.wardrobe import Wardrobes

Sure = Literal["sure", "likely", "either way"]
RATE_SD = 0.13
"""Spread of metabolic rates between people at one task. Source: ISO 8996:2021, 10 to 15 % where
rates come from tables of tasks."""
CLOTHING_SD = 0.12
"""Spread of an outfit's insulation by tables and rulers: judgement, order of ISO 9920:2007."""
WIND_SD = 0.25
"""Spread of the wind at a body against that of a forecast: judgement."""
SURE_FROM, LIKELY_FROM = 1.64, 0.67
"""Margins in spreads from which nineteen in twenty, and three in four, would turn out so. Source:
one-sided quantiles of the normal distribution."""


def spread(dress: Wardrobes, worn: Flags, air: Air, whole: Array, held: Array) -> Array:
    """Standard deviation of what an outfit has to spare.

    Args:
        dress: the people's pieces.
        worn: what they wear [P x M x G].
        air: what they meet.
        whole: what that is worth [m² K/W, P x M].
        held: the insulation needed [m² K/W, P x M].

    Returns:
        Deviation [m² K/W, P x M], weather as planned apart.

    Source: slopes of the margin by one step each, root of the sum of squares.
    """
    hours = np.array([moment.by_clothing for moment in air.moments])
    where = air.where

    def need(of: cold.Exposure) -> Array:
        return cold.required_insulation(cold.MINIMAL, of, enforce_range=False, hours=hours)

    harder = replace(where, metabolic_rate=where.metabolic_rate * (1 + RATE_SD))
    harder = replace(harder, work=where.work * (1 + RATE_SD))
    by_rate = held - need(harder)
    windier = replace(where, air_speed=np.clip(where.air_speed * (1 + WIND_SD), 0.4, 18))
    left = worth(dress, worn[:, :, None], replace(air, where=windier)).whole[..., 0]
    by_wind = (whole - held) - (left - need(windier))
    return np.sqrt(by_rate**2 + by_wind**2 + (CLOTHING_SD * whole) ** 2)


def how_sure(margin: float, deviation: float) -> Sure:
    """In words' code, how sure it is that a margin lies on its side of nothing.

    Source: SURE_FROM, LIKELY_FROM.
    """
    if abs(margin) >= SURE_FROM * deviation:
        return "sure"
    return "likely" if abs(margin) >= LIKELY_FROM * deviation else "either way"
