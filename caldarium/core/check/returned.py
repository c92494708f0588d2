"""What a piece of the store is after a course."""

from caldarium.core.check.record import Back, HandBack
from caldarium.core.stock.inventory import Condition, Stored

WORN_BY_NIGHTS = ("bag", "quilt", "pad", "shelter")
"""Kinds of which nights are counted."""
_CONDITION: dict[Back, Condition] = {"damaged": "to mend"}
"""What a piece is where nobody says better."""


def piece_back(piece: Stored, back: HandBack, nights: int) -> Stored:
    """A piece as the store has it after something of it came back, or did not.

    What is missing is taken off the count, and retires where none is left. Nights are counted where
    the line is one piece alone; of several alike nobody knows which it was.

    Args:
        piece: of the store, as it is.
        back: what was told.
        nights: of the course.

    Source: none, bookkeeping.
    """
    told: dict[str, object] = {}
    if back.state == "missing":
        left = piece.count - back.count
        return piece.altered(count=left) if left > 0 else piece.altered(retired=True)
    condition = back.condition or _CONDITION.get(back.state)
    if condition is not None:
        told["condition"] = condition
    if piece.count == 1 and piece.kind in WORN_BY_NIGHTS:
        told["nights_used"] = piece.nights_used + nights
    return piece.altered(**told) if told else piece
