"""What is wrong with a filled pack, each as a finding with what would cure it."""

from collections.abc import Sequence
from typing import Literal

from caldarium.core.pack.contents import NOBODYS, Content
from caldarium.core.pack.layout import Laid
from caldarium.core.pack.placing import Placing
from caldarium.core.pack.where import HURRIED, OUTSIDE_LINER, SOFT, SPINE, Asked, clash
from caldarium.core.pack.zones import MAIN
from caldarium.core.plan.course import Person
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.rucksack import LASHED, Zone

PackReason = Literal[
    "no pack",
    "too full",
    "no place",
    "loose",
    "top-heavy",
    "low",
    "hangs back",
    "one-sided",
    "no barrier",
    "fuel over food",
    "leaks on",
    "crushed",
    "sharp inside",
    "hard on the back",
    "freezes",
    "deep",
    "over rated",
    "not the back",
    "wet inside",
    "heavy outside",
    "too much outside",
    "no strap",
    "nobody's",
]
"""Why a pack is not in order. Names: pieces, or the pack. Figures: no pack, its assumed size [L];
too full, litres in it and litres it holds; loose, share of the main compartment filled; top-heavy,
low and hangs back, where the centre of mass is and where it should be at most or least [cm];
one-sided, left and right [g]; over rated, load and what it is made for [kg]; not the back, torso
and back [cm]; heavy outside, what hangs there [g]; too much outside, what hangs
there and what can [L]; nobody's, its mass [g]."""
LOOSE = 0.5
"""Share of the main compartment under which things slide about: judgement."""
HIGH_BAND, BACK_BAND_CM, NEARLY_CM = 0.16, 14.0, 1.0
"""Share of the height by which the centre of mass may be off; how far from the spine it may be; and
what is as good as there: judgement."""
FRAMELESS_KG = 10.0
"""Load beyond which a pack without a frame hangs from the shoulders, where its maker says nothing
[kg]: judgement."""
TORSO_CM, OUTSIDE_G = 5.0, 1500.0
"""By how much a back may be off the torso, and mass that may hang outside: judgement."""


def check_pack(
    asked: Asked, placing: Placing, laid: Laid, person: Person, *, wet_out: bool
) -> list[Finding[PackReason]]:
    """Everything that is wrong with a pack, gravest first.

    Args:
        asked, placing, laid: the pack as it is filled.
        person: whose.
        wet_out: whether rain, snow or a river may wet it that day.

    Source: common practice, no published source; figures are judgement.
    """
    zones = placing.zones
    found: list[Finding[PackReason]] = [*_room(asked, zones), *_riding(asked, laid, person)]
    by_id = {each.id: each for each in asked.contents}
    placed = [by_id[name] for name in laid.order]
    if wet_out:
        dry = [each for each in placed if not each.may_get_wet]
        found += _each("no barrier", dry, zones, _unprotected(asked))
    if asked.freezes:
        outside = [each for each in placed if "freezes" in each.marks]
        found += _each("freezes", outside, zones, tuple(z for z in OUTSIDE_LINER if z != "over"))
    found += _clashes(placed, zones)
    low: tuple[Zone, ...] = ("foot", "low spine", "low outer")
    breaks = [each for each in placed if "crushable" in each.marks]
    found += _each("crushed", breaks, zones, (*low, "under"))
    found += _each("sharp inside", [e for e in placed if "sharp" in e.marks], zones, MAIN)
    found += _hard_on_back(placed, zones)
    hurried = [each for each in placed if asked.needs[each.id].hurry >= HURRIED]
    found += _each("deep", hurried, zones, low)
    if asked.said.liner:
        found += _each("wet inside", [each for each in placed if each.wet], zones, MAIN)
    found += _lashed([each for each in placed if zones[each.id] in LASHED], asked, zones)
    if NOBODYS in by_id:
        found.append(Finding("nobody's", (NOBODYS,), (by_id[NOBODYS].grams,)))
    if asked.sack.assumed:
        found.append(Finding("no pack", (), (asked.sack.whole,)))
    return found


def _lashed(
    outside: Sequence[Content], asked: Asked, zones: dict[str, Zone]
) -> list[Finding[PackReason]]:
    """What is wrong with what hangs outside: too heavy, too much, where no strap is."""
    found: list[Finding[PackReason]] = []
    names = tuple(each.id for each in outside)
    grams, litres = (sum(e.grams for e in outside), sum(e.litres for e in outside))
    if grams > OUTSIDE_G:
        found.append(Finding("heavy outside", names, (grams,)))
    if litres > asked.sack.lashed + 0.05:
        found.append(Finding("too much outside", names, (litres, asked.sack.lashed)))
    loose = [each for each in outside if not asked.said.has_straps(zones[each.id])]
    return found + [Finding("no strap", (each.id,)) for each in loose]


def _each(
    reason: PackReason,
    contents: Sequence[Content],
    zones: dict[str, Zone],
    wrong: Sequence[Zone],
) -> list[Finding[PackReason]]:
    return [Finding(reason, (each.id,)) for each in contents if zones[each.id] in wrong]


def _unprotected(asked: Asked) -> tuple[Zone, ...]:
    """Zones in which what must be kept dry is not."""
    return OUTSIDE_LINER if asked.said.liner else (*MAIN, *OUTSIDE_LINER)


def _room(asked: Asked, zones: dict[str, Zone]) -> list[Finding[PackReason]]:
    found: list[Finding[PackReason]] = []
    left = tuple(each.id for each in asked.contents if each.id not in zones)
    inside = [each for each in asked.contents if zones.get(each.id) not in (None, *LASHED)]
    main = sum(each.litres for each in inside if zones[each.id] in (*MAIN, "over"))
    if left:
        found.append(Finding("no place", left))
    if main > asked.sack.main + 0.05:
        found.append(Finding("too full", (), (main, asked.sack.main)))
    elif asked.sack.main > 0 and main < LOOSE * asked.sack.main:
        found.append(Finding("loose", (), (main / asked.sack.main,)))
    return found


def _riding(asked: Asked, laid: Laid, person: Person) -> list[Finding[PackReason]]:
    found: list[Finding[PackReason]] = []
    least, most = good_heights(asked, laid)
    if laid.height_cm > most + NEARLY_CM:
        found.append(Finding("top-heavy", (), (laid.height_cm, most)))
    elif laid.order and laid.height_cm < least - NEARLY_CM:
        found.append(Finding("low", (), (laid.height_cm, least)))
    if laid.depth_cm > BACK_BAND_CM + NEARLY_CM:
        found.append(Finding("hangs back", (), (laid.depth_cm, BACK_BAND_CM)))
    if abs(laid.left_g - laid.right_g) > asked.sides_g:
        found.append(Finding("one-sided", (), (laid.left_g, laid.right_g)))
    load = (sum(each.grams for each in asked.contents) + asked.sack.grams) / 1000
    unframed = FRAMELESS_KG if asked.said.frame == "no frame" else None
    rated = asked.said.rated_kg or unframed
    if rated is not None and load > rated:
        found.append(Finding("over rated", (), (load, rated)))
    back, torso = asked.said.back_cm, person.torso_cm
    if back is not None and torso is not None and abs(back - torso) > TORSO_CM:
        found.append(Finding("not the back", (), (torso, back)))
    return found


def _hard_on_back(placed: Sequence[Content], zones: dict[str, Zone]) -> list[Finding[PackReason]]:
    """Hard things by the spine with nothing soft beside them there."""
    soft = {zones[each.id] for each in placed if each.role in SOFT}
    return [
        Finding("hard on the back", (each.id,))
        for each in placed
        if "hard" in each.marks and zones[each.id] in SPINE and zones[each.id] not in soft
    ]


def _clashes(placed: Sequence[Content], zones: dict[str, Zone]) -> list[Finding[PackReason]]:
    found: list[Finding[PackReason]] = []
    for one in placed:
        for other in placed:
            if clash(one, zones[one.id], other, zones[other.id]):
                food = one.role == "fuel" and other.role in ("food", "lunch")
                found.append(Finding("fuel over food" if food else "leaks on", (one.id, other.id)))
    return found


def good_heights(asked: Asked, laid: Laid) -> tuple[float, float]:
    """Between which heights over the foot the centre of mass should be [cm].

    Source: HIGH_BAND, judgement.
    """
    wanted, off = asked.height * laid.filled_cm, HIGH_BAND * asked.sack.height_cm
    return wanted - off, wanted + off
