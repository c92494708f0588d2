"""A shelter to scale: the plan with its sleepers, and a section with wind, snow and damp."""

from itertools import pairwise

from caldarium.core.night.camp import ShelterNight, floor_area
from caldarium.core.night.shelter_faults import LOFT_M, WET_KIT_M2, kit_room, width_m
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Shelter
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.units import Display

WIDTH, HEIGHT, METRE = 560.0, 190.0, 82.0
PLAN_LEFT, PLAN_TOP, SECTION_LEFT, GROUND = 12.0, 22.0, 330.0, 160.0
USUAL_LENGTH, USUAL_HEIGHT = 2.1, 1.0
"""Where a shelter was not measured [m]."""
_TENT = ((0, 0), (0.12, 0.65), (0.32, 0.98), (0.5, 1), (0.68, 0.98), (0.88, 0.65), (1, 0))
_DOME = ((0, 0), (0.04, 0.4), (0.18, 0.75), (0.5, 1), (0.82, 0.75), (0.96, 0.4), (1, 0))
_ROOF = ((0, 0), (0.1, 0.25), (0.5, 1), (0.9, 0.25), (1, 0))
_HOUSE = ((0.05, 0), (0.05, 0.6), (0, 0.58), (0.5, 1), (1, 0.58), (0.95, 0.6), (0.95, 0))
OUTLINES = {
    "double skin": _TENT,
    "single skin": _ROOF,
    "tarp": _ROOF,
    "hammock tarp": _ROOF,
    "bivouac bag": _TENT,
    "group shelter": _TENT,
    "snow shelter": _DOME,
    "igloo": _DOME,
    "bothy": _HOUSE,
    "hut": _HOUSE,
}
"""Sections by kind: points across and up, as shares of width and height."""


def shelter_plan(
    shelter: Shelter, night: ShelterNight, sleepers: list[Person], display: Display
) -> Svg:
    """Plan and section of one shelter on one night."""
    length = shelter.length_m or USUAL_LENGTH
    width = shelter.width_m or floor_area(shelter) / length
    metre = min(METRE, 290 / length, 150 / width)
    parts: list[Svg] = [
        text(
            PLAN_LEFT,
            14,
            f"plan, {display.span(length)} by {display.span(width)}"
            + ("" if shelter.length_m and shelter.width_m else ", not measured"),
            "axis",
        ),
        rect(PLAN_LEFT, PLAN_TOP, length * metre, width * metre, "floor", rx=3.0),
    ]
    y = PLAN_TOP
    edge = PLAN_TOP + width * metre
    for person in sleepers:
        wide, long = width_m(person) * metre, (person.height_m + LOFT_M) * metre
        over = y + wide > edge + 0.5 or long > length * metre + 0.5
        words = (
            f"{person.name}: {display.span(person.height_m, 2)} tall, "
            f"{display.span(width_m(person), 2)} wide with room"
        )
        parts.append(
            element(
                "g",
                rect(
                    PLAN_LEFT,
                    y + 1,
                    long,
                    wide - 2,
                    f"lying{' over' if over else ''}",
                    title(words),
                    rx=8.0,
                ),
                text(PLAN_LEFT + 8, y + wide / 2 + 4, person.name.split()[0], "bed-name who"),
                class_="sleeper",
                data_person=person.id,
            )
        )
        y += wide
    for number in range(shelter.entrances):
        x = PLAN_LEFT if number % 2 else PLAN_LEFT + length * metre
        parts.append(line(x, PLAN_TOP + 8, x, PLAN_TOP + 8 + 0.6 * metre, "door"))
    parts.append(text(PLAN_LEFT + length * metre + 8, 14, "wet kit", "axis"))
    parts += _wet_kit(shelter, sleepers, metre, PLAN_LEFT + length * metre)
    parts += _section(shelter, night, width, display)
    label = (
        f"{shelter.name} with {len(sleepers)} sleepers in plan, and its section with gusts of "
        f"{display.wind(night.gust)} and {display.snow_load(night.snow)} of snow."
    )
    return drawing(WIDTH, HEIGHT, label, *parts, class_="cut tent")


def _wet_kit(shelter: Shelter, sleepers: list[Person], metre: float, right: float) -> list[Svg]:
    """Packs, boots and wet clothes, to scale: in the porch, as far as there is room."""
    side = WET_KIT_M2**0.5 * metre
    fits = not kit_room(shelter, sleepers) < WET_KIT_M2 * len(sleepers)
    words = "pack, boots and wet clothes" + ("" if fits else ": no room under cover for all")
    kind = "wet-kit" if fits else "wet-kit over"
    return [
        rect(
            right + 6,
            PLAN_TOP + number * (side + 3),
            min(side, SECTION_LEFT - right - 12),
            side,
            kind,
            title(words),
            rx=4.0,
        )
        for number in range(min(len(sleepers), 4))
        if SECTION_LEFT - right > 20
    ]


def _section(shelter: Shelter, night: ShelterNight, width: float, display: Display) -> list[Svg]:
    height = shelter.height_m or USUAL_HEIGHT
    metre = min(METRE, 110 / height, 130 / width)
    left, wide, high = SECTION_LEFT + 70, width * metre, height * metre
    top = GROUND - high
    arch = [(left + x * wide, GROUND - y * high) for x, y in OUTLINES[shelter.kind]]
    parts: list[Svg] = [text(SECTION_LEFT, 14, "section", "axis")]
    if night.snow >= 0.5:
        deep = min(4 + night.snow / 2, 22)
        roof = arch[1:-1]
        raised = [(x, y - deep) for x, y in reversed(roof)]
        parts.append(path([*roof, *raised], "roof-snow", closed=True))
    parts += [
        path(arch, "tent-skin", closed=True),
        line(SECTION_LEFT, GROUND, WIDTH - 4, GROUND, "axis-line"),
        text(
            left + wide / 2,
            GROUND - 8,
            f"dew {display.temperature(night.inside_dew)}",
            "axis",
            "middle",
        ),
        text(
            left + wide / 2,
            GROUND + 14,
            f"skin {display.temperature(night.skin)}",
            "axis",
            "middle",
        ),
    ]
    if night.settled >= 1:
        for number in range(5):
            x = left + wide * (0.32 + 0.09 * number)
            y = _under(arch, x) + 8 + (number % 2) * 7
            parts.append(element("circle", cx=round(x, 1), cy=round(y, 1), r=2.0, class_="drop"))
    reach = min(12 + 2.2 * night.at_walls, 62)
    y = top + high * 0.45
    strong = " strong" if night.at_walls > night.stands else ""
    parts += [
        element(
            "line",
            x1=left - 8 - reach,
            y1=y,
            x2=left - 12,
            y2=y,
            class_=f"gust{strong}",
            stroke_width=min(1.5 + night.at_walls / 8, 6),
        ),
        path(
            [(left - 4, y), (left - 13, y - 6), (left - 13, y + 6)],
            f"gust-head{strong}",
            closed=True,
        ),
        text(SECTION_LEFT, y - 10, f"gust {display.wind(night.at_walls)}", "axis"),
    ]
    return parts


def _under(outline: list[tuple[float, float]], x: float) -> float:
    """Height of an outline at a place across it."""
    for (x0, y0), (x1, y1) in pairwise(outline):
        if x0 <= x <= x1 and x1 > x0:
            return y0 + (y1 - y0) * (x - x0) / (x1 - x0)
    return outline[0][1]
