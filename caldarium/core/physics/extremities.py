"""Fingers, toes and face: their own insulation, heat and time, beside the body's.

A digit is a thin cylinder: thick layers enlarge the surface that loses heat, so that gloves stop
helping near 1.2 clo. The blood that heats it depends on how the body does. It cools towards its own
steady temperature with its own time constant.
"""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.clothing import CONDUCTIVITY, bent
from caldarium.core.physics.quantities import CLO, KELVIN, Array, Flags, Values, array

WORKS, FREEZES = 15.0, 5.0
"""Skin temperatures at which fingers still work, and below which cold injury threatens [°C].
Source: ISO 11079:2007, annex on local cooling (15 °C low strain for hands), and judgement for 5."""
START = 30.0
"""Skin of fingers and toes when a moment begins [°C]: judgement, a body in balance."""
HIGHEST = 34.0
FINGER, TOE, MITT, FOOT = 0.008, 0.012, 0.025, 0.03
"""Radius of a finger, a toe, of fingers held together, and of a foot [m]: judgement on ordinary
hands and feet."""
MOST_ON_FINGERS = 1.2
"""Insulation that gloves with fingers apart can reach [clo]. Source: van Dilla, Day & Siple
(1949), in Newburgh, Physiology of Heat Regulation; value from memory."""
HEAT_CAPACITY = 3.7e6
"""Of tissue [J/(m³ K)]. Source: ordinary value of muscle and skin, from memory."""
RADIANT = 4.4
"""Heat transfer by long-wave radiation [W/(m² K)]: 4 sigma T³ near 0 °C, emissivity 0.95."""
LEAST_DRAUGHT = 0.15
"""Air never stands stiller round a person [m/s]. Source: ISO 9920:2007, reference of still air."""
COLD_BLOOD = {"fingers": 40.0, "toes": 35.0}
RESTING_BLOOD = {"fingers": 100.0, "toes": 80.0}
"""Heat the blood brings to digits of a body far below its need, and of one at rest in balance
[W/m² of digit]: judgement, within the wide spread of measured digits."""
BLOOD_OF_WORK = 1.0
"""Heat to the digits for each W/m² of metabolic rate above rest: judgement."""
RESTING_RATE = 70.0
MOST_BLOOD = 280.0


@dataclass(frozen=True)
class Digits:
    """Fingers or toes, arrays of one shape.

    clo worn over them after curvature, wet and wind; resistance from skin to air [m² K/W]; heat
    brought by the blood [W/m²]; the steady temperature they go towards [°C] and the time constant
    with which they do [h].
    """

    clo: Array
    resistance: Array
    heat: Array
    steady: Array
    constant: Array

    def at_end(self, hours: Values, start: Values = START) -> Array:
        """Temperature after a time [h] from a start [°C]. Source: one node, exponential."""
        return self.steady + (array(start) - self.steady) * np.exp(-array(hours) / self.constant)

    def until(self, limit: float, start: Values = START) -> Array:
        """Minutes until they are as cold as a limit [°C]; 0 where they are, infinite where they
        never will be. Source: at_end turned round."""
        begin = array(start)
        falls = (self.steady < limit) & (begin > limit)
        share = (begin - self.steady) / np.where(falls, limit - self.steady, 1.0)
        minutes = 60 * self.constant * np.log(np.where(falls, share, 1.0))
        already = (begin <= limit) & (self.steady < limit)
        return np.where(falls, minutes, np.where(already, 0.0, np.inf))


def hand_insulation(apart: Values, together: Values) -> Array:
    """Insulation over the fingers from gloves, and from mitts over them.

    Args:
        apart: gloves and liners summed as if flat [clo].
        together: mitts summed as if flat [clo].

    Returns:
        Insulation [clo]; gloves alone at most MOST_ON_FINGERS.

    Source: bent; the cap by van Dilla, Day & Siple (1949).
    """
    gloves = np.minimum(bent(array(apart) * CLO, FINGER) / CLO, MOST_ON_FINGERS)
    return gloves + bent(array(together) * CLO, MITT) / CLO


def cylinder_film(radius: Values, wind: Values, air: Values) -> Array:
    """Convective heat transfer from a cylinder across the wind.

    Args:
        radius: of its surface [m].
        wind: air speed, at sea level's density [m/s].
        air: temperature [°C].

    Returns:
        Coefficient [W/(m² K)].

    Source: Churchill & Bernstein (1977), J. Heat Transfer 99; air's conductivity and viscosity by
        Sutherland's law.
    """
    kelvin = array(air) + KELVIN
    conductivity = 2.64638e-3 * kelvin**1.5 / (kelvin + 245.4 * 10 ** (-12 / kelvin))
    viscosity = 1.458e-6 * kelvin**1.5 / (kelvin + 110.4) * 287.05 * kelvin / 101_325
    diameter = 2 * array(radius)
    reynolds = np.maximum(array(wind), LEAST_DRAUGHT) * diameter / viscosity
    prandtl = 0.71
    nusselt = 0.3 + 0.62 * reynolds**0.5 * prandtl ** (1 / 3) / (
        1 + (0.4 / prandtl) ** (2 / 3)
    ) ** 0.25 * (1 + (reynolds / 282_000) ** (5 / 8)) ** (4 / 5)
    return nusselt * conductivity / diameter


def outer_layer(clo: Values, radius: Values, wind: Values, air: Values) -> Array:
    """Air layer over a clothed cylinder, referred to the skin [m² K/W].

    Args:
        clo: insulation under it.
        radius: of the bare cylinder [m].
        wind: air speed [m/s].
        air: temperature [°C].

    Source: cylinder_film and RADIANT on the enlarged surface.
    """
    bare = array(radius)
    outside = bare * np.exp(np.minimum(array(clo) * CLO * CONDUCTIVITY / bare, 5.0))
    return bare / outside / (cylinder_film(outside, wind, air) + RADIANT)


def blood_heat(digit: str, rate: Values, worn: Values, need_min: Values, neutral: Values) -> Array:
    """Heat that the blood brings to fingers or toes.

    Args:
        digit: "fingers" or "toes".
        rate: metabolic rate [W/m²].
        worn, need_min, neutral: the body's insulation and its band of need, in one unit.

    Returns:
        Heat [W/m² of digit]: least where the body is at half its minimum or below, most where it
        is neutral.

    Source: judgement, see COLD_BLOOD and RESTING_BLOOD.
    """
    rest = RESTING_BLOOD[digit]
    most = np.minimum(
        rest + BLOOD_OF_WORK * np.maximum(array(rate) - RESTING_RATE, 0.0), MOST_BLOOD
    )
    low = array(need_min) / 2
    share = (array(worn) - low) / np.maximum(np.maximum(array(neutral), need_min) - low, 1e-6)
    return COLD_BLOOD[digit] + (most - COLD_BLOOD[digit]) * np.clip(share, 0.0, 1.0)


def digits(resistance: Values, clo: Values, heat: Values, air: Values, radius: float) -> Digits:
    """Digits in one place.

    Args:
        resistance: from skin to air with wind [m² K/W].
        clo: of it, what is worn.
        heat: by the blood [W/m²].
        air: temperature [°C].
        radius: of the digit [m].

    Returns:
        Where they tend and how quickly; all arrays broadcast.

    Source: one node with a time constant of heat capacity by resistance.
    """
    ohms = array(resistance)
    return Digits(
        array(clo),
        ohms,
        array(heat),
        np.minimum(array(air) + array(heat) * ohms, HIGHEST),
        HEAT_CAPACITY * radius / 2 * ohms / 3600,
    )


def bare_face(worn: Flags, face: Array) -> Array:
    """Share of the face left bare by the pieces worn.

    Args:
        worn: pieces, last axis G.
        face: share each covers, broadcasting with worn.

    Source: pieces overlap at random, judgement.
    """
    return np.prod(np.where(worn, 1 - face, 1.0), axis=-1)
