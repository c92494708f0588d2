"""Verdicts in one sentence each, with the numbers that decide them."""

import math
from datetime import timedelta

from caldarium.core.assess import Assessment
from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import Moment
from caldarium.words.units import Display, clock_text, signed


def weekday(course: Course, day: int, *, whole: bool = False) -> str:
    """The weekday of a course's day, in three letters or whole. Source: none, wording."""
    date = course.start + timedelta(days=day)
    return f"{date:%A}" if whole else f"{date:%a}"


def moment_name(course: Course, moment: Moment) -> str:
    """A moment as people say it: weekday, clock time and kind. Source: none, wording."""
    return f"{weekday(course, moment.day)} {clock_text(moment.start)}, {moment.kind}"


def course_sentence(course: Course, result: Assessment, display: Display) -> str:
    """The course in one line: gaps, cold beds, overheating, unfit shelters, idle grams.

    Source: figures of the assessment.
    """
    gaps = [m for person in result.people for m in person.moments if m.state == "gap"]
    beds = [n for person in result.people for n in person.nights if n.state == "gap"]
    hot = [m for person in result.people for m in person.moments if m.state == "hot"]
    unfit = [n for n in result.shelters if not n.fit]
    idle = sum(person.idle_grams for person in result.people)
    cold = sum(bool(m.at_risk) for person in result.people for m in person.moments)
    parts = [
        counted(len(gaps), "gap")
        + (f" (worst {max(m.gap for m in gaps):.1f} clo)" if gaps else ""),
        counted(len(beds), "cold bed-night"),
        counted(cold, "risk to fingers, toes or face", "risks to fingers, toes or face"),
        counted(len(hot), "overheating moment"),
        counted(len(unfit), "unfit shelter-night"),
        f"{display.mass(idle)} idle",
    ]
    return ", ".join(parts) + f" for {_people(len(course.people))} at caution “{course.caution}”."


def became_sentence(before: Assessment, now: Assessment) -> str:
    """What a change did to the course's problems; empty where it left them as many.

    Source: figures of both assessments.
    """
    pairs = zip(_problems(before).items(), _problems(now).values(), strict=True)
    parts = [
        f"{counted(then, *name)} became {left or 'none'}"
        for (name, then), left in pairs
        if then != left
    ]
    told = "; ".join(parts)
    return told[:1].upper() + told[1:] + "." if told else ""


def _problems(result: Assessment) -> dict[tuple[str, str], int]:
    """How many problems of each kind there are, by the kind's name for one and for several."""
    moments = [each for person in result.people for each in person.moments]
    beds = [each for person in result.people for each in person.nights]
    return {
        ("gap", "gaps"): sum(each.state == "gap" for each in moments),
        ("cold bed-night", "cold bed-nights"): sum(each.state == "gap" for each in beds),
        ("risk of frost", "risks of frost"): sum(bool(each.at_risk) for each in moments),
        ("overheating moment", "overheating moments"): sum(each.state == "hot" for each in moments),
        ("unfit shelter-night", "unfit shelter-nights"): sum(
            not each.fit for each in result.shelters
        ),
    }


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
