"""Dressing: which of the carried pieces are worn at each moment, and what they are worth there.

Pieces go on along one ladder (hands and head, then from the skin on; insulation before the shell
while standing, after it on the move), shells when rain or wind asks for them. Among the rungs the
outfit nearest to neutral without passing it is worn; where that would be a gap, the next rung up.
From there single pieces are put on or taken off as long as one such change comes closer. Whoever is
short in what would be comfortable and holds in everything wears everything. All is done for P
people at M moments at once, over K outfits of G pieces and 7 regions.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.wetness import SOAKING_DEPTH, kept, on_regions
from caldarium.core.physics import cold
from caldarium.core.physics.clothing import (
    REGION_SHARE,
    Moving,
    region_insulation,
    total_insulation,
    uniform_equivalent,
)
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import OUTSIDE
from caldarium.core.plan.wardrobe import Wardrobes
from caldarium.core.timeline.moments import Moment

BARE_PERMEABILITY = 1000.0
"""Outermost 'layer' of a bare region [l/(m² s)]: as open as a loose knit. Judgement."""
SHELL_WIND = 5.0
"""Wind at the body from which a shell is worn [m/s]: judgement."""
SHELL_RAIN = 0.1
"""Rain from which a shell is worn [mm/h]: judgement."""
BAG_REGIONS = np.array([0.0, 1.0, 1.0, 0.5, 1.0, 1.0, 1.0])
_BAG_SHARE = BAG_REGIONS * REGION_SHARE / (BAG_REGIONS * REGION_SHARE).sum()
INTO_BAG = 0.5
"""Share of the rain on a bag's shell that goes in: judgement."""
BAG_PERMEABILITY = 50.0
BAG_IN_HOLD = 0.6
"""Share of a bag's rated insulation that it keeps round a sitting person: judgement."""


@dataclass(frozen=True)
class Air:
    """What P people meet at M moments: where on the cold side and on the warm, how wet each of
    their pieces is [P x M x G], and the bag drawn round in a hold [clo, P x M]; stormy with rain or
    wind, wet_through with rain, and at_camp [M]."""

    moments: tuple[Moment, ...]
    where: cold.Exposure
    warm: cold.Exposure
    wet: Array
    bag: Array
    stormy: Flags
    wet_through: Flags
    at_camp: Flags

    def cells(self, people: NDArray[np.intp], columns: NDArray[np.intp]) -> "Air":
        """Some cells only, each as one person at one moment. Source: none, bookkeeping."""
        where, warm = (
            cold.Exposure(*(part[people, columns, None] for part in vars(side).values()))
            for side in (self.where, self.warm)
        )
        return Air(
            (),
            where,
            warm,
            self.wet[people, columns, None],
            self.bag[people, columns, None],
            self.stormy,
            self.wet_through,
            self.at_camp,
        )

    def part(self, people: NDArray[np.intp], first: int, end: int) -> "Air":
        """Some people, from one moment to before another. Source: none, bookkeeping."""
        where, warm = (
            cold.Exposure(*(part[people, first:end] for part in vars(side).values()))
            for side in (self.where, self.warm)
        )
        return Air(
            self.moments[first:end],
            where,
            warm,
            self.wet[people, first:end],
            self.bag[people, first:end],
            self.stormy[first:end],
            self.wet_through[first:end],
            self.at_camp[first:end],
        )

    def on_the_warm_side(self) -> "Air":
        """The same with the warm side as where one is, and no bag round anybody's shoulders.

        Source: none, bookkeeping.
        """
        return replace(self, where=self.warm, bag=np.zeros(self.bag.shape))

    def with_wet(self, wet: Array) -> "Air":
        """The same air with other wetness of the pieces. Source: none, bookkeeping."""
        return replace(self, wet=wet)


COLDEST_AIR = -60.0
"""Where the balance ends [°C]: colder air is judged as this, and the verdict's basis says so."""


@dataclass(frozen=True)
class Doing:
    """What P people do at M moments: metabolic rate and external work [W/m²], relative air speed by
    what it cools [m/s at sea level's density], each on the cold side and on the warm, where people
    may push beyond what they can keep up; walking speed [m/s]; M or P x M."""

    rate: Array
    work: Array
    air_speed: Array
    warm_rate: Array
    warm_work: Array
    warm_air_speed: Array
    pace: Array


def _within_rates(rate: Array, work: Array) -> tuple[Array, Array]:
    """Rate within what the standard knows, and external work in proportion [W/m²]."""
    return np.clip(rate, 58, 400), work * np.minimum(400 / np.maximum(rate, 1.0), 1.0)


def meet(moments: tuple[Moment, ...], doing: Doing, bag: Array, wet: Array | None = None) -> Air:
    """What people meet at each moment.

    Args:
        moments: M of them.
        doing: what they do.
        bag: a sleeping bag drawn round in a hold [clo, P x M]; 0 for none.
        wet: wetness of each piece, 0 to 1 [P x M x G]; all dry where not given.

    Returns:
        The air.

    Source: ISO 11079:2007 lower bounds of air speed (0.4 m/s) and rate (58 W/m²) are applied;
        air below COLDEST_AIR is judged as that cold.
    """
    values = {
        name: np.array([getattr(moment, name) for moment in moments])
        for name in ("air", "humidity", "precipitation", "body_wind", "sun")
    }
    rate, work = _within_rates(doing.rate, doing.work)
    warm_rate, warm_work = _within_rates(doing.warm_rate, doing.warm_work)
    air = np.maximum(values["air"], COLDEST_AIR)
    where = cold.exposure(
        air,
        np.clip(doing.air_speed, 0.4, 18),
        values["humidity"],
        rate,
        doing.pace,
        radiant=air + values["sun"],
        work=work,
    )
    warm_air, humidity, sun = (
        np.array([getattr(moment.warm, name) for moment in moments])
        for name in ("air", "humidity", "sun")
    )
    warm_air = np.maximum(warm_air, COLDEST_AIR)
    warm = cold.exposure(
        warm_air,
        np.clip(doing.warm_air_speed, 0.4, 18),
        humidity,
        warm_rate,
        doing.pace,
        radiant=warm_air + sun,
        work=warm_work,
    )
    kinds = [moment.kind for moment in moments]
    rains = values["precipitation"] > SHELL_RAIN
    return Air(
        moments=moments,
        where=where,
        warm=warm,
        wet=np.zeros((*where.air.shape, 1)) if wet is None else wet,
        bag=bag,
        stormy=rains | (values["body_wind"] >= SHELL_WIND),
        wet_through=rains,
        at_camp=np.array([kind in ("camp", "dawn", "night") for kind in kinds], dtype=bool),
    )


@dataclass(frozen=True)
class Choices:
    """What can be worn: outfits along the ladder from least to most [P x M x K x G], which pieces
    may be put on or taken off at will, for the body's sake and for the hands' [P x M x G], and
    which of them keep a standing body warm [P x M x G].
    """

    outfits: Flags
    free: Flags
    free_hands: Flags
    insulation: Flags

    def without(self, pieces: Flags) -> "Choices":
        """The same without some pieces [P x M x G]. Source: none, bookkeeping."""
        return replace(self, outfits=self.outfits & ~pieces[:, :, None], free=self.free & ~pieces)


MOVING = ("moving", "setting out")
"""Kinds of moment at which insulation stays in the pack if everything else holds."""


def candidates(
    people: Sequence[Person],
    dress: Wardrobes,
    air: Air,
    all_day: Flags | None = None,
    *,
    ends: bool = False,
) -> Choices:
    """Outfits along the ladder, and the freedom around them.

    Args:
        people: P of them.
        dress: their pieces.
        air: over P and M.
        all_day: pieces for the camp that are worn under everything from the morning on
            [P x M x G].
        ends: only the least outfit and the most.

    Source: order of dressing is common practice, no published source.
    """
    boots_off = air.at_camp[:, None]

    def by_moment(flags: Flags) -> Flags:
        return flags[:, None, :]

    awake = ~dress.only_asleep & (dress.layer >= 0) & ~dress.instead
    forced = by_moment(((dress.base & ~dress.only_at_camp) | dress.always) & awake)
    wet, windy = air.wet_through[:, None], (air.stormy & ~air.wet_through)[:, None]
    forced = forced | (by_moment(dress.shell) & wet) | (by_moment(dress.windshell) & windy)
    spare_shell = (dress.layer == OUTSIDE) & ~dress.shell & ~dress.windshell
    optional = by_moment(awake & ~dress.always & ~spare_shell)
    allowed = optional & (~by_moment(dress.only_at_camp) | boots_off)
    allowed = allowed & ~(by_moment(dress.windshell & ~dress.shell) & wet)
    if all_day is not None:
        forced = forced | (all_day & ~boots_off)
    ladder = np.array([-1, dress.places - 1] if ends else range(-1, dress.places))[:, None]
    moving = np.array([moment.kind in MOVING for moment in air.moments], dtype=bool)
    rung = np.where(moving[:, None], dress.moving_rung[:, None], dress.rung[:, None])
    reached = rung[:, :, None] <= ladder
    outfits = forced[:, :, None, :] | (allowed[:, :, None, :] & reached)
    outfits = best_alone(dress, outfits)
    grows = np.ones(len(ladder), dtype=bool)
    if not ends:
        grows[1:] = (outfits[:, :, 1:] != outfits[:, :, :-1]).any(axis=(0, 1, 3))
    outfits = outfits[:, :, grows]
    free = allowed & ~forced & ~by_moment(dress.handwear)
    free_hands = (allowed | forced) & by_moment(dress.handwear)
    _overrule(people, dress, air, outfits, free, free_hands)
    return Choices(outfits, free, free_hands, by_moment(dress.insulates) & free & moving[:, None])


def best_alone(dress: Wardrobes, outfits: Flags) -> Flags:
    """Outfits [P x M x K x G] in which of pieces that take each other's place only the one put on
    last is left. Source: none, bookkeeping."""
    if not dress.beats.any():
        return outfits
    people, moments, rungs, places = outfits.shape
    flat = outfits.reshape(people, moments * rungs, places).astype(np.float32)
    beaten = np.matmul(flat, dress.beats.astype(np.float32)) > 0
    return outfits & ~beaten.reshape(outfits.shape)


def _overrule(
    people: Sequence[Person], dress: Wardrobes, air: Air, outfits: Flags, *free: Flags
) -> None:
    """Set what the users said themselves, in place."""
    columns = {moment.id: column for column, moment in enumerate(air.moments)}
    for row, person in enumerate(people):
        if not person.overrules:
            continue
        places = {identifier: place for place, identifier in enumerate(dress.ids(row))}
        for word in person.overrules:
            if word.moment in columns and word.garment in places:
                outfits[row, columns[word.moment], :, places[word.garment]] = word.worn
                for flags in free:
                    flags[row, columns[word.moment], places[word.garment]] = False


@dataclass(frozen=True)
class Worth:
    """What outfits are worth in their air; leading axes as the outfits given.

    regions [m² K/W, ... x 7] total with air layer, whole [m² K/W] resultant clothing insulation.
    """

    regions: Array
    whole: Array


def worth(dress: Wardrobes, outfits: Flags, air: Air, *, opened: bool = False) -> Worth:
    """Insulation of outfits in wind, movement and wet, by region and whole.

    Args:
        dress: the people's pieces.
        outfits: [P x M x K x G].
        air: over P and M.
        opened: with every vent of every piece wide open.

    Returns:
        The worth, [P x M x K].

    Source: core.physics.clothing by region, outermost piece's permeability for each region.
    """
    worn = outfits.astype(float)
    permeability = outer_permeability(dress, worn)
    layers = np.matmul(worn, kept(dress, air.wet)[..., None] * dress.local[:, None])
    if opened:
        vents = np.log(dress.vented)[..., None] * dress.covers
        layers = layers * np.exp(np.matmul(worn, vents[:, None]))
    return worth_of(*round_shoulders(layers, permeability, air.bag), air)


def round_shoulders(layers: Array, permeability: Array, bag: Array) -> tuple[Array, Array]:
    """Layers and permeability of outfits with a sleeping bag drawn round where there is one.

    Args:
        layers: summed local insulation as if flat [clo, P x M x K x 7].
        permeability: of the outermost piece [l/(m² s), P x M x K x 7].
        bag: insulation [clo, P x M].

    Source: BAG_REGIONS and BAG_PERMEABILITY, judgement.
    """
    people, columns = np.nonzero(bag > 0)
    if len(people):
        layers[people, columns] += bag[people, columns, None, None] * BAG_REGIONS
        wrapped = np.where(BAG_REGIONS > 0, BAG_PERMEABILITY, np.inf)
        permeability[people, columns] = np.minimum(permeability[people, columns], wrapped)
    return layers, permeability


def worth_of(layers: Array, permeability: Array, air: Air) -> Worth:
    """What layers are worth where people are [P x M x K]; see round_shoulders for the arguments.

    Source: core.physics.clothing by region.
    """
    moving = Moving(air.where.air_speed[:, :, None], air.where.walking_speed[:, :, None])
    totals = total_insulation(region_insulation(layers) * CLO, moving, permeability)
    bare = cold.air_layer(moving.air_speed, moving.walking_speed)
    totals = np.where(layers > 0, totals, bare[..., None])
    return Worth(totals, uniform_equivalent(totals, bare))


def outer_permeability(dress: Wardrobes, worn: Array, region: int | None = None) -> Array:
    """Permeability of the outermost worn piece over each region [P x M x K x 7], or over one
    [P x M x K].

    Source: none, bookkeeping; a bare region is as open as BARE_PERMEABILITY.

    Places count from skin to air as powers of two, so that the outermost of those present is the
    exponent of their sum: exact for up to 52 places.
    """
    only = slice(None) if region is None else slice(region, region + 1)
    weights = dress.covers[..., only] * 2.0 ** np.arange(dress.places)[:, None]
    outermost = np.frexp(np.matmul(worn, weights[:, None]))[1]
    bare = np.full((len(dress.permeability), 1), BARE_PERMEABILITY)
    table = np.concatenate([bare, dress.permeability], axis=1)
    rows = np.arange(len(table))[:, None, None, None]
    found = table[rows, outermost]
    return found if region is None else found[..., 0]


def without_each(outfits: Flags, places: NDArray[np.intp]) -> Flags:
    """The fullest outfit with each of some pieces left out in turn.

    Args:
        outfits: along the ladder [P x M x K x G].
        places: of the R pieces, by person [P x R].

    Returns:
        Outfits [P x M x R x G].

    Source: none, bookkeeping.
    """
    kept_on = np.ones((*places.shape, outfits.shape[-1]), dtype=bool)
    np.put_along_axis(kept_on, places[:, :, None], False, axis=2)
    return outfits[:, :, -1:, :] & kept_on[:, None]


def choose(whole: Array, held: Array, neutral: Array) -> NDArray[np.intp]:
    """The rung nearest to neutral without passing it, or the next one up from a gap.

    Args:
        whole: what each outfit is worth [m² K/W, P x M x K].
        held, neutral: need [m² K/W, P x M].

    Returns:
        The rung [P x M].

    Source: common practice, no published source: warm enough first, then least sweat.
    """
    below = whole <= neutral[..., None] + 1e-12
    rung: NDArray[np.intp] = np.argmax(np.where(below, whole, -np.inf), axis=-1)
    rung = np.where(below.any(axis=-1), rung, np.argmin(whole, axis=-1))
    above = np.where(whole > neutral[..., None], whole, np.inf)
    short = np.take_along_axis(whole, rung[..., None], axis=-1)[..., 0] < held
    can_rise = np.isfinite(above).any(axis=-1)
    return np.where(short & can_rise, np.argmin(above, axis=-1), rung)


@dataclass(frozen=True)
class Needs:
    """Insulation needed [m² K/W, P x M]: to hold the moment's time, minimal without end, neutral,
    and where clothing soaks."""

    held: Array
    minimal: Array
    neutral: Array
    soak: Array

    def cells(self, people: NDArray[np.intp], columns: NDArray[np.intp]) -> "Needs":
        """Some cells only, [n x 1]. Source: none, bookkeeping."""
        return Needs(*(part[people, columns, None] for part in vars(self).values()))


def needed(where: cold.Exposure, held: Array) -> Needs:
    """What people need where they are.

    Args:
        where: over P and M.
        held: the time that must be held [h], M.

    Source: ISO 11079:2007; one figure for the word, the number and every cure.
    """
    minimal, neutral, soak = (
        cold.required_insulation(criterion, where, enforce_range=False)
        for criterion in (cold.MINIMAL, cold.NEUTRAL, cold.SOAK)
    )
    hold = cold.required_insulation(cold.MINIMAL, where, enforce_range=False, hours=held)
    return Needs(hold, minimal, neutral, soak)


SHORT_WEIGHT, SOAK_WEIGHT, OVER_WEIGHT = 1000.0, 100.0, 2.0
"""What a unit short of the minimum, over the soak limit, or over neutral counts against a unit
under neutral: judgement, warm enough first, then dry, then close to neutral."""
CLOSER = 0.002
"""A change must come closer by this to be worth the stop [m² K/W]: judgement, about 0.01 clo."""
MOST_CHANGES = 8


def distance_from_right(whole: Array, needs: Needs) -> Array:
    """How far outfits are from what is right; smaller is better.

    Args:
        whole: what each outfit is worth [m² K/W, P x M x K].
        needs: over P and M.

    Returns:
        Weighted distance, [P x M x K].

    Source: judgement, see SHORT_WEIGHT.
    """
    short = np.maximum(needs.held[..., None] - whole, 0)
    soaked = np.maximum(whole - np.maximum(needs.soak, needs.neutral)[..., None], 0)
    miss = whole - needs.neutral[..., None]
    return (
        SHORT_WEIGHT * short + SOAK_WEIGHT * soaked + np.where(miss > 0, OVER_WEIGHT * miss, -miss)
    )


def settle(
    dress: Wardrobes, worn: Flags, whole: Array, free: Flags, air: Air, needs: Needs
) -> Flags:
    """Outfits from which no single piece put on or taken off comes closer to what is right.

    Args:
        dress: the people's pieces.
        worn: where to begin [P x M x G].
        whole: what that is worth [m² K/W, P x M].
        free: pieces that may change [P x M x G].
        air, needs: over P and M.

    Returns:
        Outfits [P x M x G]; at most MOST_CHANGES pieces differ from the beginning.

    Source: judgement; a descent by single changes.
    """
    worn = worn.copy()
    places = np.argsort(~free, axis=-1, kind="stable")[..., : int(free.sum(axis=-1).max(initial=0))]
    rivals = dress.beats | dress.beats.transpose(0, 2, 1)
    # A cell that is short with everything on has nothing to gain from a single change.
    enough = (needs.held <= whole) & free.any(axis=-1)
    people, columns = np.nonzero((~worn & free).any(axis=-1) | enough)
    for _ in range(MOST_CHANGES):
        here, tried_places = worn[people, columns], places[people, columns]
        cells, steps = np.indices(tried_places.shape)
        tried = np.repeat(here[:, None, :], tried_places.shape[1] + 1, axis=1)
        may = free[people[cells], columns[cells], tried_places]
        tried[cells, steps + 1, tried_places] ^= may
        put_on = tried[cells, steps + 1, tried_places] & may
        tried[:, 1:] &= ~(put_on[..., None] & rivals[people[cells], tried_places])
        value = worth(dress.take(people), tried[:, None], air.cells(people, columns)).whole
        far = distance_from_right(value, needs.cells(people, columns))[:, 0]
        best = np.argmin(far, axis=1)
        gain = far[:, 0] - far[np.arange(len(best)), best]
        moved = np.flatnonzero(gain > CLOSER)
        if not len(moved):
            break
        people, columns = people[moved], columns[moved]
        worn[people, columns] = tried[moved, best[moved]]
    return worn


def bags_round_shoulders(
    course: Course, people: Sequence[Person], bags: Array, moments: Sequence[Moment]
) -> Array:
    """Insulation of sleeping bags round people who wait.

    Args:
        course: for whether bags come out in a hold.
        people: P of them.
        bags: resistance above the sleeper [m² K/W, P x M], NaN for no bag.
        moments: M of them; the bag comes out in holds, and what falls there wets it.

    Returns:
        Insulation [clo, P x M]; 0 where bags are not used.

    Source: judgement, BAG_IN_HOLD of the bag's own resistance less air and base layer, and
        INTO_BAG of the rain on the body; what wet leaves by core.physics.materials.
    """
    held = np.array([moment.kind == "hold" for moment in moments], dtype=float)
    if not course.hold_in_bag:
        return np.zeros((len(people), len(moments)))
    dry = np.maximum(np.nan_to_num(bags) / CLO - 1.2, 0.0) * BAG_IN_HOLD
    fell, hours, wind, air = (
        np.array([getattr(moment, name) for moment in moments], dtype=float)
        for name in ("precipitation", "wet_hours", "body_wind", "air")
    )
    depth = on_regions(fell * np.array([m.hours for m in moments]), hours, wind, air)
    wet = np.minimum(INTO_BAG * (depth @ _BAG_SHARE) / SOAKING_DEPTH, 1.0)
    left = np.array([MATERIALS[each.bag.fill].wet_share if each.bag else 1.0 for each in people])
    return dry * held * (1 - wet * (1 - left[:, None]))
