"""Days, legs and people of a demo course from short rows."""

from typing import Any

from caldarium.catalogue import load_catalogue, shipped_lists
from caldarium.core.plan.course import Person
from caldarium.core.plan.gear_list import GearList
from caldarium.core.plan.kit import Garment, Shelter
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.weather_sources import Conditions

Row = tuple[Any, ...]


def day(title: str, weather: Row, legs: list[Row], camp: dict[str, Any] | None) -> Day:
    """A day.

    Args:
        title: of the day.
        weather: high and low [°C], wind [m/s], rain or snow [mm], when it begins [h], how long it
            lasts [h], humidity [%], and cloud [%] where it is known.
        legs: rows of id, kind, distance [km], altitude at its end [m], hours, exposure, terrain
            and fields more.
        camp: fields of the camp, None for none.
    """
    high, low, wind, rain, rain_from, rain_hours, humidity, *cloud = weather
    conditions = Conditions(
        high_c=high,
        low_c=low,
        wind_ms=wind,
        precipitation_mm=rain,
        rain_from_h=rain_from,
        rain_hours=rain_hours,
        humidity_pct=humidity,
        cloud_pct=cloud[0] if cloud else None,
    )
    return Day(
        title=title,
        conditions=conditions,
        legs=tuple(_leg(*row) for row in legs),
        camp=None if camp is None else Camp(**camp),
    )


def _leg(
    name: str,
    kind: str,
    distance: float,
    to: float,
    hours: float | None,
    exposure: str,
    terrain: str,
    more: dict[str, Any] | None = None,
) -> Leg:
    fields = {
        "id": name,
        "kind": kind,
        "title": name.replace("-", " "),
        "distance_km": distance,
        "to_altitude_m": to,
        "hours": hours,
        "exposure": exposure,
        "terrain": terrain,
    }
    return Leg.model_validate(fields | (more or {}))


def person(
    name: str,
    kit: str,
    mass: float,
    height: float,
    sleeper: float,
    *,
    without: tuple[str, ...] = (),
    more: tuple[str, ...] = (),
    seams_seen: bool = True,
    **fields: Any,
) -> Person:
    """A member with a ready set of the catalogue, less and more some pieces of it; whether the
    seams of what keeps rain off are taped is known where somebody looked."""
    shelves = load_catalogue()
    pieces = [each for each in shelves.sets[kit] if each not in without] + list(more)
    bags = [shelves.bags[each] for each in pieces if each in shelves.bags]
    return Person(
        id=name.split(maxsplit=1)[0].lower(),
        name=name,
        body_mass_kg=mass,
        height_m=height,
        sleeper_index=sleeper,
        garments=tuple(
            _seen(shelves.garments[each]) if seams_seen else shelves.garments[each]
            for each in pieces
            if each in shelves.garments
        ),
        bag=bags[-1] if bags else None,
        pads=tuple(shelves.pads[each] for each in pieces if each in shelves.pads),
        items=tuple(shelves.items[each] for each in pieces if each in shelves.items),
        **fields,
    )


def _seen(piece: Garment) -> Garment:
    """A piece whose seams were looked at, where it keeps rain off."""
    return piece.altered(taped=True, water_mm=15000) if piece.waterproof else piece


def asked(*names: str) -> tuple[GearList, ...]:
    """Lists that ship, by id."""
    return tuple(each for each in shipped_lists() if each.id in names)


def shelters(**kinds: str) -> tuple[Shelter, ...]:
    """Shelters of the catalogue under names of the course's own."""
    shelves = load_catalogue().shelters
    return tuple(shelves[kind].altered(id=name.replace("_", "-")) for name, kind in kinds.items())
