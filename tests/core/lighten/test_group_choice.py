"""The lightest kit of the group equals what a look at every choice finds; its rules and the store's
counts are kept."""

import random
from itertools import product

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.lighten.group_choice import OF_THE_PARTY, lightest_group, with_group
from caldarium.core.lists.judge import judge
from caldarium.core.lists.kept import must_lines
from caldarium.core.plan.course import Course
from caldarium.core.plan.gear_list import Counted, Entry, GearList, Wanted, Way
from caldarium.core.plan.group_kit import wanted
from caldarium.core.plan.kit import GroupKit
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.issue import lent
from caldarium.core.stock.lending import loans_of, to_get
from caldarium.core.stock.supply import SOURCES, Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course, demo_store

EVERYTHING = load_catalogue().everything
WORDS = ("axe", "bell", "cord", "drum")


def bare(course: Course, *entries: Entry, once: bool = False, kits=()) -> Course:
    """A course with one list, and nothing that it could be met with but some kit of the group."""
    people = tuple(each.altered(items=(), garments=(), pads=(), bag=None) for each in course.people)
    listed = GearList(id="list", name="A list", once=once, entries=entries)
    return course.altered(people=people, group=tuple(kits), lists=(listed,), counted=())


def a_line(name: str, *ways: tuple[Wanted, ...], **more) -> Entry:
    parts = tuple(Way(parts=way) for way in ways)
    return Entry(**({"id": name, "text": name, "of": "party", "ways": parts} | more))


def shelf(*pieces: tuple[str, float, int], owner: str = "school") -> list[Stored]:
    return [
        Stored(tag=f"X-{at}", name=name, kind="repair", mass_g=grams, count=count, owner=owner)
        for at, (name, grams, count) in enumerate(pieces)
    ]


def unmet(course: Course) -> int:
    must = must_lines(course)
    judged = judge(course, build_timeline(course))
    return len(
        {
            (e.list, e.entry)
            for e in judged
            if not e.good and e.subject.of in OF_THE_PARTY and (e.list, e.entry) in must
        }
    )


@pytest.mark.parametrize("seed", range(24))
def test_nothing_lighter_meets_as_many_lines(seed: int) -> None:
    """Every number of every ware, by the lists' own judge."""
    dice = random.Random(seed)

    def a_part() -> Wanted:
        names = tuple(dice.sample(WORDS, dice.choice((1, 1, 2))))
        return Wanted(names=names, count=dice.choice((1, 1, 2)))

    lines = [
        a_line(
            f"line-{at}",
            *(tuple(a_part() for _ in range(dice.choice((1, 2)))) for _ in range(2)),
            of=dice.choice(("party", "rope")),
            per=None,
        )
        for at in range(dice.choice((1, 2, 3)))
    ]
    there = [GroupKit(id="old", name=dice.choice(WORDS), mass_g=300, per=2, of="head")]
    course = bare(demo_course("hot-canyon"), *lines, once=dice.random() < 0.5, kits=there)
    names = [" ".join(dice.sample(WORDS, dice.choice((1, 1, 2)))) for _ in range(4)]
    pieces = shelf(*((name, dice.randrange(20, 400), 2) for name in names))
    supply = Supply(pieces, everything={})
    found = lightest_group(course, build_timeline(course), supply, ["store"])
    (old,) = there
    asked = [part.names for line in lines for way in line.ways for part in way.parts]
    does = [
        all(set(names) & set(piece.name.split()) for names in asked if old.name in names)
        and (any(old.name in names for names in asked) or old.name in piece.name)
        for piece in pieces
    ]
    best = (99, 0.0)
    for instead, counts in product((None, *range(4)), product(range(3), repeat=4)):
        here = old
        if instead is not None:
            if counts[instead] or not does[instead]:
                continue
            here = old.altered(name=pieces[instead].name, mass_g=pieces[instead].mass_g)
        kits = [
            GroupKit(id=f"k-{at}", name=piece.name, mass_g=piece.mass_g, number=count)
            for at, (piece, count) in enumerate(zip(pieces, counts, strict=True))
            if count
        ]
        grams = sum(each.number * each.mass_g for each in kits) + 2 * here.mass_g
        if grams < best[1] or best[0] > 0:
            best = min(best, (unmet(course.altered(group=(here, *kits))), grams))
    after = with_group(course, found, found.changed)
    assert found.proven
    assert len(found.unmet) == unmet(after) == best[0]
    assert found.grams == pytest.approx(best[1])


@pytest.mark.parametrize("name", DEMOS)
@pytest.mark.parametrize("sources", [("own", "store"), SOURCES])
def test_rules_and_lists_are_kept_on_every_demo(name: str, sources: tuple[str, ...]) -> None:
    course = demo_course(name)
    store = demo_store()
    found = lightest_group(course, build_timeline(course), Supply(store, None, EVERYTHING), sources)
    after = with_group(course, found, found.changed)
    then = {(e.list, e.entry, e.subject.id): e for e in judge(course, build_timeline(course))}
    for each in judge(after, build_timeline(after)):
        assert each.good or not then[each.list, each.entry, each.subject.id].good
    assert unmet(after) == len(found.unmet)
    by_id = {each.id: each for each in after.group}
    for kit in course.group:
        assert wanted(after, by_id[kit.id]) == wanted(course, kit)
        assert by_id[kit.id].mass_g <= kit.mass_g
        assert by_id[kit.id].carriers == kit.carriers
    for place in found.places:
        assert wanted(after, place.after) == place.count
    sums = sum(each.mass_g * wanted(after, each) for each in after.group)
    assert sums == pytest.approx(found.grams)
    out, there = lent(after), {piece.tag.lower(): piece.count for piece in store}
    assert all(out[each.tag.lower()] <= there[each.tag.lower()] for each in after.group if each.tag)
    again = lightest_group(after, build_timeline(after), Supply((), {}, {}), sources)
    assert not again.changed


def test_a_lighter_piece_takes_the_place_of_what_it_does_the_work_of() -> None:
    line = a_line("mend", (Wanted(names=("axe",)),))
    old = GroupKit(id="old", name="axe", mass_g=500, number=2, carriers=("noor",))
    named = GroupKit(id="named", name="drum", mass_g=400)
    fuel = GroupKit(id="fuel", name="drum of fuel", mass_g=400, kind="fuel", net_g=200)
    course = bare(demo_course("hot-canyon"), line, kits=(old, named, fuel))
    pieces = shelf(
        ("small axe", 300, 1), ("light axe", 350, 2), ("bell", 10, 9), ("tin drum", 90, 9)
    )
    supply = Supply(pieces, everything={})
    found = lightest_group(course, build_timeline(course), supply, ["store"])
    assert [each.after.name for each in found.places] == ["light axe", "tin drum", "drum of fuel"]
    assert found.too_few == (("small axe", 1, 2),)
    assert found.places[0].after.carriers == ("noor",)
    assert found.grams == 2 * 350 + 90 + 400
    some = with_group(course, found, [1])
    assert [each.name for each in some.group] == ["axe", "tin drum", "drum of fuel"]


def test_what_the_user_counts_by_hand_is_not_inherited() -> None:
    """Their word that a bell counts as an axe is on that bell, not on what is lighter than it."""
    line = a_line("mend", (Wanted(names=("axe",)),))
    bell = GroupKit(id="bell", name="bell", mass_g=500)
    course = bare(demo_course("hot-canyon"), line, kits=(bell,))
    said = Counted(list="list", entry="mend", piece="/bell.0", counts=True)
    course = course.altered(counted=(said,))
    supply = Supply(shelf(("small bell", 100, 1)), everything={})
    assert not lightest_group(course, build_timeline(course), supply, ["store"]).changed


def test_what_comes_in_follows_the_rule_of_its_line() -> None:
    line = a_line("mend", (Wanted(names=("axe",)),), per=2)
    course = bare(demo_course("autumn-fell"), line)
    supply = Supply(shelf(("axe", 300, 9)), everything={})
    found = lightest_group(course, build_timeline(course), supply, ["store"])
    (place,) = found.places
    assert (place.after.of, place.after.per, place.count) == ("head", 2, 5)
    after = with_group(course, found, found.changed)
    assert wanted(after.altered(people=after.people[:4]), after.group[0]) == 2


def test_the_store_knows_what_the_group_has() -> None:
    line = a_line("mend", (Wanted(names=("axe",)),), per=2)
    course = bare(demo_course("autumn-fell"), line)
    pieces = shelf(("axe", 300, 9), owner="hire")
    found = lightest_group(course, build_timeline(course), Supply(pieces, everything={}), ["hire"])
    after = with_group(course, found, found.changed)
    assert lent(after)["x-0"] == 5
    assert loans_of(1, after)["x-0"].count == 5
    (getting,) = to_get(after, {"x-0": pieces[0]})
    assert (getting.person, getting.count) == ("", 5)
    left = Supply(pieces, {"x-0": 9 - 5}, {})
    assert not lightest_group(after, build_timeline(after), left, ["hire"]).changed
