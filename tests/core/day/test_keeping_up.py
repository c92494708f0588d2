"""Who can keep up: capacity at altitude, the pace that fits, and what a walk then makes of heat."""

import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.day.keeping_up import party_pace
from caldarium.core.physics.capacity import capacity_left, kept_up, pace_kept
from caldarium.core.physics.effort import walking_power, way_power
from caldarium.core.plan.changes import at_pace, set_leg
from caldarium.words.day import effort_sentence
from caldarium.words.units import Display


@pytest.mark.parametrize(
    ("altitude", "left"), [(0, 1.0), (1500, 1.0), (4000, 0.73), (6000, 0.53), (8848, 0.22)]
)
def test_capacity_falls_as_measured(altitude, left) -> None:
    # Means read off Fulco, Rock & Cymerman (1998), fig. 1, from memory.
    assert capacity_left(altitude) == pytest.approx(left, abs=0.04)


def test_oxygen_makes_watts() -> None:
    # 40 ml/(min kg) of 70 kg are 2.8 L/min, at 20.9 kJ/L 975 W; half of that for hours.
    assert kept_up(70, 40, 0, 0.5) == pytest.approx(487.7, abs=0.1)


def test_the_pace_takes_the_power() -> None:
    power = np.array([350.0, 450.0, 550.0])
    pace = pace_kept(power, 70, 15, 12, 1.2)
    assert walking_power(70, 15, pace, 12, 1.2) == pytest.approx(power, abs=0.1)
    assert (np.diff(pace) > 0).all()
    assert pace_kept(120, 70, 30, 30, 2.0) == 0


@pytest.mark.parametrize("climbing", [0.0, 0.3, 0.5, 0.8, 1.0])
def test_the_pace_offered_is_one_that_can_be_kept(climbing) -> None:
    pace = pace_kept(380, 62, 16, 18, 1.2, climbing)
    assert way_power(62, 16, pace, 18, 1.2, climbing) <= 380 + 1e-3


def test_a_steep_leg_is_too_hard_and_the_party_walks_at_its_slowest(demo, demo_result) -> None:
    steep = set_leg(demo, 1, "climb", hours=1.6)
    found = assess(steep)
    tried = [each for person in found.people for each in person.efforts]
    climb = [each for each in tried if each.moment == "2.climb.moving"]
    assert all(each.too_hard for each in climb)
    pace = party_pace(climb)
    assert pace == min(each.own_pace for each in climb)
    slower = assess(at_pace(steep, 1, "climb", pace))
    again = [e for p in slower.people for e in p.efforts if e.moment == "2.climb.moving"]
    assert not any(each.too_hard for each in again)
    assert party_pace(again) is None
    words = effort_sentence(climb[0], pace, Display())
    assert "Too hard to keep up" in words
    assert "km/h" in words
    assert effort_sentence(again[0], None, Display()) == ""


def test_nobody_makes_more_heat_than_they_can_keep_up(demo) -> None:
    found = assess(set_leg(demo, 1, "climb", hours=1.6))
    for person in found.people:
        for effort in person.efforts:
            state = next(each for each in person.moments if each.moment == effort.moment)
            assert state.watts <= max(effort.keeps, 58 * 1.6) + 1e-6


def test_fitter_people_keep_more_and_height_takes_it(demo) -> None:
    fit = demo.altered(people=(demo.people[0].altered(uptake_ml=60), *demo.people[1:]))
    before, after = (assess(each).people[0].efforts for each in (demo, fit))
    assert all(b.keeps == pytest.approx(1.5 * a.keeps) for a, b in zip(before, after, strict=True))
