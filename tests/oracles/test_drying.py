"""Drying of cloth that lies or hangs out, against the balance solved without its straight line, the
wet bulb, and a weather service's own formula of open water."""

import numpy as np
import psychrolib
import pytest

from caldarium.core.day.wetness import DRYING, DRYING_ASIDE
from caldarium.core.physics.drying import EVAPORATION, FREE, PSYCHROMETRIC, evaporates, laid_out
from caldarium.core.physics.extremities import RADIANT

psychrolib.SetUnitSystem(psychrolib.SI)
WEATHER = [
    (air, humidity, wind, sun)
    for air in (-5.0, 2.0, 10.0, 20.0, 34.0)
    for humidity in (20.0, 60.0, 90.0)
    for wind in (0.1, 1.0, 5.0)
    for sun in (0.0, 12.0)
]


def saturated(celsius: float) -> float:
    """Saturation over water [kPa]: Magnus (WMO-No. 8), an independent formula."""
    return 0.6112 * np.exp(17.62 * celsius / (243.12 + celsius))


def solved(air: float, humidity: float, wind: float, sun: float) -> float:
    """Heat spent on drying by a surface at the temperature at which its balance closes [W/m²]."""
    film = max(8.3 * wind**0.6, 3.1)
    vapour = saturated(air) * humidity / 100
    low, high = air - 40.0, air + 60.0
    for _ in range(80):
        middle = (low + high) / 2
        dries = film / PSYCHROMETRIC * (saturated(middle) - vapour)
        gains = (film + RADIANT) * (air - middle) + RADIANT * sun
        low, high = (middle, high) if gains > dries else (low, middle)
    return film / PSYCHROMETRIC * (saturated(low) - vapour)


@pytest.mark.parametrize(("air", "humidity", "wind", "sun"), WEATHER)
def test_the_straight_line_is_near_the_balance(air, humidity, wind, sun) -> None:
    """Within a quarter, and 12 W/m²: the line is taken at the air, far from a very dry surface."""
    theirs = max(solved(air, humidity, wind, sun), 0.0)
    assert float(evaporates(air, humidity, wind, sun)) == pytest.approx(theirs, rel=0.25, abs=12)


@pytest.mark.parametrize("humidity", [40, 70])
def test_in_a_strong_wind_cloth_is_at_the_wet_bulb(humidity) -> None:
    """What drives it is then what a psychrometer shows, by psychrolib."""
    bulb = psychrolib.GetTWetBulbFromRelHum(15.0, humidity / 100, 101325)
    film = 8.3 * 18**0.6
    lost = film * (15.0 - bulb)
    assert float(evaporates(15.0, humidity, 18.0)) == pytest.approx(lost, rel=0.12)


def test_open_water_evaporates_as_published() -> None:
    """FAO Irrigation and Drainage Paper 56, example 17: April in Bangkok, 30.2 °C,
    2.85 kPa of vapour, 2 m/s, and the sun's 14.33 MJ/(m² day) net: open water by Penman 1963 as in
    Shuttleworth 1993 loses some 6 to 8 mm a day. From memory, so within a third."""
    net = 14.33e6 / 86400
    humidity = 100 * 2.85 / saturated(30.2)
    daily = float(evaporates(30.2, humidity, 2.0, net / RADIANT)) * 24 / EVAPORATION / 1000
    assert 5.0 < daily < 9.5


def test_order_of_what_dries_faster() -> None:
    """Common practice, no published source: on a dry breezy stop things dry faster than on the
    body, on a damp still evening hardly at all, in a tent slowly; sun, wind and dry air all help,
    and what is said of cloth is for FREE of its two sides."""
    fine, dull = float(laid_out(12, 45, 4, 8)), float(laid_out(4, 97, 0.3))
    assert fine > DRYING > DRYING_ASIDE > dull
    assert float(laid_out(12, 45, 4, 8)) == pytest.approx(
        2 * FREE * float(evaporates(12, 45, 4, 8)) / EVAPORATION
    )
    base = (8.0, 70.0, 2.0, 4.0)
    for other in ((14.0, 70.0, 2.0, 4.0), (8.0, 50.0, 2.0, 4.0), (8.0, 70.0, 4.0, 4.0)):
        assert laid_out(*other) > laid_out(*base)
    assert laid_out(8.0, 70.0, 2.0, 10.0) > laid_out(*base)
    assert float(laid_out(5, 100, 3)) == 0.0
