"""Sentences on loads, water, shared kit and idle grams, with the numbers that decide them."""

from collections.abc import Mapping, Sequence
from typing import assert_never

from caldarium.core.load.loads import Load
from caldarium.core.load.share import Split
from caldarium.core.load.sheet import totals
from caldarium.core.load.weighing import Candidate, PackCheck
from caldarium.core.person_result import PersonResult
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.group_kit import units
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.idle import Idle, Line, LineReason, Matters, pieces_of
from caldarium.core.what_if.kept import Rule
from caldarium.words.course import moment_name
from caldarium.words.lists import totals_sentence
from caldarium.words.units import Display, clock_text


def load_hours_sentence(
    load: Load, display: Display, *, worn: bool = True, apart: bool = True
) -> str:
    """A load over the hours against budget and limit, by the school of accounting chosen.

    Source: figures of the assessment.
    """
    totals = load.totals(worn=worn, apart=apart)
    place = totals.index(max(totals))
    heaviest = f"{display.load(totals[place])}, {totals[place] / load.body_mass:.0%} of body mass"
    day = int(load.hour[place] // 24) + 1
    hour = load.hour[place] % 24
    when = f"day {day} at {clock_text(hour)}" if hour else f"the morning of day {day}"
    ends = f"{display.load(totals[-1])} at the end"
    standing = load.standing(totals[place])
    mark = load.limit if standing == "over the limit" else load.budget
    off = display.load(abs(totals[place] - mark))
    school = _school(worn=worn, apart=apart)
    return f"Heaviest on {when}{school}: {heaviest}, {off} {standing}; {ends}."


def _school(*, worn: bool, apart: bool) -> str:
    """What the figures leave out, in words."""
    left = [
        words
        for counts, words in ((worn, "what is worn"), (apart, "teaching and camera kit"))
        if not counts
    ]
    return f", without {' and '.join(left)}" if left else ""


def party_sentence(
    loads: Sequence[Load], display: Display, *, worn: bool = True, apart: bool = True
) -> str:
    """What the whole party has at its heaviest against all its budgets, by the school chosen.

    Source: figures of the assessment.
    """
    hours = zip(*(load.totals(worn=worn, apart=apart) for load in loads), strict=True)
    mass, budget = max(sum(each) for each in hours), sum(load.budget for load in loads)
    off = display.load(abs(budget - mass))
    return (
        f"Together at most {display.load(mass)}{_school(worn=worn, apart=apart)}, of "
        f"{display.load(budget)} budgeted: "
        f"{off} {'to spare' if mass <= budget else 'over'}."
    )


_OF = {
    "share of body mass": "of body mass",
    "strength": "of body mass by strength",
    "budget left": "of the budget left",
}


def split_sentence(course: Course, split: Split, display: Display) -> str:
    """What a split of the group's kit comes to, and what of it cannot be as it was asked.

    Source: core.load.share.
    """
    names = {person.id: person.name.split()[0] for person in course.people}
    told: list[str] = []
    fairness = split.fairness
    order = sorted(
        (each for each in split.fullness if each not in split.spent),
        key=lambda each: split.fullness[each],
    )
    if order:
        low, high = order[0], order[-1]
        near = f"nobody could be closer by more than {display.mass(20)}"
        sure = near if split.proven else "the best found in time"
        told.append(
            f"By {fairness}: {names[high]} is fullest at {split.fullness[high]:.0%} "
            f"{_OF[fairness]}, {names[low]} least at {split.fullness[low]:.0%}; {sure}"
        )
    if split.spent:
        who = ", ".join(names[each] for each in split.spent)
        told.append(f"nothing is left of the budget of {who} before any of it is carried")
    kits = {kit.id: kit.name for kit in course.group}
    told += [
        f"{kits[each]} cannot be kept apart: there are more of it than backs, or two were given "
        "to one by hand"
        for each in split.clashes
    ]
    words = ". ".join(each[:1].upper() + each[1:] for each in told)
    return f"{words}." if words else "There is nothing to split."


def split_rows(course: Course, split: Split) -> list[tuple[str, str, str]]:
    """Everybody's fullness as things were and with a split, by name.

    Source: core.load.share.
    """
    rows: list[tuple[str, str, str]] = []
    for person in course.people:
        spent = person.id in split.spent
        was, will = split.now[person.id], split.fullness[person.id]
        rows.append(
            (
                person.name,
                "no budget left" if spent else f"{was:.0%}",
                "no budget left" if spent else f"{will:.0%}",
            )
        )
    return rows


def group_sentence(course: Course, display: Display) -> str:
    """What the group's kit weighs together, against its budget where there is one.

    Source: sums of weighed masses; the budget is the user's own.
    """
    whole = sum(unit.mass_g for unit in units(course)) / 1000
    told = f"The group's kit weighs {display.load(whole)}"
    if course.group_budget_kg is None:
        return f"{told}."
    spare = course.group_budget_kg - whole
    if spare < 0:
        return f"{told}, {display.load(-spare)} over its budget."
    return f"{told}, {display.load(spare)} below its budget."


def ledger_sentence(course: Course, lines: Sequence[Line], display: Display) -> str:
    """How many of somebody's grams are idle, and how many are there by choice.

    Source: core.what_if.idle.
    """
    idle, choice = (
        sum(each.grams for each in lines if each.verdict == verdict)
        for verdict in ("idle", "choice")
    )
    return (
        f"{display.mass(idle)} idle and {display.mass(choice)} by choice at caution "
        f"“{course.caution}”."
    )


def matters_sentence(found: Matters, display: Display) -> str:
    """From which caution an idle piece would matter.

    Source: core.what_if.idle.
    """
    mass = display.mass(found.grams)
    if found.from_sd is None:
        return f"{found.name}, {mass}: nothing is worse without it within 4 standard deviations."
    return f"{found.name}, {mass}, begins to matter at {found.from_sd:g} standard deviations."


def pack_sentence(person: Person, check: PackCheck, display: Display) -> str:
    """What a whole pack weighs beside what it should.

    Source: core.load.weighing.
    """
    off = check.measured_g - check.computed_g
    verdict = f"{display.mass(abs(off))} {'more' if off > 0 else 'less'}"
    return (
        f"{person.name}'s pack weighs {display.load(check.measured_g / 1000)}, computed "
        f"{display.load(check.computed_g / 1000)}: {'as it should' if check.agrees else verdict}."
    )


def load_sentence(result: PersonResult, first_day: str, display: Display) -> str:
    """What this load is, by its three totals. Source: figures of the assessment."""
    load = result.load
    share = f"{load.share_of_body:.0%} of body mass"
    last = display.load(load.by_day[-1])
    told = totals_sentence(totals(load), first_day, display)
    return f"{told[:-1]}, {share}; skin out on the last morning {last}."


def idle_sentence(person: Person, idle: Idle, display: Display) -> str:
    """What of somebody's clothes and bed can stay at home. Source: core.what_if.idle."""
    names = {piece.id: piece.name for piece in pieces_of(person)}
    if not idle.pieces:
        return "Nothing worn or slept in is idle."
    told = ", ".join(names[each] for each in idle.pieces)
    return (
        f"Idle: {display.mass(idle.grams(person))} ({told}). Left at home, nothing is worse at "
        "this caution."
    )


def line_sentence(
    course: Course, line: Line, moments: Mapping[str, Moment], display: Display
) -> str:
    """What one piece is there for, with its name and mass. Source: core.what_if.idle."""
    why = why_words(course, line, moments, display)
    closes = "closes " if line.why.reason == "closes a gap" else ""
    return f"{line.name}, {display.mass(line.grams)}: {closes}{why}."


def why_words(course: Course, line: Line, moments: Mapping[str, Moment], display: Display) -> str:
    """What one piece is there for. Source: core.what_if.idle."""
    why = line.why
    worn = _moments(why.figures[0]) if why.figures else ""
    words = _LINES.get(why.reason, "").format(worn=worn)
    if why.reason == "without it":
        words = (
            f"without it {HARM_WORDS[why.names[1]]} at {moment_name(course, moments[why.names[0]])}"
        )
    elif why.reason == "carried out again":
        words = "comes out again, beyond what is kept to spare"
    elif why.reason == "closes a gap":
        much = f"{why.figures[0]:.2f}" if why.figures[0] < 0.095 else f"{why.figures[0]:.1f}"
        words = f"a gap of {much} clo at {moment_name(course, moments[why.names[0]])}"
    elif why.reason in ("bed short", "bed to spare", "bed holds"):
        words = words.replace("MARGIN", display.difference(abs(why.figures[0])))
    return words


def _moments(number: float) -> str:
    return f"{number:.0f} moment{'' if number == 1 else 's'}"


HARM_WORDS: dict[str, str] = {
    "gap": "a gap opens",
    "cool": "one is cool",
    "hot": "one is too hot",
    "fingers": "fingers are at risk",
    "toes": "toes are at risk",
    "face": "the face is at risk",
    "bed short": "the bed is too cold",
    "bed cool": "the bed is cool",
}
RULE_WORDS: dict[Rule, str] = {
    "spare set": "one dry set, kept by the school's rule",
    "spare": "a spare, on purpose",
    "shades": "against the sun",
    "only one": "the only one of its kind",
    "one shell": "the one shell, kept for weather nobody forecast",
    "under the pad": "under an inflatable pad on cold ground, against punctures",
    "the bed": "what is lain in",
    "listed": "on a mandatory list",
}
_LINES: dict[LineReason, str] = {
    **RULE_WORDS,
    "closes nothing": "without it nothing is worse at this caution",
    "for the bed": "a bed would fall short without it",
    "kept for the bed": "kept dry for the bed",
    "all day": "worn all day",
    "next to skin": "next to the skin, worn at {worn}",
    "keeps weather off": "keeps wind and rain off, worn at {worn}",
    "fingers": "fingers need it, worn at {worn}",
    "no night": "no night on this course asks for it",
    "bed short": "part of a bed that is MARGIN short on the worst night",
    "bed to spare": "part of a bed with MARGIN to spare on the worst night: a lighter one would do",
    "bed holds": "part of a bed that holds by MARGIN on the worst night",
    "safety": "safety kit, kept by rule",
    "comfort": "comfort, its owner's choice, counted openly",
    "food and water": "to cook, eat and drink",
    "group": "carried for the group or to carry with",
    "warmth": "for warmth",
    "sleep": "for the night",
    "shelter": "part of a shelter",
    "apart": "teaching or camera kit, counted by one school only",
}


def candidate_words(found: Candidate, display: Display) -> str:
    """What may explain a pack's difference. Source: core.load.weighing."""
    why = found.why
    match why.reason:
        case "not in it":
            return f"{' and '.join(why.names)} {'is' if len(why.names) == 1 else 'are'} not in it"
        case "in it twice":
            return f"{why.names[0]} is in it twice"
        case "less water" | "more water":
            more = why.reason.removesuffix(" water")
            return f"{display.volume(why.figures[0])} of water {more} than planned"
        case "estimates off":
            return f"estimated masses are off: {', '.join(why.names)}"
    assert_never(why.reason)
