"""The list of a person, whole: every line with its mass, where that is from, and where it goes."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Literal, get_args

from caldarium.core.day.states import MomentState
from caldarium.core.load.loads import Load
from caldarium.core.load.packing import Line, line_of_item, packing_list
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import regions_covered
from caldarium.core.plan.kit import (
    BedPart,
    Fly,
    Garment,
    Item,
    ItemKind,
    MassFrom,
    Purpose,
)

Category = Literal[
    "next to skin",
    "middle layers",
    "warm layers",
    "shells",
    "hands",
    "head",
    "feet",
    "bed",
    "shelter",
    "pack",
    "kitchen, food and water",
    "light and way",
    "first aid and repair",
    "snow and technical",
    "hygiene",
    "electronics and teaching",
    "comfort",
    "safety and the group",
]
CATEGORIES: tuple[Category, ...] = get_args(Category)
"""By job, in the order in which people get dressed and pack: common practice, no published source.
"""
Where = Literal["worn", "packed", "consumed", "shared", "helped"]
_LAYERS: dict[str, Category] = {
    "base": "next to skin",
    "mid": "middle layers",
    "insulation": "warm layers",
    "shell": "shells",
}
_ENDS: dict[str, Category] = {"hands": "hands", "head": "head", "feet": "feet"}
_KINDS: dict[ItemKind, Category] = {
    "shelter part": "shelter",
    "pack": "pack",
    "cook": "kitchen, food and water",
    "fuel": "kitchen, food and water",
    "food": "kitchen, food and water",
    "water": "kitchen, food and water",
    "light": "light and way",
    "navigation": "light and way",
    "communication": "light and way",
    "first aid": "first aid and repair",
    "repair": "first aid and repair",
    "hygiene": "hygiene",
    "snow and technical": "snow and technical",
    "electronics": "electronics and teaching",
    "teaching": "electronics and teaching",
    "comfort": "comfort",
}
_PURPOSES: dict[Purpose, Category] = {
    "warmth": "warm layers",
    "sleep": "bed",
    "shelter": "shelter",
    "safety": "safety and the group",
    "food and water": "kitchen, food and water",
    "group": "safety and the group",
    "comfort": "comfort",
}


@dataclass(frozen=True)
class Row:
    """One line of somebody's list.

    id, name and category; where it goes; how many, mass of one and of all without what is inside
    [g], room of all [L]; where the mass is from and when; whether a spare, on a mandatory list, or
    apart (teaching and camera kit); the thing it is inside, and what is inside it weighs [g]; how
    deep it lies; what it is for, how it may fly and what it costs; whether it is the person's own
    to change, and of what kind a thing is.
    """

    id: str
    name: str
    category: Category
    where: Where
    each_g: float
    grams: float
    litres: float
    purpose: Purpose
    fly: Fly
    kind: str
    own: bool = False
    count: int = 1
    mass_from: MassFrom = "not said"
    mass_on: date | None = None
    spare: bool = False
    listed: bool = False
    apart: bool = False
    inside: str | None = None
    holds_g: float = 0.0
    depth: int = 0
    cost: float | None = None

    @property
    def marks(self) -> tuple[str, ...]:
        """What it is marked as beside its place: spare, mandatory, apart. Source: none,
        bookkeeping."""
        told = (("spare", self.spare), ("mandatory", self.listed), ("apart", self.apart))
        return tuple(word for word, marked in told if marked)

    @property
    def with_inside_g(self) -> float:
        """It with everything in it [g]. Source: none, a sum."""
        return self.grams + self.holds_g


@dataclass(frozen=True)
class Part:
    """A category of a list: its rows, and what they weigh [g]."""

    category: Category
    rows: tuple[Row, ...]

    @property
    def grams(self) -> float:
        """What all of it weighs. Source: none, a sum."""
        return sum(row.grams for row in self.rows)


@dataclass(frozen=True)
class Sheet:
    """Somebody's whole list by category, on the first morning; water is in it as full bottles."""

    rows: tuple[Row, ...]

    @property
    def parts(self) -> tuple[Part, ...]:
        """The categories that there are, in order. Source: none, bookkeeping."""
        found = [
            Part(category, tuple(row for row in self.rows if row.category == category))
            for category in CATEGORIES
        ]
        return tuple(part for part in found if part.rows)

    def grams(self, *where: Where) -> float:
        """What weighs where [g]; everything where nothing is named. Source: none, a sum."""
        return sum(row.grams for row in self.rows if not where or row.where in where)

    @property
    def unsure_g(self) -> float:
        """What weighs as nobody has weighed it, food, water and shares of others apart [g]."""
        return sum(
            row.grams for row in self.rows if row.own and row.mass_from not in ("scale", "label")
        )


def sheet(course: Course, person: Person, worn: Iterable[str]) -> Sheet:
    """The whole list of a person.

    Args:
        course: for shelters, the group's kit, food and fuel.
        person: whose.
        worn: ids of the clothes of their first walk.

    Source: the plan's own pieces; but for what helpers carry, their sum is the load skin out on the
        first morning.
    """
    on = set(worn)
    clothes = {piece.id: piece for piece in person.garments}
    beds: dict[str, BedPart] = {part.id: part for part in person.bed_parts}
    items = {item.id: item for item in person.items}
    inside = _inside(person)
    rows: list[Row] = []
    for line in packing_list(course, person):
        if line.kind == "garment":
            rows.append(_garment(clothes[line.id], line, on))
        elif line.kind == "item":
            rows.append(_item(items[line.id], line, inside, person))
        elif line.id in beds and line.kind not in ("part", "group", "share", "extra"):
            rows.append(_own(beds[line.id], line))
        else:
            rows.append(_plain(line))
    rows += [
        replace(_item(item, line_of_item(item), inside, person), where="helped")
        for item in person.items
        if item not in person.on_back
    ]
    if person.filled_l > 0:
        rows.append(_water(person.filled_l))
    return Sheet(tuple(rows))


def first_worn(states: Sequence[MomentState]) -> tuple[str, ...]:
    """Ids of the clothes of somebody's first walk, of their states in order.

    Source: the assessment.
    """
    return next((state.worn for state in states if state.kind == "moving"), ())


def _inside(person: Person) -> dict[str, float]:
    """What everything in a thing weighs, by that thing [g], however deep it lies."""
    found: dict[str, float] = {}
    by_id = {item.id: item for item in person.items}
    for item in person.items:
        around = item.inside
        while around is not None:
            found[around] = found.get(around, 0.0) + item.grams
            around = by_id[around].inside
    return found


def _depth(item: Item, person: Person) -> int:
    depth, by_id = 0, {each.id: each for each in person.items}
    around = item.inside
    while around is not None:
        depth, around = depth + 1, by_id[around].inside
    return depth


def category_of(piece: Garment | Item) -> Category:
    """Where on a list clothing or a thing stands. Source: CATEGORIES."""
    if isinstance(piece, Item):
        return _KINDS.get(piece.kind, _PURPOSES[piece.purpose])
    covers = regions_covered(piece)
    small = [name for name in _ENDS if covers == {name}]
    return _ENDS[small[0]] if small else _LAYERS[piece.layer]


def _garment(piece: Garment, line: Line, worn: set[str]) -> Row:
    return replace(
        _own(piece, line),
        category=category_of(piece),
        where="worn" if piece.id in worn else "packed",
        spare=piece.spare,
        kind="garment",
    )


def _own(piece: Garment | BedPart | Item, line: Line) -> Row:
    """A piece of the person's own, packed, as a part of the bed."""
    return Row(
        id=piece.id,
        name=piece.name,
        category="bed",
        where="packed",
        each_g=piece.mass_g,
        grams=line.grams,
        litres=line.litres,
        purpose=line.purpose,
        fly=line.fly,
        kind=line.kind,
        own=True,
        mass_from=piece.mass_from,
        mass_on=piece.mass_on,
        cost=line.cost,
    )


def _item(item: Item, line: Line, inside: dict[str, float], person: Person) -> Row:
    return replace(
        _own(item, line),
        category=category_of(person.around(item)),
        where="worn" if item.worn else "packed",
        count=item.count,
        spare=item.spare,
        listed=item.listed,
        apart=item.apart,
        inside=item.inside,
        holds_g=inside.get(item.id, 0.0),
        depth=_depth(item, person),
        kind=item.kind,
    )


def _plain(line: Line) -> Row:
    """A share, a part, shared kit, provisions or an extra of the bed."""
    shared = line.kind in ("part", "share", "group")
    name = f"{line.name} of {line.whole}" if line.whole else line.name
    return Row(
        id=f"{line.kind}.{line.id}",
        name=f"share of {name}" if line.kind == "share" else name,
        category="bed" if line.kind == "extra" else _PURPOSES[line.purpose],
        where="consumed" if line.kind == "provisions" else "shared" if shared else "packed",
        each_g=line.grams,
        grams=line.grams,
        litres=line.litres,
        purpose=line.purpose,
        fly=line.fly,
        kind=line.kind,
        cost=line.cost,
    )


def _water(filled: float) -> Row:
    return Row(
        id="water",
        name="water in the bottles",
        category="kitchen, food and water",
        where="consumed",
        each_g=1000.0 * filled,
        grams=1000.0 * filled,
        litres=filled,
        purpose="food and water",
        fly="never",
        kind="water",
    )


@dataclass(frozen=True)
class Totals:
    """The three totals of a load [kg]: on the back without food, water and fuel, and without
    teaching and camera kit, which stand beside it; on the back setting out on each day, with all of
    that; and skin out, with what is worn, on each of those mornings."""

    plain: float
    apart: float
    rescue: float
    mornings: tuple[float, ...]
    skin_out: tuple[float, ...]


def totals(load: Load) -> Totals:
    """The three totals that parties compare. Source: sums; common practice, no published source."""
    kept = sum(load.kept.values())
    apart = sum(values[0] for values in load.apart.values())
    away = sum(values[0] for values in load.away.values())
    rescue = load.kept["safety"]
    return Totals(
        plain=kept - away - load.worn - apart,
        apart=apart,
        rescue=rescue,
        mornings=tuple(morning - load.worn for morning in load.by_day),
        skin_out=load.by_day,
    )
