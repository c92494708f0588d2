"""A simulated logging thermometer behind the small interface that one on a cable would have.

It behaves as such devices do: two channels or more, each with an offset of its own and the slow
answer of its probe, readings in steps of its resolution, a clock that runs fast or slow, holes, an
hour in the sun, and a battery that dies in the cold. Nothing real is measured: what the air did is
what somebody gave it, and the same seed gives the same readings.
"""

import math
import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

Celsius = Callable[[float], float]
"""Air or bed at a time [h] as it truly was [°C]."""
HIDES_ABOVE_C = 60.0


class ThermometerError(RuntimeError):
    """The thermometer does not answer; plugging it in again may help."""


@dataclass(frozen=True)
class Readings:
    """What a thermometer gives when it is read out: seconds since its start by its own clock, and
    by channel what was read [°C, NaN where nothing]."""

    seconds: NDArray[np.float64]
    channels: tuple[tuple[str, NDArray[np.float64]], ...]


class LoggingThermometer(Protocol):
    """What this application asks of any logging thermometer."""

    def read_out(self) -> Readings:
        """Everything it holds.

        Raises:
            ThermometerError: where it does not answer.
        """
        ...


@dataclass(frozen=True)
class Faults:
    """What goes wrong with a thermometer: parts of a million by which its clock runs fast, holes as
    hours from and to, hours in which its first channel lies in the sun and by how much at most [K],
    and the hour at which its battery dies."""

    fast_ppm: float = 0.0
    holes: tuple[tuple[float, float], ...] = ()
    sunny: tuple[float, float] | None = None
    sun_k: float = 12.0
    dies_at: float | None = None


class SimulatedThermometer:
    """A logging thermometer that is made up.

    Args:
        channels: name and truth of each.
        hours: how long it logs [h].
        step_s: between readings [s].
        faults: what goes wrong.
        seed: of its noise and offsets.
        resolution_k, lag_h: its steps, and how slowly its probe follows.
    """

    def __init__(
        self,
        channels: Sequence[tuple[str, Celsius]],
        hours: float,
        step_s: float = 300.0,
        faults: Faults | None = None,
        seed: int = 0,
        resolution_k: float = 0.1,
        lag_h: float = 0.1,
    ) -> None:
        self._channels, self._hours, self._step = tuple(channels), hours, step_s
        self._faults = faults or Faults()
        self._seed, self._resolution, self._lag = seed, resolution_k, lag_h
        self._plugged = True

    def unplug(self) -> None:
        """Pull its cable."""
        self._plugged = False

    def read_out(self) -> Readings:
        """See LoggingThermometer."""
        if not self._plugged:
            raise ThermometerError("the thermometer does not answer: is it plugged in?")
        dice, faults = random.Random(self._seed), self._faults
        ends = min(self._hours, faults.dies_at if faults.dies_at is not None else self._hours)
        # A fast clock reads its step too soon.
        true_step = self._step / (1 + faults.fast_ppm * 1e-6) / 3600
        times = np.arange(0.0, ends, true_step)
        kept = np.ones(len(times), dtype=bool)
        for begin, end in faults.holes:
            kept &= (times < begin) | (times >= end)
        found: list[tuple[str, NDArray[np.float64]]] = []
        for place, (name, truth) in enumerate(self._channels):
            off = dice.gauss(0, 0.15)
            read = self._followed(times, truth, sunny=place == 0)
            noise = np.array([dice.gauss(0, 0.05) for _ in times])
            shown = np.round((read + off + noise) / self._resolution) * self._resolution
            shown[shown > HIDES_ABOVE_C] = np.nan
            found.append((name, shown.round(3)[kept].astype(np.float64)))
        seconds = (np.arange(len(times)) * self._step).astype(np.float64)
        return Readings(seconds[kept], tuple(found))

    def _followed(
        self, times: NDArray[np.float64], truth: Celsius, *, sunny: bool
    ) -> NDArray[np.float64]:
        """What the probe is at: it follows the air a little late, and heats up in the sun."""
        share = 1 - math.exp(-(times[1] - times[0]) / self._lag) if len(times) > 1 else 1.0
        at = truth(0.0)
        found = np.empty(len(times))
        for place, hour in enumerate(times.tolist()):
            target = truth(hour) + (self._sun(hour) if sunny else 0.0)
            at += share * (target - at)
            found[place] = at
        return found

    def _sun(self, hour: float) -> float:
        if self._faults.sunny is None:
            return 0.0
        begin, end = self._faults.sunny
        if not begin < hour < end:
            return 0.0
        return self._faults.sun_k * math.sin(math.pi * (hour - begin) / (end - begin))


@dataclass(frozen=True)
class Lain:
    """What a simulated thermometer is laid out in: hours of a course and its air [h, °C], and from
    when to when people sleep."""

    hours: NDArray[np.float64]
    air: NDArray[np.float64]
    asleep: tuple[tuple[float, float], ...]


TENT_K, EMPTY_TENT_K, OFF_SD_K, FAST_SD_PPM = 3.0, 0.5, 1.5, 40.0
"""How much warmer it is in a tent with people asleep and without, how far the air is off the
forecast, and how fast a clock may run, all made up."""
SUNNY_AT = (12.0, 15.0)


def outside_and_inside(lain: Lain, seed: int) -> SimulatedThermometer:
    """A thermometer of two channels, outside and inside a tent, through a whole course: the air as
    forecast, somewhat warmer or colder, a clock that runs off, and hours in the sun.

    Args:
        lain: where it is laid out.
        seed: of all of it.
    """
    dice = random.Random(seed)
    off = dice.gauss(0, OFF_SD_K)

    def outside(hour: float) -> float:
        return float(np.interp(hour, lain.hours, lain.air)) + off

    def inside(hour: float) -> float:
        asleep = any(begin <= hour <= end for begin, end in lain.asleep)
        return outside(hour) + (TENT_K if asleep else EMPTY_TENT_K)

    faults = Faults(fast_ppm=dice.gauss(0, FAST_SD_PPM), sunny=SUNNY_AT)
    whole = float(lain.hours[-1]) + 1
    return SimulatedThermometer(
        (("outside", outside), ("inside", inside)), whole, 600, faults, seed
    )
