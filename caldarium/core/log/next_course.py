"""The course that begins from what this one found, and a night near the road before it."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from caldarium.core.assess import Assessment
from caldarium.core.log.bands import band_factor, band_source, bands_off, with_bands
from caldarium.core.log.carried import carried_to, with_taught
from caldarium.core.log.debrief import Unused
from caldarium.core.log.learned import Taught
from caldarium.core.log.review import Review
from caldarium.core.plan.changes import remove_piece, with_person
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Log
from caldarium.core.plan.route import Camp, Day
from caldarium.core.plan.weather_sources import Conditions
from caldarium.core.what_if.idle import Idle, ledger

Change = Literal["learned", "leave out", "bands"]


@dataclass(frozen=True)
class Proposal:
    """One difference that the next course could begin with, by its key: something learned, a piece
    that stays at home, or bands so many times as wide."""

    key: str
    change: Change
    taught: Taught | None = None
    piece: Unused | None = None
    factor: float = 1.0


def may_stay(
    course: Course, result: Assessment, idle: Mapping[str, Idle]
) -> dict[str, frozenset[str]]:
    """Pieces that can stay at home at the plan's own caution, or are their owner's choice.

    Args:
        course, result: the plan as it stands.
        idle: of those who are asked about.

    Returns:
        Ids by person.

    Source: the ledger of core.what_if.idle; that nobody put a piece on is no proof that it is not
        needed when it is colder.
    """
    return {
        who: frozenset(
            line.piece
            for line in ledger(course, course.person(who), result, found)
            if line.verdict in ("idle", "choice")
        )
        for who, found in idle.items()
    }


def proposals(
    course: Course, found: Review, stays: Mapping[str, Collection[str]]
) -> list[Proposal]:
    """What the next course could begin with: what was learned and is telling, what was never used
    and can stay at home, wider or narrower bands.

    Args:
        course: the plan as it stands.
        found: of its log.
        stays: from may_stay.

    Source: the log.
    """
    wanted = [each for each in found.teaching.taught if each.telling and each.stand != "refused"]
    offered = [Proposal(each.about, "learned", each) for each in carried_to(course, wanted)]
    factor = band_factor(found.lows)
    if bands_off(course, found.teaching.lived.result.timeline, found.lows):
        offered.append(Proposal("bands", "bands", factor=factor))
    return offered + [
        Proposal(f"leave {each.person}:{each.piece}", "leave out", piece=each)
        for each in found.debrief.unused
        if each.piece in stays.get(each.person, ())
    ]


def with_proposals(course: Course, offered: Sequence[Proposal], chosen: Collection[str]) -> Course:
    """A course with the differences that were taken.

    Args:
        course: to begin from.
        offered: from proposals.
        chosen: keys of those that are taken; others are passed over.

    Source: none, bookkeeping.
    """
    for each in offered:
        if each.key not in chosen:
            continue
        if each.taught is not None:
            course = with_taught(course, [each.taught])
        elif each.piece is not None:
            person = course.person(each.piece.person)
            course = with_person(course, remove_piece(person, each.piece.piece))
        else:
            course = with_bands(course, each.factor, band_source(course))
    return course


def night_near_road(course: Course, night: int, name: str) -> Course:
    """A test night near the road to try beds and shelters before they are needed.

    Args:
        course: the plan whose people, beds and tents are tried.
        night: day at the end of which the night is that is tried.
        name: of the new course.

    Returns:
        A course of one night with everybody in the bed and shelter of that night, no way to walk,
        and the planned night's weather until somebody says better.

    Source: a test night near the road is common practice, no published source.
    """
    planned = course.days[night]
    there = course.on_night(night)
    low = planned.conditions
    evening = Day(
        title="A night to try beds",
        conditions=Conditions(
            high_c=low.high_c, low_c=low.low_c, wind_ms=low.wind_ms, humidity_pct=low.humidity_pct
        ),
        legs=(),
        camp=planned.camp or Camp(),
    )
    morning = Day(title="Morning", conditions=evening.conditions)
    people = tuple(
        each.altered(
            nights=(),
            overrules=(),
            items=tuple(i.altered(waits_at=None, left_at=None, on=None) for i in each.items),
            garments=tuple(g.altered(waits_at=None, left_at=None) for g in each.garments),
        )
        for each in there.people
    )
    return course.altered(
        name=name,
        days=(evening, morning),
        people=people,
        caches=(),
        helpers=(),
        ready=(),
        sources=(),
        lists=(),
        counted=(),
        group=(),
        log=Log(),
    )
