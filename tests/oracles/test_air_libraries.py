"""Air against PsychroLib (ASHRAE formulas) and against tabulated values."""

import numpy as np
import psychrolib
import pytest

from caldarium.core.physics import air

psychrolib.SetUnitSystem(psychrolib.SI)

# ISO 2533:1975 table, geometric height nearly geopotential below 3 km; values from memory.
STANDARD = [(0, 101.325), (1000, 89.875), (2000, 79.495), (3000, 70.109), (5000, 54.020)]
# Steam-table boiling points of water, kPa and °C; values from memory.
BOILING = [(101.325, 99.974), (70.0, 89.93), (50.0, 81.32), (100.0, 99.61), (20.0, 60.06)]


@pytest.mark.parametrize(("altitude", "pressure"), STANDARD)
def test_standard_pressure_table(altitude: float, pressure: float) -> None:
    assert air.standard_pressure(altitude) == pytest.approx(pressure, rel=1e-3)


@pytest.mark.parametrize("altitude", [0, 750, 2500, 4900, 8000])
def test_standard_pressure_library(altitude: float) -> None:
    theirs = psychrolib.GetStandardAtmPressure(altitude) / 1000
    assert air.standard_pressure(altitude) == pytest.approx(theirs, rel=1e-4)


@pytest.mark.parametrize("celsius", [0.01, 5, 12, 20, 35])
def test_saturation_pressure_library(celsius: float) -> None:
    theirs = psychrolib.GetSatVapPres(celsius) / 1000
    assert air.saturation_pressure(celsius) == pytest.approx(theirs, rel=3e-3)


@pytest.mark.parametrize(("celsius", "humidity"), [(20, 50), (10, 80), (30, 30), (5, 95)])
def test_dew_point_library(celsius: float, humidity: float) -> None:
    ours = air.dew_point(air.saturation_pressure(celsius) * humidity / 100)
    theirs = psychrolib.GetTDewPointFromRelHum(celsius, humidity / 100)
    assert ours == pytest.approx(theirs, abs=0.1)


@pytest.mark.parametrize(("pressure", "celsius"), BOILING)
def test_boiling_point_table(pressure: float, celsius: float) -> None:
    assert air.boiling_point(pressure) == pytest.approx(celsius, abs=0.03)


def test_density_library() -> None:
    ratio = psychrolib.GetHumRatioFromRelHum(25, 0.6, 90000)
    theirs = psychrolib.GetMoistAirDensity(25, ratio, 90000)
    vapour = air.saturation_pressure(25) * 0.6
    assert air.air_density(25, 90.0, vapour) == pytest.approx(theirs, rel=1e-3)


def test_mixing_ratio_is_kept_below_cloud() -> None:
    low = air.carry_air(20, 40, 200, 1400)
    ratio = psychrolib.GetHumRatioFromRelHum(20, 0.4, float(air.standard_pressure(200)) * 1000)
    there = psychrolib.GetHumRatioFromRelHum(
        float(low.air), float(low.humidity) / 100, float(low.pressure) * 1000
    )
    assert there == pytest.approx(ratio, rel=5e-3)


def test_cloud_stops_at_saturation() -> None:
    there = air.carry_air(10, 90, 0, 2500)
    assert there.humidity == pytest.approx(100)
    assert there.dew_point == pytest.approx(float(there.air), abs=1e-6)


def test_outside_the_range_there_is_no_figure() -> None:
    assert np.isnan(air.standard_pressure(9500))
    assert np.isnan(air.air_at_altitude(10, 0, 1000, 12))
    assert np.isnan(air.boiling_point(0.5))
    assert np.isnan(air.dew_point(0))
