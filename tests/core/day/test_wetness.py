"""Water on and in clothing: where it comes from, what it costs, and how it goes."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.day import wetness
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.plan.changes import find_leg, set_leg, with_day, with_person
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.timeline.moments import build_timeline
from caldarium.words.day import wet_sentence
from caldarium.words.units import Display

GARMENTS = load_catalogue().garments


def dressed_in(demo, *names: str):
    """A wardrobe of one person with these pieces, and the outfit of all of them."""
    pieces = tuple(GARMENTS[name] for name in names)
    dress = wardrobes((demo.people[0].altered(garments=pieces, overrules=()),))
    return dress, np.ones((1, 1, dress.places), dtype=bool)


def all_worn(outfit) -> wetness.Roles:
    return wetness.Roles(outfit, outfit)


def by_name(dress, values) -> dict[str, float]:
    return dict(zip(dress.ids(0), values[0, 0].tolist(), strict=True))


def state_of(result, moment: str, row: int = 0):
    return next(each for each in result.people[row].moments if each.moment == moment)


def test_materials_keep_the_trades_order() -> None:
    # Down worst, synthetic fill, wool and fleece better: common practice, no published source.
    left = {name: material.wet_share for name, material in MATERIALS.items()}
    assert left["down"] < left["treated down"] < left["synthetic fill"] <= left["fleece"]
    assert all(0 < share < 1 for share in left.values())


def test_well_frozen_snow_mostly_falls_off() -> None:
    assert not wetness.on_regions(0, 0, 3, 5).any()
    thawing, frozen = (wetness.on_regions(6, 3, 2, air) for air in (5, -8))
    assert (thawing > frozen).all()
    assert (frozen > 0).all()


def test_driving_rain_is_the_standards() -> None:
    # ISO 15927-3:2009: 2/9 v r^(8/9), hand-worked: 2/9 x 10 x 1 = 2.22; 2/9 x 4.5 x 8^(8/9) = 6.35.
    assert wetness.driving_rain(1, 10) == pytest.approx(2.2222, abs=1e-4)
    assert wetness.driving_rain(8, 4.5) == pytest.approx(6.3496, abs=1e-4)


def test_wind_drives_rain_into_the_legs_and_none_falls_sideways_without_it() -> None:
    still, windy = (wetness.on_regions(4, 2, wind, 8) for wind in (0, 6))
    assert still.argmax() == 0
    assert (windy > still).all()
    assert windy[5] / still[5] > windy[0] / still[0]


def test_a_waterproof_shell_keeps_what_lies_under_it_dry(demo) -> None:
    depth = np.full((1, 1, 7), 3.0)
    open_dress, outfit = dressed_in(demo, "light-base-top", "mid-fleece-200", "walking-trousers")
    wet = by_name(open_dress, wetness.rain_reached(open_dress, all_worn(outfit), depth))
    assert wet["mid-fleece-200"] == pytest.approx(3.0)
    assert wet["light-base-top"] == pytest.approx(3.0 * wetness.PASSED_ON)
    shut_dress, outfit = dressed_in(
        demo, "light-base-top", "mid-fleece-200", "walking-trousers", "rain-jacket"
    )
    wet = by_name(shut_dress, wetness.rain_reached(shut_dress, all_worn(outfit), depth))
    assert wet["mid-fleece-200"] == wet["light-base-top"] == wet["rain-jacket"] == 0
    assert wet["walking-trousers"] > 0.5


def test_treated_cloth_sheds_the_first_rain(demo) -> None:
    dress, outfit = dressed_in(demo, "soft-shell-jacket")
    shed = np.zeros((1, 1, 1))
    for shower, expected in ((2.0, 0.0), (3.0, 0.5), (1.0, 0.25)):
        reached = wetness.rain_reached(dress, all_worn(outfit), np.full((1, 1, 7), shower))
        assert float(wetness.wetted(dress, reached, shed)[0, 0, 0]) == pytest.approx(expected)
        shed = shed + reached


@pytest.mark.parametrize("parts", [2, 5])
def test_a_leg_cut_in_pieces_gives_the_same_water(demo, parts) -> None:
    """One walk in steady rain, whole and in pieces of the same way."""
    day = demo.days[3]
    leg = next(each for each in day.legs if each.kind == "descent")
    start = next(s.from_altitude for s in _stages(demo, 3) if s.leg.id == leg.id)
    whole = leg.altered(hours=2.5, halt_every_h=0, distance_km=6.0, points=(), climb_m=0, fall_m=0)
    heights = np.linspace(start, leg.to_altitude_m, parts + 1)[1:]
    cut = [
        whole.altered(
            id=f"{leg.id}-{at}",
            hours=2.5 / parts,
            distance_km=6.0 / parts,
            to_altitude_m=float(height),
            start_h=whole.start_h if at == 0 else None,
        )
        for at, height in enumerate(heights)
    ]
    rain = day.conditions.altered(precipitation_mm=10, rain_from_h=0, rain_hours=24)
    found = []
    for legs in ([whole], cut):
        at = [each.id for each in day.legs].index(leg.id)
        changed = day.altered(conditions=rain, legs=(*day.legs[:at], *legs, *day.legs[at + 1 :]))
        result = assess(demo.altered(days=(*demo.days[:3], changed, *demo.days[4:])))
        walks = [m for m in result.timeline.moments if m.leg in {each.id for each in legs}]
        moving = [m for m in walks if m.kind == "moving" and m.day == 3]
        water = sum(m.precipitation * m.hours for m in moving)
        last = state_of(result, moving[-1].id)
        found.append((water, [last.wet.get(name, 0.0) for name in sorted(last.wet)]))
    assert found[0][0] == pytest.approx(found[1][0], rel=1e-6)
    assert found[0][1] == pytest.approx(found[1][1], abs=0.06)


def _stages(course, day: int):
    return build_timeline(course).stages[day]


def test_a_ford_soaks_socks_and_boots_and_leaves_the_jacket(demo, demo_result) -> None:
    assert find_leg(demo, 3, "stream-side").river
    after = state_of(demo_result, "4.camp")
    assert after.wet["thick-socks"] > 0.9
    assert after.wet.get("mid-fleece-200", 0) < 0.05
    dry_feet = assess(set_leg(demo, 3, "stream-side", river=False))
    assert state_of(dry_feet, "4.camp").wet.get("thick-socks", 0) < 0.3
    assert state_of(dry_feet, "4.camp").toes.at_end > after.toes.at_end


def test_wet_scrub_wets_the_legs_on_a_dry_day(demo, demo_result) -> None:
    brushed = assess(set_leg(demo, 0, "valley-path", scrub=True))
    walking, ossi = "1.valley-path.moving", 5
    assert max(state_of(demo_result, walking, ossi).wet.values(), default=0.0) < 0.1
    wet = state_of(brushed, walking, ossi).wet
    assert wet["walking-trousers"] > 0.5
    assert wet.get("light-base-top", 0) < 0.4
    assert state_of(brushed, "1.lookout.halt", ossi).water > 50


def test_sweat_stays_longer_under_a_barrier(demo) -> None:
    sweat, air = np.full((1, 1), 150.0), np.array([2.0])
    held = []
    for shell in ("wind-shirt", "rain-jacket"):
        dress, outfit = dressed_in(demo, "light-base-top", shell)
        lies = wetness.depth(dress, outfit)
        held.append(wetness.held_back(all_worn(outfit), dress, lies, sweat, air)[0, 0])
    assert held[1][0] > held[0][0] > held[0][1] > 0


def test_clothes_dry_on_the_body_and_in_bed(demo, demo_result) -> None:
    states = [state_of(demo_result, name) for name in ("4.camp", "5.dawn", "5.last-rise.moving")]
    water = [each.wet["thick-socks"] for each in states]
    assert water[0] > water[1] > water[2]
    kept_apart = assess(demo.altered(clothes_in_bed=False))
    assert state_of(kept_apart, "5.dawn").wet["thick-socks"] > water[1]


def test_folds_leave_nothing_behind(demo, demo_result) -> None:
    longer = assess(demo.altered(hold_h=8))
    for old, new in zip(demo_result.people[0].moments, longer.people[0].moments, strict=True):
        if old.kind != "hold":
            assert new.wet == pytest.approx(old.wet)


def test_the_sentence_names_the_wettest_pieces(demo, demo_result) -> None:
    words = wet_sentence(demo.people[0], state_of(demo_result, "4.camp"), Display())
    assert "thick socks" in words or "leather boots" in words
    assert "% of its warmth is left" in words
    assert not wet_sentence(demo.people[0], state_of(demo_result, "1.camp"), Display())


@given(st.sampled_from(sorted(MATERIALS)), st.floats(0, 0.9), st.floats(0.01, 0.1))
def test_wetter_never_keeps_more_warmth(material: str, wet: float, more: float) -> None:
    piece = GARMENTS["mid-fleece-200"].altered(material=material)
    dress = wardrobes((_person(piece),))
    drier, wetter = (
        float(wetness.kept(dress, np.full((1, 1, 1), share))[0, 0, 0])
        for share in (wet, wet + more)
    )
    assert 0 < wetter < drier <= 1


def _person(piece: Garment):
    from caldarium.core.plan.course import Person

    return Person(id="a", name="A", body_mass_kg=70, height_m=1.75, garments=(piece,))


@pytest.mark.parametrize("rain", [3, 10, 25])
def test_a_wetter_day_is_never_warmer_in_the_same_clothes(demo, demo_result, rain) -> None:
    """The same outfit, held by overrules, in more rain."""
    person = demo.people[5]
    moment = "1.lookout.halt"
    state = state_of(demo_result, moment, 5)
    from caldarium.core.plan.changes import overrule

    fixed = person
    for piece in person.garments:
        fixed = overrule(fixed, moment, piece.id, piece.id in state.worn)
    still = with_person(demo, fixed)
    day = still.days[0]
    wetter = day.conditions.altered(precipitation_mm=rain, rain_from_h=8, rain_hours=12)
    before = state_of(assess(still), moment, 5)
    after = state_of(assess(with_day(still, 0, day.altered(conditions=wetter))), moment, 5)
    assert after.worn == before.worn
    assert after.provided <= before.provided + 1e-9
    assert after.dry == pytest.approx(before.dry)
