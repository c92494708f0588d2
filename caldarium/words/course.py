"""Verdicts in one sentence each, with the numbers that decide them."""

import math
from collections.abc import Mapping
from datetime import timedelta

from caldarium.core.assess import Assessment
from caldarium.core.plan.course import Course, Person
from caldarium.core.tally import tally
from caldarium.core.timeline.moments import Moment
from caldarium.words.units import clock_text, signed

PROBLEMS: Mapping[str, tuple[str, str]] = {
    "gaps": ("gap", "gaps"),
    "cold_beds": ("cold bed-night", "cold bed-nights"),
    "at_risk": ("risk to fingers, toes or face", "risks to fingers, toes or face"),
    "hot": ("overheating moment", "overheating moments"),
    "unfit": ("unfit shelter-night", "unfit shelter-nights"),
    "overladen": ("load beyond the limit", "loads beyond the limit"),
    "dry": ("stretch without water", "stretches without water"),
    "hungry": ("stretch without food", "stretches without food"),
    "no_fuel": ("time without fuel", "times without fuel"),
}
"""What each kind of problem of a tally is called, one of them and several."""
_ONLY_IF_ANY = ("overladen", "dry", "hungry", "no_fuel")
GROWN, OLDER = 16, 60
"""Ages below and from which people are told what the model does not cover: judgement."""


def weekday(course: Course, day: int, *, whole: bool = False) -> str:
    """The weekday of a course's day, in three letters or whole. Source: none, wording."""
    date = course.start + timedelta(days=day)
    return f"{date:%A}" if whole else f"{date:%a}"


def moment_name(course: Course, moment: Moment) -> str:
    """A moment as people say it: weekday, clock time and kind. Source: none, wording."""
    return f"{weekday(course, moment.day)} {clock_text(moment.start)}, {moment.kind}"


def course_sentence(course: Course, result: Assessment, before: Assessment | None = None) -> str:
    """The course in one line: gaps, cold beds, overheating, unfit shelters, loads.

    Args:
        course: the plan.
        result: what was found for it.
        before: what was found before the change just made; what differed is told beside.

    Source: figures of the assessment.
    """
    now, then = tally(result), tally(before or result)
    largest = max((m.gap for p in result.people for m in p.moments if m.state == "gap"), default=0)
    parts: list[str] = []
    for kind, (one, several) in PROBLEMS.items():
        number, had = getattr(now, kind), getattr(then, kind)
        if kind in _ONLY_IF_ANY and not number and not had:
            continue
        beside = [f"{had} before"] if had != number else []
        if kind == "gaps" and number:
            beside.append(f"worst {largest:.1f} clo")
        more = f" ({', '.join(beside)})" if beside else ""
        parts.append(counted(number, one, several) + more)
    told = ", ".join(parts) + f" for {_people(len(course.people))} at caution “{course.caution}”."
    return told[0].upper() + told[1:]


def age_sentence(person: Person) -> str:
    """What the model covers of somebody of that age; empty where it is made for them.

    Source: the standards and bodies behind the model are of adults; that children and older people
    cool and heat otherwise is textbook knowledge, from memory.
    """
    if person.age is not None and person.age < GROWN:
        return (
            "Figures are of adults: a child has more skin for their mass, cools and heats faster, "
            "shivers less long and says less of it. Leave a notch of caution more, and look often."
        )
    if person.age is not None and person.age >= OLDER:
        return (
            "Figures are of younger adults: with age people shiver later, feel cold and thirst "
            "less, and tire sooner. Leave a notch of caution more."
        )
    return ""


def _people(number: int) -> str:
    return "1 person" if number == 1 else f"{number} people"


def counted(number: int, word: str, several: str = "") -> str:
    """A number of things, in words. Source: none, wording."""
    return f"{number or 'no'} {word if number == 1 else several or word + 's'}"


def number(value: float, decimals: int = 2) -> str:
    """A figure for a table; one that does not exist as a word.

    Source: none, wording.
    """
    return signed(value, decimals) if math.isfinite(value) else "none"
