"""Insulation needed by day: ISO 11079 whole, for any number of conditions at once."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from caldarium.core.physics.quantities import Array, Values, array, within
from caldarium.core.physics.roots import bracketed_newton

LEWIS_PERMEABILITY = 0.06 / 0.38
"""Evaporative over dry resistance of clothing with permeability index 0.38 [kPa/K]."""
HEAT_DEBT_LIMIT = 40.0
"""Heat debt at which exposure ends [W h/m²]. Source: ISO 11079:2007."""
WALKING_SPEED_CAP = 1.2
_AREA_SLOPE = 1.197
_STEFAN_BOLTZMANN = 5.67e-8
_RADIATING = 0.95 * 0.77
_HIGHEST_INSULATION = 8.0
_BLOCK = 4096


@dataclass(frozen=True)
class Criterion:
    """A strain that ISO 11079 accepts: mean skin temperature [°C] and wettedness by rate M."""

    name: str
    skin_at_rest: float
    skin_slope: float
    wettedness_base: float
    wettedness_slope: float

    def skin(self, metabolic_rate: Array) -> Array:
        """Mean skin temperature [°C]. Source: ISO 11079:2007, annex A."""
        return self.skin_at_rest - self.skin_slope * metabolic_rate

    def wettedness(self, metabolic_rate: Array) -> Array:
        """Skin wettedness, 0 to 1. Source: ISO 11079:2007, annex A."""
        return self.wettedness_base + self.wettedness_slope * metabolic_rate


MINIMAL = Criterion("minimal", 33.34, 0.0354, 0.06, 0.0)
NEUTRAL = Criterion("neutral", 35.7, 0.0285, 0.0, 0.001)
SOAK = Criterion("soak", 35.7, 0.0285, 0.5, 0.0)
"""Half the skin wet: beyond it clothing takes up sweat faster than it dries. Judgement, between
the comfort limit near 0.3 and the physiological limit of 0.85 for unacclimatised people."""


@dataclass(frozen=True)
class Exposure:
    """What the body meets. All arrays broadcast.

    air and radiant temperature [°C], relative air speed [m/s], relative humidity [%],
    metabolic rate [W/m²], walking speed [m/s], external work [W/m²], negative where it comes back
    as heat.
    """

    air: Array
    radiant: Array
    air_speed: Array
    humidity: Array
    metabolic_rate: Array
    walking_speed: Array
    work: Array


def _blocks(where: Exposure) -> list[Exposure]:
    """An exposure in pieces that stay in the processor's cache while they are solved."""
    flat = [array(part).ravel() for part in vars(where).values()]
    count = -(-flat[0].size // _BLOCK)
    return [
        Exposure(*parts) for parts in zip(*(np.array_split(p, count) for p in flat), strict=True)
    ]


def exposure(
    air: Values,
    air_speed: Values,
    humidity: Values,
    metabolic_rate: Values,
    walking_speed: Values,
    radiant: Values | None = None,
    work: Values = 0.0,
) -> Exposure:
    """An exposure with the standard's walking speed: at least 0.0052 (M - 58), at most 1.2.

    Args:
        air: temperature [°C].
        air_speed: relative to the body [m/s].
        humidity: [%].
        metabolic_rate: [W/m²].
        walking_speed: [m/s].
        radiant: mean radiant temperature [°C]; air temperature where not given.
        work: external work [W/m²].

    Returns:
        The exposure as arrays of one shape.

    Source: ISO 11079:2007, annex A.
    """
    rate = array(metabolic_rate)
    least = np.minimum(np.maximum(0.0052 * (rate - 58), 0.0), WALKING_SPEED_CAP)
    walking = np.clip(array(walking_speed), least, WALKING_SPEED_CAP)
    parts = np.broadcast_arrays(
        array(air),
        array(air if radiant is None else radiant),
        array(air_speed),
        array(humidity),
        rate,
        walking,
        array(work),
    )
    return Exposure(*parts)


def range_faults(where: Exposure) -> dict[str, Array]:
    """Where an exposure lies outside the standard, by reason; 1 where it does.

    Source: ISO 11079:2007, scope and annex A.
    """
    rate = where.metabolic_rate
    faults = {
        "air temperature above 10 °C is outside ISO 11079": where.air > 10,
        "relative air speed outside 0.4 to 18 m/s": (where.air_speed < 0.4)
        | (where.air_speed > 18),
        "metabolic rate outside 58 to 400 W/m²": (rate < 58) | (rate > 400),
        "humidity outside 0 to 100 %": (where.humidity < 0) | (where.humidity > 100),
        "temperature below -60 °C": np.minimum(where.air, where.radiant) < -60,
    }
    return {reason: array(fault) for reason, fault in faults.items()}


def in_range(where: Exposure) -> Array:
    """1 where ISO 11079 applies, 0 elsewhere. Source: ISO 11079:2007."""
    faults = sum(range_faults(where).values(), start=np.zeros(where.air.shape))
    return array(faults == 0)


def air_layer(air_speed: Values, walking_speed: Values) -> Array:
    """Insulation of the air layer on a surface, with wind and walking.

    Args:
        air_speed: relative [m/s].
        walking_speed: [m/s].

    Returns:
        Insulation [m² K/W].

    Source: ISO 11079:2007, annex A.
    """
    return 0.092 * np.exp(-0.15 * array(air_speed) - 0.22 * array(walking_speed)) - 0.0045


def area_factor(insulation: Values) -> Array:
    """Surface of the clothed over that of the bare body, for insulation in m² K/W.

    Source: ISO 11079:2007, annex A.
    """
    return 1 + _AREA_SLOPE * array(insulation)


def wind_factor(air_speed: Values, walking_speed: Values, permeability: Values) -> Array:
    """Share of the still-air total insulation left in wind and movement.

    Args:
        air_speed: relative [m/s].
        walking_speed: [m/s].
        permeability: air permeability of the outermost layer [l/(m² s)], above 0.

    Returns:
        Share, 0 to about 1.

    Source: ISO 11079:2007, annex A.
    """
    return wind_factors((air_speed,), walking_speed, permeability)[0]


def wind_factors(
    air_speeds: Sequence[Values], walking_speed: Values, permeability: Values
) -> list[Array]:
    """The wind_factor at several air speeds, what permeability does to it found once.

    Source: ISO 11079:2007, annex A.
    """
    logarithm = np.log(array(permeability))
    open_share, shut_share = 0.54 * np.exp(0.075 * logarithm), 0.5 - 0.06 * logarithm
    walking = 0.22 * array(walking_speed)
    return [open_share * np.exp(-0.15 * array(each) - walking) + shut_share for each in air_speeds]


def saturation(temperature: Array) -> Array:
    """Saturation pressure in the form the standard uses [kPa]. Source: ISO 11079:2007."""
    return 0.1333 * np.exp(18.6686 - 4030.183 / (temperature + 235))


def respiratory_loss(metabolic_rate: Array, air: Array, vapour: Array) -> Array:
    """Heat lost by breathing [W/m²]. Source: ISO 11079:2007, annex A."""
    expired = 29 + 0.2 * air
    return 0.0173 * metabolic_rate * (saturation(expired) - vapour) + (
        0.0014 * metabolic_rate * (expired - air)
    )


def _split(hours: Values | None, where: Exposure) -> list[Array | None]:
    """Hours in the blocks of an exposure."""
    count = -(-where.air.size // _BLOCK)
    if hours is None:
        return [None] * count
    return list(np.array_split(np.broadcast_to(array(hours), where.air.shape).ravel(), count))


@dataclass(frozen=True)
class _Body:
    """The parts of the balance that do not depend on clothing."""

    skin: Array
    sweat_drive: Array
    kept: Array
    layer: Array
    where: Exposure


def _body(criterion: Criterion, where: Exposure) -> _Body:
    skin = criterion.skin(where.metabolic_rate)
    vapour = where.humidity / 100 * saturation(where.air)
    drive = criterion.wettedness(where.metabolic_rate) * (saturation(skin) - vapour)
    kept = where.metabolic_rate - where.work
    kept = kept - respiratory_loss(where.metabolic_rate, where.air, vapour)
    return _Body(
        skin,
        drive / LEWIS_PERMEABILITY,
        kept,
        air_layer(where.air_speed, where.walking_speed),
        where,
    )


def _radiant_gain(surface: Array, where: Exposure) -> Array:
    """Flux that a radiant temperature unlike the air's takes from the surface [W/m²]."""
    if np.array_equal(where.radiant, where.air):
        return array(0.0)
    warm, cold = surface + 273, where.radiant + 273
    exchange = _STEFAN_BOLTZMANN * _RADIATING * (warm + cold) * (warm**2 + cold**2)
    return exchange * (where.air - where.radiant)


def required_insulation(
    criterion: Criterion,
    where: Exposure,
    *,
    enforce_range: bool = True,
    hours: Values | None = None,
) -> Array:
    """Resultant clothing insulation that keeps the body at the criterion: IREQ.

    Args:
        criterion: MINIMAL or NEUTRAL (or SOAK for the warm end).
        where: the exposure.
        hours: the time that must be held [h], at whose end the heat debt is HEAT_DEBT_LIMIT;
            without end where not given. It is duration_limited_exposure turned round.
        enforce_range: give NaN outside the standard's range and where no clothing at all would
            still be too warm. Otherwise the balance is solved there too and stops at 0.

    Returns:
        Insulation [m² K/W].

    Source: ISO 11079:2007, annex A.
    """
    if where.air.size > _BLOCK:
        blocks = [
            required_insulation(criterion, part, enforce_range=enforce_range, hours=held)
            for part, held in zip(_blocks(where), _split(hours, where), strict=True)
        ]
        return np.concatenate(blocks).reshape(where.air.shape)
    body = _body(criterion, where)
    if hours is not None:
        body = replace(body, kept=body.kept + HEAT_DEBT_LIMIT / array(hours))

    def balance(insulation: Array) -> tuple[Array, Array]:
        evaporated = body.sweat_drive / (body.layer + insulation)
        through = body.kept - evaporated
        slope_through = evaporated / (body.layer + insulation)
        surface = body.skin - insulation * through
        factor = area_factor(insulation)
        leaving = (surface - where.air) / body.layer + _radiant_gain(surface, where)
        slope = slope_through - _AREA_SLOPE * leaving
        slope = slope + factor * (through + insulation * slope_through) / body.layer
        return through - factor * leaving, slope

    nothing = np.zeros(where.air.shape)
    unclothed = balance(nothing)[0]
    bare, known = unclothed >= 0, np.isfinite(unclothed)

    def unless_bare(insulation: Array) -> tuple[Array, Array]:
        value, slope = balance(insulation)
        return np.where(bare, 0.0, value), slope

    start = np.clip((body.skin - where.air) / np.maximum(body.kept, 1) - body.layer, 0.01, 6)
    most = np.full(where.air.shape, _HIGHEST_INSULATION)
    needed = bracketed_newton(unless_bare, nothing, most, start, tolerance=1e-8)
    if enforce_range:
        return within(needed, known & ~bare & (in_range(where) == 1))
    return within(np.where(bare, 0.0, needed), known)


def basic_insulation(resultant: Values, where: Exposure, permeability: Values) -> Array:
    """Basic (still, standing) insulation that leaves the resultant insulation in this wind.

    Args:
        resultant: insulation in wind and movement [m² K/W].
        where: the exposure.
        permeability: air permeability of the outermost layer [l/(m² s)].

    Returns:
        Insulation [m² K/W]; NaN where it would be below zero.

    Source: ISO 11079:2007, annex A.
    """
    left = array(resultant)
    area = area_factor(left)
    layer = air_layer(where.air_speed, where.walking_speed)
    share = wind_factor(where.air_speed, where.walking_speed, permeability)
    basic = (left + layer / area) / share - 0.085 / area
    return within(basic, basic >= 0)


def resultant_insulation(basic: Values, where: Exposure, permeability: Values) -> Array:
    """What wind and movement leave of a basic insulation.

    Args:
        basic: basic clothing insulation [m² K/W].
        where: the exposure.
        permeability: air permeability of the outermost layer [l/(m² s)].

    Returns:
        Insulation [m² K/W], not below 0.

    Source: ISO 11079:2007, annex A; the area factor is that of the resultant, found by repetition.
    """
    still = array(basic)
    layer = air_layer(where.air_speed, where.walking_speed)
    share = wind_factor(where.air_speed, where.walking_speed, permeability)
    dry, gain = still * share, 0.085 * share - layer
    left, found = still, np.zeros(np.shape(dry), dtype=bool)
    for _ in range(25):
        before = left
        left = np.where(found, before, np.maximum(dry + gain / area_factor(before), 0.0))
        found = found | (np.abs(left - before) < 1e-12)
        if bool(np.all(found)):
            break
    return left


def storage_rate(criterion: Criterion, resultant: Values, where: Exposure) -> Array:
    """Rate at which the body stores heat in what it wears; negative is a growing debt.

    Args:
        criterion: MINIMAL or NEUTRAL.
        resultant: insulation in wind and movement [m² K/W].
        where: the exposure.

    Returns:
        Rate [W/m²].

    Source: ISO 11079:2007, annex A.
    """
    body = _body(criterion, where)
    worn = array(resultant)
    area = area_factor(worn)
    through = body.kept - body.sweat_drive / (body.layer + worn)
    surface = where.air
    conducted = through
    for _ in range(1 if np.array_equal(where.radiant, where.air) else 25):
        radiant = _radiant_gain(surface, where)
        dry = area * ((body.skin - where.air) / body.layer + radiant)
        conducted = dry / (1 + area * worn / body.layer)
        surface = body.skin - worn * conducted
    return through - conducted


def duration_limited_exposure(
    criterion: Criterion, resultant: Values, where: Exposure, *, enforce_range: bool = True
) -> Array:
    """Hours until the heat debt reaches 40 W h/m².

    Args:
        criterion: MINIMAL (high strain) or NEUTRAL (low strain).
        resultant: insulation in wind and movement [m² K/W].
        where: the exposure.
        enforce_range: NaN outside the standard's range.

    Returns:
        Time [h]; infinite where no debt grows.

    Source: ISO 11079:2007, annex A.
    """
    rate = storage_rate(criterion, resultant, where)
    losing = ~(rate >= 0)
    hours = np.where(losing, -HEAT_DEBT_LIMIT / np.where(losing, rate, -1.0), np.inf)
    return within(hours, in_range(where) == 1) if enforce_range else hours


def required_wettedness(resultant: Values, where: Exposure) -> Array:
    """Share of the skin that must be wet for balance at neutral skin temperature.

    Args:
        resultant: insulation in wind and movement [m² K/W].
        where: the exposure.

    Returns:
        Wettedness; below 0 where the body cools anyway, above 1 where no sweating is enough.

    Source: balance of ISO 11079:2007 solved for wettedness; outside its criteria: judgement.
    """
    dry = Criterion("dry", NEUTRAL.skin_at_rest, NEUTRAL.skin_slope, 0.0, 0.0)
    wet = Criterion("wet", NEUTRAL.skin_at_rest, NEUTRAL.skin_slope, 1.0, 0.0)
    surplus = storage_rate(dry, resultant, where)
    return surplus / (surplus - storage_rate(wet, resultant, where))
