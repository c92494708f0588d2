"""What is wrong with a shelter on a night: wind, anchors, poles, wishes, stove, water, and room."""

from collections.abc import Sequence
from typing import Literal

from caldarium.core.night.bedding import shoulders_cm
from caldarium.core.physics.wind import gust_at_mast
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.kit import Shelter
from caldarium.core.plan.route import Camp

FaultReason = Literal[
    "blown down",
    "too many sleepers",
    "no hold",
    "stove inside",
    "poles walk",
    "parts walk",
    "only sits",
    "not apart",
    "not together",
    "hammock inside",
    "poles missing",
    "wet inner",
]
"""Why a shelter is unfit. Names: the least windbreak with which it would stand (blown down, none
where none would), who carries (poles, parts walk), who they are (not apart, not together), and for
"no hold" what the ground takes before what it came with, divided by an empty name; who hangs in a
shelter that takes no hammock. Figures: sleepers and places (too many sleepers), poles needed and
there (poles missing)."""
NoteReason = Literal[
    "build the wall",
    "cooking in the porch",
    "cooking inside",
    "doubtful condition",
    "insects",
    "thin wall",
    "thin floor",
    "inner first",
    "open sides",
    "too narrow",
    "wet foot",
    "no room for kit",
    "sloping",
]
"""What asks for care. Names: the condition, or whose foot. Figures: water columns [mm]; needed and
present [m, or m² for kit]; slope [degrees]."""
Fault = Finding[FaultReason]
Note = Finding[NoteReason]
WINDBREAKS = {"nothing": 1.0, "narrow end into it": 0.85, "a wall": 0.7, "both": 0.6}
"""Share of the gust that is left at the walls of a shelter turned narrow end into the wind, or
behind a wall of snow or stones as high as it: judgement."""
ROOM_A_SLEEPER, LOFT_M = 12.0, 0.25
"""Room beside the shoulders [cm], and beyond a sleeper's length before the bag's foot touches a
wall [m]: judgement; a wet foot there is common practice, no published source."""
DRY_WALL, DRY_FLOOR = 1000.0, 2000.0
"""Water columns under which a wall leaks in long rain, and a floor under a knee [mm]: judgement."""
WET_NIGHT = 8.0
"""Rain in a night from which a thin wall or floor is worth a word [mm]: judgement."""
BUILT = {"snow shelter", "igloo", "bothy", "hut"}
"""Kinds that stand where they are, without anchors."""
OPEN_SIDES = {"tarp", "hammock tarp"}
HANGS = {"tarp", "hammock tarp", "bothy", "hut"}
"""Kinds under which a hammock can hang."""
POLES_EACH = 2
LEVEL = 4.0
"""Slope from which sleepers slide off their pads [degrees]: judgement."""
WET_KIT_M2 = 0.35
"""Floor or porch that a sleeper's pack, boots and wet clothes take [m²]: judgement."""
STAND_FREE_TO = 10.0
"""Gust to which a free-standing shelter stays where it is without anchors, with people in it
[m/s]: judgement."""


def gust_at_walls(gust: float, windbreak: str, kind: str) -> float:
    """Gust at a shelter's walls behind what breaks it [m/s]; what is built stands in the open.

    Source: WINDBREAKS.
    """
    return gust if kind in BUILT else gust * WINDBREAKS[windbreak]


def faults_of(
    course: Course, shelter: Shelter, sleepers: list[Person], day: int, gust: float, rain: float
) -> list[Fault]:
    """What makes a shelter unfit for a night.

    Args:
        course: the plan.
        shelter, sleepers: it and who sleeps in it.
        day: at the end of which the night is.
        gust: planned for in the open [m/s].
        rain: through the night [mm].

    Source: what it stands is its owner's figure; the rest judgement and common practice, no
        published source.
    """
    faults: list[Fault] = []
    camp = course.days[day].camp
    windbreak = camp.windbreak if camp else "nothing"
    at_walls = gust_at_walls(gust, windbreak, shelter.kind)
    if at_walls > stands_at_mast(shelter):
        faults.append(_blown_down(shelter, gust, windbreak))
    faults += _misfits(shelter, sleepers)
    if camp and shelter.inner_first and camp.ground == "saturated" and rain >= WET_NIGHT:
        faults.append(Finding("wet inner"))
    ground: set[str] = set(camp.anchors if camp else ())
    held = shelter.kind in BUILT or (shelter.stands_free and at_walls <= STAND_FREE_TO)
    if not ground & set(shelter.anchors) and not held:
        takes = camp.anchors if camp else ()
        faults.append(Finding("no hold", (*takes, "", *shelter.anchors)))
    if camp and camp.cooking == "inside" and shelter.kind not in BUILT:
        faults.append(Finding("stove inside"))
    here = {person.id for person in sleepers}
    carriers: dict[FaultReason, set[str]] = {
        "poles walk": set(shelter.poles_from),
        "parts walk": {part.carried_by for part in shelter.parts if part.carried_by},
    }
    for reason, who in carriers.items():
        elsewhere = who - here
        if elsewhere:
            names = tuple(each.name for each in course.people if each.id in elsewhere)
            faults.append(Finding(reason, names))
    if shelter.kind == "group shelter":
        faults.append(Finding("only sits"))
    faults += broken_rules(course, shelter.id)
    return faults


def stands_at_mast(shelter: Shelter) -> float:
    """Gust that a shelter stands, at the height that forecasts are for [m/s].

    Source: core.physics.wind.
    """
    return float(gust_at_mast(shelter.gust_ms, shelter.gust_at_m))


def _misfits(shelter: Shelter, sleepers: list[Person]) -> list[Fault]:
    """People and poles that a shelter does not take, or lacks."""
    found: list[Fault] = []
    if len(sleepers) > shelter.places:
        figures = (float(len(sleepers)), float(shelter.places))
        found.append(Finding("too many sleepers", figures=figures))
    hung = tuple(person.name for person in sleepers if person.bedding.hammock is not None)
    if hung and shelter.kind not in HANGS:
        found.append(Finding("hammock inside", hung))
    lent = POLES_EACH * len(shelter.poles_from)
    if shelter.poles_from and shelter.poles > lent:
        found.append(Finding("poles missing", figures=(float(shelter.poles), float(lent))))
    return found


def _blown_down(shelter: Shelter, gust: float, windbreak: str) -> Fault:
    """That gusts pass what a shelter stands, and the least windbreak with which it would."""
    share = WINDBREAKS[windbreak]
    enough = tuple(
        each
        for each, left in WINDBREAKS.items()
        if shelter.kind not in BUILT and left < share and gust * left <= stands_at_mast(shelter)
    )
    return Finding("blown down", enough[:1])


def notes_on(
    shelter: Shelter, sleepers: list[Person], rain: float, camp: Camp | None
) -> list[Note]:
    """What asks for care on a night and makes no shelter unfit.

    Args:
        shelter, sleepers: it and who sleeps in it.
        rain: through the night [mm].
        camp: where it stands.

    Source: judgement and common practice, no published source.
    """
    notes: list[Note] = []
    if camp and camp.windbreak in ("a wall", "both") and shelter.kind not in BUILT:
        notes.append(Finding("build the wall"))
    if camp and camp.cooking == "porch" and shelter.kind not in BUILT:
        notes.append(Finding("cooking in the porch"))
    elif camp and camp.cooking == "inside":
        notes.append(Finding("cooking inside"))
    if camp and camp.slope_deg > LEVEL and shelter.kind not in BUILT:
        notes.append(Finding("sloping", figures=(camp.slope_deg,)))
    insects = camp is not None and camp.insects
    return [*notes, *_weak_points(shelter, rain, insects), *_room(shelter, sleepers)]


def _weak_points(shelter: Shelter, rain: float, insects: bool) -> list[Note]:
    """What lets water or insects in, or asks for care."""
    found: list[Note] = []
    if shelter.condition != "sound":
        found.append(Finding("doubtful condition", (shelter.condition,)))
    if insects and not shelter.net:
        found.append(Finding("insects"))
    if rain >= WET_NIGHT:
        if shelter.wall_mm is not None and shelter.wall_mm < DRY_WALL:
            found.append(Finding("thin wall", figures=(shelter.wall_mm,)))
        if shelter.floor_mm is not None and shelter.floor_mm < DRY_FLOOR:
            found.append(Finding("thin floor", figures=(shelter.floor_mm,)))
        if shelter.inner_first:
            found.append(Finding("inner first"))
        if shelter.kind in OPEN_SIDES:
            found.append(Finding("open sides"))
    return found


def _room(shelter: Shelter, sleepers: list[Person]) -> list[Note]:
    """What does not fit."""
    found: list[Note] = []
    wide = sum(width_m(person) for person in sleepers)
    if shelter.width_m is not None and wide > shelter.width_m:
        found.append(Finding("too narrow", figures=(wide, shelter.width_m)))
    tallest = max(sleepers, key=lambda person: person.height_m)
    if shelter.length_m is not None and tallest.height_m + LOFT_M > shelter.length_m:
        sizes = (tallest.height_m, shelter.length_m)
        found.append(Finding("wet foot", (tallest.name,), sizes))
    needed = WET_KIT_M2 * len(sleepers)
    room = kit_room(shelter, sleepers)
    if room < needed:
        found.append(Finding("no room for kit", figures=(needed, room)))
    return found


def kit_room(shelter: Shelter, sleepers: Sequence[Person]) -> float:
    """Floor and porch beside the sleepers [m²]; NaN where the shelter was not measured.

    Source: sleepers' own sizes.
    """
    if not (shelter.length_m and shelter.width_m):
        return float("nan")
    lying = sum(width_m(person) * (person.height_m + LOFT_M) for person in sleepers)
    return shelter.length_m * shelter.width_m - lying + (shelter.porch_m2 or 0.0)


def broken_rules(course: Course, shelter: str) -> list[Fault]:
    """Wishes on who sleeps with whom that a shelter breaks. Source: the course's own rules."""
    where = {person.id: person.shelter for person in course.people}
    names = {person.id: person.name.split()[0] for person in course.people}
    found: list[Fault] = []
    for rule in course.sleep_rules:
        told = [each for each in rule.people if each in where]
        here = [each for each in told if where[each] == shelter]
        who = tuple(names[each] for each in told)
        if rule.kind == "apart" and len(here) > 1:
            found.append(Finding("not apart", who))
        elif rule.kind == "together" and here and len(here) < len(told):
            found.append(Finding("not together", who))
    return found


def width_m(person: Person) -> float:
    """What a sleeper takes side by side: pad or shoulders with a little room [m].

    Source: ROOM_A_SLEEPER.
    """
    pads = [pad.width_cm for pad in person.pads if pad.width_cm]
    return max(shoulders_cm(person) + ROOM_A_SLEEPER, *pads, 0.0) / 100
