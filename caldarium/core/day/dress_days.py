"""Dressing for the days of a course: all of them, or those that are others than they were."""

from dataclasses import dataclass, fields, is_dataclass, replace
from math import isnan
from typing import Any, cast

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.dressing import Air, needed
from caldarium.core.day.outfits import Dressed, Dressers, dress_people
from caldarium.core.day.states import MomentState, moment_states
from caldarium.core.day.wet_track import Left, Nights
from caldarium.core.physics.quantities import Flags
from caldarium.core.plan.wardrobe import Wardrobes
from caldarium.core.timeline.moments import Moment


@dataclass(frozen=True)
class Worn:
    """Who dressed, what they wear at each moment, and their states by person."""

    who: Dressers
    dressed: Dressed
    states: tuple[tuple[MomentState, ...], ...]


def dress_days(who: Dressers, dress: Wardrobes, air: Air, before: Worn | None) -> Worn:
    """Dress people for every moment, keeping what was found for days that nothing reaches.

    One day reaches the next only by how wet it leaves the pieces.

    Args:
        who: the people.
        dress: their pieces.
        air: what is met, pieces dry.
        before: what they or others wore in another air.

    Returns:
        What they wear; the same as without before.

    Source: core.day.outfits and core.day.states.
    """
    count = len(air.moments)
    if before is None or not _comparable(who, air, before):
        return _dressed(who, dress, air, None)
    same = _same_air(air, before.dressed.air)
    others = [
        column
        for column, (here, there) in enumerate(
            zip(air.moments, before.dressed.air.moments, strict=True)
        )
        if not (same[column] and _same_moment(here, there))
    ]
    if not others:
        return before
    days = [moment.day for moment in air.moments]
    first = days.index(days[others[0]])
    end = count - days[::-1].index(days[others[-1]])
    found = _again(who, dress, air, before, np.arange(len(who.people)), first, end)
    if end < count:
        wetter = _left_otherwise(who, dress, found, before, end)
        if len(wetter):
            found = _again(who, dress, air, found, wetter, end, count)
    return found


def exchanged(worn: Worn, rows: list[int], others: Worn) -> Worn | None:
    """What a party wears after some of them were dressed anew; None where arrays do not fit.

    Args:
        worn: of the whole party.
        rows: places in the party of those dressed anew.
        others: they.

    Source: none, bookkeeping.
    """
    old, new = worn.who, others.who
    if (
        old.in_bed.shape[1] != new.in_bed.shape[1]
        or old.doubted.shape[1] != new.doubted.shape[1]
        or old.huts.shape[1] != new.huts.shape[1]
        or worn.dressed.air.moments != others.dressed.air.moments
    ):
        return None
    people, states = list(old.people), list(worn.states)
    for row, person, found in zip(rows, new.people, others.states, strict=True):
        people[row], states[row] = person, found
    place = (np.array(rows),)
    arrays = {
        name: _with(getattr(old, name), getattr(new, name), place)
        for name in ("in_bed", "area", "doubted", "huts")
    }
    air, here = worn.dressed.air, others.dressed.air
    air = replace(
        air,
        where=_with(air.where, here.where, place),
        warm=_with(air.warm, here.warm, place),
        wet=_with(air.wet, here.wet, place),
        bag=_with(air.bag, here.bag, place),
    )
    dressed = _spliced(worn.dressed, others.dressed, place, air)
    return Worn(replace(old, people=tuple(people), **arrays), dressed, tuple(states))


def _comparable(who: Dressers, air: Air, before: Worn) -> bool:
    """Whether the same people, with the same pieces in doubt, go through moments of the same
    names, each day's together."""
    then = before.who
    names = [moment.id for moment in air.moments]
    days = [moment.day for moment in air.moments]
    return (
        who.people == then.people
        and who.allowances == then.allowances
        and np.array_equal(who.in_bed, then.in_bed)
        and np.array_equal(who.doubted, then.doubted)
        and np.array_equal(who.huts, then.huts)
        and names == [moment.id for moment in before.dressed.air.moments]
        and days == sorted(days)
        and days == [moment.day for moment in before.dressed.air.moments]
    )


def _same_moment(here: Moment, there: Moment) -> bool:
    """Whether two moments are alike in every figure; figures that do not exist are alike."""
    return here is there or all(
        a is b or a == b or (isinstance(a, float) and isnan(a) and isnan(b))
        for a, b in zip(vars(here).values(), vars(there).values(), strict=True)
    )


def _same_air(air: Air, there: Air) -> Flags:
    """Whether everybody meets the same at each moment [M]."""
    pairs = [
        (air.bag, there.bag),
        *zip(vars(air.where).values(), vars(there.where).values(), strict=True),
        *zip(vars(air.warm).values(), vars(there.warm).values(), strict=True),
    ]
    alike: Flags = np.array([(a == b).all(axis=0) for a, b in pairs])
    return np.logical_and.reduce(alike)


def _dressed(who: Dressers, dress: Wardrobes, air: Air, left: Left | None) -> Worn:
    needs = needed(air.where, np.array([moment.by_clothing for moment in air.moments]))
    dressed = dress_people(who, dress, air, needs, left)
    return Worn(who, dressed, tuple(moment_states(dress, dressed, who.area[:, 0])))


def _again(
    who: Dressers,
    dress: Wardrobes,
    air: Air,
    before: Worn,
    rows: NDArray[np.intp],
    first: int,
    end: int,
) -> Worn:
    """Some people dressed again from one moment to before another, the rest as it was."""
    left = _left(before.dressed, first)
    if left is not None:
        left = replace(left, wet=left.wet[rows], shed=left.shed[rows])
    chosen: list[int] = rows.tolist()
    garments = tuple(dress.garments[row] for row in chosen)
    their = replace(dress.take(rows), garments=garments)
    part = _dressed(who.take(rows), their, air.part(rows, first, end), left)
    place = (rows, slice(first, end))
    wet = _with(before.dressed.air.wet, part.dressed.air.wet, place)
    dressed = _spliced(before.dressed, part.dressed, place, air.with_wet(wet))
    states = list(before.states)
    for row, new in zip(chosen, part.states, strict=True):
        states[row] = (*states[row][:first], *new, *states[row][end:])
    return Worn(who, dressed, tuple(states))


def _left(dressed: Dressed, column: int) -> Left | None:
    """What the moments before one left behind; nothing for the first."""
    for earlier in range(column - 1, -1, -1):
        moment = dressed.air.moments[earlier]
        if not moment.fold:
            wet, shed = dressed.air.wet[:, earlier], dressed.shed[:, earlier]
            return Left(wet, shed, moment.day, moment.end)
    return None


def _left_otherwise(
    who: Dressers, dress: Wardrobes, found: Worn, before: Worn, column: int
) -> NDArray[np.intp]:
    """Places of people who begin a moment with pieces wetter or drier than before."""
    nights, moment = Nights(who.in_bed, who.huts), found.dressed.air.moments[column]
    changed = np.zeros(len(who.people), dtype=bool)
    now, then = _left(found.dressed, column), _left(before.dressed, column)
    if now is not None and then is not None:
        pairs = zip(now.on(moment, dress, nights), then.on(moment, dress, nights), strict=True)
        for here, there in pairs:
            changed |= (here != there).any(axis=1)
    return np.flatnonzero(changed)


def _spliced(old: Dressed, new: Dressed, place: tuple[Any, ...], air: Air) -> Dressed:
    parts = {
        name: _with(part, getattr(new, name), place)
        for name, part in vars(old).items()
        if name != "air"
    }
    return Dressed(air=air, **parts)


def _with(old: Any, new: Any, place: tuple[Any, ...]) -> Any:
    """An array, or every array of a dataclass, with some places exchanged."""
    if not is_dataclass(old):
        changed = old.copy()
        changed[place] = new
        return changed
    names = [field.name for field in fields(old)]
    parts = {name: _with(getattr(old, name), getattr(new, name), place) for name in names}
    made: Any = replace(cast("Any", old), **parts)
    return made
