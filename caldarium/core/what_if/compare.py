"""Two versions of a course's weather side by side, and the chance that an ensemble gives a gap."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.assess import Assessment, assess
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course
from caldarium.core.plan.weather_sources import Hourly
from caldarium.core.timeline.weather import LEAST_MEMBERS
from caldarium.core.what_if.progress import Heard, unheard

TYPED_ONLY = ""


@dataclass(frozen=True)
class Flip:
    """A verdict that differs: person and moment, before and after."""

    person: str
    moment: str
    before: str
    after: str
    gap_before: float
    gap_after: float


@dataclass(frozen=True)
class DayChange:
    """What differs in one day where the party is: temperature [K], wind [m/s], rain [mm]."""

    day: int
    low: float
    high: float
    wind: float
    precipitation: float


@dataclass(frozen=True)
class Comparison:
    """Two weathers of one course: days, flips, gaps before and after."""

    days: tuple[DayChange, ...]
    flips: tuple[Flip, ...]
    gaps: tuple[int, int]


def ruled_by(course: Course, source: str) -> Course:
    """The course with one source alone over the typed days; TYPED_ONLY for none at all.

    Raises:
        KeyError: for a source it does not have.

    Source: none, bookkeeping.
    """
    if source != TYPED_ONLY and source not in {each.id for each in course.sources}:
        raise KeyError(source)
    sources = tuple(each.altered(used=each.id == source) for each in course.sources)
    return course.altered(sources=sources)


def compare(before: Course, after: Course, heard: Heard = unheard) -> Comparison:
    """What changes in days and verdicts from one weather of a course to another.

    Args:
        before, after: the same people and legs under two weathers.
        heard: hears how far it is.

    Returns:
        The comparison; differences are after less before.

    Source: core.assess of both.
    """
    first = assess(before)
    heard(0.5)
    second = assess(after)
    days = tuple(_day_change(day, first, second) for day in range(len(before.days)))
    states = _states(second)
    flips = (
        Flip(person, moment, word, states[person, moment][0], gap, states[person, moment][1])
        for (person, moment), (word, gap) in _states(first).items()
        if (person, moment) in states and states[person, moment][0] != word
    )
    counts = tuple(sum(word == "gap" for word, _ in _states(r).values()) for r in (first, second))
    gaps_first = sorted(flips, key=lambda flip: "gap" not in (flip.before, flip.after))
    return Comparison(days, tuple(gaps_first), (counts[0], counts[1]))


def _states(result: Assessment) -> dict[tuple[str, str], tuple[str, float]]:
    found = {
        (person.person, state.moment): (state.state, state.gap)
        for person in result.people
        for state in person.moments
    }
    return found | {
        (person.person, night.moment): (night.state, 0.0)
        for person in result.people
        for night in person.nights
    }


def _day_change(day: int, first: Assessment, second: Assessment) -> DayChange:
    one, two = first.timeline.hours, second.timeline.hours
    here = (one.hour >= 24 * day) & (one.hour < 24 * day + 24)

    def change(values: Array, others: Array, measure: str) -> float:
        pick = getattr(np, measure)
        return float(pick(others[here]) - pick(values[here]))

    return DayChange(
        day=day,
        low=change(one.air, two.air, "min"),
        high=change(one.air, two.air, "max"),
        wind=change(one.wind, two.wind, "max"),
        precipitation=change(one.precipitation, two.precipitation, "sum"),
    )


def members_of(course: Course) -> Hourly | None:
    """The first source in use that is an ensemble. Source: none, bookkeeping."""
    return next(
        (each for each in course.sources if each.used and len(each.members) >= LEAST_MEMBERS), None
    )


def gap_chances(course: Course, heard: Heard = unheard) -> dict[tuple[str, str], float]:
    """Share of an ensemble's runs in which a person has a gap at a moment, nights included.

    Every run is assessed whole, as it is and without added caution; people dress for it.

    Args:
        course: with an ensemble among its sources.
        heard: hears how far it is, a step a run.

    Returns:
        Share by person and moment; empty without an ensemble.

    Source: core.assess of each run.
    """
    ensemble = members_of(course)
    if ensemble is None:
        return {}
    counts: dict[tuple[str, str], int] = {}
    plain = course.altered(caution="as forecast")
    for done, member in enumerate(ensemble.members):
        heard(done / len(ensemble.members))
        run = ensemble.altered(
            members=(),
            air_c=member.air_c,
            wind_ms=member.wind_ms,
            gust_ms=(),
            precipitation_mm=member.precipitation_mm,
        )
        sources = tuple(run if each.id == ensemble.id else each for each in plain.sources)
        for key, (word, _) in _states(assess(plain.altered(sources=sources))).items():
            counts[key] = counts.get(key, 0) + (word == "gap")
    return {key: count / len(ensemble.members) for key, count in counts.items()}
