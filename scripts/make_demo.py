"""Writes the demo course and store into caldarium/demo from the catalogue and the plan below."""

from datetime import date
from pathlib import Path

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.course import Course, Person, Place
from caldarium.core.plan.kit import GroupKit, Item
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.weather_sources import Conditions
from caldarium.core.stock.inventory import Stored, with_defaults
from caldarium.formats.course_json import write_course
from caldarium.formats.gear_csv import write_gear

STORE = Path(__file__).parent.parent / "caldarium" / "demo" / "store.csv"
TARGET = Path(__file__).parent.parent / "caldarium" / "demo" / "autumn-fell.json"

# title, high, low, wind, rain, from, hours, humidity | legs | camp exposure, ground, anchors
# a leg: id, kind, km, to m, hours, exposure, more
DAYS = [
    ("birch valley", 11, 3, 3, 0, 10, 8, 70, [
        ("valley-path", "approach", 4.5, 520, 1.5, "heath", {"start_h": 8.5, "halt_every_h": 0}),
        ("lookout", "rest", 0, 520, 0.25, "heath", {}),
        ("birch-wood", "descent", 4.5, 310, 1.1, "forest", {"halt_every_h": 0}),
    ], ("forest", "dry", ("pegs", "trees"))),
    ("the long climb", 22, 5, 3, 3, 14, 3, 70, [
        ("climb", "ascent", 6, 1180, 2.55, "heath", {"start_h": 8.5}),
        ("shoulder", "rest", 0, 1180, 1 / 3, "heath", {}),
        ("plateau", "traverse", 6, 1120, 1.15, "heath", {"halt_every_h": 0}),
    ], ("open", "frozen", ("stones and lines",))),
    ("sleet front", 8, 4, 7, 14, 11, 9, 92, [
        ("stone-field", "traverse", 3.5, 1200, 1.1, "open", {"start_h": 8.5, "halt_every_h": 0}),
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
        ("last-rise", "approach", 6, 900, 1.5, "heath", {"start_h": 8.5, "halt_every_h": 0}),
        ("last-look", "rest", 0, 900, 0.25, "heath", {}),
        ("way-out", "descent", 6, 280, None, "forest", {"terrain": "track"}),
    ], None),
]  # fmt: skip

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


GROUP = (
    GroupKit(id="stove", name="stove, burner and pot", mass_g=820, per=3, of="head",
             purpose="food and water"),
    GroupKit(id="gas", name="gas can", mass_g=205, number=2, per=3, of="head",
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


def demo_course() -> Course:
    """The autumn fell plateau: five days, four nights, eight learners and two instructors."""
    catalogue = load_catalogue()
    shelters = tuple(
        catalogue.shelters[kind].altered(id=name)
        for name, kind in (
            ("tunnel-east", "tunnel-3"),
            ("tunnel-west", "tunnel-3"),
            ("light-two", "ridge-2"),
            ("dome", "dome-2"),
        )
    )
    return Course(
        name="Skarn fell, autumn course",
        place=Place(name="Skarn fell plateau", latitude=67.9, longitude=20.5, utc_offset_h=2),
        start=date(2026, 9, 21),
        start_altitude_m=280,
        conditions_altitude_m=310,
        days=tuple(_day(*row) for row in DAYS),
        people=tuple(_person(number, *row) for number, row in enumerate(PEOPLE)),
        shelters=shelters,
        group=GROUP,
    )


def _day(title, high, low, wind, rain, rain_from, rain_hours, humidity, legs, camp) -> Day:
    return Day(
        title=title,
        conditions=Conditions(
            high_c=high,
            low_c=low,
            wind_ms=wind,
            precipitation_mm=rain,
            rain_from_h=rain_from,
            rain_hours=rain_hours,
            humidity_pct=humidity,
        ),
        legs=tuple(_leg(*row) for row in legs),
        camp=Camp(exposure=camp[0], ground=camp[1], anchors=camp[2]) if camp else None,
    )


def _leg(name, kind, distance, to, hours, exposure, more) -> Leg:
    return Leg(
        **{
            "id": name,
            "kind": kind,
            "title": name.replace("-", " "),
            "distance_km": distance,
            "to_altitude_m": to,
            "hours": hours,
            "exposure": exposure,
            "terrain": "light brush",
        }
        | more
    )


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
    extra = ("lens-fluid",) if instructor else () if number % 2 == 0 else ("book",)
    kit["items"] += tuple(catalogue.items[each] for each in extra)
    if number % 3 == 0:
        spare = Item(id="spare-layers", name="spare cotton set", mass_g=640, purpose="comfort")
        kit["items"] += (spare,)
    return Person(
        id=name.split()[0].lower(),
        name=name,
        instructor=instructor,
        body_mass_kg=mass,
        height_m=height,
        sleeper_index=index,
        shelter=shelter,
        **kit,
    )


# kind of the store, section of the catalogue, how many of each, whose, tag
SHELVES = [
    ("garment", "garments", 2, "school", "G"), ("bag", "bags", 3, "school", "B"),
    ("pad", "pads", 4, "school", "P"), ("liner", "liners", 6, "school", "L"),
    ("cover", "covers", 4, "school", "C"), ("shelter", "shelters", 2, "school", "T"),
]  # fmt: skip
# tag, name, kind, mass [g], count, owner, more
# fmt: off
OTHER = [
    ("K-01", "stove, burner and pot for three", "cook", 820, 3, "school", {"capacity_l": 2.0}),
    ("K-02", "gas can, small", "fuel", 205, 6, "buy on arrival", {"net_g": 110, "fly": "never"}),
    ("K-03", "bottle 1 L", "water", 120, 14, "school", {"capacity_l": 1.0}),
    ("K-04", "soft bottle 2 L", "water", 38, 6, "school", {"capacity_l": 2.0}),
    ("S-01", "first aid kit, group", "first aid", 940, 2, "school", {}),
    ("S-02", "group shelter for holds, eight", "snow and technical", 700, 2, "school", {}),
    ("S-03", "satellite messenger", "communication", 110, 1, "hire", {"spoils_below_c": -20}),
    ("S-04", "map, waterproof", "navigation", 90, 6, "school", {}),
    ("S-05", "shovel", "snow and technical", 620, 5, "school", {}),
    ("S-06", "spare head torch", "light", 95, 3, "school", {}),
    ("R-01", "repair kit", "repair", 260, 2, "school", {}),
    ("T-90", "teaching cards", "teaching", 340, 1, "member", {"owner_name": "Hale Moor"}),
    ("E-01", "camera", "electronics", 680, 1, "member", {"owner_name": "Wren Tarn"}),
    ("F-01", "dinner for one, dry", "food", 130, 40, "school", {"kcal": 560}),
    ("F-02", "porridge for one", "food", 85, 40, "school", {"kcal": 340}),
    ("W-01", "warm jacket, found", "garment", 14, 1, "borrowed", {"like": "big-synthetic-jacket"}),
    ("B-90", "old bag, no label", "bag", 1450, 1, "borrowed", {"condition": "worn"}),
    ("X-01", "pack 60 L", "pack", 1700, 8, "school", {"capacity_l": 60}),
]
# fmt: on


def demo_store() -> tuple[Stored, ...]:
    """The invented school's store."""
    catalogue = load_catalogue()
    found: list[Stored] = []
    for kind, section, count, owner, letter in SHELVES:
        for number, (name, piece) in enumerate(getattr(catalogue, section).items(), 1):
            own = "quilt" if kind == "bag" and piece.shape == "quilt" else kind
            label = {"label": piece.label, "label_c": piece.label_c} if kind == "bag" else {}
            pad = {"r_value": piece.r_value} if kind == "pad" else {}
            found.append(
                Stored(
                    tag=f"{letter}-{number:02d}",
                    name=piece.name,
                    kind=own,
                    owner=owner,
                    count=count,
                    mass_g=piece.mass_g,
                    like=name,
                    cost=getattr(piece, "cost", None),
                    checked=date(2026, 8, 1 + number % 28),
                    **label,
                    **pad,
                )
            )
    for tag, name, kind, mass, count, owner, more in OTHER:
        found.append(
            Stored(tag=tag, name=name, kind=kind, mass_g=mass, count=count, owner=owner, **more)
        )
    return tuple(with_defaults(piece) for piece in found)


if __name__ == "__main__":
    STORE.write_text(write_gear(demo_store()), encoding="utf-8", newline="")
    TARGET.write_text(write_course(demo_course()), encoding="utf-8")
