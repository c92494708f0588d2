"""What would change a bed: single pieces, ranked by the degrees that 100 g of them buy."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from caldarium.core.night.bedding import fits
from caldarium.core.night.beds import Wet
from caldarium.core.night.nights import bed_margins
from caldarium.core.plan.changes import add_piece, with_bed
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import regions_covered
from caldarium.core.plan.kit import Bag, BedPart, Cover, Garment, Liner, Pad
from caldarium.core.timeline.moments import Timeline

SHOWN_LIGHTER = 3
LEAST_K = 0.3
"""Changes that bring less are not named [K]: judgement."""
How = Literal["new", "instead", "over the bag", "under the rest", "worn inside", "left out"]


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
    all nights [K], what the new piece costs, None where nobody said, and the person with it
    made."""

    key: str
    how: How
    piece: str
    instead: str
    grams: float
    degrees: float
    degrees_a_100g: float
    least_margin: float
    cost: float | None
    person: Person

    @property
    def degrees_a_100(self) -> float | None:
        """Degrees for each 100 of cost [K]. Source: the piece's own figure."""
        return None if not self.cost else self.degrees / self.cost * 100

    @property
    def kind(self) -> str:
        """What is changed, as its key begins: bags and pads whether swapped or added."""
        return {"over": "bag", "pads": "pad"}.get(head := self.key.split("=")[0], head)


def choices(
    person: Person,
    day: int,
    bags: Iterable[Bag],
    pads: Sequence[Pad],
    liners: Iterable[Liner],
    covers: Iterable[Cover],
    garments: Iterable[Garment],
) -> list[Choice]:
    """Every single change worth weighing for the bed that a person sleeps in on a night.

    Pieces that do not fit the sleeper are not offered, nor foil, which keeps the night's sweat in.

    Source: common practice, no published source.
    """
    lying = person.on_night(day)
    bedding, own = lying.bedding, lying.bag
    found: list[Choice] = []

    def may(key: str, how: How, name: str, instead: str = "", **parts: object) -> None:
        # Seventy people are only looked at; whoever takes one has it validated.
        lies = (
            person.model_copy(update=parts) if lying is person else with_bed(person, day, **parts)
        )
        found.append(Choice(key, how, name, instead, lies))

    for bag in (each for each in bags if fits(person, each)):
        if own is None:
            may(f"bag={bag.id}", "new", bag.name, bag=bag)
        elif bag.id != own.id:
            may(f"bag={bag.id}", "instead", bag.name, own.name, bag=bag)
        if own is not None and bag.shape == "quilt" and bedding.over is None:
            may(f"over={bag.id}", "over the bag", bag.name, bedding=bedding.altered(over=bag))
    for pad in (each for each in pads if fits(person, each)):
        if len(lying.pads) < 2 and all(each.id != pad.id for each in lying.pads):
            how: How = "under the rest" if lying.pads else "new"
            may(f"pad={pad.id}", how, pad.name, pads=(*lying.pads, pad))
        if len(lying.pads) == 1 and lying.pads[0].id != pad.id:
            may(f"pads={pad.id}", "instead", pad.name, lying.pads[0].name, pads=(pad,))
    for each in liners if bedding.liner is None else ():
        may(f"liner={each.id}", "new", each.name, bedding=bedding.altered(liner=each))
    for each in (c for c in covers if bedding.cover is None and not c.reflects):
        may(f"cover={each.id}", "new", each.name, bedding=bedding.altered(cover=each))
    if not bedding.wet_out:
        may("wet=out", "left out", "", bedding=bedding.altered(wet_out=True))
    return [*found, *_clothing_choices(person, garments)]


def _clothing_choices(person: Person, garments: Iterable[Garment]) -> list[Choice]:
    """Warm pieces that would be worn inside."""
    carried = {piece.id for piece in person.garments}
    return [
        Choice(f"wear={piece.id}", "worn inside", piece.name, "", add_piece(person, piece))
        for piece in garments
        if piece.layer == "insulation" or (piece.layer == "mid" and not piece.always)
        if piece.id not in carried and regions_covered(piece)
    ]


def ranked(
    course: Course,
    timeline: Timeline,
    person: Person,
    night: int,
    found: Sequence[Choice],
    wet: Wet | None = None,
) -> list[BedChange]:
    """Changes to a bed, most degrees for their mass first.

    Args:
        course: for its rules and who else sleeps where.
        timeline: of the course.
        person: whose bed.
        night: place of the night looked at among the nights.
        found: from choices.
        wet: of their pieces at bedtime.

    Returns:
        Those that bring LEAST_K or more, and swaps that weigh less and still hold every night. A
        piece more is not named where another in the place of what is there brings as much for no
        more grams.

    Source: core.night.nights with the change made; swaps before additions are common practice, no
        published source.
    """
    variants = [person, *(each.person for each in found)]
    margins = bed_margins(course, timeline, variants, wet)
    grams = np.array([_bed_grams(each) for each in variants])
    more, gained, least = grams - grams[0], margins[:, night] - margins[0, night], margins.min(1)
    lighter = (more < 0) & (least >= 0)
    changes = [
        BedChange(
            key=choice.key,
            how=choice.how,
            piece=choice.piece,
            instead=choice.instead,
            grams=float(more[row]),
            degrees=float(gained[row]),
            degrees_a_100g=float(gained[row] / more[row] * 100) if more[row] > 0 else float("inf"),
            least_margin=float(least[row]),
            cost=_new_cost(person, choice.person),
            person=choice.person,
        )
        for row, choice in enumerate(found, 1)
        if gained[row] >= LEAST_K or lighter[row]
    ]
    swaps = [each for each in changes if each.how == "instead" and each.degrees >= LEAST_K]
    kept = [each for each in changes if not any(_beats(swap, each) for swap in swaps)]
    return sorted(
        kept, key=lambda each: (each.degrees < LEAST_K, -each.degrees_a_100g, -each.degrees)
    )


def _beats(swap: BedChange, other: BedChange) -> bool:
    """Whether a swap brings what one piece more of its kind does, for no more grams."""
    added = other.how in ("over the bag", "under the rest")
    alike = added and swap.kind == other.kind
    return alike and swap.grams <= other.grams and swap.degrees >= other.degrees - LEAST_K


def _bed_pieces(person: Person) -> list[BedPart | Garment]:
    """Everything a change to a bed can bring."""
    return [*person.garments, *person.bed_parts]


def _new_cost(before: Person, after: Person) -> float | None:
    """What the pieces cost that were not there before; None where one has no figure."""
    had = {each.id for each in _bed_pieces(before)}
    costs = [getattr(each, "cost", None) for each in _bed_pieces(after) if each.id not in had]
    known = [each for each in costs if each is not None]
    return sum(known) if known and len(known) == len(costs) else None


def _bed_grams(person: Person) -> float:
    """Everything a change to a bed can touch [g]."""
    return sum(each.mass_g for each in _bed_pieces(person))


def over_built(course: Course, timeline: Timeline, found: Sequence[BedChange]) -> list[BedChange]:
    """The lighter changes with which a bed still holds every night, most grams saved first; a bag
    only where it does so by its own label, without clothes.

    Args:
        course, timeline: the plan.
        found: from ranked.

    Source: core.night.nights.
    """
    lighter = [each for each in found if each.grams < 0 and each.least_margin >= 0]
    bags = [each for each in lighter if each.kind == "bag"]
    if bags:
        bare = course.altered(clothes_in_bed=False)
        by_label = bed_margins(bare, timeline, [each.person for each in bags]).min(axis=1)
        fails = {each.key for each, left in zip(bags, by_label.tolist(), strict=True) if left < 0}
        lighter = [each for each in lighter if each.key not in fails]
    return sorted(lighter, key=lambda each: each.grams)[:SHOWN_LIGHTER]
