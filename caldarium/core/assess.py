"""One function: a course in, everything that is shown out."""

from dataclasses import dataclass

import numpy as np

from caldarium.core import cold
from caldarium.core.clothing import REGION_SHARE, REGIONS, ensemble_insulation
from caldarium.core.course import Course, Person
from caldarium.core.dressing import (
    Air,
    Choice,
    Wardrobe,
    Worth,
    bag_round_shoulders,
    candidates,
    choose,
    moment_air,
    wardrobe,
    without_each,
    worth,
)
from caldarium.core.effort import body_area, resting_rate, walking_power
from caldarium.core.load import Load, person_load
from caldarium.core.moments import ACTIVITY, Moment, Timeline, build_timeline
from caldarium.core.nights import (
    Night,
    ShelterNight,
    bag_top,
    bed_needs,
    night_beds,
    shelter_nights,
)
from caldarium.core.quantities import CLO, Array
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
    what is missing to need_min; endurance [h] until the heat debt matters, infinite where none
    grows; rate [W/m²], watts [W]; regions and heat_share by region in the order of REGIONS;
    whole_sum the outfit's still-air figure from the sum of its garments [clo].
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
    wardrobes = [wardrobe(person) for person in course.people]
    areas = body_area(
        np.array([person.body_mass_kg for person in course.people]),
        np.array([person.height_m for person in course.people]),
    )
    loads = [person_load(course, person, frozenset()) for person in course.people]
    airs = [
        _person_air(person, load, float(area), awake)
        for person, load, area in zip(course.people, loads, areas, strict=True)
    ]
    where = _everywhere(airs)
    needs = {
        criterion.name: cold.required_insulation(criterion, where, enforce_range=False)
        for criterion in (cold.MINIMAL, cold.NEUTRAL, cold.SOAK)
    }
    nights = night_beds(course, timeline.moments, wardrobes, areas)
    choices = [
        _dress(course, person, dress, air, {name: values[row] for name, values in needs.items()})
        for row, (person, dress, air) in enumerate(zip(course.people, wardrobes, airs, strict=True))
    ]
    given = np.stack([choice.given for choice in choices])
    found = _Found(
        needs=needs,
        endurance=cold.duration_limited_exposure(cold.MINIMAL, given, where, enforce_range=False),
        wettedness=cold.required_wettedness(given, where),
    )
    people: list[PersonResult] = []
    for row, person in enumerate(course.people):
        states = _states(wardrobes[row], airs[row], found, row, choices[row], float(areas[row]))
        idle = _idle(
            course, person, wardrobes[row], airs[row], needs["minimal"][row], choices[row],
            nights[row],
        )  # fmt: skip
        moving = [state.worn for state in states if state.kind == "moving"]
        walking = frozenset(moving[0]) if moving else frozenset[str]()
        grams = {piece.id: piece.mass_g for piece in person.garments}
        people.append(
            PersonResult(
                person=person.id,
                moments=states,
                nights=tuple(nights[row]),
                load=person_load(course, person, walking),
                idle=idle,
                idle_grams=sum(grams[each] for each in idle),
            )
        )
    return Assessment(timeline, tuple(people), tuple(shelter_nights(course, timeline.moments)))


@dataclass(frozen=True)
class _Found:
    """Figures of all people at all moments at once, [P x M]."""

    needs: dict[str, Array]
    endurance: Array
    wettedness: Array


def _person_air(person: Person, load: Load, area: float, awake: tuple[Moment, ...]) -> Air:
    """What one person meets and makes at each waking moment."""
    rates = np.array([resting_rate(ACTIVITY.get(moment.kind, "standing")) for moment in awake])
    walks = [(index, moment.walk) for index, moment in enumerate(awake) if moment.walk is not None]
    pace = np.zeros(len(awake))
    if walks:
        rows = [index for index, _ in walks]
        pace[rows] = [walk.speed for _, walk in walks]
        carried = np.array([load.by_day[awake[index].day] for index in rows])
        rates[rows] = (
            walking_power(
                person.body_mass_kg,
                np.minimum(carried, person.body_mass_kg),
                pace[rows],
                np.array([walk.grade for _, walk in walks]),
                np.array([walk.terrain for _, walk in walks]),
            )
            / area
        )
    winds = np.array([moment.body_wind for moment in awake])
    return moment_air(awake, rates, relative_air_speed(winds, pace), pace)


def _everywhere(airs: list[Air]) -> cold.Exposure:
    """What every person meets at every moment, [P x M]."""
    names = ("air", "radiant", "air_speed", "humidity", "metabolic_rate", "walking_speed")
    return cold.Exposure(*(np.stack([getattr(air.where, name) for air in airs]) for name in names))


@dataclass(frozen=True)
class _Dressed:
    """What one person wears at each moment, and what else was weighed against it.

    given and fullest [m² K/W, M], alone the fullest without each piece [m² K/W, M x G].
    """

    choice: Choice
    given: Array
    fullest: Array
    alone: Array


def _dress(
    course: Course, person: Person, dress: Wardrobe, air: Air, need: dict[str, Array]
) -> _Dressed:
    bag = bag_round_shoulders(course, np.array(bag_top(person.bag)) if person.bag else None)
    outfits = candidates(person, dress, air)
    rungs = outfits.shape[1]
    both = worth(dress, np.concatenate([outfits, without_each(outfits)], axis=1), air, bag)
    ladder = Worth(both.regions[:, :rungs], both.whole[:, :rungs])
    choice = choose(outfits, ladder, need["minimal"], need["neutral"])
    given = ladder.whole[np.arange(len(choice.rung)), choice.rung]
    return _Dressed(choice, given, ladder.whole[:, -1], both.whole[:, rungs:])


def _states(
    dress: Wardrobe, air: Air, all_found: _Found, row: int, dressed: _Dressed, area: float
) -> tuple[MomentState, ...]:
    choice, whole = dressed.choice, dressed.given
    need = {name: values[row] for name, values in all_found.needs.items()}
    endurance, wettedness = all_found.endurance[row], all_found.wettedness[row]
    rows = np.arange(len(air.moments))
    totals = choice.worth.regions[rows, choice.rung]
    worn = choice.outfits[rows, choice.rung]
    least = choice.worth.whole[:, 0]
    bare = cold.air_layer(air.where.air_speed, air.where.walking_speed)[:, None]
    local = np.maximum(totals - bare / cold.area_factor(np.maximum(totals - bare, 0)), 0) / CLO
    loss = REGION_SHARE / totals
    share = loss / loss.sum(axis=1, keepdims=True)
    sums = ensemble_insulation(worn * dress.clo) if len(dress.garments) else np.zeros(len(rows))
    large = REGION_SHARE > 0.06
    weakest = [int(each) for each in np.argmax(share / REGION_SHARE * large, axis=1)]
    low, high, soak = ((need[name] / CLO).tolist() for name in ("minimal", "neutral", "soak"))
    given, bottom = (whole / CLO).tolist(), (least / CLO).tolist()
    hours, wet = endurance.tolist(), wettedness.tolist()
    rate, speed = air.where.metabolic_rate.tolist(), air.where.air_speed.tolist()
    regions, shares, summed = local.tolist(), share.tolist(), sums.tolist()
    names = [piece.id for piece in dress.garments]
    found: list[MomentState] = []
    for index, (moment, on) in enumerate(zip(air.moments, worn.tolist(), strict=True)):
        holds = hours[index] >= max(moment.hours, SHORTEST_HOLD)
        word = _word(low[index], high[index], soak[index], given[index], bottom[index], holds)
        found.append(
            MomentState(
                moment=moment.id,
                kind=moment.kind,
                day=moment.day,
                state=word,
                need_min=low[index],
                need_neutral=max(high[index], low[index]),
                need_soak=soak[index],
                provided=given[index],
                gap=max(low[index] - given[index], 0.0),
                endurance=hours[index],
                holds=holds,
                rate=rate[index],
                watts=rate[index] * area,
                wettedness=wet[index],
                air_speed=speed[index],
                worn=tuple(name for name, is_on in zip(names, on, strict=True) if is_on),
                regions=tuple(regions[index]),
                heat_share=tuple(shares[index]),
                weakest=REGIONS[weakest[index]],
                whole_sum=summed[index],
                least=bottom[index],
                basis=_basis(air.where, index),
            )
        )
    return tuple(found)


def _word(low: float, high: float, soak: float, given: float, least: float, holds: bool) -> str:
    """Word for a state; a figure that does not exist is no reassurance, so NaN is a gap."""
    if not given >= low - TOLERANCE and not holds:
        return "gap"
    if least > max(soak, high) + TOLERANCE:
        return "hot"
    return "slack" if given > high + TOLERANCE else "snug"


def _basis(where: cold.Exposure, index: int) -> str:
    if where.air[index] > 10:
        return "balance of ISO 11079 beyond its range (air above 10 °C): an estimate"
    if where.metabolic_rate[index] >= 400:
        return "ISO 11079 at its upper metabolic rate, 400 W/m²; the effort asked for is higher"
    return "ISO 11079"


def _idle(
    course: Course, person: Person, dress: Wardrobe, air: Air, minimal: Array, dressed: _Dressed,
    nights: list[Night],
) -> tuple[str, ...]:  # fmt: skip
    """Pieces that close no gap by day or night when everything else is there."""
    floor = minimal[:, None]
    alone, everything = dressed.alone, dressed.fullest
    worse = np.maximum(floor - alone, 0) - np.maximum(floor - everything[:, None], 0)
    closes = (worse > 0.005 * CLO).any(axis=0)
    stormy = bool(air.stormy.any())
    always = np.array([piece.always for piece in dress.garments], dtype=bool)
    needed = dress.base | always | (dress.shell & stormy)
    needed = needed | closes | bed_needs(course, dress, person, nights)
    return tuple(piece.id for piece, keep in zip(dress.garments, needed, strict=True) if not keep)
