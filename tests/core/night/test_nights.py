"""Beds in parts, the night hour by hour, ranked changes, fit, and what must not freeze."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess, wet_beds
from caldarium.core.night import bedding
from caldarium.core.night.bed_checks import bed_queries
from caldarium.core.night.beds import lay_beds
from caldarium.core.night.nights import WAKING_DEBT, bed_margins, through_nights
from caldarium.core.physics import bed
from caldarium.core.plan.changes import with_day, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Pad
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.reassess import reassess
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.what_if.bed_changes import choices, ranked
from caldarium.core.what_if.dial import Dial, turned
from caldarium.words.bed_checks import bed_question
from caldarium.words.night import night_hours_sentence
from caldarium.words.units import Display

SHELVES = load_catalogue()
DISPLAY = Display()


@pytest.fixture(scope="module")
def timeline(demo):
    return build_timeline(demo)


def lowest(demo, timeline, person, night: int = 2) -> float:
    low = [each.air for each in timeline.moments if each.kind == "night"][night]
    return low - float(bed_margins(demo, timeline, (person,))[0, night])


def with_bedding(person, **parts):
    return person.altered(bedding=person.bedding.altered(**parts))


def test_the_ordinary_bed_is_what_it_was(demo, demo_result) -> None:
    # A hooded bag, full pads, nothing else: the parts give the whole of core.physics.bed.
    person, night = demo.people[2], demo_result.people[2].nights[2]
    top = bedding.bag_top(person.bag)
    assert bedding.bag_by_region(demo, person) == pytest.approx(np.full(7, top))
    assert bedding.under_resistance(person) == pytest.approx(0.1 + 2.0 * 0.1761)
    assert night.bag_resistance == pytest.approx(top)


def test_everything_added_makes_the_bed_warmer(demo, timeline) -> None:
    person = demo.people[2]
    before = lowest(demo, timeline, person)
    for parts in (
        {"over": SHELVES.bags["quilt-plus-8"]},
        {"liner": SHELVES.liners["silk-liner"]},
        {"cover": SHELVES.covers["bag-cover"]},
    ):
        assert lowest(demo, timeline, with_bedding(person, **parts)) < before - 0.2, parts


def test_a_light_quilt_over_extends_a_winter_bag_by_a_class(demo, timeline) -> None:
    # Common practice, no published source: a whole class, about 5 to 12 K.
    person = demo.people[0].altered(
        bag=SHELVES.bags["bag-minus-14"], pads=(SHELVES.pads["winter-pad-7"],)
    )
    gain = lowest(demo, timeline, person) - lowest(
        demo, timeline, with_bedding(person, over=SHELVES.bags["quilt-plus-8"])
    )
    assert 5 <= gain <= 14


def test_liners_by_both_schools(demo, timeline) -> None:
    person = with_bedding(demo.people[2], liner=SHELVES.liners["fleece-liner"])
    plain = lowest(demo, timeline, demo.people[2])
    modelled = plain - lowest(demo, timeline, person)
    claimed = plain - lowest(demo.altered(liner_claims=True), timeline, person)
    assert claimed == pytest.approx(6)
    assert 0.5 < modelled < claimed


def test_hoods_draughts_wear_and_tightness_cost_warmth(demo, timeline) -> None:
    person = demo.people[0]
    bag = person.bag
    before = lowest(demo, timeline, person)
    for worse in (
        bag.altered(hood=False),
        bag.altered(shape="quilt"),
        bag.altered(width_cm=110),
    ):
        assert lowest(demo, timeline, person.altered(bag=worse)) > before, worse
    old = person.altered(bag=bag.altered(nights_used=200, washes=4))
    assert lowest(demo, timeline, old) == pytest.approx(before)
    assert lowest(demo.altered(wear_counts=True), timeline, old) > before + 1


def test_quilts_leak_more_without_straps_and_when_narrow(demo) -> None:
    person = demo.people[0]
    quilt = SHELVES.bags["quilt-0"]
    strapped = bedding.draught(quilt, person)
    assert bedding.draught(SHELVES.bags["bag-minus-1"], person) == 0
    assert bedding.draught(quilt.altered(straps=False), person) > strapped
    assert bedding.draught(quilt.altered(width_cm=100), person) > strapped


def test_feet_off_a_torso_pad(demo, timeline) -> None:
    person = demo.people[0].altered(pads=(SHELVES.pads["torso-foam"],))
    found = [
        lowest(demo, timeline, with_bedding(person, feet_on=each))
        for each in ("nothing", "spare clothes", "sit pad")
    ]
    assert found[0] > found[1] > found[2]
    full = person.altered(pads=(SHELVES.pads["foam-pad"],))
    assert lowest(demo, timeline, full) < found[2]


def test_a_hammock_needs_something_under_it(demo, timeline) -> None:
    # Common practice, no published source: clearly cold below about 15 °C without an underquilt.
    person = demo.people[0].altered(pads=())
    bare, part, full = (
        lowest(demo, timeline, with_bedding(person, hammock=SHELVES.hammocks[name]))
        for name in ("bare-hammock", "hammock-three-quarter", "hammock-full")
    )
    assert bare > 12
    assert bare > part > full
    assert full < 4


def test_a_steady_night_is_the_steady_state(demo, timeline) -> None:
    """Under constant conditions the hour-by-hour run turns at the bed's own lowest, to 0.1 K."""
    beds = lay_beds(demo, demo.people, timeline, wardrobes(demo.people))
    first = np.zeros(beds.bottom.shape, dtype=int)
    own = bed.lowest_temperature(beds.at(first, beds.clothed), bed.Sleeper(beds.index))

    def alike(values):
        return np.broadcast_to(values[..., :1], values.shape)

    steady = replace(
        beds,
        **{name: alike(getattr(beds, name)) for name in ("kept", "wet", "lift", "sky")},
        heated=np.zeros(beds.heated.shape),
    )
    for row in range(len(demo.people)):
        for offset, warm in ((0.1, True), (-0.1, False)):
            air = np.broadcast_to((own[row] + offset)[:, None], beds.site.air.shape)
            there = replace(steady, site=replace(beds.site, air=air, lagging=air))
            assert ((through_nights(there).balance[row] >= 0) == warm).all()


def test_debt_wakes_a_sleeper_when_the_night_gets_too_cold(demo_result) -> None:
    cold = demo_result.people[2].nights[2]
    assert cold.state == "gap"
    assert cold.debt > WAKING_DEBT
    assert cold.hours[0] < cold.wakes < cold.hours[-1]
    assert cold.comfortable_until <= cold.wakes
    assert "wakes of cold near" in night_hours_sentence(cold, DISPLAY)
    warm = demo_result.people[9].nights[2]
    assert math.isinf(warm.wakes)
    assert warm.debt == 0
    assert "Comfortable all night" in night_hours_sentence(warm, DISPLAY)
    assert min(cold.air) == pytest.approx(cold.low, abs=0.3)


def test_warmers_heat_weigh_and_are_carried_out(demo, demo_result) -> None:
    person = with_bedding(demo.people[2], warmers=3)
    course = with_person(demo, person)
    warmed, plain = (each.people[2] for each in (assess(course), demo_result))
    night, cold = warmed.nights[2], plain.nights[2]
    assert night.debt < cold.debt or night.wakes > cold.wakes
    assert night.debts[-1] <= cold.debts[-1]
    nights = sum(day.camp is not None for day in demo.days)
    more = [a - b for a, b in zip(warmed.load.by_day, plain.load.by_day, strict=True)]
    assert more == pytest.approx([3 * 0.045 * nights] * len(more))
    hours = np.array([0.0, 7.9, 8.1])
    assert bedding.warmer_watts(np.array(3.0), hours).tolist() == [6.0, 6.0, 0.0]


def test_a_hot_bottle_delays_the_cold(demo, demo_result) -> None:
    person = with_bedding(demo.people[2], hot_bottle_l=1.0)
    after = assess(with_person(demo, person)).people[2].nights[2]
    before = demo_result.people[2].nights[2]
    assert after.wakes > before.wakes
    assert after.debt < before.debt
    assert after.margin == pytest.approx(before.margin)
    hours = np.linspace(0, 40, 4001)
    stored = np.trapezoid(bedding.bottle_watts(np.array(1.0), hours), hours)
    # One litre from 90 to 35 °C: 1.163 * 55 = 64 W h.
    assert float(stored) == pytest.approx(64, abs=0.5)


def test_tired_and_hungry_people_sleep_colder(demo, demo_result) -> None:
    tired = assess(demo.altered(allowances=("low food",))).people[0].nights[2]
    assert tired.sleeper > demo_result.people[0].nights[2].sleeper + 0.5


def test_changes_bring_what_they_say_and_are_ranked(demo, timeline) -> None:
    person = demo.people[2]
    listed = choices(
        person,
        2,
        SHELVES.bags.values(),
        list(SHELVES.pads.values()),
        SHELVES.liners.values(),
        SHELVES.covers.values(),
        SHELVES.garments.values(),
    )
    result = assess(demo)
    found = ranked(demo, timeline, person, 2, listed, wet_beds(result))
    warmer = [each for each in found if each.degrees >= 0.3]
    rates = [each.degrees_a_100g for each in warmer]
    assert rates == sorted(rates, reverse=True)
    people = {each.key: each.person for each in listed}
    before = result.people[2].nights[2]
    for change in warmer[:5]:
        after = assess(with_person(demo, people[change.key])).people[2].nights[2]
        assert after.margin - before.margin == pytest.approx(change.degrees, abs=0.03), change.key
    assert warmer[0].key == "wet=out"
    assert any(each.key.startswith("pad") for each in warmer[:5])


def test_the_over_built_are_offered_less(demo, timeline) -> None:
    person = demo.people[9]
    listed = choices(person, 2, SHELVES.bags.values(), [], [], [], [])
    lighter = [each for each in ranked(demo, timeline, person, 2, listed) if each.grams < 0]
    assert lighter
    assert all(each.least_margin >= 0 for each in lighter)


def test_odd_beds_are_queried(demo) -> None:
    person = demo.people[0]
    assert bed_queries(demo, person) == []
    quilt = SHELVES.bags["quilt-0"].altered(width_cm=None)
    hung = with_bedding(person.altered(bag=quilt), hammock=SHELVES.hammocks["hammock-full"])
    assert any("no width" in each for each in asked(demo, hung))
    si = person.altered(pads=(Pad(id="p", name="pad", r_value=0.85, mass_g=500),))
    assert any("m² K/W" in each and "R 4.8" in each for each in asked(demo, si))
    thick = person.altered(pads=(Pad(id="p", name="pad", r_value=12, mass_g=500, width_cm=40),))
    assert len(bed_queries(demo, thick)) == 2
    short = person.altered(bag=person.bag.altered(fits_to_m=1.5, width_cm=90))
    assert len(bed_queries(demo, short)) == 2
    narrow = person.altered(bag=SHELVES.bags["quilt-0"].altered(width_cm=90))
    assert any("leaks" in each for each in asked(demo, narrow))
    bare = with_bedding(person.altered(pads=(SHELVES.pads["torso-foam"],)), feet_on="nothing")
    assert any("under the feet" in each for each in asked(demo, bare))
    hammock = with_bedding(person.altered(pads=()), hammock=SHELVES.hammocks["bare-hammock"])
    assert any("underquilt" in each for each in asked(demo, hammock))


PARTS = {
    "over": SHELVES.bags["quilt-0"],
    "liner": SHELVES.liners["silk-liner"],
    "cover": SHELVES.covers["bag-cover"],
}


@given(st.sets(st.sampled_from(sorted(PARTS))), st.sampled_from(sorted(PARTS)))
def test_more_on_a_bed_never_insulates_less(demo_course_value, names, more) -> None:
    course = demo_course_value
    person = with_bedding(course.people[0], **{name: PARTS[name] for name in names})
    richer = with_bedding(person, **{more: PARTS[more]})
    less, much = (bedding.bag_by_region(course, each) for each in (person, richer))
    assert (much >= less - 1e-12).all()


def asked(course: Course, person: Person) -> list[str]:
    return [bed_question(each, DISPLAY) for each in bed_queries(course, person)]


@pytest.fixture(scope="module")
def demo_course_value(demo):
    return demo


def test_two_in_one_bed_are_warmer_and_share_one_quilt(demo, timeline) -> None:
    """Side by side is warmer: common practice, no published source."""
    first, second = demo.people[0], demo.people[1]
    wide = SHELVES.bags["quilt-0"].altered(id="double-quilt", width_cm=260)
    alone = first.altered(bag=wide)
    pair = with_bedding(alone, beside=second.id)
    course = with_person(with_person(demo, pair), second.altered(bag=None))
    together = lowest(course, timeline, pair)
    assert together < lowest(demo, timeline, alone) - 1
    # The one without a bag lies under the other's: far warmer than under nothing.
    bare = second.altered(bag=None)
    assert lowest(course, timeline, bare) < lowest(demo, timeline, bare) - 5
    assert bed_queries(course, pair) == []
    narrow = with_person(course, pair.altered(bag=SHELVES.bags["bag-minus-1"]))
    assert any("for one" in each for each in asked(narrow, narrow.people[0]))
    apart = with_person(course, second.altered(bag=None, shelter="dome"))
    assert any("different shelters" in each for each in asked(apart, pair))


def test_whoever_shares_a_bed_is_computed_again_with_the_other(demo) -> None:
    first, second = demo.people[0], demo.people[1]
    course = with_person(
        with_person(demo, with_bedding(first, beside=second.id)), second.altered(bag=None)
    )
    before = reassess(course, None)
    colder = with_person(course, course.people[0].altered(bag=SHELVES.bags["quilt-plus-8"]))
    after = reassess(colder, before).result
    assert after.people[1].nights[2].margin == pytest.approx(
        assess(colder).people[1].nights[2].margin, abs=1e-3
    )
    assert after.people[1].nights[2].margin < before.result.people[1].nights[2].margin - 2


def test_nobody_shares_a_bed_with_somebody_absent(demo) -> None:
    with pytest.raises(ValueError, match="unknown bed partner"):
        with_person(demo, with_bedding(demo.people[0], beside="ghost"))


def test_a_bag_gathers_damp_in_the_cold_and_not_in_the_mild(demo) -> None:
    cold_course = turned(demo, Dial(colder=25))
    found = assess(cold_course).people[2].nights
    water = [night.damp for night in found]
    assert water[0] == 0
    assert water[1] < water[2] < water[3]
    # A litre in ten nights at most: insensible sweat asleep is near 40 g an hour in all, of which
    # the skin's part through the bag is a fifth. Textbook figures from memory.
    assert 20 < water[3] < 200
    mild = assess(turned(demo, Dial(colder=-20))).people[2].nights
    assert all(night.damp == 0 for night in mild)
    down = cold_course.people[2]
    synthetic = with_person(cold_course, down.altered(bag=down.bag.altered(fill="synthetic fill")))
    assert assess(synthetic).people[2].nights[3].margin > found[3].margin


def test_cot_and_bunk_lie_on_air(demo, timeline) -> None:
    person = demo.people[2]
    on_snow = with_day(demo, 2, demo.days[2].altered(camp=demo.days[2].camp.altered(ground="snow")))
    night = assess(with_person(on_snow, with_bedding(person, raised="cot"))).people[2].nights[2]
    assert night.ground == "cot"
    bunk = with_person(on_snow, with_bedding(person, raised="hut bunk"))
    assert assess(bunk).people[2].nights[2].watts_down < night.watts_down


def test_a_restless_sleeper_leaks_more_under_a_quilt(demo, timeline) -> None:
    person = demo.people[2].altered(bag=SHELVES.bags["quilt-0"])
    assert lowest(demo, timeline, with_bedding(person, turns="much")) > lowest(
        demo, timeline, person
    )


def test_changes_know_what_they_cost(demo, timeline) -> None:
    person = demo.people[2]
    found = ranked(
        demo,
        timeline,
        person,
        2,
        choices(
            person,
            2,
            SHELVES.bags.values(),
            list(SHELVES.pads.values()),
            SHELVES.liners.values(),
            SHELVES.covers.values(),
            (),
        ),
    )
    swap = next(each for each in found if each.key == "bag=bag-minus-14")
    assert swap.cost == SHELVES.bags["bag-minus-14"].cost
    assert swap.degrees_a_100 == pytest.approx(swap.degrees / swap.cost * 100)
    free = person.altered(bag=person.bag.altered(cost=None))
    unknown = SHELVES.bags["bag-minus-14"].altered(cost=None)
    only = ranked(demo, timeline, free, 2, choices(free, 2, [unknown], [], [], [], ()))
    assert only[0].cost is None
    assert only[0].degrees_a_100 is None
