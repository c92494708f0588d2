"""One vectorised root finder for the balances that have no closed form."""

from collections.abc import Callable

import numpy as np

from caldarium.core.physics.quantities import Array


def bracketed_newton(
    balance: Callable[[Array], tuple[Array, Array]],
    low: Array,
    high: Array,
    start: Array,
    iterations: int = 30,
    tolerance: float = 1e-11,
) -> Array:
    """Root of an increasing function, element by element.

    Args:
        balance: gives the function's value and slope at the points asked for.
        low, high: bracket of each element; the function changes sign inside it.
        start: first guess, inside the bracket.
        iterations: most steps taken.
        tolerance: step at which an element counts as settled, in the unit of the unknown.

    Returns:
        The root of each element. Newton where it stays inside the bracket, else halving; the same
        to the last digit whatever other elements are solved with it.

    Source: Press et al., Numerical Recipes, 3rd ed., 9.4 (safeguarded Newton).
    """
    point = start
    found = np.zeros(np.shape(start), dtype=bool)
    for _ in range(iterations):
        value, slope = balance(point)
        above = value > 0
        high = np.where(above, point, high)
        low = np.where(above, low, point)
        step = point - value / np.where(slope > 0, slope, np.inf)
        inside = (step >= low) & (step <= high) & (slope > 0)
        following = np.where(inside, step, 0.5 * (low + high))
        following = np.where(found | (value == 0), point, following)
        found = found | (np.abs(following - point) <= tolerance)
        point = following
        if bool(np.all(found)):
            break
    return point
