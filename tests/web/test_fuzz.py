"""Damaged weather and way files: a clear answer each time, and nothing half imported."""

import os
import random
import re

import pytest

from tests.formats.test_climate_files import ISLAND, epw_of
from tests.formats.test_ways_and_forecasts import CSV, answer, hills
from tests.pace import at_most

EACH = int(os.environ.get("ODD_REQUESTS", "600")) // 10
LONGEST = 40
"""Units of work that a damaged file may take."""
PLACES = {
    "gpx": "/courses/1/gpx",
    "csv": "/courses/1/sources/file",
    "json": "/courses/1/sources/file",
    "epw": "/courses/1/climate",
    "tmy3": "/courses/1/climate",
}
WEIRD = [b"\x00", b"\xff", b"<", b'"', b",", b";", b"\n", b"-", b"9" * 40, b"NaN", b"1e999"]
WEIRD += [b"\xe2\x88\x9e", b"{", b"]", b"null", b"&amp;", b"<!DOCTYPE x>", b"'; --", b" " * 50]
WHOLE_EVERY = 8
"""Of the year-long climate files most are cut short first: whole ones take long to read."""


def seeds() -> dict[str, bytes]:
    """A good file of each kind."""
    hours = "".join(f"2026-09-21 {hour:02d}:00;40;{hour};0;50\n" for hour in range(2, 24))
    epw, tmy3 = epw_of(ISLAND).splitlines(), ISLAND.read_bytes().splitlines()
    return {
        "gpx": hills()[0],
        "csv": (CSV + hours).encode(),
        "json": answer(),
        "epw": b"\n".join(epw),
        "tmy3": b"\n".join(tmy3),
    }


def damaged(data: bytes, rng: random.Random) -> bytes:
    """The file with a few pieces cut, doubled, swapped, or overwritten with something odd."""
    for _ in range(rng.randint(1, 6)):
        at = rng.randrange(len(data) + 1)
        length = rng.randint(1, 60)
        action = rng.randrange(5)
        if action == 0:
            data = data[:at] + data[at + length :]
        elif action == 1:
            data = data[:at] + rng.choice(WEIRD) + data[at:]
        elif action == 2:
            data = data[:at] + data[at : at + length] * 3 + data[at + length :]
        elif action == 3:
            data = data[:at]
        else:
            data = data[:at] + rng.randbytes(rng.randint(1, 8)) + data[at + length :]
    return data


def _take_way(client, shown: str) -> None:
    """Where a damaged way could still be looked at, take it and undo it."""
    key = re.search(r'name="key" value="([^"]+)"', shown)
    cuts = re.search(r'name="cuts" value="([^"]*)"', shown)
    if key and cuts:
        reply = client.post(
            "/courses/1/gpx/take", data={"key": key[1], "cuts": cuts[1]}, follow_redirects=False
        )
        assert reply.status_code in (200, 303)
        if reply.status_code == 303:
            client.app.state.courses.undo(1)


@pytest.mark.slow
@pytest.mark.parametrize("kind", PLACES)
def test_damaged_files_never_break_the_server_or_the_course(client, courses, kind: str) -> None:
    rng = random.Random(20260921)
    whole = seeds()[kind]
    fields = {"altitude": "310", "action": "take"}
    taken = 0
    for number in range(EACH):
        before = courses.get(1)
        short = kind in ("epw", "tmy3") and number % WHOLE_EVERY
        data = damaged(whole[:40_000] if short else whole, rng)
        with at_most(LONGEST, number):
            reply = client.post(
                PLACES[kind],
                files={"file": (f"fuzz.{kind}", data)},
                data=fields,
                follow_redirects=False,
            )
        assert reply.status_code in (200, 303), (number, reply.status_code)
        after = courses.get(1)
        if reply.status_code == 200:
            assert after == before, number
            _take_way(client, reply.text)
        else:
            taken += 1
            courses.undo(1)
    assert client.get("/courses/1/route").status_code == 200
    assert taken < EACH
    assert taken or kind == "gpx"
