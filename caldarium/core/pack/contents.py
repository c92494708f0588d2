"""What is in somebody's pack on one morning, and what each piece is like to pack."""

import math
import re
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from caldarium.core.assess import Assessment
from caldarium.core.day.dressing import MOVING
from caldarium.core.load.load_hours import is_away
from caldarium.core.load.packing import Line, packing_list
from caldarium.core.pack.zones import on_the_back, packs_of
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment, GroupKit, Item
from caldarium.core.plan.rucksack import Mark
from caldarium.core.timeline.moments import Moment, Timeline
from caldarium.core.waiting import absent

Role = Literal[
    "bed",
    "pad",
    "clothes",
    "shelter",
    "cook",
    "fuel",
    "food",
    "lunch",
    "water",
    "filter",
    "light",
    "way",
    "aid",
    "safety",
    "sun",
    "tool",
    "other",
]
"""What a piece is to the one who packs."""
LUNCH_SHARE = 0.4
"""Of a day's food, what is eaten between breakfast and camp: judgement."""
BOTTLE_L, MOST_BOTTLES = 1.05, 6
"""What one bottle holds [L], where nobody says, and how many are packed one by one: judgement."""
WATER_SPARE_L = 0.1
"""Room of an empty bottle beside its water [L]: judgement."""
NOBODYS = "nobodys"
"""The id of a share of group kit that nobody was given yet."""
LEAST_G = 1.0
"""What weighs less is in a pocket anyway [g]."""
SHARP = ("axe", "crampon", "spike", "saw", "screw", "knife")
CRUSHABLE = ("helmet", "lens", "glasses", "goggles", "camera", "egg")
HARD = re.compile(r"\b(pot|stove|pan|mug|cup|tin|burner|kettle|shovel|gas can|fuel can)s?\b", re.I)
ROUND = re.compile(r"\b(pot|kettle|helmet|gas can|fuel can|melon|ball)s?\b", re.I)
FLAT = re.compile(r"\b(map|book|tablet|sit pad|notebook|foil blanket)s?\b", re.I)
LONG = re.compile(r"\b(pole|probe|ice axe|paddle|tripod)s?\b", re.I)
"""Words in a name by which things are taken for hard, round, flat or long: judgement."""
LOOSE, COMPRESSED = 1.3, 0.7
"""Room of something soft that lies loose, and that is pressed, over that in its sack: judgement."""
SOFT_ROLES: tuple[Role, ...] = ("bed", "clothes")
SUN, SPARE = ("sun", "shade"), ("spare",)
"""Words in a name by which things are taken for sharp, crushable, against the sun or spare:
judgement."""
_ROLE_OF_KIND: dict[str, Role] = {
    "cook": "cook",
    "fuel": "fuel",
    "food": "food",
    "water": "water",
    "light": "light",
    "navigation": "way",
    "communication": "way",
    "first aid": "aid",
    "repair": "tool",
    "snow and technical": "tool",
    "shelter part": "shelter",
}
_MARKS: dict[Role, tuple[Mark, ...]] = {
    "bed": ("keep dry",),
    "fuel": ("leaks",),
    "water": ("freezes",),
    "filter": ("freezes",),
    "light": ("crushable",),
}
"""What pieces of a role are like, by default: common practice, no published source."""
WET_FROM_G = 20.0
"""Water on a shelter from which it goes in wet [g]: judgement."""


@dataclass(frozen=True)
class Content:
    """One thing in a pack: its mass [g], its room [L], whether that is estimated, what it is to the
    one who packs, what it is like, whether by the user's word, and whether it goes in wet; garment
    where it is clothing; part of how many alike, as of bottles; bundle what stays
    together with it; barrier a dry sack of its own."""

    id: str
    name: str
    grams: float
    litres: float
    estimated: bool
    role: Role
    marks: frozenset[Mark]
    said: bool = False
    wet: bool = False
    spare: bool = False
    garment: Garment | None = None
    part: tuple[int, int] = (1, 1)
    bundle: str = ""
    barrier: bool = False

    @property
    def may_get_wet(self) -> bool:
        """Whether water round it does no harm. Source: its marks and its own dry sack."""
        return "keep dry" not in self.marks or self.barrier


def first_walk(timeline: Timeline, day: int) -> Moment | None:
    """The moment at which a pack is put on in the morning; None on a day without a walk.

    Source: the course's own plan.
    """
    walks = (m for m in timeline.moments if m.day == day and m.kind in MOVING)
    return min(walks, key=lambda moment: moment.start, default=None)


def mornings(course: Course, timeline: Timeline) -> list[int]:
    """Days on which a pack is carried. Source: the course's own plan."""
    return [day for day in range(len(course.days)) if first_walk(timeline, day) is not None]


def contents(course: Course, person: Person, result: Assessment, day: int) -> list[Content]:
    """Everything in somebody's pack as they set out on a day.

    What they wear then, what waits elsewhere, what helpers carry and what is eaten by then is not
    in it; what is inside another thing goes with it.

    Args:
        course, person: whose pack.
        result: what was found for the course.
        day: of the course, from 0, with a walk.

    Source: the course's own plan and the load's own sums; LUNCH_SHARE.
    """
    walk = first_walk(result.timeline, day)
    if walk is None:
        return []
    found = result.of(person.id)
    state = next(each for each in found.moments if each.moment == walk.id)
    on_body = set(state.worn) | absent(person, result.timeline).get(walk.id, frozenset())
    items = {item.id: item for item in person.items}
    times = np.array([walk.start])
    away = {
        item.id
        for item in person.items
        if is_away(
            person.around(item).waits_at, person.around(item).left_at, result.timeline, times
        )[0]
    }
    carried = pack_on(person, result.timeline, walk)
    waits = _bed_that_waits(person, day)
    kits = {kit.id: kit for kit in course.group}
    garments = {piece.id: piece for piece in person.garments}
    at = int(np.clip(np.searchsorted(result.timeline.hours.hour, walk.start), 0, None))
    at = min(at, len(found.load.hour) - 1)
    lines: list[Content] = []
    inside: dict[str, list[Line]] = {}
    nobodys: list[Line] = []
    for line in packing_list(course, person):
        if line.grams < LEAST_G or line.kind == "provisions":
            continue
        if line.kind == "garment":
            piece = garments[line.id]
            if line.id not in on_body and not (piece.always and not piece.spare):
                lines.append(_clothes(line, piece))
        elif line.kind == "item":
            item = items[line.id]
            around = person.around(item)
            if item is carried or item.worn or line.id in away:
                continue
            if item.inside is not None and around is not carried:
                inside.setdefault(around.id, []).append(line)
            else:
                lines.append(thing_of(line, item))
        elif line.kind == "share" and line.id in kits:
            nobodys.append(line)
        elif line.id not in waits:
            lines.append(thing_of(line, kits.get(line.id)))
    fuel = {line.id: line.grams * _net(kits.get(line.id) or items.get(line.id)) for line in lines}
    listed = [_with_inside(each, inside.get(each.id, [])) for each in lines]
    listed = _wetted(listed, found.load.wet[at] * 1000)
    listed = _water(listed, found.load.water[at])
    if nobodys:
        fuel[NOBODYS] = sum(line.grams * _net(kits[line.id]) for line in nobodys)
        listed.append(_share(nobodys))
    listed = _provisions(course, person, listed, fuel, found.load.provisions[at] * 1000)
    return [_as_said(person, each) for each in listed]


def pack_on(person: Person, timeline: Timeline, walk: Moment) -> Item | None:
    """The pack on somebody's back at a walk: of those that do not wait elsewhere the largest.

    Source: the course's own plan; see on_the_back.
    """
    times = np.array([walk.start])
    there = [
        item
        for item in packs_of(person)
        if not is_away(person.around(item).waits_at, person.around(item).left_at, timeline, times)[
            0
        ]
    ]
    return on_the_back(there)


def _bed_that_waits(person: Person, day: int) -> frozenset[str]:
    """Parts of a person's own bed that wait elsewhere on a day, and its cot."""
    other = person.bed_without_own(day)
    if other is None:
        return frozenset()
    there = {part.id for part in other.parts}
    cot = () if other.bedding.cot_g else ("cot",)
    return frozenset((*(p.id for p in person.own_bed.parts if p.id not in there), *cot))


def _share(lines: list[Line]) -> Content:
    """Somebody's share of group kit that nobody was given yet, as one thing."""
    return Content(
        NOBODYS,
        NOBODYS,
        sum(line.grams for line in lines),
        sum(line.litres for line in lines),
        True,
        "other",
        frozenset[Mark](),
    )


def _net(kit: Item | GroupKit | None) -> float:
    """Share of a thing's mass that is fuel [0 to 1]."""
    return 0.0 if kit is None or not kit.net_g else kit.net_g / max(kit.mass_g, kit.net_g)


def _wetted(listed: list[Content], grams: float) -> list[Content]:
    """The list with the water that is on the shelter."""
    dry = sum(each.grams for each in listed if each.role == "shelter")
    if grams < WET_FROM_G or dry <= 0:
        return listed
    return [
        replace(each, grams=each.grams * (1 + grams / dry), wet=True)
        if each.role == "shelter"
        else each
        for each in listed
    ]


def named(name: str, words: tuple[str, ...]) -> bool:
    """Whether any of some words is in a name. Source: none, bookkeeping."""
    lower = name.lower()
    return any(word in lower for word in words)


def content_of(course: Course, person: Person, line: Line) -> Content:
    """One line of somebody's packing list as a thing to pack.

    Source: the plan; what it is like by its kind, common practice, no published source.
    """
    piece = next((each for each in person.garments if each.id == line.id), None)
    if line.kind == "garment" and piece is not None:
        return _clothes(line, piece)
    things = (*person.items, *course.group)
    return thing_of(line, next((each for each in things if each.id == line.id), None))


def _clothes(line: Line, piece: Garment) -> Content:
    soaks = piece.layer in ("base", "insulation", "mid") or piece.spare
    marks: set[Mark] = {"keep dry"} if soaks and not piece.shades else set()
    if named(line.name, CRUSHABLE):
        marks.add("crushable")
    return Content(
        line.id,
        line.name,
        line.grams,
        line.litres,
        line.estimated,
        "clothes",
        frozenset(marks),
        spare=piece.spare or piece.only_asleep,
        garment=piece,
    )


def thing_of(line: Line, kit: Item | GroupKit | None) -> Content:
    """A line that is no clothing as a thing to pack. Source: see content_of."""
    role = _role(line, kit)
    marks: set[Mark] = set(_MARKS.get(role, ()))
    if kit is not None and kit.spoils_below_c is not None:
        marks.add("freezes")
    if named(line.name, SHARP):
        marks.add("sharp")
    if named(line.name, CRUSHABLE):
        marks.add("crushable")
    if HARD.search(line.name) and role not in ("bed", "clothes", "pad"):
        marks.add("hard")
    if ROUND.search(line.name) and role not in ("bed", "clothes", "pad"):
        marks.add("round")
    if LONG.search(line.name):
        marks.add("long")
    if FLAT.search(line.name):
        marks.add("flat")
    if role == "pad" and line.litres > 8:
        marks.add("outside")
    return Content(
        line.id,
        line.name,
        line.grams,
        line.litres,
        line.estimated,
        role,
        frozenset(marks),
        spare=(isinstance(kit, Item) and kit.spare) or named(line.name, SPARE),
        bundle=kit.bundle if isinstance(kit, GroupKit) else "",
    )


_ROLE_OF_LINE: dict[str, Role] = {
    "bag": "bed",
    "liner": "bed",
    "cover": "bed",
    "hammock": "bed",
    "pad": "pad",
    "part": "shelter",
}
_ROLE_OF_PURPOSE: dict[str, Role] = {
    "shelter": "shelter",
    "safety": "safety",
    "food and water": "cook",
    "sleep": "bed",
}


def _role(line: Line, kit: Item | GroupKit | None) -> Role:
    kind = kit.kind if kit is not None else ""
    if kind == "water" and kit is not None and kit.spoils_below_c is not None:
        return "filter"
    if line.kind not in _ROLE_OF_LINE and named(line.name, SUN):
        return "sun"
    by_purpose = _ROLE_OF_PURPOSE.get(line.purpose, "other")
    if by_purpose == "safety" and named(line.name, ("first aid",)):
        by_purpose = "aid"
    return _ROLE_OF_LINE.get(line.kind) or _ROLE_OF_KIND.get(kind) or by_purpose


def _with_inside(around: Content, lines: list[Line]) -> Content:
    """A thing with what is in it: all of the mass, and the room of whichever is more."""
    if not lines:
        return around
    return replace(
        around,
        grams=around.grams + sum(line.grams for line in lines),
        litres=max(around.litres, sum(line.litres for line in lines)),
        estimated=around.estimated or any(line.estimated for line in lines),
    )


def _water(listed: list[Content], litres: float) -> list[Content]:
    """The list with what is in the bottles, bottle by bottle."""
    bottles = [each for each in listed if each.role == "water"]
    if litres <= 0:
        return listed
    empty = sum(each.grams for each in bottles)
    first = bottles[0] if bottles else None
    count = min(max(math.ceil(litres / BOTTLE_L - 1e-6), 1), MOST_BOTTLES)
    name = first.name if first is not None else "water"
    full = [
        Content(
            (first.id if first is not None else "water") + (f"-{at + 1}" if at else ""),
            name,
            (empty + 1000 * litres) / count,
            litres / count + WATER_SPARE_L,
            True,
            "water",
            frozenset[Mark](("freezes",)),
            part=(at + 1, count),
        )
        for at in range(count)
    ]
    return [each for each in listed if each.role != "water"] + full


def _provisions(
    course: Course, person: Person, listed: list[Content], fuel: dict[str, float], grams: float
) -> list[Content]:
    """The list with the food and fuel that are left, in proportion to what there was of each, the
    day's lunch apart; cans keep their own mass."""
    lines = [line for line in packing_list(course, person) if line.kind == "provisions"]
    whole = sum(line.grams for line in lines) + sum(fuel.values())
    left = grams / whole if whole > 0 else 0.0
    found = [
        replace(each, grams=each.grams - fuel.get(each.id, 0.0) * (1 - left)) for each in listed
    ]
    leaks, nothing = frozenset[Mark](("leaks",)), frozenset[Mark]()
    for line in lines:
        mass, room = line.grams * left, line.litres * left
        if line.name != "food":
            found.append(Content(line.id, line.name, mass, room, True, "fuel", leaks))
            continue
        lunch = min(LUNCH_SHARE * line.grams / max(line.days, 1), mass)
        share = lunch / mass if mass > 0 else 0.0
        found.append(Content("lunch", "lunch", lunch, room * share, True, "lunch", nothing))
        rest, room = mass - lunch, room * (1 - share)
        found.append(Content(line.id, line.name, rest, room, True, "food", nothing))
    return [each for each in found if each.grams >= LEAST_G]


def _as_said(person: Person, content: Content) -> Content:
    said = person.rucksack.said_of(content.id)
    if said is None:
        return content
    if said.packed is not None and content.role in SOFT_ROLES:
        room = {"loose": LOOSE, "compressed": COMPRESSED}.get(said.packed, 1.0)
        content = replace(content, litres=content.litres * room)
        content = replace(content, barrier=said.packed == "dry sack")
    if said.marks is None:
        return content
    return replace(content, marks=frozenset(said.marks), said=True)
