"""What is called idle can stay at home, tried on every demo course; rules say what stays."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.plan.changes import add_piece, carry_part, with_person
from caldarium.core.plan.group_kit import carried_by
from caldarium.core.what_if.idle import (
    Line,
    idle_pieces,
    ledger,
    pieces_of,
    when_idle_matters,
    without,
)
from caldarium.core.what_if.kept import kept_by_rule
from caldarium.core.what_if.verdicts import harms
from caldarium.demo import DEMOS, demo_course
from caldarium.words.load import idle_sentence, line_sentence, matters_sentence
from caldarium.words.units import Display
from tests.courses import KINDS

DISPLAY = Display()
CATALOGUE = load_catalogue()


@pytest.fixture(scope="module")
def idle(demo, demo_result):
    return idle_pieces(demo, demo_result)


@pytest.mark.parametrize("name", [*DEMOS, *KINDS])
def test_everything_idle_left_at_home_together_makes_nothing_worse(name) -> None:
    course = demo_course(name) if name in DEMOS else KINDS[name]()
    before = assess(course)
    found = idle_pieces(course, before)
    people = tuple(without(person, found[person.id].pieces) for person in course.people)
    after = assess(course.altered(people=people))
    for then, now in zip(before.people, after.people, strict=True):
        assert harms(then, now) == [], then.person
        assert now.load.by_day[0] <= then.load.by_day[0] + 1e-9


def test_the_demo_has_something_idle(demo, idle) -> None:
    assert sum(idle[each.id].grams(each) for each in demo.people) >= 300


def test_without_what_is_needed_something_is_worse(demo, demo_result, idle) -> None:
    tried = 0
    for person in demo.people:
        for piece, harm in idle[person.id].harm.items():
            alone = idle[person.id].pieces
            bare = with_person(demo, without(person, (*alone, piece)))
            found = harms(demo_result.of(person.id), assess(bare).of(person.id))
            assert harm.kind in {each.kind for each in found}, (person.id, piece)
            tried += 1
    assert tried >= 5


def lines_of(course, result, who: str, found) -> dict[str, Line]:
    person = course.person(who)
    return {each.piece: each for each in ledger(course, person, result, found[who])}


def test_every_piece_has_one_line_in_the_ledger(demo, demo_result, idle) -> None:
    moments = {each.id: each for each in demo_result.timeline.moments}
    for person in demo.people:
        lines = ledger(demo, person, demo_result, idle[person.id])
        names = [line.piece for line in lines]
        assert len(names) == len(set(names))
        own = {each.id for each in (*pieces_of(person), *person.items)}
        assert own <= set(names)
        called = {e.piece for e in lines if e.verdict == "idle"}
        assert called == set(idle[person.id].pieces)
        for line in lines:
            words = line_sentence(demo, line, moments, DISPLAY)
            assert words.endswith(".")
            assert ": ." not in words
        for item in person.items:
            if item.purpose == "safety":
                assert next(e for e in lines if e.piece == item.id).verdict == "kept"
        said = idle_sentence(person, idle[person.id], DISPLAY)
        assert said.startswith("Idle: " if idle[person.id].pieces else "Nothing")


def test_group_kit_and_tent_parts_stand_in_their_carriers_ledger(demo, idle) -> None:
    given = carried_by(demo, "group-aid", 0, "wren", by_hand=True)
    given = carry_part(given, "dome", given.shelter("dome").parts[0].id, "wren")
    wren = lines_of(given, assess(given), "wren", idle)
    assert (wren["group-aid.0"].verdict, wren["group-aid.0"].grams) == ("kept", 940)
    part = given.shelter("dome").parts[0]
    assert wren[f"dome.{part.id}"].grams == part.mass_g


def test_a_dry_set_is_kept_by_the_schools_rule(demo, demo_result, idle) -> None:
    # Lumi has two base tops and two long johns: one of the second ones is her dry set. One dry
    # set, never idle: common practice, no published source.
    person = demo.person("lumi")
    doubted = demo_result.of("lumi").doubted
    assert "spare set" in idle["lumi"].kept.values()
    assert kept_by_rule(demo.altered(spare_set="none"), person, doubted).keys() <= {
        person.bag.id,
        person.pads[0].id,
    }
    rotation = kept_by_rule(demo.altered(spare_set="full rotation"), person, doubted)
    assert set(idle["lumi"].kept) <= set(rotation)


def test_a_marked_spare_is_kept_and_says_so(demo, demo_result) -> None:
    spare = CATALOGUE.garments["wool-sweater"].altered(id="second", spare=True)
    course = with_person(demo, add_piece(demo.person("wren"), spare))
    result = assess(course)
    found = idle_pieces(course, result, ("wren",))
    line = lines_of(course, result, "wren", found)["second"]
    assert line.verdict == "kept"
    assert "on purpose" in line_sentence(course, line, {}, DISPLAY)


def test_a_second_pad_on_snow_guards_the_first() -> None:
    course = demo_course("deep-winter")
    result = assess(course)
    line = lines_of(course, result, "aune", idle_pieces(course, result, ("aune",)))["foam-pad"]
    assert (line.verdict, line.why.reason) == ("kept", "under the pad")


def test_fingers_toes_and_face_count_as_closing() -> None:
    course = demo_course("deep-winter")
    found = idle_pieces(course, assess(course))
    kinds = {harm.kind for each in found.values() for harm in each.harm.values()}
    assert {"fingers", "face"} <= kinds


def test_food_and_fuel_carried_out_again_are_idle(demo) -> None:
    course = demo.altered(
        people=tuple(each.altered(fuel_g_a_day=60) for each in demo.people),
        group=tuple(each for each in demo.group if each.id != "gas"),
    )
    result = assess(course)
    line = lines_of(course, result, "runa", idle_pieces(course, result, ("runa",)))["fuel"]
    assert line.verdict == "idle"
    # By hand: everybody's part of what is there beyond need and spare.
    assert line.grams == pytest.approx(result.fuel.over / len(course.people), rel=1e-6)


def test_idle_pieces_begin_to_matter_at_more_caution(demo, demo_result, idle) -> None:
    listed = when_idle_matters(demo, demo_result)
    assert {(e.person, e.piece) for e in listed} == {
        (who, piece) for who, each in idle.items() for piece in each.pieces
    }
    for each in listed:
        assert each.from_sd is None or each.from_sd > demo.cautious_sd
        assert each.name in matters_sentence(each, DISPLAY)
    for some in (each for each in listed if each.from_sd is not None):
        harder = demo.altered(caution="expedition", expedition_sd=some.from_sd)
        person = harder.person(some.person)
        lighter = with_person(harder, without(person, (some.piece,)))
        before, after = (assess(each).of(some.person) for each in (harder, lighter))
        assert harms(before, after)
