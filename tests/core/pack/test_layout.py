"""A pack is drawn to scale; its centre of mass is the mean of masses; reach is what lies over."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.core.assess import assess
from caldarium.core.pack.contents import Content
from caldarium.core.pack.layout import Box, fill, lay_out
from caldarium.core.pack.needed import Need
from caldarium.core.pack.pack_checks import check_pack
from caldarium.core.pack.placing import Asked, Placing
from caldarium.core.pack.plan import plan_pack, rides_low
from caldarium.core.pack.zones import DEPTH_CM, MAIN, WIDTH_CM, Sack, on_the_back, packs_of, sack_of
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.course import Person
from caldarium.core.plan.rucksack import Rucksack
from caldarium.demo import demo_course


def thing(name: str, grams: float, litres: float, role: str = "other", *marks: str) -> Content:
    return Content(name, name, grams, litres, False, role, frozenset(marks))


def sack(person: Person | None = None) -> Sack:
    person = person or demo_course().people[0]
    return sack_of(person, 30, on_the_back(packs_of(person)))


@settings(max_examples=100, deadline=None)
@given(seed=st.integers(0, 10**6), count=st.integers(1, 25))
def test_a_box_is_filled_whole_to_scale_and_nothing_overlaps(seed: int, count: int) -> None:
    chance = random.Random(seed)
    pieces = [thing(f"t{at}", 1, chance.uniform(0.05, 9)) for at in range(count)]
    box = Box(3.0, 5.0, 23.0, 40.0)
    found = fill(pieces, box)
    whole = sum(piece.litres for piece in pieces)
    for piece in pieces:
        each = found[piece.id]
        share = piece.litres / whole * box.width * box.height
        assert each.width * each.height == pytest.approx(share)
        assert each.x >= box.x - 1e-9
        assert each.x + each.width <= box.x + box.width + 1e-9
        assert each.y + each.height <= box.y + box.height + 1e-9
    boxes = list(found.values())
    for at, one in enumerate(boxes):
        for other in boxes[at + 1 :]:
            wide = min(one.x + one.width, other.x + other.width) - max(one.x, other.x)
            tall = min(one.y + one.height, other.y + other.height) - max(one.y, other.y)
            assert min(wide, tall) <= 1e-6


def test_the_main_compartment_is_to_scale() -> None:
    course = demo_course()
    plan = plan_pack(course, course.people[0], assess(course), 0)
    for name, zone in plan.placing.zones.items():
        if zone in MAIN:
            box = plan.laid.boxes[name]
            litres = box.width * box.height * WIDTH_CM / 1000
            assert litres == pytest.approx(plan.pieces[name].litres)


def test_the_centre_of_mass_by_hand() -> None:
    """A worked example: two things, one of 1 kg filling 10 cm at the foot, one of 3 kg over it."""
    litres = 10 * WIDTH_CM * DEPTH_CM / 1000
    low, high = thing("low", 1000, litres), thing("high", 3000, litres)
    needs = {"low": Need(9, "for the night", 0.1), "high": Need(9, "at lunch", 1.8)}
    holds = sack()
    laid = lay_out([low, high], needs, {"low": "foot", "high": "top"}, holds)
    assert laid.height_cm == pytest.approx((1 * 5 + 3 * 15) / 4)
    assert laid.depth_cm == pytest.approx(DEPTH_CM / 2)
    assert laid.filled_cm == pytest.approx(20)
    assert laid.order == ("low", "high")
    assert laid.before == {"low": ("high",), "high": ()}


def test_what_is_wanted_soonest_goes_in_last_and_comes_out_first() -> None:
    pieces = [thing("night", 1, 3), thing("rain", 1, 3), thing("lunch", 1, 3)]
    needs = {
        "night": Need(20, "for the night", 0.1),
        "rain": Need(9, "put on in rain", 3.0),
        "lunch": Need(12, "at lunch", 1.8),
    }
    zones = dict.fromkeys(needs, "top")
    laid = lay_out(pieces, needs, zones, sack())
    assert laid.order == ("night", "lunch", "rain")
    assert laid.before["night"] == ("rain", "lunch")


def checked(pieces, zones, *, said=None, freezes=False, wet_out=True, hurry=0.1, person=None):
    """Findings on pieces in zones of a pack that holds 47 litres."""
    person = person or demo_course().people[0]
    needs = {each.id: Need(9, "any time", hurry) for each in pieces}
    holds = sack(person)
    asked = Asked(pieces, needs, holds, said or Rucksack(), 0.6, 300.0, freezes)
    laid = lay_out(pieces, needs, zones, holds)
    return {
        each.reason: each
        for each in check_pack(asked, Placing(zones, 0.0), laid, person, wet_out=wet_out)
    }


def test_every_fault_is_found_and_only_where_it_is() -> None:
    bag = thing("bag", 1000, 25.0, "bed", "keep dry")
    fuel, food = thing("fuel", 300, 0.5, "fuel", "leaks"), thing("food", 3000, 5.0, "food")
    helmet = thing("helmet", 350, 4.0, "tool", "crushable")
    axe = thing("axe", 600, 1.5, "tool", "sharp")
    bottle = thing("bottle", 2100, 2.1, "water", "freezes")
    assert "no barrier" not in checked([bag], {"bag": "foot"})
    assert "no barrier" in checked([bag], {"bag": "foot"}, said=Rucksack(liner=False))
    assert "no barrier" in checked([bag], {"bag": "lashed"})
    assert "no barrier" not in checked([bag], {"bag": "lashed"}, wet_out=False)
    over = checked([fuel, food], {"fuel": "top", "food": "foot"})
    assert over["fuel over food"].names == ("fuel", "food")
    assert "fuel over food" not in checked([fuel, food], {"fuel": "foot", "food": "top"})
    assert "leaks on" in checked([fuel, bag], {"fuel": "foot", "bag": "foot"})
    assert "crushed" in checked([helmet], {"helmet": "foot"})
    assert "crushed" not in checked([helmet], {"helmet": "lashed"})
    assert "sharp inside" in checked([axe], {"axe": "top"})
    assert "freezes" in checked([bottle], {"bottle": "left"}, freezes=True)
    assert "freezes" not in checked([bottle], {"bottle": "left"})
    sides = checked([bottle], {"bottle": "left"})["one-sided"]
    assert sides.figures == (2100, 0)
    assert "deep" in checked([axe], {"axe": "foot"}, hurry=2.4)
    assert "no place" in checked([bag], {})
    assert "too full" in checked([thing("sack", 100, 60.0)], {"sack": "foot"})
    assert "loose" in checked([food], {"food": "foot"})
    assert "top-heavy" in checked([bag, food], {"bag": "foot", "food": "lid"})
    assert "hangs back" in checked([food], {"food": "lashed"})
    assert "heavy outside" in checked([food], {"food": "lashed"})
    assert "over rated" in checked([food], {"food": "foot"}, said=Rucksack(rated_kg=3))
    person = demo_course().people[0].altered(torso_cm=42)
    short = checked([food], {"food": "foot"}, said=Rucksack(back_cm=54), person=person)
    assert short["not the back"].figures == (42, 54)


def test_heavy_things_ride_as_the_school_or_the_way_says() -> None:
    course = demo_course("deep-winter")
    result = assess(course)
    by_the_way = [rides_low(course, result.timeline, day) for day in range(3)]
    assert len(set(by_the_way)) == 2
    for school, low in (("high", False), ("low", True)):
        said = course.altered(heavy_things=school)
        assert [rides_low(said, result.timeline, day) for day in range(3)] == [low] * 3


def test_a_wet_shelter_goes_over_the_liner() -> None:
    course = demo_course()
    result = assess(course)
    person = course.people[0]
    plan = plan_pack(course, person, result, 1)
    wet = [name for name, each in plan.pieces.items() if each.wet]
    assert wet
    assert all(plan.placing.zones[name] not in MAIN for name in wet)
    dry = with_person(course, person.altered(rucksack=Rucksack(liner=False)))
    assert plan_pack(dry, dry.person(person.id), result, 1).placing.zones.keys() == (
        plan.placing.zones.keys()
    )


def test_straps_are_checked_drawn_and_reached() -> None:
    """What hangs under the foot lies under it, what is on the lid comes off before all else, and
    side straps weigh on their side."""
    foam, tent = thing("foam", 400, 12.0, "pad"), thing("tent", 900, 6.0, "shelter")
    poles, bag = thing("poles", 500, 1.5, "tool"), thing("bag", 1000, 20.0, "bed")
    pieces = [foam, tent, poles, bag]
    zones = {"foam": "under", "tent": "on lid", "poles": "strap left", "bag": "foot"}
    needs = {each.id: Need(20, "for the night", 0.1) for each in pieces}
    laid = lay_out(pieces, needs, zones, sack())
    assert laid.boxes["foam"].y + laid.boxes["foam"].height < 0
    assert laid.boxes["tent"].y > laid.filled_cm
    assert laid.before["bag"] == ("tent",)
    assert laid.before["tent"] == ()
    assert (laid.left_g, laid.right_g) == (500, 0)
    told = checked(pieces, zones, said=Rucksack(straps=("under", "lid")))
    assert told["no strap"].names == ("poles",)
    assert "no strap" not in checked(pieces, zones)
    more = checked([foam, thing("roll", 400, 14.0, "pad")], {"foam": "under", "roll": "lashed"})
    assert more["too much outside"].figures == (26.0, 25.0)
    brittle = thing("lens", 300, 1.0, "tool", "crushable")
    assert "crushed" in checked([brittle], {"lens": "under"})
