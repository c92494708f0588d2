"""Beds that are too cold, and pieces of the store that would cure them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from caldarium.core.night.bedding import fits
from caldarium.core.night.beds import Wet
from caldarium.core.night.nights import Night, bed_margins
from caldarium.core.plan.changes import add_piece
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Pad
from caldarium.core.stock.inventory import Kit, Stored, as_kit
from caldarium.core.stock.issue import give, given_out, kit_id, lent
from caldarium.core.timeline.moments import Timeline


@dataclass(frozen=True)
class Loan:
    """A bed piece of the store that would cure a cold bed: for whom, what, its mass [g], the margin
    on the worst night with it [K], and the course with it given."""

    person: str
    tag: str
    name: str
    grams: float
    margin: float
    course: Course


def loan_beds(
    course: Course,
    timeline: Timeline,
    worst: Mapping[str, Night],
    stored: Sequence[Stored],
    catalogue: Mapping[str, Kit],
    wet: Wet | None = None,
) -> list[Loan]:
    """Bags and pads of the store matched to those whose beds are too cold, coldest first.

    Each gets the one piece that fits and holds every night with the least mass; where none does,
    the one that comes closest. Of pieces alike in every figure only the first is tried, and no
    piece goes out more often than there are of it.

    Args:
        course: with beds.
        timeline: of the course.
        worst: each cold sleeper's worst night, by person.
        stored: pieces of the store that can go.
        catalogue: pieces that stored ones can be like.
        wet: of everybody's pieces at bedtime.

    Returns:
        Loans in order; the course of the last holds them all.

    Source: core.night.nights with the piece in the bed; the match is judgement.
    """
    out = lent(course)
    loans: list[Loan] = []
    now = course
    for name, night in sorted(worst.items(), key=lambda each: each[1].margin):
        person = now.person(name)
        offers: list[tuple[Stored, Kit, Person]] = []
        seen: list[Kit] = []
        for piece in stored:
            if piece.retired or piece.condition == "unfit" or given_out(out, piece) >= piece.count:
                continue
            kit = as_kit(piece, catalogue, kit_id(piece))
            alike = kit.model_copy(update={"id": "", "name": ""})
            if isinstance(kit, Bag | Pad) and fits(person, kit) and alike not in seen:
                seen.append(alike)
                offers.append((piece, kit, add_piece(person, kit)))
        if not offers:
            continue
        variants = [variant for _, _, variant in offers]
        margins = bed_margins(now, timeline, variants, wet).min(axis=1).tolist()
        ranked = sorted(
            zip(offers, margins, strict=True),
            key=lambda each: (each[1] < 0, each[0][1].mass_g if each[1] >= 0 else -each[1]),
        )
        (piece, kit, _), margin = ranked[0]
        if margin <= night.margin:
            continue
        now = give(now, name, piece, catalogue)
        out[piece.tag.lower()] += 1
        loans.append(Loan(name, piece.tag, piece.name, kit.mass_g, margin, now))
    return loans


def uncovered(nights: Mapping[str, Sequence[Night]]) -> dict[str, Night]:
    """The worst night of everybody whose bed falls short. Source: the assessment."""
    found: dict[str, Night] = {}
    for person, listed in nights.items():
        short = [night for night in listed if night.state == "gap"]
        if short:
            found[person] = min(short, key=lambda night: night.margin)
    return found
