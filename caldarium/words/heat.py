"""Predicted heat strain in words: a moment, a day, and how they are computed."""

import math

from caldarium.core.physics.heat_strain import CORE_LIMIT, MOST_SWEAT, MOST_WET
from caldarium.core.what_if.heat_day import LOST_TOO_MUCH, WARM_FROM, HeatDay, HeatMoment
from caldarium.words.steps import Step
from caldarium.words.units import Display, hours_text


def heat_moment_sentence(found: HeatMoment | None, display: Display) -> str:
    """What predicted heat strain says of one moment; empty of one that is not warm.

    Source: core.what_if.heat_day.
    """
    if found is None:
        return ""
    lost = f"{display.volume(found.lost)} of water are lost in it"
    limit = display.temperature(CORE_LIMIT)
    if found.held_for == 0:
        told = f"core is past {limit} when it begins and reaches {_core(found.highest, display)}"
    elif math.isfinite(found.held_for):
        told = (
            f"core passes {limit} after {hours_text(found.held_for)} and reaches "
            f"{_core(found.highest, display)}"
        )
    else:
        told = f"core stays at {_core(found.highest, display)} or under"
    return f"By predicted heat strain (ISO 7933) {told}; {lost}."


def heat_day_sentence(found: HeatDay, display: Display) -> str:
    """What predicted heat strain says of a day; empty of one that is never warm.

    Source: core.what_if.heat_day.
    """
    if not found.moments:
        return ""
    most = max(each.highest for each in found.moments)
    lost = found.moments[-1].lost_so_far
    told = (
        f"On the warm side, by predicted heat strain (ISO 7933): core at most "
        f"{_core(most, display)}, {display.volume(lost)} of water lost by sweat and breath"
    )
    if found.too_dry:
        told += f", over {LOST_TOO_MUCH:.0%} of the body's mass: drink through the day, with salt"
    if most > CORE_LIMIT:
        told += f"; work is to stop at {display.temperature(CORE_LIMIT)}"
    return told + "."


def _core(celsius: float, display: Display) -> str:
    return display.temperature(celsius, 1)


def explain_heat_day(found: HeatDay, display: Display) -> list[Step]:
    """Steps behind predicted heat strain; none of a day that is never warm.

    Source: core.physics.heat_strain.
    """
    if not found.moments:
        return []
    return [
        Step(
            "predicted heat strain",
            _core(max(each.highest for each in found.moments), display),
            "skin, core and sweat minute by minute on the warm side of the forecast, in the least "
            "there is to wear, vents open; from rest in the morning and after each moment under "
            f"{display.temperature(WARM_FROM)}; not acclimatised: skin wet to {MOST_WET:.0%}, "
            f"sweat to {MOST_SWEAT:.0f} W/m²",
            "ISO 7933:2023",
        ),
        Step(
            "why it may differ from the verdict",
            "",
            "the verdict asks what can be kept up without end, and lets moisture pass as in still "
            "air; this one lets wind and movement carry moisture off (permeability to 0.9), counts "
            "time, and carries warmth on from moment to moment: either may be the first to warn",
            "ISO 7933:2023, annex D; which of them is the verdict: judgement",
        ),
        Step(
            "water lost",
            display.volume(found.moments[-1].lost_so_far),
            f"sweat and breath; too much over {LOST_TOO_MUCH:.0%} of the body's mass in a day",
            "ISO 7933:2023",
        ),
    ]
