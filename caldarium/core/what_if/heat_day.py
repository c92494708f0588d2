"""A day on the warm side by predicted heat strain: core temperature and water lost, by moments.

The verdict of heat lets moisture pass as in still air and asks what can be kept up without end;
this counts time, and carries warmth on from moment to moment. Either may be the first to warn.
"""

from dataclasses import dataclass, replace

import numpy as np

from caldarium.core.assess import met
from caldarium.core.day.dressing import Air, candidates, worth
from caldarium.core.physics import cold
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.heat_strain import (
    CORE_LIMIT,
    Strained,
    at_rest,
    strained,
    vapour_resistance,
)
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.timeline.moments import Timeline

STILL = 0.15
"""Air that is as good as still [m/s]. Source: ISO 9920:2007."""
LOST_TOO_MUCH = 0.05
"""Share of the body's mass in water that people may lose in a day who can drink. Source: ISO
7933:2023."""
WARM_FROM = 15.0
"""Air from which a day is looked at [°C]. Source: range of ISO 7933:2023."""
SAT_OUT = 60
"""Of an evening in camp, what is lived through [min]; by then everybody cools."""


@dataclass(frozen=True)
class HeatMoment:
    """One moment on the warm side: rectal temperature at its end and highest in it [°C], time until
    it passed CORE_LIMIT [h, 0 if it had before, infinite if it did not], and water lost in it and
    since the morning [L]."""

    moment: str
    core: float
    highest: float
    held_for: float
    lost: float
    lost_so_far: float


@dataclass(frozen=True)
class HeatDay:
    """A day of one person, and whether the water that is lost is more than they may lose."""

    moments: tuple[HeatMoment, ...]
    too_dry: bool

    def of(self, moment: str) -> HeatMoment | None:
        """One moment; None of one that is no part of the plan. Source: none, bookkeeping."""
        return next((each for each in self.moments if each.moment == moment), None)


def heat_day(course: Course, timeline: Timeline, person: Person, day: int) -> HeatDay:
    """Somebody's day on the warm side of the forecast, in the least that they can wear.

    Args:
        course, timeline: the plan.
        person: who.
        day: from 0.

    Returns:
        The warm moments of the plan in order, from rest in the morning and after each that is not
        warm, not acclimatised.

    Source: ISO 7933:2023 by core.physics.heat_strain; the warm side by core.timeline.
    """
    awake = tuple(m for m in timeline.moments if m.day == day and not m.fold and m.kind != "night")
    if all(each.warm.air < WARM_FROM for each in awake):
        return HeatDay((), too_dry=False)
    mass = np.array([person.body_mass_kg])
    area = body_area(mass, np.array([person.height_m]))
    air = met(course, (person,), area, timeline, awake)[0].on_the_warm_side()
    whole, still = _least(person, air)
    body, told = at_rest(1), list[HeatMoment]()
    for column, moment in enumerate(awake):
        if moment.warm.air < WARM_FROM:
            body = at_rest(1)._replace(lost=body.lost)
            continue
        minutes = max(round(60 * moment.hours), 1)
        minutes = min(minutes, SAT_OUT) if moment.kind == "camp" else minutes
        where = air.cells(np.array([0]), np.array([column])).where
        here = replace(where, **{k: np.ravel(v) for k, v in vars(where).items()})
        resists = vapour_resistance(whole[column : column + 1], still[column : column + 1])
        lived = list(strained(body, here, whole[column : column + 1], resists, mass, area, minutes))
        told.append(_moment(moment.id, body, lived))
        body = lived[-1]
    lost = told[-1].lost_so_far
    return HeatDay(tuple(told), too_dry=lost > LOST_TOO_MUCH * person.body_mass_kg)


def _least(person: Person, air: Air) -> tuple[Array, Array]:
    """The least there is to wear at each moment with every vent open, in its wind and in still air
    [m² K/W, M]."""
    dress = wardrobes((person,))
    least = candidates((person,), dress, air).outfits[:, :, :1]
    where = air.where
    calm = replace(
        where,
        air_speed=np.full(where.air_speed.shape, STILL),
        walking_speed=np.zeros(where.walking_speed.shape),
    )
    found: list[Array] = []
    for place in (air, replace(air, where=calm)):
        # Somebody bare has the air's own layer.
        bare = cold.air_layer(place.where.air_speed, place.where.walking_speed)[0]
        found.append(np.maximum(worth(dress, least, place, opened=True).whole[0, :, 0], bare))
    return found[0], found[1]


def _moment(name: str, before: Strained, lived: list[Strained]) -> HeatMoment:
    core = np.array([each.rectal[0] for each in lived])
    over = np.flatnonzero(core > CORE_LIMIT)
    held = (float(over[0]) + 1) / 60 if len(over) else float("inf")
    if float(before.rectal[0]) > CORE_LIMIT:
        held = 0.0
    lost = float(lived[-1].lost[0])
    return HeatMoment(
        name,
        float(core[-1]),
        float(max(core.max(), before.rectal[0])),
        held,
        (lost - float(before.lost[0])) / 1000,
        lost / 1000,
    )
