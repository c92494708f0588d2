"""Sunshine on a person: where the sun stands, what a clear sky brings, how warm that feels."""

import numpy as np

from caldarium.core.physics.quantities import Array, Values, array

SOLAR_CONSTANT = 1353.0
"""Of the air-mass formula below [W/m²]."""
HIGHEST = 4.0
"""Height to which the altitude term of that formula is used [km]: judgement."""
DIFFUSE = 0.1
"""Diffuse over direct radiation on a clear day: judgement, order of Meinel & Meinel (1976)."""
SHORT_WAVE, LONG_WAVE = 0.7, 0.95
"""Absorptance of clothed people for sunshine and for long-wave radiation. Source: ASHRAE 55."""
RADIANT_TRANSFER = 6.012
"""Of the same method [W/(m² K)]. Source: ASHRAE 55-2020, appendix C."""
ALBEDO = {"snow": 0.7}
OTHER_ALBEDO = 0.2
"""Share of sunshine that snow, and other ground, throws back: ordinary values."""
SHADE = {"forest": 0.25}
"""Share of the sunshine that reaches people under trees: judgement."""


def solar_elevation(
    latitude: Values, longitude: Values, utc_offset: Values, day_of_year: Values, clock: Values
) -> Array:
    """Height of the sun.

    Args:
        latitude, longitude: degrees north and east.
        utc_offset: hours ahead of UTC.
        day_of_year: 1 to 366.
        clock: time of the place [h].

    Returns:
        Elevation of its centre [degrees], negative below the horizon; without refraction.

    Source: Spencer (1971), Search 2, declination and equation of time.
    """
    turn = 2 * np.pi * (array(day_of_year) - 1) / 365
    declination = (
        0.006918
        - 0.399912 * np.cos(turn)
        + 0.070257 * np.sin(turn)
        - 0.006758 * np.cos(2 * turn)
        + 0.000907 * np.sin(2 * turn)
        - 0.002697 * np.cos(3 * turn)
        + 0.00148 * np.sin(3 * turn)
    )
    minutes = 229.18 * (
        0.000075
        + 0.001868 * np.cos(turn)
        - 0.032077 * np.sin(turn)
        - 0.014615 * np.cos(2 * turn)
        - 0.04089 * np.sin(2 * turn)
    )
    solar = array(clock) + minutes / 60 + array(longitude) / 15 - array(utc_offset)
    angle, north = np.radians(15 * (solar - 12)), np.radians(array(latitude))
    height = np.sin(north) * np.sin(declination)
    height = height + np.cos(north) * np.cos(declination) * np.cos(angle)
    return np.degrees(np.arcsin(np.clip(height, -1.0, 1.0)))


def clear_beam(elevation: Values, altitude: Values) -> Array:
    """Direct radiation of a clear sky on a surface that faces the sun.

    Args:
        elevation: of the sun [degrees].
        altitude: [m].

    Returns:
        Radiation [W/m²]; 0 with the sun down.

    Source: Laue (1970), Solar Energy 13, in Meinel & Meinel (1976); air mass by Kasten & Young
        (1989), Appl. Opt. 28.
    """
    high = np.maximum(array(elevation), 0.0)
    kilometres = np.clip(array(altitude) / 1000, 0.0, HIGHEST)
    mass = 1 / (np.sin(np.radians(high)) + 0.50572 * (high + 6.07995) ** -1.6364)
    thin = 0.14 * kilometres
    beam = SOLAR_CONSTANT * ((1 - thin) * 0.7 ** (mass**0.678) + thin)
    return np.where(high > 0, beam, 0.0)


def cloud_share(cloud: Values) -> Array:
    """Share of a clear day's sunshine that comes through cloud cover [%].

    Source: Kasten & Czeplak (1980), Solar Energy 24.
    """
    return 1 - 0.75 * (np.clip(array(cloud), 0, 100) / 100) ** 3.4


def sun_on_body(elevation: Values, altitude: Values, albedo: Values) -> Array:
    """How much warmer a clear sun makes the surroundings of somebody who stands in it.

    Args:
        elevation: of the sun [degrees].
        altitude: [m].
        albedo: share that the ground throws back.

    Returns:
        Rise of the mean radiant temperature [K]; 0 with the sun down.

    Source: the method of ASHRAE 55-2020, appendix C, outdoors; projected area of somebody who
        stands after Jendritzky et al. (1990), any side to the sun.
    """
    high = np.maximum(array(elevation), 0.0)
    beam = clear_beam(elevation, altitude)
    scattered = DIFFUSE * beam
    level = beam * np.sin(np.radians(high)) + scattered
    area = 0.308 * np.cos(np.radians(high * (0.998 - high**2 / 50_000)))
    taken = area * beam + 0.5 * scattered + 0.5 * array(albedo) * level
    return taken * SHORT_WAVE / LONG_WAVE / RADIANT_TRANSFER
