"""What each step of caution costs in grams, as a stair; and what a set changes, as bars."""

from collections.abc import Sequence

from caldarium.core.lighten.frontier import Tread
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.lighten import caution_words, change_words, tread_words
from caldarium.words.units import Display

WIDTH, HEIGHT, LEFT, RIGHT, TOP, BOTTOM = 700.0, 330.0, 76.0, 660.0, 34.0, 286.0
BAR, BAR_HEIGHT = 150.0, 14.0


def stair(
    treads: Sequence[Tread], now: float, planned: float, course_words: str, display: Display
) -> Svg:
    """Grams of the lightest set by caution, today's list as a point.

    Args:
        treads: the steps, lightest caution first.
        now: what is carried now [g].
        planned: caution of the course [standard deviations].
        course_words: that caution in words.
        display: units.
    """
    weights = [each.grams for each in treads] + [now]
    low, high = min(weights), max(weights)
    room = max(high - low, 100.0)
    floor, roof = low - 0.25 * room, high + 0.15 * room
    most = max(treads[-1].deviations, planned, 0.5)

    def x(deviations: float) -> float:
        return LEFT + deviations / most * (RIGHT - LEFT)

    def y(grams: float) -> float:
        return BOTTOM - (grams - floor) / (roof - floor) * (BOTTOM - TOP)

    outline: list[tuple[float, float]] = []
    for at, each in enumerate(treads):
        begins = treads[at - 1].deviations if at else 0.0
        outline += [(x(begins), y(each.grams)), (x(each.deviations), y(each.grams))]
    area = [(x(0.0), BOTTOM), *outline, (x(treads[-1].deviations), BOTTOM)]
    parts: list[Svg] = [
        path(area, "stair-area", closed=True),
        path(outline, "stair-line"),
        line(LEFT, BOTTOM, RIGHT, BOTTOM, "day-line"),
    ]
    for each in (floor + 0.25 * room, (low + high) / 2, high):
        parts.append(text(LEFT - 8, y(each) + 4, display.mass(each), "axis", "end"))
    for at, each in enumerate(treads):
        before = treads[at - 1] if at else None
        words = tread_words(each, before, display)
        begins = treads[at - 1].deviations if at else 0.0
        mark = rect(x(each.deviations) - 4, y(each.grams) - 4, 8, 8, "stair-mark", rx=4)
        parts.append(element("g", title(f"{caution_words(each.deviations)}: {words}"), mark))
        if before is not None:
            more = change_words(each.grams - before.grams, display)
            parts.append(text(x(begins) + 8, y(each.grams) - 8, more, "axis strong"))
        parts.append(
            text(x(each.deviations), BOTTOM + 16, f"{each.deviations:g}", "axis", "middle")
        )
    parts += [
        line(x(planned), TOP - 8, x(planned), BOTTOM, "stair-planned"),
        text(
            x(planned) + (6 if planned < most / 2 else -6),
            TOP - 12,
            f"planned: {course_words}",
            "axis strong",
            None if planned < most / 2 else "end",
        ),
        rect(x(planned) - 5, y(now) - 5, 10, 10, "stair-now", title("carried now"), rx=5),
        text(
            x(planned) + (12 if planned < most / 2 else -12),
            y(now) + 4,
            f"carried now {display.mass(now)}",
            "axis",
            None if planned < most / 2 else "end",
        ),
        text(
            (LEFT + RIGHT) / 2,
            HEIGHT - 8,
            "standard deviations of the forecast that are planned for",
            "axis",
            "middle",
        ),
    ]
    label = (
        f"Grams of the lightest set by caution, from {display.mass(treads[0].grams)} as forecast "
        f"to {display.mass(treads[-1].grams)}; {display.mass(now)} are carried now."
    )
    return drawing(WIDTH, HEIGHT, label, *parts, class_="cut stair")


def change_bar(grams: float, most: float) -> Svg:
    """One piece that comes in, filled to the right, or goes out, open to the left.

    Args:
        grams: more, or fewer below 0.
        most: the largest of all bars [g].
    """
    middle = BAR / 2
    length = abs(grams) / max(most, 1.0) * (middle - 4)
    start = middle if grams > 0 else middle - length
    kind = "bar-in" if grams > 0 else "bar-out"
    parts = [
        rect(start, 2, length, BAR_HEIGHT - 4, kind),
        line(middle, 0, middle, BAR_HEIGHT, "day-line"),
    ]
    return drawing(BAR, BAR_HEIGHT, "", *parts, class_="change-bar")
