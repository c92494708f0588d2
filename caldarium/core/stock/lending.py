"""Where the store's pieces are: given to which course until when, and how many are left."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.group_kit import wanted
from caldarium.core.plan.kit import Item
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.issue import kit_id, lent, store_key, stored_group, stored_pieces

RefusalReason = Literal["retired", "unfit", "none left"]
"""Why a piece is not given. Figures: how many there are. Names: courses that have them."""


@dataclass(frozen=True)
class Loan:
    """So many of a piece with a course: its number and name, first and last day, nights, and who
    has them; of the group's kit nobody by name."""

    course: int
    name: str
    first: date
    last: date
    nights: int
    count: int
    people: tuple[str, ...]

    def meets(self, first: date, last: date) -> bool:
        """Whether it is away on any of these days. Source: none, bookkeeping."""
        return self.first <= last and first <= self.last


def days_of(course: Course) -> tuple[date, date]:
    """First and last day of a course. Source: the plan."""
    return course.start, course.start + timedelta(days=len(course.days) - 1)


def loans_of(number: int, course: Course) -> dict[str, Loan]:
    """What of the store a course has, by store_key.

    Args:
        number: of the course.
        course: the plan.

    Source: none, bookkeeping.
    """
    first, last = days_of(course)
    nights = sum(day.camp is not None for day in course.days)
    have: dict[str, list[str]] = {}
    for person in course.people:
        for piece in stored_pieces(person):
            many = piece.count if isinstance(piece, Item) else 1
            have.setdefault(store_key(piece), []).extend([person.name] * many)
    return {
        key: Loan(number, course.name, first, last, nights, count, tuple(have.get(key, ())))
        for key, count in lent(course).items()
    }


def loans_for(piece: Stored, loans: Iterable[Mapping[str, Loan]]) -> list[Loan]:
    """Where some of one piece are or were, by course, last first.

    Source: none, bookkeeping.
    """
    keys = (piece.tag.lower(), kit_id(piece))
    found = [loan for each in loans for key in keys if (loan := each.get(key)) is not None]
    return sorted(found, key=lambda each: each.first, reverse=True)


def left_of(piece: Stored, loans: Sequence[Loan], first: date, last: date) -> int:
    """How many of a piece are free on all of some days.

    Args:
        piece: of the store.
        loans: of it.
        first, last: the days.

    Source: none, counts.
    """
    return piece.count - sum(loan.count for loan in loans if loan.meets(first, last))


def refusal(
    piece: Stored, loans: Sequence[Loan], first: date, last: date
) -> Finding[RefusalReason] | None:
    """Why a piece is not given to a course on some days; None where it is.

    Source: the store's own figures.
    """
    if piece.retired:
        return Finding("retired")
    if piece.condition == "unfit":
        return Finding("unfit")
    if left_of(piece, loans, first, last) <= 0:
        names = tuple(loan.name for loan in loans if loan.meets(first, last))
        return Finding("none left", names, (float(piece.count),))
    return None


@dataclass(frozen=True)
class ToGet:
    """A piece that a course hires or buys: whose, empty for the group's, what it costs and where it
    is had."""

    person: str
    piece: Stored
    count: int

    @property
    def cost(self) -> float | None:
        """What all of them cost, None where nobody said. Source: none, arithmetic."""
        return None if self.piece.cost is None else self.piece.cost * self.count


def got_there(person: Person, stored: Mapping[str, Stored]) -> frozenset[str]:
    """Ids of what somebody hires or buys on arrival, and so does not fly with.

    Source: the store's own words on whose each piece is.
    """
    return frozenset(
        getattr(piece, "id", "")
        for piece in stored_pieces(person)
        if (found := stored.get(store_key(piece))) and found.owner in ("hire", "buy on arrival")
    )


def to_get(course: Course, stored: Mapping[str, Stored]) -> list[ToGet]:
    """What a course hires and buys, hired first, by person.

    Args:
        course: the plan.
        stored: the store's pieces by store_key.

    Source: the store's own words on whose each piece is.
    """
    found = [
        ToGet(person.name, stored[key], piece.count if isinstance(piece, Item) else 1)
        for person in course.people
        for piece in stored_pieces(person)
        if (key := store_key(piece)) in stored
    ]
    found += [
        ToGet("", stored[key], wanted(course, kit))
        for kit in stored_group(course)
        if (key := store_key(kit)) in stored
    ]
    away = [each for each in found if each.piece.owner in ("hire", "buy on arrival")]
    return sorted(away, key=lambda each: (each.piece.owner != "hire", each.piece.name))
