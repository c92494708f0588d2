"""Why a value cannot be: a reason with its facts, which words turn into a sentence."""

from typing import Literal

from pydantic_core import PydanticCustomError

Reason = Literal[
    "twice",
    "cache without leg",
    "item without leg",
    "caution order",
    "unknown shelter",
    "unknown bed partner",
    "nights out of order",
    "limit over comfort",
    "no camp",
    "leg overlaps",
    "leg stays",
    "leg takes no time",
    "leg too fast",
    "day too long",
    "cover share",
    "no such loft",
    "unknown region",
    "covers nothing",
    "thickness or clo",
    "not one of",
    "parts too heavy",
    "needs duration",
    "has no distance",
    "needs distance",
    "spread order",
    "high below low",
    "clock with offset",
    "full hours",
    "uneven hours",
    "uneven member",
    "no heights",
    "bad cuts",
    "no cut",
    "way too long",
    "too few days",
    "no wind",
    "rest day moves",
    "empty cache",
    "asks for anything",
    "no reason",
    "fuel over mass",
    "inside nothing",
    "inside itself",
    "unknown helper",
    "nobody draws",
]
"""What can be wrong with a value beyond its range; the facts that each carries are named where it
is raised and where words tell it."""


def refused(reason: Reason, **facts: object) -> PydanticCustomError:
    """The error to raise for a value that cannot be; a ValueError that Pydantic keeps whole.

    Args:
        reason: why.
        facts: figures in the core's units, names and places.

    Source: none, bookkeeping.
    """
    return PydanticCustomError(reason, reason, facts)
