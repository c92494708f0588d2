"""A day as the body lives it: heat and heat debt carried from moment to moment, and with them hands
and feet, fingers and toes.

The quasi-steady ISO 11079 stays the verdict; this is the story beside it. Every day begins rested.
Clothing is as wet as the assessment finds it. A halt begins in what was walked in; a hot drink and
food warm as they do. Everybody of a course lives a day together.
"""

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from caldarium.core.day.states import MomentState
from caldarium.core.physics import cold
from caldarium.core.physics.air import saturation_pressure
from caldarium.core.physics.body import Around, Bodies, Body
from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.extremities import FINGER, FREEZES, HEAT_CAPACITY, RADIANT, START, TOE
from caldarium.core.physics.intake import DRUNK_IN, EATEN_FOR, drink_heat, food_heat
from caldarium.core.physics.quantities import CLO, Array
from caldarium.core.physics.segments import CHEST, FEET, HANDS, UNDER
from caldarium.core.plan.course import Person
from caldarium.core.timeline.moments import Moment, Timeline

FIRST_STEP, GROWTH, LONGEST_STEP = 1 / 20, 1.3, 1 / 6
"""Steps of the body after a change: the first [h], how much longer each is than the one before, and
the longest [h]. Held against steps of half a minute in tests/oracles."""
DEBT_LIMIT = -cold.HEAT_DEBT_LIMIT


@dataclass(frozen=True)
class MomentStory:
    """What happened to the body in one moment: core, mean skin, hands, feet, fingers and toes at
    its end [°C], heat stored in it and the lowest since the day began [W h/m²], the hardest
    shivering [W/m²], water in the clothing at its end [g], sweat [L], hours until the day's debt
    passed the limit (0 if it had before, infinite if it did not), what wet leaves of the
    insulation, and whether it stands apart from the plan: a hold or a short halt, lived from where
    the walk to it ended. cold_digits are fingers or toes of which this says that injury threatens
    and the verdict does not."""

    moment: str
    kind: str
    state: str
    core: float
    skin: float
    hands: float
    feet: float
    fingers: float
    toes: float
    stored: float
    lowest: float
    shivering: float
    water: float
    sweat: float
    held_for: float
    kept: float
    apart: bool
    cold_digits: tuple[str, ...]

    @property
    def in_debt(self) -> bool:
        """Whether the day's heat debt is past the limit here.

        Source: HEAT_DEBT_LIMIT of ISO 11079:2007.
        """
        return self.lowest < DEBT_LIMIT

    @property
    def differs(self) -> bool:
        """Whether the story says something else than the verdict. Source: none, bookkeeping."""
        return self.in_debt != (self.state == "gap") or bool(self.cold_digits)


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
    """One person's waking day in one run, see day_stories. Source: core.physics.body."""
    return day_stories(timeline, (person,), (states,), day, folds)[0]


def day_stories(
    timeline: Timeline,
    people: Sequence[Person],
    states: Sequence[Sequence[MomentState]],
    day: int,
    folds: Collection[str] | None = None,
) -> list[DayStory]:
    """A waking day of some people, lived together.

    Args:
        timeline: the moments.
        people: whose bodies.
        states: what the assessment found for each of them, outfits and wetness included.
        day: from 0.
        folds: holds and halts within a leg to tell of too, all where not given; together they
            take as long as the rest.

    Returns:
        The story of each.

    Source: core.physics.body.
    """
    found = [{state.moment: state for state in each} for each in states]
    run = _Run(people)
    for moment in timeline.moments:
        told = not moment.fold or folds is None or moment.id in folds
        if moment.day == day and moment.kind != "night" and told:
            run.live(moment, [each[moment.id] for each in found])
    return run.told()


def steps_of(hours: float) -> list[float]:
    """Steps in which a body lives through one moment, short after the change and longer after.

    Args:
        hours: how long the moment is.

    Returns:
        Their lengths [h].

    Source: none, numerics; see FIRST_STEP.
    """
    spans, left, span = list[float](), hours, FIRST_STEP
    while left > 1e-9:
        # A rest shorter than half a step goes with the last.
        here = left if left < 1.5 * span else span
        spans.append(here)
        left -= here
        span = min(span * GROWTH, LONGEST_STEP)
    return spans


@dataclass(frozen=True)
class _Lived:
    """People at one time: their bodies, and fingers and toes [°C, N x 2]."""

    body: Body
    digits: Array


class _Run:
    """People on their way through a day."""

    def __init__(self, people: Sequence[Person]) -> None:
        self.bodies = Bodies(
            np.array([person.body_mass_kg for person in people]),
            np.array([person.height_m for person in people]),
        )
        self.area = self.bodies.anatomy.area.sum(axis=1)
        body = self.bodies.rested()
        self.walked: Sequence[MomentState] | None = None
        self.meals: list[tuple[float, float]] = []
        self.now = _Lived(body, np.full((len(people), 2), START))
        self.hours: list[float] = []
        self.track: list[Array] = []
        self.stories: list[list[MomentStory]] = [[] for _ in people]

    def live(self, moment: Moment, states: Sequence[MomentState]) -> None:
        """Go through one moment; from one that is no part of the plan the bodies come back."""
        before = self.now.body
        lowest, sweat = before.stored, np.zeros(len(states))
        shivering = np.zeros(len(states))
        passed = np.where(before.stored < DEBT_LIMIT, 0.0, np.inf)
        last, digits, hours = before, self.now.digits, 0.0
        for span, body in self._through(moment, states):
            sweat = sweat + body.sweat * span * self.area / 1000
            shivering = np.maximum(shivering, body.shivering)
            digits = _cooled(digits, body, moment, states, span)
            falls = np.maximum(last.stored - body.stored, 1e-9)
            share = np.clip((last.stored - DEBT_LIMIT) / falls, 0.0, 1.0)
            first = (passed == np.inf) & (body.stored < DEBT_LIMIT)
            passed = np.where(first, hours + share * span, passed)
            lowest, hours, last = np.minimum(lowest, body.stored), hours + span, body
            if not moment.fold:
                self.hours.append(moment.start + hours)
                core, skin = body.core[:, CHEST], body.mean_skin(self.bodies.anatomy)
                self.track.append(np.stack([core, skin, body.stored], axis=1))
        if not moment.fold:
            self.now = _Lived(last, digits)
            self.walked = states if moment.walk is not None else None
            if moment.eaten_kcal:
                self.meals.append((moment.start, moment.eaten_kcal))
        columns = {
            "core": last.core[:, CHEST],
            "skin": last.mean_skin(self.bodies.anatomy),
            "hands": last.skin[:, HANDS],
            "feet": last.skin[:, FEET],
            "fingers": digits[:, 0],
            "toes": digits[:, 1],
            "stored": last.stored - before.stored,
            "lowest": lowest,
            "shivering": shivering,
            "sweat": sweat,
            "held_for": passed,
        }
        figures = {name: values.tolist() for name, values in columns.items()}
        for row, state in enumerate(states):
            here = {name: values[row] for name, values in figures.items()}
            cold_here = [
                name
                for name in ("fingers", "toes")
                if here[name] < FREEZES and name not in state.at_risk
            ]
            self.stories[row].append(
                MomentStory(
                    moment=moment.id,
                    kind=moment.kind,
                    state=state.state,
                    water=state.water,
                    kept=min(state.provided / max(state.dry, 1e-6), 1.0),
                    apart=moment.fold,
                    cold_digits=tuple(cold_here),
                    **here,
                )
            )

    def _through(
        self, moment: Moment, states: Sequence[MomentState]
    ) -> Iterator[tuple[float, Body]]:
        """Each step of a moment and the bodies after it: a halt begins in what was walked in, a hot
        drink warms while it is drunk, and what was eaten while it is digested."""
        body, walked = self.now.body, self.walked
        late = moment.jacket_after if walked is not None else 0.0
        drunk_in = min(DRUNK_IN, moment.hours) if moment.drink_l else 0.0
        given = drink_heat(moment.drink_l) / max(drunk_in, 1e-9) / self.area
        digests = self._digests(moment) / self.area
        cuts = [0.0, *sorted({late, drunk_in} - {0.0, moment.hours}), moment.hours]
        for begin, end in pairwise(cuts):
            worn = walked if walked is not None and begin < late else states
            around = _around(moment, states, worn)
            around = around._replace(
                metabolic_rate=around.metabolic_rate + digests, given=given * (begin < drunk_in)
            )
            spans = steps_of(end - begin)
            every = np.broadcast_to(spans, (len(states), len(spans)))
            for span, after in zip(spans, self.bodies.through(body, around, every), strict=True):
                body = after
                yield span, after

    def _digests(self, moment: Moment) -> float:
        """Heat made from what was eaten before and in a moment, on average over it [W]."""
        meals = [*self.meals, (moment.start, moment.eaten_kcal)]
        hours = max(moment.hours, 1e-9)
        shares = (np.clip((at + EATEN_FOR - moment.start) / hours, 0.0, 1.0) for at, _ in meals)
        return float(
            sum(s * food_heat(energy) for s, (_, energy) in zip(shares, meals, strict=True))
        )

    def told(self) -> list[DayStory]:
        """The stories as far as they have been lived."""
        hour = np.array(self.hours)
        track = np.array(self.track).reshape(len(hour), len(self.stories), 3)
        return [
            DayStory(hour, track[:, row, 0], track[:, row, 1], track[:, row, 2], tuple(moments))
            for row, moments in enumerate(self.stories)
        ]


def _cooled(
    digits: Array, body: Body, moment: Moment, states: Sequence[MomentState], span: float
) -> Array:
    """Fingers and toes a step later: warmed by the blood that comes to hands and feet, cooled
    through what is over them. Source: core.physics.extremities, with the body's own blood."""
    over = np.array([[each.fingers.resistance, each.toes.resistance] for each in states])
    exchange = body.supply + 1 / over
    steady = (body.supply * body.artery + moment.air / over) / exchange
    constant = HEAT_CAPACITY * np.array([FINGER, TOE]) / 2 / exchange / 3600
    return steady + (digits - steady) * np.exp(-span / constant)


def _around(moment: Moment, states: Sequence[MomentState], wears: Sequence[MomentState]) -> Around:
    """What bodies meet: the sun's share of the air layer's exchange, and heat as M - W,
    less what drying takes; in what they wear there, or wore before."""
    pace = moment.walk.speed if moment.walk else 0.0
    speed = np.array([[state.air_speed] for state in states])
    layer = cold.air_layer(speed, min(pace, cold.WALKING_SPEED_CAP))
    worn = np.array([state.regions for state in wears]).reshape(-1, len(REGIONS)) * CLO
    total = worn[:, UNDER] + layer / cold.area_factor(worn[:, UNDER])
    vapour = moment.humidity / 100 * float(saturation_pressure(moment.air))
    everybody = np.ones(len(states))
    return Around(
        operative=moment.air + moment.sun * RADIANT * np.broadcast_to(layer, total.shape),
        air=moment.air * everybody,
        vapour=vapour * everybody,
        sensible=total,
        evaporative=cold.LEWIS_PERMEABILITY * total,
        metabolic_rate=np.array([state.rate for state in states]),
        work=np.array([state.work + state.drying for state in states]),
        given=np.zeros(len(states)),
    )
