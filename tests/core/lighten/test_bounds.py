"""Bounds never lie, and a quick look sees what the verdict sees."""

import random

import numpy as np
import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.day.dressing import worth
from caldarium.core.day.outfits import BARE
from caldarium.core.day.states import TOLERANCE
from caldarium.core.lighten.day_bounds import Worn
from caldarium.core.lighten.day_chains import UNHURT
from caldarium.core.lighten.digit_sets import MOST_SETS
from caldarium.core.lighten.glances import Glances
from caldarium.core.lighten.offers import offers_for
from caldarium.core.lighten.outside import outside_of
from caldarium.core.lighten.problem import GRACES, Chosen, Grace, Problem, Wish
from caldarium.core.lighten.rules import Rule
from caldarium.core.night.berths import berths_of
from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.quantities import CLO, Flags
from caldarium.core.plan.figures import OUTSIDE, warmth
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.turns import turns_of
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course
from tests.core.lighten.cases import at_random

EVERYTHING = load_catalogue().everything


def of_somebody(course, chance: random.Random, grace: Grace = GRACES[0]) -> Problem:
    """What is asked of somebody of a course with the whole catalogue to buy."""
    person = chance.choice(course.people)
    offers = offers_for(person, Supply(everything=EVERYTHING), ["own", "buy"])
    return Problem(course, person, build_timeline(course), offers, Wish(), grace=grace)


@pytest.mark.parametrize("course", [demo_course(name) for name in DEMOS], ids=list(DEMOS))
def test_no_bound_forbids_a_set_that_holds(course) -> None:
    """Whatever a bound says is certainly lost, the verdict finds lost too."""
    chance = random.Random(3)
    problem = of_somebody(course, chance)
    sets = [at_random(problem, chance) for _ in range(30)]
    at = problem.columns
    nights = [m.id for m in build_timeline(course).moments if m.kind == "night"]
    for chosen, failing in zip(sets, problem.fully(sets), strict=True):
        point = problem.point_of(chosen)
        seen = problem.day.at(point[: at.bottoms.start])
        loss = seen.least.sum(axis=1)
        for m in np.flatnonzero(loss > problem.allowed * (1 + 1e-6)).tolist():
            assert (problem.awake[m].id, "gap") in failing
            # A straight bound at the point is no more than what is certain there.
            bound = problem.day.bound(m, seen)
            assert bound.weights @ seen.point + bound.constant <= loss[m] * (1 + 1e-6)
        if not any(kind in ("gap", "fingers", "toes") for _, kind in failing):
            assert_allows(problem, chosen, problem.day.worn(seen))
        if problem.night is not None:
            short = problem.night.short(point[at.clothes], point[at.tops], point[at.bottoms])
            for r in np.flatnonzero(short > 1e-6).tolist():
                assert (nights[problem.night.night[r]], "bed") in failing


@pytest.mark.parametrize("course", [demo_course(name) for name in DEMOS], ids=list(DEMOS))
def test_a_straight_bound_holds_at_every_set(course) -> None:
    """What a bound made at one point says of another is no more than is certain there."""
    chance = random.Random(11)
    problem = of_somebody(course, chance)
    clad = slice(0, problem.columns.bottoms.start)
    points = [problem.point_of(at_random(problem, chance))[clad] for _ in range(24)]
    certain = np.array([problem.day.certain(point) for point in points])
    most = np.array([problem.day.worn(problem.day.at(point)).whole for point in points])
    hard = np.argsort(problem.allowed)[:4].tolist()
    near: list[float] = []
    for point in [*points[:8], np.mean(points[:3], axis=0), np.mean(points[3:5], axis=0)]:
        seen = problem.day.at(point)
        worn = problem.day.worn(seen)
        for m in hard:
            bound = problem.day.bound(m, seen)
            said = np.array(points) @ bound.weights + bound.constant
            assert (said <= certain[:, m] * (1 + 1e-6)).all()
            # And of what is worn no less than can be.
            bound = problem.day.worn_bound(m, worn)
            said = np.array(points) @ bound.weights + bound.constant
            assert (said >= most[:, m] * (1 - 1e-6)).all()
            near.append((bound.weights @ point + bound.constant) / max(worn.whole[m], 1e-9))
    assert np.median(near) < 1.002


def test_only_what_is_there_is_certainly_outermost() -> None:
    """A rain jacket that every set has keeps what lies under it out of the wind, where it is."""
    jacket, fleece = EVERYTHING["light-rain-jacket"], EVERYTHING["grid-fleece"]
    pieces = [fleece, jacket]
    cover = warmth(pieces).cover
    there = np.array([[True, True], [True, False]])
    rules = [Rule("rain above", 1, (1,))]
    yes = np.array([True, True])
    found = outside_of(pieces, np.array([0, 1]), cover, there, there, yes, rules)
    trunk = REGIONS.index("trunk")
    assert found.over[0, trunk] == OUTSIDE
    assert found.over[1, trunk] == -1
    # What may be worn in its place must lie there too.
    vest = jacket.altered(id="vest", cover={"trunk": 1.0})
    over = outside_of(
        [fleece, jacket, vest],
        np.arange(3),
        warmth([fleece, jacket, vest]).cover,
        np.ones((1, 3), dtype=bool),
        np.ones((1, 3), dtype=bool),
        np.ones(3, dtype=bool),
        rules,
    ).over
    assert over[0, trunk] == OUTSIDE
    assert over[0, REGIONS.index("arms")] == -1


IN_SIX_ON_THE_FEET = """
    briefs light-crew-synthetic light-trousers down-trousers mid-down-jacket big-down-jacket
    light-rain-jacket rain-trousers face-mask goggles light-balaclava liner-gloves ski-gloves
    wool-mitts down-mitts over-mitts vapour-socks thin-socks winter-socks waterproof-socks
    camp-booties double-boots bag-minus-26 thin-foam air-pad-5
"""


def test_no_bound_forbids_six_pieces_on_the_feet() -> None:
    """In the cold sets of many pieces are the lightest: each of them counts."""
    course = demo_course("deep-winter")
    timeline, person = build_timeline(course), course.people[0]
    offers = offers_for(person, Supply(everything=EVERYTHING), ["own", "buy"])
    problem = Problem(course, person, timeline, offers, Wish())
    chosen = problem.chosen_of(IN_SIX_ON_THE_FEET.split())
    assert chosen is not None
    assert problem.fully([chosen]) == [frozenset()]
    seen = problem.day.at(problem.point_of(chosen)[: problem.columns.bottoms.start])
    assert_allows(problem, chosen, problem.day.worn(seen))
    assert problem.digits[1].binding
    # As does each piece that is nearly alike, where there are too many for every set of them.
    many = dict(EVERYTHING)
    for key, piece in EVERYTHING.items():
        if isinstance(piece, Garment) and piece.thickness_mm is not None:
            for at, share in enumerate((0.95, 0.97)):
                told = {"id": f"{key}-{at}", "thickness_mm": piece.thickness_mm * share}
                many[f"{key}-{at}"] = piece.altered(**told)
    offers = offers_for(person, Supply(everything=many), ["own", "buy"])
    problem = Problem(course, person, timeline, offers, Wish())
    chosen = problem.chosen_of(IN_SIX_ON_THE_FEET.split())
    assert chosen is not None
    seen = problem.day.at(problem.point_of(chosen)[: problem.columns.bottoms.start])
    assert_allows(problem, chosen, problem.day.worn(seen))
    assert len(problem.digits[1].sets) <= MOST_SETS
    assert max(map(len, problem.digits[1].kinds)) > 1


def assert_allows(problem: Problem, chosen: Chosen, worn: Worn) -> None:
    """With some of the gloves that a set has, and of what it has for the feet, digits end every
    moment unhurt in a body that wears what it can, and no row says otherwise."""
    have = set(chosen.clothes)
    for digits in problem.digits:
        able: Flags = np.logical_and.reduce(
            (digits.chains.ends(worn.whole) >= UNHURT) | ~digits.chains.counts, axis=1
        )
        kinds = {k for k, pieces in enumerate(digits.kinds) if have & set(pieces)}
        fit = [k for k, each in enumerate(digits.sets) if set(each) <= kinds]
        assert any(able[digits.by == k].any() for k in fit) or not digits.binding
        for m in digits.binding:
            places = list(digits.asked[m].moments)
            for k in fit:
                slopes = digits.slopes(m, np.eye(len(digits.sets))[k], worn.whole[places])
                needs = digits.of_sum(m, slopes)
                assert slopes @ worn.whole[places] >= needs[fit].min() - 1e-9


@pytest.mark.parametrize("course", [demo_course(name) for name in DEMOS], ids=list(DEMOS))
def test_a_quick_look_sees_what_the_verdict_sees(course) -> None:
    """With everything on, as wet as the verdict finds it, a set is worth the same at every moment,
    and fails surely where it lacks something."""
    chance = random.Random(5)
    problem = of_somebody(course, chance, grace=GRACES[-1])
    glances, alike = Glances(problem), 0
    sets = [at_random(problem, chance) for _ in range(16)]
    people = [problem.person_in(each) for each in sets]
    for chosen, clad, sure in zip(
        sets,
        people,
        problem.verdicts.surely(people, problem.berths(sets), problem.laden(sets)),
        strict=True,
    ):
        known = glances.like(chosen)
        seen = glances.quick.lacks(*glances.having([chosen]), known)
        dress = wardrobes((clad,))
        _, ready = problem.verdicts.ready([clad], problem.berths([chosen]), problem.laden([chosen]))
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
def test_beds_of_many_sets_at_once_lack_what_those_of_each_do(course) -> None:
    """Variants laid by what they have of one wardrobe, in beds kept by their tops and bottoms, lie
    as in wardrobes and beds of their own."""
    chance = random.Random(2)
    problem = of_somebody(course, chance)
    sets = [at_random(problem, chance) for _ in range(12)]
    people = tuple(problem.person_in(each) for each in sets)
    has, _ = Glances(problem).having(sets)
    ids = problem.everything.ids(0)
    wet = np.random.default_rng(1).uniform(0, 0.2, (len(problem.awake), len(ids)))
    wet *= np.random.default_rng(2).integers(0, 2, wet.shape)
    many = problem.verdicts.beds_short(problem.berths(sets), problem.everything, has, wet)
    for row, (person, chosen) in enumerate(zip(people, sets, strict=True)):
        mine = wardrobes((person,))
        there = wet[:, [ids.index(name) for name in mine.ids(0)]]
        every = np.ones((1, mine.places), dtype=bool)
        berth = berths_of(problem.course, [person], problem.timeline)
        alone = problem.verdicts.beds_short(berth, mine, every, there)
        assert alone[0] == pytest.approx(many[row], abs=1e-9)
        kept = problem.everything.having(has[row : row + 1])
        assert kept.local.sum() == pytest.approx(mine.local.sum())
        assert len(chosen.clothes) == (kept.layer >= 0).sum()


@pytest.mark.parametrize("course", [demo_course(name) for name in DEMOS], ids=list(DEMOS))
def test_a_bed_that_is_looked_at_as_it_is_lacks_what_the_verdict_says(course) -> None:
    """Bounds may see nothing of a short bed; what is known of a night is then looked at itself."""
    chance = random.Random(8)
    problem = of_somebody(course, chance)
    glances, sets = Glances(problem), [at_random(problem, chance) for _ in range(24)]
    nights = [each.id for each in problem.timeline.moments if each.kind == "night"]
    for chosen, failing in zip(sets, problem.fully(sets), strict=True):
        known = glances.like(chosen)
        plain = glances.lacking([chosen], known)[0]
        for night in nights:
            more = glances.lacking([chosen], known, [night])[0] - plain
            if (night, "bed") not in problem.may_fail:
                assert (more > 0) == ((night, "bed") in failing)


def test_what_leaves_the_face_bare_is_found_of_many_sets_at_once() -> None:
    course, chance = demo_course("deep-winter"), random.Random(4)
    problem = of_somebody(course, chance)
    assert problem.face
    has = (np.random.default_rng(3).random((20, len(problem.pieces))) < 0.1).astype(float)
    for found, row in zip(problem.bare(has), has, strict=True):
        left = [np.prod(np.exp(np.array(face)[row > 0])) for face in problem.face]
        assert found == pytest.approx(max(0.0, np.log(max(left) / BARE)))
