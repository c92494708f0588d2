"""Sets of kit by name: what somebody has, taken by others at once."""

from typing import Any

from pydantic import Field

from caldarium.core.plan.changes import piece_ids
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Bag, Bedding, Garment, Item, Pad
from caldarium.core.plan.value import Name, Value


class KitSet(Value):
    """A set of kit: clothes, a bed, other things."""

    name: Name
    garments: tuple[Garment, ...] = Field(default=(), max_length=50)
    bag: Bag | None = None
    pads: tuple[Pad, ...] = ()
    bedding: Bedding = Bedding()
    items: tuple[Item, ...] = ()

    @property
    def grams(self) -> float:
        """What all of it weighs [g]. Source: none, a sum."""
        bag = [self.bag] if self.bag is not None else []
        worn_and_bed = sum(each.mass_g for each in (*self.garments, *self.pads, *bag))
        return worn_and_bed + sum(item.grams for item in self.items)


def set_of(person: Person, name: str) -> KitSet:
    """What somebody has as a set; a bed shared with another does not go along, nor do bags in
    which pieces wait on the way.

    Source: none, bookkeeping.
    """
    return KitSet(
        name=name,
        garments=tuple(each.altered(waits_at=None, left_at=None) for each in person.garments),
        bag=person.bag,
        pads=person.pads,
        bedding=person.bedding.altered(beside=None),
        items=tuple(each.altered(waits_at=None, left_at=None) for each in person.items),
    )


def with_set(person: Person, kit: KitSet, *, instead: bool) -> Person:
    """Somebody with a set, in the place of what they have or besides it.

    Args:
        person: who takes it.
        kit: the set.
        instead: whether everything of theirs stays at home; else what they have already stays,
            and pieces of the same id are not doubled.

    Source: none, bookkeeping.
    """
    if instead:
        parts: dict[str, Any] = {name: getattr(kit, name) for name in _PARTS}
        return person.altered(**parts, overrules=())
    have = set(piece_ids(person))
    added = {
        name: (*getattr(person, name), *(p for p in getattr(kit, name) if p.id not in have))
        for name in ("garments", "pads", "items")
    }
    bag = kit.bag if kit.bag is not None else person.bag
    return person.altered(**added, bag=bag)


_PARTS = ("garments", "bag", "pads", "bedding", "items")
