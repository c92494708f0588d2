"""Water, food and fuel over the course's hours: three levels on one axis, and where each is out."""

from collections.abc import Callable, Sequence

import numpy as np

from caldarium.core.assess import Assessment
from caldarium.core.load.supplies import food_account, fuel_account
from caldarium.core.load.water import bottles, fillings
from caldarium.core.plan.course import Course, Person
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.course import weekday
from caldarium.words.food import when_words
from caldarium.words.overview import times as times_words
from caldarium.words.units import Display

WIDTH, LEFT, RIGHT, TOP, ROW, GAP = 960.0, 118.0, 946.0, 8.0, 56.0, 18.0
STEP = 0.25


def supplies_strip(course: Course, person: Person, result: Assessment, display: Display) -> Svg:
    """What one person has to drink and to eat, and what the party has to burn, by hour.

    Args:
        course, person: whose.
        result: the course's assessment, for where each is out.
        display: units.
    """
    timeline, days = result.timeline, len(course.days)
    times = np.arange(0.0, 24.0 * days + 0.01, STEP)
    load = result.of(person.id).load
    water = bottles(course, (person,), timeline, times).left[0]
    food = food_account(course, (person,), timeline, times).left[0]
    fuel = fuel_account(course, (), timeline, times).party.left[0]
    dry = [(each.start, each.end) for each in load.dry]
    hungry = [(each.start, each.end) for each in load.hungry]
    out = [(each.start, each.end) for each in result.fuel.out]
    first = person.name.split()[0]
    rows: list[tuple[str, str, np.ndarray, list[tuple[float, float]], Callable[[float], str]]] = [
        (f"{first}'s water", "water", water, dry, display.volume),
        (f"{first}'s food", "food", food, hungry, display.mass),
        ("the party's fuel", "fuel", fuel, out, display.mass),
    ]
    height = TOP + len(rows) * (ROW + GAP) + 16
    parts: list[Svg] = []
    for at, (name, kind, values, spans, unit) in enumerate(rows):
        y = TOP + at * (ROW + GAP)
        parts += _row(course, name, kind, y, times, values, spans, unit)
    for fill in fillings(course, timeline):
        x = _x(fill.at, days)
        words = title(f"bottles filled, {when_words(course, fill.at)}")
        parts.append(element("g", words, line(x, TOP, x, TOP + ROW, "fill-mark")))
    for day in range(days):
        x = _x(24.0 * day, days)
        parts.append(line(x, TOP, x, height - 16, "day-line"))
        parts.append(text(x + 4, height - 4, weekday(course, day), "axis"))
    told = [
        f"{name}: {unit(float(values[0]))} at first, least {unit(float(values.min()))}, "
        + (f"out {times_words(len(spans))}" if spans else "never out")
        for name, _, values, spans, unit in rows
    ]
    return drawing(WIDTH, height, "; ".join(told) + ".", *parts, class_="cut supplies")


def _x(hour: float, days: int) -> float:
    return LEFT + hour / (24.0 * days) * (RIGHT - LEFT)


def _row(
    course: Course,
    name: str,
    kind: str,
    y: float,
    times: np.ndarray,
    values: np.ndarray,
    spans: Sequence[tuple[float, float]],
    unit: Callable[[float], str],
) -> list[Svg]:
    days, foot = len(course.days), y + ROW
    most = max(float(values.max()), 1e-6)
    corners = _corners(times, values)
    points = [(_x(hour, days), foot - value / most * ROW) for hour, value in corners]
    area = [(points[0][0], foot), *points, (points[-1][0], foot)]
    found: list[Svg] = [
        rect(LEFT, y, RIGHT - LEFT, ROW, "supply-room"),
        path(area, f"supply {kind}", closed=True),
        line(LEFT, foot, RIGHT, foot, "axis-line"),
        text(4, y + 16, name, "axis strong"),
        text(4, y + 34, f"at first {unit(float(values[0]))}", "axis"),
        text(4, y + 50, f"at the end {unit(float(values[-1]))}", "axis"),
    ]
    for start, end in spans:
        x, to = _x(start, days), _x(end, days)
        words = title(f"{name} is out from {when_words(course, start)}")
        found.append(element("g", words, rect(x, y, max(to - x, 3.0), ROW, "mark-gap")))
    return found


def _corners(times: np.ndarray, values: np.ndarray) -> list[tuple[float, float]]:
    """Points where a level changes; flat stretches keep their two ends."""
    moved = np.abs(np.diff(values)) > 1e-9
    kept = np.ones(len(values), dtype=bool)
    kept[1:-1] = moved[:-1] | moved[1:]
    return list(zip(times[kept].tolist(), values[kept].tolist(), strict=True))
