"""Weighing in: when a reading counts, and what a whole pack's difference may come from."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

from caldarium.core.day.states import MomentState
from caldarium.core.load.packing import packing_list
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.findings import Finding

STEADY_OVER = 3
"""Readings in a row that must agree: judgement."""
STEADY_WITHIN_G = 2.0
MOST_EXPLAINED = 24
"""Pieces of a pack that are tried as explanations, heaviest difference first."""
EXPLAINS_WITHIN = 0.15
"""Share of a difference that an explanation may leave open: judgement."""


def steady(readings: Sequence[float], division_g: float) -> float | None:
    """The settled mass, or None while the last readings still differ.

    Args:
        readings: the last ones [g].
        division_g: of the scale.

    Source: judgement, STEADY_OVER.
    """
    last = readings[-STEADY_OVER:]
    if len(last) < STEADY_OVER or max(last) - min(last) > max(STEADY_WITHIN_G, 2 * division_g):
        return None
    return sum(last) / len(last)


POCKET_G, POCKET_SHARE = 15.0, 0.005
"""Difference of a whole pack that is not worth a word [g], and as a share of it: judgement."""


CandidateReason = Literal["not in it", "in it twice", "less water", "more water", "estimates off"]
"""Why a pack may weigh other than its sum. Names: the pieces. Figures: litres of water."""


@dataclass(frozen=True)
class Candidate:
    """What may explain a difference, and how much it leaves open [g]."""

    why: Finding[CandidateReason]
    open_g: float


@dataclass(frozen=True)
class PackCheck:
    """A whole pack on a scale: what it weighs and what was computed [g], whether that is as it
    should be, and what may explain a difference."""

    measured_g: float
    computed_g: float
    agrees: bool
    candidates: tuple[Candidate, ...]


def pack_pieces(
    course: Course, person: Person, states: Sequence[MomentState]
) -> list[tuple[str, str, float]]:
    """What should be in a pack: ids, names and masses [g], food and water apart.

    Args:
        course: for shelters and the group's kit.
        person: whose.
        states: what they wear; what is worn on the first walk is not in it.

    Source: the plan's own pieces.
    """
    worn = next((state.worn for state in states if state.kind == "moving"), ())
    worn = {*worn, *(item.id for item in person.items if item.worn)}
    return [
        (line.id, line.name, line.grams)
        for line in packing_list(course, person)
        if line.id not in worn and line.grams > 0 and line.kind not in ("share", "provisions")
    ]


def check_pack(
    course: Course,
    person: Person,
    states: Sequence[MomentState],
    carried_kg: float,
    measured_g: float,
    estimated: Collection[str],
) -> PackCheck:
    """A whole pack against its computed sum.

    Args:
        course, person: the plan.
        states: what they wear at each moment.
        carried_kg: the plan's own sum for this pack [kg].
        measured_g: on the hanging scale [g].
        estimated: ids of pieces whose masses are only estimated.

    Source: the plan's own sum; POCKET_G and explained are judgement.
    """
    computed = 1000 * carried_kg
    tolerance = max(POCKET_G, POCKET_SHARE * computed)
    pieces = [
        (name, mass, piece in estimated)
        for piece, name, mass in pack_pieces(course, person, states)
    ]
    candidates = explained(measured_g, computed, pieces, tolerance)
    return PackCheck(
        measured_g, computed, abs(measured_g - computed) <= tolerance, tuple(candidates)
    )


def explained(
    measured_g: float,
    computed_g: float,
    pieces: Sequence[tuple[str, float, bool]],
    tolerance_g: float,
) -> list[Candidate]:
    """Candidates for why a whole pack weighs other than its computed sum, best first.

    Args:
        measured_g: on the hanging scale [g].
        computed_g: the sum of what should be in it [g].
        pieces: names, masses [g], and whether a mass is only estimated.
        tolerance_g: below which there is nothing to explain.

    Returns:
        Single pieces, pairs, double pieces, water and estimates that come close.

    Source: judgement; forgetting a piece, packing it twice and full bottles are common practice,
        no published source.
    """
    difference = measured_g - computed_g
    if abs(difference) <= tolerance_g:
        return []
    found: list[Candidate] = []
    near = sorted(pieces, key=lambda each: abs(each[1] - abs(difference)))[:MOST_EXPLAINED]
    missing = difference < 0
    single: CandidateReason = "not in it" if missing else "in it twice"
    for name, mass, _ in near:
        found.append(Candidate(Finding(single, (name,)), abs(abs(difference) - mass)))
    if missing:
        for (one, first, _), (two, second, _) in combinations(near, 2):
            both = abs(abs(difference) - first - second)
            found.append(Candidate(Finding("not in it", (one, two)), both))
    litres = abs(difference) / 1000
    if 0.2 <= litres <= 4:
        water: CandidateReason = "less water" if missing else "more water"
        found.append(Candidate(Finding(water, figures=(litres,)), 0.05 * abs(difference)))
    guessed = [name for name, _, estimated in pieces if estimated]
    total = sum(mass for _, mass, estimated in pieces if estimated)
    if guessed and abs(difference) < 0.5 * total:
        why: Finding[CandidateReason] = Finding("estimates off", tuple(guessed[:4]))
        found.append(Candidate(why, 0.1 * abs(difference)))
    limit = max(EXPLAINS_WITHIN * abs(difference), tolerance_g)
    close = [each for each in found if each.open_g <= limit]
    return sorted(close, key=lambda each: each.open_g)[:5]
