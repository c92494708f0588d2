"""What the sky adds: sun and UV by height, a clear night's chill, dew, and where cloud begins."""

import numpy as np

from caldarium.core.physics.quantities import KELVIN, Array, Values, array, within

UV_RISE = 0.11
"""Rise of UV with height, share a km. Source: WHO, Global Solar UV Index (2002), 10 to 12 %."""
CLOUD_BASE = 125.0
"""Height of cloud for each kelvin of dew-point spread [m]. Source: Espy's rule."""
DEW_SPREAD = 2.0
"""Dew-point spread under which a clear, calm night wets or frosts everything [K]: judgement."""
IN_CLOUD, HALF_CLEAR = 98.0, 50.0
"""Humidity from which a place is in cloud [%], and cover taken where nothing is known [%]."""
CALM = 3.0
"""Wind under which clear nights chill surfaces [m/s]: judgement."""


def sky_temperature(air: Values, dew_point: Values, cloud: Values = 0.0) -> Array:
    """Temperature that the night sky radiates like.

    Args:
        air: temperature [°C].
        dew_point: [°C], -20 to 30.
        cloud: cover [%]; 0 is the worst case.

    Returns:
        Temperature [°C]; NaN outside that range.

    Source: Berdahl & Martin (1984), Solar Energy 32 (night emissivity); cloud closes the gap to
        black linearly, after Kasten & Czeplak (1980) in form: judgement.
    """
    dew = array(dew_point)
    clear = 0.741 + 0.0062 * dew
    emissivity = clear + (1 - clear) * array(cloud) / 100 * 0.84
    kelvin = (array(air) + KELVIN) * np.minimum(emissivity, 1.0) ** 0.25
    return within(kelvin - KELVIN, (dew >= -20) & (dew <= 30))


def cloud_guessed(cover: Values, humidity: Values, falling: Values) -> Array:
    """Cloud cover, where it is not known by what falls and how damp it is.

    Args:
        cover: [%], NaN where it is not known.
        humidity: [%].
        falling: rain or snow [mm/h].

    Returns:
        Cover [%]: whole where it rains or the air is saturated, half elsewhere.

    Source: judgement.
    """
    hidden = (array(humidity) >= IN_CLOUD) | (array(falling) > 0)
    known = np.isfinite(array(cover))
    return np.where(known, cover, np.where(hidden, 100.0, HALF_CLEAR))


def cold_pool(hollow: Values, cloud: Values, wind: Values) -> Array:
    """How much colder a hollow is than the air about it on a night.

    Args:
        hollow: what it is colder by on a clear and calm night [K].
        cloud: cover [%], NaN where it is not known, which counts as clear.
        wind: over the hollow [m/s].

    Returns:
        Kelvin; none under whole cloud or in wind of CALM and more.

    Source: that still clear nights pool cold air is textbook meteorology; its fading with cloud and
        wind is judgement.
    """
    clear = 1 - np.nan_to_num(array(cloud), nan=0.0) / 100
    return array(hollow) * clear * np.clip(1 - array(wind) / CALM, 0.0, 1.0)


def uv_factor(altitude: Values, snow: Values = 0.0) -> Array:
    """Ultraviolet over that at sea level, clear sky.

    Args:
        altitude: [m].
        snow: 1 on snow, which returns up to four fifths of it; 0 elsewhere.

    Returns:
        Factor, 1 at sea level.

    Source: WHO, Global Solar UV Index (2002): 10 to 12 % a km; fresh snow reflects up to 80 %.
    """
    return (1 + UV_RISE * array(altitude) / 1000) * (1 + 0.8 * array(snow))


def cloud_base(altitude: Values, air: Values, dew_point: Values) -> Array:
    """Height above which air lifted from here is cloud [m above sea level].

    Source: Espy's rule, 125 m for each kelvin between air and dew point.
    """
    return array(altitude) + CLOUD_BASE * np.maximum(array(air) - array(dew_point), 0.0)
