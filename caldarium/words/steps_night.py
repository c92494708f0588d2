"""Steps behind the figures of beds and shelters."""

import math

from caldarium.core.night.camp import ShelterNight
from caldarium.core.night.freeze import LITRES, STIFF, USABLE, Guard, Kind
from caldarium.core.night.nights import WAKING_DEBT, Night
from caldarium.core.night.open_nights import DRY, LIGHT_GUST, MILD, OpenNight, OpenReason
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
            "margin of the bed with the change made, less that of the bed as it is, each at its "
            "own hardest hour",
            "the same balance solved again",
        ),
        Step(
            "least margin with it",
            display.difference(first.least_margin, 1),
            "low at the hardest hour less the bed's lowest, the smallest over all nights",
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
            "the hour at which the bed loses most over what is made, mostly the coldest",
            "Parton & Logan 1981 for typed days; ISO 2533",
        ),
        Step(
            "shelter's lift",
            display.difference(night.lift, 1),
            "what sleepers give to the air, over what walls, exchanged air and floor take for each "
            "kelvin, less the pull of the sky on the walls",
            "steady balance; films, sizes and exchange by kind: judgement",
        ),
        Step(
            "wind leaves of the bed",
            f"{night.wind_share:.0%}",
            "0.6 of the wind at body height, by what the shelter lets through, on a shell of "
            "10 l/(m² s), 3 in a cover, 150 without a bag",
            "ISO 11079, annex A, over its value in still air; shares: judgement",
        ),
        Step(
            "pull of the sky",
            display.difference(night.sky, 1),
            "4.6 F (air − sky) / (8.6 + 3.5 v) on what lies outermost; F 0.8 in the open, 0.2 "
            "under a tarp, none behind walls, 0.6 of it in a cover",
            "Berdahl & Martin 1984; F: judgement",
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
            "wet in the bag",
            f"{number(-night.wet_resistance)} m² K/W",
            f"{display.mass(night.damp)} of damp of the nights before, and half of the rain on "
            f"{display.area(0.9)} where no roof is; down keeps 0.2 of its warmth when soaked with "
            f"900 g/m² over {display.area(2.5)}",
            "sweat: ISO 11079; what stays, dries and costs: judgement",
        ),
        Step(
            "drying clothes in bed take",
            f"{night.watts_drying:.0f} W",
            "their water spread over the night, at most 30 g/(h m²), × 0.68 × 0.6 W h/g",
            "Havenith et al. 2008, from memory; that it dries evenly: judgement",
        ),
        Step(
            "pads",
            f"{number(night.pads_resistance)} m² K/W",
            "R × 0.1761, stacked pads add, 0.10 for the crushed bag beside it; passes 0.45/R + "
            "0.55/(R + 0.35) + 0.25 W/(m² K)",
            "ASTM F3340; pressed and hollow parts, edges: judgement",
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
        Step(
            "unhurt down to",
            display.temperature(night.survives, 1),
            "awake, curled and shivering: 70 W/m², skin of "
            f"{display.temperature(30)}, and 40 W h/m² of debt over the night; at most "
            f"{display.difference(17)} under the limit figure; not to be planned for",
            "ISO 11079's debt; the rest judgement, held against printed extreme figures",
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
            "made less lost, bottle and warmers with it, summed while it is short; it shrinks "
            "while the bed is warm; under the waking debt a short bed is cool and no gap",
            "ISO 11079's debt applied to sleep: judgement",
        ),
        Step(
            "wakes of cold",
            clock(night.wakes),
            f"when the debt passes {WAKING_DEBT:g} W h/m²",
            "judgement, a third of the limit of ISO 11079",
        ),
    ]


def explain_guard(guard: Guard, display: Display) -> list[Step]:
    """Steps behind what must not freeze on a night, and the room it takes.

    Source: core.night.freeze.
    """
    if not guard.things:
        return []
    return [
        Step(
            "cold about what must not freeze",
            display.temperature(guard.things[0].lowest, 1),
            "low, and the shelter's lift where there is one; at risk within a degree of a thing's "
            f"limit; wet boots and gloves under {display.temperature(STIFF)}",
            "limits by item; boots and gloves: judgement",
        ),
        Step(
            "room beside the legs",
            display.volume(guard.room),
            f"{USABLE:g} of the bag's ease round a cylinder of {display.breadth(16)}, as long as "
            "the sleeper",
            "judgement",
        ),
        Step(
            "room it takes",
            display.volume(guard.litres),
            "measured where given; water "
            + ", ".join(
                f"{words}{display.volume(LITRES[kind])}" for kind, words in _ROOM_WORDS.items()
            ),
            "judgement",
        ),
    ]


_ROOM_WORDS: dict[Kind, str] = {
    "water": "",
    "boots": "boots ",
    "gloves": "gloves ",
    "thing": "another thing ",
}


def explain_open(night: OpenNight, display: Display) -> list[Step]:
    """Steps behind the verdict on a night without a shelter.

    Source: core.night.open_nights.
    """
    figures = {each.reason: each.figures[0] for each in night.reasons if each.figures}
    told: list[tuple[OpenReason, str, str, str]] = [
        ("rain", "rain from bedtime to rising", display.rain(DRY), "over"),
        ("snow", "snow from bedtime to rising", display.snow_load(DRY), "over"),
        ("wind", "planning gust", display.wind(LIGHT_GUST), "over"),
        ("cold", "planning low", display.temperature(MILD), "under"),
    ]
    shown = {
        "rain": display.rain,
        "snow": display.snow_load,
        "wind": display.wind,
        "cold": display.temperature,
    }
    return [
        Step(
            name,
            shown[reason](figures[reason]) if reason in figures else "in order",
            f"told of {side} {limit}"
            + ("; who lies in a cover is dry" if reason in ("rain", "snow") else ""),
            "judgement",
        )
        for reason, name, limit, side in told
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
            f"gust it is known for, at {display.altitude(10)}, h: over ln(z/z₀)/ln(h/z₀) where it "
            f"was measured at z, with z₀ of {display.breadth(5)} as in open country",
            "generic gear: judgement, a maker's figure is better; EN 1991-1-4, 4.3.2",
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
            "what falls as snow from bedtime to rising, as water on the roof; 0.8 of it up to a "
            "slope of 30°, none from 60°, all of it where no slope is known",
            "wet bulb by WMO-No. 8; EN 1991-1-3, table 5.2; when to clear: judgement",
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
