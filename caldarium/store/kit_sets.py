"""The school's own sets of kit in the database."""

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from caldarium.core.plan.kit_sets import KitSet
from caldarium.store.database import writing
from caldarium.store.models import KitSetRow


class KitSets:
    """All sets of one database, by name; capitals do not tell names apart."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def all(self) -> list[KitSet]:
        """Every set, by name."""
        with Session(self._engine) as session:
            rows = session.scalars(select(KitSetRow).order_by(KitSetRow.key))
            return [KitSet.model_validate_json(row.document) for row in rows]

    def get(self, name: str) -> KitSet | None:
        """A set by its name, None where there is none."""
        with Session(self._engine) as session:
            row = session.scalar(select(KitSetRow).where(KitSetRow.key == name.lower()))
            return None if row is None else KitSet.model_validate_json(row.document)

    def put(self, kit: KitSet) -> None:
        """Keep a set; one of its name before is replaced."""
        with writing(self._engine) as session:
            session.execute(delete(KitSetRow).where(KitSetRow.key == kit.name.lower()))
            session.add(KitSetRow(key=kit.name.lower(), document=kit.model_dump_json()))

    def remove(self, name: str) -> None:
        """Forget a set; what people have of it stays theirs."""
        with writing(self._engine) as session:
            session.execute(delete(KitSetRow).where(KitSetRow.key == name.lower()))
