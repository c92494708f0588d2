"""Opening the database: WAL, foreign keys, and migrations to the newest shape."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy import Engine, create_engine, event, inspect, text
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session

MIGRATIONS = Path(__file__).parent / "migrations"


def open_database(path: Path) -> Engine:
    """An engine on a database file that exists and has the newest tables.

    WAL and full synchronisation: what is committed survives a killed process and a power cut.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    engine = create_engine(f"sqlite:///{path}")

    @event.listens_for(engine, "connect")
    def _prepare(connection: sqlite3.Connection, _record: object) -> None:
        cursor = connection.cursor()
        for pragma in (
            "journal_mode=WAL",
            "synchronous=FULL",
            "foreign_keys=ON",
            "busy_timeout=5000",
        ):
            cursor.execute(f"PRAGMA {pragma}")
        cursor.close()

    if not _is_newest(engine):
        _upgrade(engine)
    return engine


@contextmanager
def writing(engine: Engine) -> Iterator[Session]:
    """A session for one change, which holds SQLite's write lock before it reads.

    Without it two writers read the same state and the later one undoes the earlier unseen. Readers
    are not held up.
    """
    with Session(engine) as session, session.begin():
        session.execute(text("BEGIN IMMEDIATE"))
        yield session


def _is_newest(engine: Engine) -> bool:
    """Whether the tables are those of the last migration: its file's name starts with its id."""
    newest = max(each.name for each in (MIGRATIONS / "versions").glob("*.py")).partition("_")[0]
    with engine.connect() as connection:
        if not inspect(connection).has_table("alembic_version"):
            return False
        version = connection.execute(text("SELECT version_num FROM alembic_version")).scalar()
        return version == newest


def _upgrade(engine: Engine) -> None:
    """Bring the tables to the last migration; Alembic is slow to import and rarely needed."""
    from alembic import command
    from alembic.config import Config

    settings = Config()
    settings.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        settings.attributes["connection"] = connection
        command.upgrade(settings, "head")


_TOLD = (
    ("locked", "Another program is writing to the database. Try again in a moment."),
    ("full", "The disk is full. Free some space, then try again."),
    ("readonly", "The database cannot be written. Give this program the right to write to its "
     "file and folder, then try again."),
    ("unable to open", "The database cannot be opened. Check that its folder is there and may be "
     "read and written."),
    ("disk i/o", "The disk does not answer as it should. Check it, then try again."),
    ("malformed", "The database file is damaged. Stop the program and bring a backup back with "
     "“caldarium restore”."),
    ("not a database", "That file is no database. Name another one, or bring a backup back with "
     "“caldarium restore”."),
)  # fmt: skip


def told_of(fault: DatabaseError | sqlite3.Error) -> str:
    """What a fault of the database asks its user to do, in one line."""
    words = str(getattr(fault, "orig", None) or fault).lower()
    return next((told for part, told in _TOLD if part in words), f"The database says: {words}.")


def back_up(path: Path, target: Path) -> None:
    """A consistent copy of a database in use, as one file.

    Raises:
        FileNotFoundError: where there is no database.
        FileExistsError: where the target exists: nothing is written over.
    """
    if not path.exists():
        raise FileNotFoundError(f"no database at {path}")
    if target.exists():
        raise FileExistsError(f"{target} exists; name another file")
    source, copy = sqlite3.connect(path), sqlite3.connect(target)
    with source, copy:
        source.backup(copy)
    source.close()
    copy.close()
