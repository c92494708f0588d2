"""A skills weekend on snow near -25 °C: a frozen lake, a snow hole, a pass in wind."""

from datetime import date

from caldarium.core.plan.course import Course, Place
from caldarium.core.plan.kit import GroupKit, NightPlan
from caldarium.core.plan.provisions import Provisions
from demo_plans.parts import asked, day, person, shelters

SNOW = {"terrain": "snow", "sinkage_cm": 10}
DAYS = (
    day(
        "over the lake",
        (-17, -26, 3, 0, 10, 8, 70, 20),
        [
            ("birch-track", "approach", 3.5, 520, 1.2, "forest", "track", {"start_h": 9.5}),
            ("lake", "snow", 3, 525, 1.1, "snow", "snow", {"sinkage_cm": 8, "halt_every_h": 0}),
            ("digging", "camp", 0, 525, 1.5, "valley", "track", {}),
        ],
        {
            "exposure": "valley",
            "ground": "snow",
            "anchors": ("broad or buried",),
            "windbreak": "a wall",
            "water": False,
        },
    ),
    day(
        "pass and snow hole",
        (-19, -27, 6, 2, 13, 6, 75, 60),
        [
            ("to-the-pass", "snow", 3.5, 840, 2.4, "snow", "snow", {"start_h": 9, **SNOW}),
            ("pass", "rest", 0, 840, 0.25, "ridge", "track", {}),
            ("lee-slope", "snow", 2, 790, 0.7, "snow", "snow", {"sinkage_cm": 12}),
            ("snow-holes", "camp", 0, 790, 3, "snow", "track", {}),
        ],
        {"exposure": "snow", "ground": "snow", "anchors": ("broad or buried",), "water": False},
    ),
    day(
        "home over the lake",
        (-15, -24, 4, 0, 10, 8, 70, 30),
        [
            ("down-the-fan", "snow", 3, 525, 1.0, "snow", "snow", {"start_h": 9.5, **SNOW}),
            ("lake-shore", "rest", 0, 525, 0.25, "valley", "track", {}),
            ("out", "descent", 6.5, 500, 1.9, "forest", "track", {}),
        ],
        None,
    ),
)
HOLE = (NightPlan(day=1, shelter="snow-hole"),)
PEOPLE = (
    person("Aune Brask", "expedition", 68, 1.71, 0.6, instructor=True,
           more=("lens-fluid",), shelter="tunnel-east", nights=HOLE),
    person("Ilvo Strand", "winter", 81, 1.83, 0.2, instructor=True,
           without=("bag-minus-14", "lined-trousers", "rain-jacket", "rain-trousers"),
           more=("bag-minus-26", "winter-trousers", "storm-jacket", "storm-trousers", "face-mask",
                 "goggles", "down-mitts"),
           shelter="tunnel-west", nights=HOLE),
    person("Sefa Lind", "winter", 57, 1.64, 1.3, more=("expedition-down-jacket", "face-mask"),
           shelter="tunnel-east", nights=HOLE),
    person("Tor Valde", "winter", 74, 1.78, 0.7,
           without=("bag-minus-14", "winter-pad-7"),
           more=("bag-minus-6", "air-pad-5", "light-down-jacket", "neck-tube"),
           shelter="tunnel-east", nights=HOLE),
    person("Kari Ness", "winter", 63, 1.7, 1.0, without=("insulated-boots", "bag-minus-14"),
           more=("leather-boots", "bag-minus-26", "book"), shelter="tunnel-west"),
    person("Ruben Falk", "winter", 90, 1.88, 0.1, without=("bag-minus-14",),
           more=("bag-minus-26", "wool-sweater"), shelter="tunnel-west"),
)  # fmt: skip
GROUP = (
    GroupKit(id="stove", name="stove, liquid fuel, and big pot", mass_g=1150, per=3, of="head",
             purpose="food and water"),
    GroupKit(id="shovel", name="snow shovel", mass_g=680, of="head", purpose="safety"),
    GroupKit(id="probe", name="probe", mass_g=290, per=2, of="head", purpose="safety"),
    GroupKit(id="group-aid", name="group first aid kit", mass_g=940, purpose="safety",
             with_whom="aune"),
    GroupKit(id="hold-shelter", name="shelter for holds, eight", mass_g=700, purpose="safety"),
    GroupKit(id="messenger", name="satellite messenger", mass_g=110, purpose="safety",
             with_whom="ilvo", spoils_below_c=-20),
)  # fmt: skip


def course() -> Course:
    """Three days, two nights, four learners and two instructors."""
    return Course(
        name="Veldra lake, winter weekend",
        place=Place(name="Veldra lake and pass", latitude=63.4, longitude=14.6, utc_offset_h=1),
        start=date(2027, 2, 5),
        start_altitude_m=500,
        conditions_altitude_m=525,
        days=DAYS,
        people=tuple(
            each.altered(water_l=1.5, containers_l=2.0, fuel_g_a_day=85, food_g_a_day=850)
            for each in PEOPLE
        ),
        shelters=tuple(
            each.altered(anchors=(*each.anchors, "broad or buried"))
            for each in shelters(
                tunnel_east="tunnel-3", tunnel_west="tunnel-3", snow_hole="snow-shelter-4"
            )
        ),
        group=GROUP,
        lists=asked("school-winter"),
        provisions=Provisions(stove="liquid", pot_l=2.5, stove_kw=2.5, stoves=2),
        hold_in_shelter=True,
    )
