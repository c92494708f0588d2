"""Sizes are checked before anything is parsed: no file takes long, or much more than its room."""

import subprocess
import sys

import pytest

from caldarium.formats.climate_files import read_climate
from caldarium.formats.course_json import read_course
from caldarium.formats.fault import FileError
from caldarium.formats.forecast_json import read_forecast
from caldarium.formats.gear_csv import read_gear
from caldarium.formats.gpx_files import read_gpx
from caldarium.formats.hourly_csv import read_hourly_csv
from tests.pace import at_most

READERS = {
    "course": read_course,
    "forecast": read_forecast,
    "gear": read_gear,
    "hourly": read_hourly_csv,
    "climate": read_climate,
    "gpx": read_gpx,
}
LONGEST = 20
"""Units of work."""
COURSE = b'{"format": "caldarium-course", "version": 2, '
HUGE = {
    "course": [b"[" + b"1," * 4_000_000 + b"1]",
               COURSE + b'"people": [' + b"{}," * 500_000 + b"{}]}",
               COURSE + b'"name": ' + b"9" * 6_000 + b"}",
               b"[" * 100_000],
    "forecast": [b'{"format": "caldarium-forecast", "a": [' + b"1.5," * 3_000_000 + b"1]}"],
    "gear": [b"name" + b" " * 125 + b"(;kind;mass\n", b"a," * 5_000_000,
             b"name;kind;mass\n" * 200_000,
             b"name (" + b"( " * 60 + b";kind\n"],
    "hourly": [b"time;air" + b" " * 125 + b"x;wind\n", b"time;air (" + b"(" * 100 + b";wind\n",
               b";" * 8_000_000, b"time;air;wind\n" + b"\n" * 900_000],
    "climate": [b"," * 8_000_000, b"LOCATION,a\n" * 400_000],
    "gpx": [b"<gpx>" + b"<a>" * 200_000, b"<gpx>" + b"<a/>" * 2_000_000 + b"</gpx>",
            b"<gpx><trk>" + b'<trkpt lat="1" lon="1"/>' * 450_000 + b"</trk></gpx>"],
}  # fmt: skip


@pytest.mark.parametrize(
    ("kind", "place"),
    [(kind, place) for kind, files in HUGE.items() for place in range(len(files))],
)
def test_what_no_file_of_its_kind_is_like_is_refused_at_once(kind, place) -> None:
    with at_most(LONGEST, (kind, place)), pytest.raises(FileError) as told:
        READERS[kind](HUGE[kind][place])
    assert len(str(told.value)) < 400


MEASURED = """
import resource, sys
sys.path.insert(0, ".")
from tests.formats.test_sizes import HUGE, READERS
from caldarium.formats.fault import FileError
kind, place = sys.argv[1], int(sys.argv[2])
data = HUGE[kind][place]
for other in list(HUGE):
    HUGE[other] = []
before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
try:
    READERS[kind](data)
except FileError:
    pass
print((resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) * 1024, len(data))
"""


@pytest.mark.parametrize(("kind", "place"), [("course", 1), ("gear", 2), ("gpx", 1), ("gpx", 2)])
def test_an_import_takes_little_more_room_than_its_file(kind, place) -> None:
    found = subprocess.run(
        [sys.executable, "-c", MEASURED, kind, str(place)],
        capture_output=True,
        text=True,
        check=True,
    )
    room, length = (int(each) for each in found.stdout.split()[-2:])
    assert room < 5 * length + 100_000_000
