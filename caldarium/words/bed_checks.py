"""What of a bed is asked again, and what sleeps in the bag, in sentences."""

from typing import assert_never

from caldarium.core.night.bed_checks import Asked
from caldarium.core.night.freeze import Guard, Guarded
from caldarium.words.units import Display


def bed_question(found: Asked, display: Display) -> str:
    """One thing about a bed that does not fit. Source: core.night.bed_checks."""
    names, figures = found.names, found.figures
    match found.reason:
        case "unrated":
            return (
                f"{names[0]} carries its maker's own number, not the standard's: it counts as a "
                "limit figure. Sleep in it near the road before you trust it."
            )
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
    """Where a thing that must not freeze spends the night. Source: core.night.freeze."""
    what = "the tent" if found.sheltered else "the night"
    where = f"{what} falls to {display.temperature(found.lowest)}"
    name = f"{found.name}, the group's," if found.group else found.name
    match found.kind:
        case "water":
            return (
                "Water: bottles lid down in the tent, one in the bag for the morning; a hose "
                "freezes first."
            )
        case "boots":
            return f"{name}: wet, and stiff by morning as {where}; loosen them, and take them in."
        case "gloves":
            return f"{name}: wet, and stiff by morning as {where}; dry them on the body."
        case "hose":
            return way_sentence(found, display)
        case "thing":
            limit = display.temperature(found.limit)
            if found.in_bag:
                return f"{name} sleeps in the bag: {where}, it must stay above {limit}."
            if found.at_risk:
                return f"{name} has no warm place: {where}, it must stay above {limit}."
            return f"{name} may stay out: {where}."
    assert_never(found.kind)


def room_sentence(found: Guard, display: Display) -> str:
    """Whether all that belongs into the bag has room there; empty where nothing does.

    Source: core.night.freeze.
    """
    if not found.litres:
        return ""
    takes, room = display.volume(found.litres), display.volume(found.room)
    if found.fits:
        return f"In the bag it takes {takes} of some {room} beside the legs: an estimate."
    return (
        f"In the bag it takes {takes}, and there are some {room} beside the legs: an estimate; "
        "share it out, or put boots under the knees, outside the bag."
    )


def way_sentence(found: Guarded, display: Display) -> str:
    """What must not freeze on the way, and where it goes. Source: core.night.freeze."""
    lowest = display.temperature(found.lowest)
    if found.kind == "hose":
        return (
            f"Walking in {lowest}, a drinking hose freezes: blow it empty after each sip, or carry "
            "bottles lid down, near the back."
        )
    limit = display.temperature(found.limit)
    name = f"{found.name}, the group's," if found.group else found.name
    return f"{name} goes under the clothes: the air falls to {lowest}, it must stay above {limit}."
