"""The lightest sets of the demos' people, in multiples of one assessment of the autumn demo.

Usage: python benchmarks/lighten.py [SECONDS FOR EACH PERSON] [PEOPLE OF EACH COURSE]
"""

import math
import statistics
import sys
import time

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.lighten.proposal import Question, lighten
from caldarium.core.lighten.rounds import Search
from caldarium.core.plan.course import Course, Person
from caldarium.core.stock.supply import Source, Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course


def once() -> float:
    """Seconds that one assessment of the autumn demo takes here and now, the median of five."""
    course, found = demo_course(), []
    for _ in range(5):
        began = time.perf_counter()
        assess(course)
        found.append(time.perf_counter() - began)
    return statistics.median(found)


def looked_for(
    course: Course, person: Person, sources: tuple[Source, ...], seconds: float
) -> tuple[float, float, float, int]:
    """Seconds to the first set and to the end, the gap left, and how many pieces were on offer."""
    began, first = time.perf_counter(), math.nan

    def heard(search: Search) -> bool:
        nonlocal first
        now = time.perf_counter() - began
        if search.best is not None and math.isnan(first):
            first = now
        return now < seconds

    supply = Supply(everything=load_catalogue().everything)
    question = Question(course, person, build_timeline(course), supply, sources)
    found = lighten(question, heard, told=False)
    gap = found.gap if found.after is not None else math.nan
    return first, time.perf_counter() - began, gap, found.offered


def main() -> None:
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 20.0
    people = int(sys.argv[2]) if len(sys.argv) > 2 else 2
    unit = once()
    print(f"one assessment of the autumn demo: {1000 * unit:.0f} ms")
    cases: tuple[tuple[Source, ...], ...] = (("own",), ("own", "buy"))
    for sources in cases:
        rows = [
            looked_for(course, person, sources, seconds)
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
