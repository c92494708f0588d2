"""Which sets of gloves, and of what is on the feet, keep fingers and toes unhurt, and how warm the
body must be with each: all of them tried."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.digits import FEET, HANDS, Body, fingers, glove_rungs, toes, warmest_starts
from caldarium.core.day.dressing import Air, Needs, best_alone
from caldarium.core.physics import cold
from caldarium.core.physics.extremities import FREEZES, HIGHEST, Digits, blood_heat
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Person
from caldarium.core.plan.figures import COVERED
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes

LARGEST = 5
"""Pieces in a set that is tried."""
MOST_SETS = 2400
HALVINGS = 8
"""How often the way from a cold body to one at its ease is halved."""
Digit = Literal["fingers", "toes"]
AT_EASE = 10.0
"""More than a body at its ease wears anywhere [m² K/W]."""
LINKED = 9
"""How finely it is known what the moment before leaves."""
MOST_LINKS = 3
"""Moments for which that is known: the hardest, and those where it makes most of a difference."""
WARMEST = 2.0
"""Insulation beyond which nobody is looked at [m² K/W]."""
NEVER = 1e3
"""Insulation that stands for a moment that no body is warm enough for [m² K/W]."""


@dataclass(frozen=True)
class Link:
    """A moment, by its place, that asks the more of the body the less it wore at the one before:
    insulation worn then, falling [m² K/W, G], and what each set asks now [m² K/W, S x G]."""

    moment: int
    before: int
    worn: Array
    asks: Array


@dataclass(frozen=True)
class DigitSets:
    """Sets of pieces for fingers or toes, by place in a list of pieces, none of which has a part
    that does as well; the body's insulation with which each set holds each moment [m² K/W, S x M],
    0 where any does; moments that begin as the one before left them."""

    digit: Digit
    sets: tuple[tuple[int, ...], ...]
    asks: Array
    links: tuple[Link, ...] = ()

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
    cooling = _cooling(digit, person, worn, air, body, there, wetness, place)
    every = np.arange(len(body.hours))
    start = warmest_starts(cooling.found, body.hours, before)
    asks = cooling.asks(start, every)
    asks = np.where(watched & (asks > anyway), asks, 0.0)
    # Nobody is asked for what no set can do.
    asks = np.where((asks < NEVER).any(axis=0), asks, 0.0)
    links = _links(cooling, asks, start, before, anyway)
    kept = _minimal(sets, asks, np.concatenate([asks, *(each.asks for each in links)], axis=1))
    return DigitSets(
        digit,
        tuple(sets[at] for at in kept),
        asks[kept],
        tuple(replace(each, asks=each.asks[kept]) for each in links),
    )


def _links(
    cooling: "_Cooling", asks: Array, start: Array, before: NDArray[np.intp], anyway: Array
) -> list[Link]:
    """The moments at which even good sets ask more of the body than it needs itself, and more the
    less it wore at the one before."""
    need = cooling.body.needs

    def here(m: int, earlier: int, worn: Array) -> Array:
        row = np.array([m])
        each = [
            cooling.asks(cooling.left(start, earlier, whole)[:, None], row)
            for whole in worn.tolist()
        ]
        return np.maximum(np.concatenate(each, axis=1), asks[:, m, None])

    hard: dict[int, float] = {}
    spread: dict[int, float] = {}
    for m, earlier in enumerate(before.tolist()):
        able = (asks[:, m] > 0) & (asks[:, m] < NEVER)
        if earlier >= 0 and anyway[earlier] > 0 and able.any():
            colder = np.minimum(here(m, earlier, anyway[earlier : earlier + 1])[able, 0], WARMEST)
            beyond = np.maximum(asks[:, m], anyway[m]) / max(anyway[m], 1e-6)
            more = float((colder - asks[able, m]).max())
            if more > 0:
                hard[m], spread[m] = float(np.quantile(beyond, 0.1)), more
    chosen = {m for by in (hard, spread) for m in sorted(by, key=lambda m: -by[m])[:MOST_LINKS]}
    links: list[Link] = []
    for m in sorted(chosen):
        earlier = int(before[m])
        ease = max(float(need.neutral[0, earlier]), float(need.minimal[0, earlier]))
        least = float(anyway[earlier])
        worn: Array = np.array(np.linspace(max(ease, least), least, LINKED), dtype=float)
        links.append(Link(m, earlier, worn, here(m, earlier, worn)))
    return links


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


@dataclass(frozen=True)
class _Cooling:
    """Digits of S sets through M moments, and the bodies that they belong to; what those wear is
    not looked at."""

    digit: Digit
    found: Digits
    air: Air
    body: Body

    def _steady(self, whole: Array, rows: NDArray[np.intp]) -> tuple[Array, Array]:
        """Heat that the blood brings and where digits tend with a body in some insulation
        [S x R x K]."""
        need, where = self.body.needs, self.air.where
        rate, there = where.metabolic_rate[:, rows], where.air[:, rows]
        heat = self.body.share[rows] * blood_heat(
            self.digit, rate, whole, need.minimal[:, rows], need.neutral[:, rows]
        )
        steady = there[..., None] + heat[..., None] * self.found.resistance[:, rows]
        return heat[..., None], np.minimum(steady, HIGHEST)

    def left(self, start: Array, moment: int, whole: float) -> Array:
        """The warmest that a moment can leave with a body in some insulation [S]."""
        _, steady = self._steady(np.array(whole), np.array([moment]))
        steady = steady[:, 0]
        fade = np.exp(-self.body.hours[moment] / self.found.constant[:, moment])
        ends: Array = (steady + (start[:, moment, None] - steady) * fade).max(axis=-1)
        return ends

    def asks(self, start: Array, rows: NDArray[np.intp]) -> Array:
        """Insulation that the body needs with each set at some moments [m² K/W, S x R], which
        begin so warm [°C, S x R]."""
        need, minutes = self.body.needs, 60 * self.body.hours[rows]
        low = need.minimal[:, rows] / 2
        top = np.maximum(need.neutral, need.minimal)[:, rows]

        def safe(share: Array) -> Flags:
            """Whether digits are unhurt where the body is so far from cold to at its ease."""
            heat, steady = self._steady(low + share * (top - low), rows)
            then = Digits(
                self.found.clo[:, rows],
                self.found.resistance[:, rows],
                heat,
                steady,
                self.found.constant[:, rows],
            )
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


def _cooling(
    digit: Digit,
    person: Person,
    worn: Sequence[tuple[Garment, ...]],
    air: Air,
    body: Body,
    there: Flags,
    wetness: Callable[[list[Person]], Array],
    place: dict[str, int],
) -> _Cooling:
    """How fingers or toes cool with each set."""
    variants = [person.model_copy(update={"garments": each, "overrules": ()}) for each in worn]
    dress = wardrobes(variants)
    shape = (len(variants), len(body.hours), dress.places)
    wet, may = np.zeros(shape), np.zeros(shape, dtype=bool)
    soaked, like = _soaked(person, worn, wetness)
    for row in range(len(variants)):
        for g, name in enumerate(dress.ids(row)):
            wet[row, :, g] = soaked[like[row], :, place[name]]
            may[row, :, g] = there[:, place[name]]
    may &= ~dress.instead[:, None]
    tried = _tried(digit, dress, may)
    many = _repeated(air, len(variants), wet)
    their = Body(
        body.hours, np.full(shape[:2], AT_EASE), _for_all(body.needs, len(variants)), body.share
    )
    found = (fingers if digit == "fingers" else toes)(dress, tried, many, their)
    return _Cooling(digit, found, many, their)


def _soaked(
    person: Person,
    worn: Sequence[tuple[Garment, ...]],
    wetness: Callable[[list[Person]], Array],
) -> tuple[Array, list[int]]:
    """How wet pieces are at least beside those that are worn whatever else is, which alone decide
    it, and by which of these each set goes."""
    known = {each.id for one in worn for each in one}
    rest = tuple(each for each in person.garments if each.id not in known)
    beside: dict[tuple[str, ...], dict[str, Garment]] = {}
    keys: list[tuple[str, ...]] = []
    for one in worn:
        least = [each for each in one if each.always or each.layer in ("base", "shell")]
        keys.append(tuple(sorted(each.id for each in least)))
        beside.setdefault(keys[-1], {}).update({each.id: each for each in one})
    people = [
        person.model_copy(update={"garments": (*rest, *each.values()), "overrules": ()})
        for each in beside.values()
    ]
    order = {key: at for at, key in enumerate(beside)}
    return wetness(people), [order[key] for key in keys]


def _tried(digit: str, dress: Wardrobes, may: Flags) -> Flags:
    """Outfits of each set [S x M x K x G]: from the thinnest glove on; all on the feet."""
    return best_alone(dress, may[:, :, None]) if digit == "toes" else glove_rungs(dress, may)


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


def _minimal(sets: list[tuple[int, ...]], asks: Array, told: Array) -> list[int]:
    """Places of sets that hold every moment, and no part of which asks as little in all that is
    told of it."""
    kept: list[int] = []
    for at in sorted(range(len(sets)), key=lambda each: (len(sets[each]), sets[each])):
        if (asks[at] >= NEVER).any():
            continue
        parts = (other for other in kept if set(sets[other]) <= set(sets[at]))
        if not any((told[other] <= told[at] + 1e-9).all() for other in parts):
            kept.append(at)
    return kept
