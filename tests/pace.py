"""How much work something may be: never seconds, which a busy machine changes, but multiples of a
fixed piece of work done beside it."""

import time
from collections.abc import Iterator
from contextlib import contextmanager
from statistics import median

AT_ONCE_S = 0.5
"""Processor seconds that no limit is about."""


def _unit() -> float:
    """Processor seconds of the fixed piece of work, a fifth of a second on a slow machine."""
    found: list[float] = []
    for _ in range(3):
        begun = time.process_time()
        sum(number * number % 7 for number in range(1_000_000))
        found.append(time.process_time() - begun)
    return median(found)


@contextmanager
def at_most(units: float, what: object) -> Iterator[None]:
    """Hold what is done within it to so many times the fixed piece of work.

    Raises:
        AssertionError: It was more; `what` says what it was.

    Source: judgement; a guard against work that grows out of hand, not a measure of speed.
    """
    begun = time.process_time()
    yield
    spent = time.process_time() - begun
    if spent > AT_ONCE_S:
        unit = _unit()
        assert spent < units * unit, (what, f"{spent:.2f} s", f"{spent / unit:.0f} units")
