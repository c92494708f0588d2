"""What helps most people, what the store lacks, and what need not go all the way."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.lighten.lever import levers, missing, taken
from caldarium.core.lighten.offers import own_grams
from caldarium.core.lighten.party import with_people
from caldarium.core.lighten.phases import leg_ends, phases, with_phases
from caldarium.core.lighten.verdict import depths, worse
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import demo_course

EVERYTHING = load_catalogue().everything


def stored(tag: str, like: str, count: int) -> Stored:
    piece = EVERYTHING[like]
    return Stored(
        tag=tag, name=piece.name, kind="garment", like=like, mass_g=piece.mass_g, count=count
    )


@pytest.mark.parametrize("name", ["hot-canyon", "high-plateau"])
def test_what_helps_most_does_what_it_says(name: str) -> None:
    course = demo_course(name).altered(caution="cautious")
    timeline = build_timeline(course)
    supply = Supply(everything=EVERYTHING)
    found = levers(course, timeline, supply, ["own", "buy"], lambda share: None)
    assert found.warm
    for lever in (*found.warm[:3], *found.lighten[:3]):
        given = with_people(course, taken(lever), supply)
        for each in lever.helped:
            before, after = (depths(assess(c).of(each.person)) for c in (course, given))
            assert not worse(after, before)
            assert before.keys() - after.keys() == each.closes
            now = own_grams(given.person(each.person)) - own_grams(course.person(each.person))
            assert now == pytest.approx(each.grams)


def test_no_more_are_given_than_there_are_and_the_store_is_told_what_it_lacks() -> None:
    course = demo_course("autumn-fell").altered(caution="cautious")
    course = course.altered(people=course.people[:4])
    shelf = [stored("M-1", "shell-mitts", 1)]
    supply = Supply(shelf, {"m-1": 1}, EVERYTHING)
    found = levers(course, build_timeline(course), supply, ["store"], lambda share: None)
    (lever,) = found.warm
    assert lever.there == 1 == len(taken(lever))
    assert lever.short == len(lever.helped) - 1 > 0
    (short,) = missing([(course, found)])
    assert (short.count, short.people) == (lever.short, lever.short)
    later = course.altered(start=course.start.replace(year=course.start.year + 1))
    (twice,) = missing([(course, found), (later, found)])
    assert twice.count == short.count
    assert twice.people == 2 * short.people
    (together,) = missing([(course, found), (course, found)])
    assert together.count == 2 * short.count


@pytest.mark.parametrize("name", ["hot-canyon", "high-plateau", "autumn-fell"])
def test_what_goes_part_of_the_way_makes_nothing_worse(name: str) -> None:
    course = demo_course(name)
    person, timeline = course.people[0], build_timeline(course)
    found = phases(course, person, timeline, leg_ends(course), lambda share: None)
    assert found.found
    after = with_phases(course, found, {each.piece.id for each in found.found})
    before, now = (depths(assess(c).of(person.id)) for c in (course, after))
    assert not worse(now, before)
    assert found.kg_hours == pytest.approx(
        sum(each.piece.mass_g * each.hours for each in found.found) / 1000
    )
    assert with_phases(course, found, ()) == course
