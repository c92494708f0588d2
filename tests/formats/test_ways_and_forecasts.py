"""GPX, hourly CSV and forecast documents: what is read, what is refused and how it is told."""

import json
from datetime import UTC, datetime, timedelta
from pathlib import Path

import gpxpy
import jsonschema
import numpy as np
import pytest

from caldarium.core.plan.track import climb_totals, ground_distance, overnight_cuts, parts, smoothed
from caldarium.core.plan.way_legs import cuts_text, parse_cuts, proposed_cuts, with_way
from caldarium.formats.fault import FileError
from caldarium.formats.forecast_json import as_source, forecast_schema, read_forecast
from caldarium.formats.gpx_files import read_gpx, write_gpx
from caldarium.formats.hourly_csv import read_hourly_csv
from caldarium.standins.forecast_service import Asked, ServiceError, ask

DOCS = Path(__file__).parents[2] / "docs"
NAMESPACE = "http://www.topografix.com/GPX/1/1"


def gpx(points: str, kind: str = "trk") -> bytes:
    inside = f"<trk><trkseg>{points}</trkseg></trk>" if kind == "trk" else f"<rte>{points}</rte>"
    return (
        f'<?xml version="1.0" encoding="UTF-8"?><gpx version="1.1" creator="test" '
        f'xmlns="{NAMESPACE}">{inside}</gpx>'
    ).encode()


def hills(nights: int = 2, noise: float = 4.0, kind: str = "trkpt") -> tuple[bytes, float]:
    """A way over hills with known climb, a receiver's noise, and a long break at each night."""
    rng = np.random.default_rng(3)
    kilometres = np.linspace(0, 30, 1501)
    true = 400 + 300 * np.sin(kilometres / 30 * 2 * np.pi * 2) ** 2
    start = datetime(2026, 9, 21, 7, tzinfo=UTC)
    day = np.minimum((kilometres * (nights + 1) / 30).astype(int), nights)
    points = "".join(
        f'<{kind} lat="{60 + km / 111.195:.7f}" lon="20.0"><ele>{height:.2f}</ele>'
        f"<time>{(start + timedelta(hours=km / 4 + 12 * int(which))).isoformat()}</time></{kind}>"
        for km, height, which in zip(
            kilometres, true + rng.normal(0, noise, len(true)), day, strict=True
        )
    )
    rises = np.diff(true)
    return gpx(points, "trk" if kind == "trkpt" else "rte"), float(rises[rises > 0].sum())


def test_way_is_as_long_as_gpxpy_says() -> None:
    data, _ = hills()
    theirs = gpxpy.parse(data.decode())
    ours = read_gpx(data)
    assert ours.distance[-1] == pytest.approx(theirs.length_2d() / 1000, rel=0.006)
    heights = [point.elevation for point in theirs.tracks[0].segments[0].points]
    assert ours.height == pytest.approx(heights)
    assert read_gpx(hills(kind="rtept")[0]).distance[-1] == pytest.approx(ours.distance[-1])


def test_smoothing_finds_the_climb_under_the_noise() -> None:
    data, true = hills()
    track = read_gpx(data)
    pieces = parts(track, [])
    assert pieces[0].raw_climb > 2 * true
    assert pieces[0].climb == pytest.approx(true, rel=0.03)
    assert pieces[0].climb - pieces[0].fall == pytest.approx(
        pieces[0].to_altitude - pieces[0].from_altitude, abs=10
    )


def test_smoothing_leaves_a_plain_slope_alone() -> None:
    distance = np.linspace(0, 5, 400)
    _, flat = smoothed(distance, 300 + 100 * distance)
    assert (flat[0], flat[-1]) == (pytest.approx(300, abs=1), pytest.approx(800, abs=1))
    assert climb_totals(flat) == (pytest.approx(500, abs=2), 0)
    assert climb_totals(np.array([0.0, 3, 0, 3, 0])) == (0, 0)
    assert climb_totals(np.array([100.0, 160, 130, 190])) == (120, 30)


def test_one_degree_of_the_equator() -> None:
    # 2 pi 6371.0088 km / 360.
    assert float(ground_distance(0, 0, 0, 1)) == pytest.approx(111.195, abs=0.001)


def test_nights_are_found_cut_and_become_legs(demo) -> None:
    track = read_gpx(hills(nights=3)[0])
    assert overnight_cuts(track) == [pytest.approx(each, abs=0.1) for each in (7.5, 15, 22.5)]
    cuts = proposed_cuts(track, 5)
    assert sum(cut.night for cut in cuts) == 3
    assert parse_cuts(cuts_text(cuts)) == cuts
    course = with_way(demo, track, cuts)
    assert sum(len(day.legs) for day in course.days[:4]) == len(cuts) + 1
    legs = [leg for day in course.days[:4] for leg in day.legs]
    assert sum(leg.distance_km for leg in legs) == pytest.approx(30, abs=0.2)
    assert course.days[4:] == demo.days[4:]
    assert {"ascent", "descent"} <= {leg.kind for leg in legs}
    with pytest.raises(ValueError, match="way too long"):
        with_way(demo, track, parse_cuts("3n, 6n, 9n, 12n, 15n"))
    with pytest.raises(ValueError, match="bad cuts"):
        with_way(demo, track, parse_cuts("31"))
    with pytest.raises(ValueError, match="no cut"):
        parse_cuts("here")


def test_ways_out_are_read_back(demo) -> None:
    track = read_gpx(hills()[0])
    course = with_way(demo, track, proposed_cuts(track, 5))
    text = write_gpx(course)
    parsed = gpxpy.parse(text)
    assert len(parsed.tracks) == 3
    assert [point.name for point in parsed.waypoints] == ["Camp 1", "Camp 2", "Camp 3"]
    again = read_gpx(text.encode())
    assert again.distance[-1] == pytest.approx(track.distance[-1], rel=0.01)
    assert write_gpx(demo).count("<trk>") == 0


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "not well-formed"),
        (b"<gpx", "not well-formed XML"),
        (b"<kml></kml>", "outermost element is kml"),
        (gpx('<trkpt lat="1" lon="1"/>'), "fewer than two points"),
        (gpx(""), "fewer than two points"),
        (gpx('<trkpt lat="1" lon="1"/><trkpt lat="100" lon="1"/>'), "point 2 has no place"),
        (gpx('<trkpt lat="x" lon="1"/><trkpt lat="1" lon="1"/>'), "point 1 has no place"),
        (gpx('<trkpt lat="1" lon="1"/><trkpt lat="1" lon="1"/>'), "within 50 m"),
        (gpx('<trkpt lat="1" lon="1"/><trkpt lat="60" lon="1"/>'), "not a course on foot"),
        (b'<!DOCTYPE gpx [<!ENTITY a "b">]><gpx>&a;</gpx>', "declares a document type"),
        ("<gpx></gpx>".encode("utf-16"), "not UTF-8"),
    ],
)
def test_what_is_no_way_is_refused(data: bytes, words: str) -> None:
    with pytest.raises(FileError, match=words):
        read_gpx(data)


def test_without_heights_there_is_a_way_but_no_legs(demo) -> None:
    flat = "".join(f'<trkpt lat="{60 + i / 100}" lon="20"/>' for i in range(20))
    track = read_gpx(gpx(flat))
    assert not track.has_heights
    with pytest.raises(ValueError, match="no heights"):
        with_way(demo, track, [])


CSV = (
    "time;air (°F);wind [km/h];rain in;humidity\n2026-09-21 00:00;41;18;0,1;80\n"
    "2026-09-21 01:00;32;9;;\n"
)


def test_csv_units_delimiter_and_decimal_comma() -> None:
    found = read_hourly_csv(CSV.encode())
    assert found.first == datetime(2026, 9, 21)
    assert found.figures["air_c"] == (pytest.approx(5), pytest.approx(0))
    assert found.figures["wind_ms"] == (pytest.approx(5), pytest.approx(2.5))
    assert found.figures["precipitation_mm"] == (pytest.approx(2.54), None)
    assert found.figures["humidity_pct"] == (80, None)


@pytest.mark.parametrize("delimiter", [",", ";", "\t", "|"])
def test_csv_of_any_delimiter(delimiter: str) -> None:
    rows = ["time,air,wind", "2026-09-21 00:00,1,2", "2026-09-21T01:00,3,4"]
    data = "\n".join(rows).replace(",", delimiter)
    assert read_hourly_csv(data.encode()).figures["air_c"] == (1, 3)


def test_three_hourly_rows_are_filled_and_longer_holes_are_not() -> None:
    rows = (
        "time,air,wind,rain\n2026-09-21 00:00,0,3,6\n2026-09-21 03:00,6,3,0\n"
        "2026-09-21 09:00,6,3,0\n"
    )
    found = read_hourly_csv(rows.encode())
    assert found.figures["air_c"][:4] == (0, 2, 4, 6)
    assert found.figures["precipitation_mm"][:3] == (2, 2, 2)
    assert found.figures["air_c"][4:9] == (None,) * 5
    assert any("holes" in note for note in found.notes)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        ("time\n", "one column only"),
        ("time,wind\n2026-09-21 00:00,1\n", "no column named air"),
        ("air,wind\n1,2\n", "no column named time"),
        ("time,air (parsecs),wind\n", "line 1, column 6: air .parsecs.: .*no unit here"),
        ("time,air,air\n", "stands twice"),
        ("time,air,wind\nyesterday,1,2\n", "line 2, column 1: .yesterday. is not a time"),
        ("time,air,wind\n2026-09-21 00:30,1,2\n", "full hour"),
        ("time,air,wind\n2026-09-21 01:00,1,2\n2026-09-21 00:00,1,2\n", "line 3.*must rise"),
        ("time,air,wind\n2026-09-21 00:00,warm,2\n", "line 2, column 18: .*not a number"),
        ("time,air,wind\n2026-09-21 00:00,1,200\n", "outside what wind can be"),
        ("time,air,wind\n2026-09-21 00:00,1,2\n", "at least two rows"),
        ("time,air,wind\n2026-09-21 00:00,1,2\n2029-09-21 00:00,1,2\n", "longer than 40 days"),
    ],
)
def test_csv_faults_name_line_and_column(text: str, words: str) -> None:
    with pytest.raises(FileError, match=words):
        read_hourly_csv(text.encode())


def asked(**more) -> Asked:
    first = datetime(2026, 9, 20, 22, tzinfo=UTC)
    return Asked("Skarn", 67.9, 20.5, 310, first, 120, first - timedelta(days=2), **more)


def answer(attempts: int = 8, **more) -> bytes:
    for attempt in range(attempts):
        try:
            return ask(asked(attempt=attempt, **more)).body
        except ServiceError:
            continue
    raise AssertionError("the service never answered")


def test_forecast_document_keeps_its_schema_and_its_hours(demo) -> None:
    body = answer()
    jsonschema.validate(json.loads(body), forecast_schema())
    found = as_source(read_forecast(body), demo, "forecast service", "sim")
    assert found.first == datetime(2026, 9, 21)
    assert len(found.air_c) == 120
    assert len(found.members) == 20
    assert json.loads((DOCS / "forecast.schema.json").read_text("utf-8")) == forecast_schema()


def test_service_is_repeatable_and_seeded() -> None:
    assert answer() == answer()
    assert answer(seed=1) != answer(seed=2)


def test_service_is_sometimes_busy_stale_or_out_of_reach() -> None:
    busy, ages = 0, set()
    for attempt in range(60):
        try:
            document = json.loads(ask(asked(attempt=attempt)).body)
            ages.add(document["issued"])
        except ServiceError:
            busy += 1
    assert 0 < busy < 30
    assert len(ages) == 2
    far = asked()
    with pytest.raises(ServiceError, match="reaches 16 days"):
        for attempt in range(10):
            early = far.issued - timedelta(days=40)
            ask(Asked(**{**far.__dict__, "issued": early, "attempt": attempt}))
            raise AssertionError("a run of weeks ago knows nothing of these days")


def test_later_runs_agree_better() -> None:
    def run(days: float) -> np.ndarray:
        for attempt in range(9):
            try:
                question = {
                    **asked().__dict__,
                    "attempt": attempt,
                    "issued": asked().first - timedelta(days=days),
                }
                document = json.loads(ask(Asked(**question)).body)
                return np.array([member["air_c"] for member in document["members"]])[:, :48]
            except ServiceError:
                continue
        raise AssertionError("busy")

    assert run(1).std(axis=0).mean() < run(9).std(axis=0).mean()


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"format": "other"}, "format"),
        ({"version": 2}, "version"),
        ({"air_c": ["warm"]}, r"air_c\[0\]"),
        ({"air_c": []}, "air_c"),
        ({"wind_ms": [-1] * 120}, "wind_ms"),
        ({"issued": "2026-09-18T00:00:00"}, "issued"),
        ({"first": "soon"}, "first"),
        ({"surprise": 1}, "surprise"),
        ({"issued": "2027-09-18T00:00:00Z"}, "not a forecast"),
    ],
)
def test_documents_that_are_no_forecast(change: dict, words: str) -> None:
    document = json.loads(answer()) | change
    with pytest.raises(FileError, match=words):
        read_forecast(json.dumps(document).encode())


def test_uneven_documents_and_half_hours_are_refused(demo) -> None:
    document = json.loads(answer())
    short = read_forecast(json.dumps(document | {"gust_ms": [1.0]}).encode())
    with pytest.raises(FileError, match="gust_ms has 1 hours"):
        as_source(short, demo)
    half = read_forecast(json.dumps(document | {"first": "2026-09-20T22:30:00Z"}).encode())
    with pytest.raises(FileError, match="full hour"):
        as_source(half, demo)
    with pytest.raises(FileError, match="line 1"):
        read_forecast(b"{")
    with pytest.raises(FileError, match="nested too deeply"):
        read_forecast(b"[" * 100_000)
