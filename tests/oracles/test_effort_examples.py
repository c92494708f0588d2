"""Walking power against hand-worked examples and a second published formula."""

import numpy as np
import pytest

from caldarium.core.physics import effort


def test_pandolf_by_hand() -> None:
    # 1.5*70 + 2*90*(20/70)² + 1.0*90*(1.5*1.44 + 0.35*1.2*5) = 105 + 14.69 + 383.4
    assert effort.walking_power(70, 20, 1.2, 5, 1.0) == pytest.approx(503.09, abs=0.1)


def test_santee_by_hand() -> None:
    # Pandolf at -10 %: -74.2; correction 1.1*(-281.1 - 18.7 + 23.6) = -303.9; difference 229.8
    assert effort.walking_power(70, 12, 1.2, -10, 1.1) == pytest.approx(229.77, abs=0.05)


@pytest.mark.parametrize("speed", [0.8, 1.1, 1.4, 1.7])
def test_unloaded_level_against_looney(speed: float) -> None:
    # Looney et al. (2019), Med. Sci. Sports Exerc. 51: 1.44 + 1.94 S^0.43 + 0.24 S^4 W/kg.
    looney = 75 * (1.44 + 1.94 * speed**0.43 + 0.24 * speed**4)
    assert effort.walking_power(75, 0, speed, 0) == pytest.approx(looney, rel=0.3)


def test_dubois_by_table() -> None:
    # DuBois nomogram, 70 kg and 1.75 m: 1.85 m²; from memory.
    assert effort.body_area(70, 1.75) == pytest.approx(1.85, abs=0.01)


def test_quiet_classes_in_order() -> None:
    order = ["asleep", "seated", "standing", "camp work"]
    rates = [effort.resting_rate(name) for name in order]
    assert rates == sorted(rates)
    assert 40 <= rates[0] <= 47  # ISO 8996: 0.7 to 0.8 met asleep


def test_never_below_standing() -> None:
    for grade in (-5, -12, -20):
        assert effort.walking_power(70, 10, 0.3, grade) >= 1.5 * 70


def test_outside_the_range_there_is_no_figure() -> None:
    assert np.isnan(effort.walking_power(70, 80, 1, 0))
    assert np.isnan(effort.walking_power(70, 10, 1, 60))
    assert np.isnan(effort.body_area(70, 3))


def test_snow_factor() -> None:
    assert effort.snow_terrain_factor(10) == pytest.approx(2.12)
    assert np.isnan(effort.snow_terrain_factor(50))
