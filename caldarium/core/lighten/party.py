"""The lightest sets for everybody, with what the store has shared between them."""

from collections import Counter
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import TypeVar, cast

import numpy as np

from caldarium.core.lighten.offers import Piece, alike_tags, own_pieces
from caldarium.core.lighten.problem import Wish
from caldarium.core.lighten.proposal import Proposal, Question, lighten, proposed
from caldarium.core.lighten.rounds import Search
from caldarium.core.lighten.shared_out import Member, shared_out
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.stock.inventory import as_kit
from caldarium.core.stock.issue import kit_id
from caldarium.core.stock.supply import SOURCES, Source, Supply
from caldarium.core.timeline.moments import Timeline

Kept = TypeVar("Kept", bound=Piece | None)
Heard = Callable[[float, Search], bool]
"""Hears the share that is done, and how far the search of the next one is."""


@dataclass(frozen=True)
class Party:
    """Sets for a whole party.

    proposals by person; the bound under which sets for all of them together cannot weigh [g],
    though what they have may, where no set was found yet; whether that is reached; pieces that
    more people wanted than there are, those first of which one more would save most; whether grams
    alone were made least, so that the bound is one of grams; and whether people took turns, as not
    everybody could be given what they need.
    """

    proposals: tuple[Proposal, ...]
    bound: float
    proven: bool
    scarce: tuple[str, ...]
    plain: bool = True
    in_turn: bool = False

    @property
    def grams(self) -> float:
        """What all sets weigh, of those for whom there is none what they have [g].

        Source: none, a sum.
        """
        return _together(self.proposals)

    @property
    def without(self) -> int:
        """How many have no set though none is known not to be. Source: none, a count."""
        return sum(each.after is None and not each.proven for each in self.proposals)

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

    What is scarce is shared out at prices; where nothing is, that is everybody alone. Where not
    everybody can be given what they need, those who need most choose first, and whoever comes after
    takes what is left.

    Args:
        course, timeline: the plan.
        supply, sources, wish: as for lighten.
        heard: hears how far it is; ends the search of a person where it says so, and all that is
            left where it lets a new one not begin: whoever has no set by then keeps what they have.

    Raises:
        EnoughError: it was ended before anything was known.

    Source: core.lighten for each, core.lighten.shared_out; who goes without where not everybody
        can hold is judgement.
    """
    plain = wish or Wish()
    things = _things(supply, len(course.people))

    def asked(person: Person, gone: Collection[str] = ()) -> Question:
        wanted = replace(plain, outside=plain.outside | set(gone))
        return Question(course, person, timeline, supply, tuple(sources), wanted)

    members = [Member(asked(each), things.of, len(things.counts)) for each in course.people]
    split = shared_out(members, np.array(things.counts, dtype=float), heard)
    found = [
        proposed(each.problem, each.with_set(chosen), told=False)
        for each, chosen in zip(split.members, split.sets, strict=True)
    ]
    scarce = {thing for thing, price in enumerate(split.prices) if price > 0}
    dearest: list[int] = np.argsort(-split.prices, kind="stable").tolist()
    member_of = {each.question.person.id: each for each in split.members}
    bound = max(split.bound, 0.0)
    bound += sum(each.grams_before for each in found if member_of[each.before.id].none)
    if not split.fits:
        scarce |= set(things.over_asked(found))

        def alone(person: Person, gone: Collection[str]) -> Proposal:
            if not heard(1.0, Search()):
                member = member_of[person.id]
                return proposed(member.problem, member.with_set(None), told=False)
            return lighten(asked(person, gone), lambda each: heard(1.0, each), told=False)

        least = _in_turn(found, things, alone)
        if any(each.beyond - member_of[each.before.id].problem.waived for each in found):
            # Whoever goes without may be asked less: what nothing left to them can hold.
            bound = least
    names = dict.fromkeys(things.known_as[thing] for thing in dearest if thing in scarce)
    return Party(
        tuple(found), bound, split.proven, tuple(names), plain.plain, in_turn=not split.fits
    )


@dataclass(frozen=True)
class _Things:
    """Of what there are fewer than people: which each offer is, by key, and how many there are."""

    of: Mapping[str, int]
    counts: tuple[int, ...]
    known_as: tuple[str, ...]

    def taken(self, proposal: Proposal) -> list[int]:
        """Which somebody takes of the store."""
        return [self.of[each.key] for each in proposal.incoming if each.key in self.of]

    def over_asked(self, found: Sequence[Proposal]) -> list[int]:
        """Which more are wanted of than there are."""
        wanted = Counter(thing for each in found for thing in self.taken(each))
        return [thing for thing, count in wanted.items() if count > self.counts[thing]]


def _things(supply: Supply, people: int) -> _Things:
    """What of a store can be wanted more often than there is."""
    by_tag = {piece.tag.lower(): piece for piece in supply.stored}
    of: dict[str, int] = {}
    place: dict[tuple[str, ...], int] = {}
    counts: list[int] = []
    names: list[str] = []
    for key, tags in alike_tags(supply).items():
        left = sum(supply.left_of(by_tag[tag]) for tag in tags)
        if left >= people:
            continue
        if tags not in place:
            place[tags] = len(counts)
            counts.append(left)
            names.append(by_tag[tags[0]].name)
        of[key] = place[tags]
    return _Things(of, tuple(counts), tuple(names))


def _in_turn(
    found: list[Proposal],
    things: _Things,
    alone: Callable[[Person, Collection[str]], Proposal],
) -> float:
    """Sets for everybody one after another, in place, who needs most first, each without what is
    given out by then; what all carry at least so."""
    given: Counter[int] = Counter()
    least = [_at_least(each) for each in found]
    for at in sorted(range(len(found)), key=lambda at: -least[at]):
        spent = {thing for thing, count in given.items() if count >= things.counts[thing]}
        if spent.intersection(things.taken(found[at])):
            gone = {key for key, thing in things.of.items() if thing in spent}
            found[at] = alone(found[at].before, gone)
            least[at] = min(least[at], _at_least(found[at]))
        given.update(things.taken(found[at]))
    return sum(least)


def _at_least(proposal: Proposal) -> float:
    """What somebody will carry at least [g]: what they have, where no set holds."""
    if proposal.after is None and proposal.proven:
        return proposal.grams_before
    return max(proposal.bound, 0.0)


def _together(found: Sequence[Proposal]) -> float:
    """What all sets weigh, of those for whom there is none what they have [g]."""
    return sum(each.grams if each.after is not None else each.grams_before for each in found)


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
