"""What closes a gap where no single piece does: small sets, a better place, a shorter time."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np

from caldarium.core.day.dressing import needed, worth
from caldarium.core.day.states import TOLERANCE, MomentState
from caldarium.core.physics import cold
from caldarium.core.physics.intake import longer_with
from caldarium.core.physics.quantities import CLO
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.timeline.moments import GROUP_SHELTER_WIND, Moment
from caldarium.core.what_if.cells import cell_air, fullest_of, with_pieces, worn_then
from caldarium.core.what_if.cures import Cure

LOOKED_AT = 14
"""Helpful pieces of which sets are made."""
LARGEST = 3
DRINK_L = 0.5
"""A hot drink [L]."""


@dataclass(frozen=True)
class CureSet:
    """Pieces that together close a gap, what they weigh [g], and what is left to spare [clo]."""

    pieces: tuple[Garment, ...]
    grams: float
    spare: float


def lightest_set(
    course: Course,
    person: Person,
    moment: Moment,
    state: MomentState,
    found: Sequence[Cure],
) -> CureSet | None:
    """The lightest two or three pieces that close a gap together; None where a single piece does or
    none of those looked at do.

    Args:
        course, person, moment, state: where and by whom.
        found: from cures there.

    Source: every set of the LOOKED_AT most helpful pieces, weighed with everything on.
    """
    if state.state != "gap" or any(each.whole for each in found):
        return None
    best = sorted(found, key=lambda each: -each.closes)[:LOOKED_AT]
    pieces = [each.piece for each in best]
    for size in range(2, LARGEST + 1):
        sets = list(combinations(pieces, size))
        if not sets:
            return None
        people = [with_pieces(person, *each) for each in sets]
        spare = fullest_of(course, moment, people, [state] * len(sets)) - state.need_min
        grams = [sum(piece.mass_g for piece in each) for each in sets]
        holding = [at for at in range(len(sets)) if spare[at] >= -TOLERANCE]
        if holding:
            lightest = min(holding, key=lambda at: (grams[at], at))
            return CureSet(sets[lightest], grams[lightest], float(spare[lightest]))
    return None


@dataclass(frozen=True)
class Otherwise:
    """What else would close a gap: whether a lee or a group shelter does, the longest that
    may be waited [h, 0 where not even the least does, None where time is not the user's to choose],
    how much longer the outfit holds with a hot drink [h, 0 where one is planned], and whether that
    closes it."""

    lee: bool
    roof: bool
    at_most: float | None
    drink: float
    drink_closes: bool


def otherwise(course: Course, person: Person, moment: Moment, state: MomentState) -> Otherwise:
    """A better place, a shorter halt, a hot drink, for somebody who is short at a moment.

    Args:
        course: for its lee and how long a halt is to be held.
        person, moment, state: where and by whom.

    Source: ISO 11079:2007 in the wind of the course's lee; core.physics.intake. That people let a
        halt run to twice its length is in the course.
    """
    dress = wardrobes((person,))
    air = cell_air(course, moment, (person,), (state,), dress)
    everything_on = worn_then(dress, (state,))[:, :, None]

    def holds_in(wind_share: float) -> bool:
        """Whether the outfit holds in so much of the open wind."""
        speed = np.maximum(air.where.air_speed * wind_share / max(moment.lee, wind_share), 0.4)
        calm = cold.Exposure(**(vars(air.where) | {"air_speed": speed}))
        whole = worth(dress, everything_on, replace(air, where=calm)).whole
        need = needed(calm, np.array(moment.by_clothing)).held
        return bool(whole[0, 0, 0] >= need[0, 0] - TOLERANCE * CLO)

    lee = moment.kind in ("halt", "setting out") and holds_in(course.hold_wind_share)
    roof = moment.kind in ("halt", "hold") and not moment.roof and holds_in(GROUP_SHELTER_WIND)
    at_most = None
    if moment.kind == "halt":
        enough = state.endurance >= course.halt_least_h
        at_most = state.endurance / course.halt_factor if enough else 0.0
    longer = 0.0
    if not moment.drink_l:
        longer = state.endurance * (float(longer_with(DRINK_L)) - 1)
    holds = state.endurance + longer >= moment.must_hold
    return Otherwise(lee, roof, at_most, longer, holds and moment.kind == "halt")
