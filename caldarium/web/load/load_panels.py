"""The parts of the load page, each a small value of what it shows."""

from collections.abc import Sequence
from dataclasses import dataclass

from fastapi import Request

from caldarium.core.assess import Assessment
from caldarium.core.load.share import Split
from caldarium.core.load.sheet import totals
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.group_kit import Unit, units, wanted
from caldarium.core.plan.kit import GroupKit
from caldarium.core.what_if.idle import Idle, Line, Matters, ledger, pieces_of
from caldarium.drawings.load_curve import Chip, load_curve, party_shelf
from caldarium.drawings.svg import Svg
from caldarium.store.courses import Held
from caldarium.web.forms import Field
from caldarium.web.load.load_edit import (
    PARTY,
    party_texts,
)
from caldarium.web.page import display_of, works_of
from caldarium.web.plan.person_fields import LOAD, texts_of
from caldarium.web.work import Told
from caldarium.words.course import weekday
from caldarium.words.food import dry_sentence, fuel_sentence, hungry_sentence
from caldarium.words.lists import totals_sentence
from caldarium.words.load import (
    group_sentence,
    ledger_sentence,
    line_sentence,
    load_hours_sentence,
    matters_sentence,
    party_sentence,
    split_rows,
    split_sentence,
)
from caldarium.words.steps import Step
from caldarium.words.steps_load import explain_idle, explain_load, explain_split
from caldarium.words.units import Display


@dataclass(frozen=True)
class Looking:
    """Whose load is looked at, by which schools of counting, and whose beside it."""

    person: str = ""
    worn: str = "in"
    apart: str = "in"
    beside: str = ""

    @property
    def counted(self) -> dict[str, bool]:
        """What counts as carried weight."""
        return {"worn": self.worn != "out", "apart": self.apart != "out"}


@dataclass(frozen=True)
class CurvePanel:
    """One person's load hour by hour, and another's beside it."""

    words: str
    totals_words: str
    curve: Svg
    short: list[str]
    steps: list[Step]
    beside: dict[str, object] | None


def curve_panel(
    course: Course, result: Assessment, member: Person, looking: Looking, display: Display
) -> CurvePanel:
    """The load hour by hour; beside it that of whoever is looked at too."""
    load = result.of(member.id).load
    beside = None
    if looking.beside != member.id and any(each.id == looking.beside for each in course.people):
        other, theirs = course.person(looking.beside), result.of(looking.beside).load
        beside = {
            "name": other.name,
            "words": load_hours_sentence(theirs, display, **looking.counted),
            "curve": load_curve(course, other, theirs, display, **looking.counted),
        }
    return CurvePanel(
        words=load_hours_sentence(load, display, **looking.counted),
        totals_words=totals_sentence(totals(load), weekday(course, 0, whole=True), display),
        curve=load_curve(course, member, load, display, **looking.counted),
        short=[
            words
            for words in (
                dry_sentence(course, result.timeline, load.dry, display),
                hungry_sentence(course, result.timeline, load.hungry, display),
                fuel_sentence(course, result.fuel, display) if result.fuel.out else "",
            )
            if words
        ],
        steps=explain_load(course, member, load, display),
        beside=beside,
    )


@dataclass(frozen=True)
class PartyPanel:
    """Everybody's heaviest hour, and what the party allows."""

    party: Svg
    party_words: str
    party_fields: list[Field]
    party_values: dict[str, str]


def party_panel(
    course: Course, result: Assessment, address: str, looking: Looking, display: Display
) -> PartyPanel:
    """Everybody's heaviest hour side by side, each a link at the address."""
    loads = [(course.person(each.person), each.load) for each in result.people]
    return PartyPanel(
        party=party_shelf(
            loads, looking.person, display, address, shared=_chips(course), **looking.counted
        ),
        party_words=party_sentence([load for _, load in loads], display, **looking.counted),
        party_fields=[each for each, _ in PARTY.values()],
        party_values=party_texts(course, display),
    )


@dataclass(frozen=True)
class LedgerPanel:
    """What each of one person's pieces is for, and which are idle."""

    lines: list[Line]
    own: set[str]
    line_words: list[str]
    ledger_words: str
    ledger_steps: list[Step]


def ledger_panel(
    course: Course, result: Assessment, member: Person, idle: Idle, display: Display
) -> LedgerPanel:
    """The ledger of one person's pieces."""
    moments = {each.id: each for each in result.timeline.moments}
    lines = ledger(course, member, result, idle)
    return LedgerPanel(
        lines=lines,
        own={each.id for each in (*pieces_of(member), *member.items)},
        line_words=[line_sentence(course, line, moments, display) for line in lines],
        ledger_words=ledger_sentence(course, lines, display),
        ledger_steps=explain_idle(course, member, idle, moments, display),
    )


@dataclass(frozen=True)
class OwnPanel:
    """What one person may carry."""

    planned: Sequence[Field]
    values: dict[str, str]


def own_panel(course: Course, member: Person, display: Display) -> OwnPanel:
    """One person's own budget and strength."""
    return OwnPanel(planned=LOAD, values=texts_of(course, member, LOAD, display))


@dataclass(frozen=True)
class GroupPanel:
    """The group's kit, who carries it, and a split that was asked for."""

    group_words: str
    units: list[Unit]
    kits: dict[str, GroupKit]
    wanted: dict[str, int]
    shared: bool
    split_words: str
    split_rows: list[tuple[str, str, str]]
    split_steps: list[Step]


def group_panel(course: Course, split: Split | None, display: Display) -> GroupPanel:
    """The group's kit, and a split where one was asked for."""
    return GroupPanel(
        group_words=group_sentence(course, display),
        units=units(course),
        kits={kit.id: kit for kit in course.group},
        wanted={kit.id: wanted(course, kit) for kit in course.group},
        shared=bool(course.group) or any(tent.parts for tent in course.shelters),
        split_words=split_sentence(course, split, display) if split else "",
        split_rows=split_rows(course, split) if split else [],
        split_steps=explain_split(course, split, display) if split else [],
    )


def _chips(course: Course) -> dict[str, list[Chip]]:
    """The group's kit by who carries it, what nobody was given under an empty name."""
    kits = {kit.id: kit.name for kit in course.group}
    found: dict[str, list[Chip]] = {}
    for unit in units(course):
        chip = Chip(f"{unit.kit}.{unit.place}", kits[unit.kit], unit.mass_g)
        found.setdefault(unit.carrier or "", []).append(chip)
    return found


@dataclass(frozen=True)
class MattersPanel:
    """From which caution idle pieces would begin to matter, as far as it is worked out."""

    work: Told | None
    matters: list[tuple[str, str]]


def matters_panel(request: Request, held: Held) -> MattersPanel:
    """What is known of when idle pieces would matter."""
    work = works_of(request).of((held.id, held.mark, "matters"))
    names = {each.id: each.name for each in held.course.people}
    found: list[Matters] = (work.outcome if work else None) or []
    told = [(names[each.person], matters_sentence(each, display_of(request))) for each in found]
    return MattersPanel(work, told)
