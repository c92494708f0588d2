"""What packing lists come to, in sentences: travel by air, swaps, and two lists compared."""

import math
from collections.abc import Sequence

from caldarium.core.load.packing import Line, ListsCompared
from caldarium.core.load.sheet import Sheet, Totals
from caldarium.core.load.travel import Travel, kilograms
from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.swaps import Swap
from caldarium.words.course import counted, moment_name
from caldarium.words.units import Display

MASS_FROM = {
    "not said": "nobody said",
    "scale": "scale",
    "label": "label",
    "catalogue": "catalogue",
    "estimate": "estimate",
    "guess": "guess",
}
"""Where a mass comes from, as a list says it."""


SPLIT = "nobody was given it: split evenly"


def totals_sentence(found: Totals, first_day: str, display: Display) -> str:
    """The three totals of a load, always in this order. Source: core.load.sheet."""
    told = (
        f"{display.load(found.plain)} on the back without food, water and fuel; "
        f"{display.load(found.mornings[0])} with them setting out on {first_day}; "
        f"{display.load(found.skin_out[0])} skin out"
    )
    if found.rescue > 0:
        told += f", safety kit {display.load(found.rescue)} of it"
    if found.apart > 0:
        told += f"; teaching and camera kit, {display.load(found.apart)}, apart from the first"
    return f"{told}."


def sheet_sentence(found: Sheet, display: Display) -> str:
    """What a list comes to, and how much of it nobody has weighed. Source: core.load.sheet."""
    where = [
        f"{display.load(found.grams(each) / 1000)} {each}"
        for each in ("worn", "packed", "shared", "consumed", "helped")
        if found.grams(each) > 0
    ]
    lines = len(found.rows)
    told = f"{counted(lines, 'line')}: {', '.join(where)}"
    if found.unsure_g > 0:
        told += f". {display.load(found.unsure_g / 1000)} of it has not been on a scale"
    return f"{told}."


def travel_sentence(found: Travel, name: str, display: Display) -> str:
    """One person's way by air in a sentence. Source: core.load.travel."""
    hold = display.load(found.hold_kg)
    cabin = display.load(kilograms(found.cabin))
    told = f"{name}: {hold} in the hold, {cabin} in the cabin, "
    told += f"{display.load(kilograms(found.worn))} worn"
    passed = [
        f"{where} is over by {much}"
        for where, much, over in (
            ("the hold bag", display.load(found.over_hold), found.over_hold),
            ("the hold bag", display.volume(found.over_hold_l), found.over_hold_l),
            ("the cabin bag", display.load(found.over_cabin), found.over_cabin),
            ("the cabin bag", display.volume(found.over_cabin_l), found.over_cabin_l),
        )
        if over > 0
    ]
    if passed:
        told += "; " + " and ".join(passed)
    if found.arrival:
        listed = ", ".join(dict.fromkeys(line.name for line in found.arrival))
        told += f". Hired or bought on arrival: {listed}"
    if found.stays:
        listed = ", ".join(dict.fromkeys(line.name for line in found.stays))
        told += f". May not fly, to get on arrival: {listed}"
    return f"{told}."


def party_travel_sentence(found: Sequence[Travel], course: Course, display: Display) -> str:
    """How the party's bags stand against the caps. Source: core.load.travel."""
    if course.hold_kg is None and course.cabin_kg is None:
        return "No caps are given: type what the carrier allows in hold and cabin."
    caps = [
        f"{display.load(cap)} in the {where}"
        for where, cap in (("hold", course.hold_kg), ("cabin", course.cabin_kg))
        if cap is not None
    ]
    over = sum(not each.fits for each in found)
    told = f"With {' and '.join(caps)}, {len(found) - over} of {len(found)} travel within the caps"
    return f"{told}." if not over else f"{told}; share out what the other {over} cannot take."


def swap_sentence(course: Course, swap: Swap, moments: Sequence[Moment], display: Display) -> str:
    """What one swap brings, in a sentence. Source: core.what_if.swaps."""
    more = "more" if swap.grams > 0 else "less"
    told = f"{swap.piece.name} for {swap.out.name}: {display.mass(abs(swap.grams))} {more}"
    if math.isfinite(swap.degrees) and swap.moment:
        here = next(each for each in moments if each.id == swap.moment)
        warmer = "warmer" if swap.degrees >= 0 else "colder"
        told += f", {SWAP_WHERE[swap.where]}{display.difference(abs(swap.degrees), 1)} {warmer}"
        told += f" where it decides, {moment_name(course, here)}"
    before, after = swap.short
    if after != before:
        told += f"; short {after} times instead of {before}"
    return f"{told}."


SWAP_WHERE = {"body": "", "bed": "the bed ", "fingers": "fingers ", "toes": "toes ", "nowhere": ""}
SWAP_WHY = {
    "closes": "closes what is short",
    "opens": "leaves more short",
    "lighter": "lighter, and no more is short",
    "warmer": "warmer for its grams",
    "colder": "colder, and no more is short",
    "heavier": "heavier for nothing",
    "alike": "much the same",
}
"""Why somebody would take a swap, or not."""


def packed_name(line: Line) -> str:
    """What a line of a packing list is called. Source: none, wording."""
    if line.kind == "share":
        return f"share of {line.name}"
    if line.whole:
        return f"{line.name} of {line.whole}"
    return f"{line.name} for {counted(line.days, 'day')}" if line.days else line.name


def lists_sentence(found: ListsCompared, first: str, second: str, display: Display) -> str:
    """How two lists differ in all. Source: core.load.packing."""
    before, after = found.grams
    more = "heavier" if after > before else "lighter"
    told = (
        f"{second} has {display.load(after / 1000)}, {first} {display.load(before / 1000)}: "
        f"{display.mass(abs(after - before))} {more}"
    )
    if found.pairs and (line := found.pairs[0].line):
        told += f"; the largest difference is {packed_name(line)}"
    return f"{told}; {found.alike} lines are alike."
