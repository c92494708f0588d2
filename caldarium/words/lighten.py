"""The lightest set in words: what is proposed, why each piece is in, what caution costs."""

import math
from collections.abc import Collection, Mapping, Sequence

from caldarium.core.lighten.frontier import BySource, Tread, Trigger, Worst, passed
from caldarium.core.lighten.lever import Helped, Lever, Levers, Missing
from caldarium.core.lighten.party import Party
from caldarium.core.lighten.phases import Phase, Phases
from caldarium.core.lighten.problem import Objective
from caldarium.core.lighten.proposal import Lack, Lost, Proposal, Reason
from caldarium.core.lighten.rules import Rule, RuleName
from caldarium.core.lighten.shelters import Pitched
from caldarium.core.lighten.verdict import Fail
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Ready
from caldarium.core.stock.supply import Source
from caldarium.words.course import counted
from caldarium.words.food import leg_words
from caldarium.words.steps import Step
from caldarium.words.stock import SOURCE_NAMES
from caldarium.words.units import Display

OBJECTIVES: Mapping[Objective, str] = {
    "grams": "grams",
    "cost": "cost",
    "changes": "changes",
    "litres": "room in the pack",
}
RULES: Mapping[RuleName, str] = {
    "footwear": "footwear no lower and no more open than planned",
    "trousers": "trousers that cover as much as planned",
    "socks": "socks",
    "underwear": "underwear",
    "next to the skin": "something next to the skin that covers as much as planned",
    "rain above": "a waterproof jacket",
    "rain below": "waterproof legs where rain or snow is expected",
    "head": "a hat in the cold",
    "hands": "something on the hands in the cold",
    "sun": "against the sun, as planned",
    "spare": "marked as a spare",
    "dry set": "a dry set, by the course's school",
    "listed": "asked for by a list",
}
"""What a set must have before any gram is counted."""
MOST_NAMED = 4
"""Scarce pieces that a sentence names."""
_FAILS = {
    "gap": ("gap", "gaps"),
    "bed": ("cold bed-night", "cold bed-nights"),
    "hot": ("overheating moment", "overheating moments"),
    "bed hot": ("hot bed-night", "hot bed-nights"),
    "fingers": ("risk to fingers", "risks to fingers"),
    "toes": ("risk to toes", "risks to toes"),
    "face": ("risk to the face", "risks to the face"),
}


def failing_words(failing: Collection[Fail]) -> str:
    """Problems counted by kind. Source: none, wording."""
    kinds = [kind for _, kind in failing]
    parts = [counted(kinds.count(kind), *names) for kind, names in _FAILS.items() if kind in kinds]
    return ", ".join(parts) or "nothing"


def proposal_sentence(
    found: Proposal, sources: Collection[Source], display: Display, *, shared: bool = False
) -> str:
    """What is proposed to one person, and how sure it is; as a part of what is shared out between
    people, it is no more than that. Source: core.lighten."""
    where = (
        " and ".join(SOURCE_NAMES[each] for each in SOURCE_NAMES if each in sources) or "nothing"
    )
    if found.after is None:
        if not found.proven:
            return f"Of {where} no set was found so far that holds this course."
        return f"Of {where} no set holds this course: proven."
    told = f"{display.mass(found.grams)} in place of {display.mass(found.grams_before)}"
    if not found.incoming and not found.outgoing:
        told = f"{display.mass(found.grams)}, the pieces of now"
    if found.closes:
        told += f", and {failing_words(found.closes)} closed"
    if found.beyond:
        told += f"; {failing_words(found.beyond)} that nothing on offer closes"
    if found.deeper:
        told += f", {failing_words(found.deeper)} worse than now"
    if found.milder:
        told += f"; but {_milder_words(found)} where it is milder than planned"
    if shared:
        return f"{told}. Their part, as what is scarce is shared."
    best = "Lightest" if found.plain else "Best"
    return f"{told}. {best} of {where}: {sure_words(found, display)}."


def _milder_words(found: Proposal) -> str:
    """What fails at any milder caution, counted by kind."""
    return failing_words(frozenset[Fail]().union(*(failing for _, failing in found.milder)))


def milder_words(found: Proposal, names: Mapping[str, str]) -> list[str]:
    """What a set lets fail at milder caution, a line for each step, in the order of names.

    Source: core.lighten.
    """
    order = {moment: at for at, moment in enumerate(names)}
    return [
        f"{caution_words(each)}: "
        + "; ".join(
            f"{names.get(moment, moment)}: {failing_words([(moment, kind)])}"
            for moment, kind in sorted(failing, key=lambda fail: (order.get(fail[0], 0), fail))
        )
        for each, failing in found.milder
    ]


def sure_words(found: Proposal, display: Display) -> str:
    """Whether a set is proven the lightest, or by how much it may be too heavy at most.

    Source: core.lighten.
    """
    if found.proven:
        return "proven"
    if not found.plain:
        return "not proven"
    return (
        f"not proven, none weighs less than {display.mass(found.bound)}, "
        f"which is {100 * found.gap:.1f} % less"
    )


def lack_words(lack: Lack, names: Mapping[str, str], display: Display) -> str:
    """What would not hold, where, and by how much. Source: core.lighten."""
    where = names.get(lack.moment, lack.moment)
    if lack.kind in ("gap", "bed"):
        much = (
            f"{lack.much:.1f} clo short"
            if lack.kind == "gap" and lack.much >= 0.05
            else f"{display.difference(lack.much, 1)} too cold a bed"
            if lack.kind == "bed"
            else "just short"
        )
        warmer = ""
        if math.isfinite(lack.warmer_k) and lack.warmer_k > 0:
            warmer = f"; it would hold {display.difference(lack.warmer_k, 1)} warmer"
        return f"{where}: {much}{warmer}"
    if lack.kind in ("hot", "bed hot"):
        return f"{where}: too hot"
    part = "the face" if lack.kind == "face" else lack.kind
    return f"{where}: {part} unhurt for {lack.much:.0f} min only"


def reason_words(reason: Reason, names: Mapping[str, str], display: Display) -> str:
    """Why a piece is in. Source: core.lighten."""
    told: list[str] = []
    if reason.rule == "the bed":
        told.append("something to lie in and on")
    elif reason.rule == "told":
        told.append("you said so")
    elif reason.rule is not None:
        told.append(_rule(reason.rule))
    if reason.lack is not None:
        told.append(f"without it {lack_words(reason.lack, names, display)}")
    return "; ".join(told) or "kept by what else is in the set"


def lost_words(lost: Lost, names: Mapping[str, str], display: Display) -> str:
    """Why a lighter piece lost. Source: core.lighten."""
    saves = f"{lost.piece.name} saves {display.mass(lost.saves_g)}"
    if lost.rule == "told":
        return f"{saves}, but you said what is to be in"
    if lost.rule is not None:
        return f"{saves}, against the rule: {_rule(lost.rule)}"
    if lost.lack is None:
        return f"{saves}, and another piece would have to come in or go out with it"
    return f"{saves} and leaves {lack_words(lost.lack, names, display)}"


def rule_words(rule: Rule) -> str:
    """A rule in words. Source: none, wording."""
    number = "" if rule.least == 1 else f", {rule.least} of them"
    return f"{_rule(rule)}{number}"


def _rule(rule: Rule) -> str:
    if rule.line is not None:
        return f"“{rule.line.text}”, asked for by {rule.line.of}"
    return RULES[rule.name]


def party_sentence(found: Party, display: Display) -> str:
    """What a whole party would carry. Source: core.lighten."""
    told = (
        f"{display.mass(found.grams)} of clothes and beds in place of "
        f"{display.mass(found.grams_before)}"
    )
    if found.scarce:
        told += f"; wanted more often than there are: {_some(found.scarce)}"
    if found.proven:
        return f"{told}. {'Lightest' if found.plain else 'Best'} together: proven."
    if not found.plain:
        return f"{told}. Not proven."
    if found.without:
        people = counted(found.without, "person", "people")
        return (
            f"{told}. For {people} no set was found yet; sets for everybody weigh no less than "
            f"{display.mass(found.bound)} together."
        )
    share = 100 * (1 - found.bound / found.grams) if found.grams else 0.0
    return (
        f"{told}. Together no less than {display.mass(found.bound)}, "
        f"{share:.1f} % less, is possible."
    )


def change_words(grams: float, display: Display) -> str:
    """More or fewer grams. Source: none, wording."""
    sign = "+" if grams > 0 else "\u2212" if grams < 0 else "\u00b1"
    return f"{sign}{display.mass(abs(grams))}"


def tread_words(tread: Tread, before: Tread | None, display: Display) -> str:
    """What comes in at one step of caution. Source: core.lighten."""
    if before is None:
        return f"{display.mass(tread.grams)} to begin with"
    more = change_words(tread.grams - before.grams, display)
    if not tread.incoming:
        return f"{more}: the same set holds" if tread.grams == before.grams else more
    told = f"{more}: {', '.join(tread.incoming)}"
    return f"{told} for {', '.join(tread.outgoing)}" if tread.outgoing else told


def sources_words(found: BySource) -> str:
    """Where a set comes from. Source: none, wording."""
    return " and ".join(SOURCE_NAMES[each] for each in found.sources)


def caution_words(deviations: float) -> str:
    """A place on the axis of caution. Source: core.lighten."""
    if deviations == 0:
        return "as forecast"
    return f"{deviations:g} deviation{'' if deviations == 1 else 's'} worse"


def taken_words(ready: Ready) -> str:
    """What is taken along, and in place of what. Source: core.lighten."""
    told = ", ".join(ready.pieces)
    return f"{told}; in place of {', '.join(ready.instead_of)}" if ready.instead_of else told


def trigger_words(ready: Ready, display: Display) -> str:
    """For which forecast something is taken along. Source: the course's own word."""
    told: list[str] = []
    if ready.below_c is not None:
        told.append(f"low under {display.temperature(ready.below_c)}")
    if ready.over_ms is not None:
        told.append(f"wind over {display.wind(ready.over_ms)}")
    if ready.over_mm is not None:
        told.append(f"over {display.rain(ready.over_mm)} a day")
    return ", or ".join(told)


def ready_words(ready: Ready, now: Worst, display: Display) -> str:
    """Whether what is left at the road is to be taken by the forecast of now.

    Source: the course's own forecast.
    """
    figures: dict[Trigger, str] = {
        "low": f"low {display.temperature(now.low)}" if math.isfinite(now.low) else "",
        "wind": f"wind {display.wind(now.wind)}",
        "rain": f"{display.rain(now.rain)} a day",
    }
    over = passed(ready, now)
    if over:
        return f"take it: forecast now {', '.join(figures[each] for each in over)}"
    return f"leave it: forecast now {', '.join(each for each in figures.values() if each)}"


def cost_words(cost: float | None) -> str:
    """What pieces cost, in the school's own money. Source: none, wording."""
    return "a price is missing" if cost is None else f"{cost:,.0f}"


def low_words(low: float, display: Display) -> str:
    """A coldest camp, nothing where there is no night. Source: none, wording."""
    return display.temperature(low) if math.isfinite(low) else ""


def lever_words(lever: Lever, display: Display) -> str:
    """What a piece does for a party. Source: core.lighten."""
    people = counted(len(lever.helped), "person", "people")
    if not lever.closed:
        return f"{people}: {change_words(-lever.saved, display)}"
    return f"{people}: {failing_words(lever.closed)} closed, {change_words(-lever.saved, display)}"


def helped_words(helped: Helped, names: Mapping[str, str], display: Display) -> str:
    """What a piece does for one person. Source: core.lighten."""
    who = names.get(helped.person, helped.person)
    instead = f" for the {helped.instead.name}" if helped.instead is not None else ""
    return f"{who} ({change_words(helped.grams, display)}{instead})"


def there_words(lever: Lever) -> str:
    """Where a piece comes from, and how many there are. Source: the store."""
    if lever.there is None:
        return SOURCE_NAMES[lever.offer.source]
    return f"{SOURCE_NAMES[lever.offer.source]}, {lever.there} there"


def short_words(lever: Lever) -> str:
    """How many more of a piece are wanted; nothing where there are enough. Source: counts."""
    return f"{lever.short} more would help" if lever.short else ""


def levers_sentence(found: Levers, display: Display) -> str:
    """The piece that helps most, of those that warm and those that lighten.

    Source: core.lighten.
    """
    told: list[str] = []
    if found.warm:
        best = found.warm[0]
        told.append(f"{best.offer.piece.name} warms most: {lever_words(best, display)}")
    if found.lighten:
        best = found.lighten[0]
        told.append(f"{best.offer.piece.name} lightens most: {lever_words(best, display)}")
    if not told:
        return "No single piece on offer closes anything or lightens anybody without a loss."
    sentence = "; ".join(told)
    return f"{sentence[0].upper()}{sentence[1:]}."


def explain_levers(found: Levers, display: Display) -> list[Step]:
    """How the pieces that help most are found. Source: core.lighten."""
    best = [
        Step(
            each.offer.piece.name,
            counted(len(each.closed), "closed thing", "closed things"),
            f"{lever_words(each, display)}; of each kind {failing_words(each.closed)}",
            "the course's own verdict on each of them with it",
        )
        for each in found.warm[:3]
    ]
    return [
        Step(
            "tried",
            "",
            "every piece of the sources that are on, beside what somebody has or in the place of a "
            "piece that does its job, for one person after another; it helps where something that "
            "fails now holds, or at least 10 g are saved, and nothing gets worse",
            "the course's own verdict; other people's beds are left as they are",
        ),
        *best,
    ]


def phase_words(course: Course, phase: Phase) -> str:
    """Where a piece goes home, or from where on it is carried. Source: core.lighten."""
    place = leg_words(course, phase.place.day, phase.place.leg)
    return f"goes home at {place}" if phase.way == "goes home" else f"comes up at {place}"


def load_hours(kilogram_hours: float, display: Display) -> str:
    """Weight times the hours for which it is carried. Source: none, wording."""
    return f"{display.load(kilogram_hours)}·h"


def phases_sentence(found: Phases, display: Display) -> str:
    """What is spared by what does not go all the way. Source: core.lighten."""
    if not found.found:
        return "Everything is needed on both sides of every place, or too light to be worth it."
    grams = sum(each.piece.mass_g for each in found.found)
    pieces = counted(len(found.found), "piece")
    return (
        f"{pieces} of {display.mass(grams)} can go home or come up on the way: "
        f"{load_hours(found.kg_hours, display)} less on the back, and nothing gets worse."
    )


def explain_phases(found: Phases, display: Display) -> list[Step]:
    """How what need not go all the way is found. Source: core.lighten."""
    return [
        Step(
            "tried",
            "",
            "every piece that is no spare and waits nowhere, going home or coming up at each place "
            "that is chosen, that which spares most weight over time first; it does where no "
            "verdict gets worse and what goes all the way keeps every rule of the lightest set",
            "the course's own verdict; the order of trying is judgement",
        )
    ] + [
        Step(
            each.piece.name,
            load_hours(each.piece.mass_g / 1000 * each.hours, display),
            f"{display.mass(each.piece.mass_g)} not carried for {each.hours:.0f} h",
            "weight times hours, nights among them",
        )
        for each in found.found
    ]


def shelters_sentence(found: Pitched, display: Display) -> str:
    """What is found of shelters, and how sure. Source: core.lighten.shelters."""
    if not found.people:
        return "Nobody sleeps in a shelter that could be exchanged for another."
    if not found.tried:
        return "Nothing on offer that is fit on every night holds everybody."
    if found.after is None:
        more = "" if found.all_tried else " Others were not tried."
        tried = counted(found.tried, "choice", "choices")
        return f"None of the {tried} of shelters leaves everybody as well off as now.{more}"
    told = f"{display.mass(found.grams)} of shelters in place of {display.mass(found.grams_before)}"
    lighter = "every lighter choice failed"
    if not found.all_tried:
        lighter = "every lighter choice of the models lightest by the head failed"
    return f"{told}: every one is fit on every night, and {lighter}."


def explain_shelters(found: Pitched, display: Display) -> list[Step]:
    """How shelters are chosen. Source: core.lighten.shelters."""
    return [
        Step(
            "on offer",
            "",
            "shelters that are carried and fit on every night by gust, ground and rain whoever "
            "sleeps in them; snow shelters, huts and hammocks stay as planned, and so does whoever "
            "sleeps elsewhere on some night",
            "as on the shelter page",
        ),
        Step(
            "tried",
            counted(found.tried, "choice", "choices"),
            "every choice that holds all of them and from which none can be left out, lightest "
            "first, filled with those who lie together now put together, judged with all of the "
            "course: no shelter unfit, no bed colder, and unless one of now is unfit nothing else "
            "worse either",
            "the course's own verdict; how people are put together is judgement",
        ),
        Step(
            "found",
            display.mass(found.grams),
            f"now {display.mass(found.grams_before)}",
            "sums of weighed masses",
        ),
    ]


def missing_words(missing: Missing) -> str:
    """What the store is short of, in a sentence. Source: core.lighten."""
    more = f"{missing.count} more {missing.piece.name}"
    return f"{more} would close {failing_words(missing.closed)}"


def explain_missing(courses: int, found: Sequence[Missing]) -> list[Step]:
    """How what the store is missing is found. Source: core.lighten.lever."""
    return [
        Step(
            "tried",
            counted(courses, "course"),
            "every piece of the store and the catalogue on everybody of each course, beside what "
            "they have or in the place of what does its job; it helps where something that fails "
            "now holds and nothing gets worse; pieces like one of the store count as the store's",
            "the course's own verdict at its own caution",
        ),
        *(
            Step(
                each.piece.name,
                f"{each.count} more",
                f"{counted(each.people, 'person goes', 'people go')} without on "
                f"{counted(len(each.courses), 'course')}, as many as on the worst day together",
                "counts; what the store has left for those days is given first",
            )
            for each in found[:3]
        ),
    ]


def explain_party(found: Party, display: Display) -> list[Step]:
    """How a party's sets are found, and what bounds them. Source: core.lighten."""
    return [
        Step(
            each.before.name,
            display.mass(each.grams if each.after is not None else each.grams_before),
            _alone_words(found, each, display),
            "the lightest set of each, as on its own page",
        )
        for each in found.proposals
    ] + [
        Step(
            "together",
            display.mass(found.grams),
            "a sum" + (f"; no less than {display.mass(found.bound)}" if found.plain else ""),
            _split_words(found),
        )
    ]


def _alone_words(found: Party, proposal: Proposal, display: Display) -> str:
    if proposal.after is None:
        return "what they have now, as no set was found"
    if not found.plain or proposal.bound <= 0:
        return "what the pieces of their set weigh"
    return f"alone no less than {display.mass(proposal.bound)}"


def _some(names: Sequence[str]) -> str:
    more = len(names) - MOST_NAMED
    return ", ".join(names[:MOST_NAMED]) + (f" and {more} more" if more > 0 else "")


def _split_words(found: Party) -> str:
    if not found.scarce:
        return "everybody alone, as nothing is wanted more often than there is"
    if found.in_turn:
        return (
            "no split was found that gives everybody what they need: those who need most chose "
            "first, which is judgement; the bound is not"
        )
    return (
        f"what is scarce has a price, most first: {', '.join(found.scarce)}; the lightest split of "
        "the sets that were found, and the bound is what everybody carries at least at those "
        "prices, less what all there is brings"
    )


def explain_costs(treads: Sequence[Tread], display: Display) -> list[Step]:
    """How the steps of caution are found. Source: core.lighten."""
    return [
        Step(
            caution_words(each.deviations),
            display.mass(each.grams),
            "the lightest set that holds there and at every milder step, none less than "
            f"{display.mass(max(each.proposal.bound, 0.0))}",
            "the course's own verdict; typed weather straight between its three words of caution, "
            "hourly weather by its own deviations",
        )
        for each in treads
    ] + [
        Step(
            "ready at the road",
            "",
            "what a step brings, taken if the forecast passes the coldest camp, the strongest wind "
            "or the wettest day for which the step before is planned",
            "judgement: which of the three decided is not asked, any of them counts",
        )
    ]


def explain_lighten(found: Proposal, display: Display) -> list[Step]:
    """How the lightest set is found and proven. Source: core.lighten."""
    rows: Sequence[Step] = [
        Step(
            "asked",
            failing_words(found.closes | found.beyond),
            "every moment and night at the course's caution: no gap, nobody too hot, fingers, toes "
            "and face unhurt, no bed under what this sleeper needs, wet clothes out of it; what "
            "fails in every set is left as it is and said",
            "the course's own verdict",
        ),
        Step(
            "on offer",
            counted(found.offered, "piece"),
            "own clothes and bed, and what each source that is on has left; of pieces alike in "
            "every figure one; no bag or pad that does not fit",
            "the course, the store, the catalogue",
        ),
        Step(
            "rules first",
            counted(len(found.rules), "rule"),
            "; ".join(rule_words(each) for each in found.rules) or "none",
            "common practice, no published source",
        ),
        Step(
            "bound",
            display.mass(found.bound) if found.plain else "in its own unit",
            "the same physics made looser only (dry but for what surely gets wet, all worn, each "
            "region as shut as the tightest piece that can be outermost there) is convex in what "
            "is carried: straight cuts of it, and of sets that failed the verdict with all that "
            "would not mend them, in a program of whole numbers, until its own least set passes "
            "the verdict",
            "outer approximation; HiGHS solves",
        ),
        Step(
            "proof",
            "proven" if found.proven else sure_words(found, display),
            "the least set of the program passes the course's own verdict, and every row of the "
            "program holds for all sets that pass; that one piece more mends and never harms is "
            "tested, not proven",
            "held against every subset of small cases in the tests",
        ),
        Step(
            "milder than planned",
            _milder_words(found),
            "the set is chosen for the course's own caution; it is judged once more at the "
            "forecast and at each step of caution milder than the course's, and what fails there "
            "and not at the course's own is counted, each moment once",
            "the course's own verdict at those steps; between them nothing is looked at",
        ),
    ]
    return list(rows)
