"""The debrief in words: what was said of things, what the next course could begin with."""

from caldarium.core.log.beliefs import parted
from caldarium.core.log.debrief import WARM_SLACK_K, Debrief, FeltCold, Slack
from caldarium.core.log.next_course import Proposal
from caldarium.core.log.season import OverYears, Season
from caldarium.core.log.upkeep import Task, Upkeep
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import PARTY, Found
from caldarium.core.timeline.moments import Timeline
from caldarium.words.course import counted, moment_name
from caldarium.words.learned import about_name, belief_words
from caldarium.words.log import WHAT_NAMES, night_name
from caldarium.words.steps import Step
from caldarium.words.units import Display

TASK_NAMES: dict[Task, str] = {
    "mend": "To mend",
    "buy": "To buy or to pack",
    "wash": "To wash",
    "retire": "To retire",
}


def debrief_sentence(course: Course, said: Debrief, display: Display) -> str:
    """A course's debrief in a sentence. Source: core.log.debrief."""
    parts: list[str] = []
    if said.unused:
        grams = sum(each.grams for each in said.unused)
        pieces = counted(len(said.unused), "piece")
        parts.append(f"{pieces} never put on, {display.mass(grams)}")
    if said.cold:
        parts.append(f"{counted(len(said.cold), 'person was', 'people were')} cold at some time")
    if said.slack:
        parts.append(f"{counted(len(said.slack), 'bed')} with much to spare")
    things = sum(each.what != "unused" for each in said.found)
    if things:
        parts.append(f"{counted(things, 'word')} on things")
    return "; ".join(parts).capitalize() + "." if parts else "Nothing is to be said yet."


def cold_words(course: Course, timeline: Timeline, each: FeltCold) -> str:
    """Where somebody was cold. Source: the diary."""
    parts = [f"night {night_name(course, day)}" for day in each.nights]
    parts += [moment_name(course, timeline.moment(name)) for name in each.moments]
    for told, names in (("fingers cold or numb", each.fingers), ("wet through", each.wet)):
        if names:
            when = ", ".join(moment_name(course, timeline.moment(name)) for name in names)
            parts.append(f"{told}: {when}")
    return f"{course.person(each.person).name}: " + "; ".join(parts)


def slack_words(course: Course, each: Slack, display: Display) -> str:
    """Whose bed had much to spare. Source: core.log.debrief."""
    return (
        f"{course.person(each.person).name}: the bed had at least "
        f"{display.difference(each.margin)} to spare on every night told of. A lighter one may do."
    )


def found_words(found: Found) -> str:
    """What was said of a thing. Source: the diary."""
    note = f": {found.note}" if found.note else ""
    return f"{found.name}, {WHAT_NAMES[found.what]}{note}"


def subject_name(course: Course, subject: str) -> str:
    """Whoever something is of. Source: the plan."""
    if subject == PARTY:
        return "the party"
    return next((each.name for each in course.people if each.id == subject), subject)


def proposal_words(course: Course, each: Proposal, display: Display) -> str:
    """A difference that the next course could begin with. Source: core.log.next_course."""
    if each.piece is not None:
        who, piece = subject_name(course, each.piece.person), each.piece
        return f"{who} leaves {piece.name} at home, {display.mass(piece.grams)}: never put on"
    taught = each.taught
    if taught is None:
        return f"Bands of temperature {bands_words(each.factor)}"
    if taught.of_ways:
        who = subject_name(course, parted(taught.about)[1])
        what = "halts" if taught.kind == "halts" else "ways"
        return f"Plan {what} as {who} leads them: {taught.after.mean:.0%} of what was planned"
    after, before = (
        belief_words(taught.kind, belief, display) for belief in (taught.after, taught.before)
    )
    return f"{about_name(course, taught.about)}: {after}, before {before}"


def bands_words(factor: float) -> str:
    """How much wider or narrower bands would be. Source: core.log.right."""
    side = "wider" if factor > 1 else "narrower"
    return f"{abs(factor - 1):.0%} {side} than planned with"


def upkeep_words(course: Course, each: Upkeep) -> str:
    """Something to do for the store. Source: core.log.upkeep."""
    who = subject_name(course, each.who)
    why = ""
    if each.nights:
        why = f", {counted(each.nights, 'night')} and {counted(each.washes, 'wash', 'washes')}"
    note = f": {each.note}" if each.note else ""
    return f"{each.name}{f' {each.tag}' if each.tag else ''}, {who}{why}{note}"


def over_years_words(each: OverYears, display: Display) -> str:
    """What a piece of the store does. Source: core.log.season."""
    return belief_words(each.kind, each.after, display)


def explain_debrief(course: Course, said: Debrief, display: Display) -> list[Step]:
    """How what is left to be said was found. Source: core.log.debrief."""
    return [
        Step(
            "never put on",
            display.mass(sum(each.grams for each in said.unused)),
            "pieces in no outfit as forecast, none that the diary tells of, and in no bed; spares "
            "kept dry on purpose, what shades and what is always worn are not asked; of these the "
            "next course leaves at home what the ledger of grams lets stay",
            "outfits and beds of the assessment; words of the diary go first",
        ),
        *(
            Step(
                f"{subject_name(course, each.person)}: {each.name}",
                display.mass(each.grams),
                each.tag,
                "mass of the plan",
            )
            for each in said.unused
        ),
        *(
            Step(
                f"{course.person(each.person).name}: bed to spare",
                display.difference(each.margin),
                f"the least on nights told of, by the model as lain in; told from "
                f"{display.difference(WARM_SLACK_K)}",
                "core of the night; the bound is judgement",
            )
            for each in said.slack
        ),
    ]


def explain_season(found: Season, display: Display) -> list[Step]:
    """How what was carried for nothing was added up, and what pieces do. Source:
    core.log.season."""
    return [
        *(
            Step(
                each.name,
                f"{each.unused_share:.0%}",
                f"{display.mass(each.unused_g)} never put on, of {display.mass(each.carried_g)} of "
                "clothes and things of everybody",
                "each course's debrief",
            )
            for each in found.courses
        ),
        *(
            Step(
                f"{each.tag} {each.name}",
                over_years_words(each, display),
                f"before {belief_words(each.kind, each.before, display)}; "
                f"{counted(each.nights, 'night')} of {counted(each.courses, 'course')}, all "
                "courses solved together",
                "Gelman et al. (2013) 2.5; Minka (2001)",
            )
            for each in found.pieces
        ),
    ]
