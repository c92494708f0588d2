"""What is looked at on a page: a person and a moment, and where the step keys lead."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Query, Request

from caldarium.core.assess import Assessment
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Moment
from caldarium.store.courses import Held
from caldarium.web.page import assessed, courses_of

GAP_ORDER = {"gap": 0, "hot": 1}


@dataclass(frozen=True)
class Cursor:
    """What is looked at: a person and a moment."""

    person: str
    moment: str


def place_cursor(course: Course, result: Assessment, person: str, moment: str) -> Cursor:
    """The asked-for cursor where it exists, else the worst gap of the course."""
    people = {each.person for each in result.people}
    moments = {each.id for each in result.timeline.moments}
    if person in people and moment in moments:
        return Cursor(person, moment)
    shown = [
        (each.gap, found.person, each.moment)
        for found in result.people
        for each in found.moments
        if each.state == "gap"
        and each.kind == "halt"
        and (person not in people or found.person == person)
    ]
    if shown and moment not in moments:
        _, worst_person, worst_moment = max(shown)
        return Cursor(worst_person, worst_moment)
    first = result.timeline.moments[0].id
    return Cursor(
        person if person in people else course.people[0].id, moment if moment in moments else first
    )


def jumps(course: Course, result: Assessment, cursor: Cursor) -> dict[str, Cursor]:
    """Where each step key leads: moments, people, and problems either way."""
    moments = [each.id for each in result.timeline.moments]
    people = [each.id for each in course.people]
    column, row = moments.index(cursor.moment), people.index(cursor.person)
    found = {
        "next_moment": Cursor(cursor.person, moments[(column + 1) % len(moments)]),
        "previous_moment": Cursor(cursor.person, moments[(column - 1) % len(moments)]),
        "next_person": Cursor(people[(row + 1) % len(people)], cursor.moment),
        "previous_person": Cursor(people[(row - 1) % len(people)], cursor.moment),
    }
    troubles = sorted(
        (people.index(each.person), moments.index(state.moment))
        for each in result.people
        for state in (*each.moments, *each.nights)
        if state.state in GAP_ORDER
    )
    if troubles:
        here = (row, column)
        later = [each for each in troubles if each > here] or troubles
        earlier = [each for each in troubles if each < here] or troubles
        for name, (p, m) in (("next_gap", later[0]), ("previous_gap", earlier[-1])):
            found[name] = Cursor(people[p], moments[m])
    return found


def check_asked(result: Assessment, person: str, moment: str) -> None:
    """That a person and a moment which an address names are there; empty ones are nobody's.

    Raises:
        NotThereError: where one is not.
    """
    if person:
        result.of(person)
    if moment:
        result.timeline.moment(moment)


@dataclass(frozen=True)
class Seen:
    """A course with what was found for it, and the person and moment that an address names."""

    held: Held
    result: Assessment
    cursor: Cursor
    person: Person
    moment: Moment


def _seen(
    request: Request,
    number: int,
    person: Annotated[str, Query()] = "",
    moment: Annotated[str, Query()] = "",
) -> Seen:
    held = courses_of(request).get(number)
    result = assessed(request, number, held.course)
    check_asked(result, person, moment)
    cursor = place_cursor(held.course, result, person, moment)
    return Seen(
        held,
        result,
        cursor,
        held.course.person(cursor.person),
        result.timeline.moment(cursor.moment),
    )


LookedAt = Annotated[Seen, Depends(_seen)]
"""What a page of one person and moment looks at; one that is not there is told (404)."""
