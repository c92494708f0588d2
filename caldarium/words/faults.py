"""What cannot be taken, in the words of a field and in the units of the browser."""

from collections.abc import Mapping, Sequence
from typing import Any, cast

from pydantic import ValidationError
from pydantic_core import PydanticCustomError

from caldarium.words.units import Display, written

_UNIT_KINDS = (
    ("_altitude_m", "altitude"),
    ("high_point_m", "altitude"),
    ("climb_m", "altitude"),
    ("fall_m", "altitude"),
    ("_kmh", "pace"),
    ("_pct", "percent"),
    ("_share", "share"),
    ("_k_per_km", "number"),
    ("_mm", "rain"),
    ("_ms", "wind"),
    ("_cm", "breadth"),
    ("_kg", "body"),
    ("_km", "distance"),
    ("_min", "minutes"),
    ("_m", "span"),
    ("_g", "mass"),
    ("g_a_day", "mass"),
    ("l_a_day", "volume"),
    ("_l", "volume"),
    ("_h", "hours"),
    ("_c", "temperature"),
    ("colder", "warmth"),
    ("windier", "wind"),
    ("wetter", "rain"),
    ("higher", "altitude"),
    ("slower", "percent"),
    ("held", "hours"),
)
"""The kind of quantity of a field by the end of its name, first match first."""
_THICK = {"thickness_mm", "wall_mm", "floor_mm"}


def kind_of(field: str) -> str:
    """The kind of quantity that a field of the core holds. Source: the units in its name."""
    if field in _THICK:
        return "length"
    return next((kind for end, kind in _UNIT_KINDS if field.endswith(end)), "number")


def fault_text(fault: ValueError, display: Display) -> str:
    """The first thing that is wrong, as a sentence without its full stop.

    Source: none, wording.
    """
    if isinstance(fault, ValidationError):
        return error_text(fault.errors()[0], display)
    if isinstance(fault, PydanticCustomError):
        return refusal_text(fault.type, fault.context or {}, display)
    return str(fault)


def error_text(error: Any, display: Display) -> str:
    """What the validator says of one value.

    Args:
        error: one of ValidationError.errors().
        display: units.

    Source: none, wording.
    """
    facts: Mapping[str, Any] = error.get("ctx") or {}
    names = [part for part in error["loc"] if isinstance(part, str)]
    field = names[-1] if names else ""
    for fact, words in _LIMITS.items():
        if fact in facts and error["type"] in _RANGE_ERRORS:
            return f"must be {words} {_limit(facts[fact], field, display)}"
    told = _PLAIN.get(error["type"])
    if told is not None:
        return told.format(**facts)
    if error["type"] in _REFUSALS:
        return refusal_text(error["type"], facts, display)
    return str(error["msg"]).removeprefix("Value error, ").replace("Input should", "must")


def refusal_text(reason: str, facts: Mapping[str, Any], display: Display) -> str:
    """Why a value cannot be. Source: core.plan.refusal."""
    told = {
        name: fact if isinstance(fact, str) else _fact(name, fact, display)
        for name, fact in facts.items()
    }
    if reason == "twice" and told["of"]:
        return "{of} has two {what} with the id {id}".format(**told)
    return _REFUSALS[reason].format(**told)


def _fact(name: str, fact: object, display: Display) -> str:
    if isinstance(fact, list | tuple):
        return ", ".join(str(each) for each in cast(Sequence[object], fact))
    if isinstance(fact, float) and kind_of(name) != "number":
        return written(fact, kind_of(name), display)
    if isinstance(fact, float):
        return f"{fact:.0%}" if name == "share" else f"{fact:.0f}"
    return str(fact)


def _limit(value: object, field: str, display: Display) -> str:
    kind = kind_of(field)
    if isinstance(value, int | float) and not isinstance(value, bool) and kind != "number":
        return written(float(value), kind, display)
    return f"{value:g}" if isinstance(value, float) else str(value)


_LIMITS = {"ge": "at least", "gt": "more than", "le": "at most", "lt": "less than"}
_RANGE_ERRORS = {
    "greater_than_equal",
    "greater_than",
    "less_than_equal",
    "less_than",
}
_PLAIN = {
    "missing": "is needed",
    "extra_forbidden": "is not known here",
    "string_too_short": "is needed",
    "string_too_long": "must be at most {max_length} characters long",
    "too_long": "must be at most {max_length} in number",
    "too_short": "must be at least {min_length} in number",
    "finite_number": "must be a number",
    "float_parsing": "must be a number",
    "float_type": "must be a number",
    "int_parsing": "must be a whole number",
    "int_from_float": "must be a whole number",
    "int_type": "must be a whole number",
    "date_from_datetime_parsing": "must be a date, as 2031-09-14",
    "date_parsing": "must be a date, as 2031-09-14",
}
_REFUSALS: dict[str, str] = {
    "twice": "two {what} have the id {id}",
    "empty cache": "a cache holds food and fuel, or water",
    "no reason": "say why",
    "asks for anything": "say a sort of thing, or words that are in its name",
    "fuel over mass": "{of}: more fuel than it weighs",
    "inside nothing": "{item} is in something that is not there: {inside}",
    "unknown helper": "{item} is carried by something that is not there: {on}",
    "nobody draws": "{helper} is drawn by {who}, who is not there",
    "inside itself": "{item} cannot be inside itself",
    "cache without leg": "a cache lies at {leg} on day {day}: no such leg",
    "item without leg": "{item} changes hands at {leg} on day {day}: no such leg",
    "caution order": "expedition must not be less cautious than cautious",
    "unknown shelter": "{who} sleeps in an unknown shelter {shelter}",
    "unknown bed partner": "{who} shares a bed with {partner}, who is not there",
    "nights out of order": "{who} has two plans for one night, or a later one before an earlier",
    "limit over comfort": "the limit figure, {limit_c}, is warmer than the comfort one",
    "no camp": "day {day} needs a camp: only the last day may end at home",
    "leg overlaps": "day {day}: leg {leg} ({kind}) starts before the leg before it ends",
    "leg stays": ("day {day}: leg {leg} ({kind}) stays where it is: its altitude is {altitude_m}"),
    "leg takes no time": (
        "day {day}: leg {leg} ({kind}) takes no time: give it a distance or a duration"
    ),
    "leg too fast": (
        "day {day}: leg {leg} ({kind}) goes at {speed_ms} and {slope} %; the walking formula ends "
        "at {fastest_ms} and {steepest} %: give it more time or distance"
    ),
    "day too long": "day {day}: the day's legs must end before 23:00",
    "cover share": "a cover of {share}: a garment covers none to all of a region",
    "no such loft": (
        "{thickness_mm}: no garment's loft is that; lay it flat, once, and measure in mm"
    ),
    "unknown region": "unknown region {regions}",
    "covers nothing": "a garment covers at least part of one region",
    "thickness or clo": "give either a thickness or a tabulated clo",
    "not one of": "{field} is one of {known}",
    "parts too heavy": "the parts of {of} weigh {parts_g}, the whole {whole_g}",
    "needs duration": "a {kind} needs a duration",
    "has no distance": "a {kind} has no distance",
    "needs distance": "a leg of kind {kind} needs a distance",
    "spread order": "expedition must not plan a warmer low than cautious",
    "high below low": "the high must not be below the low",
    "clock with offset": "times are the place's clock times, without an offset",
    "full hours": "hours begin on the full hour",
    "uneven hours": "{name} has {has} hours, air_c has {hours}",
    "uneven member": "member {number} has not {hours} hours of everything",
    "no heights": "the way has no heights: type them leg by leg instead",
    "bad cuts": "cuts must rise, lie inside 0 to {whole_km} and leave a little between them",
    "no cut": "“{typed}” is no cut: type distances, and an n for a night, as 12.5n",
    "way too long": (
        "the way has {days} days from day {first} on, the course only {course}: make nights into "
        "plain cuts, or begin earlier"
    ),
    "too few days": "fewer than ten complete days near the dates of the course",
    "no wind": "no wind near the dates of the course",
    "rest day moves": "a rest day ends where it began",
}
