"""The bed: a bag's label turned into resistance, and the heat that leaves upward and downward.

The parameters of the two standard sleepers are calibrated judgement: they reproduce the spacing
of printed comfort and limit figures, and are not read out of the standard's manikin method.
"""

from dataclasses import dataclass, replace

import numpy as np

from caldarium.core.physics import cold
from caldarium.core.physics.clothing import CONDUCTIVITY, RADIUS, REGION_SHARE, bent
from caldarium.core.physics.cold import LEWIS_PERMEABILITY, respiratory_loss, saturation
from caldarium.core.physics.quantities import CLO, R_US, Array, Values, array, within
from caldarium.core.physics.roots import bracketed_newton

METABOLIC_RATE = 44.0
"""Asleep [W/m²]. Source: ISO 8996:2021, 0.75 met."""
UNDER_SHARE = 0.25
"""Share of the sleeper's surface that faces the ground: judgement."""
STANDARD_PAD_R = 4.8
"""Pad of the label test, about 0.85 m² K/W. Source: ISO 23537-1."""
CRUSHED_BAG = 0.10
"""What is left of a bag crushed under the sleeper [m² K/W]: judgement."""
PRESSED, HOLLOW = 0.45, 0.35
"""Share of the underside that presses on the pad, and the air under the rest, small of the back and
knees [m² K/W]: judgement."""
FRINGE = 0.25
"""What a body loses past the edges of what it lies on [W/(m² K)]: judgement. Of it 0.14 to 0.16 is
the fringe of a strip on a slab, the rest arms and shoulders over the edge."""
STANDARD_AREA = 1.8
"""Body surface of the standard sleeper [m²]."""
THAWS_OVER = 3.0
"""Air this far over freezing does not stay over frozen ground and snow for a night [K]: judgement.
"""
LABEL_HUMIDITY = 50.0
STILL_AIR = 0.3
"""Air that moves in a closed tent [m/s]: judgement, that of the label test."""
SKIN_WETTEDNESS = 0.06
LABEL_RANGE = (-45.0, 25.0)
SLOPE_STEP = 1e-3
"""Step by which the balance's slope is found [K]."""
NIGHT_RANGE = (-60.0, 45.0)
TIGHT_BAG_SHARE = 0.95
"""Share of clothes' insulation that counts inside a bag: judgement, so that a fleece set buys about
the 3 K of common practice."""


LABEL_CLOTHES = np.array([0.0, 0.5, 0.5, 0.0, 0.5, 0.5, 0.5])
"""Base layer of the label test by region, in the label already [clo]: judgement, near that of it.
"""
EASE, LEAST_EASE, LOOSE = 0.025, 0.008, 0.2
"""Room between body and bag [m]: of an ordinary one, of the tightest, and where there is none."""
OWN_ROOM = np.array([0.02, 0.0, 0.0, 0.0, 0.0, 0.0, 0.015])
ROOM_SHARE = np.array([1.0, 1.0, 1.0, 1.0, 0.8, 0.8, 1.0])
"""Room of head and feet [m], and that of the legs over the trunk's: judgement on cut."""
AIR_IN_BAG = 0.16
"""Still air between body and bag [m² K/W]: judgement, about two centimetres."""
SLEEPER_RADIUS, OVER_PRESSED, OVER_OPEN = 0.16, 0.85, 0.8
"""Of a sleeper in a bag [m]; what pressing and open edges leave of a quilt over it: judgement."""


@dataclass(frozen=True)
class Ground:
    """What a bed lies on: its temperature relaxes from the air's towards a deeper one; pressed is 1
    where a body weighs on it and 0 where it hangs in air, indoors 1 where the shelter's own air
    passes below."""

    name: str
    deep: Values
    pull: Values
    ceiling: Values
    resistance: Values
    source: str
    pressed: Values = 1.0
    indoors: Values = 0.0


_JUDGED = "judgement; order by common practice, no published source"
GROUNDS = {
    ground.name: ground
    for ground in (
        Ground("air", 0.0, 0.0, np.inf, 0.0, "ISO 23537-1 test: ground at air temperature"),
        Ground("dry", 8.0, 0.4, np.inf, 0.10, _JUDGED),
        Ground("saturated", 4.0, 0.3, np.inf, 0.0, _JUDGED),
        Ground("rock", 5.0, 0.25, np.inf, 0.0, _JUDGED),
        Ground("frozen", -4.0, 0.2, 0.0, 0.0, _JUDGED),
        Ground("snow", -2.0, 0.3, 0.0, 0.0, _JUDGED),
        Ground("off", 0.0, 0.0, np.inf, 0.05, "judgement: open air below a hammock", 0.0, 1.0),
        Ground("cot", 0.0, 0.0, np.inf, 0.10, "judgement: still air below a cot", 1.0, 1.0),
        Ground("bunk", 0.0, 0.0, np.inf, 0.20, "judgement: boards of a hut bunk", 1.0, 1.0),
    )
}


def grounds(names: list[str]) -> Ground:
    """Several grounds as one, for beds side by side in arrays.

    Args:
        names: keys of GROUNDS, one a bed.

    Returns:
        A ground whose figures are arrays over the beds.

    Raises:
        KeyError: for a ground that is not listed.

    Source: judgement, see GROUNDS.
    """
    under = [GROUNDS[name] for name in names]
    return Ground(
        name=", ".join(sorted(set(names))),
        deep=np.array([ground.deep for ground in under]),
        pull=np.array([ground.pull for ground in under]),
        ceiling=np.array([ground.ceiling for ground in under]),
        resistance=np.array([ground.resistance for ground in under]),
        source=_JUDGED,
        pressed=np.array([ground.pressed for ground in under]),
        indoors=np.array([ground.indoors for ground in under]),
    )


def shaped(ground: Ground, shape: tuple[int, ...]) -> Ground:
    """The same grounds in arrays of another shape. Source: none, bookkeeping."""
    return Ground(
        name=ground.name,
        deep=array(ground.deep).reshape(shape),
        pull=array(ground.pull).reshape(shape),
        ceiling=array(ground.ceiling).reshape(shape),
        resistance=array(ground.resistance).reshape(shape),
        source=ground.source,
        pressed=array(ground.pressed).reshape(shape),
        indoors=array(ground.indoors).reshape(shape),
    )


def ground_temperature(air: Values, ground: Ground) -> Array:
    """Temperature under the bed.

    Args:
        air: outside the shelter [°C].
        ground: a value of GROUNDS.

    Returns:
        Temperature [°C].

    Source: judgement, see GROUNDS.
    """
    outside = array(air)
    return np.minimum(outside + ground.pull * (ground.deep - outside), ground.ceiling)


@dataclass(frozen=True)
class Sleeper:
    """A sleeper on the scale from limit (index 0) to comfort (index 1), and beyond either way."""

    index: Values

    @property
    def skin(self) -> Values:
        """Mean skin temperature [°C]: 32 curled at the limit, 33 lying at comfort. Judgement."""
        return 32.0 + self.index

    @property
    def heat_factor(self) -> Values:
        """Heat per m² of outer surface over that of lying flat: 1.15 curled. Judgement."""
        return np.maximum(1.15 - 0.15 * array(self.index), 0.7)


@dataclass(frozen=True)
class Shivering:
    """Somebody awake, curled up and shivering, who lets the skin go cold: judgement."""

    skin: Values = 30.0
    heat_factor: Values = 1.15


SHIVERING_RATE = 70.0
"""Heat that somebody makes who shivers through a whole night [W/m²]: judgement, 1.6 times that
asleep, which hungry and tired people still can."""
UNDER_LIMIT = 17.0
"""How far under its limit figure a bed is trusted at most [K]: spacing of printed limit and extreme
figures, common practice, no published source."""
DEBT_LIMIT = 40.0
"""Heat debt that is borne unhurt [W h/m²]. Source: ISO 11079:2007."""
COMFORT = Sleeper(1.0)
LIMIT = Sleeper(0.0)


@dataclass(frozen=True)
class Bed:
    """Resistances of a bed [m² K/W], what it lies on, the shelter's lift [K], how far the night sky
    pulls its outside under the air there [K], and the heat made in it by the sleeper and anything
    else that is warm, less what drying takes [W per m² of skin]."""

    top: Array
    bottom: Array
    ground: Ground
    lift: Values = 0.0
    sky: Values = 0.0
    rate: Values = METABOLIC_RATE


def under_conductance(bottom: Values, pressed: Values = 1.0) -> Array:
    """Heat that passes what a sleeper lies on.

    Args:
        bottom: resistance of everything under the sleeper, ground's own with it [m² K/W], over 0.
        pressed: 1 where a body weighs on it, 0 where it hangs in air.

    Returns:
        Conductance [W/(m² K)] over the underside.

    Source: the body's own pressed and hollow parts in parallel, and the fringe of a strip on a
        slab: PRESSED, HOLLOW, FRINGE, judgement.
    """
    under = array(bottom)
    lying = PRESSED / under + (1 - PRESSED) / (under + HOLLOW) + FRINGE
    return np.where(array(pressed) > 0, lying, 1 / under)


def wind_on_bed(speed: Values, permeability: Values) -> Array:
    """Share of a bed's insulation that wind over it leaves.

    Args:
        speed: of the air at the bed [m/s].
        permeability: of what lies outermost [l/(m² s)].

    Returns:
        Share, 1 in the air of a closed tent.

    Source: correction of ISO 11079:2007, annex A, for cold protective clothing, over its value in
        still air; that a bed answers to wind as clothing does is judgement.
    """
    (windy, still), zero = (array(speed), STILL_AIR), 0.0
    factor, calm = cold.wind_factors((np.maximum(windy, still), array(still)), zero, permeability)
    return np.minimum(factor / calm, 1.0)


def kept_heat(inside: Array, skin: Values, top: Array, made: Values = METABOLIC_RATE) -> Array:
    """Heat left to warm the bed after breath and insensible sweat [W/m²].

    Args:
        inside: air at the sleeper's face [°C].
        skin: mean skin temperature [°C].
        top: resistance above the sleeper [m² K/W].
        made: in the bed [W/m²].

    Source: breath and evaporation as in ISO 11079:2007, annex A.
    """
    rate = array(made)
    vapour = LABEL_HUMIDITY / 100 * saturation(inside)
    drive = saturation(array(skin)) - vapour
    evaporated = SKIN_WETTEDNESS * drive / (LEWIS_PERMEABILITY * top)
    return rate - respiratory_loss(rate, inside, vapour) - evaporated


@dataclass(frozen=True)
class Flow:
    """Heat leaving a sleeper [W per m² of skin]: upward, downward, and what is made for it."""

    up: Array
    down: Array
    made: Array


def heat_flow(
    bed: Bed, sleeper: Sleeper | Shivering, outside: Values, under: Values | None = None
) -> Flow:
    """Heat by each path at an outside temperature.

    Args:
        bed: resistances, ground and lift.
        sleeper: its index sets skin temperature and posture.
        outside: air outside the shelter [°C].
        under: temperature under the bed [°C]; the ground's own at that air where not given.

    Returns:
        The flows; their sum exceeds what is made where the sleeper runs into debt.

    Source: two parallel paths, as in ISO 23537-1's model of use; shares are judgement.
    """
    air = array(outside)
    inside = air + bed.lift
    up = (1 - UNDER_SHARE) * (sleeper.skin - inside + bed.sky) / bed.top
    ground = ground_temperature(air, bed.ground) if under is None else array(under)
    ground = ground + bed.ground.indoors * array(bed.lift)
    passes = under_conductance(bed.bottom + bed.ground.resistance, bed.ground.pressed)
    down = UNDER_SHARE * (sleeper.skin - ground) * passes
    made = kept_heat(inside, sleeper.skin, bed.top, bed.rate)
    return Flow(up / sleeper.heat_factor, down / sleeper.heat_factor, made)


def lowest_temperature(bed: Bed, sleeper: Sleeper | Shivering) -> Array:
    """Lowest outside air temperature at which the sleeper's balance holds.

    Args:
        bed: resistances, ground and lift.
        sleeper: the index.

    Returns:
        Temperature [°C]; -60 where it holds even there, NaN where it does not at 45.

    Source: two-path balance, solved by safeguarded Newton steps.
    """
    shape = np.broadcast_shapes(
        bed.top.shape,
        bed.bottom.shape,
        np.shape(bed.lift),
        np.shape(bed.sky),
        np.shape(sleeper.skin),
        np.shape(bed.ground.deep),
        np.shape(bed.rate),
    )
    low = np.full(shape, NIGHT_RANGE[0])
    high = np.full(shape, NIGHT_RANGE[1])

    def surplus(outside: Array) -> Array:
        flow = heat_flow(bed, sleeper, outside)
        return flow.made - flow.up - flow.down

    def balance(outside: Array) -> tuple[Array, Array]:
        here = surplus(outside)
        return here, (surplus(outside + SLOPE_STEP) - here) / SLOPE_STEP

    warm = surplus(low) >= 0
    settled = bracketed_newton(balance, low, high, np.zeros(shape), tolerance=1e-9)
    return within(np.where(warm, NIGHT_RANGE[0], settled), surplus(high) > 0)


def where_ground_can_be(lowest: Values, ground: Ground) -> Array:
    """Lowest temperatures, NaN where the ground could not be what it is in such air.

    Args:
        lowest: of the air [°C].
        ground: under the bed.

    Source: frozen ground and snow thaw in air over their ceiling by THAWS_OVER: judgement.
    """
    found = array(lowest)
    return np.where(found > array(ground.ceiling) + THAWS_OVER, np.nan, found)


def lowest_survived(bed: Bed, hours: Values) -> Array:
    """Lowest outside air temperature of a night that is got through awake and unhurt.

    Args:
        bed: resistances, ground, lift, and what drying takes.
        hours: that the night lasts [h].

    Returns:
        Temperature [°C]; never to be planned for.

    Source: the balance of a shivering sleeper with the debt of ISO 11079 spread over the night,
        never more than UNDER_LIMIT under the limit figure; posture, skin and heat are judgement.
    """
    more = SHIVERING_RATE - METABOLIC_RATE + DEBT_LIMIT / array(hours)
    found = lowest_temperature(replace(bed, rate=array(bed.rate) + more), Shivering())
    return np.fmax(found, lowest_temperature(bed, LIMIT) - UNDER_LIMIT)


def pad_resistance(r_values: Values) -> Array:
    """Resistance of stacked pads: R-values add.

    Args:
        r_values: each pad's R [°F ft² h/BTU], along the last axis.

    Returns:
        Resistance [m² K/W].

    Source: ASTM F3340 reports R by pad; adding stacked pads is common practice, no published
        source.
    """
    return array(r_values).sum(axis=-1) * R_US


def bag_resistance(label: Values, sleeper: Sleeper) -> Array:
    """Resistance above the sleeper that makes a label true in the standard's own conditions.

    Args:
        label: printed temperature [°C], -45 to 25.
        sleeper: COMFORT or LIMIT, whichever the label is for.

    Returns:
        Resistance with the test's base layer in [m² K/W]; NaN outside that range.

    Source: two-path balance on the test pad of ISO 23537-1, solved for the upper resistance in
        closed form.
    """
    air = array(label)
    known = (air >= LABEL_RANGE[0]) & (air <= LABEL_RANGE[1])
    air = np.where(known, air, 0.0)
    bottom = pad_resistance(np.array([STANDARD_PAD_R])) + CRUSHED_BAG
    down = UNDER_SHARE * (sleeper.skin - air) * under_conductance(bottom) / sleeper.heat_factor
    rate = array(METABOLIC_RATE)
    vapour = LABEL_HUMIDITY / 100 * saturation(air)
    before_sweat = rate - respiratory_loss(rate, air, vapour) - down
    sweat = SKIN_WETTEDNESS * (saturation(array(sleeper.skin)) - vapour) / LEWIS_PERMEABILITY
    dry = (1 - UNDER_SHARE) * (sleeper.skin - air) / sleeper.heat_factor
    resistance = (dry + sweat) / np.where(before_sweat > 0, before_sweat, np.nan)
    return within(resistance, known & (resistance > 0))


def make_bed(
    bag: Values, pads: tuple[float, ...], ground: str, clothes_clo: Values = 0.0, lift: float = 0.0
) -> Bed:
    """A bed from a bag's resistance and what else is in it.

    Args:
        bag: resistance above the sleeper [m² K/W], from bag_resistance.
        pads: R-values [°F ft² h/BTU], from the ground up; none is allowed.
        ground: a key of GROUNDS.
        clothes_clo: insulation of clothes and liner beyond the base layer, as if flat [clo].
        lift: shelter's inside over outside temperature [K].

    Returns:
        The bed.

    Raises:
        KeyError: for a ground that is not listed.

    Source: resistances in series; clothes_in_bed for clothes that are as thick everywhere.
    """
    everywhere = array(clothes_clo)[..., None] + LABEL_CLOTHES
    top = top_with_clothes(array(bag)[..., None] * np.ones(len(REGION_SHARE)), everywhere, EASE)
    bottom = pad_resistance(np.array(pads or (0.0,))) + CRUSHED_BAG
    return Bed(top=top, bottom=bottom, ground=GROUNDS[ground], lift=lift)


def clothes_in_bed(local: Values, ease: Values) -> Array:
    """What clothes add inside a bed, by region.

    What a bag already has in its label is taken off; what does not fit between body and bag is
    pressed flat; what fits goes round the limb and takes the place of air that was warm too.

    Args:
        local: summed local insulation of everything worn in bed as if flat [clo], last axis 7.
        ease: room between body and bed [m], broadcasting with it.

    Returns:
        Resistance [m² K/W], last axis 7; never more than the room holds.

    Source: bent as by day; base layer, displaced air and rooms of head and feet are judgement, held
        against what a fleece set and big jackets buy: common practice, no published source.
    """
    room = np.where(OWN_ROOM > 0, OWN_ROOM, array(ease) * ROOM_SHARE)
    thick = np.maximum(array(local) - LABEL_CLOTHES, 0.0) * CLO * CONDUCTIVITY
    fits = room * np.tanh(thick / room)
    return np.maximum(bent(fits / CONDUCTIVITY, RADIUS) - AIR_IN_BAG / 2 * fits / room, 0.0)


def top_with_clothes(bag: Values, local: Values, ease: Values) -> Array:
    """Resistance above the sleeper with clothes worn inside, region by region in parallel.

    Args:
        bag: resistance above the sleeper with the test's base layer in, by region [m² K/W, last
            axis 7].
        local: summed local insulation of everything worn in bed [clo], last axis 7.
        ease: room between body and bed [m], broadcasting with it.

    Returns:
        Resistance [m² K/W]: what one even layer would need to lose the same heat.

    Source: parallel paths over the regions of Hardy & DuBois (1938); clothes_in_bed.
    """
    return 1 / (REGION_SHARE / (array(bag) + clothes_in_bed(local, ease))).sum(axis=-1)


def over_share(under: Values, over: Values) -> Array:
    """Share of its insulation that a second bag or quilt keeps over a first.

    Args:
        under, over: resistances of the two alone, air and base layer apart [m² K/W].

    Returns:
        Share, 0.5 to 0.65 for ordinary ones.

    Source: a layer round a thicker cylinder of 16 cm; pressed and open at the edges: judgement.
    """
    one, other = array(under) * CONDUCTIVITY, array(over) * CONDUCTIVITY
    round_both = np.log((SLEEPER_RADIUS + one + other) / (SLEEPER_RADIUS + one))
    alone = np.log((SLEEPER_RADIUS + other) / SLEEPER_RADIUS)
    return OVER_PRESSED * OVER_OPEN * round_both / np.maximum(alone, 1e-9)


def endurance(flow: Flow) -> Array:
    """Hours in bed until the heat debt reaches 40 W h/m²; infinite where none grows.

    Source: the debt limit of ISO 11079:2007 applied to sleep: judgement.
    """
    debt = flow.up + flow.down - flow.made
    growing = debt > 0
    return np.where(growing, DEBT_LIMIT / np.where(growing, debt, 1.0), np.inf)
