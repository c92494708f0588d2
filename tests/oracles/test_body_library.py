"""The two-node body against the published implementation in pythermalcomfort."""

import numpy as np
import pytest
from pythermalcomfort.models import two_nodes_gagge

from caldarium.core.physics.air import saturation_pressure
from caldarium.core.physics.body import gagge_surroundings, lived, rested, skin_share

MASS_BY_AREA = 70 / 1.8258
"""The library's body: 70 kg on 1.8258 m²."""


@pytest.mark.parametrize(
    ("air", "wind", "damp", "met", "clo"),
    [
        (25, 0.1, 50, 1.0, 0.6),
        (10, 0.3, 50, 1.2, 1.0),
        (0, 0.5, 60, 1.2, 2.0),
        (35, 0.3, 40, 1.2, 0.5),
        (20, 0.5, 50, 3.0, 0.8),
        (5, 1.0, 50, 4.0, 1.0),
        (-5, 1.0, 50, 2.0, 2.0),
    ],
)
def test_an_hour_ends_where_the_library_ends(air, wind, damp, met, clo) -> None:
    theirs = two_nodes_gagge(tdb=air, tr=air, v=wind, rh=damp, met=met, clo=clo, round_output=False)
    vapour = damp / 100 * float(saturation_pressure(air))
    around = gagge_surroundings(air, wind, vapour, clo, met * 58.2)
    ours = lived(rested(()), around, 1.0, MASS_BY_AREA)
    # The library finds the radiative coefficient again each minute; here it is 4.7 W/(m² K).
    assert float(ours.core) == pytest.approx(float(theirs.t_core), abs=0.03)
    assert float(ours.skin) == pytest.approx(float(theirs.t_skin), abs=0.4)
    assert float(ours.wettedness) == pytest.approx(float(theirs.w), abs=0.03)
    assert float(ours.sweat) == pytest.approx(float(theirs.m_rsw), abs=6)


def test_heat_is_kept_in_the_books() -> None:
    # Near neutral, where the nodes' shares of the mass hardly move: heat is mass times warming.
    body = lived(rested(()), gagge_surroundings(27.0, 0.2, 1.4, 0.5, 60.0), 1.0, MASS_BY_AREA)
    share = skin_share(np.array(6.3))
    warming = share * (body.skin - 33.7) + (1 - share) * (body.core - 36.8)
    assert float(body.stored) == pytest.approx(0.97 * MASS_BY_AREA * float(warming), abs=0.5)


def test_many_bodies_at_once_are_the_same_as_one_by_one() -> None:
    airs = np.array([-20.0, 0.0, 25.0])
    together = lived(rested((3,)), gagge_surroundings(airs, 1.0, 0.3, 2.0, 120.0), 0.5, 38.0)
    for place, air in enumerate(airs.tolist()):
        alone = lived(rested(()), gagge_surroundings(air, 1.0, 0.3, 2.0, 120.0), 0.5, 38.0)
        assert float(together.core[place]) == pytest.approx(float(alone.core), abs=1e-12)
