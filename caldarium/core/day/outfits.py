"""What everybody wears at each moment: chosen, wetted, opened, and worth what it then is."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.digits import (
    Body,
    DigitDays,
    bare_fingers,
    body_of,
    fingers,
    gloved,
    through_days,
    toes,
)
from caldarium.core.day.dressing import (
    MOVING,
    Air,
    Choices,
    Needs,
    Worth,
    best_alone,
    candidates,
    choose,
    distance_from_right,
    needed,
    settle,
    without_each,
    worth,
)
from caldarium.core.day.how_sure import spread
from caldarium.core.day.wet_track import Left, Nights, by_role, wet_track
from caldarium.core.day.wetness import Roles
from caldarium.core.physics.allowances import Allowance
from caldarium.core.physics.extremities import bare_face
from caldarium.core.physics.heat import strain, sweat_needed
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.physics.wind import frostbite_minutes
from caldarium.core.plan.course import Person
from caldarium.core.plan.wardrobe import Wardrobes

ASKED = ("setting out", "moving", "halt")
"""Kinds of moment that ask for long underwear in the morning."""
DRYING_COUNTS = 0.25
"""Heat of drying from which the need is found again [W/m²]: judgement."""
BARE = 0.15
"""Share of the face left bare that goggles and a chin in the collar do not cover: judgement."""
KEPT_ON = 0.05 * CLO
"""An outfit kept from the moment before may be this much further from right [m² K/W]: judgement,
no stop is worth less."""


@dataclass(frozen=True)
class Dressed:
    """What everybody wears at each moment, and what else was weighed against it.

    air with the wetness of the pieces; drying the heat that it takes to dry them [W/m²]; shed
    the rain that they have met since they were dry [mm, P x M x G]; worn
    [P x M x G], its worth, what it would be dry and what is left with vents open; least (vents open
    too), the fullest, and the fullest without each of the pieces in doubt [m² K/W; P x M, the last
    x R]; spread that of what is to spare;
    strain and warm_sweat what the warm side asks of the skin in the least [share, W/m²]; sweat
    leaving the skin [g/(h m²)]; fingers and toes, minutes that fingers work bare, share of the face
    left bare [P x M].
    """

    air: Air
    needs: Needs
    drying: Array
    shed: Array
    worn: Flags
    worth: Worth
    dry: Array
    opened: Array
    least: Array
    fullest: Array
    alone: Array
    spread: Array
    strain: Array
    warm_sweat: Array
    sweat: Array
    fingers: DigitDays
    toes: DigitDays
    bare_fingers: Array
    bare_face: Array


@dataclass(frozen=True)
class Dressers:
    """P people who dress: their overrules, the course's allowances, the pieces they wear at night
    [P x G], their body surface [m², P x 1], the places of R pieces each of which it is in doubt
    whether they are needed [P x R], and on which nights they are in a hut [P x nights]."""

    people: tuple[Person, ...]
    allowances: tuple[Allowance, ...]
    in_bed: Flags
    area: Array
    doubted: NDArray[np.intp]
    huts: Flags

    def take(self, rows: NDArray[np.intp]) -> "Dressers":
        """Some of them, in that order. Source: none, bookkeeping."""
        chosen: list[int] = rows.tolist()
        return Dressers(
            tuple(self.people[row] for row in chosen),
            self.allowances,
            self.in_bed[rows],
            self.area[rows],
            self.doubted[rows],
            self.huts[rows],
        )


@dataclass(frozen=True)
class Ready:
    """What is known before anybody chooses: what can be worn, the air with the wetness of each
    piece, needs with drying, what that takes [W/m², P x M], rain met since dry [mm, P x M x G]."""

    whatever: Choices
    air: Air
    needs: Needs
    drying: Array
    shed: Array


def make_ready(
    who: Dressers,
    dress: Wardrobes,
    air: Air,
    needs: Needs,
    left: Left | None = None,
    *,
    ends: bool = False,
) -> Ready:
    """What people can wear at each moment, and how wet each piece is then, whatever they choose.

    Args:
        who, dress, air, needs, left: as for dress_people.
        ends: only the least that can be worn and the most, which is all that wetness asks.

    Source: core.day.dressing, core.day.wet_track.
    """
    whatever = _in_the_morning(who, dress, air, needs, ends=ends)
    least = whatever.outfits[:, :, 0]
    dry_least = worth(dress, least[:, :, None], air).whole[..., 0]
    wears = Roles(least, by_role(dress, whatever, air, dry_least < needs.neutral))
    sweat = _sweat(who, air, np.maximum(dry_least, needs.neutral))
    track = wet_track(dress, wears, air.moments, sweat, Nights(who.in_bed, who.huts), left)
    air = air.with_wet(track.wet)
    needs, drying = _with_drying(needs, air, track.drying)
    return Ready(whatever, air, needs, drying, track.shed)


def _sweat(who: Dressers, air: Air, whole: Array) -> Array:
    """Sweat leaving the skin [g/(h m²), P x M]."""
    return sweat_needed(whole, air.where, who.area) * 1000 / who.area


def dress_people(
    who: Dressers, dress: Wardrobes, air: Air, needs: Needs, left: Left | None = None
) -> Dressed:
    """Dress people for every moment of some days.

    How wet each piece is follows from its role, not from the outfit that is then chosen: with one
    piece more nothing gets wetter.

    Args:
        who: the people.
        dress: their pieces.
        air: what is met, pieces dry.
        needs: insulation needed.
        left: by the days before; nothing where not given.

    Source: core.day.dressing, core.day.wet_track, core.day.digits.
    """
    dry_air, ready = air, make_ready(who, dress, air, needs, left)
    whatever, air, needs, drying = ready.whatever, ready.air, ready.needs, ready.drying
    everything = whatever.outfits[:, :, -1:]
    choices = _in_the_pack(dress, whatever, air, needs)
    outfits = choices.outfits
    rungs = outfits.shape[2]
    alone = without_each(everything, who.doubted)
    weighed = np.concatenate([outfits, everything, alone], axis=2)
    whole = worth(dress, weighed, air).whole
    begin, value = _best(outfits, whole[..., :rungs], needs)
    hands = gloved(dress, begin, choices, air, body_of(air, value, needs, who.allowances))
    settled = settle(dress, hands, value, choices.free, air, needs)
    before = place_before(air)
    worn = _kept_on(dress, settled, choices, air, needs, before)
    value = worth(dress, worn[:, :, None], air).whole[..., 0]
    kept: Flags = (worn != settled).any(axis=-1)
    worn = settle(dress, worn, value, choices.free & kept[..., None], air, needs)
    value = worth(dress, worn[:, :, None], air).whole[..., 0]
    worn, value = _everything(dress, worn, everything[:, :, 0], value, air, needs)
    body = body_of(air, value, needs, who.allowances)
    moves = np.array([moment.kind in MOVING for moment in air.moments], dtype=bool)
    numb = _numb(dress, worn, air, body, before)
    most = whole[..., : rungs + 1].copy()
    # Insulation stays in the pack while people move, numb fingers or not.
    most[..., rungs][:, moves] = np.inf
    worn = _warmer(worn, numb, weighed[:, :, : rungs + 1], most, value, needs)
    worn = _over_the_face(dress, worn, choices, air)
    here = worth(dress, worn[:, :, None], air)
    both = np.stack([worn, outfits[:, :, 0]], axis=2)
    opened = worth(dress, both, air, opened=True).whole
    warm = air.on_the_warm_side()
    stripped = worth(dress, outfits[:, :, :1], warm, opened=True).whole[..., 0]
    strained, warm_sweat = strain(stripped, warm.where)
    body = body_of(air, here.whole[..., 0], needs, who.allowances)
    return Dressed(
        air=air,
        needs=needs,
        drying=drying,
        shed=ready.shed,
        worn=worn,
        worth=Worth(here.regions[:, :, 0], here.whole[:, :, 0]),
        dry=worth(dress, worn[:, :, None], dry_air).whole[..., 0],
        opened=opened[..., 0],
        least=opened[..., 1],
        fullest=whole[..., rungs],
        alone=whole[..., rungs + 1 :],
        spread=spread(dress, worn, air, here.whole[..., 0], needs.held),
        strain=strained,
        warm_sweat=warm_sweat,
        sweat=_sweat(who, air, here.whole[..., 0]),
        fingers=through_days(fingers(dress, worn[:, :, None], air, body), body, before),
        toes=through_days(toes(dress, worn[:, :, None], air, body), body, before),
        bare_fingers=bare_fingers(dress, worn, air, body),
        bare_face=bare_face(worn, dress.face[:, None]),
    )


def _in_the_morning(
    who: Dressers, dress: Wardrobes, air: Air, needs: Needs, *, ends: bool = False
) -> Choices:
    """What can be worn, with long underwear on from the morning on days that are short without it
    and not too warm with it.

    Under trousers and boots it goes on for the whole day or not at all; holds, which are no part of
    the plan, have no say. Source: common practice, no published source.
    """
    choices = candidates(who.people, dress, air, ends=ends)
    asked = np.array([moment.kind in ASKED for moment in air.moments], dtype=bool)
    if not dress.day_long.any() or not asked.any():
        return choices
    fullest = worth(dress, choices.outfits[:, :, -1:], air).whole[..., 0]
    least = choices.outfits[:, :, 0] | dress.day_long[:, None]
    warmest = worth(dress, least[:, :, None], air).whole[..., 0]
    short = asked & (fullest < needs.held)
    hot = asked & (warmest > np.maximum(needs.soak, needs.neutral))
    days = np.array([moment.day for moment in air.moments])
    same = days[:, None] == days
    wanted = (short @ same) & ~(hot @ same)
    if not wanted.any():
        return choices
    all_day = wanted[..., None] & dress.day_long[:, None]
    return candidates(who.people, dress, air, all_day, ends=ends)


def _in_the_pack(dress: Wardrobes, choices: Choices, air: Air, needs: Needs) -> Choices:
    """Choices without insulation where people move and everything else that they carry holds."""
    insulation = choices.insulation
    if not insulation.any():
        return choices
    plain = choices.outfits[:, :, -1] & ~insulation
    holds = worth(dress, plain[:, :, None], air).whole[..., 0] >= needs.held
    return choices.without(insulation & holds[..., None])


def _everything(
    dress: Wardrobes, worn: Flags, everything: Flags, whole: Array, air: Air, needs: Needs
) -> tuple[Flags, Array]:
    """Outfits in which whoever is short in what would be comfortable wears all they have, where
    that is warmer; and what they are worth."""
    people, columns = np.nonzero(whole < needs.held)
    if not len(people):
        return worn, whole
    full = everything[people, columns]
    value = worth(dress.take(people), full[:, None, None], air.cells(people, columns)).whole[
        :, 0, 0
    ]
    warmer = value > whole[people, columns]
    worn, whole = worn.copy(), whole.copy()
    worn[people[warmer], columns[warmer]] = full[warmer]
    whole[people[warmer], columns[warmer]] = value[warmer]
    return worn, whole


def _numb(dress: Wardrobes, worn: Flags, air: Air, body: Body, before: NDArray[np.intp]) -> Flags:
    """Where fingers or toes would be hurt before the moment ends [P x M]."""
    outfit, minutes = worn[:, :, None], 60 * body.hours
    found = [through_days(part(dress, outfit, air, body), body, before) for part in (fingers, toes)]
    hurt: Flags = (found[0].safe_for < minutes) | (found[1].safe_for < minutes)
    return hurt


def _warmer(
    worn: Flags, numb: Flags, outfits: Flags, whole: Array, value: Array, needs: Needs
) -> Flags:
    """Outfits in which whoever stands with numb fingers or toes wears as much as does not soak.

    Source: a warm body warms its hands and feet: common practice, no published source.
    """
    if not numb.any():
        return worn
    most = np.maximum(needs.soak, needs.neutral)[..., None]
    dry = np.where(whole <= most, whole, -np.inf)
    rung: NDArray[np.intp] = dry.argmax(axis=-1)
    people, moments = np.indices(rung.shape)
    better = numb & (dry[people, moments, rung] > value)
    return np.where(better[..., None], outfits[people, moments, rung], worn)


def frostbite(air: Air) -> Array:
    """Minutes until a bare face may freeze, infinite where it will not [P x M].

    Source: core.physics.wind, in the wind of the open.
    """
    wind = np.array([moment.wind for moment in air.moments])
    return frostbite_minutes(air.where.air, 3.6 * wind)


def face_freezes(air: Air) -> Flags:
    """Where a bare face may freeze before the moment ends [P x M]. Source: frostbite."""
    minutes = np.array([60 * moment.hours for moment in air.moments])
    freezes: Flags = frostbite(air) < minutes
    return freezes


def _over_the_face(dress: Wardrobes, worn: Flags, choices: Choices, air: Air) -> Flags:
    """Outfits with everything over the face that is carried, where it would freeze.

    Source: common practice, no published source.
    """
    covers = choices.free & (dress.face > 0)[:, None]
    bare = bare_face(worn, dress.face[:, None])
    cold = face_freezes(air) & (bare > BARE) & (covers & ~worn).any(axis=-1)
    if not cold.any():
        return worn
    covered = best_alone(dress, (worn | covers)[:, :, None])[:, :, 0]
    better = cold & (bare_face(covered, dress.face[:, None]) < bare)
    return np.where(better[..., None], covered, worn)


def _with_drying(needs: Needs, air: Air, drying: Array) -> tuple[Needs, Array]:
    """Needs of people who also dry what they wear, and the heat that takes where it counts [W/m²,
    P x M]."""
    drying = np.where(drying > DRYING_COUNTS, drying, 0.0)
    people, columns = np.nonzero(drying)
    if not len(people):
        return needs, drying
    where = air.cells(people, columns).where
    where = replace(where, work=where.work + drying[people, columns, None])
    held = np.array([moment.by_clothing for moment in air.moments])[columns]
    again = needed(where, held[:, None])
    found: dict[str, Array] = {}
    for name, before in vars(needs).items():
        found[name] = before.copy()
        found[name][people, columns] = getattr(again, name)[:, 0]
    return Needs(**found), drying


def _best(outfits: Flags, whole: Array, needs: Needs) -> tuple[Flags, Array]:
    """The best rung of the ladder [P x M x G], and what it is worth."""
    rung = choose(whole, needs.held, needs.neutral)
    people, moments = np.indices(rung.shape)
    return outfits[people, moments, rung], whole[people, moments, rung]


def _kept_on(
    dress: Wardrobes,
    worn: Flags,
    choices: Choices,
    air: Air,
    needs: Needs,
    before: NDArray[np.intp],
) -> Flags:
    """Outfits with what was worn the moment before kept on, where that is about as right."""
    follows = np.flatnonzero(before >= 0)
    worn = worn.copy()
    if not len(follows):
        return worn
    earlier = worn[:, before[follows]]
    same = np.where(choices.free[:, follows], earlier, worn[:, follows])
    tried = np.stack([worn[:, follows], same], axis=2)
    people, columns = np.indices(tried.shape[:2]).reshape(2, -1)
    cells = air.cells(people, follows[columns])
    value = worth(dress.take(people), tried[people, columns][:, None], cells).whole
    far = distance_from_right(value, needs.cells(people, follows[columns]))[:, 0]
    keep = far[:, 1] <= far[:, 0] + KEPT_ON
    worn[people[keep], follows[columns[keep]]] = same[people[keep], columns[keep]]
    return worn


def place_before(air: Air) -> NDArray[np.intp]:
    """Place of the moment each moment follows on the same day; -1 for a day's first.

    Source: none, bookkeeping.
    """
    found: list[int] = []
    last, day = -1, -1
    for place, moment in enumerate(air.moments):
        found.append(last if moment.day == day else -1)
        if not moment.fold:
            last, day = place, moment.day
    return np.array(found, dtype=int)
