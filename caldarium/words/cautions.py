"""Cautions in sentences, each with its source."""

from typing import assert_never

from caldarium.core.timeline.cautions import (
    SLEEPING_FROM,
    SLEEPING_STEP,
    Caution,
    CautionReason,
)
from caldarium.words.units import Display, clock_text, hours_text

_ALTITUDE = "Wilderness Medical Society guidelines, Luks et al. 2019; medical advice goes first"
_MARKED = "marked by you; common practice"
SOURCES: dict[CautionReason, str] = {
    "heat": "ISO 7243 as screening, warm side of the forecast; medical advice goes first",
    "first night high": _ALTITUDE,
    "sleeping height": _ALTITUDE,
    "dark": "civil twilight by place and date (astral)",
    "river": _MARKED,
    "lightning": _MARKED,
}


def caution_told(found: Caution, display: Display) -> str:
    """A caution in a sentence. Source: SOURCES."""
    why = found.why
    match why.reason:
        case "heat":
            index, air, start, end = why.figures
            return (
                f"Heat on {why.names[0]}, {clock_text(start)} to {clock_text(end)}: air to "
                f"{display.temperature(air)}, WBGT {display.temperature(index)}. Walk before dawn, "
                "rest in the shade through the middle of the day, drink before thirst; whoever "
                "stops sweating or talks strangely is an emergency."
            )
        case "first night high":
            night, start = (display.altitude(each) for each in why.figures)
            return (
                f"First night at {night} straight from {start}: sleep lower first, or allow days."
            )
        case "sleeping height":
            gain, height = (display.altitude(each) for each in why.figures)
            return (
                f"Sleeping height rises by {gain} to {height}: above "
                f"{display.altitude(SLEEPING_FROM)} no more than "
                f"{display.altitude(SLEEPING_STEP)} a night, and a rest day every three or four."
            )
        case "dark":
            hours, start, end = why.figures
            return (
                f"Moving in the dark for {hours_text(hours)}, from {clock_text(start)} to "
                f"{clock_text(end)}: lights at hand."
            )
        case "river":
            return (
                f"River crossing on {why.names[0]}: look at it before the group stands in it, keep "
                "an escape, pack undone, dry layers on the far side; rain and afternoon melt "
                "raise it."
            )
        case "lightning":
            return (
                f"Lightning on {why.names[0]}: plan to be off it before storms build, know the way "
                "down; leave ridges, lone trees and water at the first thunder."
            )
    assert_never(why.reason)
