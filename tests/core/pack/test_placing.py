"""Placing is the best of all placings of small packs; rules hold; what is placed by hand stays."""

import math
import random
from dataclasses import replace
from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.core.assess import assess
from caldarium.core.pack.contents import Content, Role, mornings
from caldarium.core.pack.needed import HURRY, Need, Why
from caldarium.core.pack.placing import (
    LEFT_OVER,
    LEFT_OVER_L,
    ONE_SIDED,
    OVER_FULL,
    cost,
    place_all,
)
from caldarium.core.pack.plan import plan_pack, since
from caldarium.core.pack.where import SOFT, SPINE, Asked, allowed, breadth_cm, clash
from caldarium.core.pack.zones import MAIN, Sack, sack_of
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.rucksack import LASHED, MARKS, ZONES, Placed, Rucksack, Zone
from caldarium.demo import DEMOS, demo_course

ROLES: tuple[Role, ...] = ("bed", "clothes", "food", "fuel", "water", "shelter", "light", "other")
SIGNS = {"left": -1, "right": 1, "strap left": -1, "strap right": 1}
WHYS: tuple[Why, ...] = tuple(HURRY)


def small_sack(litres: float) -> Sack:
    room = {zone: litres for zone in ZONES}
    return Sack(litres, litres, room, litres, False, False, 900.0, "pack")


def some(chance: random.Random, count: int) -> tuple[list[Content], dict[str, Need]]:
    contents = [
        Content(
            f"thing-{at}",
            f"thing {at}",
            chance.uniform(50, 2500),
            chance.uniform(0.1, 7),
            False,
            chance.choice(ROLES),
            frozenset(chance.sample(MARKS, chance.choice([0, 0, 1, 1, 2]))),
        )
        for at in range(count)
    ]
    needs = {}
    for each in contents:
        why = chance.choice(WHYS)
        needs[each.id] = Need(chance.uniform(8, 20), why, HURRY[why])
    return contents, needs


def by_every_placing(asked: Asked) -> float:
    """The least that any placing costs, each piece in each of its zones or left over."""
    contents = asked.contents
    best = math.inf
    for zones in product(*([*allowed(each, asked), None] for each in contents)):
        placed = [(e, z) for e, z in zip(contents, zones, strict=True) if z is not None]
        if any(clash(a, y, b, z) for a, y in placed for b, z in placed):
            continue
        soft = {z for e, z in placed if e.role in SOFT}
        if any("hard" in e.marks and z in SPINE and z not in soft for e, z in placed):
            continue
        if any(
            sum(e.litres for e, z in placed if z == zone) > asked.sack.room[zone] + 1e-9
            for zone in ZONES
        ):
            continue
        whole = sum(cost(e, z, asked) for e, z in placed)
        for each, zone in zip(contents, zones, strict=True):
            if zone is None:
                whole += LEFT_OVER * (1 + asked.needs[each.id].hurry) + LEFT_OVER_L * each.litres
        if sum(e.litres for e, z in placed if z in LASHED) > asked.sack.lashed + 1e-9:
            continue
        main = sum(e.litres for e, z in placed if z in (*MAIN, "over"))
        whole += OVER_FULL * max(main - asked.sack.main, 0.0)
        sides = sum(SIGNS.get(z, 0) * e.grams for e, z in placed) / 1000
        whole += ONE_SIDED * max(abs(sides) - asked.sides_g / 1000, 0.0)
        best = min(best, whole)
    return best


@pytest.mark.parametrize("seed", range(30))
def test_no_placing_of_four_pieces_is_better(seed: int) -> None:
    chance = random.Random(seed)
    contents, needs = some(chance, 4)
    sack = small_sack(chance.choice([3.0, 8.0, 30.0]))
    before: dict[str, Zone] = {"thing-0": chance.choice(ZONES)} if seed % 3 else {}
    asked = Asked(
        contents, needs, sack, Rucksack(liner=seed % 2 == 0), 0.6, 300.0, seed % 5 == 0, before
    )
    found = place_all(asked)
    assert found.gap == 0
    by_id = {each.id: each for each in contents}
    whole = sum(cost(by_id[name], zone, asked) for name, zone in found.zones.items())
    for each in contents:
        if each.id not in found.zones:
            whole += LEFT_OVER * (1 + needs[each.id].hurry) + LEFT_OVER_L * each.litres
    main = sum(by_id[n].litres for n, z in found.zones.items() if z in (*MAIN, "over"))
    whole += OVER_FULL * max(main - sack.main, 0.0)
    sides = sum(SIGNS.get(z, 0) * by_id[n].grams for n, z in found.zones.items()) / 1000
    whole += ONE_SIDED * max(abs(sides) - 0.3, 0.0)
    assert whole == pytest.approx(by_every_placing(asked), rel=1e-6, abs=1e-4)


@settings(max_examples=60, deadline=None)
@given(seed=st.integers(0, 10**6), count=st.integers(0, 30), freezes=st.booleans())
def test_rules_hold_in_any_pack(seed: int, count: int, freezes: bool) -> None:
    chance = random.Random(seed)
    contents, needs = some(chance, count)
    asked = Asked(contents, needs, small_sack(40.0), Rucksack(), 0.6, 300.0, freezes)
    zones = place_all(asked).zones
    by_id = {each.id: each for each in contents}
    for name, zone in zones.items():
        assert zone in allowed(by_id[name], asked)
        if "hard" in by_id[name].marks and zone in SPINE:
            assert any(by_id[n].role in SOFT for n, there in zones.items() if there == zone)
        for other, there in zones.items():
            assert not clash(by_id[name], zone, by_id[other], there)


def test_what_is_placed_by_hand_stays_and_the_rest_goes_round_it() -> None:
    course = demo_course()
    person = course.people[0]
    result = assess(course)
    free = plan_pack(course, person, result, 0)
    for name in list(free.placing.zones)[:6]:
        for zone in ("foot", "lid", "lashed"):
            said = person.rucksack.with_said(Placed(piece=name, zone=zone))
            other = with_person(course, person.altered(rucksack=said))
            plan = plan_pack(other, other.person(person.id), result, 0)
            assert plan.placing.zones[name] == zone
            assert plan.placing.zones.keys() == free.placing.zones.keys()


@pytest.mark.parametrize("name", DEMOS)
def test_packs_of_the_demos_are_as_the_trade_packs_them(name: str) -> None:
    """Common practice, no published source: bed at the foot or low, food by the spine, fuel never
    over food, what halts ask for never at the foot, a wet shelter never inside the liner."""
    course = demo_course(name)
    result = assess(course)
    for person in course.people:
        for day in mornings(course, result.timeline):
            plan = plan_pack(course, person, result, day)
            zones, pieces = plan.placing.zones, plan.pieces
            assert plan.placing.gap == 0
            assert zones.keys() == pieces.keys()
            for piece, zone in zones.items():
                content = pieces[piece]
                if content.role == "bed" and content.litres > 8:
                    assert zone == "foot"
                if content.role == "food" and content.grams > 1200:
                    assert zone in ("low spine", "high spine", "low outer", "high outer")
                if plan.needs[piece].hurry >= 2:
                    assert zone not in ("foot", "low spine", "low outer")
                if content.wet:
                    assert zone not in MAIN
            reasons = {each.reason for each in plan.findings}
            assert not reasons & {"fuel over food", "crushed", "deep", "wet inside", "no barrier"}


def test_a_bundle_stays_together() -> None:
    chance = random.Random(5)
    contents, needs = some(chance, 12)
    plain = [replace(each, marks=frozenset(), role="other") for each in contents]
    bundled = [
        replace(each, bundle="kitchen" if at in (1, 4, 7) else "") for at, each in enumerate(plain)
    ]
    asked = Asked(bundled, needs, small_sack(40.0), Rucksack(), 0.6, 300.0, False)
    zones = place_all(asked).zones
    assert len({zones[f"thing-{at}"] for at in (1, 4, 7)}) == 1


def test_little_moves_from_morning_to_morning() -> None:
    course = demo_course()
    result = assess(course)
    person = course.people[0]
    first = plan_pack(course, person, result, 1)
    settled = plan_pack(course, person, result, 2, first)
    anew = plan_pack(course, person, result, 2)
    assert len(since(first, settled).moved) <= len(since(first, anew).moved)
    nothing = since(first, first)
    assert (nothing.moved, nothing.grams, nothing.height_cm) == ((), 0, 0)


def test_a_pack_that_nobody_names_holds_all_of_it() -> None:
    person = demo_course().people[0].altered(items=())
    for litres in (1, 19, 33, 58, 95, 400):
        sack = sack_of(person, litres, None)
        assert sack.assumed
        assert sack.whole >= min(litres, 100)
    said = person.altered(rucksack=Rucksack(main_l=55, lid_l=5, front_l=4, side_l=2, hip_l=1))
    sack = sack_of(said, 10, None)
    assert not sack.assumed
    assert not sack.parts_assumed
    assert sack.whole == 55 + 5 + 4 + 4 + 1


def piece(name: str, grams: float, litres: float, role: Role, *marks: str) -> Content:
    return Content(name, name, grams, litres, False, role, frozenset(marks))


def where(content: Content, **said: object) -> set[str]:
    """Zones that may take one piece in a pack of 60 litres with such straps."""
    person = demo_course().people[0].altered(items=(), rucksack=Rucksack(**said))
    sack = sack_of(person, 55, None)
    needs = {content.id: Need(10, "any time", 1.0)}
    return set(allowed(content, Asked([content], needs, sack, person.rucksack, 0.6, 300.0, False)))


def test_each_strap_lashes_what_it_can_hold() -> None:
    """Common practice, no published source: foam under the foot, at the back or on the lid, poles
    at a side or the back, an axe at the back, spikes also on the lid, a helmet never under."""
    foam = piece("foam", 400, 12, "pad", "outside")
    poles = piece("poles", 480, 1.5, "tool", "long")
    axe = piece("axe", 500, 1.5, "tool", "long", "sharp")
    spikes = piece("spikes", 800, 2.0, "tool", "sharp")
    helmet = piece("helmet", 350, 5.0, "tool", "crushable", "outside", "round")
    jacket = piece("jacket", 500, 5.0, "clothes", "keep dry")
    outside = set(LASHED)
    assert where(foam) & outside == {"under", "lashed", "on lid"}
    assert where(poles) & outside == {"strap left", "strap right", "lashed"}
    assert where(axe) & outside == {"lashed"}
    assert where(spikes) & outside == {"lashed", "on lid"}
    assert where(helmet) & outside == {"lashed", "on lid"}
    assert not where(jacket) & outside


def test_where_there_is_no_strap_nothing_is_lashed() -> None:
    foam = piece("foam", 400, 12, "pad", "outside")
    assert where(foam, straps=("under",)) & set(LASHED) == {"under"}
    assert not where(foam, straps=()) & set(LASHED)
    assert not where(foam, lashed_l=0) & set(LASHED)


def test_what_is_round_goes_only_where_its_breadth_goes() -> None:
    """A ball of 1 L is 12.4 cm broad, by 4/3 pi r^3: too much for a front pocket."""
    assert breadth_cm(1.0) == pytest.approx(2 * (3000 / (4 * math.pi)) ** (1 / 3))
    ball, soft = piece("pot", 300, 1.0, "cook", "round"), piece("cloth", 300, 1.0, "cook")
    assert {"front", "left"} <= where(soft)
    assert not where(ball) & {"front", "left", "right", "hip"}
    assert {"lid", "high spine"} <= where(ball)


def test_all_that_is_lashed_fits_under_the_straps_together() -> None:
    rolls = [piece(f"roll {at}", 300, 9, "pad", "outside") for at in range(4)]
    person = demo_course().people[0].altered(items=(), rucksack=Rucksack(lashed_l=20))
    sack = sack_of(person, 55, None)
    needs = {each.id: Need(20, "for the night", 0.1) for each in rolls}
    tight = replace(sack, main=0.0, room=sack.room | dict.fromkeys(MAIN, 0.0))
    found = place_all(Asked(rolls, needs, tight, person.rucksack, 0.6, 300.0, False))
    assert len(found.zones) == 2
    assert set(found.zones.values()) <= set(LASHED)
