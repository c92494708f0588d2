"""Packing lists: what somebody carries as lines of grams and litres, and two lists compared."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from caldarium.core.load.loads import PURPOSES, Purpose, warmers_g
from caldarium.core.load.supplies import food_planned
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.group_kit import units
from caldarium.core.plan.kit import Bag, Cost, Cover, Fly, Garment, Hammock, Item, Liner, Pad

Piece = Garment | Bag | Pad | Liner | Cover | Hammock | Item
LITRES_A_KG = {
    "down": 9.0,
    "treated down": 9.0,
    "synthetic fill": 10.0,
    "fleece": 9.0,
    "wool": 5.0,
    "knit": 4.5,
    "woven": 4.0,
    "uncoated shell": 4.0,
    "membrane": 4.0,
    "foam": 30.0,
    "leather": 6.0,
}
"""Room of what is stuffed, by material [L/kg]: judgement."""
OTHER_LITRES_A_KG = {
    "warmth": 4.0,
    "sleep": 5.0,
    "shelter": 3.5,
    "safety": 2.0,
    "food and water": 1.8,
    "group": 2.5,
    "comfort": 2.0,
}
"""Room of everything else, by what it is for [L/kg]: judgement."""
PAD_LITRES_A_KG, FOAM_G_AN_R = 4.5, 185.0
"""Room of a pad that is let down [L/kg], and the mass for each R from which a pad is taken for
closed foam, as bulky as that is [g]: judgement."""


@dataclass(frozen=True)
class Line:
    """One line of a packing list: what it is, what it is for, mass [g], room [L] and whether that
    is estimated, what it costs, how it may fly, and whether it is a garment, bag, pad, liner,
    cover, hammock, item, extra of the bed, part of a shelter, piece of the group's, a share of
    either, or provisions; whole names what it is a part or a share of, days how long provisions
    last."""

    id: str
    name: str
    purpose: Purpose
    grams: float
    litres: float
    estimated: bool
    cost: Cost | None
    fly: Fly
    kind: str
    whole: str = ""
    days: int = 0

    @property
    def same(self) -> tuple[str, str, bool]:
        """What makes two lines one thing. Source: none, bookkeeping."""
        return self.name.lower(), self.whole.lower(), self.kind == "share"


def litres(piece: Piece) -> tuple[float, bool]:
    """Room that a piece takes packed [L], and whether that is estimated.

    Source: measured where given, else LITRES_A_KG and its neighbours: judgement.
    """
    measured: float | None = getattr(piece, "packed_l", None)
    if measured is not None:
        return measured * (piece.count if isinstance(piece, Item) else 1), False
    kilograms = (piece.grams if isinstance(piece, Item) else piece.mass_g) / 1000
    if isinstance(piece, Garment):
        return kilograms * LITRES_A_KG[piece.material], True
    if isinstance(piece, Bag):
        return kilograms * LITRES_A_KG[piece.fill], True
    if isinstance(piece, Pad):
        bulk = LITRES_A_KG["foam"] if closed_foam(piece) else PAD_LITRES_A_KG
        return kilograms * bulk, True
    purpose = piece.purpose if isinstance(piece, Item) else "sleep"
    return kilograms * OTHER_LITRES_A_KG[purpose], True


def clothes_and_beds_g(course: Course) -> float:
    """What everybody's clothes and own beds weigh [g]. Source: none, a sum."""
    pieces = (piece for person in course.people for piece in (*person.garments, *person.bed_parts))
    return sum(piece.mass_g for piece in pieces)


def closed_foam(pad: Pad) -> bool:
    """Whether a pad is closed foam and not inflated. Source: FOAM_G_AN_R, judgement."""
    return pad.mass_g >= FOAM_G_AN_R * pad.r_value


def packing_list(course: Course, person: Person) -> list[Line]:
    """Everything a person sets out with, on the body and on the back; water apart.

    Args:
        course: for shelters, the group's kit and how many days there is food for.
        person: whose.

    Returns:
        The lines; their grams are what the load counts, before anything is eaten.

    Source: sums of weighed masses.
    """
    warm = [_line(each, "warmth", "garment") for each in person.garments]
    own = [_line(each, "sleep", _kind(each)) for each in person.bed_parts]
    own += [_line(each, each.purpose, "item", each.fly) for each in person.on_back]
    for name, grams in (("cot", person.cot_g), ("warmers", warmers_g(course, person))):
        if grams > 0:
            own.append(_plain(name, name, "sleep", grams, "extra"))
    return [*warm, *own, *_shared(course, person), *_provisions(course, person)]


def line_of_item(item: Item) -> Line:
    """A thing as a line of a list, whoever carries it. Source: its own figures."""
    return _line(item, item.purpose, "item", item.fly)


def _kind(piece: Piece) -> str:
    return type(piece).__name__.lower()


def _line(piece: Piece, purpose: Purpose, kind: str, fly: Fly = "anywhere") -> Line:
    room, estimated = litres(piece)
    cost: Cost | None = getattr(piece, "cost", None)
    grams = piece.grams if isinstance(piece, Item) else piece.mass_g
    return Line(piece.id, piece.name, purpose, grams, room, estimated, cost, fly, kind)


def _plain(
    identifier: str, name: str, purpose: Purpose, grams: float, kind: str, fly: Fly = "anywhere"
) -> Line:
    room = grams / 1000 * OTHER_LITRES_A_KG[purpose]
    return Line(identifier, name, purpose, grams, room, True, None, fly, kind)


def _shared(course: Course, person: Person) -> list[Line]:
    """Parts of shelters and of the group's kit on one back; what nobody was given is split."""
    found: list[Line] = []
    names = {other.id for other in course.people}
    for shelter in course.shelters:
        given = [part for part in shelter.parts if part.carried_by in names]
        found += [
            replace(_plain(part.id, part.name, "shelter", part.mass_g, "part"), whole=shelter.name)
            for part in given
            if part.carried_by == person.id
        ]
        rest = shelter.mass_g - sum(part.mass_g for part in given)
        if shelter.id in person.shelters and rest > 0:
            sleepers = sum(shelter.id in other.shelters for other in course.people)
            share = _plain(shelter.id, shelter.name, "shelter", rest / sleepers, "share")
            found.append(share)
    kits = {kit.id: kit for kit in course.group}
    nobodys: dict[str, float] = {}
    for unit in units(course):
        kit = kits[unit.kit]
        if unit.carrier == person.id:
            found.append(_plain(kit.id, kit.name, kit.purpose, unit.mass_g, "group", kit.fly))
        elif unit.carrier is None:
            nobodys[kit.id] = nobodys.get(kit.id, 0.0) + unit.mass_g / len(course.people)
    for name, grams in nobodys.items():
        kit = kits[name]
        found.append(_plain(kit.id, kit.name, kit.purpose, grams, "share", kit.fly))
    return found


def _provisions(course: Course, person: Person) -> list[Line]:
    """Food and fuel for the whole course; fuel may not fly at all."""
    days = len(course.days)
    listed: tuple[tuple[str, float, Fly], ...] = (
        ("food", float(food_planned(course, (person,))[0]), "anywhere"),
        ("fuel", person.fuel_g_a_day * days, "never"),
    )
    return [
        replace(_plain(name, name, "food and water", grams, "provisions", fly), days=days)
        for name, grams, fly in listed
        if grams > 0
    ]


OWN_KINDS = {"garment", "bag", "pad", "liner", "cover", "hammock"}


def counted_twice(lines: Sequence[Line]) -> list[Line]:
    """Things packed that are worn or slept in as well, by their names: likely one piece on two
    lines.

    Args:
        lines: from packing_list.

    Source: common practice, no published source.
    """
    own = {line.name.lower() for line in lines if line.kind in OWN_KINDS}
    return [line for line in lines if line.kind in ("item", "group") and line.name.lower() in own]


@dataclass(frozen=True)
class Pair:
    """One line of two lists beside each other; what only one has is None in the other [g]. line is
    None for the sum of a purpose."""

    line: Line | None
    purpose: Purpose
    before: float | None
    after: float | None

    @property
    def change(self) -> float:
        """What the second has more [g]. Source: none, arithmetic."""
        return (self.after or 0.0) - (self.before or 0.0)


@dataclass(frozen=True)
class ListsCompared:
    """Two packing lists: lines that differ, largest first, how many are alike, sums by purpose
    [g], and room of both [L]."""

    pairs: tuple[Pair, ...]
    alike: int
    purposes: tuple[Pair, ...]
    litres: tuple[float, float]

    @property
    def grams(self) -> tuple[float, float]:
        """Mass of both. Source: none, arithmetic."""
        return (
            sum(each.before or 0.0 for each in self.purposes),
            sum(each.after or 0.0 for each in self.purposes),
        )


ALIKE_G = 1.0
"""Lines that differ by less are alike [g]: judgement, below a kitchen scale."""


def compare_lists(before: Sequence[Line], after: Sequence[Line]) -> ListsCompared:
    """Two lists beside each other: the same person's on another trip, or two people's.

    Args:
        before, after: from packing_list; lines of one name are one line.

    Returns:
        The comparison.

    Source: none, arithmetic.
    """
    first, second = _by_name(before), _by_name(after)
    pairs = [
        Pair(
            second.get(key) or first[key],
            (second.get(key) or first[key]).purpose,
            first[key].grams if key in first else None,
            second[key].grams if key in second else None,
        )
        for key in {**second, **first}
    ]
    differ = [
        each
        for each in pairs
        if each.before is None or each.after is None or abs(each.change) >= ALIKE_G
    ]
    purposes = tuple(
        Pair(
            None,
            purpose,
            *(
                sum(line.grams for line in lines if line.purpose == purpose)
                for lines in (before, after)
            ),
        )
        for purpose in PURPOSES
    )
    return ListsCompared(
        pairs=tuple(sorted(differ, key=lambda each: -abs(each.change))),
        alike=len(pairs) - len(differ),
        purposes=purposes,
        litres=(sum(line.litres for line in before), sum(line.litres for line in after)),
    )


def _by_name(lines: Sequence[Line]) -> dict[tuple[str, str, bool], Line]:
    found: dict[tuple[str, str, bool], Line] = {}
    for line in lines:
        known = found.get(line.same)
        found[line.same] = replace(line, grams=known.grams + line.grams) if known else line
    return found
