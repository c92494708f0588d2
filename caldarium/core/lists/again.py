"""Lists judged again after a change: what is as it was is not judged again."""

from dataclasses import dataclass

from caldarium.core.lists.holdings import Holding, holdings, own_things
from caldarium.core.lists.judge import Judged, asked_there, judge_things
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Timeline

Own = dict[str, tuple[Person, list[Holding]]]


@dataclass(frozen=True)
class Lists:
    """What a course's lists say, and what finding it again can use: the course, everybody's own
    things by person, everything that the party has, and the lines that are asked."""

    course: Course
    own: Own
    have: list[Holding]
    there: tuple[tuple[str, str], ...]
    judged: tuple[Judged, ...]


def judge_again(course: Course, timeline: Timeline, before: Lists | None) -> Lists:
    """Every line of every list, from what was found for them before a change.

    Args:
        course: the plan.
        timeline: of the course, for what is forecast.
        before: the plan as it was, or another; None for none.

    Returns:
        The same as judge gives.

    Source: none, bookkeeping.
    """
    known: Own = before.own if before is not None else {}
    own: Own = {}

    def things(person: Person) -> list[Holding]:
        last = known.get(person.id)
        if last is None or last[0] != person:
            last = (person, own_things(person))
        own[person.id] = last
        return last[1]

    have, there = holdings(course, things), asked_there(course, timeline)
    same = (
        before is not None
        and there == before.there
        and _about(course) == _about(before.course)
        and have == before.have
    )
    judged = before.judged if before is not None and same else judge_things(course, there, have)
    return Lists(course, own, have, there, judged)


def _about(course: Course) -> tuple[object, ...]:
    """What of a course lists look at beside things and lines."""
    people = [(each.id, each.age, each.instructor, each.shelters) for each in course.people]
    return course.lists, course.counted, course.rope_of, people
