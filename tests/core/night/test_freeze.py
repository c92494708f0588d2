"""What must not freeze: by night and on the way, one's own and the group's, and room in the bag."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess, wet_beds
from caldarium.core.night.freeze import HOSE, LITRES, day_guard, freeze_guard
from caldarium.core.plan.changes import add_piece
from caldarium.core.plan.kit import GroupKit
from caldarium.core.what_if.dial import Dial, turned
from caldarium.words.bed_checks import guard_sentence, room_sentence, way_sentence
from caldarium.words.units import Display

SHELVES = load_catalogue()
DISPLAY = Display()


@pytest.fixture
def equipped(demo):
    person = add_piece(demo.people[0], SHELVES.items["water-filter"])
    return add_piece(person, SHELVES.items["spare-cells"])


def things(demo, person, night, wet=None):
    return {(each.kind, each.name): each for each in freeze_guard(demo, person, night, wet).things}


def test_what_must_not_freeze_sleeps_in_the_bag(demo, demo_result, equipped) -> None:
    cold, mild = demo_result.people[0].nights[2], demo_result.people[0].nights[0]
    found = things(demo, equipped, cold)
    assert found["thing", "water filter"].at_risk
    assert "sleeps in the bag" in guard_sentence(found["thing", "water filter"], DISPLAY)
    assert not found["thing", "spare cells"].at_risk
    assert ("water", "") in found
    nobag = things(demo, equipped.altered(bag=None), cold)
    assert any("no warm place" in guard_sentence(each, DISPLAY) for each in nobag.values())
    assert not any(each.at_risk for each in things(demo, equipped, mild).values())


def test_the_groups_kit_sleeps_with_whoever_carries_it(demo, demo_result) -> None:
    lamp = GroupKit(
        id="lamp", name="lamp cells", mass_g=200, spoils_below_c=0, carriers=(demo.people[3].id,)
    )
    course = demo.altered(group=(*demo.group, lamp))
    night = demo_result.people[3].nights[2]
    found = things(course, course.people[3], night)["thing", "lamp cells"]
    assert found.group
    assert found.at_risk
    assert "the group's" in guard_sentence(found, DISPLAY)
    other = demo_result.people[0].nights[2]
    assert ("thing", "lamp cells") not in things(course, course.people[0], other)


def test_wet_boots_and_gloves_are_stiff_by_morning(demo) -> None:
    cold = turned(demo, Dial(colder=8))
    result = assess(cold)
    person, night = cold.people[0], result.people[0].nights[2]
    wet = {piece.id: 0.4 for piece in person.garments}
    kinds = {kind for kind, _ in things(cold, person, night, wet)}
    assert {"boots", "gloves"} <= kinds
    assert not {"boots", "gloves"} & {kind for kind, _ in things(cold, person, night)}
    told = [guard_sentence(each, DISPLAY) for each in things(cold, person, night, wet).values()]
    assert any("stiff by morning" in each for each in told)
    assert wet_beds(result)


def test_the_bag_has_room_for_so_much(demo, demo_result, equipped) -> None:
    night = demo_result.people[0].nights[2]
    guard = freeze_guard(demo, equipped, night)
    assert guard.litres == pytest.approx(LITRES["thing"] + LITRES["water"])
    assert guard.fits
    assert "beside the legs" in room_sentence(guard, DISPLAY)
    tight = equipped.altered(bag=equipped.bag.altered(width_cm=115))
    wet = {piece.id: 0.4 for piece in equipped.garments}
    cold = turned(demo, Dial(colder=8))
    full = freeze_guard(cold, tight, assess(cold).people[0].nights[2], wet)
    assert full.room < guard.room
    assert not full.fits
    assert "share it out" in room_sentence(full, DISPLAY)
    bare = freeze_guard(demo, equipped.altered(bag=None), night)
    assert bare.room == 0
    assert room_sentence(bare, DISPLAY) == ""


def test_on_the_way_hoses_and_filters_freeze_too(demo, demo_result, equipped) -> None:
    mild = [each for each in demo_result.timeline.moments if each.day == 0]
    assert day_guard(demo, equipped, mild) == ()
    cold = turned(demo, Dial(colder=12))
    moments = [each for each in assess(cold).timeline.moments if each.day == 2]
    found = {each.kind: each for each in day_guard(cold, equipped, moments)}
    assert found["hose"].lowest < HOSE
    assert "hose freezes" in way_sentence(found["hose"], DISPLAY)
    assert "under the clothes" in way_sentence(found["thing"], DISPLAY)
    dry = equipped.altered(water_l=0)
    assert "hose" not in {each.kind for each in day_guard(cold, dry, moments)}
    assert day_guard(cold, equipped, []) == ()
