"""Which beds can be made of the pieces on offer: what lies over somebody, and what under."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

from caldarium.core.lighten.offers import Offer
from caldarium.core.load.packing import closed_foam
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Cover, Liner, Pad

MOST_PADS = 2
HARD_GROUND = ("snow", "frozen")


@dataclass(frozen=True)
class Part:
    """Some pieces of a bed that are chosen together, by their place in the list of offers; what
    they weigh [g]."""

    offers: tuple[int, ...]
    grams: float


@dataclass(frozen=True)
class Top(Part):
    """What lies over a sleeper: bag, a second one over it, liner, cover; None for none."""

    bag: Bag | None
    over: Bag | None
    liner: Liner | None
    cover: Cover | None

    def on(self, person: Person) -> Person:
        """Somebody under it, wet clothes out of the bed: what is counted on there is dry, so that
        a piece more never makes a bed colder. Source: none, bookkeeping."""
        parts = {"over": self.over, "liner": self.liner, "cover": self.cover, "wet_out": True}
        bedding = person.bedding.model_copy(update=parts)
        return person.model_copy(update={"bag": self.bag, "bedding": bedding})


@dataclass(frozen=True)
class Bottom(Part):
    """What lies under a sleeper."""

    pads: tuple[Pad, ...]

    def on(self, person: Person) -> Person:
        """Somebody on it. Source: none, bookkeeping."""
        return person.model_copy(update={"pads": self.pads})


def tops(person: Person, offers: Sequence[Offer], needed: bool) -> list[Top]:
    """Everything that could lie over somebody, what they have now first.

    Args:
        person: whose bed.
        offers: pieces on offer, what they have among them.
        needed: whether they sleep in their own bed on some night, and so need something to lie in.

    Source: common practice, no published source: nobody sleeps without a bag or a quilt who has
        planned one.
    """
    place = {offer.key: at for at, offer in enumerate(offers)}
    bags = [offer.piece for offer in offers if isinstance(offer.piece, Bag)]
    liners = [offer.piece for offer in offers if isinstance(offer.piece, Liner)]
    covers = [offer.piece for offer in offers if isinstance(offer.piece, Cover)]
    quilts = [bag for bag in bags if bag.shape == "quilt"]
    now = (person.bag, person.bedding.over, person.bedding.liner, person.bedding.cover)
    found = [now] if all(part is None or part.id in place for part in now) else []
    ids = {tuple(part and part.id for part in each) for each in found}
    if not needed:
        return [_top(each, place) for each in {now: None, (None, None, None, None): None}]
    for bag in bags or [None]:
        # A quilt over nothing is a quilt in the place of the bag.
        for over in [None, *(quilt for quilt in quilts if bag is not None and quilt is not bag)]:
            for liner in [None, *liners]:
                for cover in [None, *covers]:
                    parts = (bag, over, liner, cover)
                    key = tuple(part and part.id for part in parts)
                    if key not in ids:
                        ids.add(key)
                        found.append(parts)
    return [_top(each, place) for each in found]


def _top(
    parts: tuple[Bag | None, Bag | None, Liner | None, Cover | None], place: dict[str, int]
) -> Top:
    there = [part for part in parts if part is not None]
    at = tuple(place[part.id] for part in there if part.id in place)
    return Top(at, sum(part.mass_g for part in there), *parts)


def bottoms(course: Course, person: Person, offers: Sequence[Offer], needed: bool) -> list[Bottom]:
    """Everything that could lie under somebody, what they have now first.

    On snow and frozen ground what a puncture lets down lies on closed foam.

    Source: common practice, no published source; at most MOST_PADS pads, or as many as now.
    """
    place = {offer.key: at for at, offer in enumerate(offers)}
    pads = [offer.piece for offer in offers if isinstance(offer.piece, Pad)]
    found: list[tuple[Pad, ...]] = []
    if all(pad.id in place for pad in person.pads):
        found.append(person.pads)
    if needed:
        hammock = person.bedding.hammock is not None
        sizes = range(0 if hammock or not pads else 1, MOST_PADS + 1)
        found += [each for size in sizes for each in combinations(pads, size)]
    hard = any(day.camp is not None and day.camp.ground in HARD_GROUND for day in course.days)
    if hard:
        # What they have now is no worse than it was, whatever the rule.
        found = [each for each in found if each == person.pads or _guarded(each)]
    if not needed:
        found.append(())
    listed = list(dict.fromkeys(found))
    return [
        Bottom(tuple(place[pad.id] for pad in each), sum(pad.mass_g for pad in each), each)
        for each in listed
    ]


def _guarded(pads: Sequence[Pad]) -> bool:
    """Whether a bed of inflatable pads has closed foam in it too."""
    return not pads or any(closed_foam(pad) for pad in pads)
