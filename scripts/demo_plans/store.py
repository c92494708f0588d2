"""The invented school's store."""

from datetime import date

from caldarium.catalogue import load_catalogue
from caldarium.core.stock.inventory import Stored, with_defaults

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
    ("S-06", "spare head torch", "light", 95, 12, "school", {"light_h": 40}),
    ("S-07", "whistle", "communication", 12, 14, "school", {}),
    ("S-08", "spare cells, three", "light", 46, 12, "school", {}),
    ("S-09", "lighter", "repair", 18, 8, "school", {}),
    ("S-10", "fire steel", "repair", 40, 6, "school", {}),
    ("S-11", "survival bag", "cover", 290, 10, "school", {"like": "bag-cover"}),
    ("S-12", "throw line", "snow and technical", 540, 2, "school", {}),
    ("S-13", "dark glasses for snow", "snow and technical", 38, 8, "school", {}),
    ("H-01", "toilet bags, a set for one", "hygiene", 60, 12, "school", {}),
    ("H-02", "trowel", "hygiene", 85, 4, "school", {}),
    ("H-03", "rubbish bag", "hygiene", 20, 30, "school", {}),
    ("H-04", "sunscreen, small", "hygiene", 60, 12, "school", {}),
    ("K-04b", "food barrel 10 L", "cook", 900, 3, "hire", {"capacity_l": 10.0}),
    ("K-05", "water tablets", "water", 20, 6, "school", {}),
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
            sheds = section == "garments" and piece.waterproof
            seams = {"taped": True, "water_mm": 15000} if sheds else {}
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
                    **seams,
                )
            )
    for tag, name, kind, mass, count, owner, more in OTHER:
        found.append(
            Stored(tag=tag, name=name, kind=kind, mass_g=mass, count=count, owner=owner, **more)
        )
    return tuple(with_defaults(piece) for piece in found)
