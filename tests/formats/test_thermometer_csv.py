"""Files of logging thermometers, as they come."""

from datetime import UTC, datetime

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from caldarium.formats.fault import FileError
from caldarium.formats.thermometer_csv import (
    Channel,
    read_thermometers,
    write_thermometer,
)
from caldarium.standins.thermometer import Faults, SimulatedThermometer, ThermometerError

SIX = datetime(2031, 9, 14, 6, tzinfo=UTC).timestamp()


def first(text: str, **more):
    found = read_thermometers(text.encode(), **more)
    return found, found.channels[0].celsius.tolist()


@pytest.mark.parametrize(
    "text",
    [
        "time,outside (°C)\n2031-09-14 06:00,1.5\n2031-09-14 06:10,2.5\n",
        "time;outside [°C]\n2031-09-14 06:00;1,5\n2031-09-14 06:10;2,5\n",
        "Date\tTime\tT °F\n14.09.2031\t06:00:00\t34.7\n14.09.2031\t06:10:00\t36.5\n",
        '"time","K (kelvin)"\n"2031-09-14T06:00:00","274.65"\n"2031-09-14T06:10:00","275.65"\n',
        "Logger 12\nserial;;\n\ntime|T, °C\n9/14/2031 6:00 AM|1.5\n9/14/2031 6:10 AM|2.5\n",
        "n;time;RH (%);T (°C);battery V\n1;2031-09-14 06:00;80;1,5;3,1\n"
        "2;2031-09-14 06:10;80;2,5;3,1\n",
    ],
)
def test_the_same_readings_in_six_dialects(text: str) -> None:
    found, celsius = first(text)
    assert celsius == pytest.approx([1.5, 2.5], abs=1e-6)
    assert found.seconds.tolist() == [SIX, SIX + 600]
    assert len(found.channels) == 1


@pytest.mark.parametrize(
    ("head", "stamp", "offset"),
    [
        ("time", "2031-09-14T06:00:00Z", 0.0),
        ("time", "2031-09-14 06:00+02:00", 2.0),
        ("time", "2031-09-14 06:00-0330", -3.5),
        ("time (UTC)", "2031-09-14 06:00", 0.0),
        ("time GMT-04:00", "2031-09-14 06:00", -4.0),
        ("time", "2031-09-14 06:00", None),
    ],
)
def test_the_zone_is_read_where_the_file_says_it(head, stamp, offset) -> None:
    found, _ = first(f"{head},T\n{stamp},1\n")
    assert found.utc_offset_h == offset


def test_days_and_months_are_told_apart_where_they_can_be() -> None:
    rows = "\n".join(f"03/{day:02d}/2031 06:00,1" for day in range(1, 9))
    found, _ = first(f"time,T\n{rows}\n")
    assert found.seconds[0] == datetime(2031, 3, 1, 6, tzinfo=UTC).timestamp()
    rows = "\n".join(f"{day:02d}/03/2031 06:00,1" for day in range(1, 9))
    found, _ = first(f"time,T\n{rows}\n")
    assert found.seconds[0] == datetime(2031, 3, 1, 6, tzinfo=UTC).timestamp()


def test_days_and_months_that_cannot_be_told_apart_are_asked() -> None:
    text = "time,T\n03/04/2031 06:00,1\n"
    with pytest.raises(FileError, match="day or the month first"):
        first(text)
    april, _ = first(text, dates="day first")
    march, _ = first(text, dates="month first")
    assert april.seconds[0] == datetime(2031, 4, 3, 6, tzinfo=UTC).timestamp()
    assert march.seconds[0] == datetime(2031, 3, 4, 6, tzinfo=UTC).timestamp()


def test_holes_and_nonsense_are_passed_over_and_told() -> None:
    found, celsius = first(
        "time,T,RH %\n2031-09-14 06:00,--,80\n2031-09-14 06:20,999,80\n2031-09-14 06:10,−2,80\nx\n"
    )
    assert np.isnan(celsius[0])
    assert celsius[1:2] == [-2.0]
    assert "beyond any air" in " ".join(found.notes)
    assert "not a temperature" in " ".join(found.notes)
    assert "too short" in " ".join(found.notes)
    assert "go back" in " ".join(found.notes)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        ("time,T\n", "no row with a time"),
        ("2031-09-14 06:00,1\n", "no header"),
        ("time,T\n2031-09-14 06:00,1\n2031-13-14 06:00,2\n", "line 3"),
        ("time,T\n31.02.2031 06:00,1\n", "not a time"),
        ("time,T\n14.09.2031 26:00,1\n", "not a time"),
        ("date,T\n14.09.2031,1\n", "no clock times"),
        ("time,what\n2031-09-14 06:00,word\n2031-09-14 06:10,word\n", "no column of temperatures"),
        ("just words", "one column only"),
    ],
)
def test_what_is_no_file_of_readings_is_refused_in_words(text: str, words: str) -> None:
    with pytest.raises(FileError, match=words):
        first(text)


@settings(max_examples=120, deadline=None)
@given(st.binary(max_size=300))
def test_any_bytes_are_read_or_refused(data: bytes) -> None:
    for begin in (b"", b"time,T\n2031-09-14 06:00,1\n"):
        try:
            read_thermometers(begin + data)
        except FileError:
            continue


@settings(max_examples=40, deadline=None)
@example([(0, 0.155)])
@given(
    st.lists(
        st.tuples(st.integers(0, 10**9), st.floats(-60, 60) | st.none()), min_size=1, max_size=20
    )
)
def test_what_is_written_reads_back(rows) -> None:
    seconds = np.unique(np.array([float(at) for at, _ in rows]))
    celsius = np.array([np.nan if v is None else v for _, v in rows])[: len(seconds)]
    if not np.isfinite(celsius).any():
        return
    text = write_thermometer(seconds, (Channel("outside", celsius),))
    found, read = first(text)
    assert found.seconds.tolist() == seconds.tolist()
    assert found.utc_offset_h == 0.0
    assert read == pytest.approx(celsius.tolist(), abs=0.0051, nan_ok=True)


def test_the_stand_in_has_the_faults_that_it_is_given() -> None:
    faults = Faults(fast_ppm=100_000, holes=((5.0, 7.0),), sunny=(12.0, 14.0), dies_at=20.0)
    device = SimulatedThermometer((("a", lambda _: 5.0), ("b", lambda _: 5.0)), 24, 600, faults, 3)
    found = device.read_out()
    (_, outside), (_, inside) = found.channels
    assert outside.max() > 12
    assert inside.max() < 6
    assert np.diff(found.seconds).max() == pytest.approx(2 * 3600 * 1.1, rel=0.1)
    assert found.seconds[-1] == pytest.approx(20 * 3600 * 1.1, rel=0.02)
    again = SimulatedThermometer(
        (("a", lambda _: 5.0), ("b", lambda _: 5.0)), 24, 600, faults, 3
    ).read_out()
    assert (again.channels[0][1] == outside).all()
    device.unplug()
    with pytest.raises(ThermometerError):
        device.read_out()
