"""The lightest kit of the group that keeps its own rules and what lists ask of the party.

What a piece must do is known by words alone: by the lines of lists that it answers, or by its own
name. A piece can take the place of another only where it answers all of those.
"""

from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import get_args

from caldarium.core.assess import assess
from caldarium.core.lighten.verdict import Fail, worse_by_person
from caldarium.core.lists.holdings import Holding, has_word, holdings, shared_thing
from caldarium.core.lists.judge import Judged, asked_there, judge_things, subjects
from caldarium.core.lists.parts import counts, together_of
from caldarium.core.lists.sharing import name_of
from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.course import MOST_GROUP, Course
from caldarium.core.plan.gear_list import Entry, GearList, Wanted
from caldarium.core.plan.group_kit import wanted
from caldarium.core.plan.kit import GroupKit, Item, Purpose
from caldarium.core.programs import Program
from caldarium.core.stock.supply import SOURCES, Source, Supply, stored_kit
from caldarium.core.timeline.moments import Timeline

SECONDS = 5.0
"""After so long the best choice so far is taken, and said not to be proven."""
OF_THE_PARTY = ("rope", "tent", "party")
"""Whom a line is asked of that the group's kit answers."""
MOST_OF_ONE = 40
"""Pieces of one model that are bought, and that a piece of group kit can have."""
TOO_MANY = 1e6
"""What a line that could be met and is not counts [g]: more than any kit weighs."""

LineKey = tuple[str, str]
"""A line of a list: ids of both."""


@dataclass(frozen=True)
class Ware:
    """A thing that could be in the group's kit, where from, and how many there are of it."""

    item: Item
    source: Source
    count: int


@dataclass(frozen=True)
class Place:
    """A piece of the group's kit by its own rule: as it is, None where it is new; as it is proposed
    and where from; how many of it; lines of lists that it answers."""

    before: GroupKit | None
    after: GroupKit
    source: Source
    count: int
    lines: tuple[LineKey, ...]

    @property
    def changed(self) -> bool:
        """Whether another piece is proposed. Source: none, bookkeeping."""
        return self.before != self.after

    @property
    def grams(self) -> float:
        """What all of it weighs [g]. Source: none, arithmetic."""
        return self.count * self.after.mass_g

    @property
    def saved(self) -> float:
        """What it weighs less than what is there now [g]. Source: none, arithmetic."""
        return (self.count * self.before.mass_g if self.before else 0.0) - self.grams


@dataclass(frozen=True)
class GroupChoice:
    """The group's kit piece by piece; lines that must be met by the party and are met by nothing on
    offer; pieces that would be lighter, of which there are too few: names, how many there are and
    of how many; whether nothing lighter keeps all of it; what is worse for whom when all is taken.
    """

    places: tuple[Place, ...]
    unmet: tuple[LineKey, ...]
    too_few: tuple[tuple[str, int, int], ...]
    proven: bool
    lost: Mapping[str, frozenset[Fail]] = field(default_factory=dict[str, frozenset[Fail]])

    @property
    def changed(self) -> tuple[int, ...]:
        """Places at which something else is proposed. Source: none, bookkeeping."""
        return tuple(at for at, each in enumerate(self.places) if each.changed)

    @property
    def grams(self) -> float:
        """What all of it weighs [g]. Source: none, a sum."""
        return sum(each.grams for each in self.places)

    @property
    def grams_before(self) -> float:
        """What is there now weighs [g]. Source: none, a sum."""
        return sum(each.grams + each.saved for each in self.places)


def lightest_group(
    course: Course, timeline: Timeline, supply: Supply, sources: Collection[Source]
) -> GroupChoice:
    """The lightest kit of the group: as many of each piece as its own rule asks, each by the
    lightest that answers the same lines of lists and is of the same kind, and what must be there by
    a list and is not.

    Fuel and what must not freeze stay as planned: how much of them is needed is not told by words.
    Loads change with it, and so how hard people work: what is worse then is told.

    Args:
        course, timeline: the plan.
        supply, sources: what there is, and which of it may be drawn on.

    Source: the lists' own words and the school's own rules; a program of whole numbers.
    """
    barred: set[tuple[str, str]] = set()
    before = {_known_by(each): each for each in _judged(course, timeline)}
    while True:
        choice = _chosen(course, timeline, supply, sources, barred)
        taken = with_group(course, choice, choice.changed)
        after = _judged(taken, timeline)
        broken = {
            (each.list, each.entry)
            for each in after
            if not each.good and before[_known_by(each)].good
        }
        breaks = {
            (each.before.id, each.after.name)
            for each in choice.places
            if each.before is not None and each.changed and broken & set(each.lines)
        }
        if not breaks - barred:
            must = {(listed.id, e.id) for listed, e in _lines(course, timeline) if e.must}
            bad = [(e.list, e.entry) for e in after if not e.good and e.subject.of in OF_THE_PARTY]
            unmet = tuple(dict.fromkeys(key for key in bad if key in must))
            lost = worse_by_person(assess(course), assess(taken)) if choice.changed else {}
            return replace(choice, unmet=unmet, lost=lost)
        barred |= breaks


def _known_by(judged: Judged) -> tuple[str, str, str]:
    return judged.list, judged.entry, judged.subject.id


def _judged(course: Course, timeline: Timeline) -> tuple[Judged, ...]:
    return judge_things(course, asked_there(course, timeline), holdings(course))


def _lines(course: Course, timeline: Timeline) -> Iterator[tuple[GearList, Entry]]:
    there = frozenset(asked_there(course, timeline))
    for listed in course.lists:
        for entry in listed.entries:
            if (listed.id, entry.id) in there:
                yield listed, entry


def wares(supply: Supply, sources: Collection[Source]) -> list[Ware]:
    """Things of the store that are left, for hire and for sale, that a group could have; those that
    nobody weighed are not among them.

    Source: the store's own figures.
    """
    found: list[Ware] = []
    listed: list[Source] = [each for each in SOURCES if each in sources]
    for source in listed:
        for piece, kit in stored_kit(supply, source):
            if isinstance(kit, Item) and kit.mass_g > 0:
                found.append(Ware(kit, source, min(supply.left_of(piece), MOST_OF_ONE)))
        if source == "buy":
            goods = [e for e in (supply.everything or {}).values() if isinstance(e, Item)]
            found += [Ware(each, source, MOST_OF_ONE) for each in goods if each.mass_g > 0]
    return [each for each in found if each.item.net_g is None and each.item.kind != "fuel"]


@dataclass(frozen=True)
class _Slot:
    """A piece that is planned, how many of it, what it answers, and wares that could take its
    place, by their place in the list."""

    kit: GroupKit
    count: int
    answers: tuple[tuple[LineKey, Wanted], ...]
    others: tuple[int, ...]
    too_few: tuple[int, ...] = ()


@dataclass
class _Need:
    """A line that the party must meet and does not: whose list it is, how often it is asked, and
    what of the party's things could count for it."""

    listed: GearList
    entry: Entry
    times: int
    have: list[Holding] = field(default_factory=list[Holding])

    @property
    def key(self) -> LineKey:
        return self.listed.id, self.entry.id


def _chosen(
    course: Course,
    timeline: Timeline,
    supply: Supply,
    sources: Collection[Source],
    barred: Collection[tuple[str, str]],
) -> GroupChoice:
    goods = wares(supply, sources)
    slots = [_slot(course, timeline, kit, goods, barred) for kit in course.group]
    needs = _needs(course, timeline)
    program = Program([], SECONDS, exact=True)
    chosen = [
        {
            at: program.whole(slot.count * (_grams(goods[at]) - slot.kit.mass_g), 1.0)
            for at in slot.others
        }
        for slot in slots
    ]
    for each in chosen:
        program.row([(column, 1.0) for column in each.values()], 0.0, 1.0)
    new = [program.whole(_grams(each), each.count) for each in goods]
    for at, ware in enumerate(goods):
        pairs = zip(chosen, slots, strict=True)
        uses = [(columns[at], float(slot.count)) for columns, slot in pairs if at in columns]
        program.row([*uses, (new[at], 1.0)], 0.0, float(ware.count))
    _ask(program, course, needs, [_able(each, goods, new, slots, chosen) for each in needs])
    values, gap = program.solved()
    if not values:
        # Out of time with nothing found: all stays.
        values, gap = [0.0] * (new[-1] + 1 if new else 0), 1.0
    places: list[Place] = []
    for slot, columns in zip(slots, chosen, strict=True):
        at = next((at for at, column in columns.items() if values[column] > 0.5), None)
        after = slot.kit if at is None else _in_place_of(slot.kit, goods[at].item)
        keys = [key for key, _ in slot.answers]
        keys += [] if at is None else [need.key for need, _ in _for(course, after, needs)]
        source: Source = "own" if at is None else goods[at].source
        places.append(Place(slot.kit, after, source, slot.count, tuple(dict.fromkeys(keys))))
    added = {at: round(values[column]) for at, column in enumerate(new) if values[column] > 0.5}
    places += _added(course, goods, added, needs)
    too_few = tuple(
        (goods[at].item.name, goods[at].count, slot.count)
        for slot in slots
        for at in slot.too_few
        if goods[at].item.mass_g < slot.kit.mass_g
    )
    return GroupChoice(tuple(places), (), too_few, gap <= 1e-9)


def _grams(ware: Ware) -> float:
    """Grams of a ware, what is near first where two weigh the same."""
    return ware.item.mass_g + 0.01 * SOURCES.index(ware.source)


def _slot(
    course: Course,
    timeline: Timeline,
    kit: GroupKit,
    goods: Sequence[Ware],
    barred: Collection[tuple[str, str]],
) -> _Slot:
    count = wanted(course, kit)
    own = shared_thing(kit, 0, None)
    answers = tuple(
        ((listed.id, entry.id), part)
        for listed, entry in _lines(course, timeline)
        for way in entry.ways
        for part in way.parts
        if counts(course.counted, (listed.id, entry.id), part, own)
    )
    if kit.net_g is not None or kit.kind == "fuel" or kit.spoils_below_c is not None or not count:
        return _Slot(kit, count, answers, ())
    able = [
        at
        for at, ware in enumerate(goods)
        if (kit.id, ware.item.name) not in barred and _does_it(course, kit, answers, ware.item)
    ]
    enough = tuple(at for at in able if goods[at].count >= count)
    return _Slot(kit, count, answers, enough, tuple(at for at in able if at not in enough))


def _does_it(
    course: Course, kit: GroupKit, answers: Sequence[tuple[LineKey, Wanted]], item: Item
) -> bool:
    """Whether a thing does what a piece does, by all that is known of it."""
    if kit.kind and item.kind != kit.kind:
        return False
    if not answers and not has_word(item.name, kit.name):
        return False
    # By an id of its own, so that the user's word on the piece that is there does not count for it.
    thing = shared_thing(as_group_kit(item), 0, None)
    return all(counts(course.counted, key, part, thing) for key, part in answers)


def _in_place_of(kit: GroupKit, item: Item) -> GroupKit:
    """A piece of group kit with its rule and carriers, another thing in its place."""
    told = ("name", "mass_g", "mass_from", "mass_on", "tag", "kind", "packed_l", "fly")
    return kit.altered(**{name: getattr(item, name) for name in told})


def _needs(course: Course, timeline: Timeline) -> list[_Need]:
    """Lines that must be met by the party and are not, with what of its things is free for them; of
    a list where a thing counts once also those that are met, as things may be shared out anew."""
    have = holdings(course)
    judged = judge_things(course, asked_there(course, timeline), have)
    lines = [
        (listed, entry, [e for e in judged if (e.list, e.entry) == (listed.id, entry.id)])
        for listed, entry in _lines(course, timeline)
        if entry.of in OF_THE_PARTY
    ]
    asked: dict[LineKey, tuple[GearList, Entry, int]] = {}
    for listed, entry, mine in lines:
        bad = [each for each in mine if not each.good]
        again = listed.once and entry.of != "tent"
        if (bad and entry.must) or (again and mine and not bad):
            times = len(bad) if entry.of == "tent" else subjects(course, entry)[0][1]
            asked[listed.id, entry.id] = (listed, entry, times)
    found: list[_Need] = []
    for listed, entry, times in asked.values():
        gone: Counter[tuple[str | None, str]] = Counter()
        for each in judged:
            if listed.once and each.list == listed.id and (each.list, each.entry) not in asked:
                gone += Counter({name_of(piece): piece.count for piece in each.pieces if each.good})
        free = [replace(each, count=each.count - gone[name_of(each)]) for each in have]
        mine = [each for each in free if each.count > 0 and not each.of]
        if entry.of == "tent":
            mine = [each for each in mine if each.shared]
        found.append(_Need(listed, entry, times, mine))
    return found


@dataclass(frozen=True)
class _Able:
    """A thing that could meet a line: how many of it there may be, and terms of the program that
    with its uses must not come to more than a limit."""

    name: object
    thing: Holding
    count: int
    limit: float
    terms: list[tuple[int, float]]


def _able(
    need: _Need,
    goods: Sequence[Ware],
    new: Sequence[int],
    slots: Sequence[_Slot],
    chosen: Sequence[dict[int, int]],
) -> list[_Able]:
    """What is there and not exchanged, and what comes in or takes a place."""
    pairs = list(zip(slots, chosen, strict=True))
    gone = {slot.kit.id: [(at, 1.0) for at in columns.values()] for slot, columns in pairs}
    found: list[_Able] = []
    for each in need.have:
        terms = gone.get(each.piece, []) if each.shared else []
        found.append(_Able(("there", name_of(each)), each, each.count, each.count, terms))
    for at, ware in enumerate(goods):
        thing = shared_thing(as_group_kit(ware.item), 0, None)
        terms = [(c[at], -float(slot.count)) for slot, c in pairs if at in c]
        found.append(_Able(("new", at), thing, ware.count, 0.0, [*terms, (new[at], -1.0)]))
    return found


def _ask(
    program: Program, course: Course, needs: Sequence[_Need], able: Sequence[Sequence[_Able]]
) -> None:
    """Lines that are to be met, each by one of its ways; a thing counts once within a way, and once
    for all lines of a list that says so."""
    uses: dict[tuple[object, ...], list[tuple[int, float]]] = {}
    limits: dict[tuple[object, ...], _Able] = {}
    for need, mine in zip(needs, able, strict=True):
        ways = [program.whole(TOO_MANY, 1.0)]
        for at_way, way in enumerate(need.entry.ways):
            takes = program.whole(0.001 * at_way, 1.0)
            ways.append(takes)
            where = (need.listed.id,) if need.listed.once else (*need.key, at_way)
            for part in way.parts:
                columns: list[tuple[int, Holding]] = []
                for each in mine:
                    if counts(course.counted, need.key, part, each.thing):
                        columns.append((program.whole(0.0, each.count), each.thing))
                        uses.setdefault((*where, each.name), []).append((columns[-1][0], 1.0))
                        limits[(*where, each.name)] = each
                number = [(column, 1.0) for column, _ in columns]
                asked = float(part.count * need.times)
                program.row([*number, (takes, -asked)], 0.0, float("inf"))
                for fact, least in together_of(part.least, need.times).items():
                    reach = [(c, float(thing.facts.get(fact) or 0.0)) for c, thing in columns]
                    program.row([*reach, (takes, -least)], 0.0, float("inf"))
        program.row([(column, 1.0) for column in ways], 1.0, 1.0)
    for name, used in uses.items():
        program.row([*used, *limits[name].terms], -float("inf"), limits[name].limit)


def as_group_kit(item: Item) -> GroupKit:
    """A thing as a piece of group kit of which the party has one. Source: none, bookkeeping."""
    purposes: tuple[Purpose, ...] = get_args(Purpose)
    return GroupKit(
        id=item.id,
        name=item.name,
        mass_g=item.mass_g,
        mass_from=item.mass_from,
        mass_on=item.mass_on,
        tag=item.tag,
        purpose=item.purpose if item.purpose in purposes else "group",
        fly=item.fly,
        kind=item.kind,
        packed_l=item.packed_l,
        spoils_below_c=item.spoils_below_c,
    )


def _added(
    course: Course, goods: Sequence[Ware], added: dict[int, int], needs: Sequence[_Need]
) -> list[Place]:
    """Pieces that come in, each by the rule of the line that it is for where that gives as many."""
    taken = [each.id for each in course.group]
    found: list[Place] = []
    for at, count in list(added.items())[: MOST_GROUP - len(taken)]:
        kit = as_group_kit(goods[at].item)
        kit = kit.altered(id=fresh_id(kit.name, taken), number=count)
        mine = _for(course, kit, needs)
        for need, part in mine:
            by_rule = kit.altered(number=part.count, **_rule_of(need.entry))
            if wanted(course, by_rule) == count:
                kit = by_rule
                break
        taken.append(kit.id)
        lines = tuple(dict.fromkeys(need.key for need, _ in mine))
        found.append(Place(None, kit, goods[at].source, count, lines))
    return found


def _for(course: Course, kit: GroupKit, needs: Sequence[_Need]) -> list[tuple[_Need, Wanted]]:
    """Parts of lines that a piece counts for."""
    thing = shared_thing(kit, 0, None)
    return [
        (need, part)
        for need in needs
        for way in need.entry.ways
        for part in way.parts
        if counts(course.counted, need.key, part, thing)
    ]


def _rule_of(entry: Entry) -> dict[str, object]:
    if entry.of == "party":
        return {"of": "head", "per": entry.per} if entry.per else {"of": "party"}
    return {"of": entry.of}


def with_group(course: Course, found: GroupChoice, taken: Collection[int]) -> Course:
    """The course with some of what is proposed, by its place in the list.

    Source: none, bookkeeping.
    """
    changed = [each for at, each in enumerate(found.places) if at in taken and each.changed]
    other = {each.before.id: each.after for each in changed if each.before is not None}
    new = [each.after for each in changed if each.before is None]
    kept = tuple(other.get(kit.id, kit) for kit in course.group)
    return course.altered(group=(*kept, *new))
