"""The autumn fell plateau: a leadership course in a sub-arctic September, with a sleet front."""

from datetime import date
from typing import Any

from caldarium.core.plan.course import Course, Person, Place
from caldarium.core.plan.kit import GroupKit, Item
from caldarium.core.plan.route import Day
from demo_plans.parts import asked, day, person, shelters

# title, high, low, wind, rain, from, hours, humidity | legs | camp exposure, ground, anchors
# a leg: id, kind, km, to m, hours, exposure, more; all on light brush
DAYS: list[Any] = [
    ("birch valley", 11, 3, 3, 0, 10, 8, 70, [
        ("valley-path", "approach", 4.5, 520, 1.5, "heath", {"start_h": 8.5, "halt_every_h": 0,
                                                         "water": True}),
        ("lookout", "rest", 0, 520, 0.25, "heath", {}),
        ("birch-wood", "descent", 4.5, 310, 1.1, "forest", {"halt_every_h": 0}),
    ], ("forest", "dry", ("pegs", "trees"))),
    ("the long climb", 22, 5, 3, 3, 14, 3, 70, [
        ("climb", "ascent", 6, 1180, 2.55, "heath", {"start_h": 8.5}),
        ("shoulder", "rest", 0, 1180, 1 / 3, "heath", {}),
        ("plateau", "traverse", 6, 1120, 1.15, "heath", {"halt_every_h": 0}),
    ], ("open", "frozen", ("stones and lines",))),
    ("sleet front", 8, 4, 7, 14, 11, 9, 92, [
        ("stone-field", "traverse", 3.5, 1200, 1.1, "open", {"start_h": 8.5, "halt_every_h": 0,
                                                             "water": True}),
        ("long-ridge", "ridge", 2, 1320, 0.75, "ridge", {"halt_every_h": 0, "lightning": True}),
        ("north-top", "rest", 0, 1320, 1 / 3, "ridge", {}),
        ("back", "descent", 5.5, 1120, 1.4, "ridge", {}),
    ], ("open", "frozen", ("stones and lines",))),
    ("col and down", 9, 3, 4, 2, 14, 6, 85, [
        ("to-the-col", "ascent", 6.5, 1240, 1.9, "heath", {"start_h": 8.5}),
        ("col", "rest", 0, 1240, 1 / 3, "heath", {}),
        ("stream-side", "descent", 6.5, 760, 1.7, "heath", {"river": True}),
    ], ("heath", "saturated", ("long pegs",))),
    ("home", 9, 3, 3, 0, 10, 8, 75, [
        ("last-rise", "approach", 6, 900, 1.5, "heath", {"start_h": 8.5, "halt_every_h": 0,
                                                         "water": True}),
        ("last-look", "rest", 0, 900, 0.25, "heath", {}),
        ("way-out", "descent", 6, 280, None, "forest", {"terrain": "track"}),
    ], None),
]  # fmt: skip

# name, instructor, kg, m, sleeper, set changes (leave out, add), shelter
# fmt: off
PEOPLE: list[Any] = [
    ("Runa Bell", False, 58, 1.66, 1.0, (), ("fleece-trousers",), "tunnel-east"),
    ("Tavi Orrin", False, 74, 1.8, 0.4, ("light-long-underwear",), ("wool-tee",), "tunnel-east"),
    ("Mirel Kost", False, 61, 1.68, 1.2,
     ("light-long-underwear", "air-pad-5", "fleece-gloves"),
     ("foam-pad", "wool-sweater", "synthetic-tee"), "light-two"),
    ("Jonna Reed", False, 66, 1.72, 0.9, (), ("insulated-mitts", "fleece-trousers"), "tunnel-east"),
    ("Pell Ander", False, 82, 1.86, 0.2,
     ("light-base-top", "walking-trousers"),
     ("warm-base-top", "lined-trousers", "fleece-vest", "wool-sweater"), "tunnel-west"),
    ("Ossi Vane", False, 70, 1.77, 0.8, ("rain-trousers",), (), "tunnel-west"),
    ("Dag Holm", False, 88, 1.9, 0.1,
     (), ("light-down-jacket", "fleece-trousers", "wool-tee", "trail-shoes"), "tunnel-west"),
    ("Lumi Hart", False, 55, 1.62, 1.3,
     ("bag-minus-1", "light-synthetic-jacket", "walking-trousers"),
     ("bag-minus-6", "big-synthetic-jacket", "lined-trousers", "warm-base-top"), "light-two"),
    ("Hale Moor", True, 76, 1.79, 0.5,
     ("light-synthetic-jacket", "bag-minus-1"),
     ("big-synthetic-jacket", "insulated-trousers", "bag-minus-6", "insulated-mitts"), "dome"),
    ("Wren Tarn", True, 63, 1.7, 0.8,
     ("bag-minus-1", "light-synthetic-jacket"),
     ("big-down-jacket", "bag-minus-6", "over-mitts", "insulated-trousers", "wool-sweater"),
     "dome"),
]
# fmt: on


GROUP = (
    GroupKit(id="stove", name="stove, burner and pot", mass_g=820, per=3, of="head",
             purpose="food and water"),
    GroupKit(id="gas", name="gas can, large", kind="fuel", mass_g=380, net_g=230, number=9,
             purpose="food and water", fly="never"),
    GroupKit(id="group-aid", name="group first aid kit", mass_g=940, purpose="safety",
             with_whom="wren"),
    GroupKit(id="repair", name="repair kit", mass_g=260, purpose="safety", with_whom="hale"),
    GroupKit(id="hold-shelter", name="shelter for holds, eight", mass_g=700, number=2,
             purpose="safety"),
    GroupKit(id="shovel", name="shovel", mass_g=620, per=5, of="head", purpose="safety"),
    GroupKit(id="messenger", name="satellite messenger", mass_g=110, purpose="safety",
             with_whom="hale", fly="cabin only"),
)  # fmt: skip


def course() -> Course:
    """Five days, four nights, eight learners and two instructors."""
    return Course(
        name="Skarn fell, autumn course",
        place=Place(name="Skarn fell plateau", latitude=67.9, longitude=20.5, utc_offset_h=2),
        start=date(2026, 9, 21),
        start_altitude_m=280,
        conditions_altitude_m=310,
        days=tuple(_day(*row) for row in DAYS),
        people=tuple(_person(number, *row) for number, row in enumerate(PEOPLE)),
        shelters=shelters(
            tunnel_east="tunnel-3", tunnel_west="tunnel-3", light_two="ridge-2", dome="dome-2"
        ),
        group=GROUP,
        lists=asked("school-autumn"),
    )


def _day(title, high, low, wind, rain, rain_from, rain_hours, humidity, legs, camp) -> Day:
    rows = [(*leg[:6], "light brush", leg[6]) for leg in legs]
    weather = (high, low, wind, rain, rain_from, rain_hours, humidity)
    place = {"exposure": camp[0], "ground": camp[1], "anchors": camp[2]} if camp else None
    return day(title, weather, rows, place)


def _person(number, name, instructor, mass, height, index, without, added, shelter) -> Person:
    extra = ("lens-fluid",) if instructor else () if number % 2 == 0 else ("book",)
    found = person(
        name,
        "three-season",
        mass,
        height,
        index,
        without=without,
        more=added + extra,
        instructor=instructor,
        shelter=shelter,
        seams_seen=number != 4,
        water_l=2.0,
        containers_l=2.0,
        fuel_g_a_day=0,
    )
    if number % 3 == 0:
        spare = Item(id="spare-layers", name="spare cotton set", mass_g=640, purpose="comfort")
        found = found.altered(items=(*found.items, spare))
    return found
