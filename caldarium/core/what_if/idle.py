"""The ledger of grams: for every piece somebody has, what it is there for, in a sentence."""

from dataclasses import dataclass
from typing import Literal

from caldarium.core.assess import Assessment, PersonResult, assess
from caldarium.core.night.nights import SLACK_MARGIN, Night
from caldarium.core.plan.changes import find_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment, Item
from caldarium.core.timeline.moments import Moment
from caldarium.words.course import moment_name
from caldarium.words.units import Display

Verdict = Literal["closes", "needed", "idle", "exempt", "choice"]
STEPS_SD = (0.0, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 3.5, 4.0)
"""Cautions at which idle pieces are tried again [standard deviations]."""


@dataclass(frozen=True)
class Line:
    """One piece: its id, name, mass [g], why it is there, and that as a sentence."""

    piece: str
    name: str
    grams: float
    verdict: Verdict
    words: str


def ledger(
    course: Course, result: Assessment, person: Person, found: PersonResult, display: Display
) -> list[Line]:
    """Every piece of one person, idle ones first, then the owner's choices, heaviest first.

    Args:
        course, result: the plan and what was found.
        person, found: whose.
        display: units.

    Source: figures of the assessment; what is exempt is the school's rule.
    """
    moments = {each.id: each for each in result.timeline.moments}
    lines = [_garment(course, piece, found, moments, display)
             for piece in person.garments]  # fmt: skip
    lines += _bed(course, person, found.nights, display)
    lines += [_item(item, display) for item in person.items]
    order = {"idle": 0, "choice": 1, "closes": 2, "needed": 3, "exempt": 4}
    return sorted(lines, key=lambda each: (order[each.verdict], -each.grams))


def _garment(
    course: Course, piece: Garment, found: PersonResult, moments: dict[str, Moment],
    display: Display,
) -> Line:  # fmt: skip
    worn = sum(piece.id in state.worn for state in found.moments)
    verdict: Verdict = "needed"
    words = "a bed would fall short without it"
    if piece.id in found.idle:
        verdict, words = "idle", "closes no gap at any moment at this caution"
    elif piece.id in found.closes:
        where, clo = found.closes[piece.id]
        much = f"{clo:.2f}" if clo < 0.095 else f"{clo:.1f}"
        verdict, words = "closes", f"closes {much} clo at {moment_name(course, moments[where])}"
    elif piece.only_asleep:
        words = "kept dry for the bed"
    elif piece.always:
        words = "worn all day"
    elif piece.layer == "base":
        words = f"next to the skin, worn at {worn} moments"
    elif piece.layer == "shell":
        words = f"keeps wind and rain off, worn at {worn} moments"
    elif set(piece.cover) == {"hands"}:
        words = f"fingers need it, worn at {worn} moments"
    full = f"{piece.name}, {display.mass(piece.mass_g)}: {words}."
    return Line(piece.id, piece.name, piece.mass_g, verdict, full)


def _bed(course: Course, person: Person, nights: tuple[Night, ...], display: Display) -> list[Line]:
    bedding = person.bedding
    under = bedding.hammock.underquilt if bedding.hammock else None
    parts = [each for each in (person.bag, bedding.over, bedding.liner, bedding.cover,
                               bedding.hammock, under, *person.pads) if each]  # fmt: skip
    if not nights:
        words = "no night on this course asks for it"
        return [Line(each.id, each.name, each.mass_g, "idle",
                     f"{each.name}, {display.mass(each.mass_g)}: {words}.")
                for each in parts]  # fmt: skip
    worst = min(nights, key=lambda night: night.margin)
    margin = display.difference(abs(worst.margin))
    if worst.margin < 0:
        words = f"part of a bed that is {margin} short on the worst night"
    elif worst.margin > SLACK_MARGIN:
        words = f"part of a bed with {margin} to spare on the worst night: a lighter one would do"
    else:
        words = f"part of a bed that holds by {margin} on the worst night"
    return [
        Line(each.id, each.name, each.mass_g, "needed",
             f"{each.name}, {display.mass(each.mass_g)}: {words}.")
        for each in parts
    ]  # fmt: skip


def _item(item: Item, display: Display) -> Line:
    kinds: dict[str, tuple[Verdict, str]] = {
        "safety": ("exempt", "safety kit, exempt by rule"),
        "comfort": ("choice", "comfort, its owner's choice, counted openly"),
        "food and water": ("needed", "to cook, eat and drink"),
        "group": ("needed", "carried for the group or to carry with"),
        "warmth": ("needed", "for warmth"),
        "sleep": ("needed", "for the night"),
        "shelter": ("needed", "part of a shelter"),
    }
    verdict, words = kinds[item.purpose]
    if item.apart:
        verdict, words = "choice", "teaching or camera kit, counted by one school only"
    full = f"{item.name}, {display.mass(item.mass_g)}: {words}."
    return Line(item.id, item.name, item.mass_g, verdict, full)


@dataclass(frozen=True)
class Matters:
    """An idle piece, and the caution from which it closes a gap [standard deviations], None where
    it never does within what was tried."""

    person: str
    piece: str
    name: str
    grams: float
    from_sd: float | None


def when_idle_matters(course: Course, result: Assessment) -> list[Matters]:
    """For every idle piece the caution at which it would begin to matter, by trying.

    Args:
        course: the plan.
        result: its assessment.

    Returns:
        Heaviest first.

    Source: the whole assessment at cautions of STEPS_SD.
    """
    waiting = {(each.person, piece) for each in result.people for piece in each.idle}
    found: dict[tuple[str, str], float] = {}
    now = {"as forecast": 0.0, "cautious": course.cautious_sd, "expedition": course.expedition_sd}
    for deviations in STEPS_SD:
        left = waiting - found.keys()
        if deviations <= now[course.caution] or not left:
            continue
        harder = course.altered(
            caution="expedition", expedition_sd=deviations,
            cautious_sd=min(course.cautious_sd, deviations),
        )  # fmt: skip
        idle = {(each.person, piece) for each in assess(harder).people for piece in each.idle}
        found |= dict.fromkeys(left - idle, deviations)
    listed: list[Matters] = []
    for person, piece in waiting:
        garments = find_person(course, person).garments
        garment = next(each for each in garments if each.id == piece)
        from_sd = found.get((person, piece))
        listed.append(Matters(person, piece, garment.name, garment.mass_g, from_sd))
    return sorted(listed, key=lambda each: (-each.grams, each.person, each.piece))
