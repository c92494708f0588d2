"""What nobody is told to leave at home, whatever the figures say, and by which rule."""

from collections.abc import Collection
from typing import Literal

from caldarium.core.load.packing import closed_foam
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import regions_covered
from caldarium.core.plan.kit import Garment

Rule = Literal[
    "spare set", "spare", "shades", "only one", "one shell", "under the pad", "the bed", "listed"
]
"""A dry set by the course's school; marked as a spare; against the sun; the only thing over legs or
under feet; the one shell; closed foam under an inflatable pad on cold ground, which guards it
against punctures; what somebody lies in; asked for by a list. All but the last are common practice,
no published source."""
_HARD_GROUND = ("snow", "frozen")
SLOTS: tuple[tuple[str, frozenset[str]], ...] = (
    ("base", frozenset({"trunk"})),
    ("base", frozenset({"thighs"})),
    ("base", frozenset({"feet"})),
    ("", frozenset({"hands"})),
)
"""What a dry set is: something next to the skin above, below and on the feet, and handwear, by
layer and the region that it is for. Common practice, no published source."""
_ONLY = ("thighs", "feet")


def kept_by_rule(course: Course, person: Person, doubted: Collection[str]) -> dict[str, Rule]:
    """Of pieces that close nothing, those that stay all the same.

    Args:
        course: for its school of spare clothes.
        person: whose.
        doubted: ids of the pieces that close nothing by themselves.

    Returns:
        The rule by id.

    Source: common practice, no published source: one dry set is never idle.
    """
    found: dict[str, Rule] = {}
    unsure = [each for each in person.garments if each.id in doubted]
    for piece in unsure:
        if piece.shades:
            found[piece.id] = "shades"
        elif piece.spare:
            found[piece.id] = "spare"
    if course.spare_set != "none":
        for layer, over in SLOTS:
            spares = [each for each in unsure if fills(each, layer, over)]
            if course.spare_set == "one dry set":
                spares = sorted(spares, key=lambda each: each.mass_g)[:1]
            for piece in spares:
                found.setdefault(piece.id, "spare set")
    for region in _ONLY:
        over = [each for each in person.garments if region in regions_covered(each)]
        if over and all(each.id in doubted for each in over):
            heaviest = max(over, key=lambda each: (each.always, each.layer != "base", each.mass_g))
            found.setdefault(heaviest.id, "only one")
    shells = [
        each
        for each in person.garments
        if each.layer == "shell" and "trunk" in regions_covered(each)
    ]
    if shells and all(each.id in doubted for each in shells):
        best = min(shells, key=lambda each: (not each.waterproof, each.mass_g))
        found.setdefault(best.id, "one shell")
    return found | _bed(course, person)


def _bed(course: Course, person: Person) -> dict[str, Rule]:
    """Bag and first pad of every bed slept in, and one foam pad under what a puncture lets down."""
    nights = [day for day, plan in enumerate(course.days) if plan.camp is not None]
    found: dict[str, Rule] = {
        part.id: "the bed"
        for bed in (person.bed_on(day) for day in nights)
        for part in (bed.bag, *bed.pads[:1])
        if part is not None
    }
    hard = any(day.camp is not None and day.camp.ground in _HARD_GROUND for day in course.days)
    foams = [pad for pad in person.pads if closed_foam(pad)]
    if hard and foams and len(foams) < len(person.pads):
        lightest = min(foams, key=lambda pad: pad.mass_g)
        found.setdefault(lightest.id, "under the pad")
    return found


def fills(piece: Garment, layer: str, over: frozenset[str]) -> bool:
    """Whether a piece fills a place of the dry set; feet and hands are filled by what covers
    nothing else. Source: SLOTS."""
    covers = regions_covered(piece)
    small = over <= {"feet", "hands"}
    if small and covers != set(over):
        return False
    return over <= covers and layer in ("", piece.layer)
