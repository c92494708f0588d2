"""Every person's bed on every night of the course."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.night.bedding import (
    NO_BAG,
    bag_by_region,
    bag_top,
    bottle_watts,
    claimed,
    damp,
    room_for_clothes,
    under_one_cover,
    under_resistance,
    warmer_watts,
)
from caldarium.core.physics import bed as bed_room
from caldarium.core.physics.allowances import quiet_heat
from caldarium.core.physics.cold import air_layer
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.physics.shelter import SHELTER_CLASSES, thermal_lift
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.wardrobe import OUTSIDE, SKIN, Wardrobes, wardrobes
from caldarium.core.timeline.moments import Moment, Timeline

TIMES_A_NIGHT = 21
WAKING_DEBT = 13.0
"""Heat debt at which a sleeper wakes of cold [W h/m²]: judgement, a third of the limit of ISO
11079."""
GROUND_HOURS = 5.0
"""Hours by which the ground under a bed follows the air: judgement; soil physics has a few hours
for its first centimetres."""
COVER_WIND = 0.1
"""Share of the wind that reaches a bed inside a cover: judgement."""
SLACK_MARGIN = 10.0
"""Margin above which a bed is warmer than needed [K]: judgement."""


@dataclass(frozen=True)
class Night:
    """One person's bed on one night.

    Temperatures [°C], margin and lift [K], heat [W], resistances [m² K/W], endurance [h]. The hours
    until which the bed is comfortable and at which the sleeper wakes are on the course's clock,
    infinite where there is none; debt is the largest of the night [W h/m²], damp what the bag has
    gathered on the nights before [g]. Through the night:
    hours on that clock, air outside [°C] and heat debt [W h/m²].
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
    comfortable_until: float
    wakes: float
    debt: float
    hours: tuple[float, ...]
    air: tuple[float, ...]
    debts: tuple[float, ...]
    damp: float


@dataclass(frozen=True)
class Beds:
    """Beds of P people on N nights, looked at H times a night.

    bag of the label and clothed with everything in and over it [m² K/W, P]; upper by region
    without clothes [P x 7] and room for clothes [m, P x 1]; bottom [P]; lost [m² K/W] to
    wind and damp, and lift [K] by person and night, and by hour [P x N x H]; index of the sleeper
    [P x 1], heat they make [W/m², P x N], degrees a liner is believed to bring [K, P x 1], damp
    that bags have gathered before each night [g, P x N], heat of a hot bottle and of warmers [W/m²,
    P x N x H]; clothes are the flags of pieces worn inside [P x G]; hour on the course's clock, air
    outside, and the air that the ground answers to, later than the air itself [°C, N x H].
    """

    nights: tuple[Moment, ...]
    grounds: tuple[tuple[str, ...], ...]
    bag: Array
    upper: Array
    room: Array
    clothed: Array
    bottom: Array
    lost: Array
    lift: Array
    lost_by_hour: Array
    lift_by_hour: Array
    index: Array
    made: Array
    claimed: Array
    damp: Array
    heated: Array
    clothes: Flags
    hour: Array
    outside: Array
    lagging: Array

    @property
    def low(self) -> Array:
        """Planning low of each night [°C]."""
        return np.array([night.air for night in self.nights])

    def ground(self) -> bed_room.Ground:
        """What each bed lies on, [P x N]. Source: core.physics.bed."""
        flat = bed_room.grounds([name for row in self.grounds for name in row])
        return bed_room.shaped(flat, self.lost.shape)

    def with_top(self, top: Array) -> bed_room.Bed:
        """The beds for a resistance above the sleeper [m² K/W], what wind takes off."""
        return bed_room.Bed(
            top=np.maximum(top - self.lost, NO_BAG / 2),
            bottom=np.broadcast_to(self.bottom[:, None], self.lost.shape),
            ground=self.ground(),
            lift=self.lift,
            rate=self.made,
        )


def bed_clothes(course: Course, dress: Wardrobes) -> Flags:
    """Pieces that go into the bed beyond the base layer, [P x G].

    Source: school "clothes in bed" of the course; shells stay out: common practice, no published
        source.
    """
    if not course.clothes_in_bed:
        return dress.only_asleep
    warm = (dress.layer > SKIN) & (dress.layer < OUTSIDE)
    base_for_camp = (dress.layer == SKIN) & dress.only_at_camp
    return dress.only_asleep | warm | base_for_camp


def base_in_bed(dress: Wardrobes) -> Flags:
    """Base pieces of the day that stay on in bed, [P x G]: all where nothing is kept for sleeping.

    Source: common practice, no published source.
    """
    skin = dress.layer == SKIN
    kept = (skin & dress.only_asleep).any(axis=1, keepdims=True)
    return skin & ~dress.only_asleep & ~dress.only_at_camp & ~kept


def lay_beds(
    course: Course, people: Sequence[Person], timeline: Timeline, dress: Wardrobes
) -> Beds:
    """What people lie in, and where.

    Args:
        course: the plan, for who else is in their shelters.
        people: of the course.
        timeline: its nights and hours.
        dress: the people's clothing.

    Returns:
        The beds.

    Source: core.night.bedding, core.physics.bed and core.physics.shelter.
    """
    nights = tuple(moment for moment in timeline.moments if moment.kind == "night")
    shape = (len(people), len(nights))
    lift, wall = np.zeros(shape), np.ones((len(people), 1))
    outside = np.array([night.air for night in nights])
    wind = np.array([night.wind for night in nights])
    hour, air, blown, lagging = _hours_of(nights, timeline)
    lift_by_hour = np.zeros((*shape, TIMES_A_NIGHT))
    for shelter in course.shelters:
        rows = [row for row, each in enumerate(people) if each.shelter == shelter.id]
        sleepers = sum(each.shelter == shelter.id for each in course.people)
        if rows and nights:
            wall[rows] = SHELTER_CLASSES[shelter.kind].wind_share
            lift[rows] = thermal_lift(shelter.kind, sleepers, shelter.places, outside, wind)
            lift_by_hour[rows] = thermal_lift(
                shelter.kind, sleepers, shelter.places, air, wind[:, None] * blown
            )
    covered = np.array([[each.bedding.cover is not None] for each in people], dtype=bool)
    wall = np.where(covered, np.minimum(wall, COVER_WIND), wall)
    gust = wall * np.array([night.body_wind for night in nights])
    still = air_layer(0.0, 0.0)
    clothes = bed_clothes(course, dress)
    worn = clothes | base_in_bed(dress)
    inside = np.matmul(worn[:, None].astype(float), dress.local)[:, 0]
    upper = np.array([bag_by_region(course, person) for person in people])
    room = np.array([[room_for_clothes(person)] for person in people])
    area = body_area(
        np.array([person.body_mass_kg for person in people]),
        np.array([person.height_m for person in people]),
    )
    bottle, warmers = (
        np.array([getattr(person.bedding, name) for person in people])[:, None, None]
        for name in ("hot_bottle_l", "warmers")
    )
    walked = np.array([_walked(timeline, night.day) for night in nights])
    made = bed_room.METABOLIC_RATE * quiet_heat(course.allowances, walked)
    since = hour - hour[:, :1] if nights else hour
    clothed = bed_room.top_with_clothes(upper, inside, room)
    bags = [under_one_cover(course, person).bag for person in people]
    fills = [MATERIALS[bag.fill if bag else "down"] for bag in bags]
    tops = np.array([bag_top(bag) for bag in bags])
    water, soaked = damp(
        clothed[:, None],
        np.array([[float(bag is not None)] for bag in bags]),
        outside + lift,
        np.array([night.hours for night in nights]),
        covered,
        np.array([[fill.holds] for fill in fills]),
    )
    wet_loss = soaked * np.array([[1 - fill.wet_share] for fill in fills])
    wet_loss = wet_loss * (tops - NO_BAG)[:, None]
    return Beds(
        nights=nights,
        grounds=tuple(
            tuple(_ground_name(course, person, night) for night in nights) for person in people
        ),
        bag=tops,
        upper=upper,
        room=room,
        clothed=clothed,
        bottom=np.array([under_resistance(person) for person in people]),
        lost=still - air_layer(gust, 0.0) + wet_loss,
        lift=lift,
        lost_by_hour=still - air_layer(gust[..., None] * blown, 0.0) + wet_loss[..., None],
        lift_by_hour=lift_by_hour,
        index=np.array([[person.sleeper_index] for person in people]),
        made=np.broadcast_to(made, shape),
        claimed=np.array([[claimed(course, person)] for person in people]),
        heated=(bottle_watts(bottle, since) + warmer_watts(warmers, since)) / area[:, None, None],
        clothes=clothes,
        hour=hour,
        outside=air,
        lagging=lagging,
        damp=water,
    )


def _hours_of(nights: tuple[Moment, ...], timeline: Timeline) -> tuple[Array, Array, Array, Array]:
    """Times looked at in each night, the air then, the wind over the night's own, and the air that
    the ground answers to [N x H]."""
    steps = np.linspace(0.0, 1.0, TIMES_A_NIGHT)
    starts = np.array([night.start for night in nights])[:, None]
    ends = np.array([night.end for night in nights])[:, None]
    hour = starts + (ends - starts) * steps
    hours = timeline.hours
    air = np.interp(hour, hours.hour, hours.air)
    wind = np.interp(hour, hours.hour, hours.wind)
    own = np.array([max(night.wind, 0.1) for night in nights])[:, None]
    lagging = np.interp(hour, hours.hour, _lagging(hours.air))
    return hour, air, wind / np.maximum(own, 0.1), lagging


def _lagging(air: Array) -> Array:
    """Hourly air as the ground's surface follows it, GROUND_HOURS behind [°C]."""
    found = air.copy()
    for hour in range(1, len(air)):
        found[hour] = found[hour - 1] + (air[hour] - found[hour - 1]) / GROUND_HOURS
    return found


def _walked(timeline: Timeline, day: int) -> float:
    """Hours walked on a day [h]."""
    return sum(m.hours for m in timeline.moments if m.day == day and m.walk and not m.fold)


@dataclass(frozen=True)
class NightHours:
    """Nights hour by hour [P x N x H]: balance [W/m² of skin], heat debt so far [W h/m²], and how
    much too cold it is for the sleeper [K]."""

    balance: Array
    debt: Array
    short: Array


def through_nights(beds: Beds, own: Array) -> NightHours:
    """Every bed through every hour of its nights.

    Args:
        beds: from lay_beds.
        own: lowest temperature of each bed for its sleeper [°C, P x N].

    Returns:
        The hours. Debt shrinks again where the bed warms, never below none: who is warm opens up.

    Source: the balance of core.physics.bed at each time; steady beds give steady nights.
    """
    bed = bed_room.Bed(
        top=np.maximum(beds.clothed[:, None, None] - beds.lost_by_hour, NO_BAG / 2),
        bottom=np.broadcast_to(beds.bottom[:, None, None], beds.lost_by_hour.shape),
        ground=bed_room.shaped(beds.ground(), (*beds.lost.shape, 1)),
        lift=beds.lift_by_hour,
        rate=beds.made[..., None] + beds.heated,
    )
    outside = beds.outside + beds.claimed[..., None]
    under = bed_room.ground_temperature(beds.lagging, bed.ground)
    flow = bed_room.heat_flow(bed, bed_room.Sleeper(beds.index[..., None]), outside, under)
    balance = flow.made - flow.up - flow.down
    debt = np.zeros(balance.shape)
    steps = np.diff(beds.hour, axis=1)
    for at in range(1, balance.shape[-1]):
        mean = (balance[..., at] + balance[..., at - 1]) / 2
        debt[..., at] = np.maximum(debt[..., at - 1] - mean * steps[:, at - 1], 0.0)
    return NightHours(balance, debt, own[..., None] - beds.outside)


def _first_hour(beds: Beds, reached: Flags) -> Array:
    """The hour at which something is first so, infinite where never [P x N]."""
    hours = np.broadcast_to(beds.hour, reached.shape)
    return np.where(reached, hours, np.inf).min(axis=-1, initial=np.inf)


def night_results(beds: Beds, areas: Array) -> list[tuple[Night, ...]]:
    """Every bed judged, all in one solve.

    Args:
        beds: from lay_beds.
        areas: body surface by person [m²].

    Returns:
        By person, by night.

    Source: core.physics.bed.
    """
    bed = beds.with_top(beds.clothed[:, None])
    shape = bed.top.shape
    if not beds.nights:
        return [()] * shape[0]
    low = np.broadcast_to(beds.low, shape)
    felt = low + beds.claimed
    ones = np.ones_like(beds.index)
    sleepers = bed_room.Sleeper(np.stack([ones, 0 * ones, beds.index, beds.index]))
    tops = np.stack([bed.top, bed.top, bed.top, np.full(shape, NO_BAG)])
    every = bed_room.Bed(tops, bed.bottom, bed.ground, bed.lift, bed.rate)
    found = bed_room.lowest_temperature(every, sleepers) - beds.claimed
    comfort, limit, own, too_warm = found
    flow = bed_room.heat_flow(bed, bed_room.Sleeper(beds.index), felt)
    through = through_nights(beds, own)
    hours = bed_room.endurance(flow)
    under = np.broadcast_to(bed_room.ground_temperature(low, bed.ground), shape)
    area = areas[:, None]
    bare = bed_room.top_with_clothes(beds.upper, 0.0, beds.room)
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
        "bag_resistance": np.broadcast_to(bare[:, None], shape),
        "clothes_resistance": bed.top - bare[:, None],
        "pads_resistance": bed.bottom - bed_room.CRUSHED_BAG,
        "endurance": hours,
        "comfortable_until": _first_hour(beds, through.balance < 0),
        "wakes": _first_hour(beds, through.debt > WAKING_DEBT),
        "debt": through.debt.max(axis=-1, initial=0.0),
        "damp": beds.damp,
    }
    table = {name: values.tolist() for name, values in columns.items()}
    hot = (low > too_warm).tolist()
    clock = [tuple(each) for each in beds.hour.tolist()]
    air = [tuple(each) for each in beds.outside.tolist()]
    debts: list[list[list[float]]] = through.debt.tolist()
    return [
        tuple(
            Night(
                moment=night.id,
                day=night.day,
                state=_state(table["margin"][row][column], hot[row][column]),
                ground=beds.grounds[row][column],
                hours=clock[column],
                air=air[column],
                debts=tuple(debts[row][column]),
                **{name: values[row][column] for name, values in table.items()},
            )
            for column, night in enumerate(beds.nights)
        )
        for row in range(shape[0])
    ]


RAISED = {"cot": "cot", "hut bunk": "bunk"}


def _ground_name(course: Course, person: Person, night: Moment) -> str:
    if person.bedding.hammock is not None:
        return "off"
    if person.bedding.raised in RAISED:
        return RAISED[person.bedding.raised]
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
    without = without | base_in_bed(dress)[:, None]
    inside = np.matmul(without.astype(float), dress.local)
    tops = bed_room.top_with_clothes(beds.upper[:, None], inside, beds.room[:, None])
    sleeper = bed_room.Sleeper(beds.index)
    needed = np.zeros_like(beds.clothes)
    for place in range(dress.places):
        if beds.clothes[:, place].any():
            bed = beds.with_top(tops[:, place, None])
            flow = bed_room.heat_flow(bed, sleeper, beds.low + beds.claimed)
            needed[:, place] = ~(flow.up + flow.down <= flow.made).all(axis=1)
    return needed & beds.clothes


def lowest_temperatures(course: Course, timeline: Timeline, people: Sequence[Person]) -> Array:
    """Lowest temperature of each person's own bed on each night [°C, P x N]; NaN as -inf margins.

    Source: core.night.nights.
    """
    beds = lay_beds(course, people, timeline, wardrobes(people))
    bed = beds.with_top(beds.clothed[:, None])
    own = bed_room.lowest_temperature(bed, bed_room.Sleeper(beds.index)) - beds.claimed
    return np.where(np.isfinite(own), own, bed_room.NIGHT_RANGE[1])
