"""The database: WAL, migrations, revisions, backup, and what a killed process leaves."""

import os
import signal
import sqlite3
import subprocess
import sys

import pytest
from sqlalchemy import inspect

from caldarium.store.courses import Courses, NoSuchCourseError
from caldarium.store.database import NotADatabaseError, back_up, open_database
from caldarium.store.logs import Logs, with_log
from caldarium.store.models import Base


def test_migrations_make_the_tables_of_the_models(tmp_path):
    engine = open_database(tmp_path / "a.sqlite")
    found = inspect(engine)
    for table in Base.metadata.sorted_tables:
        assert {c["name"] for c in found.get_columns(table.name)} == set(table.columns.keys())
    with engine.connect() as connection:
        assert connection.exec_driver_sql("PRAGMA journal_mode").scalar() == "wal"
        assert connection.exec_driver_sql("PRAGMA foreign_keys").scalar() == 1


def test_a_change_after_undo_cuts_the_redo(tmp_path, demo):
    courses = Courses(open_database(tmp_path / "a.sqlite"))
    number = courses.add(demo, "made")
    courses.change(number, "one", lambda c: c.altered(name="one"))
    courses.undo(number)
    courses.change(number, "two", lambda c: c.altered(name="two"))
    held = courses.get(number)
    assert (held.course.name, held.undo, held.redo) == ("two", "two", None)
    assert not courses.redo(number)
    assert not courses.change(number, "nothing", lambda c: c)


def test_a_failing_change_leaves_nothing(tmp_path, demo):
    courses = Courses(open_database(tmp_path / "a.sqlite"))
    number = courses.add(demo, "made")

    def fail(course):
        raise RuntimeError

    with pytest.raises(RuntimeError):
        courses.change(number, "fails", fail)
    assert courses.get(number).revision == 1
    with pytest.raises(NoSuchCourseError):
        courses.get(77)


def test_backup_is_one_whole_file(tmp_path, demo):
    path, copy = tmp_path / "a.sqlite", tmp_path / "copy.sqlite"
    Courses(open_database(path)).add(demo, "made")
    back_up(path, copy)
    engine = open_database(copy)
    assert with_log(Courses(engine).get(1).course, Logs(engine).of(1)) == demo
    with pytest.raises(FileExistsError):
        back_up(path, copy)
    with pytest.raises(NotADatabaseError):
        back_up(tmp_path / "none", tmp_path / "b")


def test_a_killed_process_loses_nothing_committed(tmp_path):
    path = tmp_path / "a.sqlite"
    script = (
        "import sys, time; from pathlib import Path\n"
        "from caldarium.store.courses import Courses\n"
        "from caldarium.store.database import open_database\n"
        "from caldarium.demo import demo_course\n"
        "Courses(open_database(Path(sys.argv[1]))).add(demo_course(), 'made')\n"
        "print('in', flush=True); time.sleep(60)\n"
    )
    with subprocess.Popen([sys.executable, "-c", script, str(path)], stdout=subprocess.PIPE) as run:
        assert run.stdout is not None
        assert run.stdout.readline() == b"in\n"
        os.kill(run.pid, signal.SIGKILL)
    assert Courses(open_database(path)).get(1).course.name.startswith("Skarn")
    assert sqlite3.connect(path).execute("PRAGMA integrity_check").fetchone() == ("ok",)
