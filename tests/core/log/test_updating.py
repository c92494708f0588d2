"""Bayesian updates against closed forms, against quadrature, and in any order."""

import random
from math import inf, log, sqrt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import norm

from caldarium.core.log.updating import WIDE, Evidence, learn
from caldarium.core.plan.belief import Belief

SLEEP, BAG = "sleep a", "bag a:b"


def measured(weights, value: float, sd: float, odd: float = 0.0) -> Evidence:
    return Evidence(weights, value, value, sd, odd)


def test_measured_figures_are_the_closed_form_of_a_normal_mean_with_known_variance() -> None:
    """Gelman et al. (2013), Bayesian Data Analysis, 3rd ed., 2.5, equations 2.11 and 2.12: the
    posterior's precision is 1/tau0² + n/sigma², its mean the mean weighted by precision."""
    prior, seen, sigma = Belief(mean=1.0, sd=0.5), [2.1, 1.4, 1.9, 2.4], 0.8
    found = learn({SLEEP: prior}, [measured({SLEEP: 1.0}, each, sigma) for each in seen])[SLEEP]
    precision = 1 / 0.5**2 + len(seen) / sigma**2
    mean = (1.0 / 0.5**2 + sum(seen) / sigma**2) / precision
    assert found.mean == pytest.approx(mean, rel=1e-12)
    assert found.sd == pytest.approx(1 / sqrt(precision), rel=1e-12)
    assert found.times == 4


def test_sums_of_two_unknowns_are_shared_as_linear_regression_shares_them() -> None:
    """The same against numpy's least squares on whitened rows, prior rows among them."""
    rows = [({SLEEP: 6.0, BAG: 1.0}, 2.0), ({SLEEP: 5.0, BAG: 1.1}, -1.0), ({SLEEP: 6.5}, 3.0)]
    prior = {SLEEP: Belief(mean=0.3, sd=0.5), BAG: Belief(mean=0, sd=2.5)}
    found = learn(prior, [measured(weights, value, 2.0) for weights, value in rows])
    whitened = [[1 / 0.5, 0, 0.3 / 0.5], [0, 1 / 2.5, 0]]
    whitened += [[w.get(SLEEP, 0) / 2, w.get(BAG, 0) / 2, value / 2] for w, value in rows]
    table = np.array(whitened)
    best, *_ = np.linalg.lstsq(table[:, :2], table[:, 2], rcond=None)
    spread = np.linalg.inv(table[:, :2].T @ table[:, :2])
    assert [found[SLEEP].mean, found[BAG].mean] == pytest.approx(best.tolist(), rel=1e-9)
    assert found[BAG].sd == pytest.approx(sqrt(spread[1, 1]), rel=1e-9)


def by_quadrature(prior: Belief, evidence: list[Evidence]) -> tuple[float, float]:
    """Mean and deviation of one unknown by summing over a fine grid, with SciPy's normal."""
    grid = np.linspace(prior.mean - 9 * prior.sd, prior.mean + 9 * prior.sd, 20001)
    logs = norm.logpdf(grid, prior.mean, prior.sd)
    for each in evidence:
        at = each.weights[SLEEP] * grid
        if each.measured:
            likely = (1 - each.odd) * norm.pdf(each.low, at, each.sd)
            likely = likely + each.odd * norm.pdf(each.low, at, WIDE * each.sd)
        else:
            inside = norm.cdf((each.high - at) / each.sd) - norm.cdf((each.low - at) / each.sd)
            likely = (1 - each.odd) * inside + each.odd * each.if_odd
        logs = logs + np.log(likely)
    share = np.exp(logs - logs.max())
    share /= share.sum()
    mean = float((share * grid).sum())
    return mean, float(np.sqrt((share * (grid - mean) ** 2).sum()))


BOUNDS = ((-inf, -3.0), (-3.0, 0.0), (0.0, inf), (4.0, inf))


@pytest.mark.parametrize("seed", range(25))
def test_nights_between_bounds_agree_with_quadrature(seed: int) -> None:
    dice = random.Random(seed)
    prior = Belief(mean=dice.uniform(-0.5, 1.5), sd=0.5)
    truth = dice.gauss(prior.mean, prior.sd)
    evidence: list[Evidence] = []
    for _ in range(dice.randint(1, 6)):
        spare = dice.uniform(-6, 6)
        felt = spare - 6 * truth + dice.gauss(0, 2)
        options = [each for each in BOUNDS[:3] if each[0] <= felt < each[1]]
        low, high = options[0]
        evidence.append(Evidence({SLEEP: -6.0}, low - spare, high - spare, 2.0, 0.25))
    found = learn({SLEEP: prior}, evidence)[SLEEP]
    mean, sd = by_quadrature(prior, evidence)
    assert found.mean == pytest.approx(mean, abs=0.06 * prior.sd)
    assert found.sd == pytest.approx(sd, rel=0.12)


@pytest.mark.parametrize("seen", [-8.0, 0.5, 30.0])
def test_an_odd_measurement_agrees_with_quadrature(seen: float) -> None:
    prior = Belief(mean=1.0, sd=0.5)
    evidence = [measured({SLEEP: 5.0}, seen, 0.7, 0.1)]
    found = learn({SLEEP: prior}, evidence)[SLEEP]
    assert (found.mean, found.sd) == pytest.approx(by_quadrature(prior, evidence), rel=1e-3)


nights = st.lists(
    st.tuples(st.sampled_from(BOUNDS), st.floats(-12, 12), st.sampled_from([0.8, 1.0, 1.2])),
    min_size=1,
    max_size=7,
)


def as_evidence(rows) -> list[Evidence]:
    return [
        Evidence({SLEEP: -6 * slope, BAG: -slope}, low - at, high - at, 2.0, 0.25)
        for (low, high), at, slope in rows
    ]


PRIOR = {SLEEP: Belief(mean=0.8, sd=0.5), BAG: Belief(mean=0.0, sd=2.5)}


@settings(max_examples=60, deadline=None)
@given(nights, st.randoms())
def test_the_order_of_nights_does_not_matter(rows, dice) -> None:
    mixed = rows[:]
    dice.shuffle(mixed)
    one, other = learn(PRIOR, as_evidence(rows)), learn(PRIOR, as_evidence(mixed))
    for unknown in PRIOR:
        assert one[unknown].mean == pytest.approx(other[unknown].mean, abs=1e-6)
        assert one[unknown].sd == pytest.approx(other[unknown].sd, abs=1e-6)


@settings(max_examples=80, deadline=None)
@given(st.sampled_from(BOUNDS), st.floats(-60, 60), st.floats(0.5, 1.4))
def test_one_night_alone_moves_nothing_by_more_than_its_doubt(bounds, at, slope) -> None:
    after = learn(PRIOR, as_evidence([(bounds, at, slope)]))
    for unknown, before in PRIOR.items():
        assert abs(after[unknown].mean - before.mean) <= before.sd
        assert after[unknown].sd <= before.sd * 1.35


@settings(max_examples=60, deadline=None)
@given(nights)
def test_a_night_taken_away_takes_back_what_it_taught(rows) -> None:
    without = learn(PRIOR, as_evidence(rows[:-1]))
    again = learn(PRIOR, as_evidence(rows)[:-1])
    assert without == again


def test_no_evidence_leaves_everything_as_it_was() -> None:
    assert learn(PRIOR, []) == PRIOR


@pytest.mark.parametrize("odd", [0.0, 0.25])
def test_evidence_beyond_all_figures_is_taken_without_a_fault(odd: float) -> None:
    far = learn(PRIOR, [Evidence({SLEEP: -6.0}, 1e4, inf, 2.0, odd)])[SLEEP]
    assert np.isfinite(far.mean)
    assert far.sd > 0


def test_learned_as_logarithms_a_halt_of_twice_the_length_counts_as_half_does() -> None:
    prior = {SLEEP: Belief(mean=0, sd=0.3)}
    both = [measured({SLEEP: 1}, log(2), 0.35, 0.1), measured({SLEEP: 1}, log(0.5), 0.35, 0.1)]
    assert learn(prior, both)[SLEEP].mean == pytest.approx(0, abs=1e-9)
