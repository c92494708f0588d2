"""What is told at checks, in the database: a log to which only is added."""

from collections.abc import Sequence
from datetime import UTC, datetime

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from caldarium.core.check.record import Told
from caldarium.store.database import writing
from caldarium.store.models import CheckEventRow


class Checks:
    """Everything told of the checks of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def of(self, course: int) -> list[Told]:
        """Everything told of a course, in the order in which it came."""
        with Session(self._engine) as session:
            documents = session.scalars(
                select(CheckEventRow.document)
                .where(CheckEventRow.course_id == course)
                .order_by(CheckEventRow.id)
            )
            return [Told.model_validate_json(each) for each in documents]

    def tell(self, course: int, told: Sequence[Told]) -> int:
        """Add what is told; what was told before under its token is passed over.

        A clock that is ahead of this machine's is set back to it, so that nothing told later is
        hidden by it.

        Returns:
            How many were new.
        """
        now = datetime.now(UTC)
        with writing(self._engine) as session:
            tokens = [each.token for each in told]
            known = set(
                session.scalars(select(CheckEventRow.token).where(CheckEventRow.token.in_(tokens)))
            )
            added = 0
            for each in told:
                if each.token in known:
                    continue
                known.add(each.token)
                added += 1
                kept = each if each.at <= now else each.altered(at=now)
                session.add(
                    CheckEventRow(
                        course_id=course,
                        token=each.token,
                        received_at=now,
                        document=kept.model_dump_json(),
                    )
                )
            return added
