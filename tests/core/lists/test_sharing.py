"""Sharing things out equals the best of all ways to do it, tried one by one."""

import itertools
import random

import pytest

from caldarium.core.lists.holdings import Holding
from caldarium.core.lists.sharing import Ask, Line, share_out


def thing(at: int, grams: float, count: int) -> Holding:
    return Holding(f"t{at}", f"t{at}", "who", frozenset(), count, grams, {"litres": 1.0})


def case(seed: int) -> list[Line]:
    chance = random.Random(seed)
    things = [thing(at, chance.randint(1, 400), chance.choice([1, 1, 2])) for at in range(4)]

    def ask() -> Ask:
        good = tuple(each for each in things if chance.random() < 0.5)
        together = {"litres": 2.0} if chance.random() < 0.2 else {}
        return Ask(chance.choice([1, 1, 2]), good, together)

    def way() -> tuple[Ask, ...]:
        return tuple(ask() for _ in range(chance.choice([1, 1, 2])))

    return [
        Line(tuple(way() for _ in range(chance.choice([1, 2]))), chance.random() < 0.7)
        for _ in range(3)
    ]


def fills(ask: Ask) -> list[dict[str, int]]:
    """Every way to fill a part."""
    ranges = [range(each.count + 1) for each in ask.good]
    found = []
    for counts in itertools.product(*ranges):
        number = sum(counts)
        enough = all(number * 1.0 >= asked for asked in ask.together.values())
        if number >= ask.asked and enough:
            named = zip(ask.good, counts, strict=True)
            found.append({each.id: n for each, n in named if n})
    return found


def best(lines: list[Line]) -> tuple[int, int, int]:
    """Most lines that must be met, then others, then as meant, by trying everything."""
    have = {e.id: e.count for line in lines for way in line.ways for a in way for e in a.good}
    options = []
    for line in lines:
        ways = [None]
        for at, way in enumerate(line.ways):
            for parts in itertools.product(*(fills(ask) for ask in way)):
                used: dict[str, int] = {}
                for part in parts:
                    for name, n in part.items():
                        used[name] = used.get(name, 0) + n
                if all(n <= have[name] for name, n in used.items()):
                    ways.append((at, used))
        unique = {(w[0], tuple(sorted(w[1].items()))): w for w in ways if w is not None}
        options.append([None, *unique.values()])
    found = (0, 0, 0)
    for chosen in itertools.product(*options):
        used = {}
        for each in chosen:
            for name, n in each[1].items() if each else ():
                used[name] = used.get(name, 0) + n
        if all(n <= have[name] for name, n in used.items()):
            pairs = [(line, each) for line, each in zip(lines, chosen, strict=True) if each]
            score = (
                sum(line.must for line, _ in pairs),
                sum(not line.must for line, _ in pairs),
                sum(each[0] == 0 for _, each in pairs),
            )
            found = max(found, score)
    return found


@pytest.mark.parametrize("batch", range(4))
def test_as_many_lines_are_met_as_can_be(batch: int) -> None:
    for seed in range(batch * 40, batch * 40 + 40):
        lines = case(seed)
        shared = share_out(lines)
        used: dict[str, int] = {}
        have: dict[str, int] = {}
        for line, each in zip(lines, shared, strict=True):
            have |= {e.id: e.count for way in line.ways for a in way for e in a.good}
            if each is None:
                continue
            for ask, things in zip(line.ways[each[0]], each[1], strict=True):
                assert sum(one.count for one in things) >= ask.asked
                assert {one.id for one in things} <= {one.id for one in ask.good}
                for one in things:
                    used[one.id] = used.get(one.id, 0) + one.count
        assert all(n <= have[name] for name, n in used.items()), seed
        pairs = [(line, each) for line, each in zip(lines, shared, strict=True) if each]
        score = (
            sum(line.must for line, _ in pairs),
            sum(not line.must for line, _ in pairs),
            sum(each[0] == 0 for _, each in pairs),
        )
        assert score == best(lines), seed


def test_what_cannot_be_met_is_not_begun() -> None:
    line = Line(((Ask(2, (thing(0, 10, 1),), {}),),))
    assert share_out([line, line]) == [None, None]
