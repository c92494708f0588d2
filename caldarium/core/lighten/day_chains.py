"""What fingers or toes ask of a day's moments together: each begins as the one before left them.

Where digits tend rises straight with what the body wears, so that how warm they end a moment is a
sum over the moments of the day so far. A set of gloves thus asks for so much of that sum, and what
it asks of any other sum over the same moments is the least that can go with it.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.digits import Body
from caldarium.core.day.dressing import Air
from caldarium.core.physics.extremities import FREEZES, HIGHEST, START, Digits, blood_heat
from caldarium.core.physics.quantities import Array, Flags

UNHURT = FREEZES - 1e-6
"""Digits that end a moment no colder are unhurt [°C]."""


@dataclass(frozen=True)
class Asked:
    """What S sets ask so that digits end a moment unhurt: of the insulation worn at n moments, by
    their places, a sum by weights [K per m² K/W, S x n] of at least something [K, S]. What is worn
    counts from the least that each moment asks anyway [m² K/W, n] to the most that does any good
    [m² K/W, S x n]."""

    moments: tuple[int, ...]
    weights: Array
    needs: Array
    least: Array
    most: Array

    def of_sum(self, slopes: Array) -> Array:
        """The least of another sum over the same moments with which each set ends unhurt [S].

        Args:
            slopes: weights of that sum, none less than 0 [n].

        Source: the one-row knapsack of fractions (Dantzig 1957), from memory.
        """
        counted = np.minimum(self.least, self.most)
        room = (self.most - counted) * self.weights
        price = slopes / np.maximum(self.weights, 1e-12)
        order = np.argsort(price, axis=1)
        room, price = (np.take_along_axis(each, order, axis=1) for each in (room, price))
        lacks = np.maximum(self.needs - (self.weights * counted).sum(axis=1), 0.0)[:, None]
        filled = np.clip(lacks - (room.cumsum(axis=1) - room), 0.0, room)
        found: Array = (filled * price).sum(axis=1) + slopes @ self.least
        return found


@dataclass(frozen=True)
class Chains:
    """How warm digits end M moments with each of S sets, at most: base [°C], and what one m² K/W
    worn [K] and one degree at the start bring [S x M]; what is worn counts from the least that each
    moment asks anyway [m² K/W, M] to the most that does any good [m² K/W, S x M]. Place of the
    moment each follows, -1 for none; warmest that each begins [°C, S x M]; moments that must end
    unhurt [M]."""

    base: Array
    gains: Array
    keeps: Array
    least: Array
    most: Array
    before: NDArray[np.intp]
    warmest: Array
    counts: Flags

    def take(self, sets: Sequence[int]) -> "Chains":
        """Of some sets. Source: none, bookkeeping."""
        rows = list(sets)
        return Chains(
            self.base[rows],
            self.gains[rows],
            self.keeps[rows],
            self.least,
            self.most[rows],
            self.before,
            self.warmest[rows],
            self.counts,
        )

    def tightened(self) -> "Chains":
        """The same, of sets that all do well enough at their best: what the most that any of them
        leaves of a moment's ask makes certain counts as worn at least.

        Source: none, arithmetic.
        """
        least = self.least.copy()
        for m, asked in self.asked.items():
            others = (asked.weights * asked.most)[:, 1:].sum(axis=1)
            alone = (asked.needs - others) / np.maximum(asked.weights[:, 0], 1e-12)
            least[m] = max(least[m], float(np.minimum(alone, asked.most[:, 0]).min()))
        return replace(self, least=least)

    def ends(self, worn: Array) -> Array:
        """How warm digits end at most in a body that wears so much [°C, S x M].

        Args:
            worn: insulation at each moment, or for each set too [m² K/W].
        """
        counted = np.clip(worn, self.least, self.most)
        found = np.empty(self.base.shape)
        for m, earlier in enumerate(self.before.tolist()):
            begins = found[:, earlier] if self._follows(m) else self.warmest[:, m]
            found[:, m] = self.base[:, m] + self.gains[:, m] * counted[:, m]
            found[:, m] += self.keeps[:, m] * begins
        return found

    def _follows(self, m: int) -> bool:
        """Whether a moment begins as another ended; what may be hurt then may begin anyhow."""
        return bool(self.before[m] >= 0 and self.counts[self.before[m]])

    @cached_property
    def coldest(self) -> Array:
        """How warm each set ends each moment in a body that is only as warm as it must be
        [°C, S x M]."""
        return self.ends(self.least)

    @cached_property
    def binding(self) -> tuple[int, ...]:
        """Moments at which it matters what a set asks."""
        short: Flags = (self.coldest < UNHURT).any(axis=0) & self.counts
        return tuple(np.flatnonzero(short).tolist())

    @cached_property
    def asked(self) -> dict[int, Asked]:
        """What is asked at each moment that matters."""
        return {m: self._asked(m) for m in self.binding}

    def _asked(self, m: int) -> Asked:
        moments, weights = [m], [self.gains[:, m]]
        base, keeps = self.base[:, m], self.keeps[:, m]
        while self._follows(moments[-1]):
            earlier = int(self.before[moments[-1]])
            moments.append(earlier)
            weights.append(keeps * self.gains[:, earlier])
            base = base + keeps * self.base[:, earlier]
            keeps = keeps * self.keeps[:, earlier]
        ends = base + keeps * self.warmest[:, moments[-1]]
        return Asked(
            tuple(moments),
            np.stack(weights, axis=1),
            UNHURT - ends,
            self.least[moments],
            self.most[:, moments],
        )


def chains_of(
    digit: str,
    found: Digits,
    air: Air,
    body: Body,
    anyway: Array,
    most: Array,
    watched: Flags,
    before: NDArray[np.intp],
) -> Chains:
    """How sets do through their days.

    Args:
        digit: "fingers" or "toes".
        found: digits of S sets in K outfits each; what the body wears is not looked at [S x M x K].
        air, body: of each set; what the body wears is not looked at [S x M].
        anyway, most: insulation that each moment asks of the body whatever the digits do, and the
            most that it can wear [m² K/W, M].
        watched: moments at which digits must not be hurt [M].
        before: place of the moment each follows on its day, -1 for a day's first [M].

    Returns:
        What is never colder than with the best of the K outfits; moments at which no set does are
        not counted.

    Source: core.physics.extremities, whose two bends, least blood and warmest digits, are made
        straight from above.
    """
    need, rate = body.needs, air.where.metabolic_rate
    top: Array = np.maximum(np.maximum(need.neutral, need.minimal)[0], anyway + 1e-9)
    low, high = (
        air.where.air[..., None]
        + (body.share * blood_heat(digit, rate, worn, need.minimal, need.neutral))[..., None]
        * found.resistance
        for worn in (anyway, top)
    )
    rises = (high - low) / (top - anyway)[:, None]
    rises[low >= HIGHEST] = 0.0
    low, high = np.minimum(low, HIGHEST), np.minimum(high, HIGHEST)
    # Beyond where the first outfit is as warm as digits get, more warms none of them much.
    full = anyway[:, None] + (high - low) / np.maximum(rises, 1e-12)
    good = np.where(rises > 0, np.minimum(full, top[:, None]), anyway[:, None]).min(axis=-1)
    at_most = low + rises * (good - anyway)[..., None]
    fade = np.exp(-body.hours[:, None] / found.constant)
    best = (at_most * (1 - fade) + START * fade).argmax(axis=-1)[..., None]

    def chosen(each: Array) -> Array:
        return np.take_along_axis(each, best, axis=-1)[..., 0]

    keeps, gains = chosen(fade), chosen(rises * (1 - fade))
    base = chosen(low * (1 - fade)) - gains * anyway
    shape = keeps.shape
    begins = np.stack([np.full(shape, START), np.full(shape, START)])
    ends = np.empty(begins.shape)
    for m, earlier in enumerate(before.tolist()):
        if earlier >= 0:
            begins[:, :, m] = ends[:, :, earlier]
        # Where another outfit does better at either end, all count as if they did everywhere.
        more = np.zeros(shape[0])
        for start in begins[:, :, m]:
            for worn, warm in ((anyway[m], low), (good[:, m], at_most), (good[:, m], high)):
                here = warm[:, m] * (1 - fade[:, m]) + start[:, None] * fade[:, m]
                mine = base[:, m] + gains[:, m] * worn + keeps[:, m] * start
                more = np.maximum(more, here.max(axis=-1) - mine)
        base[:, m] += more
        for row, worn in (
            (0, anyway[m]),
            (1, np.minimum(good[:, m], np.maximum(most[m], anyway[m]))),
        ):
            ends[row, :, m] = base[:, m] + gains[:, m] * worn + keeps[:, m] * begins[row, :, m]
    counts: Flags = watched & (ends[1] >= UNHURT).any(axis=0)
    good = np.minimum(good, np.maximum(most, anyway))
    return Chains(base, gains, keeps, anyway, good, before, begins[1], counts)
