"""The group's kit and the parts of shelters split fairly between people, by a solver, with reasons.

Kit shared out to the gram would fill the emptiest backs to one level, measured by what each owner
can carry; who is above that level already gets none. Of whole pieces, the split is taken in which
nobody is more above that level than need be. What was given by hand stays where it is.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np

from caldarium.core.load.loads import Load, part_grams
from caldarium.core.physics.quantities import Flags
from caldarium.core.plan.changes import carry_part
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.group_kit import Unit, carried_by, group_grams, units
from caldarium.core.programs import proven_best, quiet_solver

Fairness = Literal["share of body mass", "strength", "budget left"]
FAIRNESS: tuple[Fairness, ...] = ("share of body mass", "strength", "budget left")
CLOSE_ENOUGH_G = 20.0
"""A split is the best to this mass on any back [g]: judgement, less than a bar of chocolate."""
LEAST_ROOM_KG = 0.5
"""Room of somebody over budget already, so that comparing stays possible [kg]: judgement."""
SHAKES = 60
"""How often the first split is shaken before the solver begins."""
LONGEST = 10.0
"""Seconds after which the best split so far is taken, and said not to be proven."""


@dataclass(frozen=True)
class Bundle:
    """Pieces that go together: their places among the units, mass [g], whom they must be with or
    were given to, None for anybody, and those they may be with, nobody named for everybody. No two
    bundles of one name of apart go on one back. A part of a shelter has no places but the ids of
    both."""

    places: tuple[int, ...]
    mass_g: float
    fixed: str | None
    among: tuple[str, ...] = ()
    apart: str = ""
    part: tuple[str, str] | None = None


@dataclass(frozen=True)
class Split:
    """A split by a measure: carrier of every unit in order and of parts of shelters, fullness of
    each person by that measure (1 is all of it) with it and as things are now, the level that
    sharing to the gram would fill the emptiest to, and whether it is proven that nobody could be
    closer to that; clashes are kits of which there are more than backs to keep them apart on, and
    spent people who have nothing left of their budget before they carry any of it."""

    fairness: Fairness
    carriers: tuple[str, ...]
    parts: dict[tuple[str, str], str]
    fullness: dict[str, float]
    level: float
    proven: bool
    now: dict[str, float] = field(default_factory=dict)
    clashes: tuple[str, ...] = ()
    spent: tuple[str, ...] = ()


def bundles(course: Course, listed: Sequence[Unit]) -> list[Bundle]:
    """Units that go together, as the solver moves them.

    Args:
        course: for its kit.
        listed: from group_kit.units.

    Source: the school's own rules; what a helper carries stays there; pieces for every head go to
        every head, parts of a shelter to those who sleep in it.
    """
    return [*_kit_bundles(course, listed), *_part_bundles(course)]


def _part_bundles(course: Course) -> list[Bundle]:
    """Parts of shelters that somebody sleeps in; those given by hand stay where they are."""
    found: list[Bundle] = []
    known = {person.id for person in course.people}
    for shelter in course.shelters:
        sleepers = tuple(person.id for person in course.people if shelter.id in person.shelters)
        for part in shelter.parts if sleepers else ():
            told = part.carried_by if part.by_hand and part.carried_by in known else None
            at = (shelter.id, part.id)
            found.append(Bundle((), part.mass_g, told, sleepers, part=at))
    return found


def _kit_bundles(course: Course, listed: Sequence[Unit]) -> list[Bundle]:
    kits = {kit.id: kit for kit in course.group}
    heads = [person.id for person in course.people]
    helpers = {helper.id for helper in course.helpers}
    together: dict[str, list[int]] = {}
    fixed: dict[str, str] = {}
    for at, unit in enumerate(listed):
        if unit.carrier in helpers:
            continue
        kit = kits[unit.kit]
        each_head = kit.of == "head" and kit.per == 1 and not unit.by_hand
        name = f"bundle {kit.bundle} {unit.place}" if kit.bundle else f"{unit.kit} {unit.place}"
        together.setdefault(name, []).append(at)
        if unit.by_hand and unit.carrier:
            fixed[name] = unit.carrier
        elif kit.with_whom in heads:
            fixed.setdefault(name, str(kit.with_whom))
        elif each_head:
            fixed.setdefault(name, heads[unit.place % len(heads)])
    return [
        Bundle(
            tuple(places),
            sum(listed[at].mass_g for at in places),
            fixed.get(name),
            apart=next((listed[at].kit for at in places if kits[listed[at].kit].apart), ""),
        )
        for name, places in together.items()
    ]


def _kept_apart(
    parts: Sequence[Bundle], names: Sequence[str]
) -> tuple[list[Bundle], tuple[str, ...]]:
    """The bundles with nobody among those who have one of the same to keep apart by hand already,
    and what cannot be kept apart because there are too few backs, which then need not be."""
    clashes: list[str] = []
    for name in sorted({part.apart for part in parts if part.apart}):
        mine = [part for part in parts if part.apart == name]
        taken = [part.fixed for part in mine if part.fixed in names]
        if len(mine) > len(names) or len(set(taken)) < len(taken):
            clashes.append(name)
    found: list[Bundle] = []
    for part in parts:
        if part.apart in clashes:
            found.append(replace(part, apart=""))
        elif part.apart and part.fixed not in names:
            taken = {each.fixed for each in parts if each.apart == part.apart}
            left = tuple(name for name in names if name not in taken)
            found.append(replace(part, among=left))
        else:
            found.append(part)
    return found, tuple(clashes)


def room_kg(
    people: Sequence[Person], base_kg: Sequence[float], fairness: Fairness, budgets: Sequence[float]
) -> list[tuple[float, float]]:
    """What counts as on each back already, and what it is measured against [kg].

    Source: judgement: by body mass and by strength the whole load counts, by budget what is left.
    """
    if fairness == "budget left":
        return [
            (0.0, max(budget - base, LEAST_ROOM_KG))
            for budget, base in zip(budgets, base_kg, strict=True)
        ]
    strong = [p.strength if fairness == "strength" else 1.0 for p in people]
    return [
        (base, person.body_mass_kg * own)
        for person, base, own in zip(people, base_kg, strong, strict=True)
    ]


def besides(course: Course, loads: Sequence[Load]) -> list[float]:
    """Everybody's heaviest hour without the group's kit and without parts of shelters [kg].

    Source: sums of weighed masses.
    """
    of_group, of_shelters = group_grams(course, fuel=True), part_grams(course)
    return [
        max(load.by_hour) - (sum(of_group[person.id].values()) + of_shelters[person.id]) / 1000
        for person, load in zip(course.people, loads, strict=True)
    ]


def fair_split(
    course: Course, base_kg: Sequence[float], budgets: Sequence[float], fairness: Fairness
) -> Split:
    """The split of the group's kit that leaves nobody more above the level than need be.

    Args:
        course: for people and kit.
        base_kg: what each person carries and wears besides [kg].
        budgets: by person [kg].
        fairness: a measure.

    Returns:
        The split; where there is no kit, an empty one.

    Source: an integer programme, solved by HiGHS; measures are judgement.
    """
    people, listed = course.people, units(course)
    names = [person.id for person in people]
    parts, clashes = _kept_apart(bundles(course, listed), names)
    rooms = room_kg(people, base_kg, fairness, budgets)
    chosen, full, proven = _solve(parts, names, rooms)
    helpers = {helper.id for helper in course.helpers}
    carriers = [str(unit.carrier) if unit.carrier in helpers else "" for unit in listed]
    carried = dict.fromkeys(names, 0.0)
    given: dict[tuple[str, str], str] = {}
    for part, who in zip(parts, chosen, strict=True):
        carried[who] += part.mass_g / 1000
        if part.part is not None:
            given[part.part] = who
        for at in part.places:
            carriers[at] = who
    of_group, of_shelters = group_grams(course, fuel=True), part_grams(course)
    now = {who: (sum(of_group[who].values()) + of_shelters[who]) / 1000 for who in names}
    rest = dict(zip(names, rooms, strict=True))
    return Split(
        fairness,
        tuple(carriers),
        given,
        {who: (rest[who][0] + carried[who]) / rest[who][1] for who in names},
        full,
        proven,
        now={who: (rest[who][0] + now[who]) / rest[who][1] for who in names},
        clashes=clashes,
        spent=tuple(
            who
            for who, budget, base in zip(names, budgets, base_kg, strict=True)
            if fairness == "budget left" and budget - base < LEAST_ROOM_KG
        ),
    )


def fairness_of(words: str) -> Fairness:
    """The measure of that name, by body mass where there is none. Source: none, bookkeeping."""
    known: dict[str, Fairness] = {each: each for each in FAIRNESS}
    return known.get(words, FAIRNESS[0])


def split_of(course: Course, loads: Sequence[Load], fairness: Fairness) -> Split:
    """The fair split of an assessed course's kit.

    Args:
        course: the plan.
        loads: what everybody carries now, in the order of the people.
        fairness: a measure.

    Source: fair_split, beside what everybody carries at most.
    """
    base = besides(course, loads)
    return fair_split(course, base, [load.budget for load in loads], fairness)


def _solve(
    parts: Sequence[Bundle], names: Sequence[str], rooms: Sequence[tuple[float, float]]
) -> tuple[list[str], float, bool]:
    """Whom each bundle goes to, the level of those that are free to go anywhere, and whether the
    split is proven best."""
    free = [part for part in parts if part.fixed not in names]
    loaded = np.array([base for base, _ in rooms])
    for part in parts:
        if part.fixed in names:
            loaded[names.index(str(part.fixed))] += part.mass_g / 1000
    room = np.array([each for _, each in rooms])
    masses = [part.mass_g / 1000 for part in free]
    full = level(sum(masses), loaded, room)
    allowed = np.maximum(full * room, loaded) - loaded
    may = np.array(
        [[not part.among or name in part.among for name in names] for part in free], dtype=bool
    ).reshape(len(free), len(names))
    apart = [part.apart for part in free]
    owners, proven = _by_solver(masses, may, allowed, room / room.mean(), apart)
    places = iter(owners)
    found = [str(part.fixed) if part.fixed in names else names[next(places)] for part in parts]
    return found, full, proven


def _by_solver(
    masses: Sequence[float],
    may: Flags,
    allowed: np.ndarray,
    room: np.ndarray,
    apart: Sequence[str],
) -> tuple[list[int], bool]:
    """Place of the back for each mass [kg], and whether that is proven best.

    Nobody can be less than nothing above the level: a split that close is proven without a search.
    For the solver pieces alike, that may be on the same backs, are one integer, so that nothing is
    tried twice by swapping them.
    """
    if not masses:
        return [], True
    heavy = np.array(masses)
    groups = _Apart(apart)
    begun = _levelled(heavy, may, allowed, room, groups)
    if _above(heavy, begun, allowed, room) <= CLOSE_ENOUGH_G / 1000:
        return begun.tolist(), True
    kinds = [
        (round(mass, 6), tuple(row), name)
        for mass, row, name in zip(masses, may.tolist(), apart, strict=True)
    ]
    alike = sorted(set(kinds), reverse=True)
    counts = [kinds.count(each) for each in alike]
    backs = len(room)
    solver = quiet_solver()
    solver.setOptionValue("mip_abs_gap", CLOSE_ENOUGH_G / 1000)
    solver.setOptionValue("mip_rel_gap", 0.0)
    solver.setOptionValue("time_limit", LONGEST)
    solver.setOptionValue("random_seed", 1)
    above = solver.addVariable(lb=0.0, obj=1.0)
    given = [
        [solver.addIntegral(lb=0, ub=counts[kind] * alike[kind][1][back]) for back in range(backs)]
        for kind in range(len(alike))
    ]
    for kind, row in enumerate(given):
        solver.addConstr(solver.qsum(row) == counts[kind])
    for back in range(backs):
        load = solver.qsum(alike[kind][0] * given[kind][back] for kind in range(len(alike)))
        solver.addConstr(load - float(room[back]) * above <= float(allowed[back]))
        for name in groups.names:
            mine = [given[kind][back] for kind in range(len(alike)) if alike[kind][2] == name]
            solver.addConstr(solver.qsum(mine) <= 1)
    if not proven_best(solver):
        return begun.tolist(), False
    values = solver.allVariableValues()
    left = [
        [back for back in range(backs) for _ in range(round(values[1 + kind * backs + back]))]
        for kind in range(len(alike))
    ]
    proven = np.array([left[alike.index(kind)].pop(0) for kind in kinds])
    # Whoever is far from the worst back says nothing in the programme: they are levelled after it.
    settled = proven.copy()
    _descend(heavy, may, settled, allowed, room, groups)
    worst = (_above(heavy, each, allowed, room) for each in (settled, proven))
    return (settled if next(worst) <= next(worst) + 1e-9 else proven).tolist(), True


def level(mass: float, loaded: np.ndarray, room: np.ndarray) -> float:
    """Fullness to which so much would fill the emptiest backs, were it shared to the gram.

    Args:
        mass: to share [kg].
        loaded: on each back already [kg].
        room: what each is measured against [kg].

    Source: none, arithmetic.
    """
    order = np.argsort(loaded / room)
    filled, space = 0.0, 0.0
    for place, back in enumerate(order.tolist()):
        filled, space = filled + float(loaded[back]), space + float(room[back])
        now = (mass + filled) / space
        if place + 1 == len(order) or now <= float((loaded / room)[order[place + 1]]):
            return now
    raise ValueError("nobody to carry it")


class _Apart:
    """Which of some masses must not share a back, by the names they bear; "" for none."""

    def __init__(self, names: Sequence[str]) -> None:
        self.names = sorted({name for name in names if name})
        self._rows = [np.flatnonzero(np.array(names) == name) for name in self.names]
        self.loose = np.flatnonzero(np.array([not name for name in names]))
        """Masses that may be with any other."""

    def free(self, owner: np.ndarray, may: Flags) -> Flags:
        """Backs on which each mass may be with the others where they are."""
        if not self.names:
            return may
        found = may.copy()
        for rows in self._rows:
            placed = owner[rows]
            there = np.bincount(placed[placed >= 0], minlength=may.shape[1]) > 0
            found[rows] &= ~there
        return found


def _levelled(
    masses: np.ndarray, may: Flags, allowed: np.ndarray, room: np.ndarray, apart: _Apart
) -> np.ndarray:
    """Back of each mass: heaviest first to the emptiest, then pieces swapped and moved as long as
    that brings backs closer to the level; shaken and tried again where it sticks."""
    rng = np.random.default_rng(1)
    owner = np.full(len(masses), -1, dtype=int)
    now = -allowed / room
    order = sorted(range(len(masses)), key=lambda at: (may[at].sum(), -masses[at]))
    for at in np.argsort(-masses).tolist() if not apart.names else order:
        here = apart.free(owner, may)[at]
        owner[at] = int(np.argmin(np.where(here, now + masses[at] / room, np.inf)))
        now[owner[at]] += masses[at] / room[owner[at]]
    best, least = owner.copy(), float("inf")
    for _ in range(SHAKES):
        _descend(masses, may, owner, allowed, room, apart)
        above = _above(masses, owner, allowed, room)
        if above < least:
            best, least = owner.copy(), above
        if least <= CLOSE_ENOUGH_G / 1000:
            break
        owner = best.copy()
        if not len(apart.loose):
            break
        shaken = rng.choice(apart.loose, size=min(4, len(apart.loose)), replace=False)
        tossed = rng.permutation(owner[shaken])
        owner[shaken] = np.where(may[shaken, tossed], tossed, owner[shaken])
    return best


def _above(masses: np.ndarray, owner: np.ndarray, allowed: np.ndarray, room: np.ndarray) -> float:
    load = np.bincount(owner, weights=masses, minlength=len(room))
    return float(((load - allowed) / room).max())


def _descend(
    masses: np.ndarray,
    may: Flags,
    owner: np.ndarray,
    allowed: np.ndarray,
    room: np.ndarray,
    apart: _Apart,
) -> None:
    """Swap pieces of two backs, or move one, while the squares of what is off the level fall; in
    place. A piece of no mass stands on every back, so that a move is a swap with it."""
    backs = len(room)
    blank = np.ones((backs, backs), dtype=bool)
    off = np.bincount(owner, weights=masses, minlength=backs) - allowed
    for _ in range(400):
        heavy = np.concatenate([masses, np.zeros(backs)])
        where = np.concatenate([owner, np.arange(backs)])
        moved = heavy[:, None] - heavy[None, :]
        a, b = where[:, None], where[None, :]
        change = ((off[a] - moved) ** 2 - off[a] ** 2) / room[a] ** 2
        change += ((off[b] + moved) ** 2 - off[b] ** 2) / room[b] ** 2
        allowed_on = np.concatenate([apart.free(owner, may), blank])
        possible = allowed_on[:, where] & allowed_on[:, where].T & (a != b)
        change = np.where(possible, change, 0.0)
        one, two = np.unravel_index(int(np.argmin(change)), change.shape)
        if change[one, two] >= -1e-12:
            return
        here, there = int(where[one]), int(where[two])
        off[here] -= moved[one, two]
        off[there] += moved[one, two]
        for place, back in ((one, there), (two, here)):
            if place < len(owner):
                owner[place] = back


def with_split(course: Course, split: Split) -> Course:
    """The course with the group's kit and parts of shelters carried as a split says; hand changes
    stay marked, and a split of other kit changes nothing.

    Source: none, bookkeeping.
    """
    listed = units(course)
    if len(listed) != len(split.carriers):
        return course
    for unit, carrier in zip(listed, split.carriers, strict=True):
        if not unit.by_hand:
            course = carried_by(course, unit.kit, unit.place, carrier, by_hand=False)
    for bundle in _part_bundles(course):
        if bundle.part in split.parts and bundle.fixed is None:
            course = carry_part(course, *bundle.part, split.parts[bundle.part], by_hand=False)
    return course
