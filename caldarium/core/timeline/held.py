"""How long clothing has to hold at each kind of moment: one rule for word, number and cure."""

from caldarium.core.plan.course import Course

LONGEST = 8.0
"""What holds so long holds [h]. Source: the working day of ISO 11079:2007."""


def must_hold(course: Course, kind: str, hours: float) -> float:
    """Time that clothing must hold until the heat debt matters [h].

    Args:
        course: for what it asks of halts, holds and camps.
        kind: of moment.
        hours: how long the moment is planned to last.

    Returns:
        For a halt its length times the course's factor, and never less than its least; for a hold
        the hours to survive; at camp the time that people sit still; for everything else its own
        length, at most LONGEST.

    Source: judgement, settable; that a halt runs long is common practice, no published source.
    """
    if kind == "halt":
        held = max(course.halt_factor * hours, course.halt_least_h)
    elif kind == "camp":
        held = min(course.camp_sit_h, hours)
    else:
        held = hours
    return max(min(held, max(LONGEST, course.hold_h)), 1 / 60)
