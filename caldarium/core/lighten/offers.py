"""What could be taken: what somebody has, what the store has left, what can be hired or bought."""

from collections.abc import Collection
from dataclasses import dataclass, replace

from caldarium.core.night.bedding import fits
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Bag, Cover, Garment, Liner, Pad
from caldarium.core.stock.supply import SOURCES, Source, Supply, stored_kit

Piece = Garment | Bag | Pad | Liner | Cover


@dataclass(frozen=True)
class Offer:
    """A piece that may be in the set: where it comes from, what it costs the party, None where
    nobody said, and the store's tags of which any one will do."""

    piece: Piece
    source: Source
    cost: float | None
    tags: tuple[str, ...] = ()

    @property
    def key(self) -> str:
        """What it is known by in a set. Source: none, bookkeeping."""
        return self.piece.id


def own_pieces(person: Person) -> list[Piece]:
    """Clothes and bed that somebody has and that a choice may leave at home; a hammock stays.

    Source: none, bookkeeping.
    """
    bedding = person.bedding
    bed = (person.bag, *person.pads, bedding.over, bedding.liner, bedding.cover)
    return [*person.garments, *(part for part in bed if part is not None)]


def own_grams(person: Person) -> float:
    """What those weigh [g]. Source: none, a sum."""
    return sum(piece.mass_g for piece in own_pieces(person))


def offers_for(
    person: Person,
    supply: Supply,
    sources: Collection[Source] = SOURCES,
) -> list[Offer]:
    """Everything that somebody could take.

    Args:
        person: for whom; bags and pads that do not fit are not offered.
        supply: what there is.
        sources: that may be drawn on.

    Returns:
        Own pieces first, then by source; of stored pieces alike in every figure one offer.

    Source: the store's own figures; catalogue pieces have no price unless they say so.
    """
    found = [Offer(piece, "own", 0.0) for piece in own_pieces(person) if "own" in sources]
    taken = {each.key for each in found} | {piece.id for piece in own_pieces(person)}
    listed = [each for source in SOURCES for each in _stored(supply, source) if source in sources]
    alike: dict[str, int] = {}
    for offer in listed:
        if not _may(person, offer.piece) or offer.key in taken:
            continue
        look = f"{offer.source} {look_of(offer.piece)}"
        if look in alike:
            at = alike[look]
            found[at] = replace(found[at], tags=found[at].tags + offer.tags)
            continue
        alike[look] = len(found)
        taken.add(offer.key)
        found.append(offer)
    return found


def _stored(supply: Supply, source: Source) -> list[Offer]:
    """What the store holds of one source, and for "buy" the catalogue as well."""
    found: list[Offer] = []
    for piece, kit in stored_kit(supply, source):
        if isinstance(kit, Piece):
            cost = 0.0 if source == "store" else piece.cost
            found.append(Offer(kit, source, cost, (piece.tag.lower(),)))
    if source == "buy":
        goods = [each for each in (supply.everything or {}).values() if isinstance(each, Piece)]
        found += [Offer(each, source, each.cost) for each in goods]
    return found


def look_of(piece: Piece) -> str:
    """What pieces that are alike in every figure have in common. Source: none, bookkeeping."""
    blank = {"id": "", "name": "", "tag": "", "mass_on": None, "mass_from": "not said"}
    return repr(piece.model_copy(update=blank))


def _may(person: Person, piece: Piece) -> bool:
    if isinstance(piece, Bag | Pad):
        return fits(person, piece)
    return not (isinstance(piece, Cover) and piece.reflects)


def alike_tags(supply: Supply) -> dict[str, tuple[str, ...]]:
    """Tags of which any one will do, by the key of every piece that bears one of them.

    Source: none, bookkeeping.
    """
    groups: dict[str, list[Offer]] = {}
    for offer in (each for source in SOURCES for each in _stored(supply, source) if each.tags):
        groups.setdefault(f"{offer.source} {look_of(offer.piece)}", []).append(offer)
    return {
        each.key: tuple(tag for one in alike for tag in one.tags)
        for alike in groups.values()
        for each in alike
    }


def counted(offer: Offer, supply: Supply) -> int | None:
    """How many of an offer there are, None for as many as one likes. Source: none, counts."""
    if not offer.tags:
        return 1 if offer.source == "own" else None
    by_tag = {piece.tag.lower(): piece for piece in supply.stored}
    return sum(supply.left_of(by_tag[tag]) for tag in offer.tags)
