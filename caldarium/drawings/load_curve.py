"""Loads over the course's hours: one person's stacked by purpose beside the budget, and all side
by side."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from caldarium.core.load.loads import PURPOSES, Load
from caldarium.core.plan.course import Course, Person
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.course import weekday
from caldarium.words.units import Display

WIDTH, HEIGHT, LEFT, RIGHT, TOP, BOTTOM = 760.0, 250.0, 46.0, 628.0, 16.0, 222.0
POUND = 0.45359237
MARKS = {"within budget": "well", "over budget": "high", "over the limit": "over"}


def load_curve(
    course: Course, person: Person, load: Load, display: Display, *, worn: bool, apart: bool
) -> Svg:
    """One person's load by hour, stacked by what it is for.

    Args:
        course, person, load: whose.
        display: units.
        worn: whether what is worn counts.
        apart: whether teaching and camera kit counts.
    """
    totals = load.totals(worn=worn, apart=apart)
    most = max(*totals, load.limit, load.budget) * 1.06
    first, last = load.hour[0], load.hour[-1] + 1

    def x(hour: float) -> float:
        return LEFT + (hour - first) / (last - first) * (RIGHT - LEFT)

    def y(kilograms: float) -> float:
        return BOTTOM - kilograms / most * (BOTTOM - TOP)

    between = f"between budget {display.load(load.budget)} and limit {display.load(load.limit)}"
    upper, lower = max(load.limit, load.budget), min(load.limit, load.budget)
    parts: list[Svg] = [
        rect(LEFT, y(upper), RIGHT - LEFT, y(lower) - y(upper), "budget-band", title(between)),
    ]
    floor = [0.0] * len(load.hour)
    legend: list[Svg] = []
    for purpose in PURPOSES:
        share = load.counted(purpose, worn=worn, apart=apart)
        roof = [low + each for low, each in zip(floor, share, strict=True)]
        if max(share) > 0.005:
            outline = [(x(hour), y(each)) for hour, each in _steps(load.hour, roof, last)]
            under = [(x(hour), y(each)) for hour, each in _steps(load.hour, floor, last)]
            words = title(
                f"{purpose}: {display.load(share[0])} at first, "
                f"{display.load(share[-1])} at the end"
            )
            parts.append(
                element(
                    "g",
                    words,
                    path(
                        [*outline, *reversed(under)],
                        f"purpose for-{purpose.split()[0]}",
                        closed=True,
                    ),
                )
            )
            row = TOP + 18 * len(legend)
            legend.append(
                element(
                    "g",
                    rect(RIGHT + 12, row, 11, 11, f"purpose for-{purpose.split()[0]}"),
                    text(RIGHT + 28, row + 10, purpose, "axis"),
                )
            )
        floor = roof
    parts += legend
    for name, value in (("budget", load.budget), ("limit", load.limit)):
        parts.append(line(LEFT, y(value), RIGHT, y(value), f"budget-line {name}"))
        parts.append(
            text(RIGHT - 4, y(value) - 3, f"{name} {display.load(value)}", "axis strong", "end")
        )
    for day in range(len(course.days)):
        at = x(24.0 * day)
        parts.append(line(at, TOP, at, BOTTOM, "day-line"))
        parts.append(text(at + 4, BOTTOM + 14, weekday(course, day), "axis"))
    scale = POUND if display.customary else 1.0
    for share in (0.0, 0.5, 1.0):
        kilograms = most * share * 0.94
        parts.append(text(LEFT - 6, y(kilograms) + 4, f"{kilograms / scale:.0f}", "axis", "end"))
    parts.append(text(4, TOP + 4, "lb" if display.customary else "kg", "axis"))
    label = (
        f"{person.name}'s load by hour, {display.load(totals[0])} at first and "
        f"{display.load(totals[-1])} at the end, with budget and limit."
    )
    return drawing(WIDTH, HEIGHT, label, *parts, class_="cut load-curve")


def _steps(
    hours: Sequence[float], values: Sequence[float], last: float
) -> list[tuple[float, float]]:
    """Points where a curve changes; flat stretches keep their two ends."""
    found: list[tuple[float, float]] = []
    for place, (hour, value) in enumerate(zip(hours, values, strict=True)):
        before = place > 0 and abs(values[place - 1] - value) < 1e-9
        after = place + 1 < len(values) and abs(values[place + 1] - value) < 1e-9
        if not (before and after):
            found.append((hour, value))
    return [*found, (last, values[-1])]


@dataclass(frozen=True)
class Chip:
    """One piece of the group's kit on a back: what the form calls it, its name and mass [g]."""

    key: str
    name: str
    grams: float


FINEST_CHIP_G = 12.0
"""Grams of shared kit to a pixel of a chip's width, where nobody carries much of it."""


def party_shelf(
    people: Sequence[tuple[Person, Load]],
    chosen: str,
    display: Display,
    address: str,
    *,
    worn: bool,
    apart: bool,
    shared: Mapping[str, Sequence[Chip]] | None = None,
) -> Svg:
    """Everybody's heaviest hour side by side, against budget and limit as shares of body mass, and
    the shared pieces on each back; those under "" are split evenly."""
    width, row, left, right = 420.0, 40.0 if shared else 21.0, 92.0, 330.0
    shared = shared or {}
    room = width - left - 6
    fullest = [sum(c.grams for c in chips) / (room - 9 * len(chips)) for chips in shared.values()]
    chip_g = max([FINEST_CHIP_G, *fullest])
    shares = [(person, max(load.totals(worn=worn, apart=apart)), load) for person, load in people]
    most = max([1.0, *(max(total, load.budget) / load.limit for _, total, load in shares)]) * 1.08
    parts: list[Svg] = []
    for place, (person, total, load) in enumerate(
        sorted(shares, key=lambda each: -each[1] / each[2].budget)
    ):
        y = 22 + row * place
        scale = (right - left) / most / load.limit
        standing = load.standing(total)
        body = f"{total / load.body_mass:.0%}"
        words = title(f"{person.name}: {display.load(total)}, {body} of body mass")
        inside = [
            words,
            rect(left, y, total * scale, 15, f"back {MARKS[standing]}"),
            line(
                left + load.budget * scale,
                y - 2,
                left + load.budget * scale,
                y + 17,
                "budget-line budget",
            ),
            line(
                left + load.limit * scale,
                y - 2,
                left + load.limit * scale,
                y + 17,
                "budget-line limit",
            ),
            text(
                left - 6,
                y + 11,
                person.name.split()[0],
                "who chosen" if person.id == chosen else "who",
                "end",
            ),
            text(right + 6, y + 11, f"{display.load(total)}, {body}", "axis"),
        ]
        if standing != "within budget":
            inside.append(text(left + 5, y + 11, standing, "word"))
        parts.append(
            element(
                "g",
                rect(0, y - 3, width, row, "onto"),
                element(
                    "a",
                    *inside,
                    href=f"{address}person={person.id}",
                    class_="back-row",
                    aria_label=f"{person.name}, {body}",
                ),
                *_chips(shared.get(person.id, ()), left, y + 17, chip_g, display),
                data_back=person.id,
            )
        )
    below = 22 + row * len(people)
    if "" in shared:
        parts.append(
            element(
                "g",
                rect(0, below - 3, width, row, "onto"),
                text(left - 6, below + 12, "all evenly", "who", "end"),
                *_chips(shared[""], left, below, chip_g, display),
                data_back="",
            )
        )
        below += row
    parts.append(text(left, 12, "heaviest hour, against budget and limit", "axis"))
    label = "Everybody's heaviest hour beside their budget and limit."
    return drawing(width, below + 6, label, *parts, class_="cut party-loads", role="group")


def _chips(
    chips: Sequence[Chip], left: float, y: float, chip_g: float, display: Display
) -> list[Svg]:
    """Shared pieces by mass, so many grams to a pixel, to be dragged to another back."""
    found: list[Svg] = []
    x = left
    for chip in chips:
        wide = max(chip.grams / chip_g, 7.0)
        words = title(f"{chip.name}, {display.mass(chip.grams)}")
        inside = [words, rect(x, y, wide, 14, "chip-body", rx=3.0)]
        short = chip.name.split(",")[0].split()[0]
        if wide >= 6.4 * len(short) + 4:
            inside.append(text(x + 4, y + 10.5, short, "chip-name"))
        found.append(element("g", *inside, class_="chip", data_unit=chip.key))
        x += wide + 2
    return found
