"""What two moments together allow to be lost: fingers begin the later one as the earlier left them.

What a set of gloves allows at the later falls with what is lost at the earlier. A straight line
over that fall is a bound on both losses, and as each loss is bounded by straight lines, so is the
sum.
"""

from dataclasses import dataclass

import numpy as np

from caldarium.core.lighten.day_bounds import loss_allowed
from caldarium.core.lighten.digit_sets import Link
from caldarium.core.physics.quantities import Array

SLOPES = (0.1, 0.3, 0.5, 0.7, 0.9)
"""Of how steep sets fall, shares at which lines are drawn."""


@dataclass(frozen=True)
class Linked:
    """Lines over what S sets allow: the later moment and the earlier, by their places; slopes [J],
    and the most that the loss at the later and slope times that at the earlier may be
    [W/(m² K), J x S]."""

    moment: int
    before: int
    slopes: Array
    most: Array


def linked(link: Link, bare: Array, anyway: Array) -> Linked:
    """Lines over what the sets of a link allow.

    Args:
        link: what they ask.
        bare: insulation of the air layer at each moment [m² K/W, M].
        anyway: loss that each moment allows whatever the digits do [W/(m² K), M].

    Source: geometry; between two points of a link a set allows no more than at the warmer.
    """
    lost = loss_allowed(link.worn, bare[link.before])
    allows = loss_allowed(np.maximum(link.asks, 1e-6), bare[link.moment])
    allows = np.minimum(allows, anyway[link.moment])
    falls = (allows[:, 0] - allows[:, -1]) / max(float(lost[-1] - lost[0]), 1e-9)
    steep = falls[falls > 1e-3]
    slopes = np.unique(np.quantile(steep, SLOPES)) if len(steep) else np.zeros(0)
    # From one point to the next as much as the warmer allows, and as much lost as at the colder.
    near = np.concatenate([allows[:, :1], allows[:, :-1]], axis=1)
    most = (near + slopes[:, None, None] * lost).max(axis=-1)
    return Linked(link.moment, link.before, slopes, most)
