"""A day as the body lives it: heat debt and clothing moisture carried from moment to moment.

The quasi-steady ISO 11079 stays the verdict; this is the story beside it. Every day begins rested
and dry. What clothing takes up and gives back is judgement and stands in the constants below.
"""

from dataclasses import dataclass

import numpy as np

from caldarium.core import cold
from caldarium.core.air import saturation_pressure
from caldarium.core.assess import MomentState, PersonResult
from caldarium.core.body import STEP_HOURS, Body, Surroundings, lived, rested
from caldarium.core.course import Person
from caldarium.core.effort import body_area
from caldarium.core.moments import Moment, Timeline
from caldarium.core.quantities import CLO, Array

TAKEN_UP = 0.35
"""Share of the sweat that clothing in cold air holds back as moisture: judgement."""
COLD_AIR = 10.0
"""Air above which sweat passes through ordinary clothing [°C]: judgement."""
MOST_HELD = 400.0
"""Moisture at which clothing drips [g/m²]: judgement."""
WORTH_WET = 0.5
"""Share of insulation left at MOST_HELD: judgement, between down and fleece."""
DRYING = 60.0
"""Moisture given back to dry air, worn [g/(h m²)]: judgement."""
STEP = 5 * STEP_HOURS
"""How often moisture and insulation are brought up to date [h]."""
DEBT_LIMIT = -cold.HEAT_DEBT_LIMIT


@dataclass(frozen=True)
class MomentStory:
    """What happened to the body in one moment: core and skin at its end [°C], heat stored in it and
    the lowest since the day began [W h/m²], moisture in the clothing at its end [g/m²], sweat [L],
    hours until the day's debt passed the limit (0 if it had before, infinite if it did not), what
    wet leaves of the insulation."""

    moment: str
    kind: str
    state: str
    core: float
    skin: float
    stored: float
    lowest: float
    moisture: float
    sweat: float
    held_for: float
    kept: float

    @property
    def in_debt(self) -> bool:
        """Whether the day's heat debt is past the limit here.

        Source: HEAT_DEBT_LIMIT of ISO 11079:2007.
        """
        return self.lowest < DEBT_LIMIT


@dataclass(frozen=True)
class DayStory:
    """One person's day: hour [h since the first midnight], core, skin [°C], stored [W h/m²] and
    moisture [g/m²] along it, and what each moment did."""

    hour: Array
    core: Array
    skin: Array
    stored: Array
    moisture: Array
    moments: tuple[MomentStory, ...]


def day_story(timeline: Timeline, person: Person, found: PersonResult, day: int) -> DayStory:
    """One person's waking day in one run.

    Args:
        timeline: the moments.
        person: whose body.
        found: what the assessment found for them, outfits included.
        day: from 0.

    Returns:
        The story; holds and the halts within a leg are not part of the plan and left out.

    Source: core.body; moisture is judgement.
    """
    states = {state.moment: state for state in found.moments}
    plan = [
        moment for moment in timeline.moments
        if moment.day == day and not moment.fold and moment.kind != "night"
    ]  # fmt: skip
    area = float(body_area(person.body_mass_kg, person.height_m))
    run = _Run(person.body_mass_kg / area, area)
    told = tuple(run.live(moment, states[moment.id]) for moment in plan)
    hour, core, skin, stored, moisture = np.array(run.track).reshape(-1, 5).T
    return DayStory(hour, core, skin, stored, moisture, told)


class _Run:
    """A body on its way through a day."""

    def __init__(self, mass_by_area: float, area: float) -> None:
        self.body: Body = rested(())
        self.moisture = 0.0
        self.mass_by_area, self.area = mass_by_area, area
        self.track: list[tuple[float, float, float, float, float]] = []

    def live(self, moment: Moment, state: MomentState) -> MomentStory:
        """Go through one moment."""
        begin = lowest = float(self.body.stored)
        sweat, hour = 0.0, moment.start
        held_for = 0.0 if begin < DEBT_LIMIT else float("inf")
        while hour < moment.end - 1e-9:
            span = min(STEP, moment.end - hour)
            self.body = lived(self.body, self._around(moment, state), span, self.mass_by_area)
            rate = float(self.body.sweat)
            sweat += rate * span * self.area / 1000
            self._soak(rate, span, moment)
            hour += span
            lowest = min(lowest, float(self.body.stored))
            if held_for == float("inf") and lowest < DEBT_LIMIT:
                held_for = hour - moment.start
            self.track.append(
                (hour, float(self.body.core), float(self.body.skin), float(self.body.stored),
                 self.moisture)
            )  # fmt: skip
        return MomentStory(
            moment=moment.id,
            kind=moment.kind,
            state=state.state,
            core=float(self.body.core),
            skin=float(self.body.skin),
            stored=float(self.body.stored) - begin,
            lowest=lowest,
            moisture=self.moisture,
            sweat=sweat,
            held_for=held_for,
            kept=self._kept(),
        )

    def _kept(self) -> float:
        return 1 - (1 - WORTH_WET) * min(self.moisture / MOST_HELD, 1.0)

    def _soak(self, sweat: float, span: float, moment: Moment) -> None:
        taken = TAKEN_UP * sweat if moment.air < COLD_AIR else 0.0
        dry = DRYING * (1 - min(moment.humidity, 100.0) / 100 * 0.8)
        given = 0.0 if moment.precipitation > 0.1 else dry
        self.moisture = min(max(self.moisture + (taken - given) * span, 0.0), MOST_HELD)

    def _around(self, moment: Moment, state: MomentState) -> Surroundings:
        worn = np.array(state.provided * CLO * self._kept())
        pace = moment.walk.speed if moment.walk else 0.0
        layer = cold.air_layer(state.air_speed, min(pace, cold.WALKING_SPEED_CAP))
        air = np.array(moment.air)
        return Surroundings(
            operative=air,
            vapour=moment.humidity / 100 * saturation_pressure(air),
            sensible=worn + layer / cold.area_factor(worn),
            evaporative=cold.LEWIS_PERMEABILITY * (worn + layer),
            metabolic_rate=np.array(state.rate),
        )
