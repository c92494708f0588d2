"""The database as a file: every version opens, damage is told, backups come back."""

import os
import sqlite3
import subprocess
import sys
import time

import pytest
from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine, text

from caldarium.cli import main
from caldarium.demo import demo_course, demo_store
from caldarium.store.courses import Courses
from caldarium.store.database import (
    MIGRATIONS,
    InUseError,
    NotADatabaseError,
    back_up,
    open_database,
    restore,
)
from caldarium.store.pieces import KEPT_CHANGES, Pieces

VERSIONS = sorted(each.name.partition("_")[0] for each in (MIGRATIONS / "versions").glob("*.py"))


def filled(path, name: str = "made"):
    courses = Courses(open_database(path))
    courses.add(demo_course(), name)
    return courses


@pytest.mark.parametrize("version", VERSIONS)
def test_a_database_of_every_version_opens_with_its_data(tmp_path, version) -> None:
    path = tmp_path / "old.sqlite"
    settings = Config()
    settings.set_main_option("script_location", str(MIGRATIONS))
    engine = create_engine(f"sqlite:///{path}")
    with engine.begin() as connection:
        settings.attributes["connection"] = connection
        command.upgrade(settings, version)
        document = demo_course().model_dump_json()
        row = {"at": "2026-01-02 03:04:05.000000", "document": document}
        connection.execute(
            text("INSERT INTO course (id, name, head, changed_at) VALUES (1, 'old', 1, :at)"), row
        )
        connection.execute(
            text(
                "INSERT INTO revision (id, course_id, number, made_at, change, document) "
                "VALUES (1, 1, 1, :at, 'made', :document)"
            ),
            row,
        )
    engine.dispose()
    opened = open_database(path)
    assert Courses(opened).get(1).course == demo_course()
    assert Pieces(opened).put(demo_store()[:3], "some") == 3


def test_damage_is_told_in_one_line(tmp_path, capsys, monkeypatch) -> None:
    whole = tmp_path / "whole.sqlite"
    filled(whole)
    data = whole.read_bytes()
    cases = {
        "no.sqlite": b"this is no database at all, only some text" * 40,
        "short.sqlite": data[: len(data) // 3],
        "hole.sqlite": data[:8192] + b"\xff" * 4096 + data[12288:],
    }
    for name, content in cases.items():
        path = tmp_path / name
        path.write_bytes(content)
        with pytest.raises(NotADatabaseError, match=name):
            open_database(path)
        with pytest.raises(NotADatabaseError):
            back_up(path, tmp_path / "copy.sqlite")
        monkeypatch.setattr(sys, "argv", ["caldarium", "export", "1", "--database", str(path)])
        with pytest.raises(SystemExit):
            main()
        told = capsys.readouterr().err
        assert told.count("\n") == 1
        assert name in told
    assert not (tmp_path / "copy.sqlite").exists()


def test_a_newer_database_is_left_alone(tmp_path) -> None:
    path = tmp_path / "newer.sqlite"
    filled(path)
    with sqlite3.connect(path) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    with pytest.raises(NotADatabaseError, match="newer version"):
        open_database(path)


@pytest.mark.skipif(os.geteuid() == 0, reason="root may write everywhere")
def test_a_folder_that_cannot_be_written_is_told(tmp_path) -> None:
    folder = tmp_path / "closed"
    folder.mkdir()
    folder.chmod(0o500)
    with pytest.raises(NotADatabaseError, match="may be read and written"):
        open_database(folder / "a.sqlite")


def test_a_backup_comes_back_and_what_was_there_is_kept(tmp_path) -> None:
    path, copy = tmp_path / "a.sqlite", tmp_path / "copy.sqlite"
    courses = filled(path, "first")
    back_up(path, copy)
    courses.add(demo_course().altered(name="later"), "later")
    courses._engine.dispose()
    aside = restore(copy, path)
    assert [each.name for each in Courses(open_database(path)).list()] == [demo_course().name]
    assert aside is not None
    assert len(Courses(open_database(aside)).list()) == 2
    copy.write_bytes(copy.read_bytes()[:5000])
    with pytest.raises(NotADatabaseError):
        restore(copy, path)
    assert len(Courses(open_database(path)).list()) == 1


def test_a_database_in_use_is_not_replaced(tmp_path) -> None:
    path, copy = tmp_path / "a.sqlite", tmp_path / "copy.sqlite"
    filled(path)
    back_up(path, copy)
    with sqlite3.connect(path, isolation_level=None) as other:
        other.execute("BEGIN IMMEDIATE")
        with pytest.raises(InUseError, match="in use"):
            restore(copy, path)
        other.execute("ROLLBACK")


def test_a_waiting_writer_stops_no_reader(tmp_path) -> None:
    path = tmp_path / "a.sqlite"
    courses = filled(path)
    with sqlite3.connect(path, isolation_level=None) as other:
        other.execute("BEGIN IMMEDIATE")
        assert courses.get(1).revision == 1
        other.execute("ROLLBACK")


def test_the_page_takes_and_brings_back_a_backup(client, courses) -> None:
    data = client.get("/backup/file").content
    assert data.startswith(b"SQLite format 3")
    courses.add(demo_course().altered(name="Later course"), "later")
    shown = client.post("/backup/restore", files={"file": ("b.sqlite", data)}).text
    assert "b.sqlite is back." in shown
    assert [each.name for each in courses.list()] == [demo_course().name]
    for bad in (b"", b"nonsense", data[:3000]):
        shown = client.post("/backup/restore", files={"file": ("b.sqlite", bad)}).text
        assert "Nothing was changed." in shown
    assert len(courses.list()) == 1


def test_the_store_forgets_old_states_and_keeps_their_words(tmp_path) -> None:
    path = tmp_path / "a.sqlite"
    pieces = Pieces(open_database(path))
    piece = demo_store()[0]
    for count in range(KEPT_CHANGES + 20):
        pieces.put([piece.altered(count=count + 1)], f"count {count}")
    with sqlite3.connect(path) as connection:
        kept = connection.execute("SELECT count(*) FROM piece_event WHERE after <> ''").fetchone()
    assert kept[0] <= KEPT_CHANGES + 1
    assert len(pieces.history(piece.tag)) == KEPT_CHANGES + 20
    assert pieces.undo()


EDITS = """
import sys
from pathlib import Path
from caldarium.core.plan.changes import with_person
from caldarium.store.courses import Courses
from caldarium.store.database import open_database, restore_in_use
path = Path(sys.argv[1])
engine = open_database(path)
courses = Courses(engine)
step = int(courses.get(1).course.people[0].food_g_a_day)
while True:
    step += 1
    alter = lambda now: with_person(now, now.people[0].altered(food_g_a_day=step))
    courses.change(1, f"{step}", alter)
    if step % 3 == 0:
        courses.undo(1)
        courses.redo(1)
    print(step, flush=True)
"""
KILLS = int(os.environ.get("KILLS", "20"))


@pytest.mark.slow
def test_killed_in_the_middle_nothing_answered_is_lost(tmp_path) -> None:
    path = tmp_path / "a.sqlite"
    course = demo_course()
    first = course.people[0].altered(food_g_a_day=100)
    Courses(open_database(path)).add(course.altered(people=(first, *course.people[1:])), "made")
    for kill in range(KILLS):
        run = subprocess.Popen(
            [sys.executable, "-c", EDITS, str(path)], stdout=subprocess.PIPE, text=True
        )
        assert run.stdout is not None
        last = int(run.stdout.readline())
        time.sleep((kill * 37 % 50) / 1000)
        run.kill()
        last = max([last, *(int(line) for line in run.stdout if line.endswith("\n"))])
        run.wait()
        courses = Courses(open_database(path))
        assert int(courses.get(1).course.people[0].food_g_a_day) in (last, last + 1)
        with sqlite3.connect(path) as connection:
            numbers = [
                row[0]
                for row in connection.execute(
                    "SELECT number FROM revision WHERE course_id = 1 ORDER BY number"
                )
            ]
        assert numbers == list(range(numbers[0], numbers[-1] + 1)), "a hole in the chain"
