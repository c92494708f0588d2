"""Giving pieces of the store to the members of a course."""

from collections import Counter
from collections.abc import Mapping
from typing import Any

from caldarium.core.plan.changes import add_piece, fresh_id, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.group_kit import wanted
from caldarium.core.plan.kit import (
    Bag,
    BedPart,
    Cover,
    Garment,
    GroupKit,
    Hammock,
    Item,
    Liner,
    Pad,
    Shelter,
    Weighed,
)
from caldarium.core.stock.inventory import Kit, Stored, as_kit


def kit_id(piece: Stored) -> str:
    """The id a stored piece has in a course: its tag, so that it is found again.

    Source: none, bookkeeping.
    """
    return fresh_id(f"s-{piece.tag}", ())


def give(course: Course, person: str, piece: Stored, catalogue: Mapping[str, Kit]) -> Course:
    """The course with a stored piece in a person's kit; a bag takes the place of the bag.

    Raises:
        KeyError: for a person who is not there.

    Source: none, bookkeeping.
    """
    member, kit = course.person(person), as_kit(piece, catalogue, kit_id(piece))
    if isinstance(kit, Shelter):
        return course.altered(
            shelters=(*(each for each in course.shelters if each.id != kit.id), kit),
            people=tuple(
                each.altered(shelter=kit.id) if each.id == person else each
                for each in course.people
            ),
        )
    if isinstance(kit, Liner | Cover | Hammock):
        place = {Liner: "liner", Cover: "cover", Hammock: "hammock"}[type(kit)]
        bedding = member.bedding.altered(**{place: kit})
        return with_person(course, member.altered(bedding=bedding))
    assert isinstance(kit, Bag | Pad | Garment | Item)
    return with_person(course, add_piece(member, kit))


def lent(course: Course) -> Counter[str]:
    """How many of each stored piece a course has, by its tag in lower case; of pieces given before
    tags were kept, by the id that their tag gave them.

    Source: none, bookkeeping.
    """
    found: Counter[str] = Counter()
    for person in course.people:
        for piece in stored_pieces(person):
            found[store_key(piece)] += piece.count if isinstance(piece, Item) else 1
    for shelter in course.shelters:
        if store_key(shelter):
            found[store_key(shelter)] += 1
    for kit in stored_group(course):
        found[store_key(kit)] += wanted(course, kit)
    return found


def stored_group(course: Course) -> list[GroupKit]:
    """What of the group's kit is from the store, of each as many as its rule asks.

    Source: none, bookkeeping.
    """
    return [kit for kit in course.group if kit.tag]


def store_key(piece: Weighed) -> str:
    """What a piece of kit is known by in the store: its tag in lower case, or the id that a tag
    gave it; empty for one that is not from there. Source: none, bookkeeping."""
    if piece.tag:
        return piece.tag.lower()
    name: str = getattr(piece, "id", "")
    return name if name.startswith("s-") else ""


def given_out(out: Counter[str], piece: Stored) -> int:
    """How many of a piece are in people's kit, of a count by store_key.

    Source: none, bookkeeping.
    """
    return out[piece.tag.lower()] + out[kit_id(piece)]


def stored_pieces(person: Person) -> list[Garment | BedPart | Item]:
    """What somebody has from the store, each piece once. Source: none, bookkeeping."""
    slept = {part.id: part for bed in person.beds for part in bed.parts}
    pieces = (*person.garments, *person.items, *slept.values())
    return [piece for piece in pieces if store_key(piece)]


def reweighed(course: Course, piece: Stored) -> Course:
    """The course with a stored piece's mass as the store has it now, wherever it was given.

    Source: none, bookkeeping.
    """
    told = {"mass_g": piece.mass_g, "mass_from": piece.mass_from, "mass_on": piece.mass_on}
    keys = {piece.tag.lower(), kit_id(piece)}

    def again(part: Any) -> Any:
        if not isinstance(part, Weighed) or store_key(part) not in keys:
            return part
        lighter = getattr(part, "parts", ())
        return part.altered(**told) if not lighter else part

    def bed(parts: Any) -> Any:
        hammock = parts.hammock
        if hammock is not None:
            hammock = again(hammock).altered(underquilt=again(hammock.underquilt))
        named = {name: again(getattr(parts, name)) for name in ("over", "liner", "cover")}
        return parts.altered(**named, hammock=hammock)

    people = tuple(
        person.altered(
            garments=tuple(map(again, person.garments)),
            items=tuple(map(again, person.items)),
            pads=tuple(map(again, person.pads)),
            bag=again(person.bag),
            bedding=bed(person.bedding),
        )
        for person in course.people
    )
    return course.altered(
        people=people,
        shelters=tuple(map(again, course.shelters)),
        group=tuple(map(again, course.group)),
    )
