"""Figures of the model's own, recorded: they check nothing against the outside, and tell that one
moved. Whoever moves one on purpose records anew and says why in the commit."""

import json
import math
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

import pytest

from caldarium.core.plan.course import Course

Figures = dict[str, dict[str, Any]]


def rounded(value: float) -> float | str:
    """A figure as it is written; what is not finite as a word."""
    return float(f"{value:.6g}") if math.isfinite(value) else str(value)


def record(path: Path, courses: Mapping[str, Course], figures: Callable[[Course], Figures]) -> None:
    """Write the figures of all these courses."""
    recorded = {name: figures(course) for name, course in courses.items()}
    path.write_text(json.dumps(recorded, indent=0, sort_keys=True) + "\n")


def assert_unmoved(path: Path, name: str, now: Figures) -> None:
    """Fail with the first figures that are others than were recorded."""
    then = json.loads(path.read_text())[name]
    assert now.keys() == then.keys()
    moved = [
        f"{where}: {what} {then[where].get(what)} -> {value}"
        for where, row in now.items()
        for what, value in row.items()
        if not _same(value, then[where].get(what))
    ]
    assert not moved, "\n".join([f"{len(moved)} figures moved, the first:", *moved[:12]])


def _same(now: float | str, then: float | str | None) -> bool:
    if not isinstance(now, float | int) or not isinstance(then, float | int):
        return now == then
    return now == pytest.approx(then, rel=2e-4, abs=2e-4)
