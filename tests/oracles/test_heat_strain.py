"""Predicted heat strain against the published implementation of ISO 7933:2023 in pythermalcomfort,
with clothing by the standard's annex D, and by properties."""

import numpy as np
import pytest
from pythermalcomfort.models import phs

from caldarium.core.physics import cold
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.heat_strain import (
    CORE_LIMIT,
    at_rest,
    strained,
    vapour_resistance,
)

MASS, HEIGHT, MINUTES = 75.0, 1.8, 480
CASES = [
    # air, radiant, humidity, wind, rate, clo, acclimatised
    (40, 40, 34, 0.3, 150, 0.5, True),
    (35, 35, 60, 0.3, 150, 0.5, True),
    (30, 50, 50, 0.3, 150, 0.5, True),
    (28, 43, 45, 0.3, 150, 0.5, True),
    (35, 35, 60, 1.0, 150, 0.5, True),
    (43, 43, 20, 0.3, 103, 0.5, True),
    (35, 35, 60, 0.3, 206, 0.5, True),
    (34, 34, 35, 0.3, 150, 1.0, True),
    (40, 40, 40, 0.3, 150, 0.4, False),
    (34, 45, 30, 1.5, 230, 0.4, False),
]
"""The first eight are near the standard's own annex F; the last two are walks of ours."""


def insulation(wind: float, rate: float, clo: float) -> tuple[float, float]:
    """In wind and movement, and still [m² K/W], by ISO 7933:2023 annex D."""
    still = 0.155 * clo + 0.111 / (1 + 0.28 * clo)
    walk = min(0.0052 * (rate - 58), 0.7)
    bare = np.exp((0.047 * wind - 0.472) * wind + (0.117 * walk - 0.342) * walk)
    worn = 1.044 * np.exp((0.066 * wind - 0.398) * wind + (0.094 * walk - 0.378) * walk)
    bare, worn = min(bare, 1.0), min(worn, 1.0)
    left = worn if clo > 0.6 else ((0.6 - clo) * bare + clo * worn) / 0.6
    return still * left, still


def lived(air, radiant, humidity, wind, rate, clo, acclimatised, minutes=MINUTES):
    whole, still = insulation(wind, rate, clo)
    place = [np.array([float(each)]) for each in (air, wind, humidity, rate)]
    where = cold.exposure(*place, 0.0, radiant=np.array([float(radiant)]))
    resists = vapour_resistance(np.array([whole]), np.array([still]))
    area = float(body_area(MASS, HEIGHT))
    return list(
        strained(
            at_rest(1),
            where,
            np.array([whole]),
            resists,
            MASS,
            area,
            minutes,
            acclimatised=acclimatised,
        )
    )


@pytest.mark.parametrize(("air", "radiant", "humidity", "wind", "rate", "clo", "used"), CASES)
def test_it_is_the_published_one(air, radiant, humidity, wind, rate, clo, used) -> None:
    theirs = phs(
        tdb=air,
        tr=radiant,
        v=wind,
        rh=humidity,
        met=rate / 58.2,
        clo=clo,
        posture="standing",
        model="7933-2023",
        acclimatized=100 if used else 0,
        duration=MINUTES,
        weight=MASS,
        height=HEIGHT,
        round_output=False,
    )
    ours = lived(air, radiant, humidity, wind, rate, clo, used)
    assert float(ours[-1].rectal[0]) == pytest.approx(float(theirs.t_re), abs=0.2)
    assert float(ours[-1].skin[0]) == pytest.approx(float(theirs.t_sk), abs=0.25)
    assert float(ours[-1].lost[0]) == pytest.approx(float(theirs.sweat_loss_g), rel=0.15)
    over = [minute for minute, each in enumerate(ours, 1) if each.rectal[0] > CORE_LIMIT]
    first = over[0] if over else MINUTES
    assert first == pytest.approx(float(theirs.d_lim_t_re), abs=6, rel=0.1)


BASE = {
    "air": 33.0,
    "radiant": 45.0,
    "humidity": 45.0,
    "wind": 0.6,
    "rate": 190.0,
    "clo": 0.5,
    "acclimatised": False,
}


@pytest.mark.parametrize(
    ("name", "worse"),
    [("air", 36.0), ("radiant", 60.0), ("humidity", 70.0), ("wind", 0.3), ("rate", 230.0)],
)
def test_what_is_worse_strains_more(name, worse) -> None:
    plain, more = (lived(**each, minutes=180)[-1] for each in (BASE, BASE | {name: worse}))
    # While sweat keeps up, core follows the work alone, and warmer skin stores a little of it.
    assert float(more.rectal[0]) > float(plain.rectal[0]) - 0.1
    assert float(more.lost[0]) > float(plain.lost[0])


def test_acclimatised_people_stay_cooler_where_sweat_is_short() -> None:
    hard = BASE | {"air": 40.0, "humidity": 45.0, "rate": 220.0}
    used = lived(**(hard | {"acclimatised": True}), minutes=180)[-1]
    assert float(used.rectal[0]) < float(lived(**hard, minutes=180)[-1].rectal[0])


def test_rest_in_mild_air_strains_nobody() -> None:
    """At 20 °C in light clothing nobody's core passes 37.3 °C."""
    mild = BASE | {"air": 20.0, "radiant": 20.0, "rate": 70.0, "clo": 0.9}
    assert all(each.rectal[0] < 37.3 for each in lived(**mild, minutes=240))


def test_permeability_is_annex_ds() -> None:
    """0.38 in still air; where 0.6 of the warmth is left 0.38 x (2.6 x 0.36 - 6.5 x 0.6 + 4.9) =
    0.7357; never over 0.9."""
    for left, permeability in ((1.0, 0.38), (0.6, 0.73568), (0.1, 0.9)):
        whole = 0.1 * left
        assert float(vapour_resistance(whole, 0.1)) == pytest.approx(whole / permeability / 16.7)
