"""What would change a bed: single pieces, ranked by the degrees that 100 g of them buy."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from caldarium.core.night.nights import lowest_temperatures
from caldarium.core.plan.changes import add_piece
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Cover, Garment, Liner, Pad
from caldarium.core.plan.wardrobe import regions_covered
from caldarium.core.timeline.moments import Timeline

SHOWN_LIGHTER = 3
LEAST_K = 0.3
"""Changes that bring less are not named [K]: judgement."""
How = Literal["new", "instead", "over the bag", "under the rest", "worn inside"]


@dataclass(frozen=True)
class Choice:
    """A change that could be made: the value that asks for it, how the new piece goes in, its name,
    that of the piece it takes the place of, and the person with it made."""

    key: str
    how: How
    piece: str
    instead: str
    person: Person


@dataclass(frozen=True)
class BedChange:
    """One change: as the choice says it, what it weighs more [g], degrees it brings on the night
    looked at [K], degrees for 100 g (infinite where it weighs nothing more), the least margin over
    all nights [K], and what the new piece costs, None where nobody said."""

    key: str
    how: How
    piece: str
    instead: str
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
    person: Person,
    bags: Iterable[Bag],
    pads: Sequence[Pad],
    liners: Iterable[Liner],
    covers: Iterable[Cover],
    garments: Iterable[Garment],
) -> list[Choice]:
    """Every single change worth weighing for a person's bed.

    Source: common practice, no published source.
    """
    bedding, own = person.bedding, person.bag
    found: list[Choice] = []

    def may(key: str, how: How, name: str, with_it: Person, instead: str = "") -> None:
        found.append(Choice(key, how, name, instead, with_it))

    for bag in bags:
        if own is None:
            may(f"bag={bag.id}", "new", bag.name, person.altered(bag=bag))
        elif bag.id != own.id:
            may(f"bag={bag.id}", "instead", bag.name, person.altered(bag=bag), own.name)
        if own is not None and bag.shape == "quilt" and bedding.over is None:
            over = person.altered(bedding=bedding.altered(over=bag))
            may(f"over={bag.id}", "over the bag", bag.name, over)
    found += _pad_choices(person, pads)
    if bedding.liner is None:
        for each in liners:
            lined = person.altered(bedding=bedding.altered(liner=each))
            may(f"liner={each.id}", "new", each.name, lined)
    if bedding.cover is None:
        for each in covers:
            covered = person.altered(bedding=bedding.altered(cover=each))
            may(f"cover={each.id}", "new", each.name, covered)
    carried = {piece.id for piece in person.garments}
    for piece in garments:
        warm = piece.layer == "insulation" or (piece.layer == "mid" and not piece.always)
        if warm and piece.id not in carried and regions_covered(piece):
            may(f"wear={piece.id}", "worn inside", piece.name, add_piece(person, piece))
    return found


def _pad_choices(person: Person, pads: Sequence[Pad]) -> list[Choice]:
    """Another pad under what is there, or in the place of the only one."""
    found: list[Choice] = []
    for pad in pads:
        if len(person.pads) < 2 and all(each.id != pad.id for each in person.pads):
            how: How = "under the rest" if person.pads else "new"
            found.append(Choice(f"pad={pad.id}", how, pad.name, "", add_piece(person, pad)))
        if len(person.pads) == 1 and person.pads[0].id != pad.id:
            swapped, old = person.altered(pads=(pad,)), person.pads[0].name
            found.append(Choice(f"pads={pad.id}", "instead", pad.name, old, swapped))
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

    Source: core.night.nights with the change made.
    """
    variants = [person, *(each.person for each in found)]
    lowest = lowest_temperatures(course, timeline, variants)
    low = np.array([each.air for each in timeline.moments if each.kind == "night"])
    least = (low - lowest).min(axis=1)
    before = _bed_grams(person)
    changes: list[BedChange] = []
    for row, choice in enumerate(found, 1):
        degrees = float(lowest[0, night] - lowest[row, night])
        grams = _bed_grams(choice.person) - before
        lighter = grams < 0 and least[row] >= 0
        if degrees >= LEAST_K or lighter:
            rate = degrees / grams * 100 if grams > 0 else float("inf")
            cost = _new_cost(person, choice.person)
            changes.append(
                BedChange(
                    key=choice.key,
                    how=choice.how,
                    piece=choice.piece,
                    instead=choice.instead,
                    grams=grams,
                    degrees=degrees,
                    degrees_a_100g=rate,
                    least_margin=float(least[row]),
                    cost=cost,
                )
            )
    return sorted(
        changes, key=lambda each: (each.degrees < LEAST_K, -each.degrees_a_100g, -each.degrees)
    )


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


def over_built(found: Sequence[BedChange]) -> list[BedChange]:
    """The lighter changes with which a bed still holds every night, most grams saved first.

    Source: ranked.
    """
    lighter = [each for each in found if each.grams < 0 and each.least_margin >= 0]
    return sorted(lighter, key=lambda each: each.grams)[:SHOWN_LIGHTER]
