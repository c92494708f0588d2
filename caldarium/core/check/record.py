"""The record of a check: what was looked at, signed, handed out and given back, told one by one.

Nothing in it is ever changed or taken away: what is no longer so is told again.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Literal, Self

from pydantic import AwareDatetime, Field, model_validator

from caldarium.core.lists.judge import Judged
from caldarium.core.lists.kept import must_lines
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import PARTY, Subject
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.value import Identifier, Name, Value
from caldarium.core.stock.inventory import Condition

Said = Literal["yes", "no", "lent"]
Back = Literal["returned", "wet", "damaged", "missing"]
Text = Annotated[str, Field(max_length=300)]
Tag = Annotated[str, Field(max_length=40)]


class Tick(Value):
    """A line of a list looked at for one subject: there, not there, or lent, with its tag."""

    kind: Literal["tick"] = "tick"
    subject: Identifier
    list: Identifier
    entry: Identifier
    said: Said
    tag: Tag = ""
    note: Text = ""


class Sign(Value):
    """A person, or the whole course, signed off, and the lines that held then as list and line."""

    kind: Literal["sign"] = "sign"
    subject: Subject
    held: tuple[tuple[str, str, str], ...] = Field(
        default=(), max_length=10000, description="list, line and subject"
    )


class Unsign(Value):
    """A signature taken back, and why."""

    kind: Literal["unsign"] = "unsign"
    subject: Subject
    reason: Text

    @model_validator(mode="after")
    def _says_why(self) -> Self:
        if not self.reason.strip():
            raise refused("no reason")
        return self


class HandOut(Value):
    """Something handed to somebody, by its tag where it is the store's."""

    kind: Literal["out"] = "out"
    person: Identifier
    name: Name
    tag: Tag = ""
    count: int = Field(default=1, ge=1, le=200)
    condition: Condition = "good"


class HandBack(Value):
    """What became of something that was handed out, or of so many of it."""

    kind: Literal["back"] = "back"
    of: str = Field(max_length=64, description="token of what was handed out")
    state: Back
    count: int = Field(default=1, ge=1, le=200)
    condition: Condition | None = None
    note: Text = ""


Event = Annotated[Tick | Sign | Unsign | HandOut | HandBack, Field(discriminator="kind")]


class Told(Value):
    """One thing told: by whom, when, and a token by which it is known again if it is sent twice."""

    token: str = Field(pattern=r"^[A-Za-z0-9-]{8,64}$")
    at: AwareDatetime
    by: str = Field(default="", max_length=120)
    event: Event


LineKey = tuple[str, str, str]
"""A list, one of its lines, and the subject it is asked of."""


@dataclass(frozen=True)
class Out:
    """Something that was handed out, how many of it are still out, and what became of the
    others."""

    told: Told
    what: HandOut
    due: int
    back: tuple[tuple[Told, HandBack], ...] = ()


@dataclass(frozen=True)
class Record:
    """What stands of everything told: the last word on each line, all that was said of it before,
    who is signed off by whom, signatures taken back, and what was handed out."""

    ticks: dict[LineKey, Told] = field(default_factory=dict)
    before: dict[LineKey, tuple[Told, ...]] = field(default_factory=dict)
    signed: dict[str, Told] = field(default_factory=dict)
    unsigned: tuple[Told, ...] = ()
    outs: tuple[Out, ...] = ()

    def tick(self, key: LineKey) -> Tick | None:
        """The last word on a line. Source: none, bookkeeping."""
        told = self.ticks.get(key)
        return told.event if told is not None and isinstance(told.event, Tick) else None

    @property
    def due(self) -> tuple[Out, ...]:
        """What is still out. Source: none, bookkeeping."""
        return tuple(each for each in self.outs if each.due > 0)


def record_of(told: Iterable[Told]) -> Record:
    """What stands of everything that was told, by the time at which it happened.

    Source: none, bookkeeping.
    """
    ticks: dict[LineKey, list[Told]] = {}
    signed: dict[str, Told] = {}
    unsigned: list[Told] = []
    outs: dict[str, Told] = {}
    backs: dict[str, list[tuple[Told, HandBack]]] = {}
    for each in sorted(told, key=lambda one: one.at):
        match each.event:
            case Tick() as tick:
                ticks.setdefault((tick.list, tick.entry, tick.subject), []).append(each)
            case Sign(subject=subject):
                signed[subject] = each
            case Unsign(subject=subject):
                unsigned.append(each)
                signed.pop(subject, None)
                signed.pop(PARTY, None)
            case HandOut():
                outs[each.token] = each
            case HandBack() as back:
                backs.setdefault(back.of, []).append((each, back))
    return Record(
        {key: rows[-1] for key, rows in ticks.items()},
        {key: tuple(rows[:-1]) for key, rows in ticks.items()},
        signed,
        tuple(unsigned),
        tuple(_out(each, backs.get(token, [])) for token, each in outs.items()),
    )


def _out(told: Told, backs: list[tuple[Told, HandBack]]) -> Out:
    assert isinstance(told.event, HandOut)
    gone = sum(back.count for _, back in backs)
    return Out(told, told.event, max(told.event.count - gone, 0), tuple(backs))


def key_of(judged: Judged) -> LineKey:
    """What a judged line is known by in a record. Source: none, bookkeeping."""
    return judged.list, judged.entry, judged.subject.id


def lines_for(judged: Sequence[Judged], subject: str) -> list[Judged]:
    """Lines that are checked with one person; with the party those of ropes, tents and all.

    Source: none, bookkeeping.
    """
    alone = ("head", "instructor")
    if subject == PARTY:
        return [each for each in judged if each.subject.of not in alone]
    return [each for each in judged if each.subject.of in alone and each.subject.id == subject]


SignReason = Literal["not checked", "not there", "people first"]
"""Why a signature is not given yet. Figures: how many lines, or people. Names: the first few."""


@dataclass(frozen=True)
class Unready:
    """What stands in the way of a signature."""

    reason: SignReason
    names: tuple[str, ...]


def unready(
    course: Course, judged: Sequence[Judged], record: Record, subject: str
) -> Unready | None:
    """Why somebody, or the course, cannot be signed off yet; None where they can.

    Every line that must be met has been looked at and is there or lent; of the course, everybody
    has been signed off before.

    Source: common practice, no published source.
    """
    if subject == PARTY:
        open_ = tuple(each.name for each in course.people if each.id not in record.signed)
        if open_ and any(lines_for(judged, each.id) for each in course.people):
            return Unready("people first", open_)
    must = must_lines(course)
    texts = {(each.id, e.id): e.text for each in course.lists for e in each.entries}
    asked = [e for e in lines_for(judged, subject) if (e.list, e.entry) in must]
    said = [(texts[e.list, e.entry], record.tick(key_of(e))) for e in asked]
    unseen = tuple(text for text, tick in said if tick is None)
    if unseen:
        return Unready("not checked", unseen)
    absent = tuple(text for text, tick in said if tick is not None and tick.said == "no")
    return Unready("not there", absent) if absent else None


def held_now(judged: Sequence[Judged]) -> tuple[LineKey, ...]:
    """Lines that hold by the plan, to be kept with a signature. Source: none, bookkeeping."""
    return tuple(key_of(each) for each in judged if each.good)


def broken_since(judged: Sequence[Judged], record: Record) -> dict[str, list[Judged]]:
    """Lines that held when somebody was signed off and do not any more, by who was signed off.

    Source: none, a comparison.
    """
    found: dict[str, list[Judged]] = {}
    for subject, told in record.signed.items():
        assert isinstance(told.event, Sign)
        held = set(told.event.held)
        lost = [
            each for each in lines_for(judged, subject) if not each.good and key_of(each) in held
        ]
        if lost:
            found[subject] = lost
    return found


@dataclass(frozen=True)
class Mended:
    """A line that failed at the check: when, and how it stands now."""

    key: LineKey
    failed: Told
    now: Told


def mended(record: Record) -> list[Mended]:
    """Lines that were not there when first looked at, and what became of them.

    Source: none, bookkeeping.
    """
    found: list[Mended] = []
    for key, now in record.ticks.items():
        rows = (*record.before[key], now)
        failed = next((e for e in rows if isinstance(e.event, Tick) and e.event.said == "no"), None)
        if failed is not None:
            found.append(Mended(key, failed, now))
    return sorted(found, key=lambda each: each.failed.at)


def last_at(record: Record, subject: str, judged: Sequence[Judged]) -> datetime | None:
    """When somebody was last looked at, None for never. Source: none, bookkeeping."""
    times = [
        record.ticks[key].at
        for e in lines_for(judged, subject)
        if (key := key_of(e)) in record.ticks
    ]
    return max(times, default=None)
