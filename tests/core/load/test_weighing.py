"""Weighing: the simulated scale's manners, settled readings, and what explains a pack."""

import pytest

from caldarium.core.assess import assess
from caldarium.core.load.weighing import check_pack, explained, pack_pieces, steady
from caldarium.core.plan.changes import carry_part
from caldarium.core.plan.group_kit import carried_by
from caldarium.standins.scale import ScaleError, SimulatedScale
from caldarium.words.load import candidate_words
from caldarium.words.units import Display


def test_a_reading_swings_then_settles_to_what_lies_there() -> None:
    scale = SimulatedScale(5000, 1, seed=3)
    scale.put(540, 100.0)
    assert scale.read(100.05).state == "moving"
    assert abs(scale.read(100.05).gross_g - 540) > 20
    later = [scale.read(102 + at / 10) for at in range(6)]
    assert {each.state for each in later} == {"settled"}
    assert all(abs(each.gross_g - 540) <= 2 for each in later)
    assert steady([each.gross_g for each in later], 1) == pytest.approx(540, abs=2)


def test_it_drifts_but_not_for_ever() -> None:
    scale = SimulatedScale(5000, 1)
    scale.put(540, 0.0)
    scale.read(0.0)
    assert scale.read(600.0).gross_g > 540
    assert scale.read(360000.0).gross_g <= 544


def test_tare_counts_what_lies_there_as_nothing() -> None:
    scale = SimulatedScale(5000, 1)
    scale.put(200, 0.0)
    with pytest.raises(ScaleError, match="settled"):
        scale.tare(0.1)
    scale.tare(5.0)
    scale.put(740, 10.0)
    assert scale.read(15.0).net_g == pytest.approx(540, abs=3)


def test_overload_and_unplugging_show_no_figure() -> None:
    scale = SimulatedScale(5000, 1)
    scale.put(9000, 0.0)
    assert (scale.read(5.0).state, scale.read(5.0).net_g) == ("overload", 0.0)
    scale.put(300, 6.0)
    scale.unplug()
    with pytest.raises(ScaleError, match="plugged in"):
        scale.read(7.0)
    with pytest.raises(ScaleError):
        scale.tare(7.0)
    scale.plug(8.0)
    assert scale.read(20.0).net_g == pytest.approx(0, abs=3)


def test_readings_count_only_when_they_agree() -> None:
    assert steady([540, 541], 1) is None
    assert steady([300, 540, 541, 540], 1) == pytest.approx(540.33, abs=0.01)
    assert steady([300, 420, 540], 1) is None


PACK = [
    ("stove", 620.0, False),
    ("first aid", 250.0, False),
    ("mug", 110.0, False),
    ("old bag", 1450.0, True),
]


def test_a_difference_finds_its_piece_its_pair_or_its_water() -> None:
    assert explained(10000, 10010, PACK, 50) == []
    assert candidate_words(explained(9380, 10000, PACK, 20)[0], Display()) == "stove is not in it"
    assert (
        candidate_words(explained(9640, 10000, PACK, 20)[0], Display())
        == "first aid and mug are not in it"
    )
    assert (
        candidate_words(explained(10250, 10000, PACK, 20)[0], Display())
        == "first aid is in it twice"
    )
    assert any(
        "1.0 L of water more" in candidate_words(each, Display())
        for each in explained(11000, 10000, PACK, 20)
    )
    assert any(
        "estimated" in candidate_words(each, Display())
        for each in explained(10400, 10000, PACK, 20)
    )


def test_a_pack_holds_what_its_owner_was_given(demo, demo_result) -> None:
    course = carried_by(demo, "stove", 0, "mirel", by_hand=True)
    course = carry_part(course, "dome", "fly", "mirel")
    found = next(each for each in assess(course).people if each.person == "mirel")
    member = next(each for each in course.people if each.id == "mirel")
    names = [name for _, name, _ in pack_pieces(course, member, found.moments)]
    assert "stove, burner and pot" in names
    assert "fly and lines" in names
    assert "leather boots" not in names
    right = check_pack(
        course, member, found.moments, found.load.carried, 1000 * found.load.carried + 10, ()
    )
    assert right.agrees
    assert right.candidates == ()
    light = check_pack(
        course, member, found.moments, found.load.carried, 1000 * found.load.carried - 820, ()
    )
    assert not light.agrees
    assert candidate_words(light.candidates[0], Display()) == "stove, burner and pot is not in it"
