"""What lists of gear ask of a set that is chosen: so many clothes of a kind, a bag and pads as good
as they say."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from caldarium.core.lists import parts as lists
from caldarium.core.lists.applies import applies, ground_of, of_age
from caldarium.core.lists.holdings import holding_of
from caldarium.core.lists.judge import judge
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.gear_list import Entry, GearList, Wanted
from caldarium.core.plan.kit import Bag, Garment, Pad
from caldarium.core.timeline.moments import Timeline


@dataclass(frozen=True)
class AskedFor:
    """A part of a line that one person must meet; ids of its list and itself, and its own text with
    its list's name."""

    list: str
    entry: str
    wanted: Wanted
    text: str = ""
    of: str = ""


def asked_for(course: Course, person: Person, timeline: Timeline) -> list[AskedFor]:
    """What lists ask of one person by themselves: by the way in which a line is met now, else by
    the first.

    Source: the lists' own words; what is only recommended is not asked of a set.
    """
    if not course.lists:
        return []
    ground = ground_of(course, timeline)
    now = {(each.list, each.entry): each for each in judge(course, timeline, person.id)}
    return [
        AskedFor(listed.id, entry.id, part, entry.text, listed.name)
        for listed, entry in _lines(course)
        if entry.of != "instructor" or person.instructor
        if applies(entry.when, ground) and of_age(entry.when, person)
        if (judged := now.get((listed.id, entry.id))) is not None and judged.state != "elsewhere"
        for part in entry.ways[judged.way if judged.good else 0].parts
    ]


def _lines(course: Course) -> Iterator[tuple[GearList, Entry]]:
    for listed in course.lists:
        for entry in listed.entries:
            if entry.must and entry.of in ("head", "instructor"):
                yield listed, entry


def counts(course: Course, person: Person, asked: AskedFor, piece: Garment | Bag | Pad) -> bool:
    """Whether a piece would count for a part, by its name and figures or by the user's word.

    Source: core.lists.judge.
    """
    line = (asked.list, asked.entry)
    return lists.counts(course.counted, line, asked.wanted, holding_of(piece, person.id))


def good_enough(
    course: Course, person: Person, asked: Sequence[AskedFor], bed: Sequence[Bag | Pad]
) -> bool:
    """Whether some pieces of a bed do what lists ask of pieces of that kind.

    Source: the lists' own words; what pads reach, they reach together.
    """
    for each in asked:
        good = [piece for piece in bed if counts(course, person, each, piece)]
        least = each.wanted.least.r_value or 0.0
        reached = sum(piece.r_value for piece in good if isinstance(piece, Pad))
        if len(good) < each.wanted.count or reached < least - 1e-9:
            return False
    return True
