"""The course that begins from what this one found, and a night near the road before it."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

from caldarium.core.log.bands import NOTABLE, with_bands
from caldarium.core.log.beliefs import believed, with_belief
from caldarium.core.log.debrief import Debrief
from caldarium.core.log.diary import leader_of
from caldarium.core.log.learned import Taught, Teaching
from caldarium.core.plan.belief import LEAST_FACTOR, MOST_FACTOR, Belief
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.weather_sources import Conditions

TELLING = 0.4
"""A change of so many of its former deviations is worth a proposal: judgement."""


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
