"""Which sets of gloves, and of what is on the feet, keep fingers and toes unhurt, and how warm the
body must be with each: all of them tried."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.digits import FEET, HANDS, Body, fingers, glove_rungs, toes
from caldarium.core.day.dressing import Air, Needs, best_alone
from caldarium.core.lighten.day_chains import UNHURT, Asked, Chains, chains_of
from caldarium.core.physics import cold
from caldarium.core.physics.extremities import Digits
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Person
from caldarium.core.plan.figures import COVERED
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes

MOST_SETS = 1200
"""Sets that are tried: where there are more, pieces that are nearly alike count as one kind."""
NEARLY = (0.0, 0.1, 0.2, 0.4, 1.0)
"""Shares of its warmth by which a piece may be less warm than the warmest of its kind."""
Digit = Literal["fingers", "toes"]
AT_EASE = 10.0
"""More than a body at its ease wears anywhere [m² K/W]."""
NO_SLOPE = 1e-3
"""Share of a sum over a day's moments below which one of them is not asked about."""
ALIKE = 0.01
"""Digits warmer by less than this are as warm [K]: what a set so left out asks counts still."""


@dataclass(frozen=True)
class DigitSets:
    """Sets of kinds of pieces for fingers or toes, none of which has a part that does about as
    well; the pieces of each kind, by place in a list, of which one is enough and the warmest
    counts; how the sets, and those that have such a part, do through a day; and by which of the
    sets each of these counts."""

    sets: tuple[tuple[int, ...], ...]
    kinds: tuple[tuple[int, ...], ...]
    chains: Chains
    by: NDArray[np.intp]

    @property
    def binding(self) -> tuple[int, ...]:
        """Moments at which it matters what a set asks. Source: none, bookkeeping."""
        return self.chains.binding

    @property
    def asked(self) -> dict[int, Asked]:
        """What is asked at each of those. Source: day_chains."""
        return self.chains.asked

    @cached_property
    def _kept(self) -> NDArray[np.intp]:
        """Where among those that do well enough each set that is kept stands [S]."""
        first: NDArray[np.intp] = np.unique(self.by, return_index=True)[1]
        return first

    def short(self, share: Array, worn: Array) -> list[int]:
        """Moments that some of the sets at a point do not end unhurt; at others none asks for more.

        Args:
            share: of each set at the point [S].
            worn: what the body wears there [m² K/W, M].

        Source: day_chains.
        """
        chains = self._chains_of_kept
        ends = chains.take(np.flatnonzero(share > 0).tolist()).ends(worn)
        hurt: Flags = np.logical_or.reduce(ends < UNHURT, axis=0)
        return [m for m in self.binding if hurt[m]]

    @cached_property
    def _chains_of_kept(self) -> Chains:
        return self.chains.take(self._kept.tolist())

    def slopes(self, m: int, share: Array, worn: Array) -> Array:
        """In what sum over a day's moments the sets at a point ask most of a body, 0 where it wears
        as much as does any good: weights that sum to 1, or none.

        Args:
            m: the moment that must end unhurt, one that matters.
            share: of each set at the point [S].
            worn: what the body wears there at the moments that are asked about [m² K/W, n].

        Source: the sum itself that decides it, for a single set.
        """
        asked = self.asked[m]
        found = share @ asked.weights[self._kept]
        found[worn >= share @ asked.most[self._kept]] = 0.0
        found[found < NO_SLOPE * found.sum()] = 0.0
        return found / max(found.sum(), 1e-12)

    def of_sum(self, m: int, slopes: Array) -> Array:
        """The least of a sum of what is worn with which each set, or what counts by it, ends a
        moment unhurt [S]. Source: day_chains."""
        found = np.full(len(self.sets), np.inf)
        np.minimum.at(found, self.by, self.asked[m].of_sum(slopes))
        return found


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
    most: Array,
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
        anyway, most: insulation that each moment asks of the body whatever the digits do, and the
            most that it can wear [m² K/W, M].
        before: place of the moment each follows on its day, -1 for a day's first [M].

    Returns:
        The sets; only that of nothing where it matters at no moment what is taken.

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
    kinds, listed = _sets_of_kinds(dress, chosen, region)
    if chosen and not kinds:
        # Nothing is said where there would be too many to say it of.
        watched = np.zeros_like(watched)
    worn = [tuple(pieces[int(order[kinds[k][0]])] for k in each) for each in listed]
    beside = tuple(pieces[at] for at in always)
    clad = [(*each, *beside) for each in worn]
    found, many, their = _cooling(digit, person, clad, air, body, there, wetness, place)
    chains = chains_of(digit, found, many, their, anyway, most, watched, before)
    if not chains.binding:
        return DigitSets(((),), (), chains.take([0]), np.zeros(1, dtype=np.intp))
    able: Flags = np.logical_and.reduce(
        (chains.ends(chains.most) >= UNHURT) | ~chains.counts, axis=1
    )
    rows: list[int] = np.flatnonzero(able).tolist()
    sets, chains = [listed[row] for row in rows], chains.take(rows).tightened()
    by = _absorbed(sets, chains)
    kept: list[int] = np.unique(by).tolist()
    return DigitSets(
        tuple(sets[at] for at in kept),
        tuple(tuple(sorted(int(order[g]) for g in each)) for each in kinds),
        chains,
        np.searchsorted(kept, by).astype(np.intp),
    )


def _sets_of_kinds(
    dress: Wardrobes, places: Sequence[int], region: int
) -> tuple[list[list[int]], list[tuple[int, ...]]]:
    """Kinds of pieces, the warmest of each first, and all sets of kinds none of which takes
    another's place: as fine as keeps the sets few; none at all where that cannot be."""
    rivals: Flags = dress.beats[0] | dress.beats[0].T
    for share in NEARLY:
        kinds = _kinds(dress, places, rivals, region, share)
        first = [each[0] for each in kinds]
        found = _independent(rivals[np.ix_(first, first)])
        if len(found) <= MOST_SETS:
            return kinds, found
    return [], [()]


def _kinds(
    dress: Wardrobes, places: Sequence[int], rivals: Flags, region: int, share: float
) -> list[list[int]]:
    """Pieces of which only one is worn, that differ over a region by no more than a share of their
    warmth, and none of which is drier or shuts better than the warmest; that first."""
    local, open_to, holds = dress.local[0, :, region], dress.permeability[0], dress.holds[0]
    same = ("handwear", "together", "always", "only_at_camp", "waterproof", "layer", "wet_share")
    flags = np.stack([getattr(dress, name)[0].astype(float) for name in same])

    def alike(one: int, other: int) -> bool:
        elsewhere = np.ones(len(local), dtype=bool)
        elsewhere[[one, other]] = False
        return bool(
            rivals[one, other]
            and local[one] >= local[other] >= (1 - share) * local[one]
            and open_to[one] <= open_to[other]
            and holds[one] >= holds[other]
            and (flags[:, one] == flags[:, other]).all()
            and (rivals[one] == rivals[other])[elsewhere].all()
        )

    kinds: list[list[int]] = []
    for at in sorted(places, key=lambda g: (-local[g], open_to[g])):
        mine = next((kind for kind in kinds if share and alike(kind[0], at)), None)
        if mine is None:
            kinds.append([at])
        else:
            mine.append(at)
    return kinds


def _independent(rivals: Flags) -> list[tuple[int, ...]]:
    """Sets of places none of which rivals another, small ones first; more than are wanted where
    there are."""
    found: list[tuple[int, ...]] = [()]
    for each in found:
        if len(found) > MOST_SETS:
            break
        for at in range(each[-1] + 1 if each else 0, len(rivals)):
            if not rivals[at, list(each)].any():
                found.append((*each, at))
    return found


def _cooling(
    digit: Digit,
    person: Person,
    worn: Sequence[tuple[Garment, ...]],
    air: Air,
    body: Body,
    there: Flags,
    wetness: Callable[[list[Person]], Array],
    place: dict[str, int],
) -> tuple[Digits, Air, Body]:
    """How fingers or toes cool with each set, in what air, and of what bodies."""
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
    return found, many, their


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


def _absorbed(sets: list[tuple[int, ...]], chains: Chains) -> NDArray[np.intp]:
    """By which set each counts: the first part of it that keeps digits about as warm whenever it
    matters, on bodies as cold and as warm as can be; itself where there is none [S]."""
    rows = list(chains.binding)
    ends = np.concatenate(
        [np.minimum(each[:, rows], UNHURT) for each in (chains.coldest, chains.ends(chains.most))],
        axis=1,
    )
    found: NDArray[np.intp] = np.arange(len(sets))
    kept: list[int] = []
    # As bits of a number, which are looked through far quicker than sets.
    bits = [sum(1 << kind for kind in each) for each in sets]
    for at in sorted(range(len(sets)), key=lambda each: (len(sets[each]), sets[each])):
        parts = (other for other in kept if bits[other] & ~bits[at] == 0)
        like = next((k for k in parts if (ends[k] >= ends[at] - ALIKE).all()), None)
        if like is None:
            kept.append(at)
        else:
            found[at] = like
    return found
