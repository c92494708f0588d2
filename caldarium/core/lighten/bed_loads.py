"""How heavy a bed mends by day what does not hold: a heavier pack makes a walker warmer, and
fingers and toes begin a stop as the way there left them."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import replace
from itertools import compress

import numpy as np

from caldarium.core.lighten.bed_choices import WeighedBed
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.lighten.verdict import Fail

PROBED = 3
"""Places that are tried at once where something begins to hold."""

Failing = tuple[Chosen, Chosen, Fail]
"""What is worn, as what somebody is laden, and what fails there."""


def in_bed(chosen: Chosen, bed: WeighedBed) -> Chosen:
    """A set with another bed. Source: none, bookkeeping."""
    return replace(chosen, top=bed.top, bottom=bed.bottom)


def fail_up_to(problem: Problem, failing: Sequence[Failing]) -> list[float]:
    """The heaviest bed under which each fails whatever is worn [g]; infinity where under all.

    Args:
        problem: whose beds.
        failing: what fails as it is; each is asked whatever of it is worn.

    Source: Verdicts.surely; the heavier the warmer, so that it is looked for between two beds.
    """
    beds = problem.beds_by_mass
    masses, heaviest = [each.grams for each in beds], len(beds) - 1
    low = [max(bisect_right(masses, problem.bed_grams(laden)) - 1, 0) for _, laden, _ in failing]
    high = [heaviest] * len(failing)
    mended = _mended_under(problem, failing, [[heaviest]] * len(failing))
    left = [k for k, found in enumerate(mended) if any(found)]
    found = [masses[low[k]] if k in left else np.inf for k in range(len(failing))]
    while left := [k for k in left if between(low[k], high[k])]:
        places = [between(low[k], high[k]) for k in left]
        tried = _mended_under(problem, [failing[k] for k in left], places)
        for k, some, mends in zip(left, places, tried, strict=True):
            high[k] = min(compress(some, mends), default=high[k])
            low[k] = max((at for at in some if at < high[k]), default=low[k])
            found[k] = masses[low[k]]
    return found


def between(low: int, high: int) -> list[int]:
    """A few places between two, apart by as much as can be. Source: none, bookkeeping."""
    places = np.linspace(low, high, PROBED + 2)[1:-1]
    return sorted({round(each) for each in places.tolist()} - {low, high})


def _mended_under(
    problem: Problem, failing: Sequence[Failing], places: Sequence[Sequence[int]]
) -> list[list[bool]]:
    """Whether each no longer fails whatever is worn with the loads of some beds."""
    beds = problem.beds_by_mass
    pairs = [(each, at) for each, some in zip(failing, places, strict=True) for at in some]
    fails = problem.verdicts.surely(
        [problem.person_in(worn) for (worn, _, _), _ in pairs],
        problem.laden([in_bed(laden, beds[at]) for (_, laden, _), at in pairs]),
    )
    found = iter([each[2] not in some for (each, _), some in zip(pairs, fails, strict=True)])
    return [[next(found) for _ in some] for some in places]
