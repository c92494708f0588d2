"""What a set must have before any gram is counted: what terrain, rain, sun and school ask.

With warmth alone the lightest set is trail shoes, shorts and a mesh top. Order and content of these
rules are common practice, no published source; each can be switched off.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from caldarium.core.day.dressing import SHELL_RAIN
from caldarium.core.lighten.listed import AskedFor, counting
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import regions_covered
from caldarium.core.plan.kit import Garment
from caldarium.core.timeline.moments import Timeline
from caldarium.core.what_if.kept import SLOTS, fills

RuleName = Literal[
    "footwear",
    "trousers",
    "socks",
    "underwear",
    "next to the skin",
    "rain above",
    "rain below",
    "head",
    "hands",
    "sun",
    "spare",
    "dry set",
    "listed",
]
RULES: tuple[RuleName, ...] = get_args(RuleName)
KEPT_AS_PLANNED: tuple[RuleName, ...] = ("sun", "spare", "dry set")
"""Rules that keep pieces which were planned: what the user leaves at home is not asked for."""
COLD_FROM = 5.0
"""Air below which nobody goes without a hat and something on the hands [°C]: judgement."""
NEARLY = 0.05
"""Share of a region by which a piece may cover less than what it takes the place of: judgement."""


@dataclass(frozen=True)
class Rule:
    """At least so many of some pieces, by place in the list, and at most so many where that is
    said; of pieces that are barred none; of a rule that a list gives, the line that does."""

    name: RuleName
    least: int
    pieces: tuple[int, ...]
    most: int | None = None
    barred: tuple[int, ...] = ()
    line: AskedFor | None = None


def slot_of(piece: Garment) -> RuleName | None:
    """What of the all-day outfit a piece is; None for what may stay in the pack.

    Source: none, bookkeeping.
    """
    covers = regions_covered(piece)
    if not piece.always:
        return None
    if piece.layer == "shell" and "feet" in covers:
        return "footwear"
    if "feet" in covers:
        return "socks"
    return "trousers" if "thighs" in covers and piece.layer != "base" else "underwear"


def rules_for(
    course: Course,
    person: Person,
    timeline: Timeline,
    pieces: Sequence[Garment],
    asked: Sequence[AskedFor],
) -> list[Rule]:
    """The rules that a set must keep, where there is something to keep them with.

    Args:
        course: for its school of spare clothes.
        person: with what was planned for them.
        timeline: of the course.
        pieces: everything on offer.
        asked: what lists ask of them, from core.lighten.listed.

    Source: common practice, no published source: footwear no lower and no more open than what is
        planned, trousers, next to the skin and shells that cover as much.
    """
    awake = [moment for moment in timeline.moments if moment.kind != "night"]
    rains = any(moment.precipitation > SHELL_RAIN for moment in awake)
    coldest = min((moment.air for moment in awake), default=20.0)
    found: list[Rule] = []

    def need(
        name: RuleName,
        among: Callable[[Garment], bool],
        *,
        alone: bool = False,
        asked: bool = True,
        as_much: bool = False,
    ) -> None:
        planned = [each for each in person.garments if among(each)]
        places = [at for at, each in enumerate(pieces) if among(each)]
        least = as_many_as(planned) if as_much else {}
        fits = [at for at in places if _covers(pieces[at], least)]
        if name == "footwear" and planned:
            shut = max(each.air_permeability for each in planned)
            fits = [at for at in fits if pieces[at].air_permeability <= shut]
        if not fits or not (asked or planned):
            return
        count = max(len(planned), 1) if alone else 1
        barred = tuple(at for at in places if at not in fits) if alone else ()
        found.append(Rule(name, count, tuple(fits), count if alone else None, barred))

    need("footwear", lambda each: slot_of(each) == "footwear", alone=True, as_much=True)
    need("trousers", lambda each: slot_of(each) == "trousers", alone=True, as_much=True)
    need("socks", lambda each: slot_of(each) == "socks")
    need("underwear", lambda each: slot_of(each) == "underwear", asked=False)
    need("next to the skin", _next_to_skin, as_much=True)
    need("rain above", _rain_above, asked=rains, as_much=True)
    if rains:
        need("rain below", _rain_below, asked=coldest < 10, as_much=True)
    if coldest < COLD_FROM:
        need("head", lambda each: regions_covered(each) == {"head"} and not each.only_asleep)
        need("hands", lambda each: regions_covered(each) == {"hands"})
    owned = {each.id for each in person.garments}
    flags: tuple[tuple[RuleName, str], ...] = (("sun", "shades"), ("spare", "spare"))
    for name, flag in flags:
        kept = tuple(
            at for at, each in enumerate(pieces) if getattr(each, flag) and each.id in owned
        )
        if kept:
            found.append(Rule(name, len(kept), kept))
    return found + _dry_set(course, person, pieces) + _listed(course, person, pieces, asked)


def as_many_as(planned: Sequence[Garment]) -> dict[str, float]:
    """Share of each region that a piece in the place of planned ones must cover: as much as the
    one that covers least. Source: common practice, no published source."""
    if not planned:
        return {}
    regions = planned[0].cover.keys()
    return {
        region: min(each.cover.get(region, 0.0) for each in planned) - NEARLY for region in regions
    }


def _covers(piece: Garment, least: dict[str, float]) -> bool:
    return all(piece.cover.get(region, 0.0) >= share for region, share in least.items())


def _next_to_skin(each: Garment) -> bool:
    awake = not each.only_asleep and not each.only_at_camp
    return awake and not each.always and each.layer == "base" and "trunk" in regions_covered(each)


def _rain_above(each: Garment) -> bool:
    return each.layer == "shell" and each.waterproof and {"trunk", "arms"} <= regions_covered(each)


def _rain_below(each: Garment) -> bool:
    legs = {"thighs", "lower legs"}
    return each.layer == "shell" and each.waterproof and legs <= regions_covered(each)


def _listed(
    course: Course, person: Person, pieces: Sequence[Garment], asked: Sequence[AskedFor]
) -> list[Rule]:
    """Of clothes that a list asks for as many as it asks, where there are so many."""
    found: list[Rule] = []
    for each, ids in zip(asked, counting(course, person, asked, pieces), strict=True):
        places = [at for at, piece in enumerate(pieces) if piece.id in ids]
        if len(places) >= each.wanted.count:
            found.append(Rule("listed", each.wanted.count, tuple(places), line=each))
    return found


def _dry_set(course: Course, person: Person, pieces: Sequence[Garment]) -> list[Rule]:
    """Of what a dry set is made as many pieces as are planned: one beside the one that is worn, or
    all of them, by the course's school."""
    found: list[Rule] = []
    for layer, over in SLOTS if course.spare_set != "none" else ():
        planned = sum(fills(each, layer, over) for each in person.garments)
        least = min(planned, 2) if course.spare_set == "one dry set" else planned
        places = tuple(at for at, each in enumerate(pieces) if fills(each, layer, over))
        if least > 1:
            found.append(Rule("dry set", least, places))
    return found
