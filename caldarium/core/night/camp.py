"""Shelters through each night: wind, water in the air, rain and snow.

What a tent lets through, holds up and breathes is judgement, named here; the pressure of wind, the
weight of snow and the water that air can hold are physics with their sources.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from caldarium.core.night.shelter_faults import Fault, Note, faults_of, gust_at_walls, notes_on
from caldarium.core.physics.air import (
    air_density,
    dew_point,
    precipitation_kind,
    saturation_pressure,
    standard_pressure,
)
from caldarium.core.physics.quantities import KELVIN, Array, Values, array
from caldarium.core.physics.shelter import thermal_lift
from caldarium.core.physics.sky import sky_temperature
from caldarium.core.physics.wind import wind_pressure
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Shelter
from caldarium.core.plan.route import Camp
from caldarium.core.timeline.moments import Moment, Timeline, planning_gust

BREATH = 40.0
"""Vapour a sleeper gives off [g/h]: judgement; physiology books have 30 to 50."""
STEAM = 300.0
"""Vapour of an evening's cooking for a tent [g]: judgement, lids and burnt gas together."""
STEAM_INSIDE = {"outside": 0.0, "porch": 0.3, "inside": 1.0}
"""Share of that which comes in, by where the stove stands: judgement."""
VAPOUR_GAS_CONSTANT = 461.5
"""Of water vapour [J/(kg K)]."""
RADIATION, INSIDE_FILM, OUTSIDE_FILM, OUTSIDE_A_WIND = 4.6, 3.0, 4.0, 3.5
"""Heat transfer at a tent's skin [W/(m² K)]: long-wave near 0 °C, and films inside and outside in
calm air and for each m/s: judgement on ordinary film coefficients."""
DEPOSIT = INSIDE_FILM / (1.2 * 1005) * 3600
"""Speed at which vapour settles on a cold skin [m/h]. Source: Lewis relation on INSIDE_FILM."""
SNOW_BEARS = {
    "double skin": 12.0, "single skin": 8.0, "tarp": 5.0, "hammock tarp": 5.0, "bivouac bag": 20.0,
    "group shelter": 3.0, "snow shelter": 1000.0, "igloo": 1000.0, "bothy": 150.0, "hut": 150.0,
}  # fmt: skip
"""Snow on the roof from which it must be cleared [kg/m²]: judgement."""
BREEZE = {
    "double skin": (3.0, 4.0), "single skin": (2.0, 3.0), "tarp": (30.0, 40.0),
    "hammock tarp": (40.0, 60.0), "bivouac bag": (3.0, 3.0), "group shelter": (4.0, 3.0),
    "snow shelter": (1.5, 0.5), "igloo": (2.0, 0.5), "bothy": (2.0, 1.5), "hut": (1.0, 0.5),
}  # fmt: skip
"""Air changes of a kind of shelter in calm air, and for each m/s at the walls [1/h]: judgement."""
PLACE_M2, PLACE_HEIGHT = 1.4, 1.0
"""Floor and height of one place where a shelter was not measured [m², m]: judgement."""
IN_CLOUD, HALF_CLEAR = 98.0, 50.0
"""Humidity from which a camp is in cloud [%], and cover taken where nothing is known [%]."""


@dataclass(frozen=True)
class ShelterNight:
    """A shelter against one night.

    gust planned for, at its walls behind whatever breaks it, and the one it stands [m/s], pressure
    at its walls [Pa]; vapour that settles at the
    worst [g/h] and through the night [g], hours with drips, whether it freezes on; temperature of
    the outer skin and dew point inside at the worst [°C]; snow on the roof by morning [kg/m²] and
    hours after which to clear it, infinite where never; rain through the night [mm]; floor by
    sleeper [m²]; dark whether it is pitched after dusk. faults make it unfit, notes do not.
    """

    shelter: str
    day: int
    gust: float
    at_walls: float
    stands: float
    pressure: float
    fit: bool
    sleepers: int
    places: int
    deposit: float
    settled: float
    drip_hours: float
    frost: bool
    skin: float
    inside_dew: float
    snow: float
    clear_after: float
    rain: float
    floor: float
    dark: bool
    faults: tuple[Fault, ...]
    notes: tuple[Note, ...]


def shelter_nights(
    course: Course, timeline: Timeline, known: Mapping[str, Sequence[ShelterNight]] | None = None
) -> list[ShelterNight]:
    """Every occupied shelter on every night.

    Args:
        course: the plan.
        timeline: its hours.
        known: nights of shelters about which nothing changed, taken as they are.

    Source: this module; what a shelter stands is its owner's figure.
    """
    nights = [moment for moment in timeline.moments if moment.kind == "night"]
    hours = timeline.hours
    cloud = _cloud(hours.cloud, hours.humidity, hours.precipitation)
    falls = precipitation_kind(hours.wet_bulb)
    found: list[ShelterNight] = []
    for shelter in course.shelters:
        sleepers = [person for person in course.people if person.shelter == shelter.id]
        if sleepers and known is not None and shelter.id in known:
            found += known[shelter.id]
        elif sleepers:
            steam = sum(
                (_steam(course.days[night.day].camp, night, hours.hour) for night in nights),
                np.zeros(len(hours.hour)),
            )
            damp = settling(
                shelter, len(sleepers), hours.air, hours.humidity, hours.wind, cloud, steam
            )
            found += [
                _night(course, timeline, shelter, sleepers, night, damp, falls) for night in nights
            ]
    return found


def _night(
    course: Course,
    timeline: Timeline,
    shelter: Shelter,
    sleepers: list[Person],
    night: Moment,
    settled: "Settling",
    falls_as: NDArray[np.str_],
) -> ShelterNight:
    hours = timeline.hours
    here = (hours.hour >= night.start) & (hours.hour <= night.end)
    if not here.any():
        here = np.abs(hours.hour - night.start) < 1
    damp = Settling(settled.deposit[here], settled.skin[here], settled.dew[here])
    amount, falls = hours.precipitation[here], falls_as[here]
    snow = np.where(falls == "snow", amount, 0.0)
    bears = SNOW_BEARS[shelter.kind]
    rate = float(snow.mean())
    gust = planning_gust(night)
    camp = course.days[night.day].camp
    walls = gust_at_walls(gust, camp.windbreak if camp else "nothing", shelter.kind)
    vapour = night.humidity / 100 * saturation_pressure(night.air)
    density = air_density(night.air, standard_pressure(night.altitude), vapour)
    worst = int(np.argmax(damp.deposit))
    rain = float(np.where(falls == "snow", 0.0, amount).sum())
    arrived = next((m for m in timeline.moments if m.day == night.day and m.kind == "camp"), night)
    dark = (arrived.start % 24) > timeline.suns[night.day].dusk
    faults = faults_of(course, shelter, sleepers, night.day, gust)
    return ShelterNight(
        shelter=shelter.id,
        day=night.day,
        gust=gust,
        at_walls=walls,
        stands=shelter.gust_ms,
        pressure=float(wind_pressure(density, walls)),
        fit=not faults,
        sleepers=len(sleepers),
        places=shelter.places,
        deposit=float(damp.deposit[worst]),
        settled=float(damp.deposit.sum()),
        drip_hours=float(((damp.deposit > 0) & (damp.skin > 0)).sum()),
        frost=bool(((damp.deposit > 0) & (damp.skin <= 0)).any()),
        skin=float(damp.skin[worst]),
        inside_dew=float(damp.dew[worst]),
        snow=float(snow.sum()),
        clear_after=bears / rate if rate * max(night.hours, 1) > bears else float("inf"),
        rain=rain,
        floor=floor_area(shelter) / len(sleepers),
        dark=dark,
        faults=tuple(faults),
        notes=tuple(notes_on(shelter, sleepers, rain, camp)),
    )


def _steam(camp: Camp | None, night: Moment, hour: Array) -> Array:
    """Vapour from a stove under cover by hour of the course [g/h]."""
    share = STEAM_INSIDE[camp.cooking] if camp else 0.0
    return np.where(hour == np.ceil(night.start), STEAM * share, 0.0)


def _cloud(cover: Array, humidity: Array, falling: Array) -> Array:
    """Cloud cover, where it is not known by what falls and how damp it is [%]: judgement."""
    guessed = np.where((humidity >= IN_CLOUD) | (falling > 0), 100.0, HALF_CLEAR)
    return np.where(np.isfinite(cover), cover, guessed)


def floor_area(shelter: Shelter) -> float:
    """Floor inside, measured or by places [m²]. Source: PLACE_M2."""
    if shelter.length_m and shelter.width_m:
        return shelter.length_m * shelter.width_m
    return PLACE_M2 * shelter.places


@dataclass(frozen=True)
class Settling:
    """Vapour that settles on the outer skin [g/h], that skin and the dew point inside [°C]."""

    deposit: Array
    skin: Array
    dew: Array


def settling(
    shelter: Shelter,
    sleepers: int,
    air: Values,
    humidity: Values,
    wind: Values,
    cloud: Values,
    steam: Values = 0.0,
) -> Settling:
    """Condensation in an occupied shelter.

    Args:
        shelter: its kind and size.
        sleepers: inside.
        air: outside [°C].
        humidity: outside [%].
        wind: at the walls [m/s].
        cloud: cover [%].
        steam: of a stove inside [g/h].

    Returns:
        Arrays over the hours given; nothing settles where the inside stays under the skin's
        saturation.

    Source: balance of vapour between breath, exchange of air and the skin, which radiates to the
        night sky (Berdahl & Martin 1984); exchange and films are judgement.
    """
    outside, blown = array(air), array(wind)
    vapour_out = array(humidity) / 100 * saturation_pressure(outside)
    lift = thermal_lift(shelter.kind, sleepers, shelter.places, outside, blown)
    dew_out = dew_point(np.maximum(vapour_out, 1e-4))
    sky = sky_temperature(outside, np.clip(dew_out, -20.0, 30.0), cloud)
    film = OUTSIDE_FILM + OUTSIDE_A_WIND * blown
    skin = (RADIATION * sky + film * outside + INSIDE_FILM * (outside + lift)) / (
        RADIATION + film + INSIDE_FILM
    )
    calm, windy = BREEZE[shelter.kind]
    floor = floor_area(shelter)
    height = shelter.height_m or PLACE_HEIGHT
    exchange = (calm + windy * blown) * floor * height * 0.6
    area = 2.0 * floor
    before, saturated = _density(vapour_out, outside), _density(saturation_pressure(skin), skin)
    made = BREATH * sleepers + array(steam)
    free = before + made / exchange
    wet = (made + exchange * before + DEPOSIT * area * saturated) / (exchange + DEPOSIT * area)
    inside = np.where(free > saturated, wet, free)
    deposit = np.maximum(DEPOSIT * area * (inside - saturated), 0.0)
    pressure = inside / 1000 * VAPOUR_GAS_CONSTANT * (outside + lift + KELVIN) / 1000
    return Settling(np.minimum(deposit, made + exchange * before), skin, dew_point(pressure))


def _density(vapour: Array, celsius: Array) -> Array:
    """Vapour in air from its pressure [g/m³ from kPa]."""
    return 1e6 * vapour / (VAPOUR_GAS_CONSTANT * (celsius + KELVIN))
