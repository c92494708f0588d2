"""Taking a cure meets the line it was offered for; what is there is not given twice."""

import pytest

from caldarium.catalogue import load_catalogue, shipped_lists
from caldarium.core.check.cures import MOST_CURES, cures_for, give_all, shelf_of, taken
from caldarium.core.lists.judge import judge
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course, demo_store

EVERYTHING = load_catalogue().everything
STORE = Supply(tuple(demo_store()), None, EVERYTHING)
SHELF = shelf_of(STORE)


@pytest.mark.parametrize("name", list(DEMOS))
def test_every_cure_does_what_it_promises(name: str) -> None:
    course = demo_course(name).altered(lists=shipped_lists())
    timeline = build_timeline(course)
    looked = 0
    seen: set[tuple[str, str]] = set()
    for line in judge(course, timeline):
        if line.good or (line.list, line.entry) in seen:
            continue
        seen.add((line.list, line.entry))
        who = line.subject.id if line.subject.of == "head" else course.people[0].id
        cures = cures_for(course, line, SHELF)
        assert len(cures) <= MOST_CURES
        for cure in cures:
            looked += 1
            after = taken(course, who, cure, STORE)
            key = (line.list, line.entry, line.subject.id)
            (now,) = [
                each
                for each in judge(after, timeline)
                if (each.list, each.entry, each.subject.id) == key
            ]
            # Where several parts lack, one cure is for one of them.
            assert now.good or (now.lacks, now.has) != (line.lacks, line.has), (key, cure.key)
    assert looked > 20


def test_own_comes_first_then_the_store_and_no_more_than_there_is() -> None:
    course = demo_course("hot-canyon")
    line = next(e for e in judge(course, build_timeline(course)) if e.entry == "whistle")
    name = course.person(line.subject.id).name
    own = Stored(
        tag="M-1",
        name="own whistle",
        kind="communication",
        mass_g=30,
        owner="member",
        owner_name=name,
    )
    school = Stored(tag="S-1", name="school whistle", kind="communication", mass_g=10)
    other = own.altered(tag="M-2", name="whistle of another", owner_name="Somebody Else")
    cures = cures_for(course, line, shelf_of(Supply((school, own, other), None, EVERYTHING)))
    assert [each.source for each in cures][:3] == ["own", "store", "buy"]
    assert [each.key for each in cures][:2] == ["M-1", "S-1"]
    gone = Supply((school,), {"s-1": 0}, {})
    assert cures_for(course, line, shelf_of(gone)) == []


def test_what_is_too_weak_gives_its_place_to_what_is_not() -> None:
    course = demo_course()
    judged = judge(course, build_timeline(course))
    line = next(each for each in judged if each.entry == "rain-above" and not each.good)
    who = line.subject.id
    jacket = line.pieces[-1].piece
    weak = course.person(who)
    garments = tuple(
        each.altered(taped=False) if each.id == jacket else each for each in weak.garments
    )
    people = tuple(
        each.altered(garments=garments) if each.id == who else each for each in course.people
    )
    course = course.altered(people=people)
    judged = judge(course, build_timeline(course))
    line = next(e for e in judged if e.entry == "rain-above" and e.subject.id == who)
    assert line.state == "too weak"
    cure = cures_for(course, line, SHELF)[0]
    assert cure.swaps == jacket
    after = taken(course, who, cure, STORE).person(who)
    assert jacket not in {each.id for each in after.garments}
    assert len(after.garments) == len(garments)


def test_what_the_store_has_too_few_of_comes_from_further_off_and_never_twice() -> None:
    course = demo_course()
    judged = judge(course, build_timeline(course))
    lines = [each for each in judged if each.entry == "socks" and not each.good]
    assert len(lines) == 10
    after, given = give_all(course, lines, "store G-31", "runa", STORE)
    sources = [cure.source for _, cure in given]
    assert (sources.count("store"), sources.count("buy")) == (2, 8)
    tags = [each.tag for person in after.people for each in person.garments if each.tag]
    assert tags == ["G-31", "G-31"]
    assert not [e for e in judge(after, build_timeline(after)) if e.entry == "socks" and not e.good]
