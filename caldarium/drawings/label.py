"""Labels of the store: a code that a phone's camera reads as text."""

import segno

from caldarium.core.stock.inventory import Stored
from caldarium.drawings.svg import Svg, element, rect

QUIET = 2
"""Blank modules round a code. ISO/IEC 18004 asks for four; the label's own margin gives the rest.
"""


def label_text(piece: Stored) -> str:
    """What a piece's code says: its tag, a blank, and its name."""
    return f"{piece.tag} {piece.name}"


def label_code(piece: Stored) -> Svg:
    """A piece's code as a drawing.

    Source: ISO/IEC 18004, by segno; error correction M, read with about 15 % of it worn off.
    """
    code = segno.make(label_text(piece), error="m", micro=False)
    rows = [list(row) for row in code.matrix]
    size = len(rows) + 2 * QUIET
    dark = [
        rect(QUIET + x, QUIET + y, 1, 1, "dark")
        for y, row in enumerate(rows)
        for x, module in enumerate(row)
        if module
    ]
    return element(
        "svg",
        rect(0, 0, size, size, "light"),
        *dark,
        viewBox=f"0 0 {size} {size}",
        role="img",
        aria_label=f"code that says {label_text(piece)}",
        class_="label-code",
    )
