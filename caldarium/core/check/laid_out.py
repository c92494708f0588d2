"""What to lay out the evening before: what goes on, what is at hand, what goes in last; and for
camp: what to change into, what lies in the bed, what must not freeze."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from caldarium.core.assess import Assessment, wet_beds
from caldarium.core.night.freeze import Guard, freeze_guard
from caldarium.core.pack.contents import Content, first_walk
from caldarium.core.pack.needed import Need
from caldarium.core.pack.plan import PackPlan
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import rank, warmth
from caldarium.core.plan.kit import BedPart, Garment, Item
from caldarium.core.plan.rucksack import Zone
from caldarium.core.timeline.moments import Moment
from caldarium.core.waiting import absent

AT_HAND: tuple[Zone, ...] = ("hip", "lid", "front", "left", "right", "over", "top")
"""Zones that are reached without unpacking, the nearest first."""
LEAST_HURRY = 1.3
"""Hurry from which a piece is laid out as one to have at hand: judgement."""


@dataclass(frozen=True)
class AtHand:
    """A piece that is wanted on the way: where it is, and when and for what."""

    piece: Content
    zone: Zone
    need: Need


@dataclass(frozen=True)
class CampLaid:
    """The evening and night of a day: what is changed into and taken off, what stays on, what one
    lies in and on, in which shelter, and what must not freeze."""

    put_on: tuple[Garment, ...]
    take_off: tuple[Garment, ...]
    stays: tuple[Garment, ...]
    asleep: tuple[Garment, ...]
    bed: tuple[BedPart, ...]
    shelter: str | None
    guard: Guard


@dataclass(frozen=True)
class LaidOut:
    """One person's day: clothes to set out in, from the skin out; things that are worn; what is at
    hand; what is still on at breakfast and goes in last; what waits elsewhere; and the evening."""

    person: str
    day: int
    puts_on: tuple[Garment, ...]
    pockets: tuple[Item, ...]
    at_hand: tuple[AtHand, ...]
    last_in: tuple[Garment, ...]
    waits: tuple[str, ...]
    camp: CampLaid | None = field(default=None)


def laid_out(
    course: Course, person: Person, result: Assessment, day: int, plan: PackPlan | None
) -> LaidOut:
    """What one person lays out for a day, and for the night at its end.

    Args:
        course, person: whose.
        result: what was found for the course.
        day: of the course, from 0.
        plan: of their pack that morning; None on a day without a walk.

    Source: outfits of the assessment and places of the pack's plan; laying out the evening before
        is common practice, no published source.
    """
    found = result.of(person.id)
    worn = {state.moment: state.worn for state in found.moments}
    moments = [each for each in result.timeline.moments if each.day == day]
    walk = first_walk(result.timeline, day)
    start = walk or next((each for each in moments if each.kind != "night"), None)
    on = _pieces(person, worn.get(start.id, ())) if start is not None else ()
    dawn = _before(result.timeline.moments, start, "dawn")
    early = _pieces(person, worn.get(dawn.id, ())) if dawn is not None else ()
    nothing: frozenset[str] = frozenset()
    away = absent(person, result.timeline).get(start.id, nothing) if start is not None else nothing
    listed = {each.id: each.name for each in (*person.garments, *person.items)}
    return LaidOut(
        person.id,
        day,
        on,
        tuple(item for item in person.items if item.worn),
        () if plan is None else tuple(_at_hand(plan)),
        tuple(each for each in early if each not in on),
        tuple(listed[name] for name in listed if name in away),
        _camp(course, person, result, day),
    )


def _pieces(person: Person, names: Sequence[str]) -> tuple[Garment, ...]:
    """Pieces that are worn, from the skin out, of one rank the thinner one first."""
    chosen = [each for each in person.garments if each.id in names]
    thick = {each.id: warmth([each]).local.max() for each in chosen}
    return tuple(sorted(chosen, key=lambda each: (rank(each), float(thick[each.id]))))


def _before(moments: Sequence[Moment], start: Moment | None, kind: str) -> Moment | None:
    """The last moment of a kind before one starts."""
    if start is None:
        return None
    earlier = [each for each in moments if each.kind == kind and each.start <= start.start]
    return max(earlier, key=lambda each: each.start, default=None)


def _at_hand(plan: PackPlan) -> list[AtHand]:
    """Pieces that are wanted on the way and are reached at once, by zone and then by hour."""
    found = [
        AtHand(plan.pieces[name], zone, plan.needs[name])
        for name, zone in plan.placing.zones.items()
        if zone in AT_HAND and plan.needs[name].hurry >= LEAST_HURRY
    ]
    return sorted(
        found,
        key=lambda each: (
            AT_HAND.index(each.zone),
            each.need.hour if math.isfinite(each.need.hour) else math.inf,
            each.piece.name,
        ),
    )


def _camp(course: Course, person: Person, result: Assessment, day: int) -> CampLaid | None:
    found = result.of(person.id)
    night = next((each for each in found.nights if each.day == day), None)
    if night is None:
        return None
    worn = {state.moment: _pieces(person, state.worn) for state in found.moments}
    moments = [each for each in result.timeline.moments if each.day == day]
    camp = next((each for each in moments if each.kind == "camp"), None)
    walks = [each for each in moments if each.kind in ("moving", "setting out")]
    last = max(walks, key=lambda each: each.end, default=None)
    before = worn.get(last.id, ()) if last is not None else ()
    after = worn.get(camp.id, ()) if camp is not None else before
    asleep = tuple(each for each in person.garments if each.only_asleep)
    sleeper = person.on_night(day)
    return CampLaid(
        tuple(each for each in after if each not in before),
        tuple(each for each in before if each not in after),
        tuple(each for each in after if each in before),
        asleep,
        person.bed_on(day).parts,
        sleeper.shelter,
        freeze_guard(course, sleeper, night, wet_beds(result).get((person.id, day))),
    )
