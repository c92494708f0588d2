"""Two people changed one course: what both meant, or where they cannot both have it."""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar, cast

from pydantic import ValidationError

from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.course import Cache, Course, Overrule, PackWeighed, Person, SleepRule
from caldarium.core.plan.gear_list import Counted
from caldarium.core.plan.kit import Garment, GroupKit, Helper, Item, Pad
from caldarium.core.plan.provisions import Dish
from caldarium.core.plan.route import Leg
from caldarium.core.plan.value import Value
from caldarium.core.plan.weather_sources import Hourly

Path = tuple[str | int, ...]
T = TypeVar("T")
Named = TypeVar("Named", Person, Garment, Pad, Item, GroupKit, Helper, Dish, Hourly, Leg)


@dataclass(frozen=True)
class Clash:
    """One place that both changed, and differently.

    Args:
        path: fields, ids and places from the course down to it.
        mine, theirs: what each made of it; None where it was taken away.
    """

    path: Path
    mine: object
    theirs: object


class ClashError(ValueError):
    """Two changes that cannot both stand; clashes says where, none where only the whole is wrong.

    Source: none, bookkeeping.
    """

    def __init__(self, clashes: Sequence[Clash]) -> None:
        self.clashes = tuple(clashes)
        super().__init__(f"{len(self.clashes)} clashes")


def merged(base: Course, mine: Course, theirs: Course, *, mine_wins: bool = False) -> Course:
    """What becomes of a course that two changed from the same state.

    Args:
        base: the state that both began from.
        mine, theirs: what each made of it.
        mine_wins: where both changed the same thing, mine is taken.

    Returns:
        A course with both changes.

    Raises:
        ClashError: where both changed the same thing differently, or the two changes together make
            no valid course.

    Source: none, bookkeeping: a three-way merge of values by field and by id.
    """
    return merged_value(base, _told_apart(base, mine, theirs), theirs, mine_wins=mine_wins)


Flat = TypeVar("Flat", bound=Value)


def merged_value(base: Flat, mine: Flat, theirs: Flat, *, mine_wins: bool = False) -> Flat:
    """The same for one value by itself, such as a piece of the store.

    Raises:
        ClashError: as merged.

    Source: none, bookkeeping.
    """
    found = _Merge(mine_wins)
    value = found.of(base, mine, theirs, ())
    if found.clashes:
        raise ClashError(found.clashes)
    try:
        return type(base).model_validate(dict(value))
    except ValidationError as fault:
        raise ClashError(()) from fault


_KEYS: dict[type[Value], Callable[[Any], Hashable]] = {
    Overrule: lambda rule: (rule.moment, rule.garment),
    Cache: lambda cache: (cache.day, cache.leg),
    PackWeighed: lambda pack: (pack.on, pack.measured_g, pack.computed_g),
    SleepRule: lambda rule: (rule.kind, rule.people),
    Counted: lambda word: (word.list, word.entry, word.piece),
}
"""What tells values without an id apart within their list."""


class _Merge:
    def __init__(self, mine_wins: bool) -> None:
        self.mine_wins = mine_wins
        self.clashes: list[Clash] = []

    def of(self, base: T, mine: T, theirs: T, path: Path) -> T:
        """One part of the course, as both meant it."""
        if mine is base or mine == base:
            return theirs
        if theirs is base or theirs in (base, mine):
            return mine
        parts: tuple[object, object, object] = (base, mine, theirs)
        if all(isinstance(each, Value) for each in parts) and _alike(parts):
            return cast(T, self._value(*cast(tuple[Value, Value, Value], parts), path))
        if all(isinstance(each, dict) for each in parts):
            return cast(T, self._keyed(*cast(tuple[Any, Any, Any], parts), path))
        if all(isinstance(each, tuple) for each in parts):
            return cast(T, self._rows(*cast(tuple[Any, Any, Any], parts), path))
        return self._clash(mine, theirs, path)

    def _clash(self, mine: T, theirs: T, path: Path) -> T:
        # How a figure was typed goes with the figure; two spellings of one value are no clash.
        if not self.mine_wins and path[:1] != ("as_typed",):
            self.clashes.append(Clash(path, mine, theirs))
        return mine

    def _value(self, base: Value, mine: Value, theirs: Value, path: Path) -> Value:
        fields = type(base).model_fields
        parts = {
            name: self.of(
                getattr(base, name), getattr(mine, name), getattr(theirs, name), (*path, name)
            )
            for name in fields
        }
        try:
            return theirs.altered(**parts) if path else theirs.model_copy(update=parts)
        except ValidationError:
            return self._clash(mine, theirs, path)

    def _keyed(
        self, base: dict[Any, Any], mine: dict[Any, Any], theirs: dict[Any, Any], path: Path
    ) -> dict[Any, Any]:
        """Parts by key, in the order of theirs, then what I added."""
        found: dict[Any, Any] = {}
        for key in [*theirs, *(each for each in mine if each not in theirs)]:
            was, my, their = (each.get(key, _GONE) for each in (base, mine, theirs))
            name = key if isinstance(key, str) else str(key)
            kept = self.of(was, my, their, (*path, name))
            if kept is not _GONE:
                found[key] = kept
        return found

    def _rows(
        self, base: tuple[Any, ...], mine: tuple[Any, ...], theirs: tuple[Any, ...], path: Path
    ) -> tuple[Any, ...]:
        """A list by the ids of its members, by their key, or by place."""
        every = (*base, *mine, *theirs)
        keys = [[_key_of(each) for each in rows] for rows in (base, mine, theirs)]
        if every and all(None not in row and len(set(row)) == len(row) for row in keys):
            was, my, their = (
                dict(zip(row, rows, strict=True))
                for row, rows in zip(keys, (base, mine, theirs), strict=True)
            )
            return tuple(self._keyed(was, my, their, path).values())
        if len(base) == len(mine) == len(theirs):
            return tuple(
                self.of(was, my, their, (*path, at))
                for at, (was, my, their) in enumerate(zip(base, mine, theirs, strict=True))
            )
        return self._clash(mine, theirs, path)


class _Gone:
    """Where a part is not there."""

    def __repr__(self) -> str:
        return "nothing"


_GONE = _Gone()


def gone(part: object) -> bool:
    """Whether a side of a clash took the thing away. Source: none, bookkeeping."""
    return part is _GONE


def _alike(parts: Sequence[object]) -> bool:
    return len({type(each) for each in parts}) == 1 and len({_key_of(each) for each in parts}) == 1


def _moved(person: Person, again: dict[str, str]) -> Person:
    """Somebody in the shelters they slept in, under the names that these have now."""

    def named(shelter: str | None) -> str | None:
        return again.get(shelter, shelter) if shelter else None

    nights = tuple(plan.altered(shelter=named(plan.shelter)) for plan in person.nights)
    return person.altered(shelter=named(person.shelter), nights=nights)


def _told_apart(base: Course, mine: Course, theirs: Course) -> Course:
    """Mine, with ids of its own for what both added under the same one."""
    again: dict[str, str] = {}
    known = [{each.id for each in course.shelters} for course in (base, theirs)]
    for shelter in mine.shelters:
        if shelter.id in known[1] - known[0]:
            again[shelter.id] = fresh_id(shelter.id, [each.id for each in theirs.shelters])
    people = tuple(
        _moved(each, again) if any(place in again for place in each.shelters) else each
        for each in _named_again(base.people, mine.people, theirs.people)
    )
    by_id = {each.id: each for each in theirs.people}
    was = {each.id: each for each in base.people}
    told: list[Person] = []
    for person in people:
        before, other = was.get(person.id), by_id.get(person.id)
        if before is not None and other is not None and person is not before:
            told.append(_pieces_apart(before, person, other))
        else:
            told.append(person)
    parts: dict[str, object] = {
        "shelters": tuple(
            each.altered(id=again[each.id]) if each.id in again else each for each in mine.shelters
        ),
        "people": tuple(told),
        "group": _named_again(base.group, mine.group, theirs.group),
        "helpers": _named_again(base.helpers, mine.helpers, theirs.helpers),
        "provisions": mine.provisions.model_copy(
            update={"menu": _named_again(*(each.provisions.menu for each in (base, mine, theirs)))}
        ),
        "sources": _named_again(base.sources, mine.sources, theirs.sources),
    }
    if len(base.days) == len(mine.days) == len(theirs.days):
        parts["days"] = tuple(
            day.altered(legs=_named_again(was.legs, day.legs, their.legs))
            if day is not was and their is not was
            else day
            for was, day, their in zip(base.days, mine.days, theirs.days, strict=True)
        )
    changed = {name: part for name, part in parts.items() if part != getattr(mine, name)}
    return mine.model_copy(update=changed) if changed else mine


def _pieces_apart(base: Person, mine: Person, theirs: Person) -> Person:
    parts = {
        name: _named_again(getattr(base, name), getattr(mine, name), getattr(theirs, name))
        for name in ("garments", "pads", "items")
    }
    changed = {name: rows for name, rows in parts.items() if rows != getattr(mine, name)}
    return mine.altered(**changed) if changed else mine


def _named_again(
    base: tuple[Named, ...], mine: tuple[Named, ...], theirs: tuple[Named, ...]
) -> tuple[Named, ...]:
    """My rows, with a fresh id for each that both added under one id."""
    taken = {each.id for each in theirs}
    added = taken - {each.id for each in base}
    if mine is base or not added:
        return mine
    return tuple(
        each.altered(id=fresh_id(each.id, [*taken, *(own.id for own in mine)]))
        if each.id in added
        else each
        for each in mine
    )


def _key_of(part: object) -> Hashable:
    """An id, or what stands for one; None where parts are told apart by place only."""
    known = _KEYS.get(type(part)) if isinstance(part, Value) else None  # type: ignore[arg-type]
    return known(part) if known is not None else getattr(part, "id", None)
