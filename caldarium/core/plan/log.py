"""What happened on a course: thermometers and the diary; part of the course document.

Nothing told in a diary is ever changed: what is no longer so is told again, and what is personal
can be deleted whole.
"""

from datetime import datetime
from typing import Annotated, Literal, Self

from pydantic import AwareDatetime, Field, model_validator

from caldarium.core.plan.belief import Belief
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.value import Identifier, Name, Value, refuse_twice

STEP_MIN = 10
"""Readings are kept as means over so long [min]."""
MOST_READINGS = 32 * 24 * 60 // STEP_MIN
PARTY = "-party"
"""Whoever a thing of the whole course is told of; nobody's id begins so."""

Where = Literal["nowhere", "outside", "shelter", "bed", "store", "pocket"]
Part = Literal["morning", "evening"]
Felt = Literal["cold", "cool", "right", "warm", "hot"]
Fingers = Literal["fine", "cold", "numb"]
What = Literal["unused", "missed", "failed", "borrowed", "wished"]
Vented = Literal["as planned", "open", "closed"]
Reading = Annotated[float, Field(ge=-90, le=90)]
DayNumber = Annotated[int, Field(ge=0, le=20, description="from 0")]
Note = Annotated[str, Field(max_length=300)]
Subject = Annotated[str, Field(pattern=r"^-?[a-z0-9][a-z0-9-]*$", max_length=81)]


class Thermometer(Value):
    """One channel of a logging thermometer and where it was, its readings as means over STEP_MIN.

    The reading at an index is the mean over the minutes that begin at first + index * STEP_MIN by
    the logger's own clock, None where it has none.
    """

    id: Identifier
    name: Name
    where: Where = "nowhere"
    of: str = Field(default="", max_length=80, description="the shelter or person that it was with")
    first: datetime = Field(description="of the logger's own clock")
    utc_offset_h: float = Field(
        ge=-14, le=14, description="hours that the logger's clock stands ahead of UTC"
    )
    ahead_first_s: float = Field(
        default=0, ge=-4e9, le=4e9, description="what it was ahead of the time at its first reading"
    )
    ahead_last_s: float = Field(default=0, ge=-4e9, le=4e9, description="and at its last [s]")
    celsius: tuple[Reading | None, ...] = Field(min_length=1, max_length=MOST_READINGS)
    source: str = Field(default="", max_length=200, description="file or device it was read from")

    @model_validator(mode="after")
    def _clock_is_plain(self) -> Self:
        if self.first.tzinfo is not None:
            raise refused("clock with offset")
        return self


class Slept(Value):
    """How somebody slept on the night at the end of a day, and the clock hour at which they woke of
    cold."""

    kind: Literal["slept"] = "slept"
    person: Identifier
    day: DayNumber
    felt: Felt
    woke_h: float | None = Field(default=None, ge=0, lt=24, description="clock time [h]")


class Lay(Value):
    """What somebody really wore and lay on in a night, and where; None for as planned."""

    kind: Literal["lay"] = "lay"
    person: Identifier
    day: DayNumber
    worn: tuple[Identifier, ...] | None = Field(default=None, max_length=50)
    pads: tuple[Identifier, ...] | None = Field(default=None, max_length=6)
    moved: bool = Field(default=False, description="slept elsewhere than planned")
    shelter: Identifier | None = Field(default=None, description="where moved; none under the sky")
    vents: Vented = "as planned"


class Was(Value):
    """How somebody was at a moment of the day, and what they really wore; None for as planned."""

    kind: Literal["was"] = "was"
    person: Identifier
    moment: str = Field(max_length=80)
    felt: Felt
    fingers: Fingers = "fine"
    sweat: bool = False
    wet: bool = Field(default=False, description="wet through")
    worn: tuple[Identifier, ...] | None = Field(default=None, max_length=50)


class OthersRight(Value):
    """Everybody of whom nothing else is told was right, in the night before or on the day, with
    what was planned."""

    kind: Literal["others right"] = "others right"
    day: DayNumber
    part: Part


class Halted(Value):
    """How long the halts of a moment really were."""

    kind: Literal["halted"] = "halted"
    moment: str = Field(max_length=80)
    minutes: float = Field(gt=0, le=600)


class Went(Value):
    """How long a leg really took, its halts within it too."""

    kind: Literal["went"] = "went"
    day: DayNumber
    leg: Identifier
    hours: float = Field(gt=0, le=24)


class Led(Value):
    """Who led on a day."""

    kind: Literal["led"] = "led"
    day: DayNumber
    person: Identifier


class Scaled(Value):
    """What somebody's pack weighed on a morning."""

    kind: Literal["scaled"] = "scaled"
    person: Identifier
    day: DayNumber
    grams: float = Field(gt=0, le=100000)


class Found(Value):
    """What was found of a thing: never used, missed, failed, borrowed, wished for; or, as it is
    taken back, not so."""

    kind: Literal["found"] = "found"
    subject: Subject
    what: What
    name: Name
    piece: str = Field(default="", max_length=80, description="id of the piece, where it has one")
    tag: str = Field(default="", max_length=40)
    note: Note = ""
    so: bool = True


class Decided(Value):
    """What was learned of something, taken into the plan or refused; and what was believed before,
    so that the same nights never count twice."""

    kind: Literal["decided"] = "decided"
    about: str = Field(max_length=200)
    taken: bool
    before: Belief
    after: Belief


Event = Annotated[
    Slept | Lay | Was | OthersRight | Halted | Went | Led | Scaled | Found | Decided,
    Field(discriminator="kind"),
]


class Entry(Value):
    """One thing told: by whom, when, and a token by which it is known again if it is sent twice."""

    token: str = Field(pattern=r"^[A-Za-z0-9-]{8,64}$")
    at: AwareDatetime
    by: str = Field(default="", max_length=120)
    event: Event


class Log(Value):
    """Everything that was logged of a course."""

    thermometers: tuple[Thermometer, ...] = Field(default=(), max_length=40)
    entries: tuple[Entry, ...] = Field(default=(), max_length=20000)

    @model_validator(mode="after")
    def _known_once(self) -> Self:
        refuse_twice([each.id for each in self.thermometers], "thermometers")
        refuse_twice([each.token for each in self.entries], "entries")
        return self

    @property
    def empty(self) -> bool:
        """Whether nothing was logged. Source: none, bookkeeping."""
        return not self.thermometers and not self.entries


def person_of(entry: Entry) -> str:
    """Of whom something was told, empty for nobody alone. Source: none, bookkeeping."""
    event = entry.event
    match event:
        case Slept() | Lay() | Was() | Scaled() | Led():
            return event.person
        case Found():
            return "" if event.subject == PARTY else event.subject
        case Decided():
            what, _, rest = event.about.partition(" ")
            return rest.partition(":")[0] if what in PERSONAL else ""
        case _:
            return ""


def tells_night(entry: Entry, day: int) -> bool:
    """Whether something was told of the night at the end of a day. Source: none, bookkeeping."""
    match entry.event:
        case Slept(day=told) | Lay(day=told) | OthersRight(day=told, part="morning"):
            return told == day
        case _:
            return False


PERSONAL = ("sleep", "walk", "bag", "pad", "halts", "pace")
"""Kinds of things learned that are of one person."""
