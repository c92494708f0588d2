"""Clothes in bed, quilts over bags, and beds that nothing is too cold for. What they buy is common
practice, no published source."""

import numpy as np
import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.night.bedding import room_for_clothes
from caldarium.core.night.beds import base_in_bed
from caldarium.core.physics import bed
from caldarium.core.physics.quantities import R_US
from caldarium.core.plan.course import Person
from caldarium.core.plan.wardrobe import wardrobes

PIECES = load_catalogue().garments
BASE = ("warm-base-top", "warm-long-underwear", "thick-socks")
FLEECE = (*BASE, "mid-fleece-200", "fleece-trousers")
EVERYTHING = (
    *FLEECE,
    *("heavy-fleece", "big-down-jacket", "down-trousers", "camp-booties", "wool-hat"),
    "insulated-mitts",
)


def local(*names: str) -> np.ndarray:
    pieces = tuple(PIECES[name] for name in names)
    person = Person(id="a", name="A", body_mass_kg=70, height_m=1.75, garments=pieces)
    return wardrobes((person,)).local[0].sum(axis=0)


def buys(label: float, *names: str, ease: float = bed.EASE) -> float:
    """What clothes buy in a bag of this comfort figure [K]."""
    bag = bed.bag_resistance(label, bed.COMFORT)
    lows = []
    for worn in (np.zeros(7), local(*names)):
        top = bed.top_with_clothes(bag, worn, ease)
        made = bed.Bed(top, np.array(4.8 * R_US + bed.CRUSHED_BAG), bed.GROUNDS["air"])
        lows.append(float(bed.lowest_temperature(made, bed.COMFORT)))
    return lows[0] - lows[1]


def test_ordinary_clothes_buy_what_people_say() -> None:
    assert buys(-5, *FLEECE) == pytest.approx(3, abs=0.6)
    assert 4 <= buys(0, *BASE, "big-down-jacket") <= 6
    assert buys(0, *BASE) < 1


def test_everything_one_has_is_no_second_bag() -> None:
    assert buys(-14, *EVERYTHING) < 8
    assert buys(-14, *EVERYTHING) < 1.5 * buys(-14, *BASE, "big-down-jacket")


def test_a_tight_bag_presses_clothes_flat_and_a_wide_one_does_not() -> None:
    tight, ordinary, wide = (buys(-5, *EVERYTHING, ease=ease) for ease in (0.008, 0.025, 0.05))
    assert tight < ordinary < wide


def test_one_piece_more_in_bed_never_cools() -> None:
    for at in range(len(EVERYTHING)):
        assert buys(-5, *EVERYTHING[: at + 1]) >= buys(-5, *EVERYTHING[:at]) - 1e-9


def test_a_jacket_buys_more_in_a_summer_bag() -> None:
    assert buys(10, *BASE, "big-down-jacket") > buys(-30, *BASE, "big-down-jacket") + 2


def test_a_quilt_over_a_bag_keeps_half_to_two_thirds() -> None:
    for under, over in ((0, 10), (-14, 5), (5, 5), (-5, 0)):
        one, other = (
            float(bed.bag_resistance(label, bed.COMFORT)) - 0.135 for label in (under, over)
        )
        assert 0.45 <= bed.over_share(one, other) <= 0.66


def test_a_bed_for_any_cold_is_warm_and_no_gap() -> None:
    made = bed.Bed(np.array(6.0), np.array(5.0), bed.GROUNDS["air"])
    assert bed.lowest_temperature(made, bed.LIMIT) == bed.NIGHT_RANGE[0]


def test_sleep_clothes_take_the_place_of_the_days_base() -> None:
    pieces = (*BASE, "mid-fleece-200")
    without, beside = (
        Person(
            id="a",
            name="A",
            body_mass_kg=70,
            height_m=1.75,
            garments=tuple(PIECES[name] for name in names),
        )
        for names in (pieces, (*pieces, "sleep-top"))
    )
    # Long underwear that waits for the camp goes to bed with the other warm clothes.
    assert base_in_bed(wardrobes((without,))).sum() == 2
    assert PIECES["sleep-top"].only_asleep
    assert base_in_bed(wardrobes((beside,))).sum() == 0


def test_room_by_girth_or_by_the_size_that_a_bag_fits(demo) -> None:
    person = demo.people[0].altered(height_m=1.8, shoulder_cm=None)
    bag = load_catalogue().bags["bag-minus-1"]
    # By hand: 2.5 x 0.26 x 185 + 16 cm round, over 2.5 x 0.26 x 180 cm.
    sized = person.altered(bag=bag.altered(width_cm=None, fits_to_m=1.85))
    assert room_for_clothes(sized) == pytest.approx((136.25 - 117) / 100 / (2 * np.pi))
    measured = person.altered(bag=bag.altered(width_cm=150, fits_to_m=1.85))
    assert room_for_clothes(measured) == pytest.approx(0.33 / (2 * np.pi))
    assert (
        room_for_clothes(person.altered(bag=bag.altered(width_cm=None, fits_to_m=None))) == bed.EASE
    )
