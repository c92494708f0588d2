"""A simulated scale behind the small interface that a scale on a serial line would have.

It behaves as such devices do: a reading creeps up and swings before it settles, shivers by its
division, drifts as it warms, shows nothing above its capacity, and may be unplugged mid-reading.
Nothing real is measured: what lies on it is what somebody put there, and the same seed gives the
same readings.
"""

import math
import random
from dataclasses import dataclass
from typing import Literal, Protocol

SETTLES_AFTER = 1.4
"""Time after which a reading no longer swings [s]."""
DRIFT_G_A_MINUTE, MOST_DRIFT_G = 0.08, 3.0
State = Literal["settled", "moving", "overload", "unplugged"]


class ScaleError(RuntimeError):
    """The scale does not answer; plugging it in again may help."""


@dataclass(frozen=True)
class Reading:
    """What a scale shows: net and gross mass [g], rounded to its division, and its state."""

    net_g: float
    gross_g: float
    state: State


class Scale(Protocol):
    """What this application asks of any scale."""

    def read(self, now: float) -> Reading:
        """The reading at a time [s].

        Raises:
            ScaleError: where it does not answer.
        """
        ...

    def tare(self, now: float) -> None:
        """Let what lies on it count as nothing.

        Raises:
            ScaleError: where it does not answer or has not settled.
        """
        ...


class SimulatedScale:
    """A bench or hanging scale that is made up."""

    def __init__(self, capacity_g: float = 5000, division_g: float = 1, seed: int = 0) -> None:
        self.capacity_g, self.division_g = capacity_g, division_g
        self._random = random.Random(seed)
        self._on, self._since, self._before = 0.0, -60.0, 0.0
        self._zero = 0.0
        self._start: float | None = None
        self._plugged = True

    def put(self, grams: float, now: float) -> None:
        """Lay this much on it, in the place of what lay there."""
        self._before, self._on, self._since = self._on, max(grams, 0.0), now

    def unplug(self) -> None:
        """Pull its plug."""
        self._plugged = False

    def plug(self, now: float) -> None:
        """Plug it in again: it begins at zero with what lies on it, as scales do."""
        self._plugged, self._start = True, now
        self._zero = self._on

    def read(self, now: float) -> Reading:
        """The reading at a time [s]; see Scale."""
        if not self._plugged:
            raise ScaleError("the scale does not answer: is it plugged in?")
        since = now - self._since
        if self._on > self.capacity_g * 1.02:
            return Reading(0.0, 0.0, "overload")
        swing = 0.0
        if since < SETTLES_AFTER:
            rest = math.exp(-2.2 * max(since, 0.0))
            swing = (self._before - self._on) * rest * math.cos(5 * max(since, 0.0))
        self._start = now if self._start is None else self._start
        drift = min(DRIFT_G_A_MINUTE * (now - self._start) / 60, MOST_DRIFT_G)
        shiver = self._random.gauss(0, 0.12 * self.division_g)
        gross = self._rounded(self._on + swing + drift + shiver)
        net = self._rounded(self._on - self._zero + swing + drift + shiver)
        return Reading(net, gross, "settled" if since >= SETTLES_AFTER else "moving")

    def tare(self, now: float) -> None:
        """See Scale."""
        if self.read(now).state != "settled":
            raise ScaleError("wait until it has settled")
        self._zero, self._start = self._on, now

    def _rounded(self, grams: float) -> float:
        return round(grams / self.division_g) * self.division_g
