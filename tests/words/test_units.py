"""What people type. Conversions from NIST SP 811."""

import pytest

from caldarium.words.typed import parse_quantity, parse_span, span_text
from caldarium.words.units import Display, clock_text, hours_text


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [
        ("15F", "temperature", -9.4444), ("-40 °F", "temperature", -40), ("7", "temperature", 7),
        ("−4,5", "temperature", -4.5), ("2 lb 3 oz", "mass", 992.233), ("1.2 kg", "mass", 1200),
        ("1,200 ft", "altitude", 365.76), ("1,120 m", "altitude", 1120), ("36 km/h", "wind", 10),
        ("20 mph", "wind", 8.9408), ("0.4 in", "rain", 10.16), ("5 ft 10 in", "height", 1.778),
        ("12 st 4 lb", "body", 78.018), ("90 min", "hours", 1.5), ("12", "rain", 12),
    ],
)  # fmt: skip
def test_typed(text: str, kind: str, value: float) -> None:
    assert parse_quantity(text, kind) == pytest.approx(value, rel=1e-4)


@pytest.mark.parametrize(
    ("text", "kind"),
    [
        ("", "wind"), ("warm", "temperature"), ("12 m", "temperature"), ("5 5", "mass"),
        ("1e5", "mass"), ("3 lb -2 oz", "mass"), ("--3", "wind"), ("10F 3F", "temperature"),
        ("nan", "rain"),
    ],
)  # fmt: skip
def test_refused_with_a_sentence(text: str, kind: str) -> None:
    with pytest.raises(ValueError, match=r"\w+"):
        parse_quantity(text, kind)


def test_shown_in_both_systems() -> None:
    metric, customary = Display(), Display(customary=True)
    assert metric.temperature(-0.2) == "0 °C"
    assert customary.temperature(-40) == "\u221240 °F"
    assert customary.mass(1000) == "2 lb 3.3 oz"
    assert (metric.altitude(1120), customary.altitude(1120)) == ("1,120 m", "3,675 ft")
    assert customary.difference(5) == "9 °F"


def test_times() -> None:
    assert (clock_text(25.5), hours_text(0.3), hours_text(4)) == ("01:30", "18 min", "4 h")


@pytest.mark.parametrize(
    ("text", "span"),
    [
        ("all day", (0, 24)),
        ("Morning", (6, 6)),
        ("10-18", (10, 8)),
        ("22:00 to 4:30", (22, 6.5)),
        ("13.30 – 24", (13.5, 10.5)),
        ("10:00–18:00", (10, 8)),
    ],
)
def test_parts_of_a_day_are_read_and_told(text, span) -> None:
    assert parse_span(text) == pytest.approx(span)
    assert parse_span(span_text(*span)) == pytest.approx(span)


@pytest.mark.parametrize("text", ["", "sometimes", "10", "10-10:30", "-", "25-26", "9-10-11"])
def test_what_is_no_part_of_a_day_is_told(text) -> None:
    with pytest.raises(ValueError, match=r"write|clock|hour|number|no "):
        parse_span(text)


def test_a_height_of_nothing_has_no_sign() -> None:
    assert [Display().altitude(each) for each in (-0.0, -0.3, -0.6, 1120.4)] == [
        "0 m",
        "0 m",
        "-1 m",
        "1,120 m",
    ]
