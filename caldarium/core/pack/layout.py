"""A filled pack to scale: where each piece lies, in which order it goes in, where the mass is."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from caldarium.core.pack.contents import Content
from caldarium.core.pack.needed import Need
from caldarium.core.pack.zones import DEPTH_CM, PLACES, WIDTH_CM, Sack
from caldarium.core.plan.rucksack import LASHED, ZONES, Zone

LEVELS: tuple[tuple[Zone, ...], ...] = (
    ("foot",),
    ("low spine", "low outer"),
    ("high spine", "high outer"),
    ("top",),
    ("over",),
)
"""Zones of the main compartment from the foot up; of two the first is near the spine."""
CM3_A_LITRE = 1000.0
WORN_AT: dict[Zone, float] = {"shoulder": 0.75, "chest": 0.45, "waist": 0.02}
"""Height over the foot, as a share of the main compartment, at which pockets on the body stand."""
BELOW_CM = 2.0
"""Between the foot of a pack and what is lashed under it [cm]."""
WORN_CM, WORN_X_CM = 5.0, -11.0
"""How wide they are drawn, and where, in front of the spine [cm]."""


@dataclass(frozen=True)
class Box:
    """A piece in the cut along the spine: left edge from the spine, lower edge from the foot, width
    and height, all [cm]; outside the main compartment boxes stand where their pockets are."""

    x: float
    y: float
    width: float
    height: float

    @property
    def middle(self) -> tuple[float, float]:
        """Its middle [cm]. Source: none, arithmetic."""
        return self.x + self.width / 2, self.y + self.height / 2


@dataclass(frozen=True)
class Laid:
    """A filled pack: pieces in the order of going in, the box of each, what must come out before
    each, height up to which the main compartment is filled [cm]; centre of mass as distance from
    the spine and height over the foot [cm], mass on the left and right [g]."""

    order: tuple[str, ...]
    boxes: dict[str, Box]
    before: dict[str, tuple[str, ...]]
    filled_cm: float
    depth_cm: float
    height_cm: float
    left_g: float
    right_g: float


def lay_out(
    contents: Sequence[Content],
    needs: Mapping[str, Need],
    zones: Mapping[str, Zone],
    sack: Sack,
) -> Laid:
    """A pack as it is filled: every piece to scale by its litres.

    Args:
        contents, needs: the pieces, and when each is needed.
        zones: from place_all; pieces that are not in it are left out.
        sack: the pack.

    Source: litres over the pack's own cross-section; sums of masses times places.
    """
    placed = [each for each in contents if each.id in zones]
    rank = {zone: at for at, zone in enumerate(ZONES)}

    def turn(each: Content) -> tuple[int, float, float]:
        # What is wanted soonest goes in last.
        need = needs[each.id]
        return rank[zones[each.id]], need.hurry, -need.hour

    order = sorted(placed, key=turn)
    by_zone: dict[Zone, list[Content]] = {zone: [] for zone in ZONES}
    for each in order:
        by_zone[zones[each.id]].append(each)
    boxes: dict[str, Box] = {}
    top = 0.0
    for level in LEVELS:
        parts: list[tuple[Zone, float]] = [(zone, _litres(by_zone[zone])) for zone in level]
        whole = sum(litres for _, litres in parts)
        height = whole * CM3_A_LITRE / (WIDTH_CM * DEPTH_CM)
        x = 0.0
        for zone, litres in parts:
            width = DEPTH_CM * litres / whole if whole > 0 else 0.0
            boxes |= fill(by_zone[zone], Box(x, top, width, height))
            x += width
        top += height
    for zone in ZONES[7:]:
        boxes |= fill(by_zone[zone], pocket(zone, _litres(by_zone[zone]), sack, top))
    mass = sum(each.grams for each in order)
    middles = {each.id: boxes[each.id].middle for each in order}
    left, right = (
        sum(each.grams for each in order if sign * PLACES[zones[each.id]].side > 0)
        for sign in (-1, 1)
    )
    return Laid(
        tuple(each.id for each in order),
        boxes,
        {each.id: _in_the_way(each, order, zones) for each in order},
        top,
        _mean(order, {name: x for name, (x, _) in middles.items()}, mass),
        _mean(order, {name: y for name, (_, y) in middles.items()}, mass),
        left,
        right,
    )


def pocket(zone: Zone, litres: float, sack: Sack, filled_cm: float) -> Box:
    """Where a pocket of so many litres stands in the cut [cm]. Side pockets, which the cut does not
    meet, stand where they are; what is lashed hangs behind everything else, and a lid sits on what
    the main compartment is filled to.

    Source: PLACES; the room it takes over the pack's own width.
    """
    area = litres * CM3_A_LITRE / WIDTH_CM
    tall = sack.height_cm
    if zone in ("lid", "on lid", "under"):
        return _across(zone, area / DEPTH_CM, sack, filled_cm)
    if zone == "front":
        height = 0.55 * tall
        return Box(DEPTH_CM + 1.0, 0.2 * tall, area / height, height)
    if zone == "hip":
        return Box(-2.0, 0.0, 4.0, area / 4.0)
    if zone in WORN_AT:
        return Box(WORN_X_CM, WORN_AT[zone] * tall, WORN_CM, area / WORN_CM)
    if zone == "lashed":
        height = 0.7 * tall
        return Box(DEPTH_CM + 9.0, 0.05 * tall, area / height, height)
    height = 0.45 * tall
    middle, foot = PLACES[zone].depth, 0.52 if zone in LASHED else 0.04
    width = litres * CM3_A_LITRE / (height * 9.0)
    return Box(middle - width / 2, foot * tall, width, height)


def _across(zone: Zone, height: float, sack: Sack, filled_cm: float) -> Box:
    """What lies across the whole depth: the lid, what is on it, what is under the foot."""
    if zone == "under":
        return Box(0.0, -height - BELOW_CM, DEPTH_CM, height)
    lid = max(sack.height_cm, filled_cm) + 2.0
    if zone == "on lid":
        lid += sack.room["lid"] * CM3_A_LITRE / (WIDTH_CM * DEPTH_CM) + 1.0
    return Box(0.0, lid, DEPTH_CM, height)


def fill(contents: Sequence[Content], box: Box) -> dict[str, Box]:
    """A box filled with pieces by their litres, from below in the order of going in.

    Rows grow as long as that makes their pieces less long and thin.

    Source: none, geometry: strips of a treemap that keep the order.
    """
    whole = _litres(contents)
    if whole <= 0 or box.width <= 0 or box.height <= 0:
        return {each.id: Box(box.x, box.y, 0.0, 0.0) for each in contents}
    area = box.width * box.height / whole
    found: dict[str, Box] = {}
    y, row = box.y, list[Content]()
    for at, each in enumerate(contents):
        row.append(each)
        after = contents[at + 1 : at + 2]
        if after and _shape([*row, *after], box.width, area) <= _shape(row, box.width, area):
            continue
        height = _litres(row) * area / box.width
        x = box.x
        for piece in row:
            width = box.width * piece.litres / max(_litres(row), 1e-9)
            found[piece.id] = Box(x, y, width, height)
            x += width
        y, row = y + height, []
    return found


def _shape(row: Sequence[Content], width: float, area: float) -> float:
    """How long and thin the pieces of a row are on average."""
    height = max(_litres(row) * area / width, 1e-9)
    ratios = [max(each.litres, 1e-3) * area / height**2 for each in row]
    return sum(max(ratio, 1 / ratio) for ratio in ratios) / len(ratios)


def _litres(contents: Sequence[Content]) -> float:
    return sum(each.litres for each in contents)


def _mean(order: Sequence[Content], places: Mapping[str, float], mass: float) -> float:
    return sum(each.grams * places[each.id] for each in order) / mass if mass > 0 else 0.0


def _in_the_way(
    piece: Content, order: Sequence[Content], zones: Mapping[str, Zone]
) -> tuple[str, ...]:
    """What must come out before a piece: all above it in the main compartment, and in its own zone
    what went in later; what is on the lid before all. Last in, first out."""
    level = {zone: at for at, zones_ in enumerate((*LEVELS, ("on lid",))) for zone in zones_}
    mine = level.get(zones[piece.id])
    if mine is None:
        return ()
    at = order.index(piece)
    found = [
        other.id
        for k, other in enumerate(order)
        if (there := level.get(zones[other.id])) is not None
        and (there > mine or (zones[other.id] == zones[piece.id] and k > at))
    ]
    return tuple(reversed(found))
