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
from math import erf, pi, sqrt

import numpy as np

from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.belief import Belief

Unknown = str
"""The name of something that is not known."""
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
    seen = _columns(evidence)
    exact = all(each.measured and not each.odd for each in evidence)
    for number in range(ROUNDS if evidence else 0):
        at, wide = weights @ after, np.einsum("ij,jk,ik->i", weights, spread, weights)
        new_tau, new_nu = _sites(seen, at, wide, tau, nu)
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


@dataclass(frozen=True)
class _Seen:
    """All evidence as columns: bounds, deviation of the noise, share of odd ones, how likely bounds
    are for one, and which are measured figures."""

    low: Array
    high: Array
    sd: Array
    odd: Array
    if_odd: Array
    measured: Flags


def _columns(evidence: Sequence[Evidence]) -> _Seen:
    low, high, sd, odd, if_odd = (
        np.array([getattr(each, name) for each in evidence], dtype=np.float64)
        for name in ("low", "high", "sd", "odd", "if_odd")
    )
    return _Seen(low, high, sd, odd, if_odd, low == high)


def _sites(seen: _Seen, at: Array, wide: Array, tau: Array, nu: Array) -> tuple[Array, Array]:
    """Every piece of evidence as a normal factor, given all the others."""
    left = 1 / np.maximum(wide, 1e-300) - tau
    fine = (wide > 0) & (left > 1e-12)
    variance = 1 / np.where(fine, left, 1.0)
    around = variance * (at / np.maximum(wide, 1e-300) - nu)
    slope, bend = _log_slopes(seen, around, variance)
    moved, narrowed = around + variance * slope, variance + variance**2 * bend
    fine &= narrowed > 0
    # Evidence that may be odd can leave one less sure; it is then let to move, not to widen, or the
    # rounds would not settle.
    narrowed = np.where(fine, np.minimum(narrowed, variance), 1.0)
    new_tau = np.where(fine, 1 / narrowed - left, tau)
    new_nu = np.where(fine, (moved - around) / variance + new_tau * moved, nu)
    return new_tau, new_nu


def _log_slopes(seen: _Seen, mean: Array, variance: Array) -> tuple[Array, Array]:
    """First and second derivative, by the mean, of the log of how likely evidence is for sums that
    are normal about it."""
    first, second = _measured_slopes(seen, mean, variance)
    bounded_first, bounded_second = _bounded_slopes(seen, mean, variance)
    slope = np.where(seen.measured, first, bounded_first)
    bent = np.where(seen.measured, second, bounded_second)
    return slope, bent - slope**2


def _measured_slopes(seen: _Seen, mean: Array, variance: Array) -> tuple[Array, Array]:
    """Of figures, with a second, wider normal for the odd ones; derivatives over the value."""
    off = np.where(seen.measured, seen.low, 0.0) - mean
    spreads = np.stack([variance + seen.sd**2, variance + (WIDE * seen.sd) ** 2])
    shares = np.stack([1 - seen.odd, seen.odd])
    with np.errstate(divide="ignore"):
        logs = np.log(shares) - off**2 / (2 * spreads) - 0.5 * np.log(spreads)
    # As shares of the likeliest, so that a figure far off does not vanish.
    likely = np.exp(logs - logs.max(axis=0))
    whole = likely.sum(axis=0)
    first = (likely * off / spreads).sum(axis=0) / whole
    second = (likely * (off**2 / spreads - 1) / spreads).sum(axis=0) / whole
    return first, second


def _bounded_slopes(seen: _Seen, mean: Array, variance: Array) -> tuple[Array, Array]:
    """Of bounds, derivatives over the value; beyond what figures hold as if the nearer bound had
    been measured."""
    scale = np.sqrt(variance + seen.sd**2)
    low, high = (seen.low - mean) / scale, (seen.high - mean) / scale
    sure = 1 - seen.odd
    whole = sure * (_below(high) - _below(low)) + seen.odd * seen.if_odd
    bell_low, bell_high = _bell(low), _bell(high)
    bent = bell_low * np.where(np.isfinite(low), low, 0.0)
    bent = bent - bell_high * np.where(np.isfinite(high), high, 0.0)
    far = whole <= 1e-300
    safe = np.where(far, 1.0, whole)
    near = np.where(low > 0, seen.low, seen.high)
    near = np.where(np.isfinite(near), near, mean)
    first = np.where(far, (near - mean) / scale**2, sure * (bell_low - bell_high) / scale / safe)
    second = np.where(far, first**2 - 1 / scale**2, sure * bent / scale**2 / safe)
    return first, second


def _below(values: Array) -> Array:
    """Share of the normal distribution under values."""
    return np.array([0.5 * (1 + erf(each / sqrt(2))) for each in values.tolist()])


def _bell(value: Array) -> Array:
    """Density of the normal distribution."""
    return np.where(np.isfinite(value), np.exp(-np.minimum(value**2, 1400) / 2), 0.0) / sqrt(2 * pi)
