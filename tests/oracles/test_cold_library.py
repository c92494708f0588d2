"""ISO 11079 against pythermalcomfort (development dependency), an independent implementation."""

import numpy as np
import pytest
from pythermalcomfort.models import ireq

from caldarium.core.physics import cold
from caldarium.core.physics.quantities import CLO

MET = 58.15
COUNT = 400


@pytest.fixture(scope="module")
def conditions() -> dict[str, np.ndarray]:
    rng = np.random.default_rng(11079)
    rate = rng.uniform(60, 390, COUNT)
    return {
        "air": rng.uniform(-40, 10, COUNT),
        "wind": rng.uniform(0.4, 18, COUNT),
        "humidity": rng.uniform(5, 100, COUNT),
        "rate": rate,
        "walking": rng.uniform(np.minimum(0.0052 * (rate - 58), 1.2), 1.2),
        "permeability": rng.uniform(1, 500, COUNT),
        "clo": rng.uniform(0.5, 4.5, COUNT),
        "radiant_offset": np.where(rng.random(COUNT) < 0.5, 0, rng.uniform(-10, 10, COUNT)),
    }


def both(c: dict[str, np.ndarray], offset: np.ndarray) -> tuple:
    radiant = c["air"] + offset
    theirs = ireq(
        tdb=c["air"],
        tr=radiant,
        vr=c["wind"],
        rh=c["humidity"],
        met=c["rate"] / MET,
        clo=c["clo"],
        p=c["permeability"],
        walk_sp=c["walking"],
        round_output=False,
    )
    where = cold.exposure(
        c["air"], c["wind"], c["humidity"], c["rate"], c["walking"], radiant=radiant
    )
    return theirs, where


@pytest.mark.parametrize(("criterion", "name"), [(cold.MINIMAL, "min"), (cold.NEUTRAL, "neutral")])
@pytest.mark.parametrize("with_radiation", [False, True])
def test_required_insulation(conditions, criterion, name, with_radiation) -> None:
    offset = conditions["radiant_offset"] * with_radiation
    theirs, where = both(conditions, offset)
    reference = getattr(theirs, f"ireq_{name}")
    ours = cold.required_insulation(criterion, where) / CLO
    known = np.isfinite(reference) & np.isfinite(ours)
    assert known.sum() > COUNT / 2
    assert np.abs(ours - reference)[known].max() < 0.005
    basic = cold.basic_insulation(ours * CLO, where, conditions["permeability"]) / CLO
    reference = getattr(theirs, f"icl_{name}")
    known &= np.isfinite(reference) & np.isfinite(basic)
    # The basic figure divides by the wind factor, which magnifies the library's own tolerance.
    assert np.abs(basic - reference)[known].max() < 0.02


@pytest.mark.parametrize(("criterion", "name"), [(cold.MINIMAL, "min"), (cold.NEUTRAL, "neutral")])
def test_duration_limited_exposure(conditions, criterion, name) -> None:
    theirs, where = both(conditions, np.zeros(COUNT))
    worn = cold.resultant_insulation(conditions["clo"] * CLO, where, conditions["permeability"])
    ours = cold.duration_limited_exposure(criterion, worn, where)
    reference = np.array(
        [v if isinstance(v, float) else np.nan for v in getattr(theirs, f"dle_{name}").tolist()]
    )
    known = np.isfinite(reference) & np.isfinite(ours) & (ours < 4) & (reference > 0)
    # Where the resultant insulation would be negative the library goes on with it; we stop at 0.
    known &= worn > 0.01
    assert known.sum() > 30
    # The library stops repeating its resultant insulation when the balance happens to close, so a
    # few of its answers are ends of an unfinished iteration.
    assert np.quantile(np.abs(ours / reference - 1)[known], 0.95) < 0.005


def test_check_value_of_the_design_notes() -> None:
    # From memory of the worked example: -15 °C, 2 m/s, 55 %, 175 W/m², 1.1 m/s -> 1.6 clo.
    where = cold.exposure(-15, 2, 55, 175, 1.1)
    assert cold.required_insulation(cold.MINIMAL, where) / CLO == pytest.approx(1.6, abs=0.05)
