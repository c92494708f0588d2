"""What sets lack, quickly: everything on, as wet as in one set that the verdict has looked at.

Nothing here decides anything: it finds sets that are worth a verdict, thousands where the verdict
would look at a hundred.
"""

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.digits import FEET, HANDS, body_of, fingers, through_days, toes
from caldarium.core.day.dressing import BARE_PERMEABILITY, Air, Needs, round_shoulders, worth_of
from caldarium.core.day.outfits import ASKED, place_before
from caldarium.core.day.states import TOLERANCE
from caldarium.core.physics import cold
from caldarium.core.physics.allowances import Allowance
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.plan.figures import OUTSIDE
from caldarium.core.plan.turns import Turns, turns_of
from caldarium.core.plan.wardrobe import Wardrobes

AT_A_TIME = 128
"""Sets that are looked at together."""


@dataclass(frozen=True)
class Known:
    """What was found of one set: wetness of every piece at M moments, of those that it has not the
    least that is known [M x N]; what is met with its load [1 x M]; needs with what drying asks [M];
    moments at which long underwear is on away from camps [M]."""

    wet: Array
    where: cold.Exposure
    needs: Needs
    mornings: Flags


class Lacks(NamedTuple):
    """What S sets lack at M moments: insulation [m² K/W], minutes by which fingers and toes stay
    unhurt too short [S x M]; less than nothing holds."""

    insulation: Array
    fingers: Array
    toes: Array


class Quick:
    """A quick look at sets of one person.

    Args:
        everything: one wardrobe with all N pieces on offer.
        there: where each may be worn, by its place in that wardrobe [M x N].
        air: what is met at M moments [1 x M].
        bags: of each bed's bag drawn round in a hold [clo, C x M].
        allowances: of the course.
    """

    def __init__(
        self,
        everything: Wardrobes,
        there: Flags,
        air: Air,
        bags: Array,
        allowances: tuple[Allowance, ...],
    ) -> None:
        self.dress, self.there, self.air, self.bags = everything, there, air, bags
        self.allowances = allowances
        self.day_long = everything.day_long[0]
        self._turns: Turns = turns_of(everything.garments[0])
        self._before = place_before(air)
        self._hands = _over(everything, HANDS)
        self._feet = _over(everything, FEET)

    def lacks(
        self,
        has: Flags,
        tops: NDArray[np.intp],
        known: Known,
        rows: NDArray[np.intp] | None = None,
        *,
        digits: bool = True,
    ) -> Lacks:
        """What sets lack.

        Args:
            has: pieces of S sets, by place in the wardrobe [S x N].
            tops: their tops [S].
            known: wetness and needs to go by.
            rows: moments to look at, a day's from its first on; all where not given.
            digits: whether fingers and toes are looked at.

        Source: core.day.dressing and core.day.digits, in everything that a set has.
        """
        every = np.arange(len(self.air.moments)) if rows is None else rows
        if not has.size or not len(every):
            return Lacks(*(np.zeros((len(has), len(every))) for _ in range(3)))
        parts = [
            self._some(has[k : k + AT_A_TIME], tops[k : k + AT_A_TIME], known, every, digits=digits)
            for k in range(0, len(has), AT_A_TIME)
        ]
        return Lacks(*(np.concatenate(each) for each in zip(*parts, strict=True)))

    def _some(
        self,
        has: Flags,
        tops: NDArray[np.intp],
        known: Known,
        rows: NDArray[np.intp],
        *,
        digits: bool,
    ) -> Lacks:
        worn = self._worn(has, rows, known.mornings)
        wet = known.wet[rows]
        kept = 1 - wet * (1 - self.dress.wet_share[0])
        layers = np.matmul(
            worn.transpose(1, 0, 2).astype(float), kept[..., None] * self.dress.local[0]
        ).transpose(1, 0, 2)
        air = _at(self.air, known.where, rows, len(has))
        layers, permeability = round_shoulders(
            layers[:, :, None], self._outermost(worn)[:, :, None], self.bags[tops][:, rows]
        )
        whole = worth_of(layers, permeability, air).whole[..., 0]
        needs = Needs(*(part[rows] for part in vars(known.needs).values()))
        lack = needs.held - TOLERANCE * CLO - whole
        lack = np.where(np.isfinite(lack), lack, CLO)
        if not digits:
            return Lacks(lack, np.full(lack.shape, -1.0), np.full(lack.shape, -1.0))
        body = body_of(air, whole, needs, self.allowances)
        first = np.searchsorted(rows, self._before[rows])
        before = np.where(np.isin(self._before[rows], rows), first, -1)
        found: list[Array] = []
        for part, places in ((fingers, self._hands), (toes, self._feet)):
            dress = self.dress.some(places, len(has))
            there = air.with_wet(np.broadcast_to(wet[:, places], (len(has), *wet[:, places].shape)))
            safe = through_days(
                part(dress, worn[:, :, None, places], there, body), body, before
            ).safe_for
            found.append(np.maximum(60 * body.hours - safe, -1.0))
        return Lacks(lack, *found)

    def mornings(self, has: Flags, tops: NDArray[np.intp], known: Known) -> Flags:
        """Moments of days on which sets would have long underwear on from the morning [S x M].

        Source: core.day.outfits, but that nobody is too warm in it.
        """
        moments = self.air.moments
        asked = np.array([moment.kind in ASKED for moment in moments], dtype=bool)
        lack = self.lacks(has, tops, known, digits=False).insulation
        short = asked & (lack > -TOLERANCE * CLO)
        days = np.array([moment.day for moment in moments])
        found: Flags = (short @ (days[:, None] == days)) > 0
        return found

    def _worn(self, has: Flags, rows: NDArray[np.intp], mornings: Flags) -> Flags:
        """Everything of each set that is worn at each moment [S x M x N]."""
        dress, turns = self.dress, self._turns
        alone = has & ~turns.instead(has)
        shell, windshell = turns.shells(has)
        spare = (dress.layer[0] == OUTSIDE) & ~dress.always[0] & ~turns.always & ~shell & ~windshell
        may = self.there[rows] & ~dress.only_asleep[0]
        may &= ~self.day_long | (self.air.at_camp | mornings)[rows, None]
        worn = (alone & ~spare)[:, None] & may
        wet = self.air.wet_through[rows]
        worn &= ~((windshell & ~shell)[:, None] & wet[:, None])
        rivals = np.flatnonzero(dress.beats[0].any(axis=0))
        if len(rivals):
            beats = dress.beats[0][:, rivals].astype(np.float32)
            worn[..., rivals] &= ~(np.matmul(worn.astype(np.float32), beats) > 0)
        return worn

    def _outermost(self, worn: Flags) -> Array:
        """Permeability of the outermost piece over each region [S x M x 7]."""
        found = np.full((*worn.shape[:2], 7), BARE_PERMEABILITY)
        for r in range(7):
            places = np.flatnonzero(self.dress.covers[0, :, r])[::-1]
            if len(places):
                over = worn[..., places]
                first = over.argmax(axis=-1)
                table = self.dress.permeability[0, places]
                found[..., r] = np.where(over.any(axis=-1), table[first], BARE_PERMEABILITY)
        return found


def _over(dress: Wardrobes, region: int) -> NDArray[np.intp]:
    """Places of the pieces that have to do with a region."""
    return np.flatnonzero((dress.local[0, :, region] > 0) | dress.covers[0, :, region])


def _at(air: Air, met: cold.Exposure, rows: NDArray[np.intp], count: int) -> Air:
    """Some moments of one person's air, with what is met in it, for many."""
    shape = (count, len(rows))
    where = cold.Exposure(*(np.broadcast_to(part[:, rows], shape) for part in vars(met).values()))
    chosen: list[int] = rows.tolist()
    return Air(
        tuple(air.moments[row] for row in chosen),
        where,
        where,
        np.zeros((*shape, 1)),
        np.zeros(shape),
        air.stormy[rows],
        air.wet_through[rows],
        air.at_camp[rows],
    )
