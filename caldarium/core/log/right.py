"""Whether a plan was right: every logged night and moment against what was said of it."""

from dataclasses import dataclass
from datetime import timedelta
from math import sqrt
from statistics import NormalDist
from typing import Literal

from caldarium.core.log.as_it_was import slopes
from caldarium.core.log.beliefs import about, believed
from caldarium.core.log.diary import ASKED, Diary
from caldarium.core.log.evidence import NIGHT_SD
from caldarium.core.log.learned import Teaching
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.log import Felt

BAND = 0.8
"""Share of nights whose low should lie inside the band that is drawn."""
BAND_SDS = NormalDist().inv_cdf((1 + BAND) / 2)
SHORT: tuple[Felt, ...] = ("cold", "cool")
Why = Literal["as said", "weather", "otherwise", "model", "chance"]
"""It came as said; the air was other than forecast; it was worn, lain on or slept elsewhere than
planned; nothing of these explains it; or what was said was so near to even that either was likely.
"""
EVEN = (0.3, 0.7)
"""Chances between which nobody was wrong: judgement."""


@dataclass(frozen=True)
class Low:
    """A night's low against the forecast: day, what was forecast and its deviation, what was
    measured [°C, K]."""

    day: int
    forecast: float
    sd: float
    measured: float

    @property
    def error(self) -> float:
        """Measured over forecast [K]. Source: none, subtraction."""
        return self.measured - self.forecast

    @property
    def inside(self) -> bool:
        """Whether it lay in the band. Source: BAND."""
        return abs(self.error) <= BAND_SDS * self.sd


@dataclass(frozen=True)
class Outcome:
    """Somebody's night or moment: what was said, what happened.

    kind is night or the moment's; shelter where a night was slept, empty for none; month from 1;
    margin what was to spare as forecast [K of a night, clo of a moment], chance what that said of
    being short, short whether they were.
    """

    person: str
    day: int
    moment: str
    kind: str
    shelter: str
    month: int
    felt: Felt
    margin: float
    chance: float
    short: bool
    why: Why


def outcomes(taught: Teaching) -> list[Outcome]:
    """Every night and moment of which somebody said how it was.

    Args:
        taught: of the course's log.

    Returns:
        Nights, then moments, by person. Chances are those of the plan as it was before its own log.

    Source: margins of the assessment over what is not known of weather, sleeper, bed and night.
    """
    return [*_nights(taught), *_moments(taught)]


def lows(taught: Teaching) -> list[Low]:
    """Lows of nights that were measured, against the forecast. Source: readings."""
    of = taught.lived
    return [
        Low(day, forecast, of.spreads[day], low)
        for day, forecast in of.lows.items()
        if (low := of.low(day)) is not None
    ]


@dataclass(frozen=True)
class Band:
    """The low of a night as forecast, and between which BAND of them should lie [°C]."""

    day: int
    forecast: float
    sd: float

    @property
    def low(self) -> float:
        """Its lower end [°C]. Source: BAND_SDS."""
        return self.forecast - BAND_SDS * self.sd

    @property
    def high(self) -> float:
        """Its upper end [°C]. Source: BAND_SDS."""
        return self.forecast + BAND_SDS * self.sd


def bands(taught: Teaching) -> list[Band]:
    """The band of every night. Source: the course's own cautions."""
    of = taught.lived
    return [Band(day, forecast, of.spreads[day]) for day, forecast in of.lows.items()]


def _nights(taught: Teaching) -> list[Outcome]:
    of, diary = taught.lived, taught.diary
    course = of.course
    told: list[tuple[Person, int]] = [
        (person, night.day)
        for person in course.people
        for night in of.timeline.moments
        if night.kind == "night" and diary.night(person.id, night.day) is not None
    ]
    # Without a word on a bed the nights that teach are those as planned already.
    weathered = slopes(of, Diary(), told) if diary.lay else taught.nights
    found: list[Outcome] = []
    for person, day in told:
        felt = diary.night(person.id, day)
        night = next(each for each in of.result.of(person.id).nights if each.day == day)
        here = weathered.get((person.id, day))
        if felt is None or here is None or not abs(night.margin) < 100:
            continue
        sd = sqrt(
            of.spreads[day] ** 2
            + NIGHT_SD**2
            + (here.by_index * person.sleeper_sd) ** 2
            + (here.by_bag * _bag_sd(course, person, day)) ** 2
        )
        chance = NormalDist().cdf(-night.margin / sd)
        short = felt in SHORT
        lain = taught.nights.get((person.id, day), here)
        margins = (night.margin, here.margin, lain.margin)
        found.append(
            Outcome(
                person.id,
                day,
                night.moment,
                "night",
                person.on_night(day).shelter or "",
                _month(course, day),
                felt,
                night.margin,
                chance,
                short,
                _why(margins, chance, short),
            )
        )
    return found


def _bag_sd(course: Course, person: Person, day: int) -> float:
    bag = person.bed_on(day).bag
    return 0.0 if bag is None else believed(course, about("bag", f"{person.id}:{bag.id}")).sd


def _month(course: Course, day: int) -> int:
    return (course.start + timedelta(days=day)).month


def _why(margins: tuple[float, float, float], chance: float, short: bool) -> Why:
    """Why it likely came as it did, from what was to spare as planned, in the weather that came,
    and as it was worn or lain in too."""
    said = chance >= 0.5
    if said == short:
        return "as said"
    planned, weathered, lived = margins
    if (weathered < 0) == short and (planned < 0) != short:
        return "weather"
    if (lived < 0) == short and (weathered < 0) != short:
        return "otherwise"
    return "chance" if EVEN[0] <= chance <= EVEN[1] else "model"


def _moments(taught: Teaching) -> list[Outcome]:
    of, diary = taught.lived, taught.diary
    moments = [each for each in of.result.timeline.moments if each.kind in ASKED]
    if not any(diary.moment(p.id, m) is not None for p in of.course.people for m in moments):
        return []
    found: list[Outcome] = []
    for person in of.course.people:
        planned = {each.moment: each for each in of.result.of(person.id).moments}
        for moment in moments:
            felt = diary.moment(person.id, moment)
            state = planned.get(moment.id)
            if felt is None or state is None or not state.spread > 0:
                continue
            margin = state.provided - state.need_min
            chance = NormalDist().cdf(-margin / state.spread)
            short = felt == "cold"
            worn = of.worn_at(person.id, moment.id)
            as_was = worn.provided - worn.need_min
            found.append(
                Outcome(
                    person.id,
                    moment.day,
                    moment.id,
                    moment.kind,
                    "",
                    _month(of.course, moment.day),
                    felt,
                    margin,
                    chance,
                    short,
                    _why((margin, margin, as_was), chance, short),
                )
            )
    return found


@dataclass(frozen=True)
class OnScale:
    """A pack that was weighed on a morning, and what it should have weighed [g]."""

    person: str
    day: int
    measured_g: float
    computed_g: float


def on_scale(taught: Teaching) -> list[OnScale]:
    """Packs that were weighed on a morning.

    Source: the load as planned at setting out, without what is worn on the first walk.
    """
    course = taught.lived.course
    found: list[OnScale] = []
    for (who, day), grams in sorted(taught.diary.scaled.items()):
        if day >= len(course.days) or all(each.id != who for each in course.people):
            continue
        load = taught.lived.result.of(who).load
        found.append(OnScale(who, day, grams, 1000 * (load.by_day[day] - load.worn)))
    return found
