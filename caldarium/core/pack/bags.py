"""Bags by air: what goes in at the bottom, in the middle and on top."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from caldarium.core.load.packing import Line
from caldarium.core.pack.contents import Content, Role, content_of
from caldarium.core.plan.course import Course, Person

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
    found: list[InBag] = []
    for line in lines:
        content = content_of(course, person, line)
        piece = content.garment
        shell = piece is not None and piece.layer == "shell"
        place: Place = "middle"
        if content.role in FIRST_ROLES or shell:
            place = "top"
        elif not ("crushable" in content.marks or content.role in SOFT or content.grams < HEAVY_G):
            place = "bottom"
        found.append(InBag(line, content, place))
    return sorted(found, key=lambda each: (PLACES.index(each.place), -each.line.grams))
