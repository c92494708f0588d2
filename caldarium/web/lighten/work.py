"""Long work of the lightest sets: what is asked, how long it may take, and what it has so far."""

import math
import time
from collections.abc import Callable
from dataclasses import dataclass, field, replace

from caldarium.core.lighten.frontier import BySource, Tread, by_source, frontier, with_milder
from caldarium.core.lighten.group_choice import GroupChoice, lightest_group
from caldarium.core.lighten.lever import Levers, levers
from caldarium.core.lighten.offers import own_pieces
from caldarium.core.lighten.party import Party, lighten_party
from caldarium.core.lighten.phases import Phases, caches_of, leg_ends, phases
from caldarium.core.lighten.problem import OBJECTIVES, Objective, Wish
from caldarium.core.lighten.proposal import Proposal, Question, lighten
from caldarium.core.lighten.rounds import EnoughError, Search
from caldarium.core.lighten.rules import RULES, RuleName
from caldarium.core.lighten.shelters import Pitched, lightest_shelters
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import LegEnd
from caldarium.core.stock.supply import SOURCES, Source, Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.timeline.weather import deviations
from caldarium.core.what_if.progress import Heard
from caldarium.web.work import StoppedError

SECONDS: tuple[float, ...] = (20.0, 120.0, 900.0)
"""How long the search for one person goes on, by how often "go on" was pressed [s]."""
PARTY_S, STEP_S = 8.0, 3.0
"""How long it does for each of a party at first, and for each step of caution [s]."""


@dataclass(frozen=True)
class Asked:
    """What somebody asks: for whom, of which sources, what is made least; pieces that are to be in
    and out, rules that are off, the most pieces, and how often to go on was pressed. Lists are
    words with commas between, as an address has them."""

    person: str = ""
    sources: str = "own,store"
    objective: str = "grams"
    inside: str = ""
    outside: str = ""
    without: str = ""
    most: str = ""
    a_cost: str = ""
    a_change: str = ""
    a_litre: str = ""
    places: str = ""
    longer: int = 0

    @property
    def from_where(self) -> tuple[Source, ...]:
        """The sources that are on, their own always known."""
        wanted = self.sources.split(",")
        return tuple(each for each in SOURCES if each in wanted)

    @property
    def off(self) -> frozenset[RuleName]:
        """Rules that are switched off."""
        wanted = self.without.split(",")
        return frozenset(each for each in RULES if each in wanted)

    @property
    def wish(self) -> Wish:
        """The same for the core."""
        known: dict[str, Objective] = {each: each for each in OBJECTIVES}
        return Wish(
            known.get(self.objective, "grams"),
            frozenset(filter(None, self.inside.split(","))),
            frozenset(filter(None, self.outside.split(","))),
            self.off,
            int(self.most) if self.most.isdecimal() and 0 < int(self.most) < 200 else None,
            *(_grams(each) or 0.0 for each in (self.a_cost, self.a_change, self.a_litre)),
        )

    @property
    def unread(self) -> tuple[str, ...]:
        """Fields whose text is no number of grams."""
        names = ("a_cost", "a_change", "a_litre")
        return tuple(name for name in names if _grams(getattr(self, name)) is None)

    @property
    def seconds(self) -> float:
        """How long the search may take [s]."""
        return SECONDS[min(max(self.longer, 0), len(SECONDS) - 1)]

    def ends(self, course: Course) -> list[LegEnd]:
        """Places where things can be left: those named, else where something waits already, else
        the end of each day but the last."""
        named = set(self.places.split(","))
        found = [each for each in leg_ends(course) if place_word(each) in named]
        if found or self.places:
            return found
        last = {each.day: each for each in leg_ends(course) if each.day < len(course.days) - 1}
        return caches_of(course) or list(last.values())

    def turned(self, source: Source) -> "Asked":
        """The same with one source on or off."""
        now = set(self.from_where) ^ {source}
        return replace(self, sources=",".join(each for each in SOURCES if each in now) or "none")


def place_word(place: LegEnd) -> str:
    """A place in an address."""
    return f"{place.day}:{place.leg}"


MOST_GRAMS = 100_000.0


def _grams(text: str) -> float | None:
    """A number of grams that was typed, 0 for nothing; None where it is none."""
    try:
        value = float(text.replace(",", ".") or 0)
    except ValueError:
        return None
    return value if 0 <= value <= MOST_GRAMS else None


@dataclass
class SoFar:
    """What a search has so far: the best value, the bound, and for how many people it is done."""

    best: float = float("inf")
    bound: float = 0.0
    done: float = 0.0
    began: float = field(default_factory=time.monotonic)

    @property
    def some(self) -> bool:
        """Whether there is a set at all."""
        return math.isfinite(self.best)

    def told(self, heard: Heard) -> Heard:
        """Hears a share that is done, and writes it down here as well."""

        def hears(share: float) -> None:
            self.done = share
            heard(share)

        return hears


class _Clock:
    """Hears one search after another, each for some seconds; a press on "stop" ends it with the
    best that it has."""

    def __init__(self, heard: Heard, so_far: SoFar, seconds: float, parts: int = 1) -> None:
        self._heard, self._so_far, self._seconds = heard, so_far, seconds
        self._parts, self._part = parts, -1
        self._search: Search | None = None
        self._began, self._stopped = 0.0, False

    def __call__(self, search: Search, share: float | None = None) -> bool:
        """Hear a search, where it is told with the share of everything that was done before it."""
        if search is not self._search:
            self._search, self._began = search, time.monotonic()
            self._part += 1
        spent = (time.monotonic() - self._began) / self._seconds
        self._so_far.best, self._so_far.bound = search.value, search.bound
        part = (self._part + min(spent, 1.0)) / self._parts
        self._so_far.done = min(part if share is None else share, 0.99)
        try:
            self._heard(self._so_far.done)
        except StoppedError:
            self._stopped = True
        return spent < 1.0 and not self._stopped


def _question(course: Course, supply: Supply, asked: Asked) -> Question:
    timeline, member = build_timeline(course), course.person(asked.person)
    return Question(course, member, timeline, supply, asked.from_where, asked.wish)


def person_task(
    course: Course, supply: Supply, asked: Asked, so_far: SoFar
) -> Callable[[Heard], Proposal]:
    """The work that looks for one person's lightest set."""

    def work(heard: Heard) -> Proposal:
        clock = _Clock(heard, so_far, asked.seconds)
        return with_milder(lighten(_question(course, supply, asked), clock), course)

    return work


def party_task(
    course: Course, supply: Supply, asked: Asked, so_far: SoFar
) -> Callable[[Heard], Party]:
    """The work that looks for everybody's."""

    def work(heard: Heard) -> Party:
        clock = _Clock(heard, so_far, PARTY_S * asked.seconds / SECONDS[0])
        wish, sources = asked.wish, asked.from_where
        try:
            return lighten_party(
                course,
                build_timeline(course),
                supply,
                lambda share, search: clock(search, share),
                sources,
                wish,
            )
        except EnoughError as nothing:
            raise StoppedError from nothing

    return work


def levers_task(
    course: Course, supply: Supply, asked: Asked, so_far: SoFar
) -> Callable[[Heard], Levers]:
    """The work that tries every piece on everybody."""

    def work(heard: Heard) -> Levers:
        told = so_far.told(heard)
        return levers(course, build_timeline(course), supply, asked.from_where, told)

    return work


def shelters_task(
    course: Course, supply: Supply, asked: Asked, so_far: SoFar
) -> Callable[[Heard], Pitched]:
    """The work that looks for the lightest shelters."""

    def work(heard: Heard) -> Pitched:
        told = so_far.told(heard)
        return lightest_shelters(course, build_timeline(course), supply, asked.from_where, told)

    return work


def group_task(
    course: Course, supply: Supply, asked: Asked, so_far: SoFar
) -> Callable[[Heard], GroupChoice]:
    """The work that looks for the lightest kit of the group."""

    def work(heard: Heard) -> GroupChoice:
        so_far.told(heard)(0.0)
        return lightest_group(course, build_timeline(course), supply, asked.from_where)

    return work


def phases_task(
    course: Course, supply: Supply, asked: Asked, so_far: SoFar
) -> Callable[[Heard], Phases]:
    """The work that looks for what of somebody's clothes need not go all the way."""
    del supply

    def work(heard: Heard) -> Phases:
        person, places = course.person(asked.person), asked.ends(course)
        return phases(course, person, build_timeline(course), places, so_far.told(heard))

    return work


@dataclass(frozen=True)
class Costs:
    """What caution and each source cost one person."""

    treads: tuple[Tread, ...]
    sources: tuple[BySource, ...]


def costs_task(
    course: Course, supply: Supply, asked: Asked, so_far: SoFar
) -> Callable[[Heard], Costs]:
    """The work that looks for what each step of caution costs."""

    def work(heard: Heard) -> Costs:
        clock = _Clock(heard, so_far, STEP_S * asked.seconds / SECONDS[0], 10)
        question = _question(course, supply, asked)
        treads = frontier(question, clock)
        planned = [each for each in treads if each.deviations == deviations(course)]
        after = planned[0].proposal.after if planned else None
        known = [] if after is None else [piece.id for piece in own_pieces(after)]
        return Costs(treads, by_source(question, clock, known))

    return work
