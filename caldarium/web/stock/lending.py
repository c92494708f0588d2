"""Where the store's pieces are, over all courses of this database."""

from collections.abc import Sequence
from datetime import datetime

from fastapi import Request

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.course import Course
from caldarium.core.plan.findings import Finding
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.issue import given_out, kit_id, lent
from caldarium.core.stock.lending import (
    Loan,
    RefusalReason,
    days_of,
    left_of,
    loans_for,
    loans_of,
    refusal,
)
from caldarium.core.stock.supply import Supply
from caldarium.store.courses import Courses
from caldarium.store.pieces import Pieces


class Lending:
    """What every course has of the store; read anew only for courses that changed."""

    def __init__(self, courses: Courses) -> None:
        self._courses = courses
        self._known: dict[int, tuple[datetime, dict[str, Loan]]] = {}

    def all(self, *, but: int = 0) -> list[dict[str, Loan]]:
        """What each course has, by store_key, without one of them."""
        rows = self._courses.list()
        for row in rows:
            known = self._known.get(row.id)
            if known is None or known[0] != row.changed_at:
                held = self._courses.get(row.id)
                self._known[row.id] = (row.changed_at, loans_of(row.id, held.course))
        there = [row.id for row in rows]
        self._known = {number: self._known[number] for number in there}
        return [self._known[number][1] for number in there if number != but]


def lending_of(request: Request) -> Lending:
    """The lending behind this application."""
    return request.app.state.lending


def available(request: Request, number: int, course: Course) -> list[Stored]:
    """Pieces that can go to a course: neither retired nor unfit, as many of each as no other course
    has on its days; what the course itself has counts as there."""
    pieces: Pieces = request.app.state.pieces
    others = lending_of(request).all(but=number)
    first, last = days_of(course)
    found: list[Stored] = []
    for piece in pieces.all():
        if piece.condition == "unfit":
            continue
        left = left_of(piece, loans_for(piece, others), first, last)
        if left > 0:
            found.append(piece if left == piece.count else piece.model_copy(update={"count": left}))
    return found


def refused(
    request: Request, course: Course, pieces: Sequence[Stored]
) -> list[tuple[Stored, Finding[RefusalReason]]]:
    """Which of some pieces cannot be given to a course, and why; one that is asked for twice needs
    two."""
    loans = lending_of(request).all()
    first, last = days_of(course)
    found: list[tuple[Stored, Finding[RefusalReason]]] = []
    asked: dict[str, int] = {}
    for piece in pieces:
        already = asked.get(piece.tag, 0)
        asked[piece.tag] = already + 1
        fewer = piece.count - already
        left = piece.model_copy(update={"count": fewer})
        why = refusal(left, loans_for(piece, loans), first, last)
        if why is not None:
            found.append((piece, why))
    return found


def supply_for(request: Request, number: int, course: Course) -> Supply:
    """What a course can draw on: the store as far as neither another course of its days nor one of
    its own people has it, and the catalogue."""
    stored, out = available(request, number, course), lent(course)
    left = {piece.tag.lower(): piece.count - given_out(out, piece) for piece in stored}
    return Supply(stored, left, load_catalogue().everything)


def stored_by_key(request: Request) -> dict[str, Stored]:
    """Every piece of the store, retired ones too, by what stands for it in people's kit."""
    pieces: Pieces = request.app.state.pieces
    return {
        key: piece
        for piece in pieces.all(retired=True)
        for key in (piece.tag.lower(), kit_id(piece))
    }
