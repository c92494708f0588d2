"""The lightest set equals what a look at every subset finds, to the gram; its bounds never lie."""

import random

import numpy as np
import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.day.dressing import worth
from caldarium.core.day.states import TOLERANCE
from caldarium.core.lighten.glances import Glances
from caldarium.core.lighten.lightest import lightest
from caldarium.core.lighten.offers import offers_for, own_pieces
from caldarium.core.lighten.problem import GRACES, Chosen, Problem, Wish
from caldarium.core.lighten.proposal import Question, lighten, with_changes
from caldarium.core.lighten.verdict import fails
from caldarium.core.physics.quantities import CLO
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.turns import turns_of
from caldarium.core.plan.wardrobe import wardrobes
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


def at_random(problem: Problem, chance: random.Random) -> Chosen:
    """A set that keeps the rules, as good or bad as it comes."""
    _, high = problem.bounds
    share = chance.choice([0.05, 0.1, 0.2])
    have = {n for n in range(len(problem.pieces)) if high[n] and chance.random() < share}
    for rule in problem.rules:
        if rule.most is not None:
            have -= set(rule.pieces)
            have |= set(chance.sample(rule.pieces, rule.most))
        missing = [n for n in rule.pieces if n not in have]
        chance.shuffle(missing)
        have |= set(missing[: max(rule.least - len(have & set(rule.pieces)), 0)])
    for one, other in problem.rivals():
        if {one, other} <= have:
            have.discard(one)
    return Chosen(
        tuple(sorted(have)),
        chance.randrange(len(problem.tops)),
        chance.randrange(len(problem.bottoms)),
    )


@pytest.mark.parametrize("course", [demo_course(name) for name in DEMOS], ids=list(DEMOS))
def test_no_bound_forbids_a_set_that_holds(course) -> None:
    """Whatever a bound says is certainly lost, the verdict finds lost too."""
    chance = random.Random(3)
    person = chance.choice(course.people)
    offers = offers_for(person, Supply(everything=EVERYTHING), ["own", "buy"])
    problem = Problem(course, person, build_timeline(course), offers, Wish())
    sets = [at_random(problem, chance) for _ in range(30)]
    at = problem.columns
    nights = [m.id for m in build_timeline(course).moments if m.kind == "night"]
    for chosen, failing in zip(sets, problem.fully(sets), strict=True):
        point = problem.point_of(chosen)
        seen = problem.day.at(point[: at.bottoms.start])
        loss = seen.loss.sum(axis=1)
        for m in np.flatnonzero(loss > problem.allowed * (1 + SHARE)).tolist():
            assert (problem.awake[m].id, "gap") in failing
            # A straight bound at the point is no more than what is certain there.
            bound = problem.day.bound(m, seen)
            assert bound.weights @ seen.point + bound.constant <= loss[m] * (1 + 1e-6)
        if not any(kind in ("gap", "fingers", "toes") for _, kind in failing):
            assert_allows(problem, chosen, loss)
        if problem.night is not None:
            short = problem.night.short(point[at.clothes], point[at.tops], point[at.bottoms])
            for r in np.flatnonzero(short > 1e-6).tolist():
                assert (nights[problem.night.night[r]], "bed") in failing


SHARE = 0.005
"""By what share of its loss a wet halt may be bounded too high: wetness differs from set to set."""


def assert_allows(problem: Problem, chosen: Chosen, loss) -> None:
    """Some of the gloves that a set has, and of what it has for the feet, allow what it loses, and
    so do the lines over two moments."""
    have = set(chosen.clothes)
    for digits, allows, links in zip(problem.digits, problem.allows, problem.linked, strict=True):
        fit = [k for k, each in enumerate(digits.sets) if set(each) <= have]
        good = [k for k in fit if (loss <= allows[k] * (1 + SHARE)).all()]
        assert good
        for link in links:
            over = loss[link.moment] + link.slopes * loss[link.before]
            assert any((over <= link.most[:, k] * (1 + SHARE)).all() for k in good)


@pytest.mark.parametrize("course", [demo_course(name) for name in DEMOS], ids=list(DEMOS))
def test_a_quick_look_sees_what_the_verdict_sees(course) -> None:
    """With everything on, as wet as the verdict finds it, a set is worth the same at every moment,
    and fails surely where it lacks something."""
    chance = random.Random(5)
    person = chance.choice(course.people)
    offers = offers_for(person, Supply(everything=EVERYTHING), ["own", "buy"])
    problem = Problem(course, person, build_timeline(course), offers, Wish(), grace=GRACES[-1])
    glances, alike = Glances(problem), 0
    sets = [at_random(problem, chance) for _ in range(16)]
    people = [problem.person_in(each) for each in sets]
    for chosen, clad, sure in zip(sets, people, problem.verdicts.surely(people), strict=True):
        known = glances.like(chosen)
        seen = glances.quick.lacks(*glances.having([chosen]), known)
        dress = wardrobes((clad,))
        _, ready = problem.verdicts.ready(clad)
        whole = worth(dress, ready.whatever.outfits[:, :, -1:], ready.air).whole[0, :, 0]
        lack = ready.needs.held[0] - TOLERANCE * CLO - whole
        alike += bool(np.abs(seen.insulation[0] - lack).max() < 1e-9)
        gaps = {problem.awake[m].id for m in np.flatnonzero(lack > 0).tolist()}
        assert gaps == {moment for moment, kind in sure if kind == "gap"}
    # Long underwear that a hot walk keeps in the pack is all that it does not know.
    assert alike >= 12


def test_turns_are_those_of_wardrobes() -> None:
    """Which piece takes whose place in any set, for many at once, is what wardrobes says of one."""
    pieces = [each for each in EVERYTHING.values() if isinstance(each, Garment)]
    turns, chance = turns_of(pieces), random.Random(1)
    person = demo_course("autumn-fell").people[0]
    for share in (0.1, 0.2, 0.35):
        has = np.array([[chance.random() < share for _ in pieces] for _ in range(20)])
        instead, (shell, windshell) = turns.instead(has), turns.shells(has)
        for row in range(len(has)):
            there = np.flatnonzero(has[row]).tolist()
            clad = person.altered(garments=tuple(pieces[n] for n in there), overrules=())
            dress = wardrobes((clad,))
            place = {name: g for g, name in enumerate(dress.ids(0))}
            g = [place[pieces[n].id] for n in there]
            assert (dress.instead[0, g] == instead[row, there]).all()
            assert (dress.shell[0, g] == shell[row, there]).all()
            assert (dress.windshell[0, g] == windshell[row, there]).all()


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
