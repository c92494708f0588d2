"""Shelters through each night: wind, water in the air, rain and snow.

What a tent lets through, holds up and breathes is judgement, named here; the pressure of wind, the
weight of snow and the water that air can hold are physics with their sources.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.night.shelter_faults import (
    Fault,
    Note,
    faults_of,
    gust_at_walls,
    notes_on,
    stands_at_mast,
)
from caldarium.core.night.site import COLDEST_DEW, WARMEST_DEW, followed
from caldarium.core.physics.air import (
    air_density,
    dew_point,
    precipitation_kind,
    saturation_pressure,
    standard_pressure,
)
from caldarium.core.physics.bed import GROUNDS, ground_temperature
from caldarium.core.physics.quantities import KELVIN, Array, Values, array
from caldarium.core.physics.shelter import (
    INSIDE_FILM,
    OUTSIDE_A_WIND,
    OUTSIDE_FILM,
    RADIATION,
    Inside,
    snow_shape,
    thermal_lift,
)
from caldarium.core.physics.sky import cloud_guessed, sky_temperature
from caldarium.core.physics.wind import wind_pressure
from caldarium.core.plan.belief import factor
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
DEPOSIT = INSIDE_FILM / (1.2 * 1005) * 3600
"""Speed at which vapour settles on a cold skin [m/h]. Source: Lewis relation on INSIDE_FILM."""
SNOW_BEARS = {
    "double skin": 12.0,
    "single skin": 8.0,
    "tarp": 5.0,
    "hammock tarp": 5.0,
    "bivouac bag": 20.0,
    "group shelter": 3.0,
    "snow shelter": 1000.0,
    "igloo": 1000.0,
    "bothy": 150.0,
    "hut": 150.0,
}
"""Snow on the roof from which it must be cleared [kg/m²]: judgement."""


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
    nights = night_hours(course, timeline)
    found: list[ShelterNight] = []
    for shelter in course.shelters:
        if known is not None and shelter.id in known:
            found += known[shelter.id]
            continue
        slept = [
            (each, sleepers)
            for each in nights
            if (sleepers := [p for p in each.course.people if p.shelter == shelter.id])
        ]
        if not slept:
            continue
        air, humidity, wind, cloud, ground, steam = (
            np.concatenate([getattr(each, name) for each, _ in slept])
            for name in ("air", "humidity", "wind", "cloud", "ground", "steam")
        )
        heads = np.concatenate([np.full(len(each.air), len(who)) for each, who in slept])
        damp = settling(shelter, heads, air, humidity, wind, cloud, ground, steam)
        ends = np.cumsum([len(each.air) for each, _ in slept])
        for (each, sleepers), end in zip(slept, ends.tolist(), strict=True):
            here = slice(end - len(each.air), end)
            settled = Settling(damp.deposit[here], damp.skin[here], damp.dew[here])
            found.append(_night(timeline, shelter, sleepers, each, settled))
    return found


@dataclass(frozen=True)
class NightHours:
    """The hours of one night, with the course as it sleeps then: air and ground [°C], humidity and
    cloud [%], wind [m/s], steam of stoves [g/h], rain and snow [mm]."""

    night: Moment
    course: Course
    air: Array
    humidity: Array
    wind: Array
    cloud: Array
    ground: Array
    steam: Array
    rain: Array
    snow: Array


def night_hours(course: Course, timeline: Timeline) -> list[NightHours]:
    """The hours of every night. Source: core.timeline; cloud guessed where it is not known."""
    hours = timeline.hours
    cloud = cloud_guessed(hours.cloud, hours.humidity, hours.precipitation)
    as_snow = precipitation_kind(hours.wet_bulb) == "snow"
    lagging = followed(hours.air)
    found: list[NightHours] = []
    for night in (moment for moment in timeline.moments if moment.kind == "night"):
        here = (hours.hour >= night.start) & (hours.hour <= night.end)
        if not here.any():
            here = np.abs(hours.hour - night.start) < 1
        camp = course.days[night.day].camp
        amount = hours.precipitation[here]
        found.append(
            NightHours(
                night=night,
                course=course.on_night(night.day),
                air=hours.air[here],
                humidity=hours.humidity[here],
                wind=hours.wind[here],
                cloud=cloud[here],
                ground=ground_temperature(lagging[here], GROUNDS[camp.ground if camp else "dry"]),
                steam=_steam(camp, night, hours.hour[here]),
                rain=np.where(as_snow[here], 0.0, amount),
                snow=np.where(as_snow[here], amount, 0.0),
            )
        )
    return found


def _night(
    timeline: Timeline,
    shelter: Shelter,
    sleepers: list[Person],
    hours: NightHours,
    damp: "Settling",
) -> ShelterNight:
    night, course = hours.night, hours.course
    camp = course.days[night.day].camp
    snow = hours.snow * snow_shape(shelter.roof_deg)
    rain = float(hours.rain.sum())
    bears = SNOW_BEARS[shelter.kind]
    rate = float(snow.mean())
    gust = planning_gust(night)
    walls = gust_at_walls(gust, camp.windbreak if camp else "nothing", shelter.kind)
    vapour = night.humidity / 100 * saturation_pressure(night.air)
    density = air_density(night.air, standard_pressure(night.altitude), vapour)
    worst = int(np.argmax(damp.deposit))
    arrived = next((m for m in timeline.moments if m.day == night.day and m.kind == "camp"), night)
    dark = (arrived.start % 24) > timeline.suns[night.day].dusk
    faults = faults_of(course, shelter, sleepers, night.day, gust, rain)
    return ShelterNight(
        shelter=shelter.id,
        day=night.day,
        gust=gust,
        at_walls=walls,
        stands=stands_at_mast(shelter),
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


def inside_shelter(shelter: Shelter, sleepers: Values) -> Inside:
    """What sets the air in a shelter with so many in it. Source: its own sizes."""
    long, wide = shelter.length_m, shelter.width_m
    floor = long * wide if long and wide else None
    return Inside(
        shelter.kind, sleepers, shelter.places, floor, shelter.height_m, factor(shelter.as_found)
    )


def floor_area(shelter: Shelter) -> float:
    """Floor inside, measured or by places [m²]. Source: core.physics.shelter."""
    return inside_shelter(shelter, 1).floor


@dataclass(frozen=True)
class Settling:
    """Vapour that settles on the outer skin [g/h], that skin and the dew point inside [°C]."""

    deposit: Array
    skin: Array
    dew: Array


def settling(
    shelter: Shelter,
    sleepers: Values,
    air: Values,
    humidity: Values,
    wind: Values,
    cloud: Values,
    ground: Values,
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
        ground: under the floor [°C].
        steam: of a stove inside [g/h].

    Returns:
        Arrays over the hours given; nothing settles where the inside stays under the skin's
        saturation.

    Source: balance of vapour between breath, exchange of air and the skin, which radiates to the
        night sky (Berdahl & Martin 1984); exchange and films are judgement.
    """
    outside, blown = array(air), array(wind)
    vapour_out = array(humidity) / 100 * saturation_pressure(outside)
    dew_out = dew_point(np.maximum(vapour_out, 1e-4))
    sky = sky_temperature(outside, np.clip(dew_out, COLDEST_DEW, WARMEST_DEW), cloud)
    inside_of = inside_shelter(shelter, sleepers)
    lift = thermal_lift(inside_of, outside, blown, sky, ground)
    film = OUTSIDE_FILM + OUTSIDE_A_WIND * blown
    skin = (RADIATION * sky + film * outside + INSIDE_FILM * (outside + lift)) / (
        RADIATION + film + INSIDE_FILM
    )
    exchange = inside_of.exchange(blown)
    area = 2.0 * inside_of.floor
    before, saturated = _density(vapour_out, outside), _density(saturation_pressure(skin), skin)
    made = BREATH * array(sleepers) + array(steam)
    free = before + made / exchange
    wet = (made + exchange * before + DEPOSIT * area * saturated) / (exchange + DEPOSIT * area)
    inside = np.where(free > saturated, wet, free)
    deposit = np.maximum(DEPOSIT * area * (inside - saturated), 0.0)
    pressure = inside / 1000 * VAPOUR_GAS_CONSTANT * (outside + lift + KELVIN) / 1000
    return Settling(np.minimum(deposit, made + exchange * before), skin, dew_point(pressure))


def _density(vapour: Array, celsius: Array) -> Array:
    """Vapour in air from its pressure [g/m³ from kPa]."""
    return 1e6 * vapour / (VAPOUR_GAS_CONSTANT * (celsius + KELVIN))
