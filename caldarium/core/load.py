"""Load: what is worn, what is carried, and what is eaten and burnt on the way."""

from dataclasses import dataclass

from caldarium.core.course import Course, Person
from caldarium.core.kit import Purpose

PURPOSES: tuple[Purpose, ...] = (
    "warmth", "sleep", "shelter", "safety", "food and water", "group", "comfort",
)  # fmt: skip


@dataclass(frozen=True)
class Load:
    """Masses of one person [kg]. `by_day` is setting out in the morning, consumables included."""

    worn: float
    carried: float
    consumed_a_day: float
    by_day: tuple[float, ...]
    by_purpose: tuple[dict[str, float], ...]
    body_mass: float

    @property
    def share_of_body(self) -> float:
        """First morning's load over body mass."""
        return self.by_day[0] / self.body_mass


def shelter_share(course: Course, person: Person) -> float:
    """A person's part of the shelters [g]: parts given to them by hand, and an even share of the
    rest of the shelter they sleep in.

    Source: common practice, no published source.
    """
    found = 0.0
    names = {other.id for other in course.people}
    for shelter in course.shelters:
        given = [part for part in shelter.parts if part.carried_by in names]
        found += sum(part.mass_g for part in given if part.carried_by == person.id)
        if shelter.id == person.shelter:
            sleepers = sum(other.shelter == person.shelter for other in course.people)
            found += (shelter.mass_g - sum(part.mass_g for part in given)) / sleepers
    return found


def person_load(course: Course, person: Person, worn_garments: frozenset[str]) -> Load:
    """Load of one person on each morning of the course.

    Args:
        course: for its days and shelters.
        person: whose load.
        worn_garments: garments worn while walking on the first day.

    Returns:
        The load; what is worn counts in it, food and fuel fall as they go, water is refilled.

    Source: sums of weighed masses.
    """
    worn = sum(piece.mass_g for piece in person.garments if piece.id in worn_garments)
    worn += sum(item.mass_g for item in person.items if item.worn)
    base = dict.fromkeys(PURPOSES, 0.0)
    base["warmth"] = sum(piece.mass_g for piece in person.garments)
    base["sleep"] = sum(pad.mass_g for pad in person.pads)
    base["sleep"] += person.bag.mass_g if person.bag else 0.0
    base["sleep"] += person.bedding.mass_g
    base["shelter"] = shelter_share(course, person)
    for item in person.items:
        base[item.purpose] += item.mass_g
    daily = person.food_g_a_day + person.fuel_g_a_day
    days = len(course.days)
    by_purpose: list[dict[str, float]] = []
    for day in range(days):
        left = dict(base)
        left["food and water"] += daily * (days - day) + 1000 * person.water_l
        by_purpose.append({purpose: grams / 1000 for purpose, grams in left.items()})
    by_day = tuple(sum(parts.values()) for parts in by_purpose)
    return Load(
        worn=worn / 1000,
        carried=by_day[0] - worn / 1000,
        consumed_a_day=daily / 1000,
        by_day=by_day,
        by_purpose=tuple(by_purpose),
        body_mass=person.body_mass_kg,
    )
