"""Who can keep up with the party, leg by leg, and at which pace everybody could."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.capacity import kept_up, pace_kept
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Moment


@dataclass(frozen=True)
class Effort:
    """One person on one walk: power it takes and power they can keep up [W], the load carried [kg],
    the pace planned and the one they can keep [m/s]; 0 where none is slow enough."""

    moment: str
    takes: float
    keeps: float
    load: float
    pace: float
    own_pace: float

    @property
    def too_hard(self) -> bool:
        """Whether the walk is beyond them at the pace planned. Source: none, comparison."""
        return self.takes > self.keeps


def party_pace(efforts: Sequence[Effort]) -> float | None:
    """Pace that everybody on one walk could keep [m/s]; None where the planned one is that, or none
    is slow enough.

    Source: common practice, no published source: a party walks at its slowest.
    """
    slowest = min((each.own_pace for each in efforts), default=0.0)
    hard = any(each.too_hard for each in efforts)
    return slowest if hard and slowest > 0 else None


def able(course: Course, people: Sequence[Person], moments: Sequence[Moment]) -> Array:
    """Power that people can keep up at the moments' heights [W, P x M].

    Source: core.physics.capacity, with the course's share.
    """
    mass, uptake = (
        np.array([[getattr(person, name)] for person in people])
        for name in ("body_mass_kg", "uptake_ml")
    )
    height = np.array([moment.altitude for moment in moments])
    return kept_up(mass, uptake, height, course.kept_share)


def efforts(
    people: Sequence[Person], walks: Sequence[Moment], takes: Array, keeps: Array, carried: Array
) -> list[tuple[Effort, ...]]:
    """Efforts of everybody on the walks.

    Args:
        people: P of them.
        walks: M moments, all walked.
        takes: power at the pace planned, up and down shared by the way [W, P x M].
        keeps: power that can be kept up [W, P x M].
        carried: [kg, P x M].

    Returns:
        By person and walk.

    Source: core.physics.capacity.
    """
    pace, slope, terrain, climbing = (
        np.array([getattr(each.walk, name) for each in walks], dtype=float)
        for name in ("speed", "slope", "terrain", "climbing")
    )
    mass = np.array([[person.body_mass_kg] for person in people])
    hard = takes > keeps
    own = np.broadcast_to(pace, takes.shape).copy()
    if hard.any():
        rows, columns = np.nonzero(hard)
        own[rows, columns] = np.minimum(
            pace_kept(
                keeps[rows, columns],
                mass[rows, 0],
                np.minimum(carried, mass)[rows, columns],
                slope[columns],
                terrain[columns],
                climbing[columns],
            ),
            pace[columns],
        )
    table = zip(takes.tolist(), keeps.tolist(), carried.tolist(), own.tolist(), strict=True)
    return [
        tuple(
            Effort(walk.id, taken, kept, load, walk.walk.speed if walk.walk else 0.0, slow)
            for walk, taken, kept, load, slow in zip(walks, *rows, strict=True)
        )
        for rows in table
    ]
