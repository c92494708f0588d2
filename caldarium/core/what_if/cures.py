"""What would close a gap: single pieces added, ranked, and the same cure for several people."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from caldarium.core.assess import Assessment
from caldarium.core.day.digits import body_of, fingers
from caldarium.core.day.dressing import (
    Air,
    Needs,
    needed,
    worth,
)
from caldarium.core.day.states import TOLERANCE, MomentState
from caldarium.core.physics import cold
from caldarium.core.physics.clothing import REGION_SHARE, REGIONS
from caldarium.core.physics.extremities import WORKS
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import regions_covered
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.cells import cell_air, fullest_of, with_pieces, worn_then

LEAST_WORTH = 0.02
"""Pieces that close less than this are not named [clo]: judgement."""
COLDEST, WINDIEST = -60.0, 30.0
"""How far a breaking point is searched [°C, m/s at the body]."""


@dataclass(frozen=True)
class Addition:
    """A piece added on top of everything: the region it is mostly for, what the outfit is worth
    with it and what of that it adds [clo], and the degrees that buys for each 100 g [K]."""

    piece: Garment
    region: str
    whole: float
    adds: float
    degrees_a_100g: float


@dataclass(frozen=True)
class Cure:
    """A piece added: what it closes and what stays [clo], and degrees bought for each 100 g [K]."""

    piece: Garment
    region: str
    closes: float
    left: float
    degrees_a_100g: float

    @property
    def whole(self) -> bool:
        """Whether it closes the gap. Source: none, bookkeeping."""
        return self.left <= TOLERANCE


@dataclass(frozen=True)
class SharedCure:
    """One piece that helps several people at a moment: whom it cures, and whom it helps."""

    piece: Garment
    cured: tuple[str, ...]
    helped: tuple[str, ...]
    closes: float


@dataclass(frozen=True)
class GapMoment:
    """A moment at which people have gaps: who, the largest [clo], the region most are weak in."""

    moment: str
    people: tuple[str, ...]
    largest: float
    region: str
    weak_there: int


def additions(
    course: Course, person: Person, moment: Moment, state: MomentState, pieces: Iterable[Garment]
) -> list[Addition]:
    """What each single piece added would buy at a moment, most degrees for its mass first.

    Args:
        course: for its rules.
        person, moment, state: where and by whom.
        pieces: what could be added; kinds already carried, or without a place, are passed over.

    Source: core.day.dressing with the piece added and everything on; degrees by the slope of ISO
        11079's need over temperature.
    """
    added = [piece for piece in pieces if _has_place(person, piece)]
    variants = [person, *(with_pieces(person, piece) for piece in added)]
    whole = fullest_of(course, moment, variants, [state] * len(variants))
    slope = need_slope(course, person, moment, state)
    before = float(whole[0])
    found = [
        Addition(
            piece,
            _mostly_for(piece),
            value,
            value - before,
            (value - before) / slope / max(piece.mass_g, 1.0) * 100,
        )
        for piece, value in zip(added, whole[1:].tolist(), strict=True)
    ]
    return sorted(found, key=lambda each: -each.degrees_a_100g)


def best_by_region(found: Iterable[Addition], each_region: int = 2) -> list[Addition]:
    """The best additions of every region, in the order of REGIONS. Source: additions."""
    listed: dict[str, list[Addition]] = {region: [] for region in REGIONS}
    for each in found:
        if each.adds >= LEAST_WORTH:
            listed[each.region].append(each)
    return [each for region in REGIONS for each in listed[region][:each_region]]


def _mostly_for(piece: Garment) -> str:
    """The region that holds most of a piece."""
    parts = (piece.cover.get(region, 0.0) for region in REGIONS)
    held = [part * share for part, share in zip(parts, REGION_SHARE.tolist(), strict=True)]
    return REGIONS[held.index(max(held))]


def cures(found: Iterable[Addition], state: MomentState) -> list[Cure]:
    """The additions that would close a gap at a moment, best first.

    Args:
        found: from additions at that moment.
        state: the gap.

    Returns:
        Those that close it whole come first, lightest first; then the others by what they close
        for their mass.

    Source: additions.
    """
    helpful: list[Cure] = []
    for each in found:
        closes = min(each.whole, state.need_min) - min(each.whole - each.adds, state.need_min)
        if closes >= LEAST_WORTH:
            left = max(state.need_min - each.whole, 0.0)
            helpful.append(Cure(each.piece, each.region, closes, left, each.degrees_a_100g))
    return sorted(
        helpful,
        key=lambda each: (
            not each.whole,
            each.piece.mass_g if each.whole else -each.closes / max(each.piece.mass_g, 1.0),
        ),
    )


@dataclass(frozen=True)
class GloveCure:
    """Handwear added to all that is carried: minutes that warm fingers then work, and work now."""

    piece: Garment
    works_for: float
    now: float


def glove_cures(
    course: Course, person: Person, moment: Moment, state: MomentState, pieces: Iterable[Garment]
) -> list[GloveCure]:
    """Handwear that would keep fingers working longer at a moment, longest first, then lightest.

    Args:
        course: for its allowances.
        person, moment, state: where and by whom.
        pieces: what could be added; kinds already carried, or without a place, are passed over.

    Source: core.day.digits with all handwear on, from warm fingers.
    """
    added = [
        piece
        for piece in pieces
        if regions_covered(piece) == {"hands"} and _has_place(person, piece)
    ]
    variants = [person, *(with_pieces(person, piece) for piece in added)]
    dress = wardrobes(variants)
    states = [state] * len(variants)
    air = cell_air(course, moment, variants, states, dress)
    needs = Needs(
        *(
            np.full((len(variants), 1), each * CLO)
            for each in (state.need_min, state.need_steady, state.need_neutral, state.need_soak)
        )
    )
    whole = np.full((len(variants), 1), state.provided * CLO)
    body = body_of(air, whole, needs, course.allowances)
    worn = worn_then(dress, states) | dress.handwear[:, None]
    minutes = fingers(dress, worn[:, :, None], air, body).until(WORKS)[:, 0, 0].tolist()
    found = [
        GloveCure(piece, works_for, minutes[0])
        for piece, works_for in zip(added, minutes[1:], strict=True)
        if works_for > minutes[0] + 1
    ]
    return sorted(found, key=lambda each: (-each.works_for, each.piece.mass_g))


def _has_place(person: Person, piece: Garment) -> bool:
    """Whether a piece could be worn awake and is not carried yet; of pieces that take each other's
    place the better is worn."""
    return not piece.only_asleep and all(each.id != piece.id for each in person.garments)


def need_slope(course: Course, person: Person, moment: Moment, state: MomentState) -> float:
    """Growth of the minimal need for each kelvin colder [clo/K]. Source: ISO 11079:2007."""
    where = cell_air(course, moment, (person,), (state,), wardrobes((person,))).where
    steps = np.array([[0.0, -1.0]])
    colder = cold.Exposure(
        where.air + steps,
        where.radiant + steps,
        *(
            np.broadcast_to(part, (1, 2))
            for part in (
                where.air_speed,
                where.humidity,
                where.metabolic_rate,
                where.walking_speed,
                where.work,
            )
        ),
    )
    need = needed(colder, np.array(moment.by_clothing)).held[0] / CLO
    return max(float(need[1] - need[0]), 1e-3)


def gap_moments(result: Assessment) -> list[GapMoment]:
    """Moments with gaps, the one with most people first, then the largest gap.

    Source: figures of the assessment.
    """
    listed: dict[str, list[tuple[str, MomentState]]] = {}
    for person in result.people:
        for state in person.moments:
            if state.state == "gap":
                listed.setdefault(state.moment, []).append((person.person, state))
    found: list[GapMoment] = []
    for moment, entries in listed.items():
        regions = [state.weakest for _, state in entries]
        region = max(sorted(set(regions)), key=regions.count)
        found.append(
            GapMoment(
                moment,
                tuple(person for person, _ in entries),
                max(state.gap for _, state in entries),
                region,
                regions.count(region),
            )
        )
    return sorted(found, key=lambda each: (-len(each.people), -each.largest))


def people_by_gaps(result: Assessment) -> list[str]:
    """Everybody, whoever is short most in all first. Source: figures of the assessment."""
    short = {
        person.person: sum(state.gap for state in person.moments if state.state == "gap")
        for person in result.people
    }
    return sorted(short, key=lambda person: -short[person])


def shared_cures(
    course: Course, result: Assessment, moment: Moment, pieces: Sequence[Garment]
) -> list[SharedCure]:
    """Single pieces that would help several people at one moment, found once for all.

    Args:
        course: the plan.
        result: its assessment.
        moment: where the gaps are.
        pieces: what could be added.

    Returns:
        By people cured, then by what is closed in all.

    Source: cures.
    """
    states = {
        person.person: next((s for s in person.moments if s.moment == moment.id), None)
        for person in result.people
    }
    listed: dict[str, list[tuple[str, Cure]]] = {}
    for person in course.people:
        state = states.get(person.id)
        if state is not None and state.state == "gap":
            for cure in cures(additions(course, person, moment, state, pieces), state):
                listed.setdefault(cure.piece.id, []).append((person.id, cure))
    found = [
        SharedCure(
            entries[0][1].piece,
            tuple(person for person, cure in entries if cure.whole),
            tuple(person for person, cure in entries if not cure.whole),
            sum(cure.closes for _, cure in entries),
        )
        for entries in listed.values()
    ]
    return sorted(found, key=lambda each: (-len(each.cured), -each.closes, each.piece.mass_g))


@dataclass(frozen=True)
class Breaking:
    """Where an outfit breaks: air temperature in this wind [°C], wind in this cold [m/s at the
    body]; None where it never does within the search, NaN where it is broken already."""

    air: float | None
    wind: float | None


def breaking_point(course: Course, person: Person, moment: Moment, state: MomentState) -> Breaking:
    """How much colder, or windier, it may get before what is worn here is a gap.

    Args:
        course: for its rules.
        person, moment, state: the outfit looked at; it stays as it is.

    Returns:
        The breaking point, to 0.25 K and 0.25 m/s.

    Source: the state rule of core.assess on a grid of temperatures and winds.
    """
    if state.state == "gap":
        return Breaking(float("nan"), float("nan"))
    dress = wardrobes((person,))
    here = cell_air(course, moment, (person,), (state,), dress)
    base = float(here.where.air[0, 0])
    airs = np.arange(base, COLDEST, -0.25)
    winds = np.arange(float(here.where.air_speed[0, 0]), WINDIEST, 0.25)
    worn = worn_then(dress, (state,))
    colder = _broken(dress, worn, moment, here, airs, np.full(len(airs), winds[0]))
    windier = _broken(dress, worn, moment, here, np.full(len(winds), base), winds)
    return Breaking(_first(airs, colder), _first(winds, windier))


def _first(values: Array, broken: Flags) -> float | None:
    at = np.flatnonzero(broken)
    return float(values[at[0]]) if len(at) else None


def _broken(
    dress: Wardrobes, worn: Flags, moment: Moment, here: Air, airs: Array, winds: Array
) -> Flags:
    count = len(airs)
    dress = dress.take(np.zeros(count, dtype=int))
    outfits = np.broadcast_to(worn[:, :, None], (count, 1, 1, dress.places))

    def column(part: Array) -> Array:
        return np.full((count, 1), float(part[0, 0]))

    where = here.where
    met = cold.Exposure(
        airs[:, None],
        airs[:, None] + moment.sun,
        np.clip(winds, 0.4, 18)[:, None],
        column(where.humidity),
        column(where.metabolic_rate),
        column(where.walking_speed),
        column(where.work),
    )
    air = Air(
        (),
        met,
        met,
        np.broadcast_to(here.wet, (count, 1, dress.places)),
        column(here.bag),
        here.stormy,
        here.wet_through,
        here.at_camp,
    )
    whole = worth(dress, outfits, air).whole[:, :, 0]
    need = needed(air.where, np.array(moment.by_clothing)).held
    return (~(whole / CLO >= need / CLO - TOLERANCE))[:, 0]
