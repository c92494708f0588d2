"""Packs filled, in multiples of one assessment of the autumn demo.

Usage: python benchmarks/packs.py
"""

from timing import median

from caldarium.core.assess import assess
from caldarium.core.pack.contents import contents, mornings
from caldarium.core.pack.plan import plan_pack
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.kit import Item
from caldarium.demo import demo_course


def main() -> None:
    """Print what one pack, one of sixty pieces and a party's cost."""
    course = demo_course()
    result, person = assess(course), course.people[0]
    one = median(lambda: assess(course))
    day = mornings(course, result.timeline)[1]
    print(f"one assessment of the autumn demo: {1000 * one:.0f} ms")
    small = median(lambda: plan_pack(course, person, result, day))
    print(f"one pack of {len(contents(course, person, result, day))} pieces: {small / one:.2f}")
    things = tuple(
        Item(id=f"thing-{at}", name=f"thing {at}", mass_g=40 + 7 * at, purpose="comfort")
        for at in range(60 - len(contents(course, person, result, day)))
    )
    full = person.altered(items=(*person.items, *things))
    with_things = with_person(course, full)
    after = assess(with_things)
    count = len(contents(with_things, full, after, day))
    large = median(lambda: plan_pack(with_things, full, after, day))
    print(f"one pack of {count} pieces: {large / one:.2f}")
    party = median(lambda: [plan_pack(course, each, result, day) for each in course.people], 3)
    print(f"packs of {len(course.people)} people: {party / one:.2f}")


if __name__ == "__main__":
    main()
