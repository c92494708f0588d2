"""What is told at checks, in the database: a log to which only is added."""

from collections.abc import Sequence

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from caldarium.core.check.record import Told
from caldarium.store.database import writing
from caldarium.store.models import CheckEventRow
from caldarium.store.told import add_once


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
        """Add what is told; returns how many things were new. See add_once."""
        with writing(self._engine) as session:
            return add_once(session, CheckEventRow, course, told)
