"""What of a bed should be asked again: fit, units, contradictions; and what must not freeze."""

from dataclasses import dataclass

from caldarium.core.night.bedding import GIRTH, bed_partner, quilt_width, shoulders_cm
from caldarium.core.night.nights import Night
from caldarium.core.plan.course import Course, Person
from caldarium.words.units import Display

SI_BELOW = 1.4
"""An R-value this low on a pad this heavy was meant in m² K/W: judgement."""
HEAVY_PAD = 350.0
THICKEST_R = 9.0
SPARE_CM = 10.0
"""Width that a quilt may be short before it is asked about [cm]: judgement."""
COMFORT_LENGTH = 0.05
"""Room a bag needs beyond the sleeper's height [m]: judgement."""


def bed_queries(course: Course, person: Person) -> list[str]:
    """Sentences on what does not fit or contradicts itself; none where all is well.

    Source: judgement, see the constants; fit by height and shoulders is common practice, no
        published source.
    """
    found = _shared_queries(course, person)
    bag, bedding = person.bag, person.bedding
    wide = shoulders_cm(person)
    if bag is not None and bag.fits_to_m is not None and person.height_m > bag.fits_to_m:
        found.append(
            f"{bag.name} fits sleepers to {bag.fits_to_m:g} m; {person.name} is "
            f"{person.height_m:g} m: feet press the end flat."
        )
    if bag is not None and bag.shape == "quilt":
        if bedding.hammock is not None and bag.width_cm is None:
            found.append(f"{bag.name} has no width: whether it closes in a hammock is not known.")
        elif bag.width_cm is not None and bag.width_cm < quilt_width(wide) - SPARE_CM:
            found.append(
                f"{bag.name} is {bag.width_cm:g} cm wide; over shoulders of {wide:.0f} cm that "
                "leaks when the sleeper turns."
            )
    elif bag is not None and bag.width_cm is not None and bag.width_cm < GIRTH * wide:
        found.append(
            f"{bag.name} is {bag.width_cm:g} cm round at the shoulders, which are {wide:.0f} cm "
            "broad: too tight for clothes inside."
        )
    for pad in person.pads:
        if 0 < pad.r_value < SI_BELOW and pad.mass_g > HEAVY_PAD:
            found.append(
                f"{pad.name}: R {pad.r_value:g} on {pad.mass_g:.0f} g. Is that m² K/W? It would be "
                f"R {pad.r_value / 0.1761:.1f}."
            )
        if pad.r_value > THICKEST_R:
            found.append(f"{pad.name}: R {pad.r_value:g} is more than any single pad has.")
        if pad.width_cm is not None and pad.width_cm < wide:
            found.append(f"{pad.name} is {pad.width_cm:g} cm wide, the shoulders {wide:.0f} cm.")
    torso = any(pad.length == "torso" for pad in person.pads)
    full = any(pad.length == "full" for pad in person.pads)
    if torso and not full and bedding.feet_on == "nothing":
        found.append("The torso pad leaves the legs on the ground: put something under the feet.")
    if bedding.hammock is not None and bedding.raised != "no":
        found.append(f"A hammock and a {bedding.raised}: the bed counts as a hammock.")
    if bedding.hammock is not None and bedding.hammock.underquilt is None and not person.pads:
        found.append("A hammock without underquilt or pad is cold in any but a warm night.")
    return found


def _shared_queries(course: Course, person: Person) -> list[str]:
    """What does not fit where two share a bed."""
    partner = bed_partner(course, person)
    if partner is None:
        return []
    found: list[str] = []
    bag = person.bag or partner.bag
    if partner.shelter != person.shelter:
        found.append(f"{person.name} and {partner.name} share a bed in different shelters.")
    if bag is not None and (person.bag is None or partner.bag is None):
        own, others = shoulders_cm(person), shoulders_cm(partner)
        wanted = quilt_width(own, others)
        if bag.shape == "bag" and (bag.width_cm is None or bag.width_cm < GIRTH * (own + others)):
            found.append(f"{bag.name} is a bag for one: two need a quilt, or two bags joined.")
        elif bag.width_cm is not None and bag.width_cm < wanted - SPARE_CM:
            found.append(
                f"{bag.name} is {bag.width_cm:g} cm wide; over two people that leaks below "
                f"{wanted:.0f} cm."
            )
    if person.bedding.hammock is not None or partner.bedding.hammock is not None:
        found.append("Two in one bed do not lie in a hammock.")
    return found


@dataclass(frozen=True)
class Guarded:
    """A thing that must not freeze: where it should spend the night, in a sentence."""

    item: str
    at_risk: bool
    words: str


def freeze_guard(person: Person, night: Night, display: Display) -> list[Guarded]:
    """What must not freeze on a night, and where it sleeps.

    Source: limits by item; the bag as the place for it is common practice, no published source.
    """
    inside = night.low + night.lift
    found: list[Guarded] = []
    for item in person.items:
        limit = item.spoils_below_c
        if limit is None:
            continue
        at_risk = inside < limit + 1
        where = f"the tent falls to {display.temperature(inside)}"
        if person.shelter is None:
            where = f"the night falls to {display.temperature(night.low)}"
        words = f"{item.name} may stay out: {where}."
        if at_risk and person.bag is not None:
            words = f"{item.name} sleeps in the bag: {where}, it must stay above {limit:g} °C."
        elif at_risk:
            words = f"{item.name} has no warm place: {where}, it must stay above {limit:g} °C."
        found.append(Guarded(item.name, at_risk, words))
    if night.low < 0 and person.water_l > 0:
        found.append(
            Guarded("water", True, "Water: bottles lid down in the tent, one in the bag for the "
                    "morning; a hose freezes first.")
        )  # fmt: skip
    return found
