"""What the pages of the lightest set show, laid out."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from caldarium.core.lighten.frontier import BySource, Tread, forecast_worst, ready_of
from caldarium.core.lighten.lever import Lever, Levers
from caldarium.core.lighten.offers import own_grams, own_pieces
from caldarium.core.lighten.party import Party
from caldarium.core.lighten.phases import Phases, leg_ends
from caldarium.core.lighten.proposal import Proposal, Reason, bed_keys
from caldarium.core.lighten.shelters import Pitched
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.timeline.weather import deviations
from caldarium.drawings.stair import change_bar, stair
from caldarium.drawings.svg import Svg
from caldarium.web.lighten.work import Asked, Costs, place_word
from caldarium.words import lighten as words
from caldarium.words.course import moment_name
from caldarium.words.food import leg_title
from caldarium.words.steps import Step
from caldarium.words.stock import SOURCE_NAMES
from caldarium.words.units import Display


@dataclass(frozen=True)
class ChangeRow:
    """A piece that comes in or goes out: what it is ticked by, its grams drawn and written, where
    it comes from, and why."""

    key: str
    way: str
    name: str
    grams: str
    bar: Svg
    source: str
    why: str


@dataclass(frozen=True)
class KeptRow:
    """A piece of the set: why it is in, the lighter ones that lost, and where it is forced."""

    name: str
    grams: str
    why: str
    lost: list[str]
    leave: str
    forced: bool


@dataclass(frozen=True)
class RuleRow:
    """A rule that a set keeps, and the address at which it is off."""

    told: str
    off: str


@dataclass(frozen=True)
class FoundPanel:
    """A proposal: its sentence, what changes, why each piece is in, rules, how it was found."""

    sentence: str
    changes: list[ChangeRow]
    kept: list[KeptRow]
    rules: list[RuleRow]
    beyond: list[str]
    milder: list[str]
    cost: str
    gap: bool
    same: bool
    found_steps: list[Step]


def found_panel(
    course: Course,
    found: Proposal,
    asked: Asked,
    address: Callable[[Asked], str],
    display: Display,
) -> FoundPanel:
    """What was found for one person, laid out."""
    names = {each.id: moment_name(course, each) for each in build_timeline(course).moments}
    reasons = {each.key: each for each in found.reasons}
    after = own_pieces(found.after) if found.after is not None else []
    return FoundPanel(
        sentence=words.proposal_sentence(found, asked.from_where, display),
        changes=_changes(found, reasons, names, display),
        kept=[
            KeptRow(
                piece.name,
                display.mass(piece.mass_g),
                words.reason_words(reasons[piece.id], names, display),
                [words.lost_words(each, names, display) for each in reasons[piece.id].lost],
                address(_listed(asked, "outside", piece.id)),
                piece.id in asked.wish.inside,
            )
            for piece in after
            if piece.id in reasons
        ],
        rules=[
            RuleRow(words.rule_words(each), address(_listed(asked, "without", each.name)))
            for each in found.rules
        ],
        beyond=sorted(
            f"{names.get(moment, moment)}: {words.failing_words([(moment, kind)])}"
            for moment, kind in found.beyond
        ),
        milder=words.milder_words(found, names),
        cost=words.cost_words(found.cost),
        gap=not found.proven,
        same=found.after is not None and not found.incoming and not found.outgoing,
        found_steps=words.explain_lighten(found, display),
    )


def _listed(asked: Asked, name: str, key: str) -> Asked:
    """What is asked with one more word in a list."""
    now = [each for each in getattr(asked, name).split(",") if each]
    return replace(asked, **{name: ",".join(dict.fromkeys([*now, key]))}, longer=0)


def _changes(
    found: Proposal, reasons: dict[str, Reason], names: dict[str, str], display: Display
) -> list[ChangeRow]:
    """What goes out, then what comes in; pieces of the bed are ticked together."""
    most = max(
        [piece.mass_g for piece in found.outgoing] + [each.piece.mass_g for each in found.incoming],
        default=1.0,
    )
    beds = bed_keys(found)
    rows = [
        ChangeRow(
            "bed" if piece.id in beds else piece.id,
            "out",
            piece.name,
            words.change_words(-piece.mass_g, display),
            change_bar(-piece.mass_g, most),
            "",
            "",
        )
        for piece in found.outgoing
    ]
    return rows + [
        ChangeRow(
            "bed" if each.key in beds else each.key,
            "in",
            each.piece.name,
            words.change_words(each.piece.mass_g, display),
            change_bar(each.piece.mass_g, most),
            SOURCE_NAMES[each.source],
            words.reason_words(reasons[each.key], names, display) if each.key in reasons else "",
        )
        for each in found.incoming
    ]


@dataclass(frozen=True)
class StairRow:
    """A step of caution: its words, grams, what comes in, how sure; its place, and whether it has
    something to leave ready at the road."""

    caution: str
    low: str
    grams: str
    step: str
    sure: str
    at: int
    ready: bool


@dataclass(frozen=True)
class StairPanel:
    """What caution costs: the stair, its steps, sets by source, and whether looking on could find
    more."""

    drawing: Svg
    rows: list[StairRow]
    sources: list[tuple[str, str, str, str]]
    unproven: bool
    stair_steps: list[Step]


@dataclass(frozen=True)
class PartyRow:
    """One person of a party: what they have and would have, in a sentence, what comes in and goes
    out; whether there is a set to take that changes anything."""

    person: str
    name: str
    before: str
    after: str
    told: str
    incoming: str
    outgoing: str
    some: bool


@dataclass(frozen=True)
class PartyPanel:
    """What was found for a party: its sentence, its people, how it was found, and whether looking
    on could find more."""

    sentence: str
    rows: list[PartyRow]
    party_steps: list[Step]
    unproven: bool


def party_panel(found: Party, asked: Asked, display: Display) -> PartyPanel:
    """What was found for a party, laid out."""
    rows = [
        PartyRow(
            each.before.id,
            each.before.name,
            display.mass(each.grams_before),
            display.mass(each.grams) if each.after is not None else "none",
            words.proposal_sentence(each, asked.from_where, display, shared=bool(found.scarce)),
            ", ".join(offer.piece.name for offer in each.incoming),
            ", ".join(piece.name for piece in each.outgoing),
            each.after is not None and bool(each.incoming or each.outgoing or each.closes),
        )
        for each in found.proposals
    ]
    sentence = words.party_sentence(found, display)
    return PartyPanel(sentence, rows, words.explain_party(found, display), not found.proven)


@dataclass(frozen=True)
class ReadyRow:
    """What is left at the road for somebody: for which forecast, its mass, and what the forecast of
    now says."""

    name: str
    below: str
    taken: str
    grams: str
    told: str


def ready_rows(course: Course, display: Display) -> list[ReadyRow]:
    """What is left ready at the road, laid out."""
    names = {person.id: person.name for person in course.people}
    if not course.ready:
        return []
    now = forecast_worst(course)
    return [
        ReadyRow(
            names.get(each.person, each.person),
            words.trigger_words(each, display),
            words.taken_words(each),
            words.change_words(each.grams, display),
            words.ready_words(each, now, display),
        )
        for each in course.ready
    ]


def stair_panel(
    course: Course, person: Person, found: Costs, display: Display
) -> StairPanel | None:
    """What caution costs one person, laid out; nothing where no step has a set."""
    treads = found.treads
    if not treads:
        return None
    return StairPanel(
        stair(treads, own_grams(person), deviations(course), course.caution, display),
        [_stair_row(treads, at, display) for at in range(len(treads))],
        [_source_row(each, display) for each in found.sources],
        not all(each.proposal.proven for each in (*treads, *found.sources)),
        words.explain_costs(treads, display),
    )


def _stair_row(treads: tuple[Tread, ...], at: int, display: Display) -> StairRow:
    tread, before = treads[at], treads[at - 1] if at else None
    return StairRow(
        words.caution_words(tread.deviations),
        words.low_words(tread.worst.low, display),
        display.mass(tread.grams),
        words.tread_words(tread, before, display),
        words.sure_words(tread.proposal, display),
        at,
        ready_of(treads, at) is not None,
    )


def _source_row(each: BySource, display: Display) -> tuple[str, str, str, str]:
    found = each.proposal
    cost, sure = words.cost_words(found.cost), words.sure_words(found, display)
    return words.sources_words(each), display.mass(found.grams), cost, sure


@dataclass(frozen=True)
class LeverRow:
    """A piece that helps: its key, name, where it is from, what it does for whom, grams and cost of
    one; how many more are wanted than there are; whether there is one to give, and to whom."""

    key: str
    name: str
    source: str
    does: str
    who: str
    grams: str
    cost: str
    short: str
    give: str


@dataclass(frozen=True)
class LeversPanel:
    """What helps most people: a sentence, what warms, what lightens, and how it was found."""

    sentence: str
    warm: list[LeverRow]
    lighten: list[LeverRow]
    levers_steps: list[Step]


MOST_LEVERS = 8
"""Pieces that are shown of those that warm, and of those that lighten."""


def levers_panel(course: Course, found: Levers, display: Display) -> LeversPanel:
    """What helps most people, laid out."""
    return LeversPanel(
        words.levers_sentence(found, display),
        [_lever_row(course, each, display) for each in found.warm[:MOST_LEVERS]],
        [_lever_row(course, each, display) for each in found.lighten[:MOST_LEVERS]],
        words.explain_levers(found, display),
    )


def _lever_row(course: Course, each: Lever, display: Display) -> LeverRow:
    names = {person.id: person.name.split()[0] for person in course.people}
    return LeverRow(
        each.offer.key,
        each.offer.piece.name,
        words.there_words(each),
        words.lever_words(each, display),
        ", ".join(words.helped_words(one, names, display) for one in each.helped),
        display.mass(each.offer.piece.mass_g),
        "" if each.offer.source == "store" else words.cost_words(each.offer.cost),
        words.short_words(each),
        ", ".join(names[one.person] for one in each.given),
    )


@dataclass(frozen=True)
class PlaceRow:
    """A place where things can be left: its word, its name, and whether it is chosen."""

    word: str
    name: str
    on: bool


def place_rows(course: Course, asked: Asked) -> list[PlaceRow]:
    """Every place where things could be left, laid out."""
    chosen = asked.ends(course)
    return [
        PlaceRow(place_word(each), leg_title(course, each.day, each.leg), each in chosen)
        for each in leg_ends(course)
    ]


@dataclass(frozen=True)
class PhaseRow:
    """A piece that need not go all the way."""

    key: str
    name: str
    grams: str
    told: str
    share: str


@dataclass(frozen=True)
class PhasesPanel:
    """What need not go all the way: a sentence, its pieces, how it was found."""

    sentence: str
    rows: list[PhaseRow]
    phases_steps: list[Step]


def phases_panel(course: Course, found: Phases, display: Display) -> PhasesPanel:
    """What need not go all the way, laid out."""
    return PhasesPanel(
        words.phases_sentence(found, display),
        [
            PhaseRow(
                each.piece.id,
                each.piece.name,
                display.mass(each.piece.mass_g),
                words.phase_words(course, each),
                f"{100 * each.share:.0f} %",
            )
            for each in found.found
        ],
        words.explain_phases(found, display),
    )


@dataclass(frozen=True)
class SheltersPanel:
    """What was found of shelters: a sentence; each shelter with its mass, source and sleepers; what
    gets worse; whether there is something to take, and how it was found."""

    sentence: str
    rows: list[tuple[str, str, str, str]]
    lost: list[str]
    some: bool
    shelters_steps: list[Step]


def shelters_panel(course: Course, found: Pitched, display: Display) -> SheltersPanel:
    """What was found of shelters, laid out."""
    sleepers = found.after.people if found.after is not None else ()
    return SheltersPanel(
        words.shelters_sentence(found, display),
        [
            (
                each.name,
                display.mass(each.mass_g),
                SOURCE_NAMES[source],
                ", ".join(p.name.split()[0] for p in sleepers if p.shelter == each.id),
            )
            for each, source in found.tents
        ],
        [
            f"{course.person(who).name}: {words.failing_words(fails)}"
            for who, fails in found.lost.items()
        ],
        found.after is not None and found.after.shelters != course.shelters,
        words.explain_shelters(found, display),
    )
