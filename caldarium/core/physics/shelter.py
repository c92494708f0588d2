"""Shelters: how much warmer it is inside, from what sleepers make, walls, sky, floor and air lose.

Films are ordinary coefficients; sizes, gaps and exchange of air by kind are judgement, named here,
so that an occupied closed double skin on a calm night is 3 to 5 K warmer: common practice, no
published source.
"""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.quantities import Array, Values, array

RADIATION, INSIDE_FILM, OUTSIDE_FILM, OUTSIDE_A_WIND = 4.6, 3.0, 4.0, 3.5
"""Heat transfer at a shelter's skin [W/(m² K)]: long-wave near 0 °C, and films inside and outside
in calm air and for each m/s: judgement on ordinary film coefficients."""
SLEEPER_HEAT = 1.8 * 44.0 * 0.72
"""What a sleeper gives to the air of a shelter [W]: of 44 W/m² on 1.8 m² what is not vapour and
does not go into the ground. The share is judgement."""
PLACE_M2, PLACE_HEIGHT = 1.4, 1.0
"""Floor and height of one place where a shelter was not measured [m², m]: judgement."""
FILLED = 0.6
"""Volume inside over that of a box round it: judgement."""
AIR_HEAT = 0.34
"""Heat that air carries [W h/(m³ K)]."""
FLOOR_U = 2.0
"""Between inside and the ground, through floor and what lies on it [W/(m² K)]: judgement."""
SNOW_SURFACE = INSIDE_FILM + RADIATION
"""Between inside and surfaces of snow, which keep their own temperature [W/(m² K)]."""
THAWS = 1.0
"""Air inside snow gets no warmer than this, as its walls would thaw [°C]: judgement."""


@dataclass(frozen=True)
class ShelterClass:
    """A kind of shelter: share of the wind, of the rain and of the sky's view that reach a bed in
    it, and of the sky that its walls see; walls for each m² of floor, and their resistance between
    films [m² K/W], None for a roof that keeps no air; air changes in calm air and for each m/s
    [1/h]; and the temperature of its own that a floor and walls of snow keep [°C]."""

    wind_share: float
    rain: float
    bed_sky: float
    sky: float
    walls: float
    gap: float | None
    breeze: tuple[float, float]
    floor: float | None = None


# Of wind, rain and sky what reaches a bed; sky that walls see; walls, gap, breeze, floor.
SHELTER_CLASSES = {
    "double skin": ShelterClass(0.05, 0.0, 0.0, 0.5, 2.1, 0.2, (3.0, 4.0)),
    "single skin": ShelterClass(0.1, 0.0, 0.0, 0.5, 2.0, 0.0, (2.0, 3.0)),
    "tarp": ShelterClass(0.5, 0.05, 0.2, 0.5, 1.3, None, (30.0, 40.0)),
    "hammock tarp": ShelterClass(0.6, 0.05, 0.1, 0.5, 1.3, None, (40.0, 60.0)),
    "bivouac bag": ShelterClass(0.1, 0.0, 0.0, 0.5, 2.4, 0.0, (3.0, 3.0)),
    "group shelter": ShelterClass(0.1, 0.0, 0.0, 0.5, 1.6, 0.0, (4.0, 3.0)),
    "snow shelter": ShelterClass(0.0, 0.0, 0.0, 0.0, 2.5, 3.0, (1.5, 0.5), -5.0),
    "igloo": ShelterClass(0.0, 0.0, 0.0, 0.2, 2.5, 2.0, (2.0, 0.5), -4.0),
    "bothy": ShelterClass(0.05, 0.0, 0.0, 0.3, 2.5, 0.3, (2.0, 1.5)),
    "hut": ShelterClass(0.0, 0.0, 0.0, 0.3, 2.5, 0.8, (1.0, 0.5)),
}
"""Judgement, within common practice, no published source."""
OPEN = ShelterClass(1.0, 1.0, 0.8, 0.8, 0.0, None, (0.0, 0.0))
"""No shelter at all; the view of the sky is that of a body on open ground: judgement."""


@dataclass(frozen=True)
class Inside:
    """What sets the air in a shelter: its kind, sleepers, and size, by places where not given; and
    how much of its warmth was found there."""

    kind: str
    sleepers: Values
    places: int
    floor_m2: float | None = None
    height_m: float | None = None
    found: float = 1.0

    @property
    def floor(self) -> float:
        """Floor [m²]. Source: PLACE_M2 where it was not measured."""
        return self.floor_m2 or PLACE_M2 * self.places

    def exchange(self, wind: Values) -> Array:
        """Air that comes in [m³/h] with wind at the walls [m/s]. Source: judgement, by kind."""
        calm, windy = SHELTER_CLASSES[self.kind].breeze
        volume = self.floor * (self.height_m or PLACE_HEIGHT) * FILLED
        return (calm + windy * array(wind)) * volume


def snow_shape(slope: float | None) -> float:
    """Share of the ground's snow that lies on a roof.

    Args:
        slope: of the roof [degrees], None where it is not known.

    Returns:
        1 where it is not known, which is the careful side; 0.8 up to 30 degrees, none from 60.

    Source: EN 1991-1-3:2003, table 5.2, shape factor of a roof without a fence.
    """
    if slope is None:
        return 1.0
    return float(np.clip(0.8 * (60 - slope) / 30, 0.0, 0.8))


def sky_drop(air: Values, sky: Values, wind: Values, view: Values) -> Array:
    """How far the night sky pulls a surface under the air.

    Args:
        air: at the surface [°C].
        sky: temperature that the sky radiates like [°C].
        wind: over it [m/s].
        view: of the sky, 0 to 1.

    Returns:
        Kelvin under the air at which it would rest were nothing behind it.

    Source: balance of a grey surface between films of air and long-wave exchange with the sky.
    """
    film = OUTSIDE_FILM + OUTSIDE_A_WIND * array(wind)
    pulled = array(view) * RADIATION * (array(air) - array(sky))
    return np.maximum(pulled, 0.0) / (film + RADIATION)


def thermal_lift(
    inside: Inside, outside: Values, wind: Values, sky: Values, ground: Values
) -> Array:
    """Inside over outside temperature of an occupied shelter.

    Args:
        inside: kind, sleepers, size.
        outside: air temperature [°C].
        wind: at the walls [m/s]; it cools them and flushes the warmth out.
        sky: temperature that the sky radiates like [°C].
        ground: under the floor [°C].

    Returns:
        Lift [K]; under none where a clear sky pulls thin walls below the air.

    Raises:
        KeyError: for a kind that is not listed.

    Source: steady balance of sleepers, walls (films and their gap, sky), exchanged air and floor.
        Where floor and walls are snow they keep a temperature of their own.
    """
    kind = SHELTER_CLASSES[inside.kind]
    air, blown = array(outside), array(wind)
    if kind.gap is None:
        return np.zeros(np.broadcast_shapes(air.shape, blown.shape))
    outer = OUTSIDE_FILM + OUTSIDE_A_WIND * blown + RADIATION
    walls = inside.floor * kind.walls / (1 / (INSIDE_FILM + RADIATION) + kind.gap + 1 / outer)
    drop = sky_drop(air, sky, blown, kind.sky)
    vent = AIR_HEAT * inside.exchange(blown)
    floor = FLOOR_U * inside.floor
    deep = array(ground)
    if kind.floor is not None:
        floor, deep = SNOW_SURFACE * inside.floor * (1 + kind.walls), np.maximum(kind.floor, air)
    made = SLEEPER_HEAT * array(inside.sleepers)
    lift = (made + floor * (deep - air) - walls * drop) / (walls + vent + floor)
    if kind.floor is not None:
        lift = np.minimum(lift, np.maximum(THAWS - air, 0.0))
    return lift * inside.found
