"""Fingers, toes and face: curvature, blood, cooling, gloves chosen, and the face in the wind."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.physics import extremities
from caldarium.core.physics.allowances import heat_to_digits, quiet_heat
from caldarium.core.physics.clothing import bent
from caldarium.core.physics.cold import air_layer
from caldarium.core.physics.quantities import CLO
from caldarium.core.physics.wind import frostbite_minutes, frostbite_time
from caldarium.core.plan.changes import add_piece, overrule, remove_piece, with_person
from caldarium.core.what_if.dial import Dial, turned
from caldarium.words.day import digits_sentence
from caldarium.words.units import Display

GARMENTS = load_catalogue().garments
HALT = "3.north-top.halt"


def state_of(result, row: int, moment: str = HALT):
    return next(each for each in result.people[row].moments if each.moment == moment)


def test_gloves_stop_helping_near_the_published_cap() -> None:
    # van Dilla, Day & Siple (1949): about 1.2 clo at most on a finger; value from memory.
    stacked = extremities.hand_insulation(np.array([0.5, 1.0, 2.0, 4.0, 8.0]), 0.0)
    assert np.all(np.diff(stacked) >= 0)
    assert stacked[-1] == stacked[-2] == pytest.approx(1.2)
    assert extremities.hand_insulation(0.8, 3.0) > 1.8


def test_a_cylinder_by_hand() -> None:
    # 10 mm of 0.048 W/(m K) on a finger of 8 mm: 0.008 / 0.048 * ln(1 + 10 / 8) = 0.1352 m² K/W.
    assert float(bent(0.010 / 0.048, 0.008)) == pytest.approx(0.1352, abs=1e-4)
    # Its air layer lies on a radius of 18 mm: 8 / 18 of 1 / (film + radiation).
    film = float(extremities.cylinder_film(0.018, 2.0, 0.0))
    layer = float(extremities.outer_layer(0.1352 / CLO, 0.008, 2.0, 0.0))
    assert layer == pytest.approx(8 / 18 / (film + extremities.RADIANT), rel=1e-3)


def test_the_film_of_a_cylinder_in_a_textbook() -> None:
    # Incropera & DeWitt, Fundamentals of Heat and Mass Transfer, example 7.4: 12.7 mm across air of
    # 10 m/s at a film temperature near 77 °C, 96 W/(m² K) by Churchill & Bernstein; from memory.
    assert float(extremities.cylinder_film(0.00635, 10.0, 77.0)) == pytest.approx(96, rel=0.03)
    # A finger loses two to three times what the body's own air layer does: ISO 11079 in 2 m/s.
    body = 1 / float(air_layer(2.0, 0.0))
    finger = float(extremities.cylinder_film(extremities.FINGER, 2.0, 0.0)) + extremities.RADIANT
    assert 1.8 < finger / body < 3.2


@given(st.floats(0.01, 6), st.floats(0.005, 0.05))
def test_bent_layers_are_worth_less_than_flat_ones(flat: float, radius: float) -> None:
    assert 0 < float(bent(flat * CLO, radius)) < flat * CLO


def test_cooling_by_hand_and_until_a_limit() -> None:
    digits = extremities.digits(0.2, 0.5, 50.0, -10.0, 0.008)
    # Steady: -10 + 50 * 0.2 = 0 °C; constant: 3.7e6 * 0.004 * 0.2 / 3600 = 0.822 h.
    assert float(digits.steady) == pytest.approx(0.0)
    assert float(digits.constant) == pytest.approx(0.8222, abs=1e-3)
    assert float(digits.at_end(0.8222)) == pytest.approx(30 / np.e, abs=0.02)
    minutes = float(digits.until(15.0))
    assert float(digits.at_end(minutes / 60)) == pytest.approx(15.0)
    assert float(digits.until(-5.0)) == np.inf
    assert float(digits.until(15.0, 10.0)) == 0


@given(st.floats(-40, 10), st.floats(0, 15), st.floats(0.05, 0.5), st.floats(20, 250))
def test_colder_air_never_warms_fingers(air, drop, ohms, heat) -> None:
    warm, cold = (extremities.digits(ohms, 1.0, heat, t, 0.008) for t in (air, air - drop))
    assert float(cold.at_end(1.0)) <= float(warm.at_end(1.0)) + 1e-9


def test_blood_follows_the_body() -> None:
    def heat(worn: float, rate: float = 70.0) -> float:
        return float(extremities.blood_heat("fingers", rate, worn, 2.0, 2.4))

    assert heat(0.5) == heat(1.0) == extremities.COLD_BLOOD["fingers"]
    assert heat(1.0) < heat(1.8) < heat(2.4) == extremities.RESTING_BLOOD["fingers"]
    assert heat(2.4, 200.0) > heat(2.4)


def test_everybody_wears_fewer_gloves_where_it_is_mild(demo, demo_result) -> None:
    def gloves(result) -> int:
        hands = {"liner-gloves", "fleece-gloves", "insulated-mitts", "over-mitts"}
        return sum(len(hands & set(each.worn)) for p in result.people for each in p.moments)

    assert gloves(assess(turned(demo, Dial(colder=-10)))) < gloves(demo_result)
    assert gloves(assess(turned(demo, Dial(colder=10)))) > gloves(demo_result)


def test_mitts_warm_fingers_and_their_loss_is_seen(demo, demo_result) -> None:
    row = 2
    bare = state_of(demo_result, row)
    with_mitts = assess(with_person(demo, add_piece(demo.people[row], GARMENTS["insulated-mitts"])))
    after = state_of(with_mitts, row)
    assert "insulated-mitts" in after.worn
    assert after.fingers.at_end > bare.fingers.at_end + 3
    assert after.fingers.clo > bare.fingers.clo
    none = remove_piece(demo.people[row], "liner-gloves")
    worse = state_of(assess(with_person(demo, none)), row)
    assert worse.fingers.clo == 0
    assert worse.fingers.works_for <= bare.fingers.works_for
    assert worse.bare_fingers == pytest.approx(bare.bare_fingers, abs=1.0)


def test_the_users_word_on_gloves_stands(demo) -> None:
    off = overrule(demo.people[0], HALT, "fleece-gloves", False)
    result = assess(with_person(demo, off))
    assert "fleece-gloves" not in state_of(result, 0).worn


def test_fingers_begin_as_the_moment_before_left_them(demo_result) -> None:
    states = {each.moment: each for each in demo_result.people[0].moments}
    back, halt = states["3.back.moving"], states["3.back.halt"]
    assert back.fingers.at_end < 10
    assert halt.fingers.at_end < back.fingers.at_end + 3
    assert halt.fingers.works_for == 0
    assert "near freezing" in digits_sentence(halt, Display())
    assert "fingers" in halt.at_risk


def test_soaked_gloves_are_colder_gloves(demo, demo_result) -> None:
    soaked = state_of(demo_result, 0, "3.back.halt")
    dry = state_of(demo_result, 0, "3.long-ridge.moving")
    assert soaked.wet["fleece-gloves"] > 0.4 > dry.wet.get("fleece-gloves", 0)
    assert soaked.fingers.clo < dry.fingers.clo


def test_frostbite_has_a_time_for_any_weather() -> None:
    # Inside its range the published fit itself; -30 °C at 50 km/h is minutes, -10 °C no danger.
    assert float(frostbite_minutes(-30, 50)) == pytest.approx(float(frostbite_time(-30, 50)))
    assert float(frostbite_minutes(-10, 80)) == np.inf
    assert float(frostbite_minutes(-30, 5)) == pytest.approx(float(frostbite_minutes(-30, 20)))
    assert float(frostbite_minutes(-55, 80)) == 2


def test_the_face_is_told_of_in_deep_cold(demo) -> None:
    arctic = turned(demo, Dial(colder=24, windier=6))
    hatless = assess(arctic)
    state = state_of(hatless, 0)
    assert state.bare_face > 0.5
    assert "face" in state.at_risk
    assert "of the face is bare" in digits_sentence(state, Display())
    covered = arctic.people[0]
    for name in ("heavy-balaclava", "face-mask"):
        covered = add_piece(covered, GARMENTS[name])
    after = state_of(assess(with_person(arctic, covered)), 0)
    assert after.bare_face < 0.15
    assert "face" not in after.at_risk


def test_allowances_are_off_and_each_costs_something(demo, demo_result) -> None:
    assert demo.allowances == ()
    high = turned(demo, Dial(higher=2600))
    long = turned(demo, Dial(slower=40))
    for course, allowance, moment, figure in (
        (long, "fatigue", "2.camp", lambda s: s.rate),
        (demo, "low food", "1.lookout.halt", lambda s: s.rate),
        (high, "altitude", "1.lookout.halt", lambda s: s.fingers.heat),
    ):
        before = state_of(assess(course), 0, moment)
        after = state_of(assess(course.altered(allowances=(allowance,))), 0, moment)
        assert figure(after) < figure(before), allowance
    assert float(quiet_heat((), 9.0)) == 1
    assert float(quiet_heat(("fatigue",), 1.0)) == 1 > float(quiet_heat(("fatigue",), 5.0))
    assert float(heat_to_digits(("altitude",), 2000.0)) == 1
