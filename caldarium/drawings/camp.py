"""The whole camp on one night to one scale: shelters, whoever lies in them, and the wind."""

import math
from collections.abc import Mapping, Sequence

from caldarium.core.night.camp import ShelterNight, floor_area
from caldarium.core.night.nights import Night
from caldarium.core.night.shelter_faults import BUILT, width_m
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Shelter
from caldarium.core.plan.route import Camp
from caldarium.drawings.shelter import USUAL_LENGTH
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.course import counted
from caldarium.words.night import fault_words
from caldarium.words.units import Display

WIDTH, LEFT, TOP, ROW_GAP = 940.0, 76.0, 64.0, 62.0
BETWEEN_M = 1.9
"""Room between shelters for guy lines and feet [m]."""
LARGEST_METRE, SKY_M = 62.0, (2.1, 0.7)
WITHOUT = "under the sky"


def camp_plan(
    camp: Camp,
    tents: Sequence[tuple[Shelter, ShelterNight, list[Person]]],
    outside: Sequence[Person],
    beds: Mapping[str, Night],
    display: Display,
) -> Svg:
    """Every shelter of a camp with its sleepers by how warm they lie, and the wind on it.

    The wind comes from the long side where shelters are not turned into it.
    """
    sizes = [_size(shelter) for shelter, _, _ in tents]
    sizes += [SKY_M] * len(outside)
    wide = sum(length + BETWEEN_M for length, _ in sizes)
    rows = max(1, math.ceil(wide / 24))
    metre = min(LARGEST_METRE, (WIDTH - LEFT - 12) / (wide / rows - BETWEEN_M / 2))
    parts: list[Svg] = []
    x, y, deepest = LEFT, TOP, 0.0
    for shelter, night, sleepers in tents:
        length, width = (each * metre for each in _size(shelter))
        if x + length > WIDTH - 8 and x > LEFT:
            x, y, deepest = LEFT, y + deepest + ROW_GAP, 0.0
        parts.append(_tent(shelter, night, sleepers, beds, camp, (x, y, length, width), display))
        x, deepest = x + length + BETWEEN_M * metre, max(deepest, width)
    if outside:
        if x + SKY_M[0] * metre > WIDTH - 8:
            x, y, deepest = LEFT, y + deepest + ROW_GAP, 0.0
        under = [text(x, y - 8, WITHOUT, "tent-name")]
        for number, person in enumerate(outside):
            place = (x, y + number * (SKY_M[1] * metre + 4), SKY_M[0] * metre, SKY_M[1] * metre)
            under.append(_sleeper(person, beds.get(person.id), place, display))
        parts.append(element("g", *under, class_="camp-tent", data_shelter=""))
        deepest = max(deepest, len(outside) * (SKY_M[1] * metre + 4))
    height = y + deepest + 46
    gust = max((night.gust for _, night, _ in tents), default=0.0)
    parts += [*_wind(camp, gust, height, display), *_scale(metre, height, display)]
    lies = [f"a slope of {camp.slope_deg:.0f}°"] if camp.slope_deg else []
    if camp.hollow_k:
        lies.append(f"a hollow, {display.difference(camp.hollow_k)} colder on clear calm nights")
    if lies:
        parts.append(text(WIDTH - 8, height - 10, f"on {' and in '.join(lies)}", "axis", "end"))
    unfit = sum(not night.fit for _, night, _ in tents)
    label = (
        f"The camp: {counted(len(tents), 'shelter')}, {unfit} of them unfit, gusts of "
        f"{display.wind(gust)}, {counted(len(outside), 'person', 'people')} under the sky. "
        "Verdicts stand below."
    )
    return drawing(WIDTH, height, label, *parts, class_="cut tent camp")


def _size(shelter: Shelter) -> tuple[float, float]:
    length = shelter.length_m or USUAL_LENGTH
    return length, shelter.width_m or floor_area(shelter) / length


def _tent(
    shelter: Shelter,
    night: ShelterNight,
    sleepers: list[Person],
    beds: Mapping[str, Night],
    camp: Camp,
    place: tuple[float, float, float, float],
    display: Display,
) -> Svg:
    """One shelter at a place: left, top, length and width [px]."""
    x, y, length, width = place
    metre = width / _size(shelter)[1]
    strong = "" if night.fit else " strong"
    close = int(abs(night.at_walls - night.stands) < 1)
    gust, stands = (display.wind(each, close) for each in (night.at_walls, night.stands))
    parts = [
        rect(
            x,
            y,
            length,
            width,
            f"floor{strong}",
            title("; ".join([shelter.name, *(fault_words(each) for each in night.faults)])),
            rx=5.0,
        ),
        text(x, y - 21, shelter.id.replace("-", " "), "tent-name"),
        text(x, y - 8, f"{'fit' if night.fit else 'unfit'}, {gust} of {stands}", f"axis{strong}"),
    ]
    if camp.windbreak in ("a wall", "both") and shelter.kind not in BUILT:
        parts.append(
            line(x - 9, y - 3, x - 9, y + width + 3, "snow-wall")
            if camp.windbreak == "both"
            else line(x - 3, y - 38, x + length + 3, y - 38, "snow-wall")
        )
    top = y
    for person in sleepers:
        high = width_m(person) * metre
        parts.append(_sleeper(person, beds.get(person.id), (x + 2, top, length - 4, high), display))
        top += high
    for number in range(shelter.entrances):
        door = x if number % 2 else x + length
        parts.append(line(door, y + 5, door, y + 5 + 0.6 * metre, "door"))
    return element("g", *parts, class_="camp-tent", data_shelter=shelter.id)


def _sleeper(
    person: Person, bed: Night | None, place: tuple[float, float, float, float], display: Display
) -> Svg:
    x, y, length, width = place
    state = bed.state if bed else "gap"
    margin = display.difference(bed.margin) if bed and math.isfinite(bed.margin) else "no bed"
    words = f"{person.name}: {state}, margin {margin}"
    return element(
        "g",
        rect(x, y + 1.5, length, width - 3, f"cell {state}", title(words), rx=7.0),
        text(x + 7, y + width / 2 + 4, person.name.split()[0], "who"),
        text(x + length - 7, y + width / 2 + 4, margin, "who", "end"),
        class_="sleeper",
        data_person=person.id,
    )


def _wind(camp: Camp, gust: float, height: float, display: Display) -> list[Svg]:
    """An arrow from the long side, or from the narrow ends where shelters are turned."""
    reach = min(14 + 1.6 * gust, 48)
    if camp.windbreak in ("narrow end into it", "both"):
        middle = height / 2 - 10
        return [
            line(6, middle, 6 + reach, middle, "gust"),
            path(
                [(16 + reach, middle), (6 + reach, middle - 6), (6 + reach, middle + 6)],
                "gust-head",
                closed=True,
            ),
            text(6, middle - 12, "gusts", "axis"),
            text(6, middle + 20, display.wind(gust), "axis"),
        ]
    return [
        line(24, 22, 24, 22 + reach, "gust"),
        path([(24, 32 + reach), (18, 22 + reach), (30, 22 + reach)], "gust-head", closed=True),
        text(6, 14, f"gusts {display.wind(gust)}", "axis"),
    ]


def _scale(metre: float, height: float, display: Display) -> list[Svg]:
    base = height - 14
    return [
        line(LEFT, base, LEFT + 2 * metre, base, "axis-line"),
        text(
            LEFT + 2 * metre + 6,
            base + 4,
            f"{display.span(2, 0)}; drag a sleeper onto another shelter",
            "axis",
        ),
    ]
