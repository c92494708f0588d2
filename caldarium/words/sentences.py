"""Verdicts in one sentence each, with the numbers that decide them."""

import math
from datetime import timedelta

from caldarium.core.assess import Assessment, PersonResult
from caldarium.core.day.day_heat import DayStory, MomentStory
from caldarium.core.day.states import BARE, TOLERANCE, DigitState, MomentState
from caldarium.core.night.camp import ShelterNight
from caldarium.core.night.nights import Night
from caldarium.core.night.shelter_faults import BUILT, gust_at_walls
from caldarium.core.physics.extremities import FREEZES, WORKS
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.legs import Stage
from caldarium.core.timeline.moments import Moment, Timeline
from caldarium.core.timeline.weather import TYPED, deviations
from caldarium.core.what_if.cures import Breaking, Cure, GapMoment, GloveCure
from caldarium.core.what_if.dial import Dial
from caldarium.core.what_if.try_on import OverruleCost
from caldarium.words.units import Display, clock_text, hours_text, signed

WET_CLOTHES = 50.0
"""Water in the clothing below which it is not spoken of [g]: judgement."""


def moment_name(course: Course, moment: Moment) -> str:
    """A moment as people say it: weekday, clock time and kind. Source: none, wording."""
    day = course.start + timedelta(days=moment.day)
    return f"{day:%a} {clock_text(moment.start)}, {moment.kind}"


def outfit_sentence(moment: Moment, state: MomentState) -> str:
    """What this outfit does at this moment.

    Source: figures of the assessment.
    """
    lasts = "the wait" if moment.kind == "hold" else f"this {moment.kind}"
    lasts = "setting out" if moment.kind == "setting out" else lasts
    where = f"the {state.weakest} lose most for their size"
    if state.weakest in ("head", "trunk"):
        where = f"the {state.weakest} loses most for its size"
    if state.state == "gap":
        held = hours_text(state.endurance)
        planned = hours_text(moment.hours)
        return f"{state.gap:.1f} clo short: holds {held}, {lasts} is {planned}; {where}."
    if state.state == "hot":
        return (
            f"Even the least sensible outfit, {state.least:.1f} clo, is over the "
            f"{state.need_soak:.1f} clo at which clothing soaks: go slower or open everything, "
            f"and drink: {state.sweat:.1f} L of sweat an hour at the least."
        )
    if state.state == "slack":
        over = state.provided - state.need_neutral
        return f"{over:.1f} clo more than neutral: a layer can come off or open up."
    if state.gap > 0.05:
        held = hours_text(state.endurance)
        return f"Under the minimum by {state.gap:.1f} clo, but holds {held}: enough for {lasts}."
    if state.provided > state.need_neutral + TOLERANCE:
        return (
            f"{state.provided:.1f} clo is over neutral, {state.opened:.1f} with every vent open is "
            f"not: open up; {where}."
        )
    return f"{state.provided:.1f} clo, between the minimum and neutral; {where}."


def digits_sentence(state: MomentState) -> str:
    """How fingers, toes and face fare at this moment.

    Source: core.extremities, core.wind.
    """
    told = [_digit_words("fingers", state.fingers)]
    if state.toes.at_end < WORKS:
        told.append(_digit_words("toes", state.toes))
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


def _digit_words(name: str, digits: DigitState) -> str:
    end = f"{signed(digits.at_end, 0)} °C at the end"
    if digits.safe_for <= 0 or (math.isfinite(digits.safe_for) and digits.at_end < FREEZES):
        return f"{name} near freezing {_after(digits.safe_for)}, {end}"
    if digits.works_for <= 0 or digits.at_end < WORKS:
        return f"{name} numb {_after(digits.works_for)}, {end}"
    return f"{name} work on, {end}"


def _after(minutes: float) -> str:
    return f"after {_minutes(minutes)}" if minutes > 0 else "from before"


def _minutes(minutes: float) -> str:
    return f"{max(minutes, 1):.0f} min" if minutes < 90 else hours_text(minutes / 60)


def wet_sentence(person: Person, state: MomentState, display: Display) -> str:
    """How wet what is worn is, and what that costs; empty where it is dry.

    Source: core.wetness.
    """
    if state.water < WET_CLOTHES:
        return ""
    names = {piece.id: piece.name for piece in person.garments}
    worst = sorted((each for each in state.wet if each in state.worn),
                   key=lambda each: -state.wet[each])[:2]  # fmt: skip
    listed = " and ".join(f"{names[each]} {state.wet[each]:.0%}" for each in worst)
    left = state.provided / state.dry if state.dry else 1.0
    return (
        f"{display.mass(state.water)} of water in the clothing ({listed} of soaked): "
        f"{left:.0%} of its warmth is left."
    )


def overrule_sentence(found: OverruleCost | None) -> str:
    """What the user's own word on an outfit costs; empty where there is none, or none that tells.

    Source: core.try_on.
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

    Source: core.cures.
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


def cure_sentence(found: list[Cure], state: MomentState, display: Display) -> str:
    """The cheapest cure of a gap in one sentence, and the next best beside it.

    Source: core.cures.
    """
    if state.state != "gap":
        return ""
    if not found:
        return "No single piece of the catalogue helps: wait less, in a better place, or move."
    best = found[0]
    mass = display.mass(best.piece.mass_g)
    if best.whole:
        return f"Cheapest cure: {best.piece.name}, {mass}, closes it whole."
    most = max(found, key=lambda each: each.closes)
    told = (
        f"No single piece closes it. Most: {most.piece.name}, {display.mass(most.piece.mass_g)}, "
        f"closes {most.closes:.1f} of {state.gap:.1f} clo"
    )
    if best is most:
        return told + "."
    return f"{told}; most for its mass: {best.piece.name}, {mass}, {best.closes:.2f} clo."


def gap_moment_sentence(found: GapMoment, people: int) -> str:
    """How many are short at a moment, by how much, and where most of them are weak.

    Source: core.cures.
    """
    count = len(found.people)
    who = f"{count} of {people} {'is' if count == 1 else 'are'} short"
    where = f"weakest at the {found.region}"
    if count > 1:
        where = f"{found.weak_there} weakest at the {found.region}"
    return f"{who}, by up to {found.largest:.1f} clo; {where}."


def breaking_sentence(found: Breaking, display: Display) -> str:
    """Where what is worn breaks, in one sentence.

    Source: core.cures.
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

    Source: core.day_heat.
    """
    coldest = min(story.planned, key=lambda each: each.stored)
    wettest = max(story.planned, key=lambda each: each.water)
    sweat = sum(each.sweat for each in story.planned)
    told = f"{sweat:.1f} L of sweat over the day"
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


def story_here_sentence(story: DayStory, moment: str) -> str:
    """What the body's own heat says of one moment, and whether it agrees with the verdict.

    Source: core.day_heat.
    """
    here = next(each for each in story.moments if each.moment == moment)
    change = f"{signed(here.stored, 0)} W h/m² in this {here.kind}"
    told = f"Body heat by the two-node model: {change}, lowest of the day {signed(here.lowest, 0)}"
    if here.in_debt and here.state != "gap":
        since = "from before" if here.held_for == 0 else f"after {hours_text(here.held_for)}"
        return f"{told}: past the limit {since}, though steady state is not short here."
    if not here.in_debt and here.state == "gap":
        return f"{told}: the heat of the body carries it this long, though steady state is short."
    return f"{told}; it agrees with the verdict."


def _doing(kind: str) -> str:
    """A kind of moment as something people do."""
    known = {"dawn": "packing up", "halt": "halting", "camp": "at camp"}
    return known.get(kind, kind)


def told_by_story(each: MomentStory) -> str:
    """What the body's own heat says of a moment, beside its verdict.

    Source: core.day_heat.
    """
    if each.in_debt:
        if each.held_for == 0:
            return "in debt from before: warm up, eat, move"
        return f"the day's debt passes the limit after {hours_text(each.held_for)}"
    if each.state == "gap":
        return "short by steady state; the heat of the body carries it this long"
    return "–"


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


def bed_sentence(night: Night, display: Display) -> str:
    """What this bed does on this night.

    Source: figures of the assessment.
    """
    low = display.temperature(night.low)
    own = display.temperature(night.sleeper)
    if not math.isfinite(night.sleeper):
        return (
            f"No air temperature balances this bed: {night.watts_down:.0f} W go into the ground "
            f"and {night.watts_made:.0f} W are made. Put a pad under it."
        )
    if night.state == "gap":
        path = "ground" if night.watts_down > night.watts_up / 2 else "bag"
        held = hours_text(night.endurance)
        return (
            f"Short by {display.difference(-night.margin, 1)}: good to {own}, the low is {low}; "
            f"holds {held}. The {path} is where a change buys most."
        )
    if night.state == "hot":
        return f"Too warm even without the bag: the night stays near {low}."
    spare = display.difference(night.margin, 1)
    open_up = " Open it, or leave clothes out." if night.state == "slack" else ""
    damp = (
        f" The bag holds {display.mass(night.damp)} of damp by now: air it."
        if night.damp >= 30
        else ""
    )
    return f"Good to {own} for this sleeper, {spare} to spare at {low}.{open_up}{damp}"


def night_hours_sentence(night: Night, display: Display) -> str:
    """When in the night this bed stops being comfortable.

    Source: core.nights, hour by hour.
    """
    if not math.isfinite(night.comfortable_until):
        return "Comfortable all night through, hour by hour."
    told = f"Comfortable until about {clock_text(night.comfortable_until % 24)}"
    if night.comfortable_until <= night.hours[0]:
        told = "Too cold from bedtime on"
    if not math.isfinite(night.margin):
        told += "; no air temperature balances this bed"
    elif night.margin < 0:
        told += f"; short by {display.difference(-night.margin, 1)} at the coldest hour"
    if math.isfinite(night.wakes):
        return f"{told}; wakes of cold near {clock_text(night.wakes % 24)}."
    return f"{told}; the debt stays small, {night.debt:.0f} W h/m²: a poor sleep, not a danger."


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


def shelter_sentence(course: Course, night: ShelterNight, display: Display) -> str:
    """Whether a shelter stands a night.

    Source: figures of the assessment.
    """
    name = next(each.name for each in course.shelters if each.id == night.shelter)
    close = abs(night.at_walls - night.stands) < 1
    gust, walls, stands = (
        display.wind(each, int(close)) for each in (night.gust, night.at_walls, night.stands)
    )
    met = f"gusts of {gust}" + (f", {walls} at its walls" if night.at_walls < night.gust else "")
    if night.fit:
        return f"{name} stands {met}; it is good to {stands}."
    told = f"{name} is unfit for the night: {met}, it is good to {stands}"
    return f"{told}; {'; '.join(night.faults)}."


def windbreak_sentence(course: Course, night: ShelterNight, display: Display) -> str:
    """What a wall or a turn would bring at a shelter's walls; empty for what is built.

    Source: core.shelter_faults.
    """
    shelter = next(each for each in course.shelters if each.id == night.shelter)
    if shelter.kind in BUILT:
        return ""
    told = [
        f"{words} {display.wind(gust_at_walls(night.gust, name, shelter.kind))}"
        for name, words in (
            ("nothing", "In the open its walls meet"),
            ("narrow end into it", "turned narrow end into the wind"),
            ("a wall", "behind a wall"),
            ("both", "with both"),
        )
    ]
    return f"{', '.join(told)}."


def damp_sentence(night: ShelterNight, display: Display) -> str:
    """How much breath settles on a shelter's skin, and what to do about it.

    Source: core.camp.
    """
    if night.settled < 1:
        return "Dry inside: the air carries all breath away."
    what = "frost" if night.frost and not night.drip_hours else "water"
    told = (
        f"{display.mass(night.settled)} of {what} on the walls by morning, at most "
        f"{display.mass(night.deposit)} an hour; the skin falls to "
        f"{display.temperature(night.skin)}, the dew point inside is "
        f"{display.temperature(night.inside_dew)}"
    )
    if night.drip_hours:
        return f"{told}: drips for {night.drip_hours:.0f} h. Open the vents, bring a sponge."
    return f"{told}: brush it off before it thaws."


def snow_sentence(night: ShelterNight) -> str:
    """Snow on a shelter through a night; empty where there is none.

    Source: core.camp.
    """
    if night.snow < 0.5:
        return ""
    told = f"{night.snow:.0f} kg/m² of snow by morning"
    if math.isfinite(night.clear_after):
        return f"{told}: clear it every {hours_text(night.clear_after)}, and keep a vent open."
    return f"{told}: keep a vent open."


def course_sentence(course: Course, result: Assessment) -> str:
    """The course in one line: gaps, cold beds, overheating, unfit shelters, idle grams.

    Source: figures of the assessment.
    """
    gaps = [m for person in result.people for m in person.moments if m.state == "gap"]
    beds = [n for person in result.people for n in person.nights if n.state == "gap"]
    hot = [m for person in result.people for m in person.moments if m.state == "hot"]
    unfit = [n for n in result.shelters if not n.fit]
    idle = sum(person.idle_grams for person in result.people)
    cold = sum(bool(m.at_risk) for person in result.people for m in person.moments)
    parts = [
        _count(len(gaps), "gap") + (f" (worst {max(m.gap for m in gaps):.1f} clo)" if gaps else ""),
        _count(len(beds), "cold bed-night"),
        _count(cold, "frostbite risk"),
        _count(len(hot), "overheating moment"),
        _count(len(unfit), "unfit shelter-night"),
        f"{idle:,.0f} g idle",
    ]
    return ", ".join(parts) + f" for {len(course.people)} people at caution “{course.caution}”."


def leg_sentence(stage: Stage, display: Display) -> str:
    """When a leg is walked, how fast, how steep, and with how many halts.

    Source: core.legs.
    """
    told = f"{clock_text(stage.start)} to {clock_text(stage.end)}"
    walk = stage.walk
    if walk is None:
        return told
    told += f", {display.pace(walk.speed)}, {walk.slope:.0f} %"
    if walk.halts:
        told += f", {_count(walk.halts, 'halt')}"
    return told


def caution_sentence(course: Course, display: Display) -> str:
    """What the chosen caution adds to the conditions.

    Source: the course's spread.
    """
    if course.caution == "as forecast":
        return "as forecast: nothing added"
    spread = course.spread
    shift = spread.cautious if course.caution == "cautious" else spread.expedition
    rain = ""
    if shift.precipitation_factor > 1:
        rain = f", rain × {shift.precipitation_factor:g}"
    elif shift.precipitation_mm:
        rain = f", rain +{display.rain(shift.precipitation_mm)}"
    sources = ""
    if any(source.used for source in course.sources):
        sources = f"; forecasts {deviations(course):g} standard deviations"
    return (
        f"{course.caution}: low {display.difference(shift.low_k, 1)}, "
        f"high {display.difference(shift.high_k, 1)}, wind +{display.wind(shift.wind_ms)}{rain}"
        f"{sources}"
    )


def source_sentences(course: Course, timeline: Timeline, display: Display) -> list[str]:
    """Which source rules how many of the course's hours, and what is missing.

    Source: the timeline.
    """
    ruling = timeline.hours.source
    whole = len(ruling)
    found: list[str] = []
    for place, source in enumerate(course.sources):
        hours = int((ruling == place).sum())
        missing = [
            name
            for name, values in (
                ("gusts", source.gust_ms), ("rain", source.precipitation_mm),
                ("humidity", source.humidity_pct), ("cloud", source.cloud_pct),
            )
            if not values or None in values
        ]  # fmt: skip
        words = f"rules {hours} of {whole} h" if source.used else "set aside"
        if source.used and not hours:
            words = "rules no hour: another stands before it, or it knows other days"
        if source.issued is not None:
            words += f"; issued {source.issued:%a %-d %b %H:%M}"
        words += f"; for {display.altitude(source.altitude_m)}"
        if source.members:
            words += f"; {len(source.members)} runs"
        if missing:
            words += f"; without {', '.join(missing)} for some hours"
        found.append(words)
    typed = int((ruling == TYPED).sum())
    found.append(f"typed conditions rule {typed} of {whole} h, {course.conditions_source}")
    return found


def _count(number: int, word: str) -> str:
    return f"{number or 'no'} {word}{'' if number == 1 else 's'}"


def number(value: float, decimals: int = 2) -> str:
    """A figure for a table; one that does not exist as a word.

    Source: none, wording.
    """
    return signed(value, decimals) if math.isfinite(value) else "none"
