"""The strip: weather and height over the whole course, one row a person below."""

from functools import lru_cache

from caldarium.core.assess import Assessment
from caldarium.core.plan.course import Course
from caldarium.drawings.svg import Svg, drawing, element, line, part, path, rect, text, title
from caldarium.drawings.time_axis import TimeAxis, time_axis
from caldarium.drawings.weather_band import SMALL, WeatherBand
from caldarium.words.course import counted, moment_name
from caldarium.words.units import Display

ROW, ROWS_TOP = 18.5, 131.0
SHORT_WORDS = {"gap": "gap", "cool": "cool", "slack": "slack", "hot": "hot", "snug": "snug"}
QUIET = ("snug", "cool")
"""States that need no word in their cell."""
MOST_PARTS = 300
"""Days of people of which each is a part of the page by itself."""
SHORT_KINDS = {"setting out": "out", "moving": "move"}


Cells = dict[tuple[str, str], tuple[str, str, bool]]
"""State, a few words, and whether fingers, toes or face are at risk, by person and moment."""


def strip(
    course: Course,
    result: Assessment,
    person: str,
    moment: str,
    display: Display,
    *,
    width: float = 1232,
    only_day: int | None = None,
    states: Cells | None = None,
) -> Svg:
    """The strip as a drawing.

    Args:
        course: for names and dates.
        result: its assessment.
        person, moment: what the cursor stands on.
        display: units.
        width: of the drawing.
        only_day: draw one day only (from 0), for narrow screens.
        states: from states_by_cell, where they are at hand.
    """
    moments = tuple(
        each for each in result.timeline.moments if only_day is None or each.day == only_day
    )
    left = 92.0 if only_day is None else 62.0
    axis = time_axis(moments, left, width - 2)
    height = ROWS_TOP + ROW * len(course.people) + 2
    weather = WeatherBand(course, result, axis, display, width, SMALL)
    states = states_by_cell(result, display) if states is None else states
    about = "strip" if only_day is None else "day"
    parts = [part(f"{about}-weather", *weather.parts())]
    parts += _rows(course, states, axis, (person, moment), left, about)
    parts += _cursor(course, axis, moment, height, width)
    label = (
        f"Hours of {course.name}: temperature, wind and precipitation above, "
        f"the state of {counted(len(course.people), 'person', 'people')} at every moment below. "
        "The table under the strip holds the same."
    )
    return drawing(width, height, label, *parts, class_="strip")


def states_by_cell(result: Assessment, display: Display) -> Cells:
    """What the strip shows of everybody at every moment."""
    found: Cells = {}
    for person in result.people:
        for each in person.moments:
            words = f"{each.provided:.1f} clo of {each.need_min:.1f} to {each.need_neutral:.1f}"
            at_risk = each.at_risk
            if at_risk:
                words += f", {' and '.join(at_risk)} at risk"
            found[person.person, each.moment] = each.state, words, bool(at_risk)
        for night in person.nights:
            words = f"margin {display.difference(night.margin)}"
            found[person.person, night.moment] = night.state, words, False
    return found


def _rows(
    course: Course,
    states: Cells,
    axis: TimeAxis,
    cursor: tuple[str, str],
    left: float,
    about: str,
) -> list[Svg]:
    """A row a person; each is a part of its own, or each of its days where there are not many."""
    person, moment = cursor
    days = list(dict.fromkeys(slot.moment.day for slot in axis.slots))
    by_day = len(days) * len(course.people) <= MOST_PARTS
    names = [moment_name(course, slot.moment) for slot in axis.slots]
    found: list[Svg] = []
    for row, member in enumerate(course.people):
        y = ROWS_TOP + ROW * row
        chosen = member.id == person
        name = member.name if left > 80 else member.name.split()[0]
        who = text(left - 8, y + 14, name, "who chosen" if chosen else "who", "end")
        cells: dict[int, list[Svg]] = {day: [] for day in days}
        for slot, when in zip(axis.slots, names, strict=True):
            state, words, at_risk = states[member.id, slot.moment.id]
            full = f"{member.name}, {when}: {state}, {words}"
            here = chosen and slot.moment.id == moment
            cells[slot.moment.day].append(
                _cell(slot.x, slot.width, y, state, full, member.id, slot.moment.id, here, at_risk)
            )
        row_name = f"{about}-{member.id}"
        if by_day:
            of_days = [part(f"{row_name}.{day}", *each) for day, each in cells.items()]
            found.append(element("g", who, *of_days, class_="row"))
        else:
            every = [cell for each in cells.values() for cell in each]
            found.append(part(row_name, who, *every, class_="row"))
    return found


@lru_cache(maxsize=8192)
def _cell(
    left: float,
    slot: float,
    y: float,
    state: str,
    words: str,
    person: str,
    moment: str,
    here: bool,
    at_risk: bool,
) -> Svg:
    """One cell; most of them stay as they were from one view to the next."""
    x, width, height = left + 0.6, slot - 1.2, ROW - 4
    parts = state_cell(left, slot, y, state, words)
    if at_risk:
        parts.append(line(x + 1, y + 3.4 + height, x + width - 1, y + 3.4 + height, "risk"))
    if here:
        parts.append(rect(x, y + 1, width, height + 2, "here", rx=2.0))
    return element("g", *parts, class_="pick", data_person=person, data_moment=moment)


def state_cell(left: float, slot: float, y: float, state: str, words: str) -> list[Svg]:
    """A state as hatch, mark and word in the slot of its moment; a marked one has no word where
    there is no room for it."""
    x, width, height = left + 0.6, slot - 1.2, ROW - 4
    parts = [title(words), rect(x, y + 2, width, height, f"cell {state}", rx=2.0)]
    middle = x + width / 2
    if state == "gap":
        notch = [(middle - 5, y + 2), (middle + 5, y + 2), (middle, y + 7)]
        parts.append(path(notch, "notch", closed=True))
    if state == "cool":
        parts.append(line(middle - 4, y + 9, middle + 4, y + 9, "chill"))
    if state not in QUIET and width >= 6 * len(state) + 4:
        parts.append(
            rect(middle - 3 * len(state) - 1, y + 6, 6.0 * len(state) + 2, 10, "plate", rx=2.0)
        )
        parts.append(text(middle, y + 14.5, SHORT_WORDS[state], f"word {state}", "middle"))
    elif state == "hot":
        flame = [(middle, y + 4), (middle + 4, y + 14), (middle - 4, y + 14)]
        parts.append(path(flame, "flame", closed=True))
    return parts


def _cursor(course: Course, axis: TimeAxis, moment: str, height: float, width: float) -> list[Svg]:
    slot = next((each for each in axis.slots if each.moment.id == moment), None)
    if slot is None:
        return []
    words = moment_name(course, slot.moment)
    span = 6.2 * len(words) + 12
    x = min(max(slot.middle - span / 2, 0), width - span)
    return [
        line(slot.middle, SMALL.wind_top, slot.middle, height, "cursor"),
        rect(x, SMALL.ground - 3, span, 16, "cursor-plate", rx=8.0),
        text(x + span / 2, SMALL.ground + 9.5, words, "cursor-name", "middle"),
    ]
