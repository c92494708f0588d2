"""A pack planned for one person and one morning: contents, places, order, riding, findings."""

from collections.abc import Mapping
from dataclasses import dataclass

from caldarium.core.assess import Assessment
from caldarium.core.day.dressing import SHELL_RAIN
from caldarium.core.pack.contents import Content, contents, first_walk, pack_on
from caldarium.core.pack.layout import Laid, lay_out
from caldarium.core.pack.needed import Need, needs_of
from caldarium.core.pack.pack_checks import PackReason, check_pack
from caldarium.core.pack.placing import HIGH, LOW, Placing, place_all
from caldarium.core.pack.where import Asked
from caldarium.core.pack.zones import sack_of, said_of_pack
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.rucksack import LASHED, Zone
from caldarium.core.timeline.moments import Timeline

FREEZES_C = -0.5
"""Air below which what is outside the liner freezes on the way [°C]: judgement."""
ROUGH = ("heavy brush", "bog", "loose sand", "snow")
ROUGH_KINDS = ("snow", "ridge")
ROUGH_SHARE = 0.3
"""Terrain and legs on which heavy things ride low, and the share of the day from which they do:
common practice, no published source; the share is judgement."""


@dataclass(frozen=True)
class PackPlan:
    """One pack on one morning: what it is filled for, where everything is and how it lies, and what
    is wrong with it; whether heavy things ride low that day."""

    person: str
    day: int
    asked: Asked
    placing: Placing
    laid: Laid
    findings: tuple[Finding[PackReason], ...]
    low: bool

    @property
    def pieces(self) -> dict[str, Content]:
        """Everything in it by id. Source: none, bookkeeping."""
        return {each.id: each for each in self.asked.contents}

    @property
    def needs(self) -> Mapping[str, Need]:
        """When each is needed, by id. Source: none, bookkeeping."""
        return self.asked.needs

    @property
    def grams(self) -> float:
        """All of it with the empty pack [g]. Source: none, a sum."""
        return sum(each.grams for each in self.asked.contents) + self.asked.sack.grams

    @property
    def litres(self) -> float:
        """Room that all of it takes, but for what is lashed outside [L]. Source: none, a sum."""
        zones = self.placing.zones
        return sum(e.litres for e in self.asked.contents if zones.get(e.id) not in LASHED)


def plan_pack(
    course: Course,
    person: Person,
    result: Assessment,
    day: int,
    before: PackPlan | None = None,
) -> PackPlan:
    """How somebody's pack is filled on a morning.

    Args:
        course, person: whose pack.
        result: what was found for the course.
        day: of the course, from 0, with a walk.
        before: the pack of the morning before; things stay for little where they were in it.

    Source: core.pack.
    """
    listed = contents(course, person, result, day)
    needs = needs_of(person, result, day, listed)
    walk = first_walk(result.timeline, day)
    carried = None if walk is None else pack_on(person, result.timeline, walk)
    sack = sack_of(person, sum(each.litres for each in listed), carried)
    low = rides_low(course, result.timeline, day)
    asked = Asked(
        listed,
        needs,
        sack,
        said_of_pack(person, carried),
        LOW if low else HIGH,
        course.sides_g,
        _coldest(result.timeline, day) < FREEZES_C,
        before.placing.zones if before is not None else {},
    )
    placing = place_all(asked)
    laid = lay_out(listed, needs, placing.zones, sack)
    wet_out = _may_get_wet(result.timeline, day)
    findings = check_pack(asked, placing, laid, person, wet_out=wet_out)
    return PackPlan(person.id, day, asked, placing, laid, tuple(findings), low)


def rides_low(course: Course, timeline: Timeline, day: int) -> bool:
    """Whether heavy things ride low on a day: by the school, else by the way.

    Source: common practice, no published source.
    """
    if course.heavy_things != "by the way":
        return course.heavy_things == "low"
    stages = timeline.stages[day]
    hours = sum(stage.end - stage.start for stage in stages)
    rough = sum(
        stage.end - stage.start
        for stage in stages
        if stage.leg.terrain in ROUGH or stage.leg.kind in ROUGH_KINDS
    )
    return rough > ROUGH_SHARE * hours


def _coldest(timeline: Timeline, day: int) -> float:
    """The coldest air on the way of a day [°C]."""
    awake = [m.air for m in timeline.moments if m.day == day and m.kind != "night"]
    return min(awake, default=20.0)


def _may_get_wet(timeline: Timeline, day: int) -> bool:
    moments = [m for m in timeline.moments if m.day == day and m.kind != "night"]
    return any(m.precipitation > SHELL_RAIN or m.ford for m in moments)


@dataclass(frozen=True)
class Moved:
    """A piece that is elsewhere than the morning before: None where it was not in the pack, or is
    not any more."""

    piece: Content
    before: Zone | None
    after: Zone | None


@dataclass(frozen=True)
class Since:
    """What changed in a pack since another morning: pieces that moved, mass [g] and centre of mass
    [cm] more or less, and shelters that go in wet or dry again."""

    moved: tuple[Moved, ...]
    grams: float
    height_cm: float
    wet: tuple[str, ...]
    dry: tuple[str, ...]


def since(before: PackPlan, after: PackPlan) -> Since:
    """What changes from one morning to another.

    Source: none, a comparison.
    """
    zones, now = before.placing.zones, after.placing.zones
    pieces = before.pieces | after.pieces
    moved = [
        Moved(pieces[name], zones.get(name), now.get(name))
        for name in pieces
        if zones.get(name) != now.get(name)
    ]
    wet = {name for name, each in after.pieces.items() if each.wet}
    was = {name for name, each in before.pieces.items() if each.wet}
    return Since(
        tuple(moved),
        after.grams - before.grams,
        after.laid.height_cm - before.laid.height_cm,
        tuple(sorted(wet - was)),
        tuple(sorted((was - wet) & after.pieces.keys())),
    )
