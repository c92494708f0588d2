"""Climate files against real TMY3 stations inside the pvlib wheel and pvlib's own readers."""

import csv
import io
from datetime import date
from pathlib import Path

import numpy as np
import pvlib
import pytest

from caldarium.core.timeline.climate import apply_planning, at_heights, planning_values
from caldarium.formats.climate_files import read_climate
from caldarium.formats.fault import FileError

DATA = Path(pvlib.__file__).parent / "data"
ISLAND, INLAND = DATA / "703165TY.csv", DATA / "723170TYA.CSV"


def epw_of(tmy3: Path) -> bytes:
    """An EPW file of the same hours as a TMY3 file, in the layout of the EnergyPlus manual."""
    rows = list(csv.reader(io.StringIO(tmy3.read_text())))
    names, head = rows[1], rows[0]
    at = {name: names.index(name) for name in ("Dry-bulb (C)", "RHum (%)", "Wspd (m/s)")}
    lines = [
        f"LOCATION,{head[1]},{head[2]},-,TMY3,{head[0]},{head[4]},{head[5]},{head[3]},{head[6]}"
    ]
    lines += [f"HEADER {n}" for n in range(2, 8)] + ["DATA PERIODS,1,1,Data,Sunday,1/1,12/31"]
    for row in rows[2:]:
        month, day, year = row[0].split("/")
        cells = ["0"] * 35
        cells[:5] = [year, str(int(month)), str(int(day)), str(int(row[1][:2])), "0"]
        cells[6], cells[8] = row[at["Dry-bulb (C)"]], row[at["RHum (%)"]]
        cells[21], cells[33] = row[at["Wspd (m/s)"]], "0.4" if int(day) % 3 == 0 else "0"
        lines.append(",".join(cells))
    return ("\n".join(lines) + "\n").encode()


@pytest.fixture(scope="module")
def epw() -> bytes:
    return epw_of(ISLAND)


@pytest.mark.parametrize("path", [ISLAND, INLAND])
def test_tmy3_reads_as_pvlib_reads(path: Path) -> None:
    ours = read_climate(path.read_bytes())
    table, meta = pvlib.iotools.read_tmy3(path, map_variables=True)
    assert ours.altitude == meta["altitude"]
    assert ours.latitude == meta["latitude"]
    assert ours.air == pytest.approx(table["temp_air"].to_numpy())
    assert ours.humidity == pytest.approx(table["relative_humidity"].to_numpy())
    assert ours.wind == pytest.approx(table["wind_speed"].to_numpy())


def test_epw_reads_as_pvlib_reads(epw: bytes, tmp_path: Path) -> None:
    file = tmp_path / "station.epw"
    file.write_bytes(epw)
    table, meta = pvlib.iotools.read_epw(file)
    ours = read_climate(epw)
    assert ours.kind == "EPW"
    assert ours.altitude == meta["altitude"]
    for name, values in (
        ("temp_air", ours.air),
        ("relative_humidity", ours.humidity),
        ("wind_speed", ours.wind),
        ("liquid_precipitation_depth", ours.precipitation),
    ):
        assert values == pytest.approx(table[name].to_numpy()), name


def test_planning_values_against_pandas() -> None:
    record = read_climate(ISLAND.read_bytes())
    values = planning_values(record, date(2026, 9, 21), 5)
    table, _ = pvlib.iotools.read_tmy3(ISLAND, map_variables=True)
    dates = [(int(m), int(d)) for m, d in zip(record.month, record.day, strict=True)]
    inside = [(9, 11) <= pair <= (10, 5) for pair in dates]
    air = table["temp_air"].to_numpy()[inside]
    wind = table["wind_speed"].to_numpy()[inside]
    lows = air.reshape(-1, 24).min(axis=1)
    highs = air.reshape(-1, 24).max(axis=1)
    assert values.days == 25
    assert values.low.median == pytest.approx(np.median(lows))
    assert values.low.cautious == pytest.approx(np.percentile(lows, 10))
    assert values.high.expedition == pytest.approx(np.percentile(highs, 2))
    assert values.wind.cautious == pytest.approx(np.percentile(wind, 90))
    assert values.wind.expedition == pytest.approx(np.percentile(wind, 98))


def test_window_goes_round_the_year(epw: bytes) -> None:
    values = planning_values(read_climate(epw), date(2026, 12, 30), 3)
    assert values.days == 23


def test_same_station_in_both_formats_gives_the_same_values(epw: bytes) -> None:
    start = date(2026, 9, 21)
    one = planning_values(read_climate(ISLAND.read_bytes()), start, 5)
    two = planning_values(read_climate(epw), start, 5)
    assert (one.low, one.high, one.wind) == (two.low, two.high, two.wind)
    assert two.precipitation is not None


def test_applied_to_a_course(demo, epw: bytes) -> None:
    values = planning_values(read_climate(epw), demo.start, len(demo.days))
    after = apply_planning(demo, values)
    assert after.conditions_altitude_m == values.altitude
    assert {day.conditions.low_c for day in after.days} == {values.low.median}
    shift = after.spread.expedition
    assert values.low.median + shift.low_k == pytest.approx(values.low.expedition)
    assert values.wind.median + shift.wind_ms == pytest.approx(values.wind.expedition)
    station, camp, _ = at_heights(demo, values)
    assert station[2][0] - camp[2][0] == pytest.approx(0.0065 * (1120 - values.altitude))


def test_incredible_precipitation_is_left_out_and_said() -> None:
    values = planning_values(read_climate(INLAND.read_bytes()), date(2026, 9, 21), 5)
    assert values.precipitation is None
    assert any("not credible" in note for note in values.notes)


def spoilt(data: bytes, line: int, change) -> bytes:
    lines = data.split(b"\n")
    lines[line - 1] = change(lines[line - 1])
    return b"\n".join(lines)


def cell(index: int, text: bytes):
    def change(line: bytes) -> bytes:
        cells = line.split(b",")
        cells[index] = text
        return b",".join(cells)

    return change


@pytest.mark.parametrize(
    ("damage", "line", "words"),
    [
        (lambda d: b"", 1, "empty"),
        (lambda d: b"a,b\n1,2\n", 1, "neither EPW"),
        (lambda d: d[: len(d) // 2].rsplit(b"\n", 1)[0], None, "file ends after"),
        (lambda d: spoilt(d, 500, lambda row: row[:40]), 500, "line ends before"),
        (lambda d: spoilt(d, 700, cell(31, b"warm")), 700, "not a number"),
        (lambda d: spoilt(d, 701, cell(31, b"nan")), 701, "not a number"),
        (lambda d: spoilt(d, 90, cell(31, b"431")), 90, "outside -90 to 60"),
        (lambda d: spoilt(d, 33, cell(0, b"2005-01-02")), 33, "MM/DD/YYYY"),
        (lambda d: spoilt(d, 34, cell(0, b"13/02/2005")), 34, "no such date"),
        (lambda d: spoilt(d, 2, lambda row: row.replace(b"Dry-bulb (C)", b"Dry")), 2, "no column"),
        (lambda d: spoilt(d, 1, cell(6, b"high")), 1, "altitude"),
        (lambda d: d[:3000] + b"\xff\xfe" + d[3000:], None, "not UTF-8"),
        (lambda d: d.decode().encode("utf-16"), 1, "not UTF-8"),
        (lambda d: spoilt(d, 12, lambda row: row + b',"'), None, "comma-separated"),
    ],
)
def test_damaged_tmy3_names_line_and_column(damage, line, words) -> None:
    with pytest.raises(FileError, match=words) as caught:
        read_climate(damage(ISLAND.read_bytes()))
    assert caught.value.line is not None
    assert str(caught.value).startswith(f"line {caught.value.line}, column ")
    if line is not None:
        assert caught.value.line == line


@pytest.mark.parametrize(
    ("line", "change", "words"),
    [
        (20, cell(6, b""), "not a number"),
        (21, lambda row: row[:30], "line ends before"),
        (1, cell(6, b"north"), "latitude"),
        (30, cell(1, b"15"), "no such date"),
    ],
)
def test_damaged_epw_names_line_and_column(epw, line, change, words) -> None:
    with pytest.raises(FileError, match=words) as caught:
        read_climate(spoilt(epw, line, change))
    assert caught.value.line == line


def test_column_points_at_the_character() -> None:
    with pytest.raises(FileError) as caught:
        read_climate(spoilt(ISLAND.read_bytes(), 700, cell(31, b"warm")))
    row = ISLAND.read_bytes().split(b"\n")[699].split(b",")
    assert caught.value.column == len(b",".join(row[:31])) + 2
