"""What a course leaves to be said: never used, missed, failed, borrowed, wished for; and the next
course that begins from it."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

from caldarium.core.assess import Assessment
from caldarium.core.log.as_it_was import as_worn
from caldarium.core.log.beliefs import believed, with_belief
from caldarium.core.log.diary import Diary, leader_of
from caldarium.core.log.learned import Taught, Teaching
from caldarium.core.log.right import NOTABLE, Outcome, with_bands
from caldarium.core.night.beds import base_in_bed, bed_clothes
from caldarium.core.plan.belief import LEAST_FACTOR, MOST_FACTOR, Belief
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.log import Found
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.plan.weather_sources import Conditions

WARM_SLACK_K = 8.0
"""What a bed had to spare on every logged night where a slack was carried [K]: judgement."""
TELLING = 0.4
"""A change of so many of its former deviations is worth a proposal: judgement."""


@dataclass(frozen=True)
class Unused:
    """A piece of somebody's that was never put on, by plan and diary, and what it weighs [g]."""

    person: str
    piece: str
    name: str
    grams: float
    tag: str


def unused(course: Course, worn: Assessment, diary: Diary) -> list[Unused]:
    """Clothes that nobody put on, by day or by night, as the diary corrects the plan.

    Spares that are kept dry on purpose, what shades and what is always worn are not asked.

    Args:
        course: the plan.
        worn: its assessment as forecast, with what the diary says was worn.
        diary: what was told.

    Source: outfits of the assessment; words on a piece in the diary go first.
    """
    found: list[Unused] = []
    dress = wardrobes(course.people)
    asleep = bed_clothes(course, dress) | base_in_bed(dress)
    for row, person in enumerate(course.people):
        in_bed = {
            piece.id
            for place, piece in enumerate(dress.garments[row])
            if asleep[row, place] and course.clothes_in_bed
        }
        in_bed -= _not_in_bed(person, diary, len(course.days))
        used = {name for state in worn.of(person.id).moments for name in state.worn}
        said = (*diary.was.values(), *diary.lay.values())
        used |= {name for told in said if told.person == person.id for name in told.worn or ()}
        for piece in person.garments:
            told = diary.found.get((person.id, "unused", piece.id))
            if told is not None or not (piece.id in used | in_bed or _exempt(piece)):
                found.append(Unused(person.id, piece.id, piece.name, piece.mass_g, piece.tag))
        for item in person.items:
            if (person.id, "unused", item.id) in diary.found:
                grams = item.mass_g * item.count
                found.append(Unused(person.id, item.id, item.name, grams, item.tag))
    return found


def _not_in_bed(person: Person, diary: Diary, days: int) -> set[str]:
    """Pieces of which every night of the diary says that they were not worn to bed."""
    told = [diary.lay.get((person.id, day)) for day in range(days - 1)]
    if not told or any(each is None or each.worn is None for each in told):
        return set()
    worn = {name for each in told if each is not None for name in each.worn or ()}
    return {piece.id for piece in person.garments} - worn


def _exempt(piece: Garment) -> bool:
    return piece.spare or piece.shades or piece.always


@dataclass(frozen=True)
class FeltCold:
    """Somebody who was short on nights or at moments, and at which; whose fingers were cold or
    numb, and who was wet through."""

    person: str
    nights: tuple[int, ...]
    moments: tuple[str, ...]
    fingers: tuple[str, ...] = ()
    wet: tuple[str, ...] = ()


@dataclass(frozen=True)
class Slack:
    """Somebody whose bed had much to spare on every night that they told of [K], the least."""

    person: str
    margin: float


@dataclass(frozen=True)
class Debrief:
    """What a course leaves to be said: never used, cold, too warm, and what was found of things by
    their owners and of the party's."""

    unused: tuple[Unused, ...]
    cold: tuple[FeltCold, ...]
    slack: tuple[Slack, ...]
    found: tuple[Found, ...]


def debrief(taught: Teaching, found: Sequence[Outcome], worn: Assessment) -> Debrief:
    """What the plan and its log leave to be said.

    Args:
        taught, found: of the course's log.
        worn: the assessment as forecast with what was really worn.

    Source: the log.
    """
    course, diary = taught.lived.course, taught.diary
    cold: list[FeltCold] = []
    slack: list[Slack] = []
    for person in course.people:
        mine = [each for each in found if each.person == person.id]
        nights = tuple(each.day for each in mine if each.kind == "night" and each.short)
        moments = tuple(each.moment for each in mine if each.kind != "night" and each.short)
        there = {each.id for each in taught.lived.result.timeline.moments}
        was = [each for each in diary.was.values() if each.person == person.id]
        was = [each for each in was if each.moment in there]
        fingers = tuple(each.moment for each in was if each.fingers != "fine")
        wet = tuple(each.moment for each in was if each.wet)
        if nights or moments or fingers or wet:
            cold.append(FeltCold(person.id, nights, moments, fingers, wet))
        margins = [each.margin for (who, _), each in taught.nights.items() if who == person.id]
        if margins and not nights and min(margins) >= WARM_SLACK_K:
            slack.append(Slack(person.id, min(margins)))
    return Debrief(
        tuple(unused(course, worn, diary)), tuple(cold), tuple(slack), tuple(diary.found.values())
    )


def worn_course(taught: Teaching) -> Course:
    """The course as forecast with what was really worn. Source: the diary."""
    return as_worn(taught.lived.course, taught.diary)


Change = Literal["belief", "leave out", "halts", "pace", "bands"]


@dataclass(frozen=True)
class Proposal:
    """One difference that the next course could begin with: what it changes, of whom, and how.

    key names it; about is the thing learned, the piece that stays at home, or the leader whose
    halts or pace ways are planned with; before and after are beliefs, or grams of a piece before;
    of bands grams is the factor.
    """

    key: str
    change: Change
    person: str
    about: str
    name: str = ""
    grams: float = 0.0
    before: Belief | None = None
    after: Belief | None = None


def proposals(
    course: Course, taught: Teaching, said: Debrief, bands: float = 1.0
) -> list[Proposal]:
    """What the next course could begin with: what was learned and is telling, what was never used,
    wider or narrower bands.

    Args:
        course: the plan as it stands.
        taught, said: of its log.
        bands: from band_factor.

    Source: what was learned; a change of TELLING deviations.
    """
    found: list[Proposal] = []
    leader = leader_of(course, taught.diary, 0)
    for each in taught.taught:
        if not telling(each) or each.stand == "refused":
            continue
        if each.kind in ("halts", "pace"):
            if each.about.partition(" ")[2] == leader:
                found.append(
                    Proposal(
                        each.about,
                        "halts" if each.kind == "halts" else "pace",
                        leader,
                        each.about,
                        before=each.before,
                        after=each.after,
                    )
                )
            continue
        if believed(course, each.about) == each.after:
            continue
        who = each.about.partition(" ")[2].partition(":")[0]
        found.append(
            Proposal(each.about, "belief", who, each.about, before=each.before, after=each.after)
        )
    if abs(bands - 1) >= NOTABLE:
        found.append(Proposal("bands", "bands", "", "bands", grams=bands))
    found += [
        Proposal(
            f"leave {each.person}:{each.piece}",
            "leave out",
            each.person,
            each.piece,
            each.name,
            each.grams,
        )
        for each in said.unused
    ]
    return found


def telling(taught: Taught) -> bool:
    """Whether a change is worth a proposal. Source: TELLING."""
    return abs(taught.after.mean - taught.before.mean) >= TELLING * taught.before.sd


def with_proposals(course: Course, offered: Sequence[Proposal], chosen: Collection[str]) -> Course:
    """A course with the differences that were taken.

    Args:
        course: to begin from.
        offered: from proposals.
        chosen: keys of those that are taken; others are passed over.

    Source: none, bookkeeping.
    """
    for each in offered:
        if each.key not in chosen:
            continue
        if each.change == "belief" and each.after is not None:
            course = with_belief(course, each.about, each.after)
        elif each.change == "leave out":
            course = _without(course, each.person, each.about)
        elif each.change == "bands":
            course = with_bands(course, each.grams, BANDS_SOURCE)
        elif each.after is not None:
            course = with_belief(course, each.about, each.after)
            factor = min(max(each.after.mean, LEAST_FACTOR), MOST_FACTOR)
            before = each.before.mean if each.before is not None else 1.0
            course = _with_times(course, each.change, factor / max(before, LEAST_FACTOR))
    return course


BANDS_SOURCE = "the former spread, as logged nights found it"


def _without(course: Course, who: str, piece: str) -> Course:
    """A course in which somebody leaves a piece at home."""

    def left(person: Person) -> Person:
        if person.id != who:
            return person
        return person.altered(
            garments=tuple(each for each in person.garments if each.id != piece),
            items=tuple(each for each in person.items if each.id != piece),
            overrules=tuple(each for each in person.overrules if each.garment != piece),
            on_plane=None
            if person.on_plane is None
            else tuple(each for each in person.on_plane if each != piece),
        )

    return course.altered(people=tuple(left(each) for each in course.people))


def _with_times(course: Course, change: Change, factor: float) -> Course:
    """A course with halts, or ways, so much longer."""

    def leg(each: Leg) -> Leg:
        if change == "halts":
            return each.altered(halt_min=min(max(round(each.halt_min * factor), 1), 180))
        if each.distance_km <= 0:
            return each
        if each.hours is not None:
            return each.altered(hours=each.hours * factor)
        return each.altered(pace_kmh=min(max(each.pace_kmh / factor, 1.0), 8.0))

    days = tuple(day.altered(legs=tuple(leg(each) for each in day.legs)) for day in course.days)
    return course.altered(days=days)


def test_night(course: Course, night: int, name: str) -> Course:
    """A night near the road to try beds and shelters before they are needed.

    Args:
        course: the plan whose people, beds and tents are tried.
        night: day at the end of which the night is that is tried.
        name: of the new course.

    Returns:
        A course of one night with everybody in the bed and shelter of that night, no way to walk,
        and the planned night's weather until somebody says better.

    Source: a test night near the road is common practice, no published source.
    """
    planned = course.days[night]
    there = course.on_night(night)
    low = planned.conditions
    evening = Day(
        title="A night to try beds",
        conditions=Conditions(
            high_c=low.high_c, low_c=low.low_c, wind_ms=low.wind_ms, humidity_pct=low.humidity_pct
        ),
        legs=(),
        camp=planned.camp or Camp(),
    )
    morning = Day(title="Morning", conditions=evening.conditions)
    people = tuple(
        each.altered(
            nights=(),
            overrules=(),
            items=tuple(i.altered(waits_at=None, left_at=None, on=None) for i in each.items),
            garments=tuple(g.altered(waits_at=None, left_at=None) for g in each.garments),
        )
        for each in there.people
    )
    return course.altered(
        name=name,
        days=(evening, morning),
        people=people,
        caches=(),
        helpers=(),
        ready=(),
        sources=(),
        lists=(),
        counted=(),
        group=(),
        log=type(course.log)(),
    )
