"""Kit of the group: how many of each, and what everybody carries of it."""

import math
from dataclasses import dataclass

from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import GroupKit


@dataclass(frozen=True)
class Unit:
    """One piece of group kit: its kit's id, place among those, mass and fuel in it [g], carrier,
    by hand."""

    kit: str
    place: int
    mass_g: float
    fuel_g: float
    carrier: str | None
    by_hand: bool

    @property
    def kept_g(self) -> float:
        """Its mass without the fuel [g]. Source: none, arithmetic."""
        return self.mass_g - self.fuel_g


def wanted(course: Course, kit: GroupKit) -> int:
    """How many of a piece the party needs.

    Source: the school's own rules: number for every `per` heads, ropes or tents.
    """
    if kit.of == "party":
        return kit.number
    size = len(course.people)
    if kit.of == "rope":
        size = math.ceil(size / course.rope_of)
    elif kit.of == "tent":
        size = len({shelter for person in course.people for shelter in person.shelters})
    return kit.number * math.ceil(size / kit.per)


def units(course: Course) -> list[Unit]:
    """Every piece of group kit, with who carries it; somebody who left carries nothing.

    Source: none, bookkeeping.
    """
    known = {each.id for each in (*course.people, *course.helpers)}
    found: list[Unit] = []
    for kit in course.group:
        for place in range(wanted(course, kit)):
            carrier = kit.carriers[place] if place < len(kit.carriers) else None
            carrier = carrier if carrier in known else None
            told = carrier is not None and place < len(kit.by_hand) and kit.by_hand[place]
            found.append(Unit(kit.id, place, kit.mass_g, kit.net_g or 0.0, carrier, told))
    return found


def group_grams(course: Course, *, fuel: bool = False) -> dict[str, dict[str, float]]:
    """What each person carries of the group's kit, by purpose [g]; what nobody was given is split
    evenly, and what a helper carries is on nobody.

    Args:
        course: the plan.
        fuel: whether what is in its cans counts, which burns on the way.

    Source: sums of weighed masses.
    """
    purposes = {kit.id: kit.purpose for kit in course.group}
    found: dict[str, dict[str, float]] = {person.id: {} for person in course.people}
    even: dict[str, float] = {}
    for unit in units(course):
        purpose = purposes[unit.kit]
        grams = unit.mass_g if fuel else unit.kept_g
        if unit.carrier is None:
            even[purpose] = even.get(purpose, 0.0) + grams / len(course.people)
        elif unit.carrier in found:
            own = found[unit.carrier]
            own[purpose] = own.get(purpose, 0.0) + grams
    for own in found.values():
        for purpose, grams in even.items():
            own[purpose] = own.get(purpose, 0.0) + grams
    return found


def carried_by(
    course: Course, kit: str, place: int, carrier: str | None, *, by_hand: bool
) -> Course:
    """The course with one piece of group kit given to somebody, or to nobody.

    Raises:
        KeyError: for kit or a place that is not there.

    Source: none, bookkeeping.
    """
    piece = next((each for each in course.group if each.id == kit), None)
    if piece is None or not 0 <= place < wanted(course, piece):
        raise KeyError(kit)
    count = wanted(course, piece)
    carriers = [*piece.carriers[:count], *[None] * (count - len(piece.carriers))]
    told = [*piece.by_hand[:count], *[False] * (count - len(piece.by_hand))]
    carriers[place], told[place] = carrier, by_hand and carrier is not None
    altered = piece.altered(carriers=tuple(carriers), by_hand=tuple(told))
    return course.altered(group=tuple(altered if e.id == kit else e for e in course.group))
