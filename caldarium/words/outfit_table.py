"""Two outfits as a table of their figures, and of what differs."""

from collections.abc import Iterable

from caldarium.core.what_if.try_on import TriedOn
from caldarium.words.course import number
from caldarium.words.units import Display, hours_text


def reach_of(sides: Iterable[TriedOn]) -> float:
    """The most that any of these outfits provides or needs [clo], for one axis under all of them.

    Source: figures of the assessment.
    """
    return max(max(each.state.need_neutral, each.state.provided) for each in sides)


def comparison(a: TriedOn, b: TriedOn, display: Display) -> list[tuple[str, str, str, str]]:
    """Rows of what differs: name, one side, the other, and the second less the first.

    Source: figures of the assessment.
    """

    def clo(name: str, one: float, other: float) -> tuple[str, str, str, str]:
        return name, f"{one:.2f} clo", f"{other:.2f} clo", f"{number(other - one)} clo"

    first, second = a.state, b.state
    digits = [
        (
            f"{name} at the end",
            display.temperature(one, 1),
            display.temperature(other, 1),
            display.difference(other - one, 1),
        )
        for name, one, other in (
            ("fingers", first.fingers.at_end, second.fingers.at_end),
            ("toes", first.toes.at_end, second.toes.at_end),
        )
    ]
    return [
        ("verdict", first.state, second.state, ""),
        ("worn", display.mass(a.grams), display.mass(b.grams), display.mass(b.grams - a.grams)),
        clo("provides", first.provided, second.provided),
        clo("needs at least", first.need_min, second.need_min),
        clo("needs for neutral", first.need_neutral, second.need_neutral),
        clo("short", first.gap, second.gap),
        ("holds", hours_text(first.endurance), hours_text(second.endurance), ""),
        ("weakest", first.weakest, second.weakest, ""),
        (
            "makes",
            f"{first.watts:.0f} W",
            f"{second.watts:.0f} W",
            f"{number(second.watts - first.watts, 0)} W",
        ),
        *digits,
        (
            "water in the clothing",
            display.mass(first.water),
            display.mass(second.water),
            display.mass(second.water - first.water),
        ),
        (
            "sweat",
            f"{first.sweat:.2f} L/h",
            f"{second.sweat:.2f} L/h",
            f"{number(second.sweat - first.sweat)} L/h",
        ),
    ]
