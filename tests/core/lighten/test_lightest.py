"""The lightest set equals what a look at every subset finds, to the gram; its bounds never lie."""

from typing import get_args

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.lighten.lightest import lightest
from caldarium.core.lighten.mending import Mender
from caldarium.core.lighten.offers import Offer, offers_for, own_pieces
from caldarium.core.lighten.problem import Chosen, Problem, Wish
from caldarium.core.lighten.proposal import Question, lighten, with_changes
from caldarium.core.lighten.rules import RuleName
from caldarium.core.lighten.verdict import fails
from caldarium.core.plan.changes import with_person
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course
from tests.core.lighten.cases import by_every_subset, case

EVERYTHING = load_catalogue().everything


def to_the_end(search) -> bool:
    return True


@pytest.mark.parametrize("seed", range(1, 13))
def test_no_subset_is_lighter(seed: int) -> None:
    problem = case(seed, 6)
    found = lightest(problem, to_the_end)
    truth = by_every_subset(problem)
    assert found.proven
    if truth is None:
        assert found.chosen is None
    else:
        assert found.value == pytest.approx(truth, abs=1e-3)


@pytest.mark.slow
@pytest.mark.parametrize("seed", range(20, 80))
def test_no_subset_of_sixty_more_cases_is_lighter(seed: int) -> None:
    problem = case(seed, 8)
    found, truth = lightest(problem, to_the_end), by_every_subset(problem)
    assert (found.value if found.chosen else None) == pytest.approx(truth, abs=1e-3)


@pytest.mark.parametrize("course", [demo_course(name) for name in DEMOS], ids=list(DEMOS))
def test_what_is_promised_is_what_the_assessment_finds(course) -> None:
    """Taking a proposal and assessing gives just what it says, and closes what it says."""
    timeline, person = build_timeline(course), course.people[0]
    supply = Supply(everything=EVERYTHING)
    left = iter(range(60))
    question = Question(course, person, timeline, supply)
    found = lighten(question, lambda search: next(left, None) is not None, told=False)
    if found.after is None:
        assert not found.proven
        return
    after = assess(with_person(course, found.after)).of(person.id)
    before = assess(course).of(person.id)
    assert fails(after) == found.beyond
    assert fails(before) - fails(after) == found.closes
    assert found.grams == sum(piece.mass_g for piece in own_pieces(found.after))
    assert found.bound <= found.grams
    everything = {each.key for each in found.incoming} | {each.id for each in found.outgoing}
    assert with_changes(found, everything) == found.after
    assert with_changes(found, ()) == found.before


@pytest.mark.parametrize("course", [demo_course(name) for name in DEMOS], ids=list(DEMOS))
def test_somebody_with_nothing_to_wear_is_chosen_a_bed(course) -> None:
    person = course.people[0].altered(garments=(), overrules=())
    course = with_person(course, person)
    question = Question(course, person, build_timeline(course), Supply(), ("own",))
    found = lighten(question, to_the_end, told=False)
    assert found.proven
    assert found.grams <= found.grams_before


def test_every_piece_has_its_reason(demo) -> None:
    person = demo.people[0]
    found = lighten(Question(demo, person, build_timeline(demo), Supply(), ("own",)), to_the_end)
    assert found.proven
    assert {each.key for each in found.reasons} == {piece.id for piece in own_pieces(found.after)}
    assert all(each.rule or each.lack for each in found.reasons)
    masses = {piece.id: piece.mass_g for piece in own_pieces(found.after)}
    for each in found.reasons:
        saved = [one.saves_g for one in each.lost]
        assert saved == sorted(saved)
        assert len(saved) <= 2
        for one in each.lost:
            assert one.rule is None or one.lack is None
            assert one.piece.id not in masses


def test_what_is_forced_out_is_out_and_what_is_forced_in_is_in(demo) -> None:
    person, timeline = demo.person("dag"), build_timeline(demo)
    wish = Wish(
        outside=frozenset({"wool-tee"}),
        inside=frozenset({"fleece-trousers"}),
        without=frozenset({"dry set"}),
    )
    question = Question(demo, person, timeline, Supply(), ("own",), wish)
    found = lighten(question, to_the_end, told=False)
    keys = {piece.id for piece in own_pieces(found.after)}
    assert "wool-tee" not in keys
    assert "fleece-trousers" in keys


def test_a_spare_stays_until_its_rule_is_off_or_its_owner_leaves_it() -> None:
    course = demo_course("hot-canyon")
    person = course.person("maren")
    sweater = EVERYTHING["wool-sweater"].altered(spare=True)
    person = person.altered(garments=(*person.garments, sweater), overrules=())
    timeline = build_timeline(course)

    def kept(wish: Wish) -> bool:
        question = Question(course, person, timeline, Supply(), ("own",), wish)
        found = lighten(question, to_the_end, told=False)
        return any(piece.id == sweater.id for piece in own_pieces(found.after))

    assert kept(Wish())
    assert not kept(Wish(without=frozenset({"spare"})))
    assert not kept(Wish(outside=frozenset({sweater.id})))


def test_a_price_that_nobody_said_is_no_bargain(demo) -> None:
    person, timeline = demo.people[0], build_timeline(demo)
    some = {key: piece.model_copy(update={"cost": None}) for key, piece in EVERYTHING.items()}
    supply, wish = Supply(everything=some), Wish(objective="cost")
    question = Question(demo, person, timeline, supply, ("own", "buy"), wish)
    found = lighten(question, to_the_end, told=False)
    assert not found.incoming


def test_no_set_carries_a_second_pair_that_nobody_wears(demo) -> None:
    """A walker is warmer for any weight: rows and the mender alike must not count on that."""
    person = demo.people[0]
    socks = next(piece for piece in person.garments if "socks" in piece.name and piece.always)
    again = Offer(socks.altered(id="again", mass_g=socks.mass_g - 20), "buy", None)
    offers = [*offers_for(person, Supply(), ["own"]), again]
    wish = Wish(without=frozenset(get_args(RuleName)))
    problem = Problem(demo, person, build_timeline(demo), offers, wish)
    pair = tuple(n for n, e in enumerate(problem.pieces) if e.id in (socks.id, "again"))
    assert pair in problem.rivals()
    both = Chosen(tuple(range(len(problem.pieces))), 0, 0)
    assert not problem.keeps_rules(both)
    point = problem.point_of(both)
    mended = Mender(problem).mended(both)
    assert mended is not None
    assert problem.keeps_rules(problem.chosen(mended))
    rows = [row for row in problem.rows() if row.columns == pair]
    assert any(row.over(point) > 0 for row in rows)
