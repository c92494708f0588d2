"""Wind chill and frostbite against the published chart and a general-purpose library."""

import numpy as np
import pytest
from pythermalcomfort.models import wind_chill_temperature

from caldarium.core.physics import wind

# Environment Canada wind chill chart (2001), air °C, wind km/h, chill °C; values from memory.
CHART = [
    (5, 10, 3), (0, 30, -6), (-5, 20, -12), (-10, 40, -21), (-15, 30, -26), (-20, 50, -35),
    (-25, 30, -39), (-30, 60, -50), (-40, 30, -59), (-45, 80, -74),
]  # fmt: skip
# Chart's zones: minutes within which skin may freeze in the most susceptible; from memory.
FROSTBITE = [(-25, 30, 8, 12), (-35, 40, 2, 6), (-30, 50, 3, 6), (-20, 50, 9, 13)]


@pytest.mark.parametrize(("air", "speed", "chill"), CHART)
def test_chart(air: float, speed: float, chill: float) -> None:
    assert wind.wind_chill(air, speed) == pytest.approx(chill, abs=0.6)


@pytest.mark.parametrize(("air", "speed"), [(-5, 10), (-20, 35), (8, 60)])
def test_library(air: float, speed: float) -> None:
    theirs = wind_chill_temperature(tdb=air, v=speed, round_output=False).wct
    assert wind.wind_chill(air, speed) == pytest.approx(theirs, abs=0.01)


@pytest.mark.parametrize(("air", "speed", "least", "most"), FROSTBITE)
def test_frostbite_zone(air: float, speed: float, least: float, most: float) -> None:
    assert least <= wind.frostbite_time(air, speed) <= most


@pytest.mark.parametrize(("air", "speed"), [(11, 20), (-5, 4)])
def test_no_wind_chill_outside_its_range(air: float, speed: float) -> None:
    assert np.isnan(wind.wind_chill(air, speed))


@pytest.mark.parametrize(("air", "speed"), [(-15, 30), (-30, 20), (-15.5, 20.5)])
def test_no_frostbite_time_outside_its_range(air: float, speed: float) -> None:
    assert np.isnan(wind.frostbite_time(air, speed))


def test_wind_by_change_of_roughness() -> None:
    # EN 1991-1-4 4.3.2, terrain II (z0 0.05 m) has the mast's own wind: 0.19 ln 200 = 1.007.
    assert wind.wind_at_height(10, 0.05, 10.0) == pytest.approx(10.0, abs=0.1)
    # Terrain III (z0 0.3 m): k_r 0.215, so 0.215 ln(10/0.3) = 0.754 of it.
    assert wind.wind_at_height(10, 0.3, 10.0) == pytest.approx(7.54, abs=0.05)
    # Over open stone, 0.03 m, at 1.5 m: 0.19 (0.6)^0.07 ln 50 = 0.717.
    assert wind.wind_at_height(10, 0.03) == pytest.approx(7.17, abs=0.02)


def test_rougher_ground_never_lets_more_wind_through() -> None:
    lengths = np.array([0.005, 0.03, 0.1, 0.25])
    found = wind.wind_at_height(8.0, lengths)
    assert (np.diff(found) < 0).all()
    assert (found <= 8.0).all()


def test_wind_pressure_of_a_storm() -> None:
    # EN 1991-1-4: 0.613 v² at 1.225 kg/m³.
    assert wind.wind_pressure(1.225, 20) == pytest.approx(245, abs=1)
