"""What one course's log says for another with the same people, beds or tents."""

from collections.abc import Sequence
from dataclasses import dataclass

from caldarium.core.assess import Assessment
from caldarium.core.log.beliefs import believed, where_there, with_belief
from caldarium.core.log.learned import Taught
from caldarium.core.plan.course import Course


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
    """What was learned that another course has too and does not believe yet.

    Source: ids; a copy keeps those of its people, pieces and shelters.
    """
    names = set(where_there(course, [each.about for each in taught]))
    return [
        each
        for each in taught
        if each.about in names and believed(course, each.about) != each.after
    ]


def with_taught(course: Course, taught: Sequence[Taught]) -> Course:
    """A course that believes what was learned. Source: none, bookkeeping."""
    for each in taught:
        course = with_belief(course, each.about, each.after)
    return course


def night_changes(before: Assessment, after: Assessment) -> list[NightChange]:
    """Nights whose bed has another word, or half a kelvin more or less to spare.

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
