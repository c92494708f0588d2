"""Small cases of the lightest set at random, and the truth about them by every subset."""

import random
from itertools import product

from caldarium.catalogue import load_catalogue
from caldarium.core.lighten.offers import Offer, offers_for
from caldarium.core.lighten.problem import Chosen, Problem, Wish
from caldarium.core.plan.kit import Garment
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import DEMOS, demo_course

CATALOGUE = load_catalogue()
BATCH = 48


def nothing(*_: object) -> None:
    """Makes nothing of anything."""


def case(seed: int, free: int) -> Problem:
    """Somebody of a demo course with a few pieces of the catalogue more, most of them forced."""
    chance = random.Random(seed)
    course = demo_course(chance.choice(list(DEMOS)))
    course = course.altered(caution=chance.choice(["as forecast", "cautious", "expedition"]))
    person = chance.choice(course.people).altered(overrules=())
    garments = list(CATALOGUE.garments.values())
    chance.shuffle(garments)
    own = {piece.id for piece in person.garments}
    more = [piece for piece in garments if piece.id not in own][: chance.choice([2, 4, 6])]
    offers = offers_for(person, Supply(), ["own"])
    offers += [Offer(piece, "buy", None) for piece in more]
    has = {person.bag.id if person.bag else "", *(pad.id for pad in person.pads)}
    bags = [piece for piece in CATALOGUE.bags.values() if piece.id not in has]
    pads = [piece for piece in CATALOGUE.pads.values() if piece.id not in has]
    offers += [Offer(chance.choice(bags), "buy", None), Offer(chance.choice(pads), "buy", None)]
    keys = [each.key for each in offers if isinstance(each.piece, Garment)]
    chance.shuffle(keys)
    told = keys[free:]
    wish = Wish(
        inside=frozenset(key for key in told if key in own),
        outside=frozenset(key for key in told if key not in own),
    )
    return Problem(course, person, build_timeline(course), offers, wish)


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


def kept_sets(problem: Problem) -> list[tuple[float, Chosen]]:
    """Every set that keeps the rules, and what it weighs, the lightest first."""
    low, high = problem.bounds
    at = problem.columns
    free = [n for n in range(len(problem.pieces)) if high[n] > 0 and low[n] < 1]
    forced = [n for n in range(len(problem.pieces)) if low[n] > 0]
    tops = [k for k in range(len(problem.tops)) if high[at.tops.start + k] > 0]
    bottoms = [k for k in range(len(problem.bottoms)) if high[at.bottoms.start + k] > 0]
    found: list[tuple[float, Chosen]] = []
    for bits in product((0, 1), repeat=len(free)):
        clothes = tuple(sorted([*forced, *(n for n, on in zip(free, bits, strict=True) if on)]))
        for top, bottom in product(tops, bottoms):
            chosen = Chosen(clothes, top, bottom)
            if problem.keeps_rules(chosen):
                found.append((float(problem.weights @ problem.point_of(chosen)), chosen))
    return sorted(found, key=lambda each: each[0])


def by_every_subset(problem: Problem) -> float | None:
    """What the lightest subset weighs that the course's verdict lets pass; None where none does."""
    found = kept_sets(problem)
    for first in range(0, len(found), BATCH):
        some = found[first : first + BATCH]
        verdicts = problem.fully([chosen for _, chosen in some])
        for (value, _), failing in zip(some, verdicts, strict=True):
            if not failing:
                return value
    return None
