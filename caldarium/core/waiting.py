"""Clothes that wait in a drop bag or were left in one keep nobody warm while they are away."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from caldarium.core.load.load_hours import is_away
from caldarium.core.person_result import PersonResult
from caldarium.core.plan.course import Person
from caldarium.core.timeline.moments import Timeline

Judge = Callable[[tuple[Person, ...]], tuple[PersonResult, ...]]


def absent(person: Person, timeline: Timeline) -> dict[str, frozenset[str]]:
    """Clothes that are away at each moment of the course, by its id; empty for somebody whose
    clothes all go all the way.

    Source: the course's own plan.
    """
    waiting = [each for each in person.garments if each.waits_at or each.left_at]
    if not waiting:
        return {}
    moments = timeline.moments
    times = np.array([(moment.start + moment.end) / 2 for moment in moments])
    gone = {each.id: is_away(each.waits_at, each.left_at, timeline, times) for each in waiting}
    return {
        moment.id: frozenset(name for name, away in gone.items() if away[at])
        for at, moment in enumerate(moments)
    }


def without_absent(
    person: Person,
    found: PersonResult,
    gone: dict[str, frozenset[str]],
    judge: Judge,
) -> PersonResult:
    """What was found for somebody, with each moment and night as it is with what is there then.

    Args:
        person: whose.
        found: with everything they own at every moment.
        gone: from absent.
        judge: judges variants of the person; they have only what is there at some moment.

    Returns:
        The result; a piece is in doubt that closes nothing at any moment with what is there then.

    Source: the same assessment for every such set.
    """
    sets = sorted({each for each in gone.values() if each}, key=sorted)
    if not sets:
        return found
    variants = judge(tuple(_without(person, each) for each in sets))
    nothing: frozenset[str] = frozenset()
    by_set = {nothing: found} | dict(zip(sets, variants, strict=True))
    closes: dict[str, tuple[str, float]] = {}
    unsure: dict[str, None] = {}
    for away, each in by_set.items():
        unsure |= dict.fromkeys((*each.doubted, *each.closes))
        closes |= {
            name: (where, much)
            for name, (where, much) in each.closes.items()
            if gone[where] == away
        }
    return replace(
        found,
        moments=_spliced(by_set, gone, "moments", len(found.moments)),
        nights=_spliced(by_set, gone, "nights", len(found.nights)),
        doubted=tuple(name for name in unsure if name not in closes),
        closes=closes,
    )


def _without(person: Person, pieces: frozenset[str]) -> Person:
    there = (each for each in person.garments if each.id not in pieces)
    all_the_way = {"waits_at": None, "left_at": None}
    # Whoever is tried with everything on offer has more than a person may have.
    parts = {
        "garments": tuple(each.model_copy(update=all_the_way) for each in there),
        "overrules": tuple(each for each in person.overrules if each.garment not in pieces),
    }
    return person.model_copy(update=parts)


def _spliced(
    by_set: dict[frozenset[str], PersonResult],
    gone: dict[str, frozenset[str]],
    name: str,
    count: int,
) -> tuple[Any, ...]:
    """Each state from the result for what is away at its moment."""
    rows = {away: getattr(each, name) for away, each in by_set.items()}
    return tuple(rows[gone[rows[frozenset()][at].moment]][at] for at in range(count))
