"""A log read and learned from, in multiples of one assessment of the autumn demo.

Usage: python benchmarks/log.py
"""

import json
from time import perf_counter

import numpy as np
from timing import median

from caldarium.core.assess import assess
from caldarium.core.log.learned import teach
from caldarium.core.log.readings import thermometers_of
from caldarium.core.log.right import outcomes
from caldarium.demo import demo_course
from caldarium.formats.thermometer_csv import read_thermometers

MINUTES, CHANNELS = 365 * 24 * 60, 5


def year() -> bytes:
    """A year of five channels at one-minute steps."""
    start = np.datetime64("2026-01-01T00:00")
    stamps = np.datetime_as_string(start + np.arange(MINUTES), unit="m")
    head = ",".join(f"channel {each} (°C)" for each in range(CHANNELS))
    rows = [
        f"{str(stamp).replace('T', ' ')},{at % 9}.1,{at % 8}.2,{at % 7}.3,{at % 6}.4,{at % 5}.5"
        for at, stamp in enumerate(stamps)
    ]
    return f"time,{head}\n{chr(10).join(rows)}\n".encode()


def main() -> None:
    """Print what a year of readings and the demo's own log cost."""
    course = demo_course()
    one = median(lambda: assess(course))
    print(f"one assessment of the autumn demo: {1000 * one:.0f} ms")
    data = year()
    begin = perf_counter()
    found = read_thermometers(data)
    took = perf_counter() - begin
    begin = perf_counter()
    json.loads(b"[" + b",".join([b"1.5"] * (MINUTES * CHANNELS)) + b"]")
    plain = perf_counter() - begin
    print(
        f"{CHANNELS} channels of a year of minutes, {len(data) / 1e6:.0f} MB: {took:.2f} s, "
        f"{took / one:.1f} assessments, {took / plain:.1f} of reading as many figures as JSON"
    )
    stepped = median(lambda: thermometers_of(course, [], found.seconds, found.read, 2.0, ""), 3)
    print(f"the same in steps and cut to the course: {stepped / one:.2f}")
    print(f"the demo's log taught: {median(lambda: teach(course, course.log), 5) / one:.2f}")
    teaching = teach(course, course.log)
    print(f"its nights and moments judged: {median(lambda: outcomes(teaching), 5) / one:.2f}")


if __name__ == "__main__":
    main()
