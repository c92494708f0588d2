"""How good chances were that people were told, as forecasters judge theirs.

References:
    [1] Brier (1950), Monthly Weather Review 78: the score of chances.
    [2] Murphy (1973), J. Applied Meteorology 12: its parts, reliability, resolution, uncertainty.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from caldarium.core.log.right import Outcome

BINS = (0.0, 0.1, 0.3, 0.5, 0.7, 0.9, 1.0)
"""Chances said, as they are counted together."""


@dataclass(frozen=True)
class Bin:
    """Outcomes of which about the same chance was said: between which chances, what was said in the
    mean, how often it happened, and of how many."""

    low: float
    high: float
    said: float
    happened: float
    count: int


@dataclass(frozen=True)
class Reliability:
    """How good chances were: by bin; the score of [1] with its parts of [2], the share that
    happened, and how much more was said than happened."""

    bins: tuple[Bin, ...]
    count: int
    brier: float
    off: float
    resolved: float
    uncertain: float
    happened: float
    bias: float

    @property
    def skill(self) -> float | None:
        """Over always saying the share that happened; None where that is never wrong.

        Source: [2].
        """
        return 1 - self.brier / self.uncertain if self.uncertain > 1e-9 else None


NO_CHANCES = Reliability((), 0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0)


def reliability(said: Sequence[tuple[float, bool]]) -> Reliability:
    """How good chances were that somebody was told.

    Args:
        said: chances, and whether it happened.

    Source: [1], [2]; the parts are of chances as they are binned.
    """
    if not said:
        return NO_CHANCES
    count = len(said)
    base = sum(short for _, short in said) / count
    brier = sum((chance - short) ** 2 for chance, short in said) / count
    bins: list[Bin] = []
    for low, high in pairwise(BINS):
        last = high == BINS[-1]
        inside = [each for each in said if low <= each[0] < high or (last and each[0] == high)]
        if inside:
            many = len(inside)
            bins.append(
                Bin(
                    low,
                    high,
                    sum(chance for chance, _ in inside) / many,
                    sum(short for _, short in inside) / many,
                    many,
                )
            )
    return Reliability(
        tuple(bins),
        count,
        brier,
        sum(each.count * (each.said - each.happened) ** 2 for each in bins) / count,
        sum(each.count * (each.happened - base) ** 2 for each in bins) / count,
        base * (1 - base),
        base,
        sum(chance for chance, _ in said) / count - base,
    )


@dataclass(frozen=True)
class Bias:
    """How much more cold was said than came, of one kind of outcome: its name and how many."""

    by: Literal["moment", "shelter", "month"]
    name: str
    said: float
    happened: float
    count: int


def biases(found: Iterable[Outcome]) -> list[Bias]:
    """What was said and what came by kind of moment, by shelter and by month.

    Source: none, means.
    """
    groups: dict[tuple[Literal["moment", "shelter", "month"], str], list[Outcome]] = {}
    for each in found:
        groups.setdefault(("moment", each.kind), []).append(each)
        groups.setdefault(("month", str(each.month)), []).append(each)
        if each.kind == "night":
            groups.setdefault(("shelter", each.shelter), []).append(each)
    return [
        Bias(
            by,
            name,
            sum(each.chance for each in rows) / len(rows),
            sum(each.short for each in rows) / len(rows),
            len(rows),
        )
        for (by, name), rows in groups.items()
    ]
