"""The whole course in a few rows: weather and height above, the worst of everybody below."""

from collections.abc import Callable

from caldarium.core.assess import Assessment
from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import Moment
from caldarium.core.worst import Worst, worst_by_moment
from caldarium.drawings.strip import state_cell
from caldarium.drawings.svg import Svg, drawing, element, line, rect, text
from caldarium.drawings.time_axis import TimeAxis, time_axis
from caldarium.drawings.weather_band import SMALL, WeatherBand
from caldarium.words.course import counted, moment_name
from caldarium.words.units import Display

ROW = 20.0
THUMB_WIDTH, THUMB_SKY = 420.0, 64.0
Address = Callable[[str, str], str]
"""Where a person's moment is looked at."""


def overview_strip(
    course: Course,
    result: Assessment,
    display: Display,
    address: Address,
    *,
    width: float = 1232,
    only_day: int | None = None,
) -> Svg:
    """The strip of an overview as a drawing, each of its cells a link.

    Args:
        course: for names and dates.
        result: its assessment.
        display: units.
        address: of what a cell leads to.
        width: of the drawing.
        only_day: draw one day only (from 0), for narrow screens.
    """
    moments = tuple(
        each for each in result.timeline.moments if only_day is None or each.day == only_day
    )
    left = 92.0 if only_day is None else 62.0
    axis = time_axis(moments, left, width - 2)
    worst = worst_by_moment(result)
    names = {each.id: each.name for each in course.people}
    top = SMALL.ground + 12
    rows = [
        ("by day" if only_day is None else "day", [m for m in moments if m.kind != "night"]),
        ("by night" if only_day is None else "night", [m for m in moments if m.kind == "night"]),
    ]
    parts = list(WeatherBand(course, result, axis, display, width, SMALL).parts())
    for row, (name, shown) in enumerate(each for each in rows if each[1]):
        y = top + ROW * row
        parts.append(text(left - 8, y + 14, name, "who", "end"))
        parts += _cells(course, axis, shown, worst, names, y, address)
    height = top + ROW * sum(bool(shown) for _, shown in rows) + 2
    people = counted(len(course.people), "person", "people")
    label = (
        f"{course.name} in whole: temperature, wind and precipitation above, the worst state of "
        f"{people} at every moment below. The table under it holds the same."
    )
    return drawing(width, height, label, *parts, class_="strip", role="group")


def _cells(
    course: Course,
    axis: TimeAxis,
    shown: list[Moment],
    worst: dict[str, Worst],
    names: dict[str, str],
    y: float,
    address: Address,
) -> list[Svg]:
    found: list[Svg] = []
    wanted = {each.id for each in shown}
    for slot in axis.slots:
        here = worst.get(slot.moment.id)
        if here is None or slot.moment.id not in wanted:
            continue
        words = (
            f"{moment_name(course, slot.moment)}: {here.state}, "
            f"{here.sharing} of {here.people}, {names[here.person]} first"
        )
        cell = state_cell(slot.x, slot.width, y, here.state, words)
        found.append(
            element(
                "a",
                *cell,
                href=address(here.person, slot.moment.id),
                aria_label=words,
                class_="pick",
            )
        )
    return found


def thumb(course: Course, result: Assessment, display: Display) -> Svg:
    """A course as a small strip without words, for a list of courses."""
    moments = result.timeline.moments
    axis = time_axis(moments, 0, THUMB_WIDTH)
    band = WeatherBand(course, result, axis, display, THUMB_WIDTH, SMALL)
    worst = worst_by_moment(result)
    first = {moment.day: slot.x for slot in reversed(axis.slots) for moment in (slot.moment,)}
    parts: list[Svg] = list(band.sketch())
    parts += [line(x, SMALL.wind_top, x, SMALL.ground, "day-line") for x in first.values() if x]
    for slot in axis.slots:
        here = worst.get(slot.moment.id)
        if here is not None:
            parts.append(
                rect(slot.x, SMALL.ground + 2, slot.width - 0.4, 12, f"cell {here.state}", rx=1.0)
            )
    problems = sum(each.state in ("gap", "hot") for each in worst.values())
    days = counted(len(course.days), "day")
    label = f"{course.name}, {days}: {problems} of {len(worst)} moments short or hot"
    return drawing(THUMB_WIDTH, SMALL.ground + 16, label, *parts, class_="strip thumb")
