"""How fast wet cloth dries that nobody wears."""

import numpy as np

from caldarium.core.physics.air import saturation_pressure
from caldarium.core.physics.extremities import RADIANT
from caldarium.core.physics.quantities import Array, Values, array

PSYCHROMETRIC = 0.066
"""[kPa/K] of moving air at sea level. Source: ISO 7726:1998; from memory. Thinner air dries faster;
that is left out, on the safe side."""
STILL_FILM, MOVING_FILM = 3.1, 8.3
"""Heat that air takes from cloth [W/(m² K)]: still, and times v^0.6. Source: ASHRAE Fundamentals
ch. 9, table of film coefficients, from memory."""
EVAPORATION = 0.68
"""Heat that a gram of water takes [W h/g]. Source: latent heat at 20 °C, 2.45 MJ/kg."""
FREE = 0.5
"""Share of both sides of a garment that lies free, the rest in folds and on the ground: judgement.
"""


def evaporates(air: Values, humidity: Values, wind: Values, sun: Values = 0.0) -> Array:
    """Heat that a wet surface spends on drying.

    Args:
        air: temperature [°C].
        humidity: relative [%].
        wind: over it [m/s].
        sun: what the sun adds to the surroundings' temperature [K].

    Returns:
        Heat [W/m²], never below nothing.

    Source: Penman (1948), Proc. R. Soc. A 193, with the surface's own radiation in its film; the
        line of saturation taken at the air.
    """
    celsius = array(air)
    film = np.maximum(MOVING_FILM * array(wind) ** 0.6, STILL_FILM)
    dry = film + RADIANT
    saturated = saturation_pressure(celsius)
    slope = (saturation_pressure(celsius + 0.1) - saturation_pressure(celsius - 0.1)) / 0.2
    lacks = saturated * (1 - np.minimum(array(humidity), 100.0) / 100)
    drives = film / PSYCHROMETRIC * (lacks + slope * RADIANT * array(sun) / dry)
    return np.maximum(drives / (1 + film * slope / (PSYCHROMETRIC * dry)), 0.0)


def laid_out(air: Values, humidity: Values, wind: Values, sun: Values = 0.0) -> Array:
    """Water that a garment loses laid or hung out, where nothing falls on it [g/(h m²)].

    Args:
        air, humidity, wind, sun: as for evaporates.

    Source: evaporates, on FREE of both sides.
    """
    return 2 * FREE * evaporates(air, humidity, wind, sun) / EVAPORATION
