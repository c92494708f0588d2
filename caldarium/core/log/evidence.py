"""What a log says as evidence: nights and lifts, walks, halts and ways."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import inf, log, sqrt

from caldarium.core.assess import assess_people
from caldarium.core.log.as_it_was import Lived, Slopes, slopes
from caldarium.core.log.beliefs import Kind, about, believed
from caldarium.core.log.diary import Diary, leader_of
from caldarium.core.log.updating import Evidence, Unknown
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.legs import stages
from caldarium.core.plan.log import Felt

FELT_NIGHT: dict[Felt, tuple[float, float]] = {
    "cold": (-inf, -3.0),
    "cool": (-3.0, 0.0),
    "right": (0.0, inf),
    "warm": (4.0, inf),
    "hot": (8.0, inf),
}
"""What a bed had to spare, where somebody slept so [K]: judgement. Who is right may have opened the
bag, so that there is no upper end to it; warm is who had to."""
NIGHT_SD = 2.0
"""How far the same sleeper in the same bed differs from night to night, by food, fatigue and wind
[K]: judgement."""
ODD_NIGHT = 0.25
"""Share of nights that say nothing of the bed: judgement. With it one night alone moves nothing by
more than its own doubt."""
LIFT_SD, ODD_LIFT = 0.7, 0.1
"""Of a night's mean lift by two thermometers [K]: judgement."""
ODD_MOMENT = 0.25
HALT_LOG_SD, WAY_LOG_SD, ODD_TIME = 0.35, 0.15, 0.1
"""Of one halt's and one way's length over the usual, as logarithms: judgement."""
STEP_WALK = 0.1


@dataclass(frozen=True)
class NightEvidence:
    """One night that teaches: whose, of which day, how it felt, what the bed had to spare by the
    model [K], and whether the air was measured."""

    person: str
    day: int
    felt: Felt
    margin: float
    measured: bool


@dataclass(frozen=True)
class MomentEvidence:
    """One walk that teaches: whose, which moment, how it felt, and what was worn over what holds
    [clo]."""

    person: str
    moment: str
    felt: Felt
    margin: float


@dataclass(frozen=True)
class LiftEvidence:
    """How much warmer it was in a shelter than outside in a night, measured and computed [K]."""

    shelter: str
    day: int
    measured: float
    computed: float


@dataclass(frozen=True)
class TimeEvidence:
    """Halts of a moment, or a leg of a day, over what was planned [both h]."""

    leader: str
    day: int
    where: str
    took: float
    planned: float


Piece = NightEvidence | MomentEvidence | LiftEvidence | TimeEvidence


Said = tuple[list[Evidence], list[tuple[Unknown, Piece]]]
"""Evidence, and what it rests on by what it is about."""


def when(piece: Piece) -> tuple[object, ...]:
    """The night or moment that a piece of evidence is of. Source: none, bookkeeping."""
    match piece:
        case NightEvidence() | LiftEvidence():
            return (piece.day,)
        case MomentEvidence():
            return (piece.moment,)
        case TimeEvidence():
            return (piece.day, piece.where)


def of_beds(was: Lived, diary: Diary, by_night: Mapping[tuple[str, int], Slopes]) -> Said:
    """Nights that somebody told of, and lifts that were measured.

    Source: margins of the night's model, moved by its own slopes.
    """
    evidence: list[Evidence] = []
    pieces: list[tuple[Unknown, Piece]] = []
    for (who, day), bed in by_night.items():
        felt = diary.night(who, day)
        assert felt is not None
        person = was.course.person(who)
        weights: dict[Unknown, float] = {about("sleep", who): bed.by_index}
        there = person.bed_on(day)
        lay = diary.lay.get((who, day))
        if there.bag is not None:
            weights[about("bag", f"{who}:{there.bag.id}")] = bed.by_bag
        for pad, slope in bed.by_pads.items():
            weights[about("pad", f"{who}:{pad}")] = slope
        shelter = person.on_night(day).shelter if lay is None or not lay.moved else lay.shelter
        if shelter is not None and bed.lift > 0 and _there(was.course, shelter):
            tent = about("tent", shelter)
            weights[tent] = bed.lift / believed(was.course, tent).mean * (1 - bed.aired)
        weights = {name: slope for name, slope in weights.items() if abs(slope) > 1e-3}
        if not weights:
            continue
        at = sum(slope * believed(was.course, name).mean for name, slope in weights.items())
        low, high = FELT_NIGHT[felt]
        known = was.low(day) is not None
        sd = NIGHT_SD if known else sqrt(NIGHT_SD**2 + was.spreads[day] ** 2)
        shift = at - bed.margin
        evidence.append(Evidence(weights, low + shift, high + shift, sd, ODD_NIGHT))
        piece = NightEvidence(who, day, felt, bed.margin, known)
        pieces += [(name, piece) for name in weights]
    for day, each in was.measured.items():
        for shelter, lift in each.lifts.items():
            computed = _lift_of(was, by_night, shelter, day)
            if computed is None or computed <= 0.1:
                continue
            tent = about("tent", shelter)
            weights = {tent: computed / believed(was.course, tent).mean}
            evidence.append(Evidence(weights, lift, lift, LIFT_SD, ODD_LIFT))
            pieces.append((tent, LiftEvidence(shelter, day, lift, computed)))
    return evidence, pieces


def _there(course: Course, shelter: str) -> bool:
    return any(each.id == shelter for each in course.shelters)


def _lift_of(
    was: Lived, by_night: Mapping[tuple[str, int], Slopes], shelter: str, day: int
) -> float | None:
    """The mean lift computed for a shelter in a night [K]; None where nobody slept in it."""
    if not _there(was.course, shelter):
        return None
    for person in was.course.people:
        if person.on_night(day).shelter == shelter and (person.id, day) in by_night:
            return by_night[person.id, day].mean_lift
    slept = [each for each in was.course.people if each.on_night(day).shelter == shelter]
    found = slopes(was, Diary(), [(slept[0], day)]) if slept else {}
    return next((each.mean_lift for each in found.values()), None)


def of_walks(was: Lived, diary: Diary) -> Said:
    """Walks that somebody told of, as evidence of the heat that they make.

    Source: needs of the day's model, moved by a tenth more heat.
    """
    told = [
        (person.id, moment)
        for person in was.course.people
        for moment in was.result.timeline.moments
        if moment.kind == "moving" and diary.moment(person.id, moment) is not None
    ]
    if not told:
        return [], []
    worn = was.worn
    hotter = {
        found.person: {each.moment: each for each in found.moments}
        for found in assess_people(
            worn,
            tuple(_hotter(worn, worn.person(who)) for who in dict.fromkeys(w for w, _ in told)),
            was.result.timeline,
        )
    }
    evidence: list[Evidence] = []
    pieces: list[tuple[Unknown, Piece]] = []
    for who, moment in told:
        felt = diary.moment(who, moment)
        assert felt is not None
        state, other = was.worn_at(who, moment.id), hotter[who][moment.id]
        slope = (state.need_min - other.need_min) / STEP_WALK
        margin = state.provided - state.need_min
        room = max(state.need_neutral - state.need_min, 0.0)
        hot = max(room + state.provided - state.opened, room / 2 + 0.05)
        low, high = {
            "cold": (-inf, 0.0),
            "cool": (0.0, room / 2),
            "right": (room / 2, hot),
            "warm": (hot, inf),
            "hot": (hot, inf),
        }[felt]
        if slope <= 1e-3 or not state.spread > 0:
            continue
        walk = about("walk", who)
        shift = slope * believed(worn, walk).mean - margin
        evidence.append(
            Evidence({walk: slope}, low + shift, high + shift, state.spread, ODD_MOMENT)
        )
        pieces.append((walk, MomentEvidence(who, moment.id, felt, margin)))
    return evidence, pieces


def _hotter(course: Course, person: Person) -> Person:
    """Somebody who makes more heat in walking."""
    mean = believed(course, about("walk", person.id)).mean
    return person.model_copy(update={"walks": Belief(mean=mean + STEP_WALK, sd=1)})


def of_times(was: Lived, diary: Diary) -> Said:
    """Halts and ways by whoever led; those of a day of which all was said to be as planned too.

    Source: the diary against the plan.
    """
    evidence: list[Evidence] = []
    pieces: list[tuple[Unknown, Piece]] = []
    course, timeline = was.course, was.result.timeline

    def put(kind: Kind, sd: float, piece: TimeEvidence) -> None:
        name, seen = about(kind, piece.leader), log(piece.took / piece.planned)
        evidence.append(Evidence({name: 1.0}, seen, seen, sd, ODD_TIME))
        pieces.append((name, piece))

    for day, (each, start) in enumerate(zip(course.days, course.starts, strict=True)):
        leader = leader_of(course, diary, day)
        planned_day = (day, "evening") in diary.right
        if not leader:
            continue
        for stage in stages(each, start):
            planned = stage.end - stage.start
            took = diary.went.get((day, stage.leg.id), planned if planned_day else None)
            if stage.walk is not None and took is not None and planned > 0:
                put("pace", WAY_LOG_SD, TimeEvidence(leader, day, stage.leg.id, took, planned))
        for moment in timeline.moments:
            if moment.day != day or moment.kind != "halt" or moment.hours <= 0:
                continue
            told = diary.halted.get(moment.id)
            took = told / 60 if told is not None else moment.hours if planned_day else None
            if took is not None:
                put("halts", HALT_LOG_SD, TimeEvidence(leader, day, moment.id, took, moment.hours))
    return evidence, pieces
