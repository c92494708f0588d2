"""Typed figures: what stands in a field, what was typed into it, and what is wrong with it."""

from collections.abc import Mapping
from dataclasses import dataclass

from caldarium.words.units import (
    DEFAULT_UNIT,
    Display,
    clock_text,
    parse_clock,
    parse_quantity,
)

SHOWN = {"c": "°C", "f": "°F", "k": "K", "%": "%", "l": "L", "floz": "fl oz"}
CUSTOMARY = {
    "temperature": "f", "warmth": "f", "wind": "mph", "altitude": "ft", "rain": "in",
    "mass": "oz", "body": "lb", "height": "ft", "distance": "mi", "length": "in", "depth": "in",
    "pace": "mph", "volume": "floz",
}  # fmt: skip


@dataclass(frozen=True)
class Field:
    """A field of a form: name in the request, label, kind of quantity, and hint."""

    name: str
    label: str
    kind: str
    hint: str = ""


@dataclass(frozen=True)
class Entry:
    """A field with the text that stands in it and the message under it."""

    field: Field
    text: str
    error: str = ""


def unit_of(kind: str, display: Display) -> str:
    """The unit a bare number means in this display."""
    return CUSTOMARY.get(kind, DEFAULT_UNIT[kind]) if display.customary else DEFAULT_UNIT[kind]


def written(value: float, kind: str, display: Display) -> str:
    """A value with its unit, as a field shows it."""
    if kind == "clock":
        return clock_text(value)
    unit = unit_of(kind, display)
    at_zero, at_one = (parse_quantity(f"{number} {unit}", kind) for number in (0, 1))
    shown = (value - at_zero) / (at_one - at_zero)
    figure = f"{shown:.2f}".rstrip("0").rstrip(".")
    return f"{'0' if figure == '-0' else figure} {SHOWN.get(unit, unit)}".strip()


def read(text: str, kind: str, display: Display) -> tuple[float, str]:
    """The value of a typed text in the core's unit, and the text with its unit.

    Raises:
        ValueError: with a sentence for the person who typed it.
    """
    stripped = text.strip()
    if kind == "clock":
        return parse_clock(stripped), stripped
    if stripped and (stripped[-1].isdigit() or stripped[-1] == "."):
        unit = unit_of(kind, display)
        stripped = f"{stripped} {SHOWN.get(unit, unit)}".strip()
    return parse_quantity(stripped, kind), stripped


def shown_text(value: float, field: Field, typed: str | None, display: Display) -> str:
    """What a field shows: the text as it was typed while it still says this value."""
    if typed is not None:
        try:
            if abs(parse_quantity(typed, field.kind) - value) < 1e-9:
                return typed
        except ValueError:
            pass
    return written(value, field.kind, display)


def changed(form: Mapping[str, str], entries: list[Entry]) -> list[tuple[Field, str]]:
    """Fields whose text differs from what they showed."""
    return [
        (entry.field, form[entry.field.name])
        for entry in entries
        if entry.field.name in form and form[entry.field.name].strip() != entry.text
    ]
