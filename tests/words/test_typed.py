"""Everything that people type is read right, or asked. Conversions from NIST SP 811."""

from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from caldarium.words.typed import (
    parse_clock,
    parse_position,
    parse_quantity,
    position_text,
    typed,
)
from caldarium.words.units import DEFAULT_UNIT, Display, written

# What each kind's units are spelled as, and what one of each is in the kind's own unit.
SPELLINGS = {
    "temperature": {("°C", "C", "degC", "deg C", "Celsius", "degrees C", "c", ""): 1.0},
    "wind": {
        ("m/s", "metres per second", "meters a second", "mps", ""): 1.0,
        ("km/h", "kph", "kmh", "km an hour"): 1 / 3.6,
        ("mph", "miles an hour", "miles per hour"): 0.44704,
        ("kn", "kt", "knots", "kts"): 0.514444,
    },
    "altitude": {("m", "metres", "meters", "metre", ""): 1.0, ("ft", "feet", "'", "foot"): 0.3048},
    "rain": {("mm", "millimetres", ""): 1.0, ("in", "inches", "inch", '"'): 25.4, ("cm",): 10.0},
    "distance": {
        ("km", "kilometres", "kms", ""): 1.0,
        ("mi", "miles", "mile"): 1.609344,
        ("m", "metres"): 0.001,
    },
    "mass": {
        ("g", "grams", "gram", "grammes", ""): 1.0,
        ("kg", "kilos", "kilo", "kilograms"): 1000.0,
        ("lb", "lbs", "pounds"): 453.59237,
        ("oz", "ounces", "oz."): 28.349523,
    },
    "body": {
        ("kg", "kilos", "kilograms", ""): 1.0,
        ("lb", "lbs", "pounds"): 0.45359237,
        ("st", "stone", "stones"): 6.35029318,
    },
    "height": {
        ("m", "metres", ""): 1.0,
        ("cm", "centimetres"): 0.01,
        ("ft", "feet", "'"): 0.3048,
        ("in", "inches", '"'): 0.0254,
    },
    "hours": {("h", "hours", "hrs", "hour", ""): 1.0, ("min", "mins", "minutes", "m"): 1 / 60},
    "volume": {
        ("l", "L", "litres", "liters", ""): 1.0,
        ("ml", "millilitres"): 0.001,
        ("gal", "gallons"): 3.785411784,
        ("fl oz", "fluid ounces", "fl. oz", "oz"): 0.0295735,
    },
    "percent": {("%", "percent", "per cent", "pc", " %", ""): 1.0},
}
FIGURES = [("7", 7.0), ("7.5", 7.5), ("7,5", 7.5), ("7½", 7.5), ("0.25", 0.25), ("12", 12.0),
           ("a quarter", 0.25), ("half a", 0.5), ("three", 3.0), (" 7 ", 7.0),
           ("½", 0.5)]  # fmt: skip
SIGNS = [("minus ", -1), ("-", -1), ("– ", -1), ("−", -1), ("+", 1), ("", 1)]


def spelled(kind: str) -> list[tuple[str, float]]:
    found: list[tuple[str, float]] = []
    for units, factor in SPELLINGS[kind].items():
        for unit, (figure, value), gap in product(units, FIGURES, ("", " ")):
            if figure[-1].isalpha() and not (gap and unit and unit[0].isalpha()):
                continue
            if figure == " 7 " and unit:
                continue
            found.append((f"{figure}{gap}{unit}", value * factor))
    if kind == "temperature":
        found = [(s + t, n * v) for t, v in found if t[0].isdigit() for s, n in SIGNS]
    return found


@pytest.mark.parametrize("kind", SPELLINGS)
def test_sixty_and_more_spellings_of_every_quantity_are_read_right(kind) -> None:
    found = spelled(kind)
    assert len(set(found)) >= 60
    for text, value in found:
        assert parse_quantity(text, kind) == pytest.approx(value, rel=1e-4), text


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [
        ("30 x 20 x 10 cm", "volume", 6), ("30×20×10", "volume", 6),
        ("12x8x4 in", "volume", 6.2926),
        ("4 below", "temperature", -4), ("4 below zero C", "temperature", -4),
        ("degF 15", "temperature", None), ("20 degF", "temperature", -6.6667),
        ("1 200 m", "altitude", 1200), ("1\u202f200 m", "altitude", 1200),
        ("1'200 m", "altitude", 1200), ("1,234.5 ft", "altitude", 376.276),
        ("1.234,5 m", "altitude", 1234.5), ("1,234,567 mm", "column", 1234567),
        ("1h30", "hours", 1.5), ("1:30", "hours", 1.5), ("1 h 30 min", "hours", 1.5),
        ("an hour and a half", "hours", 1.5), ("2 and a half hours", "hours", 2.5),
        ("2 hours and 15 minutes", "hours", 2.25), ("6'2\"", "height", 1.8796),
        ("6’ 2”", "height", 1.8796), ("5ft5", "height", 1.651), ("1m75", "height", 1.75),
        ("175", "height", 1.75), ("9 st 13", "body", 63.0493), ("1 lb 8", "mass", 680.389),
        ("2 kg 300", "mass", 2300), ("1.250 kg", "mass", 1250), ("1 1/2 mi", "distance", 2.41402),
        ("three quarters of a litre", "volume", 0.75), ("1 gal", "volume", 3.78541),
        ("5 Beaufort", "wind", 9.3468), ("Bft 5", "wind", 9.3468), ("force 0", "wind", 0),
    ],
)  # fmt: skip
def test_turns_of_phrase(text, kind, value) -> None:
    if value is None:
        with pytest.raises(ValueError, match="number"):
            parse_quantity(text, kind)
    else:
        assert parse_quantity(text, kind) == pytest.approx(value, rel=1e-4)


@pytest.mark.parametrize(
    ("text", "kind", "one", "other"),
    [
        ("1.234 m", "altitude", "1234", "1.234"),
        ("1.234", "altitude", "1234", "1.234"),
        ("1,250 km", "distance", "1250", "1.25"),
        ("1,250 kg", "body", "1250", "1.25"),
        ("2.500 g", "mass", "2500", "2.5"),
    ],
)
def test_what_can_mean_two_things_is_asked(text, kind, one, other) -> None:
    with pytest.raises(ValueError, match=f"can mean {one} or {other}"):
        parse_quantity(text, kind)


@pytest.mark.parametrize(
    ("text", "kind"),
    [
        ("3x4", "volume"), ("1x2x3 kg", "volume"),
        ("5 ft 14", "height"), ("5 5", "mass"), ("1,23,456 m", "altitude"), ("13 Beaufort", "wind"),
        ("3 lb -2 oz", "mass"), ("12 bananas", "mass"), ("1.2.3", "rain"), ("", "wind"),
        ("°", "temperature"), ("-", "hours"),
    ],
)  # fmt: skip
def test_what_is_no_quantity_is_told(text, kind) -> None:
    with pytest.raises(ValueError, match=r"\w+ \w+"):
        parse_quantity(text, kind)


@given(st.sampled_from(sorted(set(DEFAULT_UNIT) - {"lapse"})), st.floats(0, 3000), st.booleans())
def test_what_a_field_shows_is_read_back(kind, value, customary) -> None:
    display = Display(customary)
    assert typed(written(value, kind, display), kind, display).value == pytest.approx(
        value, abs=0.35
    )


@given(st.text(max_size=12), st.sampled_from(sorted(DEFAULT_UNIT)))
def test_nothing_typed_does_anything_but_count_or_be_told(text, kind) -> None:
    try:
        assert isinstance(parse_quantity(text, kind), float)
    except ValueError as fault:
        assert str(fault)[0] in "“tBa"


@pytest.mark.parametrize(
    ("text", "hours"),
    [
        ("9 am", 9), ("9:30pm", 21.5), ("9.30 p.m.", 21.5), ("17.30", 17.5), ("17h30", 17.5),
        ("0830", 8.5), ("noon", 12), ("midnight", 0), ("12 am", 0), ("12 pm", 12), ("8", 8),
        ("8h", 8), ("half past 8", 8.5), ("quarter to 9 pm", 20.75), ("8 o'clock", 8),
    ],
)  # fmt: skip
def test_clock_times(text, hours) -> None:
    assert parse_clock(text) == pytest.approx(hours)


@pytest.mark.parametrize(
    ("text", "north", "east"),
    [
        ("54.47, -3.21", 54.47, -3.21), ("54°28'N 3°12'W", 54.46667, -3.2),
        ("54° 28′ 30″ N, 3° 12′ 15″ W", 54.475, -3.204167), ("N 54 28.2 W 3 12", 54.47, -3.2),
        ("54 28 N, 3 12 W", 54.46667, -3.2), ("−18.4 −68.9", -18.4, -68.9),
        ("67,9; 20,5", 67.9, 20.5), ("18.4 S 68.9 W", -18.4, -68.9), ("3.21W 54.47N", 54.47, -3.21),
        ("lat 54.47 lon -3.21", 54.47, -3.21), ("54.47 north, 3.21 west", 54.47, -3.21),
    ],
)  # fmt: skip
def test_places_on_the_globe(text, north, east) -> None:
    assert parse_position(text) == pytest.approx((north, east), abs=1e-4)


@pytest.mark.parametrize(
    "text", ["", "Long water", "91, 0", "10, 181", "54.47", "54°28'N 3°12'N", "54°61'N 3°W"]
)
def test_what_is_no_place_is_told(text) -> None:
    with pytest.raises(ValueError, match=r"latitude|longitude"):
        parse_position(text)


@given(st.floats(-90, 90), st.floats(-180, 180))
def test_places_are_told_as_they_are_read(north, east) -> None:
    assert parse_position(position_text(north, east)) == pytest.approx((north, east), abs=1e-4)


@pytest.mark.parametrize("text", ["9" * 100_000, "1 " * 50_000, "deg" * 40_000, "½" * 90])
def test_endless_texts_are_refused_at_once(text) -> None:
    for read in (parse_clock, parse_position, lambda each: parse_quantity(each, "mass")):
        with pytest.raises(ValueError, match="too long"):
            read(text)
