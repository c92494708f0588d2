"""What must hold whatever the figures: order, round trips, and no surprise at a step."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.core.day.dressing import Air, worth
from caldarium.core.physics import bed, cold
from caldarium.core.physics.clothing import ensemble_insulation, garment_insulation
from caldarium.core.physics.roots import bracketed_newton
from caldarium.core.plan.changes import add_piece, remove_piece
from caldarium.web.forms import read, written
from caldarium.words.units import DEFAULT_UNIT, Display


@pytest.fixture(scope="module")
def demo_dress(demo):
    from caldarium.core.plan.wardrobe import wardrobes

    return wardrobes((demo.people[9],))


cold_air = st.floats(-45, 9)
settings.register_profile("house", deadline=None, max_examples=60)
settings.load_profile("house")


@given(cold_air, st.floats(0.1, 15), st.floats(0.4, 17), st.floats(60, 390))
def test_colder_never_lowers_the_need(air, drop, wind, rate) -> None:
    where = cold.exposure(np.array([air, air - drop]), wind, 60, rate, 0.5)
    for criterion in (cold.MINIMAL, cold.NEUTRAL):
        warm, colder = cold.required_insulation(criterion, where, enforce_range=False)
        assert colder >= warm - 1e-9


@given(cold_air, st.floats(0.5, 12), st.floats(0.1, 5), st.floats(60, 300))
def test_windier_never_lowers_what_must_be_worn(air, wind, more, rate) -> None:
    where = cold.exposure(air, np.array([wind, wind + more]), 60, rate, 0.5)
    need = cold.required_insulation(cold.MINIMAL, where, enforce_range=False)
    basic = cold.basic_insulation(need, where, 100)
    if np.isfinite(basic).all():
        assert basic[1] >= basic[0] - 1e-9


@given(cold_air, st.floats(0.4, 17), st.floats(60, 390), st.floats(0.3, 5))
def test_minimal_need_is_below_neutral(air, wind, rate, clo) -> None:
    where = cold.exposure(air, wind, 60, rate, 0.5)
    low, high = (
        cold.required_insulation(c, where, enforce_range=False)
        for c in (cold.MINIMAL, cold.NEUTRAL)
    )
    assert low <= high + 1e-9


@given(cold_air, st.floats(0.4, 17), st.floats(60, 250))
def test_worn_at_the_need_nothing_is_stored(air, wind, rate) -> None:
    where = cold.exposure(air, wind, 60, rate, 0.5)
    need = cold.required_insulation(cold.MINIMAL, where, enforce_range=False)
    if need > 0:
        assert cold.storage_rate(cold.MINIMAL, need, where) == pytest.approx(0, abs=1e-4)


@given(st.floats(0.05, 0.9), st.floats(0.4, 17), st.floats(1, 400))
def test_basic_and_resultant_turn_each_other_round(resultant, wind, permeability) -> None:
    where = cold.exposure(0, wind, 50, 100, 0.3)
    basic = cold.basic_insulation(resultant, where, permeability)
    if np.isfinite(basic):
        again = cold.resultant_insulation(basic, where, permeability)
        assert again == pytest.approx(resultant, rel=1e-6)


@given(st.lists(st.floats(0.02, 2), min_size=1, max_size=8), st.floats(0.02, 2))
def test_a_layer_more_never_lowers_the_insulation(pieces, more) -> None:
    assert ensemble_insulation(np.array([*pieces, more])) > ensemble_insulation(np.array(pieces))


@given(st.floats(0.1, 60), st.floats(0.1, 30), st.floats(0.05, 1))
def test_thicker_never_lowers_a_garment(thickness, more, cover) -> None:
    assert garment_insulation(thickness + more, cover) >= garment_insulation(thickness, cover)


@given(st.floats(-40, 20), st.floats(-1, 2))
def test_standard_bed_gives_the_label_back(label, index) -> None:
    sleeper = bed.Sleeper(index)
    own = bed.make_bed(bed.bag_resistance(label, sleeper), (4.8,), "air")
    if np.isfinite(own.top):
        assert bed.lowest_temperature(own, sleeper) == pytest.approx(label, abs=0.05)


@given(st.floats(-20, 8), st.floats(0.5, 6), st.floats(0.1, 4), st.sampled_from(list(bed.GROUNDS)))
def test_a_pad_more_never_makes_a_bed_colder(label, pad, more, ground) -> None:
    bag = bed.bag_resistance(label, bed.COMFORT)
    one = bed.lowest_temperature(bed.make_bed(bag, (pad,), ground), bed.COMFORT)
    two = bed.lowest_temperature(bed.make_bed(bag, (pad, more), ground), bed.COMFORT)
    if np.isfinite(one):
        assert two <= one + 1e-6


@given(st.sampled_from(sorted(DEFAULT_UNIT)), st.floats(-50, 3000), st.booleans())
def test_units_there_and_back(kind, value, customary) -> None:
    display = Display(customary=customary)
    text = written(value, kind, display)
    sizes = {
        "body": 0.4536,
        "mass": 28.35,
        "height": 0.3048,
        "altitude": 0.3048,
        "rain": 25.4,
        "distance": 1.61,
        "length": 25.4,
        "depth": 2.54,
        "pace": 1.61,
        "breadth": 2.54,
        "column": 25.4,
    }
    scale = sizes.get(kind, 1) if customary else 1
    assert read(text, kind, display)[0] == pytest.approx(value, abs=0.006 * scale)


def test_adding_a_jacket_never_lowers_anybodys_best(demo, demo_result) -> None:
    from caldarium.catalogue import load_catalogue
    from caldarium.core.assess import assess
    from caldarium.core.plan.changes import with_person

    person = demo.people[2]
    richer = add_piece(person, load_catalogue().garments["big-down-jacket"])
    after = assess(with_person(demo, richer)).people[2]
    for old, new in zip(demo_result.people[2].moments, after.moments, strict=True):
        if old.state == "gap":
            assert new.provided >= old.provided - 1e-9
    assert remove_piece(richer, "big-down-jacket") == person


@given(st.floats(-3, 3), st.floats(0.1, 5))
def test_root_finder_on_a_cubic(root, slope) -> None:
    def balance(x):
        return (x - root) * (slope + (x - root) ** 2), slope + 3 * (x - root) ** 2

    found = bracketed_newton(balance, np.array(-5.0), np.array(5.0), np.array(4.5))
    assert found == pytest.approx(root, abs=1e-8)


@given(
    st.lists(st.booleans(), min_size=14, max_size=14),
    st.floats(0.4, 14),
    st.floats(0.2, 4),
    st.floats(0, 1),
    st.floats(-30, 9),
)
def test_more_wind_or_wet_never_warms_an_outfit(demo_dress, flags, wind, more, wet, air) -> None:
    """Any outfit of a well-equipped person: windier, or wetter, and nothing else."""
    dress = demo_dress
    worn = np.zeros((1, 1, 1, dress.places), dtype=bool)
    worn[..., : len(flags)] = flags

    def whole(speed: float, wetness: float) -> float:
        where = cold.exposure(np.array([[air]]), np.array([[speed]]), 60, 100.0, 0.3)
        around = Air(
            (),
            where,
            where,
            np.full((1, 1, dress.places), wetness),
            np.zeros((1, 1)),
            *(np.array([False]) for _ in range(3)),
        )
        left = float(worth(dress, worn, around).whole[0, 0, 0])
        # With its air layer: of almost nothing on, clothing alone is a difference of two layers.
        return left + float(cold.air_layer(speed, 0.3) / cold.area_factor(left))

    calm = whole(wind, wet)
    assert whole(wind + more, wet) <= calm + 1e-9
    assert whole(wind, min(wet + 0.2, 1.0)) <= calm + 1e-9
