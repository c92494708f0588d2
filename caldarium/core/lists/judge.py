"""Lists held against what people have: what meets each line, what is too weak, what is missing."""

import math
from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from caldarium.core.lists.applies import applies, ground_of, of_age
from caldarium.core.lists.holdings import Holding, holdings
from caldarium.core.lists.parts import Part, Short, fits, part_of, shortfalls, together_of
from caldarium.core.lists.sharing import Ask, Line, Name, name_of, share_out
from caldarium.core.plan.course import Course
from caldarium.core.plan.gear_list import Counted, Entry, ListScope, Sort, Wanted, Way
from caldarium.core.timeline.moments import Timeline

State = Literal["met", "alternative", "elsewhere", "not said", "too weak", "missing"]
"""Met as it is meant; met by an alternative; carried by somebody else; there, but a figure that is
asked was never said; there, but too weak; not there."""
GOOD: tuple[State, ...] = ("met", "alternative", "elsewhere")


@dataclass(frozen=True)
class Subject:
    """Whom a line is asked of: a person, a shelter, or all ropes or the party; and the people
    whose things count."""

    of: ListScope
    id: str
    people: tuple[str, ...]


@dataclass(frozen=True)
class Judged:
    """One line for one subject: how it stands, by which way and which pieces, how many there are
    of how many that are asked of the part that lacks most; of what is not met what is too weak, of
    which piece, and how many more would be good enough; and who has it where it is somebody else.
    """

    list: str
    entry: str
    subject: Subject
    state: State
    way: int
    pieces: tuple[Holding, ...]
    has: int
    asked: int
    short: tuple[Short, ...] = ()
    lacks: Wanted | None = None
    nearest: Holding | None = None
    need: int = 0
    elsewhere: tuple[str, ...] = ()

    @property
    def good(self) -> bool:
        """Whether the line holds. Source: none, bookkeeping."""
        return self.state in GOOD


class _Rules:
    """What fits what by its sort and name, looked up once for all things of one name; and what the
    user counts by hand."""

    def __init__(self, counted: Iterable[Counted]) -> None:
        self._said = {(each.list, each.entry, each.piece): each.counts for each in counted}
        self._fits: dict[tuple[int, str, frozenset[Sort]], bool] = {}

    def fits(self, holding: Holding, wanted: Wanted) -> bool:
        """Whether a thing is of the sort and name that is asked."""
        key = (id(wanted), holding.name, holding.sorts)
        found = self._fits.get(key)
        if found is None:
            found = self._fits[key] = fits(holding, wanted)
        return found

    def said(self, listed: str, entry: str, holding: Holding) -> bool | None:
        """The user's word on a thing and a line, None where they say nothing."""
        return self._said.get((listed, entry, holding.key)) if self._said else None

    def for_part(
        self, asked: "_Asked", wanted: Wanted, have: Sequence[Holding]
    ) -> list[tuple[Holding, bool]]:
        """Those of some things that count for one part, and whether by the user's word."""
        found: list[tuple[Holding, bool]] = []
        for each in have:
            told = self.said(asked.list, asked.entry.id, each)
            if told or (told is None and self.fits(each, wanted)):
                found.append((each, bool(told)))
        return found

    def able(self, listed: str, entry: Entry, have: Sequence[Holding]) -> list[Holding]:
        """Those of some things that could meet a line in any way."""
        parts = [part for way in entry.ways for part in way.parts]
        return [
            each
            for each in have
            if any(self.fits(each, part) for part in parts) or self.said(listed, entry.id, each)
        ]


def judge(course: Course, timeline: Timeline, who: str = "") -> tuple[Judged, ...]:
    """Every line of every list of a course that is asked there, for everybody it is asked of.

    Args:
        course: the plan, its lists and what the user counts by hand.
        timeline: of the course, for what is forecast.
        who: somebody whose own lines alone are wanted; all lines where empty.

    Returns:
        By list, by line, by subject.

    Source: the lists' own words.
    """
    return judge_things(course, asked_there(course, timeline), holdings(course), who)


def asked_there(course: Course, timeline: Timeline) -> tuple[tuple[str, str], ...]:
    """Lines, by list and id, that are asked on a course. Source: the lists' own words."""
    ground = ground_of(course, timeline)
    return tuple(
        (listed.id, entry.id)
        for listed in course.lists
        for entry in listed.entries
        if applies(entry.when, ground)
    )


def judge_things(
    course: Course, there: Collection[tuple[str, str]], have: Sequence[Holding], who: str = ""
) -> tuple[Judged, ...]:
    """Lines of a course's lists held against things.

    Args:
        course: its lists, its people, and what the user counts by hand.
        there: lines that are asked, from asked_there.
        have: everything that the party has, from holdings.
        who: as of judge.

    Returns:
        By list, by line, by subject.

    Source: the lists' own words.
    """
    rules, asked_of = _Rules(course.counted), frozenset(there)
    found: list[Judged] = []
    for listed in course.lists:
        asked = [
            _Asked(listed.id, entry, subject, times, able)
            for entry in listed.entries
            if (listed.id, entry.id) in asked_of
            for able in [rules.able(listed.id, entry, have)]
            for subject, times in subjects(course, entry)
        ]
        shared = _shared_out(asked, rules) if listed.once else {}
        gone = _counts(thing for things in shared.values() for thing in things)
        of_each = Counter(each.entry.id for each in asked)
        by_group: dict[str, Judged] = {}
        for each in asked:
            if who and each.subject.id != who:
                continue
            mine = [one for one in each.able if _counts_for(one, each.subject)]
            if listed.once:
                mine = shared.get(each.key) or _without(mine, gone)
            judged = _judged(each, mine, rules)
            if not judged.good and each.subject.of in ("head", "tent"):
                if each.entry.id not in by_group:
                    heads = of_each[each.entry.id] if each.subject.of == "head" else 1
                    left = _without(each.able, gone) if listed.once else each.able
                    by_group[each.entry.id] = _by_group(each, left, heads, rules)
                    if listed.once and by_group[each.entry.id].good:
                        gone += _counts(by_group[each.entry.id].pieces)
                judged = _elsewhere(judged, by_group[each.entry.id])
            found.append(judged)
    return tuple(found)


OWN = ("head", "instructor")
"""Whom a line is asked of by themselves."""


@dataclass(frozen=True)
class _Asked:
    """A line asked of one subject, so many times over, and things that could meet it."""

    list: str
    entry: Entry
    subject: Subject
    times: int
    able: Sequence[Holding]

    @property
    def key(self) -> tuple[str, str]:
        """What it is known by within its list."""
        return self.entry.id, self.subject.id


def _shared_out(asked: Sequence[_Asked], rules: _Rules) -> dict[tuple[str, str], list[Holding]]:
    """Things for each line of a list where a thing counts for one line only; what everybody must
    have of their own comes first, then what is asked of all."""
    found: dict[tuple[str, str], list[Holding]] = {}
    gone: Counter[Name] = Counter()
    subjects = dict.fromkeys(each.subject.id for each in asked if each.subject.of in OWN)
    groups = [[e for e in asked if e.subject.of in OWN and e.subject.id == who] for who in subjects]
    for group in [*groups, [e for e in asked if e.subject.of not in OWN]]:
        lines = [_line(each, gone, rules) for each in group]
        for each, shared in zip(group, share_out(lines), strict=True):
            if shared is not None:
                found[each.key] = [one for part in shared[1] for one in part]
                gone += _counts(found[each.key])
    return found


def _counts(things: Iterable[Holding]) -> Counter[Name]:
    found: Counter[Name] = Counter()
    for each in things:
        found[name_of(each)] += each.count
    return found


def _without(things: Iterable[Holding], gone: Mapping[Name, int]) -> list[Holding]:
    """Things, as many of each as are not used elsewhere."""
    left = [replace(each, count=each.count - gone.get(name_of(each), 0)) for each in things]
    return [each for each in left if each.count > 0]


def _line(asked: _Asked, gone: Mapping[Name, int], rules: _Rules) -> Line:
    """A line as it is shared out: of what is left, what is good enough for each part."""
    mine = _without((e for e in asked.able if _counts_for(e, asked.subject)), gone)
    ways = tuple(
        tuple(_ask(asked, part, mine, rules) for part in way.parts) for way in asked.entry.ways
    )
    return Line(ways, asked.entry.must)


def _ask(asked: _Asked, wanted: Wanted, mine: Sequence[Holding], rules: _Rules) -> Ask:
    able = rules.for_part(asked, wanted, mine)
    good = tuple(e for e, told in able if told or not shortfalls(e, wanted.least))
    sure = any(told for _, told in able)
    together = {} if sure else together_of(wanted.least, asked.times)
    return Ask(wanted.count * asked.times, good, together)


def subjects(course: Course, entry: Entry) -> list[tuple[Subject, int]]:
    """Whom a line is asked of, and how many times over.

    Source: the list's own words.
    """
    everybody = tuple(each.id for each in course.people)
    if entry.of in OWN:
        asked = [e for e in course.people if of_age(entry.when, e)]
        asked = [e for e in asked if entry.of == "head" or e.instructor]
        return [(Subject(entry.of, each.id, (each.id,)), 1) for each in asked]
    if not any(of_age(entry.when, each) for each in course.people):
        return []
    if entry.of == "tent":
        names = dict.fromkeys(name for each in course.people for name in each.shelters)
        inside = {n: tuple(e.id for e in course.people if n in e.shelters) for n in names}
        return [(Subject("tent", name, inside[name]), 1) for name in names]
    size = course.rope_of if entry.of == "rope" else entry.per
    times = 1 if size is None else math.ceil(len(everybody) / size)
    return [(Subject(entry.of, entry.of, everybody), times)]


def _counts_for(holding: Holding, subject: Subject) -> bool:
    """Whether a thing is one of those that a subject can show."""
    if holding.who is not None:
        return holding.who in subject.people
    if holding.of:
        return any(who in subject.people for who in holding.of)
    return subject.of in ("rope", "party")


def _judged(asked: _Asked, have: Sequence[Holding], rules: _Rules) -> Judged:
    """A line for one subject: by the first way that is met, else by the one that comes nearest."""
    listed, entry, subject = asked.list, asked.entry, asked.subject
    tried = [_tried(asked, way, have, rules) for way in entry.ways]
    for at, parts in enumerate(tried):
        if all(part.met for part in parts):
            pieces = tuple(piece for part in parts for piece in part.pieces)
            count = sum(part.has for part in parts)
            state: State = "alternative" if at else "met"
            return Judged(listed, entry.id, subject, state, at, pieces, count, count)
    best = min(range(len(tried)), key=lambda at: (_missing(tried[at]), at))
    parts = tried[best]
    lacking = min((p for p in parts if not p.met), key=lambda p: (p.has >= p.asked, p.has))
    state = "missing"
    if lacking.has >= lacking.asked:
        unknown = all(each.has is None for each in lacking.short)
        state = "not said" if unknown else "too weak"
    pieces = tuple(piece for part in parts for piece in part.pieces)
    return Judged(
        listed,
        entry.id,
        subject,
        state,
        best,
        pieces,
        lacking.has,
        lacking.asked,
        lacking.short,
        lacking.wanted,
        lacking.pieces[-1] if lacking.short and lacking.pieces else None,
        max(lacking.asked - lacking.good, 1),
    )


def _missing(parts: Sequence[Part]) -> tuple[int, int]:
    """How far a way is from being met: parts without enough pieces, then parts too weak."""
    absent = sum(part.has < part.asked for part in parts)
    return absent, sum(not part.met for part in parts) - absent


def _tried(asked: _Asked, way: Way, have: Sequence[Holding], rules: _Rules) -> list[Part]:
    """Every part of a way; within one way a piece counts once. Parts that few things can do come
    first; where that leaves one unmet that need not be, things are shared out exactly."""
    used: Counter[Name] = Counter()
    order = sorted(
        range(len(way.parts)), key=lambda at: len(rules.for_part(asked, way.parts[at], have))
    )
    done: dict[int, Part] = {}
    for at in order:
        wanted = way.parts[at]
        left = _without(have, used) if used else have
        done[at] = part_of(wanted, asked.times, rules.for_part(asked, wanted, left))
        used += _counts(done[at].pieces)
    found = [done[at] for at in range(len(way.parts))]
    if len(found) < 2 or all(part.met for part in found):
        return found
    asks = tuple(_ask(asked, part, have, rules) for part in way.parts)
    (shared,) = share_out([Line((asks,))])
    if shared is None:
        return found
    return [
        Part(wanted, things, ask.asked, ask.asked, ask.asked)
        for wanted, ask, things in zip(way.parts, asks, shared[1], strict=True)
    ]


def _by_group(asked: _Asked, able: Iterable[Holding], heads: int, rules: _Rules) -> Judged:
    """A line held against the group's kit, for as many heads as it is asked of."""
    shared = [each for each in able if each.shared and not each.of]
    whole = replace(asked, subject=Subject("party", "party", ()), times=asked.times * heads)
    return _judged(whole, shared, rules)


def _elsewhere(judged: Judged, by_group: Judged) -> Judged:
    """The line as met where the group's kit has enough of it for everybody, whoever carries it."""
    if not by_group.good:
        return judged
    carriers = tuple(dict.fromkeys(e.who for e in by_group.pieces if e.who is not None))
    if judged.subject.id in carriers:
        carriers = (judged.subject.id,)
    return replace(by_group, subject=judged.subject, state="elsewhere", elsewhere=carriers)
