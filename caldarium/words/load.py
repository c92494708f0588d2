"""Sentences on loads, water, shared kit and idle grams, with the numbers that decide them."""

from collections.abc import Mapping, Sequence
from datetime import timedelta
from typing import assert_never

from caldarium.core.assess import PersonResult
from caldarium.core.load.loads import Load
from caldarium.core.load.provisions import DayNeed, hungriest
from caldarium.core.load.share import Split
from caldarium.core.load.weighing import Candidate, PackCheck
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.group_kit import units
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.idle import Line, LineReason, Matters
from caldarium.words.course import moment_name
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


def dry_sentence(
    course: Course, stretches: Sequence[tuple[float, float, float]], display: Display
) -> str:
    """Where somebody runs out of water; empty where nowhere.

    Source: core.load.load_hours.
    """
    if not stretches:
        return ""
    told: list[str] = []
    for start, end, missing in stretches:
        day = course.start + timedelta(days=int(start // 24))
        short = display.volume(missing)
        told.append(f"{day:%a} {clock_text(start)} to {clock_text(end)}, {short} short")
    return "Water runs out: " + "; ".join(told) + ". Carry more, or mark where it can be filled."


_OF = {
    "share of body mass": "of body mass",
    "strength": "of body mass by strength",
    "budget left": "of the budget left",
}


def split_sentence(course: Course, split: Split, display: Display) -> str:
    """What a split of the group's kit comes to.

    Source: core.load.share.
    """
    names = {person.id: person.name.split()[0] for person in course.people}
    order = sorted(split.fullness, key=lambda each: split.fullness[each])
    low, high = order[0], order[-1]
    near = f"nobody could be closer by more than {display.mass(20)}"
    sure = near if split.proven else "the best found in time"
    fairness = split.fairness
    return (
        f"By {fairness}: {names[high]} is fullest at {split.fullness[high]:.0%} {_OF[fairness]}, "
        f"{names[low]} least at {split.fullness[low]:.0%}; {sure}."
    )


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
        return f"{found.name}, {mass}, closes nothing within 4 standard deviations."
    return f"{found.name}, {mass}, begins to matter at {found.from_sd:g} standard deviations."


def provisions_sentence(course: Course, needs: Sequence[DayNeed], display: Display) -> str:
    """What food and fuel hold against what the days take.

    Source: core.load.provisions.
    """
    worst = hungriest(needs)
    day = course.start + timedelta(days=worst.day)
    off = worst.eaten - worst.spent
    food = (
        f"{day:%A} takes about {worst.spent:,.0f} kcal; the ration holds {worst.eaten:,.0f}, "
        f"{abs(off):,.0f} {'short' if off < 0 else 'to spare'}"
    )
    cooked = [each for each in needs if each.boils_at is not None]
    if not cooked:
        return f"{food}."
    gas, planned = sum(e.gas for e in cooked), sum(e.planned for e in cooked)
    high = min(cooked, key=lambda each: each.boils_at or 0.0)
    snow = ", snow melted" if any(each.melted for each in cooked) else ""
    enough = "enough" if planned >= gas else f"{display.mass(gas - planned)} short"
    return (
        f"{food}. {display.volume(course.boiled_l_a_day)} boiled a night{snow} take "
        f"{display.mass(gas)} of gas in all, {display.mass(planned)} planned: {enough}; "
        "at the highest camp water boils at "
        f"{display.temperature(high.boils_at or 0.0)}, so food takes longer."
    )


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


def load_sentence(person: Person, result: PersonResult, display: Display) -> str:
    """What this load is, and which grams close no gap.

    Source: figures of the assessment.
    """
    load = result.load
    share = f"{load.share_of_body:.0%} of body mass"
    first, last = display.load(load.by_day[0]), display.load(load.by_day[-1])
    start = f"{first} setting out, {share}; {last} at the end."
    if not result.idle:
        return start + " No clothing is idle."
    names = {piece.id: piece.name for piece in person.garments}
    idle = ", ".join(names[each] for each in result.idle)
    return (
        f"{start} Idle: {display.mass(result.idle_grams)} ({idle}) closes no gap at this caution."
    )


def line_sentence(
    course: Course, line: Line, moments: Mapping[str, Moment], display: Display
) -> str:
    """What one piece is there for. Source: core.what_if.idle."""
    why = line.why
    worn = _moments(why.figures[0]) if why.figures else ""
    words = _LINES.get(why.reason, "").format(worn=worn)
    if why.reason == "closes a gap":
        much = f"{why.figures[0]:.2f}" if why.figures[0] < 0.095 else f"{why.figures[0]:.1f}"
        words = f"closes {much} clo at {moment_name(course, moments[why.names[0]])}"
    elif why.reason in ("bed short", "bed to spare", "bed holds"):
        words = words.replace("MARGIN", display.difference(abs(why.figures[0])))
    return f"{line.name}, {display.mass(line.grams)}: {words}."


def _moments(number: float) -> str:
    return f"{number:.0f} moment{'' if number == 1 else 's'}"


_LINES: dict[LineReason, str] = {
    "closes nothing": "closes no gap at any moment at this caution",
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
    "safety": "safety kit, exempt by rule",
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
