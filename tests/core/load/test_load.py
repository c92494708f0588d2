"""Loads hour by hour: mass conserved, food, water, caches, budgets, and the ledger of grams."""

import numpy as np
import psychrolib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.core.assess import assess
from caldarium.core.load.loads import kept_grams, loads_at
from caldarium.core.load.provisions import day_needs, hungriest
from caldarium.core.load.stoves import boiling_point, fuel_for
from caldarium.core.load.supplies import food_account
from caldarium.core.load.water import dry_stretches, water_wanted
from caldarium.core.plan.changes import remove_piece, with_day, with_days, with_person
from caldarium.core.plan.course import Cache
from caldarium.core.plan.group_kit import units
from caldarium.core.plan.kit import Item, LegEnd
from caldarium.core.timeline.moments import build_timeline
from caldarium.words.food import dry_sentence, energy_sentence
from caldarium.words.load import load_hours_sentence, party_sentence
from caldarium.words.units import Display

DISPLAY = Display()


def everything_kg(course) -> float:
    """All mass that sets out or waits but water, each piece counted once from the course itself."""
    grams, cached = 0.0, sum(cache.rations for cache in course.caches)
    days = max(len(course.days), cached)
    for person in course.people:
        pieces = [*person.garments, *person.pads]
        pieces += [person.bag] if person.bag else []
        grams += sum(piece.mass_g for piece in pieces) + person.bedding.mass_g
        grams += sum(item.mass_g * item.count for item in person.items)
        grams += (person.food_g_a_day + person.fuel_g_a_day) * days
    used = {person.shelter for person in course.people}
    grams += sum(shelter.mass_g for shelter in course.shelters if shelter.id in used)
    return (grams + sum(unit.mass_g for unit in units(course))) / 1000


def on_backs_in_caches_or_used(result) -> np.ndarray:
    total = 0.0
    for found in result.people:
        load = found.load
        kept = np.array(load.by_hour) - np.array(load.water) - np.array(load.wet)
        total = total + kept + np.array(load.used) + np.array(load.waiting)
        total = total + sum((np.array(each) for each in load.away.values()), np.zeros(len(kept)))
    return total


def test_every_gram_is_on_one_back_in_a_cache_or_eaten(demo, demo_result) -> None:
    found = on_backs_in_caches_or_used(demo_result)
    assert found == pytest.approx(np.full(found.shape, everything_kg(demo)), abs=1e-6)


@settings(max_examples=15, deadline=None)
@given(
    st.lists(st.tuples(st.integers(0, 4), st.integers(0, 2), st.floats(0.2, 6)), max_size=3),
    st.dictionaries(
        st.sampled_from(["stove", "shovel", "gas"]),
        st.sampled_from(["runa", "dag", "hale", None]),
        max_size=3,
    ),
    st.floats(0, 2000),
    st.floats(0, 300),
)
def test_mass_is_conserved_whatever_the_plan(demo, caches, carriers, food, fuel) -> None:
    legs = [[leg.id for leg in day.legs] for day in demo.days]
    group = tuple(
        kit.altered(carriers=(carriers.get(kit.id),)) if kit.id in carriers else kit
        for kit in demo.group
    )
    course = demo.altered(
        caches=tuple(
            Cache(day=day, leg=legs[day][at % len(legs[day])], rations=rations)
            for day, at, rations in caches
        ),
        group=group,
        people=tuple(p.altered(food_g_a_day=food, fuel_g_a_day=fuel) for p in demo.people),
    )
    result = assess(course)
    found = on_backs_in_caches_or_used(result)
    assert found == pytest.approx(np.full(found.shape, everything_kg(course)), abs=1e-6)
    for each in result.people:
        assert min(each.load.provisions) >= -1e-9
        assert min(each.load.water) >= 0
        assert all(
            0 <= worn <= whole + 1e-9
            for worn, whole in zip(each.load.worn_by_hour, each.load.by_hour, strict=True)
        )


def test_food_is_eaten_three_times_a_day_and_never_comes_back(demo) -> None:
    timeline = build_timeline(demo)
    times = np.arange(0, 24 * 5, 0.25)
    person = demo.people[0]
    left = food_account(demo, (person,), timeline, times).left[0]
    assert (np.diff(left) <= 1e-9).all()
    assert left[0] == 5 * person.food_g_a_day
    assert left[24 * 4] == pytest.approx(4 * person.food_g_a_day, abs=1e-6)
    assert left[-1] == pytest.approx(0, abs=1e-6)


def test_a_cache_lightens_the_way_to_it(demo, demo_result) -> None:
    cached = assess(demo.altered(caches=(Cache(day=2, leg="back", rations=2.0),)))
    before, after = demo_result.people[0].load, cached.people[0].load
    assert after.by_day[0] == pytest.approx(before.by_day[0] - 2 * 0.7)
    assert after.by_day[4] == pytest.approx(before.by_day[4])
    with pytest.raises(ValueError, match="cache without leg"):
        demo.altered(caches=(Cache(day=2, leg="climb", rations=2.0),))


def bagged(course, person: str, item: str, **ends):
    """The course with one of somebody's things in a drop bag."""
    member = course.person(person)
    items = tuple(each.altered(**ends) if each.id == item else each for each in member.items)
    return with_person(course, member.altered(items=items))


def test_drop_bags_are_taken_up_and_left_at_their_place(demo, demo_result) -> None:
    runa = demo.people[0]
    heavy = runa.items[0]
    course = bagged(
        demo,
        "runa",
        heavy.id,
        waits_at=LegEnd(day=1, leg="shoulder"),
        left_at=LegEnd(day=3, leg="col"),
    )
    result = assess(course)
    load, before = result.people[0].load, demo_result.people[0].load
    less = np.array(before.by_hour) - np.array(load.by_hour)
    gone = np.array(load.away[heavy.purpose])
    assert less == pytest.approx(gone, abs=1e-9)
    assert set(np.round(gone, 6)) == {0.0, heavy.mass_g / 1000}
    assert gone[0] > 0
    assert gone[24 * 2 + 12] == 0
    assert gone[-1] > 0
    assert load.by_day[0] == pytest.approx(before.by_day[0] - heavy.mass_g / 1000)
    assert load.by_day[2] == pytest.approx(before.by_day[2])
    # A bag that waits makes the walk to it colder work.
    walks = [
        (a.rate, b.rate)
        for a, b in zip(result.people[0].moments, demo_result.people[0].moments, strict=True)
        if a.kind == "moving"
    ]
    assert walks[0][0] < walks[0][1]
    assert walks[3][0] == pytest.approx(walks[3][1])
    found = on_backs_in_caches_or_used(result)
    assert found == pytest.approx(np.full(found.shape, everything_kg(course)), abs=1e-6)
    with pytest.raises(ValueError, match="item without leg"):
        bagged(demo, "runa", heavy.id, waits_at=LegEnd(day=1, leg="nowhere"))
    gone_leg = with_days(
        course, (course.days[0].altered(legs=course.days[0].legs[:1]), *course.days[2:])
    )
    assert all(item.waits_at is None for item in gone_leg.people[0].items)


def test_teaching_kit_in_a_drop_bag_is_not_taken_off_twice(demo) -> None:
    kit = Item(
        id="maps",
        name="teaching maps",
        mass_g=900,
        purpose="group",
        apart=True,
        waits_at=LegEnd(day=2, leg="back"),
    )
    course = with_person(demo, demo.people[0].altered(items=(*demo.people[0].items, kit)))
    load = assess(course).people[0].load
    with_it, without = load.totals(apart=True), load.totals(apart=False)
    assert with_it[0] == pytest.approx(without[0])
    assert with_it[24 * 3 + 12] == pytest.approx(without[24 * 3 + 12] + 0.9)


def test_a_lighter_pack_is_a_colder_walk(demo, demo_result) -> None:
    light = with_person(demo, demo.people[0].altered(items=(), food_g_a_day=200))
    before = next(s for s in demo_result.people[0].moments if s.kind == "moving")
    after = next(s for s in assess(light).people[0].moments if s.kind == "moving")
    assert after.rate < before.rate
    assert after.need_min > before.need_min


def test_later_in_the_day_the_same_leg_is_walked_lighter(demo) -> None:
    timeline = build_timeline(demo)
    morning, noon = loads_at(demo, demo.people, timeline, np.array([7.6, 11.5])).T
    assert (noon < morning).all()


def test_water_runs_out_and_a_marked_spring_cures_it(demo) -> None:
    timeline = build_timeline(demo)
    person = demo.people[2]
    (dry,) = dry_stretches(demo, (person,), timeline)
    assert dry
    assert "Water runs out: Tue" in dry_sentence(demo, timeline, dry, DISPLAY)
    assert ", climb, " in dry_sentence(demo, timeline, dry, DISPLAY)
    wanted = water_wanted(person, dry)
    more = person.altered(water_l=wanted, containers_l=wanted)
    assert dry_stretches(demo, (more,), timeline) == [()]
    assert dry_sentence(demo, timeline, (), DISPLAY) == ""
    # Bottles that hold less than is planned hold no more than they can.
    assert dry_stretches(demo, (more.altered(containers_l=2.0),), timeline) == [dry]
    day = demo.days[1]
    legs = tuple(leg.altered(water=leg.id in ("climb", "shoulder")) for leg in day.legs)
    marked = with_day(demo, 1, day.altered(legs=legs))
    (there,) = dry_stretches(marked, (person,), build_timeline(marked))
    assert sum(each.end - each.start for each in there) <= sum(e.end - e.start for e in dry)


def test_a_tent_is_heavier_after_a_wet_night(demo_result) -> None:
    load = demo_result.people[0].load
    assert max(load.wet) > 0
    assert load.wet[0] == 0


def test_budget_and_limit_are_told(demo, demo_result) -> None:
    lumi = next(each for each in demo_result.people if each.person == "lumi")
    assert "over the limit" in load_hours_sentence(lumi.load, DISPLAY)
    runa = next(each for each in demo_result.people if each.person == "runa")
    assert "over budget" in load_hours_sentence(runa.load, DISPLAY)
    strict = assess(demo.altered(limit_share=0.2, budget_share=0.15)).people[2].load
    assert "over the limit" in load_hours_sentence(strict, DISPLAY)
    own = with_person(demo, demo.person("runa").altered(budget_kg=20))
    assert "within budget" in load_hours_sentence(assess(own).people[0].load, DISPLAY)


def test_the_party_has_a_budget_together(demo, demo_result) -> None:
    loads = [found.load for found in demo_result.people]
    assert "to spare" in party_sentence(loads, DISPLAY)
    strict = [found.load for found in assess(demo.altered(budget_share=0.1)).people]
    assert "kg over." in party_sentence(strict, DISPLAY)


def test_schools_of_accounting_differ_by_what_they_leave_out(demo) -> None:
    camera = Item(id="camera", name="camera", mass_g=700, purpose="comfort", apart=True)
    person = demo.people[0].altered(items=(*demo.people[0].items, camera))
    load = assess(with_person(demo, person)).people[0].load
    whole, carried = load.totals(), load.totals(worn=False)
    assert load.by_hour == pytest.approx(whole)
    assert np.array(whole) - np.array(carried) == pytest.approx(
        np.minimum(load.worn_by_hour, load.kept["warmth"])
    )
    said = load_hours_sentence(load, DISPLAY, worn=False, apart=False)
    assert "without what is worn and teaching and camera kit" in said
    assert f"{max(load.totals(worn=False, apart=False)):.1f} kg" in said
    without = np.array(load.totals(apart=False))
    assert np.array(whole) - without == pytest.approx(np.full(len(whole), 0.7))


def test_kept_grams_are_the_sum_of_weighed_pieces(demo) -> None:
    for person, kept in zip(demo.people, kept_grams(demo, demo.people), strict=True):
        assert kept["warmth"] == sum(piece.mass_g for piece in person.garments)


def test_what_closes_a_gap_opens_it_when_left_at_home(demo, demo_result) -> None:
    person, found = demo.people[2], demo_result.people[2]
    piece, (moment, clo) = max(found.closes.items(), key=lambda each: each[1][1])
    bare = assess(with_person(demo, remove_piece(person, piece))).people[2]
    before = next(state for state in found.moments if state.moment == moment)
    after = next(state for state in bare.moments if state.moment == moment)
    assert clo > 0.2
    assert after.gap > before.gap


def test_water_boils_where_the_psychrometric_library_says() -> None:
    psychrolib.SetUnitSystem(psychrolib.SI)
    for altitude in (0, 310, 1120, 2500, 4900):
        pressure = psychrolib.GetStandardAtmPressure(altitude)
        boils = float(boiling_point(altitude))
        assert psychrolib.GetSatVapPres(boils) == pytest.approx(pressure, rel=0.004)
    assert float(boiling_point(0)) == pytest.approx(100, abs=0.05)


def test_snow_frost_and_litres_take_more_gas() -> None:
    # By hand: 1 L from 5 to 100 °C is 4.19 * 95 = 398 kJ; at half of 46 kJ/g that is 17.3 g.
    plain = float(fuel_for(1.0, 0.0, 10.0, snow=False))
    assert plain == pytest.approx(17.3, abs=0.1)
    assert float(fuel_for(2.0, 0.0, 10.0, snow=False)) == pytest.approx(2 * plain)
    assert float(fuel_for(1.0, 0.0, -1.0, snow=False)) > 1.4 * plain
    assert float(fuel_for(1.0, 0.0, -10.0, snow=True)) > 2.5 * plain
    assert float(fuel_for(1.0, 4900.0, 10.0, snow=False)) < plain


def test_days_take_what_effort_and_rest_add_up_to(demo, demo_result) -> None:
    person, found = demo.people[2], demo_result.people[2]
    needs = day_needs(demo, demo_result.timeline, person, found.moments, found.nights)
    assert len(needs) == 5
    # 3,000 kcal and more on hard days: common practice, no published source.
    assert all(1700 < each.spent < 5500 for each in needs)
    assert hungriest(needs).spent - hungriest(needs).eaten == max(
        each.spent - each.eaten for each in needs
    )
    words = energy_sentence(demo, needs, DISPLAY)
    assert "kcal" in words
    assert "35% of it can be eaten without one" in words
