"""What happened on the autumn fell: two thermometers that were not quite in order, and a diary that
has something to teach. Made up, and the same every time."""

from datetime import UTC, datetime, timedelta

import numpy as np

from caldarium.core.assess import assess
from caldarium.core.log.diary import asked_moments
from caldarium.core.log.readings import begins, thermometers_of
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import (
    PARTY,
    Entry,
    Event,
    Found,
    Halted,
    Lay,
    Log,
    OthersRight,
    Scaled,
    Slept,
    Thermometer,
    Was,
    Went,
)
from caldarium.standins.thermometer import Faults, SimulatedThermometer

COLDER_K = (0.8, -1.2, -2.6, -0.4, 0.0)
"""What the air of each day and its night was over the forecast [K]."""
FELT = {
    ("tavi", 1): ("cool", None),
    ("tavi", 2): ("cold", 3.5),
    ("tavi", 3): ("cool", None),
    ("mirel", 1): ("cool", None),
    ("mirel", 2): ("cold", 2.25),
    ("mirel", 3): ("cold", 4.0),
    ("runa", 2): ("cool", None),
    ("jonna", 2): ("cool", None),
    ("dag", 0): ("warm", None),
    ("wren", 0): ("warm", None),
}


def logged(course: Course) -> Course:
    """The course with its log."""
    plain = course.altered(caution="as forecast")
    timeline = assess(plain).timeline
    hours, air = timeline.hours.hour, timeline.hours.forecast
    nights = [moment for moment in timeline.moments if moment.kind == "night"]

    def outside(hour: float) -> float:
        other = np.interp(hour, [2, 26, 50, 74, 98], COLDER_K)
        return float(np.interp(hour, hours, air) + other + 0.3 * np.sin(hour / 1.7))

    def in_tent(hour: float) -> float:
        asleep = any(each.start + 0.5 < hour < each.end for each in nights)
        return outside(hour) + (2.9 if asleep else 0.4)

    def in_bed(hour: float) -> float:
        asleep = any(each.start + 0.2 < hour < each.end - 0.1 for each in nights)
        return 27.5 + 0.28 * (outside(hour) + 2.0) if asleep else outside(hour) + 1.0

    thermometers = [
        *_read(
            course,
            (("outside", outside), ("tunnel tent", in_tent)),
            11,
            Faults(55.0, sunny=(36, 39)),
        ),
        *_read(course, (("Tavi’s bed", in_bed),), 12, Faults(holes=((50.0, 53.5),), dies_at=103.0)),
    ]
    places = {"outside": ("outside", ""), "tunnel-tent": ("shelter", "tunnel-east")}
    placed = tuple(
        each.altered(
            **dict(zip(("where", "of"), places.get(each.id, ("bed", "tavi")), strict=True))
        )
        for each in thermometers
    )
    return course.altered(log=Log(thermometers=placed, entries=_diary(course, timeline)))


def _read(course: Course, channels, seed: int, faults: Faults) -> list[Thermometer]:
    device = SimulatedThermometer(channels, 24.0 * len(course.days), 600, faults, seed)
    read = device.read_out()
    offset = course.place.utc_offset_h
    source = f"simulated thermometer, seed {seed}"
    return thermometers_of(course, [], read.seconds + begins(course), read.channels, offset, source)


def _diary(course: Course, timeline) -> tuple[Entry, ...]:
    entries: list[Entry] = []

    def tell(day: int, clock: float, event: Event) -> None:
        zone = timedelta(hours=course.place.utc_offset_h)
        begin = datetime.combine(course.start, datetime.min.time(), UTC) - zone
        when = begin + timedelta(days=day, hours=clock, seconds=20 * len(entries))
        token = f"fell-log-{len(entries):04d}"
        entries.append(Entry(token=token, at=when, by="Hale", event=event))

    for day in range(len(course.days)):
        for moment in asked_moments(timeline, day):
            for event in _moments_of(moment.id, moment.kind, day):
                tell(day, 19.0, event)
        tell(day, 19.4, OthersRight(day=day, part="evening"))
        if day == len(course.days) - 1:
            break
        for (who, night), (felt, woke) in FELT.items():
            if night == day:
                tell(day + 1, 7.0, Slept(person=who, day=day, felt=felt, woke_h=woke))
        tell(day + 1, 7.2, OthersRight(day=day, part="morning"))
    tell(2, 7.1, Lay(person="mirel", day=2, vents="open"))
    tell(0, 7.5, Scaled(person="mirel", day=0, grams=15400))
    tell(1, 19.2, Went(day=1, leg="climb", hours=3.6))
    things = (
        ("wren", "failed", "Air pad R 5", "loses air overnight"),
        ("tavi", "missed", "Down booties", ""),
        ("jonna", "borrowed", "Wind mitts", "from Hale, every day"),
        (PARTY, "wished", "A second sit pad for halts", ""),
    )
    for subject, what, name, note in things:
        tell(4, 17.0, Found(subject=subject, what=what, name=name, note=note))
    for person in course.people[:4]:
        for item in person.items:
            if item.id in ("book", "spare-layers"):
                found = Found(subject=person.id, what="unused", name=item.name, piece=item.id)
                tell(4, 17.2, found)
    return tuple(entries)


def _moments_of(moment: str, kind: str, day: int) -> list[Event]:
    """What was not right at a moment."""
    if kind == "halt" and day == 1:
        return [
            Halted(moment=moment, minutes=19),
            Was(person="pell", moment=moment, felt="cold", fingers="cold"),
            Was(person="jonna", moment=moment, felt="cool"),
        ]
    if kind == "halt" and day == 2:
        return [Halted(moment=moment, minutes=17)]
    if kind == "moving" and day == 1:
        return [Was(person="dag", moment=moment, felt="hot", sweat=True)]
    return []
