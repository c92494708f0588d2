"""What of a bed is asked again, and what sleeps in the bag, in sentences."""

from typing import assert_never

from caldarium.core.night.bed_checks import Asked, Guarded
from caldarium.words.units import Display


def bed_question(found: Asked, display: Display) -> str:
    """One thing about a bed that does not fit. Source: core.night.bed_checks."""
    names, figures = found.names, found.figures
    match found.reason:
        case "bag too short":
            to, tall = (display.span(each, 2) for each in figures)
            return (
                f"{names[0]} fits sleepers to {to}; {names[1]} is {tall}: feet press the end flat."
            )
        case "quilt of no width":
            return f"{names[0]} has no width: whether it closes in a hammock is not known."
        case "quilt too narrow":
            wide, shoulders = (display.breadth(each) for each in figures)
            return (
                f"{names[0]} is {wide} wide; over shoulders of {shoulders} that leaks when the "
                "sleeper turns."
            )
        case "bag too tight":
            round_, shoulders = (display.breadth(each) for each in figures)
            return (
                f"{names[0]} is {round_} round at the shoulders, which are {shoulders} broad: too "
                "tight for clothes inside."
            )
        case "R or SI":
            mass = display.mass(figures[1])
            return (
                f"{names[0]}: R {figures[0]:g} on {mass}. Is that m² K/W? It would be "
                f"R {figures[2]:.1f}."
            )
        case "R beyond pads":
            return f"{names[0]}: R {figures[0]:g} is more than any single pad has."
        case "pad too narrow":
            wide, shoulders = (display.breadth(each) for each in figures)
            return f"{names[0]} is {wide} wide, the shoulders {shoulders}."
        case "legs on the ground":
            return "The torso pad leaves the legs on the ground: put something under the feet."
        case "hammock and raised":
            return f"A hammock and a {names[0]}: the bed counts as a hammock."
        case "hammock without underside":
            return "A hammock without underquilt or pad is cold in any but a warm night."
        case "shelters apart":
            return f"{names[0]} and {names[1]} share a bed in different shelters."
        case "bag for one":
            return f"{names[0]} is a bag for one: two need a quilt, or two bags joined."
        case "quilt too narrow for two":
            wide, wanted = (display.breadth(each) for each in figures)
            return f"{names[0]} is {wide} wide; over two people that leaks below {wanted}."
        case "two in a hammock":
            return "Two in one bed do not lie in a hammock."
    assert_never(found.reason)


def guard_sentence(found: Guarded, display: Display) -> str:
    """Where a thing that must not freeze spends the night. Source: core.night.bed_checks."""
    if not found.item:
        return (
            "Water: bottles lid down in the tent, one in the bag for the morning; a hose freezes "
            "first."
        )
    what = "the tent" if found.sheltered else "the night"
    where = f"{what} falls to {display.temperature(found.lowest)}"
    limit = display.temperature(found.limit)
    if found.in_bag:
        return f"{found.item} sleeps in the bag: {where}, it must stay above {limit}."
    if found.at_risk:
        return f"{found.item} has no warm place: {where}, it must stay above {limit}."
    return f"{found.item} may stay out: {where}."
