"""The lightest shelters that stand every night and leave nobody colder: chosen and filled."""

import math
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import product

from caldarium.core.assess import Assessment, assess
from caldarium.core.lighten.verdict import Fail, worse_by_person
from caldarium.core.night.camp import shelter_nights
from caldarium.core.night.shelter_faults import BUILT
from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Shelter
from caldarium.core.stock.supply import SOURCES, Source, Supply, stored_kit
from caldarium.core.timeline.moments import Timeline

MOST_TRIED = 60
"""Choices of shelters that are judged, lightest first; so many nobody would look through."""
MOST_OF_ONE = 12
"""Shelters of one model that are looked at."""
MOST_ENUMERATED = 300_000
"""Choices that are counted through."""
NOT_CHOSEN = ("group shelter", "hammock tarp")
"""Kinds that serve no bed on the ground: they stay as they are planned."""
_OF_SLEEPERS = ("too many sleepers", "not apart", "not together", "poles walk", "parts walk")


@dataclass(frozen=True)
class Tent:
    """A shelter that could be taken, where from, and how many there are of it; those that are alike
    one by one, where they are known one by one."""

    shelter: Shelter
    source: Source
    count: int
    alike: tuple[Shelter, ...]


@dataclass(frozen=True)
class Pitched:
    """A choice of shelters: the course with it, what it weighs and what those of now do [g], the
    shelters in it with their sources, how many choices were judged, none lighter being left where
    all of them were; how many people could be moved, and what is worse for whom with it."""

    after: Course | None
    grams: float
    grams_before: float
    tents: tuple[tuple[Shelter, Source], ...]
    tried: int
    all_tried: bool
    people: int = 0
    lost: Mapping[str, frozenset[Fail]] = field(default_factory=dict[str, frozenset[Fail]])


def tents_for(course: Course, supply: Supply, sources: Collection[Source]) -> list[Tent]:
    """Shelters on offer: the course's own, the store's that are left, the catalogue's.

    Of those alike one with their number.

    Source: the store's own figures.
    """
    found: list[Tent] = []
    if "own" in sources:
        found += [Tent(each, "own", 1, (each,)) for each in course.shelters if _portable(each)]
    wanted: list[Source] = [each for each in SOURCES if each in sources]
    for source in wanted:
        for piece, kit in stored_kit(supply, source):
            if isinstance(kit, Shelter) and _portable(kit):
                left = supply.left_of(piece)
                found.append(Tent(kit, source, left, (kit,) * left))
    if "buy" in sources:
        goods = [e for e in (supply.everything or {}).values() if isinstance(e, Shelter)]
        found += [Tent(each, "buy", MOST_OF_ONE, ()) for each in goods if _portable(each)]
    alike: dict[str, Tent] = {}
    for tent in found:
        look = f"{tent.source} {_look(tent.shelter)}"
        known = alike.get(look)
        if known is None:
            alike[look] = tent
        else:
            all_of_it = known.alike + tent.alike
            alike[look] = replace(known, count=known.count + tent.count, alike=all_of_it)
    return list(alike.values())


def _portable(shelter: Shelter) -> bool:
    return shelter.kind not in BUILT and shelter.kind not in NOT_CHOSEN


def _look(shelter: Shelter) -> str:
    blank = {"id": "", "name": "", "tag": "", "mass_on": None, "parts": (), "poles_from": ()}
    return repr(shelter.model_copy(update=blank))


def lightest_shelters(
    course: Course,
    timeline: Timeline,
    supply: Supply,
    sources: Sequence[Source],
    heard: Callable[[float], None],
) -> Pitched:
    """The lightest shelters for those who sleep in one that is carried, on every night.

    Choices that hold all of them are filled, those who lie together now first, and judged by the
    whole course, lightest first: every shelter must be fit on every night, and nothing of anybody
    may fail that holds now, or fail worse; where a shelter of now is unfit, that is asked of beds
    alone, and what else is worse is told. Whoever sleeps elsewhere on some night, hangs, or lies
    in what is built stays where they are.

    Args:
        course, timeline: the plan.
        supply, sources: what there is, and which of it may be drawn on.
        heard: hears the share that is done; what it raises ends the work.

    Source: the course's own verdict; how people are put together is judgement, so that of one
        choice another filling may do.
    """
    people = [each for each in course.people if _moves(course, each)]
    here = {each.shelter for each in people if each.shelter is not None}
    kept = tuple(each for each in course.shelters if each.id not in here)
    stay = {name for each in course.people if each not in people for name in each.shelters}
    kept += tuple(each for each in course.shelters if each.id in here & stay)
    before = sum(each.mass_g for each in course.shelters if each.id in here - stay)
    nothing = Pitched(None, 0.0, before, (), 0, True, len(people))
    if not people:
        return nothing
    tents = [
        tent
        for tent in tents_for(course, supply, sources)
        if tent.shelter.id not in stay and _stands(course, timeline, tent.shelter, people)
    ]
    result = assess(course)
    mine = {each.shelter for each in people}
    others = {each for each in _faulty(result) if each[0] not in mine}
    unfit = len(_faulty(result)) > len(others)
    models = _few_enough(tents, len(people))
    every = len(models) == len(tents)
    listed = sorted(_choices(models, len(people)), key=_grams)
    for at, choice in enumerate(listed[:MOST_TRIED]):
        heard(at / min(len(listed), MOST_TRIED))
        after, pitched = _filled(course, kept, people, choice)
        now = assess(after)
        lost = worse_by_person(result, now)
        colder = any(kind == "bed" for fails in lost.values() for _, kind in fails)
        if _faulty(now) - others or colder or (lost and not unfit):
            continue
        return Pitched(after, _grams(choice), before, pitched, at + 1, every, len(people), lost)
    tried = min(len(listed), MOST_TRIED)
    return replace(nothing, tried=tried, all_tried=every and tried == len(listed))


def _moves(course: Course, person: Person) -> bool:
    """Whether somebody may be put into another shelter: on the ground, every night in one place."""
    by_id = {each.id: each for each in course.shelters}
    if person.nights or person.bedding.hammock is not None:
        return False
    return person.shelter is None or _portable(by_id[person.shelter])


def _stands(course: Course, timeline: Timeline, shelter: Shelter, people: list[Person]) -> bool:
    """Whether a shelter is fit on every night whoever sleeps in it."""
    alone = people[0].altered(shelter=shelter.id)
    trial = course.model_copy(
        update={
            "shelters": (shelter.altered(poles_from=(), parts=()),),
            "people": (alone.model_copy(update={"nights": ()}),),
            "sleep_rules": (),
        }
    )
    nights = shelter_nights(trial, timeline)
    return not any(f.reason not in _OF_SLEEPERS for each in nights for f in each.faults)


Choice = tuple[tuple[Tent, int], ...]


def _most(tents: Sequence[Tent], people: int) -> list[int]:
    """How many of each model could be in a choice from which none can be left out."""
    return [min(tent.count, -(-people // tent.shelter.places)) for tent in tents]


def _few_enough(tents: Sequence[Tent], people: int) -> list[Tent]:
    """Models, in their order, of which every choice can be counted through: without the heaviest
    by the head."""
    heaviest = sorted(tents, key=lambda tent: -tent.shelter.mass_g / tent.shelter.places)
    found = list(tents)
    while math.prod(most + 1 for most in _most(found, people)) > MOST_ENUMERATED:
        found.remove(heaviest.pop(0))
    return found


def _choices(tents: Sequence[Tent], people: int) -> Iterator[Choice]:
    """Every choice that holds all people and from which no shelter can be left out."""
    for counts in product(*(range(most + 1) for most in _most(tents, people))):
        room = sum(n * tent.shelter.places for tent, n in zip(tents, counts, strict=True))
        chosen = tuple((tent, n) for tent, n in zip(tents, counts, strict=True) if n)
        if room >= people and all(room - tent.shelter.places < people for tent, _ in chosen):
            yield chosen


def _grams(choice: Choice) -> float:
    far = sum(0.01 * SOURCES.index(tent.source) * n for tent, n in choice)
    return sum(tent.shelter.mass_g * n for tent, n in choice) + far


def _filled(
    course: Course, kept: tuple[Shelter, ...], people: list[Person], choice: Choice
) -> tuple[Course, tuple[tuple[Shelter, Source], ...]]:
    """The course with a choice of shelters, those who lie together now put together first; and
    those shelters, with where each is from."""
    own = {each.id for tent, _ in choice if tent.source == "own" for each in tent.alike}
    shelters = [each for each in kept if each.id not in own]
    pitched: list[tuple[Shelter, Source]] = []
    for tent, count in choice:
        for at in range(count):
            one = tent.alike[at] if at < len(tent.alike) else tent.shelter
            name = fresh_id(one.id, [each.id for each in shelters])
            parts = tuple(part.altered(carried_by=None) for part in one.parts)
            shelters.append(one.altered(id=name, poles_from=(), parts=parts))
            pitched.append((shelters[-1], tent.source))
    groups: dict[str, list[str]] = {}
    for each in people:
        groups.setdefault(each.shelter or f"alone {each.id}", []).append(each.id)
    where: dict[str, str] = {}
    free = {each.id: each.places for each, _ in pitched}
    for group in sorted(groups.values(), key=len, reverse=True):
        left = list(group)
        while left:
            fits = [name for name, room in free.items() if room >= len(left)]
            if fits:
                name = min(fits, key=lambda each: free[each])
            else:
                name = max(free, key=lambda each: free[each])
            put, left = left[: free[name]], left[free[name] :]
            where |= dict.fromkeys(put, name)
            free[name] -= len(put)
    after = course.altered(
        shelters=tuple(shelters),
        people=tuple(
            each.altered(shelter=where[each.id]) if each.id in where else each
            for each in course.people
        ),
    )
    return after, tuple(pitched)


def _faulty(result: Assessment) -> set[tuple[str, int]]:
    return {(night.shelter, night.day) for night in result.shelters if not night.fit}


def with_shelters(course: Course, found: Pitched) -> Course:
    """The course with the shelters that were chosen, and people in them.

    Source: none, bookkeeping.
    """
    if found.after is None:
        return course
    where = {each.id: each.shelter for each in found.after.people}
    return course.altered(
        shelters=found.after.shelters,
        people=tuple(
            each.altered(shelter=where.get(each.id, each.shelter)) for each in course.people
        ),
    )
