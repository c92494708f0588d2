"""What people drink on the way: more than a habit where they sweat more.

Water is part of the load, the load part of the effort, and the effort of the sweat. The ring is cut
here: sweat is that of one ordinary person with an ordinary load in light clothing.
"""

from collections.abc import Sequence

import numpy as np

from caldarium.core.physics import cold
from caldarium.core.physics.effort import body_area, resting_rate, way_power
from caldarium.core.physics.heat import LATENT, SWEAT_LIMIT, strain
from caldarium.core.physics.quantities import CLO, Array
from caldarium.core.physics.wind import relative_air_speed
from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import ACTIVITY, Moment, Timeline

DRINKS = {"moving": 0.45, "halt": 0.3, "setting out": 0.1, "hold": 0.1}
"""Water drunk on the way out of habit by kind of moment [L/h]: judgement; 3 to 4 L a day in hard
conditions, the rest in camp, is common practice, no published source."""
REPLACED = 0.8
"""Share of the sweat that is drunk again on the way: judgement; the rest in camp."""
_MASS, _HEIGHT, _LOAD, _CLOTHES = 72.0, 1.73, 12.0, 0.4
"""The ordinary person [kg, m], load [kg] and clothing [clo]: judgement."""


def sweat_on_the_way(moments: Sequence[Moment]) -> Array:
    """Sweat of an ordinary person on the warm side of the forecast [L/h, M].

    Source: core.physics.heat, at most SWEAT_LIMIT.
    """
    area = body_area(_MASS, _HEIGHT)
    walks = [moment.walk for moment in moments]
    pace, slope, terrain, climbing = (
        np.array([getattr(walk, name) if walk else rest for walk in walks], dtype=float)
        for name, rest in (("speed", 0.0), ("slope", 0.0), ("terrain", 1.0), ("climbing", 0.5))
    )
    quiet = [resting_rate(ACTIVITY.get(moment.kind, "standing")) for moment in moments]
    walking = way_power(_MASS, _LOAD, pace, slope, terrain, climbing) / area
    rate = np.where([walk is not None for walk in walks], walking, quiet)
    air, wind, humidity, sun = (
        np.array([getattr(moment.warm, name) for moment in moments], dtype=float)
        for name in ("air", "wind", "humidity", "sun")
    )
    speed = np.clip(relative_air_speed(wind, pace), 0.4, 18)
    where = cold.exposure(air, speed, humidity, np.clip(rate, 58, 400), pace, radiant=air + sun)
    _, sweat = strain(np.full(len(moments), _CLOTHES * CLO), where)
    return np.minimum(sweat * area / LATENT, SWEAT_LIMIT)


def boiled_on(course: Course, timeline: Timeline, day: int) -> float:
    """Water boiled for each head at the camp of a day [L]: the evening's and the morning's, and hot
    drinks of the next day's halts, which are carried on from there.

    Source: the plan.
    """
    found = course.boiled_l_a_day
    if day + 1 < len(timeline.stages):
        for stage in timeline.stages[day + 1]:
            halts = stage.walk.halts if stage.walk is not None else stage.leg.kind == "rest"
            found += stage.leg.hot_drink_l * halts
    return found


def drunk_by(moments: Sequence[Moment]) -> Array:
    """Water drunk in each of some moments on the way [L/h, M]; all are of kinds in DRINKS.

    Source: DRINKS, or REPLACED of the sweat where that is more.
    """
    habit = np.array([DRINKS[moment.kind] for moment in moments])
    return np.maximum(habit, REPLACED * sweat_on_the_way(moments)) if len(habit) else habit
