"""Sun, wet bulb, heat and the night sky against libraries, published tables and worked figures."""

from datetime import date

import numpy as np
import pandas as pd
import psychrolib
import pvlib
import pytest
from pythermalcomfort.models import heat_index_rothfusz

from caldarium.core.physics.air import precipitation_kind, standard_pressure, wet_bulb
from caldarium.core.physics.heat import heat_index, wet_bulb_globe
from caldarium.core.physics.sky import cloud_base, sky_temperature, uv_factor
from caldarium.core.physics.sun import sun_times
from caldarium.core.plan.legs import naismith_hours

psychrolib.SetUnitSystem(psychrolib.SI)
PLACES = [(67.9, 20.5, 2), (46.5, 8.0, 2), (-16.5, -68.1, -4), (-43.6, 170.1, 12), (0.0, 37.3, 3)]


@pytest.mark.parametrize("place", PLACES)
@pytest.mark.parametrize("day", [date(2026, 3, 21), date(2026, 9, 21), date(2026, 11, 2)])
def test_sun_times_against_the_solar_position_algorithm(place, day) -> None:
    # pvlib's SPA (Reda & Andreas 2004, NREL/TP-560-34302), another algorithm than astral's.
    latitude, longitude, offset = place
    times = pd.DatetimeIndex([pd.Timestamp(day, tz="UTC")])
    spa = pvlib.solarposition.sun_rise_set_transit_spa(
        times + pd.Timedelta(hours=12 - offset), latitude, longitude
    )
    sun = sun_times(latitude, longitude, offset, day)
    for name, ours in (("sunrise", sun.rise), ("sunset", sun.set), ("transit", sun.noon)):
        moment = spa[name].iloc[0] + pd.Timedelta(hours=offset)
        theirs = moment.hour + moment.minute / 60 + moment.second / 3600
        assert (ours - theirs + 12) % 24 - 12 == pytest.approx(0, abs=2.5 / 60)
    assert sun.dawn < sun.rise < sun.noon < sun.set < sun.dusk


def test_wet_bulb_against_the_psychrometric_library() -> None:
    # PsychroLib (ASHRAE Fundamentals ch. 1); ice below freezing there: checked above it.
    for air, damp, altitude in [
        (5, 90, 0),
        (10, 40, 1120),
        (20, 60, 310),
        (30, 25, 2000),
        (8, 70, 4000),
    ]:
        pressure = float(standard_pressure(altitude))
        theirs = psychrolib.GetTWetBulbFromRelHum(air, damp / 100, pressure * 1000)
        assert theirs > 0
        assert float(wet_bulb(air, damp, pressure)) == pytest.approx(theirs, abs=0.25)


def test_wet_bulb_lies_between_dew_point_and_air() -> None:
    air, damp = np.meshgrid(np.linspace(-30, 40, 20), np.linspace(1, 100, 20))
    bulb = wet_bulb(air, damp, 85.0)
    assert (bulb <= air + 1e-6).all()
    assert np.allclose(bulb[-1], air[-1], atol=1e-3)
    assert (np.diff(bulb, axis=0) > 0).all()


def test_what_falls_by_wet_bulb() -> None:
    assert precipitation_kind(np.array([-3.0, 1.0, 3.0])).tolist() == ["snow", "sleet", "rain"]


@pytest.mark.parametrize(
    ("air_f", "damp", "felt_f"),
    # US National Weather Service heat index chart; read from memory of the published chart.
    [(80, 40, 80), (90, 70, 105), (96, 50, 108), (100, 40, 109), (104, 55, 137), (86, 90, 105)],
)
def test_heat_index_against_the_published_chart(air_f, damp, felt_f) -> None:
    felt = float(heat_index((air_f - 32) * 5 / 9, damp))
    assert felt * 9 / 5 + 32 == pytest.approx(felt_f, abs=1.3)


def test_heat_index_against_the_library_where_no_adjustment_applies() -> None:
    for air, damp in [(30, 50), (33, 60), (38, 40), (41, 30)]:
        theirs = heat_index_rothfusz(tdb=air, rh=damp, round_output=False).hi
        assert float(heat_index(air, damp)) == pytest.approx(float(theirs), abs=0.15)


def test_heat_index_does_not_exist_in_the_cool() -> None:
    assert np.isnan(heat_index(np.array([5.0, 20.0, 26.0]), 60.0)).all()


def test_wbgt_worked_by_hand() -> None:
    # 30 °C and 50 %: e = 21.2 hPa, 0.567 * 30 + 0.393 * 21.2 + 3.94 = 29.3.
    assert float(wet_bulb_globe(30.0, 50.0)) == pytest.approx(29.3, abs=0.1)
    assert np.isnan(float(wet_bulb_globe(5.0, 50.0)))


def test_clear_sky_is_far_below_the_air_and_cloud_closes_it() -> None:
    # Berdahl & Martin: emissivity near 0.74 at a dew point of 0 °C; worked by hand for 10 °C:
    # 283.15 * 0.741**0.25 - 273.15 = -10.5.
    assert float(sky_temperature(10.0, 0.0)) == pytest.approx(-10.5, abs=0.2)
    cloudy = sky_temperature(10.0, 0.0, np.array([0.0, 50.0, 100.0]))
    assert (np.diff(cloudy) > 0).all()
    assert cloudy[-1] > 5


def test_uv_and_cloud_base() -> None:
    # WHO (2002): 10 to 12 % a km. Espy: a spread of 8 K lifts cloud to about 1,000 m.
    assert 1.3 < float(uv_factor(3000.0)) < 1.36
    assert float(cloud_base(300.0, 18.0, 10.0)) == pytest.approx(1300)


@pytest.mark.parametrize(
    ("kilometres", "climb", "fall", "hours"),
    [
        (10, 0, 0, 2.0),  # Naismith: 5 km an hour
        (10, 600, 0, 3.0),  # and an hour for 600 m (2,000 ft)
        (5, 0, 600, 1 - 2 / 6),  # Langmuir: 600 m down 6.8 degrees, ten minutes less for each 300 m
        (2, 0, 600, 0.4 + 2 / 6),  # 16.7 degrees: ten minutes more for each 300 m
        (20, 0, 300, 4.0),  # under 5 degrees: no correction
    ],
)
def test_naismith_and_langmuir_worked_by_hand(kilometres, climb, fall, hours) -> None:
    assert float(naismith_hours(kilometres, climb, fall)) == pytest.approx(hours, abs=1e-6)
