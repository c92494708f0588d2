"""What each step of caution costs in grams, and each source; and what is left ready at the road."""

import math
from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from caldarium.core.assess import assess_people
from caldarium.core.lighten.carried import carried
from caldarium.core.lighten.lightest import Lightest, as_found
from caldarium.core.lighten.mending import Mender
from caldarium.core.lighten.offers import look_of, offers_for, own_pieces
from caldarium.core.lighten.problem import Chosen, Problem
from caldarium.core.lighten.proposal import Proposal, Question, lighten, proposed, solved
from caldarium.core.lighten.rounds import Row, Search
from caldarium.core.lighten.verdict import Fail, fails
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Ready
from caldarium.core.plan.weather_sources import Shift
from caldarium.core.stock.supply import SOURCES, Source
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.timeline.weather import NO_SHIFT, deviations

STEPS = 5
"""Steps of caution from the forecast as it is to an expedition's."""
MOST_READY = 30
"""Pieces that are told of one step."""
MOST_MENDED = 4
"""How often a set is mended for a milder step."""
Trigger = Literal["low", "wind", "rain"]
TimeLeft = Callable[[Search], bool]


@dataclass(frozen=True)
class Worst:
    """The worst that a course plans for: the coldest camp [°C, NaN without a night], the strongest
    mean wind [m/s] at 10 m where the party is, and the most rain or snow of a day [mm]."""

    low: float
    wind: float
    rain: float


@dataclass(frozen=True)
class Tread:
    """One step: standard deviations of caution, the worst that it plans for, the set, what comes
    in and goes out since the step before."""

    deviations: float
    worst: Worst
    proposal: Proposal
    incoming: tuple[str, ...]
    outgoing: tuple[str, ...]

    @property
    def grams(self) -> float:
        """What the set weighs [g]. Source: none, bookkeeping."""
        return self.proposal.grams


def at_caution(course: Course, wanted: float) -> Course:
    """The course planned for so many standard deviations worse than the forecast, typed weather
    and hourly alike.

    Source: the axis that the course's own three words lie on, straight between them.
    """
    if wanted == 0:
        return course.altered(caution="as forecast")
    shift = _shift_at(course, wanted)
    beyond = shift if wanted >= course.expedition_sd else course.spread.expedition
    return course.altered(
        caution="cautious",
        cautious_sd=wanted,
        expedition_sd=max(wanted, course.expedition_sd),
        spread=course.spread.altered(cautious=shift, expedition=beyond),
    )


def _shift_at(course: Course, wanted: float) -> Shift:
    """What is planned for beyond typed conditions at so many standard deviations."""
    known = [0.0, course.cautious_sd, course.expedition_sd]
    steps = (NO_SHIFT, course.spread.cautious, course.spread.expedition)
    values = {
        name: float(np.interp(wanted, known, [getattr(each, name) for each in steps]))
        for name in Shift.model_fields
    }
    return Shift(**values)


def frontier(question: Question, heard: TimeLeft, steps: int = STEPS) -> tuple[Tread, ...]:
    """The lightest set at each step of caution, lightest caution first; it never falls.

    A set holds at its own caution and at every milder step: up to there it can be relied on.

    Args:
        question: what is asked, at the course's own caution.
        heard: hears how far each search is; ends that search where it says so.
        steps: how many, two or more.

    Source: core.lighten at each step.
    """
    planned = _cautions(question.course, steps)
    asked: list[Problem] = []
    found: list[Lightest] = []
    start: tuple[str, ...] = ()
    teacher: Problem | None = None
    known: list[Row] = []
    for each in planned:
        plan = at_caution(question.course, each)
        there = replace(question, course=plan, timeline=build_timeline(plan))
        must = _must(teacher, known)
        problem, best = solved(there, heard, start, must)
        learnt = best.search.learnt
        teacher, known = problem, [*must(problem), *learnt.of_broken, *learnt.of_whole]
        asked.append(problem)
        now = _lightest_before(asked, best)
        if now.chosen is None and not best.proven:
            # Where what is known of milder steps leaves none that is found in time.
            problem, best = solved(there, heard, start)
            asked[-1] = problem
            now = _lightest_before(asked, best)
        found.append(now)
        chosen = now.chosen or best.chosen
        start = start if chosen is None else _keys(problem, chosen)
    return _treads(planned, asked, _lowered(asked, found))


def _cautions(course: Course, steps: int) -> list[float]:
    """Caution from the forecast to an expedition's, and the course's own [standard deviations]."""
    most = max(course.expedition_sd, deviations(course))
    even = {round(most * k / (steps - 1), 3) for k in range(steps)}
    return sorted(even | {deviations(course)})


def with_milder(found: Proposal, course: Course, steps: int = STEPS) -> Proposal:
    """A proposal with what its set lets fail at milder steps of caution than the course's, and not
    at that: the search asks for the course's own weather, and rain just over freezing can ask more
    than the snow of a colder day.

    Args:
        found: for somebody of the course.
        course: at its own caution.
        steps: as for the frontier.

    Source: core.assess at each step.
    """
    if found.after is None:
        return found
    milder: list[tuple[float, frozenset[Fail]]] = []
    for each in _cautions(course, steps):
        if each < deviations(course):
            plan = at_caution(course, each)
            (result,) = assess_people(plan, (found.after,), build_timeline(plan))
            if more := fails(result) - found.beyond:
                milder.append((each, more))
    return replace(found, milder=tuple(milder))


def _must(last: Problem | None, known: Sequence[Row]) -> Callable[[Problem], list[Row]]:
    """What the sets of a step must keep of what is known of the one before."""
    return lambda problem: [] if last is None else carried(known, last, problem)


def _keys(problem: Problem, chosen: Chosen) -> tuple[str, ...]:
    return tuple(piece.id for piece in own_pieces(problem.person_in(chosen)))


def _lightest_before(asked: Sequence[Problem], best: Lightest) -> Lightest:
    """The lighter, once it holds at the milder steps too, of the last step's set and of that which
    holds there but breaks what is known of those."""
    found, beside = _holding_before(asked, best), best.search.beside
    if beside is None:
        return found
    other = as_found(asked[-1], asked[-1].chosen(beside), best)
    other = _holding_before(asked, replace(other, proven=False))
    known = [each for each in (found, other) if each.chosen is not None]
    return min(known, key=lambda each: each.value) if known else found


def _holding_before(asked: Sequence[Problem], best: Lightest) -> Lightest:
    """The last step's set with what it lacks at a milder one: rain just over freezing wets what
    snow does not."""
    now, last = best.chosen, asked[-1]
    for _ in range(MOST_MENDED):
        if now is None:
            break
        keys = _keys(last, now)
        milder = next((each for each in asked if not _holds(each, keys)), None)
        if milder is None:
            break
        known = milder.chosen_of(keys)
        point = None if known is None else Mender(milder).mended(known)
        now = None if point is None else last.chosen_of(_keys(milder, milder.chosen(point)))
    if now is not None:
        tried = dict.fromkeys((_own_first(last, now), now))
        now = next((k for k in tried if all(_holds(p, _keys(last, k)) for p in asked)), None)
    if now is None:
        return replace(best, chosen=None)
    return best if now == best.chosen else as_found(last, now, best)


def _own_first(problem: Problem, chosen: Chosen) -> Chosen:
    """A set with what somebody has in place of what else is alike in every figure."""
    sources = [problem.offers[at].source for at in problem.places]
    looks = [look_of(piece) for piece in problem.pieces]
    low, high = problem.bounds
    own = {
        looks[n]: n
        for n, source in enumerate(sources)
        if source == "own" and n not in chosen.clothes and high[n] > 0
    }
    free = [sources[n] != "own" and low[n] == 0 for n in chosen.clothes]
    clothes = [
        own.pop(looks[n], n) if may_go else n
        for n, may_go in zip(chosen.clothes, free, strict=True)
    ]
    return replace(chosen, clothes=tuple(sorted(clothes)))


def _holds(problem: Problem, keys: Collection[str]) -> bool:
    chosen = problem.chosen_of(keys)
    return chosen is not None and not problem.fully([chosen])[0]


def _lowered(asked: Sequence[Problem], found: Sequence[Lightest]) -> list[Lightest]:
    """The steps with the lighter set of a later one, which holds at the milder ones too; what
    binds a milder step binds the later ones."""
    steps = list(found)
    for at in range(len(steps) - 2, -1, -1):
        later, here = steps[at + 1], steps[at]
        if later.chosen is None or (here.chosen is not None and here.grams <= later.grams):
            continue
        keys = _keys(asked[at + 1], later.chosen)
        chosen = asked[at].chosen_of(keys)
        if chosen is not None and _holds(asked[at], keys):
            steps[at] = as_found(asked[at], chosen, here)
    for at in range(1, len(steps)):
        bound = max(steps[at].bound, steps[at - 1].bound)
        steps[at] = replace(steps[at], bound=bound)
    return steps


def _treads(
    planned: Sequence[float], asked: Sequence[Problem], found: Sequence[Lightest]
) -> tuple[Tread, ...]:
    treads: list[Tread] = []
    before: dict[str, str] | None = None
    for each, problem, best in zip(planned, asked, found, strict=True):
        proposal = proposed(problem, best, told=False)
        if proposal.after is None:
            continue
        now = {piece.id: piece.name for piece in own_pieces(proposal.after)}
        known = now if before is None else before
        treads.append(
            Tread(
                each,
                worst_of(problem.course),
                proposal,
                tuple(name for key, name in now.items() if key not in known),
                tuple(name for key, name in known.items() if key not in now),
            )
        )
        before = now
    return tuple(treads)


def worst_of(course: Course) -> Worst:
    """The worst weather that a course plans for.

    Source: core.timeline.
    """
    timeline = build_timeline(course)
    lows = [moment.air for moment in timeline.moments if moment.kind == "night"]
    hours = timeline.hours
    day = np.clip(hours.hour // 24, 0, len(course.days) - 1).astype(int)
    rain = np.bincount(day, np.nan_to_num(hours.precipitation), len(course.days))
    return Worst(min(lows, default=float("nan")), float(hours.wind.max()), float(rain.max()))


@dataclass(frozen=True)
class BySource:
    """The lightest set from some sources: its grams, and what it costs, None where not known."""

    sources: tuple[Source, ...]
    proposal: Proposal


def by_source(
    question: Question, heard: TimeLeft, known: Collection[str] = ()
) -> tuple[BySource, ...]:
    """The lightest set from what is owned alone, then with each further source that has anything.

    Args:
        question: what is asked; its own sources have no say.
        heard: hears how far each search is; ends that search where it says so.
        known: keys of a set that holds, to begin with where all of it is on offer.

    Source: core.lighten with each.
    """
    found: list[BySource] = []
    start: tuple[str, ...] = ()
    before: set[str] = set()
    for count in range(1, len(SOURCES) + 1):
        some = SOURCES[:count]
        offered = {each.key for each in offers_for(question.person, question.supply, some)}
        if offered == before:
            continue
        before = offered
        if known and offered.issuperset(known):
            start, known = tuple(known), ()
        proposal = lighten(replace(question, sources=some), heard, start, told=False)
        if proposal.after is not None:
            start = tuple(piece.id for piece in own_pieces(proposal.after))
            found.append(BySource(some, proposal))
    return tuple(found)


def ready_of(treads: Sequence[Tread], at: int) -> Ready | None:
    """What one step brings beyond the step before, to be left at the road for a forecast worse than
    that step holds, in cold, wind or wet; None where it brings nothing.

    Source: the frontier.
    """
    if not 0 < at < len(treads) or not treads[at].incoming:
        return None
    tread, before = treads[at], treads[at - 1]
    held = before.worst
    return Ready(
        person=tread.proposal.before.id,
        pieces=tread.incoming[:MOST_READY],
        instead_of=tread.outgoing[:MOST_READY],
        grams=tread.grams - before.grams,
        # Rounded so that what the step before holds passes no trigger.
        below_c=math.floor(10 * held.low) / 10 if math.isfinite(held.low) else None,
        over_ms=math.ceil(10 * held.wind) / 10,
        over_mm=math.ceil(10 * held.rain) / 10,
    )


def forecast_worst(course: Course) -> Worst:
    """The worst weather as it is forecast. Source: core.timeline."""
    return worst_of(course.altered(caution="as forecast"))


def passed(ready: Ready, now: Worst) -> tuple[Trigger, ...]:
    """Which triggers a forecast has passed.

    Source: the course's own word.
    """
    found: dict[Trigger, bool] = {
        "low": ready.below_c is not None and now.low < ready.below_c,
        "wind": ready.over_ms is not None and now.wind > ready.over_ms,
        "rain": ready.over_mm is not None and now.rain > ready.over_mm,
    }
    return tuple(name for name, over in found.items() if over)
