"""Steps behind loads, food, fuel and shared kit: every figure with its formula and source."""

from collections.abc import Sequence

from caldarium.core.load import drinking, load_hours
from caldarium.core.load.loads import Load
from caldarium.core.load.provisions import (
    COLD_STOVE,
    GAS_KJ_G,
    IN_THE_COLD,
    INTO_THE_POT,
    KCAL_A_GRAM,
    DayNeed,
)
from caldarium.core.load.share import CLOSE_ENOUGH_G, Split
from caldarium.core.plan.course import Course, Person
from caldarium.words.course import weekday
from caldarium.words.steps import Step
from caldarium.words.units import Display

_EATEN = 1 - load_hours.BREAKFAST - load_hours.ON_THE_WAY


def explain_load(course: Course, person: Person, load: Load, display: Display) -> list[Step]:
    """Steps behind a load.

    Source: weighed masses; core.load.load_hours.
    """
    drunk = drinking.DRINKS
    own = "typed for this person" if person.budget_kg else f"{course.budget_share:.0%} of body mass"
    return [
        Step("worn", display.load(load.worn), "clothes of the first walk", "weighed"),
        Step("carried", display.load(load.carried), "all else on the first morning", "weighed"),
        *(
            Step(f"of it for {purpose}", display.load(mass), "sum of pieces", "weighed")
            for purpose, mass in load.kept.items()
            if mass
        ),
        Step(
            "consumed a day",
            display.load(load.consumed_a_day),
            f"{load_hours.BREAKFAST:.0%} of the food before setting out, "
            f"{load_hours.ON_THE_WAY:.0%} on the way, {_EATEN:.0%} in camp; "
            f"{load_hours.BURNT_AT_DAWN:.0%} of the fuel at dawn",
            "as typed; when: judgement",
        ),
        Step(
            "water",
            display.volume(load_hours.filled(person)),
            "filled at camps and marked legs, no more than bottles hold; drunk "
            f"{display.volume(drunk['moving'])} an hour moving, "
            f"{display.volume(drunk['halt'])} at halts, or {drinking.REPLACED:.0%} of the sweat on "
            "the warm side of the forecast where that is more",
            "ISO 7933 for sweat; judgement; common practice, no published source",
        ),
        Step(
            "wet shelter",
            display.load(max(load.wet)),
            f"{load_hours.WET_AFTER_RAIN:.0%} of its mass after a night of rain, "
            f"{load_hours.WET_AFTER_DAMP:.0%} after a damp one",
            "judgement",
        ),
        *(
            Step(
                f"{weekday(course, day, whole=True)}, setting out",
                display.load(mass),
                "everything before breakfast, bottles full",
                "sums",
            )
            for day, mass in enumerate(load.by_day)
        ),
        Step("budget", display.load(load.budget), own, "judgement, or the user's own"),
        Step(
            "limit",
            display.load(load.limit),
            f"{course.limit_share:.0%} of body mass",
            "30 %: fighting load of FM 21-18 (1990), from memory; or the user's own",
        ),
    ]


def explain_provisions(course: Course, needs: Sequence[DayNeed], display: Display) -> list[Step]:
    """Steps behind food and fuel.

    Source: core.load.provisions.
    """
    steps = [
        Step("ration", f"{KCAL_A_GRAM:g} kcal/g", "a mixed trail ration", "judgement"),
        Step(
            "stove",
            f"{INTO_THE_POT:.0%} of {GAS_KJ_G:g} kJ/g",
            f"{IN_THE_COLD:.0%} in air below {display.temperature(COLD_STOVE)}",
            "handbook figure from memory; shares: judgement",
        ),
    ]
    for need in needs:
        day = weekday(course, need.day, whole=True)
        steps.append(
            Step(
                f"{day}, spent",
                f"{need.spent:,.0f} kcal",
                "effort of every moment over its hours, asleep for the rest",
                "Looney 2019 and ISO 8996, as in the assessment",
            )
        )
        if need.boils_at is not None:
            start = "melted from snow" if need.melted else "from a stream"
            steps.append(
                Step(
                    f"{day}, gas",
                    display.mass(need.gas),
                    f"{display.volume(course.boiled_l_a_day)} {start} to "
                    f"{display.temperature(need.boils_at, 1)}",
                    "heat capacities; Antoine equation, ISO 2533",
                )
            )
    return steps


def explain_split(course: Course, split: Split, display: Display) -> list[Step]:
    """Steps behind a split of the group's kit.

    Source: core.load.share.
    """
    names = {person.id: person.name for person in course.people}
    near = display.mass(CLOSE_ENOUGH_G)
    return [
        Step(
            "level",
            f"{split.level:.1%}",
            "to which the kit, shared to the gram, would fill the emptiest backs",
            f"arithmetic; measure: {split.fairness}, judgement",
        ),
        Step(
            "proof",
            "proven" if split.proven else "not proven",
            f"nobody is more than {near} above the level, or HiGHS found that nobody could be",
            "integer programme; pieces that must be with somebody, and hand changes, are fixed",
        ),
        *(
            Step(names[who], f"{share:.1%}", "heaviest hour with this kit over the measure", "sums")
            for who, share in sorted(split.fullness.items(), key=lambda each: -each[1])
        ),
    ]
