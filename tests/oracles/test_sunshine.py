"""Sun and heat against general-purpose libraries: pvlib, pythermalcomfort."""

from datetime import datetime, timedelta

import numpy as np
import pandas as pd
import pvlib
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pythermalcomfort.models import phs, solar_gain

from caldarium.core.physics import cold, heat, sunshine
from caldarium.core.physics.quantities import CLO

PLACES = [(62.0, 9.0, 1.0), (46.5, 8.0, 2.0), (-43.5, 170.0, 12.0), (0.0, -78.0, -5.0)]


@pytest.mark.parametrize(("latitude", "longitude", "offset"), PLACES)
@pytest.mark.parametrize("day", [21, 80, 172, 265])
def test_height_of_the_sun_by_pvlib(latitude, longitude, offset, day) -> None:
    clock = np.arange(0, 24, 0.5)
    midnight = datetime(2031, 1, 1) + timedelta(days=day - 1)
    times = pd.DatetimeIndex([midnight + timedelta(hours=h - offset) for h in clock], tz="UTC")
    theirs = pvlib.solarposition.get_solarposition(times, latitude, longitude)["elevation"]
    ours = sunshine.solar_elevation(latitude, longitude, offset, day, clock)
    assert np.abs(ours - theirs.to_numpy()).max() < 0.6


@pytest.mark.parametrize("altitude", [0, 1500, 3000])
@pytest.mark.parametrize("elevation", [15, 30, 60])
def test_clear_sky_by_pvlib(altitude: float, elevation: float) -> None:
    # Ineichen & Perez with a linke turbidity of 3, ordinary clear mountain air.
    mass = pvlib.atmosphere.get_relative_airmass(90 - elevation)
    pressure = pvlib.atmosphere.alt2pres(altitude)
    absolute = pvlib.atmosphere.get_absolute_airmass(mass, pressure)
    theirs = pvlib.clearsky.ineichen(90 - elevation, absolute, 3.0, altitude=altitude)
    assert sunshine.clear_beam(elevation, altitude) == pytest.approx(float(theirs["dni"]), rel=0.2)


@pytest.mark.parametrize("elevation", [10, 30, 50, 70])
@pytest.mark.parametrize("albedo", [0.2, 0.7])
def test_sun_on_a_standing_body_by_the_comfort_standard(elevation: float, albedo: float) -> None:
    beam = float(sunshine.clear_beam(elevation, 1000))
    theirs = solar_gain(
        sol_altitude=elevation,
        sharp=45,
        sol_radiation_dir=min(beam, 1000),
        sol_transmittance=1,
        f_svv=1,
        f_bes=1,
        asw=0.7,
        posture="standing",
        floor_reflectance=albedo,
    ).delta_mrt
    ours = float(sunshine.sun_on_body(elevation, 1000, albedo))
    assert ours == pytest.approx(float(theirs), rel=0.3)


def test_clouds_take_three_quarters_at_most_and_night_has_no_sun() -> None:
    assert sunshine.cloud_share(np.array([0, 100])) == pytest.approx([1.0, 0.25])
    assert sunshine.sun_on_body(-3, 1000, 0.7) == 0


HOT = [
    # air, humidity, wind, rate [W/m²], clo
    (32, 40, 0.6, 165, 0.5),
    (35, 30, 0.6, 165, 0.5),
    (38, 30, 1.0, 145, 0.5),
    (30, 60, 0.6, 200, 0.6),
]


@pytest.mark.parametrize(("air", "humidity", "wind", "rate", "clo"), HOT)
def test_sweat_is_of_the_order_of_heat_strain(air, humidity, wind, rate, clo) -> None:
    theirs = phs(
        tdb=air,
        tr=air,
        v=wind,
        rh=humidity,
        met=rate / 58.15,
        clo=clo,
        posture="standing",
        duration=120,
        acclimatized=0,
        round_output=False,
        limit_inputs=False,
    )
    grams = float(theirs.sweat_loss_g) / 2  # an hour of two
    where = cold.exposure(air, wind, humidity, rate, 0.0)
    worn = cold.resultant_insulation(clo * CLO, where, 300)
    wet, watts = heat.strain(worn, where)
    litres = float(watts) * heat.LATENT**-1 * 1.8
    assert litres * 1000 == pytest.approx(grams, rel=0.45)
    assert 0 < float(wet) <= heat.MOST_ASKED


def test_a_noon_walk_at_34_degrees_with_a_load_is_beyond_what_people_can_sweat() -> None:
    # A canyon at 34 °C in the sun is a water and shade problem; common practice, no published
    # source. Before dawn at 24 °C the same walk is not.
    worn = 0.4 * CLO
    noon = cold.exposure(34, 1.2, 35, 210, 1.0, radiant=34 + 35)
    dawn = cold.exposure(24, 1.2, 50, 210, 1.0)
    assert float(heat.strain(worn, noon)[0]) > heat.MOST_WET
    assert float(heat.strain(worn, dawn)[0]) < heat.MOST_WET


@given(st.floats(20, 45), st.floats(0, 40), st.floats(60, 300), st.floats(0.05, 0.3))
def test_sun_never_cools(air, sun, rate, worn) -> None:
    plain, sunny = (
        cold.exposure(air, 1.0, 40, rate, 0.5, radiant=air + each) for each in (0.0, sun)
    )
    assert heat.strain(worn, sunny)[0] >= heat.strain(worn, plain)[0] - 1e-9
    for criterion in (cold.MINIMAL, cold.NEUTRAL):
        needs = [
            cold.required_insulation(criterion, each, enforce_range=False)
            for each in (plain, sunny)
        ]
        assert needs[1] <= needs[0] + 1e-6
