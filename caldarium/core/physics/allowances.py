"""Altitude, fatigue and low food: allowances that are off until the user asks for them.

That tired, hungry and high people cool faster is well supported; how much is judgement here. The
works named are from memory: Castellani et al. (1999), J. Appl. Physiol. 86, for exertional fatigue;
Gale et al. (1981), J. Physiol. 310, for low blood sugar; Cymerman & Rock (1994), USARIEM TN94-2,
for altitude.
"""

from typing import Literal

import numpy as np

from caldarium.core.physics.quantities import Array, Values, array

Allowance = Literal["altitude", "fatigue", "low food"]
TIRED_AFTER = 4.0
"""Hours walked in a day after which people count as tired [h]: judgement."""
TIRED_SHARE = 0.9
"""Share of the quiet heat that tired people make: judgement."""
HUNGRY_SHARE = 0.93
"""Share of the quiet heat that hungry people make: judgement."""
HIGH = 2500.0
"""Altitude from which hands and feet get less blood [m]: judgement."""
LOST_A_KILOMETRE = 0.1
"""Share of the heat to hands and feet lost for each kilometre above it: judgement."""
LEAST = 0.4


def quiet_heat(allowances: tuple[Allowance, ...], hours_walked: Values) -> Array:
    """Share of the usual heat that people make at rest, at camp and asleep.

    Args:
        allowances: those that are on.
        hours_walked: so far that day [h].

    Returns:
        Share, 1 where nothing is allowed for.

    Source: judgement, see the module.
    """
    tired = array(hours_walked) >= TIRED_AFTER
    share = np.where(tired & ("fatigue" in allowances), TIRED_SHARE, 1.0)
    return share * (HUNGRY_SHARE if "low food" in allowances else 1.0)


def heat_to_digits(allowances: tuple[Allowance, ...], altitude: Values) -> Array:
    """Share of the usual heat that hands and feet get at an altitude [m].

    Source: judgement, see the module.
    """
    above = np.maximum(array(altitude) - HIGH, 0.0) / 1000
    share = np.maximum(1 - LOST_A_KILOMETRE * above, LEAST)
    return share if "altitude" in allowances else np.ones(share.shape)
