"""Opening the database: WAL, foreign keys, and migrations to the newest shape."""

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import datetime
from pathlib import Path
from threading import Lock
from urllib.parse import quote

from sqlalchemy import Engine, create_engine, event, inspect, text
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session

MIGRATIONS = Path(__file__).parent / "migrations"


class NotADatabaseError(ValueError):
    """A file that is no whole database of this application, in a line that says what to do."""


class InUseError(RuntimeError):
    """A database that another program serves."""


def open_database(path: Path) -> Engine:
    """An engine on a database file that exists and has the newest tables.

    Raises:
        NotADatabaseError: where a file is there that is damaged, foreign or of a newer version, or
            that cannot be read or written.

    WAL and full synchronisation: what is committed survives a killed process and a power cut.
    """
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as fault:
        raise NotADatabaseError(f"{path.parent} cannot be made: {fault.strerror}") from None
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

    if path.exists() and path.stat().st_size:
        check(path)
    try:
        if not _is_newest(engine):
            _upgrade(engine)
    except DatabaseError as fault:
        raise NotADatabaseError(f"{path}: {told_of(fault)}") from None
    return engine


_TURN = Lock()
"""Writers of one program take turns here: SQLite only polls for its lock, and lets some starve."""


@contextmanager
def writing(engine: Engine) -> Iterator[Session]:
    """A session for one change, which holds SQLite's write lock before it reads.

    Without it two writers read the same state and the later one undoes the earlier unseen. Readers
    are not held up.
    """
    with _TURN, Session(engine) as session, session.begin():
        session.execute(text("BEGIN IMMEDIATE"))
        yield session


def _is_newest(engine: Engine) -> bool:
    """Whether the tables are those of the last migration: its file's name starts with its id."""
    newest = max(_known_versions())
    with engine.connect() as connection:
        if not inspect(connection).has_table("alembic_version"):
            return False
        version = connection.execute(text("SELECT version_num FROM alembic_version")).scalar()
        return version == newest


def _known_versions() -> set[str]:
    """Versions of the tables that this application knows: a migration's name starts with its."""
    return {each.name.partition("_")[0] for each in (MIGRATIONS / "versions").glob("*.py")}


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
    (
        "readonly",
        "The database cannot be written. Give this program the right to write to its "
        "file and folder, then try again.",
    ),
    (
        "unable to open",
        "The database cannot be opened. Check that its folder is there and may be "
        "read and written.",
    ),
    ("disk i/o", "The disk does not answer as it should. Check it, then try again."),
    (
        "malformed",
        "The database file is damaged. Stop the program and bring a backup back with "
        "“caldarium restore”.",
    ),
    (
        "not a database",
        "That file is no database. Name another one, or bring a backup back with "
        "“caldarium restore”.",
    ),
)


def told_of(fault: DatabaseError | sqlite3.Error) -> str:
    """What a fault of the database asks its user to do, in one line."""
    words = str(getattr(fault, "orig", None) or fault).lower()
    return next((told for part, told in _TOLD if part in words), f"The database says: {words}.")


def check(path: Path) -> None:
    """That a file is a whole database of this application, of its version or an earlier one.

    Raises:
        NotADatabaseError: with a line that says what is wrong.
    """
    if not path.is_file():
        raise NotADatabaseError(f"there is no database at {path}")
    try:
        with closing(sqlite3.connect(f"file:{quote(str(path))}?mode=ro", uri=True)) as connection:
            found = [row[0] for row in connection.execute("PRAGMA integrity_check(3)")]
            if found != ["ok"]:
                raise NotADatabaseError(f"{path} is damaged: {found[0]}")
            version = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    except sqlite3.OperationalError as fault:
        if "no such table" in str(fault):
            raise NotADatabaseError(f"{path} is no database of this application") from None
        raise NotADatabaseError(f"{path}: {told_of(fault)}") from None
    except sqlite3.Error as fault:
        raise NotADatabaseError(f"{path}: {told_of(fault)}") from None
    if version is None or version[0] not in _known_versions():
        raise NotADatabaseError(
            f"{path} was written by a newer version of this application; use that one"
        )


def back_up(path: Path, target: Path) -> None:
    """A consistent copy of a database in use, as one file: written beside, checked, then named.

    Raises:
        NotADatabaseError: where the source is missing or damaged.
        FileExistsError: where the target exists: nothing is written over.
    """
    check(path)
    if target.exists():
        raise FileExistsError(f"{target} exists; name another file")
    beside = target.with_name(f".{target.name}.part")
    try:
        with closing(sqlite3.connect(path)) as source, closing(sqlite3.connect(beside)) as copy:
            source.backup(copy)
            copy.execute("PRAGMA journal_mode=DELETE")
        check(beside)
        beside.rename(target)
    finally:
        beside.unlink(missing_ok=True)


def set_aside(path: Path) -> Path | None:
    """Give a database and its log another name, with the time in it; None where there was none.

    Raises:
        InUseError: where another program holds it open.
    """
    if not path.exists():
        return None
    refuse_in_use(path)
    aside = path.with_name(f"{path.stem}-before-{datetime.now():%Y%m%d-%H%M%S}{path.suffix}")
    for suffix in ("-wal", "-shm", ""):
        part = Path(f"{path}{suffix}")
        if part.exists():
            part.rename(f"{aside}{suffix}")
    return aside


def refuse_in_use(path: Path) -> None:
    """That no other program works on a database.

    Raises:
        InUseError: where one does.
    """
    if not path.exists():
        return
    try:
        with closing(sqlite3.connect(path, timeout=0.2)) as connection:
            connection.execute("PRAGMA locking_mode=EXCLUSIVE")
            connection.execute("BEGIN EXCLUSIVE")
            connection.rollback()
    except sqlite3.OperationalError as fault:
        if "locked" in str(fault):
            raise InUseError(f"{path} is in use: stop the program that serves it first") from None
    except sqlite3.DatabaseError:
        return


def restore(backup: Path, path: Path) -> Path | None:
    """Bring a backup back: it is checked and copied beside, then takes the database's place.

    Returns:
        Where the database that was there now is, None where there was none.

    Raises:
        NotADatabaseError: where the backup is damaged, foreign or of a newer version.
        InUseError: where the database is being served.
    """
    check(backup)
    refuse_in_use(path)
    path.parent.mkdir(parents=True, exist_ok=True)
    beside = path.with_name(f".{path.name}.part")
    try:
        with closing(sqlite3.connect(backup)) as source, closing(sqlite3.connect(beside)) as copy:
            source.backup(copy)
        check(beside)
        aside = set_aside(path)
        beside.rename(path)
    finally:
        beside.unlink(missing_ok=True)
    return aside


def restore_in_use(engine: Engine, path: Path, backup: Path) -> Path:
    """Bring a backup back into a database that this program serves.

    Returns:
        Where what was there is kept, as a backup beside the database.

    Raises:
        NotADatabaseError: where the backup is damaged, foreign or of a newer version.
    """
    check(backup)
    aside = path.with_name(f"{path.stem}-before-{datetime.now():%Y%m%d-%H%M%S}{path.suffix}")
    back_up(path, aside)
    engine.dispose()
    with closing(sqlite3.connect(backup)) as source, closing(sqlite3.connect(path)) as live:
        source.backup(live)
        live.execute("PRAGMA journal_mode=WAL")
    _upgrade(engine)
    return aside
