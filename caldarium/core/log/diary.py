"""What stands of a diary: the last word on every question."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from caldarium.core.plan.course import Course
from caldarium.core.plan.log import (
    Decided,
    Entry,
    Felt,
    Found,
    Halted,
    Lay,
    Led,
    OthersRight,
    Part,
    Scaled,
    Slept,
    Was,
    Went,
)
from caldarium.core.timeline.moments import Moment, Timeline

ASKED = ("setting out", "moving", "halt", "camp")
"""Kinds of moment that a diary asks of."""


@dataclass(frozen=True)
class Diary:
    """The last word on everything: nights and beds by person and day, moments by person and moment,
    days of which it was said that others were right, halts by moment and legs by day and leg, who
    led and what packs weighed, what was found of things, and what was decided of what was learned,
    every word of it in order."""

    slept: dict[tuple[str, int], Slept] = field(default_factory=dict)
    lay: dict[tuple[str, int], Lay] = field(default_factory=dict)
    was: dict[tuple[str, str], Was] = field(default_factory=dict)
    right: frozenset[tuple[int, Part]] = frozenset()
    halted: dict[str, float] = field(default_factory=dict)
    went: dict[tuple[int, str], float] = field(default_factory=dict)
    led: dict[int, str] = field(default_factory=dict)
    scaled: dict[tuple[str, int], float] = field(default_factory=dict)
    found: dict[tuple[str, str, str], Found] = field(default_factory=dict)
    decided: dict[str, tuple[Decided, ...]] = field(default_factory=dict)

    def night(self, person: str, day: int) -> Felt | None:
        """How somebody slept, None where nobody said. Source: the diary."""
        told = self.slept.get((person, day))
        if told is not None:
            return told.felt
        return "right" if (day, "morning") in self.right else None

    def moment(self, person: str, moment: Moment) -> Felt | None:
        """How somebody was at a moment, None where nobody said. Source: the diary."""
        told = self.was.get((person, moment.id))
        if told is not None:
            return told.felt
        asked = moment.kind in ASKED and (moment.day, "evening") in self.right
        return "right" if asked else None

    @property
    def empty(self) -> bool:
        """Whether nothing is told of any night or day. Source: none, bookkeeping."""
        return not (self.slept or self.lay or self.was or self.right or self.halted or self.went)


def diary_of(entries: Iterable[Entry]) -> Diary:
    """What stands, by the time at which it was told.

    Source: none, bookkeeping.
    """
    slept: dict[tuple[str, int], Slept] = {}
    lay: dict[tuple[str, int], Lay] = {}
    was: dict[tuple[str, str], Was] = {}
    right: set[tuple[int, Part]] = set()
    halted: dict[str, float] = {}
    went: dict[tuple[int, str], float] = {}
    led: dict[int, str] = {}
    scaled: dict[tuple[str, int], float] = {}
    found: dict[tuple[str, str, str], Found] = {}
    decided: dict[str, list[Decided]] = {}
    for each in sorted(entries, key=lambda one: one.at):
        match each.event:
            case Slept() as event:
                slept[event.person, event.day] = event
            case Lay() as event:
                lay[event.person, event.day] = event
            case Was() as event:
                was[event.person, event.moment] = event
            case OthersRight(day=day, part=part):
                right.add((day, part))
            case Halted(moment=moment, minutes=minutes):
                halted[moment] = minutes
            case Went(day=day, leg=leg, hours=hours):
                went[day, leg] = hours
            case Led(day=day, person=person):
                led[day] = person
            case Scaled(person=person, day=day, grams=grams):
                scaled[person, day] = grams
            case Found() as event:
                found[event.subject, event.what, event.piece or event.name.casefold()] = event
            case Decided() as event:
                decided.setdefault(event.about, []).append(event)
    return Diary(
        slept,
        lay,
        was,
        frozenset(right),
        halted,
        went,
        led,
        scaled,
        {key: event for key, event in found.items() if event.so},
        {about: tuple(rows) for about, rows in decided.items()},
    )


def leader_of(course: Course, diary: Diary, day: int) -> str:
    """Who led on a day: as told, else the first instructor, empty where there is none.

    Source: none, bookkeeping.
    """
    told = diary.led.get(day)
    if told is not None and any(each.id == told for each in course.people):
        return told
    return next((each.id for each in course.people if each.instructor), "")


def asked_moments(timeline: Timeline, day: int) -> list[Moment]:
    """Moments of a day that its evening asks of, in order. Source: none, bookkeeping."""
    return [each for each in timeline.moments if each.day == day and each.kind in ASKED]
