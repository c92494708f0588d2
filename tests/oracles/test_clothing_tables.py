"""Garments and ensembles against tables of ISO 9920 / ASHRAE Fundamentals, values from memory."""

import numpy as np
import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core import cold
from caldarium.core.clothing import (
    REGION_SHARE,
    ensemble_insulation,
    from_clo,
    garment_insulation,
    layer_on_region,
    region_insulation,
    to_clo,
    uniform_equivalent,
)
from caldarium.core.wardrobe import warmth

# Ensembles of ASHRAE Fundamentals ch. 9, table of typical ensembles: garments, I_cl.
ENSEMBLES = [
    ("trousers, short-sleeved shirt", (0.15, 0.19, 0.04, 0.02, 0.02), 0.57, 0.08),
    ("trousers, long-sleeved shirt, sweater, T-shirt",
     (0.15, 0.25, 0.36, 0.08, 0.04, 0.02, 0.02), 1.01, 0.15),
    ("sweat trousers, sweat shirt", (0.28, 0.34, 0.04, 0.02, 0.02), 0.74, 0.08),
]  # fmt: skip
# Garments whose table row gives the order of the thickness line: name, clo low and high.
GARMENTS = {
    "light-long-underwear": (0.10, 0.20), "wool-sweater": (0.30, 0.42),
    "walking-trousers": (0.15, 0.28), "leather-boots": (0.05, 0.15),
    "thick-socks": (0.03, 0.10), "briefs": (0.03, 0.05),
}  # fmt: skip


@pytest.mark.parametrize(("name", "pieces", "clo", "within"), ENSEMBLES)
def test_ensembles(name: str, pieces: tuple[float, ...], clo: float, within: float) -> None:
    assert ensemble_insulation(np.array(pieces)) == pytest.approx(clo, abs=within), name


@pytest.mark.parametrize("name", GARMENTS)
def test_catalogue_rows_lie_in_the_table(name: str) -> None:
    low, high = GARMENTS[name]
    assert low <= warmth((load_catalogue().garments[name],)).clo[0] <= high


def test_garment_formula_by_hand() -> None:
    # (0.534 + 0.135 * 20) * 0.55 - 0.0549, McCullough in ASHRAE Fundamentals ch. 9.
    assert garment_insulation(20, 0.55) == pytest.approx(1.7238)
    assert np.isnan(garment_insulation(0, 0.5))
    assert np.isnan(garment_insulation(5, 1.2))


def test_uniform_outfit_is_the_same_by_region_and_whole() -> None:
    pieces = garment_insulation(np.array([1.0, 4.0]), 1.0)
    local = layer_on_region(pieces, np.ones(2), np.ones((2, 7))).sum(axis=0)
    still = region_insulation(local)
    assert still == pytest.approx(np.full(7, float(ensemble_insulation(pieces))))


def test_uniform_equivalent_turns_round() -> None:
    basic, layer = np.array([0.05, 0.2, 0.5]), cold.air_layer(3, 0.5)
    totals = (basic + layer / cold.area_factor(basic))[:, None] * np.ones(7)
    assert uniform_equivalent(totals, np.full(3, float(layer))) == pytest.approx(basic)


def test_two_jackets_over_bare_legs_are_no_warm_outfit() -> None:
    warm = np.array([0, 5, 5, 0, 0, 0, 0.0])
    even = np.full(7, float((warm * REGION_SHARE).sum()))
    found = [
        float(uniform_equivalent(from_clo(region_insulation(layers)) + 0.085, 0.085))
        for layers in (warm, even)
    ]
    assert found[0] < 0.5 * found[1]


def test_clo_there_and_back() -> None:
    assert to_clo(from_clo(1.7)) == pytest.approx(1.7)
