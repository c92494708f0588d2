"""A day of the body: heat stored, core, and moisture in the clothing over the moments."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.day.day_heat import DEBT_LIMIT, DayStory
from caldarium.core.timeline.moments import Moment
from caldarium.drawings.svg import Svg, drawing, line, path, rect, text, title
from caldarium.words.units import Display, clock_text

WIDTH, HEIGHT, LEFT, RIGHT = 1200.0, 300.0, 70.0, 1190.0
HEAT_TOP, HEAT_BOTTOM, WATER_TOP, WATER_BOTTOM = 20.0, 190.0, 205.0, 270.0


@dataclass(frozen=True)
class HeatAxis:
    """Hours across and heat stored down, in a box of a drawing."""

    hours: tuple[float, float]
    heat: tuple[float, float]
    across: tuple[float, float]
    down: tuple[float, float]

    def x(self, hour: float) -> float:
        """Place of an hour."""
        begin, end = self.hours
        left, right = self.across
        return left + (right - left) * (hour - begin) / (end - begin)

    def y(self, stored: float) -> float:
        """Height of a heat."""
        low, high = self.heat
        top, bottom = self.down
        return bottom - (bottom - top) * (stored - low) / (high - low)

    def marks(self) -> list[Svg]:
        """Lines and names of rest and of the limit of debt."""
        left, right = self.across
        found: list[Svg] = []
        limit = f"{DEBT_LIMIT:.0f} W h/m²".replace("-", "−")
        for stored, name, kind in ((0.0, "rested", "zero"), (DEBT_LIMIT, limit, "limit")):
            y = self.y(stored)
            found += [line(left, y, right, y, kind), text(left - 6, y + 4, name, "axis", "end")]
        return found

    def curve(self, story: DayStory) -> list[tuple[float, float]]:
        """Points of the heat stored through the day."""
        pairs = zip(story.hour.tolist(), story.stored.tolist(), strict=True)
        return [(self.x(hour), self.y(stored)) for hour, stored in pairs]


def heat_axis(
    story: DayStory,
    moments: list[Moment],
    across: tuple[float, float],
    down: tuple[float, float],
) -> HeatAxis:
    """An axis that holds the day's heat, rest and the limit of debt."""
    low = min(float(story.stored.min()), DEBT_LIMIT) - 10
    high = max(float(story.stored.max()), 0.0) + 10
    return HeatAxis((moments[0].start, moments[-1].end), (low, high), across, down)


def story_curve(story: DayStory, moments: list[Moment], display: Display) -> Svg:
    """The curves as a drawing, with the limit of heat debt across them."""
    axis = heat_axis(story, moments, (LEFT, RIGHT), (HEAT_TOP, HEAT_BOTTOM))
    x = axis.x
    begin, end = axis.hours
    parts: list[Svg] = []
    for each in moments:
        width = x(each.end) - x(each.start)
        words = f"{clock_text(each.start)} {each.kind}"
        parts.append(
            rect(
                x(each.start),
                6,
                width,
                WATER_BOTTOM - 6,
                f"span {each.kind.split()[0]}",
                title(words),
            )
        )
        if width > 7 * len(each.kind):
            parts.append(text(x(each.start) + 4, 16, each.kind, "axis"))
    wet = max(*story.water, 50.0)
    water = [
        (x(moment.end), WATER_BOTTOM - (WATER_BOTTOM - WATER_TOP) * grams / wet)
        for moment, grams in zip(moments, story.water, strict=True)
    ]
    parts += [
        *axis.marks(),
        path(axis.curve(story), "air"),
        path(
            [(x(begin), WATER_BOTTOM), *water, (water[-1][0], WATER_BOTTOM)], "water", closed=True
        ),
        text(LEFT - 6, WATER_TOP + 10, display.mass(wet), "axis", "end"),
        text(LEFT - 6, WATER_BOTTOM, "water", "axis", "end"),
    ]
    for hour in range(int(np.ceil(begin)), int(end) + 1, 2):
        parts.append(text(x(hour), HEIGHT - 12, clock_text(hour), "axis", "middle"))
    coldest = display.temperature(float(story.core.min()), 1)
    label = (
        f"Heat stored in the body over the day, down to {float(story.stored.min()):.0f} W h/m²; "
        f"coldest core {coldest}; up to {display.mass(max(story.water))} of water in the clothing. "
        "The table holds the same."
    )
    return drawing(WIDTH, HEIGHT, label, *parts, class_="strip story")
