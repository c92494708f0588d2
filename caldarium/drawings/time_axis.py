"""The strip's axis: hours in order, stretched so that a ten-minute halt can be seen and hit.

Each moment takes a width that grows with the root of its length, and never less than a
fingertip's worth. A hold takes no time of the plan, nor do the halts counted within
a leg: they are folds in the axis.
"""

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from caldarium.core.timeline.moments import Moment

LEAST = {"dawn": 2.2, "setting out": 1.8, "halt": 2.4, "hold": 1.9}


@dataclass(frozen=True)
class Slot:
    """A moment's place on the axis [drawing units]."""

    moment: Moment
    x: float
    width: float

    @property
    def middle(self) -> float:
        """Centre of the slot."""
        return self.x + self.width / 2


@dataclass(frozen=True)
class TimeAxis:
    """Slots in order and the breakpoints that map hours to x."""

    slots: tuple[Slot, ...]
    times: tuple[float, ...]
    places: tuple[float, ...]

    def x(self, hour: float) -> float:
        """Where an hour stands."""
        return float(np.interp(hour, self.times, self.places))

    @property
    def start(self) -> float:
        """First hour shown."""
        return self.times[0]

    @property
    def end(self) -> float:
        """Last hour shown."""
        return self.times[-1]


def time_axis(moments: tuple[Moment, ...], left: float, right: float) -> TimeAxis:
    """An axis over these moments.

    Args:
        moments: in order; a fold stands where its place in the order is.
        left, right: ends of the axis.
    """
    weights = [_weight(moment) for moment in moments]
    scale = (right - left) / sum(weights)
    slots: list[Slot] = []
    times: list[float] = []
    places: list[float] = []
    x = left
    for moment, weight in zip(moments, weights, strict=True):
        width = weight * scale
        slots.append(Slot(moment, x, width))
        if not moment.fold:
            times += [moment.start, moment.end]
            places += [x, x + width]
        x += width
    steps = list(zip(times, places, strict=True))
    kept = [here for here, after in pairwise([*steps, (np.inf, right)]) if here[0] < after[0]]
    return TimeAxis(tuple(slots), tuple(t for t, _ in kept), tuple(p for _, p in kept))


def _weight(moment: Moment) -> float:
    if moment.kind == "halt" and not moment.fold:
        return max(LEAST["halt"], 1.2 * math.sqrt(moment.hours) + 0.6)
    return LEAST.get(moment.kind, 1.2 * math.sqrt(max(moment.hours, 0.5)) + 0.6)
