"""One moment of some people looked at alone, in the air that the assessment found."""

from collections.abc import Sequence

import numpy as np

from caldarium.core.day.dressing import Air, Doing, bags_round_shoulders, candidates, meet, worth
from caldarium.core.day.states import MomentState
from caldarium.core.day.wet_track import water_on_regions
from caldarium.core.day.wetness import Roles, rain_reached, wetted
from caldarium.core.night.bedding import bags_at_hand
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes
from caldarium.core.timeline.moments import Moment


def cell_air(
    course: Course,
    moment: Moment,
    people: Sequence[Person],
    states: Sequence[MomentState],
    dress: Wardrobes,
) -> Air:
    """The air of one moment for these people, from what was found for them.

    Source: core.day.dressing.
    """
    pace = np.array([moment.walk.speed if moment.walk else 0.0])
    rate, work, speed = (
        np.array([[value] for value in values])
        for values in (
            [state.rate for state in states],
            [state.work + state.drying for state in states],
            [state.air_speed for state in states],
        )
    )
    doing = Doing(rate, work, speed, rate, work, speed, pace)
    wet = np.zeros((len(people), 1, dress.places))
    for row, state in enumerate(states):
        for place, name in enumerate(dress.ids(row)):
            wet[row, 0, place] = state.wet.get(name, 0.0)
    bags = bags_round_shoulders(course, people, bags_at_hand(people, (moment,)), (moment,))
    return meet((moment,), doing, bags, wet)


def worn_then(dress: Wardrobes, states: Sequence[MomentState]) -> Flags:
    """What was worn, [P x 1 x G]. Source: none, bookkeeping."""
    found = np.zeros((len(states), 1, dress.places), dtype=bool)
    for row, state in enumerate(states):
        for place, name in enumerate(dress.ids(row)):
            found[row, 0, place] = name in state.worn
    return found


def with_pieces(person: Person, *pieces: Garment) -> Person:
    """A person who carries more; nothing is checked again. Source: none, bookkeeping."""
    return person.model_copy(update={"garments": (*person.garments, *pieces)})


def fullest_of(
    course: Course, moment: Moment, people: Sequence[Person], states: Sequence[MomentState]
) -> Array:
    """What each person's fullest outfit is worth at a moment [clo], in the rain as it then reaches
    it. Source: core.day.dressing, core.day.wetness.
    """
    dress = wardrobes(people)
    air = cell_air(course, moment, people, states, dress)
    under = dress.day_long[:, None]
    outfits = candidates(people, dress, air, under).outfits
    least, fullest = outfits[:, :, 0], outfits[:, :, -1:]
    depth = water_on_regions((moment,))[None]
    if depth.any():
        each = np.ones(least.shape, dtype=bool)
        before = rain_reached(dress, Roles(least & worn_then(dress, states), each), depth)
        now = rain_reached(dress, Roles(least, each), depth)
        dry = np.zeros(before.shape)
        change = wetted(dress, now, dry) - np.minimum(wetted(dress, before, dry), 1.0)
        air = air.with_wet(np.clip(air.wet + change, 0.0, 1.0))
    return worth(dress, fullest, air).whole[:, 0, 0] / CLO
