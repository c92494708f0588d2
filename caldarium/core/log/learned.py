"""What a log teaches of people, bags, pads, shelters, halts and paces, and how surely."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import exp, log
from typing import Literal

from caldarium.core.day.how_sure import Sure, how_sure
from caldarium.core.log.as_it_was import Lived, Slopes, lived, slopes
from caldarium.core.log.beliefs import Kind, believed, parted, where_there, with_belief
from caldarium.core.log.diary import Diary, diary_of
from caldarium.core.log.evidence import Piece, of_beds, of_times, of_walks, when
from caldarium.core.log.updating import Evidence, Unknown, learn
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Log

TELLING = 0.4
"""A change of so many of its former deviations is worth a decision: judgement."""
Stand = Literal["new", "in force", "refused", "more since"]
"""Never decided; taken and as it was taken; refused as it is; taken or refused before, and other
since."""


@dataclass(frozen=True)
class Taught:
    """What was learned of one thing: before and after, the evidence it rests on, how sure it is
    that it lies on its side of what was believed, and where it stands with the user."""

    about: str
    kind: Kind
    before: Belief
    after: Belief
    evidence: tuple[Piece, ...]
    stand: Stand

    @property
    def sure(self) -> Sure:
        """How sure it is that the change has the right sign. Source: core.day.how_sure."""
        return how_sure(self.after.mean - self.before.mean, self.after.sd)

    @property
    def shift(self) -> float:
        """How far it moved, in its former deviations. Source: none, arithmetic."""
        return abs(self.after.mean - self.before.mean) / self.before.sd

    @property
    def telling(self) -> bool:
        """Whether the change is worth a decision. Source: TELLING."""
        return self.shift >= TELLING

    @property
    def of_ways(self) -> bool:
        """Whether it is of halts and ways, which a later course is planned with, as this one's are
        walked. Source: none, bookkeeping."""
        return self.kind in ("halts", "pace")

    @property
    def times(self) -> int:
        """Nights or moments that speak of it, however many of whom. Source: none, bookkeeping."""
        return len({when(each) for each in self.evidence})


@dataclass(frozen=True)
class Teaching:
    """Everything learned of a course, the evidence of its beds, the course as it was, and its
    nights' figures."""

    taught: tuple[Taught, ...]
    beds: tuple[Evidence, ...]
    lived: Lived
    nights: Mapping[tuple[str, int], Slopes]
    diary: Diary

    def of(self, name: str) -> Taught | None:
        """What was learned of one thing. Source: none, bookkeeping."""
        return next((each for each in self.taught if each.about == name), None)


def before_log(course: Course, diary: Diary) -> Course:
    """A course as it believed before its own log was taken into it, so that nothing counts twice.

    Source: none, bookkeeping.
    """
    for name in where_there(course, list(diary.decided)):
        now = believed(course, name)
        for each in reversed(diary.decided[name]):
            if each.taken and _same(each.after, now):
                course = with_belief(course, name, each.before)
                break
    return course


def _same(one: Belief, other: Belief) -> bool:
    return abs(one.mean - other.mean) < 1e-6 and abs(one.sd - other.sd) < 1e-6


def teach(course: Course, told: Log) -> Teaching:
    """What a log teaches.

    Args:
        course: the plan as it stands.
        told: its thermometers and diary.

    Returns:
        What was learned, by kind and in the order of people and shelters; only of what something
        was said of.

    Source: core.log.updating, with the spreads named here; nights that share a person, a bag, a pad
        or a shelter are solved together. In any order the same.
    """
    diary = diary_of(told.entries)
    prior = before_log(course, diary)
    was = lived(prior, told.thermometers, diary)
    nights = [
        (person, night.day)
        for person in prior.people
        for night in was.timeline.moments
        if night.kind == "night" and diary.night(person.id, night.day) is not None
    ]
    by_night = slopes(was, diary, nights)
    beds, bed_pieces = of_beds(was, diary, by_night)
    walks, walk_pieces = of_walks(was, diary)
    times, time_pieces = of_times(was, diary)
    pieces: dict[str, list[Piece]] = {}
    for name, piece in (*bed_pieces, *walk_pieces, *time_pieces):
        pieces.setdefault(name, []).append(piece)
    after = _after(was.course, (*beds, *walks)) | _after_logs(was.course, times)
    taught = [
        Taught(
            name,
            parted(name)[0],
            believed(was.course, name),
            belief,
            tuple(pieces.get(name, ())),
            _stand(course, diary, name, belief),
        )
        for name, belief in after.items()
        if pieces.get(name)
    ]
    return Teaching(tuple(taught), tuple(beds), was, by_night, diary)


def _stand(course: Course, diary: Diary, name: str, after: Belief) -> Stand:
    rows = diary.decided.get(name, ())
    if not rows:
        return "new"
    last = rows[-1]
    now = believed(course, name)
    if last.taken and not _same(now, last.after):
        # Undone, or changed by hand since.
        return "new"
    if not _same(last.after, after):
        return "more since"
    return "in force" if last.taken else "refused"


def _after(course: Course, evidence: Sequence[Evidence]) -> dict[str, Belief]:
    """Beliefs after evidence of sums of them."""
    names = dict.fromkeys(name for each in evidence for name in each.weights)
    return learn({name: believed(course, name) for name in names}, evidence)


def _after_logs(course: Course, evidence: Sequence[Evidence]) -> dict[str, Belief]:
    """Beliefs of factors that are learned as logarithms."""
    names = dict.fromkeys(name for each in evidence for name in each.weights)
    prior: dict[Unknown, Belief] = {}
    for name in names:
        of = believed(course, name)
        mean = max(of.mean, 0.05)
        prior[name] = Belief(mean=log(mean), sd=of.sd / mean, times=of.times)
    return {
        name: Belief(mean=exp(belief.mean), sd=belief.sd * exp(belief.mean), times=belief.times)
        for name, belief in learn(prior, evidence).items()
    }
