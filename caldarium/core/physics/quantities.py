"""Array types and the few conversions the field's formulas need inside the core."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]
Values = float | Array

CLO = 0.155
"""Thermal resistance of one clo [m² K/W]. Source: Gagge, Burton & Bazett (1941), Science 94."""
MET = 58.15
"""Metabolic rate of one met [W/m²]. Source: ISO 8996:2021."""
R_US = 0.1761
"""Thermal resistance of one °F ft² h/BTU [m² K/W], exact conversion to four figures."""
KELVIN = 273.15


def array(values: Values | Flags) -> Array:
    """The values as a float array; scalars become zero-dimensional.

    Source: none, a conversion.
    """
    return np.asarray(values, dtype=np.float64)


def within(values: Array, condition: Flags) -> Array:
    """The values where the condition holds, NaN elsewhere: no silent extrapolation.

    Source: none, the house rule of physics: outside a stated range there is no figure.
    """
    return np.where(condition, values, np.nan)
