"""A dry volcano plateau near 4,900 m: strong sun, cold nights, kit hired in the last village."""

from datetime import date

from caldarium.core.plan.course import Cache, Course, Place
from caldarium.core.plan.kit import GroupKit
from caldarium.core.plan.provisions import Provisions
from demo_plans.parts import asked, day, person, shelters

ASH = "loose sand"
DAYS = (
    day(
        "to the low camp",
        (11, -2, 3, 0, 10, 8, 35, 10),
        [
            ("cart-road", "approach", 5, 4150, 2.2, "open", "track", {"start_h": 9}),
            ("herders-wall", "rest", 0, 4150, 0.5, "valley", "track", {}),
            ("side-valley", "ascent", 3, 4380, 1.6, "valley", "track", {}),
        ],
        {"exposure": "valley", "ground": "dry", "anchors": ("stones and lines", "pegs")},
    ),
    day(
        "a day to get used to it",
        (9, -6, 3, 0, 10, 8, 30, 5),
        [
            ("moraine", "ascent", 3, 4620, 2, "open", "track", {"start_h": 9.5}),
            ("moraine-top", "rest", 0, 4620, 0.5, "open", "track", {}),
            ("back-down", "descent", 3, 4380, 1.2, "open", "track", {}),
        ],
        {"exposure": "valley", "ground": "dry", "anchors": ("stones and lines", "pegs")},
    ),
    day(
        "up to the plateau",
        (5, -11, 5, 0, 10, 8, 30, 10),
        [
            ("ash-slope", "ascent", 4, 4820, 3.2, "open", ASH, {"start_h": 8.5}),
            ("rim", "rest", 0, 4820, 1 / 3, "ridge", "track", {}),
            ("plateau", "traverse", 2.5, 4890, 1.3, "open", "track", {}),
        ],
        {
            "exposure": "open",
            "ground": "frozen",
            "anchors": ("stones and lines",),
            "windbreak": "a wall",
            "water": False,
            "hollow_k": 2,
        },
    ),
    day(
        "crater before dawn, and out",
        (7, -13, 6, 0, 10, 8, 30, 10),
        [
            ("crater-path", "summit day", 2.5, 5150, 2.3, "ridge", ASH, {"start_h": 4.5}),
            ("crater", "rest", 0, 5150, 0.25, "ridge", "track", {}),
            ("down-the-ash", "descent", 6, 4380, 2.4, "open", ASH, {}),
            ("cart-road-down", "descent", 8, 3900, 2.2, "valley", "track", {}),
        ],
        None,
    ),
)
PEOPLE = (
    person("Neve Arroway", "three-season", 64, 1.69, 0.8, instructor=True, uptake_ml=48,
           without=("bag-minus-1", "light-synthetic-jacket", "fleece-gloves"),
           more=("bag-minus-14", "big-down-jacket", "insulated-mitts", "over-mitts", "sun-hat",
                 "sunscreen", "water-filter", "light-insulated-trousers"),
           shelter="dome-one"),
    person("Osric Pell", "three-season", 79, 1.81, 0.3, instructor=True, uptake_ml=50,
           without=("bag-minus-1", "light-synthetic-jacket"),
           more=("bag-minus-6", "mid-down-jacket", "down-mitts", "sun-hat", "sunscreen"),
           shelter="dome-two"),
    person("Liv Castor", "three-season", 56, 1.62, 1.2, without=("bag-minus-1",),
           more=("bag-minus-14", "big-synthetic-jacket",
                 "insulated-mitts", "sun-hat"),
           shelter="dome-one"),
    person("Emre Vant", "three-season", 71, 1.75, 0.9,
           without=("bag-minus-1", "air-pad-5", "leather-boots"),
           more=("bag-makers-minus-7", "foam-pad", "trail-shoes", "light-down-jacket"),
           shelter="dome-two"),
    person("Pia Sorrel", "three-season", 60, 1.67, 1.0, without=("bag-minus-1",),
           more=("bag-minus-14", "treated-down-jacket", "ski-gloves", "sun-hat", "sunscreen"),
           shelter="dome-three"),
)  # fmt: skip
GROUP = (
    GroupKit(id="stove", name="stove, burner and pot", mass_g=820, per=3, of="head",
             purpose="food and water"),
    GroupKit(id="group-aid", name="group first aid kit", mass_g=940, purpose="safety",
             with_whom="neve"),
    GroupKit(id="oximeter", name="pulse oximeter", mass_g=60, purpose="safety",
             with_whom="neve", spoils_below_c=-10),
    GroupKit(id="messenger", name="satellite messenger", mass_g=110, purpose="safety",
             with_whom="osric", spoils_below_c=-20, fly="cabin only"),
)  # fmt: skip


def course() -> Course:
    """Four days, three nights, three members and two instructors."""
    return Course(
        name="Ansuma plateau, four days high",
        place=Place(
            name="Ansuma volcano plateau", latitude=-18.4, longitude=-68.9, utc_offset_h=-4
        ),
        start=date(2027, 7, 12),
        start_altitude_m=3900,
        conditions_altitude_m=4380,
        days=DAYS,
        people=tuple(each.altered(water_l=2.0, containers_l=4.0) for each in PEOPLE),
        shelters=shelters(dome_one="dome-2", dome_two="dome-2", dome_three="ridge-2"),
        group=GROUP,
        lists=asked("warden"),
        caches=(Cache(day=2, leg="plateau", rations=0, water_l=4),),
        provisions=Provisions(treated="filter"),
        hold_kg=23,
        cabin_kg=8,
    )
