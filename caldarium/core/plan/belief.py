"""What was learned of a figure by use: where it lies, how far it may be off, from how often."""

from pydantic import Field

from caldarium.core.plan.value import Value


class Belief(Value):
    """A figure as nights or moments found it, taken by the user into the plan."""

    mean: float = Field(ge=-40, le=40)
    sd: float = Field(gt=0, le=40, description="standard deviation of what is not known of it")
    times: int = Field(default=0, ge=0, le=10000, description="nights or moments behind it")


MOST_WORTH_K = 12.0
"""Kelvin by which a bag's real figure is believed to miss its label at most: judgement."""
LEAST_FACTOR, MOST_FACTOR = 0.3, 3.0
"""Factors of pads, shelters, heat, halts and paces beyond which a log is believed to be wrong:
judgement."""


def factor(belief: Belief | None) -> float:
    """A learned factor within what is believed of factors, 1 where nothing was learned.

    Source: LEAST_FACTOR, MOST_FACTOR.
    """
    if belief is None:
        return 1.0
    return min(max(belief.mean, LEAST_FACTOR), MOST_FACTOR)


def kelvin(belief: Belief | None) -> float:
    """Learned degrees within what is believed of labels [K], 0 where nothing was learned.

    Source: MOST_WORTH_K.
    """
    if belief is None:
        return 0.0
    return min(max(belief.mean, -MOST_WORTH_K), MOST_WORTH_K)
