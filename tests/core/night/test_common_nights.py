"""Small courses with the nights that experienced people tell of: common practice, no published
source. What is asked are their words and, within a few kelvin, their figures."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Bag, Bedding
from caldarium.core.plan.route import Camp, Day
from caldarium.core.plan.weather_sources import Conditions
from tests.courses import from_nothing

SHELVES = load_catalogue()
BASE = ("briefs", "light-base-top", "light-long-underwear", "thick-socks", "wool-hat")
FLEECE = ("mid-fleece-200", "fleece-trousers")


def night_of(
    *garments: str,
    bag: str | None = None,
    label: float | None = None,
    kit: Bag | None = None,
    pads: tuple[str, ...] = ("air-pad-5",),
    shelter: str | None = "tunnel-3",
    low: float = 0.0,
    index: float = 1.0,
    ground: str = "dry",
    bedding: Bedding | None = None,
    **weather,
):
    """One person's one night, as forecast."""
    chosen = SHELVES.bags[bag] if bag else kit
    if chosen is not None and label is not None:
        chosen = chosen.altered(label="comfort", label_c=label)
    person = Person(
        id="a",
        name="A",
        body_mass_kg=70,
        height_m=1.75,
        sleeper_index=index,
        garments=tuple(SHELVES.garments[name] for name in garments if name in SHELVES.garments),
        bag=chosen,
        pads=tuple(SHELVES.pads[name] for name in pads),
        bedding=bedding or Bedding(),
        shelter="here" if shelter else None,
    )
    said = {"high_c": low + 6, "low_c": low, "wind_ms": 1.0, "humidity_pct": 80} | weather
    course = from_nothing(kit=None).altered(
        caution="as forecast",
        days=(Day(conditions=Conditions(**said), legs=(), camp=Camp(ground=ground)),),
        people=(person,),
        shelters=(SHELVES.shelters[shelter].altered(id="here"),) if shelter else (),
    )
    return assess(course).people[0].nights[0]


def test_every_piece_named_here_is_in_the_catalogue() -> None:
    assert set(BASE) | {"mid-fleece-200"} <= SHELVES.garments.keys()


def test_a_warm_sleeper_takes_a_spring_bag_well_under_its_comfort() -> None:
    # A bag of comfort -3 on a good pad serves a warm sleeper to about -9.
    said = {"bag": "bag-minus-1", "label": -3, "low": -7, "shelter": None, "cloud_pct": 100}
    warm, cold = (night_of(*BASE, index=index, ground="frozen", **said) for index in (0, 1))
    assert -11 <= warm.sleeper <= -6
    assert warm.state in ("snug", "cool")
    assert cold.state in ("gap", "cool")
    assert 4 <= cold.sleeper - warm.sleeper <= 8


def test_fleece_inside_buys_about_three_kelvin() -> None:
    # Slept warm to about -6 in a thin base layer, to -9 with fleece.
    thin = night_of(*BASE, bag="bag-minus-6", low=-6)
    fleece = night_of(*BASE, *FLEECE, bag="bag-minus-6", low=-6)
    assert 1.0 <= thin.sleeper - fleece.sleeper <= 4.5
    assert thin.state in ("snug", "cool")


def test_a_three_quarter_underquilt_with_a_sit_pad_loses_about_a_kelvin() -> None:
    def hung(name: str, feet: str):
        bedding = Bedding(hammock=SHELVES.hammocks[name], feet_on=feet)
        return night_of(
            *BASE, bag="quilt-0", pads=(), shelter="hammock-tarp-1", low=3, bedding=bedding
        ).sleeper

    full, part, bare = (
        hung("hammock-full", "sit pad"),
        hung("hammock-three-quarter", "sit pad"),
        hung("bare-hammock", "sit pad"),
    )
    assert 0.3 <= part - full <= 2.5
    assert bare > 12


@pytest.mark.parametrize(("low", "fine"), [(19.0, True), (8.0, False)])
def test_a_canyon_night_with_a_foil_bag(low: float, fine: bool) -> None:
    # Nights above about 18 °C need little more than a sheet or an emergency bag.
    night = night_of(
        "briefs",
        "light-base-top",
        "walking-trousers",
        "mid-fleece-200",
        pads=("foam-pad",),
        shelter=None,
        low=low,
        high_c=34.0,
        humidity_pct=30,
        cloud_pct=0,
        bedding=Bedding(cover=SHELVES.covers["foil-bag"]),
    )
    assert (night.state in ("snug", "cool", "slack", "hot")) == fine


def test_a_winter_bag_in_all_clothes_is_no_bag_for_forty_below() -> None:
    # Worn inside, everything one has buys a class, not three.
    said = {"bag": "bag-minus-14", "pads": ("foam-pad", "winter-pad-7"), "low": -22}
    night = night_of(*BASE, *FLEECE, "big-down-jacket", ground="snow", **said)
    alone = night_of(*BASE, ground="snow", **said)
    assert -30 <= night.sleeper <= -17
    assert 2 <= alone.sleeper - night.sleeper <= 9


def test_a_race_bag_in_an_emergency_is_cold_and_wants_a_jacket_and_something_to_lie_on() -> None:
    race = (*BASE, "light-rain-jacket", "rain-trousers")
    night = night_of(*race, pads=(), shelter="bivouac-1", low=4, precipitation_mm=6)
    assert night.state == "gap"
    assert not night.survivable
    more = (*race, "big-synthetic-jacket", "light-insulated-trousers")
    saved = night_of(*more, pads=("foam-pad",), shelter="bivouac-1", low=4, precipitation_mm=6)
    assert saved.survivable
    shells = night_of(*BASE, pads=(), shelter="bivouac-1", low=4)
    assert shells.sleeper > night.sleeper + 0.5


def test_a_bag_of_minus_six_opened_as_a_blanket_suits_nought_to_ten() -> None:
    # A bag good to about -7 °C, opened as a blanket, suits about 0 to 10 °C.
    bag = SHELVES.bags["bag-minus-6"]
    blanket = bag.altered(id="blanket", shape="quilt", hood=False, straps=False)
    at = {low: night_of(*BASE, kit=blanket, low=low) for low in (0.0, 5.0, 10.0)}
    assert at[0.0].state in ("snug", "cool")
    assert at[5.0].state in ("snug", "slack")
    assert at[10.0].state in ("snug", "slack")
    assert night_of(*BASE, kit=bag, low=0.0).margin > at[0.0].margin + 1


def test_frozen_and_snowy_ground_want_more_than_foam() -> None:
    # On frozen or snow-covered ground stack foam under the inflatable.
    lows = {
        pads: night_of(*BASE, bag="bag-minus-14", pads=pads, low=-12, ground="snow").sleeper
        for pads in (("foam-pad",), ("air-pad-5",), ("foam-pad", "air-pad-5"))
    }
    foam, air, both = lows.values()
    assert foam > air > both
    assert foam - both > 5
