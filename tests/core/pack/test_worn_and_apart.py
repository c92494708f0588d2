"""Pouches worn with a pack, hard and long things, ways to pack what is soft; drop bags, sleds."""

import pytest

from caldarium.core.assess import assess
from caldarium.core.pack.bags import PLACES, bundles
from caldarium.core.pack.contents import COMPRESSED, LOOSE
from caldarium.core.pack.plan import PackPlan, plan_pack
from caldarium.core.pack.where import SOFT, SPINE, WHERE_LONG
from caldarium.core.pack.zones import WORN_WITH
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Helper, Item, LegEnd
from caldarium.core.plan.rucksack import Placed
from caldarium.demo import DEMOS, demo_course


def planned(course: Course, who: str, **rucksack) -> PackPlan:
    person = course.person(who)
    there = person.altered(rucksack=person.rucksack.altered(**rucksack))
    other = with_person(course, there)
    return plan_pack(other, there, assess(other), 0)


def test_a_pouch_that_nobody_has_takes_nothing_and_one_that_is_had_is_used() -> None:
    course = demo_course()
    bare = planned(course, "runa")
    assert not set(bare.placing.zones.values()) & set(WORN_WITH)
    worn = planned(course, "runa", chest_l=2.5, shoulder_l=0.5, waist_l=2.0)
    used = {zone for zone in worn.placing.zones.values() if zone in WORN_WITH}
    assert used
    for zone in used:
        inside = sum(e.litres for e in worn.pieces.values() if worn.placing.zones[e.id] == zone)
        assert inside <= worn.asked.sack.room[zone] + 1e-9
    assert worn.laid.depth_cm < bare.laid.depth_cm


@pytest.mark.parametrize("name", DEMOS)
def test_nothing_hard_presses_on_a_back_and_nothing_long_is_bent(name: str) -> None:
    course = demo_course(name)
    for person in course.people:
        plan = plan_pack(course, person, assess(course), 0)
        zones = plan.placing.zones
        soft = {zones[e.id] for e in plan.pieces.values() if e.role in SOFT}
        for each in plan.pieces.values():
            if "hard" in each.marks and zones[each.id] in SPINE:
                assert zones[each.id] in soft
            if "long" in each.marks and "sharp" not in each.marks:
                assert zones[each.id] in WHERE_LONG
        assert "hard on the back" not in {each.reason for each in plan.findings}


def test_a_hard_thing_put_by_the_spine_alone_is_told() -> None:
    course = demo_course()
    stove = next(
        (p.id, name)
        for p in course.people
        for name, each in plan_pack(course, p, assess(course), 0).pieces.items()
        if "hard" in each.marks
    )
    who, piece = stove
    plan = planned(course, who, placed=(Placed(piece=piece, zone="low spine"),))
    alone = all(
        e.role not in SOFT for e in plan.pieces.values() if plan.placing.zones[e.id] == "low spine"
    )
    told = {each.names[0] for each in plan.findings if each.reason == "hard on the back"}
    assert (piece in told) == alone


def test_what_is_soft_takes_more_room_loose_and_less_compressed() -> None:
    course = demo_course()
    bag = course.person("runa").bag
    assert bag is not None
    sizes = {
        packed: planned(course, "runa", placed=(Placed(piece=bag.id, packed=packed),))
        .pieces[bag.id]
        .litres
        for packed in ("loose", "sack", "compressed")
    }
    assert sizes["loose"] == pytest.approx(LOOSE * sizes["sack"])
    assert sizes["compressed"] == pytest.approx(COMPRESSED * sizes["sack"])
    loose_food = planned(course, "runa", placed=(Placed(piece="food", packed="loose"),))
    plain = planned(course, "runa")
    assert loose_food.pieces["food"].litres == plain.pieces["food"].litres


def test_drop_bags_and_sleds_are_packed_by_the_same_questions() -> None:
    course = demo_course()
    end = LegEnd(day=1, leg=course.days[1].legs[0].id)
    things = (
        Item(id="tins", name="tins of food", mass_g=2400, purpose="food and water", waits_at=end),
        Item(id="lamp", name="lamp", mass_g=200, purpose="comfort", kind="light", waits_at=end),
        Item(id="ropes", name="ropes", mass_g=3000, purpose="safety", on="sled"),
    )
    runa = course.person("runa")
    sled = Helper(id="sled", name="Sled", kind="sled", limit_kg=60, drawn_by="runa")
    kit = course.group[0]
    carriers = tuple("sled" for _ in range(2))
    course = with_person(
        course.altered(
            helpers=(sled,),
            group=(kit.altered(carriers=carriers), *course.group[1:]),
        ),
        runa,
    )
    course = with_person(course, runa.altered(items=(*runa.items, *things)))
    drop, sledded = bundles(course)
    assert (drop.place, drop.helper) == (end, "")
    assert [each.line.id for _, each in drop.things] == ["tins", "lamp"]
    assert drop.grams == pytest.approx(2600)
    assert (sledded.helper, sledded.place) == ("sled", None)
    assert sledded.grams == pytest.approx(3000 + 2 * kit.mass_g)
    places = [PLACES.index(each.place) for _, each in sledded.things]
    assert places == sorted(places)
    assert bundles(demo_course("hot-canyon")) == []


def test_a_pack_without_a_frame_is_told_beyond_what_it_carries() -> None:
    course = demo_course()
    for frame, told in (("no frame", True), ("frame", False), (None, False)):
        plan = planned(course, "dag", frame=frame)
        assert ("over rated" in {each.reason for each in plan.findings}) == told
    stated = planned(course, "dag", frame="no frame", rated_kg=40)
    assert "over rated" not in {each.reason for each in stated.findings}


def test_what_has_a_dry_sack_of_its_own_may_lie_outside_the_liner() -> None:
    course = demo_course()
    piece = next(
        each
        for each in planned(course, "dag").pieces.values()
        if each.role == "clothes" and "keep dry" in each.marks
    )
    plan = planned(course, "dag", placed=(Placed(piece=piece.id, packed="dry sack"),))
    assert "keep dry" in plan.pieces[piece.id].marks
    assert plan.pieces[piece.id].may_get_wet
    by_hand = Placed(piece=piece.id, packed="dry sack", zone="front")
    outside = planned(course, "dag", placed=(by_hand,))
    assert piece.id not in {
        n for e in outside.findings for n in e.names if e.reason == "no barrier"
    }


def test_nothing_is_lashed_where_nothing_can_be() -> None:
    plan = planned(demo_course(), "runa", lashed_l=0)
    assert "lashed" not in plan.placing.zones.values()


@pytest.mark.parametrize(
    ("name", "marks"),
    [("walking pants", set()), ("knitting", set()), ("pan", {"hard"}), ("Tent poles", {"long"})],
)
def test_words_in_names_are_whole_words(name: str, marks: set[str]) -> None:
    course = demo_course()
    runa = course.person("runa")
    thing = Item(id="thing", name=name, mass_g=200, purpose="comfort")
    there = runa.altered(items=(*runa.items, thing))
    other = with_person(course, there)
    found = plan_pack(other, there, assess(other), 0).pieces["thing"]
    assert found.marks & {"hard", "long", "flat"} == marks
