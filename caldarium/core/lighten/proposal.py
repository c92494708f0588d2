"""What is proposed to one person: the set, what comes in and goes out, and why."""

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from caldarium.core.lighten.lightest import Lightest, lightest
from caldarium.core.lighten.offers import Offer, Piece, offers_for, own_grams, own_pieces
from caldarium.core.lighten.problem import GRACES, Chosen, Grace, Objective, Problem, Wish
from caldarium.core.lighten.rounds import Row, Search
from caldarium.core.lighten.rules import Rule
from caldarium.core.lighten.verdict import Fail, FailKind, depths, fails, worse
from caldarium.core.person_result import PersonResult
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment
from caldarium.core.stock.supply import SOURCES, Source, Supply
from caldarium.core.timeline.moments import Timeline
from caldarium.core.what_if.cures import need_slope

Stop = Callable[[Search], bool]
"""Hears how far a search is; says whether to go on."""
_ORDER: tuple[FailKind, ...] = ("gap", "bed", "fingers", "toes", "face", "hot", "bed hot")


@dataclass(frozen=True)
class Lack:
    """What would not hold: where, of what kind, and by how much: clo of a gap, kelvin of a bed,
    minutes until fingers, toes or face are hurt; and how many kelvin warmer it would have to be,
    NaN where that does not say it."""

    moment: str
    kind: FailKind
    much: float
    warmer_k: float


MOST_LOST = 2
"""Lighter pieces that are looked at in the place of each that is in."""


@dataclass(frozen=True)
class Lost:
    """A lighter piece in the place of a chosen one, what it would save [g], the rule that forbids
    it, if any, and what it would leave short otherwise."""

    piece: Piece
    saves_g: float
    rule: Rule | Literal["told"] | None
    lack: Lack | None


@dataclass(frozen=True)
class Reason:
    """Why a piece is in a set: a rule, or what would not hold without it; and the alternatives that
    lost, that nearest in mass first."""

    key: str
    rule: Rule | Literal["the bed", "told"] | None
    lack: Lack | None
    lost: tuple[Lost, ...]


@dataclass(frozen=True)
class Proposal:
    """A set for one person beside what they have.

    after is the person with it, None where nothing on offer holds; grams of clothes and bed before
    and after; cost of what comes in, None where a price is not known; the bound under which no set
    holds [g], and whether the set is proven; what fails now and no longer would, and what no set
    on offer mends; whether grams alone were made least, so that the bound is one of grams; what
    fails now and would fail worse; and, where that was looked for, what fails at milder caution
    than the course's, by standard deviations.
    """

    before: Person
    after: Person | None
    grams_before: float
    grams: float
    cost: float | None
    bound: float
    proven: bool
    objective: Objective
    incoming: tuple[Offer, ...]
    outgoing: tuple[Piece, ...]
    closes: frozenset[Fail]
    beyond: frozenset[Fail]
    reasons: tuple[Reason, ...]
    rules: tuple[Rule, ...]
    offered: int
    plain: bool = True
    deeper: frozenset[Fail] = frozenset()
    milder: tuple[tuple[float, frozenset[Fail]], ...] = ()
    seconds: float = field(default=0.0, compare=False)

    @property
    def gap(self) -> float:
        """Share of its weight by which the set may be too heavy at most; NaN where it is not proven
        and more than grams counts. Source: the bound."""
        if self.proven:
            return 0.0
        return max(1 - self.bound / self.grams, 0.0) if self.plain and self.grams else float("nan")


PLAIN = Wish()
"""The least grams, nothing forced, every rule on."""


@dataclass(frozen=True)
class Question:
    """What is asked: for whom of which plan, what there is beside their own, the sources that may
    be drawn on, and what is made least, forced in and out."""

    course: Course
    person: Person
    timeline: Timeline
    supply: Supply
    sources: tuple[Source, ...] = SOURCES
    wish: Wish = PLAIN


def lighten(
    question: Question, heard: Stop, start: Collection[str] = (), *, told: bool = True
) -> Proposal:
    """The lightest set of one person that holds the whole course.

    Args:
        question: what is asked.
        heard: hears how far it is; ends the search where it says so.
        start: keys of a set to begin with.
        told: whether reasons are looked for.

    Source: core.lighten.
    """
    problem, found = solved(question, heard, start)
    return proposed(problem, found, told=told)


def problem_of(question: Question, grace: Grace, shared: Collection[str] = ()) -> Problem:
    """What is asked of one person's set.

    Args:
        question: what is asked.
        grace, shared: see Problem.

    Source: core.lighten.
    """
    wish = question.wish
    offers = offers_for(question.person, question.supply, question.sources)
    if wish.objective == "cost":
        offers = [each for each in offers if each.cost is not None]
    plan = (question.course, question.person, question.timeline)
    return Problem(*plan, offers, wish, grace=grace, shared=shared)


def solved(
    question: Question,
    heard: Stop,
    start: Collection[str] = (),
    must: Callable[[Problem], Sequence[Row]] = lambda _: (),
) -> tuple[Problem, Lightest]:
    """What is asked of one person's set, and the lightest; see lighten, and lightest for the rows
    that it must keep beside.

    Where none on offer holds everything that some set could, what fails now may go on failing; at
    last, as where something is left out that others need, also worse than now.

    Source: core.lighten.
    """
    for grace in GRACES[:-1]:
        problem = problem_of(question, grace)
        found = lightest(problem, heard, problem.chosen_of(start), must=must(problem))
        if found.chosen is not None or not found.proven:
            return problem, found
    problem = problem_of(question, GRACES[-1])
    return problem, lightest(problem, heard, problem.chosen_of(start), must=must(problem))


def proposed(problem: Problem, found: Lightest, *, told: bool = True) -> Proposal:
    """What was found, as it is put to a person.

    Args:
        problem, found: from solved.
        told: whether reasons are looked for.

    Source: core.lighten.
    """
    before = problem.person
    grams_before = own_grams(before)
    if found.chosen is None:
        return Proposal(
            before,
            None,
            grams_before,
            0.0,
            None,
            found.bound,
            found.proven,
            problem.wish.objective,
            (),
            (),
            frozenset(),
            problem.waived,
            (),
            tuple(problem.rules),
            len(problem.offers),
            problem.wish.plain,
        )
    clad = problem.person_in(found.chosen)
    has = {piece.id for piece in own_pieces(before)}
    keys = {piece.id for piece in own_pieces(clad)}
    incoming = tuple(each for each in problem.offers if each.key in keys - has)
    costs = [each.cost for each in incoming]
    known = [each for each in costs if each is not None]
    result = problem.verdicts.results([clad])[0]
    return Proposal(
        before=before,
        after=_in_order(before, clad),
        grams_before=grams_before,
        grams=found.grams,
        cost=sum(known) if len(known) == len(costs) else None,
        # What tells own pieces from others alike weighs next to nothing.
        bound=min(found.bound, found.grams) if problem.wish.plain else found.bound,
        proven=found.proven,
        objective=problem.wish.objective,
        incoming=incoming,
        outgoing=tuple(piece for piece in own_pieces(before) if piece.id not in keys),
        closes=frozenset(problem.now) - fails(result),
        beyond=fails(result),
        reasons=_reasons(problem, found.chosen) if told else (),
        rules=tuple(problem.rules),
        offered=len(problem.offers),
        plain=problem.wish.plain,
        deeper=frozenset(problem.now) & worse(depths(result), problem.now),
    )


def _in_order(before: Person, clad: Person) -> Person:
    """The person with a set, own pieces in their order and new ones after them, checked."""
    place = {piece.id: at for at, piece in enumerate(before.garments)}
    order = sorted(clad.garments, key=lambda each: place.get(each.id, len(place)))
    known = {each.id for each in order}
    words = tuple(word for word in before.overrules if word.garment in known)
    return before.altered(
        garments=tuple(order),
        overrules=words,
        bag=clad.bag,
        pads=clad.pads,
        bedding=clad.bedding,
    )


def with_changes(proposal: Proposal, keys: Collection[str]) -> Person:
    """The person with some of what a proposal changes: pieces by key that come in or go out; bed
    pieces go together, as one takes another's place.

    Source: none, bookkeeping.
    """
    before, after = proposal.before, proposal.after
    if after is None or not keys:
        return before
    ins = [each.piece for each in proposal.incoming]
    garments = [each for each in before.garments if not _leaves(proposal, each.id, keys)]
    garments += [each for each in ins if isinstance(each, Garment) and each.id in keys]
    known = {each.id for each in garments}
    words = tuple(word for word in before.overrules if word.garment in known)
    parts: dict[str, object] = {"garments": tuple(garments), "overrules": words}
    parts["bedding"] = before.bedding.altered(wet_out=after.bedding.wet_out)
    if bed_keys(proposal).intersection(keys):
        parts |= {"bag": after.bag, "pads": after.pads, "bedding": after.bedding}
    return before.altered(**parts)


def _leaves(proposal: Proposal, key: str, keys: Collection[str]) -> bool:
    return key in keys and any(each.id == key for each in proposal.outgoing)


def bed_keys(proposal: Proposal) -> frozenset[str]:
    """Keys of bed pieces that a proposal changes. Source: none, bookkeeping."""
    pieces = [*(each.piece for each in proposal.incoming), *proposal.outgoing]
    return frozenset(each.id for each in pieces if not isinstance(each, Garment))


Swap = tuple[Chosen, Piece, float]
"""A set with a lighter piece in the place of one, that piece, and what it saves [g]."""


@dataclass(frozen=True)
class _Without:
    """A set without one piece, None where that is no set; and what could take its place."""

    key: str
    less: Chosen | None
    swaps: tuple[Swap, ...]


def _reasons(problem: Problem, chosen: Chosen) -> tuple[Reason, ...]:
    """Why each piece is in, and which lighter ones lost."""
    without = [*_less_clad(problem, chosen), *_less_bedded(problem, chosen)]
    sets = [each.less for each in without] + [one for each in without for one, _, _ in each.swaps]
    wanted = list(dict.fromkeys(each for each in sets if each is not None))
    results = problem.verdicts.results([problem.person_in(each) for each in wanted])
    by_set = dict(zip(wanted, results, strict=True))
    found: list[Reason] = []
    for each in without:
        less = each.less
        rule = "the bed" if less is None else _rule_broken(problem, less)
        lack = None if less is None else _lack(problem, by_set[less])
        lost = tuple(_lost(problem, swap, by_set) for swap in each.swaps)
        found.append(Reason(each.key, rule, lack, lost))
    return tuple(found)


def _lost(problem: Problem, swap: Swap, results: Mapping[Chosen, PersonResult]) -> Lost:
    chosen, piece, saves = swap
    broken = _rule_broken(problem, chosen)
    return Lost(piece, saves, broken, None if broken else _lack(problem, results[chosen]))


def _rule_broken(problem: Problem, chosen: Chosen) -> Rule | Literal["told"] | None:
    if problem.keeps_rules(chosen):
        return None
    return problem.rule_broken(chosen) or "told"


def _less_clad(problem: Problem, chosen: Chosen) -> Iterator[_Without]:
    for at in chosen.clothes:
        rest, piece = tuple(each for each in chosen.clothes if each != at), problem.pieces[at]
        swaps = tuple(
            (replace(chosen, clothes=tuple(sorted((*rest, n)))), other, piece.mass_g - other.mass_g)
            for n in problem.nearest_lighter(chosen, at, MOST_LOST)
            for other in [problem.pieces[n]]
        )
        yield _Without(piece.id, replace(chosen, clothes=rest), swaps)


def _less_bedded(problem: Problem, chosen: Chosen) -> Iterator[_Without]:
    top, bottom = problem.tops[chosen.top], problem.bottoms[chosen.bottom]
    for part, beds, name in ((top, problem.tops, "top"), (bottom, problem.bottoms, "bottom")):
        lighter = [k for k, bed in enumerate(beds) if bed.grams < part.grams and bed.offers]
        nearest = sorted(lighter, key=lambda k: -beds[k].grams)[:MOST_LOST]
        for at in part.offers:
            swaps = tuple(
                (replace(chosen, **{name: k}), problem.offers[new[0]].piece, saves)
                for k in nearest
                for new in [[n for n in beds[k].offers if n != at]]
                for saves in [part.grams - beds[k].grams]
                if new
            )
            yield _Without(problem.offers[at].key, None, swaps)


def _lack(problem: Problem, result: PersonResult) -> Lack | None:
    """The gravest of what does not hold that could."""
    missing = worse(depths(result), problem.may_fail)
    lacks = [_measured(problem, result, each) for each in missing]
    return min(lacks, key=lambda each: (_ORDER.index(each.kind), -each.much), default=None)


def _measured(problem: Problem, result: PersonResult, fail: Fail) -> Lack:
    moment, kind = fail
    if kind in ("bed", "bed hot"):
        night = next(each for each in result.nights if each.moment == moment)
        return Lack(moment, kind, abs(night.margin), max(-night.margin, 0.0))
    state = next(each for each in result.moments if each.moment == moment)
    if kind == "gap":
        place = problem.awake[problem.place[moment]]
        slope = need_slope(problem.course, problem.person, place, state)
        return Lack(moment, kind, state.gap, state.gap / slope)
    minutes = {
        "fingers": state.fingers.safe_for,
        "toes": state.toes.safe_for,
        "face": state.frostbite,
    }
    return Lack(moment, kind, minutes.get(kind, 0.0), float("nan"))
