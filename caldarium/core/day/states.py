"""What is found for one person at one moment: the state, its word, and every figure behind it."""

from itertools import compress
from typing import Any, Literal, NamedTuple, get_args

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.digits import DigitDays
from caldarium.core.day.dressing import COLDEST_AIR, Air
from caldarium.core.day.how_sure import Sure, how_sure
from caldarium.core.day.outfits import BARE, Dressed, frostbite
from caldarium.core.physics import cold
from caldarium.core.physics.clothing import REGION_SHARE, REGIONS, ensemble_insulation
from caldarium.core.physics.heat import LATENT, MOST_WET, SWEAT_LIMIT
from caldarium.core.physics.intake import longer_with
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.plan.wardrobe import Wardrobes

TOLERANCE = 0.05
"""Differences below this do not change a word [clo]: judgement, well inside the error of tables."""
COOL_BELOW = 1.0
"""At halts and setting out under the minimum is called cool only where it holds for less than this
[h]; else nearly every halt would be. Judgement, held against common practice."""
BRIEF = ("halt", "setting out")
BODY = 1.8
"""Body surface of the sweat limit [m²]. Source: ISO 7933:2004."""
State = Literal["gap", "cool", "snug", "slack", "hot"]
STATES: tuple[State, ...] = get_args(State)


Basis = Literal["standard", "upper rate", "warm air", "coldest air"]
"""What a need rests on: ISO 11079 as it stands; at the end of its metabolic rates; its balance in
air warmer than its range; in colder air than its balance reaches."""
WET_FROM = 0.005
"""Wetness below which a piece counts as dry: judgement."""


class DigitState(NamedTuple):
    """Fingers or toes at one moment: insulation over them [clo], resistance to the air with wind
    [m² K/W], heat the blood brings [W/m²], where they tend to and where they end [°C], minutes
    until they stop working and until cold injury threatens, infinite where never."""

    clo: float
    resistance: float
    heat: float
    steady: float
    at_end: float
    works_for: float
    safe_for: float


class MomentState(NamedTuple):
    """One person at one waking moment. Insulation [clo] is what wind, movement and wet leave.

    need_min is what holds for the time that must be held, must_hold [h]; need_steady what holds
    without end, need_neutral is comfort, need_soak where clothing would soak; dry is what
    provided would be were nothing wet, opened what is left of it with every vent open; gap is what
    is missing to need_min, spread the deviation of what is to spare; strain is the share of the
    skin that the warm side asks to be wet in the least there is to wear; sweat is the water it
    takes on the worse side [L/h]; endurance [h] until
    the heat debt matters, infinite where none grows; recovery how long [h] the moment that follows
    takes to win a whole debt back, infinite where it does not; rate, external work and the heat
    that drying clothes take [W/m²], watts [W];
    regions and heat_share by region in the order of REGIONS; whole_sum the outfit's still-air
    figure from the sum of its garments [clo]; wet the wetness of pieces that are wet, by id, and
    water what the worn ones hold [g]; bare_fingers the minutes they work with nothing on;
    bare_face the share of the face that is bare and frostbite the minutes until it may freeze,
    infinite where it will not; minutes how long the moment is; bag what the sleeping bag drawn
    round in a hold is worth [clo].
    """

    moment: str
    kind: str
    day: int
    state: str
    need_min: float
    need_steady: float
    need_neutral: float
    need_soak: float
    provided: float
    dry: float
    opened: float
    gap: float
    spread: float
    endurance: float
    recovery: float
    must_hold: float
    rate: float
    work: float
    drying: float
    watts: float
    wettedness: float
    strain: float
    sweat: float
    air_speed: float
    worn: tuple[str, ...]
    regions: tuple[float, ...]
    heat_share: tuple[float, ...]
    weakest: str
    whole_sum: float
    least: float
    basis: Basis
    wet: dict[str, float]
    water: float
    fingers: DigitState
    toes: DigitState
    bare_fingers: float
    bare_face: float
    frostbite: float
    minutes: float
    bag: float

    @property
    def sure(self) -> Sure:
        """How sure it is that the outfit holds, or does not. Source: core.day.how_sure."""
        return how_sure(self.provided - self.need_min, self.spread)

    @property
    def at_risk(self) -> tuple[str, ...]:
        """What is so cold before the moment ends that injury threatens. Source: core.physics."""
        found: list[str] = []
        if self.fingers.safe_for < self.minutes:
            found.append("fingers")
        if self.toes.safe_for < self.minutes:
            found.append("toes")
        if self.bare_face > BARE and self.frostbite < self.minutes:
            found.append("face")
        return tuple(found)


def moment_states(
    dress: Wardrobes, dressed: Dressed, areas: Array
) -> list[tuple[MomentState, ...]]:
    """States of everybody at every moment, by person.

    Args:
        dress: the people's pieces.
        dressed: what they wear, and what it is worth.
        areas: body surface by person [m²].

    Source: the modules of core, each with its own.
    """
    air, needs, where = dressed.air, dressed.needs, dressed.air.where
    whole, totals = dressed.worth.whole, dressed.worth.regions
    bare = cold.air_layer(where.air_speed, where.walking_speed)[..., None]
    local = np.maximum(totals - bare / cold.area_factor(np.maximum(totals - bare, 0)), 0)
    loss = REGION_SHARE / totals
    share = loss / loss.sum(axis=-1, keepdims=True)
    weakest = np.argmax(share / REGION_SHARE * (REGION_SHARE > 0.06), axis=-1)
    neutral = np.maximum(needs.neutral, needs.held)
    hours = np.array([moment.hours for moment in air.moments])
    endurance = cold.duration_limited_exposure(cold.MINIMAL, whole, where, enforce_range=False)
    endurance = endurance * longer_with(np.array([m.drink_l for m in air.moments]))
    risk = frostbite(air)
    shape = whole.shape
    columns: dict[str, list[Any]] = {
        "state": _words(dressed, neutral, endurance),
        "need_min": (needs.held / CLO).tolist(),
        "need_steady": (needs.minimal / CLO).tolist(),
        "need_neutral": (neutral / CLO).tolist(),
        "need_soak": (needs.soak / CLO).tolist(),
        "provided": (whole / CLO).tolist(),
        "dry": (dressed.dry / CLO).tolist(),
        "opened": (dressed.opened / CLO).tolist(),
        "gap": np.maximum((needs.held - whole) / CLO, 0.0).tolist(),
        "spread": (dressed.spread / CLO).tolist(),
        "endurance": endurance.tolist(),
        "recovery": _recovery(air, whole).tolist(),
        "must_hold": np.broadcast_to([m.must_hold for m in air.moments], shape).tolist(),
        "rate": where.metabolic_rate.tolist(),
        "work": where.work.tolist(),
        "drying": dressed.drying.tolist(),
        "watts": (where.metabolic_rate * areas[:, None]).tolist(),
        "wettedness": cold.required_wettedness(whole, where).tolist(),
        "strain": dressed.strain.tolist(),
        "sweat": np.maximum(
            dressed.sweat * areas[:, None] / 1000,
            np.minimum(dressed.warm_sweat * areas[:, None] / LATENT, SWEAT_LIMIT),
        ).tolist(),
        "air_speed": where.air_speed.tolist(),
        "worn": [_chosen(dress.ids(row), worn) for row, worn in enumerate(dressed.worn.tolist())],
        "regions": _tuples(local / CLO),
        "heat_share": _tuples(share),
        "weakest": [[REGIONS[each] for each in row] for row in weakest.tolist()],
        "whole_sum": ensemble_insulation(dressed.worn * dress.clo[:, None]).tolist(),
        "least": (dressed.least / CLO).tolist(),
        "basis": _bases(where),
        "wet": _wet(dress, air.wet),
        "water": _water(dress, dressed, areas).tolist(),
        "fingers": _digits(dressed.fingers),
        "toes": _digits(dressed.toes),
        "bare_fingers": dressed.bare_fingers.tolist(),
        "bare_face": dressed.bare_face.tolist(),
        "frostbite": np.broadcast_to(risk, shape).tolist(),
        "minutes": np.broadcast_to(60 * hours, shape).tolist(),
        "bag": air.bag.tolist(),
    }
    names = [(moment.id, moment.kind, moment.day) for moment in air.moments]
    listed: list[list[Any]] = [columns[field] for field in MomentState._fields[3:]]
    return [
        tuple(
            MomentState(*name, *figures)
            for name, figures in zip(
                names, zip(*(column[row] for column in listed), strict=True), strict=True
            )
        )
        for row in range(shape[0])
    ]


def _recovery(air: Air, whole: Array) -> Array:
    """Time in which the moment that follows on the day wins a whole heat debt back [h, P x M].

    Source: recovery time of ISO 11079:2007, its debt over what is stored at neutral skin in the
        outfit worn then.
    """
    stores = cold.storage_rate(cold.NEUTRAL, whole, air.where)
    gains = np.where(stores > 0, cold.HEAT_DEBT_LIMIT / np.where(stores > 0, stores, 1.0), np.inf)
    found = np.full(whole.shape, np.inf)
    after, day = -1, -1
    for column in range(len(air.moments) - 1, -1, -1):
        moment = air.moments[column]
        if moment.day != day:
            after, day = -1, moment.day
        if after >= 0:
            found[:, column] = gains[:, after]
        if not moment.fold:
            after = column
    return found


def _words(dressed: Dressed, neutral: Array, endurance: Array) -> list[list[str]]:
    """Words for states; a figure that does not exist is no reassurance, so NaN is a gap."""
    needs, given = dressed.needs, dressed.worth.whole
    spare = TOLERANCE * CLO
    gap = ~(given >= needs.held - spare)
    brief = np.array([moment.kind in BRIEF for moment in dressed.air.moments], dtype=bool)
    cool = (given < needs.minimal - spare) & (~brief | (endurance < COOL_BELOW))
    hot = strained(dressed)
    slack = dressed.opened > neutral + spare
    found: NDArray[np.str_] = np.select(
        [gap, hot, slack, cool], ["gap", "hot", "slack", "cool"], "snug"
    )
    return found.tolist()


def strained(dressed: Dressed) -> Flags:
    """Where the warm side is more than people can sweat away even in the least they can wear.

    Source: core.physics.heat, limits of ISO 7933:2004.
    """
    litres = dressed.warm_sweat * BODY / LATENT
    return (dressed.strain > MOST_WET) | (litres > SWEAT_LIMIT)


def _chosen(names: list[str], rows: list[list[bool]]) -> list[tuple[str, ...]]:
    return [tuple(compress(names, row)) for row in rows]


def _tuples(values: Array) -> list[list[tuple[float, ...]]]:
    return [[tuple(each) for each in row] for row in values.tolist()]


def _digits(found: DigitDays) -> list[list[DigitState]]:
    whole = np.stack(list(vars(found).values()), axis=-1)
    return [[DigitState._make(each) for each in row] for row in whole.tolist()]


def _water(dress: Wardrobes, dressed: Dressed, areas: Array) -> Array:
    """Water in the worn pieces [g, P x M]."""
    capacity = dress.holds * dress.body_cover * areas[:, None]
    return np.matmul(dressed.air.wet * dressed.worn, capacity[..., None])[..., 0]


def _wet(dress: Wardrobes, wet: Array) -> list[list[dict[str, float]]]:
    found: list[list[dict[str, float]]] = [[{} for _ in row] for row in wet]
    ids = [dress.ids(row) for row in range(len(wet))]
    places = np.nonzero(wet > WET_FROM)
    for row, column, place, value in zip(
        *(part.tolist() for part in places), wet[places].tolist(), strict=True
    ):
        found[row][column][ids[row][place]] = value
    return found


_BASES: tuple[Basis, ...] = get_args(Basis)


def _bases(where: cold.Exposure) -> list[list[Basis]]:
    """What the needs rest on, by person and moment."""
    which = np.where(where.air > 10, 2, np.where(where.metabolic_rate >= 400, 1, 0))
    which = np.where(where.air <= COLDEST_AIR, 3, which)
    return [[_BASES[each] for each in row] for row in which.tolist()]
