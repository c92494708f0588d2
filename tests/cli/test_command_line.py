"""The command line as other programs call it: fixed keys, nulls with reasons, exit 2."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

DEMO = Path(__file__).parents[2] / "caldarium" / "demo" / "autumn-fell.json"
CALLS = {
    "cold --air -15 --wind 2 --rh 55 --metabolic-rate 175 --walking-speed 1.1 --permeability 50 "
    "--clo 2.8": [
        "ireq_min_clo",
        "ireq_neutral_clo",
        "icl_min_clo",
        "icl_neutral_clo",
        "dle_min_h",
        "dle_neutral_h",
    ],
    "windchill --air -25 --wind-kmh 30": ["wind_chill_c", "frostbite_minutes"],
    "air --air 10 --rh 60 --from-altitude 500 --altitude 3000": [
        "air_c",
        "dew_point_c",
        "pressure_kpa",
        "density_kg_m3",
        "boiling_c",
    ],
    "effort --body 70 --height 1.75 --load 12 --speed 1.2 --grade -10 --terrain 1.1": [
        "watts",
        "watts_m2",
    ],
    "outfit --layer 20:0.55 --layer 3:0.9": ["icl_clo", "garments_clo"],
    "bed --comfort 0 --pad-r 4.8 --pad-r 2.0 --ground frozen --clothes-clo 0.5 --index 0.5 "
    "--lift 2 --low -5": [
        "comfort_c",
        "limit_c",
        "sleeper_c",
        "margin_k",
        "watts_up",
        "watts_down",
    ],
    "bed --limit -6 --pad-r 4.8 --low -5": ["comfort_c", "limit_c"],
}


def run(*words: str) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-c", "from caldarium.cli import main; main()", *words]
    return subprocess.run(command, capture_output=True, text=True, check=False)


@pytest.mark.parametrize("call", CALLS)
def test_keys(call: str) -> None:
    done = run("calc", *call.split())
    assert done.returncode == 0, done.stderr
    figures = json.loads(done.stdout)
    assert set(CALLS[call]) <= set(figures)
    for name in CALLS[call]:
        if figures[name] is None:
            assert figures["reasons"][name]


def test_nulls_have_reasons() -> None:
    warm = json.loads(run("calc", "windchill", "--air", "20", "--wind-kmh", "30").stdout)
    assert warm["wind_chill_c"] is None
    assert "10 °C" in warm["reasons"]["wind_chill_c"]
    words = "cold --air 15 --wind 2 --rh 50 --metabolic-rate 100 --walking-speed 0 --permeability 8"
    mild = json.loads(run("calc", *words.split()).stdout)
    assert mild["ireq_min_clo"] is None
    assert "ISO 11079" in mild["reasons"]["ireq_min_clo"]
    assert mild["reasons"]["dle_min_h"] == "needs --clo"


@pytest.mark.parametrize(
    "call",
    [
        "calc cold --air x",
        "calc bed --pad-r 1 --low 0",
        "calc outfit --layer 20",
        "calc bed --comfort 0 --limit -5 --pad-r 1 --low 0",
        "calc outfit --layer 5:1.5",
        "calc bed --comfort 0 --pad-r 1 --low 0 --ground mud",
        "calc nothing",
        "calc",
        "assess nowhere.json",
        "export 1 --database nowhere.sqlite",
        "calc windchill --air nan --wind-kmh 5",
    ],
)
def test_bad_arguments_exit_two_with_one_line(call: str) -> None:
    done = run(*call.split())
    assert done.returncode == 2
    assert done.stdout == ""
    assert len(done.stderr.strip().splitlines()) == 1


def test_calc_loads_the_core_only() -> None:
    script = (
        "import sys; sys.argv=['caldarium','calc','windchill','--air','0','--wind-kmh','30']\n"
        "from caldarium.cli import main\n"
        "try: main()\n"
        "except SystemExit: pass\n"
        "heavy = {'fastapi','sqlalchemy','jinja2','pydantic','uvicorn','alembic'}\n"
        "sys.exit(sorted(heavy & set(sys.modules)) and str(heavy & set(sys.modules)) or 0)"
    )
    done = subprocess.run(
        [sys.executable, "-c", script], capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr


def test_assess_import_export_backup(tmp_path: Path) -> None:
    database = str(tmp_path / "a.sqlite")
    found = json.loads(run("assess", str(DEMO)).stdout)
    assert len(found["people"]) == 10
    moment, night = found["people"][0]["moments"][0], found["people"][0]["nights"][0]
    assert {"state", "need_min", "need_neutral", "provided", "gap", "endurance"} <= set(moment)
    assert {"comfort", "limit", "sleeper", "margin", "watts_up", "watts_down"} <= set(night)
    assert found["people"][0]["load"]["by_day"][0] > 10
    assert json.loads(run("import", str(DEMO), "--database", database).stdout)["course"] == 1
    out = run("export", "1", "--database", database).stdout
    assert json.loads(out) == json.loads(DEMO.read_text("utf-8"))
    copy = tmp_path / "copy.sqlite"
    assert run("backup", str(copy), "--database", database).returncode == 0
    assert copy.stat().st_size > 0


@pytest.mark.parametrize(
    ("call", "name", "value", "within"),
    [
        # ISO 11079 worked example (from memory), wind chill chart, ISO 2533 table, hand sums.
        (
            "cold --air -15 --wind 2 --rh 55 --metabolic-rate 175 --walking-speed 1.1 "
            "--permeability 50",
            "ireq_min_clo",
            1.6,
            0.05,
        ),
        ("windchill --air -25 --wind-kmh 30", "wind_chill_c", -39, 0.5),
        ("windchill --air -25 --wind-kmh 30", "frostbite_minutes", 10, 0.5),
        ("air --air 10 --rh 60 --from-altitude 500 --altitude 3000", "air_c", -6.25, 1e-9),
        ("air --air 10 --rh 60 --from-altitude 500 --altitude 3000", "pressure_kpa", 70.11, 0.02),
        ("air --air 10 --rh 60 --from-altitude 500 --altitude 3000", "boiling_c", 89.97, 0.05),
        ("effort --body 70 --height 1.75 --load 20 --speed 1.2 --grade 5", "watts", 496.0, 0.5),
        ("outfit --layer 20:0.55 --layer 3:0.9", "icl_clo", 2.26019, 1e-5),
        ("bed --comfort -7 --pad-r 4.8 --low -10", "comfort_c", -7, 0.05),
        ("bed --comfort -7 --pad-r 4.8 --low -10", "margin_k", -3, 0.05),
        ("bed --limit -12 --pad-r 4.8 --low -10 --index 0", "sleeper_c", -12, 0.05),
    ],
)
def test_figures(call: str, name: str, value: float, within: float) -> None:
    assert json.loads(run("calc", *call.split()).stdout)[name] == pytest.approx(value, abs=within)
