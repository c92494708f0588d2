"""Beds against pairs and gains that are common practice, no published source."""

import numpy as np
import pytest

from caldarium.core.physics import bed


def made(label: float, pads=(4.8,), ground="air", clothes=0.0, sleeper=bed.COMFORT, lift=0.0):
    return bed.make_bed(bed.bag_resistance(label, sleeper), pads, ground, clothes, lift)


@pytest.mark.parametrize(("comfort", "limit"), [(0, -6), (-10, -17), (-20, -29)])
def test_label_pairs(comfort: float, limit: float) -> None:
    found = bed.lowest_temperature(made(comfort), bed.LIMIT)
    assert found == pytest.approx(limit, abs=1)


@pytest.mark.parametrize("label", [-30, -12.5, 0, 7, 12])
@pytest.mark.parametrize("sleeper", [bed.COMFORT, bed.LIMIT])
def test_standard_conditions_give_the_label_back(label: float, sleeper: bed.Sleeper) -> None:
    found = bed.lowest_temperature(made(label, sleeper=sleeper), sleeper)
    assert found == pytest.approx(label, abs=0.05)


@pytest.mark.parametrize("label", [-15, -5, 0, 5])
def test_fleece_set_inside_buys_two_to_four_kelvin(label: float) -> None:
    # A fleece top and bottom: 4 mm over 0.85 of the body, 0.835 of it in an ensemble.
    fleece = 0.835 * ((0.534 + 0.135 * 4) * 0.85 - 0.0549)
    without = bed.lowest_temperature(made(label), bed.COMFORT)
    inside = bed.lowest_temperature(made(label, clothes=fleece), bed.COMFORT)
    assert 1.7 <= without - inside <= 4


@pytest.mark.parametrize("ground", ["air", "frozen", "snow"])
def test_pads_are_ordered(ground: str) -> None:
    found = [
        float(bed.lowest_temperature(made(-5, (r,), ground), bed.COMFORT)) for r in (1, 2, 4, 7)
    ]
    assert found == sorted(found, reverse=True)
    assert found[0] - found[-1] > 5


def test_stacked_pads_add() -> None:
    one = bed.lowest_temperature(made(0, (5.0,)), bed.COMFORT)
    two = bed.lowest_temperature(made(0, (3.0, 2.0)), bed.COMFORT)
    assert one == pytest.approx(float(two))


def test_hammock_without_underquilt_is_cold_below_fifteen() -> None:
    found = bed.lowest_temperature(made(0, (), "off"), bed.COMFORT)
    assert found > 15


def test_colder_ground_never_warms() -> None:
    at = [float(bed.lowest_temperature(made(0, (2.0,), g), bed.COMFORT)) for g in ("dry", "frozen")]
    assert at[0] < at[1]


def test_sleepers_are_ordered_between_the_labels() -> None:
    found = [float(bed.lowest_temperature(made(0), bed.Sleeper(i))) for i in (-0.5, 0, 0.5, 1, 2)]
    assert found == sorted(found)


def test_flows_balance_at_the_lowest_temperature() -> None:
    own = made(-3, (3.2,), "dry", 0.5, lift=3)
    flow = bed.heat_flow(own, bed.Sleeper(0.6), bed.lowest_temperature(own, bed.Sleeper(0.6)))
    assert flow.up + flow.down == pytest.approx(float(flow.made), abs=1e-6)


def test_lift_moves_the_lowest_temperature_by_itself_on_the_upper_path() -> None:
    closed = bed.lowest_temperature(made(0, (4.8,), "air", lift=4), bed.COMFORT)
    assert -4 < closed < -2.5


def test_no_figure_outside_the_labels() -> None:
    assert np.isnan(bed.bag_resistance(40, bed.COMFORT))
    assert np.isnan(bed.bag_resistance(-60, bed.LIMIT))


def test_unknown_ground() -> None:
    with pytest.raises(KeyError):
        made(0, (2.0,), "mud")


def test_endurance_ends_where_balance_holds() -> None:
    own = made(0)
    assert np.isinf(bed.endurance(bed.heat_flow(own, bed.COMFORT, 5)))
    short = bed.endurance(bed.heat_flow(own, bed.COMFORT, -10))
    colder = bed.endurance(bed.heat_flow(own, bed.COMFORT, -15))
    assert colder < short < 8
