"""Two changes of one thing, told beside each other."""

from typing import cast

from caldarium.core.plan.merge import Clash, gone
from caldarium.core.plan.value import Value
from caldarium.words.faults import kind_of
from caldarium.words.units import Display, written

_ROOMS = {
    "days": "day",
    "people": "",
    "legs": "leg",
    "garments": "",
    "items": "",
    "pads": "",
    "shelters": "",
    "group": "",
    "helpers": "",
    "menu": "menu",
    "provisions": "",
    "sources": "",
    "conditions": "",
    "bedding": "bed",
    "as_typed": "",
}
_NAMES = {
    "high_c": "high",
    "low_c": "low",
    "wind_ms": "wind",
    "precipitation_mm": "rain or snow",
    "to_altitude_m": "end",
    "overrules": "outfits",
    "shelter": "shelter",
    "body_mass_kg": "body mass",
    "food_g_a_day": "food a day",
    "fuel_g_a_day": "fuel a day",
    "water_l": "water filled",
    "boiled_l_a_day": "boiled a head and night",
    "spare_share": "fuel to spare",
    "stove_kw": "what a flame gives",
    "pot_l": "what a pot holds",
    "gust_ms": "gust it stands",
}
_UNITS = (
    "_altitude_m",
    "_kmh",
    "_pct",
    "_ms",
    "_mm",
    "_cm",
    "_kg",
    "_km",
    "_min",
    "_m2",
    "_m",
    "_g",
    "_l",
    "_h",
    "_c",
)


def clash_words(clash: Clash, display: Display) -> tuple[str, str, str]:
    """What both changed, and what each made of it.

    Returns:
        The thing, mine and theirs, in words.

    Source: none, wording.
    """
    field = next((part for part in reversed(clash.path) if isinstance(part, str)), "")
    told = [words for part in _pairs(clash.path) if (words := part)]
    mine, theirs = (_value(each, field, display) for each in (clash.mine, clash.theirs))
    return ", ".join(told) or "the course", mine, theirs


def _pairs(path: tuple[str | int, ...]) -> list[str]:
    found: list[str] = []
    room = ""
    for part in path:
        if isinstance(part, int):
            found.append(f"{_ROOMS.get(room, room)} {part + 1}".strip())
        elif part in _ROOMS:
            if _ROOMS[part] and part not in ("days", "legs"):
                found.append(_ROOMS[part])
        elif room in ("people", "legs", "garments", "items", "pads", "shelters", "group"):
            prefix = "leg " if room == "legs" else ""
            found.append(prefix + part.replace("-", " "))
        else:
            found.append(_name(part))
        room = str(part)
    return found


def _name(field: str) -> str:
    end = next((each for each in _UNITS if field.endswith(each)), "")
    return _NAMES.get(field, field.removesuffix(end).replace("_", " "))


def _value(value: object, field: str, display: Display) -> str:
    if value is None or gone(value):
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return written(float(value), kind_of(field), display)
    if isinstance(value, Value):
        return str(getattr(value, "name", "") or getattr(value, "title", "") or "changed")
    if isinstance(value, tuple):
        return f"{len(cast(tuple[object, ...], value))} of them"
    return str(value)
