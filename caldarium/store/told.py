"""Things told from pages that may send them twice: each kept once, by its token."""

from collections.abc import Sequence
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from caldarium.core.check.record import Told
from caldarium.core.plan.log import Entry
from caldarium.store.models import CheckEventRow, LogEntryRow


def add_once(
    session: Session,
    kind: type[CheckEventRow] | type[LogEntryRow],
    course: int,
    told: Sequence[Told] | Sequence[Entry],
) -> int:
    """Add what is told to a log; what was told before under its token is passed over.

    A clock that is ahead of this machine's is set back to it, so that nothing told later is hidden
    by it.

    Returns:
        How many were new.
    """
    now = datetime.now(UTC)
    asked = select(kind.token).where(kind.token.in_([each.token for each in told]))
    if kind is LogEntryRow:
        # A copy of a course shares its log's tokens.
        asked = asked.where(kind.course_id == course)
    known = set(session.scalars(asked))
    added = 0
    for each in told:
        if each.token in known:
            continue
        known.add(each.token)
        added += 1
        kept = each if each.at <= now else each.altered(at=now)
        session.add(
            kind(
                course_id=course,
                token=each.token,
                received_at=now,
                document=kept.model_dump_json(),
            )
        )
    return added
