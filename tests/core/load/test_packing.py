"""Packing lists: every gram on them, swaps, two lists compared, and bags by air."""

import math
from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.load.packing import compare_lists, counted_twice, litres, packing_list
from caldarium.core.load.supplies import fuel_in_cans
from caldarium.core.load.travel import STEP_G, kilograms, least_enough, travel
from caldarium.core.plan.changes import carry_part, with_person
from caldarium.core.plan.kit import Item
from caldarium.core.what_if.swaps import MOST, alternatives, swappable, swapped, swaps
from caldarium.words.lists import (
    lists_sentence,
    packed_name,
    party_travel_sentence,
    swap_sentence,
    travel_sentence,
)
from caldarium.words.units import Display

SHELVES = load_catalogue()
DISPLAY = Display()


def found_for(result, person):
    return next(each for each in result.people if each.person == person.id)


def test_a_list_weighs_what_the_load_counts(demo, demo_result) -> None:
    """Every gram of body and back is on exactly one list, before anything is eaten or drunk."""
    course = carry_part(demo, "tunnel-east", "poles", "wren")
    bedding = course.people[0].bedding.altered(
        warmers=2, liner=SHELVES.liners["silk-liner"], hammock=SHELVES.hammocks["hammock-full"]
    )
    course = with_person(course, course.people[0].altered(bedding=bedding))
    result = assess(course)
    for person in course.people:
        load = found_for(result, person).load
        days = len(course.days)
        eaten = (person.food_g_a_day + person.fuel_g_a_day) * days / 1000
        eaten += float(fuel_in_cans(course, (person,))[0]) / 1000
        listed = sum(line.grams for line in packing_list(course, person)) / 1000
        assert listed == pytest.approx(sum(load.kept.values()) + eaten, abs=1e-6), person.id
    whole = sum(line.grams for person in course.people for line in packing_list(course, person))
    tents = sum(tent.mass_g for tent in course.shelters)
    assert whole > tents


def test_a_worn_piece_that_is_packed_again_is_asked_about(demo) -> None:
    runa = demo.people[0]
    assert counted_twice(packing_list(demo, runa)) == []
    again = Item(id="hat-again", name="Wool hat", mass_g=70, purpose="warmth")
    doubled = runa.altered(items=(*runa.items, again))
    (line,) = counted_twice(packing_list(with_person(demo, doubled), doubled))
    assert (line.id, line.grams) == ("hat-again", 70)


def test_room_is_measured_or_said_to_be_estimated() -> None:
    jacket = SHELVES.garments["big-down-jacket"]
    room, estimated = litres(jacket)
    assert estimated
    assert 2 < room < 9
    assert litres(jacket.altered(packed_l=4.2)) == (4.2, False)
    foam, air = (litres(SHELVES.pads[name])[0] for name in ("foam-pad", "air-pad-5"))
    assert foam > 3 * air


def test_two_lists_beside_each_other(demo) -> None:
    runa, mirel = (packing_list(demo, demo.people[row]) for row in (0, 2))
    found = compare_lists(runa, mirel)
    assert found.grams == pytest.approx(tuple(sum(e.grams for e in each) for each in (runa, mirel)))
    assert sum(each.change for each in found.pairs) == pytest.approx(
        found.grams[1] - found.grams[0], abs=found.alike
    )
    assert all(a.change >= -abs(b.change) for a, b in zip(found.pairs, found.pairs, strict=True))
    changes = [abs(each.change) for each in found.pairs]
    assert changes == sorted(changes, reverse=True)
    only_there = next(each for each in found.pairs if each.line.name == "fleece trousers")
    assert only_there.after is None
    assert only_there.change == -only_there.before
    same = compare_lists(runa, runa)
    assert same.pairs == ()
    assert "lines are alike" in lists_sentence(same, "then", "now", DISPLAY)
    assert "lighter" in lists_sentence(found, "Runa", "Mirel", DISPLAY)


def test_lines_are_called_by_what_they_are_of(demo) -> None:
    course = carry_part(demo, "dome", "fly", "mirel")
    told = {packed_name(each) for each in packing_list(course, course.person("mirel"))}
    assert "fly and lines of dome tent, two" in told
    assert any(each.startswith("share of stove") for each in told)
    assert f"food for {len(course.days)} days" in told


def test_a_swap_is_what_the_course_would_be_with_it(demo, demo_result) -> None:
    mirel = demo.people[2]
    out = next(each for each in mirel.garments if each.id == "light-synthetic-jacket")
    pieces = alternatives(out, SHELVES.everything.values())
    assert pieces
    assert out.id not in {each.id for each in pieces}
    assert all(each.layer == "insulation" for each in pieces)
    found = swaps(demo, demo_result, mirel, out, pieces)
    assert [each.short[1] for each in found] == sorted(each.short[1] for each in found)
    for each in (found[0], found[-1]):
        after = assess(with_person(demo, swapped(mirel, out, each.piece)))
        now, then = found_for(after, mirel), found_for(demo_result, mirel)
        count = sum(s.state in ("gap", "hot") for s in (*now.moments, *now.nights))
        count += sum(bool(s.at_risk) for s in now.moments)
        assert each.short[1] == count
        assert each.grams == each.piece.mass_g - out.mass_g
        here = next(s for s in now.moments if s.moment == each.moment)
        before = next(s for s in then.moments if s.moment == each.moment)
        assert math.copysign(1, each.degrees) == math.copysign(1, here.provided - before.provided)
        words = swap_sentence(demo, each, demo_result.timeline.moments, DISPLAY)
        assert each.piece.name in words
        assert each.where == "body"
    assert len(found) <= MOST
    assert swaps(demo, demo_result, mirel, out, []) == []


def test_only_pieces_of_the_same_job_are_offered(demo) -> None:
    def offered(piece: str) -> set[str]:
        out = SHELVES.everything[piece]
        return {each.id for each in alternatives(out, SHELVES.everything.values())}

    assert "light-rain-jacket" in offered("rain-jacket")
    assert not offered("rain-jacket") & {"wind-jacket", "rain-trousers", "wind-trousers"}
    assert "sun-hat" not in offered("wool-hat")
    assert offered("air-pad-5").isdisjoint({"torso-foam"})
    # Things by their kind: a torch for a torch, and never a map.
    assert offered("head-torch") == {"small-torch"}
    assert offered("map-compass") == set()
    unknown = Item(id="thing", name="thing", mass_g=100, purpose="safety")
    assert alternatives(unknown, SHELVES.everything.values()) == []


def test_gloves_and_boots_are_told_in_degrees_at_fingertip_and_toe(demo, demo_result) -> None:
    runa = demo.person("runa")
    found = {
        name: swaps(demo, demo_result, runa, out, [SHELVES.garments[name]])[0]
        for out in runa.garments
        for name, was in (("windproof-gloves", "fleece-gloves"), ("double-boots", "leather-boots"))
        if out.id == was
    }
    for name, where in (("windproof-gloves", "fingers"), ("double-boots", "toes")):
        swap = found[name]
        assert swap.where == where
        after = assess(with_person(demo, swapped(runa, swap.out, swap.piece))).of("runa")
        now, then = (
            next(s for s in each.moments if s.moment == swap.moment)
            for each in (after, demo_result.of("runa"))
        )
        change = getattr(now, where).at_end - getattr(then, where).at_end
        assert swap.degrees == pytest.approx(change)
        words = swap_sentence(demo, swap, demo_result.timeline.moments, DISPLAY)
        assert f"{where} " in words


def test_a_bed_is_swapped_by_the_margin_of_its_coldest_night(demo, demo_result) -> None:
    mirel = demo.people[2]
    (better,) = swaps(demo, demo_result, mirel, mirel.bag, [SHELVES.bags["bag-minus-14"]])
    after = assess(with_person(demo, mirel.altered(bag=SHELVES.bags["bag-minus-14"])))
    now, then = found_for(after, mirel), found_for(demo_result, mirel)
    row = min(range(len(now.nights)), key=lambda at: now.nights[at].margin)
    assert better.degrees == pytest.approx(now.nights[row].margin - then.nights[row].margin)
    assert better.degrees > 5
    (pad,) = swaps(demo, demo_result, mirel, mirel.pads[0], [SHELVES.pads["winter-pad-7"]])
    assert pad.degrees > 1
    assert pad.cost == SHELVES.pads["winter-pad-7"].cost - mirel.pads[0].cost


def test_items_swap_by_mass_alone_and_never_take_a_taken_id(demo, demo_result) -> None:
    runa = demo.people[0]
    aid = next(each for each in runa.items if each.purpose == "safety")
    lighter = Item(id=runa.items[-1].id, name="small one", mass_g=10, purpose="safety")
    (found,) = swaps(demo, demo_result, runa, aid, [lighter])
    assert math.isnan(found.degrees)
    assert found.grams == 10 - aid.mass_g
    altered = swapped(runa, aid, lighter)
    ids = [each.id for each in altered.items]
    assert len(ids) == len(set(ids))
    assert len(swappable(altered)) == len(swappable(runa))


def test_bags_by_air(demo, demo_result) -> None:
    runa = demo.people[0].altered(
        items=(
            *demo.people[0].items,
            Item(id="cells", name="spare cells", mass_g=300, purpose="safety", fly="cabin only"),
            Item(id="knife", name="knife", mass_g=120, purpose="safety", fly="hold only"),
        )
    )
    course = with_person(demo, runa)
    found = found_for(demo_result, runa)
    free = travel(course, runa, found.moments)
    assert free.fits
    names = {where: {line.id for line in getattr(free, where)} for where in ("hold", "cabin")}
    assert names["cabin"] == {"cells", "messenger"}
    assert "knife" in names["hold"]
    assert "gas" in {line.id for line in free.stays}
    whole = [*free.worn, *free.hold, *free.cabin, *free.stays]
    assert kilograms(whole) == pytest.approx(kilograms(packing_list(course, runa)))
    capped = course.altered(hold_kg=kilograms(free.hold) - 2, cabin_kg=8)
    tight = travel(capped, runa, found.moments)
    assert tight.fits
    assert kilograms(tight.hold) <= capped.hold_kg
    assert kilograms(tight.cabin) <= 8
    small = travel(course.altered(hold_kg=4, cabin_kg=3), runa, found.moments)
    assert small.over_hold > 0
    assert "the hold bag is over by" in travel_sentence(small, "Runa", DISPLAY)
    assert "to get on arrival" in travel_sentence(small, "Runa", DISPLAY)
    assert "No caps" in party_travel_sentence([free], course, DISPLAY)
    capped = course.altered(hold_kg=4, cabin_kg=1)
    assert "0 of 1 travel" in party_travel_sentence(
        [travel(capped, runa, found.moments)], capped, DISPLAY
    )


@settings(max_examples=120, deadline=None)
@given(
    st.lists(st.integers(1, 160), min_size=0, max_size=9), st.integers(0, 600), st.integers(0, 700)
)
def test_as_little_as_is_enough_goes_into_the_cabin(steps, wanted, room) -> None:
    """Against every subset, for masses that are whole steps."""
    grams = [STEP_G * each for each in steps]
    wanted, room = STEP_G * wanted, STEP_G * room
    chosen = least_enough(grams, wanted, room)
    sums = [
        sum(some)
        for count in range(len(grams) + 1)
        for some in combinations(grams, count)
        if sum(some) <= room
    ]
    enough = [each for each in sums if each >= wanted]
    assert sum(grams[at] for at in chosen) == (min(enough) if enough else max(sums))
