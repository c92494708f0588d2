"""Assessing again gives what assessing whole gives, and only does what the change reaches."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.plan.changes import (
    add_piece,
    carry_part,
    overrule,
    pitch,
    remove_piece,
    with_person,
    without_person,
)
from caldarium.core.plan.course import SleepRule
from caldarium.core.plan.group_kit import carried_by
from caldarium.core.reassess import Assessed, reassess
from caldarium.core.what_if.dial import Dial, turned

GARMENTS = load_catalogue().garments


def changes(demo):
    runa, wren = demo.people[0], demo.people[-1]
    yield "a jacket", with_person(demo, add_piece(runa, GARMENTS["big-down-jacket"]))
    yield "less", with_person(demo, remove_piece(runa, "light-synthetic-jacket"))
    yield "a word", with_person(demo, overrule(wren, "3.north-top.halt", "rain-jacket", False))
    yield "a tent", pitch(demo, runa.id, "tunnel-west")
    yield "no tent", pitch(demo, wren.id, None)
    yield "one fewer", demo.altered(people=demo.people[1:])
    yield "turned round", demo.altered(people=demo.people[::-1])
    yield "renamed", demo.altered(name="Another name")
    yield "colder", turned(demo, Dial(colder=5))
    yield "expedition", demo.altered(caution="expedition")


def entangled(demo):
    """People whose shelters and beds hang on one another."""
    course = carry_part(demo, "tunnel-east", "poles", "wren")
    bedding = course.people[0].bedding.altered(beside="tavi")
    course = with_person(course, course.people[0].altered(bedding=bedding))
    rules = (
        SleepRule(kind="together", people=("dag", "mirel")),
        SleepRule(kind="apart", people=("hale", "wren", "pell")),
    )
    return carried_by(course.altered(sleep_rules=rules), "stove", 0, "lumi", by_hand=True)


def knots(course):
    by_id = {person.id: person for person in course.people}
    yield "a carrier leaves", without_person(course, "wren")
    yield "a carrier is renamed", with_person(course, by_id["wren"].altered(name="Wren Moss"))
    yield "a part comes home", carry_part(course, "tunnel-east", "poles", None)
    yield "a part goes elsewhere", carry_part(course, "dome", "fly", "mirel")
    yield "one of a wish leaves", without_person(course, "dag")
    yield "the other half of a bed leaves", without_person(course, "tavi")
    yield "somebody with group kit leaves", without_person(course, "lumi")
    other = course.people[-1].altered(id="somebody-else", shelter="dome")
    yield (
        "another in the same number",
        without_person(course, "wren").altered(people=(*course.people[:-1], other)),
    )
    yield "one moves", pitch(course, "mirel", "tunnel-west")


def test_what_hangs_together_is_computed_together(demo) -> None:
    course = entangled(demo)
    before = Assessed(course, assess(course))
    for name, after in knots(course):
        found = reassess(after, before).result
        try:
            close(found, assess(after))
        except AssertionError as fault:
            raise AssertionError(name) from fault


def alike(here, there) -> bool:
    """Whether figures are the same but for the order in which a machine adds them up."""
    if isinstance(here, float):
        return here == pytest.approx(there, rel=1e-9, abs=1e-9, nan_ok=True)
    if isinstance(here, dict):
        return here.keys() == there.keys() and all(alike(here[k], there[k]) for k in here)
    if isinstance(here, tuple):
        return len(here) == len(there) and all(map(alike, here, there))
    if hasattr(here, "__dataclass_fields__"):
        return alike(vars(here), vars(there))
    return here == there


def close(ours, whole) -> None:
    for mine, theirs in zip(ours.people, whole.people, strict=True):
        assert mine.person == theirs.person
        assert mine.doubted == theirs.doubted
        assert mine.load == theirs.load
        for here, there in zip(mine.moments, theirs.moments, strict=True):
            assert alike(here, there), (here, there)
        for here, there in zip(mine.nights, theirs.nights, strict=True):
            assert alike(here, there), (here, there)
    assert ours.fuel == whole.fuel
    assert ours.shelters == whole.shelters


def test_every_change_ends_where_the_whole_assessment_ends(demo, demo_result) -> None:
    before = Assessed(demo, demo_result)
    for name, course in changes(demo):
        found = reassess(course, before)
        assert found.course is course, name
        close(found.result, assess(course))


def blown(course, day: int, **conditions):
    """One day in other weather."""
    here = course.days[day]
    here = here.altered(conditions=here.conditions.altered(**conditions))
    return course.altered(days=(*course.days[:day], here, *course.days[day + 1 :]))


def test_a_day_in_other_weather_reaches_only_the_days_it_leaves_wet(demo) -> None:
    """Edits one after another, each beginning where the last one left: of days, of pieces, of
    both, and back."""
    runa = demo.people[0]
    steps = [
        lambda course: blown(course, 2, wind_ms=14.0),
        lambda course: blown(course, 3, precipitation_mm=25.0, high_c=4.0),
        lambda course: with_person(course, remove_piece(runa, "light-synthetic-jacket")),
        lambda course: blown(course, 0, precipitation_mm=18.0),
        lambda course: with_person(course, add_piece(runa, GARMENTS["big-down-jacket"])),
        lambda course: blown(course, 4, low_c=-14.0),
        lambda course: blown(course, 1, humidity_pct=95.0),
        lambda course: course.altered(allowances=("altitude",)),
        lambda course: without_person(course, "hale"),
        lambda course: blown(course, 2, wind_ms=5.0),
    ]
    course, found = demo, reassess(demo, None)
    for step in steps:
        course = step(course)
        found = reassess(course, found)
        close(found.result, assess(course))


def test_days_that_weather_does_not_reach_are_kept(demo) -> None:
    before = reassess(demo, None)
    found = reassess(blown(demo, 3, wind_ms=13.0), before)
    for mine, theirs in zip(found.result.people, before.result.people, strict=True):
        for here, there in zip(mine.moments, theirs.moments, strict=True):
            assert (here is there) or here.day >= 2
    assert found.result.people[0].moments[0] is before.result.people[0].moments[0]


def test_only_what_changed_is_computed(demo, demo_result) -> None:
    before = Assessed(demo, demo_result)
    assert reassess(demo, before) is before
    course = with_person(demo, add_piece(demo.people[0], GARMENTS["down-mitts"]))
    found = reassess(course, before).result
    assert found.timeline is demo_result.timeline
    assert found.people[0] is not demo_result.people[0]
    for mine, theirs in zip(found.people[1:], demo_result.people[1:], strict=True):
        assert mine is theirs
    moved = reassess(pitch(demo, demo.people[0].id, "tunnel-west"), before).result
    east = [row for row, each in enumerate(demo.people) if each.shelter == "tunnel-east"]
    assert all(moved.people[row] is not demo_result.people[row] for row in east)
    light = [row for row, each in enumerate(demo.people) if each.shelter == "light-two"]
    assert all(moved.people[row] is demo_result.people[row] for row in light)
