"""Every person's bed on every night of the course, and every shelter against its gusts."""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from caldarium.core import bed as bed_room
from caldarium.core.cold import air_layer
from caldarium.core.course import Bag, Course, Person, Shelter
from caldarium.core.dressing import Wardrobe
from caldarium.core.moments import Moment, planning_gust
from caldarium.core.quantities import Array, Flags, array
from caldarium.core.shelter import SHELTER_CLASSES, thermal_lift

NO_BAG = 0.085 + 0.05
"""Resistance above a sleeper in base layer without a bag: air layer and base [m² K/W]."""
SLACK_MARGIN = 10.0
"""Margin above which a bed is warmer than needed [K]: judgement."""


@dataclass(frozen=True)
class Night:
    """One person's bed on one night.

    Temperatures [°C], margin and lift [K], heat [W], resistances [m² K/W], endurance [h].
    """

    moment: str
    day: int
    state: str
    low: float
    margin: float
    comfort: float
    limit: float
    sleeper: float
    watts_up: float
    watts_down: float
    watts_made: float
    lift: float
    ground: str
    ground_temperature: float
    bag_resistance: float
    clothes_resistance: float
    pads_resistance: float
    endurance: float


@dataclass(frozen=True)
class ShelterNight:
    """A shelter against one night: planning gust and what it stands [m/s]."""

    shelter: str
    day: int
    gust: float
    stands: float
    fit: bool
    sleepers: int
    places: int


@lru_cache(maxsize=1024)
def _labelled_top(label: str, label_c: float) -> float:
    sleeper = bed_room.COMFORT if label == "comfort" else bed_room.LIMIT
    return float(bed_room.bag_resistance(label_c, sleeper))


def bag_top(bag: Bag | None) -> float:
    """Resistance above the sleeper from a bag's label; of the bare sleeper without a bag.

    A maker's single number counts as limit.

    Source: core.bed, label inversion.
    """
    if bag is None:
        return NO_BAG
    return _labelled_top(bag.label, bag.label_c)


def bed_clothes(course: Course, dress: Wardrobe) -> Array:
    """Pieces that go into the bed beyond the base layer, [G] of 0 and 1.

    Source: school "clothes in bed" of the course; shells stay out: common practice, no published
        source.
    """
    return np.array(
        [
            float(
                piece.only_asleep
                or (course.clothes_in_bed and piece.layer in ("mid", "insulation"))
                or (course.clothes_in_bed and piece.layer == "base" and piece.only_at_camp)
            )
            for piece in dress.garments
        ]
    )


def _shelter_of(course: Course, person: Person) -> Shelter | None:
    return next((each for each in course.shelters if each.id == person.shelter), None)


def night_beds(
    course: Course, moments: tuple[Moment, ...], wardrobes: list[Wardrobe], areas: Array
) -> list[list[Night]]:
    """All beds of the course in one solve.

    Args:
        course: the plan.
        moments: the timeline's moments; nights are taken out of them.
        wardrobes: by person.
        areas: body surface by person [m²].

    Returns:
        By person, by night.

    Source: core.bed.
    """
    nights = [moment for moment in moments if moment.kind == "night"]
    if not nights:
        return [[] for _ in course.people]
    shape = (len(course.people), len(nights))
    low = np.broadcast_to(np.array([night.air for night in nights]), shape)
    lift, wall = np.zeros(shape), np.ones(shape)
    for row, person in enumerate(course.people):
        shelter = _shelter_of(course, person)
        if shelter is None:
            continue
        taken = sum(other.shelter == shelter.id for other in course.people)
        kind = SHELTER_CLASSES[shelter.kind]
        wall[row] = kind.wind_share
        for column, night in enumerate(nights):
            lift[row, column] = thermal_lift(
                shelter.kind, taken, shelter.places, night.air, night.wind
            )
    draught = wall * np.array([night.body_wind for night in nights])
    lost = air_layer(0.0, 0.0) - air_layer(draught, 0.0)
    bags = np.array([bag_top(person.bag) for person in course.people])
    local = np.array([bed_clothes(course, dress) @ dress.local for dress in wardrobes])
    tops = bed_room.top_with_clothes(bags, local)
    pads = [tuple(pad.r_value for pad in person.pads) for person in course.people]
    bottoms = np.array(
        [bed_room.pad_resistance(np.array(each or (0.0,))) + bed_room.CRUSHED_BAG for each in pads]
    )
    names = [_ground_name(course, night) for night in nights]
    bed = bed_room.Bed(
        top=np.maximum(tops[:, None] - lost, NO_BAG / 2),
        bottom=np.broadcast_to(bottoms[:, None], shape),
        ground=bed_room.grounds(names),
        lift=lift,
    )
    index = np.array([[person.sleeper_index] for person in course.people])
    sleeper = bed_room.Sleeper(index)
    comfort = bed_room.lowest_temperature(bed, bed_room.COMFORT)
    limit = bed_room.lowest_temperature(bed, bed_room.LIMIT)
    own = bed_room.lowest_temperature(bed, sleeper)
    bare = bed_room.Bed(np.full(shape, NO_BAG), bed.bottom, bed.ground, lift)
    too_warm = bed_room.lowest_temperature(bare, sleeper)
    flow = bed_room.heat_flow(bed, sleeper, low)
    hours = bed_room.endurance(flow)
    under = np.broadcast_to(bed_room.ground_temperature(low, bed.ground), shape)
    return [
        [
            Night(
                moment=night.id,
                day=night.day,
                state=_state(
                    float(low[row, column] - own[row, column]),
                    bool(low[row, column] > too_warm[row, column]),
                ),
                low=float(low[row, column]),
                margin=float(low[row, column] - own[row, column]),
                comfort=float(comfort[row, column]),
                limit=float(limit[row, column]),
                sleeper=float(own[row, column]),
                watts_up=float(flow.up[row, column] * areas[row]),
                watts_down=float(flow.down[row, column] * areas[row]),
                watts_made=float(flow.made[row, column] * areas[row]),
                lift=float(lift[row, column]),
                ground=names[column],
                ground_temperature=float(under[row, column]),
                bag_resistance=float(bags[row]),
                clothes_resistance=float(bed.top[row, column] - bags[row]),
                pads_resistance=float(bottoms[row] - bed_room.CRUSHED_BAG),
                endurance=float(hours[row, column]),
            )
            for column, night in enumerate(nights)
        ]
        for row in range(len(course.people))
    ]


def _ground_name(course: Course, night: Moment) -> str:
    camp = course.days[night.day].camp
    assert camp is not None
    return camp.ground


def _state(margin: float, too_warm: bool) -> str:
    """Word for a bed; an unsolvable bed (NaN margin) is a gap."""
    if too_warm:
        return "hot"
    if not margin >= 0:
        return "gap"
    return "slack" if margin > SLACK_MARGIN else "snug"


def bed_needs(course: Course, dress: Wardrobe, person: Person, nights: list[Night]) -> Flags:
    """Which pieces a bed cannot spare, [G] of bool: without one of them a night falls short.

    Source: leaving each piece out in turn at the course's caution.
    """
    worn = bed_clothes(course, dress)
    count = len(worn)
    if not nights or not count or not worn.any():
        return np.zeros(count, dtype=bool)
    without = worn * (1 - np.eye(count))
    bag = bag_top(person.bag)
    full = bed_room.top_with_clothes(bag, worn @ dress.local)
    tops = bed_room.top_with_clothes(np.full(count, bag), without @ dress.local)

    def column(name: str) -> Array:
        return np.array([[getattr(night, name)] for night in nights])

    under = bed_room.grounds([night.ground for night in nights])
    bed = bed_room.Bed(
        top=tops - full + column("clothes_resistance") + bag,
        bottom=column("pads_resistance") + bed_room.CRUSHED_BAG,
        ground=replace(
            under,
            deep=array(under.deep)[:, None],
            pull=array(under.pull)[:, None],
            ceiling=array(under.ceiling)[:, None],
            resistance=array(under.resistance)[:, None],
        ),
        lift=column("lift"),
    )
    flow = bed_room.heat_flow(bed, bed_room.Sleeper(person.sleeper_index), column("low"))
    short = (flow.up + flow.down > flow.made) | ~(column("margin") >= 0)
    return short.any(axis=0) & (worn > 0)


def shelter_nights(course: Course, moments: tuple[Moment, ...]) -> list[ShelterNight]:
    """Every occupied shelter against every night's planning gust.

    Source: gust by core.moments.planning_gust; what a shelter stands is its owner's figure.
    """
    found: list[ShelterNight] = []
    for shelter in course.shelters:
        sleepers = sum(person.shelter == shelter.id for person in course.people)
        if not sleepers:
            continue
        for night in moments:
            if night.kind == "night":
                gust = planning_gust(night)
                fit = gust <= shelter.gust_ms and sleepers <= shelter.places
                found.append(
                    ShelterNight(
                        shelter.id, night.day, gust, shelter.gust_ms, fit, sleepers, shelter.places
                    )
                )
    return found
