"""The lightest shelters: every lighter choice fails, everybody lies somewhere, nobody is colder."""

from itertools import product

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.lighten.shelters import lightest_shelters, tents_for, with_shelters
from caldarium.core.lighten.verdict import depths, worse
from caldarium.core.plan.kit import Shelter
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import demo_course

EVERYTHING = load_catalogue().everything


def nobody(share: float) -> None:
    """Hears nothing."""


@pytest.mark.parametrize("name", ["high-plateau", "hot-canyon", "autumn-fell"])
def test_all_lie_in_what_is_fit_and_nobody_is_colder(name: str) -> None:
    course = demo_course(name)
    supply = Supply(everything=EVERYTHING)
    found = lightest_shelters(course, build_timeline(course), supply, ["own", "buy"], nobody)
    after = with_shelters(course, found)
    before, now = assess(course), assess(after)
    assert all(night.fit for night in now.shelters)
    where = [each.shelter for each in after.people]
    for shelter in after.shelters:
        assert 0 < where.count(shelter.id) <= shelter.places
    assert None not in where
    for then, later in zip(before.people, now.people, strict=True):
        lost = worse(depths(later), depths(then))
        assert lost == found.lost.get(then.person, frozenset())
        assert not any(kind == "bed" for _, kind in lost)
    assert found.grams == pytest.approx(sum(s.mass_g for s in after.shelters), abs=1)
    if not found.lost:
        assert found.grams <= found.grams_before + 1


def test_no_lighter_number_of_two_models_would_do() -> None:
    """Every subset of the plateau's own tents that holds its five people."""
    course = demo_course("high-plateau")
    strong = tuple(each.altered(gust_ms=60) for each in course.shelters)
    days = tuple(
        day.altered(camp=day.camp.altered(anchors=("pegs",))) if day.camp else day
        for day in course.days
    )
    course = course.altered(shelters=strong, days=days)
    timeline = build_timeline(course)
    found = lightest_shelters(course, timeline, Supply(everything=EVERYTHING), ["own"], nobody)
    own = [each for each in course.shelters]
    sums = [
        sum(each.mass_g for each, on in zip(own, bits, strict=True) if on)
        for bits in product((0, 1), repeat=len(own))
        if sum(each.places for each, on in zip(own, bits, strict=True) if on) >= 5
    ]
    assert found.grams == pytest.approx(min(sums), abs=0.1)


def test_the_store_gives_no_more_than_it_has_each_by_its_tag() -> None:
    course = demo_course("high-plateau")
    dome = EVERYTHING["dome-2"]
    assert isinstance(dome, Shelter)
    shelf = [
        Stored(tag=tag, name="dome", kind="shelter", like="dome-2", mass_g=1500)
        for tag in ("D-1", "D-2")
    ]
    supply = Supply(shelf, {"d-1": 1, "d-2": 1}, EVERYTHING)
    (tent,) = tents_for(course, supply, ["store"])
    assert tent.count == 2
    found = lightest_shelters(course, build_timeline(course), supply, ["own", "store"], nobody)
    tags = [each.tag for each, source in found.tents if source == "store"]
    assert sorted(tags) == ["D-1", "D-2"]


def test_an_own_tent_that_nobody_sleeps_in_is_taken_once() -> None:
    course = demo_course("hot-canyon")
    spare = EVERYTHING["tarp-2"].altered(id="spare-tarp", mass_g=300)
    course = course.altered(shelters=(*course.shelters, spare))
    found = lightest_shelters(course, build_timeline(course), Supply(), ["own"], nobody)
    after = with_shelters(course, found)
    assert [each.id for each in after.shelters].count("spare-tarp") == 1
    assert not any("spare-tarp-" in each.id for each in after.shelters)
    assert found.grams == pytest.approx(1000, abs=0.1)
    where = [each.shelter for each in after.people]
    assert where.count("spare-tarp") == 2


def test_of_too_many_models_the_heaviest_by_the_head_are_left_out_and_that_is_said() -> None:
    course = demo_course("hot-canyon")
    tents = [EVERYTHING["tarp-2"].altered(id=f"t{at}", mass_g=700 + at) for at in range(30)]
    course = course.altered(shelters=(*course.shelters, *tents))
    found = lightest_shelters(course, build_timeline(course), Supply(), ["own"], nobody)
    assert not found.all_tried
    assert found.grams == pytest.approx(1400, abs=0.1)


def test_nobody_to_move_is_nothing_found() -> None:
    course = demo_course("deep-winter")
    stay = course.altered(
        people=tuple(each.altered(shelter=None, nights=()) for each in course.people[:1]),
        shelters=(),
        sleep_rules=(),
    )
    found = lightest_shelters(stay, build_timeline(stay), Supply(), ["own"], nobody)
    assert found.after is None
    assert with_shelters(stay, found) is stay
