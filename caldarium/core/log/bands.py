"""Whether the bands of a plan proved too narrow or too wide, and a plan with others."""

from collections.abc import Sequence
from math import sqrt

from caldarium.core.log.right import Low
from caldarium.core.plan.course import Course

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
    return course.altered(spread=spread.altered(**parts, source=source[:400]))
