"""The log of checks: kept once however often it is sent, by two at a time, over a migration."""

from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta

from caldarium.catalogue import shipped_lists
from caldarium.core.check.record import Tick, Told
from caldarium.demo import demo_course
from caldarium.store.checks import Checks
from caldarium.store.courses import Courses
from caldarium.store.database import open_database
from caldarium.store.gear_lists import GearLists


def told(at: int) -> Told:
    event = Tick(subject="runa", list="l", entry="e", said="yes")
    return Told(token=f"token-{at:04d}", at=datetime.now(UTC), event=event)


def test_what_is_sent_twice_is_kept_once_also_by_two_at_once(tmp_path) -> None:
    engine = open_database(tmp_path / "a.sqlite")
    number = Courses(engine).add(demo_course(), "demo")
    checks = Checks(engine)
    things = [told(at) for at in range(60)]
    with ThreadPoolExecutor(4) as pool:
        list(pool.map(lambda at: checks.tell(number, things[at : at + 20]), [0, 10, 20, 30, 40]))
    found = checks.of(number)
    assert len(found) == 60
    assert {each.token for each in found} == {each.token for each in things}
    assert checks.tell(number, [things[0], told(99), told(99)]) == 1
    assert checks.of(number + 1) == []


def test_a_clock_that_is_ahead_is_set_back(tmp_path) -> None:
    engine = open_database(tmp_path / "a.sqlite")
    number = Courses(engine).add(demo_course(), "demo")
    checks = Checks(engine)
    early = told(1).altered(at=datetime.now(UTC) + timedelta(days=2))
    checks.tell(number, [early])
    assert checks.of(number)[0].at <= datetime.now(UTC)


def test_the_schools_lists_are_kept_by_id_and_replaced(tmp_path) -> None:
    kept = GearLists(open_database(tmp_path / "a.sqlite"))
    first = shipped_lists()[0]
    kept.put(first)
    kept.put(first.altered(name="A new name"))
    assert [each.name for each in kept.all()] == ["A new name"]
    kept.remove(first.id)
    assert kept.all() == []
