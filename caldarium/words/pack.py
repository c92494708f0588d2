"""Packs in words: where a piece goes and why there, what is wrong, what moved."""

import math
from collections.abc import Mapping, Sequence

from caldarium.core.pack import placing
from caldarium.core.pack.bags import InBag, Place
from caldarium.core.pack.contents import NOBODYS, Content, named
from caldarium.core.pack.needed import HURRY, Need, Why
from caldarium.core.pack.pack_checks import PackReason, good_heights
from caldarium.core.pack.plan import Moved, PackPlan, Since
from caldarium.core.pack.where import hand_placed
from caldarium.core.pack.zones import MAIN
from caldarium.core.plan.course import Course
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.kit import LegEnd
from caldarium.core.plan.rucksack import LASHED, Mark, Packed, Straps, Zone
from caldarium.words.course import counted, weekday
from caldarium.words.food import leg_title
from caldarium.words.steps import Step
from caldarium.words.units import Display, clock_text

ZONE_NAMES: Mapping[Zone, str] = {
    "foot": "at the foot",
    "low spine": "low, by the spine",
    "low outer": "low, away from it",
    "high spine": "high, by the spine",
    "high outer": "high, away from it",
    "top": "top, in the liner",
    "over": "over the liner",
    "lid": "lid",
    "front": "front pocket",
    "left": "left side",
    "right": "right side",
    "hip": "hip pockets",
    "shoulder": "pocket on the strap",
    "chest": "chest pouch",
    "waist": "waist bag",
    "lashed": "lashed at the back",
    "under": "lashed under the foot",
    "strap left": "lashed at the left",
    "strap right": "lashed at the right",
    "on lid": "lashed on the lid",
}
STRAP_NAMES: Mapping[Straps, str] = {
    "back": "at the back",
    "under": "under the foot",
    "sides": "at the sides",
    "lid": "on the lid",
}
MARK_NAMES: Mapping[Mark, str] = {
    "keep dry": "must stay dry",
    "leaks": "may leak or smell",
    "sharp": "sharp",
    "crushable": "breaks when crushed",
    "freezes": "must not freeze",
    "outside": "may hang outside",
    "hard": "hard",
    "long": "long",
    "flat": "flat",
    "round": "round",
}
PACKED_NAMES: Mapping[Packed, str] = {
    "loose": "loose, filling gaps",
    "sack": "in its sack",
    "compressed": "compressed",
    "dry sack": "in a dry sack of its own",
}
_ALL_DAY: tuple[Why, ...] = ("any time", "every hour")
"""For what no hour is told."""
BAG_PLACES: Mapping[Place, str] = {
    "bottom": "at the bottom",
    "middle": "in the middle",
    "top": "on top",
}
_BAG_NOTES: Mapping[Mark, str] = {
    "crushable": "among clothes, it breaks when crushed",
    "sharp": "covered, it is sharp",
    "leaks": "in a bag of its own, it may leak or smell",
}
TOLD_FROM = 0.4
"""Hurry from which the hour is told at which a piece is wanted."""
_WHY: Mapping[Why, str] = {
    "put on at halts": "you put it on at every halt",
    "put on in rain": "you put it on when it rains",
    "put on while walking": "you put it on while walking",
    "put on in a hold": "it goes on if you are held",
    "put on at camp": "you change into it at camp",
    "if the weather turns": "it goes on if the weather turns",
    "may be put on": "not planned for today",
    "kept dry to the end": "a dry set, not touched on the way",
    "any time": "may be wanted at any time",
    "every hour": "wanted every hour",
    "at lunch": "wanted at the first halt",
    "in the dark": "it is dark before camp",
    "may get dark": "wanted if you are late",
    "in the sun": "wanted in the sun",
    "first at camp": "first thing out at camp",
    "for the night": "not before the night",
    "to cook at camp": "not before you cook",
    "not before camp": "not before camp",
    "to mend": "wanted if something breaks",
    "on the snow": "wanted on the snow",
}


def piece_name(content: Content) -> str:
    """What a piece is called. Source: the plan."""
    if content.id == NOBODYS:
        return "share of group kit that nobody was given"
    at, count = content.part
    return content.name if count == 1 else f"{content.name}, {at} of {count}"


def need_words(need: Need) -> str:
    """For what a piece is wanted, and when. Source: core.pack.needed."""
    if math.isinf(need.hour) or need.hurry < TOLD_FROM or need.why in _ALL_DAY:
        return _WHY[need.why]
    return f"{_WHY[need.why]}, {clock_text(need.hour % 24)}"


def bag_words(found: InBag) -> str:
    """Where a thing goes in a bag by air, and why. Source: core.pack.bags."""
    told = [words for mark, words in _BAG_NOTES.items() if mark in found.content.marks]
    return ", ".join((BAG_PLACES[found.place], *told))


def drop_words(course: Course, place: LegEnd | None) -> str:
    """A drop bag by where it waits. Source: the plan."""
    if place is None:
        return "Drop bag"
    return f"Drop bag at the end of {leg_title(course, place.day, place.leg)}"


def place_words(plan: PackPlan, content: Content) -> str:
    """Why a piece is where it is, in a sentence. Source: core.pack."""
    zone = plan.placing.zones.get(content.id)
    told = [need_words(plan.needs[content.id])]
    by_hand = hand_placed(content, plan.asked) is not None
    if by_hand:
        told.insert(0, "you put it there")
    elif zone in ("high spine", "low spine") and content.grams >= 400:
        told.append("dense, so close to the spine")
    elif zone in LASHED:
        told.append("bulky, so outside" if content.litres > 3 else "kept outside")
    if content.wet:
        told.append("it is wet")
    if "keep dry" in content.marks and plan.asked.said.liner and zone in MAIN:
        told.append("inside the liner")
    if zone is not None and zone not in MAIN and named(content.name, ("axe",)):
        told.append("the pick inward, its head covered")
    if "freezes" in content.marks and plan.asked.freezes:
        told.append("it must not freeze")
    if "leaks" in content.marks and not by_hand:
        told.append("low and away from food")
    return "; ".join(told)


def piece_figures(content: Content, display: Display) -> str:
    """Mass and room of a piece. Source: the plan."""
    about = "about " if content.estimated else ""
    return f"{display.mass(content.grams)}, {about}{display.volume(content.litres)}"


def pack_sentence(plan: PackPlan, display: Display) -> str:
    """How a pack stands, in a sentence. Source: core.pack."""
    sack = plan.asked.sack
    full = f"{display.load(plan.grams / 1000)}, {display.volume(plan.litres)}"
    full += f" of {display.volume(sack.whole)}"
    full += f" in the {sack.name}" if sack.of_several and sack.name else ""
    if not plan.findings:
        return f"Everything has a place: {full}."
    asks = counted(len(plan.findings), "thing asks", "things ask")
    return f"{asks} something of you: {full}."


def full_words(plan: PackPlan, display: Display) -> str:
    """What stands under the drawing of a pack. Source: core.pack."""
    liner = "liner round what must stay dry" if plan.asked.said.liner else "no liner"
    room = f"{display.volume(plan.litres)} of {display.volume(plan.asked.sack.whole)}"
    return f"{liner}; {room}; dot: centre of mass, dashed: where it rides well"


def proof_words(plan: PackPlan) -> str:
    """How sure the placing is. Source: core.pack.placing."""
    if plan.placing.gap == 0:
        return "no other placing reaches and rides better by the costs below: proven"
    return f"within {100 * plan.placing.gap:.0f} % of the best by the costs below"


def finding_words(
    found: Finding[PackReason], pieces: Mapping[str, Content], display: Display
) -> str:
    """What is wrong with a pack, in a sentence. Source: core.pack.pack_checks."""
    names = [piece_name(pieces[name]) for name in found.names if name in pieces]
    figures = found.figures
    listed = ", ".join(names)
    first = names[0] if names else ""
    match found.reason:
        case "no pack":
            return f"Nobody said which pack this is: {display.volume(figures[0])} are taken."
        case "too full":
            return (
                f"{display.volume(figures[0])} are stuffed into a main compartment of "
                f"{display.volume(figures[1])}."
            )
        case "no place":
            return f"There is no room for {listed}."
        case "loose":
            return (
                f"The main compartment is only {100 * figures[0]:.0f} % full: things slide. "
                "Leave the bed loose, or take a smaller pack."
            )
        case "top-heavy":
            return (
                f"The mass rides at {display.breadth(figures[0])}; on this way it should be under "
                f"{display.breadth(figures[1])}."
            )
        case "low":
            return (
                f"The mass rides at {display.breadth(figures[0])}; on this way it should be over "
                f"{display.breadth(figures[1])}."
            )
        case "hangs back":
            return (
                f"The mass hangs {display.breadth(figures[0])} from the spine; more than "
                f"{display.breadth(figures[1])} pulls on the shoulders."
            )
        case "one-sided":
            return (
                f"Left {display.mass(figures[0])}, right {display.mass(figures[1])}: it pulls to "
                "one side."
            )
        case "no barrier":
            return f"{first} may get wet where it is; put it inside a liner."
        case "fuel over food":
            return f"{first} is over or with {names[-1]}: what leaks runs into the food."
        case "leaks on":
            return f"{first} is beside {names[-1]} and may spoil it."
        case "crushed":
            return f"{first} lies under everything and may break."
        case "sharp inside":
            return f"{first} is sharp and lies against cloth."
        case "hard on the back":
            return f"{first} is hard and presses on the back: put something soft between them."
        case "freezes":
            return f"{first} freezes where it is; put it deep inside."
        case "deep":
            return f"{first} is wanted in a hurry and lies deep."
        case "over rated":
            return (
                f"{display.load(figures[0])} in a pack made for {display.load(figures[1])}; see "
                "its maker's instructions."
            )
        case "not the back":
            return (
                f"The pack's back is {display.breadth(figures[1])}, the torso "
                f"{display.breadth(figures[0])}: try another size."
            )
        case "wet inside":
            return f"{first} is wet and lies inside the liner."
        case "heavy outside":
            return f"{display.mass(figures[0])} hang outside and swing: {listed}."
        case "too much outside":
            return (
                f"{display.volume(figures[0])} are lashed outside, and there is room for "
                f"{display.volume(figures[1])}: {listed}."
            )
        case "no strap":
            return f"The pack has no strap where {first} is lashed."
        case "nobody's":
            return (
                f"{display.mass(figures[0])} of group kit are nobody's yet; until it is given out "
                "everybody has a share of it here."
            )


def moved_words(moved: Moved) -> str:
    """Where a piece was and is. Source: core.pack."""
    name = piece_name(moved.piece)
    if moved.after is None:
        return f"{name} is out of the pack"
    place = ZONE_NAMES[moved.after]
    if moved.before is None:
        return f"{name} comes in: {place}"
    return f"{name} moves: {place}, not {ZONE_NAMES[moved.before]}"


def since_sentence(found: Since, pieces: Mapping[str, Content], display: Display) -> str:
    """What is otherwise than yesterday, in a sentence. Source: core.pack."""
    told = [
        f"{piece_name(pieces[name])} goes in {how}"
        for names, how in ((found.wet, "wet"), (found.dry, "dry again"))
        for name in names
    ]
    more = "more" if found.grams > 0 else "less"
    if abs(found.grams) >= 50:
        told.append(f"{display.load(abs(found.grams) / 1000)} {more}")
    if abs(found.height_cm) >= 1:
        way = "higher" if found.height_cm > 0 else "lower"
        told.append(f"the mass rides {display.breadth(abs(found.height_cm))} {way}")
    if not told:
        return "As yesterday."
    sentence = "; ".join(told)
    return f"{sentence[0].upper()}{sentence[1:]}."


def morning_words(course: Course, day: int) -> str:
    """A morning by its weekday. Source: the plan."""
    return f"{weekday(course, day)} morning"


def reach_words(names: Sequence[str]) -> str:
    """What must come out before a piece. Source: core.pack.layout."""
    if not names:
        return "at hand"
    return f"after {counted(len(names), 'other', 'others')}"


def _straps_words(plan: PackPlan) -> str:
    """Where things may be lashed."""
    straps = plan.asked.said.straps
    if straps is None:
        return "wherever packs mostly have straps, as nobody said where this one has"
    return ", ".join(STRAP_NAMES[each] for each in straps) or "nowhere, as it has no straps"


def explain_pack(plan: PackPlan, display: Display) -> list[Step]:
    """How a pack is filled. Source: core.pack."""
    laid, sack, sides = plan.laid, plan.asked.sack, plan.asked.sides_g
    least, most = good_heights(plan.asked, laid)
    parts = "its parts in the usual shares" if sack.parts_assumed else "its parts as said"
    way = "low" if plan.low else "high"
    return [
        Step(
            "in the pack",
            display.load(plan.grams / 1000),
            "everything carried at the first walk of the day, less what is worn, waits elsewhere "
            "or is on a helper; food, fuel and water as the load counts them; the empty pack "
            f"{display.mass(sack.grams)}",
            "the load's own sums",
        ),
        Step(
            "room",
            display.volume(plan.litres),
            f"measured litres, else by material; the pack has {display.volume(sack.whole)}, "
            f"{parts}",
            "litres a kilogram and shares are judgement",
        ),
        Step(
            "wanted",
            f"hurry from 0 to {max(HURRY.values()):g}",
            "; ".join(f"{_WHY[why]} {hurry:g}" for why, hurry in HURRY.items()),
            "the assessment's own outfits; order common practice, no published source",
        ),
        Step(
            "placing",
            proof_words(plan),
            f"cost: {placing.REACHING:g} for each step of reach and square of hurry; "
            f"{placing.RIDING_DEEP:g} for each kilogram and centimetre from the spine; "
            f"{placing.RIDING_HIGH:g} for each kilogram and share of the height off where heavy "
            f"things ride; {placing.UNUSUAL:g} where a thing does not usually go, "
            f"{placing.MOVED:g} where it was not the morning before; {placing.OUTSIDE:g} for each "
            f"kilogram outside, {placing.BEHIND_STRAPS:g} for a thing on the lid",
            "common practice, no published source; the figures are judgement",
        ),
        Step(
            "rules",
            "",
            "what must stay dry inside the liner; wet shelter outside it; fuel never over or with "
            "food, what leaks never with what must stay dry; sharp things outside or in a pocket; "
            "what breaks never at the foot; what freezes inside in frost; what is long by the "
            "spine or at a side; what is round only where a ball of its litres goes; outside "
            f"{_straps_words(plan)}",
            "common practice, no published source",
        ),
        Step(
            "centre of mass",
            f"{display.breadth(laid.depth_cm)} from the spine, "
            f"{display.breadth(laid.height_cm)} up",
            "masses times their middles in the drawing, over their sum; heavy things ride "
            f"{way} on this day's way: good between {display.breadth(least)} and "
            f"{display.breadth(most)}",
            "an average; where it should be is common practice, no published source",
        ),
        Step(
            "left and right",
            f"{display.mass(laid.left_g)} and {display.mass(laid.right_g)}",
            f"what is in the two side pockets; they may differ by {display.mass(sides)}",
            "a sum; common practice, no published source",
        ),
    ]
