"""What need not go all the way: clothes that go home at a place, or come up only from there."""

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass
from itertools import chain
from typing import Literal

from caldarium.core.assess import assess_people
from caldarium.core.lighten.listed import AskedFor, asked_for
from caldarium.core.lighten.rules import rules_for
from caldarium.core.lighten.verdict import AT_A_TIME, depths, worse
from caldarium.core.load.clock import leg_end
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment, LegEnd
from caldarium.core.timeline.moments import Timeline

LEAST_KG_H = 1.0
"""Weight over time for which nobody would carry a piece to a cache [kg h]: judgement."""

Way = Literal["goes home", "comes up"]


@dataclass(frozen=True)
class Phase:
    """A piece that need not go all the way: whether it goes home at a place or comes up only there,
    the hours for which it is not carried, and of the whole course's which share [0 to 1]."""

    piece: Garment
    way: Way
    place: LegEnd
    hours: float
    share: float


@dataclass(frozen=True)
class Phases:
    """What need not go all the way of one person's clothes, and the person with all of it."""

    before: Person
    after: Person
    found: tuple[Phase, ...]

    @property
    def kg_hours(self) -> float:
        """What is spared in all [kg h]. Source: none, a sum."""
        return sum(each.piece.mass_g / 1000 * each.hours for each in self.found)


def leg_ends(course: Course) -> list[LegEnd]:
    """Every place at which something could be left or fetched, but for the last.

    Source: the course's own plan.
    """
    found = [
        LegEnd(day=day, leg=leg.id) for day, plan in enumerate(course.days) for leg in plan.legs
    ]
    return found[:-1]


def caches_of(course: Course) -> list[LegEnd]:
    """Places at which something of the course waits or is left already, in their order.

    Source: the course's own plan.
    """
    things = ((*person.items, *person.garments) for person in course.people)
    there = {
        (end.day, end.leg)
        for each in chain.from_iterable(things)
        for end in (each.waits_at, each.left_at)
        if end is not None
    }
    there |= {(each.day, each.leg) for each in course.caches}
    return [each for each in leg_ends(course) if (each.day, each.leg) in there]


def phases(
    course: Course,
    person: Person,
    timeline: Timeline,
    places: Sequence[LegEnd],
    heard: Callable[[float], None],
) -> Phases:
    """What of somebody's clothes need not go all the way.

    One piece after another goes home or comes up at the place that spares most weight over time,
    as long as nothing fails that holds now, or fails worse, and every rule is kept by what goes all
    the way. What waits already, and spares, stay as they are.

    Args:
        course, person, timeline: the plan, and whose clothes.
        places: where things can be left and fetched.
        heard: hears the share that is done; what it raises ends the work.

    Source: the course's own verdict; the order of trying is judgement, so that another choice may
        spare more.
    """
    ends = [leg_end(timeline, place.day, place.leg) for place in places]
    starts = [moment.start for moment in timeline.moments]
    first = min(starts, default=0.0)
    last = max([moment.end for moment in timeline.moments], default=first)
    whole = max(last - first, 1e-9)
    tried = [
        Phase(piece, way, place, hours, hours / whole)
        for piece in person.garments
        if not (piece.spare or piece.waits_at or piece.left_at)
        for place, end in zip(places, ends, strict=True)
        for way, hours in _ways(end - first, last - end)
        if piece.mass_g / 1000 * hours >= LEAST_KG_H
    ]
    tried.sort(key=lambda each: each.piece.mass_g * each.hours, reverse=True)
    now = depths(assess_people(course, (person,), timeline)[0])
    asked = asked_for(course, person, timeline)
    clad, found = person, list[Phase]()
    at = 0
    while at < len(tried):
        heard(at / len(tried))
        known = {each.piece.id for each in found}
        some = [each for each in tried[at : at + AT_A_TIME] if each.piece.id not in known]
        some = [each for each in some if _keeps_rules(course, clad, timeline, asked, each.piece.id)]
        results = assess_people(course, tuple(_with(clad, each) for each in some), timeline)
        judged = zip(some, results, strict=True)
        fit = next((each for each, after in judged if not worse(depths(after), now)), None)
        if fit is None:
            at += AT_A_TIME
            continue
        # What failed before it fails with one piece less too; look on from the one that does.
        clad, at = _with(clad, fit), tried.index(fit) + 1
        found.append(fit)
    return Phases(person, clad, tuple(found))


def _ways(before: float, after: float) -> tuple[tuple[Way, float], tuple[Way, float]]:
    """Both ways, with the hours for which a piece is not carried."""
    return ("goes home", after), ("comes up", before)


def _with(person: Person, phase: Phase) -> Person:
    name = "left_at" if phase.way == "goes home" else "waits_at"
    return person.altered(
        garments=tuple(
            each.altered(**{name: phase.place}) if each.id == phase.piece.id else each
            for each in person.garments
        )
    )


def _keeps_rules(
    course: Course, person: Person, timeline: Timeline, asked: Sequence[AskedFor], away: str
) -> bool:
    """Whether what goes all the way without one piece more still keeps every rule."""
    pieces = person.garments
    there = {
        at
        for at, piece in enumerate(pieces)
        if piece.id != away and not piece.waits_at and not piece.left_at
    }
    rules = rules_for(course, person, timeline, pieces, asked)
    return all(len(there.intersection(rule.pieces)) >= rule.least for rule in rules)


def with_phases(course: Course, found: Phases, keys: Collection[str]) -> Course:
    """The course with some of what was found, by the pieces' ids.

    Source: none, bookkeeping.
    """
    now = course.person(found.before.id)
    for each in found.found:
        if each.piece.id in keys and any(piece.id == each.piece.id for piece in now.garments):
            now = _with(now, each)
    people = tuple(now if each.id == now.id else each for each in course.people)
    return course.altered(people=people)
