"""Lists judged, in multiples of one assessment of the autumn demo.

Usage: python benchmarks/lists.py
"""

from timing import median

from caldarium.catalogue import load_catalogue, shipped_lists
from caldarium.core.assess import assess
from caldarium.core.check.cures import cures_for
from caldarium.core.lists.judge import judge
from caldarium.core.stock.supply import Supply
from caldarium.core.what_if.idle import idle_pieces
from caldarium.demo import demo_course, demo_store


def main() -> None:
    """Print what the demo's list, all lists, the cures of what is open and the ledger cost."""
    course = demo_course()
    result = assess(course)
    one = median(lambda: assess(course))
    print(f"one assessment of the autumn demo: {1000 * one:.0f} ms")
    everything = course.altered(lists=shipped_lists())
    for name, asked in (("its own list", course), ("all that ship", everything)):
        judged = judge(asked, result.timeline)
        lines = median(lambda asked=asked: judge(asked, result.timeline))
        print(f"{name}, {len(judged)} lines: {lines / one:.2f}")
    supply = Supply(demo_store(), None, load_catalogue().everything)
    bad = [each for each in judge(course, result.timeline) if not each.good]
    cures = median(lambda: [cures_for(course, each, supply) for each in bad])
    print(f"cures of {len(bad)} open lines: {cures / one:.2f}")
    bare = course.altered(lists=())
    plain = median(lambda: idle_pieces(bare, result), 3)
    kept = median(lambda: idle_pieces(course, result), 3)
    print(f"what is idle, with the list over without: {kept / plain:.2f}")


if __name__ == "__main__":
    main()
