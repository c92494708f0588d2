"""Steps behind food, water and fuel: every figure with its formula and source."""

from collections.abc import Sequence

from caldarium.core.load import drinking, stoves, supplies
from caldarium.core.load.provisions import DayNeed
from caldarium.core.load.supplies import FuelVerdict
from caldarium.core.load.water import Dry, fillings
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Timeline
from caldarium.words.course import weekday
from caldarium.words.food import when_words, where_words
from caldarium.words.steps import Step
from caldarium.words.units import Display


def explain_fuel(course: Course, found: FuelVerdict, display: Display) -> list[Step]:
    """Steps behind the party's fuel. Source: core.load.stoves and supplies."""
    plan = course.provisions
    burns = stoves.STOVES[plan.stove]
    told = [
        Step(
            "stove",
            f"{stoves.INTO_THE_POT:.0%} of {burns.kj_g:g} kJ/g",
            f"{burns.faded:.0%} in air below {display.temperature(burns.fades_below)}; "
            f"{display.mass(burns.priming_g)} to light it",
            "lower heating value of handbooks, from memory; shares: judgement",
        ),
        Step(
            "water",
            f"{stoves.WATER_KJ:g} kJ/(kg K), ice {stoves.ICE_KJ:g}, melting {stoves.MELTS_KJ:g} "
            "kJ/kg",
            f"boiled from {display.temperature(stoves.FROM_A_STREAM)}, or melted from snow as cold "
            "as the air; bottles are only melted, or boiled where that is how water is treated",
            "heat capacities and latent heat of handbooks",
        ),
        Step(
            "when",
            f"{supplies.BURNT_AT_DAWN:.0%} in the morning",
            "of what is boiled; bottles in the evening",
            "judgement",
        ),
    ]
    for need in found.camps:
        told.append(
            Step(
                weekday(course, need.day, whole=True),
                display.mass(need.grams),
                f"{display.volume(need.boiled_l)} to {display.temperature(need.boils_at, 1)}"
                + (f", {display.volume(need.bottled_l)} for bottles" if need.bottled_l else ""),
                "Antoine equation, ISO 2533 for the boiling point",
            )
        )
    return told


def explain_water(
    course: Course, person: Person, timeline: Timeline, stretches: Sequence[Dry], display: Display
) -> list[Step]:
    """Steps behind somebody's water. Source: core.load.drinking and water."""
    habit = drinking.DRINKS
    told = [
        Step(
            "drunk",
            f"{display.volume(habit['moving'])} an hour moving, {display.volume(habit['halt'])} at "
            "halts",
            f"or {drinking.REPLACED:.0%} of the sweat of an ordinary person in light clothing on "
            "the warm side of the forecast, where that is more",
            "ISO 7933 for sweat; judgement; common practice, no published source",
        ),
        Step(
            "filled",
            display.volume(person.filled_l),
            "what is planned, as far as the bottles hold it; at the start, at camps with water, "
            "where legs say so, melted from snow as far as there is fuel, or from caches",
            "as typed",
        ),
    ]
    for fill in fillings(course, timeline):
        much = "as planned"
        if fill.at_most_l != float("inf"):
            much = f"{display.volume(fill.at_most_l)} a head at most"
        elif fill.share < 1:
            much = f"{fill.share:.0%}, for want of fuel to melt the rest"
        told.append(
            Step(when_words(course, fill.at), much, where_words(course, timeline, fill.at), "plan")
        )
    for each in stretches:
        told.append(
            Step(
                f"dry from {when_words(course, each.start)}",
                display.volume(each.litres),
                "what would be drunk until the next filling beyond what was filled",
                "sums",
            )
        )
    return told


def explain_energy(course: Course, needs: Sequence[DayNeed], display: Display) -> list[Step]:
    """Steps behind energy spent and eaten. Source: core.load.provisions."""
    told = [
        Step(
            "ration",
            f"{supplies.KCAL_A_GRAM:g} kcal/g",
            "a mixed trail ration, where no label says otherwise",
            "judgement",
        )
    ]
    for need in needs:
        day = weekday(course, need.day, whole=True)
        told.append(
            Step(
                f"{day}, spent",
                f"{need.spent:,.0f} kcal",
                "effort of every moment over its hours, asleep for the rest",
                "Looney 2019 and ISO 8996, as in the assessment",
            )
        )
        told.append(
            Step(
                f"{day}, eaten",
                f"{need.eaten:,.0f} kcal",
                f"{display.mass(need.grams)}; {need.ready:,.0f} kcal need no stove",
                "labels of the menu, or the ration",
            )
        )
    return told
