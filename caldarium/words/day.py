"""Verdicts of the waking day in one sentence each, with the numbers that decide them."""

import math
from dataclasses import dataclass

from caldarium.core.day.day_heat import DayStory, MomentStory
from caldarium.core.day.how_sure import Sure
from caldarium.core.day.keeping_up import Effort
from caldarium.core.day.states import BARE, TOLERANCE, DigitState, MomentState
from caldarium.core.night.nights import Night
from caldarium.core.physics.extremities import FREEZES, WORKS
from caldarium.core.physics.heat import MOST_WET
from caldarium.core.plan.course import Person
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.cures import Breaking, Cure, GapMoment, GloveCure
from caldarium.core.what_if.dial import Dial
from caldarium.core.what_if.more_cures import DRINK_L, CureSet, Otherwise
from caldarium.core.what_if.other_hours import NOON_FROM, OtherHours
from caldarium.core.what_if.try_on import OverruleCost
from caldarium.words.units import Display, clock_text, hours_text, signed

SUN_FROM = 2.0
"""What the sun must add to be spoken of [K]: judgement."""
WET_CLOTHES = 50.0
"""Water in the clothing below which it is not spoken of [g]: judgement."""


def outfit_sentence(moment: Moment, state: MomentState, display: Display) -> str:
    """What this outfit does at this moment.

    Source: figures of the assessment.
    """
    lasts = "the wait" if moment.kind == "hold" else f"this {moment.kind}"
    lasts = "setting out" if moment.kind == "setting out" else lasts
    where = f"the {state.weakest} lose most for their size"
    if state.weakest in ("head", "trunk"):
        where = f"the {state.weakest} loses most for its size"
    held = hours_text(state.endurance)
    if state.state == "gap":
        asked = f"{lasts} is to be held {hours_text(state.must_hold)}"
        told = f"{state.gap:.1f} clo short: holds {held}, {asked}; {where}."
        if math.isfinite(state.recovery):
            told += f" What follows wins it back in {hours_text(state.recovery)}."
        return told
    if state.state == "hot":
        warm = display.temperature(moment.warm.air)
        wet = (
            "all of the skin wet and more"
            if state.strain > 1
            else f"{state.strain:.0%} of the skin wet"
        )
        return (
            f"Heat: at {warm}{_in_sun(moment, display)} even the least there is to wear asks for "
            f"{wet}, and people manage {MOST_WET:.0%}: go slower, earlier or in the shade, and "
            f"drink: {display.volume(state.sweat)} of sweat an hour."
        )
    if state.state == "slack":
        over = state.provided - state.need_neutral
        return f"{over:.1f} clo more than neutral: a layer can come off or open up."
    if state.state == "cool":
        asked = f"{lasts} asks for {hours_text(state.must_hold)}"
        return f"Cool, under the minimum, but holds {held}, and {asked}; {where}."
    if state.provided < state.need_steady - TOLERANCE:
        asked = hours_text(state.must_hold)
        return f"{state.provided:.1f} clo holds {held}, and {lasts} asks for {asked}; {where}."
    if state.provided > state.need_neutral + TOLERANCE:
        return (
            f"{state.provided:.1f} clo is over neutral, {state.opened:.1f} with every vent open is "
            f"not: open up; {where}."
        )
    return f"{state.provided:.1f} clo, between the minimum and neutral; {where}."


def beside_sentence(moment: Moment, state: MomentState, display: Display) -> str:
    """What keeps people warm in a hold or at a halt besides what they wear; empty for nothing.

    Source: figures of the assessment.
    """
    if moment.kind == "halt":
        return _had_sentence(moment, display)
    if moment.kind != "hold":
        return ""
    bag = f"the bag round legs and trunk, {state.bag:.1f} clo" if state.bag else "no bag round them"
    if moment.roof:
        return (
            f"Sat out with {bag}, in a group shelter that somebody must carry: {moment.lee:.0%} of "
            "the wind, no rain."
        )
    return f"Sat out with {bag}, in a lee that leaves {moment.lee:.0%} of the wind."


def _had_sentence(moment: Moment, display: Display) -> str:
    """What is eaten and drunk at a halt."""
    told: list[str] = []
    if moment.drink_l:
        told.append(f"{display.volume(moment.drink_l)} of hot drink, which counts")
    if moment.eaten_kcal:
        told.append(f"{moment.eaten_kcal:.0f} kcal eaten, which counts in the day's story only")
    return f"With {' and '.join(told)}." if told else ""


_SURE: dict[Sure, str] = {
    "sure": "Sure",
    "likely": "Likely",
    "either way": "It could go either way",
}


def sure_sentence(state: MomentState) -> str:
    """How sure the verdict is, and the band that it lies in; empty where heat decides.

    Source: core.day.how_sure.
    """
    if state.state == "hot":
        return ""
    side = "short" if state.provided < state.need_min else "to spare"
    left = abs(state.provided - state.need_min)
    return f"{_SURE[state.sure]}: {left:.1f} clo {side}, give or take {state.spread:.1f}."


@dataclass(frozen=True)
class Cell:
    """One person at one moment in a table: the state, its figures, and what is at risk."""

    state: str
    figures: str
    risk: str


def moment_cell(state: MomentState) -> Cell:
    """What somebody wears at a moment, against what it asks.

    Source: none, wording.
    """
    margin = f"{state.provided - state.need_min:+.1f}".replace("-", "−")
    risk = f"{' and '.join(state.at_risk)} at risk" if state.at_risk else ""
    return Cell(state.state, f"{state.provided:.1f} clo, {margin}", risk)


def bed_cell(night: Night, display: Display) -> Cell:
    """A bed by what it has to spare.

    Source: none, wording.
    """
    if not math.isfinite(night.margin):
        return Cell(night.state, "no figure", "")
    return Cell(night.state, display.difference(night.margin), "")


def effort_sentence(effort: Effort | None, party: float | None, display: Display) -> str:
    """What a walk asks of somebody who cannot keep it up, and the pace that they could; empty where
    they can.

    Source: core.day.keeping_up.
    """
    if effort is None or not effort.too_hard:
        return f"Others cannot keep this up; all could at {display.pace(party)}." if party else ""
    told = (
        f"Too hard to keep up: it takes {effort.takes:.0f} W, and {effort.keeps:.0f} W can be kept "
        "up here"
    )
    if not effort.own_pace:
        return f"{told}; with this load no pace is slow enough."
    told += f"; {display.pace(effort.own_pace)} would do"
    slower = party is not None and party < effort.own_pace - 0.01
    return f"{told}, {display.pace(party)} for the whole party." if slower and party else f"{told}."


def _in_sun(moment: Moment, display: Display) -> str:
    """What the sun adds, where it does."""
    if moment.warm.sun < SUN_FROM:
        return ""
    return f" and in the sun, {display.difference(moment.warm.sun, 0)} more,"


def digits_sentence(state: MomentState, display: Display) -> str:
    """How fingers, toes and face fare at this moment.

    Source: core.physics.extremities, core.physics.wind.
    """
    told = [_digit_words("fingers", state.fingers, display)]
    if state.toes.at_end < WORKS:
        told.append(_digit_words("toes", state.toes, display))
    else:
        told.append("toes stay warm")
    words = "; ".join(told)
    if math.isfinite(state.bare_fingers):
        words += f"; warm bare fingers work {_minutes(state.bare_fingers)}"
    if math.isfinite(state.frostbite):
        words += f"; bare skin may freeze in {_minutes(state.frostbite)}"
        if state.bare_face > BARE:
            words += f", and {state.bare_face:.0%} of the face is bare"
    return words[0].upper() + words[1:] + "."


def _digit_words(name: str, digits: DigitState, display: Display) -> str:
    end = f"{display.temperature(digits.at_end)} at the end"
    if digits.safe_for <= 0 or (math.isfinite(digits.safe_for) and digits.at_end < FREEZES):
        return f"{name} near freezing {_after(digits.safe_for)}, {end}"
    if digits.works_for <= 0 or digits.at_end < WORKS:
        return f"{name} numb {_after(digits.works_for)}, {end}"
    return f"{name} work on, {end}"


def _after(minutes: float) -> str:
    return f"after {_minutes(minutes)}" if minutes > 0 else "already when it begins"


def _minutes(minutes: float) -> str:
    return f"{max(minutes, 1):.0f} min" if minutes < 90 else hours_text(minutes / 60)


def wet_sentence(person: Person, state: MomentState, display: Display) -> str:
    """How wet what is worn is, and what that costs; empty where it is dry.

    Source: core.day.wetness.
    """
    if state.water < WET_CLOTHES:
        return ""
    names = {piece.id: piece.name for piece in person.garments}
    worst = sorted(
        (each for each in state.wet if each in state.worn), key=lambda each: -state.wet[each]
    )[:2]
    listed = " and ".join(f"{names[each]} {state.wet[each]:.0%}" for each in worst)
    left = state.provided / state.dry if state.dry else 1.0
    return (
        f"{display.mass(state.water)} of water in the clothing ({listed} of soaked): "
        f"{left:.0%} of its warmth is left."
    )


def overrule_sentence(found: OverruleCost | None) -> str:
    """What the user's own word on an outfit costs; empty where there is none, or none that tells.

    Source: core.what_if.try_on.
    """
    if found is None or not (found.on or found.off):
        return ""
    words: list[str] = []
    if found.on:
        words.append(f"{' and '.join(found.on)} on")
    if found.off:
        words.append(f"{' and '.join(found.off)} off")
    change = found.provided - found.by_rules
    cost = f"{-change:.2f} clo less" if change < 0 else f"{change:.2f} clo more"
    told = f"Your word, {', '.join(words)}: {cost} than by the rules ({found.by_rules:.1f} clo"
    if found.state != found.state_by_rules:
        return f"{told}, {found.state_by_rules}); that makes it {found.state}."
    return f"{told}); {found.state} either way."


def glove_sentence(state: MomentState, found: list[GloveCure], display: Display) -> str:
    """The handwear that would keep fingers working; empty where they work anyway.

    Source: core.what_if.cures.
    """
    if state.fingers.at_end >= WORKS:
        return ""
    if not found:
        return "No gloves of the catalogue help the fingers: warm the body first, or wait less."
    best = found[0]
    lasting = [each for each in found if not math.isfinite(each.works_for)]
    if lasting:
        best = min(lasting, key=lambda each: each.piece.mass_g)
    told = "warm fingers work on" if lasting else f"warm fingers work {_minutes(best.works_for)}"
    mass = display.mass(best.piece.mass_g)
    return f"For the hands: {best.piece.name}, {mass}: {told} instead of {_minutes(best.now)}."


def cure_sentence(
    found: list[Cure], state: MomentState, display: Display, together: CureSet | None = None
) -> str:
    """The cheapest cure of a gap in one sentence, and the next best beside it.

    Source: core.what_if.cures.
    """
    if state.state != "gap":
        return ""
    if not found:
        return "No single piece of the catalogue helps: wait less, in a better place, or move."
    best = found[0]
    mass = display.mass(best.piece.mass_g)
    if best.whole:
        return f"Cheapest cure: {best.piece.name}, {mass}, closes it whole."
    if together is not None:
        names = ", ".join(each.name for each in together.pieces[:-1])
        last = together.pieces[-1].name
        return (
            f"No single piece closes it; the lightest that do together: {names} and {last}, "
            f"{display.mass(together.grams)}."
        )
    most = max(found, key=lambda each: each.closes)
    told = (
        f"No single piece closes it. Most: {most.piece.name}, {display.mass(most.piece.mass_g)}, "
        f"closes {most.closes:.1f} of {state.gap:.1f} clo"
    )
    if best is most:
        return told + "."
    return f"{told}; most for its mass: {best.piece.name}, {mass}, {best.closes:.2f} clo."


def otherwise_sentence(found: Otherwise | None, display: Display) -> str:
    """What would close a gap without more kit; empty where nothing would, or nothing is short.

    Source: core.what_if.more_cures.
    """
    if found is None:
        return ""
    told: list[str] = []
    if found.lee:
        told.append("a lee closes it")
    if found.roof:
        told.append("a group shelter closes it")
    if found.at_most is not None and found.at_most * 60 >= 1:
        told.append(f"a halt of {hours_text(found.at_most)} is held")
    if told or found.at_most is not None:
        drink = display.volume(DRINK_L)
        if found.drink_closes:
            told.append(f"{drink} of hot drink closes it")
        elif found.drink:
            told.append(f"{drink} of hot drink adds {_minutes(60 * found.drink)}")
    return f"Without more kit: {'; '.join(told)}." if told else ""


def drink_label(moment: Moment, display: Display) -> str:
    """What plans a hot drink; empty where nobody halts. Source: core.what_if.more_cures."""
    if moment.kind != "halt":
        return ""
    return f"plan {display.volume(DRINK_L)} at {'these halts' if moment.fold else 'this halt'}"


def hours_sentence(found: OtherHours, hot: int) -> str:
    """What setting out earlier, or resting through noon, leaves of a day's heat.

    Source: core.what_if.other_hours.
    """
    left = f"{found.hot} of {hot} hot moments" if found.hot else "no moment of the day hot"
    if found.kind == "early":
        return f"Setting out at {clock_text(found.start)} leaves {left}."
    rest = f"{clock_text(NOON_FROM)} to {clock_text(found.start)}"
    return f"Resting in the shade from {rest} and walking then leaves {left}."


def no_hours_sentence(hot: int) -> str:
    """That other hours do not help. Source: core.what_if.other_hours."""
    return (
        f"No other hours leave fewer than {hot} hot: shade, water, less on the back." if hot else ""
    )


def gap_moment_sentence(found: GapMoment, people: int) -> str:
    """How many are short at a moment, by how much, and where most of them are weak.

    Source: core.what_if.cures.
    """
    count = len(found.people)
    who = f"{count} of {people} {'is' if count == 1 else 'are'} short"
    where = f"weakest at the {found.region}"
    if count > 1:
        where = f"{found.weak_there} weakest at the {found.region}"
    return f"{who}, by up to {found.largest:.1f} clo; {where}."


def breaking_sentence(found: Breaking, display: Display) -> str:
    """Where what is worn breaks, in one sentence.

    Source: core.what_if.cures.
    """
    if found.air is not None and math.isnan(found.air):
        return ""
    cold = "does not break in any cold looked at"
    if found.air is not None:
        cold = f"breaks at {display.temperature(found.air)} in this wind"
    if found.wind is None:
        return f"This outfit {cold}."
    return f"This outfit {cold}, or at {display.wind(found.wind)} at the body in this cold."


def story_sentence(story: DayStory, display: Display) -> str:
    """The day's heat and water in one sentence.

    Source: core.day.day_heat.
    """
    coldest = min(story.planned, key=lambda each: each.stored)
    wettest = max(story.planned, key=lambda each: each.water)
    sweat = sum(each.sweat for each in story.planned)
    told = f"{display.volume(sweat)} of sweat over the day"
    if wettest.water > WET_CLOTHES:
        told += (
            f"; clothing is wettest after the {wettest.kind}, {display.mass(wettest.water)} of "
            f"water, which leaves {wettest.kept:.0%} of its warmth"
        )
    if coldest.stored < -5:
        told += f"; most heat goes while {_doing(coldest.kind)}, {-coldest.stored:.0f} W h/m²"
    first = next((each for each in story.planned if each.in_debt), None)
    if first is not None:
        told += f"; the day's heat debt passes 40 W h/m² while {_doing(first.kind)}"
    return told + "."


SHIVERS = 10.0
"""Shivering that is felt [W/m²]: judgement."""


def story_here_sentence(story: DayStory, moment: str) -> str:
    """What the body's own heat says of one moment, and whether it agrees with the verdict.

    Source: core.day.day_heat.
    """
    here = next(each for each in story.moments if each.moment == moment)
    change = f"{signed(here.stored, 0)} W h/m² in this {here.kind}"
    told = f"Body heat, segment by segment: {change}, lowest of the day {signed(here.lowest, 0)}"
    if here.shivering >= SHIVERS:
        told += ", shivering"
    if here.in_debt and here.state != "gap":
        later = f"after {hours_text(here.held_for)}"
        since = "already when it begins" if here.held_for == 0 else later
        found = f"{told}: past the limit {since}, though steady state is not short here"
    elif not here.in_debt and here.state == "gap":
        found = f"{told}: the heat of the body carries it this long, though steady state is short"
    elif here.cold_digits:
        return f"{told}; {_cold_digits(here)}."
    elif here.state == "hot":
        return f"{told}; so much on the cold side of the forecast, the verdict is of the warm one."
    else:
        return f"{told}; it agrees with the verdict."
    return f"{found}; {_cold_digits(here)}." if here.cold_digits else f"{found}."


def _cold_digits(here: MomentStory) -> str:
    """Fingers and toes that this body lets grow colder than the verdict has them."""
    return f"by its blood {' and '.join(here.cold_digits)} get colder than the verdict says"


def _doing(kind: str) -> str:
    """A kind of moment as something people do."""
    known = {"dawn": "packing up", "halt": "halting", "camp": "at camp"}
    return known.get(kind, kind)


def told_by_story(each: MomentStory) -> str:
    """What the body's own heat says of a moment, beside its verdict.

    Source: core.day.day_heat.
    """
    found: list[str] = []
    if each.in_debt and each.held_for == 0:
        found.append("already in debt when it begins: warm up, eat, move")
    elif each.in_debt:
        found.append(f"the day's debt passes the limit after {hours_text(each.held_for)}")
    elif each.state == "gap":
        found.append("short by steady state; the heat of the body carries it this long")
    if each.cold_digits:
        found.append(f"{' and '.join(each.cold_digits)} colder than the verdict says")
    return "; ".join(found) or "–"


def dial_sentence(dial: Dial, display: Display) -> str:
    """What the what-if dial is turned to; empty where it is not.

    Source: the dial.
    """
    decimals = 0 if dial.colder == int(dial.colder) else 1
    parts = [
        (dial.colder, f"{display.difference(dial.colder, decimals)} colder"),
        (dial.windier, f"{display.wind_change(dial.windier)} wind"),
        (dial.wetter, f"{display.rain(dial.wetter)} a day wetter"),
        (dial.higher, f"{display.altitude(dial.higher)} higher"),
        (dial.slower, f"{dial.slower:g} % slower"),
        (dial.held, f"held {dial.held:g} h longer"),
    ]
    told = [words for value, words in parts if value]
    return f"What if: {', '.join(told)}. Nothing of this is kept." if told else ""
