"""What a course leaves to be said: never used, missed, failed, borrowed, wished for; and the next
course that begins from it."""

from collections.abc import Sequence
from dataclasses import dataclass

from caldarium.core.assess import Assessment
from caldarium.core.log.diary import Diary
from caldarium.core.log.learned import Teaching
from caldarium.core.log.right import Outcome
from caldarium.core.night.beds import base_in_bed, bed_clothes
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.log import Found
from caldarium.core.plan.wardrobe import wardrobes

WARM_SLACK_K = 8.0
"""What a bed had to spare on every logged night where a slack was carried [K]: judgement."""


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
                found.append(Unused(person.id, item.id, item.name, item.grams, item.tag))
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


def debrief(taught: Teaching, found: Sequence[Outcome]) -> Debrief:
    """What the plan and its log leave to be said.

    Args:
        taught, found: of the course's log.

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
        tuple(unused(course, taught.lived.worn_result, diary)),
        tuple(cold),
        tuple(slack),
        tuple(diary.found.values()),
    )
