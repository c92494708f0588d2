"""Heat that comes with what is eaten and drunk."""

from caldarium.core.physics.cold import HEAT_DEBT_LIMIT
from caldarium.core.physics.quantities import Array, Values, array

DRINK_C, SWALLOWED_C = 60.0, 37.0
"""How hot a hot drink is, and what it ends at in the body [°C]: judgement."""
WATER_HEAT = 4186.0 / 3600
"""Heat in water [W h/(kg K)]. Source: CRC Handbook, specific heat at 40 °C, from memory."""
PERSON_AREA = 1.8
"""Body surface of an ordinary person [m²]. Source: ISO 11079:2007, ISO 8996:2021."""
DRUNK_IN = 1 / 6
"""Time in which a hot drink is drunk and warms [h]: judgement."""
SPENT_EATING, EATEN_FOR = 0.10, 3.0
"""Share of the energy of a mixed meal that becomes heat while it is digested, and for how long
[h]. Source: Westerterp 2004, Nutrition & Metabolism 1:5, a tenth; from memory, that it is even
over so long is judgement."""
WATT_HOURS = 1.163
"""A kilocalorie [W h]."""


def drink_heat(litres: Values) -> Array:
    """Heat that a hot drink leaves in a body [W h].

    Args:
        litres: drunk at DRINK_C [L].

    Source: heat of water.
    """
    return array(litres) * WATER_HEAT * (DRINK_C - SWALLOWED_C)


def food_heat(energy: Values) -> Array:
    """Heat made while food is digested [W], for EATEN_FOR hours.

    Args:
        energy: of the food [kcal].

    Source: SPENT_EATING.
    """
    return array(energy) * WATT_HOURS * SPENT_EATING / EATEN_FOR


def longer_with(litres: Values) -> Array:
    """How many times as long clothing holds with a hot drink as without.

    Args:
        litres: drunk by an ordinary person [L].

    Source: the drink's heat beside the heat debt of ISO 11079:2007.
    """
    return 1 + drink_heat(litres) / PERSON_AREA / HEAT_DEBT_LIMIT
