"""What somebody meets with what they carry: a heavier pack makes a walker warmer."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from caldarium.core.assess import met
from caldarium.core.day.dressing import Air, Needs, needed
from caldarium.core.physics import cold
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Moment, Timeline


@dataclass(frozen=True)
class Laden:
    """What somebody meets at M waking moments with what they carry, pieces dry, and what that asks:
    each part [1 x M]."""

    air: Air
    needs: Needs

    @classmethod
    def of(cls, air: Air, needs: Needs, row: int) -> Self:
        """One of many. Source: none, bookkeeping."""
        shape = needs.held.shape

        def only(part: Array) -> Array:
            return np.broadcast_to(part, shape)[row : row + 1]

        where, warm = (
            cold.Exposure(*map(only, vars(side).values())) for side in (air.where, air.warm)
        )
        return cls(replace(air, where=where, warm=warm), Needs(*map(only, vars(needs).values())))


def together(laden: Sequence[Laden]) -> tuple[Air, Needs]:
    """What many meet, and what that asks [P x M]. Source: none, bookkeeping."""
    where = cold.Exposure(*_stacked([each.air.where for each in laden]))
    warm = cold.Exposure(*_stacked([each.air.warm for each in laden]))
    needs = Needs(*_stacked([each.needs for each in laden]))
    return replace(laden[0].air, where=where, warm=warm), needs


def _stacked(parts: Sequence[cold.Exposure | Needs]) -> list[Array]:
    """The fields of some, each over all."""
    fields = zip(*(vars(each).values() for each in parts), strict=True)
    return [np.concatenate(each) for each in fields]


def loaded(
    course: Course, people: tuple[Person, ...], timeline: Timeline, awake: tuple[Moment, ...]
) -> tuple[Air, Needs]:
    """What people meet at waking moments with what they carry, pieces dry, and what that asks.

    Args:
        course, people, timeline: the plan.
        awake: the M moments.

    Source: core.assess, core.day.dressing.
    """
    areas = body_area(
        np.array([person.body_mass_kg for person in people]),
        np.array([person.height_m for person in people]),
    )
    air, _ = met(course, people, areas, timeline, awake)
    held = np.array([moment.by_clothing for moment in awake])
    return air, needed(air.where, held)
