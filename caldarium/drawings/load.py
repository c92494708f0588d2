"""The load: what one person carries and wears each morning, by what each gram is for."""

from caldarium.core.load.loads import PURPOSES, Load
from caldarium.core.plan.course import Course
from caldarium.drawings.svg import Svg, drawing, line, rect, text, title
from caldarium.words.course import weekday
from caldarium.words.units import Display

WIDTH, HEIGHT, LEFT, BOTTOM = 330.0, 220.0, 8.0, 198.0


def load_days(course: Course, load: Load, display: Display) -> Svg:
    """Columns by day, stacked by purpose, with the word beside each colour."""
    days = len(load.by_day)
    room = WIDTH - LEFT - 108
    step = room / days
    scale = (BOTTOM - 22) / max(load.by_day[0], 1.0)
    parts: list[Svg] = []
    for day, purposes in enumerate(load.by_purpose):
        x, y = LEFT + step * day, BOTTOM
        for purpose in PURPOSES:
            kilograms = purposes[purpose]
            height = kilograms * scale
            y -= height
            words = title(f"{purpose} {display.load(kilograms)}")
            parts.append(rect(x, y, step * 0.82, height, f"purpose {_class(purpose)}", words))
        name = weekday(course, day)
        parts.append(text(x + step * 0.41, BOTTOM + 13, name, "axis", "middle"))
        if days <= 7 or day in (0, days - 1):
            total = f"{load.by_day[day] / (0.45359237 if display.customary else 1):.1f}"
            parts.append(text(x + step * 0.41, y - 4, total, "axis strong", "middle"))
    parts.append(line(LEFT, BOTTOM, LEFT + room, BOTTOM, "axis-line"))
    for row, purpose in enumerate(reversed(PURPOSES)):
        y = 34.0 + 22 * row
        x = WIDTH - 98
        parts.append(rect(x, y, 11, 11, f"purpose {_class(purpose)}"))
        parts.append(text(x + 16, y + 10, purpose, "axis"))
    parts.append(text(WIDTH - 98, 18, "lb" if display.customary else "kg", "axis"))
    first, last = display.load(load.by_day[0]), display.load(load.by_day[-1])
    label = f"Load each morning, from {first} to {last}."
    return drawing(WIDTH, HEIGHT, label, *parts, class_="cut")


def _class(purpose: str) -> str:
    return "for-" + purpose.split(maxsplit=1)[0]
