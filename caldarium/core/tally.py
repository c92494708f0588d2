"""Problems of a course, counted: by kind for whoever compares two plans, by step for the bar."""

from dataclasses import dataclass, fields
from typing import Literal, get_args

from caldarium.core.assess import Assessment
from caldarium.core.plan.unsaid import Step, Unsaid

Standing = Literal["problems", "open", "in order", "when asked"]
WHEN_ASKED: tuple[Step, ...] = ("lighten", "pack", "check", "log", "debrief")
"""Steps that are worked out only when somebody asks; a check once there is a list, and what comes
after the course never has problems of its own."""
STEPS: tuple[Step, ...] = get_args(Step)


@dataclass(frozen=True)
class Tally:
    """How many problems of each kind there are: moments of somebody short of warmth, bed-nights
    too cold, moments at which fingers, toes or face are at risk, moments too hot, nights of
    shelters that are unfit or missing, mornings on which somebody carries beyond the limit,
    stretches on which somebody has nothing left to drink or to eat, and times at which the party's
    fuel is out."""

    gaps: int
    cold_beds: int
    at_risk: int
    hot: int
    unfit: int
    overladen: int
    dry: int = 0
    hungry: int = 0
    no_fuel: int = 0

    @property
    def none(self) -> bool:
        """Whether there is no problem at all. Source: none, bookkeeping."""
        return not any(getattr(self, each.name) for each in fields(self))


def tally(result: Assessment) -> Tally:
    """The problems of a course. Source: figures of the assessment."""
    moments = [each for person in result.people for each in person.moments]
    beds = [each for person in result.people for each in person.nights]
    return Tally(
        gaps=sum(each.state == "gap" for each in moments),
        cold_beds=sum(each.state == "gap" for each in beds),
        at_risk=sum(bool(each.at_risk) for each in moments),
        hot=sum(each.state == "hot" for each in moments),
        unfit=sum(not each.fit for each in (*result.shelters, *result.open_nights)),
        overladen=sum(
            kilograms > person.load.limit
            for person in result.people
            for kilograms in person.load.by_day
        ),
        dry=sum(len(person.load.dry) for person in result.people),
        hungry=sum(len(person.load.hungry) for person in result.people),
        no_fuel=len(result.fuel.out),
    )


@dataclass(frozen=True)
class StepState:
    """How far a step of the work has got: its problems, what nobody has said there, and whether it
    was looked at at all."""

    step: Step
    problems: int
    unsaid: int
    judged: bool = True

    @property
    def standing(self) -> Standing:
        """Its state in one word. Source: none, bookkeeping."""
        if self.problems or self.unsaid:
            return "problems" if self.problems else "open"
        return "in order" if self.judged else "when asked"


def step_states(
    found: Tally, unsaid: tuple[Unsaid, ...], not_there: int | None = None
) -> tuple[StepState, ...]:
    """Every step of the work in its order, with its problems and open questions.

    Args:
        found: the problems that the assessment knows.
        unsaid: what nobody has said.
        not_there: lines of lists that must be met and are not; None where no list is asked.

    Source: figures of the assessment; what belongs to which step is ours.
    """
    problems: dict[Step, int] = {
        "day": found.gaps + found.hot + found.at_risk,
        "night": found.cold_beds,
        "shelter": found.unfit,
        "load": found.overladen + found.dry + found.hungry + found.no_fuel,
        "check": not_there or 0,
    }
    asked = set(STEPS) - set(WHEN_ASKED)
    asked |= {"check"} if not_there is not None else set()
    return tuple(
        StepState(
            step, problems.get(step, 0), sum(each.step == step for each in unsaid), step in asked
        )
        for step in STEPS
    )
