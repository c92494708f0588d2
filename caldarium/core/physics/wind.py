"""Wind: from the mast to the body, what it does to bare skin, and what it presses on."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.quantities import Array, Values, array, within

FORECAST_HEIGHT = 10.0
BODY_HEIGHT = 1.5
GUST_FACTOR = 1.6
"""Ratio of planning gust to mean wind over open ground: judgement, within the usual 1.4 to 1.8."""


@dataclass(frozen=True)
class Exposure:
    """How the ground bends the forecast wind: roughness length [m] and a site factor."""

    name: str
    roughness: float
    factor: float
    source: str


_ROUGHNESS = "WMO-No. 8 (2021), roughness classes after Davenport"
EXPOSURES = {
    exposure.name: exposure
    for exposure in (
        Exposure("forest", 0.25, 0.35, "judgement: canopy lets about a third of the wind in"),
        Exposure("valley", 0.25, 1.0, _ROUGHNESS + ": scrub"),
        Exposure("heath", 0.1, 1.0, _ROUGHNESS + ": low heath"),
        Exposure("open", 0.03, 1.0, _ROUGHNESS + ": open stone or grass"),
        Exposure("snow", 0.005, 1.0, _ROUGHNESS + ": open snow"),
        Exposure("ridge", 0.03, 1.4, "judgement: speed-up over a crest"),
    )
}


MAST = 10.0
"""Height that forecasts of wind are for [m]."""
REFERENCE_ROUGHNESS = 0.05
"""Roughness length of the ground that forecast winds are for [m]. Source: EN 1991-1-4:2005,
terrain category II."""


def wind_at_height(wind: Values, roughness: Values, height: Values = BODY_HEIGHT) -> Array:
    """Wind nearer the ground of a place than the mast, which stands in open country.

    Args:
        wind: speed at 10 m over open country [m/s].
        roughness: roughness length of the place [m], above 0 and below height.
        height: height wanted [m].

    Returns:
        Speed [m/s], smaller over rougher ground and never more than at the mast; NaN where the
        height is not above the roughness length.

    Source: EN 1991-1-4:2005, 4.3.2, change of roughness: 0.19 (z0/0.05)^0.07 ln(z/z0).
    """
    length, metres = array(roughness), array(height)
    known = (length > 0) & (metres > length)
    safe = np.where(known, length, 0.03)
    factor = 0.19 * (safe / REFERENCE_ROUGHNESS) ** 0.07
    share = factor * np.log(np.where(known, metres, 1.5) / safe)
    return within(array(wind) * np.minimum(share, 1.0), known)


def gust_at_mast(gust: Values, height: Values) -> Array:
    """Gust at 10 m over open country that has a gust of so much at another height.

    Args:
        gust: measured at that height [m/s].
        height: of the measurement [m], 1 to 20.

    Returns:
        Gust [m/s], as forecasts mean it.

    Source: EN 1991-1-4:2005, 4.3.2, the logarithm of the height; that a gust follows the mean's
        profile is judgement, on the safe side.
    """
    share = np.log(array(height) / REFERENCE_ROUGHNESS) / np.log(MAST / REFERENCE_ROUGHNESS)
    return array(gust) / share


def relative_air_speed(wind: Values, walking_speed: Values) -> Array:
    """Air speed felt by a walker who meets the wind from every side in turn.

    Args:
        wind: at body height [m/s].
        walking_speed: [m/s].

    Returns:
        Root of the sum of squares [m/s].

    Source: mean square over all wind directions; judgement that no direction is preferred.
    """
    return np.hypot(array(wind), array(walking_speed))


def wind_chill(air: Values, wind_kmh: Values) -> Array:
    """Wind chill equivalent temperature of exposed skin.

    Args:
        air: air temperature [°C], at most 10.
        wind_kmh: wind at 10 m above ground [km/h], at least 4.8.

    Returns:
        Equivalent temperature [°C]; NaN outside that range.

    Source: Osczevski & Bluestein (2005), Bull. Amer. Meteor. Soc. 86(10).
    """
    celsius, speed = array(air), array(wind_kmh)
    known = (celsius <= 10) & (speed >= 4.8)
    power = np.where(known, speed, 4.8) ** 0.16
    chill = 13.12 + 0.6215 * celsius - 11.37 * power + 0.3965 * celsius * power
    return within(chill, known)


WARMEST, LEAST_WIND = -15.0, 20.0
"""Ends of the frostbite fit: air [°C] and wind [km/h]."""
MOST_EXTREME, CHART_ENDS = 2.0, 30.0
"""Times between which the fit holds [min]."""


def frostbite_time(air: Values, wind_kmh: Values) -> Array:
    """Minutes to frostbite of exposed skin in the most susceptible twentieth of people.

    Args:
        air: air temperature [°C], below -15.
        wind_kmh: wind at 10 m above ground [km/h], above 20.

    Returns:
        Time [min], 2 to 30; NaN outside those ranges.

    Source: Tikuisis & Osczevski fit, Environment Canada wind chill programme (2001).
    """
    celsius, speed = array(air), array(wind_kmh)
    known = (celsius < WARMEST) & (speed > LEAST_WIND)
    minutes = _frostbite_fit(celsius, speed)
    return within(minutes, known & (minutes >= MOST_EXTREME) & (minutes <= CHART_ENDS))


def frostbite_minutes(air: Values, wind_kmh: Values) -> Array:
    """Minutes until bare skin may freeze, for any weather.

    Args:
        air: temperature [°C].
        wind_kmh: at 10 m [km/h].

    Returns:
        Time [min]: infinite where the chart shows no danger within CHART_ENDS, MOST_EXTREME where
        it ends below that.

    Source: frostbite_time; winds below its range count as its lowest, on the safe side.
    """
    celsius = array(air)
    minutes = _frostbite_fit(celsius, np.maximum(array(wind_kmh), LEAST_WIND))
    danger = (celsius < WARMEST) & (minutes <= CHART_ENDS)
    return np.where(danger, np.maximum(minutes, MOST_EXTREME), np.inf)


def _frostbite_fit(celsius: Array, speed: Array) -> Array:
    below = np.maximum(-4.8 - celsius, 1e-6)
    return (-24.5 * (0.667 * speed + 4.8) + 2111) * below**-1.668


def wind_pressure(density: Values, wind: Values) -> Array:
    """Stagnation pressure of the wind.

    Args:
        density: of the air [kg/m³].
        wind: speed [m/s].

    Returns:
        Pressure [Pa].

    Source: Bernoulli; EN 1991-1-4, 4.5.
    """
    return 0.5 * array(density) * array(wind) ** 2
