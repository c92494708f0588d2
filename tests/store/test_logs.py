"""What happened on courses: kept once, apart from the plan's steps, deleted for good."""

from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta

from caldarium.core.plan.log import Entry, Found, Log, Slept
from caldarium.demo import demo_course
from caldarium.store.courses import Courses
from caldarium.store.database import open_database
from caldarium.store.logs import Logs, with_log


def entry(at: int, person: str = "runa") -> Entry:
    event = Slept(person=person, day=at % 4, felt="cold")
    return Entry(token=f"token-{at:04d}", at=datetime(2026, 9, 25, tzinfo=UTC), event=event)


def test_what_is_sent_twice_is_kept_once_also_by_two_at_once(tmp_path) -> None:
    engine = open_database(tmp_path / "a.sqlite")
    number = Courses(engine).add(with_log(demo_course(), Log()), "made")
    logs = Logs(engine)
    things = [entry(at) for at in range(40)]
    with ThreadPoolExecutor(4) as pool:
        list(pool.map(lambda at: logs.tell(number, things[at : at + 20]), [0, 5, 10, 20]))
    assert len(logs.of(number).entries) == 40
    assert logs.tell(number, [things[0], entry(99), entry(99)]) == 1


def test_the_same_token_on_two_courses_is_two_things(tmp_path) -> None:
    """An exported course and its copy in the same database share tokens."""
    courses = Courses(engine := open_database(tmp_path / "a.sqlite"))
    one, two = (courses.add(demo_course(), "made") for _ in range(2))
    logs = Logs(engine)
    assert logs.of(one) == logs.of(two) == demo_course().log
    assert logs.logged() == [one, two]


def test_a_plans_steps_do_not_carry_its_log(tmp_path) -> None:
    courses = Courses(engine := open_database(tmp_path / "a.sqlite"))
    number = courses.add(demo_course(), "made")
    assert courses.get(number).course.log.empty
    courses.change(number, "named", lambda now: now.altered(name="Other"))
    courses.undo(number)
    assert with_log(courses.get(number).course, Logs(engine).of(number)) == demo_course()


def test_what_is_deleted_of_somebody_is_nowhere_in_the_file(tmp_path) -> None:
    path = tmp_path / "a.sqlite"
    courses = Courses(engine := open_database(path))
    number = courses.add(with_log(demo_course(), Log()), "made")
    logs = Logs(engine)
    secret = Found(subject="runa", what="missed", name="sealskin-xyzzy")
    kept = Found(subject="dag", what="missed", name="lantern-plugh")
    for at, each in enumerate((secret, kept)):
        told = Entry(token=f"token-{at:04d}", at=datetime.now(UTC), event=each)
        logs.tell(number, [told])
    logs.tell(number, [entry(7, "runa"), entry(8, "dag")])
    assert logs.forget_person(number, "runa") == 2
    assert [each.event.kind for each in logs.of(number).entries] == ["found", "slept"]
    with engine.connect() as connection:
        connection.exec_driver_sql("VACUUM")
        connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    assert b"sealskin-xyzzy" not in path.read_bytes()
    assert b"lantern-plugh" in path.read_bytes()


def test_a_clock_that_is_ahead_is_set_back(tmp_path) -> None:
    engine = open_database(tmp_path / "a.sqlite")
    number = Courses(engine).add(with_log(demo_course(), Log()), "made")
    Logs(engine).tell(number, [entry(1).altered(at=datetime.now(UTC) + timedelta(days=9))])
    assert Logs(engine).of(number).entries[0].at <= datetime.now(UTC)


def test_thermometers_are_replaced_by_id_and_go_with_their_course(tmp_path) -> None:
    courses = Courses(engine := open_database(tmp_path / "a.sqlite"))
    number = courses.add(demo_course(), "made")
    logs = Logs(engine)
    first, *others = logs.of(number).thermometers
    logs.put(number, [first.altered(name="Other")])
    assert logs.of(number).thermometers[0].name == "Other"
    logs.remove(number, first.id)
    assert logs.of(number).thermometers == tuple(others)
