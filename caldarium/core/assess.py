"""One function: a course in, everything that is shown out."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from itertools import compress

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.dress_days import Worn, dress_days
from caldarium.core.day.dressing import Air, Doing, bags_round_shoulders, meet
from caldarium.core.day.keeping_up import Effort, able, efforts
from caldarium.core.day.outfits import Dressed, Dressers
from caldarium.core.day.states import MomentState
from caldarium.core.day.wet_track import in_huts
from caldarium.core.load.loads import loads_at, party_loads
from caldarium.core.load.supplies import FuelVerdict, fuel_verdict
from caldarium.core.night.bedding import bags_at_hand
from caldarium.core.night.beds import Beds, Wet, lay_beds, wetted
from caldarium.core.night.camp import ShelterNight, shelter_nights
from caldarium.core.night.nights import bed_needs, night_results
from caldarium.core.night.open_nights import OpenNight, open_nights
from caldarium.core.person_result import PersonResult
from caldarium.core.physics.air import standard_pressure
from caldarium.core.physics.allowances import quiet_heat
from caldarium.core.physics.effort import (
    body_area,
    climbing_power,
    resting_rate,
    way_power,
)
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.physics.wind import relative_air_speed
from caldarium.core.plan.belief import factor
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import SKIN
from caldarium.core.plan.value import NotThereError
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes
from caldarium.core.timeline.moments import ACTIVITY, Moment, Timeline, build_timeline
from caldarium.core.waiting import absent, without_absent

CLOSES_FROM = 0.005
"""What a piece must close of a gap to count as closing it [clo]: judgement, nothing measurable."""


@dataclass(frozen=True)
class Assessment:
    """The whole result for a course; every screen, export and command reads this."""

    timeline: Timeline
    people: tuple[PersonResult, ...]
    shelters: tuple[ShelterNight, ...]
    fuel: FuelVerdict
    open_nights: tuple[OpenNight, ...] = ()

    def of(self, person: str) -> PersonResult:
        """What was found for one person.

        Raises:
            NotThereError: where nobody has that id.
        """
        for found in self.people:
            if found.person == person:
                return found
        raise NotThereError("person", person)


def assess(course: Course) -> Assessment:
    """Judge every person at every moment, every bed, every shelter and every load.

    Args:
        course: the plan.

    Returns:
        The assessment; the same course always gives the same figures to the last digit.

    Source: the modules of core, each with its own.
    """
    timeline = build_timeline(course)
    people = assess_people(course, course.people, timeline)
    return Assessment(
        timeline,
        people,
        tuple(shelter_nights(course, timeline)),
        fuel_verdict(course, timeline),
        tuple(open_nights(course, timeline)),
    )


def wet_beds(result: Assessment) -> Wet:
    """How wet everybody's pieces are when they go to bed. Source: the assessment."""
    return _wet_at_bedtime({each.person: each.moments for each in result.people})


def _wet_at_bedtime(
    states: Mapping[str, Iterable[MomentState]],
) -> dict[tuple[str, int], dict[str, float]]:
    """How wet everybody's pieces are when they go to bed, by person and day.

    Args:
        states: of each person's waking moments, in order.

    Source: the evening in camp of core.day.
    """
    return {
        (person, state.day): state.wet
        for person, moments in states.items()
        for state in moments
        if state.kind == "camp"
    }


def assess_people(
    course: Course, people: tuple[Person, ...], timeline: Timeline
) -> tuple[PersonResult, ...]:
    """Judge some people of a course, see judge. Source: the modules of core, each with its own."""
    return judge(course, people, timeline)[0] if people else ()


def judge(
    course: Course, people: tuple[Person, ...], timeline: Timeline, before: Worn | None = None
) -> tuple[tuple[PersonResult, ...], Worn]:
    """Judge some people of a course; what one wears and carries changes nothing for another.

    Args:
        course: the plan.
        people: of the course, one or more.
        timeline: of the course.
        before: what these or others wore in a plan before this one; what is still so is kept.

    Returns:
        What was found for each, and what they wear.

    Source: the modules of core, each with its own.
    """
    awake = tuple(moment for moment in timeline.moments if moment.kind != "night")
    dress = wardrobes(people, before.dressed.worn.shape[2] if before else 0)
    areas = body_area(
        np.array([person.body_mass_kg for person in people]),
        np.array([person.height_m for person in people]),
    )
    beds = lay_beds(course, people, timeline, dress)
    air, tried = met(course, people, areas, timeline, awake)
    certain = _certain(dress, air, beds)
    doubted = _places(~certain, before.who.doubted.shape[1] if before else 0)
    in_bed = worn_in_bed(course, beds, dress)
    huts = in_huts(course, people)
    who = Dressers(people, course.allowances, in_bed, areas[:, None], doubted, huts)
    lived = dress_days(who, dress, air, before)
    dressed, states = lived.dressed, lived.states
    worse = _worse_without(dressed)
    idle = ~certain & ~_closing(dress, dressed, doubted, worse)
    # By place, as variants of one person bear one id.
    wet = _wet_at_bedtime({str(row): each for row, each in enumerate(states)})
    if any(wet.values()):
        placed = [each.model_copy(update={"id": str(row)}) for row, each in enumerate(people)]
        beds = wetted(beds, placed, dress, wet)
    nights = night_results(beds, people, areas)
    grams = np.array(
        [
            [piece.mass_g for piece in row] + [0.0] * (dress.places - len(row))
            for row in dress.garments
        ]
    ).reshape(len(people), dress.places)
    worn_g = np.matmul(dressed.worn, grams[..., None])[..., 0]
    loads = party_loads(course, people, timeline, worn_g, awake)
    found: list[PersonResult] = []
    for row, person in enumerate(people):
        unused = compress(dress.garments[row], idle[row].tolist())
        found.append(
            PersonResult(
                person=person.id,
                moments=states[row],
                nights=nights[row],
                load=loads[row],
                doubted=tuple(piece.id for piece in unused),
                efforts=tried[row],
                closes=_closes_where(dress.ids(row), doubted[row], worse[row], awake),
            )
        )
        gone = absent(person, timeline)
        if any(gone.values()):
            found[row] = _with_what_is_there(course, person, timeline, awake, found[row], gone)
    return tuple(found), lived


def _with_what_is_there(
    course: Course,
    person: Person,
    timeline: Timeline,
    awake: tuple[Moment, ...],
    found: PersonResult,
    gone: dict[str, frozenset[str]],
) -> PersonResult:
    """What was found for somebody some of whose clothes wait on the way, without them while they
    are away."""
    there = without_absent(
        person, found, gone, lambda variants: assess_people(course, variants, timeline)
    )
    mass = {piece.id: piece.mass_g for piece in person.garments}
    worn = np.array([[sum(mass[name] for name in state.worn) for state in there.moments]])
    load = party_loads(course, (person,), timeline, worn.reshape(1, len(awake)), awake)[0]
    return replace(there, load=load)


def met(
    course: Course,
    people: tuple[Person, ...],
    areas: Array,
    timeline: Timeline,
    awake: tuple[Moment, ...],
) -> tuple[Air, list[tuple[Effort, ...]]]:
    """What people meet and make at each waking moment, and how hard walks are for them.

    Args:
        course, people, timeline: the plan.
        areas: body surface of the people [m²].
        awake: the M waking moments.

    Returns:
        The air, pieces dry, and the efforts by person. Source: core.physics.

    Nobody makes more heat than they can keep up; whoever cannot walks slower, and colder.
    """
    tried: list[tuple[Effort, ...]] = [()] * len(people)
    kinds = [resting_rate(ACTIVITY.get(moment.kind, "standing")) for moment in awake]
    quiet = np.array(kinds) * quiet_heat(course.allowances, _hours_walked(awake))
    rates = np.tile(quiet, (len(people), 1))
    work, slowed, pace = np.zeros(rates.shape), np.ones(rates.shape), np.zeros(len(awake))
    walks = [(column, moment.walk) for column, moment in enumerate(awake) if moment.walk]
    if walks:
        columns = [column for column, _ in walks]
        pace[columns] = [walk.speed for _, walk in walks]
        mass = np.array([[person.body_mass_kg] for person in people])
        times = np.array([awake[each].start for each in columns])
        carried = loads_at(course, people, timeline, times)
        slope = np.array([walk.slope for _, walk in walks])
        terrain = np.array([walk.terrain for _, walk in walks])
        climbing = np.array([walk.climbing for _, walk in walks])
        speed, load = pace[columns], np.minimum(carried, mass)
        own = np.array([[factor(person.walks)] for person in people])
        takes = way_power(mass, load, speed, slope, terrain, climbing) * own
        walked = [awake[column] for column in columns]
        keeps = able(course, people, walked)
        tried = efforts(people, walked, takes, keeps, carried)
        rates[:, columns] = takes / areas[:, None]
        # Who makes more heat on the same way lifts no more.
        lifted = climbing_power(mass + load, speed, slope) * (2 * climbing - 1)
        work[:, columns] = lifted / areas[:, None]
        slowed[:, columns] = np.minimum(keeps / takes, 1.0)
    winds = np.array([moment.body_wind for moment in awake])
    heights = np.array([moment.altitude for moment in awake])
    thin = standard_pressure(heights) / standard_pressure(0.0)
    bags = bags_round_shoulders(course, people, bags_at_hand(people, awake), awake)
    thin = np.nan_to_num(thin, nan=1.0)
    warm_winds = np.array([moment.warm.wind for moment in awake])
    speed, warm_speed = (relative_air_speed(each, pace) * thin for each in (winds, warm_winds))
    doing = Doing(rates * slowed, work * slowed, speed, rates, work, warm_speed, pace)
    return meet(awake, doing, bags), tried


def _hours_walked(awake: tuple[Moment, ...]) -> Array:
    """Hours walked before each moment on its day [h]."""
    found: list[float] = []
    walked, day = 0.0, -1
    for moment in awake:
        if moment.day != day:
            walked, day = 0.0, moment.day
        found.append(walked)
        walked += moment.hours if moment.walk else 0.0
    return np.array(found)


def worn_in_bed(course: Course, beds: Beds, dress: Wardrobes) -> Flags:
    """Pieces that are in bed, and dry there, [P x G]. Source: none, bookkeeping."""
    next_to_skin = dress.layer == SKIN
    return beds.clothes | (next_to_skin & course.clothes_in_bed)


def _certain(dress: Wardrobes, air: Air, beds: Beds) -> Flags:
    """Pieces that are needed whatever the gaps: base, all day, shells, and by the bed [P x G]."""
    needed = dress.base | dress.always | bed_needs(beds, dress) | (dress.layer < 0)
    if bool(air.wet_through.any()):
        needed = needed | dress.shell
    return needed | dress.windshell if bool(air.stormy.any()) else needed


def _places(flags: Flags, at_least: int) -> NDArray[np.intp]:
    """Places of the flagged pieces, and of some others where a person has fewer [P x R]."""
    most = max(int(flags.sum(axis=1).max(initial=0)), at_least)
    return np.argsort(~flags, axis=1, kind="stable")[:, :most]


def _worse_without(dressed: Dressed) -> Array:
    """How much larger gaps are without each of the pieces in doubt, when everything else is there
    [m² K/W, P x M x R]."""
    floor = dressed.needs.held[..., None]
    short = np.maximum(floor - dressed.fullest[..., None], 0)
    return np.maximum(floor - dressed.alone, 0) - short


def _closes_where(
    names: list[str], places: NDArray[np.intp], worse: Array, awake: tuple[Moment, ...]
) -> dict[str, tuple[str, float]]:
    """Where each of one person's pieces in doubt closes most, and how much [clo]."""
    if not awake or not worse.size:
        return {}
    where: list[int] = worse.argmax(axis=0).tolist()
    most: list[float] = (worse.max(axis=0) / CLO).tolist()
    return {
        names[place]: (awake[where[at]].id, most[at])
        for at, place in enumerate(places.tolist())
        if place < len(names) and most[at] > CLOSES_FROM
    }


def _closing(dress: Wardrobes, dressed: Dressed, doubted: NDArray[np.intp], worse: Array) -> Flags:
    """Of the pieces in doubt, those that close a gap by day when everything else is there [P x G].

    Gloves count by what fingers need: those never put on are idle.
    """
    closes = np.zeros(dress.clo.shape, dtype=bool)
    np.put_along_axis(closes, doubted, (worse > CLOSES_FROM * CLO).any(axis=1), axis=1)
    return closes | (dress.handwear & dressed.worn.any(axis=1))
