"""What the core has to say of a plan beside its figures: a reason, and what it is about."""

from dataclasses import dataclass
from typing import Generic, TypeVar

Reason = TypeVar("Reason", bound=str)


@dataclass(frozen=True)
class Finding(Generic[Reason]):
    """One thing found: why, whom or what it names, and its figures in the core's units.

    What the names and figures mean stands beside each reason's Literal; words turn it into a
    sentence.
    """

    reason: Reason
    names: tuple[str, ...] = ()
    figures: tuple[float, ...] = ()
