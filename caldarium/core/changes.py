"""Changes to a course value: each takes a course and gives a new, validated one."""

from collections.abc import Iterable

from caldarium.core.course import (
    Bag,
    Course,
    Day,
    Garment,
    Item,
    Overrule,
    Pad,
    Person,
    Shelter,
)

Piece = Garment | Pad | Item | Bag


def with_person(course: Course, person: Person) -> Course:
    """The course with the person of that id replaced. Source: none, bookkeeping."""
    people = (person if each.id == person.id else each for each in course.people)
    return course.altered(people=tuple(people))


def with_day(course: Course, index: int, day: Day) -> Course:
    """The course with one day replaced. Source: none, bookkeeping."""
    days = list(course.days)
    days[index] = day
    return course.altered(days=tuple(days))


def find_person(course: Course, identifier: str) -> Person:
    """The person of that id.

    Raises:
        KeyError: if there is none.

    Source: none, bookkeeping.
    """
    for person in course.people:
        if person.id == identifier:
            return person
    raise KeyError(identifier)


def fresh_id(wanted: str, taken: Iterable[str]) -> str:
    """An id like the wanted one that is not taken. Source: none, bookkeeping."""
    kept = "".join(letter if letter.isascii() and letter.isalnum() else "-" for letter in wanted)
    base = kept.lower().strip("-")[:60] or "piece"
    used = set(taken)
    number, name = 2, base
    while name in used:
        name = f"{base}-{number}"
        number += 1
    return name


def piece_ids(person: Person) -> list[str]:
    """Ids of everything a person has but the bag. Source: none, bookkeeping."""
    return [each.id for each in (*person.garments, *person.pads, *person.items)]


def add_piece(person: Person, piece: Piece) -> Person:
    """The person with one more piece; a bag takes the place of the bag.

    Source: none, bookkeeping.
    """
    if isinstance(piece, Bag):
        return person.altered(bag=piece)
    named = piece.altered(id=fresh_id(piece.id, piece_ids(person)))
    field = {Garment: "garments", Pad: "pads", Item: "items"}[type(piece)]
    return person.altered(**{field: (*getattr(person, field), named)})


def remove_piece(person: Person, identifier: str) -> Person:
    """The person without a piece, and without overrules of it. Source: none, bookkeeping."""
    without = {
        field: tuple(each for each in getattr(person, field) if each.id != identifier)
        for field in ("garments", "pads", "items")
    }
    rules = tuple(each for each in person.overrules if each.garment != identifier)
    bag = None if person.bag is not None and person.bag.id == identifier else person.bag
    return person.altered(**without, overrules=rules, bag=bag)


def swap_garment(person: Person, out: str, piece: Garment) -> Person:
    """The person with one garment in the place of another. Source: none, bookkeeping."""
    taken = [each for each in piece_ids(person) if each != out]
    named = piece.altered(id=fresh_id(piece.id, taken))
    garments = tuple(named if each.id == out else each for each in person.garments)
    rules = tuple(each for each in person.overrules if each.garment != out)
    return person.altered(garments=garments, overrules=rules)


def overrule(person: Person, moment: str, garment: str, worn: bool) -> Person:
    """The person with a word of the user on one piece at one moment; the same word twice is
    taken back to what the rules choose. Source: none, bookkeeping."""
    others = tuple(
        each for each in person.overrules if (each.moment, each.garment) != (moment, garment)
    )
    if len(others) < len(person.overrules):
        return person.altered(overrules=others)
    rule = Overrule(moment=moment, garment=garment, worn=worn)
    return person.altered(overrules=(*others, rule))


def set_pads(person: Person, pads: list[Pad]) -> Person:
    """The person with exactly these pads. Source: none, bookkeeping."""
    bare = person.altered(pads=())
    for pad in pads:
        bare = add_piece(bare, pad)  # type: ignore[assignment]
    return bare


def pitch(course: Course, person: str, shelter: Shelter | str | None) -> Course:
    """Move a person into a shelter: one of the course by id, a new one, or none.

    Source: none, bookkeeping.
    """
    shelters = course.shelters
    if isinstance(shelter, Shelter):
        name = fresh_id(shelter.id, [each.id for each in shelters])
        shelters = (*shelters, shelter.altered(id=name))
        shelter = name
    moved = find_person(course, person).altered(shelter=shelter)
    people = tuple(moved if each.id == person else each for each in course.people)
    used = {each.shelter for each in people}
    kept = tuple(each for each in shelters if each.id in used)
    return course.altered(people=people, shelters=kept)
