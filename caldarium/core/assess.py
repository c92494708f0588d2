"""One function: a course in, everything that is shown out."""

from dataclasses import dataclass
from itertools import compress

import numpy as np

from caldarium.core import cold
from caldarium.core.clothing import REGION_SHARE, REGIONS, ensemble_insulation
from caldarium.core.course import Course
from caldarium.core.dressing import (
    Air,
    Needs,
    Worth,
    bags_round_shoulders,
    candidates,
    choose,
    meet,
    settle,
    without_each,
    worth,
)
from caldarium.core.effort import body_area, resting_rate, walking_power
from caldarium.core.heat import sweat_needed
from caldarium.core.load import Load, person_load
from caldarium.core.moments import ACTIVITY, Moment, Timeline, build_timeline
from caldarium.core.nights import (
    Beds,
    Night,
    ShelterNight,
    bed_needs,
    lay_beds,
    night_results,
    shelter_nights,
)
from caldarium.core.quantities import CLO, Array, Flags
from caldarium.core.wardrobe import Wardrobes, wardrobes
from caldarium.core.wind import relative_air_speed

TOLERANCE = 0.05
"""Differences below this do not change a word [clo]: judgement, well inside the error of tables."""
SHORTEST_HOLD = 1.0
"""Below the minimum is a gap unless the outfit holds, by duration limited exposure, for the whole
moment and never less than this [h]: a halt runs long before anybody notices. Judgement."""
STATES = ("gap", "snug", "slack", "hot")


@dataclass(frozen=True)
class MomentState:
    """One person at one waking moment. Insulation [clo] is what wind, movement and wet leave.

    need_min and need_neutral are the band of need, need_soak where clothing would soak; gap is
    what is missing to need_min; sweat is the water it takes [L/h]; endurance [h] until the heat
    debt matters, infinite where none grows; rate [W/m²], watts [W]; regions and heat_share by
    region in the order of REGIONS; whole_sum the outfit's still-air figure from the sum of its
    garments [clo].
    """

    moment: str
    kind: str
    day: int
    state: str
    need_min: float
    need_neutral: float
    need_soak: float
    provided: float
    gap: float
    endurance: float
    holds: bool
    rate: float
    watts: float
    wettedness: float
    sweat: float
    air_speed: float
    worn: tuple[str, ...]
    regions: tuple[float, ...]
    heat_share: tuple[float, ...]
    weakest: str
    whole_sum: float
    least: float
    basis: str


@dataclass(frozen=True)
class PersonResult:
    """Everything found for one person."""

    person: str
    moments: tuple[MomentState, ...]
    nights: tuple[Night, ...]
    load: Load
    idle: tuple[str, ...]
    idle_grams: float


@dataclass(frozen=True)
class Assessment:
    """The whole result for a course; every screen, export and command reads this."""

    timeline: Timeline
    people: tuple[PersonResult, ...]
    shelters: tuple[ShelterNight, ...]


def assess(course: Course) -> Assessment:
    """Judge every person at every moment, every bed, every shelter and every load.

    Args:
        course: the plan.

    Returns:
        The assessment; the same course always gives the same figures to the last digit.

    Source: the modules of core, each with its own.
    """
    timeline = build_timeline(course)
    awake = tuple(moment for moment in timeline.moments if moment.kind != "night")
    dress = wardrobes(course.people)
    areas = body_area(
        np.array([person.body_mass_kg for person in course.people]),
        np.array([person.height_m for person in course.people]),
    )
    loads = [person_load(course, person, frozenset()) for person in course.people]
    beds = lay_beds(course, timeline.moments, dress)
    air = _meet(course, loads, areas, awake, beds)
    needs = Needs(
        *(
            cold.required_insulation(criterion, air.where, enforce_range=False)
            for criterion in (cold.MINIMAL, cold.NEUTRAL, cold.SOAK)
        )
    )
    dressed = _dress(course, dress, air, needs)
    states = _states(dress, air, needs, dressed, areas)
    idle = _idle(dress, air, needs.minimal, dressed, beds)
    nights = night_results(beds, areas)
    people: list[PersonResult] = []
    for row, person in enumerate(course.people):
        moving = next((state.worn for state in states[row] if state.kind == "moving"), ())
        spare = list(compress(dress.garments[row], idle[row].tolist()))
        people.append(
            PersonResult(
                person=person.id,
                moments=states[row],
                nights=nights[row],
                load=person_load(course, person, frozenset(moving)),
                idle=tuple(piece.id for piece in spare),
                idle_grams=sum(piece.mass_g for piece in spare),
            )
        )
    return Assessment(timeline, tuple(people), tuple(shelter_nights(course, timeline.moments)))


def _meet(
    course: Course, loads: list[Load], areas: Array, awake: tuple[Moment, ...], beds: Beds
) -> Air:
    """What everybody meets and makes at each waking moment."""
    kinds = [resting_rate(ACTIVITY.get(moment.kind, "standing")) for moment in awake]
    rates = np.tile(np.array(kinds), (len(course.people), 1))
    pace = np.zeros(len(awake))
    walks = [(column, moment.walk) for column, moment in enumerate(awake) if moment.walk]
    if walks:
        columns = [column for column, _ in walks]
        pace[columns] = [walk.speed for _, walk in walks]
        mass = np.array([[person.body_mass_kg] for person in course.people])
        carried = np.array([[load.by_day[awake[each].day] for each in columns] for load in loads])
        slope = np.array([walk.slope for _, walk in walks])
        terrain = np.array([walk.terrain for _, walk in walks])
        climbing = np.array([walk.climbing for _, walk in walks])
        up, down = (
            walking_power(mass, np.minimum(carried, mass), pace[columns], grade, terrain)
            for grade in (slope, -slope)
        )
        rates[:, columns] = (climbing * up + (1 - climbing) * down) / areas[:, None]
    winds = np.array([moment.body_wind for moment in awake])
    has_bag = np.array([person.bag is not None for person in course.people])
    bags = bags_round_shoulders(course, np.where(has_bag, beds.bag, np.nan))
    return meet(awake, rates, relative_air_speed(winds, pace), pace, bags)


@dataclass(frozen=True)
class _Dressed:
    """What everybody wears at each moment, and what else was weighed against it.

    worn [P x M x G] and its worth; least, the fullest, and the fullest without each piece
    [m² K/W; P x M, the last x G].
    """

    worn: Flags
    worth: Worth
    least: Array
    fullest: Array
    alone: Array


def _dress(course: Course, dress: Wardrobes, air: Air, needs: Needs) -> _Dressed:
    choices = candidates(course.people, dress, air)
    outfits = choices.outfits
    rungs = outfits.shape[2]
    both = worth(dress, np.concatenate([outfits, without_each(outfits)], axis=2), air)
    whole = both.whole[..., :rungs]
    rung = choose(whole, needs.minimal, needs.neutral)
    people, moments = np.indices(rung.shape)
    begin = outfits[people, moments, rung]
    worn = settle(dress, begin, whole[people, moments, rung], choices.free, air, needs)
    final = worth(dress, worn[:, :, None], air)
    return _Dressed(
        worn=worn,
        worth=Worth(final.regions[:, :, 0], final.whole[:, :, 0]),
        least=whole[..., 0],
        fullest=whole[..., -1],
        alone=both.whole[..., rungs:],
    )


def _states(
    dress: Wardrobes, air: Air, needs: Needs, dressed: _Dressed, areas: Array
) -> list[tuple[MomentState, ...]]:
    """States of everybody at every moment, by person."""
    where, whole = air.where, dressed.worth.whole
    totals = dressed.worth.regions
    bare = cold.air_layer(where.air_speed, where.walking_speed)[..., None]
    local = np.maximum(totals - bare / cold.area_factor(np.maximum(totals - bare, 0)), 0)
    loss = REGION_SHARE / totals
    share = loss / loss.sum(axis=-1, keepdims=True)
    weakest = np.argmax(share / REGION_SHARE * (REGION_SHARE > 0.06), axis=-1)
    endurance = cold.duration_limited_exposure(cold.MINIMAL, whole, where, enforce_range=False)
    spans = [max(moment.hours, SHORTEST_HOLD) for moment in air.moments]
    table = {
        "need_min": needs.minimal / CLO,
        "need_neutral": np.maximum(needs.neutral, needs.minimal) / CLO,
        "need_soak": needs.soak / CLO,
        "provided": whole / CLO,
        "gap": np.maximum((needs.minimal - whole) / CLO, 0.0),
        "endurance": endurance,
        "holds": endurance >= np.array(spans),
        "rate": where.metabolic_rate,
        "watts": where.metabolic_rate * areas[:, None],
        "wettedness": cold.required_wettedness(whole, where),
        "sweat": sweat_needed(whole, where, areas[:, None]),
        "air_speed": where.air_speed,
        "whole_sum": ensemble_insulation(dressed.worn * dress.clo[:, None]),
        "least": dressed.least / CLO,
    }
    rows = {name: values.tolist() for name, values in table.items()}
    basis = _bases(where)
    regions, shares = (local / CLO).tolist(), share.tolist()
    weak: list[list[int]] = weakest.tolist()
    worn = dressed.worn.tolist()
    found: list[tuple[MomentState, ...]] = []
    for row in range(len(areas)):
        names = dress.ids(row)
        here = {name: values[row] for name, values in rows.items()}
        states: list[MomentState] = []
        for column, moment in enumerate(air.moments):
            figures = {name: values[column] for name, values in here.items()}
            states.append(
                MomentState(
                    moment=moment.id,
                    kind=moment.kind,
                    day=moment.day,
                    state=_word(figures),
                    worn=tuple(compress(names, worn[row][column])),
                    regions=tuple(regions[row][column]),
                    heat_share=tuple(shares[row][column]),
                    weakest=REGIONS[weak[row][column]],
                    basis=basis[row][column],
                    **figures,
                )
            )
        found.append(tuple(states))
    return found


def _word(found: dict[str, float]) -> str:
    """Word for a state; a figure that does not exist is no reassurance, so NaN is a gap."""
    low, high, given = found["need_min"], found["need_neutral"], found["provided"]
    if not given >= low - TOLERANCE and not found["holds"]:
        return "gap"
    if found["least"] > max(found["need_soak"], high) + TOLERANCE:
        return "hot"
    return "slack" if given > high + TOLERANCE else "snug"


_BASES = (
    "ISO 11079",
    "ISO 11079 at its upper metabolic rate, 400 W/m²; the effort asked for is higher",
    "balance of ISO 11079 beyond its range (air above 10 °C): an estimate",
)


def _bases(where: cold.Exposure) -> list[list[str]]:
    """What the needs rest on, by person and moment."""
    which = np.where(where.air > 10, 2, np.where(where.metabolic_rate >= 400, 1, 0))
    return [[_BASES[each] for each in row] for row in which.tolist()]


def _idle(dress: Wardrobes, air: Air, minimal: Array, dressed: _Dressed, beds: Beds) -> Flags:
    """Pieces that close no gap by day or night when everything else is there, [P x G]."""
    floor = minimal[..., None]
    short = np.maximum(floor - dressed.fullest[..., None], 0)
    worse = np.maximum(floor - dressed.alone, 0) - short
    closes = (worse > 0.005 * CLO).any(axis=1)
    needed = dress.base | dress.always | closes | bed_needs(beds, dress)
    if bool(air.stormy.any()):
        needed = needed | dress.shell
    return ~needed
