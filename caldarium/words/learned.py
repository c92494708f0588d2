"""What a log teaches, in words: before and after, how often and how sure; and was it right."""

from collections.abc import Sequence

from caldarium.core.day.how_sure import Sure
from caldarium.core.log.bands import NOTABLE, band_factor
from caldarium.core.log.beliefs import Kind, about, believed, parted
from caldarium.core.log.carried import NightChange
from caldarium.core.log.chances import Bias, Reliability
from caldarium.core.log.evidence import (
    FELT_NIGHT,
    HALT_LOG_SD,
    LIFT_SD,
    NIGHT_SD,
    ODD_NIGHT,
    WAY_LOG_SD,
    LiftEvidence,
    MomentEvidence,
    NightEvidence,
    Piece,
    TimeEvidence,
)
from caldarium.core.log.learned import Stand, Taught, Teaching
from caldarium.core.log.right import Low, OnScale, Outcome, Why
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Timeline
from caldarium.words.course import counted, moment_name
from caldarium.words.food import leg_title
from caldarium.words.log import FELT_NAMES, night_name
from caldarium.words.night import shelter_label
from caldarium.words.steps import Step
from caldarium.words.units import Display, hours_text, signed

KIND_NAMES: dict[Kind, str] = {
    "sleep": "sleep",
    "walk": "heat in walking",
    "bag": "bag",
    "pad": "pad",
    "tent": "shelter",
    "halts": "length of halts",
    "pace": "time of ways",
}
STAND_NAMES: dict[Stand, str] = {
    "new": "not decided",
    "in force": "taken, in force",
    "refused": "refused",
    "more since": "more was logged since it was decided",
}
LATER = "for the next course"
"""Where halts and ways stand: this course's are walked."""
WHY_NAMES: dict[Why, str] = {
    "as said": "as the plan said",
    "weather": "the weather was not the forecast",
    "otherwise": "worn, lain on or slept otherwise than planned",
    "model": "the model; what is learned may mend it",
    "chance": "near even: either was likely",
}
SURE_NAMES: dict[Sure, str] = {
    "sure": "nearly certain",
    "likely": "likely",
    "either way": "could be chance",
}
A_BAG_K = 6.0
"""Kelvin of a bag that one of the sleeper index is about: the two figures of labels lie so far
apart, common practice, no published source."""


def about_name(course: Course, name: str) -> str:
    """What was learned of, by name: whose sleep, which bag. Source: the plan."""
    kind, who, piece = parted(name)
    if kind == "tent":
        return shelter_label(course, course.shelter(who))
    person = course.person(who)
    if kind in ("bag", "pad"):
        pieces = [p for bed in person.beds for p in (bed.bag, *bed.pads) if p is not None]
        named = next((each.name for each in pieces if each.id == piece), piece)
        return f"{person.name}: {named}"
    return f"{person.name}: {KIND_NAMES[kind]}"


def stand_words(taught: Taught) -> str:
    """Where something learned stands with the user. Source: core.log.learned."""
    later = taught.of_ways and taught.stand != "refused"
    return LATER if later else STAND_NAMES[taught.stand]


def belief_words(kind: Kind, belief: Belief, display: Display) -> str:
    """A belief as a figure with its doubt. Source: the belief."""
    if kind == "sleep":
        doubt = display.difference(belief.sd * A_BAG_K, 1)
        return f"index {signed(belief.mean, 2)} ± {belief.sd:.2f} (about {doubt})"
    if kind == "bag":
        side = "warmer" if belief.mean < 0 else "colder"
        doubt = display.difference(belief.sd, 1)
        if abs(belief.mean) < 0.05:
            return f"as its label ± {doubt}"
        return f"{display.difference(abs(belief.mean), 1)} {side} than its label ± {doubt}"
    return f"{belief.mean:.0%} of what is planned with ± {belief.sd:.0%}"


def taught_sentence(course: Course, taught: Taught, display: Display) -> str:
    """What was learned of one thing in a sentence. Source: core.log.learned."""
    before, after = taught.before, taught.after
    change = after.mean - before.mean
    name = about_name(course, taught.about)
    whose = name.partition(":")[0]
    match taught.kind:
        case "sleep":
            by = display.difference(abs(change) * A_BAG_K, 1)
            side = "colder" if change > 0 else "warmer"
            told = f"{whose} sleeps about {by} {side} than planned with"
        case "bag":
            by = display.difference(abs(change), 1)
            told = f"{name}: {by} {'colder' if change > 0 else 'warmer'} than planned with"
        case "walk":
            told = f"{whose} makes {_percent(change)} heat in walking"
        case "pad":
            told = f"{name}: worth {_percent(change)} than planned with"
        case "tent":
            told = f"{name}: its warmth inside is {_percent(change)} than computed"
        case "halts":
            told = f"Halts that {whose} leads are {_percent(change, 'longer', 'shorter')}"
        case "pace":
            told = f"Ways that {whose} leads take {_percent(change, 'longer', 'less')}"
    of_nights = taught.kind in ("sleep", "bag", "pad", "tent")
    how_many = counted(taught.times, "night" if of_nights else "moment")
    return f"{told}: {how_many}, {SURE_NAMES[taught.sure]}."


def _percent(change: float, more: str = "more", less: str = "less") -> str:
    return f"{abs(change):.0%} {more if change > 0 else less}"


def evidence_words(course: Course, timeline: Timeline, piece: Piece, display: Display) -> Step:
    """One piece of evidence as a line. Source: the log."""
    match piece:
        case NightEvidence():
            air = "air measured" if piece.measured else "air as forecast"
            return Step(
                f"{course.person(piece.person).name}, {night_name(course, piece.day)}",
                FELT_NAMES[piece.felt],
                f"the bed had {display.difference(piece.margin, 1)} to spare by the model, {air}; "
                f"{FELT_NAMES[piece.felt]} is {_bounds(FELT_NIGHT[piece.felt], display)}",
                "diary; core of the night",
            )
        case MomentEvidence():
            return Step(
                f"{course.person(piece.person).name}, "
                f"{moment_name(course, timeline.moment(piece.moment))}",
                FELT_NAMES[piece.felt],
                f"{signed(piece.margin, 2)} clo over what holds, by the model",
                "diary; core of the day",
            )
        case LiftEvidence():
            return Step(
                night_name(course, piece.day),
                display.difference(piece.measured, 1),
                f"over outside, {display.difference(piece.computed, 1)} computed",
                "two thermometers; core of shelters",
            )
        case TimeEvidence():
            known = {each.id: each for each in timeline.moments}
            where = (
                moment_name(course, known[piece.where])
                if piece.where in known
                else leg_title(course, piece.day, piece.where)
            )
            return Step(
                where,
                hours_text(piece.took),
                f"planned {hours_text(piece.planned)}",
                "diary",
            )


def _bounds(bounds: tuple[float, float], display: Display) -> str:
    low, high = bounds
    if low == -float("inf"):
        return f"under {display.difference(high)}"
    if high == float("inf"):
        return f"over {display.difference(low)}"
    return f"{display.difference(low)} to {display.difference(high)}"


def explain_taught(
    course: Course, teaching: Teaching, taught: Taught, display: Display
) -> list[Step]:
    """How a belief was updated. Source: core.log.updating and core.log.learned."""
    spreads = {
        "sleep": f"one sleeper differs by {display.difference(NIGHT_SD)} from night to night; a "
        f"share of {ODD_NIGHT:.0%} of nights says nothing",
        "bag": "as of sleep, of which it takes its share",
        "pad": "as of sleep, of which it takes its share",
        "walk": "the spread of the verdict itself",
        "tent": f"a night’s lift is known to {display.difference(LIFT_SD, 1)}",
        "halts": f"one halt differs by {HALT_LOG_SD:.0%} from another",
        "pace": f"one way differs by {WAY_LOG_SD:.0%} from another",
    }
    return [
        Step(
            "before",
            belief_words(taught.kind, taught.before, display),
            "what the plan believed before this log",
            "the plan, or spreads of docs/method.md, Log",
        ),
        Step(
            "after",
            belief_words(taught.kind, taught.after, display),
            f"Bayesian update with {counted(len(taught.evidence), 'piece')} of evidence, with "
            f"everything that shares a night; {spreads[taught.kind]}",
            "Gelman et al. (2013) 2.5; Minka (2001)",
        ),
        *(
            evidence_words(course, teaching.lived.timeline, piece, display)
            for piece in taught.evidence
        ),
    ]


def steps_in_force(course: Course, person: Person, day: int | None, display: Display) -> list[Step]:
    """What of somebody's figures rests on logs that were taken into the plan.

    Args:
        course, person: the plan.
        day: of the night that is looked at; None for a walk.
        display: units.

    Source: the plan.
    """
    names: list[str] = []
    if day is None:
        names = [about("walk", person.id)] if person.walks is not None else []
    else:
        bed = person.bed_on(day)
        if person.sleeper_nights:
            names.append(about("sleep", person.id))
        if bed.bag is not None and bed.bag.as_found is not None:
            names.append(about("bag", f"{person.id}:{bed.bag.id}"))
        names += [about("pad", f"{person.id}:{e.id}") for e in bed.pads if e.as_found is not None]
        shelter = person.on_night(day).shelter
        if shelter is not None and course.shelter(shelter).as_found is not None:
            names.append(about("tent", shelter))
    return [
        Step(
            f"as logs found {about_name(course, name)}",
            belief_words(parted(name)[0], believed(course, name), display),
            f"from {counted(believed(course, name).times, 'night or moment', 'nights and moments')}"
            ", taken by the user",
            "Log, what it teaches",
        )
        for name in names
    ]


def outcome_said(outcome: Outcome, display: Display) -> str:
    """What the plan said of a night or moment. Source: core.log.right."""
    margin = (
        f"{display.difference(outcome.margin, 1)} to spare"
        if outcome.kind == "night"
        else f"{signed(outcome.margin, 2)} clo to spare"
    )
    return f"{margin}, {chance_words(outcome.chance)} to be short"


def chance_words(chance: float) -> str:
    """A chance in per cent, without false certainty. Source: none, wording."""
    if chance < 0.01:
        return "under 1 %"
    if chance > 0.99:
        return "over 99 %"
    return f"{chance * 100:.0f} %"


def right_sentence(found: Sequence[Outcome]) -> str:
    """All outcomes in a sentence. Source: core.log.right."""
    if not found:
        return "Nobody has said how a night or a moment was."
    wrong = [each for each in found if each.why != "as said"]
    nights = sum(each.kind == "night" for each in found)
    told = f"{counted(nights, 'night')} and {counted(len(found) - nights, 'moment')} told of; "
    if not wrong:
        return told + "all came as the plan said."
    cold = sum(each.short for each in wrong)
    parts = [f"{cold} colder than said"] if cold else []
    parts += [f"{len(wrong) - cold} warmer than said"] if len(wrong) > cold else []
    return told + f"{len(found) - len(wrong)} came as said, " + ", ".join(parts) + "."


def reliability_sentence(found: Reliability) -> str:
    """How good chances were, in a sentence. Source: Brier (1950), Murphy (1973)."""
    if found.count < FEW:
        return (
            f"{counted(found.count, 'outcome')}: too few to judge chances by; "
            "the picture fills as courses are logged."
        )
    if abs(found.bias) < 0.02:
        lean = "as often as said"
    elif found.bias > 0:
        lean = f"{found.bias * 100:.0f} in a hundred less often than said: the plan is careful"
    else:
        lean = f"{-found.bias * 100:.0f} in a hundred more often than said: the plan is too bold"
    return (
        f"Of {found.count} nights and moments {chance_words(found.happened)} were short of warmth, "
        f"{lean}."
    )


FEW = 20


def bands_sentence(found: Sequence[Low]) -> str:
    """Whether the bands of the plan proved right. Source: core.log.right."""
    if not found:
        return "No night was measured, so the bands stay as they are."
    factor = band_factor(found)
    off = abs(factor - 1)
    if off < NOTABLE:
        return f"Measured nights, {len(found)}, speak for the bands as they are."
    side = "wider" if factor > 1 else "narrower"
    return f"By {counted(len(found), 'measured night')} bands would be {off:.0%} {side}."


def explain_reliability(found: Reliability) -> list[Step]:
    """How chances are judged. Source: Brier (1950), Murphy (1973)."""
    skill = found.skill
    return [
        Step(
            "Brier score",
            f"{found.brier:.3f}",
            "mean square of chance said less 1 where it happened; 0 is perfect",
            "Brier (1950), Monthly Weather Review 78",
        ),
        Step(
            "reliability",
            f"{found.off:.3f}",
            "of bins: mean square of said less happened; 0 is honest",
            "Murphy (1973)",
        ),
        Step(
            "resolution",
            f"{found.resolved:.3f}",
            "of bins: mean square of happened less the share over all; more tells more apart",
            "Murphy (1973)",
        ),
        Step(
            "uncertainty",
            f"{found.uncertain:.3f}",
            "share that happened times share that did not",
            "Murphy (1973)",
        ),
        Step(
            "skill",
            f"{skill:.2f}" if skill is not None else "not known",
            "1 less Brier score over uncertainty: over always saying the share over all",
            "Murphy (1973)",
        ),
        *(
            Step(
                f"said {each.low:.0%} to {each.high:.0%}",
                f"{each.happened:.0%}",
                f"said {each.said:.0%} in the mean, of {each.count}",
                "diary against the plan before its own log",
            )
            for each in found.bins
        ),
    ]


def explain_packs(found: Sequence[OnScale], course: Course, display: Display) -> list[Step]:
    """What weighed packs are held against. Source: core.log.right."""
    return [
        Step(
            f"pack of {course.person(each.person).name}, day {each.day + 1}",
            display.mass(each.computed_g),
            "everything carried at setting out, food, water and fuel with it, less what is worn on "
            f"the first walk; weighed {display.mass(each.measured_g)}",
            "sums of the load; the diary",
        )
        for each in found
    ]


def explain_carried(
    course: Course, changes: Sequence[NightChange], taught: Sequence[Taught], display: Display
) -> list[Step]:
    """How another course's nights would change. Source: core.log.carried."""
    return [
        *(
            Step(
                about_name(course, each.about),
                belief_words(each.kind, each.after, display),
                "what the log of the first course teaches",
                "core.log.learned",
            )
            for each in taught
        ),
        *(
            Step(
                f"{course.person(each.person).name}, {night_name(course, each.day)}",
                display.difference(each.after, 1),
                f"to spare with all of these, {display.difference(each.before, 1)} without",
                "two assessments of that course at its own caution",
            )
            for each in changes
        ),
    ]


def bias_name(course: Course | None, bias: Bias) -> str:
    """What a bias is of. Source: none, wording."""
    if bias.by == "month":
        return MONTHS[int(bias.name) - 1]
    if bias.by == "shelter":
        if not bias.name:
            return "under the open sky"
        there = next((e for e in course.shelters if e.id == bias.name), None) if course else None
        return shelter_label(course, there) if course and there else bias.name
    return bias.name


MONTHS = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
