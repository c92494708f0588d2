"""The lightest sets for everybody, with what the store has shared between them."""

from collections import Counter
from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import TypeVar, cast

from caldarium.core.lighten.offers import Offer, Piece, alike_tags, counted, own_pieces
from caldarium.core.lighten.problem import Wish
from caldarium.core.lighten.proposal import Proposal, Question, lighten
from caldarium.core.lighten.rounds import Search
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.stock.inventory import as_kit
from caldarium.core.stock.issue import kit_id
from caldarium.core.stock.supply import SOURCES, Source, Supply
from caldarium.core.timeline.moments import Timeline

Kept = TypeVar("Kept", bound=Piece | None)
Heard = Callable[[float, Search], bool]
"""Hears the share of people that are done, and how far the search of the next one is."""


@dataclass(frozen=True)
class Party:
    """Sets for a whole party: proposals by person, the bound under which all of them together
    cannot weigh [g], whether that is reached, and pieces that more people wanted than there are."""

    proposals: tuple[Proposal, ...]
    bound: float
    proven: bool
    scarce: tuple[str, ...]

    @property
    def grams(self) -> float:
        """What all sets weigh, of those for whom there is none what they have [g].

        Source: none, a sum.
        """
        return sum(
            each.grams if each.after is not None else each.grams_before for each in self.proposals
        )

    @property
    def grams_before(self) -> float:
        """What everybody has now [g]. Source: none, a sum."""
        return sum(each.grams_before for each in self.proposals)


def lighten_party(
    course: Course,
    timeline: Timeline,
    supply: Supply,
    heard: Heard,
    sources: Collection[Source] = SOURCES,
    wish: Wish | None = None,
) -> Party:
    """The lightest set of everybody, no piece of the store given out more often than there is.

    Everybody is looked at alone first, which bounds the sum; where more want a piece than there
    are, those keep it who would carry most more without it. After as many such looks as there are
    people, those who need most choose first, and whoever comes after takes what is left.

    Args:
        course, timeline: the plan.
        supply, sources, wish: as for lighten.
        heard: hears how far it is; ends the search of a person where it says so.

    Source: core.lighten for each; the split of what is scarce is judgement, its bound is not.
    """
    wish, people = wish or Wish(), course.people
    count = len(people)

    def alone(at: int, outside: frozenset[str]) -> Proposal:
        wanted = replace(wish, outside=wish.outside | outside)
        question = Question(course, people[at], timeline, supply, tuple(sources), wanted)
        return lighten(question, lambda search: heard(at / count, search))

    found = [alone(at, frozenset()) for at in range(count)]
    bounds = [_at_least(each) for each in found]
    barred: list[frozenset[str]] = [frozenset()] * count
    scarce: list[str] = []
    looks = 0
    while True:
        offer = _over_asked(found, supply)
        if offer is None:
            break
        scarce.append(offer.piece.name)
        wants = [at for at, each in enumerate(found) if _has(each, offer)]
        there = counted(offer, supply) or 0
        if looks + len(wants) > count:
            scarce += _in_turn(found, bounds, barred, supply, alone)
            break
        looks += len(wants)
        without = {at: alone(at, barred[at] | {offer.key}) for at in wants}
        costly = sorted(wants, key=lambda at: _dearer(found[at], without[at]), reverse=True)
        for at in costly[there:]:
            found[at], barred[at] = without[at], barred[at] | {offer.key}
            # Whoever goes without may be asked less: what nothing left to them can hold.
            bounds[at] = min(bounds[at], _at_least(without[at]))
    proven = not scarce and all(each.proven for each in found)
    return Party(tuple(found), sum(bounds), proven, tuple(dict.fromkeys(scarce)))


def _in_turn(
    found: list[Proposal],
    bounds: list[float],
    barred: Sequence[frozenset[str]],
    supply: Supply,
    alone: Callable[[int, frozenset[str]], Proposal],
) -> list[str]:
    """Sets for everybody one after another, in place, who needs most first, each without what is
    given out by then; names of what somebody went without."""
    given: Counter[str] = Counter()
    offers: dict[str, Offer] = {}
    scarce: list[str] = []
    for at in sorted(range(len(found)), key=lambda at: -bounds[at]):
        gone = {
            key
            for key, offer in offers.items()
            if (there := counted(offer, supply)) is not None and given[key] >= there
        }
        missed = [each for each in found[at].incoming if each.key in gone]
        if missed:
            scarce += [each.piece.name for each in missed]
            found[at] = alone(at, barred[at] | gone)
            bounds[at] = min(bounds[at], _at_least(found[at]))
        for each in found[at].incoming:
            given[each.key] += 1
            offers[each.key] = each
    return scarce


def _at_least(proposal: Proposal) -> float:
    """What somebody will carry at least [g]: what they have, where no set holds."""
    if proposal.after is None and proposal.proven:
        return proposal.grams_before
    return max(proposal.bound, 0.0)


def _has(proposal: Proposal, offer: Offer) -> bool:
    return any(each.key == offer.key for each in proposal.incoming)


def _dearer(now: Proposal, without: Proposal) -> tuple[float, float]:
    """How much worse somebody would be without a piece: what then does not hold, then grams."""
    if without.after is None:
        return float("inf"), 0.0
    return float(len(without.beyond - now.beyond)), without.grams - now.grams


def _over_asked(found: list[Proposal], supply: Supply) -> Offer | None:
    """A piece that more people want than there are of it."""
    wanted: Counter[str] = Counter()
    offers: dict[str, Offer] = {}
    for proposal in found:
        for each in proposal.incoming:
            wanted[each.key] += 1
            offers[each.key] = each
    for key, offer in offers.items():
        there = counted(offer, supply)
        if there is not None and wanted[key] > there:
            return offer
    return None


def with_people(course: Course, people: Collection[Person], supply: Supply) -> Course:
    """The course with the clothes and beds of some people as proposals have them, all else of them
    as it is now; each gets pieces of the store of their own, by tag.

    Source: none, bookkeeping.
    """
    tags = _Tags(supply)
    for person in people:
        now = course.person(person.id)
        had = {piece.id for piece in own_pieces(now)}
        given = partial(tags.own, had=had)
        bedding = person.bedding
        parts = {
            "garments": tuple(map(given, person.garments)),
            "overrules": person.overrules,
            "bag": given(person.bag),
            "pads": tuple(map(given, person.pads)),
            "bedding": bedding.altered(
                over=given(bedding.over), liner=given(bedding.liner), cover=given(bedding.cover)
            ),
        }
        course = with_person(course, now.altered(**parts))
    return course


class _Tags:
    """Gives out pieces of the store that are alike, each once."""

    def __init__(self, supply: Supply) -> None:
        self._supply, self._alike = supply, alike_tags(supply)
        self._stored = {piece.tag.lower(): piece for piece in supply.stored}
        self._given: Counter[str] = Counter()

    def own(self, piece: Kept, had: Collection[str]) -> Kept:
        """A piece as it is, or another of the store like it that nobody was given yet."""
        tags = () if piece is None or piece.id in had else self._alike.get(piece.id, ())
        if not tags:
            return piece
        free = (t for t in tags if self._given[t] < self._supply.left_of(self._stored[t]))
        tag = next(free, tags[0])
        self._given[tag] += 1
        stored = self._stored[tag]
        return cast("Kept", as_kit(stored, self._supply.everything or {}, kit_id(stored)))
