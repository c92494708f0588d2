"""What the pages of lists and checks show, laid out."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from caldarium.core.assess import Assessment
from caldarium.core.check.cures import Cure
from caldarium.core.lists.holdings import holdings
from caldarium.core.lists.judge import Judged
from caldarium.core.lists.kept import must_lines
from caldarium.core.plan.course import Course
from caldarium.core.plan.gear_list import Entry
from caldarium.core.what_if.idle import Idle, for_lists_alone
from caldarium.words import check as words
from caldarium.words.steps import Step
from caldarium.words.units import Display


@dataclass(frozen=True)
class ListCard:
    """A list that is asked: id, name, facts, and how many of its lines hold of how many."""

    id: str
    name: str
    facts: str
    good: int
    asked: int
    unasked: int


@dataclass(frozen=True)
class OpenRow:
    """A line that does not hold in the same way for some: what is asked, whom of, how it stands,
    whom something can be given to, and the pieces that one press would give."""

    judged: Judged
    key: str
    text: str
    listed: str
    must: bool
    names: tuple[str, ...]
    mark: str
    state: str
    told: str
    to: tuple[tuple[str, str], ...]
    cures: tuple[tuple[str, str], ...] = ()
    counts: tuple[tuple[str, str], ...] = ()

    def with_cures(self, cures: Sequence[Cure], display: Display) -> "OpenRow":
        """The row with what would mend it."""
        told = tuple((each.name, words.cure_words(each, display)) for each in cures)
        return replace(self, cures=told)


@dataclass(frozen=True)
class LineRow:
    """A line of a list: what is asked, when, of whom, how it stands for each, how it was judged,
    and what counts or does not by the user's word, with the act that takes it back."""

    key: str
    text: str
    must: bool
    ways: list[str]
    when: str
    of: str
    note: str
    good: int
    rows: list["StandRow"]
    steps: list[Step]
    said: list[tuple[str, str]]


@dataclass(frozen=True)
class StandRow:
    """How a line stands for one subject: who, mark, state, sentence; and a piece that meets it by
    its name, which may be said not to count, with its act, both empty for none."""

    who: str
    mark: str
    state: str
    told: str
    piece: str
    act: str


@dataclass(frozen=True)
class ListPanel:
    """A list line by line."""

    id: str
    name: str
    lines: list[LineRow]
    unasked: list[tuple[str, str]]


def line_key(judged: Judged) -> str:
    """A line and its subject in a form."""
    return f"{judged.list} {judged.entry} {judged.subject.id}"


def list_cards(course: Course, judged: Sequence[Judged]) -> list[ListCard]:
    """Every list that is asked, in a few figures."""
    found: list[ListCard] = []
    for listed in course.lists:
        mine = [each for each in judged if each.list == listed.id]
        asked = {each.entry for each in mine}
        found.append(
            ListCard(
                listed.id,
                listed.name,
                words.list_facts(listed),
                sum(each.good for each in mine),
                len(mine),
                len(listed.entries) - len(asked),
            )
        )
    return found


def _entries(course: Course) -> dict[tuple[str, str], Entry]:
    return {(each.id, entry.id): entry for each in course.lists for entry in each.entries}


def open_rows(course: Course, judged: Sequence[Judged], display: Display) -> list[OpenRow]:
    """Lines that do not hold, those that must first."""
    entries = _entries(course)
    names = {each.id: each.name for each in course.lists}
    must = must_lines(course)
    alike: dict[tuple[str, str, str], list[Judged]] = {}
    for each in judged:
        if not each.good:
            told = words.judged_words(each, course, display)
            alike.setdefault((each.list, each.entry, told), []).append(each)
    found = [
        OpenRow(
            group[0],
            line_key(group[0]),
            entries[listed, entry].text,
            names[listed],
            (listed, entry) in must,
            tuple(words.subject_name(course, each.subject) for each in group),
            words.STATE_MARKS[group[0].state],
            words.STATE_NAMES[group[0].state],
            told,
            _may_get(course, group),
            counts=tuple(one for each in group for one in _may_count(course, each)),
        )
        for (listed, entry, told), group in alike.items()
    ]
    return sorted(found, key=lambda row: not row.must)


def _may_get(course: Course, group: Sequence[Judged]) -> tuple[tuple[str, str], ...]:
    """Whom what is missing can be given to, the first as it is meant; a single one is not asked."""
    if group[0].subject.of in ("head", "instructor"):
        each = tuple((one.subject.id, course.person(one.subject.id).name) for one in group)
        return (("all", f"all {len(group)}"), *each) if len(group) > 1 else ()
    people = tuple((each.id, each.name) for each in course.people)
    return people if len(people) > 1 else ()


def _may_count(course: Course, judged: Judged) -> tuple[tuple[str, str], ...]:
    """A piece that is there and that the user may let count all the same."""
    piece = judged.nearest
    if piece is None:
        return ()
    whose = "" if piece.who is None else f"{course.person(piece.who).name.split()[0]}'s "
    return ((f"{judged.list} {judged.entry} {piece.key}", f"{whose}{piece.name}"),)


def list_panels(course: Course, judged: Sequence[Judged], display: Display) -> list[ListPanel]:
    """Every list line by line, each with how it was judged."""
    found: list[ListPanel] = []
    for listed in course.lists:
        lines: list[LineRow] = []
        unasked: list[tuple[str, str]] = []
        for entry in listed.entries:
            mine = [e for e in judged if (e.list, e.entry) == (listed.id, entry.id)]
            if not mine:
                unasked.append((entry.text, words.when_words(entry.when, display)))
                continue
            lines.append(
                LineRow(
                    f"{listed.id} {entry.id}",
                    entry.text,
                    entry.must,
                    words.ways_words(entry, display),
                    words.when_words(entry.when, display),
                    words.asked_of(entry),
                    entry.note,
                    sum(each.good for each in mine),
                    [_stands(course, each, display) for each in mine],
                    [
                        step
                        for each in _kinds_of(mine)
                        for step in words.explain_judged(each, entry, listed, course, display)
                    ],
                    _said(course, listed.id, entry.id),
                )
            )
        found.append(ListPanel(listed.id, listed.name, lines, unasked))
    return found


def _kinds_of(judged: Sequence[Judged]) -> list[Judged]:
    """One of each way in which a line stands, by the same pieces, the open ones first."""
    alike = {
        (each.state, tuple((p.name, p.count, str(p.facts)) for p in each.pieces)): each
        for each in reversed(judged)
    }
    return sorted(alike.values(), key=lambda one: one.good)


def _stands(course: Course, judged: Judged, display: Display) -> StandRow:
    piece = judged.pieces[0] if judged.good and len(judged.pieces) == 1 else None
    act = "" if piece is None else f"counts-not={judged.list} {judged.entry} {piece.key}"
    return StandRow(
        words.subject_name(course, judged.subject),
        words.STATE_MARKS[judged.state],
        words.STATE_NAMES[judged.state],
        words.judged_words(judged, course, display),
        "" if piece is None else words.holding_name(piece),
        act,
    )


def _said(course: Course, listed: str, entry: str) -> list[tuple[str, str]]:
    """What the user said of pieces and a line, and the act that takes it back."""
    names = {each.key: words.holding_name(each) for each in holdings(course)}
    people = {each.id: each.name for each in course.people}
    found: list[tuple[str, str]] = []
    for said in course.counted:
        if (said.list, said.entry) == (listed, entry):
            who = people.get(said.piece.partition("/")[0], "the party")
            does = "counts" if said.counts else "does not count"
            told = f"{names.get(said.piece, said.piece)} of {who} {does}, by your word"
            found.append((told, f"unsaid={listed} {entry} {said.piece}"))
    return found


@dataclass(frozen=True)
class OnlyListed:
    """What is carried for lists alone: by person who, what and how much, and how that was found."""

    rows: list[tuple[str, str, str]]
    steps: list[Step]


def only_listed(
    course: Course, result: Assessment, idle: Mapping[str, Idle], display: Display
) -> OnlyListed:
    """What is carried for lists alone, laid out."""
    found = for_lists_alone(course, result, idle)
    rows = [
        (
            course.person(who).name,
            ", ".join(f"{line.name} {display.mass(line.grams)}" for line in lines),
            display.mass(sum(line.grams for line in lines)),
        )
        for who, lines in found.items()
    ]
    return OnlyListed(rows, words.explain_only_listed(course, found, display))
