"""Where things go in a pack: zones, how much fits, how far they are from spine and hand."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Item
from caldarium.core.plan.rucksack import ZONES, Rucksack, Zone

USUAL_L = (20.0, 30.0, 40.0, 50.0, 60.0, 70.0, 80.0, 100.0)
"""Sizes of pack, of which the least that holds all is taken where nobody names one [L]."""
PARTS = {"main": 0.78, "lid": 0.08, "front": 0.06, "side": 0.03, "hip": 0.02}
"""Shares of a pack's whole, where its parts are not said: judgement."""
WIDTH_CM, DEPTH_CM = 32.0, 23.0
"""Of the main compartment, its height following from its litres: judgement."""
LASHED_L = 25.0
MOST_AT_STRAPS: dict[Zone, float] = {
    "lashed": 25.0,
    "under": 14.0,
    "strap left": 5.0,
    "strap right": 5.0,
    "on lid": 12.0,
}
"""What can be lashed outside in all, where nobody says, and in each place [L]: judgement."""
MAIN: tuple[Zone, ...] = (
    "foot",
    "low spine",
    "low outer",
    "high spine",
    "high outer",
    "top",
)
"""Zones inside the liner, from the foot up."""
MOST_OF_MAIN: dict[Zone, float] = {
    "foot": 0.6,
    "low spine": 0.16,
    "low outer": 0.2,
    "high spine": 0.16,
    "high outer": 0.2,
    "top": 0.4,
    "over": 0.12,
}
"""Share of the main compartment that a zone may take; beside the spine half of the depth."""


WORN_WITH: tuple[Zone, ...] = ("shoulder", "chest", "waist")
"""Pockets that somebody has only where they say so."""


@dataclass(frozen=True)
class Place:
    """A zone: how long it takes to reach, 0 at hand to 9 with everything else out; how high its
    middle is as a share of the main compartment, how far from the spine [cm], and on which side of
    it [cm, right is positive]."""

    reach: float
    height: float
    depth: float
    side: float = 0.0


PLACES: dict[Zone, Place] = {
    "foot": Place(9.0, 0.14, 11.5),
    "low spine": Place(6.5, 0.4, 6.0),
    "low outer": Place(6.5, 0.4, 17.0),
    "high spine": Place(4.5, 0.66, 6.0),
    "high outer": Place(4.2, 0.66, 17.0),
    "top": Place(2.2, 0.88, 11.5),
    "over": Place(1.2, 0.98, 11.5),
    "lid": Place(0.6, 1.06, 11.0),
    "front": Place(0.9, 0.5, 26.0),
    "left": Place(0.5, 0.28, 12.0, -19.0),
    "right": Place(0.5, 0.28, 12.0, 19.0),
    "hip": Place(0.1, 0.02, 2.0),
    "shoulder": Place(0.1, 0.8, -4.0),
    "chest": Place(0.05, 0.7, -26.0),
    "waist": Place(0.15, 0.05, -24.0),
    "lashed": Place(1.0, 0.3, 30.0),
    "under": Place(1.2, -0.12, 11.5),
    "strap left": Place(0.8, 0.6, 12.0, -19.0),
    "strap right": Place(0.8, 0.6, 12.0, 19.0),
    "on lid": Place(0.8, 1.2, 11.0),
}
"""Judgement, in the order that is common practice, no published source."""


@dataclass(frozen=True)
class Sack:
    """The pack that somebody has: its whole [L], room by zone [L] (zones of the main compartment
    share it), what can be lashed outside in all [L], whether its size is assumed and whether its
    parts are, mass of the empty pack [g], its name, and whether another one is there too."""

    whole: float
    main: float
    room: dict[Zone, float] = field(hash=False)
    lashed: float
    assumed: bool
    parts_assumed: bool
    grams: float
    name: str
    of_several: bool = False

    @property
    def height_cm(self) -> float:
        """Height of the main compartment. Source: its litres over WIDTH_CM and DEPTH_CM."""
        return 1000 * self.main / (WIDTH_CM * DEPTH_CM)


def on_the_back(packs: Sequence[Item]) -> Item | None:
    """Of several packs the one that is carried, the others lying in it: the largest; one whose room
    nobody said before all others. None of none.

    Source: common practice, no published source.
    """
    return max(packs, key=lambda each: each.capacity_l or math.inf, default=None)


def packs_of(person: Person) -> list[Item]:
    """Every pack among somebody's things that they carry. Source: the person's own figures."""
    return [item for item in person.on_back if item.kind == "pack"]


def said_of_pack(person: Person, carried: Item | None) -> Rucksack:
    """What somebody says of the pack that they carry; their figures are those of their largest.

    Source: the person's own figures.
    """
    if carried is None or carried is on_the_back(packs_of(person)):
        return person.rucksack
    return person.rucksack.of_another


def sack_of(person: Person, litres: float, carried: Item | None) -> Sack:
    """The pack of somebody, as far as they say, else as packs mostly are.

    Args:
        person: with their packs among their things.
        litres: all that must go in, for the size of one that nobody names.
        carried: the pack on their back, from on_the_back; None where they have none.

    Source: the person's own figures; PARTS and USUAL_L, judgement.
    """
    most = carried.capacity_l or 0.0 if carried is not None else 0.0
    said = said_of_pack(person, carried)
    assumed = not most and said.main_l is None
    if not most:
        most = next((size for size in USUAL_L if size >= 1.05 * litres), USUAL_L[-1])
    lid = PARTS["lid"] * most if said.lid_l is None else said.lid_l
    front = PARTS["front"] * most if said.front_l is None else said.front_l
    side = PARTS["side"] * most if said.side_l is None else said.side_l
    hip = PARTS["hip"] * most if said.hip_l is None else said.hip_l
    main = said.main_l
    if main is None:
        main = max(most - lid - front - 2 * side - hip, 0.4 * most)
    room: dict[Zone, float] = {zone: MOST_OF_MAIN.get(zone, 1.0) * main for zone in ZONES}
    room |= {"lid": lid, "front": front, "left": side, "right": side, "hip": hip}
    room |= {
        "shoulder": said.shoulder_l or 0.0,
        "chest": said.chest_l or 0.0,
        "waist": said.waist_l or 0.0,
    }
    lashed = LASHED_L if said.lashed_l is None else said.lashed_l
    room |= {
        zone: min(lashed, litres) if said.has_straps(zone) else 0.0
        for zone, litres in MOST_AT_STRAPS.items()
    }
    parts = (said.main_l, said.lid_l, said.front_l, said.side_l, said.hip_l)
    worn = sum(room[zone] for zone in WORN_WITH)
    return Sack(
        main + lid + front + 2 * side + hip + worn,
        main,
        room,
        lashed,
        assumed,
        any(each is None for each in parts),
        carried.grams if carried is not None else 0.0,
        carried.name if carried is not None else "",
        len(packs_of(person)) > 1,
    )
