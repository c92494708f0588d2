"""The log of checks, for all pages of a check: read as a record, and added to."""

import secrets
from collections.abc import Sequence
from datetime import UTC, datetime

from fastapi import Request

from caldarium.core.check.record import Event, HandOut, Record, Tick, Told, record_of
from caldarium.store.checks import Checks
from caldarium.web.page import courses_of
from caldarium.web.stock.store import pieces_of


def _checks_of(request: Request) -> Checks:
    return request.app.state.checks


def record_for(request: Request, number: int) -> Record:
    """What stands of everything that was told of a course."""
    return record_of(_checks_of(request).of(number))


def now_told(by: str, event: Event) -> Told:
    """Something told at this moment from a form."""
    return Told(token=secrets.token_hex(16), at=datetime.now(UTC), by=by[:120].strip(), event=event)


def tell(request: Request, number: int, told: Sequence[Told]) -> None:
    """Keep what was told; what was lent by a tag of the store is handed out with it."""
    people = {each.id for each in courses_of(request).get(number).course.people}
    lent = [
        (each, each.event)
        for each in told
        if isinstance(each.event, Tick) and each.event.said == "lent" and each.event.tag
    ]
    known = pieces_of(request).known([tick.tag for _, tick in lent])
    more: list[Told] = []
    for each, tick in lent:
        piece = known.get(tick.tag.lower())
        if piece is not None and tick.subject in people:
            out = HandOut(
                person=tick.subject, name=piece.name, tag=piece.tag, condition=piece.condition
            )
            more.append(Told(token=f"{each.token[:60]}-out", at=each.at, by=each.by, event=out))
    _checks_of(request).tell(number, [*told, *more])
