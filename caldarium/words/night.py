"""Verdicts of beds and shelters in one sentence each, with the numbers that decide them."""

import math

from caldarium.core.night.camp import ShelterNight
from caldarium.core.night.nights import Night
from caldarium.core.night.shelter_faults import BUILT, gust_at_walls
from caldarium.core.plan.course import Course
from caldarium.words.units import Display, clock_text, hours_text


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
