"""When each piece of a pack is needed that day, and how fast."""

import math
from dataclasses import dataclass
from typing import Literal

from caldarium.core.assess import Assessment
from caldarium.core.day.dressing import MOVING, SHELL_RAIN
from caldarium.core.pack.contents import Content, Role, first_walk, named
from caldarium.core.plan.course import Person
from caldarium.core.timeline.moments import Moment, Timeline

Why = Literal[
    "put on at halts",
    "put on in rain",
    "put on while walking",
    "put on in a hold",
    "put on at camp",
    "if the weather turns",
    "may be put on",
    "kept dry to the end",
    "any time",
    "every hour",
    "at lunch",
    "in the dark",
    "may get dark",
    "in the sun",
    "first at camp",
    "for the night",
    "to cook at camp",
    "not before camp",
    "to mend",
    "on the snow",
]
"""For what a piece is needed next."""


@dataclass(frozen=True)
class Need:
    """When a piece is needed next [h of the course, infinite where not that day], for what, and how
    much hurry there is: 0 none, 1 once a day without haste, 3 at once with cold hands."""

    hour: float
    why: Why
    hurry: float


HURRY: dict[Why, float] = {
    "put on at halts": 2.6,
    "put on in rain": 3.0,
    "put on while walking": 2.2,
    "put on in a hold": 2.0,
    "put on at camp": 0.4,
    "if the weather turns": 1.7,
    "may be put on": 0.5,
    "kept dry to the end": 0.0,
    "any time": 2.4,
    "every hour": 2.6,
    "at lunch": 1.8,
    "in the dark": 2.4,
    "may get dark": 1.4,
    "in the sun": 1.6,
    "first at camp": 0.9,
    "for the night": 0.1,
    "to cook at camp": 0.3,
    "not before camp": 0.15,
    "to mend": 0.8,
    "on the snow": 1.9,
}
"""Judgement, in the order that is common practice, no published source."""
TECHNICAL = ("axe", "crampon", "spike", "rope", "harness", "screw", "snowshoe", "ski", "helmet")
"""Words in a name by which things are taken for those that a snow or glacier leg asks for:
judgement."""
_BY_ROLE: dict[Role, Why] = {
    "bed": "for the night",
    "pad": "for the night",
    "shelter": "first at camp",
    "cook": "to cook at camp",
    "fuel": "to cook at camp",
    "food": "not before camp",
    "lunch": "at lunch",
    "water": "every hour",
    "filter": "every hour",
    "way": "any time",
    "aid": "any time",
    "safety": "any time",
    "sun": "in the sun",
    "tool": "to mend",
    "other": "not before camp",
}


def needs_of(
    person: Person, result: Assessment, day: int, contents: list[Content]
) -> dict[str, Need]:
    """When each piece of a pack is next needed on a day, by its id.

    Args:
        person, result: whose, and what was found for the course.
        day: with a walk.
        contents: from contents.

    Source: the outfits that the assessment chose; by role, common practice, no published source.
    """
    walk = first_walk(result.timeline, day)
    if walk is None:
        return {}
    later = [
        m
        for m in result.timeline.moments
        if m.day == day and m.start >= walk.start and m.kind != "night" and m.id != walk.id
    ]
    worn = {m.moment: frozenset(m.worn) for m in result.of(person.id).moments}
    halt = next((m.start for m in later if m.kind == "halt"), walk.start)
    camp = next((m.start for m in later if m.kind == "camp"), math.inf)
    icy = _on_snow(result.timeline, day)
    dark = next((m.start for m in later if m.kind in (*MOVING, "halt") and m.dark_hours > 0), None)
    found: dict[str, Need] = {}
    for each in contents:
        if each.role == "clothes":
            found[each.id] = _of_clothes(each, later, worn)
        elif each.role == "light":
            why: Why = "may get dark" if dark is None else "in the dark"
            found[each.id] = Need(math.inf if dark is None else dark, why, HURRY[why])
        elif each.role == "tool" and icy is not None and named(each.name, TECHNICAL):
            found[each.id] = Need(icy, "on the snow", HURRY["on the snow"])
        else:
            why = "kept dry to the end" if each.spare else _BY_ROLE[each.role]
            hours = {"at lunch": halt, "every hour": walk.start, "any time": walk.start}
            found[each.id] = Need(hours.get(why, camp), why, HURRY[why])
    return found


def _on_snow(timeline: Timeline, day: int) -> float | None:
    """When a day first goes over snow or a glacier [h of the course], None where it does not."""
    for stage in timeline.stages[day]:
        if stage.walk is not None and (stage.leg.on_snow or stage.leg.glacier):
            return 24 * day + stage.start
    return None


def _of_clothes(content: Content, later: list[Moment], worn: dict[str, frozenset[str]]) -> Need:
    """The most hurried time at which a garment goes on, and the first such."""
    piece = content.garment
    nothing: frozenset[str] = frozenset()
    best = Need(math.inf, "may be put on", HURRY["may be put on"])
    if content.spare:
        best = Need(math.inf, "kept dry to the end", 0.0)
    elif (
        piece is not None and piece.waterproof and any(m.precipitation > SHELL_RAIN for m in later)
    ):
        first = next(m.start for m in later if m.precipitation > SHELL_RAIN)
        best = Need(first, "put on in rain", HURRY["put on in rain"])
    elif piece is not None and piece.layer == "shell":
        best = Need(math.inf, "if the weather turns", HURRY["if the weather turns"])
    for moment in later:
        if content.id not in worn.get(moment.id, nothing):
            continue
        why = _why(moment)
        if HURRY[why] > best.hurry or (why == best.why and moment.start < best.hour):
            best = Need(moment.start, why, HURRY[why])
    return best


def _why(moment: Moment) -> Why:
    if moment.kind == "hold":
        return "put on in a hold"
    if moment.kind in ("camp", "dawn"):
        return "put on at camp"
    return "put on at halts" if moment.kind == "halt" else "put on while walking"
