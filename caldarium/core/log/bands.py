"""Whether the bands of a plan proved too narrow or too wide, and a plan with others."""

from collections.abc import Sequence
from math import sqrt

from caldarium.core.log.right import Low
from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import Timeline
from caldarium.core.timeline.weather import TYPED

PRIOR_NIGHTS = 10.0
"""Nights that the course's own spread counts as, where lows speak against it: judgement."""
NOTABLE = 0.1
"""Share by which a band must be off to be worth a word: judgement."""


def band_factor(found: Sequence[Low]) -> float:
    """How much wider bands would be by what was measured, 1 for as they are.

    Args:
        found: lows, of one course or of many.

    Returns:
        Root of the mean square of errors over deviations, where PRIOR_NIGHTS more had been as
        planned.

    Source: conjugate update of a variance about a known mean, scaled inverse chi-square; Gelman et
        al. (2013), Bayesian Data Analysis, 3rd ed., 2.6.
    """
    squares = sum((each.error / each.sd) ** 2 for each in found)
    return sqrt((PRIOR_NIGHTS + squares) / (PRIOR_NIGHTS + len(found)))


def band_source(course: Course) -> str:
    """What a spread says of itself that was widened or narrowed by a course's nights.

    Source: none, bookkeeping.
    """
    return f"the former spread, by the nights of {course.name}, {course.start}"[:400]


def may_change(course: Course, timeline: Timeline) -> bool:
    """Whether the bands of a course can be changed by its nights: typed days rule them, and they
    were not changed by them before.

    Source: hourly sources have deviations of their own, by the time since they were issued.
    """
    nights = [each for each in timeline.moments if each.kind == "night"]
    return all(each.source == TYPED for each in nights) and (
        course.spread.source != band_source(course)
    )


def bands_off(course: Course, timeline: Timeline, found: Sequence[Low]) -> bool:
    """Whether other bands are worth an offer. Source: NOTABLE."""
    return abs(band_factor(found) - 1) >= NOTABLE and may_change(course, timeline)


def with_bands(course: Course, factor: float, source: str) -> Course:
    """A course whose cautions are so much farther from the forecast in temperature.

    Args:
        course: the plan.
        factor: of degrees; wind and rain stay.
        source: where that is from, for the spread's own word.

    Source: none, a product.
    """
    spread = course.spread
    parts = {
        name: shift.altered(high_k=shift.high_k * factor, low_k=shift.low_k * factor)
        for name, shift in (("cautious", spread.cautious), ("expedition", spread.expedition))
    }
    return course.altered(spread=spread.altered(**parts, source=source))
