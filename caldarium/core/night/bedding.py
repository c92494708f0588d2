"""What a bed is made of as resistances: bags and quilts, what lies over, in and under them.

Draughts, tightness, wear, what feet lie on and what a hammock loses are judgement, named here. The
order of all of them is common practice, no published source.
"""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from caldarium.core.physics import bed as bed_room
from caldarium.core.physics.clothing import REGION_SHARE, REGIONS, STILL_LAYER
from caldarium.core.physics.cold import LEWIS_PERMEABILITY, saturation
from caldarium.core.physics.quantities import CLO, R_US, Array, Flags, array
from caldarium.core.plan.belief import factor, kelvin
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Pad
from caldarium.core.timeline.moments import Moment

NO_BAG = 0.085 + 0.05
"""Air and base layer above a sleeper without a bag [m² K/W]."""
SHOULDERS = 0.26
"""Breadth over the shoulders as a share of height, where it was not measured: judgement."""
LEAKS = {True: 0.04, False: 0.12}
"""Share of a quilt's insulation lost to draughts, with straps and without: judgement."""
TURNING = {"little": 1.0, "much": 1.6}
"""More of it under a sleeper who turns much: judgement."""
LEAK_A_CM, MOST_LEAK = 0.01, 0.45
"""More of it for each centimetre that a quilt is too narrow: judgement."""
WRAPS = 2.2
QUILT_EASE_CM = 20.0
"""A quilt is wide enough at WRAPS times the shoulders and this more [cm]: judgement."""
LABEL_HAT = 0.6
"""What the label of a quilt presumes on the head [clo]: judgement."""
MOST_OF_LABEL = 1.6
"""What a hoodless bag is believed to be worth over the body at most, over its label as a whole: so
cold a label with so little on the head cannot have been meant. Judgement."""
GIRTH = 2.5
"""Girth of somebody at the shoulders, over the breadth there: judgement."""
SIZE_EASE_CM = 16.0
"""Girth of a bag over that of somebody as tall as it fits [cm]: judgement."""
WORN_A_NIGHT, WORN_A_WASH, MOST_WORN = 0.0006, 0.02, 0.4
"""Share of a bag's insulation lost by use, off by default: judgement."""
TORSO_SHARE = 0.65
"""Share of what a sleeper lies on that a torso pad reaches: judgement."""
HUNG_SHARE, HUNG_SIT_PAD = 0.8, 0.40
"""Share of a hanging sleeper that a three-quarter underquilt reaches, and what a sit pad under the
legs is worth there, pressed by nothing [m² K/W]: judgement."""
UNDER_FEET = {"nothing": 0.0, "spare clothes": 0.15, "sit pad": 0.25}
"""What lies under the legs where a torso pad ends [m² K/W]: judgement."""
LABEL_SHARE = bed_room.LABEL_HUMIDITY / 100
LATENT_G = 0.68
"""Heat of evaporation [W h/g]."""
_HEAD = REGIONS.index("head")
TOGETHER = 0.85
"""Heat that leaves upward and round two in one bed, over that of each alone: judgement; side by
side is warmer is common practice, no published source."""
CONDENSES_BELOW, CONDENSES_OVER, MOST_CONDENSED = 5.0, 25.0, 0.8
"""Share of a sleeper's insensible sweat that stays in the fill: none in air of that temperature
[°C], all it ever is that many kelvin lower: judgement."""
UNDER_COVER = 0.2
"""More of it under a cover or bivouac bag: judgement."""
DRIED_BY_DAY = 0.3
"""Share of a bag's damp that a day takes out again: judgement."""
LYING_M2, INTO_BAG, THROUGH_COVER = 0.9, 0.5, 0.05
"""What of a bed faces the sky [m²]; share of the rain on it that goes in, and of that what a cover
lets through: judgement."""
BAG_FABRIC = 2.5
"""Fill of a bag that takes up damp [m²]: judgement."""


@lru_cache(maxsize=1024)
def _labelled_top(label: str, label_c: float) -> float:
    sleeper = bed_room.COMFORT if label == "comfort" else bed_room.LIMIT
    return float(bed_room.bag_resistance(label_c, sleeper))


def bag_top(bag: Bag | None) -> float:
    """Resistance above the sleeper from a bag's label; of the bare sleeper without a bag.

    A maker's single number counts as limit; where both figures are printed, the one that promises
    less is believed. What nights found of a bag, and its user took, shifts its figures.

    Source: core.physics.bed, label inversion.
    """
    if bag is None:
        return NO_BAG
    off = kelvin(bag.as_found)
    found = _labelled_top(bag.label, bag.label_c + off)
    if bag.label == "comfort" and bag.limit_c is not None:
        return min(found, _labelled_top("limit", bag.limit_c + off))
    return found


def bags_at_hand(people: Sequence[Person], moments: Sequence[Moment]) -> Array:
    """The bag that everybody has with them at each moment.

    Args:
        people: P of them.
        moments: M of them; on days on which a bed of one's own waits the other one is there.

    Returns:
        Resistance above a sleeper [m² K/W, P x M], NaN for no bag.

    Source: bag_top.
    """
    found = np.full((len(people), len(moments)), np.nan)
    for row, person in enumerate(people):
        if person.bag is not None:
            found[row] = bag_top(person.bag)
        for column, moment in enumerate(moments if person.nights else ()):
            other = person.bed_without_own(moment.day)
            if other is not None:
                there = other.bag is not None and not other.lent
                found[row, column] = bag_top(other.bag) if there else np.nan
    return found


def body_top(bag: Bag) -> float:
    """Resistance above everything but the head, where a bag or quilt has no hood [m² K/W].

    Source: labels of quilts presume a covered head: common practice, no published source; the heat
        of body and head in parallel.
    """
    whole = bag_top(bag)
    if bag.hood and bag.shape == "bag":
        return whole
    head = REGION_SHARE[_HEAD] / (NO_BAG + LABEL_HAT * CLO)
    rest = max(1 / whole - head, (1 - REGION_SHARE[_HEAD]) / (MOST_OF_LABEL * whole))
    return float((1 - REGION_SHARE[_HEAD]) / rest)


def shoulders_cm(person: Person) -> float:
    """Breadth over the shoulders, measured or by height [cm]. Source: SHOULDERS."""
    return person.shoulder_cm or SHOULDERS * 100 * person.height_m


def fits(person: Person, piece: Bag | Pad) -> bool:
    """Whether a bag is long and wide enough, or a pad wide enough.

    Source: common practice, no published source.
    """
    broad = shoulders_cm(person)
    if isinstance(piece, Pad):
        return piece.width_cm is None or piece.width_cm >= broad
    long = piece.fits_to_m is None or person.height_m <= piece.fits_to_m
    narrow = piece.shape == "bag" and piece.width_cm is not None
    return long and not (narrow and (piece.width_cm or 0) < GIRTH * broad)


def worn_share(bag: Bag, course: Course) -> float:
    """Share of a bag's insulation left by use. Source: judgement, only where the course says so."""
    if not course.wear_counts:
        return 1.0
    lost = WORN_A_NIGHT * bag.nights_used + WORN_A_WASH * bag.washes
    return 1 - min(lost, MOST_WORN)


def quilt_width(shoulders: float, shared_with: float = 0.0) -> float:
    """Width at which a quilt does not leak over one or two sleepers [cm].

    Args:
        shoulders: of the sleeper [cm].
        shared_with: of whoever lies beside them [cm].

    Source: judgement, WRAPS and QUILT_EASE_CM; a second sleeper adds their breadth.
    """
    return WRAPS * shoulders + QUILT_EASE_CM + shared_with


def draught(bag: Bag, person: Person, shared_with_cm: float = 0.0) -> float:
    """Share of a quilt's insulation lost to draughts; none of a bag's.

    Args:
        bag: the quilt.
        person: under it.
        shared_with_cm: shoulders of whoever else is under it [cm].

    Source: LEAKS.
    """
    if bag.shape == "bag":
        return 0.0
    wanted = quilt_width(shoulders_cm(person), shared_with_cm)
    short = max(wanted - bag.width_cm, 0.0) if bag.width_cm else 0.0
    leak = LEAKS[bag.straps] * TURNING[person.bedding.turns]
    return min(leak + LEAK_A_CM * short, MOST_LEAK)


def bed_partner(course: Course, person: Person) -> Person | None:
    """Whoever shares a person's bed: named by either of the two. Source: none, bookkeeping."""
    wanted, own = person.bedding.beside, person.id
    for other in course.people:
        if (other.id == wanted or other.bedding.beside == own) and other.id != own:
            return other
    return None


def under_one_cover(course: Course, person: Person) -> Person:
    """The person with the partner's bag over them where they have none of their own.

    Source: none, bookkeeping.
    """
    partner = bed_partner(course, person)
    if partner is None or person.bag is not None:
        return person
    over = person.bedding.over or partner.bedding.over
    bedding = person.bedding.model_copy(update={"over": over})
    return person.model_copy(update={"bag": partner.bag, "bedding": bedding})


def condensed(top: Array, bag: Flags, inside: Array, hours: Array, covered: Flags) -> Array:
    """Water of each night's sweat that stays in the bag.

    Args:
        top: resistance above the sleeper [m² K/W, P x N].
        bag: whether there is a bag [P x N].
        inside: air at the bed [°C, P x N].
        hours: length of each night [h, N].
        covered: beds in a cover [P x N].

    Returns:
        Water [g, P x N].

    Source: insensible sweat of ISO 11079 through the bed; what stays in the fill is judgement.
    """
    skin = array(33.0)
    drive = saturation(skin) - LABEL_SHARE * saturation(inside)
    sweat = bed_room.SKIN_WETTEDNESS * drive / (LEWIS_PERMEABILITY * top) / LATENT_G
    share = np.clip((CONDENSES_BELOW - inside) / CONDENSES_OVER, 0.0, 1.0) * MOST_CONDENSED
    share = np.minimum(share + UNDER_COVER * covered * (share > 0), 0.9)
    return sweat * bed_room.STANDARD_AREA * hours * share * bag


def rained_in(fallen: Array, roofless: Array, covered: Flags, bag: Flags) -> Array:
    """Rain and melting snow that have come into a bag.

    Args:
        fallen: water since bedtime [mm, N x T].
        roofless: share of it that falls on the bed, by its shelter [P x N x 1].
        covered: beds in a cover [P x N x 1].
        bag: whether there is a bag [P x N].

    Returns:
        Water [g, P x N x T].

    Source: judgement, INTO_BAG and THROUGH_COVER of what falls on LYING_M2.
    """
    enters = INTO_BAG * np.where(covered, THROUGH_COVER, 1.0) * roofless
    return 1000 * LYING_M2 * fallen * enters * bag[..., None]


def gathered(gained: Array, bags: NDArray[np.str_]) -> Array:
    """Water in each bag before each night, what days between took out again.

    Args:
        gained: on each night [g, P x N].
        bags: their names [P x N]; another bag has been dry till then.

    Returns:
        Water [g, P x N].

    Source: DRIED_BY_DAY, judgement.
    """
    nights = gained.shape[1]
    order: Array = np.arange(float(nights))
    later = order[:, None] - order[None, :]
    left = np.where(later > 0, (1 - DRIED_BY_DAY) ** np.maximum(later, 0), 0.0)
    same = bags[:, :, None] == bags[:, None, :]
    return (left * same * gained[:, None, :]).sum(axis=-1)


def soaked(water: Array, holds: Array) -> Array:
    """Share of all the water that a bag could take up.

    Args:
        water: in it [g].
        holds: what its fill can take up [g/m²].

    Source: BAG_FABRIC, judgement.
    """
    return np.minimum(water / (holds * BAG_FABRIC), 1.0)


def bag_by_region(course: Course, person: Person) -> Array:
    """Resistance above the sleeper by region, with everything but clothes [m² K/W, 7].

    Source: labels inverted; draughts, wear, hoods, liners and covers by judgement.
    """
    partner = bed_partner(course, person)
    person = under_one_cover(course, person)
    beside = shoulders_cm(partner) if partner else 0.0
    bedding = person.bedding
    whole = 0.0
    for bag in (person.bag, bedding.over):
        if bag is not None:
            own = (body_top(bag) - NO_BAG) * worn_share(bag, course)
            own *= float(bed_room.over_share(whole, own)) if whole else 1.0
            whole += own * (1 - draught(bag, person, beside))
    liner = bedding.liner
    if liner is not None and not course.liner_claims:
        whole += bed_room.TIGHT_BAG_SHARE * liner.clo * CLO
    if bedding.cover is not None:
        whole += bedding.cover.clo * CLO
    bare = person.bag is None and bedding.over is None
    found = np.full(len(REGIONS), (STILL_LAYER if bare else NO_BAG) + whole)
    hooded = [bag for bag in (person.bag, bedding.over) if bag and bag.hood and bag.shape == "bag"]
    if not hooded and not bare:
        found[_HEAD] = NO_BAG
    return found / TOGETHER if partner else found


def girth_cm(bag: Bag) -> float | None:
    """Girth of a bag at the shoulders [cm], measured or by the size that it fits; None for neither.

    Source: GIRTH over the shoulders of somebody as tall as it fits, and SIZE_EASE_CM: judgement.
    """
    if bag.width_cm is not None or bag.fits_to_m is None:
        return bag.width_cm
    return GIRTH * SHOULDERS * 100 * bag.fits_to_m + SIZE_EASE_CM


def room_for_clothes(person: Person) -> float:
    """Room between body and bag at the shoulders [m].

    Source: a bag's girth over the body's, where it or its size is known; judgement where not.
    """
    bag = person.bag
    if bag is None:
        return bed_room.LOOSE
    girth = girth_cm(bag)
    if bag.shape == "quilt" or girth is None:
        return bed_room.EASE
    ease = (girth - GIRTH * shoulders_cm(person)) / 100 / (2 * np.pi)
    return max(ease, bed_room.LEAST_EASE)


def under_resistance(person: Person) -> float:
    """Resistance below the sleeper, pads or underquilt [m² K/W].

    Where a torso pad or a three-quarter underquilt ends, legs lie on what was put under them, in
    parallel.

    Source: R-values add; the parts are judgement.
    """
    bedding = person.bedding
    whole = sum(_found_r(pad) for pad in person.pads if pad.length == "full") * R_US
    short = [pad for pad in person.pads if pad.length == "torso"]
    part, reach = sum(_found_r(pad) for pad in short) * R_US, _reach(person, short)
    hammock = bedding.hammock
    if hammock is not None and hammock.underquilt is not None:
        hung = bag_top(hammock.underquilt) - NO_BAG
        if hammock.reach == "full":
            whole += hung
        else:
            part, reach = part + hung, HUNG_SHARE
    back = bed_room.CRUSHED_BAG + whole + part
    if not part:
        return back
    feet = UNDER_FEET[bedding.feet_on]
    if hammock is not None and bedding.feet_on == "sit pad":
        feet = HUNG_SIT_PAD
    legs = bed_room.CRUSHED_BAG + whole + feet
    return 1 / (reach / back + (1 - reach) / legs)


def _found_r(pad: Pad) -> float:
    """A pad's R-value as nights found it."""
    return pad.r_value * factor(pad.as_found)


def _reach(person: Person, short: Sequence[Pad]) -> float:
    """Share of what a sleeper lies on that torso pads reach, by length where one is measured."""
    measured = [pad.length_cm / 100 / person.height_m for pad in short if pad.length_cm]
    return min(max(measured, default=TORSO_SHARE), 1.0)


def claimed(course: Course, person: Person) -> float:
    """Degrees that a liner's maker claims, where the course believes makers [K].

    Source: the school "as claimed".
    """
    liner = person.bedding.liner
    return liner.claims_k if liner is not None and course.liner_claims else 0.0


BOTTLE_HOT, BOTTLE_COOL = 90.0, 35.0
WATER_HEAT = 1.163
"""Of water [W h/(kg K)]."""
BOTTLE_HOURS = 3.0
"""Time constant of a bottle inside a bag [h]: judgement."""


WARMER_WATTS, WARMER_HOURS = 2.0, 8.0
"""Heat of a warmer that burns iron, in the thin air of a bag, and how long it lasts [W, h]:
judgement; makers count in open air."""


def warmer_watts(number: Array, hours: Array) -> Array:
    """Heat from warmers opened at bedtime [W].

    Args:
        number: of them.
        hours: since bedtime [h].

    Source: judgement, WARMER_WATTS.
    """
    return number * np.where(hours <= WARMER_HOURS, WARMER_WATTS, 0.0)


def bottle_watts(litres: Array, hours: Array) -> Array:
    """Heat from a bottle filled boiling at bedtime [W].

    Args:
        litres: of water.
        hours: since bedtime [h].

    Source: heat content of water; how quickly it comes is judgement, BOTTLE_HOURS.
    """
    stored = litres * WATER_HEAT * (BOTTLE_HOT - BOTTLE_COOL)
    return stored / BOTTLE_HOURS * np.exp(-hours / BOTTLE_HOURS)
