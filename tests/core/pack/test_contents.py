"""What is in a pack weighs what the load says, hour for hour; what is worn or away is not in it."""

import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.load.load_hours import is_away
from caldarium.core.pack.contents import NOBODYS, contents, first_walk, mornings, pack_on
from caldarium.core.pack.needed import needs_of
from caldarium.core.pack.plan import plan_pack
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.kit import Item, LegEnd
from caldarium.core.plan.rucksack import Rucksack
from caldarium.demo import DEMOS, demo_course
from caldarium.words.pack import pack_sentence
from caldarium.words.units import Display
from tests.courses import KINDS

EVERY = {**{f"demo {name}": lambda name=name: demo_course(name) for name in DEMOS}, **KINDS}
BIG = ("longest and largest",)


@pytest.mark.parametrize("kind", [each for each in EVERY if each not in BIG])
def test_pack_and_body_weigh_what_the_load_says(kind: str) -> None:
    """Mass is conserved: contents, empty pack and worn things are the load's own sum."""
    course = EVERY[kind]()
    result = assess(course)
    for person in course.people[:6]:
        load = result.of(person.id).load
        for day in mornings(course, result.timeline):
            walk = first_walk(result.timeline, day)
            inside = contents(course, person, result, day)
            known = {each.id for each in inside}
            at = min(
                int(np.searchsorted(result.timeline.hours.hour, walk.start)), len(load.hour) - 1
            )
            here = np.array([walk.start])
            worn = [
                piece.mass_g
                for piece in person.garments
                if piece.id not in known
                and not is_away(piece.waits_at, piece.left_at, result.timeline, here)[0]
            ]
            carried = pack_on(person, result.timeline, walk)
            packs = [item.grams for item in person.on_back if item is carried or item.worn]
            whole = sum(each.grams for each in inside) + sum(worn) + sum(packs)
            # What weighs less than a gram is left out of a pack.
            assert whole == pytest.approx(1000 * load.by_hour[at], abs=25), (person.name, day)


def test_what_is_worn_waits_or_is_on_a_helper_is_not_in_the_pack() -> None:
    course = demo_course()
    result = assess(course)
    person = course.people[0]
    day = mornings(course, result.timeline)[1]
    walk = first_walk(result.timeline, day)
    worn = next(m.worn for m in result.of(person.id).moments if m.moment == walk.id)
    inside = contents(course, person, result, day)
    assert not {each.id for each in inside} & set(worn)
    last = course.days[-1].legs[0].id
    book = Item(
        id="book-2",
        name="book",
        mass_g=300,
        purpose="comfort",
        waits_at=LegEnd(day=len(course.days) - 1, leg=last),
    )
    with_book = with_person(course, person.altered(items=(*person.items, book)))
    after = contents(with_book, with_book.person(person.id), assess(with_book), day)
    assert "book-2" not in {each.id for each in after}


def test_a_thing_in_a_thing_goes_with_it() -> None:
    course = demo_course()
    person = course.people[0]
    pouch = Item(id="pouch", name="pouch", mass_g=40, purpose="comfort", packed_l=0.3)
    inside = Item(id="knife-2", name="scissors", mass_g=60, purpose="comfort", inside="pouch")
    person = person.altered(items=(*person.items, pouch, inside))
    course = with_person(course, person)
    found = {each.id: each for each in contents(course, person, assess(course), 0)}
    assert found["pouch"].grams == 100
    assert "knife-2" not in found


def test_kit_that_nobody_was_given_is_one_share() -> None:
    course = demo_course()
    found = contents(course, course.people[0], assess(course), 0)
    assert [each.id for each in found].count(NOBODYS) == 1


def test_what_is_put_on_at_halts_is_wanted_first() -> None:
    course = demo_course()
    result = assess(course)
    person = course.people[0]
    for day in mornings(course, result.timeline):
        inside = contents(course, person, result, day)
        needs = needs_of(person, result, day, inside)
        assert needs.keys() == {each.id for each in inside}
        states = {m.moment: m for m in result.of(person.id).moments}
        halts = [m for m in result.timeline.moments if m.day == day and m.kind == "halt"]
        for each in inside:
            at_halts = any(each.id in states[halt.id].worn for halt in halts)
            if at_halts and not each.spare:
                assert needs[each.id].hurry >= 2, each.name


def with_day_pack(litres: float = 22.0, **said: object):
    """The demo with a day pack beside somebody's pack, and a pouch inside the pack itself."""
    course = demo_course()
    person = course.people[0]
    big = next(item for item in person.items if item.kind == "pack")
    pouch = Item(id="pouch", name="pouch", mass_g=140, purpose="comfort", inside=big.id)
    small = Item(
        id="day-pack",
        name="day pack",
        kind="pack",
        mass_g=420,
        purpose="comfort",
        capacity_l=litres,
        packed_l=1.0,
    )
    items = tuple(item.altered(**said) if item is big else item for item in person.items)
    person = person.altered(
        items=(*items, small, pouch), rucksack=Rucksack(main_l=50, frame="frame")
    )
    return with_person(course, person), person, big


def test_a_smaller_pack_lies_in_the_one_that_is_carried() -> None:
    course, person, big = with_day_pack()
    result = assess(course)
    plan = plan_pack(course, person, result, 0)
    assert plan.asked.sack.name == big.name
    assert plan.asked.sack.main == 50
    assert plan.asked.sack.grams == big.grams
    assert plan.pieces["day-pack"].grams == 420
    assert plan.pieces["pouch"].grams == 140


def test_where_the_large_pack_was_left_the_day_pack_is_carried() -> None:
    """Its own litres, not those that are said of the large one; what is in the large one stays."""
    course = demo_course()
    first = LegEnd(day=0, leg=course.days[0].legs[-1].id)
    course, person, _ = with_day_pack(left_at=first)
    result = assess(course)
    before, after = (plan_pack(course, person, result, day) for day in (0, 1))
    assert before.asked.sack.main == 50
    assert after.asked.sack.name == "day pack"
    assert after.asked.sack.grams == 420
    assert after.asked.sack.whole == pytest.approx(22.0)
    assert after.asked.said.frame is None
    assert not {"day-pack", "pouch"} & after.pieces.keys()
    assert "in the day pack" in pack_sentence(after, Display())
    load = result.of(person.id).load
    walk = first_walk(result.timeline, 1)
    at = int(np.searchsorted(result.timeline.hours.hour, walk.start))
    on_body = sum(piece.mass_g for piece in person.garments if piece.id not in after.pieces)
    assert after.grams + on_body == pytest.approx(1000 * load.by_hour[at], abs=25)
