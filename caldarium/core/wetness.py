"""What rain leaves of a garment's warmth. Shares are judgement and stand in one table."""

import numpy as np

from caldarium.core.quantities import Array, Values, array

DRY_SHARE = {
    "down": 0.2,
    "treated down": 0.4,
    "synthetic fill": 0.65,
    "fleece": 0.7,
    "wool": 0.7,
    "knit": 0.6,
    "woven": 0.6,
    "membrane": 0.9,
    "foam": 0.95,
    "leather": 0.7,
}
"""Share of insulation left when soaked, by material: judgement; order by common practice, no
published source."""
SOAKING_DEPTH = 4.0
"""Rain on an unprotected garment that counts as soaked [mm]: judgement."""
DRY_SNOW_BELOW = -2.0
"""Air temperature below which snow mostly falls off before it melts [°C]: judgement."""
DRY_SNOW_SHARE = 0.25


def soaking(rate: Values, hours: Values, air: Values) -> Array:
    """How far an unprotected garment is soaked at the end of a time in the open.

    Args:
        rate: precipitation [mm/h of water].
        hours: time in it [h].
        air: temperature [°C]; well below freezing most snow is brushed off.

    Returns:
        Wetness from 0 dry to 1 soaked.

    Source: judgement.
    """
    depth = array(rate) * np.minimum(array(hours), 2.0)
    caught = np.where(array(air) < DRY_SNOW_BELOW, DRY_SNOW_SHARE, 1.0)
    return np.clip(depth * caught / SOAKING_DEPTH, 0.0, 1.0)
