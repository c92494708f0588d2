"""The body in time: a core and a skin node, blood between them, sweat and shivering.

Source: Gagge, Fobelets & Berglund (1986), ASHRAE Trans. 92(2), the two-node model; constants as in
ASHRAE Fundamentals ch. 9. Checked against a published implementation in tests/oracles.
"""

from dataclasses import dataclass

import numpy as np

from caldarium.core.quantities import Array, Values, array

SKIN_NEUTRAL, CORE_NEUTRAL, BODY_NEUTRAL = 33.7, 36.8, 36.49
"""Set points of skin, core and mean body [°C]."""
FLOW_NEUTRAL, DILATION, CONSTRICTION = 6.3, 120.0, 0.5
FLOW_RANGE = (0.5, 90.0)
"""Skin blood flow [L/(h m²)]."""
SWEAT_GAIN, MOST_SWEAT = 170.0, 500.0
"""Regulatory sweating [g/(h m² K)] and its ceiling [g/(h m²)]."""
SHIVER_GAIN = 19.4
LATENT = 0.68
"""Heat of evaporation [W h/g]."""
SPECIFIC_HEAT = 0.97
"""Of the body [W h/(kg K)]."""
STEP_HOURS = 1 / 60


@dataclass(frozen=True)
class Surroundings:
    """What heat and vapour leave through; arrays of one shape.

    operative temperature [°C], vapour pressure [kPa], sensible resistance from skin to air
    [m² K/W], evaporative resistance [m² kPa/W], metabolic rate [W/m²].
    """

    operative: Array
    vapour: Array
    sensible: Array
    evaporative: Array
    metabolic_rate: Array


@dataclass(frozen=True)
class Body:
    """A body's state: skin and core [°C], skin blood flow [L/(h m²)], regulatory sweat
    [g/(h m²)], skin wettedness, shivering [W/m²], heat stored since the beginning [W h/m²]."""

    skin: Array
    core: Array
    flow: Array
    sweat: Array
    wettedness: Array
    shivering: Array
    stored: Array


def rested(shape: tuple[int, ...]) -> Body:
    """Bodies at their set points. Source: Gagge et al. (1986)."""
    nothing = np.zeros(shape)
    return Body(
        skin=np.full(shape, SKIN_NEUTRAL),
        core=np.full(shape, CORE_NEUTRAL),
        flow=np.full(shape, FLOW_NEUTRAL),
        sweat=nothing,
        wettedness=np.full(shape, 0.06),
        shivering=nothing,
        stored=nothing,
    )


def skin_share(flow: Array) -> Array:
    """Share of the body's mass that counts as skin. Source: Gagge et al. (1986)."""
    return 0.0417737 + 0.7451833 / (flow + 0.585417)


def saturation_at_skin(skin: Array) -> Array:
    """Saturation vapour pressure [kPa] in the form the model uses. Source: Gagge et al. (1986)."""
    return 0.133322 * np.exp(18.6686 - 4030.183 / (skin + 235))


def _minute(body: Body, around: Surroundings, mass_by_area: Array) -> Body:
    """One step of the balance."""
    share = skin_share(body.flow)
    most = np.maximum((saturation_at_skin(body.skin) - around.vapour) / around.evaporative, 1e-6)
    wanted = LATENT * body.sweat
    wettedness = np.minimum(0.06 + 0.94 * wanted / most, 1.0)
    evaporated = wettedness * most
    made = around.metabolic_rate + body.shivering
    breath = 0.0173 * made * (5.867 - around.vapour) + 0.0014 * made * (34 - around.operative)
    through = (body.core - body.skin) * (5.28 + 1.163 * body.flow)
    dry = (body.skin - around.operative) / around.sensible
    into_skin = (through - dry - evaporated) * STEP_HOURS
    into_core = (made - through - breath) * STEP_HOURS
    skin = body.skin + into_skin / (SPECIFIC_HEAT * share * mass_by_area)
    core = body.core + into_core / (SPECIFIC_HEAT * (1 - share) * mass_by_area)
    mean = share * skin + (1 - share) * core
    warm_skin, cold_skin = np.maximum(skin - SKIN_NEUTRAL, 0), np.maximum(SKIN_NEUTRAL - skin, 0)
    warm_core, cold_core = np.maximum(core - CORE_NEUTRAL, 0), np.maximum(CORE_NEUTRAL - core, 0)
    flow = (FLOW_NEUTRAL + DILATION * warm_core) / (1 + CONSTRICTION * cold_skin)
    warm = np.maximum(mean - BODY_NEUTRAL, 0)
    return Body(
        skin=skin,
        core=core,
        flow=np.clip(flow, *FLOW_RANGE),
        sweat=np.minimum(SWEAT_GAIN * warm * np.exp(warm_skin / 10.7), MOST_SWEAT),
        wettedness=wettedness,
        shivering=SHIVER_GAIN * cold_skin * cold_core,
        stored=body.stored + into_skin + into_core,
    )


def lived(body: Body, around: Surroundings, hours: float, mass_by_area: Values) -> Body:
    """A body after some time in one place.

    Args:
        body: where it begins.
        around: what it meets, broadcasting with the body.
        hours: how long [h], in whole minutes.
        mass_by_area: body mass over surface [kg/m²].

    Returns:
        The body then.

    Source: Gagge, Fobelets & Berglund (1986).
    """
    mass = array(mass_by_area)
    for _ in range(max(round(hours / STEP_HOURS), 1)):
        body = _minute(body, around, mass)
    return body


def gagge_surroundings(
    air: Values, wind: Values, vapour: Values, clo: Values, metabolic_rate: Values
) -> Surroundings:
    """Resistances of an even outfit as the model's authors take them, for comparison.

    Args:
        air: air and radiant temperature [°C].
        wind: [m/s].
        vapour: pressure [kPa].
        clo: intrinsic insulation [clo].
        metabolic_rate: [W/m²].

    Returns:
        The surroundings at sea level.

    Source: Gagge, Fobelets & Berglund (1986).
    """
    rate, layer = array(metabolic_rate), 0.155 * array(clo)
    met = rate / 58.2
    stirred = np.where(met > 0.85, 5.66 * np.maximum(met - 0.85, 0) ** 0.39, 0.0)
    convection = np.maximum(np.maximum(8.600001 * array(wind) ** 0.53, 3.0), stirred)
    factor = 1 + 0.15 * array(clo)
    outer = 1 / (factor * (convection + 4.7))
    lewis = 2.2 / 0.133322
    evaporative = 1 / (lewis * factor * convection) + layer / (lewis * 0.45)
    shape = np.broadcast_shapes(np.shape(air), layer.shape, rate.shape, convection.shape)
    parts = (array(air), array(vapour), outer + layer, evaporative, rate)
    return Surroundings(*(np.broadcast_to(part, shape).astype(float) for part in parts))
