"""The plan of a day's moments: what happens when, before the air decides when it is worst."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course
from caldarium.core.plan.legs import SET_OUT, Stage, Walk
from caldarium.core.plan.route import Leg

DAWN_HOURS = 1.0
SETTING_OUT_HOURS = 0.25
BED_TIME = 21.5
SLEEP_HOURS = 8.0
SETTLING_HOURS = 0.5
TIMES_LOOKED_AT = 13


@dataclass(frozen=True)
class Sample:
    """A moment before it is known when in its span it is worst.

    starts: when it may begin, one time unless it floats within its leg; drink_l and eaten_kcal what
    each person has hot and eats in it.
    """

    id: str
    kind: str
    day: int
    leg: str
    starts: tuple[float, ...]
    length: float
    path: tuple[tuple[float, float], ...]
    exposure: str
    fold: bool = False
    repeats: int = 1
    walk: Walk | None = None
    ford: bool = False
    scrub: bool = False
    drink_l: float = 0.0
    eaten_kcal: float = 0.0

    def altitudes(self, times: Array) -> Array:
        """Altitude at those times [m]. Source: none, interpolation."""
        if len(self.path) == 1:
            return np.full(times.shape, self.path[0][1])
        clock, height = zip(*self.path, strict=True)
        return np.interp(times, clock, height)


def course_samples(course: Course, plan: tuple[tuple[Stage, ...], ...]) -> list[Sample]:
    """The moments of a whole course in order, each with the times at which it may begin.

    Args:
        course: the plan.
        plan: its legs in time, by day.

    Returns:
        The samples; folds stand after the moment they belong to.

    Source: the plan of moments is common practice, no published source.
    """
    found: list[Sample] = []
    for index, legs in enumerate(plan):
        camp_before = course.days[index - 1].camp if index else None
        woke_in = camp_before.exposure if camp_before else None
        found += _day_samples(course, index, legs, woke_in)
    return found


def _day_samples(
    course: Course, index: int, legs: tuple[Stage, ...], woke_in: str | None
) -> list[Sample]:
    midnight = 24.0 * index
    lower = course.starts[index]
    out = midnight + (legs[0].start if legs else SET_OUT)
    found: list[Sample] = []

    def add(
        kind: str, start: float, end: float, altitude: float, exposure: str, at: Leg | None = None
    ) -> None:
        leg = at.id if at is not None else ""
        name = ".".join(part for part in (str(index + 1), leg, kind.replace(" ", "-")) if part)
        path = ((start, altitude),)
        halt = at if kind == "halt" else None
        found.append(
            Sample(
                name,
                kind,
                index,
                leg,
                (start,),
                end - start,
                path,
                exposure,
                drink_l=halt.hot_drink_l if halt else 0.0,
                eaten_kcal=halt.eaten_kcal if halt else 0.0,
            )
        )

    if woke_in is not None and out - midnight >= DAWN_HOURS:
        add("dawn", out - DAWN_HOURS, out, lower, woke_in)
    set_out = False
    for stage in legs:
        leg, walk = stage.leg, stage.walk
        start, end = midnight + stage.start, midnight + stage.end
        if walk is None:
            kind = "camp" if leg.kind == "camp" else "halt"
            add(kind, start, end, leg.to_altitude_m, leg.exposure, leg)
            continue
        if not set_out:
            first = min(start + SETTING_OUT_HOURS, (start + end) / 2)
            add("setting out", start, first, stage.from_altitude, leg.exposure)
            start, set_out = first, True
        found += _walking(course, index, stage, start, end)
    arrived = midnight + legs[-1].end if legs else out
    camp = course.days[index].camp
    if camp is not None:
        rise = midnight + 24 + _rising(course, index + 1)
        bed = max(min(midnight + BED_TIME, rise - SLEEP_HOURS), arrived + SETTLING_HOURS)
        add("camp", arrived, bed, course.ends[index], camp.exposure)
        add("night", bed, rise, course.ends[index], camp.exposure)
    if not found:
        # Nothing is said of this day yet; whoever is on it stands outside in the morning.
        add("setting out", out, out + SETTING_OUT_HOURS, lower, "open")
    return found


def _walking(course: Course, index: int, stage: Stage, start: float, end: float) -> list[Sample]:
    """Moving, the worst halt within the leg, and the hold where it would be worst."""
    leg, walk, midnight = stage.leg, stage.walk, 24.0 * index
    assert walk is not None
    path = tuple((midnight + clock, height) for clock, height in stage.profile)
    name = f"{index + 1}.{leg.id}"
    found = [
        Sample(
            f"{name}.moving",
            "moving",
            index,
            leg.id,
            (start,),
            end - start,
            path,
            leg.exposure,
            walk=walk,
            ford=leg.river,
            scrub=leg.scrub,
        )
    ]
    if walk.halts:
        pause = leg.halt_min / 60
        every = leg.halt_every_h + pause
        begins = tuple(
            midnight + stage.start + (number + 1) * every - pause for number in range(walk.halts)
        )
        found.append(
            Sample(
                f"{name}.halt",
                "halt",
                index,
                leg.id,
                begins,
                pause,
                path,
                leg.exposure,
                fold=True,
                repeats=walk.halts,
                drink_l=leg.hot_drink_l,
                eaten_kcal=leg.eaten_kcal,
            )
        )
    begins = tuple(np.linspace(midnight + stage.start, end, TIMES_LOOKED_AT).tolist())
    found.append(
        Sample(
            f"{name}.hold",
            "hold",
            index,
            leg.id,
            begins,
            course.hold_h,
            path,
            leg.exposure,
            fold=True,
        )
    )
    return found


def _rising(course: Course, index: int) -> float:
    if index >= len(course.days):
        return 7.0
    legs = course.days[index].legs
    out = legs[0].start_h if legs and legs[0].start_h is not None else SET_OUT
    return max(out - DAWN_HOURS, 0.0)
