"""The ledger of grams: for every piece somebody has, what it is there for."""

from dataclasses import dataclass
from typing import Literal

from caldarium.core.assess import Assessment, PersonResult, assess
from caldarium.core.night.nights import SLACK_MARGIN, Night
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.kit import Garment, Item, Purpose
from caldarium.core.what_if.progress import Heard, unheard

Verdict = Literal["closes", "needed", "idle", "exempt", "choice"]
LineReason = Literal[
    "closes nothing",
    "closes a gap",
    "for the bed",
    "kept for the bed",
    "all day",
    "next to skin",
    "keeps weather off",
    "fingers",
    "no night",
    "bed short",
    "bed to spare",
    "bed holds",
    "safety",
    "comfort",
    "food and water",
    "group",
    "warmth",
    "sleep",
    "shelter",
    "apart",
]
"""What a piece is there for. Figures: the gap it closes [clo], moments at which it is worn, or the
bed's margin on its worst night [K]. Names: the moment at which it closes a gap."""
STEPS_SD = (0.0, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 3.5, 4.0)
"""Cautions at which idle pieces are tried again [standard deviations]."""


@dataclass(frozen=True)
class Line:
    """One piece: its id, name, mass [g], and why it is there."""

    piece: str
    name: str
    grams: float
    verdict: Verdict
    why: Finding[LineReason]


def ledger(person: Person, found: PersonResult) -> list[Line]:
    """Every piece of one person, idle ones first, then the owner's choices, heaviest first.

    Args:
        person: whose.
        found: what the assessment found for them.

    Source: figures of the assessment; what is exempt is the school's rule.
    """
    lines = [_garment(piece, found) for piece in person.garments]
    lines += _bed(person, found.nights)
    lines += [_item(item) for item in person.items]
    order = {"idle": 0, "choice": 1, "closes": 2, "needed": 3, "exempt": 4}
    return sorted(lines, key=lambda each: (order[each.verdict], -each.grams))


def _garment(piece: Garment, found: PersonResult) -> Line:
    worn = (float(sum(piece.id in state.worn for state in found.moments)),)
    verdict: Verdict = "needed"
    why: Finding[LineReason] = Finding("for the bed")
    if piece.id in found.idle:
        verdict, why = "idle", Finding("closes nothing")
    elif piece.id in found.closes:
        where, clo = found.closes[piece.id]
        verdict, why = "closes", Finding("closes a gap", (where,), (clo,))
    elif piece.only_asleep:
        why = Finding("kept for the bed")
    elif piece.always:
        why = Finding("all day")
    elif piece.layer == "base":
        why = Finding("next to skin", figures=worn)
    elif piece.layer == "shell":
        why = Finding("keeps weather off", figures=worn)
    elif set(piece.cover) == {"hands"}:
        why = Finding("fingers", figures=worn)
    return Line(piece.id, piece.name, piece.mass_g, verdict, why)


def _bed(person: Person, nights: tuple[Night, ...]) -> list[Line]:
    """Every piece of the beds that somebody carries, by the nights that they lie in it."""
    slept = [(night, {part.id for part in person.bed_on(night.day).parts}) for night in nights]
    found: list[Line] = []
    for part in person.bed_parts:
        margins = [night.margin for night, parts in slept if part.id in parts]
        verdict: Verdict = "needed" if margins else "idle"
        why: Finding[LineReason] = Finding("no night")
        if margins:
            margin = min(margins)
            reason: LineReason = "bed short" if margin < 0 else "bed holds"
            if margin > SLACK_MARGIN:
                reason = "bed to spare"
            why = Finding(reason, figures=(margin,))
        found.append(Line(part.id, part.name, part.mass_g, verdict, why))
    return found


_ITEMS: dict[Purpose, Verdict] = {
    "safety": "exempt",
    "comfort": "choice",
    "food and water": "needed",
    "group": "needed",
    "warmth": "needed",
    "sleep": "needed",
    "shelter": "needed",
}


def _item(item: Item) -> Line:
    verdict: Verdict = "choice" if item.apart else _ITEMS[item.purpose]
    why: Finding[LineReason] = Finding("apart" if item.apart else item.purpose)
    return Line(item.id, item.name, item.mass_g, verdict, why)


@dataclass(frozen=True)
class Matters:
    """An idle piece, and the caution from which it closes a gap [standard deviations], None where
    it never does within what was tried."""

    person: str
    piece: str
    name: str
    grams: float
    from_sd: float | None


def when_idle_matters(course: Course, result: Assessment, heard: Heard = unheard) -> list[Matters]:
    """For every idle piece the caution at which it would begin to matter, by trying.

    Args:
        course: the plan.
        result: its assessment.
        heard: hears how far it is, a step a caution.

    Returns:
        Heaviest first.

    Source: the whole assessment at cautions of STEPS_SD.
    """
    waiting = {(each.person, piece) for each in result.people for piece in each.idle}
    found: dict[tuple[str, str], float] = {}
    now = {"as forecast": 0.0, "cautious": course.cautious_sd, "expedition": course.expedition_sd}
    for done, deviations in enumerate(STEPS_SD):
        heard(done / len(STEPS_SD))
        left = waiting - found.keys()
        if deviations <= now[course.caution] or not left:
            continue
        harder = course.altered(
            caution="expedition",
            expedition_sd=deviations,
            cautious_sd=min(course.cautious_sd, deviations),
        )
        idle = {(each.person, piece) for each in assess(harder).people for piece in each.idle}
        found |= dict.fromkeys(left - idle, deviations)
    listed: list[Matters] = []
    for person, piece in waiting:
        garments = course.person(person).garments
        garment = next(each for each in garments if each.id == piece)
        from_sd = found.get((person, piece))
        listed.append(Matters(person, piece, garment.name, garment.mass_g, from_sd))
    return sorted(listed, key=lambda each: (-each.grams, each.person, each.piece))
