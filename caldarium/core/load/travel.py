"""Travel by air: what goes in the hold, what in the cabin, what is worn, and what may not fly."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.day.states import MomentState
from caldarium.core.load.packing import Line, packing_list
from caldarium.core.plan.course import Course, Person

STEP_G = 10.0
"""Masses are shared between hold and cabin to this [g]: judgement, the step of a luggage scale."""


@dataclass(frozen=True)
class Travel:
    """One person's way by air: lines worn, in the hold, in the cabin, hired or bought on arrival,
    and those that may not fly; kilograms and litres by which hold and cabin pass their caps, 0
    where they do not. The bag itself counts in the hold."""

    person: str
    worn: tuple[Line, ...]
    hold: tuple[Line, ...]
    cabin: tuple[Line, ...]
    arrival: tuple[Line, ...]
    stays: tuple[Line, ...]
    over_hold: float
    over_cabin: float
    over_hold_l: float
    over_cabin_l: float
    bag: float

    @property
    def hold_kg(self) -> float:
        """What the hold bag weighs, itself counted [kg]. Source: none, a sum."""
        return kilograms(self.hold) + self.bag

    @property
    def got_kg(self) -> float:
        """What is got on arrival because it may not fly or is had there [kg]. Source: none, a
        sum."""
        return kilograms(self.stays) + kilograms(self.arrival)

    @property
    def fits(self) -> bool:
        """Whether every cap is kept. Source: none, arithmetic."""
        return not any((self.over_hold, self.over_cabin, self.over_hold_l, self.over_cabin_l))


def kilograms(lines: Sequence[Line]) -> float:
    """Mass of some lines [kg]. Source: none, arithmetic."""
    return sum(line.grams for line in lines) / 1000


def litres_of(lines: Sequence[Line]) -> float:
    """Room of some lines packed [L]. Source: core.load.packing, mostly estimated."""
    return sum(line.litres for line in lines)


def travel(
    course: Course,
    person: Person,
    states: Sequence[MomentState],
    arrival: frozenset[str] = frozenset(),
) -> Travel:
    """One person's packing list shared between body, hold and cabin.

    What was chosen for the plane is worn, else the clothes of the first walk. What is hired or
    bought on arrival is not flown. What must be in one of the bags is there; of the rest as little
    goes into the cabin as keeps the hold to its cap, and what room the hold lacks goes after it,
    bulkiest first, as far as the cabin takes it.

    Args:
        course: with caps [kg, L]; one that is not given has no end.
        person: whose.
        states: what they wear at each moment.
        arrival: ids of pieces that are hired or bought on arrival.

    Source: caps and what may fly are the user's word; which pieces fit is a search over sums.
    """
    first = next((state.worn for state in states if state.kind == "moving"), ())
    on = {*first, *(item.id for item in person.items if item.worn)}
    if person.on_plane is not None:
        on = set(person.on_plane)
    lines = [line for line in packing_list(course, person) if line.id not in arrival]
    there = [line for line in packing_list(course, person) if line.id in arrival]
    worn = tuple(line for line in lines if line.kind in ("garment", "item") and line.id in on)
    left = [line for line in lines if line not in worn]
    stays = tuple(line for line in left if line.fly == "never")
    cabin = [line for line in left if line.fly == "cabin only"]
    hold = [line for line in left if line.fly == "hold only"]
    free = [line for line in left if line.fly == "anywhere"]
    bag = (course.bag_g or 0.0) / 1000
    hold_kg, cabin_kg, hold_l, cabin_l = (
        np.inf if cap is None else cap
        for cap in (course.hold_kg, course.cabin_kg, course.hold_l, course.cabin_l)
    )
    over = kilograms(hold) + kilograms(free) + bag - hold_kg
    room = cabin_kg - kilograms(cabin)
    moved = least_enough([line.grams for line in free], 1000 * over, 1000 * room)
    cabin += [line for at, line in enumerate(free) if at in moved]
    hold += [line for at, line in enumerate(free) if at not in moved]
    for line in sorted(hold, key=lambda each: -each.litres):
        if litres_of(hold) <= hold_l:
            break
        fits = (
            kilograms(cabin) + line.grams / 1000 <= cabin_kg
            and litres_of(cabin) + line.litres <= cabin_l
        )
        if line.fly == "anywhere" and fits:
            hold.remove(line)
            cabin.append(line)
    return Travel(
        person=person.id,
        worn=worn,
        hold=tuple(hold),
        cabin=tuple(cabin),
        arrival=tuple(there),
        stays=stays,
        over_hold=_over(kilograms(hold) + bag, course.hold_kg),
        over_cabin=_over(kilograms(cabin), course.cabin_kg),
        over_hold_l=_over(litres_of(hold), course.hold_l),
        over_cabin_l=_over(litres_of(cabin), course.cabin_l),
        bag=bag,
    )


def _over(much: float, cap: float | None) -> float:
    return 0.0 if cap is None else max(round(much - cap, 6), 0.0)


def least_enough(grams: Sequence[float], wanted: float, room: float) -> set[int]:
    """Pieces whose mass together is the least that is enough and within the room.

    Args:
        grams: of each [g].
        wanted: what they must have together [g]; none are taken for nothing.
        room: what they may have [g].

    Returns:
        Their places; of the most that fits where none is enough.

    Source: subset sums to STEP_G, a piece counted up to the next step.
    """
    if wanted <= 0:
        return set()
    steps = [int(np.ceil(each / STEP_G - 1e-9)) for each in grams]
    most = sum(steps) if not np.isfinite(room) else max(int(room / STEP_G + 1e-9), 0)
    reached: dict[int, tuple[int, ...]] = {0: ()}
    for place, step in enumerate(steps):
        for total, chosen in list(reached.items()):
            after = total + step
            if step > 0 and after <= most and after not in reached:
                reached[after] = (*chosen, place)
    masses = {total: sum(grams[at] for at in chosen) for total, chosen in reached.items()}
    enough = [total for total, mass in masses.items() if mass >= wanted - 1e-6]
    best = min(enough, key=masses.__getitem__) if enough else max(masses, key=masses.__getitem__)
    return set(reached[best])
