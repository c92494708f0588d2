"""Air by altitude: pressure, density, temperature, humidity and the boiling point of water."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from caldarium.core.physics.quantities import KELVIN, Array, Values, array, within

LAPSE_DEFAULT = 6.5
LAPSE_RANGE = (5.0, 9.8)
ALTITUDE_RANGE = (-500.0, 9000.0)
AIR_RANGE = (-80.0, 60.0)
"""Air in which vapour is computed [°C]: the coldest typed, with caution and height."""
_DRY_AIR_GAS_CONSTANT = 287.05287
_IAPWS_SATURATION = (-7.85951783, 1.84408259, -11.7866497, 22.6807411, -15.9618719, 1.80122502)
_IAPWS_POWERS = (1.0, 1.5, 3.0, 3.5, 4.0, 7.5)


def standard_pressure(altitude: Values) -> Array:
    """Pressure of the standard atmosphere.

    Args:
        altitude: height above sea level [m], -500 to 9,000.

    Returns:
        Pressure [kPa]; NaN outside that range.

    Source: ISO 2533:1975, troposphere.
    """
    metres = array(altitude)
    pressure = 101.325 * (1 - 0.0065 * metres / 288.15) ** 5.25588
    return within(pressure, (metres >= ALTITUDE_RANGE[0]) & (metres <= ALTITUDE_RANGE[1]))


def saturation_pressure(air: Values) -> Array:
    """Saturation vapour pressure over liquid water.

    Args:
        air: temperature [°C], within AIR_RANGE.

    Returns:
        Pressure [kPa]; NaN outside that range.

    Source: Alduchov & Eskridge (1996), J. Appl. Meteor. 35, 601-609 (Magnus form; fitted from
        -40 to 50 °C, about 1 % beyond to -60 °C; below there is too little vapour to matter).
    """
    celsius = array(air)
    pressure = _magnus(celsius)
    return within(pressure, (celsius >= AIR_RANGE[0]) & (celsius <= AIR_RANGE[1]))


def dew_point(vapour_pressure: Values) -> Array:
    """Dew point over liquid water.

    Args:
        vapour_pressure: partial pressure of water vapour [kPa], above 0.

    Returns:
        Temperature [°C]; NaN for no vapour at all.

    Source: Alduchov & Eskridge (1996), inverted.
    """
    pressure = array(vapour_pressure)
    known = pressure > 0
    logarithm = np.log(np.where(known, pressure, 1.0) / 0.61094)
    return within(243.04 * logarithm / (17.625 - logarithm), known)


def air_at_altitude(
    air: Values, from_altitude: Values, altitude: Values, lapse: Values = LAPSE_DEFAULT
) -> Array:
    """Free-air temperature carried from one height to another.

    Args:
        air: temperature at from_altitude [°C].
        from_altitude: height of the source [m].
        altitude: height wanted [m].
        lapse: fall of temperature with height [K/km], 5 to 9.8.

    Returns:
        Temperature [°C]; NaN for a lapse outside that range.

    Source: ISO 2533:1975 for 6.5 K/km; 9.8 is the dry adiabatic limit.
    """
    rate = array(lapse)
    carried = array(air) - rate * (array(altitude) - array(from_altitude)) / 1000
    return within(carried, (rate >= LAPSE_RANGE[0]) & (rate <= LAPSE_RANGE[1]))


def vapour_pressure_at_altitude(
    vapour_pressure: Values, from_altitude: Values, altitude: Values, air: Values
) -> Array:
    """Vapour pressure carried to another height at constant mixing ratio, capped at saturation.

    Args:
        vapour_pressure: at from_altitude [kPa].
        from_altitude: height of the source [m].
        altitude: height wanted [m].
        air: temperature at the height wanted [°C].

    Returns:
        Vapour pressure [kPa].

    Source: definition of the mixing ratio, WMO-No. 8 (2021), annex 4.B.
    """
    share = array(vapour_pressure) / standard_pressure(from_altitude)
    carried = share * standard_pressure(altitude)
    return np.minimum(carried, saturation_pressure(air))


def air_density(air: Values, pressure: Values, vapour_pressure: Values = 0.0) -> Array:
    """Density of moist air.

    Args:
        air: temperature [°C].
        pressure: total pressure [kPa].
        vapour_pressure: partial pressure of water vapour [kPa].

    Returns:
        Density [kg/m³].

    Source: ideal gas law with the gas constant of ISO 2533:1975; 0.378 from the ratio of molar
        masses, WMO-No. 8.
    """
    dry_equivalent = array(pressure) - 0.378 * array(vapour_pressure)
    return 1000 * dry_equivalent / (_DRY_AIR_GAS_CONSTANT * (array(air) + KELVIN))


def boiling_point(pressure: Values) -> Array:
    """Temperature at which water boils.

    Args:
        pressure: 1 to 110 kPa.

    Returns:
        Temperature [°C]; NaN outside that range.

    Source: IAPWS SR1-86 saturation pressure of water (coefficients from memory, checked against
        the steam point in the tests), inverted by Newton steps in 1/T.
    """
    kilopascal = array(pressure)
    known = (kilopascal >= 1) & (kilopascal <= 110)
    target = np.log(np.where(known, kilopascal, 101.325))
    kelvin = np.full_like(target, 373.15)
    step = 0.01
    for _ in range(12):
        slope = (_log_saturation(kelvin + step) - _log_saturation(kelvin)) / step
        kelvin = kelvin - (_log_saturation(kelvin) - target) / slope
    return within(kelvin - KELVIN, known)


def _log_saturation(kelvin: Array) -> Array:
    tau = 1 - kelvin / 647.096
    series = sum(
        coefficient * tau**power
        for coefficient, power in zip(_IAPWS_SATURATION, _IAPWS_POWERS, strict=True)
    )
    return np.log(22064.0) + 647.096 / kelvin * series


@dataclass(frozen=True)
class AirState:
    """Air at one height: temperatures [°C], humidity [%], pressures [kPa], density [kg/m³]."""

    air: Array
    humidity: Array
    dew_point: Array
    pressure: Array
    density: Array

    @property
    def boiling_point(self) -> Array:
        """Temperature at which water boils there [°C]. Source: IAPWS SR1-86."""
        return boiling_point(self.pressure)


def carry_air(
    air: Values,
    humidity: Values,
    from_altitude: Values,
    altitude: Values,
    lapse: Values = LAPSE_DEFAULT,
) -> AirState:
    """Everything known of the air at another height.

    Args:
        air: temperature at from_altitude [°C].
        humidity: relative humidity there [%].
        from_altitude: height of the source [m].
        altitude: height wanted [m].
        lapse: fall of temperature with height [K/km].

    Returns:
        The air at the height wanted; humidity stops at 100 % (cloud).

    Source: ISO 2533:1975 and the functions of this module.
    """
    there = air_at_altitude(air, from_altitude, altitude, lapse)
    vapour = vapour_pressure_at_altitude(
        array(humidity) / 100 * saturation_pressure(air), from_altitude, altitude, there
    )
    pressure = standard_pressure(altitude)
    return AirState(
        air=there,
        humidity=np.minimum(100 * vapour / saturation_pressure(there), 100.0),
        dew_point=dew_point(vapour),
        pressure=pressure,
        density=air_density(there, pressure, vapour),
    )


PSYCHROMETER = 0.000662
"""Psychrometer coefficient of a ventilated wet bulb [1/K]. Source: WMO-No. 8 (2021), 4.A."""
SNOW_BELOW, RAIN_ABOVE = 0.5, 1.5
"""Wet bulb below which it snows and above which it rains, sleet between [°C]: judgement, near the
one degree at which rain and snow are equally likely over land (Sims & Liu 2015, from memory)."""


def wet_bulb(air: Values, humidity: Values, pressure: Values) -> Array:
    """Wet-bulb temperature of ventilated air.

    Args:
        air: temperature [°C], within AIR_RANGE.
        humidity: over liquid water [%], 0 to 100.
        pressure: [kPa].

    Returns:
        Temperature [°C]; NaN outside those ranges.

    Source: psychrometric equation, WMO-No. 8 (2021), annex 4.B, solved by Newton steps.
    """
    celsius, damp = array(air), array(humidity)
    known = (celsius >= AIR_RANGE[0]) & (celsius <= AIR_RANGE[1]) & (damp >= 0) & (damp <= 100)
    start = np.where(known, celsius, 10.0)
    share = np.where(known, damp, 50.0) / 100
    vapour = share * _magnus(start)
    coefficient = PSYCHROMETER * array(pressure)
    bulb = start - (1 - share) * 5.0
    for _ in range(6):
        saturated = _magnus(bulb)
        slope = saturated * 17.625 * 243.04 / (bulb + 243.04) ** 2
        bulb = bulb - (saturated - coefficient * (start - bulb) - vapour) / (slope + coefficient)
    return within(bulb, known)


def _magnus(celsius: Array) -> Array:
    return 0.61094 * np.exp(17.625 * celsius / (celsius + 243.04))


def precipitation_kind(bulb: Values) -> NDArray[np.str_]:
    """What falls at a wet-bulb temperature [°C]: snow, sleet or rain.

    Source: judgement, see SNOW_BELOW.
    """
    celsius = array(bulb)
    return np.select([celsius < SNOW_BELOW, celsius <= RAIN_ABOVE], ["snow", "sleet"], "rain")
