"""How wet every piece is at least, whatever else is taken: seen in many ways to be clad.

What wets a piece is what it is worn under and over: rain by the shells, sweat by how much is on and
how well it lets vapour through. No one set has the least of all; these are the ways in which
pieces stay driest, and tests hold them against sets at random.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from caldarium.core.lighten.rules import Rule
from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.figures import regions_covered
from caldarium.core.plan.kit import Garment

BARRIER = 20.0
"""Vapour resistance from which a piece next to the skin makes what lies over it drier and itself
wetter [m² Pa/W]: judgement."""

Wetness = Callable[[Sequence[Sequence[Garment]]], tuple[Array, Array]]
"""How wet pieces are in some ways to be clad, 1 where they are not carried [P x M x N], and what is
to be held then [m² K/W, P x M]."""


@dataclass(frozen=True)
class Ways:
    """Ways to be clad in pieces that may be taken.

    pieces on offer and which of them may be taken; rules that every set keeps; places of pieces of
    which only so many are worn, and of those that take turns; what somebody has now.
    """

    pieces: Sequence[Garment]
    usable: Sequence[bool]
    rules: Sequence[Rule]
    alone: frozenset[int]
    turning: Sequence[int]
    own: Sequence[Garment]

    def least(self, wetness: Wetness) -> tuple[Array, Array]:
        """How wet each piece is at least, 0 to 1 [M x N], and what is to be held at least
        [m² K/W, M]. Source: core.day.wet_track."""
        seen, held = wetness(self._with_everything())
        least, needs = seen.min(axis=0), held.min(axis=0)
        if self.turning:
            # What takes turns lies dry in the pack where another is worn: only worn it counts.
            least[:, self.turning] = 1.0
        for places, ways in (self._each_alone(), self._turned()):
            if ways:
                wet, held = wetness(ways)
                needs = np.minimum(needs, held.min(axis=0))
                least[:, places] = np.minimum(least[:, places], wet.min(axis=0)[:, places])
        # Over a barrier the skin stays wet and clothes dry; one more would keep it dry itself.
        barriers = [at for at, piece in enumerate(self.pieces) if is_barrier(piece)]
        least[:, barriers] = 0.0
        return least, needs

    def _with_everything(self) -> list[list[Garment]]:
        """Everything that is worn beside others, over what they have, the lightest, the heaviest;
        under shells that shut best; and none but what rules ask, and what they have."""
        by_weight = self._by_weight
        own = [each for each in by_weight if each in self.own]
        free = [each for at, each in enumerate(self.pieces) if self._may(at)]
        away = {each.id for each in self._shells} - {each.id for each in self._shut}
        inside = [each for each in free if each.id not in away]
        open_to_sweat = [each for each in inside if not is_barrier(each)]
        few = {n for rule in self.rules for n in self._lightest(rule)}
        return [
            [*(own or by_weight), *free],
            [*by_weight, *free],
            [*by_weight[::-1], *free],
            [*by_weight, *inside],
            [*by_weight[::-1], *inside],
            [*by_weight, *open_to_sweat],
            [self.pieces[n] for n in sorted(few)],
            list(self.own),
        ]

    def _each_alone(self) -> tuple[list[int], list[list[Garment]]]:
        """Each piece of which only so many are worn, in the place of the lightest like it."""
        places = [at for at in sorted(self.alone - set(self.turning)) if self.usable[at]]
        light = {n for rule in self.rules for n in self._lightest(rule)}
        ways: list[list[Garment]] = []
        for at in places:
            mine = {n for rule in self.rules if at in rule.pieces for n in rule.pieces}
            rest = [self.pieces[n] for n in sorted(light - (mine & self.alone))]
            ways.append([*rest, *self._shut, self.pieces[at]])
        return places, ways

    def _turned(self) -> tuple[Sequence[int], list[list[Garment]]]:
        """Each piece that takes turns, in any boots."""
        boots = [n for rule in self.rules if rule.name == "footwear" for n in rule.pieces]
        names = {self.pieces[n].id for n in (*self.turning, *boots)}
        rest = [each for each in self._by_weight if each.id not in names]
        worn: list[list[Garment]] = [[self.pieces[n]] for n in boots if self.usable[n]]
        ways = [
            [*rest, *self._shut, *under, self.pieces[sock], *boot]
            for sock in self.turning
            for boot in worn or [[]]
            for under in ([], self._barriers)
        ]
        return self.turning, ways

    @cached_property
    def _by_weight(self) -> list[Garment]:
        """Pieces of which only so many are worn, the lightest first."""
        return sorted((self.pieces[n] for n in self.alone), key=lambda each: each.mass_g)

    @cached_property
    def _barriers(self) -> list[Garment]:
        return [each for at, each in enumerate(self.pieces) if self._may(at) and is_barrier(each)]

    def _may(self, at: int) -> bool:
        return self.usable[at] and at not in self.alone

    @cached_property
    def _shells(self) -> list[Garment]:
        """Shells that are worn in rain or wind."""
        return [
            each
            for at, each in enumerate(self.pieces)
            if self.usable[at] and each.layer == "shell" and not each.always
        ]

    @cached_property
    def _shut(self) -> list[Garment]:
        """Of waterproof shells for each region the one that covers most of it, and is light."""
        rain = [each for each in self._shells if each.waterproof]

        def most(region: str) -> Garment | None:
            able = [each for each in rain if region in regions_covered(each)]
            return max(able, key=lambda e: (e.cover[region], -e.mass_g), default=None)

        found = {each.id: each for region in REGIONS if (each := most(region)) is not None}
        return list(found.values())

    def _lightest(self, rule: Rule) -> list[int]:
        """The lightest pieces that keep a rule."""
        able = [n for n in rule.pieces if self.usable[n]]
        return sorted(able, key=lambda n: self.pieces[n].mass_g)[: rule.least]


def is_barrier(piece: Garment) -> bool:
    """Whether a piece next to the skin holds vapour back, so that with it others may get wetter.

    Source: judgement, see BARRIER.
    """
    resists = piece.vapour_resistance
    material = MATERIALS[piece.material].vapour
    return piece.layer == "base" and (material if resists is None else resists) >= BARRIER
