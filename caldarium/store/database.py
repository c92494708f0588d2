"""Opening the database: WAL, foreign keys, and migrations to the newest shape."""

import sqlite3
from pathlib import Path

from sqlalchemy import Engine, create_engine, event, inspect, text

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
