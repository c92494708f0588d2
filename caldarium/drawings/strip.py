"""The strip: weather and height over the whole course, one row a person below."""

from datetime import timedelta

import numpy as np

from caldarium.core.air import precipitation_kind
from caldarium.core.assess import Assessment
from caldarium.core.course import Course
from caldarium.core.moments import Moment
from caldarium.core.units import Display, clock_text, signed
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.drawings.time_axis import Slot, TimeAxis, time_axis

WIND_TOP, SKY_TOP, SKY_BOTTOM, GROUND = 18.0, 32.0, 92.0, 118.0
ROW, ROWS_TOP = 18.5, 131.0
SHORT_WORDS = {"gap": "gap", "slack": "slack", "hot": "hot", "snug": "snug"}
SHORT_KINDS = {"setting out": "out", "moving": "move"}


def moment_name(course: Course, moment: Moment) -> str:
    """A moment as people say it: weekday, clock time and kind."""
    day = course.start + timedelta(days=moment.day)
    return f"{day:%a} {clock_text(moment.start)}, {moment.kind}"


def strip(
    course: Course, result: Assessment, person: str, moment: str, display: Display,
    *, width: float = 1232, only_day: int | None = None,
) -> Svg:  # fmt: skip
    """The strip as a drawing.

    Args:
        course: for names and dates.
        result: its assessment.
        person, moment: what the cursor stands on.
        display: units.
        width: of the drawing.
        only_day: draw one day only (from 0), for narrow screens.
    """
    moments = tuple(
        each for each in result.timeline.moments if only_day is None or each.day == only_day
    )
    left = 92.0 if only_day is None else 62.0
    axis = time_axis(moments, left, width - 2)
    height = ROWS_TOP + ROW * len(course.people) + 2
    weather = _Weather(course, result, axis, display, width)
    parts = [*weather.parts(), *_rows(course, result, axis, person, moment, left)]
    parts += _cursor(course, axis, moment, height, width)
    label = (
        f"Hours of {course.name}: temperature, wind and precipitation above, "
        f"the state of each of {len(course.people)} people at every moment below. "
        "The table under the strip holds the same."
    )
    return drawing(width, height, label, *parts, class_="strip")


class _Weather:
    """Upper half of the strip."""

    def __init__(
        self, course: Course, result: Assessment, axis: TimeAxis, display: Display, width: float
    ) -> None:
        self.course, self.axis, self.display, self.width = course, axis, display, width
        hours = result.timeline.hours
        inside = (hours.hour > axis.start) & (hours.hour < min(axis.end, hours.hour[-1]))
        self.hour = np.concatenate([[axis.start], hours.hour[inside], [axis.end]])

        def at(values: np.ndarray) -> np.ndarray:
            return np.interp(self.hour, hours.hour, values)

        self.air, self.forecast, self.wind = at(hours.air), at(hours.forecast), at(hours.wind)
        self.altitude = at(hours.altitude)
        here = np.minimum(self.hour.astype(int), len(hours.hour) - 1)
        self.rain, self.dark = hours.precipitation[here], hours.dark[here]
        self.falls = precipitation_kind(hours.wet_bulb)[here].tolist()
        self.x = [axis.x(float(hour)) for hour in self.hour]
        everything = np.concatenate([self.air, self.forecast, [0.0]])
        self.low, self.high = float(everything.min()) - 1, float(everything.max()) + 1

    def y(self, celsius: float) -> float:
        return SKY_BOTTOM - (celsius - self.low) / (self.high - self.low) * (SKY_BOTTOM - SKY_TOP)

    def parts(self) -> list[Svg]:
        """Everything from the bottom layer up."""
        return [
            *self._nights(), self._profile(), *self._rain(), *self._band(), *self._wind(),
            *self._scales(), *self._days(), *self._camps(),
        ]  # fmt: skip

    def _nights(self) -> list[Svg]:
        found: list[Svg] = []
        for index, dark in enumerate(self.dark):
            if dark:
                start = self.x[index]
                end = self.axis.x(float(self.hour[index]) + 1)
                found.append(rect(start, WIND_TOP, end - start + 0.4, GROUND - WIND_TOP, "dark"))
        return found

    def _profile(self) -> Svg:
        low, high = float(self.altitude.min()), float(self.altitude.max())
        reach = max(high - low, 200.0)
        top = [
            (x, GROUND - 6 - 44 * (float(height) - low) / reach)
            for x, height in zip(self.x, self.altitude, strict=True)
        ]
        return path([(top[0][0], GROUND), *top, (top[-1][0], GROUND)], "profile", closed=True)

    def _band(self) -> list[Svg]:
        planned = [(x, self.y(float(t))) for x, t in zip(self.x, self.air, strict=True)]
        forecast = [(x, self.y(float(t))) for x, t in zip(self.x, self.forecast, strict=True)]
        zero = self.y(0)
        return [
            path([*planned, *reversed(forecast)], "doubt", closed=True),
            line(self.x[0], zero, self.width - 2, zero, "zero"),
            path(forecast, "forecast"),
            path(planned, "air"),
        ]

    def _wind(self) -> list[Svg]:
        found: list[Svg] = []
        for index in range(0, len(self.x), 2):
            length = min(float(self.wind[index]) * 0.9, 16.0)
            words = (
                f"{clock_text(float(self.hour[index]))}: wind {self.display.wind(self.wind[index])}"
            )
            x = self.x[index]
            found.append(element("line", title(words), x1=x, y1=WIND_TOP, x2=x + length * 0.35,
                                 y2=WIND_TOP + length, class_="wind"))  # fmt: skip
        return found

    def _rain(self) -> list[Svg]:
        most = max(float(self.rain.max()), 2.0)
        found: list[Svg] = []
        for index, rate in enumerate(self.rain):
            if rate > 0.02:
                x = self.x[index]
                width = self.axis.x(float(self.hour[index]) + 1) - x - 0.6
                height = 4 + 30 * float(rate) / most
                kind = self.falls[index]
                words = title(f"{kind} {self.display.rain(float(rate))} an hour")
                found.append(rect(x, GROUND - height, width, height, kind, words))
        return found

    def _scales(self) -> list[Svg]:
        left = self.x[0] - 6
        hottest, coldest = float(self.air.max()), float(self.air.min())
        found = [
            text(left, WIND_TOP + 10, "wind", "axis", "end"),
            text(left, GROUND - 2, "rain, height", "axis", "end"),
        ]
        for value in (hottest, coldest):
            found.append(
                text(left, self.y(value) + 4, f"{self.display.degrees(value)}°", "axis", "end")
            )
        return found

    def _days(self) -> list[Svg]:
        found: list[Svg] = []
        seen: set[int] = set()
        for slot in self.axis.slots:
            day = slot.moment.day
            if day in seen:
                continue
            seen.add(day)
            name = f"{self.course.start + timedelta(days=day):%a %-d %b}"
            words = f"{name}  {self.course.days[day].title}".strip()
            found.append(line(slot.x, 2, slot.x, GROUND, "day-line"))
            found.append(text(slot.x + 4, 12, words, "day-name"))
        return found

    def _camps(self) -> list[Svg]:
        found: list[Svg] = []
        for slot in self.axis.slots:
            if slot.moment.kind == "night":
                words = f"▲ {self.display.altitude(slot.moment.altitude)}"
                found.append(text(slot.middle, GROUND + 11, words, "camp-name", "middle"))
            elif slot.moment.kind == "halt":
                words = self.display.altitude(slot.moment.altitude)
                found.append(text(slot.middle, GROUND + 11, words, "camp-name", "middle"))
            elif slot.moment.kind == "hold":
                found.append(rect(slot.x, WIND_TOP, slot.width, GROUND - WIND_TOP, "fold"))
        return found


def states_by_cell(result: Assessment) -> dict[tuple[str, str], tuple[str, str]]:
    """State and a few words by person and moment."""
    found: dict[tuple[str, str], tuple[str, str]] = {}
    for person in result.people:
        for each in person.moments:
            words = f"{each.provided:.1f} clo of {each.need_min:.1f} to {each.need_neutral:.1f}"
            found[person.person, each.moment] = each.state, words
        for night in person.nights:
            found[person.person, night.moment] = night.state, f"margin {signed(night.margin, 0)} K"
    return found


def _rows(
    course: Course, result: Assessment, axis: TimeAxis, person: str, moment: str, left: float
) -> list[Svg]:
    states = states_by_cell(result)
    names = [moment_name(course, slot.moment) for slot in axis.slots]
    found: list[Svg] = []
    for row, member in enumerate(course.people):
        y = ROWS_TOP + ROW * row
        chosen = member.id == person
        name = member.name if left > 80 else member.name.split()[0]
        parts = [text(left - 8, y + 14, name, "who chosen" if chosen else "who", "end")]
        for slot, when in zip(axis.slots, names, strict=True):
            state, words = states[member.id, slot.moment.id]
            full = f"{member.name}, {when}: {state}, {words}"
            here = chosen and slot.moment.id == moment
            parts.append(_cell(slot, y, state, full, member.id, here))
        found.append(element("g", *parts, class_="row"))
    return found


def _cell(slot: Slot, y: float, state: str, words: str, person: str, here: bool) -> Svg:
    x, width, height = slot.x + 0.6, slot.width - 1.2, ROW - 4
    parts = [title(words), rect(x, y + 2, width, height, f"cell {state}", rx=2.0)]
    middle = x + width / 2
    if state == "gap":
        notch = [(middle - 5, y + 2), (middle + 5, y + 2), (middle, y + 7)]
        parts.append(path(notch, "notch", closed=True))
    if state != "snug" and width >= 6 * len(state) + 4:
        parts.append(
            rect(middle - 3 * len(state) - 1, y + 6, 6.0 * len(state) + 2, 10, "plate", rx=2.0)
        )
        parts.append(text(middle, y + 14.5, SHORT_WORDS[state], f"word {state}", "middle"))
    elif state == "hot":
        parts.append(path([(middle, y + 4), (middle + 4, y + 14), (middle - 4, y + 14)], "flame",
                          closed=True))  # fmt: skip
    if here:
        parts.append(rect(x, y + 1, width, height + 2, "here", rx=2.0))
    return element("g", *parts, class_="pick", data_person=person, data_moment=slot.moment.id)


def _cursor(course: Course, axis: TimeAxis, moment: str, height: float, width: float) -> list[Svg]:
    slot = next((each for each in axis.slots if each.moment.id == moment), None)
    if slot is None:
        return []
    words = moment_name(course, slot.moment)
    span = 6.2 * len(words) + 12
    x = min(max(slot.middle - span / 2, 0), width - span)
    return [
        line(slot.middle, WIND_TOP, slot.middle, height, "cursor"),
        rect(x, GROUND - 3, span, 16, "cursor-plate", rx=8.0),
        text(x + span / 2, GROUND + 9.5, words, "cursor-name", "middle"),
    ]
