"""Chances that were said against how often it happened, as forecasters judge theirs."""

from caldarium.core.log.chances import Reliability
from caldarium.drawings.svg import Svg, drawing, element, line, rect, text, title

WIDTH, HEIGHT, LEFT, TOP, SIDE = 330.0, 296.0, 56.0, 22.0, 220.0


def chances(found: Reliability, words: str) -> Svg:
    """A square: what was said to the right, what happened upward; on the slope chances are honest.

    Args:
        found: bins of outcomes; a mark's area tells how many.
        words: what a bin is called, with places for said, happened and count.
    """

    def x(share: float) -> float:
        return LEFT + share * SIDE

    def y(share: float) -> float:
        return TOP + (1 - share) * SIDE

    parts: list[Svg] = [rect(LEFT, TOP, SIDE, SIDE, "chances-ground")]
    for share in (0.0, 0.5, 1.0):
        parts.append(line(x(share), TOP, x(share), TOP + SIDE, "grid"))
        parts.append(line(LEFT, y(share), LEFT + SIDE, y(share), "grid"))
        parts.append(text(x(share), TOP + SIDE + 26, f"{share:.0%}", "axis", "middle"))
        parts.append(text(LEFT - 18, y(share) + 4, f"{share:.0%}", "axis", "end"))
    parts.append(line(x(0), y(0), x(1), y(1), "chances-honest"))
    parts.append(line(x(0), y(found.happened), x(1), y(found.happened), "chances-base"))
    most = max((each.count for each in found.bins), default=1)
    for each in found.bins:
        radius = 4 + 10 * (each.count / most) ** 0.5
        told = words.format(
            said=f"{each.said:.0%}", happened=f"{each.happened:.0%}", count=each.count
        )
        parts.append(
            element(
                "circle",
                title(told),
                cx=x(each.said),
                cy=y(each.happened),
                r=radius,
                class_="chances-bin",
            )
        )
        parts.append(text(x(each.said) + radius + 3, y(each.happened) + 4, str(each.count), "axis"))
    parts.append(text(LEFT + SIDE / 2, TOP + SIDE + 44, "said", "axis", "middle"))
    parts.append(text(LEFT + SIDE + 18, y(found.happened) + 4, "all", "axis"))
    label = "Chances of being short that were said, and how often it happened"
    return drawing(WIDTH, HEIGHT, label, *parts, class_="chances")
