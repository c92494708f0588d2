"""What would meet a line that is not met: from the store, hired or bought."""

from collections.abc import Sequence
from dataclasses import dataclass

from caldarium.core.lists.holdings import holding_of
from caldarium.core.lists.judge import TOGETHER, Judged, fits, shortfalls
from caldarium.core.plan.changes import add_piece, fresh_id, remove_piece, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.gear_list import Wanted
from caldarium.core.plan.kit import Bag, Garment, Hammock, Item, Pad, Shelter
from caldarium.core.stock.inventory import Kit, Stored, as_kit
from caldarium.core.stock.issue import give, kit_id
from caldarium.core.stock.supply import SOURCES, Source, Supply, stored_kit

MOST_CURES = 4
"""Ways out that are offered for one line."""


@dataclass(frozen=True)
class Cure:
    """A piece that would do what a part of a line asks: where it is from, its tag in the store or
    its id in the catalogue, mass of one [g], how many are needed, what one costs, None where
    nobody said, and how many are there, None for as many as one likes; swaps is the piece that it
    takes the place of."""

    source: Source
    key: str
    piece: Kit
    count: int
    cost: float | None
    left: int | None
    swaps: str = ""

    @property
    def grams(self) -> float:
        """What all of it weighs [g]. Source: none, arithmetic."""
        return self.piece.mass_g * self.count


def cures_for(course: Course, judged: Judged, supply: Supply) -> list[Cure]:
    """Pieces by which a line would be met, by source and then the lightest.

    Args:
        course: the plan.
        judged: a line that is not met.
        supply: what there is; what somebody owns beside what they carry is in the store under
            their name.

    Returns:
        At most MOST_CURES, none where the line holds. A line of several parts gets cures for the
        part that lacks most, and once that is there for the next.

    Source: the list's own words and the store's figures.
    """
    wanted = judged.lacks
    if judged.good or wanted is None:
        return []
    names = {each.name for each in course.people if each.id in judged.subject.people}
    swaps = _swapped(judged)
    found: list[Cure] = []
    for stored in supply.stored:
        if stored.owner == "member" and stored.owner_name in names:
            found += _of_stored(supply, judged, wanted, "own", stored, swaps)
    for source in SOURCES:
        for stored, kit in stored_kit(supply, source):
            cost = 0.0 if source == "store" else stored.cost
            left = supply.left_of(stored)
            found += _one(judged, wanted, Cure(source, stored.tag, kit, 1, cost, left, swaps))
    for name, kit in (supply.everything or {}).items():
        cost = getattr(kit, "cost", None)
        found += _one(judged, wanted, Cure("buy", name, kit, 1, cost, None, swaps))
    order = {source: at for at, source in enumerate(SOURCES)}
    listed = sorted(found, key=lambda each: (order[each.source], each.grams, each.key))
    seen: set[tuple[Source, str]] = set()
    kept: list[Cure] = []
    for each in listed:
        look = (each.source, each.piece.name)
        if look not in seen:
            seen.add(look)
            kept.append(each)
    return _spread(kept)


def _spread(cures: Sequence[Cure]) -> list[Cure]:
    """The first few, each source among them."""
    first = [
        next(c for c in cures if c.source == s) for s in dict.fromkeys(c.source for c in cures)
    ]
    rest = [each for each in cures if each not in first]
    kept = [*first, *rest][:MOST_CURES]
    return [each for each in cures if each in kept]


def _of_stored(
    supply: Supply, judged: Judged, wanted: Wanted, source: Source, stored: Stored, swaps: str
) -> list[Cure]:
    kit = as_kit(stored, supply.everything or {}, kit_id(stored))
    cure = Cure(source, stored.tag, kit, 1, 0.0, supply.left_of(stored), swaps)
    return _one(judged, wanted, cure)


def _swapped(judged: Judged) -> str:
    """The piece that is too weak, where it is somebody's own and one better takes its place."""
    if judged.state != "too weak" or not judged.pieces or judged.subject.of != "head":
        return ""
    weak = judged.pieces[-1]
    return weak.piece if weak.who == judged.subject.id else ""


def _one(judged: Judged, wanted: Wanted, cure: Cure) -> list[Cure]:
    """The cure with as many as are needed; none where it would not do."""
    kit = cure.piece
    if isinstance(kit, Shelter | Hammock) or cure.left == 0:
        return []
    holding = holding_of(kit, None)
    if not fits(holding, wanted) or shortfalls(holding, wanted.least):
        return []
    need = max(judged.asked - judged.has, 1)
    for short in judged.short:
        if short.fact in TOGETHER:
            each = float(holding.facts.get(short.fact) or 0.0)
            if each <= 0:
                return []
            need = max(need, -int(-(short.asked - (short.has or 0.0)) // each))
    swaps = cure.swaps if _same(kit, judged) else ""
    if isinstance(kit, Bag) and need > 1:
        return []
    if cure.left is not None and need > cure.left:
        return []
    return [Cure(cure.source, cure.key, kit, need, cure.cost, cure.left, swaps)]


def _same(kit: Kit, judged: Judged) -> bool:
    """Whether a piece does the job of the one that is too weak; pads are laid on each other."""
    if not judged.pieces or isinstance(kit, Pad):
        return False
    return bool(holding_of(kit, None).sorts & judged.pieces[-1].sorts)


def taken(course: Course, person: str, cure: Cure, supply: Supply) -> Course:
    """The course with a cure in somebody's kit.

    Raises:
        KeyError: for a person or piece that is not there.

    Source: none, bookkeeping.
    """
    everything = supply.everything or {}
    stored = {each.tag: each for each in supply.stored}
    if cure.swaps:
        member = course.person(person)
        if any(each.id == cure.swaps for each in (*member.garments, *member.items)):
            course = with_person(course, remove_piece(member, cure.swaps))
    for _ in range(cure.count):
        if cure.key in stored:
            course = give(course, person, stored[cure.key], everything)
        else:
            course = with_person(course, _bought(course.person(person), everything[cure.key]))
    return _holding_more(course, person, cure)


def _holding_more(course: Course, person: str, cure: Cure) -> Course:
    """The course with what somebody's bottles hold in all, where a bottle came to them."""
    member, kit = course.person(person), cure.piece
    if not isinstance(kit, Item) or kit.kind != "water" or member.containers_l is None:
        return course
    more = (kit.capacity_l or 0.0) * cure.count
    return with_person(course, member.altered(containers_l=member.containers_l + more))


def _bought(person: Person, kit: Kit) -> Person:
    if isinstance(kit, Bag | Pad | Garment | Item):
        return add_piece(person, kit)
    place = type(kit).__name__.lower()
    taken = [each.id for each in person.bed_parts]
    part = kit.altered(id=fresh_id(kit.id, taken))
    return person.altered(bedding=person.bedding.altered(**{place: part}))
