"""What-if swaps: this piece for that, in grams, litres, cost, and degrees where it decides."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from caldarium.core.assess import Assessment, assess_people
from caldarium.core.load.packing import litres
from caldarium.core.person_result import PersonResult
from caldarium.core.plan.changes import swap_garment
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import WINDPROOF, regions_covered
from caldarium.core.plan.kit import Bag, Cost, Garment, Item, Pad
from caldarium.core.what_if.cures import need_slope

Swapped = Garment | Bag | Pad | Item


Where = Literal["body", "fingers", "toes", "bed", "nowhere"]
"""Where the degrees of a swap are told: the whole body, one end of it, or the bed."""
Why = Literal["closes", "opens", "lighter", "warmer", "colder", "heavier", "alike"]
"""Why somebody would take a swap, or not: it closes or opens a gap or cold night; nothing of that
changes, and it is lighter, or warmer for its grams, or heavier for nothing."""
MOST = 10
"""Swaps shown: the best of them."""
ALIKE_G, ALIKE_K = 10.0, 0.3
"""Differences that nobody feels [g, K]: judgement."""


@dataclass(frozen=True)
class Swap:
    """One piece for another: grams, litres (estimated where either is) and cost it brings, None
    where one has no figure; where its degrees are felt, the moment that decides there, and the
    degrees it brings, NaN where it warms nothing; gaps, risks and cold nights before and after."""

    out: Swapped
    piece: Swapped
    grams: float
    litres: float
    estimated: bool
    cost: Cost | None
    where: Where
    moment: str
    degrees: float
    short: tuple[int, int]

    @property
    def why(self) -> Why:
        """The reason in one word. Source: ALIKE_G and ALIKE_K."""
        before, after = self.short
        if after != before:
            return "closes" if after < before else "opens"
        if self.grams <= -ALIKE_G:
            return "lighter"
        if math.isfinite(self.degrees) and abs(self.degrees) >= ALIKE_K:
            return "warmer" if self.degrees > 0 else "colder"
        return "heavier" if self.grams >= ALIKE_G else "alike"


def swappable(person: Person) -> list[Swapped]:
    """Pieces of a person that can be swapped: worn or carried, and the bed's own. Source: none,
    bookkeeping."""
    bag = [person.bag] if person.bag is not None else []
    return [*person.garments, *bag, *person.pads, *person.items]


SAME_COVER = 0.6
"""Share of the regions of both that two pieces of one job have in common: judgement."""


def alternatives(out: Swapped, pieces: Iterable[object]) -> list[Swapped]:
    """Pieces that do the same job as one, and so could take its place.

    Clothing of its layer over the same parts of the body, worn at the same times; what keeps rain
    or sun off only for what does; a bag or quilt, and a pad of full length, for one like it; other
    things of the same kind for the same purpose.

    Source: common practice, no published source; SAME_COVER.
    """
    return [
        piece
        for piece in pieces
        if isinstance(piece, Swapped) and same_job(out, piece) and not _same(piece, out)
    ]


def same_job(out: Swapped, piece: Swapped) -> bool:
    """Whether a piece does the job of another, see alternatives. Source: common practice, no
    published source."""
    if isinstance(out, Garment) and isinstance(piece, Garment):
        return _same_job(out, piece)
    if isinstance(out, Item) and isinstance(piece, Item):
        return bool(out.kind) and piece.kind == out.kind and piece.purpose == out.purpose
    if isinstance(out, Pad) and isinstance(piece, Pad):
        return piece.length == out.length
    return isinstance(out, Bag) and isinstance(piece, Bag)


def _same_job(out: Garment, piece: Garment) -> bool:
    one, other = regions_covered(out), regions_covered(piece)
    both = len(one & other) / max(len(one | other), 1)
    times = ("layer", "always", "only_at_camp", "only_asleep")
    return (
        both >= SAME_COVER
        and all(getattr(out, name) == getattr(piece, name) for name in times)
        and piece.waterproof >= out.waterproof
        and piece.shades == out.shades
        and (piece.air_permeability <= WINDPROOF) == (out.air_permeability <= WINDPROOF)
        and (out.fingers == "together" or one != {"hands"} or piece.fingers == out.fingers)
    )


def _same(piece: Swapped, out: Swapped) -> bool:
    """Whether two pieces differ in nothing but their names and where their masses come from."""
    told = {"id", "mass_from", "mass_on", "waits_at", "left_at", "source"}
    return piece.model_dump(exclude=told) == out.model_dump(exclude=told)


def swapped(person: Person, out: Swapped, piece: Swapped) -> Person:
    """The person with one piece in the place of another. Source: none, bookkeeping."""
    if isinstance(piece, Garment):
        return swap_garment(person, out.id, piece)
    if isinstance(piece, Bag):
        return person.altered(bag=piece)
    field = "pads" if isinstance(piece, Pad) else "items"
    taken = {each.id for each in swappable(person) if each is not out}
    name, number = piece.id, 2
    while name in taken:
        name, number = f"{piece.id}-{number}", number + 1
    named = piece if name == piece.id else piece.altered(id=name)
    listed = tuple(named if each is out else each for each in getattr(person, field))
    return person.altered(**{field: listed})


def swaps(
    course: Course, result: Assessment, person: Person, out: Swapped, pieces: Sequence[Swapped]
) -> list[Swap]:
    """What each of some pieces would be in the place of one.

    Args:
        course, result: the plan and what was found.
        person: whose.
        out: a piece of theirs.
        pieces: what could take its place.

    Returns:
        The best MOST of them, those that leave least short first, then lightest.

    Source: the same assessment with the swap made; degrees of the whole body over the slope of
        ISO 11079's need, of handwear and footwear at the fingertip or toe when the moment ends,
        at night as the margin of the bed.
    """
    if not pieces:
        return []
    variants = tuple(swapped(person, out, piece) for piece in pieces)
    after = assess_people(course, variants, result.timeline)
    before = next(each for each in result.people if each.person == person.id)
    room, guessed = litres(out)
    found: list[Swap] = []
    for piece, now in zip(pieces, after, strict=True):
        where, moment, degrees = _decides(course, result, person, out, before, now)
        bulk, estimated = litres(piece)
        was, will = out.cost, piece.cost
        found.append(
            Swap(
                out=out,
                piece=piece,
                grams=_grams(piece) - _grams(out),
                litres=bulk - room,
                estimated=estimated or guessed,
                cost=None if was is None or will is None else will - was,
                where=where,
                moment=moment,
                degrees=degrees,
                short=(_short(before), _short(now)),
            )
        )
    return sorted(found, key=lambda each: (each.short[1], each.grams))[:MOST]


def _grams(piece: Swapped) -> float:
    return piece.grams if isinstance(piece, Item) else piece.mass_g


def _short(found: PersonResult) -> int:
    """Moments and nights that are too cold or too hot, and moments at which fingers, toes or face
    are at risk."""
    states = [each.state for each in (*found.moments, *found.nights)]
    off = sum(state in ("gap", "hot") for state in states)
    return off + sum(bool(each.at_risk) for each in found.moments)


def _decides(
    course: Course,
    result: Assessment,
    person: Person,
    out: Swapped,
    before: PersonResult,
    after: PersonResult,
) -> tuple[Where, str, float]:
    """Where a swap is felt, the moment at which it is shortest there, and degrees [K]."""
    if isinstance(out, Item):
        return "nowhere", "", math.nan
    if isinstance(out, Bag | Pad):
        nights = [
            (now.margin, now.moment, now.margin - then.margin)
            for now, then in zip(after.nights, before.nights, strict=True)
            if math.isfinite(now.margin) and math.isfinite(then.margin)
        ]
        return ("bed", *min(nights)[1:]) if nights else ("bed", "", math.nan)
    pairs = list(zip(before.moments, after.moments, strict=True))
    if not pairs:
        return "body", "", math.nan
    end = _end_of(out)
    if end != "body":
        ends = [(getattr(then, end), getattr(now, end), then.moment) for then, now in pairs]
        then, now, moment = min(ends, key=lambda each: min(each[0].at_end, each[1].at_end))
        return end, moment, now.at_end - then.at_end
    then, now = min(
        pairs,
        key=lambda pair: min(
            pair[0].provided - pair[0].need_min, pair[1].provided - pair[1].need_min
        ),
    )
    here = next(each for each in result.timeline.moments if each.id == then.moment)
    slope = need_slope(course, person, here, then)
    return "body", then.moment, (now.provided - then.provided) / slope


def _end_of(piece: Garment) -> Literal["body", "fingers", "toes"]:
    """What a piece warms: fingers or toes where it covers nothing else."""
    covers = regions_covered(piece)
    if covers == {"hands"}:
        return "fingers"
    return "toes" if covers == {"feet"} else "body"
