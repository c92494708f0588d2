"""Lists of gear that somebody asks for: rules as data, part of the course document and by
themselves an open format."""

from datetime import date
from typing import Annotated, Literal, Self, get_args

from pydantic import Field, model_validator

from caldarium.core.plan.kit import ThingKind
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.value import Altitude, Identifier, Name, Value, refuse_twice

LIST_FORMAT, LIST_VERSION = "caldarium-list", 1
Sort = Literal[
    "anything",
    "hat",
    "face cover",
    "handwear",
    "socks",
    "footwear",
    "base layer above",
    "base layer below",
    "warm layer above",
    "warm layer below",
    "shell above",
    "shell below",
    "trousers",
    "bag",
    "pad",
    "liner",
    "cover",
    "hammock",
    "shelter",
    ThingKind,
]
"""What sort of thing is asked for: clothes by where they are worn, the bed by its parts, everything
else by the kind that the store gives it."""
SORTS: tuple[Sort, ...] = get_args(Sort)
Word = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[^\s;]([^;\n]*[^\s;])?$")]


class Least(Value):
    """The least quality that counts; what is not given is not asked."""

    comfort_c: float | None = Field(default=None, ge=-60, le=40, description="at most [°C]")
    limit_c: float | None = Field(default=None, ge=-60, le=40, description="at most [°C]")
    r_value: float | None = Field(default=None, ge=0, le=20, description="all pads together")
    clo: float | None = Field(default=None, ge=0, le=8, description="at least [clo]")
    litres: float | None = Field(default=None, ge=0, le=200, description="held together [L]")
    kcal: float | None = Field(default=None, ge=0, le=200000, description="together [kcal]")
    light_h: float | None = Field(default=None, ge=0, le=1000, description="hours of light")
    water_mm: float | None = Field(default=None, ge=0, le=50000, description="water column [mm]")
    mass_g: float | None = Field(default=None, ge=0, le=60000, description="at most [g]")
    taped: bool = Field(default=False, description="with taped seams")
    waterproof: bool = False
    insulated: bool = False

    @property
    def nothing(self) -> bool:
        """Whether no quality is asked. Source: none, bookkeeping."""
        return self == Least()


class Wanted(Value):
    """So many of one sort of thing: of any name, or of those with one of some words in them, but
    for those with one of others."""

    sort: Sort = "anything"
    names: tuple[Word, ...] = Field(default=(), max_length=24)
    but_not: tuple[Word, ...] = Field(default=(), max_length=24, description="does not count")
    count: int = Field(default=1, ge=1, le=200)
    least: Least = Least()

    @model_validator(mode="after")
    def _asks_for_something(self) -> Self:
        if self.sort == "anything" and not self.names:
            raise refused("asks for anything")
        return self


class Way(Value):
    """Things that together do what is asked."""

    parts: tuple[Wanted, ...] = Field(min_length=1, max_length=8)


class When(Value):
    """When something is asked at all: where all that is given here is so."""

    snow: bool = Field(default=False, description="only where there is snow on the way or at camp")
    glacier: bool = Field(default=False, description="only where a leg crosses a glacier")
    river: bool = Field(default=False, description="only where a leg crosses a river")
    above_m: Altitude | None = None
    below_c: float | None = Field(
        default=None, ge=-60, le=40, description="only where it is forecast to get colder [°C]"
    )
    months: tuple[Annotated[int, Field(ge=1, le=12)], ...] = Field(default=(), max_length=12)
    nights: int = Field(default=0, ge=0, le=21, description="only from so many on")
    people: int = Field(default=0, ge=0, le=40, description="only from so many on")
    younger_than: int | None = Field(
        default=None, ge=1, le=99, description="only for whoever is younger [years]"
    )

    @property
    def always(self) -> bool:
        """Whether nothing is said, so that it is always asked. Source: none, bookkeeping."""
        return self == When()


ListScope = Literal["head", "instructor", "rope", "tent", "party"]
SCOPES: tuple[ListScope, ...] = get_args(ListScope)


class Entry(Value):
    """One line of a list: the ways in which it is met, the first as it is meant, the others as
    alternatives; asked of every head, instructor, rope or tent, or of the party, there for every
    `per` heads where that is given."""

    id: Identifier
    text: Name
    must: bool = Field(default=True, description="else recommended")
    of: ListScope = "head"
    per: int | None = Field(default=None, ge=1, le=40, description="heads, of the party's")
    ways: tuple[Way, ...] = Field(min_length=1, max_length=8)
    when: When = When()
    note: str = Field(default="", max_length=300)


class GearList(Value):
    """A list as its issuer wrote it."""

    format: Literal["caldarium-list"] = LIST_FORMAT
    version: Literal[1] = LIST_VERSION
    id: Identifier
    name: Name
    issuer: str = Field(default="", max_length=120, description="who asks for it")
    source: str = Field(default="", max_length=300, description="where it is written")
    dated: date | None = None
    once: bool = Field(default=False, description="a piece counts for one line only")
    entries: tuple[Entry, ...] = Field(min_length=1, max_length=200)

    @model_validator(mode="after")
    def _told_apart(self) -> Self:
        refuse_twice([each.id for each in self.entries], "lines", self.name)
        return self

    def entry(self, identifier: str) -> Entry | None:
        """One of its lines. Source: none, bookkeeping."""
        return next((each for each in self.entries if each.id == identifier), None)


class Counted(Value):
    """The user's own word on one piece and one line of a list: it counts there, or it does not."""

    list: Identifier
    entry: Identifier
    piece: str = Field(min_length=1, max_length=160, description="as holdings name it")
    counts: bool
