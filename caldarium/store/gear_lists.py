"""The school's own lists of gear in the database."""

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from caldarium.core.plan.gear_list import GearList
from caldarium.store.database import writing
from caldarium.store.models import GearListRow


class GearLists:
    """All lists of one database, by id."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def all(self) -> list[GearList]:
        """Every list, by name."""
        with Session(self._engine) as session:
            documents = session.scalars(select(GearListRow.document))
            found = [GearList.model_validate_json(each) for each in documents]
        return sorted(found, key=lambda each: each.name.lower())

    def put(self, listed: GearList) -> None:
        """Keep a list; one of its id before is replaced."""
        with writing(self._engine) as session:
            session.execute(delete(GearListRow).where(GearListRow.key == listed.id))
            session.add(GearListRow(key=listed.id, document=listed.model_dump_json()))

    def remove(self, identifier: str) -> None:
        """Forget a list; courses that have it keep it."""
        with writing(self._engine) as session:
            session.execute(delete(GearListRow).where(GearListRow.key == identifier))
