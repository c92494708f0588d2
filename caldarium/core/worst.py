"""Where a course is worst: the moment of each kind that decides, and each moment's worst state."""

import math
from dataclasses import dataclass

from caldarium.core.assess import Assessment
from caldarium.core.night.nights import Night
from caldarium.core.timeline.moments import KINDS

ORDER = {"gap": 0, "hot": 1, "cool": 2, "snug": 3, "slack": 4}


@dataclass(frozen=True)
class Worst:
    """The person and moment that decide, how many share its state, and how many there are."""

    person: str
    moment: str
    state: str
    sharing: int
    people: int


def worst_by_kind(result: Assessment) -> dict[str, Worst]:
    """Of each kind of moment the one with the least warmth to spare.

    Args:
        result: the assessment.

    Returns:
        By kind in the order of a day; nights by their margin.

    Source: figures of the assessment.
    """
    spare: dict[str, tuple[float, Worst]] = {}
    for person in result.people:
        found = [
            (each.kind, each.provided - each.need_min, each.moment, each.state)
            for each in person.moments
        ]
        found += [("night", each.margin, each.moment, each.state) for each in person.nights]
        for kind, left, moment, state in found:
            worse = -1e9 if not math.isfinite(left) else left
            if kind not in spare or worse < spare[kind][0]:
                spare[kind] = worse, Worst(person.person, moment, state, 1, len(result.people))
    return {kind: spare[kind][1] for kind in KINDS if kind in spare}


def coldest_bed(result: Assessment, person: str = "") -> tuple[str, int]:
    """Who has the coldest bed of the course, or of one person, and on which day's night.

    Source: figures of the assessment; a bed that nothing balances is the coldest.
    """
    of_one = any(each.person == person for each in result.people)
    _, who, day = min(
        (_margin(night), found.person, night.day)
        for found in result.people
        for night in found.nights
        if not of_one or found.person == person
    )
    return who, day


def beds_coldest_first(result: Assessment, day: int) -> list[tuple[str, Night]]:
    """Everybody's bed on the night of one day. Source: figures of the assessment."""
    beds = [
        (found.person, night)
        for found in result.people
        for night in found.nights
        if night.day == day
    ]
    return sorted(beds, key=lambda pair: _margin(pair[1]))


def _margin(night: Night) -> float:
    return night.margin if math.isfinite(night.margin) else float("-inf")


def worst_by_moment(result: Assessment) -> dict[str, Worst]:
    """Each moment's worst state in the group, and how many share it.

    Source: figures of the assessment.
    """
    listed: dict[str, list[tuple[int, float, str, str]]] = {}
    for person in result.people:
        for each in person.moments:
            left = each.provided - each.need_min
            entry = (ORDER[each.state], left, person.person, each.state)
            listed.setdefault(each.moment, []).append(entry)
        for night in person.nights:
            entry = (ORDER[night.state], night.margin, person.person, night.state)
            listed.setdefault(night.moment, []).append(entry)
    found: dict[str, Worst] = {}
    for moment, entries in listed.items():
        _, _, who, state = min(entries)
        sharing = sum(entry[3] == state for entry in entries)
        found[moment] = Worst(who, moment, state, sharing, len(entries))
    return found


def heaviest_laden(result: Assessment) -> str:
    """Whoever is fullest of their budget on some morning. Source: figures of the assessment."""
    return max(result.people, key=lambda each: max(each.load.by_day) / each.load.budget).person


def thirsty(result: Assessment) -> list[str]:
    """Ids of those whose water runs out somewhere. Source: the assessment."""
    return [each.person for each in result.people if each.load.dry]


def shortest_supplied(result: Assessment) -> str:
    """Id of whoever misses most water, or most food where nobody misses water, or is fullest where
    nobody misses anything.

    Source: the assessment.
    """
    missing = {
        each.person: (
            sum(dry.litres for dry in each.load.dry),
            sum(short.grams for short in each.load.hungry),
        )
        for each in result.people
    }
    worst = max(missing, key=lambda who: missing[who])
    return worst if any(missing[worst]) else heaviest_laden(result)
