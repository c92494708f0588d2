"""Giving pieces of the store to the members of a course."""

from collections import Counter
from collections.abc import Mapping

from caldarium.core.plan.changes import add_piece, fresh_id, with_person
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Bag, Cover, Garment, Hammock, Item, Liner, Pad, Shelter
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
    """How often each stored piece is in somebody's kit, by its id. Source: none, bookkeeping."""
    found: Counter[str] = Counter()
    for person in course.people:
        slept = {part.id: part for bed in person.beds for part in bed.parts}
        parts = (*person.garments, *person.items, *slept.values())
        found.update(part.id for part in parts if part.id.startswith("s-"))
    return found
