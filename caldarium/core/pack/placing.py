"""Every piece to its zone: least reaching and best riding, by a program of whole numbers."""

import math
from dataclasses import dataclass

import numpy as np

from caldarium.core.pack.contents import Content
from caldarium.core.pack.where import SOFT, SPINE, Asked, allowed, clash, hand_placed, usual
from caldarium.core.pack.zones import MAIN, PLACES
from caldarium.core.plan.rucksack import LASHED, ZONES, Zone
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
BEHIND_STRAPS = 5.0
"""What a piece costs on the lid, as it must come off before the pack opens: judgement."""
SECONDS = 2.0
"""After so long the best placing so far is taken, and its gap told."""


@dataclass(frozen=True)
class Placing:
    """The zone of each piece by its id; of pieces without one there is no room; the share by which
    the placing may be worse than the best, 0 where it is proven."""

    zones: dict[str, Zone]
    gap: float


def cost(content: Content, zone: Zone, asked: Asked) -> float:
    """What a piece costs in a zone. Source: judgement, see the constants of this module."""
    place, need = PLACES[zone], asked.needs[content.id]
    kilograms = content.grams / 1000
    found = REACHING * need.hurry**2 * place.reach
    found += RIDING_DEEP * kilograms * place.depth
    found += RIDING_HIGH * kilograms * abs(place.height - asked.height)
    if zone in LASHED and "outside" not in content.marks:
        found += OUTSIDE * kilograms
    if zone == "on lid":
        found += BEHIND_STRAPS
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
    lashed = [(at, contents[i].litres) for (i, zone), at in column.items() if zone in LASHED]
    forced = sum(each.litres for each in contents if hand_placed(each, asked) in LASHED)
    if lashed:
        program.row(lashed, -np.inf, max(asked.sack.lashed, forced))
    main = [(at, contents[i].litres) for (i, zone), at in column.items() if zone in (*MAIN, "over")]
    if main:
        over = program.slack(OVER_FULL, np.inf)
        program.row([*main, (over, -1.0)], -np.inf, asked.sack.main)


def _sides(
    program: Program, contents: list[Content], column: dict[tuple[int, Zone], int], most: float
) -> None:
    """Left and right differ by no more than is allowed, or it costs."""
    uneven = program.slack(ONE_SIDED, np.inf)
    weights = [
        (at, math.copysign(contents[i].grams / 1000, PLACES[zone].side))
        for (i, zone), at in column.items()
        if PLACES[zone].side
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
