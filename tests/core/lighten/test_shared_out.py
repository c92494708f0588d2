"""What is scarce, shared out: held against every split of every subset."""

import random
from collections import Counter
from itertools import product

import numpy as np
import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.lighten.offers import own_pieces
from caldarium.core.lighten.problem import Chosen, Problem, Wish
from caldarium.core.lighten.proposal import Question
from caldarium.core.lighten.shared_out import NEAR_TOGETHER, Member, shared_out
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.issue import kit_id
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import demo_course
from tests.core.lighten.cases import BATCH, kept_sets

CATALOGUE = load_catalogue()
Uses = tuple[int, ...]


def to_the_end(share, search) -> bool:
    return True


def members_at_random(seed: int) -> tuple[list[Member], np.ndarray]:
    """Everybody of a small course, who may leave a little of theirs at home, and a store with one
    or two of some pieces like those, and lighter."""
    chance = random.Random(seed)
    course = demo_course(chance.choice(["hot-canyon", "high-plateau"]))
    timeline = build_timeline(course)
    own = Counter(piece.id for person in course.people for piece in own_pieces(person))
    shared = sorted(key for key in own if key in CATALOGUE.garments and own[key] > 1)
    leaves = chance.sample(shared, 5)
    wish = Wish(inside=frozenset(own.keys() - set(leaves)))
    some = [CATALOGUE.garments[key] for key in leaves[:3]]
    counts = [chance.choice([1, 1, 2]) for _ in some]
    stored = [
        Stored(
            tag=f"T-{at}",
            name=piece.name,
            kind="garment",
            like=piece.id,
            mass_g=round(piece.mass_g * chance.uniform(0.4, 0.9)),
            count=count,
        )
        for at, (piece, count) in enumerate(zip(some, counts, strict=True))
    ]
    supply = Supply(stored, everything=CATALOGUE.everything)
    things = {kit_id(each): at for at, each in enumerate(stored)}
    members = [
        Member(Question(course, each, timeline, supply, ("own", "store"), wish), things, len(some))
        for each in course.people
    ]
    return members, np.array(counts, dtype=float)


def lightest_by_use(problem: Problem, member: Member) -> dict[Uses, float]:
    """The least that a set weighs which holds, by what it takes of what is scarce."""
    found: dict[Uses, float] = {}
    listed = kept_sets(problem)
    for first in range(0, len(listed), BATCH):
        some: list[tuple[float, Chosen]] = listed[first : first + BATCH]
        verdicts = problem.fully([chosen for _, chosen in some])
        for (value, chosen), failing in zip(some, verdicts, strict=True):
            uses = tuple((problem.point_of(chosen) @ member.uses).astype(int).tolist())
            if not failing:
                found[uses] = min(found.get(uses, np.inf), value)
    return found


def lightest_split(by_person: list[dict[Uses, float]], counts: np.ndarray) -> float:
    """The least that sets of everybody weigh that take no more than there is."""
    least = np.inf
    for each in product(*(one.items() for one in by_person)):
        taken = np.sum([uses for uses, _ in each], axis=0)
        if (taken <= counts).all():
            least = min(least, sum(value for _, value in each))
    return least


def check(seed: int) -> None:
    members, counts = members_at_random(seed)
    split = shared_out(members, counts, to_the_end)
    able = [each for each in split.members if not each.none]
    by_person = [lightest_by_use(each.problem, each) for each in able]
    assert all(by_person)
    assert [chosen is not None for chosen in split.sets] == [not m.none for m in split.members]
    truth = lightest_split(by_person, counts)
    assert split.bound <= truth + 1e-3
    assert split.fits == bool(np.isfinite(truth))
    if split.fits:
        assert truth - 1e-3 <= split.value <= truth * (1 + NEAR_TOGETHER) + 1e-3
        assert not split.proven or split.value == pytest.approx(truth, abs=1e-2)
        assert split.bound >= truth * (1 - 0.03)


def test_what_is_lent_already_is_taken_from_nobody() -> None:
    """Two have one of three each; what is left is one, and neither needs it."""
    course = demo_course("hot-canyon")
    piece = CATALOGUE.garments["synthetic-tee"]
    stored = [
        Stored(
            tag="T-1", name="tee", kind="garment", like=piece.id, mass_g=piece.mass_g / 2, count=3
        )
    ]
    supply = Supply(stored, {"t-1": 1}, CATALOGUE.everything)
    tee = piece.altered(id=kit_id(stored[0]), mass_g=piece.mass_g / 2)
    people = [each.altered(garments=(*each.garments, tee)) for each in course.people[:2]]
    course = course.altered(people=(*people, *course.people[2:]))
    timeline, things = build_timeline(course), {tee.id: 0}
    members = [
        Member(Question(course, each, timeline, supply, ("own", "store")), things, 1)
        for each in course.people
    ]
    assert [each.uses.any() for each in members] == [False, False, True, True]
    dearer = members[0].problem.priced({tee.id: 500.0})
    assert (dearer.weights == members[0].problem.weights).all()
    dearer = members[2].problem.priced({tee.id: 500.0})
    assert (dearer.weights - members[2].problem.weights).max() == pytest.approx(500.0)
    with pytest.raises(ValueError, match="prices"):
        members[2].problem.priced({tee.id: -1.0})


@pytest.mark.parametrize("seed", [1, 2, 6, 14])
def test_no_split_is_lighter(seed: int) -> None:
    check(seed)


@pytest.mark.slow
@pytest.mark.parametrize("seed", [3, 4, 8, 9, *range(15, 23)])
def test_no_split_of_twelve_more_is_lighter(seed: int) -> None:
    check(seed)
