"""What is wrong with a shelter on a night: wind, anchors, poles, wishes, stove, water, and room."""

from collections.abc import Sequence

from caldarium.core.night.bedding import shoulders_cm
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Shelter
from caldarium.core.plan.route import Camp

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
    course: Course, shelter: Shelter, sleepers: list[Person], day: int, gust: float
) -> list[str]:
    """What makes a shelter unfit for a night.

    Args:
        course: the plan.
        shelter, sleepers: it and who sleeps in it.
        day: at the end of which the night is.
        gust: planned for in the open [m/s].

    Source: what it stands is its owner's figure; the rest judgement and common practice, no
        published source.
    """
    faults: list[str] = []
    camp = course.days[day].camp
    windbreak = camp.windbreak if camp else "nothing"
    at_walls = gust_at_walls(gust, windbreak, shelter.kind)
    if at_walls > shelter.gust_ms:
        faults.append(_blown_down(shelter, gust, windbreak))
    if len(sleepers) > shelter.places:
        faults.append(f"{len(sleepers)} sleepers in {shelter.places} places")
    ground: set[str] = set(camp.anchors if camp else ())
    held = shelter.kind in BUILT or (shelter.stands_free and at_walls <= STAND_FREE_TO)
    if not ground & set(shelter.anchors) and not held:
        takes = " or ".join(camp.anchors) if camp and camp.anchors else "no anchors"
        faults.append(f"the ground takes {takes}, it came with {' and '.join(shelter.anchors)}")
    if camp and camp.cooking == "inside" and shelter.kind not in BUILT:
        faults.append("a stove inside fabric kills by fire or by carbon monoxide; cook outside")
    here = {person.id for person in sleepers}
    for what, carriers in (
        ("its poles walk", set(shelter.poles_from)),
        ("parts of it walk", {part.carried_by for part in shelter.parts if part.carried_by}),
    ):
        elsewhere = carriers - here
        if elsewhere:
            names = [p.name for p in course.people if p.id in elsewhere] or ["somebody gone"]
            faults.append(f"{what} with {', '.join(names)}, who sleeps elsewhere")
    if shelter.kind == "group shelter":
        faults.append("a group shelter is for holds: people sit in it, nobody lies down")
    faults += broken_rules(course, shelter.id)
    return faults


def _blown_down(shelter: Shelter, gust: float, windbreak: str) -> str:
    """That gusts pass what a shelter stands, and the least windbreak with which it would."""
    told = "gusts pass what it stands"
    if shelter.kind in BUILT:
        return f"{told}; move camp"
    share = WINDBREAKS[windbreak]
    enough = [
        each for each, left in WINDBREAKS.items()
        if left < share and gust * left <= shelter.gust_ms
    ]  # fmt: skip
    cures = {
        "narrow end into it": "turned narrow end into it, it would stand",
        "a wall": "behind a wall it would stand",
        "both": "behind a wall and turned narrow end into it, it would stand",
    }
    return f"{told}; {cures[enough[0]] if enough else 'move camp'}"


def notes_on(shelter: Shelter, sleepers: list[Person], rain: float, camp: Camp | None) -> list[str]:
    """What asks for care on a night and makes no shelter unfit.

    Args:
        shelter, sleepers: it and who sleeps in it.
        rain: through the night [mm].
        camp: where it stands.

    Source: judgement and common practice, no published source.
    """
    notes: list[str] = []
    if camp and camp.windbreak in ("a wall", "both") and shelter.kind not in BUILT:
        notes.append(
            "counted on a wall on the windward side: build it as high as the shelter and a little "
            "apart from it, before the wind comes, and clear drift from behind it"
        )
    if camp and camp.cooking == "porch" and shelter.kind not in BUILT:
        notes.append(
            "cooking in the porch: door open, stove lit outside and brought back, nothing hung "
            "over it, a way out at the other end"
        )
    elif camp and camp.cooking == "inside":
        notes.append(
            "cooking inside: a hole as wide as a fist high and one low, both kept open; a headache "
            "is carbon monoxide until proved otherwise"
        )
    insects = camp is not None and camp.insects
    return [*notes, *_weak_points(shelter, rain, insects), *_room(shelter, sleepers)]


def _weak_points(shelter: Shelter, rain: float, insects: bool) -> list[str]:
    """What lets water or insects in, or asks for care."""
    found: list[str] = []
    if shelter.condition != "sound":
        found.append(f"it is {shelter.condition}: pitch it once before it is needed")
    if insects and not shelter.net:
        found.append("insects come in: take head nets or a hanging net")
    if rain >= WET_NIGHT:
        if shelter.wall_mm is not None and shelter.wall_mm < DRY_WALL:
            found.append(f"a wall of {shelter.wall_mm:.0f} mm leaks in long rain")
        if shelter.floor_mm is not None and shelter.floor_mm < DRY_FLOOR:
            found.append(f"a floor of {shelter.floor_mm:.0f} mm leaks under a knee on wet ground")
        if shelter.inner_first:
            found.append("the inner is pitched first and gets wet: hold the fly over it")
        if shelter.kind in OPEN_SIDES:
            found.append("rain and wind come in under a tarp: pitch it low, keep bags in covers")
    return found


def _room(shelter: Shelter, sleepers: list[Person]) -> list[str]:
    """What does not fit."""
    found: list[str] = []
    wide = sum(width_m(person) for person in sleepers)
    if shelter.width_m is not None and wide > shelter.width_m:
        found.append(f"sleepers need {wide:.1f} m side by side, it is {shelter.width_m:g} m wide")
    tallest = max(sleepers, key=lambda person: person.height_m)
    if shelter.length_m is not None and tallest.height_m + LOFT_M > shelter.length_m:
        found.append(
            f"the foot of {tallest.name}'s bag touches the wall and gets wet: "
            f"{tallest.height_m:g} m in {shelter.length_m:g} m"
        )
    needed = WET_KIT_M2 * len(sleepers)
    if kit_room(shelter, sleepers) < needed:
        found.append(
            f"packs, boots and wet clothes need about {needed:.1f} m² beside the sleepers; "
            "bag what stays outside"
        )
    return found


def kit_room(shelter: Shelter, sleepers: Sequence[Person]) -> float:
    """Floor and porch beside the sleepers [m²]; NaN where the shelter was not measured.

    Source: sleepers' own sizes.
    """
    if not (shelter.length_m and shelter.width_m):
        return float("nan")
    lying = sum(width_m(person) * (person.height_m + LOFT_M) for person in sleepers)
    return shelter.length_m * shelter.width_m - lying + (shelter.porch_m2 or 0.0)


def broken_rules(course: Course, shelter: str) -> list[str]:
    """Wishes on who sleeps with whom that a shelter breaks. Source: the course's own rules."""
    where = {person.id: person.shelter for person in course.people}
    names = {person.id: person.name.split()[0] for person in course.people}
    found: list[str] = []
    for rule in course.sleep_rules:
        told = [each for each in rule.people if each in where]
        here = [each for each in told if where[each] == shelter]
        who = " and ".join(names[each] for each in told)
        if rule.kind == "apart" and len(here) > 1:
            found.append(f"{who} were to sleep apart")
        elif rule.kind == "together" and here and len(here) < len(told):
            found.append(f"{who} were to sleep together")
    return found


def width_m(person: Person) -> float:
    """What a sleeper takes side by side: pad or shoulders with a little room [m].

    Source: ROOM_A_SLEEPER.
    """
    pads = [pad.width_cm for pad in person.pads if pad.width_cm]
    return max(shoulders_cm(person) + ROOM_A_SLEEPER, *pads, 0.0) / 100
