"""The guard against work that grows out of hand does guard."""

import re
from pathlib import Path

import pytest

from tests import pace


def _spin(units: int) -> None:
    for _ in range(units):
        sum(number * number % 7 for number in range(1_000_000))


def test_what_is_more_work_than_allowed_is_told_with_what_it_was(monkeypatch) -> None:
    monkeypatch.setattr(pace, "AT_ONCE_S", 0.0)
    with pytest.raises(AssertionError, match="a page"), pace.at_most(1, "a page"):
        _spin(3)
    with pace.at_most(6, "a page"):
        _spin(2)


def test_no_test_counts_seconds_of_its_own() -> None:
    """The rule: how fast, the benchmarks tell, as ratios in one run."""
    counts = re.compile(r"perf_counter|process_time|assert time\.")
    found = [
        path
        for path in Path(__file__).parent.rglob("*.py")
        if path.name not in ("pace.py", "test_pace.py") and counts.search(path.read_text())
    ]
    assert found == []
