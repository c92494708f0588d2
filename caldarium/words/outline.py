"""What is said of a course that is being outlined: its clock, what is understood, slips."""

from collections.abc import Sequence

from caldarium.core.plan.afar import What, how_far
from caldarium.core.plan.course import Place
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.outline import Filled, SlipReason
from caldarium.words.units import Display


def offset_text(place: Place) -> str:
    """How far a place's clock is ahead of UTC. Source: the place's own figure."""
    hours, minutes = divmod(round(abs(place.utc_offset_h) * 60), 60)
    sign = "−" if place.utc_offset_h < 0 else "+"
    return f"UTC{sign}{hours}" + (f":{minutes:02d}" if minutes else "")


def zone_sentence(place: Place) -> str:
    """The clock of a place. Source: the place's zone on the course's dates."""
    offset = offset_text(place)
    zone = place.zone.replace("_", " ")
    return f"clock of {zone}, {offset} on these dates" if zone else f"clock at {offset}"


def outline_sentence(place: Place, days: Sequence[Filled], display: Display) -> str:
    """What is understood of a new course, in a sentence. Source: its outline."""
    whole = sum(each.said.distance_km or 0 for each in days)
    top = max(each.said.top_m or 0 for each in days)
    low = min(each.said.low_c or 0 for each in days)
    span = f"{len(days)} days" if len(days) > 1 else "one day"
    return (
        f"Understood: {span} at {place.name}, {zone_sentence(place)}; {display.distance(whole)} up "
        f"to {display.altitude(top)}, {display.temperature(low)} at the lowest."
    )


def far_sentence(
    place: Place, latitude: float, longitude: float, what: What, display: Display
) -> str:
    """That a file is of somewhere else, as a question; empty where it is not.

    Source: core.plan.afar.
    """
    away = how_far(place, latitude, longitude, what)
    if away is None:
        return ""
    does = {"way": "this way begins", "forecast": "this forecast is for a place"}
    told = does.get(what, "this station stands")
    return f"{told} {display.distance(away, 0)} from {place.name}: is it the one that you mean?"


def slip_sentence(slip: Finding[SlipReason], day: int, display: Display) -> str:
    """A slip as a question. Source: core.plan.outline."""
    one, other = slip.figures
    match slip.reason:
        case "camp above top":
            heights = display.altitude(one), display.altitude(other)
            told = f"ends at {heights[0]}, above its high point of {heights[1]}; it is as said?"
        case "high below low":
            ends = display.temperature(one), display.temperature(other)
            told = f"a high of {ends[0]} below a low of {ends[1]}; the other way round?"
        case "heights do not meet":
            heights = display.altitude(one), display.altitude(other)
            told = f"climb and fall lead to {heights[0]}, it ends at {heights[1]}; both as said?"
        case "much snow":
            fallen, high = display.rain(one), display.temperature(other)
            told = f"{fallen} of water at a high of {high} is deep snow; is it water, not snow?"
    return f"Day {day + 1}: {told}"
