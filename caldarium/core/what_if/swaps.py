"""What-if swaps: this piece for that, in grams, litres, cost, and degrees where it decides."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from caldarium.core.assess import Assessment, PersonResult, assess_people
from caldarium.core.load.packing import litres
from caldarium.core.plan.changes import swap_garment
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Cost, Garment, Item, Pad
from caldarium.core.plan.wardrobe import regions_covered
from caldarium.core.what_if.cures import need_slope

Swapped = Garment | Bag | Pad | Item


@dataclass(frozen=True)
class Swap:
    """One piece for another: grams, litres (estimated where either is) and cost it brings, None
    where one has no figure; the moment that decides, degrees it brings there, NaN where neither
    warms, and gaps and cold nights before and after."""

    out: Swapped
    piece: Swapped
    grams: float
    litres: float
    estimated: bool
    cost: Cost | None
    moment: str
    degrees: float
    short: tuple[int, int]


def swappable(person: Person) -> list[Swapped]:
    """Pieces of a person that can be swapped: worn or carried, and the bed's own. Source: none,
    bookkeeping."""
    bag = [person.bag] if person.bag is not None else []
    return [*person.garments, *bag, *person.pads, *person.items]


def alternatives(out: Swapped, pieces: Iterable[object]) -> list[Swapped]:
    """Pieces that could take the place of one: of its kind, clothing of its layer over the same
    part of the body, other things for the same purpose.

    Source: common practice, no published source.
    """
    found: list[Swapped] = []
    for piece in pieces:
        if isinstance(out, Garment) and isinstance(piece, Garment):
            fits = piece.layer == out.layer and bool(regions_covered(piece) & regions_covered(out))
        elif isinstance(out, Item) and isinstance(piece, Item):
            fits = piece.purpose == out.purpose
        else:
            fits = isinstance(out, Bag | Pad) and type(piece) is type(out)
        if fits and isinstance(piece, Swapped) and not _same(piece, out):
            found.append(piece)
    return found


def _same(piece: Swapped, out: Swapped) -> bool:
    return piece.id == out.id and piece.altered(id=out.id) == out


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
        The swaps, those that leave least short first, then lightest.

    Source: the same assessment with the swap made; degrees by day over the slope of ISO 11079's
        need, at night as the margin of the bed.
    """
    if not pieces:
        return []
    variants = tuple(swapped(person, out, piece) for piece in pieces)
    after = assess_people(course, variants, result.timeline)
    before = next(each for each in result.people if each.person == person.id)
    warm = isinstance(out, Garment | Bag | Pad)
    room, guessed = litres(out)
    found: list[Swap] = []
    for piece, now in zip(pieces, after, strict=True):
        moment, degrees = _decides(course, result, person, out, before, now)
        bulk, estimated = litres(piece)
        was, will = _cost(out), _cost(piece)
        found.append(
            Swap(
                out=out,
                piece=piece,
                grams=piece.mass_g - out.mass_g,
                litres=bulk - room,
                estimated=estimated or guessed,
                cost=None if was is None or will is None else will - was,
                moment=moment,
                degrees=degrees if warm else math.nan,
                short=(_short(before), _short(now)),
            )
        )
    return sorted(found, key=lambda each: (each.short[1], each.grams))


def _cost(piece: Swapped) -> Cost | None:
    return None if isinstance(piece, Item) else piece.cost


def _short(found: PersonResult) -> int:
    """Moments and nights that are too cold."""
    return sum(each.state == "gap" for each in (*found.moments, *found.nights))


def _decides(
    course: Course,
    result: Assessment,
    person: Person,
    out: Swapped,
    before: PersonResult,
    after: PersonResult,
) -> tuple[str, float]:
    """The moment at which a swap is felt most for how short it is there, and degrees [K]."""
    if isinstance(out, Bag | Pad):
        nights = [
            (now.margin, now.moment, now.margin - then.margin)
            for now, then in zip(after.nights, before.nights, strict=True)
            if math.isfinite(now.margin) and math.isfinite(then.margin)
        ]
        return min(nights)[1:] if nights else ("", math.nan)
    pairs = list(zip(before.moments, after.moments, strict=True))
    if not pairs:
        return "", math.nan
    then, now = min(
        pairs,
        key=lambda pair: min(
            pair[0].provided - pair[0].need_min, pair[1].provided - pair[1].need_min
        ),
    )
    here = next(each for each in result.timeline.moments if each.id == then.moment)
    return then.moment, (now.provided - then.provided) / need_slope(course, person, here, then)
