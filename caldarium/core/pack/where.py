"""Where a piece may go in a pack by what it is like, where it mostly goes, what must be apart."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from caldarium.core.pack.contents import Content, Role
from caldarium.core.pack.needed import Need
from caldarium.core.pack.zones import MAIN, PLACES, WORN_WITH, Sack
from caldarium.core.plan.rucksack import LASHED, ZONES, Mark, Rucksack, Zone

OUTSIDE_LINER: tuple[Zone, ...] = tuple(zone for zone in ZONES if zone not in MAIN)
SPINE: tuple[Zone, ...] = ("low spine", "high spine")
SOFT: tuple[Role, ...] = ("clothes", "food", "lunch", "bed")
"""What lies between a hard thing and a back: common practice, no published source."""
WHERE_LONG: tuple[Zone, ...] = (
    "left",
    "right",
    "low spine",
    "high spine",
    "lashed",
    "strap left",
    "strap right",
)
"""Where long things go: along the spine, at the sides, outside. Common practice, no published
source."""
WHERE_SHARP: tuple[Zone, ...] = ("lashed", "on lid", "front", "lid", "over")
"""Where sharp things go; an axe with its long shaft at the back. Common practice, no published
source."""
SIDE_STRAPS: tuple[Zone, ...] = ("strap left", "strap right")
NEVER: dict[Mark, tuple[Zone, ...]] = {
    "leaks": ("lid", "over", "top", "hip", "high outer"),
    "crushable": ("foot", "low spine", "low outer", "hip", "shoulder", "under"),
}
NEVER_OF_ROLE: dict[Role, tuple[Zone, ...]] = {
    "bed": SPINE,
    "pad": (*SPINE, *SIDE_STRAPS),
    "water": ("lid", "foot", "hip"),
}
"""Zones where things of a mark or a role never go; what is bulky is held under the foot and on the
lid, not by the straps of a side: common practice, no published source."""
MAY_HANG: frozenset[Mark] = frozenset(("outside", "long", "sharp"))
"""Marks of what may hang outside; of other things only a large one that is wet."""
SLIM_CM: dict[Zone, float] = {
    "lid": 13.0,
    "front": 9.0,
    "left": 12.0,
    "right": 12.0,
    "hip": 7.0,
    "shoulder": 7.0,
    "chest": 10.0,
    "waist": 11.0,
    "strap left": 14.0,
    "strap right": 14.0,
}
"""What is round goes into a pocket or under straps up to this breadth [cm]: judgement."""
MOST_L: dict[Zone, float] = {
    "hip": 0.6,
    "shoulder": 0.5,
    "chest": 2.5,
    "waist": 2.5,
    "lid": 1.8,
    "left": 2.2,
    "right": 2.2,
    "front": 4.0,
    "over": 6.0,
    "low spine": 8.0,
    "high spine": 8.0,
}
"""The largest piece that a zone takes [L]: judgement."""
MOST_G: dict[Zone, float] = {
    "hip": 400.0,
    "shoulder": 300.0,
    "chest": 800.0,
    "waist": 1000.0,
    "lid": 800.0,
    "front": 1500.0,
}
"""The heaviest [g]: judgement."""
MAY_BE_LASHED_L = 3.0
_USUAL: dict[Role, tuple[Zone, ...]] = {
    "bed": ("foot",),
    "pad": ("foot", "low outer"),
    "clothes": ("foot", "low outer"),
    "shelter": ("high outer", "top", "over"),
    "cook": ("high spine", "low spine", "high outer", "low outer"),
    "fuel": ("left", "right", "low outer"),
    "food": ("high spine", "low spine"),
    "lunch": ("top", "over", "lid", "waist"),
    "water": ("left", "right", "high spine"),
    "filter": ("front", "top"),
    "light": ("lid", "waist"),
    "way": ("lid", "hip", "shoulder", "chest"),
    "aid": ("front", "lid", "top"),
    "safety": ("front", "over", "top"),
    "sun": ("lid", "hip", "shoulder", "chest", "waist"),
    "tool": ("front", "lid", "high outer"),
    "other": ("foot", "low outer", "high outer"),
}
"""Where things of a role usually go: common practice, no published source."""
HURRIED = 2.0
"""Hurry from which clothes go where a hand finds them."""


@dataclass(frozen=True)
class Asked:
    """What a pack is filled for: pieces, when each is needed, the pack, what the user said of it,
    the height at which heavy things ride, by how much left and right may differ [g], whether it
    freezes, and where things were the morning before."""

    contents: Sequence[Content]
    needs: Mapping[str, Need]
    sack: Sack
    said: Rucksack
    height: float
    sides_g: float
    freezes: bool
    before: Mapping[str, Zone] = field(default_factory=dict[str, Zone])


def usual(content: Content, need: Need) -> tuple[Zone, ...]:
    """Where a piece usually goes. Source: common practice, no published source."""
    role, hurried = content.role, need.hurry >= HURRIED
    found = _USUAL[role]
    if "sharp" in content.marks:
        found = ("lashed",)
    elif "outside" in content.marks:
        found = tuple(LASHED)
    elif "flat" in content.marks and role == "other" and not hurried:
        found = ("high spine", "low spine", "front", "lid")
    elif role == "shelter" and content.wet:
        found = ("over", "front", *LASHED)
    elif role == "clothes" and hurried:
        found = ("front", "over", "lid", "top") if content.may_get_wet else ("top",)
    return found


def allowed(content: Content, asked: Asked) -> tuple[Zone, ...]:
    """Zones that may take a piece by what it is like, whatever else is in the pack.

    Source: common practice, no published source.
    """
    forced = hand_placed(content, asked)
    if forced is not None:
        return (forced,)
    barred = _barred(content)
    where: tuple[Zone, ...] = ZONES
    if not content.may_get_wet:
        where = MAIN if asked.said.liner else (*MAIN, "over", "lid")
    elif content.wet and asked.said.liner:
        where = OUTSIDE_LINER
    if "freezes" in content.marks and asked.freezes:
        where = tuple(zone for zone in where if zone in (*MAIN, "over"))
    room = asked.sack.room
    return tuple(
        zone
        for zone in where
        if zone not in barred and (zone not in (*WORN_WITH, *LASHED) or room[zone] > 0)
    )


def _barred(content: Content) -> frozenset[Zone]:
    """Zones that no pack has for such a piece: too small, too narrow, or wrong for what it is."""
    found: set[Zone] = {
        zone
        for zone in ZONES
        if content.litres > MOST_L.get(zone, 999.0) or content.grams > MOST_G.get(zone, 1e9)
    }
    for mark in content.marks:
        found.update(NEVER.get(mark, ()))
    found.update(NEVER_OF_ROLE.get(content.role, ()))
    marks = content.marks
    if not marks & MAY_HANG and not (content.wet and content.litres > MAY_BE_LASHED_L):
        found.update(LASHED)
    if "sharp" in marks:
        found.update(zone for zone in ZONES if zone not in WHERE_SHARP)
        if "long" in marks:
            found.add("on lid")
    elif "long" in marks:
        found.update(zone for zone in ZONES if zone not in WHERE_LONG)
    elif content.role == "shelter":
        found.update(SIDE_STRAPS)
    if "round" in marks:
        across = breadth_cm(content.litres)
        found.update(zone for zone, slim in SLIM_CM.items() if across > slim)
    return frozenset(found)


def breadth_cm(litres: float) -> float:
    """How broad something round is [cm]. Source: a sphere of its litres."""
    return (6000 * litres / math.pi) ** (1 / 3)


def hand_placed(content: Content, asked: Asked) -> Zone | None:
    """Where the user put a piece, if they did. Source: none, bookkeeping."""
    said = asked.said.said_of(content.id)
    return said.zone if said is not None else None


def clash(one: Content, zone: Zone, other: Content, below: Zone) -> bool:
    """Whether one piece in a zone must not be with another in a zone of its own: fuel above or with
    food, what leaks or is sharp with what is kept dry.

    Source: common practice, no published source.
    """
    if one is other:
        return False
    if one.role == "fuel" and other.role in ("food", "lunch"):
        return zone == below or PLACES[zone].height > PLACES[below].height
    spoils = "leaks" in one.marks or "sharp" in one.marks
    soft = not other.may_get_wet or other.role == "pad"
    return spoils and soft and zone == below
