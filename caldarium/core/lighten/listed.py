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


def counting(
    course: Course,
    person: Person,
    asked: Sequence[AskedFor],
    pieces: Sequence[Garment | Bag | Pad],
) -> list[frozenset[str]]:
    """Ids of the pieces that would count for each part, by name and figures or by the user's word.

    Source: core.lists.judge.
    """
    known = {piece.id: holding_of(piece, person.id) for piece in pieces} if asked else {}
    return [
        frozenset(
            key
            for key, holding in known.items()
            if lists.counts(course.counted, (each.list, each.entry), each.wanted, holding)
        )
        for each in asked
    ]


def good_enough(
    asked: Sequence[AskedFor], good: Sequence[frozenset[str]], bed: Sequence[Bag | Pad]
) -> bool:
    """Whether some pieces of a bed do what lists ask of pieces of that kind.

    Args:
        asked: by lists.
        good: ids of the pieces that count for each, from counting.
        bed: the pieces.

    Source: the lists' own words; what pads reach, they reach together.
    """
    for each, ids in zip(asked, good, strict=True):
        there = [piece for piece in bed if piece.id in ids]
        least = each.wanted.least.r_value or 0.0
        reached = sum(piece.r_value for piece in there if isinstance(piece, Pad))
        if len(there) < each.wanted.count or reached < least - 1e-9:
            return False
    return True
