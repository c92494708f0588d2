"""Small sets of pieces, and a better place or a shorter time, close what no single piece does."""

from itertools import combinations

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.day.states import TOLERANCE
from caldarium.core.plan.changes import add_piece, with_person
from caldarium.core.what_if.cells import fullest_of, with_pieces
from caldarium.core.what_if.cures import additions, cures
from caldarium.core.what_if.dial import Dial, turned
from caldarium.core.what_if.more_cures import LOOKED_AT, lightest_set, otherwise
from caldarium.words.day import cure_sentence, otherwise_sentence
from caldarium.words.steps_day import explain_otherwise
from caldarium.words.units import Display

CATALOGUE = list(load_catalogue().garments.values())
DISPLAY = Display()


@pytest.fixture(scope="module")
def short(demo):
    """Ossi at the cold halt of a worse day: no single piece is enough."""
    course = turned(demo, Dial(colder=9, windier=5))
    result = assess(course)
    moment = result.timeline.moment("3.back.halt")
    state = next(m for m in result.of("ossi").moments if m.moment == moment.id)
    member = course.person("ossi")
    found = cures(additions(course, member, moment, state, CATALOGUE), state)
    return course, member, moment, state, found


def test_the_lightest_set_closes_the_gap_and_none_lighter_does(short) -> None:
    course, member, moment, state, found = short
    assert state.state == "gap"
    assert not any(each.whole for each in found)
    best = lightest_set(course, member, moment, state, found)
    assert best is not None
    assert best.spare >= -TOLERANCE
    assert best.grams == sum(each.mass_g for each in best.pieces)
    # Exhaustive over the same pieces: every lighter set of that size stays short.
    looked = sorted(found, key=lambda each: -each.closes)[:LOOKED_AT]
    for size in range(2, len(best.pieces) + 1):
        lighter = [
            each
            for each in combinations([cure.piece for cure in looked], size)
            if size < len(best.pieces) or sum(p.mass_g for p in each) < best.grams
        ]
        people = [with_pieces(member, *each) for each in lighter]
        if people:
            whole = fullest_of(course, moment, people, [state] * len(people))
            assert (whole < state.need_min - TOLERANCE).all()
    told = cure_sentence(found, state, DISPLAY, best)
    assert all(each.name in told for each in best.pieces)


def test_taken_it_closes_the_gap_in_the_course(short) -> None:
    course, member, moment, state, found = short
    best = lightest_set(course, member, moment, state, found)
    for piece in best.pieces:
        member = add_piece(member, piece)
    after = assess(with_person(course, member)).of("ossi")
    # Weighed dry; carried from the morning on the pieces may have got wet themselves.
    gap = next(m.gap for m in after.moments if m.moment == moment.id)
    assert gap <= TOLERANCE + 0.05


def test_where_one_piece_is_enough_no_set_is_offered(demo, demo_result) -> None:
    moment = demo_result.timeline.moment("3.north-top.halt")
    state = next(m for m in demo_result.of("mirel").moments if m.moment == moment.id)
    member = demo.person("mirel")
    found = cures(additions(demo, member, moment, state, CATALOGUE), state)
    assert found[0].whole
    assert lightest_set(demo, member, moment, state, found) is None
    assert lightest_set(demo, member, moment, state, []) is None


def test_a_lee_a_shorter_halt_and_a_drink_are_worth_what_they_say(demo, demo_result) -> None:
    moment = demo_result.timeline.moment("3.north-top.halt")
    state = next(m for m in demo_result.of("runa").moments if m.moment == moment.id)
    assert state.state == "gap"
    other = otherwise(demo, demo.person("runa"), moment, state)
    assert other.lee
    if other.at_most:
        assert other.at_most * demo.halt_factor == pytest.approx(state.endurance)
        assert other.at_most < moment.hours
    # 0.5 L from 60 to 37 °C is 13.4 W h; over 1.8 m² or so a sixth to a fifth of the debt.
    assert 0.1 < other.drink / state.endurance < 0.25
    told = otherwise_sentence(other, DISPLAY)
    assert told.startswith("Without more kit: a lee closes it")
    steps = {step.name: step for step in explain_otherwise(other, None, state, DISPLAY)}
    assert steps["in a lee"].value == "holds"
    assert {"longest halt", "hot drink"} <= set(steps)
    assert explain_otherwise(None, None, state, DISPLAY) == []
    assert otherwise_sentence(None, DISPLAY) == ""


def test_nothing_of_the_kind_is_said_of_a_walk(short) -> None:
    course, member, _, _, _ = short
    result = assess(course)
    walk = next(m for m in result.of("ossi").moments if m.kind == "moving")
    other = otherwise(course, member, result.timeline.moment(walk.moment), walk)
    assert other.at_most is None
    assert not other.lee
    assert otherwise_sentence(other, DISPLAY) == ""
