"""The recorded days are as they were recorded."""

import json

import pytest

from tests.core.day.recorded import HERE, days, figures

RECORDED = json.loads(HERE.read_text())


@pytest.mark.parametrize("name", ["cold", "wet", "warm", "hot"])
def test_no_figure_moves_unseen(name) -> None:
    now, then = figures(days()[name]), RECORDED[name]
    assert now.keys() == then.keys()
    moved = [
        f"{where}: {what} {then[where][what]} -> {value}"
        for where, row in now.items()
        for what, value in row.items()
        if not _same(value, then[where][what])
    ]
    assert not moved, "\n".join([f"{len(moved)} figures moved, the first:", *moved[:12]])


def _same(now: float | str, then: float | str) -> bool:
    if isinstance(now, str) or isinstance(then, str):
        return now == then
    return now == pytest.approx(then, rel=2e-4, abs=2e-4)
