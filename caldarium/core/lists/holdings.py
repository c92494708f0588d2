"""What people have, as a list of gear looks at it: things with their sorts and figures."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache

import numpy as np

from caldarium.core.load.packing import Piece
from caldarium.core.load.supplies import ration
from caldarium.core.physics import bed as bed_room
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import regions_covered, warmth
from caldarium.core.plan.gear_list import SORTS, Sort
from caldarium.core.plan.group_kit import units
from caldarium.core.plan.kit import (
    Bag,
    Cover,
    Garment,
    GroupKit,
    Hammock,
    Item,
    Liner,
    Pad,
    Shelter,
)

PROVISIONS, BOTTLES = "provisions", "bottles"
"""Ids of food that is planned by the day, and of bottles of which only the litres are known."""
BUILT = ("bothy", "hut", "igloo", "snow shelter")
"""Shelters that nobody carries."""
FACE_COVERED = 0.5
"""Share of the face from which a piece covers it: judgement."""


@dataclass(frozen=True)
class Holding:
    """A thing that somebody has, or that the party has where `who` is None: its sorts, its name,
    how many alike there are, mass of one [g] and its figures.

    facts are in the units of Least, None where nobody said; derived names those that were not
    printed but computed; piece is the id by which it can be changed, tag the store's, and shared
    whether it is the group's, with the people that it serves.
    """

    id: str
    name: str
    who: str | None
    sorts: frozenset[Sort]
    count: int
    grams: float
    facts: Mapping[str, float | bool | None]
    derived: frozenset[str] = frozenset()
    piece: str = ""
    tag: str = ""
    shared: bool = False
    of: tuple[str, ...] = field(default=())

    @property
    def key(self) -> str:
        """What it is known by among everybody's. Source: none, bookkeeping."""
        return f"{self.who or ''}/{self.id}"


def holdings(
    course: Course, own: Callable[[Person], Sequence[Holding]] | None = None
) -> list[Holding]:
    """Everything that the party has, person by person, then what is shared.

    Args:
        course: the plan.
        own: what people have by themselves, where that is known already; own_things.

    Returns:
        Clothes, beds, things, planned food and bottles of everybody; group kit with whoever carries
        it; shelters that are carried, of those who sleep in them.

    Source: the plan's own figures; warmth as core.plan.wardrobe, food as core.load.supplies.
    """
    own = own or own_things
    found = [e for who in course.people for e in (*own(who), *_planned_food(course, who))]
    kits = {kit.id: kit for kit in course.group}
    names = {person.id for person in course.people}
    for unit in units(course):
        who = unit.carrier if unit.carrier in names else None
        found.append(shared_thing(kits[unit.kit], unit.place, who))
    for shelter in course.shelters:
        inside = tuple(each.id for each in course.people if shelter.id in each.shelters)
        if shelter.kind not in BUILT and inside:
            found.append(_shelter(shelter, inside))
    return found


def of_person(course: Course, person: Person) -> list[Holding]:
    """What one person has by themselves, planned food with it. Source: as holdings."""
    return [*own_things(person), *_planned_food(course, person)]


def own_things(person: Person) -> list[Holding]:
    """Clothes, beds, things and bottles of one person. Source: as holdings."""
    pieces: list[Piece] = [*person.garments, *person.bed_parts, *person.items]
    warm = _warmth_of(person.garments)
    found = [holding_of(each, person.id, warm.get(each.id)) for each in pieces]
    return _with_bottles(person, found)


def _planned_food(course: Course, person: Person) -> list[Holding]:
    """Food that somebody's days ask for, as one thing."""
    days = [ration(course, person, day) for day in range(len(course.days))]
    grams = sum(day.grams for day in days)
    if grams <= 0:
        return []
    food: frozenset[Sort] = frozenset(("food",))
    energy = {"kcal": sum(day.kcal for day in days), "mass_g": grams}
    return [Holding(PROVISIONS, PROVISIONS, person.id, food, 1, grams, energy)]


def _with_bottles(person: Person, found: list[Holding]) -> list[Holding]:
    """The things with what bottles hold of which only the whole is known."""
    sized = sum((i.capacity_l or 0.0) * i.count for i in person.items if i.kind == "water")
    rest = (person.containers_l or 0.0) - sized
    if rest <= 0:
        return found
    for at, each in enumerate(found):
        if "water" in each.sorts and each.facts.get("litres") is None:
            facts = dict(each.facts) | {"litres": rest / each.count}
            return [*found[:at], replace(each, facts=facts), *found[at + 1 :]]
    facts = {"litres": rest}
    return [*found, Holding(BOTTLES, BOTTLES, person.id, frozenset(("water",)), 1, 0.0, facts)]


def _warmth_of(pieces: Sequence[Garment]) -> dict[str, float]:
    """Insulation of pieces of which the thickness is known [clo], by id; all in one go."""
    measured = [each for each in pieces if each.clo is None]
    clo = warmth(measured).clo if measured else np.zeros(0)
    return {each.id: float(clo[at]) for at, each in enumerate(measured)}


def holding_of(piece: Piece | Shelter, who: str | None, clo: float | None = None) -> Holding:
    """One piece as lists look at it.

    Args:
        piece: it.
        who: whose it is, None where it is nobody's.
        clo: its insulation where that is known already [clo].

    Source: its own figures; see holdings.
    """
    derived: frozenset[str] = frozenset()
    if isinstance(piece, Bag) and (piece.label != "comfort" or piece.limit_c is None):
        derived = frozenset(("limit_c" if piece.label == "comfort" else "comfort_c",))
    return Holding(
        piece.id,
        piece.name,
        who,
        sorts_of(piece),
        piece.count if isinstance(piece, Item) else 1,
        piece.mass_g,
        {"mass_g": piece.mass_g} | _facts(piece, clo),
        derived,
        piece.id,
        piece.tag,
    )


Facts = dict[str, float | bool | None]
_NAMED = {
    "clo": "clo",
    "waterproof": "waterproof",
    "taped": "taped",
    "water_mm": "water_mm",
    "r_value": "r_value",
    "litres": "capacity_l",
    "kcal": "kcal",
    "light_h": "light_h",
}
"""What a figure of a list is called in a piece."""


def _facts(piece: Piece | Shelter, clo: float | None) -> Facts:
    found: Facts = {fact: getattr(piece, name, None) for fact, name in _NAMED.items()}
    if isinstance(piece, Garment):
        found["insulated"] = piece.layer == "insulation"
        if piece.clo is None:
            found["clo"] = _warmth_of([piece])[piece.id] if clo is None else clo
    elif isinstance(piece, Bag):
        found["comfort_c"], found["limit_c"] = label_figures(piece)
    elif isinstance(piece, Cover | Shelter):
        found["waterproof"] = True
        found["water_mm"] = getattr(piece, "wall_mm", None)
    return found


def label_figures(bag: Bag) -> tuple[float, float]:
    """Comfort and limit figure of a bag [°C], the one that is not printed by the model's two
    sleepers; a maker's single number counts as limit.

    Source: core.physics.bed.bag_resistance, turned round.
    """
    if bag.label == "comfort" and bag.limit_c is not None:
        return bag.label_c, bag.limit_c
    return _both_figures(bag.label_c, comfort=bag.label == "comfort")


@lru_cache(maxsize=1024)
def _both_figures(label_c: float, *, comfort: bool) -> tuple[float, float]:
    known, other = bed_room.LIMIT, bed_room.COMFORT
    if comfort:
        known, other = other, known
    resistance = float(bed_room.bag_resistance(label_c, known))
    grid = np.linspace(-60.0, 35.0, 951)
    # Warmer labels are thinner bags, so that the grid is turned for interpolation.
    there = bed_room.bag_resistance(grid, other)
    found = round(float(np.interp(resistance, there[::-1], grid[::-1])), 1)
    return (label_c, found) if comfort else (found, label_c)


def sorts_of(piece: Piece | Shelter) -> frozenset[Sort]:
    """What a piece is to a list of gear. Source: where it is worn, what it is; bookkeeping."""
    if isinstance(piece, Garment):
        return _clothes(piece)
    if isinstance(piece, Item):
        return frozenset(each for each in SORTS if each == piece.kind)
    names: dict[type[object], Sort] = {
        Bag: "bag",
        Pad: "pad",
        Liner: "liner",
        Cover: "cover",
        Hammock: "hammock",
        Shelter: "shelter",
    }
    sorts: set[Sort] = {names[type(piece)]}
    if isinstance(piece, Shelter) and piece.kind == "bivouac bag":
        sorts.add("cover")
    return frozenset(sorts)


def _clothes(piece: Garment) -> frozenset[Sort]:
    over = regions_covered(piece)
    found: set[Sort] = set()
    if piece.face >= FACE_COVERED:
        found.add("face cover")
    if over == {"head"}:
        found.add("hat")
    if over == {"hands"}:
        found.add("handwear")
    if "feet" in over and not over & {"trunk", "thighs"} and not piece.only_at_camp:
        found.add("footwear" if piece.layer in ("shell", "insulation") else "socks")
    if "trunk" in over:
        above: dict[str, Sort] = {"base": "base layer above", "shell": "shell above"}
        found.add(above.get(piece.layer, "warm layer above"))
    if "thighs" in over:
        below: dict[str, Sort] = {"base": "base layer below", "shell": "shell below"}
        if piece.always and piece.layer != "base":
            found.add("trousers")
        else:
            found.add(below.get(piece.layer, "warm layer below"))
    return frozenset(found)


def shared_thing(kit: GroupKit, place: int, who: str | None) -> Holding:
    """One piece of the group's kit, by its place among those alike, and who carries it.

    Source: its own figures; see holdings.
    """
    sorts: frozenset[Sort] = frozenset(each for each in SORTS if each == kit.kind)
    facts: dict[str, float | bool | None] = {"mass_g": kit.mass_g}
    name = f"{kit.id}.{place}"
    return Holding(name, kit.name, who, sorts, 1, kit.mass_g, facts, shared=True, piece=kit.id)


def _shelter(shelter: Shelter, inside: tuple[str, ...]) -> Holding:
    found = holding_of(shelter, None)
    return replace(found, shared=True, of=inside)


def words_in(name: str) -> tuple[str, ...]:
    """A name as lower-case words without punctuation. Source: none, bookkeeping."""
    return _words(name)


@lru_cache(maxsize=8192)
def _words(name: str) -> tuple[str, ...]:
    kept = "".join(letter if letter.isalnum() else " " for letter in name.casefold())
    return tuple(kept.split())


def has_word(name: str, wanted: str) -> bool:
    """Whether a name has some words in a row, the last of them possibly in the plural or grown
    together with more ("torch" in "head torches"; "sun" not in "sunday").

    Source: none, bookkeeping.
    """
    return _has(name, wanted)


@lru_cache(maxsize=65536)
def _has(name: str, wanted: str) -> bool:
    have, want = _words(name), _words(wanted)
    if not want:
        return False
    return any(
        have[at : at + len(want) - 1] == want[:-1] and _alike(have[at + len(want) - 1], want[-1])
        for at in range(len(have) - len(want) + 1)
    )


PLURALS = ("", "s", "es")


def _alike(word: str, wanted: str) -> bool:
    return any(word == wanted + end for end in PLURALS)
