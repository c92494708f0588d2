"""What one course's log says for another with the same people, beds or tents."""

from collections.abc import Sequence
from dataclasses import dataclass

from caldarium.core.assess import Assessment
from caldarium.core.log.beliefs import believed, parted, where_there, with_belief
from caldarium.core.log.diary import Diary, leader_of
from caldarium.core.log.learned import Taught
from caldarium.core.plan.belief import Belief, factor
from caldarium.core.plan.course import Course
from caldarium.core.plan.route import Leg


@dataclass(frozen=True)
class NightChange:
    """One night of somebody before and after what was learned elsewhere: to spare [K], states."""

    person: str
    day: int
    before: float
    after: float
    was: str
    becomes: str


def carried_to(course: Course, taught: Sequence[Taught]) -> list[Taught]:
    """What was learned that another course has too and does not believe yet; of halts and ways
    only what is of whoever leads there.

    Source: ids; a copy keeps those of its people, pieces and shelters.
    """
    names = set(where_there(course, [each.about for each in taught]))
    leader = leader_of(course, Diary(), 0)
    return [
        each
        for each in taught
        if each.about in names
        and believed(course, each.about) != brought(each)
        and (not each.of_ways or parted(each.about)[1] == leader)
    ]


def brought(taught: Taught) -> Belief:
    """What another plan believes that something learned was brought into. Halts and ways are
    planned with it there, so that as planned is as believed.

    Source: none, a quotient.
    """
    after = taught.after
    if not taught.of_ways:
        return after
    return Belief(mean=1.0, sd=after.sd / max(after.mean, 0.05), times=after.times)


def with_taught(course: Course, taught: Sequence[Taught]) -> Course:
    """A later course with what was learned: believed, and its halts and ways planned by it.

    Source: none, bookkeeping.
    """
    for each in taught:
        course = with_belief(course, each.about, brought(each))
        if each.of_ways:
            course = _with_lengths(course, factor(each.after), halts=each.kind == "halts")
    return course


def _with_lengths(course: Course, longer: float, *, halts: bool) -> Course:
    """A course with halts, or ways, so much longer."""

    def leg(each: Leg) -> Leg:
        if halts:
            return each.altered(halt_min=min(max(round(each.halt_min * longer), 1), 180))
        if each.distance_km <= 0:
            return each
        if each.hours is not None:
            return each.altered(hours=each.hours * longer)
        return each.altered(pace_kmh=min(max(each.pace_kmh / longer, 1.0), 8.0))

    days = tuple(day.altered(legs=tuple(leg(each) for each in day.legs)) for day in course.days)
    return course.altered(days=days)


def night_changes(before: Assessment, after: Assessment) -> list[NightChange]:
    """Nights whose bed has another word, or NOTED_K more or less to spare.

    Source: two assessments.
    """
    found: list[NightChange] = []
    for one, other in zip(before.people, after.people, strict=True):
        for was, becomes in zip(one.nights, other.nights, strict=True):
            if was.state != becomes.state or abs(was.margin - becomes.margin) >= NOTED_K:
                found.append(
                    NightChange(
                        one.person,
                        was.day,
                        was.margin,
                        becomes.margin,
                        was.state,
                        becomes.state,
                    )
                )
    return found


NOTED_K = 0.5
"""A change of what a bed has to spare that is worth a line [K]: judgement."""
