"""What a day's moments together ask of the body for its digits, held against cooling itself."""

from types import SimpleNamespace

import highspy
import numpy as np
import pytest

from caldarium.core.lighten.day_chains import UNHURT, Asked, chains_of
from caldarium.core.physics.extremities import START, blood_heat, digits
from caldarium.core.programs import quiet_solver

SETS, MOMENTS = 4, 6
BEFORE = np.array([-1, 0, 1, -1, 3, 4])


def a_day(seed: int, outfits: int):
    """Somebody's digits in some outfits, in air and with needs at random, and what cools them."""
    dice = np.random.default_rng(seed)
    shape = (SETS, MOMENTS, outfits)
    air = np.broadcast_to(dice.uniform(-10, 10, MOMENTS), (SETS, MOMENTS))
    rate = np.broadcast_to(dice.uniform(60, 200, MOMENTS), (SETS, MOMENTS))
    minimal = np.broadcast_to(dice.uniform(0.3, 1.0, MOMENTS), (SETS, MOMENTS))
    neutral = minimal + 0.1
    found = digits(dice.uniform(0.1, 0.7, shape), 1.0, 0.0, air[..., None], 0.03)
    hours, share = dice.uniform(0.2, 6, MOMENTS), dice.uniform(0.7, 1.0, MOMENTS)
    needs = SimpleNamespace(minimal=minimal, neutral=neutral)
    body = SimpleNamespace(hours=hours, share=share, needs=needs)
    where = SimpleNamespace(air=air, metabolic_rate=rate)
    least = dice.uniform(0.6, 0.9, MOMENTS) * minimal[0]

    def ends(worn, tried) -> np.ndarray:
        """How warm they end with one of the outfits at each moment [S x M]."""
        heat = share * blood_heat("toes", rate, worn, minimal, neutral)
        last = np.empty((SETS, MOMENTS))
        for m, earlier in enumerate(BEFORE.tolist()):
            ohms = found.resistance[:, m, tried[m]]
            here = digits(ohms, 1.0, heat[:, m], air[:, m], 0.03)
            last[:, m] = here.at_end(hours[m], START if earlier < 0 else last[:, earlier])
        return last

    everywhere = np.ones(MOMENTS, dtype=bool)
    most = neutral[0] + 1.0
    chains = chains_of(
        "toes", found, SimpleNamespace(where=where), body, least, most, everywhere, BEFORE
    )
    return chains, ends, least, neutral[0], dice


@pytest.mark.parametrize("seed", range(8))
def test_one_outfit_ends_as_warm_as_it_cools(seed: int) -> None:
    """Between what must be worn anyway and what does any good the sum is cooling itself."""
    chains, ends, least, neutral, dice = a_day(seed, 1)
    assert chains.counts.all()
    for _ in range(20):
        worn = dice.uniform(least, neutral * 1.2)
        assert (chains.ends(worn) >= ends(worn, [0] * MOMENTS) - 1e-9).all()
        # Above the blood's least, and below where digits are as warm as they get.
        worn = least + dice.uniform(0, 1, chains.most.shape) * (chains.most - least)
        assert chains.ends(worn) == pytest.approx(ends(worn, [0] * MOMENTS), abs=1e-6)


@pytest.mark.parametrize("seed", range(8))
def test_no_choice_of_outfits_ends_warmer(seed: int) -> None:
    chains, ends, least, neutral, dice = a_day(100 + seed, 3)
    for _ in range(30):
        worn = dice.uniform(least, neutral * 1.2)
        tried = dice.integers(0, 3, MOMENTS).tolist()
        real = ends(worn, tried)
        unhurt = (real >= UNHURT).all(axis=1)
        assert (chains.ends(worn)[unhurt] >= real[unhurt] - 1e-9).all()


@pytest.mark.parametrize("seed", range(12))
def test_the_least_of_a_sum_is_that_of_a_linear_program(seed: int) -> None:
    """Each set's least by HiGHS: what warms is worn up to where it does good, and paid for."""
    dice = np.random.default_rng(seed)
    n, sets = 4, 5
    weights, least = dice.uniform(0, 3, (sets, n)), dice.uniform(0, 1, n)
    most = dice.uniform(0.5, 3, (sets, n))
    needs = dice.uniform(0.2, 1.1, sets) * (weights * np.maximum(most, least)).sum(axis=1)
    needs = np.minimum(needs, (weights * most).sum(axis=1) * 0.999)
    slopes = dice.uniform(0, 1, n) * dice.integers(0, 2, n)
    found = Asked(tuple(range(n)), weights, needs, least, most).of_sum(slopes)
    for s in range(sets):
        program = quiet_solver()
        # What is worn, and how much of it counts.
        program.addVars(2 * n, np.concatenate([least, np.zeros(n)]), np.full(2 * n, 10.0))
        program.changeColsCost(n, np.arange(n, dtype=np.int32), slopes)
        for q in range(n):
            pair = np.array([q, n + q], dtype=np.int32)
            program.addRow(0.0, highspy.kHighsInf, 2, pair, np.array([1.0, -1.0]))
            program.changeColBounds(n + q, 0.0, most[s, q])
        counts = np.arange(n, 2 * n, dtype=np.int32)
        program.addRow(needs[s], highspy.kHighsInf, n, counts, weights[s])
        program.run()
        assert program.getInfo().objective_function_value == pytest.approx(found[s], abs=1e-6)
