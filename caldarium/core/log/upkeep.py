"""What a course asks of the store: pieces to mend, to buy, to wash and to retire."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Found
from caldarium.core.stock.inventory import Stored

Task = Literal["mend", "buy", "wash", "retire"]
TASKS: tuple[Task, ...] = get_args(Task)
WASH_AFTER = 60
"""Nights after which a bag is due for a wash: judgement; common practice, no published source, has
30 to 100."""
TIRED_NIGHTS = 400
"""Nights after which a bag is looked at for its end: judgement."""


@dataclass(frozen=True)
class Upkeep:
    """Something to do: what, the piece's tag where it is the store's, its name, whose it was, and
    nights and washes where they are the reason."""

    task: Task
    name: str
    tag: str
    who: str
    note: str = ""
    nights: int = 0
    washes: int = 0


def upkept(piece: Stored, task: Task) -> Stored:
    """A piece of the store as a task leaves it. Source: none, bookkeeping."""
    changed: dict[Task, dict[str, object]] = {
        "mend": {"condition": "to mend"},
        "retire": {"retired": True},
        "wash": {"washes": piece.washes + 1},
        "buy": {},
    }
    return piece.altered(**changed[task])


def upkeep(course: Course, found: Sequence[Found], known: Mapping[str, Stored]) -> list[Upkeep]:
    """What is to do after a course.

    Args:
        course: its beds.
        found: what was said of things.
        known: the store's pieces by tag in lower case.

    Returns:
        Failed pieces to mend, to retire where the store calls them unfit; what was missed, borrowed
        or wished for to buy; bags after WASH_AFTER nights without a wash, and after TIRED_NIGHTS.

    Source: common practice, no published source.
    """
    tasks: list[Upkeep] = []
    for each in found:
        if each.what == "failed":
            piece = known.get(each.tag.lower()) if each.tag else None
            task: Task = "retire" if piece is not None and piece.condition == "unfit" else "mend"
            tasks.append(Upkeep(task, each.name, each.tag, each.subject, each.note))
        elif each.what in ("missed", "borrowed", "wished"):
            tasks.append(Upkeep("buy", each.name, each.tag, each.subject, each.note))
    nights = len(course.days) - 1
    for person in course.people:
        bag = person.bag
        piece = known.get(bag.tag.lower()) if bag is not None and bag.tag else None
        if piece is None or not nights:
            continue
        used = piece.nights_used
        if used >= TIRED_NIGHTS:
            tasks.append(Upkeep("retire", piece.name, piece.tag, person.id, "", used, piece.washes))
        elif used >= WASH_AFTER * (piece.washes + 1):
            tasks.append(Upkeep("wash", piece.name, piece.tag, person.id, "", used, piece.washes))
    return tasks
