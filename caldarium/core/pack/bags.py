"""Bags by air, drop bags, and what helpers carry: what goes in at the bottom, in the middle and on
top."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from caldarium.core.load.packing import Line, packing_list
from caldarium.core.pack.contents import Content, Role, content_of, thing_of
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.group_kit import units
from caldarium.core.plan.kit import LegEnd

Place = Literal["bottom", "middle", "top"]
PLACES: tuple[Place, ...] = get_args(Place)
FIRST_ROLES: tuple[Role, ...] = ("light", "way", "aid", "lunch")
"""What is wanted first on arrival: judgement."""
SOFT: tuple[Role, ...] = ("bed", "clothes", "pad")
HEAVY_G = 400.0
"""Mass from which what is not soft goes to the bottom [g]: judgement."""


@dataclass(frozen=True)
class InBag:
    """A line of a bag: what it is like, and where it goes."""

    line: Line
    content: Content
    place: Place


def in_bag(course: Course, person: Person, lines: Sequence[Line]) -> list[InBag]:
    """The lines of one bag in the order of going in: what is heavy and hard at the bottom, what
    breaks in the middle among what is soft, what is wanted first on arrival on top.

    Args:
        course, person: whose bag.
        lines: that go into it, from core.load.travel.

    Source: common practice, no published source; HEAVY_G is judgement.
    """
    return sorted((_placed(line, content_of(course, person, line)) for line in lines), key=_order)


def _placed(line: Line, content: Content) -> InBag:
    piece = content.garment
    shell = piece is not None and piece.layer == "shell"
    place: Place = "middle"
    if content.role in FIRST_ROLES or shell:
        place = "top"
    elif not ("crushable" in content.marks or content.role in SOFT or content.grams < HEAVY_G):
        place = "bottom"
    return InBag(line, content, place)


def _order(each: InBag) -> tuple[int, float]:
    return PLACES.index(each.place), -each.line.grams


@dataclass(frozen=True)
class Bundle:
    """What waits at a place in a drop bag, or rides on a porter, animal or sled: where, whose each
    thing is (empty for the group's), and the things in the order of going in."""

    helper: str
    place: LegEnd | None
    things: tuple[tuple[str, InBag], ...]

    @property
    def grams(self) -> float:
        """What all of it weighs [g]. Source: none, a sum."""
        return sum(each.line.grams for _, each in self.things)


def bundles(course: Course) -> list[Bundle]:
    """Drop bags by place, then what every helper carries.

    Args:
        course: whose things wait at the ends of legs or ride on helpers.

    Returns:
        Each in the order of going in: for a drop bag as for a bag by air; a sled has what is heavy
        at the bottom and in the middle too, so that it does not tip.

    Source: common practice, no published source.
    """
    found: dict[tuple[str, LegEnd | None], list[tuple[str, InBag]]] = {}
    for person in course.people:
        on_back = tuple(item.model_copy(update={"on": None}) for item in person.items)
        lines = packing_list(course, person.model_copy(update={"items": on_back}))
        where = {
            item.id: (person.around(item).on or "", person.around(item).waits_at)
            for item in person.items
        } | {piece.id: ("", piece.waits_at) for piece in person.garments}
        for key in dict.fromkeys(where.values()):
            if key == ("", None):
                continue
            mine = [line for line in lines if where.get(line.id) == key]
            found.setdefault(key, []).extend(
                (person.id, each) for each in in_bag(course, person, mine)
            )
    for helper in course.helpers:
        found.setdefault((helper.id, None), []).extend(
            ("", each) for each in _groups(course, helper.id)
        )
    days = sorted(found.items(), key=lambda each: _turn(each[0]))
    return [
        Bundle(
            helper,
            place,
            tuple(sorted(things, key=lambda each: _order(each[1]))),
        )
        for (helper, place), things in days
        if things
    ]


def _turn(key: tuple[str, LegEnd | None]) -> tuple[bool, int, str]:
    helper, place = key
    return bool(helper), place.day if place is not None else 0, helper


def _groups(course: Course, helper: str) -> list[InBag]:
    """Group kit that a helper carries."""
    kits = {kit.id: kit for kit in course.group}
    count = Counter(unit.kit for unit in units(course) if unit.carrier == helper)
    found: list[InBag] = []
    for name, many in count.items():
        kit = kits[name]
        line = Line(
            name,
            kit.name if many == 1 else f"{many} × {kit.name}",
            kit.purpose,
            many * kit.mass_g,
            many * (kit.packed_l or 0.0),
            kit.packed_l is None,
            None,
            kit.fly,
            "group",
        )
        found.append(_placed(line, thing_of(line, kit)))
    return found
