"""The body in time: eleven segments of core and skin, one pool of blood, and nerves that answer.

Blood goes down the limbs in arteries beside veins and is cooled by them; shunts of hands and feet
open when the body is warm. Heat is made by rest, work and shivering, and goes by the skin of each
segment through what is worn there, as sweat, and by the breath. The vessels hold no heat of their
own. Steps are implicit, with the nerves' answer as it was when each begins.

Source: Takahashi et al. (2021), Energy and Buildings 231, checked against a published
implementation in tests/oracles; shivering by Tikuisis & Giesbrecht (1999), Eur. J. Appl. Physiol.
79.
"""

from collections.abc import Iterator
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from caldarium.core.physics import segments as of
from caldarium.core.physics.quantities import Array
from caldarium.core.physics.segments import Anatomy

LATENT = 0.68
"""Heat of evaporation [W h/g]."""
BASAL_RATE = 45.6
"""Metabolic rate of a body at complete rest [W/m²]. Source: Harris & Benedict (1919) as revised by
Roza & Shizgal (1984), a man of 30 of the standard size; that everybody has it by their surface is
ours."""
NEUTRAL_AIR, NEUTRAL_WORK = 28.95, 1.25
"""Air in which a bare body at rest is at its set points [°C], and its rate over the basal one.
Source: Takahashi et al. (2021), where the mean vote is neutral."""
BARE_LAYER, BARE_VAPOUR = 1 / 7.7, 1 / (16.5 * 3.0)
"""Resistance of the air round it [m² K/W, m² kPa/W]: as there."""
CORE_SWEATS, SKIN_SWEATS = 371.2, 33.64
"""Sweat by the head's core and by the skin [W/K] of the standard body."""
CORE_DILATES, SKIN_DILATES, BOTH_CONSTRICT = 100.5, 6.4, 10.8
"""Answers of the skin's vessels [1/K]."""
LEAST_WET = 0.06
MOST_SWEAT = 550.0
"""Sweat that can be kept up [g/(h m²)]: about a litre an hour, ISO 7933:2023 for the untrained."""
SHIVER_CORE, SHIVER_SKIN, SHIVER_BEND, SHIVER_FAT = 155.5, 47.0, 1.57, 15.0
"""Shivering by core under 37 and skin under 33 °C, and body fat [%]. Source: Tikuisis & Giesbrecht
(1999)."""
MOST_SHIVER = 175.0
"""Shivering at its hardest [W/m²]. Source: Eyolfson, Tikuisis, Xu, Weseen & Giesbrecht (2001) for
ordinary fitness and build; from memory."""
SHIVERED_OUT, LAST_SHIVER = 900.0, 1 / 3
"""Heat shivered after which hardly a third of it is left [W h/m²], falling evenly until there:
judgement, that shivering tires within hours is established."""
HOTTEST_SKIN = 10.0
"""Skin above its set point beyond which its vessels and glands answer no more [K]: judgement."""
MUSCLE_FLOW = 1 / 1.163
"""Blood that a watt of work or shivering asks for [L/(h W)]."""


class Around(NamedTuple):
    """What N bodies meet: operative temperature over each segment and air that is breathed [°C, N x
    11 and N], vapour pressure [kPa, N], resistance from skin to air over each segment to heat [m²
    K/W] and vapour [m² kPa/W, N x 11], metabolic rate and what of it is external work, and heat
    that is swallowed [W/m², N]."""

    operative: Array
    air: Array
    vapour: Array
    sensible: Array
    evaporative: Array
    metabolic_rate: Array
    work: Array
    given: Array


class Body(NamedTuple):
    """N bodies: pool, cores and skins [°C, N and N x 11]; since the beginning heat stored and heat
    shivered [W h/m², N]; as of the last step sweat [g/(h m²)], what evaporates from the skin and
    shivering [W/m²], blood to hands and feet [W/(m² K), N x 2] and the temperature at which it
    comes [°C, N x 2]."""

    pool: Array
    core: Array
    skin: Array
    stored: Array
    shivered: Array
    sweat: Array
    evaporation: Array
    shivering: Array
    supply: Array
    artery: Array

    def mean_skin(self, bodies: Anatomy) -> Array:
        """Skin by its surface [°C, N]. Source: none, a mean."""
        return (self.skin * bodies.area).sum(axis=1) / bodies.area.sum(axis=1)


def _vapour(at: Array) -> Array:
    """Saturation pressure over skin [kPa]. Source: Antoine, as in Gagge et al. (1986)."""
    return 0.133322 * np.exp(18.6686 - 4030.183 / (at + 235))


_NODES = 15
_A, _V, _S, _C, _K = (slice(3 * at, 3 * at + 3) for at in range(5))
"""Arteries, veins, veins under the skin, cores and skins of a limb, from the trunk outwards."""


def _pattern() -> Array:
    """Where each part of a limb's exchange stands in its matrix: what flows and what conducts,
    [parts x nodes²]."""
    rows: list[Array] = []

    def entry(*places: tuple[int, int, float]) -> None:
        row = np.zeros((_NODES, _NODES))
        for line, column, sign in places:
            row[line, column] += sign
        rows.append(row.ravel())

    def exchange(one: int, other: int) -> list[tuple[int, int, float]]:
        return [(one, one, 1), (other, other, 1), (one, other, -1), (other, one, -1)]

    def down(at: int) -> list[tuple[int, int, float]]:
        """Blood on its way to a segment: every artery above hands it on."""
        way = [(place, place, 1.0) for place in range(at + 1)]
        return way + [(place, place - 1, -1.0) for place in range(1, at + 1)]

    def back(at: int, vessel: int) -> list[tuple[int, int, float]]:
        """And back, every vein of that kind above handing it on."""
        way = [(vessel + place, vessel + place, 1.0) for place in range(at + 1)]
        return way + [(vessel + place - 1, vessel + place, -1.0) for place in range(1, at + 1)]

    a, v, s, c, k = (part.start for part in (_A, _V, _S, _C, _K))
    for tissue in (c, k):
        for at in range(3):
            gets = [(tissue + at, tissue + at, 1.0), (tissue + at, a + at, -1.0)]
            entry(*down(at), *gets, *back(at, v), (v + at, tissue + at, -1.0))
    entry(*down(2), *back(2, s), (s + 2, a + 2, -1.0))
    for tissue in (c, k, k):
        for at in range(3):
            entry((tissue + at, tissue + at, 1.0))
    for at in range(3):
        entry(*exchange(a + at, v + at))
    for at in range(3):
        entry(*exchange(a + at, c + at), *exchange(v + at, c + at))
    for at in range(3):
        entry(*exchange(s + at, k + at))
    for at in range(3):
        entry(*exchange(c + at, k + at))
    return np.stack(rows)


_PATTERN = _pattern()


class _Nerves(NamedTuple):
    """What the nerves ask for: blood through core and skin [W/K, N x 11] and shunts [W/K, N x 2],
    heat made in the core and lost by wet skin [W, N x 11], shivering [W/m²], sweat [g/(h m²)]."""

    core: Array
    skin: Array
    shunt: Array
    made: Array
    wet: Array
    shivering: Array
    sweat: Array


class _State(NamedTuple):
    """Pool, cores, skins, and the arteries of hands and feet [°C, N, N x 11 and N x 2]."""

    pool: Array
    core: Array
    skin: Array
    artery: Array


class _Place:
    """N bodies in one place for some time: all that stays while they are there."""

    def __init__(self, size: Anatomy, points: _State, around: Around) -> None:
        self.size, self.points, self.around = size, points, around
        self.area = size.area.sum(axis=1)
        self.by_area = (self.area / of.STANDARD_AREA)[:, None]
        self.leaves = size.area / around.sensible
        self.from_air = self.leaves * around.operative
        self.dries = size.area / around.evaporative
        self.damp = around.vapour[:, None]
        heat = (around.metabolic_rate - around.work) * self.area
        basal = np.minimum(BASAL_RATE * self.area, heat)
        works = (heat - basal)[:, None]
        breath = 0.0173 * (5.87 - around.vapour) + 0.0014 * (34 - around.air)
        self.breath = breath * self.area
        self.made = of.BASAL * basal[:, None] + of.WORK * works
        self.made[:, of.CHEST] -= self.breath * around.metabolic_rate
        self.made[:, of.CHEST] += around.given * self.area
        self.from_air = self.from_air + of.BASAL_SKIN * basal[:, None]
        flow = of.BLOOD_HEAT * size.flow[:, None]
        self.core_flow = flow * of.CORE_FLOW + of.BLOOD_HEAT * MUSCLE_FLOW * of.WORK * works
        self.skin_flow = flow * of.SKIN_FLOW
        self.shunts = flow * of.MOST_SHUNTED
        self.spared = np.maximum(around.metabolic_rate - NEUTRAL_WORK * BASAL_RATE, 0.0)
        self.parts = np.concatenate(
            [
                np.zeros((len(heat), 2, 13)),
                self.leaves[:, of.LIMBS].reshape(-1, 2, 3),
                size.countercurrent,
                size.vessel,
                size.surface_vein,
                size.conductance[:, of.LIMBS].reshape(-1, 2, 3),
            ],
            axis=2,
        )

    def silent(self, skin: Array) -> _Nerves:
        """Nerves that ask for nothing."""
        zero = np.zeros(len(skin))
        wet = LEAST_WET * (_vapour(skin) - self.damp) * self.dries
        return _Nerves(
            self.core_flow, self.skin_flow, np.zeros((len(skin), 2)), self.made, wet, zero, zero
        )

    def nerves(self, state: _State, shivered: Array) -> _Nerves:
        """What the nerves ask for. Source: Takahashi et al. (2021)."""
        points = self.points
        off = state.skin - points.skin
        deep = state.core - points.core
        head, felt = deep[:, of.HEAD], off @ of.RECEPTORS
        shivering = self._shivering(state, shivered)
        by_muscle = of.SHIVER * (shivering * self.area)[:, None]
        core = self.core_flow + of.BLOOD_HEAT * MUSCLE_FLOW * by_muscle
        made = self.made + by_muscle
        made[:, of.CHEST] -= self.breath * shivering
        opens = np.maximum(CORE_DILATES * head + SKIN_DILATES * felt, 0.0)[:, None]
        closes = np.maximum(-BOTH_CONSTRICT * (head + felt), 0.0)[:, None]
        local = np.exp2(np.minimum(off, HOTTEST_SKIN) / 30)
        skin = self.skin_flow * local**5 * (1 + of.DILATES * opens) / (1 + of.CONSTRICTS * closes)
        asked = np.maximum(CORE_SWEATS * head + SKIN_SWEATS * felt, 0.0)
        asked = np.minimum(asked, MOST_SWEAT * LATENT * of.STANDARD_AREA)[:, None] * self.by_area
        sweats = of.SWEAT * asked * local**3
        most = np.maximum((_vapour(state.skin) - self.damp) * self.dries, 1e-6)
        wet = np.minimum(LEAST_WET * most + (1 - LEAST_WET) * sweats, most)
        sweat = sweats.sum(axis=1) / LATENT / self.area
        return _Nerves(core, skin, self._shunted(deep, off), made, wet, shivering, sweat)

    def _shunted(self, deep: Array, off: Array) -> Array:
        """Blood through the shunts of hands and feet [W/K]. Source: Takemori et al. (1995)."""
        open_to = (0.265 * (off @ _BY_AREA) + 0.953 * (deep @ _BY_TRUNK))[:, None] + _OPEN
        return self.shunts * np.clip(open_to, 0.0, 1.0)

    def _shivering(self, state: _State, shivered: Array) -> Array:
        """[W/m²] beyond what work makes. Source: Tikuisis & Giesbrecht (1999), the core counted
        from its own set point; that work takes its place, and how it tires, are judgement."""
        skin = np.minimum(33.0 - state.skin @ _BY_AREA, SHIVER_SKIN / SHIVER_BEND / 2)
        wants = SHIVER_CORE * (self.points.pool - state.pool)
        wants = (wants + SHIVER_SKIN * skin - SHIVER_BEND * skin**2) / SHIVER_FAT**0.5
        left = np.maximum(1 - shivered / SHIVERED_OUT * (1 - LAST_SHIVER), LAST_SHIVER)
        return np.maximum(np.minimum(wants, MOST_SHIVER * left) - self.spared, 0.0)

    def solved(self, state: _State, asks: _Nerves, hours: Array) -> _State:
        """The same bodies a step later.

        Cores, skins and vessels of each limb are solved together in terms of the pool, and the
        pool last.
        """
        size, part = self.size, of.TRUNK
        n = len(hours)
        rate = 1 / hours
        held_core, held_skin = size.core * rate[:, None], size.skin * rate[:, None]
        gives_core = held_core * state.core + asks.made
        gives_skin = held_skin * state.skin + self.from_air - asks.wet
        through = size.conductance[:, part]
        flow_c, flow_k = asks.core[:, part], asks.skin[:, part]
        dia_c = held_core[:, part] + through + flow_c
        dia_k = held_skin[:, part] + through + flow_k + self.leaves[:, part]
        det = dia_c * dia_k - through**2
        here_c, here_k = gives_core[:, part], gives_skin[:, part]
        one_c, one_k = dia_k * here_c + through * here_k, dia_c * here_k + through * here_c
        slope_c, slope_k = dia_k * flow_c + through * flow_k, dia_c * flow_k + through * flow_c
        given = ((flow_c * one_c + flow_k * one_k) / det).sum(axis=1)
        into = ((flow_c * slope_c + flow_k * slope_k) / det - flow_c - flow_k).sum(axis=1)
        parts = self.parts
        flows = parts[:, :, :6]
        flows[..., :3] = asks.core[:, of.LIMBS].reshape(n, 2, 3)
        flows[..., 3:] = asks.skin[:, of.LIMBS].reshape(n, 2, 3)
        parts[:, :, 6] = asks.shunt
        parts[:, :, 7:10] = held_core[:, of.LIMBS].reshape(n, 2, 3)
        parts[:, :, 10:13] = held_skin[:, of.LIMBS].reshape(n, 2, 3)
        veins = flows.sum(axis=2)
        right = np.zeros((n, 2, _NODES, 2))
        right[:, :, 0, 1] = veins + asks.shunt
        right[:, :, _C, 0] = gives_core[:, of.LIMBS].reshape(n, 2, 3)
        right[:, :, _K, 0] = gives_skin[:, of.LIMBS].reshape(n, 2, 3)
        found = np.linalg.solve((parts @ _PATTERN).reshape(n, 2, _NODES, _NODES), right)
        come = found[:, :, 3] * veins[..., None] + found[:, :, 6] * asks.shunt[..., None]
        come = come.sum(axis=1)
        given = given + come[:, 0]
        into = into + come[:, 1] - (veins + asks.shunt).sum(axis=1)
        held = size.pool * rate
        pool = (held * state.pool + given) / (held - into)
        by_pool = pool[:, None]
        limb = found[..., 0] + found[..., 1] * pool[:, None, None]
        core = np.empty(held_core.shape)
        skin = np.empty(held_skin.shape)
        core[:, part] = (one_c + slope_c * by_pool) / det
        skin[:, part] = (one_k + slope_k * by_pool) / det
        core[:, of.LIMBS] = limb[..., _C].reshape(n, 6)
        skin[:, of.LIMBS] = limb[..., _K].reshape(n, 6)
        return _State(pool, core, skin, limb[..., 2])


_BY_AREA = of.AREA / of.STANDARD_AREA
_BY_TRUNK = np.zeros(len(of.SEGMENTS))
_BY_TRUNK[2:5] = np.array([10.2975, 9.3935, 4.488]) / 24.179
_OPEN = np.array([0.265 * 0.43 + 0.953 * 0.1905 + 0.9126, -0.265 * 0.997 + 0.953 * 0.0095 + 0.9126])
"""Weights of skin and trunk, and how far the shunts of hands and feet stand open at the set
points."""


@lru_cache(maxsize=512)
def _set_points(mass: float, height: float) -> _State:
    """A bare body at rest in neutral air, its nerves silent."""
    shape = (1, len(of.SEGMENTS))
    around = Around(
        operative=np.full(shape, NEUTRAL_AIR),
        air=np.full(1, NEUTRAL_AIR),
        vapour=_vapour(np.full(1, NEUTRAL_AIR)) / 2,
        sensible=np.full(shape, BARE_LAYER),
        evaporative=np.full(shape, BARE_VAPOUR),
        metabolic_rate=np.full(1, NEUTRAL_WORK * BASAL_RATE),
        work=np.zeros(1),
        given=np.zeros(1),
    )
    state = _State(
        np.full(1, 36.0), np.full(shape, 36.0), np.full(shape, 34.0), np.full((1, 2), 36.0)
    )
    place = _Place(of.anatomy(np.array([mass]), np.array([height])), state, around)
    for _ in range(10):
        state = place.solved(state, place.silent(state.skin), np.full(1, 20.0))
    return state


def _twice(values: Array) -> Array:
    return np.concatenate([values, values])


class Bodies:
    """N bodies with their set points."""

    def __init__(self, mass: Array, height: Array) -> None:
        self.anatomy = of.anatomy(mass, height)
        points = [_set_points(*each) for each in zip(mass.tolist(), height.tolist(), strict=True)]
        self.points = _State(*(np.concatenate(part) for part in zip(*points, strict=True)))

    def rested(self) -> Body:
        """Bodies at their set points. Source: Takahashi et al. (2021)."""
        pool, core, skin, artery = self.points
        zero = np.zeros(pool.shape)
        none = np.zeros(artery.shape)
        return Body(pool, core, skin, zero, zero, zero, zero, zero, none, artery)

    def heat(self, body: Body, since: Body) -> Array:
        """Heat gained between two states [W h/m²]. Source: capacities of the anatomy."""
        size = self.anatomy
        gained = size.pool * (body.pool - since.pool)
        gained = gained + (size.core * (body.core - since.core)).sum(axis=1)
        gained = gained + (size.skin * (body.skin - since.skin)).sum(axis=1)
        return gained / size.area.sum(axis=1)

    def through(self, body: Body, around: Around, spans: Array) -> Iterator[Body]:
        """Bodies after each of some steps in one place.

        Args:
            body: as they come there.
            around: what they meet.
            spans: the steps' lengths [h, N x steps]; a body stays as it is where one is nothing.

        Yields:
            The bodies after each step. Each is one step and two halves of it, from which the error
            that falls with the step's length is taken out.

        Source: Takahashi et al. (2021), the module's own changes apart; Richardson's extrapolation.
        """
        place = _Place(self.anatomy, self.points, around)
        # Everybody twice over, for steps of two lengths at once.
        size = Anatomy(*(_twice(part) for part in vars(self.anatomy).values()))
        points, where = _State(*map(_twice, self.points)), Around(*map(_twice, around))
        double = _Place(size, points, where)
        n = len(body.pool)
        state = _State(body.pool, body.core, body.skin, body.artery)
        for hours in spans.T:
            goes_on = hours > 0
            span = np.where(goes_on, hours, 1.0)
            first = place.nerves(state, body.shivered)
            begin, asks = _State(*map(_twice, state)), _Nerves(*map(_twice, first))
            both = double.solved(begin, asks, np.concatenate([span, span / 2]))
            whole, half = (
                _State(*(part[rows] for part in both)) for rows in (slice(n), slice(n, None))
            )
            second = place.nerves(half, body.shivered + first.shivering * span / 2)
            two = place.solved(half, second, span / 2)
            later = _State(*(2 * fine - rough for fine, rough in zip(two, whole, strict=True)))
            later = _State(
                *(
                    np.where(goes_on.reshape(-1, *[1] * (new.ndim - 1)), new, old)
                    for new, old in zip(later, state, strict=True)
                )
            )
            after = Body(
                *later[:3],
                body.stored,
                body.shivered + np.where(goes_on, second.shivering * span, 0.0),
                second.sweat,
                second.wet.sum(axis=1) / place.area,
                second.shivering,
                np.stack([second.skin[:, of.HANDS], second.skin[:, of.FEET]], axis=1)
                + second.shunt,
                later.artery,
            )
            after = after._replace(
                stored=body.stored + self.heat(after, body),
                supply=after.supply / self.anatomy.area[:, _ENDS],
            )
            body, state = after, later
            yield body


_ENDS = [of.HANDS, of.FEET]
