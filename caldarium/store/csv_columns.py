"""What people call the columns of their own spreadsheets, remembered from one file to the next."""

from collections.abc import Mapping

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from caldarium.store.database import writing
from caldarium.store.models import CsvColumnRow


class CsvColumns:
    """All remembered columns of one database, by header in lower case."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def all(self) -> dict[str, str]:
        """The column that each header is taken for, "" for one kept as a note."""
        with Session(self._engine) as session:
            return {row.header: row.column for row in session.scalars(select(CsvColumnRow))}

    def put(self, mapped: Mapping[str, str]) -> None:
        """Remember some headers; what was remembered of them before is replaced."""
        with writing(self._engine) as session:
            session.execute(delete(CsvColumnRow).where(CsvColumnRow.header.in_(list(mapped))))
            session.add_all(
                CsvColumnRow(header=header, column=column) for header, column in mapped.items()
            )
