"""Kinds of things in a store: what they are for, what they usually weigh, what is asked of each.

Usual masses and defaults are judgement on ordinary gear: they only ask again, and never refuse.
"""

from dataclasses import dataclass

from caldarium.core.plan.kit import Purpose


@dataclass(frozen=True)
class Kind:
    """What a kind is for, what one weighs at least and at most [g], the fields that matter to it,
    and the catalogue's piece it is like until somebody says otherwise. What is for safety is never
    idle grams."""

    purpose: Purpose
    usual_g: tuple[float, float]
    asks: tuple[str, ...] = ()
    like: str = ""


_USE = ("nights_used", "washes")
_CLOTH = ("like", "clo", "thickness_mm", "water_mm", "taped", "washes")
_LABELLED = ("label", "label_c", "limit_c", "width_cm", "fits_to_m", *_USE)
_PAD = ("r_value", "length_cm", "width_cm", "nights_used")
KINDS: dict[str, Kind] = {
    "garment": Kind("warmth", (15, 2600), _CLOTH,
                    "mid-fleece-200"),
    "bag": Kind("sleep", (300, 3500), _LABELLED, "bag-minus-1"),
    "quilt": Kind("sleep", (250, 1800), _LABELLED, "quilt-0"),
    "pad": Kind("sleep", (80, 1800), _PAD, "foam-pad"),
    "liner": Kind("sleep", (60, 900), ("clo",), "silk-liner"),
    "cover": Kind("sleep", (100, 1500), ("clo",), "bag-cover"),
    "hammock": Kind("sleep", (150, 2500), ("like",), "bare-hammock"),
    "shelter": Kind("shelter", (250, 12000), ("like", "nights_used"), "dome-2"),
    "shelter part": Kind("shelter", (20, 6000)),
    "pack": Kind("group", (200, 4000), ("capacity_l",)),
    "cook": Kind("food and water", (10, 2500), ("capacity_l",)),
    "fuel": Kind("food and water", (80, 3000), ("net_g",)),
    "food": Kind("food and water", (10, 6000), ("kcal",)),
    "water": Kind("food and water", (15, 900), ("capacity_l", "spoils_below_c")),
    "light": Kind("safety", (15, 500), ("light_h", "spoils_below_c")),
    "navigation": Kind("safety", (10, 600), ("spoils_below_c",)),
    "communication": Kind("safety", (50, 1200), ("spoils_below_c",)),
    "first aid": Kind("safety", (10, 3000), ("spoils_below_c",)),
    "repair": Kind("safety", (5, 1000)),
    "hygiene": Kind("comfort", (5, 800), ("spoils_below_c",)),
    "snow and technical": Kind("safety", (50, 4000)),
    "electronics": Kind("comfort", (10, 1500), ("spoils_below_c",)),
    "teaching": Kind("group", (5, 5000)),
    "comfort": Kind("comfort", (5, 2500)),
}  # fmt: skip
WARM = ("garment", "bag", "quilt", "pad", "liner", "cover", "hammock", "shelter")
"""Kinds that the thermal computation needs to know."""
