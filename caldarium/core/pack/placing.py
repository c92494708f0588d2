"""Every piece to its zone: least reaching and best riding, by a program of whole numbers."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from caldarium.core.pack.contents import Content, Role
from caldarium.core.pack.needed import Need
from caldarium.core.pack.zones import MAIN, PLACES, WORN_WITH, Sack
from caldarium.core.plan.rucksack import ZONES, Rucksack, Zone
from caldarium.core.programs import Program

REACHING, RIDING_DEEP, RIDING_HIGH = 4.0, 1.6, 30.0
"""What a step of reach costs for each square of hurry; a kilogram for each centimetre from the
spine; and one for each share of the height away from where heavy things ride: judgement."""
UNUSUAL, MOVED, OUTSIDE, ONE_SIDED = 14.0, 8.0, 60.0, 40.0
"""What a piece costs where it does not usually go, and elsewhere than the morning before; a
kilogram lashed outside, and one on one side beyond what is allowed: judgement."""
LEFT_OVER, LEFT_OVER_L, OVER_FULL = 4000.0, 2000.0, 1500.0
"""What a piece costs that has no place, and for each of its litres, and a litre stuffed in beyond
the room: judgement."""
HIGH, LOW = 0.66, 0.45
"""Height at which heavy things ride on a path, and on rough ground, snow and skis, as a share of
the main compartment: common practice, no published source."""
SECONDS = 2.0
"""After so long the best placing so far is taken, and its gap told."""
OUTSIDE_LINER: tuple[Zone, ...] = (
    "over",
    "lid",
    "front",
    "left",
    "right",
    "hip",
    *WORN_WITH,
    "lashed",
)
SPINE: tuple[Zone, ...] = ("low spine", "high spine")
SOFT: tuple[Role, ...] = ("clothes", "food", "lunch", "bed")
"""What lies between a hard thing and a back: common practice, no published source."""
WHERE_LONG: tuple[Zone, ...] = ("left", "right", "low spine", "high spine", "lashed")
"""Where long things go: along the spine, at the sides, outside. Common practice, no published
source."""
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


def usual(content: Content, need: Need) -> tuple[Zone, ...]:
    """Where a piece usually goes. Source: common practice, no published source."""
    if "outside" in content.marks or "sharp" in content.marks:
        return ("lashed",)
    if "flat" in content.marks and need.hurry < HURRIED and content.role == "other":
        return ("high spine", "low spine", "front", "lid")
    if content.role == "shelter" and content.wet:
        return ("over", "front", "lashed")
    if content.role == "clothes" and need.hurry >= HURRIED:
        if not content.may_get_wet:
            return ("top",)
        return ("front", "over", "lid", "top")
    return _USUAL[content.role]


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


@dataclass(frozen=True)
class Placing:
    """The zone of each piece by its id; of pieces without one there is no room; the share by which
    the placing may be worse than the best, 0 where it is proven."""

    zones: dict[str, Zone]
    gap: float


def allowed(content: Content, asked: Asked) -> tuple[Zone, ...]:
    """Zones that may take a piece by what it is like, whatever else is in the pack.

    Source: common practice, no published source.
    """
    forced = hand_placed(content, asked)
    if forced is not None:
        return (forced,)
    found: list[Zone] = [
        zone
        for zone in ZONES
        if content.litres <= MOST_L.get(zone, 999.0)
        and content.grams <= MOST_G.get(zone, 1e9)
        and (zone not in WORN_WITH or asked.sack.room[zone] > 0)
    ]
    marks = content.marks
    big = content.litres > MAY_BE_LASHED_L
    may_hang = "outside" in marks or "long" in marks or "sharp" in marks
    if not (may_hang or (content.wet and big)):
        found = [zone for zone in found if zone != "lashed"]
    if not content.may_get_wet and asked.said.liner:
        found = [zone for zone in found if zone in MAIN]
    elif not content.may_get_wet:
        found = [zone for zone in found if zone in (*MAIN, "over", "lid")]
    if "freezes" in marks and asked.freezes:
        found = [zone for zone in found if zone in (*MAIN, "over")]
    if "leaks" in marks:
        found = [zone for zone in found if zone not in ("lid", "over", "top", "hip", "high outer")]
    if "crushable" in marks:
        low: tuple[Zone, ...] = ("foot", "low spine", "low outer", "hip", "shoulder")
        found = [zone for zone in found if zone not in low]
    if "sharp" in marks:
        found = [zone for zone in found if zone in ("lashed", "front", "lid", "over")]
    if "long" in marks and "sharp" not in marks:
        found = [zone for zone in found if zone in WHERE_LONG]
    if content.wet and asked.said.liner:
        found = [zone for zone in found if zone in OUTSIDE_LINER]
    if content.role in ("bed", "pad"):
        found = [zone for zone in found if zone not in ("low spine", "high spine")]
    if content.role == "water":
        found = [zone for zone in found if zone not in ("lid", "foot", "hip")]
    return tuple(found)


def hand_placed(content: Content, asked: Asked) -> Zone | None:
    """Where the user put a piece, if they did. Source: none, bookkeeping."""
    said = asked.said.said_of(content.id)
    return said.zone if said is not None else None


def cost(content: Content, zone: Zone, asked: Asked) -> float:
    """What a piece costs in a zone. Source: judgement, see the constants of this module."""
    place, need = PLACES[zone], asked.needs[content.id]
    kilograms = content.grams / 1000
    found = REACHING * need.hurry**2 * place.reach
    found += RIDING_DEEP * kilograms * place.depth
    found += RIDING_HIGH * kilograms * abs(place.height - asked.height)
    if zone == "lashed" and "outside" not in content.marks:
        found += OUTSIDE * kilograms
    if asked.before.get(content.id, zone) != zone:
        found += MOVED
    return found + (0.0 if zone in usual(content, need) else UNUSUAL)


def place_all(asked: Asked) -> Placing:
    """The zones of all pieces of a pack.

    Args:
        asked: what is to be placed, and in what.

    Returns:
        The placing; what the user placed by hand stays there, whatever it breaks.

    Source: a program of whole numbers, solved by HiGHS; costs are judgement, rules are common
        practice, no published source.
    """
    contents = list(asked.contents)
    pairs: list[tuple[int, Zone]] = [
        (i, zone) for i, each in enumerate(contents) for zone in allowed(each, asked)
    ]
    if not pairs:
        return Placing({}, 0.0)
    program = Program([cost(contents[i], zone, asked) for i, zone in pairs], SECONDS)
    column: dict[tuple[int, Zone], int] = {pair: at for at, pair in enumerate(pairs)}
    by_hand = [hand_placed(each, asked) is not None for each in contents]
    for i in range(len(contents)):
        mine = [column[i, zone] for zone in ZONES if (i, zone) in column]
        # Something of no importance is left over before something that is needed.
        worth = LEFT_OVER * (1 + asked.needs[contents[i].id].hurry)
        left = program.slack(worth + LEFT_OVER_L * contents[i].litres, 1.0)
        program.row([(at, 1.0) for at in [*mine, left]], 1.0, 1.0)
    _room(program, contents, column, asked)
    _sides(program, contents, column, asked.sides_g)
    _apart(program, contents, column, by_hand)
    _together(program, contents, column, by_hand)
    _cushioned(program, contents, column, by_hand)
    values, gap = program.solved()
    return Placing(
        {contents[i].id: zone for (i, zone), at in column.items() if values[at] > 0.5}, gap
    )


def _room(
    program: Program, contents: list[Content], column: dict[tuple[int, Zone], int], asked: Asked
) -> None:
    """No zone takes more than its room, but for what the user put there; the main compartment can
    be stuffed beyond its own, at a cost."""
    for zone in ZONES:
        inside = [(at, contents[i].litres) for (i, there), at in column.items() if there == zone]
        forced = sum(e.litres for e in contents if hand_placed(e, asked) == zone)
        if inside:
            program.row(inside, -np.inf, max(asked.sack.room[zone], forced))
    main = [(at, contents[i].litres) for (i, zone), at in column.items() if zone in (*MAIN, "over")]
    if main:
        over = program.slack(OVER_FULL, np.inf)
        program.row([*main, (over, -1.0)], -np.inf, asked.sack.main)


def _sides(
    program: Program, contents: list[Content], column: dict[tuple[int, Zone], int], most: float
) -> None:
    """Left and right differ by no more than is allowed, or it costs."""
    uneven = program.slack(ONE_SIDED, np.inf)
    signs: dict[Zone, float] = {"left": -1.0, "right": 1.0}
    weights = [
        (at, signs[zone] * contents[i].grams / 1000)
        for (i, zone), at in column.items()
        if zone in signs
    ]
    if weights:
        program.row([*weights, (uneven, -1.0)], -np.inf, most / 1000)
        program.row([*weights, (uneven, 1.0)], -most / 1000, np.inf)


def _apart(
    program: Program,
    contents: list[Content],
    column: dict[tuple[int, Zone], int],
    by_hand: list[bool],
) -> None:
    """Fuel is never above or with food; what leaks, or is sharp, not with what must be kept dry."""
    for i, one in enumerate(contents):
        for j, other in enumerate(contents):
            if by_hand[i] and by_hand[j]:
                continue
            for zone in ZONES:
                first = column.get((i, zone))
                if first is None:
                    continue
                under = [
                    column[j, below]
                    for below in ZONES
                    if (j, below) in column and clash(one, zone, other, below)
                ]
                if under:
                    program.row([(at, 1.0) for at in [first, *under]], -np.inf, 1.0)


def _cushioned(
    program: Program,
    contents: list[Content],
    column: dict[tuple[int, Zone], int],
    by_hand: list[bool],
) -> None:
    """A hard thing is by the spine only with something soft to lie between it and the back."""
    for i, one in enumerate(contents):
        if "hard" not in one.marks or by_hand[i]:
            continue
        for zone in SPINE:
            first = column.get((i, zone))
            if first is None:
                continue
            soft = [
                (column[j, zone], -1.0)
                for j, other in enumerate(contents)
                if other.role in SOFT and (j, zone) in column
            ]
            program.row([(first, 1.0), *soft], -np.inf, 0.0)


def _together(
    program: Program,
    contents: list[Content],
    column: dict[tuple[int, Zone], int],
    by_hand: list[bool],
) -> None:
    """Pieces of one bundle share a zone, where one takes them all."""
    for i, one in enumerate(contents):
        for j in range(i):
            if not one.bundle or contents[j].bundle != one.bundle or by_hand[i] or by_hand[j]:
                continue
            pairs = [(column.get((i, zone)), column.get((j, zone))) for zone in ZONES]
            if not any(first is not None and second is not None for first, second in pairs):
                continue
            for pair in pairs:
                weights = [(at, sign) for at, sign in zip(pair, (1.0, -1.0), strict=True)]
                known = [(at, sign) for at, sign in weights if at is not None]
                if known:
                    program.row(known, 0.0, 0.0)


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
