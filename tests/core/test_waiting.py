"""Clothes that wait on the way: nobody is judged warm in them while they are away."""

import numpy as np

from caldarium.core.assess import assess
from caldarium.core.plan.changes import remove_piece, with_person
from caldarium.core.plan.kit import LegEnd
from caldarium.core.reassess import reassess
from caldarium.core.what_if.verdicts import harms

JACKET = "big-synthetic-jacket"


def waiting(demo, **ends):
    hale = demo.person("hale")
    garments = tuple(e.altered(**ends) if e.id == JACKET else e for e in hale.garments)
    return with_person(demo, hale.altered(garments=garments))


def test_a_jacket_in_a_cache_is_missed_until_it_is_reached(demo, demo_result) -> None:
    course = waiting(demo, waits_at=LegEnd(day=1, leg="plateau"))
    found, whole = assess(course).of("hale"), demo_result.of("hale")
    bare = assess(with_person(demo, remove_piece(demo.person("hale"), JACKET))).of("hale")
    before = [s for s in found.moments if s.day == 0]
    assert all(JACKET not in state.worn for state in before)
    assert [s.state for s in before] == [s.state for s in bare.moments if s.day == 0]
    after = [s.state for s in found.moments if s.day >= 2]
    assert after == [s.state for s in whole.moments if s.day >= 2]
    assert any(JACKET in state.worn for state in found.moments)
    assert {h.moment for h in harms(whole, found)} <= {m.moment for m in harms(whole, bare)} | set()
    gone = np.array(found.load.away["warmth"])
    assert gone[0] > 0
    assert gone[-1] == 0


def test_a_jacket_left_is_missed_from_there_and_its_nights_with_it(demo, demo_result) -> None:
    course = waiting(demo, left_at=LegEnd(day=2, leg="back"))
    found, whole = assess(course).of("hale"), demo_result.of("hale")
    assert all(JACKET not in s.worn for s in found.moments if s.day >= 3)
    assert found.nights[0] == whole.nights[0]
    assert found.nights[3].margin < whole.nights[3].margin


def test_assessing_again_is_the_same_as_assessing_whole(demo) -> None:
    before = reassess(demo, None)
    course = waiting(demo, waits_at=LegEnd(day=1, leg="plateau"))
    again = reassess(course, before)
    assert again.result.of("hale") == assess(course).of("hale")
    dry = course.altered(
        days=tuple(d.altered(conditions=d.conditions.altered(wind_ms=2)) for d in course.days)
    )
    mine, theirs = reassess(dry, again).result.of("hale"), assess(dry).of("hale")
    assert [s.state for s in mine.moments] == [s.state for s in theirs.moments]
    assert mine.load == theirs.load
