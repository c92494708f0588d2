"""What was learnt of one question carried over to another that asks for no less.

A set for a step of caution holds at every milder step too, so that whatever a set must have there
it must have here.
"""

from collections.abc import Sequence

import numpy as np

from caldarium.core.lighten.problem import Problem
from caldarium.core.lighten.rounds import Row, at_most
from caldarium.core.physics.quantities import Array


def carried(rows: Sequence[Row], milder: Problem, to: Problem) -> list[Row]:
    """Rows that every set keeps which holds at both, in the columns of the second.

    Args:
        rows: learnt of the milder question.
        milder, to: the same offers of the same person.

    Returns:
        Rows of clothes and beds; none of gloves' and footwear's sets, which differ, and none at all
        where other pieces may be taken. A bed that the milder one left out, as another beats it,
        counts as the best of those that it knows.

    Source: none, bookkeeping.
    """
    at, there = milder.columns, to.columns
    pieces = [[each.id for each in problem.pieces] for problem in (milder, to)]
    may = [problem.bounds[1][problem.columns.clothes] for problem in (milder, to)]
    if pieces[0] != pieces[1] or not np.array_equal(may[0], may[1]) or milder.turning != to.turning:
        return []
    beds = [
        (mine, theirs, _places(milder.keys_of(known), to.keys_of(wanted)))
        for mine, theirs, known, wanted in (
            (at.tops, there.tops, milder.tops, to.tops),
            (at.bottoms, there.bottoms, milder.bottoms, to.bottoms),
        )
    ]

    found: list[Row] = []
    for row in rows:
        if np.isfinite(row.least) or max(row.columns, default=0) >= at.fingers.start:
            continue
        now, then = np.zeros(at.count), np.zeros(there.count)
        now[list(row.columns)] = row.weights
        then[there.clothes], then[there.worn] = now[at.clothes], now[at.worn]
        for mine, theirs, places in beds:
            then[theirs] = _at(now[mine], places)
        found.append(at_most(then, row.most))
    return list(dict.fromkeys(found))


def _places(known: list[frozenset[str]], wanted: list[frozenset[str]]) -> list[int | None]:
    """Where each bed is among those that are known."""
    place = {keys: at for at, keys in enumerate(known)}
    return [place.get(keys) for keys in wanted]


def _at(weights: Array, places: list[int | None]) -> Array:
    """Weights of beds, of one that is not known the least that any has."""
    least = float(weights.min(initial=0.0))
    return np.array([least if place is None else float(weights[place]) for place in places])
