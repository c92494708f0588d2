"""What nights ask at least of a bed and of what is worn in it: bounds made as by day.

Looser than the verdict: clothes are dry, everything that may be worn in bed is, and a bag gathers
as little damp as with everything on.
"""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from caldarium.core.lighten.bed_choices import Bottom, Top
from caldarium.core.lighten.day_bounds import Bound, finely
from caldarium.core.night.bedding import NO_BAG
from caldarium.core.night.beds import Beds, bed_clothes, lay_beds
from caldarium.core.physics import bed as bed_room
from caldarium.core.physics.clothing import REGION_SHARE
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import OUTSIDE, SKIN
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes
from caldarium.core.timeline.moments import Timeline

GRID = 400
"""Points at which what a bed loses is known, as by day."""


@dataclass(frozen=True)
class NightBounds:
    """Balances of one person over R hours of nights, N pieces, C tops and D bottoms.

    local insulation in bed of each piece, 0 where it is not there [clo, R x N x 7]; of each top:
    resistance by region and room for clothes [m² K/W and m, R x C x 7], share that wind leaves and
    what wet takes off [R x C], what is lost for each unit of conductance above, and made
    [W/m² K and W/m², R x C]; lost below on each bottom [W/m², R x D].
    """

    local: Array
    upper: Array
    room: Array
    kept: Array
    wet: Array
    pull: Array
    made: Array
    below: Array
    night: tuple[int, ...]

    def take(self, rows: Sequence[int]) -> "NightBounds":
        """Some hours only. Source: none, bookkeeping."""
        arrays = {name: part[list(rows)] for name, part in vars(self).items() if name != "night"}
        return NightBounds(**arrays, night=tuple(self.night[row] for row in rows))

    def hardest(self) -> "NightBounds":
        """The hours alone that are not milder than another of their night under every bed.

        Source: none, bookkeeping.
        """
        ask = np.concatenate([self.pull, -self.made, -self.kept, self.wet, self.below], axis=1)
        kept: list[int] = []
        for r, night in enumerate(self.night):
            others = [k for k in range(len(self.night)) if self.night[k] == night and k != r]
            beaten = (
                (ask[k] >= ask[r]).all() and ((ask[k] > ask[r]).any() or k < r) for k in others
            )
            if not any(beaten):
                kept.append(r)
        return self.take(kept)

    def of_beds(self, tops: Sequence[int], bottoms: Sequence[int]) -> "NightBounds":
        """Some tops and bottoms only. Source: none, bookkeeping."""
        over, under = list(tops), list(bottoms)
        arrays = {
            name: getattr(self, name)[:, over]
            for name in ("upper", "room", "kept", "wet", "pull", "made")
        }
        return replace(self, **arrays, below=self.below[:, under])

    def short(self, x: Array, y: Array, z: Array) -> Array:
        """By how much a point is certainly short at each hour [W/m², R]."""
        layers = np.einsum("n,rni->ri", x, self.local)
        there = np.flatnonzero(y)
        above, _, _ = self._above(layers, tops=there)
        balance = self.pull[:, there] * above - self.made[:, there]
        return balance @ y[there] + self.below @ z

    def short_of(self, x: Array, tops: NDArray[np.intp], bottoms: NDArray[np.intp]) -> Array:
        """By how much whole sets are certainly short at each hour [W/m², S x R].

        Args:
            x: pieces that they have [S x N].
            tops, bottoms: of each set [S].

        Source: as short.
        """
        layers = np.einsum("sn,rni->sri", x, self.local, optimize=True)

        def of(values: Array) -> Array:
            return np.moveaxis(values[:, tops], 1, 0)

        clothes = bed_room.clothes_in_bed(layers, of(self.room))
        plain = (REGION_SHARE / (of(self.upper) + clothes)).sum(axis=-1)
        above = plain / (of(self.kept) - of(self.wet) * plain)
        return of(self.pull) * above - of(self.made) + self.below[:, bottoms].T

    def _above(
        self, layers: Array, rows: slice = slice(None), tops: NDArray[np.intp] | slice = slice(None)
    ) -> tuple[Array, Array, Array]:
        """Conductance above under each top [W/(m² K), R x C], that before wind and wet, and its
        slope by that."""
        clothes = bed_room.clothes_in_bed(layers[:, None], self.room[rows, tops])
        plain = (REGION_SHARE / (self.upper[rows, tops] + clothes)).sum(axis=-1)
        kept, wet = self.kept[rows, tops], self.wet[rows, tops]
        left = kept - wet * plain
        return plain / left, plain, kept / left**2

    def bounds(
        self, x: Array, y: Array, z: Array, short: float, most: int
    ) -> list[tuple[Bound, Array, Array]]:
        """Bounds that a point breaks, the worst first, one a night: over pieces, over tops, over
        bottoms; all that is lost over what is made is at least that, and may be 0 at most."""
        over = self.short(x, y, z)
        found: list[tuple[Bound, Array, Array]] = []
        seen: set[int] = set()
        worst: list[int] = np.argsort(-over).tolist()
        for r in worst:
            if over[r] <= short or len(found) == most:
                break
            if self.night[r] in seen:
                continue
            bound, tops, bottoms = self._bound(r, x, y)
            if bound.weights @ x + tops @ y + bottoms @ z > short:
                seen.add(self.night[r])
                found.append((bound, tops, bottoms))
        return found

    @cached_property
    def _losses(self) -> tuple[Array, dict[int, Array]]:
        """A grid of insulation [clo], and by night what each region loses on it under each top
        [W/(m² K), GRID x C x 7]."""
        most = max(float(self.local.sum(axis=1).max(initial=1.0)), 1.0) + 0.01
        grid = finely(most, GRID)
        flat = np.repeat(grid[:, None, None], 7, axis=2)
        found = {
            night: REGION_SHARE
            / (self.upper[r] + bed_room.clothes_in_bed(flat, self.room[r : r + 1]))
            for r, night in enumerate(self.night)
            if r == 0 or self.night[r - 1] != night
        }
        return grid, found

    def _bound(self, r: int, x: Array, y: Array) -> tuple[Bound, Array, Array]:
        row = slice(r, r + 1)
        layers = x @ self.local[r]
        grid, by_night = self._losses
        most = float(grid[-1])
        above, plain, slope = (each[0] for each in self._above(layers[None], row))
        pull = self.pull[r] * slope
        top = int(np.argmax(y))
        loss = by_night[self.night[r]]
        cell = np.array([bisect_right(grid, each) for each in layers.tolist()])
        cell = np.minimum(cell, GRID - 1)
        regions = np.arange(7)
        falls = loss[cell - 1, top, regions] - loss[cell, top, regions]
        falls = falls / (grid[cell] - grid[cell - 1])
        falls = np.maximum(falls * pull[top], 0.0)
        scaled = loss * pull[:, None]
        least = (scaled[1:] + falls * grid[:-1, None, None]).min(axis=0)
        least = np.minimum(least, scaled[-1] + falls * most).sum(axis=-1)
        tops = self.pull[r] * (above - slope * plain) + least - self.made[r]
        bound = Bound(self.night[r], -(self.local[r] @ falls), 0.0)
        return bound, tops, self.below[r]


def night_bounds(
    course: Course,
    person: Person,
    timeline: Timeline,
    pieces: Sequence[Garment],
    there: Flags,
    tops: Sequence[Top],
    bottoms: Sequence[Bottom],
) -> NightBounds | None:
    """Bounds of one person's nights; None where there are none.

    Args:
        course, person, timeline: the plan.
        pieces: clothing on offer.
        there: which of it is with them on each night [nights x N].
        tops, bottoms: beds on offer.

    Source: core.night, loosened.
    """
    everything = person.model_copy(update={"garments": tuple(pieces), "overrules": ()})
    one = wardrobes((everything,))
    beds = _laid(course, [each.on(everything) for each in tops], timeline, one)
    nights = beds.site.nights
    if not nights:
        return None
    under = _laid(course, [each.on(everything) for each in bottoms], timeline, one)
    count, times = len(nights), beds.site.air.shape[1]
    outside = beds.site.air + beds.claimed[..., None]
    sleeper = bed_room.Sleeper(person.sleeper_index)
    ones = np.ones(outside.shape)

    def flow(resistance: float, laid: Beds, air: Array) -> bed_room.Flow:
        by_time = laid.by_time(heated=False)
        bed = bed_room.Bed(
            resistance * np.ones(air.shape),
            by_time.bottom,
            by_time.ground,
            by_time.lift,
            by_time.sky,
            by_time.rate,
        )
        return bed_room.heat_flow(bed, sleeper, air)

    one_unit, half = flow(1.0, beds, outside), flow(2.0, beds, outside)
    pull = 2 * ((one_unit.up - half.up) - (one_unit.made - half.made))
    made = one_unit.made - one_unit.up + pull
    # The warmest claim of any liner, so that none is held against a bottom.
    below = flow(1.0, under, under.site.air + beds.claimed.max(axis=0)[:, None]).down
    worn = _in_bed(course, one, np.logical_or.reduce(beds.bare, axis=0))
    order = [one.ids(0).index(piece.id) for piece in pieces]
    local = (worn[:, order, None] * one.local[0][order]) * there[..., None]
    wet = beds.wet * (beds.upper.min(axis=-1)[..., None] * beds.kept - beds.wet > NO_BAG / 2)

    def rows(values: Array) -> Array:
        """By hour of a night, then by bed."""
        whole = np.broadcast_to(values, (len(values), count, times))
        return whole.transpose(1, 2, 0).reshape(count * times, -1)

    def regions(values: Array) -> Array:
        whole = np.broadcast_to(values, (len(tops), count, 7)).transpose(1, 0, 2)
        return np.repeat(whole, times, axis=0)

    return NightBounds(
        local=np.repeat(local, times, axis=0),
        upper=regions(beds.upper),
        room=regions(beds.room),
        kept=rows(beds.kept * ones),
        wet=rows(wet),
        pull=rows(pull),
        made=rows(made),
        below=rows(below),
        night=tuple(night for night in range(count) for _ in range(times)),
    )


def _laid(course: Course, people: list[Person], timeline: Timeline, one: Wardrobes) -> Beds:
    return lay_beds(course, people, timeline, one.take(np.zeros(len(people), dtype=np.intp)))


def _in_bed(course: Course, dress: Wardrobes, bare: Flags) -> Flags:
    """Pieces that may be worn in bed on each night [nights x N]."""
    skin = (dress.layer == SKIN) & ~dress.only_at_camp
    clothes = bed_clothes(course, dress) | skin
    shells = (dress.layer >= 0) & ~dress.only_at_camp & (dress.layer <= OUTSIDE)
    found: Flags = clothes | (bare[:, None] & shells)
    return found
