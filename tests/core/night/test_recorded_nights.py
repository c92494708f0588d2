"""The recorded nights are as they were recorded."""

import pytest

from tests.core.night.recorded import HERE, figures, nights
from tests.recording import assert_unmoved


@pytest.mark.parametrize("name", ["demo", "wild", "winter"])
def test_no_figure_moves_unseen(name) -> None:
    assert_unmoved(HERE, name, figures(nights()[name]))
