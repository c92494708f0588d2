"""What people carry because a list asks for it."""

from collections.abc import Collection, Mapping, Sequence

from caldarium.core.lists.judge import Judged, judge
from caldarium.core.plan.changes import remove_piece
from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import Timeline


def must_lines(course: Course) -> frozenset[tuple[str, str]]:
    """Lines that are asked and not only recommended, by list and line.

    Source: the lists' own words.
    """
    return frozenset((each.id, e.id) for each in course.lists for e in each.entries if e.must)


def not_there(course: Course, judged: Sequence[Judged]) -> int | None:
    """How many lines that must be met are not; None for a course without lists.

    Source: the judgement.
    """
    if not course.lists:
        return None
    must = must_lines(course)
    return sum(not each.good and (each.list, each.entry) in must for each in judged)


def meets_lists(course: Course, judged: Sequence[Judged]) -> dict[str, frozenset[str]]:
    """Pieces of everybody by which a line that must be met is met, by person.

    Source: the judgement.
    """
    must = must_lines(course)
    found: dict[str, set[str]] = {each.id: set() for each in course.people}
    for each in judged:
        if each.good and (each.list, each.entry) in must:
            for piece in each.pieces:
                if piece.who is not None:
                    found[piece.who].add(piece.piece)
    return {who: frozenset(pieces) for who, pieces in found.items()}


def kept_for_lists(
    course: Course,
    timeline: Timeline,
    judged: Sequence[Judged],
    doubted: Mapping[str, Collection[str]],
) -> dict[str, frozenset[str]]:
    """Of pieces that close nothing, those without which a line would not be met any more.

    Args:
        course, timeline: the plan.
        judged: what was found of its lists.
        doubted: pieces that close nothing, by person.

    Returns:
        Enough of them that every line that holds goes on holding, by person.

    Source: the lists, judged again without all of those pieces.
    """
    found: dict[str, set[str]] = {who: set() for who in doubted}
    if not course.lists or not any(doubted.values()):
        return {who: frozenset() for who in doubted}
    people = list(course.people)
    for at, person in enumerate(people):
        for piece in doubted.get(person.id, ()):
            people[at] = remove_piece(people[at], piece)
    bare = judge(course.altered(people=tuple(people)), timeline)
    still = {(each.list, each.entry, each.subject.id) for each in bare if each.good}
    must = must_lines(course)
    for each in judged:
        key = (each.list, each.entry, each.subject.id)
        if not each.good or key in still or key[:2] not in must:
            continue
        for piece in each.pieces:
            if piece.who in found and piece.piece in doubted[piece.who]:
                found[piece.who].add(piece.piece)
    return {who: frozenset(pieces) for who, pieces in found.items()}
