"""Where the browser shows customary units, no metric one is left on any page."""

import re

import pytest

from caldarium.demo import demo_store
from tests.courses import KINDS
from tests.web.pages import APART, pages_of

METRIC = re.compile(
    r"(?<![\w.,/])[\d.,−–-]*\d ?(?:°C|km/h|km|m/s|kg/m²|kg|g|mm|cm|m²|m|L|K)\b(?!/|²| K/W| h| s)"
    r"|°C|km/h|\bkm\b|m/s|\bkg\b"
)
CHOICES = re.compile(
    r"°C or °F|m/s, km/h, mph, kn|kg, lb or st|km or mi|g, kg, oz, lb|“[^”]*”|m, cm or ft in"
    r"|as 1 lb 3 oz or 540 g|as 540 g|1.5 L, 32 fl oz|°C kg m|pack 60 L|hold 60 MB"
    r"|90 g, 3 oz|kJ/g|kJ/\(kg K\)|kJ/kg"
)
"""Spellings that a field takes, offered beside each other, names of pieces, and constants of
physics."""


def _seen(text: str) -> str:
    """What a reader meets: text, titles and labels, without fields' own texts and lines of lists,
    which stand as their issuer wrote them."""
    text = re.sub(r'<(span|strong) class="as-written">[^<]*</\1>', "", text)
    told = re.findall(r'(?:title|aria-label|placeholder)="([^"]*)"', text)
    return CHOICES.sub("", re.sub(r"<[^>]*>", " ", text) + " ".join(told))


@pytest.mark.parametrize(
    "kind", ["the demo", "one person from nothing", "deep winter", "hot canyon"]
)
def test_no_metric_unit_is_left_in_customary_units(client, courses, kind) -> None:
    client.app.state.pieces.put(demo_store(), "the store")
    client.cookies.set("units", "customary")
    course = KINDS[kind]()
    number = courses.add(course, "made")
    looked = 0
    for address in (*pages_of(number, course), *APART):
        reply = client.get(address)
        if reply.headers["content-type"].startswith("text/html"):
            looked += 1
            found = [reply for reply in METRIC.finditer(_seen(reply.text))]
            assert not found, (address, [each[0] for each in found])
    assert looked > 25


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ({"low_c": "-200"}, "must be at least −76 °F"),
        ({"wind_ms": "900"}, "must be at most 134.22 mph"),
    ],
)
def test_limits_are_told_in_the_units_of_the_browser(client, form, words) -> None:
    client.cookies.set("units", "customary")
    base = {"person": "runa", "day": "0", "moment": "1.setting-out"}
    shown = client.post("/courses/1/edit", data=base | form).text.replace("-", "−")
    assert words in shown
