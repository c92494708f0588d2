"""Shelters through each night: wind, anchors, water in the air, rain, snow, and room for sleepers.

What a tent lets through, holds up and breathes is judgement, named here; the pressure of wind, the
weight of snow and the water that air can hold are physics with their sources.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from caldarium.core.air import (
    air_density,
    dew_point,
    precipitation_kind,
    saturation_pressure,
    standard_pressure,
)
from caldarium.core.bedding import shoulders_cm
from caldarium.core.course import Course, Person
from caldarium.core.kit import Shelter
from caldarium.core.moments import Moment, Timeline, planning_gust
from caldarium.core.quantities import KELVIN, Array, Values, array
from caldarium.core.shelter import thermal_lift
from caldarium.core.sky import sky_temperature
from caldarium.core.wind import wind_pressure

BREATH = 40.0
"""Vapour a sleeper gives off [g/h]: judgement; physiology books have 30 to 50."""
VAPOUR_GAS_CONSTANT = 461.5
"""Of water vapour [J/(kg K)]."""
RADIATION, INSIDE_FILM, OUTSIDE_FILM, OUTSIDE_A_WIND = 4.6, 3.0, 4.0, 3.5
"""Heat transfer at a tent's skin [W/(m² K)]: long-wave near 0 °C, and films inside and outside in
calm air and for each m/s: judgement on ordinary film coefficients."""
DEPOSIT = INSIDE_FILM / (1.2 * 1005) * 3600
"""Speed at which vapour settles on a cold skin [m/h]. Source: Lewis relation on INSIDE_FILM."""
WINDBREAK = 0.7
"""Share of the gust left behind a wall of snow or stones, or with the narrow end turned into it:
judgement."""
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
ROOM_A_SLEEPER, LOFT_M = 12.0, 0.25
"""Room beside the shoulders [cm], and beyond a sleeper's length before the bag's foot touches a
wall [m]: judgement; a wet foot there is common practice, no published source."""
DRY_WALL, DRY_FLOOR = 1000.0, 2000.0
"""Water columns under which a wall leaks in long rain, and a floor under a knee [mm]: judgement."""
WET_NIGHT = 8.0
"""Rain in a night from which a thin wall or floor is worth a word [mm]: judgement."""
IN_CLOUD, HALF_CLEAR = 98.0, 50.0
"""Humidity from which a camp is in cloud [%], and cover taken where nothing is known [%]."""
BUILT = {"snow shelter", "igloo", "bothy", "hut"}
"""Kinds that stand where they are, without anchors."""
OPEN_SIDES = {"tarp", "hammock tarp"}
WET_KIT_M2 = 0.35
"""Floor or porch that a sleeper's pack, boots and wet clothes take [m²]: judgement."""
STAND_FREE_TO = 10.0
"""Gust to which a free-standing shelter stays where it is without anchors, with people in it
[m/s]: judgement."""


@dataclass(frozen=True)
class ShelterNight:
    """A shelter against one night.

    gust planned for and the one it stands [m/s], pressure of it [Pa]; vapour that settles at the
    worst [g/h] and through the night [g], hours with drips, whether it freezes on; temperature of
    the outer skin and dew point inside at the worst [°C]; snow on the roof by morning [kg/m²] and
    hours after which to clear it, infinite where never; rain through the night [mm]; floor by
    sleeper [m²]; dark whether it is pitched after dusk. faults make it unfit, notes do not.
    """

    shelter: str
    day: int
    gust: float
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
    faults: tuple[str, ...]
    notes: tuple[str, ...]


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
            damp = settling(shelter, len(sleepers), hours.air, hours.humidity, hours.wind, cloud)
            found += [
                _night(course, timeline, shelter, sleepers, night, damp, falls) for night in nights
            ]
    return found


def _night(
    course: Course, timeline: Timeline, shelter: Shelter, sleepers: list[Person], night: Moment,
    settled: "Settling", falls_as: NDArray[np.str_],
) -> ShelterNight:  # fmt: skip
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
    vapour = night.humidity / 100 * saturation_pressure(night.air)
    density = air_density(night.air, standard_pressure(night.altitude), vapour)
    worst = int(np.argmax(damp.deposit))
    rain = float(np.where(falls == "snow", 0.0, amount).sum())
    arrived = next((m for m in timeline.moments if m.day == night.day and m.kind == "camp"), night)
    dark = (arrived.start % 24) > timeline.suns[night.day].dusk
    faults, notes = _verdicts(course, shelter, sleepers, night, gust, rain)
    return ShelterNight(
        shelter=shelter.id,
        day=night.day,
        gust=gust,
        stands=shelter.gust_ms,
        pressure=float(wind_pressure(density, gust)),
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
        notes=tuple(notes),
    )


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
    shelter: Shelter, sleepers: int, air: Values, humidity: Values, wind: Values, cloud: Values
) -> Settling:
    """Condensation in an occupied shelter.

    Args:
        shelter: its kind and size.
        sleepers: inside.
        air: outside [°C].
        humidity: outside [%].
        wind: at the walls [m/s].
        cloud: cover [%].

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
    skin = (
        RADIATION * sky + film * outside + INSIDE_FILM * (outside + lift)
    ) / (RADIATION + film + INSIDE_FILM)  # fmt: skip
    calm, windy = BREEZE[shelter.kind]
    floor = floor_area(shelter)
    height = shelter.height_m or PLACE_HEIGHT
    exchange = (calm + windy * blown) * floor * height * 0.6
    area = 2.0 * floor
    before, saturated = _density(vapour_out, outside), _density(saturation_pressure(skin), skin)
    made = BREATH * sleepers
    free = before + made / exchange
    wet = (made + exchange * before + DEPOSIT * area * saturated) / (exchange + DEPOSIT * area)
    inside = np.where(free > saturated, wet, free)
    deposit = np.maximum(DEPOSIT * area * (inside - saturated), 0.0)
    pressure = inside / 1000 * VAPOUR_GAS_CONSTANT * (outside + lift + KELVIN) / 1000
    return Settling(np.minimum(deposit, made + exchange * before), skin, dew_point(pressure))


def _density(vapour: Array, celsius: Array) -> Array:
    """Vapour in air from its pressure [g/m³ from kPa]."""
    return 1e6 * vapour / (VAPOUR_GAS_CONSTANT * (celsius + KELVIN))


def _verdicts(
    course: Course, shelter: Shelter, sleepers: list[Person], night: Moment, gust: float,
    rain: float,
) -> tuple[list[str], list[str]]:  # fmt: skip
    """Faults that make a shelter unfit for a night, and notes that do not."""
    faults: list[str] = []
    if gust > shelter.gust_ms:
        helped = gust * WINDBREAK <= shelter.gust_ms
        cure = "behind a wall or turned narrow end on it would stand" if helped else "move camp"
        faults.append(f"gusts pass what it stands; {cure}")
    if len(sleepers) > shelter.places:
        faults.append(f"{len(sleepers)} sleepers in {shelter.places} places")
    camp = course.days[night.day].camp
    ground: set[str] = set(camp.anchors if camp else ())
    held = shelter.kind in BUILT or (shelter.stands_free and gust <= STAND_FREE_TO)
    if not ground & set(shelter.anchors) and not held:
        takes = " or ".join(camp.anchors) if camp and camp.anchors else "no anchors"
        faults.append(f"the ground takes {takes}, it came with {' and '.join(shelter.anchors)}")
    here = {person.id for person in sleepers}
    for what, carriers in (
        ("its poles walk", set(shelter.poles_from)),
        ("parts of it walk", {part.carried_by for part in shelter.parts if part.carried_by}),
    ):
        elsewhere = carriers - here
        if elsewhere:
            names = [p.name for p in course.people if p.id in elsewhere] or ["somebody gone"]
            faults.append(f"{what} with {', '.join(names)}, who sleeps elsewhere")
    if shelter.kind == "group shelter":
        faults.append("a group shelter is for holds: people sit in it, nobody lies down")
    faults += broken_rules(course, shelter.id)
    insects = camp is not None and camp.insects
    return faults, [*_weak_points(shelter, rain, insects), *_room(shelter, sleepers)]


def _weak_points(shelter: Shelter, rain: float, insects: bool) -> list[str]:
    """What lets water or insects in, or asks for care."""
    found: list[str] = []
    if shelter.condition != "sound":
        found.append(f"it is {shelter.condition}: pitch it once before it is needed")
    if insects and not shelter.net:
        found.append("insects come in: take head nets or a hanging net")
    if rain >= WET_NIGHT:
        if shelter.wall_mm is not None and shelter.wall_mm < DRY_WALL:
            found.append(f"a wall of {shelter.wall_mm:.0f} mm leaks in long rain")
        if shelter.floor_mm is not None and shelter.floor_mm < DRY_FLOOR:
            found.append(f"a floor of {shelter.floor_mm:.0f} mm leaks under a knee on wet ground")
        if shelter.inner_first:
            found.append("the inner is pitched first and gets wet: hold the fly over it")
        if shelter.kind in OPEN_SIDES:
            found.append("rain and wind come in under a tarp: pitch it low, keep bags in covers")
    return found


def _room(shelter: Shelter, sleepers: list[Person]) -> list[str]:
    """What does not fit."""
    found: list[str] = []
    wide = sum(width_m(person) for person in sleepers)
    if shelter.width_m is not None and wide > shelter.width_m:
        found.append(f"sleepers need {wide:.1f} m side by side, it is {shelter.width_m:g} m wide")
    tallest = max(sleepers, key=lambda person: person.height_m)
    if shelter.length_m is not None and tallest.height_m + LOFT_M > shelter.length_m:
        found.append(
            f"the foot of {tallest.name}'s bag touches the wall and gets wet: "
            f"{tallest.height_m:g} m in {shelter.length_m:g} m"
        )
    needed = WET_KIT_M2 * len(sleepers)
    if kit_room(shelter, sleepers) < needed:
        found.append(
            f"packs, boots and wet clothes need about {needed:.1f} m² beside the sleepers; "
            "bag what stays outside"
        )
    return found


def kit_room(shelter: Shelter, sleepers: Sequence[Person]) -> float:
    """Floor and porch beside the sleepers [m²]; NaN where the shelter was not measured.

    Source: sleepers' own sizes.
    """
    if not (shelter.length_m and shelter.width_m):
        return float("nan")
    lying = sum(width_m(person) * (person.height_m + LOFT_M) for person in sleepers)
    return shelter.length_m * shelter.width_m - lying + (shelter.porch_m2 or 0.0)


def broken_rules(course: Course, shelter: str) -> list[str]:
    """Wishes on who sleeps with whom that a shelter breaks. Source: the course's own rules."""
    where = {person.id: person.shelter for person in course.people}
    names = {person.id: person.name.split()[0] for person in course.people}
    found: list[str] = []
    for rule in course.sleep_rules:
        told = [each for each in rule.people if each in where]
        here = [each for each in told if where[each] == shelter]
        who = " and ".join(names[each] for each in told)
        if rule.kind == "apart" and len(here) > 1:
            found.append(f"{who} were to sleep apart")
        elif rule.kind == "together" and here and len(here) < len(told):
            found.append(f"{who} were to sleep together")
    return found


def width_m(person: Person) -> float:
    """What a sleeper takes side by side: pad or shoulders with a little room [m].

    Source: ROOM_A_SLEEPER.
    """
    pads = [pad.width_cm for pad in person.pads if pad.width_cm]
    return max(shoulders_cm(person) + ROOM_A_SLEEPER, *pads, 0.0) / 100
