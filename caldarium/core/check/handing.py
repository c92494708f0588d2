"""Handing out by the plan, and what a piece of the store is after it came back."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

from caldarium.core.check.record import Back, HandBack, Record
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Item
from caldarium.core.stock.inventory import Condition, Stored
from caldarium.core.stock.issue import store_key, stored_pieces

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


@dataclass(frozen=True)
class ToHand:
    """So many of a piece of the store that somebody has by the plan, not handed to them yet; piece
    is its id in their kit."""

    person: Person
    piece: str
    stored: Stored
    count: int


def to_hand_out(course: Course, record: Record, known: Mapping[str, Stored]) -> list[ToHand]:
    """Pieces of the store in people's kit that were not handed to them yet.

    Args:
        course: the plan.
        record: what was handed out.
        known: the store's pieces by tag in lower case.

    Source: none, counts.
    """
    out: Counter[tuple[str, str]] = Counter()
    for each in record.outs:
        out[each.what.person, each.what.tag.lower()] += each.what.count
    found: list[ToHand] = []
    for person in course.people:
        for piece in stored_pieces(person):
            stored = known.get(store_key(piece))
            if stored is None:
                continue
            many = piece.count if isinstance(piece, Item) else 1
            gone = min(out[person.id, store_key(piece)], many)
            out[person.id, store_key(piece)] -= gone
            if many > gone:
                found.append(ToHand(person, piece.id, stored, many - gone))
    return found
