"""Bayesian updating of unknown figures that are seen through sums of them.

Every unknown has a normal prior. A piece of evidence is about a weighted sum of unknowns: a
measured figure, or that the sum and some noise fell between two bounds. Evidence may be an odd one
that says nothing; how likely that is stands with it, so that one odd night moves little.

References:
    [1] Gelman et al. (2013), Bayesian Data Analysis, 3rd ed., 2.5: normal mean, known variance.
    [2] Minka (2001), Expectation propagation for approximate Bayesian inference, UAI 17.
    [3] Rasmussen & Williams (2006), Gaussian Processes for Machine Learning, 3.6 and 3.9: moments
        for bounds.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import erf, exp, pi, sqrt

import numpy as np

from caldarium.core.physics.quantities import Array
from caldarium.core.plan.belief import Belief

Unknown = tuple[str, str]
"""A kind of unknown, and whose."""
WIDE = 5.0
"""An odd measured figure is spread so many times wider: judgement."""
ROUNDS, CLOSE = 600, 1e-9
DAMPED, SLOWER = 0.7, 60
"""Share of a step that is taken at first, and rounds in which it halves, so that nothing swings."""
BELIEVED = (-40.0, 40.0)
"""Between which figures a belief can lie."""


@dataclass(frozen=True)
class Evidence:
    """A weighted sum of unknowns that was seen.

    weights by unknown; low and high are bounds between which the sum and its noise fell, the same
    figure twice for a measured one; sd of the noise; odd the share of such evidence that says
    nothing, and if_odd the chance that odd evidence of bounds falls between them.
    """

    weights: Mapping[Unknown, float]
    low: float
    high: float
    sd: float
    odd: float = 0.0
    if_odd: float = 0.25

    @property
    def measured(self) -> bool:
        """Whether a figure was seen, not bounds. Source: none, bookkeeping."""
        return self.low == self.high


def learn(prior: Mapping[Unknown, Belief], evidence: Sequence[Evidence]) -> dict[Unknown, Belief]:
    """What is believed after evidence, in any order.

    Args:
        prior: of every unknown that evidence is about.
        evidence: any number of pieces.

    Returns:
        Of every unknown mean, deviation and how many pieces were about it, on those of before.
        Measured figures without odd ones give the closed form of [1] exactly; bounds are those of
        [2] with the moments of [3].

    Source: [1], [2], [3].
    """
    names = list(prior)
    where = {name: place for place, name in enumerate(names)}
    mean = np.array([prior[name].mean for name in names])
    precision = np.array([prior[name].sd ** -2 for name in names])
    weights = np.zeros((len(evidence), len(names)))
    for row, each in enumerate(evidence):
        for name, weight in each.weights.items():
            weights[row, where[name]] = weight
    tau, nu = np.zeros(len(evidence)), np.zeros(len(evidence))
    after, spread = mean, np.diag(1 / precision) if names else np.zeros((0, 0))
    exact = all(each.measured and not each.odd for each in evidence)
    for number in range(ROUNDS if evidence else 0):
        at, wide = weights @ after, np.einsum("ij,jk,ik->i", weights, spread, weights)
        new_tau, new_nu = _sites(evidence, at, wide, tau, nu)
        step = max(np.abs(new_tau - tau).max(), np.abs(new_nu - nu).max())
        damped = 1.0 if exact else DAMPED / (1 + number / SLOWER)
        tau, nu = tau + damped * (new_tau - tau), nu + damped * (new_nu - nu)
        after, spread = _joint(mean, precision, weights, tau, nu)
        if step < CLOSE:
            break
    many = (weights != 0).sum(axis=0)
    return {
        name: Belief(
            mean=float(np.clip(after[place], *BELIEVED)),
            sd=float(np.clip(np.sqrt(spread[place, place]), 1e-6, BELIEVED[1])),
            times=prior[name].times + int(many[place]),
        )
        for place, name in enumerate(names)
    }


def _joint(
    mean: Array, precision: Array, weights: Array, tau: Array, nu: Array
) -> tuple[Array, Array]:
    """Mean and covariance of all unknowns with evidence as normal factors."""
    whole = np.diag(precision) + weights.T @ (tau[:, None] * weights)
    spread = np.linalg.inv(whole).astype(np.float64)
    return spread @ (precision * mean + weights.T @ nu), spread


def _sites(
    evidence: Sequence[Evidence], at: Array, wide: Array, tau: Array, nu: Array
) -> tuple[Array, Array]:
    """Every piece of evidence as a normal factor, given all the others."""
    new_tau, new_nu = tau.copy(), nu.copy()
    for row, each in enumerate(evidence):
        left = 1 / wide[row] - tau[row] if wide[row] > 0 else 0.0
        if left <= 1e-12:
            continue
        variance = 1 / left
        around = variance * (at[row] / wide[row] - nu[row])
        slope, bend = _log_slopes(each, around, variance)
        moved, narrowed = around + variance * slope, variance + variance**2 * bend
        if narrowed <= 0:
            continue
        # Evidence that may be odd can leave one less sure; it is then let to move, not to widen,
        # or the rounds would not settle.
        narrowed = min(narrowed, variance)
        new_tau[row] = 1 / narrowed - left
        new_nu[row] = (moved - around) / variance + new_tau[row] * moved
    return new_tau, new_nu


def _log_slopes(each: Evidence, mean: float, variance: float) -> tuple[float, float]:
    """First and second derivative, by the mean, of the log of how likely evidence is for a sum
    that is normal about it."""
    if each.measured:
        seen = each.low - mean
        parts = [(1 - each.odd, variance + each.sd**2)]
        if each.odd:
            parts.append((each.odd, variance + (WIDE * each.sd) ** 2))
        # As shares of the likeliest, so that a figure far off does not vanish.
        logs = [np.log(share) - seen**2 / (2 * v) - 0.5 * np.log(v) for share, v in parts]
        most = max(logs)
        likely = [float(np.exp(log - most)) for log in logs]
        whole = sum(likely)
        first = sum(p * seen / v for p, (_, v) in zip(likely, parts, strict=True)) / whole
        second = (
            sum(p * (seen**2 / v - 1) / v for p, (_, v) in zip(likely, parts, strict=True)) / whole
        )
        return first, second - first**2
    scale = sqrt(variance + each.sd**2)
    low, high = (each.low - mean) / scale, (each.high - mean) / scale
    whole = (1 - each.odd) * (_below(high) - _below(low)) + each.odd * each.if_odd
    if whole <= 1e-300:
        # Beyond what figures hold: as if the nearer bound had been measured.
        near = each.low if low > 0 else each.high
        return (near - mean) / scale**2, -1 / scale**2
    first = (1 - each.odd) * (_bell(low) - _bell(high)) / scale / whole
    bent = _bell(low) * (low if np.isfinite(low) else 0.0)
    bent -= _bell(high) * (high if np.isfinite(high) else 0.0)
    second = (1 - each.odd) * bent / scale**2 / whole
    return first, second - first**2


def _below(value: float) -> float:
    """Share of the normal distribution under a value."""
    return 0.5 * (1 + erf(value / sqrt(2)))


def _bell(value: float) -> float:
    """Density of the normal distribution."""
    return exp(-value * value / 2) / sqrt(2 * pi) if np.isfinite(value) else 0.0
