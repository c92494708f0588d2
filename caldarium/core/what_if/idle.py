"""The ledger of grams: for every piece somebody has, what it is there for.

What is called idle can stay at home, all of it together, and no verdict is worse for it: that is
tried, not inferred.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from caldarium.core.assess import Assessment, assess_people
from caldarium.core.lists.judge import judge
from caldarium.core.lists.kept import kept_for_lists, meets_lists
from caldarium.core.load.supplies import food_left, fuel_verdict
from caldarium.core.night.nights import SLACK_MARGIN, Night
from caldarium.core.person_result import PersonResult
from caldarium.core.plan.changes import remove_piece
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.group_kit import units
from caldarium.core.plan.kit import BedPart, Garment, Item, Purpose
from caldarium.core.timeline.moments import Timeline, build_timeline
from caldarium.core.what_if.kept import Rule, kept_by_rule
from caldarium.core.what_if.progress import Heard, unheard
from caldarium.core.what_if.verdicts import Harm, harms

Verdict = Literal["closes", "needed", "idle", "kept", "choice"]
LineReason = Literal[
    "closes nothing",
    "carried out again",
    "closes a gap",
    "without it",
    "for the bed",
    "kept for the bed",
    "all day",
    "next to skin",
    "keeps weather off",
    "fingers",
    "no night",
    "bed short",
    "bed to spare",
    "bed holds",
    "spare set",
    "spare",
    "shades",
    "only one",
    "one shell",
    "under the pad",
    "the bed",
    "listed",
    "safety",
    "comfort",
    "food and water",
    "group",
    "warmth",
    "sleep",
    "shelter",
    "apart",
]
"""What a piece is there for. Figures: the gap it closes [clo], moments at which it is worn, the
bed's margin on its worst night [K], grams carried out again. Names: the moment at which it closes a
gap, or at which something is worse without it and what (see Harm)."""
STEPS_SD = (0.0, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 3.5, 4.0)
"""Cautions at which idle pieces are tried again [standard deviations]."""
FOOD_SPARE_DAYS = 1.0
"""Days of food that may come out again without being idle: judgement; a day's spare food is common
practice, no published source."""
LEAST_G = 50.0
"""Food and fuel carried out again below this are not worth a word [g]."""


@dataclass(frozen=True)
class Line:
    """One piece: its id, name, mass [g], and why it is there."""

    piece: str
    name: str
    grams: float
    verdict: Verdict
    why: Finding[LineReason]


@dataclass(frozen=True)
class Idle:
    """What one person can leave at home, all of it together; what stays by a rule; and of pieces
    that are needed though they close no gap, the gravest harm without them; and by which of their
    things lists are met."""

    pieces: tuple[str, ...]
    kept: dict[str, Rule] = field(default_factory=dict)
    harm: dict[str, Harm] = field(default_factory=dict)
    meets: frozenset[str] = frozenset()

    def grams(self, person: Person) -> float:
        """What that weighs [g]. Source: none, a sum."""
        return sum(each.mass_g for each in pieces_of(person) if each.id in self.pieces)


def pieces_of(person: Person) -> tuple[Garment | BedPart, ...]:
    """Clothes and pieces of the beds that somebody carries. Source: none, bookkeeping."""
    return (*person.garments, *person.bed_parts)


def idle_pieces(
    course: Course, result: Assessment, people: Sequence[str] | None = None
) -> dict[str, Idle]:
    """What people can leave at home without any verdict being worse.

    Every piece in doubt is left out by itself, then all of those that harm nothing together; where
    that harms, as many as harm nothing, heaviest first.

    Args:
        course: the plan.
        result: its assessment.
        people: ids of those looked at; everybody where not given.

    Returns:
        By person.

    Source: the same assessment without the pieces.
    """
    looked = [each for each in course.people if people is None or each.id in people]
    found = {each.person: each for each in result.people}
    kept = {each.id: kept_by_rule(course, each, found[each.id].doubted) for each in looked}
    judged = judge(course, result.timeline) if course.lists else ()
    unsure = {each.id: _in_doubt(each, found[each.id], kept[each.id]) for each in looked}
    for who, pieces in kept_for_lists(course, result.timeline, judged, unsure).items():
        kept[who] |= dict.fromkeys(pieces, "listed")
    doubted = {each.id: _in_doubt(each, found[each.id], kept[each.id]) for each in looked}
    asked = [(each, piece) for each in looked for piece in doubted[each.id]]
    singles = _tried(course, result.timeline, found, [(each, (piece,)) for each, piece in asked])
    harm: dict[str, dict[str, Harm]] = {each.id: {} for each in looked}
    for (person, piece), harmed in zip(asked, singles, strict=True):
        if harmed:
            harm[person.id][piece] = harmed[0]
    left = {
        each.id: [piece for piece in doubted[each.id] if piece not in harm[each.id]]
        for each in looked
    }
    out = _together(course, result.timeline, found, looked, left, harm)
    meets = meets_lists(course, judged)
    return {
        each.id: Idle(tuple(out[each.id]), kept[each.id], harm[each.id], meets[each.id])
        for each in looked
    }


def _in_doubt(person: Person, found: PersonResult, kept: dict[str, Rule]) -> list[str]:
    """Pieces that may be idle, heaviest first."""
    clothes = [each for each in person.garments if each.id in found.doubted]
    pieces = {each.id: each.mass_g for each in (*clothes, *person.bed_parts) if each.id not in kept}
    return sorted(pieces, key=lambda each: -pieces[each])


def _tried(
    course: Course,
    timeline: Timeline,
    found: dict[str, PersonResult],
    cases: Sequence[tuple[Person, Sequence[str]]],
) -> list[list[Harm]]:
    """What is worse for people without some of their pieces, all in one assessment."""
    if not cases:
        return []
    variants = tuple(without(person, pieces) for person, pieces in cases)
    after = assess_people(course, variants, timeline)
    return [harms(found[person.id], each) for (person, _), each in zip(cases, after, strict=True)]


def without(person: Person, pieces: Iterable[str]) -> Person:
    """Somebody without some pieces. Source: none, bookkeeping."""
    for piece in pieces:
        person = remove_piece(person, piece)
    return person


def _together(
    course: Course,
    timeline: Timeline,
    found: dict[str, PersonResult],
    people: Sequence[Person],
    left: dict[str, list[str]],
    harm: dict[str, dict[str, Harm]],
) -> dict[str, list[str]]:
    """As many of everybody's pieces as harm nothing together, tried in growing sets; the one with
    which a set first harms stays, and is said to."""
    out: dict[str, list[str]] = {each.id: [] for each in people}
    while any(left.values()):
        cases = [
            (each, (*out[each.id], *left[each.id][: count + 1]))
            for each in people
            for count in range(len(left[each.id]))
        ]
        tried = iter(_tried(course, timeline, found, cases))
        for each in people:
            mine = [next(tried) for _ in left[each.id]]
            good = next((at for at, harmed in enumerate(mine) if harmed), len(mine))
            out[each.id] += left[each.id][:good]
            if good < len(mine):
                harm[each.id][left[each.id][good]] = mine[good][0]
            left[each.id] = left[each.id][good + 1 :]
    return out


def ledger(course: Course, person: Person, result: Assessment, idle: Idle) -> list[Line]:
    """Everything that one person has, idle things first, then the owner's choices, heaviest first.

    Args:
        course: the plan.
        person: whose.
        result: what was found.
        idle: what of theirs is idle.

    Source: figures of the assessment; what is kept is the school's rule.
    """
    found = result.of(person.id)
    lines = [_garment(piece, found, idle) for piece in person.garments]
    lines += _bed(person, found.nights, idle)
    lines += [_item(item, item.id in idle.meets) for item in person.items]
    lines += _shared(course, person)
    lines += _provisions(course, person, result.timeline)
    order = {"idle": 0, "choice": 1, "closes": 2, "needed": 3, "kept": 4}
    return sorted(lines, key=lambda each: (order[each.verdict], -each.grams))


def for_lists_alone(
    course: Course, result: Assessment, idle: Mapping[str, Idle]
) -> dict[str, list[Line]]:
    """What people carry that would be idle, or their own choice, if no list asked for it.

    Args:
        course, result: the plan and what was found.
        idle: of everybody.

    Returns:
        By person, those who carry nothing so left out.

    Source: the ledger.
    """
    found = {
        each.id: [
            line
            for line in ledger(course, each, result, idle[each.id])
            if line.why.reason == "listed"
        ]
        for each in course.people
    }
    return {who: lines for who, lines in found.items() if lines}


def _garment(piece: Garment, found: PersonResult, idle: Idle) -> Line:
    worn = (float(sum(piece.id in state.worn for state in found.moments)),)
    verdict: Verdict = "needed"
    why: Finding[LineReason] = Finding("for the bed")
    rule = idle.kept.get(piece.id)
    if piece.id in idle.pieces:
        verdict, why = "idle", Finding("closes nothing")
    elif rule is not None:
        verdict, why = "kept", Finding(rule)
    elif piece.id in found.closes:
        where, clo = found.closes[piece.id]
        verdict, why = "closes", Finding("closes a gap", (where,), (clo,))
    elif piece.id in idle.harm:
        harm = idle.harm[piece.id]
        verdict, why = "closes", Finding("without it", (harm.moment, harm.kind))
    elif piece.only_asleep:
        why = Finding("kept for the bed")
    elif piece.always:
        why = Finding("all day")
    elif piece.layer == "base":
        why = Finding("next to skin", figures=worn)
    elif piece.layer == "shell":
        why = Finding("keeps weather off", figures=worn)
    elif set(piece.cover) == {"hands"}:
        why = Finding("fingers", figures=worn)
    return Line(piece.id, piece.name, piece.mass_g, verdict, why)


def _bed(person: Person, nights: tuple[Night, ...], idle: Idle) -> list[Line]:
    """Every piece of the beds that somebody carries, by the nights that they lie in it."""
    slept = [(night, {part.id for part in person.bed_on(night.day).parts}) for night in nights]
    found: list[Line] = []
    for part in person.bed_parts:
        margins = [night.margin for night, parts in slept if part.id in parts]
        verdict: Verdict = "needed" if margins else "idle"
        why: Finding[LineReason] = Finding("no night")
        if margins and part.id in idle.pieces:
            verdict, why = "idle", Finding("closes nothing")
        elif (rule := idle.kept.get(part.id)) in ("under the pad", "listed"):
            verdict, why = "kept", Finding(rule)
        elif part.id in idle.harm:
            harm = idle.harm[part.id]
            verdict, why = "closes", Finding("without it", (harm.moment, harm.kind))
        elif margins:
            margin = min(margins)
            reason: LineReason = "bed short" if margin < 0 else "bed holds"
            if margin > SLACK_MARGIN:
                reason = "bed to spare"
            why = Finding(reason, figures=(margin,))
        found.append(Line(part.id, part.name, part.mass_g, verdict, why))
    return found


_ITEMS: dict[Purpose, Verdict] = {
    "safety": "kept",
    "comfort": "choice",
    "food and water": "needed",
    "group": "needed",
    "warmth": "needed",
    "sleep": "needed",
    "shelter": "needed",
}


def _item(item: Item, meets: bool) -> Line:
    verdict: Verdict = _ITEMS[item.purpose]
    reason: LineReason = item.purpose
    if item.listed or (meets and verdict != "needed"):
        verdict, reason = "kept", "listed"
    elif item.apart:
        verdict, reason = "choice", "apart"
    elif item.spare:
        verdict, reason = "kept", "spare"
    why: Finding[LineReason] = Finding(reason)
    return Line(item.id, item.name, item.grams, verdict, why)


def _shared(course: Course, person: Person) -> list[Line]:
    """Pieces of the group's kit and parts of shelters on this back."""
    kits = {kit.id: kit for kit in course.group}
    found: list[Line] = []
    for unit in units(course):
        if unit.carrier == person.id:
            kit = kits[unit.kit]
            why: Finding[LineReason] = Finding(kit.purpose)
            verdict = _ITEMS[kit.purpose]
            found.append(Line(f"{kit.id}.{unit.place}", kit.name, unit.mass_g, verdict, why))
    for shelter in course.shelters:
        for part in shelter.parts:
            if part.carried_by == person.id:
                name = f"{part.name} of {shelter.name}"
                found.append(
                    Line(f"{shelter.id}.{part.id}", name, part.mass_g, "needed", Finding("shelter"))
                )
    return found


def _provisions(course: Course, person: Person, timeline: Timeline) -> list[Line]:
    """Food and fuel that come out again beyond what is kept to spare."""
    found: list[Line] = []
    days = len(course.days)
    food = food_left(course, person, timeline) - FOOD_SPARE_DAYS * person.food_g_a_day
    if food > LEAST_G and days > FOOD_SPARE_DAYS:
        found.append(Line("food", "food", food, "idle", Finding("carried out again")))
    over, planned = fuel_verdict(course, timeline).over, person.fuel_g_a_day * days
    there = sum(each.fuel_g_a_day for each in course.people) * days
    mine = min(over, there) * planned / there if there > 0 else 0.0
    if mine > LEAST_G:
        found.append(Line("fuel", "fuel", mine, "idle", Finding("carried out again")))
    return found


@dataclass(frozen=True)
class Matters:
    """An idle piece, and the caution from which a verdict is worse without it [standard
    deviations], None where none is within what was tried."""

    person: str
    piece: str
    name: str
    grams: float
    from_sd: float | None


def when_idle_matters(
    course: Course,
    result: Assessment,
    heard: Heard = unheard,
    people: Sequence[str] | None = None,
) -> list[Matters]:
    """For every idle piece the caution at which it would begin to matter, by trying.

    Args:
        course: the plan.
        result: its assessment.
        heard: hears how far it is, a step a caution.
        people: ids of those looked at; everybody where not given.

    Returns:
        Heaviest first.

    Source: the assessment at cautions of STEPS_SD, with each piece and without it.
    """
    idle = idle_pieces(course, result, people)
    waiting = [(course.person(who), piece) for who, mine in idle.items() for piece in mine.pieces]
    found: dict[tuple[str, str], float] = {}
    now = {"as forecast": 0.0, "cautious": course.cautious_sd, "expedition": course.expedition_sd}
    for done, deviations in enumerate(STEPS_SD):
        heard(done / len(STEPS_SD))
        left = [(who, piece) for who, piece in waiting if (who.id, piece) not in found]
        if deviations <= now[course.caution] or not left:
            continue
        harder = course.altered(
            caution="expedition",
            expedition_sd=deviations,
            cautious_sd=min(course.cautious_sd, deviations),
        )
        timeline = build_timeline(harder)
        whole = {who.id: who for who, _ in left}
        variants = (*whole.values(), *(without(who, (piece,)) for who, piece in left))
        judged = assess_people(harder, variants, timeline)
        before = dict(zip(whole, judged, strict=False))
        for (who, piece), after in zip(left, judged[len(whole) :], strict=True):
            if harms(before[who.id], after):
                found[who.id, piece] = deviations
    return sorted(
        (
            Matters(who.id, piece, each.name, each.mass_g, found.get((who.id, piece)))
            for who, piece in waiting
            for each in pieces_of(who)
            if each.id == piece
        ),
        key=lambda each: (-each.grams, each.person, each.piece),
    )
