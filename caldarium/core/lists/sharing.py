"""Things shared out where each counts once: as many lines met as can be, solved and not guessed."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from caldarium.core.lists.holdings import Holding
from caldarium.core.programs import Program

SECONDS = 2.0
"""After so long the best sharing so far is taken."""
A_MUST, A_SHOULD, AS_MEANT, A_GRAM = 1e4, 10.0, 0.01, 1e-7
"""What it is worth to meet a line that must be met and one that is recommended, to meet it as it is
meant and not by an alternative, and what each gram costs that is shared out: an order, no measure.
"""

Name = tuple[str | None, str]
"""Whose a thing is, and its id."""


@dataclass(frozen=True)
class Ask:
    """A part of a way: how many are asked, of which things that are good enough, and figures that
    these must reach together."""

    asked: int
    good: tuple[Holding, ...]
    together: Mapping[str, float]

    @property
    def can(self) -> bool:
        """Whether there is enough of it, if it were for this alone. Source: none, counts."""
        return sum(each.count for each in self.good) >= self.asked


@dataclass(frozen=True)
class Line:
    """A line to be met by any one of its ways, and whether it must be."""

    ways: tuple[tuple[Ask, ...], ...]
    must: bool = True


Shared = tuple[int, tuple[tuple[Holding, ...], ...]]
"""The way by which a line is met, and the things for each of its parts."""


def name_of(holding: Holding) -> Name:
    """What a thing is known by. Source: none, bookkeeping."""
    return holding.who, holding.id


def share_out(lines: Sequence[Line]) -> list[Shared | None]:
    """For each line a way and things to meet it by, no thing for two; None where it is not met.

    As many lines that must be met as can be, then as many others, then by the ways that are meant,
    then with the least mass.

    Source: a program of whole numbers, solved by HiGHS.
    """
    if not any(all(ask.can for ask in way) for line in lines for way in line.ways):
        return [None] * len(lines)
    program = Program([], SECONDS, exact=True)
    uses: dict[Name, list[tuple[int, float]]] = {}
    count: dict[Name, int] = {}
    taken: list[list[tuple[int, list[list[tuple[int, Holding]]]]]] = []
    for line in lines:
        worth = A_MUST if line.must else A_SHOULD
        ways: list[tuple[int, list[list[tuple[int, Holding]]]]] = []
        for at, way in enumerate(line.ways):
            possible = all(ask.can for ask in way)
            chosen = program.whole(-worth - (AS_MEANT if at == 0 else 0.0), possible)
            parts: list[list[tuple[int, Holding]]] = []
            for ask in way if possible else ():
                columns: list[tuple[int, Holding]] = []
                for each in ask.good:
                    column = program.whole(A_GRAM * (each.grams + 0.01), each.count)
                    columns.append((column, each))
                    uses.setdefault(name_of(each), []).append((column, 1.0))
                    count[name_of(each)] = each.count
                number = [(column, 1.0) for column, _ in columns]
                program.row([*number, (chosen, float(-ask.asked))], 0.0, np.inf)
                for fact, asked in ask.together.items():
                    reach = [(c, float(e.facts.get(fact) or 0.0)) for c, e in columns]
                    program.row([*reach, (chosen, -asked)], 0.0, np.inf)
                parts.append(columns)
            ways.append((chosen, parts))
        program.row([(which, 1.0) for which, _ in ways], 0.0, 1.0)
        taken.append(ways)
    for name, used in uses.items():
        program.row(used, 0.0, float(count[name]))
    values, _ = program.solved()
    return [_found(ways, values) for ways in taken]


def _found(
    ways: Sequence[tuple[int, list[list[tuple[int, Holding]]]]], values: Sequence[float]
) -> Shared | None:
    for at, (chosen, parts) in enumerate(ways):
        if values[chosen] > 0.5:
            things = tuple(
                tuple(
                    replace(each, count=round(values[column]))
                    for column, each in part
                    if round(values[column]) > 0
                )
                for part in parts
            )
            return at, things
    return None
