"""The warm end: how heat is felt, when work should stop, and the water that sweat takes."""

import numpy as np

from caldarium.core.physics import cold
from caldarium.core.physics.air import saturation_pressure
from caldarium.core.physics.quantities import Array, Values, array, within

LATENT = 675.0
"""Heat that a litre of sweat takes when all of it evaporates [W h/L]. Source: ISO 7933:2004."""
SWEAT_LIMIT = 1.25
"""Most that people keep up [L/h], order of ISO 7933:2004 for acclimatised workers; from memory."""


def heat_index(air: Values, humidity: Values) -> Array:
    """Temperature that this warm, damp air feels like in the shade.

    Args:
        air: temperature [°C], at least 26.7 (80 °F).
        humidity: [%], 0 to 100.

    Returns:
        Equivalent temperature [°C]; NaN below that temperature.

    Source: Rothfusz (1990), NWS Technical Attachment SR 90-23, with the two adjustments and the
        simple first step the US National Weather Service states.
    """
    fahrenheit, damp = array(air) * 9 / 5 + 32, array(humidity)
    simple = 0.5 * (fahrenheit + 61 + (fahrenheit - 68) * 1.2 + damp * 0.094)
    first = (simple + fahrenheit) / 2
    t, r = fahrenheit, damp
    felt = (
        -42.379
        + 2.04901523 * t
        + 10.14333127 * r
        - 0.22475541 * t * r
        - 6.83783e-3 * t**2
        - 5.481717e-2 * r**2
        + 1.22874e-3 * t**2 * r
        + 8.5282e-4 * t * r**2
        - 1.99e-6 * t**2 * r**2
    )
    dry = (r < 13) & (t >= 80) & (t <= 112)
    less = (13 - r) / 4 * np.sqrt(np.maximum(17 - np.abs(t - 95), 0) / 17)
    damp_air = (r > 85) & (t >= 80) & (t <= 87)
    more = (r - 85) / 10 * (87 - t) / 5
    felt = felt - np.where(dry, less, 0) + np.where(damp_air, more, 0)
    known = (fahrenheit >= 80 - 1e-9) & (damp >= 0) & (damp <= 100)
    return within((np.where(first >= 80, felt, first) - 32) * 5 / 9, known)


def wet_bulb_globe(air: Values, humidity: Values) -> Array:
    """Wet-bulb globe temperature in moderate sun and light wind, without a globe.

    Args:
        air: temperature [°C], 15 to 45.
        humidity: [%], 0 to 100.

    Returns:
        WBGT [°C]; NaN outside that range. It reads high under cloud, at night and in wind.

    Source: the approximation published by the Australian Bureau of Meteorology after the American
        College of Sports Medicine (1984): 0.567 T + 0.393 e + 3.94, e in hPa.
    """
    celsius, damp = array(air), array(humidity)
    vapour = damp / 100 * saturation_pressure(celsius) * 10
    known = (celsius >= 15) & (celsius <= 45) & (damp >= 0) & (damp <= 100)
    return within(0.567 * celsius + 0.393 * vapour + 3.94, known)


WARM_SKIN = 36.0
"""Mean skin temperature of people who work in heat [°C]: judgement, near that of ISO 7933."""
MOST_WET = 0.85
"""Share of the skin that unacclimatised people can wet. Source: ISO 7933:2004."""
MOST_ASKED = 10.0
"""Where a share that nothing is enough for stops to be counted."""
_DRY = cold.Criterion("warm, dry", WARM_SKIN, 0.0, 0.0, 0.0)
_WET = cold.Criterion("warm, wet", WARM_SKIN, 0.0, 1.0, 0.0)


def strain(resultant: Values, where: cold.Exposure) -> tuple[Array, Array]:
    """What keeping the balance asks of the skin in the heat.

    Args:
        resultant: insulation in wind and movement [m² K/W].
        where: what the body meets.

    Returns:
        Share of the skin that must be wet, 0 where nothing must, above 1 where nothing is enough,
        at most MOST_ASKED; and the sweat for it [W/m²], part of which drips off.

    Source: required evaporation and wettedness of ISO 7933:2004 with the balance of ISO 11079 at
        WARM_SKIN; sweat by its efficiency 1 - w²/2.
    """
    surplus = cold.storage_rate(_DRY, resultant, where)
    most = surplus - cold.storage_rate(_WET, resultant, where)
    wet = np.where(most > 0, surplus / np.where(most > 0, most, 1.0), MOST_ASKED)
    wet = np.where(surplus > 0, np.minimum(wet, MOST_ASKED), 0.0)
    efficiency = 1 - np.minimum(wet, 1.0) ** 2 / 2
    return wet, np.maximum(surplus, 0.0) / efficiency


def sweat_needed(resultant: Values, where: cold.Exposure, area: Values) -> Array:
    """Water that leaves as sweat to keep the balance at neutral skin temperature.

    Args:
        resultant: insulation in wind and movement [m² K/W].
        where: what the body meets.
        area: of the body [m²].

    Returns:
        Sweat [L/h], 0 where the body cools anyway, at most SWEAT_LIMIT.

    Source: surplus of ISO 11079's balance over the latent heat of ISO 7933:2004; that all of it
        evaporates makes it a lower bound.
    """
    dry = cold.Criterion("dry", cold.NEUTRAL.skin_at_rest, cold.NEUTRAL.skin_slope, 0.0, 0.0)
    surplus = cold.storage_rate(dry, resultant, where)
    return np.clip(surplus * array(area) / LATENT, 0.0, SWEAT_LIMIT)
