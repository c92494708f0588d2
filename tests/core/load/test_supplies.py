"""Food, water and fuel as accounts: by hand on a small trip, and conserved whatever the plan."""

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from caldarium.core.assess import assess
from caldarium.core.load.clock import day_hours, leg_end
from caldarium.core.load.loads import helper_loads, loads_at
from caldarium.core.load.share import fair_split
from caldarium.core.load.stoves import STOVES, boiling_point, fuel_for, heat_for
from caldarium.core.load.supplies import (
    Asked,
    account,
    camp_needs,
    dishes_on,
    food_account,
    food_left,
    food_shortages,
    fuel_account,
    fuel_verdict,
    fuel_wanted,
    ration,
    stoves_of,
)
from caldarium.core.load.water import bottles, dry_stretches, fillings, water_wanted
from caldarium.core.plan.changes import with_person, without_helper, without_person
from caldarium.core.plan.course import Cache
from caldarium.core.plan.group_kit import units
from caldarium.core.plan.kit import GroupKit, Helper, Item, LegEnd
from caldarium.core.plan.provisions import Dish, Provisions
from caldarium.core.reassess import reassess
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.what_if.idle import idle_pieces
from caldarium.demo import demo_course
from caldarium.words.food import fuel_sentence, hungry_sentence, stove_notes
from caldarium.words.units import Display
from tests.courses import glacier_peak

DISPLAY = Display()


@pytest.fixture(scope="module")
def winter():
    return demo_course("deep-winter")


@pytest.fixture(scope="module")
def small(demo):
    """Two people on the demo's way: 700 g of food and 50 g of fuel a day each, no cans."""
    people = tuple(
        each.altered(food_g_a_day=700, fuel_g_a_day=50, water_l=2.0, containers_l=2.0, items=())
        for each in demo.people[:2]
    )
    return demo.altered(people=people, group=())


def test_an_account_by_hand() -> None:
    # 10 at first; 4 asked for at 1 h, 8 at 3 h; 5 taken up at 5 h; 2 asked for at 6 h.
    asked = Asked([(1, np.array([4.0])), (3, np.array([8.0])), (6, np.array([2.0]))])
    times = np.array([0, 1, 2, 3, 4, 5, 6, 7.0])
    found = account(np.array([10.0]), [(5, np.array([5.0]))], asked, times)
    assert found.left[0].tolist() == [10, 6, 6, 0, 0, 5, 3, 3]
    # Of the 8 only 6 were there: 2 are missing, and are not eaten later.
    assert found.missing[0].tolist() == [0, 0, 0, 2, 2, 2, 2, 2]
    assert found.used[0].tolist() == [0, 4, 4, 10, 10, 10, 12, 12]
    assert found.waiting[0].tolist() == [5, 5, 5, 5, 5, 0, 0, 0]


@settings(max_examples=200, deadline=None)
@given(
    st.floats(0, 50),
    st.lists(st.tuples(st.floats(0, 20), st.floats(0, 20)), max_size=5),
    st.lists(st.tuples(st.floats(0, 20), st.floats(0, 20)), max_size=6),
)
@example(0.0, [(1.1164705955853684e-306, 1.0)], [(0.0, 1.0)])
def test_nothing_is_lost_and_nothing_comes_from_nowhere(start, arrivals, steps) -> None:
    given_out = [(when, np.array([much])) for when, much in arrivals]
    asked = Asked([(when, np.array([much])) for when, much in steps])
    times = np.linspace(0, 21, 85)
    found = account(np.array([start]), given_out, asked, times)
    whole = start + sum(much for _, much in arrivals)
    total = found.left + found.used + found.waiting
    assert total[0] == pytest.approx(np.full(len(times), whole), abs=1e-6)
    assert (found.left >= -1e-6).all()
    assert (np.diff(found.missing[0]) >= -1e-9).all()


def test_a_cache_is_not_eaten_from_before_it_is_reached(small) -> None:
    timeline = build_timeline(small)
    # Three of five days wait at the end of day 4: the two carried last until day 3.
    course = small.altered(caches=(Cache(day=3, leg="stream-side", rations=3.0),))
    reached = leg_end(timeline, 3, "stream-side")
    times = np.arange(0, 121, 0.25)
    found = food_account(course, course.people, timeline, times)
    before = times < reached
    assert (found.waiting[:, before] == 2100).all()
    assert (found.left[:, before] <= 1400).all()
    (short, _) = food_shortages(course, course.people, timeline)
    assert short
    assert 48 <= short[0].start < reached
    # By hand: from breakfast of day 3 until the cache, the fourth dinner not yet eaten: day 3
    # whole and day 4 to the end of the walk, 700 + 0.6 x 700 g.
    assert sum(each.grams for each in short) == pytest.approx(700 + 0.6 * 700, abs=30)
    words = hungry_sentence(course, timeline, short, DISPLAY)
    assert "Food runs out: Wed" in words
    # What was not eaten comes out again.
    assert food_left(course, course.people[0], timeline) == pytest.approx(
        sum(each.grams for each in short), abs=1
    )


def test_a_cache_that_holds_less_than_is_eaten_by_then_lightens_and_starves_nobody(small) -> None:
    course = small.altered(caches=(Cache(day=1, leg="plateau", rations=2.0),))
    timeline = build_timeline(course)
    assert food_shortages(course, course.people, timeline) == [(), ()]
    assert food_left(course, course.people[0], timeline) == pytest.approx(0, abs=1e-6)


def test_melting_and_boiling_by_latent_heat() -> None:
    # By hand at sea level: ice at -10: 10 x 2.1 + 334 + 4.19 x 100 = 774 kJ/kg (handbook figures).
    assert float(heat_for(1, 0, -10, snow=True, boiled=True)) == pytest.approx(774, abs=1)
    # Melted to drink at 5 °C: 21 + 334 + 4.19 x 5 = 376 kJ/kg.
    assert float(heat_for(1, 0, -10, snow=True, boiled=False)) == pytest.approx(376, abs=1)
    # Stream water needs nothing to be drunk.
    assert float(heat_for(1, 0, 10, snow=False, boiled=False)) == 0
    # Lower heating values of handbooks, from memory [MJ/kg]: gas 46, kerosene 43, ethanol 26.8.
    assert [STOVES[each].kj_g for each in ("gas", "liquid", "alcohol")] == [46.0, 43.5, 26.8]
    # 774 kJ at half of 43.5 kJ/g is 35.6 g a litre of snow on liquid fuel. 30 to 45 g a litre is
    # common practice for melting snow, no published source.
    assert float(fuel_for(1, 0, -10, snow=True, stove="liquid")) == pytest.approx(35.6, abs=0.1)
    assert float(boiling_point(4900)) == pytest.approx(84, abs=1)


def test_gas_fades_in_the_cold_and_liquid_fuel_does_not(winter) -> None:
    for warm, cold in ((5.0, -8.0), (-8.0, -25.0)):
        for stove, fades in (("gas", warm > 0), ("gas, warmed", cold < -18), ("liquid", False)):
            mild, hard = (
                float(fuel_for(1, 0, air, snow=False, stove=stove)) for air in (warm, cold)
            )
            assert (hard > mild) == fades, (stove, warm, cold)
    gas = winter.altered(provisions=winter.provisions.altered(stove="gas"))
    timeline = build_timeline(gas)
    assert any("fades" in each for each in stove_notes(gas, timeline, DISPLAY))
    assert fuel_verdict(gas, timeline).needed > 1.15 * fuel_verdict(winter, timeline).needed


def test_a_snow_camp_by_hand(winter) -> None:
    timeline = build_timeline(winter)
    need = camp_needs(winter, timeline)[0]
    heads = len(winter.people)
    assert need.melted
    assert need.boiled_l == 2 * heads
    # Bottles for the next day: 1.5 L each.
    assert need.bottled_l == 1.5 * heads
    camp = next(each for each in timeline.moments if each.id == "1.camp")
    dawn = next(each for each in timeline.moments if each.kind == "dawn" and each.day == 1)
    boil = 4.19 * float(boiling_point(camp.altitude)) + 334
    evening = 12 * 0.6 * (boil - 2.1 * camp.air) + 9 * (334 - 2.1 * camp.air + 4.19 * 5)
    morning = 12 * 0.4 * (boil - 2.1 * dawn.air)
    lit = 4.0 * stoves_of(winter)
    assert need.evening_g == pytest.approx(evening / (43.5 * 0.5) + lit, rel=1e-6)
    assert need.morning_g == pytest.approx(morning / (43.5 * 0.5) + lit, rel=1e-6)
    # 21 L in pots of 2.5 L, and the flame that makes them: all heat over 2.5 kW.
    assert need.pots == 9
    assert need.minutes == pytest.approx((evening + morning) / 0.5 / 2.5 / 60, rel=1e-6)


def test_bottles_are_filled_from_melted_snow_while_there_is_fuel(winter) -> None:
    timeline = build_timeline(winter)
    first = day_hours(timeline)[1].first
    there = {round(each.at, 6): each for each in fillings(winter, timeline)}
    assert there[round(first, 6)].share == pytest.approx(1.0)
    times = np.array([first + 0.01])
    full = bottles(winter, winter.people, timeline, times).left
    assert full == pytest.approx(np.full(full.shape, 1.5), abs=0.02)
    # Without fuel nothing is melted, and they set out with what was left.
    dry = winter.altered(people=tuple(each.altered(fuel_g_a_day=0) for each in winter.people))
    assert (bottles(dry, dry.people, timeline, times).left < 1.0).all()
    assert "it is out on Fri" in fuel_sentence(dry, fuel_verdict(dry, timeline), DISPLAY)


def test_group_fuel_burns_from_everybodys_cans_alike(small) -> None:
    can = GroupKit(id="can", name="can", kind="fuel", mass_g=380, net_g=230, carriers=("tavi",))
    course = small.altered(group=(can,))
    timeline = build_timeline(course)
    times = np.arange(0, 121, 0.25)
    found = fuel_account(course, course.people, timeline, times)
    assert found.carried[:, 0].tolist() == [250, 480]
    share = found.carried[1] / np.maximum(found.carried.sum(axis=0), 1e-9)
    burning = found.carried.sum(axis=0) > 1
    assert share[burning] == pytest.approx(np.full(burning.sum(), 480 / 730))
    total = found.carried + found.burnt
    assert total == pytest.approx(np.repeat(total[:, :1], len(times), axis=1))
    # The load falls by it, and the empty can stays.
    load = assess(course).of("tavi").load
    assert load.kept["group"] == pytest.approx(0.15)


def test_spare_and_surplus_are_told_and_cured(small) -> None:
    timeline = build_timeline(small)
    found = fuel_verdict(small, timeline)
    assert found.there == 500
    assert found.spare_wanted == pytest.approx(0.15 * found.needed)
    assert found.over == pytest.approx(500 - 1.15 * found.needed)
    more = fuel_wanted(small, found)
    kept = small.altered(people=tuple(each.altered(fuel_g_a_day=more) for each in small.people))
    assert fuel_verdict(kept, timeline).over >= 0
    less = small.altered(people=tuple(e.altered(fuel_g_a_day=more - 10) for e in small.people))
    assert fuel_verdict(less, timeline).over < 0
    assert "missing" in fuel_sentence(less, fuel_verdict(less, timeline), DISPLAY)


def test_water_follows_heat_and_fills_where_it_can(small) -> None:
    timeline = build_timeline(small)
    hot = small.altered(
        days=tuple(d.altered(conditions=d.conditions.altered(high_c=34)) for d in small.days)
    )
    cool, warm = (
        sum(each.litres for each in dry_stretches(c, c.people, build_timeline(c))[0])
        for c in (small, hot)
    )
    assert warm > cool + 1
    (dry, _) = dry_stretches(small, small.people, timeline)
    person = small.people[0]
    wanted = water_wanted(person, dry)
    enough = person.altered(water_l=wanted, containers_l=wanted)
    assert dry_stretches(small, (enough,), timeline) == [()]


def test_a_dry_camp_drinks_from_the_bottles_and_a_cache_of_water_cures_it(small) -> None:
    days = [
        day.altered(camp=day.camp.altered(water=False)) if at == 0 else day
        for at, day in enumerate(small.days)
    ]
    days[0] = days[0].altered(legs=tuple(leg.altered(water=False) for leg in days[0].legs))
    course = small.altered(days=tuple(days))
    timeline = build_timeline(course)
    (dry, _) = dry_stretches(course, course.people, timeline)
    dinner = day_hours(timeline)[0].dinner
    assert any(each.start <= dinner + 0.6 and each.end >= dinner for each in dry)
    cached = course.altered(caches=(Cache(day=0, leg="birch-wood", rations=0, water_l=4),))
    big = cached.altered(people=tuple(each.altered(containers_l=4) for each in cached.people))
    (after, _) = dry_stretches(big, big.people, timeline)
    assert sum(e.litres for e in after) < sum(e.litres for e in dry) - 1


def test_an_empty_cache_is_refused() -> None:
    with pytest.raises(ValueError, match="empty cache"):
        Cache(day=0, leg="x", rations=0)


MENU = (
    Dish(id="oats", name="oats", meal="breakfast", mass_g=120, kcal=450, cooked=True),
    Dish(id="nuts", name="nuts", meal="on the way", mass_g=100, kcal=600),
    Dish(id="stew", name="stew", meal="dinner", mass_g=180, kcal=700, cooked=True),
    Dish(id="cake", name="cake", meal="dinner", day=0, mass_g=300, kcal=1000),
)


def test_a_menu_takes_the_place_of_a_planned_day_and_its_labels_add_up(small) -> None:
    course = small.altered(provisions=Provisions(menu=MENU))
    person = course.people[0]
    # By label arithmetic: a day's own dinner takes the place of everyday's.
    first, second = ration(course, person, 0), ration(course, person, 1)
    assert (first.grams, first.kcal) == (520, 2050)
    assert (second.grams, second.kcal) == (400, 1750)
    assert (first.ready_kcal, second.ready_kcal) == (1600, 600)
    assert [dish.id for dish in dishes_on(course, 0)] == ["oats", "nuts", "cake"]
    timeline = build_timeline(course)
    times = np.array([0.0, day_hours(timeline)[0].breakfast, 23.9, 24 * 5 - 0.1])
    left = food_account(course, (person,), timeline, times).left[0]
    assert left.tolist() == pytest.approx([2120, 2000, 1600, 0])


def test_things_are_left_and_fetched_again(small) -> None:
    person = small.people[0]
    heavy = Item(id="rope", name="rope", mass_g=3000, purpose="group")
    ends = {
        "left_at": LegEnd(day=1, leg="plateau"),
        "waits_at": LegEnd(day=2, leg="back"),
    }
    course = with_person(small, person.altered(items=(heavy.altered(**ends),)))
    result = assess(course)
    load = result.of(person.id).load
    gone = np.array(load.away["group"])
    left, fetched = (leg_end(result.timeline, e.day, e.leg) for e in ends.values())
    hours = np.array(load.hour)
    assert gone.tolist() == [3.0 * (left <= hour < fetched) for hour in hours]
    # Inside another thing, it goes where that goes.
    sack = Item(id="sack", name="sack", mass_g=200, purpose="group", **ends)
    inside = heavy.altered(inside="sack")
    moved = assess(with_person(small, person.altered(items=(sack, inside))))
    assert max(moved.of(person.id).load.away["group"]) == pytest.approx(3.2)


def test_things_in_nothing_or_in_themselves_are_refused(small) -> None:
    one = Item(id="one", name="one", mass_g=1, purpose="group", inside="two")
    with pytest.raises(ValueError, match="inside nothing"):
        small.people[0].altered(items=(one,))
    with pytest.raises(ValueError, match="inside itself"):
        small.people[0].altered(items=(one, one.altered(id="two", inside="one")))


def test_what_somebody_burns_reaches_everybodys_load(small) -> None:
    before = reassess(small, None)
    more = with_person(small, small.people[0].altered(fuel_g_a_day=120))
    again, whole = reassess(more, before).result, assess(more)
    assert [each.load for each in again.people] == [each.load for each in whole.people]
    assert again.fuel == whole.fuel


def test_porters_animals_and_sleds_carry_with_limits_of_their_own(small) -> None:
    can = GroupKit(
        id="can",
        name="can",
        kind="fuel",
        mass_g=380,
        net_g=230,
        carriers=("mule",),
        by_hand=(True,),
    )
    rope = Item(id="rope", name="rope", mass_g=3000, purpose="group", on="mule")
    bag = rope.altered(id="sack", name="sack", mass_g=100, on="pulk", inside=None)
    inside = Item(id="saw", name="saw", mass_g=900, purpose="group", inside="sack")
    person = small.people[0].altered(items=(rope, bag, inside))
    helpers = (
        Helper(id="mule", name="mule", kind="animal", limit_kg=3),
        Helper(id="pulk", name="pulk", kind="sled", limit_kg=40, drawn_by="tavi"),
    )
    course = with_person(small.altered(helpers=helpers, group=(can,)), person)
    mule, pulk = helper_loads(course)
    # By hand: 3,000 g of rope and a can of 380 g; a sack of 100 g with 900 g in it.
    assert (mule.mass, pulk.mass) == (pytest.approx(3.38), pytest.approx(1.0))
    assert (mule.over, pulk.over) == (pytest.approx(0.38), 0.0)
    bare = assess(small)
    result = assess(course)
    # Nothing of it is on anybody's back, and the can's fuel burns for all.
    assert result.of("runa").load.by_day[0] == pytest.approx(bare.of("runa").load.by_day[0])
    assert result.fuel.there == bare.fuel.there + 230
    # Whoever draws the sled works a little harder, and carries no more.
    timeline, times = result.timeline, np.array([9.0])
    tavi = loads_at(course, (course.person("tavi"),), timeline, times)
    plain = loads_at(small, (small.person("tavi"),), timeline, times)
    lighter = 0.3 * 1.0
    assert float(tavi[0, 0] - plain[0, 0]) == pytest.approx(lighter, abs=0.02)
    # The split leaves what helpers carry where it is, and without them it is nobody's.
    split = fair_split(course, [10, 10], [20, 20], "strength")
    assert split.carriers == ("mule",)
    gone = without_helper(course, "mule")
    assert [unit.carrier for unit in units(gone)] == [None]
    assert gone.people[0].items[0].on is None
    assert without_person(course, "tavi").helpers[1].drawn_by is None
    for wrong in (
        {"helpers": (Helper(id="runa", name="x", limit_kg=1),)},
        {"helpers": (Helper(id="x", name="x", limit_kg=1, drawn_by="ghost"),)},
        {"helpers": ()},
    ):
        with pytest.raises(ValueError, match=r"twice|nobody draws|unknown helper"):
            course.altered(**wrong)


def test_a_glacier_peak_adds_up_by_hand() -> None:
    course = glacier_peak()
    result = assess(course)
    # Fuel by hand: four people, 60 g on each of eight days, and two cans of 450 g.
    assert result.fuel.there == pytest.approx(4 * 8 * 60 + 2 * 450)
    # Snow is melted at four camps above 3,500 m, for bottles of 1.5 L each.
    melted = [need for need in result.fuel.camps if need.melted]
    assert [need.day for need in melted] == [3, 4, 5, 6]
    assert {need.bottled_l for need in melted} == {6.0}
    # The caches hold two days and half a day of the menu's 570 g: until then nobody is hungry, and
    # what is carried at first is 5.5 days of it.
    person = course.people[1]
    times = np.array([0.0])
    food = food_account(course, (person,), result.timeline, times)
    assert (food.left[0, 0], food.waiting[0, 0]) == (pytest.approx(5.5 * 570), 2.5 * 570)
    assert not any(each.load.hungry for each in result.people)
    # Every gram: kept, provisions, used, waiting and away add up to one sum at every hour.
    for each in result.people:
        load = each.load
        whole = np.array(load.by_hour) - np.array(load.water) - np.array(load.wet)
        whole = whole + np.array(load.used) + np.array(load.waiting)
        whole = whole + sum(np.array(gone) for gone in load.away.values())
        assert np.ptp(whole) < 1e-6
    # The mule has a can of 600 g and 9 kg of table and chairs.
    (mule,) = helper_loads(course)
    assert mule.mass == pytest.approx(9.6)
    # Double boots that wait are not worn before they are fetched, and are never idle.
    ana = result.of("ana")
    assert all("double-boots" not in s.worn for s in ana.moments if s.day == 0)
    assert any("double-boots" in s.worn for s in ana.moments if s.day > 2)
    assert "double-boots" not in idle_pieces(course, result, ("ana",))["ana"].pieces


def test_a_can_in_a_drop_bag_burns_only_once_it_is_reached(small) -> None:
    can = Item(
        id="can",
        name="can",
        kind="fuel",
        mass_g=380,
        net_g=230,
        purpose="food and water",
        waits_at=LegEnd(day=2, leg="back"),
    )
    course = with_person(small, small.people[0].altered(items=(can,), fuel_g_a_day=0))
    timeline = build_timeline(course)
    reached = leg_end(timeline, 2, "back")
    times = np.array([0.0, reached - 0.01, reached + 0.01])
    found = fuel_account(course, course.people, timeline, times)
    assert found.waiting[0].tolist() == [230, 230, 0]
    assert found.carried[0, :2].tolist() == [0, 0]
    assert found.carried[0, 2] > 100
    load = assess(course).of("runa").load
    # 150 g of can and 230 g of fuel wait together, and are not on the back.
    assert load.away["food and water"][0] == pytest.approx(0.15)
    assert load.waiting[0] == pytest.approx(0.23)


def test_setting_out_from_a_dry_camp_the_bottles_weigh_what_is_in_them(small) -> None:
    days = list(small.days)
    days[1] = days[1].altered(camp=days[1].camp.altered(water=False))
    course = small.altered(days=tuple(days))
    wet, dry = assess(small).of("runa").load, assess(course).of("runa").load
    assert dry.by_purpose[2]["food and water"] < wet.by_purpose[2]["food and water"] - 1.5
    assert wet.by_purpose[2]["food and water"] == pytest.approx(
        float(
            food_account(small, small.people[:1], assess(small).timeline, np.array([47.0])).left[
                0, 0
            ]
        )
        / 1000
        + float(
            fuel_account(small, small.people[:1], assess(small).timeline, np.array([47.0])).carried[
                0, 0
            ]
        )
        / 1000
        + 2.0,
        abs=0.05,
    )


def test_two_sleds_of_one_drawer_both_count_and_reach_them_when_changed(small) -> None:
    helpers = tuple(
        Helper(id=f"pulk-{at}", name="pulk", kind="sled", limit_kg=40, drawn_by="tavi")
        for at in (1, 2)
    )
    loads = tuple(
        Item(id=f"load-{at}", name="load", mass_g=10_000, purpose="group", on=f"pulk-{at}")
        for at in (1, 2)
    )
    runa = small.people[0]
    before = reassess(small.altered(helpers=helpers), None)
    course = with_person(small.altered(helpers=helpers), runa.altered(items=loads))
    tavi, timeline, times = course.person("tavi"), before.result.timeline, np.array([9.0])
    more = loads_at(course, (tavi,), timeline, times) - loads_at(small, (tavi,), timeline, times)
    assert float(more[0, 0]) == pytest.approx(0.3 * 20, abs=0.02)
    # What Runa lays on Tavi's sleds is felt by Tavi, also where only the change is assessed.
    again, whole = reassess(course, before).result.of("tavi"), assess(course).of("tavi")
    assert [s.rate for s in again.moments] == [s.rate for s in whole.moments]
