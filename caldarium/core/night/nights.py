"""Every person's bed on every night of the course, judged."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from caldarium.core.night.bedding import NO_BAG
from caldarium.core.night.beds import Beds, Wet, lay_beds, worth_in_bed
from caldarium.core.physics import bed as bed_room
from caldarium.core.physics.quantities import Array, Flags, array
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes
from caldarium.core.timeline.moments import Timeline

WAKING_DEBT = 13.0
"""Heat debt at which a sleeper wakes of cold [W h/m²]: judgement, a third of the limit of ISO
11079."""
SLACK_MARGIN = 10.0
"""Margin above which a bed is warmer than needed [K]: judgement."""

NightState = Literal["gap", "cool", "snug", "slack", "hot"]
"""Gap: short, and so much that the sleeper wakes of it; cool: short, and they do not; hot: too warm
without anything over them; slack: SLACK_MARGIN and more to spare."""


@dataclass(frozen=True)
class Night:
    """One person's bed on one night, at the time at which it loses most over what is made in it.

    Temperatures [°C]: low outside then, and the lowest that the bed holds for the standard's two
    sleepers, for this one, and for this one awake, shivering and unhurt in the morning; margin,
    lift, and pull of the sky [K], heat [W], resistances [m² K/W], endurance [h]; share of the
    insulation that wind leaves, water in clothes worn to bed as heat that drying takes [W]. The
    hours until which the bed is comfortable and at which the sleeper wakes are on the course's
    clock, infinite where there is none; debt is the largest of the night [W h/m²], bottle and
    warmers with it; damp what the bag has gathered on the nights before, wet_resistance what all
    its water costs by now [g, m² K/W]. Through the night: hours on that clock, air outside [°C] and
    heat debt [W h/m²].
    """

    moment: str
    day: int
    state: NightState
    shelter: str | None
    low: float
    margin: float
    comfort: float
    limit: float
    sleeper: float
    survives: float
    watts_up: float
    watts_down: float
    watts_made: float
    lift: float
    sky: float
    wind_share: float
    ground: str
    ground_temperature: float
    bag_resistance: float
    clothes_resistance: float
    wet_resistance: float
    pads_resistance: float
    watts_drying: float
    endurance: float
    comfortable_until: float
    wakes: float
    debt: float
    hours: tuple[float, ...]
    air: tuple[float, ...]
    debts: tuple[float, ...]
    damp: float

    @property
    def survivable(self) -> bool:
        """Whether the night is got through unhurt, cold as it may be. Source: core.physics.bed."""
        return self.low >= self.survives


@dataclass(frozen=True)
class Through:
    """Nights hour by hour [P x N x H]: balance [W/m² of skin], and heat debt so far [W h/m²]."""

    balance: Array
    debt: Array


def through_nights(beds: Beds) -> Through:
    """Every bed through every hour of its nights.

    Args:
        beds: from lay_beds.

    Returns:
        The hours. Debt shrinks again where the bed warms, never below none: who is warm opens up.

    Source: the balance of core.physics.bed at each time; steady beds give steady nights.
    """
    bed = beds.by_time(heated=True)
    outside = beds.site.air + beds.claimed[..., None]
    under = bed_room.ground_temperature(beds.site.lagging, bed.ground)
    flow = bed_room.heat_flow(bed, bed_room.Sleeper(beds.index[..., None]), outside, under)
    balance = (flow.made - flow.up - flow.down)[..., 1:]
    debt = np.zeros(balance.shape)
    steps = np.diff(beds.site.hour[:, 1:], axis=1)
    for at in range(1, balance.shape[-1]):
        mean = (balance[..., at] + balance[..., at - 1]) / 2
        debt[..., at] = np.maximum(debt[..., at - 1] - mean * steps[:, at - 1], 0.0)
    return Through(balance, debt)


def _first_hour(beds: Beds, reached: Flags) -> Array:
    """The hour at which something is first so, infinite where never [P x N]."""
    hours = np.broadcast_to(beds.site.hour[:, 1:], reached.shape)
    return np.where(reached, hours, np.inf).min(axis=-1, initial=np.inf)


def _then(values: Array, times: NDArray[np.intp]) -> Array:
    """Figures by time [.. x T] at one time of each night [P x N]."""
    whole = np.broadcast_to(values, (*times.shape, values.shape[-1]))
    return np.take_along_axis(whole, times[..., None], axis=-1)[..., 0]


def night_results(beds: Beds, people: Sequence[Person], areas: Array) -> list[tuple[Night, ...]]:
    """Every bed judged, all in one solve.

    Args:
        beds: from lay_beds.
        people: whose they are.
        areas: body surface by person [m²].

    Returns:
        By person, by night.

    Source: core.physics.bed.
    """
    nights = beds.site.nights
    if not nights:
        return [()] * len(people)
    times = beds.hardest()
    bed = beds.at(times, beds.clothed)
    shape = bed.top.shape
    low = _then(beds.site.air, times)
    felt = low + beds.claimed
    ones = np.ones(shape)
    sleepers = bed_room.Sleeper(np.stack([ones, 0 * ones, beds.index * ones, beds.index * ones]))
    tops = np.stack([bed.top, bed.top, bed.top, np.full(shape, NO_BAG)])
    every = bed_room.Bed(tops, bed.bottom, bed.ground, bed.lift, bed.sky, bed.rate)
    found = bed_room.lowest_temperature(every, sleepers) - beds.claimed
    own, too_warm = found[2:]
    comfort, limit, told = bed_room.where_ground_can_be(found[:3], bed.ground)
    lasts = np.array([night.hours for night in nights])
    survives = bed_room.lowest_survived(bed, np.maximum(lasts, 1.0)) - beds.claimed
    flow = bed_room.heat_flow(bed, bed_room.Sleeper(beds.index), felt)
    through = through_nights(beds)
    debt = through.debt.max(axis=-1, initial=0.0)
    wakes = ~(debt <= WAKING_DEBT)
    under = bed_room.ground_temperature(low, bed.ground) + bed.ground.indoors * array(bed.lift)
    area = areas[:, None]
    bare = bed_room.top_with_clothes(beds.upper, 0.0, beds.room)
    columns: dict[str, Array] = {
        "low": low,
        "margin": low - own,
        "comfort": comfort,
        "limit": limit,
        "sleeper": told,
        "survives": survives,
        "watts_up": flow.up * area,
        "watts_down": flow.down * area,
        "watts_made": flow.made * area,
        "lift": array(bed.lift),
        "sky": array(bed.sky),
        "wind_share": _then(beds.kept, times),
        "ground_temperature": np.broadcast_to(under, shape),
        "bag_resistance": bare,
        "clothes_resistance": beds.clothed - bare,
        "wet_resistance": _then(beds.wet, times),
        "pads_resistance": bed.bottom - bed_room.CRUSHED_BAG,
        "watts_drying": beds.drying * area,
        "endurance": bed_room.endurance(flow),
        "comfortable_until": _first_hour(beds, through.balance < 0),
        "wakes": _first_hour(beds, through.debt > WAKING_DEBT),
        "debt": debt,
        "damp": beds.damp,
    }
    table: dict[str, list[list[float]]] = {
        name: values.tolist() for name, values in columns.items()
    }
    words = _words(low - own, low > too_warm, wakes)
    clock = [tuple(each[1:]) for each in beds.site.hour.tolist()]
    air = [tuple(each[1:]) for each in beds.site.air.tolist()]
    debts: list[list[list[float]]] = through.debt.tolist()
    return [
        tuple(
            Night(
                moment=night.id,
                day=night.day,
                state=words[row][column],
                shelter=person.on_night(night.day).shelter,
                ground=str(beds.grounds[row, column]),
                hours=clock[column],
                air=air[column],
                debts=tuple(debts[row][column]),
                **{name: values[row][column] for name, values in table.items()},
            )
            for column, night in enumerate(nights)
        )
        for row, person in enumerate(people)
    ]


def _words(margin: Array, hot: Flags, wakes: Flags) -> list[list[NightState]]:
    """Word for every bed; an unsolvable one (NaN margin) is a gap."""
    short = ~(margin >= 0)
    gap = short & (wakes | ~np.isfinite(margin))
    found = np.select(
        [hot, gap, short, margin > SLACK_MARGIN], ["hot", "gap", "cool", "slack"], "snug"
    )
    words: list[list[NightState]] = found.tolist()
    return words


def bed_needs(beds: Beds, dress: Wardrobes) -> Flags:
    """Which pieces a bed cannot spare, [P x G]: without one of them a night falls short.

    Source: leaving each piece out in turn at the course's caution.
    """
    if not beds.site.nights or not beds.clothes.any():
        return np.zeros_like(beds.clothes)
    each_out = ~np.eye(dress.places, dtype=bool)
    inside = np.stack(
        [
            worth_in_bed((beds.worn & each_out[place]).astype(float), dress, beds.bare)
            for place in range(dress.places)
        ],
        axis=1,
    )
    times = beds.hardest()
    bed = beds.at(times, beds.clothed)
    tops = bed_room.top_with_clothes(beds.upper[:, None], inside, beds.room[:, None])
    kept, wet = (_then(values, times)[:, None] for values in (beds.kept, beds.wet))
    tops = np.maximum(tops * kept - wet, NO_BAG / 2)
    without_one = replace(
        bed,
        top=tops,
        bottom=bed.bottom[:, None],
        ground=bed_room.shaped(bed.ground, (len(tops), 1, tops.shape[-1])),
        lift=array(bed.lift)[:, None],
        sky=array(bed.sky)[:, None],
        rate=array(bed.rate)[:, None],
    )
    felt = (_then(beds.site.air, times) + beds.claimed)[:, None]
    flow = bed_room.heat_flow(without_one, bed_room.Sleeper(beds.index[:, None]), felt)
    return ~(flow.up + flow.down <= flow.made).all(axis=2) & beds.clothes


def bed_margins(
    course: Course, timeline: Timeline, people: Sequence[Person], wet: Wet | None = None
) -> Array:
    """What each person's bed has to spare on each night [K, P x N]; where nothing balances, as if
    the warmest air that is looked at did.

    Args:
        course, timeline: the plan.
        people: of the course, or as they would be with a change.
        wet: of their pieces at bedtime.

    Source: core.night.nights.
    """
    beds = lay_beds(course, people, timeline, _alike(people), wet)
    if not beds.site.nights:
        return np.zeros((len(people), 0))
    times = beds.hardest()
    bed = beds.at(times, beds.clothed)
    own = bed_room.lowest_temperature(bed, bed_room.Sleeper(beds.index)) - beds.claimed
    return _then(beds.site.air, times) - np.where(np.isfinite(own), own, bed_room.NIGHT_RANGE[1])


def _alike(people: Sequence[Person]) -> Wardrobes:
    """Wardrobes of people many of whom are one and the same in another bed."""
    first: dict[int, int] = {}
    owners: list[Person] = []
    rows: list[int] = []
    for person in people:
        if id(person.garments) not in first:
            first[id(person.garments)] = len(owners)
            owners.append(person)
        rows.append(first[id(person.garments)])
    found = wardrobes(owners)
    garments = tuple(found.garments[row] for row in rows)
    return replace(found.take(np.array(rows, dtype=np.intp)), garments=garments)
