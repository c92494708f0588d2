"""What of a bed should be asked again: fit, units, contradictions."""

from typing import Literal

from caldarium.core.night.bedding import GIRTH, bed_partner, quilt_width, shoulders_cm
from caldarium.core.physics.quantities import R_US
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.kit import Bag, Pad

SI_BELOW = 1.4
"""An R-value this low on a pad this heavy was meant in m² K/W: judgement."""
HEAVY_PAD = 350.0
THICKEST_R = 9.0
SPARE_CM = 10.0
"""Width that a quilt may be short before it is asked about [cm]: judgement."""
COMFORT_LENGTH = 0.05
"""Room a bag needs beyond the sleeper's height [m]: judgement."""


BedReason = Literal[
    "unrated",
    "bag too short",
    "quilt of no width",
    "quilt too narrow",
    "bag too tight",
    "R or SI",
    "R beyond pads",
    "pad too narrow",
    "legs on the ground",
    "hammock and raised",
    "hammock without underside",
    "shelters apart",
    "bag for one",
    "quilt too narrow for two",
    "two in a hammock",
]
"""What does not fit. Names: the piece, then the sleeper; what the bed stands on; who shares it.
Figures: what the piece is and what the sleeper needs, [m] for length and [cm] for breadth; R, mass
[g] and the R it would be."""
Asked = Finding[BedReason]


def bed_queries(course: Course, person: Person) -> list[Asked]:
    """What does not fit or contradicts itself; none where all is well.

    Source: judgement, see the constants; fit by height and shoulders is common practice, no
        published source.
    """
    bedding = person.bedding
    found = _shared_queries(course, person)
    if person.bag is not None:
        found += _bag_queries(person, person.bag)
    for pad in person.pads:
        found += _pad_queries(person, pad)
    torso = any(pad.length == "torso" for pad in person.pads)
    full = any(pad.length == "full" for pad in person.pads)
    if torso and not full and bedding.feet_on == "nothing":
        found.append(Finding("legs on the ground"))
    if bedding.hammock is not None and bedding.raised != "no":
        found.append(Finding("hammock and raised", (bedding.raised,)))
    if bedding.hammock is not None and bedding.hammock.underquilt is None and not person.pads:
        found.append(Finding("hammock without underside"))
    return found


def _bag_queries(person: Person, bag: Bag) -> list[Asked]:
    """Whether a bag or quilt is long and wide enough."""
    found: list[Asked] = []
    wide = shoulders_cm(person)
    if bag.label == "maker's number":
        found.append(Finding("unrated", (bag.name,)))
    if bag.fits_to_m is not None and person.height_m > bag.fits_to_m:
        sizes = (bag.fits_to_m, person.height_m)
        found.append(Finding("bag too short", (bag.name, person.name), sizes))
    if bag.shape == "quilt":
        if person.bedding.hammock is not None and bag.width_cm is None:
            found.append(Finding("quilt of no width", (bag.name,)))
        elif bag.width_cm is not None and bag.width_cm < quilt_width(wide) - SPARE_CM:
            found.append(Finding("quilt too narrow", (bag.name,), (bag.width_cm, wide)))
    elif bag.width_cm is not None and bag.width_cm < GIRTH * wide:
        found.append(Finding("bag too tight", (bag.name,), (bag.width_cm, wide)))
    return found


def _pad_queries(person: Person, pad: Pad) -> list[Asked]:
    """Whether a pad is wide enough, and its R-value one that pads have."""
    found: list[Asked] = []
    wide = shoulders_cm(person)
    if 0 < pad.r_value < SI_BELOW and pad.mass_g > HEAVY_PAD:
        figures = (pad.r_value, pad.mass_g, pad.r_value / R_US)
        found.append(Finding("R or SI", (pad.name,), figures))
    if pad.r_value > THICKEST_R:
        found.append(Finding("R beyond pads", (pad.name,), (pad.r_value,)))
    if pad.width_cm is not None and pad.width_cm < wide:
        found.append(Finding("pad too narrow", (pad.name,), (pad.width_cm, wide)))
    return found


def _shared_queries(course: Course, person: Person) -> list[Asked]:
    """What does not fit where two share a bed."""
    partner = bed_partner(course, person)
    if partner is None:
        return []
    found: list[Asked] = []
    bag = person.bag or partner.bag
    if partner.shelter != person.shelter:
        found.append(Finding("shelters apart", (person.name, partner.name)))
    if bag is not None and (person.bag is None or partner.bag is None):
        own, others = shoulders_cm(person), shoulders_cm(partner)
        wanted = quilt_width(own, others)
        if bag.shape == "bag" and (bag.width_cm is None or bag.width_cm < GIRTH * (own + others)):
            found.append(Finding("bag for one", (bag.name,)))
        elif bag.width_cm is not None and bag.width_cm < wanted - SPARE_CM:
            found.append(Finding("quilt too narrow for two", (bag.name,), (bag.width_cm, wanted)))
    if person.bedding.hammock is not None or partner.bedding.hammock is not None:
        found.append(Finding("two in a hammock"))
    return found
