"""Writes the demo course into caldarium/demo from the catalogue and the plan below."""

from datetime import date
from pathlib import Path

from caldarium.catalogue import load_catalogue
from caldarium.core.course import Camp, Conditions, Course, Day, Item, Person, Place, Route
from caldarium.formats.course_json import write_course

TARGET = Path(__file__).parent.parent / "caldarium" / "demo" / "autumn-fell.json"

# title, high, low, wind, rain, from, hours, humidity | km, walking h, high point, exposure, halt
# | end, camp exposure, ground
DAYS = [
    ("birch valley", 11, 3, 3, 0, 10, 8, 70, 9, 2.6, 520, "heath", 15, 310, "forest", "dry"),
    ("the long climb", 18, 5, 3, 3, 14, 3, 70, 12, 3.7, 1180, "heath", 20, 1120, "open", "frozen"),
    ("sleet front", 8, 4, 7, 14, 11, 9, 92, 11, 3.2, 1320, "ridge", 20, 1120, "open", "frozen"),
    ("col and down", 9, 3, 4, 2, 14, 6, 85, 13, 3.6, 1240, "heath", 20, 760, "heath", "saturated"),
    ("home", 9, 3, 3, 0, 10, 8, 75, 12, 3.2, 900, "heath", 15, 280, None, None),
]

# name, instructor, kg, m, sleeper, set changes (leave out, add), shelter
# fmt: off
PEOPLE = [
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
     (), ("light-down-jacket", "fleece-trousers", "wool-tee"), "tunnel-west"),
    ("Lumi Hart", False, 55, 1.62, 1.3,
     ("bag-minus-1", "light-synthetic-jacket", "walking-trousers"),
     ("bag-minus-6", "big-synthetic-jacket", "lined-trousers", "warm-base-top"), "light-two"),
    ("Hale Moor", True, 76, 1.79, 0.5,
     ("light-synthetic-jacket", "bag-minus-1"),
     ("big-synthetic-jacket", "insulated-trousers", "bag-minus-6", "insulated-mitts"), "dome"),
    ("Wren Tarn", True, 63, 1.7, 0.8,
     ("bag-minus-1", "light-synthetic-jacket"),
     ("big-down-jacket", "bag-minus-6", "over-mitts", "insulated-trousers"), "dome"),
]
# fmt: on


def demo_course() -> Course:
    """The autumn fell plateau: five days, four nights, eight learners and two instructors."""
    catalogue = load_catalogue()
    shelters = tuple(
        catalogue.shelters[kind].model_copy(update={"id": name})
        for name, kind in (
            ("tunnel-east", "tunnel-3"), ("tunnel-west", "tunnel-3"), ("light-two", "ridge-2"),
            ("dome", "dome-2"),
        )
    )  # fmt: skip
    return Course(
        name="Skarn fell, autumn course",
        place=Place(name="Skarn fell plateau", latitude=67.9, longitude=20.5, utc_offset_h=2),
        start=date(2026, 9, 21),
        start_altitude_m=280,
        conditions_altitude_m=310,
        days=tuple(_day(*row) for row in DAYS),
        people=tuple(_person(number, *row) for number, row in enumerate(PEOPLE)),
        shelters=shelters,
    )


def _day(title, high, low, wind, rain, rain_from, rain_hours, humidity, distance, walking, top,
         exposure, halt, end, camp_exposure, ground) -> Day:  # fmt: skip
    return Day(
        title=title,
        conditions=Conditions(
            high_c=high, low_c=low, wind_ms=wind, precipitation_mm=rain, rain_from_h=rain_from,
            rain_hours=rain_hours, humidity_pct=humidity,
        ),
        route=Route(
            distance_km=distance, walking_h=walking, high_point_m=top, exposure=exposure,
            halt_min=halt, terrain="light brush",
        ),
        end_altitude_m=end,
        camp=Camp(exposure=camp_exposure, ground=ground) if ground else None,
    )  # fmt: skip


def _person(number, name, instructor, mass, height, index, without, added, shelter) -> Person:
    catalogue = load_catalogue()
    pieces = [each for each in catalogue.sets["three-season"] if each not in without]
    pieces += added
    kit = {
        "garments": tuple(catalogue.garments[p] for p in pieces if p in catalogue.garments),
        "bag": next(catalogue.bags[p] for p in pieces if p in catalogue.bags),
        "pads": tuple(catalogue.pads[p] for p in pieces if p in catalogue.pads),
        "items": tuple(catalogue.items[p] for p in pieces if p in catalogue.items),
    }
    extra = ("group-shelter",) if instructor else ("stove-set",) if number % 2 == 0 else ("book",)
    kit["items"] += tuple(catalogue.items[each] for each in extra)
    if number % 3 == 0:
        spare = Item(id="spare-layers", name="spare cotton set", mass_g=640, purpose="comfort")
        kit["items"] += (spare,)
    return Person(
        id=name.split()[0].lower(), name=name, instructor=instructor, body_mass_kg=mass,
        height_m=height, sleeper_index=index, shelter=shelter, **kit,
    )  # fmt: skip


if __name__ == "__main__":
    TARGET.write_text(write_course(demo_course()), encoding="utf-8")
