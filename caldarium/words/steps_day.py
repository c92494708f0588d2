"""Steps behind the figures of the waking day."""

import math

from caldarium.core.day.day_heat import DEBT_LIMIT, DayStory
from caldarium.core.day.dressing import BAG_IN_HOLD
from caldarium.core.day.how_sure import CLOTHING_SD, RATE_SD, WIND_SD
from caldarium.core.day.keeping_up import Effort
from caldarium.core.day.states import Basis, MomentState
from caldarium.core.physics.cold import HEAT_DEBT_LIMIT
from caldarium.core.physics.extremities import FREEZES, WORKS
from caldarium.core.physics.heat import MOST_WET, WARM_SKIN
from caldarium.core.physics.intake import (
    DRINK_C,
    DRUNK_IN,
    EATEN_FOR,
    SPENT_EATING,
    SWALLOWED_C,
    longer_with,
)
from caldarium.core.timeline.moments import Moment
from caldarium.core.timeline.weather import TYPED
from caldarium.core.what_if.cures import Addition, Breaking, Cure
from caldarium.core.what_if.more_cures import (
    DRINK_L,
    LOOKED_AT,
    CureSet,
    Otherwise,
)
from caldarium.core.what_if.other_hours import Found
from caldarium.words.course import number
from caldarium.words.steps import Step
from caldarium.words.units import Display, clock_text, hours_text

BASES: dict[Basis, str] = {
    "standard": "ISO 11079",
    "upper rate": "ISO 11079 at its upper metabolic rate, 400 W/m²; the effort asked for is higher",
    "warm air": "balance of ISO 11079 in air warmer than its range: an estimate",
    "coldest air": "balance of ISO 11079 in the coldest air it is made for; this air is colder, so "
    "the need is more than said",
}
"""What a need rests on, by the core's reason."""
HELD = {
    "dawn": "its own length",
    "setting out": "its own length",
    "moving": "its own length",
    "halt": "the course's multiple of its length, and its least",
    "hold": "the hours to survive",
    "camp": "the time sat still in a lee",
    "night": "its own length",
}
"""Where the time to hold comes from, by kind of moment."""


def explain_moment(moment: Moment, state: MomentState, display: Display) -> list[Step]:
    """Steps behind a moment's state.

    Source: the modules named in each step.
    """
    chill = moment.wind_chill
    frost = state.frostbite
    made = "class of a quiet activity"
    if moment.walk:
        made = f"walking; {state.work:+.0f} W/m² of it goes into height, and is no heat"
    steps = [
        Step(
            "air",
            display.temperature(moment.air, 1),
            f"{_air_from(moment)}, lapse to {display.altitude(moment.altitude)}",
            "Parton & Logan 1981 for typed days; ISO 2533",
        ),
        Step(
            "relative air speed",
            display.wind(state.air_speed, 1),
            f"{display.wind(moment.wind, 1)} at {display.altitude(10)}, over this ground to "
            f"{display.span(1.5)}, with walking, by the density of the air at "
            f"{display.altitude(moment.altitude)}",
            "EN 1991-1-4, change of roughness; forest and ridge: judgement",
        ),
        Step(
            "metabolic rate",
            f"{state.rate:.0f} W/m² ({state.watts:.0f} W)",
            made,
            "Looney 2019, terrain and load by Pandolf 1977; ISO 8996",
        ),
        Step(
            f"need, to hold {hours_text(state.must_hold)}",
            f"{state.need_min:.2f} clo",
            f"heat balance at 33.34 − 0.0354 M, with 40 W h/m² of debt over "
            f"{hours_text(state.must_hold)}: {HELD[moment.kind]}{_drunk(moment, display)}",
            BASES[state.basis] + "; the time: judgement",
        ),
        Step(
            "need, without end",
            f"{state.need_steady:.2f} clo",
            "heat balance at 33.34 − 0.0354 M",
            BASES[state.basis],
        ),
        Step(
            "need, neutral",
            f"{state.need_neutral:.2f} clo",
            "heat balance at 35.7 − 0.0285 M",
            BASES[state.basis],
        ),
        Step(
            "soaks above",
            f"{state.need_soak:.2f} clo",
            "balance with half the skin wet",
            "ISO 11079 balance; the half is judgement",
        ),
        Step(
            "give or take",
            f"{state.spread:.2f} clo",
            f"effort {RATE_SD:.0%}, clothing {CLOTHING_SD:.0%}, wind {WIND_SD:.0%}, by the slope "
            "of what is to spare; the weather's own spread is the caution's",
            "ISO 8996; clothing and wind: judgement",
        ),
        Step(
            "skin that must be wet",
            f"{min(state.strain, 9.99):.0%}",
            f"warm side: air {display.temperature(moment.warm.air, 1)}, sun "
            f"{display.difference(moment.warm.sun, 0)}, wind {display.wind(moment.warm.wind, 1)}, "
            f"in the least there is to wear; hot over {MOST_WET:.0%}",
            f"ISO 7933 limits on the balance of ISO 11079; skin of "
            f"{display.temperature(WARM_SKIN)}: judgement",
        ),
        Step(
            "sun, cold side",
            display.difference(moment.sun, 1),
            "added to what the body radiates to; half of a clear day's where cloud is not known",
            "ASHRAE 55 appendix C; Laue 1970; the half: judgement",
        ),
        Step(
            "worn, by region",
            f"{state.provided:.2f} clo",
            "layers added over each region and bent round it, wind through the outermost, regions "
            "in parallel, wet",
            "ASHRAE Fundamentals ch. 9; ISO 9920 and ISO 11079; Hardy & DuBois 1938",
        ),
        Step(
            "worn, whole-body sum",
            f"{state.whole_sum:.2f} clo",
            "0.161 + 0.835 Σ, still air",
            "McCullough in ASHRAE Fundamentals ch. 9",
        ),
        Step(
            "sweat",
            f"{state.sweat:.1f} L/h",
            "the more of two: surplus at neutral skin in what is worn, and the warm side's in the "
            "least there is to wear, by its efficiency; over 675 W h/L, at most 1.25 L/h",
            "ISO 11079 balance; ISO 7933",
        ),
        Step(
            "endurance",
            hours_text(state.endurance),
            "until 40 W h/m² of heat debt; under what must be held it is a gap",
            "ISO 11079",
        ),
    ]
    if moment.lee < 1:
        steps.append(
            Step(
                "in a group shelter" if moment.roof else "in a lee",
                f"{moment.lee:.0%}",
                "of the wind is left" + (", and no rain falls" if moment.roof else ""),
                "judgement",
            )
        )
    if state.bag:
        steps.append(
            Step(
                "bag drawn round",
                f"{state.bag:.2f} clo",
                f"{BAG_IN_HOLD:.0%} of what the bag is worth without air and base layer; none of "
                "it on the head, half on the hands; as wet as rain makes it",
                "judgement",
            )
        )
    if math.isfinite(state.recovery):
        steps.append(
            Step(
                "won back after it",
                hours_text(state.recovery),
                "40 W h/m² over what the moment that follows stores at neutral skin in what is "
                "worn then",
                "ISO 11079, recovery time",
            )
        )
    if moment.wet_hours:
        steps.append(
            Step(
                "rain or snow",
                f"{display.rain(moment.precipitation * moment.hours)} in "
                f"{hours_text(moment.wet_hours)}",
                "of the hours in which it falls; onto the body from above, and with the wind by "
                "2/9 v r^(8/9)",
                "ISO 15927-3, from memory; shares of the body: judgement",
            )
        )
    if state.drying:
        steps.append(
            Step(
                "heat that drying takes",
                f"{state.drying:.1f} W/m²",
                "water that dries on the body × 0.68 × 0.6 W h/g, added to the need",
                "Havenith et al. 2008, from memory; how fast it dries: judgement",
            )
        )
    steps += _explain_digits(state, display)
    if state.water:
        steps.append(
            Step(
                "kept when wet",
                f"{state.provided:.2f} of {state.dry:.2f} clo",
                f"{display.mass(state.water)} of water from rain, scrub, fords and sweat, less "
                "what dried, piece by piece",
                "core table of materials: judgement",
            )
        )
    if state.opened < state.provided - 0.01:
        steps.append(
            Step(
                "with vents open",
                f"{state.opened:.2f} clo",
                "90 % of the warmth under some openings, 75 % under wide ones",
                "judgement",
            )
        )
    if math.isfinite(chill):
        steps.append(
            Step(
                "wind chill",
                display.temperature(chill),
                "of exposed skin",
                "Osczevski & Bluestein 2005",
            )
        )
    if math.isfinite(frost):
        steps.append(
            Step(
                "frostbite",
                f"{frost:.0f} min",
                "bare skin, most susceptible twentieth; winds under "
                f"{display.wind(20 / 3.6)} as that",
                "Environment Canada 2001",
            )
        )
    return steps


def _explain_digits(state: MomentState, display: Display) -> list[Step]:
    found: list[Step] = []
    for name, digits in (("fingers", state.fingers), ("toes", state.toes)):
        found += [
            Step(
                f"over the {name}",
                f"{digits.clo:.2f} clo",
                "layers bent round a cylinder, wet and wind counted; gloves at most 1.2 clo",
                "conduction; cap of van Dilla, Day & Siple 1949, from memory",
            ),
            Step(
                f"heat to the {name}",
                f"{digits.heat:.0f} W/m²",
                "little where the body is short of its need, more at rest in balance and at work",
                "judgement",
            ),
            Step(
                f"{name} at the end",
                display.temperature(digits.at_end, 1),
                f"towards {display.temperature(digits.steady, 1)}, from where the moment before "
                f"left them; they work above {display.temperature(WORKS)}, and are in danger below "
                f"{display.temperature(FREEZES)}",
                "one node; working of ISO 11079, danger judgement",
            ),
        ]
    if math.isfinite(state.bare_fingers):
        found.append(
            Step(
                "bare fingers work",
                f"{state.bare_fingers:.0f} min",
                f"the same with nothing on, from {display.temperature(30)} down to "
                f"{display.temperature(WORKS)}",
                "one node; start: judgement",
            )
        )
    return found


def _air_from(moment: Moment) -> str:
    if moment.source == TYPED:
        return "day curve at the conditions height"
    return "between the hours of the source that rules, at its height and the chosen caution"


def explain_cures(found: list[Cure], state: MomentState, display: Display) -> list[Step]:
    """Steps behind the cures of a gap, for the first of them.

    Source: core.what_if.cures.
    """
    if not found:
        return []
    best = found[0]
    return [
        Step(
            "short", f"{state.gap:.2f} clo", "need, minimal, less what is worn", BASES[state.basis]
        ),
        Step(
            f"closed by {best.piece.name}",
            f"{best.closes:.2f} clo",
            "everything on with the piece, less everything on without it, up to the need",
            "as the outfit; the order of cures is judgement",
        ),
        Step(
            f"for each {display.mass(100)}",
            display.difference(best.degrees_a_100g, 1),
            f"what it adds over {display.mass(best.piece.mass_g)}, by the slope of the need for "
            "each kelvin colder",
            "slope of ISO 11079's minimal need",
        ),
    ]


def explain_additions(found: list[Addition], display: Display) -> list[Step]:
    """Steps behind what an addition would buy, for the first of them.

    Source: core.what_if.cures.
    """
    if not found:
        return []
    first = found[0]
    return [
        Step(
            f"{first.piece.name} would add",
            f"{first.adds:.2f} clo",
            "everything on with the piece, less everything on without it, over every region",
            "as the outfit; the piece is weighed dry",
        ),
        Step(
            f"degrees for {display.mass(100)} of it",
            display.difference(first.degrees_a_100g, 1),
            f"over {display.mass(first.piece.mass_g)}, by the slope of the need for each kelvin "
            "colder",
            "slope of ISO 11079's minimal need",
        ),
    ]


def _drunk(moment: Moment, display: Display) -> str:
    """What a planned hot drink adds to the heat debt that can be borne; empty without one."""
    if not moment.drink_l:
        return ""
    more = HEAT_DEBT_LIMIT * (float(longer_with(moment.drink_l)) - 1)
    return (
        f"; {display.volume(moment.drink_l)} of hot drink, from {display.temperature(DRINK_C)} to "
        f"{display.temperature(SWALLOWED_C)} in an ordinary person, adds {more:.0f} W h/m²"
    )


def explain_otherwise(
    found: Otherwise | None, together: CureSet | None, state: MomentState, display: Display
) -> list[Step]:
    """Steps behind what closes a gap where no single piece does, and without more kit.

    Source: core.what_if.more_cures.
    """
    steps: list[Step] = []
    if together is not None:
        steps.append(
            Step(
                "lightest set",
                f"{together.spare:+.2f} clo",
                f"to spare with all of it on; lightest of all sets of two, then three, of the "
                f"{LOOKED_AT} most helpful pieces",
                "as for a single piece",
            )
        )
    if found is None:
        return steps
    for place, closes in (("in a lee", found.lee), ("in a group shelter", found.roof)):
        steps.append(
            Step(
                place,
                "holds" if closes else "no cure",
                "this outfit and its need in the share of the wind that is left there",
                "ISO 11079; the share: judgement",
            )
        )
    if found.at_most is not None:
        steps.append(
            Step(
                "longest halt",
                hours_text(found.at_most),
                f"{hours_text(state.endurance)} of endurance over the course's multiple",
                "ISO 11079; the multiple: judgement",
            )
        )
    if found.drink:
        steps.append(
            Step(
                "hot drink",
                hours_text(found.drink),
                f"{display.volume(DRINK_L)} from {display.temperature(DRINK_C)} to "
                f"{display.temperature(SWALLOWED_C)} in an ordinary person, added to the heat debt "
                "that can be borne",
                "heat of water; ISO 11079; how hot it is drunk: judgement",
            )
        )
    return steps


def explain_breaking(found: Breaking, display: Display) -> list[Step]:
    """Steps behind a breaking point.

    Source: core.what_if.cures.
    """
    rule = "until what must be held is not"
    source = "ISO 11079; the time: judgement"
    steps: list[Step] = []
    if found.air is not None and math.isfinite(found.air):
        formula = f"this outfit in colder air, steps of {display.difference(0.25, 2)}, {rule}"
        steps.append(Step("breaks at", display.temperature(found.air, 1), formula, source))
    if found.wind is not None and math.isfinite(found.wind):
        formula = (
            f"this outfit in stronger wind at the body, steps of {display.wind(0.25, 2)}, {rule}"
        )
        steps.append(Step("or in wind of", display.wind(found.wind, 1), formula, source))
    return steps


def explain_effort(effort: Effort | None, altitude: float, display: Display) -> list[Step]:
    """Steps behind what somebody can keep up on a walk.

    Source: core.day.keeping_up, core.physics.capacity.
    """
    if effort is None:
        return []
    return [
        Step(
            "walking at this pace",
            f"{effort.takes:.0f} W",
            f"{display.pace(effort.pace)} with {display.mass(1000 * effort.load)}, up and down by "
            "the way",
            "Looney 2019, terrain and load by Pandolf 1977",
        ),
        Step(
            "can be kept up",
            f"{effort.keeps:.0f} W",
            f"oxygen uptake of this person at {display.altitude(altitude)}, the share that is kept "
            "up for hours; on the cold side nobody makes more heat than this",
            "altitude by Buskirk 1967; shares: judgement",
        ),
    ]


def explain_hours(found: Found) -> list[Step]:
    """Steps behind cooler hours.

    Source: core.what_if.other_hours.
    """
    steps = [
        Step(
            "hot moments as planned",
            f"{found.hot}",
            "of this day and person, holds apart, by their verdicts",
            "ISO 7933 limits, see the outfit",
        )
    ]
    for each in found.others:
        name = "set out" if each.kind == "early" else "rested until"
        steps.append(
            Step(
                f"{name} {clock_text(each.start)}",
                f"{each.hot} hot, {each.gaps} short",
                "the whole assessment again with that leg begun then; the latest start that leaves "
                "fewest, and no more short moments than planned",
                "hours looked at: judgement",
            )
        )
    return steps


def explain_story(story: DayStory, display: Display) -> list[Step]:
    """Steps behind a day of the body.

    Source: core.physics.body and core.day.day_heat.
    """
    model = "Takahashi et al. 2021"
    wettest = max(story.planned, key=lambda each: each.water)
    coldest = min(story.planned, key=lambda each: min(each.fingers, each.toes))
    return [
        Step(
            "heat stored, lowest",
            f"{number(float(story.stored.min()), 0)} W h/m²",
            "made less lost, eleven segments of core and skin and one pool of blood together, since"
            " the body was bare and at rest in neutral air",
            model,
        ),
        Step(
            "core, lowest",
            display.temperature(float(story.core.min()), 1),
            "chest: made less breath and what blood carries away",
            model,
        ),
        Step(
            "skin, lowest",
            display.temperature(float(story.skin.min()), 1),
            "by surface: from the core and the blood less through clothing and air layer and as"
            " vapour, region by region",
            f"{model}; resistances as the outfit, ISO 11079",
        ),
        Step(
            "shivering, hardest",
            f"{number(max(each.shivering for each in story.planned), 0)} W/m²",
            "(155.5 x + 47 y − 1.57 y²)/√15, x core under its set point, y skin under"
            f" {display.temperature(33)}, in kelvin; less what work makes; at most 175 W/m², a"
            " third of it once 900 W h/m² are shivered",
            "Tikuisis & Giesbrecht 1999; most and tiring: judgement",
        ),
        Step(
            "fingers, toes, coldest",
            f"{display.temperature(coldest.fingers, 0)}, {display.temperature(coldest.toes, 0)}",
            "blood of hands and feet, cooled on its way beside the veins, against what is over"
            " them",
            f"{model}; one node as in the verdict",
        ),
        Step(
            "sweat",
            display.volume(sum(each.sweat for each in story.planned)),
            "371 W/K of head core and 34 W/K of skin, at most 550 g/(h m²)",
            model,
        ),
        Step(
            "water in the clothing, most",
            display.mass(wettest.water),
            "rain, wet scrub, fords and sweat held back, less what dries, piece by piece",
            "judgement",
        ),
        Step(
            "warmth left then",
            f"{wettest.kept:.0%}",
            "the outfit wet over the same outfit dry",
            "shares by material: judgement",
        ),
        Step(
            "within a halt",
            "",
            "it begins in what was walked in, as long as the course says; a hot drink's heat goes "
            f"to the core in {hours_text(DRUNK_IN)}, {SPENT_EATING:.0%} of what is eaten in "
            f"{hours_text(EATEN_FOR)}",
            "heat of water; Westerterp 2004; the times: judgement",
        ),
        Step(
            "limit of debt",
            f"{number(DEBT_LIMIT, 0)} W h/m²",
            "since the day began",
            "heat debt of ISO 11079; across a day: judgement",
        ),
    ]
