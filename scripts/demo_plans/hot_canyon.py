"""A hot dry canyon: 34 °C by day, 17 °C by night, little shade, water in two places."""

from datetime import date

from caldarium.core.plan.course import Course, Place
from caldarium.core.plan.kit import GroupKit
from caldarium.core.plan.provisions import Dish, Provisions
from demo_plans.parts import asked, day, person, shelters

DAYS = (
    day(
        "down to the river",
        (34, 17, 2, 0, 10, 8, 20, 0),
        [
            ("rim-path", "descent", 5, 880, 2, "open", "track", {"start_h": 9}),
            ("alcove", "rest", 0, 880, 0.5, "valley", "track", {}),
            ("river-bend", "descent", 4, 620, 1.3, "valley", "loose sand", {"water": True}),
        ],
        {"exposure": "valley", "ground": "dry", "anchors": ("broad or buried", "stones and lines")},
    ),
    day(
        "the side canyon and back",
        (34, 17, 2, 0, 10, 8, 20, 0),
        [
            ("sand-wash", "approach", 4, 700, 1.5, "valley", "loose sand", {"start_h": 8.5}),
            ("slickrock", "ascent", 2, 930, 1.2, "open", "hard", {}),
            ("arch", "rest", 0, 930, 1 / 3, "open", "track", {}),
            ("back-down", "descent", 6, 620, 2, "valley", "track", {"water": True}),
        ],
        {"exposure": "valley", "ground": "dry", "anchors": ("broad or buried", "stones and lines")},
    ),
    day(
        "up to the rim",
        (33, 16, 3, 0, 10, 8, 20, 10),
        [
            ("ledges", "ascent", 4, 900, 2, "valley", "track", {"start_h": 8.5, "halt_every_h": 1}),
            ("half-way", "rest", 0, 900, 0.5, "valley", "track", {}),
            ("last-climb", "ascent", 4, 1240, 2, "open", "track", {}),
        ],
        None,
    ),
)
PEOPLE = (
    person("Maren Quill", "canyon", 66, 1.7, 0.8, instructor=True, water_l=4, containers_l=6,
           more=("water-filter",), shelter="tarp-one"),
    person("Jost Adair", "canyon", 83, 1.84, 0.3, water_l=3, containers_l=4,
           more=("wool-sweater", "bag-plus-3"), shelter="tarp-one"),
    person("Ines Rook", "canyon", 54, 1.6, 1.2, water_l=3, containers_l=4,
           without=("sun-hat",), more=("rain-jacket", "book"), shelter="tarp-two"),
    person("Boden Hask", "canyon", 72, 1.76, 0.6, water_l=2, containers_l=3,
           without=("sun-hoody",), more=("mesh-top", "shorts", "leather-boots", "mid-fleece-200"),
           shelter="tarp-two"),
)  # fmt: skip
GROUP = (
    GroupKit(id="stove", name="stove, burner and pot", mass_g=620, purpose="food and water"),
    GroupKit(id="group-aid", name="group first aid kit", mass_g=760, purpose="safety",
             with_whom="maren"),
    GroupKit(id="shade", name="sheet for shade", mass_g=540, purpose="safety"),
    GroupKit(id="messenger", name="satellite messenger", mass_g=110, purpose="safety",
             with_whom="maren"),
)  # fmt: skip


MENU = (
    Dish(id="oats", name="oats and dried fruit", meal="breakfast", mass_g=130, kcal=500,
         cooked=True),
    Dish(id="flatbread", name="flatbread and cheese", meal="on the way", mass_g=190, kcal=720),
    Dish(id="salted-nuts", name="salted nuts", meal="on the way", mass_g=90, kcal=540),
    Dish(id="lentils", name="lentils and rice", meal="dinner", mass_g=190, kcal=690, cooked=True),
)  # fmt: skip


def course() -> Course:
    """Three days, two nights, three members and one instructor."""
    return Course(
        name="Sarvan canyon, three dry days",
        place=Place(name="Sarvan canyon", latitude=36.2, longitude=-113.0, utc_offset_h=-7),
        start=date(2027, 5, 21),
        start_altitude_m=1250,
        conditions_altitude_m=620,
        days=DAYS,
        people=PEOPLE,
        shelters=shelters(tarp_one="tarp-2", tarp_two="tarp-2"),
        group=GROUP,
        lists=asked("redundancy"),
        provisions=Provisions(treated="filter", menu=MENU),
    )
