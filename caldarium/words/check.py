"""Lists of gear and checks in words: what is asked, how it stands, what would mend it."""

import calendar
from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date

from caldarium.core.check.cures import Cure
from caldarium.core.check.record import (
    PARTY,
    Back,
    HandBack,
    HandOut,
    Record,
    Said,
    Tick,
    Told,
    Unready,
)
from caldarium.core.lists.holdings import PROVISIONS, Holding
from caldarium.core.lists.judge import Judged, State, Subject
from caldarium.core.lists.parts import Short
from caldarium.core.plan.course import Course
from caldarium.core.plan.gear_list import Entry, GearList, Least, Sort, Wanted, When
from caldarium.core.stock.supply import Source
from caldarium.core.what_if.idle import Line
from caldarium.words.course import counted
from caldarium.words.steps import Step
from caldarium.words.stock import SOURCE_NAMES
from caldarium.words.units import Display

STATE_NAMES: Mapping[State, str] = {
    "met": "there",
    "alternative": "there, another way",
    "elsewhere": "with somebody else",
    "not said": "not said",
    "too weak": "too weak",
    "missing": "missing",
}
STATE_MARKS: Mapping[State, str] = {
    "met": "✓",
    "alternative": "✓",
    "elsewhere": "✓",
    "not said": "?",
    "too weak": "▽",
    "missing": "✕",
}
SAID_NAMES: Mapping[Said, str] = {"yes": "there", "no": "not there", "lent": "lent"}
BACK_NAMES: Mapping[Back, str] = {
    "returned": "returned",
    "wet": "returned wet",
    "damaged": "damaged",
    "missing": "missing",
}
SORT_NAMES: Mapping[Sort, str] = {
    "anything": "anything",
    "hat": "hat",
    "face cover": "face cover",
    "handwear": "pair of gloves or mitts",
    "socks": "pair of socks",
    "footwear": "pair of shoes or boots",
    "base layer above": "base layer above",
    "base layer below": "base layer below",
    "warm layer above": "warm layer above",
    "warm layer below": "warm layer below",
    "shell above": "shell above",
    "shell below": "shell below",
    "trousers": "trousers",
    "bag": "sleeping bag or quilt",
    "pad": "sleeping pad",
    "liner": "liner",
    "cover": "bag cover",
    "hammock": "hammock",
    "shelter": "shelter",
    "pack": "pack",
    "cook": "cooking thing",
    "fuel": "fuel",
    "food": "food",
    "water": "bottle or water thing",
    "light": "light",
    "navigation": "thing to find the way",
    "communication": "thing to call with",
    "first aid": "first aid",
    "repair": "repair thing",
    "hygiene": "hygiene thing",
    "snow and technical": "snow or technical thing",
    "electronics": "electronics",
    "teaching": "teaching thing",
    "comfort": "comfort thing",
}
_FACTS = {
    "comfort_c": ("comfort figure", "or lower"),
    "limit_c": ("limit figure", "or lower"),
    "r_value": ("R", "or more together"),
    "clo": ("warmth", "or more"),
    "litres": ("room", "or more together"),
    "kcal": ("energy", "or more"),
    "light_h": ("hours of light", "or more"),
    "water_mm": ("water column", "or more"),
    "mass_g": ("mass", "at most"),
}
_YES = {"taped": "taped seams", "waterproof": "waterproof", "insulated": "insulated"}
_ASKED = {
    "taped": "its seams are taped",
    "waterproof": "it is waterproof",
    "insulated": "it is insulated",
}


def told_words(told: Told) -> str:
    """When something was told, by this machine's clock, and by whom. Source: the record."""
    by = f" by {told.by}" if told.by else ""
    return f"{told.at.astimezone():%-d %b %H:%M}{by}"


def said_words(tick: Tick) -> str:
    """What was said of a line, with its tag and note. Source: the record."""
    told = SAID_NAMES[tick.said] + (f" {tick.tag}" if tick.tag else "")
    return told + (f": {tick.note}" if tick.note else "")


def back_words(what: HandOut, told: Told, back: HandBack) -> str:
    """What became of something handed out, and when. Source: the record."""
    many = f"{counted(back.count, 'piece')} " if what.count > 1 else ""
    condition = f", {back.condition}" if back.condition else ""
    note = f": {back.note}" if back.note else ""
    return f"{many}{BACK_NAMES[back.state]}{condition}{note}, {told_words(told)}"


def due_sentence(record: Record, last: date, today: date) -> str:
    """How much is out, and until when. Source: the record; due with the course's last day."""
    if not record.outs:
        return "Nothing has been handed out yet."
    out = sum(each.due for each in record.outs)
    if not out:
        return "Nothing is still out."
    late = "overdue since" if today > last else "due back after"
    still = counted(out, "piece is", "pieces are")
    return f"{still} still out, {late} {last:%A %-d %B %Y}."


def figure_words(fact: str, value: float, display: Display) -> str:
    """One figure of a quality with its unit. Source: wording."""
    match fact:
        case "comfort_c" | "limit_c":
            return display.temperature(value)
        case "litres":
            return display.volume(value)
        case "kcal":
            return f"{value:,.0f} kcal"
        case "light_h":
            return f"{value:g} h"
        case "water_mm":
            return display.column(value)
        case "mass_g":
            return display.mass(value)
        case "clo":
            return f"{value:.2g} clo"
        case _:
            return f"{value:g}"


def quality_words(least: Least, display: Display) -> str:
    """What quality is asked; empty for none. Source: the list."""
    told = [words for name, words in _YES.items() if getattr(least, name)]
    for name, (label, end) in _FACTS.items():
        value = getattr(least, name)
        if value is not None:
            told.append(f"{label} {figure_words(name, value, display)} {end}")
    return ", ".join(told)


def wanted_words(wanted: Wanted, display: Display, *, whole: bool = True) -> str:
    """One part of what is asked; as a whole with how many of it and what does not count.

    Source: the list.
    """
    if wanted.names:
        told = " or ".join(f"“{each}”" for each in wanted.names)
        if wanted.sort != "anything":
            told = f"{SORT_NAMES[wanted.sort]} named {told}"
    else:
        told = SORT_NAMES[wanted.sort]
    if wanted.count > 1 and whole:
        told = f"{wanted.count} × {told}"
    if wanted.but_not and whole:
        told += ", but not " + " or ".join(f"“{each}”" for each in wanted.but_not)
    quality = quality_words(wanted.least, display)
    return f"{told} ({quality})" if quality else told


def ways_words(entry: Entry, display: Display) -> list[str]:
    """Every way in which a line is met. Source: the list."""
    return [" and ".join(wanted_words(part, display) for part in way.parts) for way in entry.ways]


_OF = {
    "head": "everybody",
    "instructor": "every instructor",
    "rope": "every rope",
    "tent": "every tent",
    "party": "the party",
}


def asked_of(entry: Entry) -> str:
    """Whom a line is asked of. Source: the list."""
    if entry.of == "party" and entry.per:
        return f"for every {entry.per} people" if entry.per > 1 else "for every head of the party"
    return _OF[entry.of]


def when_words(when: When, display: Display) -> str:
    """When a line is asked; empty for always. Source: the list."""
    told: list[str] = []
    if when.snow:
        told.append("on snow")
    if when.glacier:
        told.append("on a glacier")
    if when.river:
        told.append("where a river is crossed")
    if when.above_m is not None:
        told.append(f"above {display.altitude(when.above_m)}")
    if when.below_c is not None:
        told.append(f"where less than {display.temperature(when.below_c)} is forecast")
    if when.months:
        told.append("in " + ", ".join(calendar.month_name[each] for each in sorted(when.months)))
    if when.nights:
        told.append(f"from {counted(when.nights, 'night', 'nights')} on")
    if when.people:
        told.append(f"from {when.people} people on")
    if when.younger_than is not None:
        told.append(f"for whoever is younger than {when.younger_than}")
    return ", ".join(told)


def list_facts(listed: GearList) -> str:
    """Where a list is from, when it was written, how long it is. Source: the list."""
    told = [each for each in (listed.issuer, listed.source) if each]
    if listed.dated is not None:
        told.append(f"of {listed.dated.isoformat()}")
    told.append(counted(len(listed.entries), "line", "lines"))
    if listed.once:
        told.append("a piece counts once")
    return "; ".join(told)


def subject_name(course: Course, subject: Subject) -> str:
    """Whom a line was judged for. Source: the plan."""
    if subject.of in ("head", "instructor"):
        return course.person(subject.id).name
    if subject.of == "tent":
        return next((each.name for each in course.shelters if each.id == subject.id), subject.id)
    return "the ropes" if subject.of == "rope" else "the party"


def _plain_name(holding: Holding) -> str:
    return "planned food" if holding.id == PROVISIONS else holding.name


def holding_name(holding: Holding) -> str:
    """What a thing is called, with how many of it. Source: the plan."""
    return pieces_words([holding])


def pieces_words(pieces: Sequence[Holding]) -> str:
    """Things by name, alike ones together. Source: the plan."""
    found: dict[str, int] = {}
    for each in pieces:
        found[_plain_name(each)] = found.get(_plain_name(each), 0) + each.count
    return ", ".join(f"{count} × {name}" if count > 1 else name for name, count in found.items())


def short_words(short: Short, display: Display) -> str:
    """What is too weak, by how much. Source: core.lists.judge."""
    if short.fact in _YES:
        if short.has is None:
            return f"nobody said whether {_ASKED[short.fact]}"
        return "its seams are not taped" if short.fact == "taped" else f"not {_YES[short.fact]}"
    label, end = _FACTS[short.fact]
    asked = f"asked is {figure_words(short.fact, short.asked, display)} {end}"
    if short.has is None:
        return f"nobody said its {label}; {asked}"
    return f"{label} {figure_words(short.fact, short.has, display)}, {asked}"


def judged_words(judged: Judged, course: Course, display: Display) -> str:
    """How a line stands for one subject, in a sentence. Source: core.lists.judge."""
    have = pieces_words(judged.pieces)
    match judged.state:
        case "met":
            return f"{have}."
        case "alternative":
            return f"{have}: an alternative that the list allows."
        case "elsewhere":
            names = [course.person(each).name for each in judged.elsewhere]
            who = ", ".join(names) if names else "nobody yet, it is the group's"
            return f"{have}: carried by {who}."
        case "too weak" | "not said":
            why = "; ".join(short_words(each, display) for each in judged.short)
            weak = _plain_name(judged.nearest) if judged.nearest is not None else "nothing"
            return f"{weak}: {why}."
        case "missing":
            wanted = wanted_words(judged.lacks, display, whole=False) if judged.lacks else "it"
            some = f"{judged.has} of {judged.asked}, "
            told = f"no {wanted}" if judged.asked == 1 else some + wanted
            return f"{told}; there is {have}." if have else f"{told}."


def explain_judged(
    judged: Judged, entry: Entry, listed: GearList, course: Course, display: Display
) -> list[Step]:
    """What was asked, what counted and what was found. Source: core.lists.judge."""
    ways = ways_words(entry, display)
    steps = [
        Step(
            "asked",
            asked_of(entry),
            "; or ".join(ways),
            f"{listed.name}; {list_facts(listed)}",
        )
    ]
    if not entry.when.always:
        steps.append(
            Step("only", when_words(entry.when, display), "all of it is so here", "the list")
        )
    name = subject_name(course, judged.subject)
    for each in judged.pieces:
        told = [
            f"{_FACTS[fact][0]} {figure_words(fact, float(value), display)}"
            + (" by the model of its other figure" if fact in each.derived else "")
            for fact, value in each.facts.items()
            if fact in _FACTS and value is not None
        ]
        told += [words for fact, words in _YES.items() if each.facts.get(fact)]
        who = course.person(each.who).name if each.who is not None else "the group's"
        steps.append(Step(holding_name(each), who, ", ".join(told) or "by its name", "the plan"))
    found = f"{judged.has} of {judged.asked}"
    steps.append(
        Step(
            name,
            STATE_NAMES[judged.state],
            f"{found}; the lightest that are good enough count first",
            "the list and the plan; sorts and names are compared, the user's word goes before both",
        )
    )
    return steps


def explain_only_listed(
    course: Course, found: Mapping[str, Sequence[Line]], display: Display
) -> list[Step]:
    """How what is carried for lists alone was found. Source: core.what_if.idle."""
    whole = sum(line.grams for lines in found.values() for line in lines)
    told = [
        Step(
            "all together",
            display.mass(whole),
            "clothes and beds without which nothing is worse and a line would be lost: all of them "
            "are left out, the lists judged again, and enough put back; things that would be the "
            "owner's choice and meet a line",
            "the assessment and the lists, of lines that must be met",
        )
    ]
    return told + [
        Step(
            course.person(who).name,
            display.mass(sum(line.grams for line in lines)),
            " + ".join(f"{line.name} {display.mass(line.grams)}" for line in lines),
            "masses of the plan",
        )
        for who, lines in found.items()
    ]


def cure_words(cure: Cure, display: Display) -> str:
    """What one press would give. Source: the store."""
    many = f"{cure.count} × " if cure.count > 1 else ""
    told = f"{many}{cure.piece.name}, {display.mass(cure.grams)}, {_whence(cure.source)}"
    if cure.source in ("hire", "buy") and cure.cost:
        told += f" for {cure.cost * cure.count:g}"
    if cure.swaps:
        told += ", in the place of what is too weak"
    return told


def _whence(source: Source) -> str:
    return f"from {SOURCE_NAMES[source]}" if source == "store" else SOURCE_NAMES[source]


def given_words(course: Course, given: Sequence[tuple[str, Cure]], display: Display) -> str:
    """What was given to whom, in a few words. Source: core.check.cures."""
    grams = display.mass(sum(cure.grams for _, cure in given))
    name = given[0][1].piece.name
    if len(given) == 1:
        who, cure = given[0]
        many = f"{cure.count} × " if cure.count > 1 else ""
        return f"{many}{name} to {course.person(who).name} ({grams})"
    sources: Counter[Source] = Counter(cure.source for _, cure in given)
    whence = ", ".join(f"{many} {_whence(source)}" for source, many in sources.items())
    return f"{name} to {len(given)} people ({grams}; {whence})"


def lists_sentence(judged: Sequence[Judged], must: frozenset[tuple[str, str]]) -> str:
    """How all lists stand, in a sentence. Source: core.lists.judge."""
    if not judged:
        return "No list is asked of this course yet."
    asked = [each for each in judged if (each.list, each.entry) in must]
    bad = [each for each in asked if not each.good]
    if not bad:
        more = sum(not each.good for each in judged)
        told = (
            f"All {counted(len(asked), 'thing that must', 'things that must')} be there are there"
        )
        if not more:
            return f"{told}."
        return f"{told}; {counted(more, 'recommended thing is', 'recommended things are')} not."
    by_state: dict[State, int] = {}
    for each in bad:
        by_state[each.state] = by_state.get(each.state, 0) + 1
    parts = [f"{count} {STATE_NAMES[state]}" for state, count in by_state.items()]
    good = f"{len(asked) - len(bad)} of {len(asked)} things that must be there are there"
    return f"{good}; {', '.join(parts)}."


def unready_words(found: Unready, course: Course, subject: str) -> str:
    """Why a signature is not given yet. Source: core.check.record."""
    who = "The course" if subject == PARTY else course.person(subject).name
    named = [f"“{each}”" for each in found.names] if subject != PARTY else list(found.names)
    few = ", ".join(named[:3]) + (f" and {len(named) - 3} more" if len(named) > 3 else "")
    match found.reason:
        case "not checked":
            return f"{who} cannot be signed off yet: not looked at: {few}."
        case "not there":
            return f"{who} cannot be signed off: not there: {few}."
        case "people first":
            return f"The course is signed off after everybody; still open: {few}."


def broken_words(course: Course, subject: str, lost: Sequence[Judged]) -> str:
    """What a change after a signature broke. Source: core.check.record."""
    texts = {(each.id, e.id): e.text for each in course.lists for e in each.entries}
    who = "The course" if subject == PARTY else course.person(subject).name
    named = [texts.get((each.list, each.entry), each.entry) for each in lost[:4]]
    told = ", ".join(f"“{each}”" for each in named)
    return f"{who} was signed off, and since then the plan has changed: no longer there: {told}."
