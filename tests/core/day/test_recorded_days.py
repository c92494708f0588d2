"""The recorded days are as they were recorded."""

import pytest

from tests.core.day.recorded import HERE, days, figures
from tests.recording import assert_unmoved


@pytest.mark.parametrize("name", ["cold", "wet", "warm", "hot"])
def test_no_figure_moves_unseen(name) -> None:
    assert_unmoved(HERE, name, figures(days()[name]))
