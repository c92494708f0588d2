"""One person's day in one narrow strip: states of the moments, and the body's heat through them."""

from caldarium.core.day.day_heat import DayStory
from caldarium.core.timeline.moments import Moment
from caldarium.drawings.story import heat_axis
from caldarium.drawings.svg import Svg, drawing, path, rect, text, title
from caldarium.words.units import clock_text

WIDTH, LEFT, RIGHT = 470.0, 74.0, 462.0
CELLS, TOP, BOTTOM = 14.0, 20.0, 66.0


def heat_strip(story: DayStory, moments: list[Moment], here: str) -> Svg:
    """The day as a drawing.

    Args:
        story: of one person and day.
        moments: the day's waking moments that follow one another.
        here: id of the moment the cursor stands on.
    """
    axis = heat_axis(story, moments, (LEFT, RIGHT), (TOP, BOTTOM))
    x, y = axis.x, axis.y
    begin, end = axis.hours
    parts: list[Svg] = [text(LEFT - 6, CELLS - 2, "state", "axis", "end")]
    for moment, told in zip(moments, story.planned, strict=True):
        words = f"{clock_text(moment.start)} {moment.kind}: {told.state}, {told.stored:+.0f} W h/m²"
        chosen = " here" if moment.id == here else ""
        parts.append(
            rect(
                x(moment.start) + 0.5,
                2,
                x(moment.end) - x(moment.start) - 1,
                CELLS - 2,
                f"cell {told.state}{chosen}",
                title(words),
                rx=2.0,
            )
        )
    parts += [
        *axis.marks(),
        path([(LEFT, y(0)), *axis.curve(story)], "body-heat"),
    ]
    for hour in range(int(begin) + 1, int(end) + 1, 3):
        parts.append(text(x(hour), BOTTOM + 12, clock_text(hour), "axis", "middle"))
    label = (
        f"Heat stored in the body through the day, down to {float(story.stored.min()):.0f} watt "
        "hours a square metre, under the day's states; the page on body heat holds a table."
    )
    return drawing(WIDTH, BOTTOM + 16, label, *parts, class_="cut heat")
