"""One part of a line held against things: which fit, which are good enough, what is too weak."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from caldarium.core.lists.holdings import Holding, has_word
from caldarium.core.plan.gear_list import Counted, Least, Wanted

AT_MOST = ("comfort_c", "limit_c", "mass_g")
TOGETHER = ("r_value", "litres", "kcal")
"""Figures that are asked to be no more than said, and those that pieces reach together."""
YES = ("taped", "waterproof", "insulated")
BY_ITSELF = ("comfort_c", "limit_c", "clo", "light_h", "water_mm", "mass_g")
"""Figures that each piece must have by itself."""
TOLERANCE = 1e-6


@dataclass(frozen=True)
class Short:
    """A quality that is asked: the field of Least, what there is, None where nobody said, and what
    is asked."""

    fact: str
    has: float | None
    asked: float


@dataclass(frozen=True)
class Part:
    """One part of one way, tried: pieces that do it, how many there are of how many, how many of
    them are good enough, and what is too weak of the last piece, or of all together."""

    wanted: Wanted
    pieces: tuple[Holding, ...]
    has: int
    asked: int
    good: int
    short: tuple[Short, ...] = ()

    @property
    def met(self) -> bool:
        """Whether enough that is good enough is there. Source: none, bookkeeping."""
        return self.has >= self.asked and not self.short


def fits(holding: Holding, wanted: Wanted) -> bool:
    """Whether a thing is of the sort and name that is asked, however good it is.

    Source: the list's own words.
    """
    sorted_so = wanted.sort == "anything" or wanted.sort in holding.sorts
    # Of a thing whose kind nobody said, its name must do.
    if not sorted_so and (holding.sorts or not wanted.names):
        return False
    if any(has_word(holding.name, word) for word in wanted.but_not):
        return False
    return not wanted.names or any(has_word(holding.name, word) for word in wanted.names)


def shortfalls(holding: Holding, least: Least) -> list[Short]:
    """What of a quality one thing does not have by itself; what pieces reach together is not asked
    of one. Source: the list's own words."""
    found: list[Short] = []
    for name in BY_ITSELF:
        asked = getattr(least, name)
        if asked is None:
            continue
        has = holding.facts.get(name)
        if has is None:
            found.append(Short(name, None, asked))
        elif has > asked + TOLERANCE if name in AT_MOST else has < asked - TOLERANCE:
            found.append(Short(name, float(has), asked))
    for name in YES:
        if getattr(least, name) and not holding.facts.get(name):
            known = holding.facts.get(name)
            found.append(Short(name, None if known is None else 0.0, 1.0))
    return found


def counts(
    said: Iterable[Counted], line: tuple[str, str], wanted: Wanted, holding: Holding
) -> bool:
    """Whether a thing counts for a part of a line, by the user's word or by its name and figures.

    Args:
        said: the user's words.
        line: ids of list and line.
        wanted: the part.
        holding: the thing.

    Source: the list's own words.
    """
    for each in said:
        if (each.list, each.entry, each.piece) == (*line, holding.key):
            return each.counts
    return fits(holding, wanted) and not shortfalls(holding, wanted.least)


def part_of(wanted: Wanted, times: int, able: Sequence[tuple[Holding, bool]]) -> Part:
    """The pieces that do one part: the lightest of those that are good enough, or where they reach
    something together the fewest.

    Args:
        wanted: the part.
        times: how many times over it is asked.
        able: things that fit, and whether the user counts them, which is good enough.

    Source: the list's own words.
    """
    asked = wanted.count * times
    sure = [each for each, told in able if told]
    tried = [(each, shortfalls(each, wanted.least)) for each, told in able if not told]
    good = [*sure, *(each for each, short in tried if not short)]
    together = {} if sure else together_of(wanted.least, times)
    largest = next(iter(together), "")
    taken: list[Holding] = []
    for each in sorted(good, key=lambda e: (-_known(e, largest), e.grams)):
        room = asked - sum(one.count for one in taken)
        taken += _so_many(each, together, room, taken)
    short = _lacking(taken, together)
    has = sum(each.count for each in taken)
    weak = sorted(
        ((each, short) for each, short in tried if short), key=lambda e: (len(e[1]), _depth(e[1]))
    )
    there = has + sum(each.count for each, _ in weak)
    if has < asked <= there:
        nearest, lacks = weak[0]
        return Part(wanted, (*taken, nearest), asked, asked, has, tuple(lacks))
    good_ones = min(has, asked)
    return Part(
        wanted, tuple(taken), good_ones, asked, good_ones, tuple(short) if has >= asked else ()
    )


def together_of(least: Least, times: int) -> dict[str, float]:
    """What pieces must reach together, for so many times what is asked of one.

    Source: the list's own words.
    """
    asked = {name: getattr(least, name) for name in TOGETHER}
    return {name: value * times for name, value in asked.items() if value}


def _known(holding: Holding, fact: str) -> float:
    return float(holding.facts.get(fact) or 0.0)


def _so_many(
    each: Holding, together: Mapping[str, float], room: int, taken: Sequence[Holding]
) -> list[Holding]:
    """As many of a thing as are still wanted, by number or by what they reach together."""
    count = max(room, 0)
    while count < each.count and _lacking([*taken, replace(each, count=count)], together):
        count += 1
    return [replace(each, count=min(count, each.count))] if count else []


def _lacking(taken: Collection[Holding], together: Mapping[str, float]) -> list[Short]:
    """What pieces do not reach together."""
    found: list[Short] = []
    for name, asked in together.items():
        known = [each for each in taken if each.facts.get(name) is not None]
        has = sum(_known(each, name) * each.count for each in known)
        if has < asked - TOLERANCE:
            found.append(Short(name, has if known or not taken else None, asked))
    return found


def _depth(short: Sequence[Short]) -> float:
    """How far a thing is from what is asked; what nobody said is as far as can be."""
    return sum(
        abs(each.asked - each.has) / max(abs(each.asked), 1.0) if each.has is not None else 10.0
        for each in short
    )
