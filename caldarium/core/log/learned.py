"""What a log teaches of people, bags, pads, shelters, halts and paces, and how surely."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import exp, inf, log, sqrt
from typing import Literal

from caldarium.core.assess import assess_people
from caldarium.core.day.how_sure import Sure, how_sure
from caldarium.core.log.as_it_was import Lived, Slopes, as_worn, lived, slopes
from caldarium.core.log.beliefs import Kind, about, believed, parted, where_there, with_belief
from caldarium.core.log.diary import Diary, diary_of, leader_of
from caldarium.core.log.readings import Measured
from caldarium.core.log.updating import Evidence, Unknown, learn
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.legs import stages
from caldarium.core.plan.log import Felt, Log

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


def _when(piece: Piece) -> tuple[object, ...]:
    match piece:
        case NightEvidence() | LiftEvidence():
            return (piece.day,)
        case MomentEvidence():
            return (piece.moment,)
        case TimeEvidence():
            return (piece.day, piece.where)


Stand = Literal["new", "in force", "refused", "more since"]
"""Never decided; taken and as it was taken; refused as it is; taken or refused before, and other
since."""


@dataclass(frozen=True)
class Taught:
    """What was learned of one thing: before and after, the evidence it rests on, how sure it is
    that it lies on its side of what was believed, and where it stands with the user."""

    about: str
    kind: Kind
    before: Belief
    after: Belief
    evidence: tuple[Piece, ...]
    stand: Stand

    @property
    def sure(self) -> Sure:
        """How sure it is that the change has the right sign. Source: core.day.how_sure."""
        return how_sure(self.after.mean - self.before.mean, self.after.sd)

    @property
    def times(self) -> int:
        """Nights or moments that speak of it, however many of whom. Source: none, bookkeeping."""
        return len({_when(each) for each in self.evidence})


@dataclass(frozen=True)
class Teaching:
    """Everything learned of a course, the evidence of its beds, the course as it was, and its
    nights' figures."""

    taught: tuple[Taught, ...]
    beds: tuple[Evidence, ...]
    lived: Lived
    nights: Mapping[tuple[str, int], Slopes]
    diary: Diary

    def of(self, name: str) -> Taught | None:
        """What was learned of one thing. Source: none, bookkeeping."""
        return next((each for each in self.taught if each.about == name), None)


def before_log(course: Course, diary: Diary) -> Course:
    """A course as it believed before its own log was taken into it, so that nothing counts twice.

    Source: none, bookkeeping.
    """
    for name in where_there(course, list(diary.decided)):
        taken = [each for each in diary.decided[name] if each.taken]
        if any(_same(each.after, believed(course, name)) for each in taken):
            course = with_belief(course, name, taken[0].before)
    return course


def _same(one: Belief, other: Belief) -> bool:
    return abs(one.mean - other.mean) < 1e-6 and abs(one.sd - other.sd) < 1e-6


def teach(course: Course, told: Log) -> Teaching:
    """What a log teaches.

    Args:
        course: the plan as it stands.
        told: its thermometers and diary.

    Returns:
        What was learned, by kind and in the order of people and shelters; only of what something
        was said of.

    Source: core.log.updating, with the spreads named here; nights that share a person, a bag, a pad
        or a shelter are solved together. In any order the same.
    """
    diary = diary_of(told.entries)
    prior = before_log(course, diary)
    was = lived(prior, told.thermometers)
    measured = was.measured
    nights = [
        (person, night.day)
        for person in prior.people
        for night in was.timeline.moments
        if night.kind == "night" and diary.night(person.id, night.day) is not None
    ]
    by_night = slopes(was, diary, nights)
    beds, bed_pieces = _of_beds(was, diary, by_night, measured)
    walks, walk_pieces = _of_walks(was, diary)
    times, time_pieces = _of_times(was, diary)
    pieces: dict[str, list[Piece]] = {}
    for name, piece in (*bed_pieces, *walk_pieces, *time_pieces):
        pieces.setdefault(name, []).append(piece)
    after = _after(was.course, (*beds, *walks)) | _after_logs(was.course, times)
    taught = [
        Taught(
            name,
            parted(name)[0],
            believed(was.course, name),
            belief,
            tuple(pieces.get(name, ())),
            _stand(course, diary, name, belief),
        )
        for name, belief in after.items()
        if pieces.get(name)
    ]
    return Teaching(tuple(taught), tuple(beds), was, by_night, diary)


def _stand(course: Course, diary: Diary, name: str, after: Belief) -> Stand:
    rows = diary.decided.get(name, ())
    if not rows:
        return "new"
    last = rows[-1]
    now = believed(course, name)
    if last.taken and not _same(now, last.after):
        # Undone, or changed by hand since.
        return "new"
    if not _same(last.after, after):
        return "more since"
    return "in force" if last.taken else "refused"


def _after(course: Course, evidence: Sequence[Evidence]) -> dict[str, Belief]:
    """Beliefs after evidence of sums of them."""
    names = dict.fromkeys(unknown for each in evidence for unknown in each.weights)
    prior = {unknown: believed(course, about(_kind(unknown), unknown[1])) for unknown in names}
    return {
        about(_kind(unknown), unknown[1]): belief
        for unknown, belief in learn(prior, evidence).items()
    }


def _kind(unknown: Unknown) -> Kind:
    return parted(f"{unknown[0]} {unknown[1]}")[0]


def _of_beds(
    was: Lived,
    diary: Diary,
    by_night: Mapping[tuple[str, int], Slopes],
    measured: Mapping[int, Measured],
) -> tuple[list[Evidence], list[tuple[str, Piece]]]:
    """Nights that somebody told of, and lifts that were measured."""
    evidence: list[Evidence] = []
    pieces: list[tuple[str, Piece]] = []
    forecast_sd = low_spread(was.course)
    for (who, day), bed in by_night.items():
        felt = diary.night(who, day)
        assert felt is not None
        person = was.course.person(who)
        weights: dict[Unknown, float] = {("sleep", who): bed.by_index}
        there = person.bed_on(day)
        lay = diary.lay.get((who, day))
        if there.bag is not None:
            weights["bag", f"{who}:{there.bag.id}"] = bed.by_bag
        for pad, slope in bed.by_pads.items():
            weights["pad", f"{who}:{pad}"] = slope
        shelter = person.on_night(day).shelter if lay is None or not lay.moved else lay.shelter
        if shelter is not None and bed.lift > 0 and _there(was.course, shelter):
            unit = bed.lift / believed(was.course, about("tent", shelter)).mean
            weights["tent", shelter] = unit * (1 - bed.aired)
        weights = {unknown: slope for unknown, slope in weights.items() if abs(slope) > 1e-3}
        if not weights:
            continue
        at = sum(
            slope * believed(was.course, about(_kind(unknown), unknown[1])).mean
            for unknown, slope in weights.items()
        )
        low, high = FELT_NIGHT[felt]
        known = measured.get(day) is not None and measured[day].low is not None
        sd = NIGHT_SD if known else sqrt(NIGHT_SD**2 + forecast_sd**2)
        shift = at - bed.margin
        evidence.append(Evidence(weights, low + shift, high + shift, sd, ODD_NIGHT))
        piece = NightEvidence(who, day, felt, bed.margin, known)
        pieces += [(about(_kind(unknown), unknown[1]), piece) for unknown in weights]
    for day, each in measured.items():
        for shelter, lift in each.lifts.items():
            computed = _lift_of(was, by_night, shelter, day)
            if computed is None or computed <= 0.1:
                continue
            unit = computed / believed(was.course, about("tent", shelter)).mean
            weights = {("tent", shelter): unit}
            evidence.append(Evidence(weights, lift, lift, LIFT_SD, ODD_LIFT))
            pieces.append((about("tent", shelter), LiftEvidence(shelter, day, lift, computed)))
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


def low_spread(course: Course) -> float:
    """Standard deviation of a night's low against the forecast [K]. Source: the course's spread."""
    sd = course.cautious_sd or 1.0
    return max(abs(course.spread.cautious.low_k) / sd, 0.5)


def _of_walks(was: Lived, diary: Diary) -> tuple[list[Evidence], list[tuple[str, Piece]]]:
    """Walks that somebody told of, as evidence of the heat that they make."""
    told = [
        (person.id, moment)
        for person in was.course.people
        for moment in was.result.timeline.moments
        if moment.kind == "moving" and diary.moment(person.id, moment) is not None
    ]
    if not told:
        return [], []
    worn = as_worn(was.course, diary)
    who_told = dict.fromkeys(who for who, _ in told)
    people = tuple(worn.person(who) for who in who_told)
    plain, hotter = (
        {
            found.person: {each.moment: each for each in found.moments}
            for found in assess_people(worn, asked, was.result.timeline)
        }
        for asked in (people, tuple(_hotter(worn, each) for each in people))
    )
    evidence: list[Evidence] = []
    pieces: list[tuple[str, Piece]] = []
    for who, moment in told:
        felt = diary.moment(who, moment)
        assert felt is not None
        state, other = plain[who][moment.id], hotter[who][moment.id]
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
        at = slope * believed(worn, about("walk", who)).mean
        evidence.append(
            Evidence(
                {("walk", who): slope},
                low + at - margin,
                high + at - margin,
                state.spread,
                ODD_MOMENT,
            )
        )
        pieces.append((about("walk", who), MomentEvidence(who, moment.id, felt, margin)))
    return evidence, pieces


def _hotter(course: Course, person: Person) -> Person:
    """Somebody who makes more heat in walking."""
    mean = believed(course, about("walk", person.id)).mean
    return person.model_copy(update={"walks": Belief(mean=mean + STEP_WALK, sd=1)})


def _of_times(was: Lived, diary: Diary) -> tuple[list[Evidence], list[tuple[str, Piece]]]:
    """Halts and ways by whoever led; those of a day of which all was said to be as planned too."""
    evidence: list[Evidence] = []
    pieces: list[tuple[str, Piece]] = []
    course, timeline = was.course, was.result.timeline

    def put(kind: Kind, sd: float, piece: TimeEvidence) -> None:
        seen = log(piece.took / piece.planned)
        evidence.append(Evidence({(kind, piece.leader): 1.0}, seen, seen, sd, ODD_TIME))
        pieces.append((about(kind, piece.leader), piece))

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


def _after_logs(course: Course, evidence: Sequence[Evidence]) -> dict[str, Belief]:
    """Beliefs of factors that are learned as logarithms."""
    names = dict.fromkeys(unknown for each in evidence for unknown in each.weights)
    prior: dict[Unknown, Belief] = {}
    for unknown in names:
        of = believed(course, about(_kind(unknown), unknown[1]))
        mean = max(of.mean, 0.05)
        prior[unknown] = Belief(mean=log(mean), sd=of.sd / mean, times=of.times)
    return {
        about(_kind(unknown), unknown[1]): Belief(
            mean=exp(belief.mean), sd=belief.sd * exp(belief.mean), times=belief.times
        )
        for unknown, belief in learn(prior, evidence).items()
    }
