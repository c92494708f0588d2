"""A course as it really was: nights in the air that was measured, in the beds that were lain in."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from caldarium.core.assess import Assessment, assess, wet_beds
from caldarium.core.day.states import MomentState
from caldarium.core.log.diary import Diary
from caldarium.core.log.measured import Measured, measured_nights
from caldarium.core.log.readings import Track, aligned, mean_of
from caldarium.core.night.beds import Wet, lay_beds
from caldarium.core.night.nights import bed_margins
from caldarium.core.plan.course import Course, Overrule, Person
from caldarium.core.plan.log import Lay, Thermometer
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.timeline.moments import Moment, Timeline, build_timeline

AIRED = 0.5
"""Share of a shelter's lift that is lost where vents stay open all night: judgement."""


@dataclass(frozen=True)
class Lived:
    """A course as forecast, with the nights as they were measured: its plan, what was found for it,
    its nights' time, what was measured by day of the night, how wet pieces went to bed, and by day
    of the night its low as forecast [°C] and what that may be off [K]; and the plan as it was worn
    by day, with what was found for it."""

    course: Course
    result: Assessment
    timeline: Timeline
    measured: Mapping[int, Measured]
    wet: Wet
    lows: Mapping[int, float]
    spreads: Mapping[int, float]
    worn: Course
    worn_result: Assessment

    def low(self, day: int) -> float | None:
        """The low measured outside on the night at the end of a day [°C], None where none was.

        Source: readings.
        """
        there = self.measured.get(day)
        return there.low if there is not None else None

    def worn_at(self, person: str, moment: str) -> MomentState:
        """Somebody at a moment in what they really wore. Source: the assessment."""
        return next(e for e in self.worn_result.of(person).moments if e.moment == moment)


def lived(course: Course, thermometers: Sequence[Thermometer], diary: Diary) -> Lived:
    """A course as it really was.

    Args:
        course: the plan; judged as forecast, whatever its caution.
        thermometers, diary: of its log.

    Source: the assessment; by day thermometers hang on packs and in the sun, so only nights are
        taken from them.
    """
    plain = course.altered(caution="as forecast")
    result = assess(plain)
    measured = measured_nights(plain, result.timeline, thermometers)
    tracks = [aligned(course, each) for each in thermometers if each.where == "outside"]
    timeline = _measured_timeline(result.timeline, tracks, measured)
    worn = as_worn(plain, diary)
    return Lived(
        plain,
        result,
        timeline,
        measured,
        wet_beds(result),
        forecast_lows(result.timeline),
        night_spreads(plain, result.timeline),
        worn,
        result if worn is plain else assess(worn),
    )


LEAST_SPREAD_K = 0.5
"""No forecast of a low is surer than this [K]: judgement."""


def night_spreads(course: Course, timeline: Timeline) -> dict[int, float]:
    """How far the low of each night may lie from the forecast, by its day [K].

    Args:
        course, timeline: the plan as forecast.

    Returns:
        Deviations: what the course's own cautions are colder, whichever source rules the night.

    Source: core.timeline.weather.
    """
    levels = (("cautious", course.cautious_sd), ("expedition", course.expedition_sd))
    level, sd = next((each for each in levels if each[1] > 0), ("cautious", 1.0))
    colder = forecast_lows(build_timeline(course.altered(caution=level)))
    return {
        day: max((low - colder[day]) / sd, LEAST_SPREAD_K)
        for day, low in forecast_lows(timeline).items()
    }


def forecast_lows(timeline: Timeline) -> dict[int, float]:
    """The coldest hour of each night, by its day [°C]; a night is judged at the hour that is worst
    by wind and air together, which may be another.

    Source: the hours of the timeline.
    """
    hours = timeline.hours
    return {
        each.day: float(hours.air[(hours.hour >= each.start) & (hours.hour <= each.end)].min())
        for each in timeline.moments
        if each.kind == "night"
    }


def _measured_timeline(
    timeline: Timeline, tracks: Sequence[Track], measured: Mapping[int, Measured]
) -> Timeline:
    hours = timeline.hours
    air = hours.air.copy()
    moments: list[Moment] = []
    for moment in timeline.moments:
        there = measured.get(moment.day) if moment.kind == "night" else None
        if there is None or there.low is None:
            moments.append(moment)
            continue
        inside = (hours.hour >= moment.start) & (hours.hour <= moment.end)
        read = mean_of(tracks, hours.hour[inside])
        air[inside] = np.where(np.isfinite(read), read, air[inside])
        at = float(hours.hour[inside][int(np.argmin(air[inside]))]) if inside.any() else moment.at
        moments.append(replace(moment, air=there.low, at=at))
    return replace(timeline, hours=replace(hours, air=air, forecast=air), moments=tuple(moments))


def as_lain(course: Course, person: Person, lay: Lay | None) -> tuple[Person, float]:
    """Somebody in the bed that they really lay in on one night, and the share of their shelter's
    lift that open vents took.

    Source: the diary.
    """
    if lay is None:
        return person, 0.0
    there = person.on_night(lay.day)
    changes: dict[str, object] = {"nights": ()}
    if lay.worn is not None:
        changes["garments"] = tuple(
            each.model_copy(update={"only_at_camp": False, "only_asleep": True})
            for each in person.garments
            if each.id in lay.worn
        )
    if lay.pads is not None:
        changes["pads"] = tuple(each for each in there.pads if each.id in lay.pads)
    if lay.moved:
        known = any(each.id == lay.shelter for each in course.shelters)
        changes["shelter"] = lay.shelter if known else None
    return there.model_copy(update=changes), AIRED if lay.vents == "open" else 0.0


def as_worn(course: Course, diary: Diary) -> Course:
    """A course in which everybody wears by day what the diary says they did.

    Source: the diary.
    """
    if not any(told.worn is not None for told in diary.was.values()):
        return course
    people: list[Person] = []
    for person in course.people:
        told = [
            Overrule(moment=each.moment, garment=piece.id, worn=piece.id in each.worn)
            for (who, _), each in diary.was.items()
            if who == person.id and each.worn is not None
            for piece in person.garments
        ]
        said = {each.moment for each in told}
        others = [each for each in person.overrules if each.moment not in said]
        people.append(person.model_copy(update={"overrules": (*others, *told)}))
    return course.model_copy(update={"people": tuple(people)})


@dataclass(frozen=True)
class Slopes:
    """One night of somebody as it was: what their bed had to spare [K], how it changes with one
    more of their sleeper index, with a bag whose figure lies a kelvin higher, and with each pad by
    a whole factor; and the shelter's lift, as it was computed for them and in the mean of the night
    [K]."""

    margin: float
    by_index: float
    by_bag: float
    by_pads: dict[str, float]
    lift: float
    mean_lift: float
    aired: float


STEP_INDEX, STEP_K, STEP_PAD = 0.5, 1.0, 0.1


def slopes(
    of: Lived, diary: Diary, nights: Sequence[tuple[Person, int]]
) -> dict[tuple[str, int], Slopes]:
    """What beds had to spare on nights as they were, and what that hangs on.

    Args:
        of: the course as it was.
        diary: for the beds as they were lain in.
        nights: people and days of their nights.

    Returns:
        By person and day; nights that nothing balances are left out.

    Source: core.night.nights, by small steps.
    """
    columns = {
        night.day: column
        for column, night in enumerate(m for m in of.timeline.moments if m.kind == "night")
    }
    asked = [(person, day) for person, day in nights if day in columns]
    if not asked:
        return {}
    variants: list[Person] = []
    begins: list[int] = []
    aired: list[float] = []
    for person, day in asked:
        there, lost = as_lain(of.course, person, diary.lay.get((person.id, day)))
        there = there.on_night(day)
        there = there.model_copy(update={"nights": ()})
        begins.append(len(variants))
        aired.append(lost)
        variants += _steps(there)
    bases = [variants[begin] for begin in begins]
    margins = bed_margins(of.course, of.timeline, variants, of.wet)
    beds = lay_beds(of.course, bases, of.timeline, wardrobes(bases), of.wet)
    hardest = beds.hardest()
    found: dict[tuple[str, int], Slopes] = {}
    for row, ((person, day), begin) in enumerate(zip(asked, begins, strict=True)):
        column = columns[day]
        pads = variants[begin].pads
        here = margins[begin : begin + 3 + len(pads), column].tolist()
        if not all(np.isfinite(here)) or here[0] < LEAST_MARGIN:
            continue
        lift = beds.lift[row, column]
        computed = float(lift[int(hardest[row, column])])
        found[person.id, day] = Slopes(
            here[0] - aired[row] * max(computed, 0.0),
            (here[1] - here[0]) / STEP_INDEX,
            (here[2] - here[0]) / STEP_K,
            {
                pad.id: (here[0] - value) / STEP_PAD
                for pad, value in zip(pads, here[3:], strict=True)
            },
            computed,
            float(lift[1:].mean()),
            aired[row],
        )
    return found


LEAST_MARGIN = -60.0
"""A bed so far short that nothing balances teaches nothing [K]."""


def _steps(person: Person) -> list[Person]:
    """Somebody as they are, sleeping colder, in a worse bag, and on each of their pads worn."""

    def with_bag() -> Person:
        if person.bag is None:
            return person
        worse = person.bag.model_copy(
            update={"label_c": person.bag.label_c + STEP_K}
            | ({"limit_c": person.bag.limit_c + STEP_K} if person.bag.limit_c is not None else {})
        )
        return person.model_copy(update={"bag": worse})

    def with_pad(place: int) -> Person:
        pads = list(person.pads)
        pads[place] = pads[place].model_copy(
            update={"r_value": pads[place].r_value * (1 - STEP_PAD)}
        )
        return person.model_copy(update={"pads": tuple(pads)})

    colder = person.model_copy(update={"sleeper_index": person.sleeper_index + STEP_INDEX})
    return [person, colder, with_bag(), *(with_pad(place) for place in range(len(person.pads)))]
