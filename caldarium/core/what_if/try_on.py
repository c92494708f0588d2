"""One outfit tried on: what it would be for one person at one moment, with nothing kept."""

from collections.abc import Collection
from dataclasses import dataclass

from caldarium.core.assess import Assessment, assess_people
from caldarium.core.day.states import MomentState
from caldarium.core.plan.changes import free_outfits, wear
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.cures import Breaking, breaking_point


@dataclass(frozen=True)
class TriedOn:
    """An outfit on a person at a moment, what it weighs [g], where it breaks, and whether it is
    what the course has them wear."""

    person: Person
    moment: Moment
    state: MomentState
    grams: float
    breaking: Breaking
    as_planned: bool


def try_on(
    course: Course, result: Assessment, person: str, moment: str, worn: Collection[str] | None
) -> TriedOn:
    """An outfit on one person at one waking moment.

    Args:
        course: the plan.
        result: its assessment.
        person, moment: ids of both.
        worn: ids of the pieces; what the course has them wear where None.

    Raises:
        KeyError: for a person or waking moment that is not there.

    Source: the same assessment as for the course itself, with the outfit as the user's word.
    """
    member = course.person(person)
    here = next((m for m in result.timeline.moments if m.id == moment and m.kind != "night"), None)
    if here is None:
        raise KeyError(moment)
    planned = _state(next(each.moments for each in result.people if each.person == person), moment)
    state = planned
    if worn is not None and set(worn) != set(planned.worn):
        tried = wear(member, [moment], worn)
        state = _state(assess_people(course, (tried,), result.timeline)[0].moments, moment)
    return TriedOn(
        person=member,
        moment=here,
        state=state,
        grams=sum(piece.mass_g for piece in member.garments if piece.id in state.worn),
        breaking=breaking_point(course, member, here, state),
        as_planned=state is planned,
    )


@dataclass(frozen=True)
class OverruleCost:
    """What the user's word costs at a moment: pieces put on and left off by it, what the outfit is
    worth with it and would be by the rules alone [clo], and both states."""

    on: tuple[str, ...]
    off: tuple[str, ...]
    provided: float
    by_rules: float
    state: str
    state_by_rules: str


def overrule_cost(
    course: Course, result: Assessment, person: str, moment: str
) -> OverruleCost | None:
    """What the user's own word on pieces at a moment costs; None where there is none.

    Args:
        course: the plan.
        result: its assessment.
        person, moment: ids of both.

    Source: the same assessment without that word.
    """
    member = course.person(person)
    told = [each for each in member.overrules if each.moment == moment]
    if not told:
        return None
    names = {piece.id: piece.name for piece in member.garments}
    free = free_outfits(member, [moment])
    ruled = _state(assess_people(course, (free,), result.timeline)[0].moments, moment)
    now = _state(next(each.moments for each in result.people if each.person == person), moment)
    on, off = set(now.worn) - set(ruled.worn), set(ruled.worn) - set(now.worn)
    return OverruleCost(
        on=tuple(names[each] for each in now.worn if each in on),
        off=tuple(names[each] for each in ruled.worn if each in off),
        provided=now.provided,
        by_rules=ruled.provided,
        state=now.state,
        state_by_rules=ruled.state,
    )


def _state(states: Collection[MomentState], moment: str) -> MomentState:
    return next(each for each in states if each.moment == moment)
