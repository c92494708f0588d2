"""What would change a bed: single pieces, ranked by the degrees that 100 g of them buy."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.night.nights import lowest_temperatures
from caldarium.core.plan.changes import add_piece
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Cover, Garment, Liner, Pad
from caldarium.core.plan.wardrobe import regions_covered
from caldarium.core.timeline.moments import Timeline

LEAST_K = 0.3
"""Changes that bring less are not named [K]: judgement."""
Choice = tuple[str, str, Person]
"""A change: the value that asks for it, its name, and the person with it made."""


@dataclass(frozen=True)
class BedChange:
    """One change: what it weighs more [g], degrees it brings on the night looked at [K], degrees
    for 100 g (infinite where it weighs nothing more), the least margin over all nights [K], and
    what the new piece costs, None where nobody said."""

    key: str
    words: str
    grams: float
    degrees: float
    degrees_a_100g: float
    least_margin: float
    cost: float | None

    @property
    def degrees_a_100(self) -> float | None:
        """Degrees for each 100 of cost [K]. Source: the piece's own figure."""
        return None if not self.cost else self.degrees / self.cost * 100


def choices(
    person: Person, bags: Iterable[Bag], pads: Sequence[Pad], liners: Iterable[Liner],
    covers: Iterable[Cover], garments: Iterable[Garment],
) -> list[Choice]:  # fmt: skip
    """Every single change worth weighing for a person's bed.

    Source: common practice, no published source.
    """
    bedding, own = person.bedding, person.bag
    found: list[Choice] = []
    for bag in bags:
        if own is None or bag.id != own.id:
            words = bag.name if own is None else f"{bag.name} for {own.name}"
            found.append((f"bag={bag.id}", words, person.altered(bag=bag)))
        if own is not None and bag.shape == "quilt" and bedding.over is None:
            over = bedding.altered(over=bag)
            found.append(
                (f"over={bag.id}", f"{bag.name} over the bag", person.altered(bedding=over))
            )
    for pad in pads:
        if len(person.pads) < 2 and all(each.id != pad.id for each in person.pads):
            words = f"{pad.name} under the rest" if person.pads else pad.name
            found.append((f"pad={pad.id}", words, add_piece(person, pad)))
        if len(person.pads) == 1 and person.pads[0].id != pad.id:
            swapped = person.altered(pads=(pad,))
            found.append((f"pads={pad.id}", f"{pad.name} for {person.pads[0].name}", swapped))
    if bedding.liner is None:
        found += [
            (f"liner={each.id}", each.name, person.altered(bedding=bedding.altered(liner=each)))
            for each in liners
        ]
    if bedding.cover is None:
        found += [
            (f"cover={each.id}", each.name, person.altered(bedding=bedding.altered(cover=each)))
            for each in covers
        ]
    carried = {piece.id for piece in person.garments}
    for piece in garments:
        warm = piece.layer == "insulation" or (piece.layer == "mid" and not piece.always)
        if warm and piece.id not in carried and regions_covered(piece):
            found.append(
                (f"wear={piece.id}", f"{piece.name} worn inside", add_piece(person, piece))
            )
    return found


def ranked(
    course: Course, timeline: Timeline, person: Person, night: int, found: Sequence[Choice]
) -> list[BedChange]:
    """Changes to a bed, most degrees for their mass first.

    Args:
        course: for its rules and who else sleeps where.
        timeline: of the course.
        person: whose bed.
        night: place of the night looked at among the nights.
        found: from choices.

    Returns:
        Those that bring LEAST_K or more, and swaps that weigh less and still hold every night.

    Source: core.nights with the change made.
    """
    variants = [person, *(each[2] for each in found)]
    lowest = lowest_temperatures(course, timeline, variants)
    low = np.array([each.air for each in timeline.moments if each.kind == "night"])
    least = (low - lowest).min(axis=1)
    before = _bed_grams(person)
    changes: list[BedChange] = []
    for row, (key, words, variant) in enumerate(found, 1):
        degrees = float(lowest[0, night] - lowest[row, night])
        grams = _bed_grams(variant) - before
        lighter = grams < 0 and least[row] >= 0
        if degrees >= LEAST_K or lighter:
            rate = degrees / grams * 100 if grams > 0 else float("inf")
            cost = _new_cost(person, variant)
            changes.append(BedChange(key, words, grams, degrees, rate, float(least[row]), cost))
    return sorted(changes, key=lambda each: (each.degrees < LEAST_K, -each.degrees_a_100g,
                                             -each.degrees))  # fmt: skip


def _bed_pieces(person: Person) -> list[Bag | Pad | Liner | Cover | Garment]:
    """Everything a change to the bed can bring."""
    bedding = person.bedding
    single = (person.bag, bedding.over, bedding.liner, bedding.cover)
    return [*person.pads, *person.garments, *(each for each in single if each is not None)]


def _new_cost(before: Person, after: Person) -> float | None:
    """What the pieces cost that were not there before; None where one has no figure."""
    had = {each.id for each in _bed_pieces(before)}
    costs = [each.cost for each in _bed_pieces(after) if each.id not in had]
    known = [each for each in costs if each is not None]
    return sum(known) if known and len(known) == len(costs) else None


def _bed_grams(person: Person) -> float:
    """Everything a change to the bed can touch [g]."""
    parts = (*person.pads, *person.garments, *((person.bag,) if person.bag else ()))
    return sum(each.mass_g for each in parts) + person.bedding.mass_g
