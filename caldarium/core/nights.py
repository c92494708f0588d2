"""Every person's bed on every night of the course, and every shelter against its gusts."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from caldarium.core import bed as bed_room
from caldarium.core.cold import air_layer
from caldarium.core.course import Course, Person
from caldarium.core.kit import Bag
from caldarium.core.moments import Moment, planning_gust
from caldarium.core.quantities import Array, Flags
from caldarium.core.shelter import SHELTER_CLASSES, thermal_lift
from caldarium.core.wardrobe import LAYER_ORDER, Wardrobes

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


@dataclass(frozen=True)
class Beds:
    """Beds of P people on N nights. Resistances by person [m² K/W]; lost [m² K/W] to draughts and
    lift [K] by person and night; clothes are the flags of pieces worn inside [P x G]."""

    nights: tuple[Moment, ...]
    grounds: tuple[str, ...]
    bag: Array
    clothed: Array
    bottom: Array
    lost: Array
    lift: Array
    index: Array
    clothes: Flags

    @property
    def low(self) -> Array:
        """Planning low of each night [°C]."""
        return np.array([night.air for night in self.nights])

    def with_top(self, top: Array) -> bed_room.Bed:
        """The beds for a resistance above the sleeper [m² K/W], draughts taken off."""
        return bed_room.Bed(
            top=np.maximum(top - self.lost, NO_BAG / 2),
            bottom=np.broadcast_to(self.bottom[:, None], self.lost.shape),
            ground=bed_room.grounds(list(self.grounds)),
            lift=self.lift,
        )


def bed_clothes(course: Course, dress: Wardrobes) -> Flags:
    """Pieces that go into the bed beyond the base layer, [P x G].

    Source: school "clothes in bed" of the course; shells stay out: common practice, no published
        source.
    """
    if not course.clothes_in_bed:
        return dress.only_asleep
    warm = (dress.layer > LAYER_ORDER["base"]) & (dress.layer < LAYER_ORDER["shell"])
    base_for_camp = (dress.layer == LAYER_ORDER["base"]) & dress.only_at_camp
    return dress.only_asleep | warm | base_for_camp


def lay_beds(
    course: Course, people: Sequence[Person], moments: tuple[Moment, ...], dress: Wardrobes
) -> Beds:
    """What people lie in, and where.

    Args:
        course: the plan, for who else is in their shelters.
        people: of the course.
        moments: the timeline's moments; nights are taken out of them.
        dress: the people's clothing.

    Returns:
        The beds.

    Source: core.bed and core.shelter.
    """
    nights = tuple(moment for moment in moments if moment.kind == "night")
    shape = (len(people), len(nights))
    lift, wall = np.zeros(shape), np.ones((len(people), 1))
    outside = np.array([night.air for night in nights])
    wind = np.array([night.wind for night in nights])
    for shelter in course.shelters:
        rows = [row for row, each in enumerate(people) if each.shelter == shelter.id]
        sleepers = sum(each.shelter == shelter.id for each in course.people)
        if rows and nights:
            wall[rows] = SHELTER_CLASSES[shelter.kind].wind_share
            lift[rows] = thermal_lift(shelter.kind, sleepers, shelter.places, outside, wind)
    draught = wall * np.array([night.body_wind for night in nights])
    bags = np.array([bag_top(person.bag) for person in people])
    clothes = bed_clothes(course, dress)
    inside = np.matmul(clothes[:, None].astype(float), dress.local)[:, 0]
    pads = [sum(pad.r_value for pad in person.pads) for person in people]
    return Beds(
        nights=nights,
        grounds=tuple(_ground_name(course, night) for night in nights),
        bag=bags,
        clothed=bed_room.top_with_clothes(bags, inside),
        bottom=bed_room.pad_resistance(np.array(pads)[:, None]) + bed_room.CRUSHED_BAG,
        lost=air_layer(0.0, 0.0) - air_layer(draught, 0.0),
        lift=lift,
        index=np.array([[person.sleeper_index] for person in people]),
        clothes=clothes,
    )


def night_results(beds: Beds, areas: Array) -> list[tuple[Night, ...]]:
    """Every bed judged, all in one solve.

    Args:
        beds: from lay_beds.
        areas: body surface by person [m²].

    Returns:
        By person, by night.

    Source: core.bed.
    """
    bed = beds.with_top(beds.clothed[:, None])
    shape = bed.top.shape
    if not beds.nights:
        return [()] * shape[0]
    low = np.broadcast_to(beds.low, shape)
    ones = np.ones_like(beds.index)
    sleepers = bed_room.Sleeper(np.stack([ones, 0 * ones, beds.index, beds.index]))
    tops = np.stack([bed.top, bed.top, bed.top, np.full(shape, NO_BAG)])
    every = bed_room.Bed(tops, bed.bottom, bed.ground, bed.lift)
    comfort, limit, own, too_warm = bed_room.lowest_temperature(every, sleepers)
    flow = bed_room.heat_flow(bed, bed_room.Sleeper(beds.index), low)
    hours = bed_room.endurance(flow)
    under = np.broadcast_to(bed_room.ground_temperature(low, bed.ground), shape)
    area = areas[:, None]
    columns = {
        "low": low,
        "margin": low - own,
        "comfort": comfort,
        "limit": limit,
        "sleeper": own,
        "watts_up": flow.up * area,
        "watts_down": flow.down * area,
        "watts_made": flow.made * area,
        "lift": beds.lift,
        "ground_temperature": under,
        "bag_resistance": np.broadcast_to(beds.bag[:, None], shape),
        "clothes_resistance": bed.top - beds.bag[:, None],
        "pads_resistance": bed.bottom - bed_room.CRUSHED_BAG,
        "endurance": hours,
    }
    table = {name: values.tolist() for name, values in columns.items()}
    hot = (low > too_warm).tolist()
    return [
        tuple(
            Night(
                moment=night.id,
                day=night.day,
                state=_state(table["margin"][row][column], hot[row][column]),
                ground=beds.grounds[column],
                **{name: values[row][column] for name, values in table.items()},
            )
            for column, night in enumerate(beds.nights)
        )
        for row in range(shape[0])
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


def bed_needs(beds: Beds, dress: Wardrobes) -> Flags:
    """Which pieces a bed cannot spare, [P x G]: without one of them a night falls short.

    Source: leaving each piece out in turn at the course's caution.
    """
    if not beds.nights or not beds.clothes.any():
        return np.zeros_like(beds.clothes)
    without = beds.clothes[:, None, :] & ~np.eye(dress.places, dtype=bool)
    inside = np.matmul(without.astype(float), dress.local)
    tops = bed_room.top_with_clothes(beds.bag[:, None], inside)
    sleeper = bed_room.Sleeper(beds.index)
    needed = np.zeros_like(beds.clothes)
    for place in range(dress.places):
        if beds.clothes[:, place].any():
            bed = beds.with_top(tops[:, place, None])
            flow = bed_room.heat_flow(bed, sleeper, beds.low)
            needed[:, place] = ~(flow.up + flow.down <= flow.made).all(axis=1)
    return needed & beds.clothes


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
