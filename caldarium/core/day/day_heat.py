"""A day as the body lives it: heat and heat debt carried from moment to moment.

The quasi-steady ISO 11079 stays the verdict; this is the story beside it. Every day begins rested.
Clothing is as wet as the assessment finds it.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.day.states import MomentState
from caldarium.core.physics import cold
from caldarium.core.physics.air import saturation_pressure
from caldarium.core.physics.body import RESTED, STEP_HOURS, Body, Surroundings, lived
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.extremities import RADIANT
from caldarium.core.physics.quantities import CLO, Array
from caldarium.core.plan.course import Person
from caldarium.core.timeline.moments import Moment, Timeline

STEP = 5 * STEP_HOURS
"""How often the curve is drawn [h]."""
DEBT_LIMIT = -cold.HEAT_DEBT_LIMIT


@dataclass(frozen=True)
class MomentStory:
    """What happened to the body in one moment: core and skin at its end [°C], heat stored in it and
    the lowest since the day began [W h/m²], water in the clothing at its end [g], sweat [L], hours
    until the day's debt passed the limit (0 if it had before, infinite if it did not), what wet
    leaves of the insulation, and whether it stands apart from the plan: a hold or a short halt,
    lived from where the walk to it ended."""

    moment: str
    kind: str
    state: str
    core: float
    skin: float
    stored: float
    lowest: float
    water: float
    sweat: float
    held_for: float
    kept: float
    apart: bool

    @property
    def in_debt(self) -> bool:
        """Whether the day's heat debt is past the limit here.

        Source: HEAT_DEBT_LIMIT of ISO 11079:2007.
        """
        return self.lowest < DEBT_LIMIT

    @property
    def differs(self) -> bool:
        """Whether the story says something else than the verdict. Source: none, bookkeeping."""
        return self.in_debt != (self.state == "gap")


@dataclass(frozen=True)
class DayStory:
    """One person's day: hour [h since the first midnight], core, skin [°C] and stored [W h/m²]
    along it, and what each moment did, in order."""

    hour: Array
    core: Array
    skin: Array
    stored: Array
    moments: tuple[MomentStory, ...]

    @property
    def planned(self) -> tuple[MomentStory, ...]:
        """The moments of the plan itself. Source: none, bookkeeping."""
        return tuple(each for each in self.moments if not each.apart)

    @property
    def water(self) -> tuple[float, ...]:
        """Water in the clothing at the end of each moment of the plan [g]."""
        return tuple(each.water for each in self.planned)


def day_story(
    timeline: Timeline,
    person: Person,
    states: Sequence[MomentState],
    day: int,
    folds: Collection[str] | None = None,
) -> DayStory:
    """One person's waking day in one run.

    Args:
        timeline: the moments.
        person: whose body.
        states: what the assessment found for them, outfits and wetness included.
        day: from 0.
        folds: holds and halts within a leg to tell of too, all where not given; together they
            take as long as the rest.

    Returns:
        The story.

    Source: core.physics.body.
    """
    at = {state.moment: state for state in states}
    area = float(body_area(person.body_mass_kg, person.height_m))
    run = _Run(person.body_mass_kg / area, area)
    told = tuple(
        run.live(moment, at[moment.id])
        for moment in timeline.moments
        if moment.day == day
        and moment.kind != "night"
        and (not moment.fold or folds is None or moment.id in folds)
    )
    hour, core, skin, stored = np.array(run.track).reshape(-1, 4).T
    return DayStory(hour, core, skin, stored, told)


class _Run:
    """A body on its way through a day."""

    def __init__(self, mass_by_area: float, area: float) -> None:
        self.body: Body[float] = RESTED
        self.mass_by_area, self.area = mass_by_area, area
        self.track: list[tuple[float, float, float, float]] = []

    def live(self, moment: Moment, state: MomentState) -> MomentStory:
        """Go through one moment; from one that is no part of the plan the body comes back."""
        before = body = self.body
        around = _around(moment, state)
        lowest, sweat, hour = before.stored, 0.0, moment.start
        held_for = 0.0 if lowest < DEBT_LIMIT else float("inf")
        while hour < moment.end - 1e-9:
            span = min(STEP, moment.end - hour)
            body = lived(body, around, span, self.mass_by_area)
            sweat += body.sweat * span * self.area / 1000
            hour += span
            lowest = min(lowest, body.stored)
            if held_for == float("inf") and lowest < DEBT_LIMIT:
                held_for = hour - moment.start
            if not moment.fold:
                self.track.append((hour, body.core, body.skin, body.stored))
        if not moment.fold:
            self.body = body
        return MomentStory(
            moment=moment.id,
            kind=moment.kind,
            state=state.state,
            core=body.core,
            skin=body.skin,
            stored=body.stored - before.stored,
            lowest=lowest,
            water=state.water,
            sweat=sweat,
            held_for=held_for,
            kept=min(state.provided / max(state.dry, 1e-6), 1.0),
            apart=moment.fold,
        )


def _around(moment: Moment, state: MomentState) -> Surroundings[float]:
    """What the body meets: the sun's share of the air layer's exchange, and heat as M - W."""
    worn = state.provided * CLO
    pace = moment.walk.speed if moment.walk else 0.0
    layer = float(cold.air_layer(state.air_speed, min(pace, cold.WALKING_SPEED_CAP)))
    return Surroundings(
        operative=moment.air + moment.sun * RADIANT * layer,
        vapour=moment.humidity / 100 * float(saturation_pressure(moment.air)),
        sensible=worn + layer / float(cold.area_factor(worn)),
        evaporative=cold.LEWIS_PERMEABILITY * (worn + layer),
        metabolic_rate=state.rate - state.work,
    )
