"""How the next best steps were found and ranked, line by line."""

from collections.abc import Sequence

from caldarium.core.what_if.next_steps import PROBLEM_G, SAVED_G, WEIGHTS, Weighed
from caldarium.words.course import PROBLEMS, counted
from caldarium.words.overview import grams_words
from caldarium.words.steps import Step
from caldarium.words.units import Display


def explain_next(found: Sequence[tuple[str, Weighed]], display: Display) -> list[Step]:
    """How each step shown was weighed.

    Args:
        found: titles and steps, best first.
        display: units.

    Source: core.what_if.next_steps.
    """
    weights = ", ".join(f"{PROBLEMS[name][0]} {weight}" for name, weight in WEIGHTS.items())
    told = [
        Step(
            "what a problem counts",
            f"{min(WEIGHTS.values())} to {max(WEIGHTS.values())} points",
            f"{weights}; for each that is put in order, taken off for each that is opened",
            "judgement, by what each can do to people",
        ),
        Step(
            "what grams count",
            f"{display.mass(PROBLEM_G)} a point",
            f"of what the party carries more on the first morning; less counts a point for "
            f"{display.mass(SAVED_G)}",
            "judgement",
        ),
    ]
    return told + [_explain(title, each, display) for title, each in found]


def _explain(title: str, found: Weighed, display: Display) -> Step:
    parts = [
        f"{counted(abs(closed), *PROBLEMS[name])} {'closed' if closed > 0 else 'opened'}"
        for name in WEIGHTS
        if (closed := getattr(found.before, name) - getattr(found.after, name))
    ]
    weighs = grams_words(found.grams, display)
    return Step(
        title,
        f"{found.gain:.1f} points",
        f"{'; '.join(parts) or 'nothing closed or opened'}: {found.closes} points; {weighs}",
        "the whole course judged again with the step done; every figure opens on its own page",
    )
