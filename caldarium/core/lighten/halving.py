"""The last of a row of places at which something fails, a few asked at once."""

from collections.abc import Callable, Sequence

import numpy as np

PROBED = 3
"""Places of each that are asked together."""

Fails = Callable[[Sequence[tuple[int, int]]], list[bool]]
"""Says of some by number, and a place of each, whether it fails there."""


def fail_up_to(ends: Sequence[int], fails: Fails) -> list[int]:
    """The last place at which each fails before the first at which it was seen not to.

    Args:
        ends: a place of each at which it does not fail; at 0 it does.
        fails: as above.

    Source: bisection, by four.
    """
    low, high = [0] * len(ends), list(ends)
    while tried := [(k, at) for k in range(len(ends)) for at in between(low[k], high[k])]:
        for (k, at), still in zip(tried, fails(tried), strict=True):
            if not still:
                high[k] = min(high[k], at)
            elif at < high[k]:
                low[k] = max(low[k], at)
    return low


def between(low: int, high: int) -> list[int]:
    """A few places between two, apart by as much as can be. Source: none, bookkeeping."""
    places = np.linspace(low, high, PROBED + 2)[1:-1]
    return sorted({round(each) for each in places.tolist()} - {low, high})
