"""Verdicts of one person compared: what is worse after a change than before it."""

from dataclasses import dataclass
from typing import Literal

from caldarium.core.person_result import PersonResult

_GRADES = {"gap": 2, "cool": 1, "hot": 2}
"""How bad a state is; what is not here is in order."""
_BRISK = ("moving", "setting out")
"""Kinds of moment at which to be cool is good practice and no fault: common practice, no published
source."""
HarmKind = Literal["gap", "cool", "hot", "fingers", "toes", "face", "bed short", "bed cool"]


@dataclass(frozen=True)
class Harm:
    """A verdict that is worse: at which moment or night, and what of it."""

    moment: str
    kind: HarmKind


_BED: dict[str, HarmKind] = {"gap": "bed short", "cool": "bed cool", "hot": "hot"}
_DAY: dict[str, HarmKind] = {"gap": "gap", "cool": "cool", "hot": "hot"}
_ORDER: tuple[HarmKind, ...] = (
    "gap",
    "bed short",
    "hot",
    "fingers",
    "toes",
    "face",
    "bed cool",
    "cool",
)


def harms(before: PersonResult, after: PersonResult) -> list[Harm]:
    """Everything that is worse after a change, gravest first.

    A state of one grade for another of the same, or a better one, is no harm.

    Args:
        before, after: what was found for one person on one course.

    Source: figures of the assessment.
    """
    found: list[Harm] = []
    for then, now in zip(before.moments, after.moments, strict=True):
        fine = now.state == "cool" and now.kind in _BRISK
        if _GRADES.get(now.state, 0) > _GRADES.get(then.state, 0) and not fine:
            found.append(Harm(now.moment, _DAY[now.state]))
        new = set(now.at_risk) - set(then.at_risk)
        parts: tuple[HarmKind, ...] = ("fingers", "toes", "face")
        found += [Harm(now.moment, part) for part in parts if part in new]
    for then, now in zip(before.nights, after.nights, strict=True):
        if _GRADES.get(now.state, 0) > _GRADES.get(then.state, 0):
            found.append(Harm(now.moment, _BED[now.state]))
    return sorted(found, key=lambda each: _ORDER.index(each.kind))
