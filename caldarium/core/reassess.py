"""Assessing again after a change: only what the change can reach is computed."""

from dataclasses import dataclass

from caldarium.core.assess import Assessment, PersonResult, judge
from caldarium.core.day.dress_days import Worn, exchanged
from caldarium.core.load.loads import helper_loads
from caldarium.core.load.supplies import fuel_verdict
from caldarium.core.night.camp import ShelterNight, shelter_nights
from caldarium.core.night.open_nights import open_nights
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import build_timeline

_APART = ("people", "name", "as_typed", "shelters", "log")
_SHARED = tuple(name for name in Course.model_fields if name not in _APART)


@dataclass(frozen=True)
class Assessed:
    """A course, what was found for it, and what everybody wears as finding it again can use it."""

    course: Course
    result: Assessment
    worn: Worn | None = None


def reassess(course: Course, before: Assessed | None) -> Assessed:
    """Assess a course, from what was found for it before a change.

    Weather, ways and rules reach everybody, but not the days before them, nor those after them
    that begin as dry as they did; a person's own things reach only that person, and a shelter
    whoever sleeps in it.

    Args:
        course: the plan.
        before: the plan as it was, or another; None for none.

    Returns:
        The same as assess gives.

    Source: none, bookkeeping.
    """
    if before is None or any(
        getattr(course, name) != getattr(before.course, name) for name in _SHARED
    ):
        return _whole(course, before)
    if course is before.course:
        return before
    known = {
        person.id: (person, found)
        for person, found in zip(before.course.people, before.result.people, strict=True)
    }
    moved = _changed_shelters(course, before.course)
    altered = {
        person.id
        for person in course.people
        if person.id not in known or known[person.id][0] != person
    } | (known.keys() - {person.id for person in course.people})
    altered |= _carriers(course, moved) | _carriers(before.course, moved)
    names = {person.id for person in course.people}
    if (course.group and names != known.keys()) or _burns(course) != _burns(before.course):
        return _whole(course, before)
    beside = altered | _beside(course, altered) | _beside(before.course, altered)
    changed = tuple(
        person
        for person in course.people
        if person.id in beside or moved.intersection(person.shelters)
    )
    timeline = before.result.timeline
    worn = before.worn if names == known.keys() else None
    fresh, worn = _anew(course, changed, before, worn)
    people = tuple(fresh.get(person.id) or known[person.id][1] for person in course.people)
    touched = moved.union(*(person.shelters for person in changed))
    still: dict[str, list[ShelterNight]] = {}
    if _where(course) == _where(before.course):
        for each in before.result.shelters:
            if each.shelter not in touched:
                still.setdefault(each.shelter, []).append(each)
    shelters = tuple(shelter_nights(course, timeline, still))
    bare = tuple(open_nights(course, timeline))
    fuel = fuel_verdict(course, timeline)
    return Assessed(course, Assessment(timeline, people, shelters, fuel, bare), worn)


def _whole(course: Course, before: Assessed | None) -> Assessed:
    """Everybody and every shelter, with the days that are as they were."""
    timeline = build_timeline(course)
    people, worn = judge(course, course.people, timeline, before.worn if before else None)
    shelters = tuple(shelter_nights(course, timeline))
    bare = tuple(open_nights(course, timeline))
    fuel = fuel_verdict(course, timeline)
    return Assessed(course, Assessment(timeline, people, shelters, fuel, bare), worn)


def _anew(
    course: Course, changed: tuple[Person, ...], before: Assessed, worn: Worn | None
) -> tuple[dict[str, PersonResult], Worn | None]:
    """Results of those who changed, and what the whole party then wears."""
    if not changed:
        return {}, worn
    found, theirs = judge(course, changed, before.result.timeline, worn)
    if worn is not None:
        rows = {person.id: row for row, person in enumerate(worn.who.people)}
        worn = exchanged(worn, [rows[person.id] for person in changed], theirs)
    return {each.person: each for each in found}, worn


def _burns(course: Course) -> tuple[object, ...]:
    """What of people's own plans reaches others, by way of the party's one account of fuel and of
    helpers: heads, everybody's fuel, the bottles that it melts snow for, and what helpers carry."""
    melts = any(day.camp is not None and day.camp.melts for day in course.days)
    bottled = melts or course.provisions.treated == "boiled"
    return (
        len(course.people),
        sum(person.fuel_g_a_day for person in course.people),
        sum(item.fuel_g for person in course.people for item in person.items),
        sum(person.filled_l for person in course.people) if bottled else 0.0,
        [each.mass for each in helper_loads(course)],
        [
            (item.waits_at, item.fuel_g)
            for person in course.people
            for item in person.items
            if item.fuel_g and person.around(item).waits_at
        ],
    )


def _carriers(course: Course, shelters: set[str]) -> set[str]:
    """Whoever carries parts of these shelters."""
    tents = (tent for tent in course.shelters if tent.id in shelters)
    return {part.carried_by for tent in tents for part in tent.parts if part.carried_by}


def _beside(course: Course, altered: set[str]) -> set[str]:
    """Whoever shares a bed with one of these."""
    pairs = [
        (person.id, bed.bedding.beside)
        for person in course.people
        for bed in person.beds
        if bed.bedding.beside is not None
    ]
    return {a for a, b in pairs if b in altered} | {b for a, b in pairs if a in altered}


def _where(course: Course) -> list[tuple[object, ...]]:
    """Who sleeps where, by the names that a shelter's verdict may say."""
    return [
        (
            person.id,
            person.name,
            person.shelter,
            tuple((plan.day, plan.shelter) for plan in person.nights),
        )
        for person in course.people
    ]


def _changed_shelters(course: Course, before: Course) -> set[str]:
    """Shelters that are others than they were, or in which others sleep, or parts of which lost or
    found their carriers."""

    def filled(plan: Course) -> dict[str, tuple[object, ...]]:
        names = {person.id for person in plan.people}
        return {
            shelter.id: (
                shelter,
                tuple((p.id, p.shelter, p.nights) for p in plan.people if shelter.id in p.shelters),
                tuple(part.carried_by in names for part in shelter.parts),
            )
            for shelter in plan.shelters
        }

    now, then = filled(course), filled(before)
    return {name for name in now.keys() | then.keys() if now.get(name) != then.get(name)}
