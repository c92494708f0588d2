"""The night hour by hour for one bed, and everybody's beds as a shelf of cuts, coldest first."""

import math

from caldarium.core.night.nights import WAKING_DEBT, Night
from caldarium.core.plan.course import Person
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.course import counted
from caldarium.words.night import margin_text
from caldarium.words.units import Display, clock_text

WIDTH, LEFT, RIGHT, TOP, BOTTOM = 560.0, 62.0, 552.0, 14.0, 118.0
SHELF_HEIGHT, COLUMN = 190.0, 92.0
MIDDLE, ABOVE, BELOW = 100.0, 84.0, 48.0
"""Where sleepers lie on the shelf, and the room above and below them [px]."""


def night_curve(night: Night, display: Display) -> Svg:
    """Air outside against what this bed is good to, and the debt that grows where it is colder."""
    own = night.sleeper
    values = [*night.air, *([own] if math.isfinite(own) else [])]
    low, high = min(values) - 1.5, max(values) + 1.5
    begin, end = night.hours[0], night.hours[-1]

    def x(hour: float) -> float:
        return LEFT + (RIGHT - LEFT) * (hour - begin) / (end - begin)

    def y(celsius: float) -> float:
        return BOTTOM - (BOTTOM - TOP) * (celsius - low) / (high - low)

    air = [(x(h), y(t)) for h, t in zip(night.hours, night.air, strict=True)]
    parts: list[Svg] = [rect(LEFT, TOP, RIGHT - LEFT, BOTTOM - TOP, "night-ground")]
    if math.isfinite(own):
        level = min(max(y(own), TOP), BOTTOM)
        cold = [(px, max(py, level)) for px, py in air]
        parts.append(
            path([(air[0][0], level), *cold, (air[-1][0], level)], "too-cold", closed=True)
        )
        parts += [
            line(LEFT, level, RIGHT, level, "limit"),
            text(
                RIGHT - 3,
                level - 4,
                f"this bed is good to {display.temperature(own)}",
                "axis",
                "end",
            ),
        ]
    parts.append(path(air, "night-air"))
    for value in (max(night.air), min(night.air)):
        parts.append(text(LEFT - 6, y(value) + 4, display.temperature(value), "axis", "end"))
    most = max(night.debt, WAKING_DEBT)
    base = BOTTOM + 46
    debt = [(x(h), base - 30 * d / most) for h, d in zip(night.hours, night.debts, strict=True)]
    limit = base - 30 * WAKING_DEBT / most
    parts += [
        path([(LEFT, base), *debt, (RIGHT, base)], "debt", closed=True),
        line(LEFT, limit, RIGHT, limit, "zero"),
        text(RIGHT - 3, limit - 3, "wakes above this debt", "axis", "end"),
        text(LEFT - 6, base - 28, "debt", "axis", "end"),
    ]
    for hour in range(math.ceil(begin), int(end) + 1, 2):
        parts.append(text(x(hour), base + 14, clock_text(hour % 24), "axis", "middle"))
    label = (
        f"Air outside through the night, down to {display.temperature(min(night.air))},"
        f" and the sleeper's heat debt, up to {night.debt:.0f} watt hours a square "
        "metre. The sentence beside it says the same."
    )
    return drawing(WIDTH, base + 18, label, *parts, class_="cut night")


def bed_shelf(beds: list[tuple[Person, Night]], chosen: str, display: Display, address: str) -> Svg:
    """All beds of one night side by side on one scale, the coldest first, each a link."""
    parts: list[Svg] = []
    middle = MIDDLE
    upper = max(each.bag_resistance + each.clothes_resistance for _, each in beds)
    scale = min(ABOVE / upper, BELOW / max(*(each.pads_resistance for _, each in beds), 0.1))
    for place, (person, night) in enumerate(beds):
        x = 6 + COLUMN * place
        margin = margin_text(night, display)
        inside: list[Svg] = [title(f"{person.name}: margin {margin}")]
        if person.id == chosen:
            inside.append(rect(x - 3, 2, COLUMN - 6, SHELF_HEIGHT - 4, "here", rx=3.0))
        up = middle - 9
        for value, kind in ((night.clothes_resistance, "clothes"), (night.bag_resistance, "bag")):
            height = max(value, 0.0) * scale
            up -= height
            inside.append(rect(x + 8, up, COLUMN - 28, height, f"bed {kind}"))
        inside.append(rect(x + 8, middle - 9, COLUMN - 28, 18, "bed sleeper"))
        inside.append(
            rect(x + 8, middle + 9, COLUMN - 28, max(night.pads_resistance, 0) * scale, "bed pad")
        )
        inside += [
            text(x + 8, middle + 4, person.name.split()[0], "bed-name who"),
            text(x + 8, SHELF_HEIGHT - 18, night.state, f"word {night.state}"),
            text(x + 8, SHELF_HEIGHT - 6, margin, "axis"),
        ]
        parts.append(
            element(
                "a",
                *inside,
                href=f"{address}person={person.id}",
                class_="shelf-bed",
                aria_label=f"{person.name}: {night.state}, margin {margin}",
            )
        )
    people = counted(len(beds), "person", "people")
    label = f"Beds of {people}, the coldest first, thick as they insulate."
    return drawing(
        12 + COLUMN * len(beds), SHELF_HEIGHT, label, *parts, class_="cut shelf", role="group"
    )
