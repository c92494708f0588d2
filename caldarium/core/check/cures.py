"""What would meet a line that is not met: from the store, hired or bought."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from caldarium.core.lists.holdings import Holding, holding_of
from caldarium.core.lists.judge import Judged
from caldarium.core.lists.parts import TOGETHER, fits, shortfalls
from caldarium.core.plan.changes import add_piece, fresh_id, remove_piece, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Garment, Hammock, Item, Pad, Shelter
from caldarium.core.stock.inventory import Kit, as_kit
from caldarium.core.stock.issue import give, kit_id
from caldarium.core.stock.supply import SOURCES, Source, Supply, stored_kit

MOST_CURES = 4
"""Ways out that are offered for one line."""


@dataclass(frozen=True)
class Cure:
    """A piece that would do what a part of a line asks: where it is from, its tag in the store or
    its id in the catalogue, how many are needed, what one costs, None where nobody said, and how
    many are there, None for as many as one likes; swaps is the piece that it takes the place of."""

    source: Source
    key: str
    piece: Kit
    count: int
    cost: float | None
    left: int | None
    swaps: str = ""

    @property
    def name(self) -> str:
        """What it is called in a form. Source: none, bookkeeping."""
        return f"{self.source} {self.key}"

    @property
    def grams(self) -> float:
        """What all of it weighs [g]. Source: none, arithmetic."""
        return self.piece.mass_g * self.count


@dataclass(frozen=True)
class OnShelf:
    """A piece that could be given, as lists look at it; whose it is, where it is a member's."""

    cure: Cure
    holding: Holding
    owner: str = ""


def shelf_of(supply: Supply) -> list[OnShelf]:
    """Everything that could be given, the nearest source first, in each the lightest.

    Shelters and hammocks are chosen elsewhere, by the nights.

    Source: the store's figures.
    """
    everything = supply.everything or {}
    found: list[OnShelf] = []

    def put(cure: Cure, owner: str = "") -> None:
        if not isinstance(cure.piece, Shelter | Hammock) and cure.left != 0:
            found.append(OnShelf(cure, holding_of(cure.piece, None), owner))

    for stored in supply.stored:
        if stored.owner == "member" and stored.owner_name:
            kit = as_kit(stored, everything, kit_id(stored))
            put(Cure("own", stored.tag, kit, 1, 0.0, supply.left_of(stored)), stored.owner_name)
    for source in SOURCES:
        for stored, kit in stored_kit(supply, source):
            cost = 0.0 if source == "store" else stored.cost
            put(Cure(source, stored.tag, kit, 1, cost, supply.left_of(stored)))
    for name, kit in everything.items():
        put(Cure("buy", name, kit, 1, getattr(kit, "cost", None), None))
    order = {source: at for at, source in enumerate(SOURCES)}
    return sorted(found, key=lambda e: (order[e.cure.source], e.cure.grams, e.cure.key))


def cures_for(course: Course, judged: Judged, shelf: Sequence[OnShelf]) -> list[Cure]:
    """Pieces by which a line would be met, by source and then the lightest.

    Args:
        course: the plan.
        judged: a line that is not met.
        shelf: from shelf_of; what somebody owns beside what they carry is in the store under their
            name.

    Returns:
        At most MOST_CURES, of each source one at least, none where the line holds. A line of
        several parts gets cures for the part that lacks most, and once that is there for the next.

    Source: the list's own words and the store's figures.
    """
    names = {each.name for each in course.people if each.id in judged.subject.people}
    seen: dict[tuple[Source, str], Cure] = {}
    for each in shelf:
        if each.owner and each.owner not in names:
            continue
        cure = _one(judged, each)
        if cure is not None:
            seen.setdefault((cure.source, cure.piece.name), cure)
    cures = list(seen.values())
    first = {each.source: each for each in reversed(cures)}
    kept = [*first.values(), *(each for each in cures if first[each.source] is not each)]
    return [each for each in cures if each in kept[:MOST_CURES]]


def _one(judged: Judged, shelved: OnShelf) -> Cure | None:
    """The cure with as many as are needed; None where it would not do."""
    wanted, kit, holding = judged.lacks, shelved.cure.piece, shelved.holding
    if wanted is None or not fits(holding, wanted) or shortfalls(holding, wanted.least):
        return None
    need = judged.need
    for short in judged.short:
        if short.fact in TOGETHER:
            each = float(holding.facts.get(short.fact) or 0.0)
            if each <= 0:
                return None
            need = max(need, -int(-(short.asked - (short.has or 0.0)) // each))
    left = shelved.cure.left
    if (left is not None and need > left) or (isinstance(kit, Bag) and need > 1):
        return None
    return replace(shelved.cure, count=need, swaps=_swapped(judged, kit, holding))


def _swapped(judged: Judged, kit: Kit, holding: Holding) -> str:
    """The piece that is too weak, where it is somebody's own and one better takes its place; pads
    are laid on each other."""
    weak = judged.nearest
    if judged.state != "too weak" or weak is None or isinstance(kit, Pad):
        return ""
    own = judged.subject.of in ("head", "instructor") and weak.who == judged.subject.id
    return weak.piece if own and holding.sorts & weak.sorts else ""


def taken(course: Course, person: str, cure: Cure, supply: Supply) -> Course:
    """The course with a cure in somebody's kit.

    Raises:
        KeyError: for a person or piece that is not there.

    Source: none, bookkeeping.
    """
    everything = supply.everything or {}
    stored = {each.tag: each for each in supply.stored}
    member = course.person(person)
    if any(each.id == cure.swaps for each in (*member.garments, *member.items)):
        course = with_person(course, remove_piece(member, cure.swaps))
    for _ in range(cure.count):
        if cure.left is not None:
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
    part = kit.altered(id=fresh_id(kit.id, [each.id for each in person.bed_parts]))
    return person.altered(bedding=person.bedding.altered(**{place: part}))


def give_all(
    course: Course, lines: Sequence[Judged], wanted: str, carrier: str, supply: Supply
) -> tuple[Course, list[tuple[str, Cure]]]:
    """The course with one piece given for several lines, as far as there are enough of it; where
    the one that was chosen is gone, another of its name is, from a source further off.

    Args:
        course: the plan.
        lines: that are not met, alike but for whom they are asked of.
        wanted: the name of the cure that was chosen.
        carrier: who gets what is asked of more than one person.
        supply: what there is.

    Returns:
        The course, and who got which cure.

    Raises:
        KeyError: for a carrier who is not there.

    Source: none, bookkeeping.
    """
    given: list[tuple[str, Cure]] = []
    shelf = shelf_of(supply)
    named = {each.cure.piece.name for each in shelf if each.cure.name == wanted}
    for line in lines:
        cures = cures_for(course, line, shelf)
        alike = [each for each in cures if each.piece.name in named]
        cure = next((each for each in cures if each.name == wanted), next(iter(alike), None))
        if cure is None:
            continue
        own = line.subject.of in ("head", "instructor")
        who = course.person(line.subject.id if own else carrier).id
        course = taken(course, who, cure, supply)
        shelf = [_less(each, cure) for each in shelf]
        given.append((who, cure))
    return course, given


def _less(shelved: OnShelf, cure: Cure) -> OnShelf:
    """What is left on the shelf of what was just given."""
    left = shelved.cure.left
    if left is None or shelved.cure.name != cure.name:
        return shelved
    return replace(shelved, cure=replace(shelved.cure, left=left - cure.count))
