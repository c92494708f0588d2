"""What must not freeze, by night and on the way: where it goes, and whether the bag has room."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from caldarium.core.night.bedding import room_for_clothes
from caldarium.core.night.beds import WET_IN_BED
from caldarium.core.night.nights import Night
from caldarium.core.physics.bed import SLEEPER_RADIUS
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import regions_covered
from caldarium.core.plan.group_kit import units
from caldarium.core.timeline.moments import Moment

ON_THE_WAY = ("setting out", "moving", "halt")
Kind = Literal["thing", "water", "boots", "gloves", "hose"]
WATER_FREEZES = 0.0
STIFF = -2.0
"""Air under which wet boots and gloves are stiff by morning [°C]: judgement."""
HOSE = -3.0
"""Air under which a drinking hose freezes while people walk [°C]: judgement, common practice, no
published source."""
LITRES: dict[Kind, float] = {"thing": 0.3, "water": 1.1, "boots": 7.0, "gloves": 0.8, "hose": 0.0}
"""Room that each takes in a bag where it was not measured [L]: judgement."""
USABLE = 0.3
"""Share of the room round a sleeper where things can lie, beside the legs and at the feet:
judgement."""


@dataclass(frozen=True)
class Guarded:
    """One thing that must not freeze.

    name is empty for what is not a thing; limit what it must stay above, lowest how cold it gets
    about it [°C]; sheltered whether that is inside a shelter; in_bag whether it is to lie in the
    bag; group whether it is the group's; litres of room it takes.
    """

    kind: Kind
    name: str
    at_risk: bool
    limit: float
    lowest: float
    sheltered: bool
    in_bag: bool
    group: bool
    litres: float


@dataclass(frozen=True)
class Guard:
    """What one person has to keep from freezing on a night, and the room of the bag [L]."""

    things: tuple[Guarded, ...]
    room: float

    @property
    def litres(self) -> float:
        """Room that what belongs into the bag takes [L]. Source: the things' own."""
        return sum(each.litres for each in self.things if each.in_bag)

    @property
    def fits(self) -> bool:
        """Whether all of it has room. Source: judgement, USABLE."""
        return self.litres <= self.room


def _things(course: Course, person: Person) -> list[tuple[str, float, float, bool]]:
    """Name, limit, room and whether it is the group's, of what a person carries that spoils."""
    found = [
        (item.name, item.spoils_below_c, item.packed_l or LITRES["thing"], False)
        for item in person.items
        if item.spoils_below_c is not None
    ]
    carried = {unit.kit for unit in units(course) if unit.carrier == person.id}
    found += [
        (kit.name, kit.spoils_below_c, LITRES["thing"], True)
        for kit in course.group
        if kit.id in carried and kit.spoils_below_c is not None
    ]
    return found


def freeze_guard(
    course: Course, person: Person, night: Night, wet: Mapping[str, float] | None = None
) -> Guard:
    """What must not freeze on a night, and whether it sleeps in the bag.

    Args:
        course: for the group's kit.
        person: as they sleep that night.
        night: of theirs.
        wet: how wet their pieces are at bedtime, by id.

    Source: limits by item; the bag as the place for it is common practice, no published source;
        rooms are judgement.
    """
    sheltered = person.shelter is not None
    lowest = night.low + (night.lift if sheltered else 0.0)
    found: list[Guarded] = []

    def add(kind: Kind, name: str, limit: float, risk: bool, litres: float, group: bool) -> None:
        in_bag = risk and person.bag is not None
        found.append(Guarded(kind, name, risk, limit, lowest, sheltered, in_bag, group, litres))

    for name, limit, litres, group in _things(course, person):
        add("thing", name, limit, lowest < limit + 1, litres, group)
    if lowest < WATER_FREEZES and person.water_l > 0:
        add("water", "", WATER_FREEZES, True, LITRES["water"], group=False)
    soaked = wet or {}
    for region, kind in _FROZEN_WET.items():
        pieces = [
            piece.name
            for piece in person.garments
            if soaked.get(piece.id, 0.0) > WET_IN_BED and regions_covered(piece) == {region}
        ]
        if pieces and lowest < STIFF:
            add(kind, ", ".join(pieces), STIFF, True, LITRES[kind], group=False)
    ease = room_for_clothes(person)
    around = 2 * np.pi * SLEEPER_RADIUS * ease * person.height_m
    room = 1000 * USABLE * around if person.bag is not None else 0.0
    return Guard(tuple(found), float(room))


_FROZEN_WET: dict[str, Kind] = {"feet": "boots", "hands": "gloves"}


def day_guard(course: Course, person: Person, moments: Sequence[Moment]) -> tuple[Guarded, ...]:
    """What must not freeze on the way on one day.

    Args:
        course: for the group's kit.
        person: whose.
        moments: of the day.

    Returns:
        What is at risk in the pack, and belongs under the clothes.

    Source: limits by item; that a pack takes the air's temperature in an hour is judgement.
    """
    out = [each for each in moments if each.kind in ON_THE_WAY and not each.fold]
    if not out:
        return ()
    lowest = min(each.air for each in out)
    found = [
        Guarded("thing", name, True, limit, lowest, False, False, group, litres)
        for name, limit, litres, group in _things(course, person)
        if lowest < limit
    ]
    walking = min((each.air for each in out if each.kind == "moving"), default=HOSE)
    if walking < HOSE and person.water_l > 0:
        found.append(Guarded("hose", "", True, HOSE, walking, False, False, False, 0.0))
    return tuple(found)
