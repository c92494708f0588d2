"""How long some work takes."""

import statistics
import time
from collections.abc import Callable


def median(work: Callable[[], object], times: int = 5) -> float:
    """Seconds that some work takes, the median of a few."""
    found: list[float] = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        found.append(time.perf_counter() - began)
    return statistics.median(found)
