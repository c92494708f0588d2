"""Which sets of gloves, and of what is on the feet, keep fingers and toes unhurt, and how warm the
body must be with each: all of them tried."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.digits import FEET, HANDS, Body, fingers, toes
from caldarium.core.day.dressing import Air, Needs, best_alone
from caldarium.core.physics import cold
from caldarium.core.physics.extremities import FREEZES, HIGHEST, START, Digits, blood_heat
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import COVERED, Wardrobes, wardrobes

LARGEST = 5
"""Pieces in a set that is tried."""
MOST_SETS = 2400
HALVINGS = 8
"""How often the way from a cold body to one at its ease is halved."""
Digit = Literal["fingers", "toes"]
NEVER = 1e3
"""Insulation that stands for a moment that no body is warm enough for [m² K/W]."""


@dataclass(frozen=True)
class DigitSets:
    """Sets of pieces for fingers or toes, by place in a list of pieces, none of which has a part
    that does as well; the body's insulation with which each set holds each moment [m² K/W, S x M],
    0 where any does."""

    digit: Digit
    sets: tuple[tuple[int, ...], ...]
    asks: Array

    @property
    def matter(self) -> bool:
        """Whether it matters which is taken. Source: none, bookkeeping."""
        return bool((self.asks > 0).any()) or () not in self.sets


def digit_sets(
    digit: Digit,
    person: Person,
    pieces: Sequence[Garment],
    air: Air,
    body: Body,
    there: Flags,
    wetness: Callable[[list[Person]], Array],
    usable: Flags,
    watched: Flags,
    anyway: Array,
    before: NDArray[np.intp],
) -> DigitSets:
    """Sets that keep fingers or toes unhurt at every moment that is watched.

    Args:
        digit: "fingers" or "toes".
        person: whose.
        pieces: everything on offer.
        air, body: of the person at M moments; what the body wears is not looked at.
        there: where each piece may be worn [M x N].
        wetness: how wet each piece is at least on variants of the person, 0 to 1 [S x M x N].
        usable: which pieces may be taken [N].
        watched: moments that count [M].
        anyway: insulation that each moment asks of the body whatever the digits do [m² K/W, M].
        before: place of the moment each follows on its day, -1 for a day's first [M].

    Returns:
        The sets. Digits begin each moment as a body at its ease left them.

    Source: core.day.digits with every such set on.
    """
    region = HANDS if digit == "fingers" else FEET
    dress = wardrobes((person.model_copy(update={"garments": tuple(pieces)}),))
    place = {piece.id: at for at, piece in enumerate(pieces)}
    order = np.array([place[name] for name in dress.ids(0)], dtype=np.intp)
    over = dress.local[0, :, region] > 0
    lies = dress.cover[0, :, region] >= COVERED
    asleep = dress.only_asleep[0]
    small = dress.handwear[0] if digit == "fingers" else lies & ~asleep
    # What covers a little of a hand or a foot beside other things is on in every set.
    always = [int(order[g]) for g in np.flatnonzero(over & ~small & ~asleep)]
    chosen = [int(g) for g in np.flatnonzero(over & small & ~asleep & usable[order])]
    listed = _independent(chosen, dress.beats[0] | dress.beats[0].T, LARGEST)
    sets = [tuple(sorted(int(order[g]) for g in each)) for each in listed]
    worn = [tuple(pieces[at] for at in (*each, *always)) for each in sets]
    asks = _asks(digit, person, worn, air, body, there, wetness, place, before)
    asks = np.where(watched & (asks > anyway), asks, 0.0)
    # Nobody is asked for what no set can do.
    asks = np.where((asks < NEVER).any(axis=0), asks, 0.0)
    kept = _minimal(sets, asks)
    return DigitSets(digit, tuple(sets[at] for at in kept), asks[kept])


def _independent(places: list[int], rivals: Flags, largest: int) -> list[tuple[int, ...]]:
    """Sets of pieces none of which takes another's place."""
    found: list[tuple[int, ...]] = []
    for size in range(min(largest, len(places)) + 1):
        for each in combinations(places, size):
            if size < 2 or not rivals[np.ix_(each, each)].any():
                found.append(each)
        if len(found) > MOST_SETS:
            break
    return found


def _asks(
    digit: str,
    person: Person,
    worn: Sequence[tuple[Garment, ...]],
    air: Air,
    body: Body,
    there: Flags,
    wetness: Callable[[list[Person]], Array],
    place: dict[str, int],
    before: NDArray[np.intp],
) -> Array:
    """Insulation that the body needs with each set at each moment [m² K/W, S x M]."""
    variants = [person.model_copy(update={"garments": each, "overrules": ()}) for each in worn]
    dress = wardrobes(variants)
    moments = len(body.hours)
    wet = np.zeros((len(variants), moments, dress.places))
    known = {each.id for one in worn for each in one}
    rest = tuple(each for each in person.garments if each.id not in known)
    soaked = wetness(
        [person.model_copy(update={"garments": (*rest, *each), "overrules": ()}) for each in worn]
    )
    for row in range(len(variants)):
        for g, name in enumerate(dress.ids(row)):
            wet[row, :, g] = soaked[row, :, place[name]]
    may = np.zeros((len(variants), moments, dress.places), dtype=bool)
    for row in range(len(variants)):
        for g, name in enumerate(dress.ids(row)):
            may[row, :, g] = there[:, place[name]]
    may &= ~dress.instead[:, None]
    tried = _tried(digit, dress, may)
    many = _repeated(air, len(variants), wet)
    their = Body(
        body.hours, np.full(may.shape[:2], 10.0), _for_all(body.needs, len(variants)), body.share
    )
    found = (fingers if digit == "fingers" else toes)(dress, tried, many, their)
    minutes = 60 * body.hours
    start = _starts(found, body.hours, before)
    need = their.needs
    low, top = need.minimal / 2, np.maximum(need.neutral, need.minimal)

    def safe(share: Array) -> Flags:
        """Whether digits are unhurt where the body is so far from cold to at its ease."""
        whole = low + share * (top - low)
        heat = body.share * blood_heat(
            digit, many.where.metabolic_rate, whole, need.minimal, need.neutral
        )
        steady = np.minimum(many.where.air[..., None] + heat[..., None] * found.resistance, HIGHEST)
        then = Digits(found.clo, found.resistance, heat[..., None], steady, found.constant)
        enough = then.until(FREEZES, start[..., None]) >= minutes[:, None]
        return np.logical_or.reduce(enough, axis=-1)

    least, most = np.zeros(start.shape), np.ones(start.shape)
    cold, warm = safe(least), safe(most)
    for _ in range(HALVINGS):
        middle = (least + most) / 2
        enough = safe(middle)
        least, most = np.where(enough, least, middle), np.where(enough, middle, most)
    # What is not enough is less than what is needed.
    return np.where(cold, 0.0, np.where(warm, low + least * (top - low), NEVER))


def _tried(digit: str, dress: Wardrobes, may: Flags) -> Flags:
    """Outfits of each set [S x M x K x G]: from the thinnest glove on; all on the feet."""
    if digit == "toes":
        return best_alone(dress, may[:, :, None])
    order = np.where(dress.handwear, dress.rung, np.inf).argsort(axis=1).argsort(axis=1)
    most = int(dress.handwear.sum(axis=1).max(initial=0))
    reached = (order[:, None, :] < np.arange(most + 1)[:, None]) | ~dress.handwear[:, None]
    return best_alone(dress, may[:, :, None] & reached[:, None])


def _starts(found: Digits, hours: Array, before: NDArray[np.intp]) -> Array:
    """Temperature at which each moment begins, the warmest that the day can have left [S x M]."""
    start = np.full(found.steady.shape[:2], START)
    end = np.empty(start.shape)
    fade = np.exp(-hours[:, None] / found.constant)
    for m, earlier in enumerate(before.tolist()):
        if earlier >= 0:
            start[:, m] = end[:, earlier]
        steady = found.steady[:, m]
        end[:, m] = (steady + (start[:, m, None] - steady) * fade[:, m]).max(axis=-1)
    return start


def _repeated(air: Air, count: int, wet: Array) -> Air:
    moments = air.where.air.shape[1]
    where = cold.Exposure(
        *(np.broadcast_to(part, (count, moments)) for part in vars(air.where).values())
    )
    return replace(
        air,
        where=where,
        warm=where,
        wet=wet,
        bag=np.zeros((count, moments)),
    )


def _for_all(needs: Needs, count: int) -> Needs:
    return Needs(*(np.broadcast_to(part, (count, part.shape[1])) for part in vars(needs).values()))


def _minimal(sets: list[tuple[int, ...]], asks: Array) -> list[int]:
    """Places of sets that hold every moment, and no part of which asks as little."""
    kept: list[int] = []
    for at in sorted(range(len(sets)), key=lambda each: (len(sets[each]), sets[each])):
        if (asks[at] >= NEVER).any():
            continue
        parts = (other for other in kept if set(sets[other]) <= set(sets[at]))
        if not any((asks[other] <= asks[at] + 1e-9).all() for other in parts):
            kept.append(at)
    return kept
