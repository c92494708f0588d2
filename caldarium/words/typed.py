"""What people type: quantities, clock times, parts of a day, places on the globe."""

import math
import re
from dataclasses import dataclass

from caldarium.words.units import (
    DEFAULT_UNIT,
    UNITS,
    Display,
    clock_text,
    shown_unit,
    unit_of,
)

_SPELLED = {
    "c": "celsius centigrade",
    "f": "fahrenheit",
    "k": "kelvin kelvins",
    "m/s": "ms mps metres_per_second meters_per_second metres_a_second meters_a_second m_per_s",
    "km/h": "kmh kph kmph km_per_hour km_an_hour kilometres_per_hour kilometers_per_hour "
    "kilometres_an_hour kilometers_an_hour",
    "mph": "miles_per_hour miles_an_hour mi/h",
    "kn": "kt kts knot knots",
    "m": "metre metres meter meters",
    "ft": "foot feet '",
    "km": "kms kilometre kilometres kilometer kilometers",
    "mi": "mile miles",
    "mm": "millimetre millimetres millimeter millimeters",
    "cm": "centimetre centimetres centimeter centimeters",
    "in": 'inch inches "',
    "g": "gr gram grams gramme grammes",
    "kg": "kgs kilo kilos kilogram kilograms kilogramme kilogrammes",
    "oz": "ounce ounces",
    "lb": "lbs pound pounds",
    "st": "stone stones",
    "h": "hr hrs hour hours",
    "min": "mins minute minutes",
    "l": "litre litres liter liters ltr",
    "ml": "millilitre millilitres milliliter milliliters",
    "cl": "centilitre centilitres centiliter centiliters",
    "floz": "fl_oz fl._oz fluid_ounce fluid_ounces",
    "pt": "pint pints",
    "qt": "quart quarts",
    "gal": "gallon gallons",
    "%": "percent per_cent pc",
    "m²": "m2 square_metres square_meters",
    "ft²": "ft2 sq_ft square_feet",
}
"""Other spellings of a unit; _ stands for a space."""
_ALSO = {"hours": {"m": "min"}, "minutes": {"m": "min"}, "volume": {"oz": "floz"}}
"""Spellings that mean a unit in one kind of quantity only."""
_SMALLER = {"ft": ("in", 12), "st": ("lb", 14), "lb": ("oz", 16), "h": ("min", 60),
            "m": ("cm", 100), "kg": ("g", 1000), "km": ("m", 1000)}  # fmt: skip
"""The unit of a bare figure after one of these, and how many of it make up the larger."""
_THOUSANDS = {"altitude": ("m", "ft"), "mass": ("g",), "column": ("mm",), "number": ("",)}
"""Units of which people write thousands, so that a comma before three digits parts those."""
_WORDS = {
    "half": 0.5, "quarter": 0.25, "a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4,
    "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11, "twelve": 12,
    "fifteen": 15, "twenty": 20, "thirty": 30, "forty": 40, "fifty": 50, "sixty": 60,
}  # fmt: skip
_FRACTIONS = {"½": 1 / 2, "¼": 1 / 4, "¾": 3 / 4, "⅓": 1 / 3, "⅔": 2 / 3, "⅛": 1 / 8, "⅜": 3 / 8,
              "⅝": 5 / 8, "⅞": 7 / 8}  # fmt: skip
_FIGURE = re.compile(
    r"[+-]?\d{1,3}(?:[ ']\d{3})+(?![\d])(?:[.,]\d+)?|[+-]?\d+(?:[.,]\d+)*\.?|[+-]?[.,]\d+"
)
_DEGREE = re.compile(
    r"\s*(?:[°º]|\bdeg(?:ree)?s?\b\.?|(?<=[^a-z\s])deg(?:ree)?s?\.?|\bdeg(?=[cfk]\b))\s*"
)
LONGEST = 80
"""Letters of a figure at most."""
_ASKED = re.compile(r"[+-]?[1-9]\d{0,2}[.,]\d{3}")


@dataclass(frozen=True)
class Typed:
    """A quantity that was typed: its value in the core's unit, and the text with its unit."""

    value: float
    text: str


def typed(text: str, kind: str, display: Display) -> Typed:
    """A quantity as it was typed in a browser that shows some units.

    Args:
        text: see parse_quantity.
        kind: a key of DEFAULT_UNIT, or clock.
        display: whose unit a bare number has.

    Raises:
        ValueError: with a sentence for the person who typed it.

    Source: parse_quantity.
    """
    stripped = text.strip()
    if kind == "clock":
        return Typed(parse_clock(stripped), stripped)
    value, unit = _quantity(stripped, kind, unit_of(kind, display))
    return Typed(value, f"{stripped} {shown_unit(unit)}".strip() if unit else stripped)


def parse_quantity(text: str, kind: str) -> float:
    """A quantity as people type it, in the core's unit.

    Args:
        text: such as "15F", "minus 4", "1 200 m", "2 lb 3", "6'2\\"", "half a litre", "1h30",
            "5 Beaufort", of room "30 x 20 x 10 cm"; without a unit the metric one of its kind. A
            bare figure after another unit has the next smaller one.
        kind: a key of DEFAULT_UNIT.

    Returns:
        The value in that kind's default unit. Gallons, quarts and pints are those of the US, as
        the fluid ounces are.

    Raises:
        ValueError: with a sentence for the person who typed it; also where it can mean two things.

    Source: definitions of the units (NIST SP 811); Beaufort by WMO-No. 306, code table 1100.
    """
    return _quantity(text.strip(), kind, DEFAULT_UNIT[kind])[0]


def _quantity(text: str, kind: str, bare: str) -> tuple[float, str]:
    """The value, and the unit that a bare number was given, empty where one was named."""
    _refuse_long(text)
    cleaned = _plain(text)
    if kind == "height":
        bare = _height_unit(cleaned, bare)
    if not cleaned:
        raise ValueError("type a number")
    if kind == "wind" and (force := _beaufort(cleaned)) is not None:
        return force, ""
    if kind == "temperature":
        below = re.fullmatch(r"(\d[^a-z]*)(.*?)\s*below(?: zero)?(.*)", cleaned)
        cleaned = f"-{below[1]}{below[2]}{below[3]}" if below else cleaned
    if kind == "hours" and (clock := re.fullmatch(r"(\d{1,2}):([0-5]\d)", cleaned)):
        return int(clock[1]) + int(clock[2]) / 60, ""
    if kind == "volume" and (box := _BOX.fullmatch(cleaned)):
        side = box[4] or ("cm" if bare == "l" else "in")
        sides = [_number(each, text, kind, side) for each in box.groups()[:3]]
        return math.prod(sides) * _LITRES_A_CUBE[side], ""
    total, place, before = 0.0, 0, ""
    terms = 0
    while place < len(cleaned):
        match = _FIGURE.match(cleaned, place)
        if match is None:
            raise ValueError(f"“{text}” is not a number{_with_units(kind)}")
        figure, place = match[0], _past_space(cleaned, match.end())
        unit, place = _unit_at(cleaned, place, kind)
        smaller = ""
        if not unit and terms:
            smaller, most = _SMALLER.get(before, ("", 0))
            if smaller not in UNITS[kind] or not _value(figure) < most:
                raise ValueError(f"“{text}” is not one quantity")
        named = unit or smaller or bare
        number = _number(figure, text, kind, named)
        if terms and (figure[0] in "+-" or kind == "temperature"):
            raise ValueError(f"“{text}” is not one quantity")
        factor, offset = UNITS[kind][named]
        total += number * factor + offset
        before = before if terms and not unit else unit
        terms, place = terms + 1, _past_space(cleaned, place)
    if not math.isfinite(total):
        raise ValueError("that number is too large")
    return total, "" if before else bare


_BOX = re.compile(
    r"(\d[\d.,]*) ?[x×*] ?(\d[\d.,]*) ?[x×*] ?(\d[\d.,]*) ?(mm|cm|m|in)?", re.IGNORECASE
)
"""A thing measured by its three sides."""
_LITRES_A_CUBE = {"mm": 1e-6, "cm": 1e-3, "m": 1e3, "in": 0.016387064}


def _refuse_long(text: str) -> None:
    """Nobody types a figure of so many letters, and patterns take their time over one."""
    if len(text) > LONGEST:
        raise ValueError(f"“{text[:20]}…” is too long for a number, latitude or clock time")


def _height_unit(cleaned: str, bare: str) -> str:
    """The unit of a person's height without one: nobody is 175 m, nor 70 ft, tall."""
    if not re.fullmatch(r"\d{2,3}(?:[.,]\d)?", cleaned):
        return bare
    three = len(re.split("[.,]", cleaned)[0]) == 3
    return {("m", True): "cm", ("ft", False): "in"}.get((bare, three), bare)


def _plain(text: str) -> str:
    """The text in small letters, with one kind of sign, space, prime and fraction."""
    found = re.sub(r"[\u00a0\u2000-\u200a\u202f\s]+", " ", text.strip().lower())
    found = re.sub(r"[\u2212\u2010-\u2015\ufe63\uff0d]", "-", found)
    found = re.sub(r"[\u2019\u2032\u02b9`´]", "'", found)
    found = re.sub(r"[\u201c\u201d\u2033]|''", '"', found)
    found = re.sub(r"^(?:minus|neg(?:ative)?\.?)\s*(?=[\d.,])|^-\s+(?=[\d.,])", "-", found)
    found = re.sub(r"^(?:plus\s*|\+\s+)(?=[\d.,])", "+", found)
    found = _DEGREE.sub(" ", found)
    found = re.sub(r"(\d)\s*([½¼¾⅓⅔⅛⅜⅝⅞])", lambda m: _decimal(int(m[1]) + _FRACTIONS[m[2]]), found)
    found = re.sub(r"[½¼¾⅓⅔⅛⅜⅝⅞]", lambda m: _decimal(_FRACTIONS[m[0]]), found)
    found = re.sub(
        r"(\d+) ([1-9])/([2-9])(?!\d)", lambda m: _decimal(int(m[1]) + int(m[2]) / int(m[3])), found
    )
    found = re.sub(
        r"(?<![\d.,])([1-9])/([2-9])(?![\d])", lambda m: _decimal(int(m[1]) / int(m[2])), found
    )
    return _numerals(found).strip()


def _numerals(text: str) -> str:
    """Numbers that are spelled out, as figures: "half a litre", "an hour and a half"."""
    found = re.sub(r"\bthree quarters(?: of)?(?: an?)?\b", "0.75", text)
    found = re.sub(r"\b(?:a )?(half|quarter)(?: of)?(?: an?)?(?= [a-z])", r"\1", found)
    first = re.match(r"([a-z]+)\b", found)
    if first and first[1] in _WORDS:
        found = f"{_WORDS[first[1]]:g}{found[first.end() :]}"
    found = re.sub(
        r"^([\d.]+) ?((?!and)[a-z]*) ?and (?:a )?(half|quarter)( [a-z]+)?$",
        lambda m: f"{_decimal(float(m[1]) + _WORDS[m[3]])} {m[2] or (m[4] or '').strip()}",
        found,
    )
    return re.sub(r"(?<=[a-z'\"]) (?:and|,) (?=\d)|(?<=[a-z]), (?=\d)", " ", found)


def _decimal(value: float) -> str:
    return f"{value:.6f}".rstrip("0").rstrip(".")


def _past_space(text: str, place: int) -> int:
    while place < len(text) and text[place] == " ":
        place += 1
    return place


def _unit_at(text: str, place: int, kind: str) -> tuple[str, int]:
    """The unit that stands at a place, empty for none, and the place after it."""
    rest = text[place:]
    if not rest or rest[0].isdigit() or rest[0] in "+-.,":
        return "", place
    for spelling, unit in _spellings(kind):
        if rest.startswith(spelling):
            after = rest[len(spelling) :]
            ends = after.removeprefix(".")
            if not ends or not (ends[0].isalpha() or ends[0] in "/²"):
                return unit, place + len(rest) - len(ends)
    unknown = re.match(r"[^\s\d]+", rest)
    name = unknown[0] if unknown else rest
    if not _allowed(kind):
        raise ValueError(f"“{text}”: a plain number has no unit")
    if not re.search(r"[a-z%°]", name):
        raise ValueError(f"“{text}” is not a number{_with_units(kind)}")
    raise ValueError(f"“{name}” is no unit here; use {_allowed(kind)}")


def _spellings(kind: str) -> list[tuple[str, str]]:
    """Every spelling of the units of a kind, the longest first."""
    known = {name: name for name in UNITS[kind] if name}
    for unit in UNITS[kind]:
        for spelling in _SPELLED.get(unit, "").split():
            known.setdefault(spelling.replace("_", " "), unit)
    known |= _ALSO.get(kind, {})
    return sorted(known.items(), key=lambda each: -len(each[0]))


def _allowed(kind: str) -> str:
    return ", ".join(shown_unit(name) for name in UNITS[kind] if name)


def _with_units(kind: str) -> str:
    return f" with a unit ({_allowed(kind)})" if _allowed(kind) else ""


def _value(figure: str) -> float:
    """A figure whose point is where it must be; both marks stand, the last parts decimals."""
    bare = figure.replace(" ", "").replace("'", "")
    last = max(bare.rfind("."), bare.rfind(","))
    if last < 0:
        return float(bare)
    mark = bare[last]
    whole, decimals = bare[:last], bare[last + 1 :]
    if mark in whole:
        return float(re.sub(r"[.,]", "", bare))
    return float(re.sub(r"[.,]", "", whole) + "." + decimals)


def _number(figure: str, text: str, kind: str, unit: str) -> float:
    """A figure; one mark before three digits parts thousands, or is asked about."""
    marks = set(re.findall(r"[.,]", figure))
    if len(marks) == 1 and figure.count(mark := next(iter(marks))) > 1:
        if not re.fullmatch(rf"[+-]?\d{{1,3}}(?:\{mark}\d{{3}})+", figure):
            raise ValueError(f"“{text}” is not one number")
        return float(figure.replace(mark, ""))
    if not _ASKED.fullmatch(figure):
        return _value(figure)
    thousands = unit in _THOUSANDS.get(kind, ())
    if "," in figure and thousands:
        return float(figure.replace(",", ""))
    if "." in figure and not (thousands and unit):
        return float(figure)
    whole, decimal = re.sub(r"[.,]", "", figure), re.sub(r"[.,]", ".", figure).rstrip("0")
    raise ValueError(f"“{text}” can mean {whole} or {decimal.rstrip('.')}: write it as one of them")


def _beaufort(text: str) -> float | None:
    """Wind of a Beaufort force, the middle of its class [m/s]."""
    match = re.fullmatch(
        r"(?:(?:bft|beaufort|force|f) ?(\d{1,2})|(\d{1,2}) ?(?:bft|bf|beaufort))", text
    )
    if match is None:
        return None
    force = int(match[1] or match[2])
    if force > 12:
        raise ValueError("Beaufort goes from 0 to 12")
    return 0.836 * force**1.5


def parse_clock(text: str) -> float:
    """A clock time as people type it, in hours since midnight.

    Args:
        text: such as "8:30", "08.30", "0830", "8", "17h30", "9 am", "half past 8", "noon".

    Returns:
        Hours, 0 to below 24.

    Raises:
        ValueError: with a sentence for the person who typed it.

    Source: none, notation.
    """
    _refuse_long(text)
    cleaned = re.sub(r"\s+", " ", text.strip().lower()).removesuffix(" o'clock")
    if cleaned in ("noon", "midday", "midnight"):
        return 0.0 if cleaned == "midnight" else 12.0
    halved = re.fullmatch(r"(half past|quarter past|quarter to) (\d{1,2})( ?[ap]\.?m\.?)?", cleaned)
    if halved is not None:
        more = {"half past": 0.5, "quarter past": 0.25, "quarter to": -0.25}[halved[1]]
        return (parse_clock(halved[2] + (halved[3] or "")) + more) % 24
    match = re.fullmatch(
        r"(\d{1,2})(?: ?[:.h] ?(\d{2})|h)?(?: ?([ap])\.?m\.?)?|(\d{2})(\d{2})(?: ?h)?", cleaned
    )
    if match is None:
        try:
            value = parse_quantity(cleaned, "hours")
        except ValueError:
            raise ValueError(f"“{text.strip()}” is no clock time; write it as 8:30") from None
    else:
        hours, minutes = int(match[1] or match[4]), int(match[2] or match[5] or 0)
        if minutes > 59 or (match[3] and not 1 <= hours <= 12):
            raise ValueError(f"“{text.strip()}” is no clock time; write it as 8:30")
        if match[3]:
            hours = hours % 12 + (12 if match[3] == "p" else 0)
        value = hours + minutes / 60
    if not 0 <= value < 24:
        raise ValueError("clock times go from 0:00 to 23:59")
    return value


SPANS = {
    "all day": (0.0, 24.0),
    "morning": (6.0, 6.0),
    "afternoon": (12.0, 6.0),
    "night": (20.0, 10.0),
}
"""Parts of a day by name: from when and for how long [h]."""


def parse_span(text: str) -> tuple[float, float]:
    """A part of a day as people type it.

    Args:
        text: a name of SPANS, or two clock times such as "10-18" or "22:00 to 4:30".

    Returns:
        When it begins [h since midnight] and how long it lasts [h], 1 to 24.

    Raises:
        ValueError: with a sentence for the person who typed it.

    Source: none, notation.
    """
    _refuse_long(text)
    cleaned = " ".join(text.lower().split())
    if cleaned in SPANS:
        return SPANS[cleaned]
    ends = re.split(r"\s*(?:–|-|\bto\b|\buntil\b)\s*", cleaned)
    if len(ends) != 2 or not all(ends):
        raise ValueError(f"“{text.strip()}”: write {', '.join(SPANS)}, or from and to as 10–18")
    begin = parse_clock(ends[0])
    end = 24.0 if re.fullmatch(r"24([:.h]00)?", ends[1]) else parse_clock(ends[1])
    lasts = end - begin if end > begin else end - begin + 24
    if lasts < 1:
        raise ValueError("give it an hour at least")
    return begin, lasts


def span_text(begin: float, lasts: float) -> str:
    """A part of a day in words, as parse_span takes it back.

    Source: none, wording.
    """
    named = next((name for name, span in SPANS.items() if span == (begin, lasts)), "")
    return named or f"{clock_text(begin)}–{clock_text(begin + lasts)}"


_HALF = re.compile(
    r"""\s*(?P<before>[nsew])?\s*(?P<sign>[+-])?\s*
    (?P<degrees>\d{1,3}(?:[.,]\d+)?)\s*(?:°|º|deg\.?|d)?\s*
    (?:(?P<minutes>\d{1,2}(?:[.,]\d+)?)\s*(?:'|m(?:in)?\.?)?\s*
    (?:(?P<seconds>\d{1,2}(?:[.,]\d+)?)\s*(?:"|s(?:ec)?\.?)?)?)?\s*(?P<after>[nsew])?\s*""",
    re.VERBOSE,
)
_WRITE = "write it as 54.47, -3.21 or 54°28'N 3°12'W"


def parse_position(text: str) -> tuple[float, float]:
    """A place on the globe as people type it.

    Args:
        text: latitude and longitude, such as "54.47, -3.21", "54°28'N 3°12'W", "N 54 28.2 W 3 12".

    Returns:
        Degrees north and degrees east.

    Raises:
        ValueError: with a sentence for the person who typed it.

    Source: none, notation.
    """
    _refuse_long(text)
    cleaned = _plain_position(text)
    for halves in _split(cleaned):
        found = [_angle(half) for half in halves]
        if None not in found:
            return _in_order([each for each in found if each is not None], text)
    raise ValueError(f"“{text.strip()}” is no latitude and longitude; {_WRITE}")


def _plain_position(text: str) -> str:
    found = re.sub(r"[\u00a0\u2000-\u200a\u202f\s]+", " ", text.strip().lower())
    found = re.sub(r"[\u2212\u2010-\u2015]", "-", found)
    found = re.sub(r"[\u2019\u2032]", "'", found)
    found = re.sub(r"[\u201c\u201d\u2033]|''", '"', found)
    for word in ("north", "south", "east", "west"):
        found = found.replace(word, word[0])
    return re.sub(r"\b(?:lat(?:itude)?|lon(?:g(?:itude)?)?)\b\.?:?", "", found).strip()


def _split(text: str) -> list[tuple[str, str]]:
    """Ways in which a text can be two halves: at a comma or semicolon before a space, after a
    letter of the compass, before one, at any space."""
    places = [
        match.span()
        for pattern in (r";", r",\s", r"(?<=[ns])\s*,?\s*(?=[\d+-])", r"\s(?=[ew]\b)", r",", r"\s")
        for match in re.finditer(pattern, text)
    ]
    return [(text[:begin], text[end:]) for begin, end in places]


def _angle(text: str) -> tuple[float, str] | None:
    """Degrees and the letter of the compass that stood with them, empty for none."""
    match = _HALF.fullmatch(text)
    if match is None or (match["before"] and match["after"]):
        return None
    parts = [float((match[name] or "0").replace(",", ".")) for name in ("minutes", "seconds")]
    if max(parts) >= 60:
        return None
    letter = match["before"] or match["after"] or ""
    value = float(match["degrees"].replace(",", ".")) + parts[0] / 60 + parts[1] / 3600
    down = match["sign"] == "-" or letter in ("s", "w")
    return (-value if down else value), letter


def _in_order(found: list[tuple[float, str]], text: str) -> tuple[float, float]:
    if found[0][1] in ("e", "w") and found[1][1] in ("n", "s", ""):
        found.reverse()
    (north, first), (east, second) = found
    if first in ("e", "w") or second in ("n", "s"):
        raise ValueError(f"“{text.strip()}”: one of them is a latitude; {_WRITE}")
    if abs(north) > 90:
        raise ValueError("a latitude lies between -90 and 90 degrees")
    if abs(east) > 180:
        raise ValueError("a longitude lies between -180 and 180 degrees")
    return north, east


def position_text(latitude: float, longitude: float) -> str:
    """A place on the globe, as parse_position takes it back. Source: none, notation."""
    return f"{_degrees(latitude)}, {_degrees(longitude)}"


def _degrees(value: float) -> str:
    return f"{value:.4f}".rstrip("0").rstrip(".")
