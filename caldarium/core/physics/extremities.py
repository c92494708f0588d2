"""Fingers, toes and face: their own insulation, heat and time, beside the body's.

A digit is a thin cylinder: thick layers enlarge the surface that loses heat, so that gloves stop
helping near 1.2 clo. The blood that heats it depends on how the body does. It cools towards its own
steady temperature with its own time constant.
"""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.quantities import CLO, Array, Flags, Values, array

WORKS, FREEZES = 15.0, 5.0
"""Skin temperatures at which fingers still work, and below which cold injury threatens [°C].
Source: ISO 11079:2007, annex on local cooling (15 °C low strain for hands), and judgement for 5."""
START = 30.0
"""Skin of fingers and toes when a moment begins [°C]: judgement, a body in balance."""
HIGHEST = 34.0
FINGER, TOE, MITT = 0.008, 0.012, 0.025
"""Radius of a finger, a toe, and of fingers held together [m]: judgement on ordinary hands."""
CONDUCTIVITY = 0.048
"""Of still-air insulation as thick as the garment formula has it [W/(m K)]."""
MOST_ON_FINGERS = 1.2
"""Insulation that gloves with fingers apart can reach [clo]. Source: van Dilla, Day & Siple
(1949), in Newburgh, Physiology of Heat Regulation; value from memory."""
HEAT_CAPACITY = 3.7e6
"""Of tissue [J/(m³ K)]. Source: ordinary value of muscle and skin, from memory."""
STILL_LAYER = 0.085
"""Air layer on a flat surface in still air [m² K/W]. Source: ISO 11079:2007."""
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

    clo worn over them after curvature, wet and wind; heat brought by the blood [W/m²]; the steady
    temperature they go towards [°C] and the time constant with which they do [h].
    """

    clo: Array
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


def curved(flat: Values, radius: Values) -> Array:
    """Insulation of a layer bent round a cylinder, for the skin under it.

    Args:
        flat: the same layer on a flat surface [m² K/W].
        radius: of the bare cylinder [m].

    Returns:
        Insulation [m² K/W]; always less than flat.

    Source: steady conduction through a cylinder.
    """
    bare = array(radius)
    return bare / CONDUCTIVITY * np.log1p(array(flat) * CONDUCTIVITY / bare)


def hand_insulation(apart: Values, together: Values) -> Array:
    """Insulation over the fingers from gloves, and from mitts over them.

    Args:
        apart: gloves and liners summed as if flat [clo].
        together: mitts summed as if flat [clo].

    Returns:
        Insulation [clo]; gloves alone at most MOST_ON_FINGERS.

    Source: curved; the cap by van Dilla, Day & Siple (1949).
    """
    gloves = np.minimum(curved(array(apart) * CLO, FINGER) / CLO, MOST_ON_FINGERS)
    return gloves + curved(array(together) * CLO, MITT) / CLO


def outer_layer(clo: Values, radius: Values) -> Array:
    """Still air layer over a clothed cylinder, referred to the skin [m² K/W].

    Args:
        clo: insulation under it.
        radius: of the bare cylinder [m].

    Source: STILL_LAYER on the enlarged surface.
    """
    bare = array(radius)
    thickness = bare * np.expm1(np.minimum(array(clo) * CLO * CONDUCTIVITY / bare, 5.0))
    return STILL_LAYER * bare / (bare + thickness)


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
