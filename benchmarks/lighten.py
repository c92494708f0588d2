"""The lightest sets of the demos' people, in multiples of one assessment of the autumn demo.

Usage: python benchmarks/lighten.py [SECONDS FOR EACH PERSON] [PEOPLE OF EACH COURSE]
       python benchmarks/lighten.py many | party | frontier

The first looks for sets of their own pieces and of a hundred; the others for sets of about 300, for
everybody of the autumn demo with what a store of three of each piece has, and for ten steps of
caution of its first person.
"""

import math
import statistics
import sys
import time
from collections.abc import Callable

import numpy as np

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.lighten.frontier import frontier
from caldarium.core.lighten.offers import offers_for
from caldarium.core.lighten.party import lighten_party
from caldarium.core.lighten.proposal import Question, lighten
from caldarium.core.lighten.rounds import Search
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Garment, Pad
from caldarium.core.stock.inventory import Kit, Stored
from caldarium.core.stock.supply import Source, Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course

CANDIDATES = 100
"""Pieces of which a set is chosen."""


def once() -> float:
    """Seconds that one assessment of the autumn demo takes here and now, the median of five."""
    course, found = demo_course(), []
    for _ in range(5):
        began = time.perf_counter()
        assess(course)
        found.append(time.perf_counter() - began)
    return statistics.median(found)


def looked_for(
    course: Course,
    person: Person,
    sources: tuple[Source, ...],
    seconds: float,
    supply: Supply,
) -> tuple[float, float, float, int]:
    """Seconds to the first set and to the end, the gap left, and how many pieces were on offer."""
    began, first = time.perf_counter(), math.nan

    def heard(search: Search) -> bool:
        nonlocal first
        now = time.perf_counter() - began
        if search.best is not None and math.isnan(first):
            first = now
        return now < seconds

    question = Question(course, person, build_timeline(course), supply, sources)
    found = lighten(question, heard, told=False)
    gap = found.gap if found.after is not None else math.nan
    return first, time.perf_counter() - began, gap, found.offered


def a_hundred(person: Person) -> Supply:
    """So much of the catalogue, drawn by chance, that with their own somebody has 100 pieces."""
    goods = list(load_catalogue().everything.items())
    some: dict[str, Kit] = {}
    for at in np.random.default_rng(1).permutation(len(goods)).tolist():
        key, piece = goods[at]
        more = Supply(everything={**some, key: piece})
        if len(offers_for(person, more, ("own", "buy"))) <= CANDIDATES:
            some[key] = piece
    return Supply(everything={key: piece for key, piece in goods if key in some})


def three_hundred() -> Supply:
    """The catalogue, and as much again that differs a little in mass and thickness."""
    everything = dict(load_catalogue().everything)
    dice = np.random.default_rng(1)
    for key, piece in list(everything.items()):
        if isinstance(piece, Garment) and not piece.only_asleep:
            for at in range(2):
                by = float(dice.uniform(0.92, 1.08))
                thick = None if piece.thickness_mm is None else piece.thickness_mm * by
                clo = None if piece.clo is None else piece.clo * by
                mass = float(round(piece.mass_g * dice.uniform(0.92, 1.08)))
                told = {"id": f"{key}-{at}", "mass_g": mass, "thickness_mm": thick, "clo": clo}
                everything[f"{key}-{at}"] = piece.altered(**told)
    return Supply(everything=everything)


def a_store() -> Supply:
    """A store that has three of each piece of clothing and bed of the catalogue."""
    everything = load_catalogue().everything
    kinds = {Garment: "garment", Bag: "bag", Pad: "pad"}
    stored = [
        Stored(tag=f"T-{at}", name=e.name, kind=kinds[type(e)], like=key, mass_g=e.mass_g, count=3)
        for at, (key, e) in enumerate(everything.items())
        if type(e) in kinds
    ]
    return Supply(stored, everything=everything)


def clock(seconds: float) -> Callable[[Search], bool]:
    """Hears one search after another, each for so long."""
    now: list[tuple[Search, float]] = []

    def heard(search: Search) -> bool:
        if not now or now[0][0] is not search:
            now[:] = [(search, time.perf_counter())]
        return time.perf_counter() - now[0][1] < seconds

    return heard


def other(what: str) -> None:
    """One of the larger questions, timed."""
    unit, course = once(), demo_course()
    timeline, began = build_timeline(course), time.perf_counter()
    if what == "many":
        for each in map(demo_course, DEMOS):
            first, end, gap, offered = looked_for(
                each, each.people[0], ("own", "buy"), 60.0, three_hundred()
            )
            print(
                f"{each.name}: {offered} pieces; first set {first / unit:.0f} assessments, end "
                f"{end / unit:.0f}, gap {100 * gap:.2f} %"
            )
    elif what == "party":
        heard = clock(8.0)
        found = lighten_party(course, timeline, a_store(), lambda _, s: heard(s), ("own", "store"))
        took = (time.perf_counter() - began) / unit
        gap = 1 - found.bound / found.grams
        print(f"party: {took:.0f} assessments, gap {100 * gap:.2f} %, scarce {len(found.scarce)}")
    else:
        question = Question(course, course.people[0], timeline, a_store(), ("own", "store"))
        treads = frontier(question, clock(3.0), 10)
        took = (time.perf_counter() - began) / unit
        proven = sum(each.proposal.proven for each in treads)
        print(f"frontier: {len(treads)} steps, {took:.0f} assessments, {proven} proven")


def main() -> None:
    if len(sys.argv) == 2 and sys.argv[1] in ("many", "party", "frontier"):
        other(sys.argv[1])
        return
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 20.0
    people = int(sys.argv[2]) if len(sys.argv) > 2 else 2
    unit = once()
    print(f"one assessment of the autumn demo: {1000 * unit:.0f} ms")
    cases: tuple[tuple[Source, ...], ...] = (("own",), ("own", "buy"))
    for sources in cases:
        rows = [
            looked_for(course, person, sources, seconds, a_hundred(person))
            for course in map(demo_course, DEMOS)
            for person in course.people[:people]
        ]
        firsts = [row[0] for row in rows if not math.isnan(row[0])]
        gaps = [row[2] for row in rows if not math.isnan(row[2])]
        offered = statistics.median(row[3] for row in rows)
        end = statistics.median(row[1] for row in rows) / unit
        first = statistics.median(firsts) / unit
        print(
            f"{'+'.join(sources)}: {offered:.0f} pieces; first set {first:.0f} assessments, end "
            f"{end:.0f}; {gaps.count(0.0)} of {len(rows)} proven, largest gap "
            f"{100 * max(gaps, default=0):.1f} %"
        )


if __name__ == "__main__":
    main()
