"""Steps behind the figures of beds and shelters."""

import math

from caldarium.core.night.camp import ShelterNight
from caldarium.core.night.nights import WAKING_DEBT, Night
from caldarium.core.physics.wind import GUST_FACTOR
from caldarium.core.what_if.bed_changes import BedChange
from caldarium.words.course import number
from caldarium.words.night import change_words
from caldarium.words.steps import Step
from caldarium.words.units import Display, clock_text


def explain_changes(found: list[BedChange], display: Display) -> list[Step]:
    """Steps behind the ranked changes of a bed, for the first of them.

    Source: core.what_if.bed_changes.
    """
    if not found:
        return []
    first = found[0]
    return [
        Step(
            f"{change_words(first)} brings",
            display.difference(first.degrees, 1),
            "lowest temperature of the bed as it is, less that with the change made",
            "the same balance solved again",
        ),
        Step(
            "least margin with it",
            display.difference(first.least_margin, 1),
            "planning low less the bed's lowest, the smallest over all nights",
            "as the bed",
        ),
    ]


def explain_night(night: Night, display: Display) -> list[Step]:
    """Steps behind a bed's figures.

    Source: the modules named in each step.
    """
    label = "judgement, calibrated on label pairs; conditions of ISO 23537-1"
    return [
        Step(
            "planning low",
            display.temperature(night.low, 1),
            "coldest hour of the night at camp, from the source that rules it",
            "Parton & Logan 1981 for typed days; ISO 2533",
        ),
        Step(
            "shelter's lift",
            display.difference(night.lift, 1),
            "by kind, places taken and wind at the walls",
            "judgement",
        ),
        Step("bag", f"{number(night.bag_resistance)} m² K/W", "label inverted", label),
        Step(
            "clothes inside, less draught and damp",
            f"{number(night.clothes_resistance)} m² K/W",
            "everything worn in bed less 0.5 clo of the label's base layer; what fits between body "
            "and bag, e tanh(t/e), round each limb, less half the air it displaces; regions in "
            "parallel",
            "room, base layer and displaced air: judgement, held against common practice",
        ),
        Step(
            "damp in the bag",
            display.mass(night.damp),
            "sweat of the nights before that stayed in the fill, less what days dried",
            "sweat: ISO 11079; what stays and dries: judgement",
        ),
        Step(
            "pads",
            f"{number(night.pads_resistance)} m² K/W",
            "R × 0.1761, stacked pads add, 0.10 for the crushed bag beside it",
            "ASTM F3340; adding: common practice, no published source",
        ),
        Step("ground", display.temperature(night.ground_temperature, 1), night.ground, "judgement"),
        Step(
            "leaves upward",
            f"{night.watts_up:.0f} W",
            "¾ of the skin, through bag and clothes",
            label,
        ),
        Step(
            "leaves downward", f"{night.watts_down:.0f} W", "¼ of the skin, through the pads", label
        ),
        Step(
            "made",
            f"{night.watts_made:.0f} W",
            "44 W/m² asleep, less breath and sweat",
            "ISO 8996; ISO 11079",
        ),
        Step(
            "this sleeper",
            display.temperature(night.sleeper, 1),
            f"comfort {display.temperature(night.comfort, 1)}, "
            f"limit {display.temperature(night.limit, 1)}, by the sleeper's index",
            label,
        ),
        *_explain_hours(night),
    ]


def _explain_hours(night: Night) -> list[Step]:
    """Steps behind what a bed does through the hours of its night."""

    def clock(hour: float) -> str:
        return clock_text(hour % 24) if math.isfinite(hour) else "not this night"

    return [
        Step(
            "comfortable until",
            clock(night.comfortable_until),
            "first time at which less is made than leaves, in the strip's own air and wind",
            "the same two paths at 21 times; no published source for comfort",
        ),
        Step(
            "heat debt, most",
            f"{night.debt:.0f} W h/m²",
            "made less lost, summed while it is short; it shrinks while the bed is warm",
            "ISO 11079's debt applied to sleep: judgement",
        ),
        Step(
            "wakes of cold",
            clock(night.wakes),
            f"when the debt passes {WAKING_DEBT:g} W h/m²",
            "judgement, a third of the limit of ISO 11079",
        ),
    ]


def explain_shelter(night: ShelterNight, display: Display) -> list[Step]:
    """Steps behind a shelter's verdict.

    Source: the modules named in each step.
    """
    return [
        Step(
            "planning gust",
            display.wind(night.gust),
            f"the night's strongest; {GUST_FACTOR:g} × mean wind where the source has no gusts; "
            "exposure and caution in",
            "the source; factors: judgement",
        ),
        Step(
            "gust at its walls",
            display.wind(night.at_walls),
            "behind a wall × 0.7, turned narrow end into it × 0.85, both × 0.6, as the camp says",
            "judgement",
        ),
        Step(
            "shelter stands",
            display.wind(night.stands),
            "gust it is known for",
            "generic gear: judgement; a maker's figure is better",
        ),
        Step(
            "pressure of the gust",
            f"{night.pressure:.0f} Pa",
            "½ ρ v² in the air of that height",
            "Bernoulli; EN 1991-1-4, 4.5",
        ),
        Step(
            "skin of the shelter",
            display.temperature(night.skin, 1),
            "balance of the night sky's radiation, wind outside and air inside",
            "Berdahl & Martin 1984; films: judgement",
        ),
        Step(
            "dew point inside",
            display.temperature(night.inside_dew, 1),
            f"{display.mass(40)} an hour of each sleeper's breath, and a stove's steam, against "
            "exchange of air and what settles",
            "Alduchov & Eskridge 1996; exchange: judgement",
        ),
        Step(
            "settles",
            f"{display.mass(night.settled)}",
            "difference to saturation at the skin, by the Lewis relation, hour by hour",
            "Lewis relation; areas: judgement",
        ),
        Step(
            "snow by morning",
            display.snow_load(night.snow),
            "what falls as snow from bedtime to rising, as water on the roof",
            "wet bulb by WMO-No. 8; when to clear: judgement",
        ),
        Step(
            "rain",
            display.rain(night.rain),
            "what falls otherwise in those hours",
            "the source that rules",
        ),
        Step(
            "floor",
            f"{display.area(night.floor, 2)} each",
            "length by width over the sleepers",
            f"measured, or {display.area(1.4)} a place: judgement",
        ),
    ]
