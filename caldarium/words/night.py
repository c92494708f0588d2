"""Verdicts of beds and shelters in one sentence each, with the numbers that decide them."""

import math
from typing import assert_never

from caldarium.core.night.camp import ShelterNight
from caldarium.core.night.nights import Night
from caldarium.core.night.open_nights import OpenNight, Reached
from caldarium.core.night.shelter_faults import BUILT, Fault, Note, gust_at_walls
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Shelter
from caldarium.core.what_if.bed_changes import BedChange, Choice
from caldarium.core.what_if.loans import Loan
from caldarium.words.units import Display, clock_text, hours_text

WINDY, DRYING_W, WET_BAG, SKY_K = 0.9, 6.0, 0.15, 3.0
"""Share that wind leaves under which it is named, heat of drying [W], share of the bag that wet
takes, and pull of the sky [K] from which they are what matters: judgement."""


def shelter_label(course: Course, shelter: Shelter) -> str:
    """A shelter's name, with what tells it from another of the same name. Source: none, wording."""
    alike = sum(each.name == shelter.name for each in course.shelters)
    return f"{shelter.id.replace('-', ' ')}: {shelter.name}" if alike > 1 else shelter.name


def bed_sentence(night: Night, display: Display) -> str:
    """What this bed does on this night.

    Source: figures of the assessment.
    """
    low = display.temperature(night.low)
    own = display.temperature(night.sleeper)
    if not math.isfinite(night.margin):
        return (
            f"No air temperature balances this bed at {low}: {night.watts_down:.0f} W go into the "
            f"ground and {night.watts_made:.0f} W are made. Put a pad under it."
        )
    if night.state in ("gap", "cool"):
        return _short_sentence(night, display)
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


def _short_sentence(night: Night, display: Display) -> str:
    """What a bed that is short does, and what of it matters most."""
    short, own, low = (
        display.difference(-night.margin, 1),
        display.temperature(night.sleeper),
        display.temperature(night.low),
    )
    told = f"Short by {short}: good to {own}, the low is {low}"
    if not math.isfinite(night.sleeper):
        told = f"Short by {short} at {low}: it would need air that thaws the ground under it"
    costs = _what_costs(night, display)
    if night.state == "cool":
        return f"{told}; the debt stays small: cool, and slept through. {costs}"
    ends = "keep awake, not to injure" if night.survivable else "injure"
    return f"{told}; holds {hours_text(night.endurance)}, and is cold enough to {ends}. {costs}"


def _what_costs(night: Night, display: Display) -> str:
    """Where a short bed loses what would help most."""
    if night.wind_share < WINDY:
        return f"Wind takes {1 - night.wind_share:.0%} of the bed: walls, or a cover, help most."
    if night.watts_drying > DRYING_W:
        return (
            f"Drying wet clothes takes {night.watts_drying:.0f} W: leave them out, or dry them "
            "before bed."
        )
    if night.wet_resistance > WET_BAG * night.bag_resistance:
        return "Wet takes most of the bag: keep it dry, or air it by day."
    if night.sky > SKY_K:
        return f"The open sky cools it by {display.difference(night.sky, 1)}: a roof or tree helps."
    path = "ground" if night.watts_down > night.watts_up / 2 else "bag"
    return f"The {path} is where a change buys most."


def margin_text(night: Night, display: Display) -> str:
    """What a bed has to spare in a cell of a table or picture. Source: core.night.nights."""
    return display.difference(night.margin) if math.isfinite(night.margin) else "none"


def night_hours_sentence(night: Night, display: Display) -> str:
    """When in the night this bed stops being comfortable.

    Source: core.night.nights, hour by hour.
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
    why = "; ".join(fault_words(each) for each in night.faults)
    if any(each.reason == "blown down" for each in night.faults):
        return f"{name} is unfit for the night: {met}, it is good to {stands}; {why}."
    return f"{name} is unfit for the night: {why}. It stands {met}."


def open_sentence(course: Course, found: OpenNight, display: Display) -> str:
    """Who has no shelter on a night, and what reaches them there.

    Source: core.night.open_nights.
    """
    names = [course.person(who).name for who in found.people]
    who = names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
    told = f"{who} {'has' if len(names) == 1 else 'have'} no shelter"
    reached = "; ".join(_reached(each, display) for each in found.reasons)
    if found.planned:
        return f"{told}, as planned{': ' + reached if reached else ''}."
    if not found.reasons:
        return f"{told}; the night is mild, dry and calm."
    return f"{told}: {reached}. Give them one, or say that the bivouac is planned."


def _reached(found: Reached, display: Display) -> str:
    match found.reason:
        case "rain":
            return f"{display.rain(found.figures[0])} of rain falls on them"
        case "snow":
            return f"{display.snow_load(found.figures[0])} of snow falls on them"
        case "wind":
            return f"gusts of {display.wind(found.figures[0])}"
        case "cold":
            return f"a low of {display.temperature(found.figures[0])}"
        case "insects":
            return "biting insects"
    assert_never(found.reason)


def fault_words(found: Fault) -> str:
    """Why a shelter is unfit, as part of a sentence. Source: core.night.shelter_faults."""
    who = " and ".join(found.names) or "somebody who has left"
    match found.reason:
        case "blown down":
            return (
                f"gusts pass what it stands; {_STANDS_WITH[found.names[0] if found.names else '']}"
            )
        case "too many sleepers":
            return "{:.0f} sleepers in {:.0f} places".format(*found.figures)
        case "no hold":
            at = found.names.index("")
            takes = " or ".join(found.names[:at]) or "no anchors"
            brought = " and ".join(found.names[at + 1 :]) or "nothing to hold it"
            return f"the ground takes {takes}, it came with {brought}"
        case "stove inside":
            return "a stove inside fabric kills by fire or by carbon monoxide; cook outside"
        case "poles walk" | "parts walk":
            what = "its poles walk" if found.reason == "poles walk" else "parts of it walk"
            return f"{what} with {who}, {_sleeps(found.names)} elsewhere"
        case "hammock inside":
            return f"{who} would hang in it, and it takes no hammock"
        case "poles missing":
            return "it needs {:.0f} walking poles, {:.0f} are there".format(*found.figures)
        case "wet inner":
            return "its inner is pitched first in the rain on ground that holds no more water"
        case "only sits":
            return "a group shelter is for holds: people sit in it, nobody lies down"
        case "not apart":
            return f"{who} were to sleep apart"
        case "not together":
            return f"{who} were to sleep together"
    assert_never(found.reason)


def _sleeps(names: tuple[str, ...]) -> str:
    return "who sleep" if len(names) > 1 else "who sleeps"


_STANDS_WITH = {
    "": "move camp",
    "narrow end into it": "turned narrow end into it, it would stand",
    "a wall": "behind a wall it would stand",
    "both": "behind a wall and turned narrow end into it, it would stand",
}


def note_sentence(found: Note, display: Display) -> str:
    """What of a shelter asks for care on a night. Source: core.night.shelter_faults."""
    match found.reason:
        case "build the wall":
            return (
                "Counted on a wall on the windward side: build it as high as the shelter and a "
                "little apart from it, before the wind comes, and clear drift from behind it."
            )
        case "cooking in the porch":
            return (
                "Cooking in the porch: door open, stove lit outside and brought back, nothing hung "
                "over it, a way out at the other end."
            )
        case "cooking inside":
            return (
                "Cooking inside: a hole as wide as a fist high and one low, both kept open; a "
                "headache is carbon monoxide until proved otherwise."
            )
        case "doubtful condition":
            return f"It is {found.names[0]}: pitch it once before it is needed."
        case "insects":
            return "Insects come in: take head nets or a hanging net."
        case "thin wall":
            column = display.column(found.figures[0])
            return f"A wall that holds a water column of {column} leaks in long rain."
        case "thin floor":
            column = display.column(found.figures[0])
            return (
                f"A floor that holds a water column of {column} leaks under a knee on wet ground."
            )
        case "inner first":
            return "The inner is pitched first and gets wet: hold the fly over it."
        case "sloping":
            return (
                f"A slope of {found.figures[0]:.0f}°: sleepers slide off their pads; dig a shelf "
                "or lie head up."
            )
        case "open sides":
            return "Rain and wind come in under a tarp: pitch it low, keep bags in covers."
        case "too narrow":
            wide, there = (display.span(each) for each in found.figures)
            return f"Sleepers need {wide} side by side, it is {there} wide."
        case "wet foot":
            tall, long = (display.span(each, 2) for each in found.figures)
            who = found.names[0]
            return f"The foot of {who}'s bag touches the wall and gets wet: {tall} in {long}."
        case "no room for kit":
            needed = display.area(found.figures[0])
            return (
                f"Packs, boots and wet clothes need about {needed} beside the sleepers; "
                "bag what stays outside."
            )
    assert_never(found.reason)


def windbreak_sentence(course: Course, night: ShelterNight, display: Display) -> str:
    """What a wall or a turn would bring at a shelter's walls; empty for what is built.

    Source: core.night.shelter_faults.
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

    Source: core.night.camp.
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


def snow_sentence(night: ShelterNight, display: Display) -> str:
    """Snow on a shelter through a night; empty where there is none.

    Source: core.night.camp.
    """
    if night.snow < 0.5:
        return ""
    told = f"{display.snow_load(night.snow)} of snow by morning"
    if math.isfinite(night.clear_after):
        return f"{told}: clear it every {hours_text(night.clear_after)}, and keep a vent open."
    return f"{told}: keep a vent open."


def loan_words(course: Course, loan: Loan, display: Display) -> str:
    """Who gets which bed of the store, and what that leaves. Source: core.what_if.loans."""
    name = course.person(loan.person).name
    spare = "to spare" if loan.margin >= 0 else "still short"
    return (
        f"{name} gets {loan.name} ({loan.tag}, {display.mass(loan.grams)}): "
        f"{display.difference(abs(loan.margin), 1)} {spare} on the worst night"
    )


def change_words(found: BedChange | Choice) -> str:
    """A change to a bed by its name. Source: core.what_if.bed_changes."""
    match found.how:
        case "instead":
            return f"{found.piece} for {found.instead}"
        case "new":
            return found.piece
        case "over the bag":
            return f"{found.piece} over the bag"
        case "under the rest":
            return f"{found.piece} under the rest"
        case "worn inside":
            return f"{found.piece} worn inside"
        case "left out":
            return "wet clothes left out of the bed"
    assert_never(found.how)
