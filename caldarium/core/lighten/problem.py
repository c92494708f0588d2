"""What is asked of one person's set: pieces and beds on offer, rules, bounds and weights."""

import math
from collections.abc import Collection, Mapping, Sequence
from copy import copy
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, Self, get_args

import numpy as np
from numpy.typing import NDArray

from caldarium.core.day.digits import body_of
from caldarium.core.day.dressing import MOVING, bags_round_shoulders
from caldarium.core.day.outfits import BARE, face_freezes, place_before
from caldarium.core.day.states import TOLERANCE
from caldarium.core.lighten.bed_choices import Bottom, Part, Top, bottoms, tops
from caldarium.core.lighten.day_bounds import day_bounds, loss_allowed
from caldarium.core.lighten.digit_sets import Digit, DigitSets, digit_sets
from caldarium.core.lighten.laden import Laden, loaded
from caldarium.core.lighten.lain import Lain
from caldarium.core.lighten.least_wet import Ways
from caldarium.core.lighten.listed import asked_for, counting, good_enough
from caldarium.core.lighten.night_bounds import night_bounds
from caldarium.core.lighten.offers import Offer, own_grams
from caldarium.core.lighten.outside import outside_of
from caldarium.core.lighten.rounds import SAME, Row, at_most
from caldarium.core.lighten.rules import KEPT_AS_PLANNED, Rule, RuleName, rules_for
from caldarium.core.lighten.verdict import Fail, Verdicts, slack, worse
from caldarium.core.load.packing import litres
from caldarium.core.night.bedding import bag_top, bags_at_hand
from caldarium.core.night.berths import Berths, berths_of
from caldarium.core.physics import cold
from caldarium.core.physics.clothing import REGION_SHARE
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import warmth
from caldarium.core.plan.kit import Bag, Cover, Garment, Item, Liner, Pad
from caldarium.core.plan.turns import turns_of
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes
from caldarium.core.stock.supply import SOURCES
from caldarium.core.timeline.moments import Timeline
from caldarium.core.waiting import absent
from caldarium.core.what_if.swaps import same_job

HEAVIEST_G, MORE_G = 15_000.0, 2500.0
"""What a set may weigh, or beyond what is carried now where that is more, for the heat of walking
under it [g]: judgement, half as much again as the lightest sets of a deep winter."""
ROOM_G = 1000.0
"""How much heavier than the best known others are asked for too: at other prices, and at a stricter
caution [g]."""
MOST_LADEN = 400
"""Sets of which it is kept what is met under them: some 10 kB each."""
SURELY = 0.85
"""Of the least wetness seen, what every set is held to have: judgement, held against sets at random
in the tests."""
DRIES = 0.7
"""And of the least that drying was seen to ask for."""
FAR_G = 0.001
"""What a piece counts more for each source that is further, so that own pieces come first [g]."""
MOST_FAR_G = 0.5
"""More than that is in any set [g]."""
Objective = Literal["grams", "cost", "changes", "litres"]
OBJECTIVES: tuple[Objective, ...] = get_args(Objective)

Grace = Literal["no more than must", "all that does", "all that does, and worse"]
"""What of that which fails now may go on failing."""
GRACES: tuple[Grace, ...] = get_args(Grace)


@dataclass(frozen=True)
class Wish:
    """What is asked of a set: what is made least, pieces that are forced in or out by key, rules
    that are switched off, and the most pieces it may have.

    Where grams are made least, each unit of cost, each change and each litre may count as so many
    grams beside them; a cost that is not known counts nothing.
    """

    objective: Objective = "grams"
    inside: frozenset[str] = frozenset()
    outside: frozenset[str] = frozenset()
    without: frozenset[RuleName] = frozenset()
    most_pieces: int | None = None
    grams_a_cost: float = 0.0
    grams_a_change: float = 0.0
    grams_a_litre: float = 0.0

    @property
    def plain(self) -> bool:
        """Whether grams and nothing else are made least."""
        beside = (self.grams_a_cost, self.grams_a_change, self.grams_a_litre)
        return self.objective == "grams" and not any(beside)


@dataclass(frozen=True)
class Columns:
    """Where in a point what stands: pieces of clothing, tops, which of those that take turns is
    worn, bottoms, sets for fingers and for toes."""

    clothes: slice
    tops: slice
    worn: slice
    bottoms: slice
    fingers: slice
    toes: slice

    @property
    def count(self) -> int:
        """Columns in all. Source: none, bookkeeping."""
        return self.toes.stop


@dataclass(frozen=True)
class Chosen:
    """A set: clothes by place among the pieces on offer, and the places of its top and bottom."""

    clothes: tuple[int, ...]
    top: int
    bottom: int


class Problem:
    """Everything that is asked of one person's set, as columns, rows and bounds made on the way.

    Bounds come from physics made looser (see day_bounds, digit_sets, night_bounds); the verdict
    itself says of a whole point whether it holds. By grace what nothing on offer mends may go on
    failing no worse than now, or all that fails now, or that and worse.

    Args:
        course, person, timeline: the plan.
        offers: what may be taken.
        wish: what is made least, forced in and out.
        grace: what of that which fails now may go on failing.
        shared: keys of what others want too, so that it may be given a price.
    """

    def __init__(
        self,
        course: Course,
        person: Person,
        timeline: Timeline,
        offers: Sequence[Offer],
        wish: Wish,
        *,
        grace: Grace = "no more than must",
        shared: Collection[str] = (),
    ) -> None:
        self.course, self.person, self.timeline = course, person, timeline
        self._shared, self._prices = frozenset(shared), dict[str, float]()
        self._laden: dict[Chosen, Laden] = {}
        self.most_g = max(HEAVIEST_G, own_grams(person) + MORE_G)
        self.offers, self.wish = list(offers), wish
        self.places = [at for at, each in enumerate(offers) if isinstance(each.piece, Garment)]
        self.pieces: list[Garment] = [
            each.piece for each in offers if isinstance(each.piece, Garment)
        ]
        self.awake = [moment for moment in timeline.moments if moment.kind != "night"]
        self.place = {moment.id: at for at, moment in enumerate(self.awake)}
        self.asked = asked_for(course, person, timeline)
        self._lay_out_beds()
        self.rules = self._rules()
        self._meet()
        self._lain = Lain(self._berths_by)
        beyond = self._beyond_reach()
        self.waived = beyond if grace == "no more than must" else frozenset(self.now)
        deeper = np.inf if grace == "all that does, and worse" else 0.0
        self.may_fail = {fail: self.now[fail] + deeper for fail in self.waived}
        self._warm_by_day()
        self._bounds_by_night()
        self.day = day_bounds(
            self.air, self.local, self._outside, self.bags, self.allowed, self.turning
        )
        self.digits = self._sets_by_day()
        n, c, w, d = len(self.pieces), len(self.tops), len(self.turning), len(self.bottoms)
        s, u = (len(each.sets) for each in self.digits)
        ends = np.cumsum([n, c, w, d, s, u]).tolist()
        starts = [0, *ends[:-1]]
        self.columns = Columns(*(slice(a, b) for a, b in zip(starts, ends, strict=True)))
        self.bounds, self.weights = self._bounds(), self._weights()

    def _rules(self) -> list[Rule]:
        """The rules that are on; of what is kept as it is planned, less what the user leaves."""
        found: list[Rule] = []
        for rule in rules_for(self.course, self.person, self.timeline, self.pieces, self.asked):
            if rule.name in self.wish.without:
                continue
            left = tuple(n for n in rule.pieces if self.pieces[n].id not in self.wish.outside)
            least = min(rule.least, len(left)) if rule.name in KEPT_AS_PLANNED else rule.least
            if least:
                found.append(replace(rule, pieces=left, least=least))
        return found

    def _lay_out_beds(self) -> None:
        course, person = self.course, self.person
        nights = [day for day, plan in enumerate(course.days) if plan.camp is not None]
        own = any((plan := person.plan_of(day)) is None or plan.bed is None for day in nights)
        bags = [each for each in self.offers if not isinstance(each.piece, Garment)]
        lent_to = any(
            person.id in (each.bedding.beside, person.bedding.beside) and each.bag is None
            for each in course.people
            if each.id != person.id
        )
        needed_bed = own and bool(bags or person.bag or person.pads)
        self.tops: list[Top] = tops(person, self.offers, needed_bed)
        self.bottoms: list[Bottom] = bottoms(course, person, self.offers, needed_bed)
        self._as_listed()
        if lent_to:
            # Whoever lies under their bag too would be left without.
            self.tops = [each for each in self.tops if each.bag == person.bag][:1] or self.tops[:1]

    def _as_listed(self) -> None:
        """Leave out beds that are not what lists ask for, where there are others."""
        if "listed" in self.wish.without:
            return
        bags = [each for each in self.asked if each.wanted.sort == "bag"]
        pads = [each for each in self.asked if each.wanted.sort == "pad"]
        person = self.person
        known = [*(each.piece for each in self.offers), person.bag, *person.pads]
        lain_in = [each for each in known if isinstance(each, Bag)]
        lain_on = [each for each in known if isinstance(each, Pad)]
        good_bags, good_pads = (
            counting(self.course, person, *each) for each in ((bags, lain_in), (pads, lain_on))
        )

        def tops_do(top: Top) -> bool:
            there = [each for each in (top.bag, top.over) if each is not None]
            return good_enough(bags, good_bags, there)

        tops_left: list[Top] = [each for each in self.tops if tops_do(each)]
        bottoms_left: list[Bottom] = [
            each for each in self.bottoms if good_enough(pads, good_pads, each.pads)
        ]
        self.tops, self.bottoms = tops_left or self.tops, bottoms_left or self.bottoms

    def _meet(self) -> None:
        """What they meet, with as heavy a pack as a set may make it."""
        people = (_carrying(self.person, self.most_g - own_grams(self.person)),)
        self.air, self.needs = loaded(self.course, people, self.timeline, tuple(self.awake))
        self.verdicts = Verdicts(self.course, self.timeline, self.air, self.needs)

    def _there(self) -> Flags:
        """Where each piece may be worn by day [M x N]."""
        legs = {"thighs", "lower legs"}
        gone = absent(self.person, self.timeline)
        told = {(word.moment, word.garment) for word in self.person.overrules if word.worn}
        found = np.zeros((len(self.awake), len(self.pieces)), dtype=bool)
        for m, moment in enumerate(self.awake):
            for n, piece in enumerate(self.pieces):
                under = piece.layer == "base" and bool(legs & piece.cover.keys())
                fits = not piece.only_at_camp or self.air.at_camp[m] or under
                away = piece.id in gone.get(moment.id, frozenset())
                found[m, n] = (fits and not piece.only_asleep and not away) or (
                    moment.id,
                    piece.id,
                ) in told
        return found

    def usable(self) -> Flags:
        """Pieces that neither a rule nor the user bars [N]."""
        barred = {at for rule in self.rules for at in rule.barred}
        return np.array(
            [
                at not in barred and piece.id not in self.wish.outside
                for at, piece in enumerate(self.pieces)
            ],
            dtype=bool,
        )

    @property
    def _alone(self) -> set[int]:
        """Pieces of which a rule lets only so many be worn, as of footwear and trousers."""
        return {at for rule in self.rules if rule.most is not None for at in rule.pieces}

    def _beyond_reach(self) -> frozenset[Fail]:
        """What does not hold whatever is taken: neither as it is, nor with everything on offer,
        nor in the lightest that the rules allow."""
        fit, one = self.usable(), self._alone
        usable = [each for at, each in enumerate(self.pieces) if fit[at]]
        warm = warmth(self.pieces).local.max(axis=1) if self.pieces else np.zeros(0)
        cool = [each for at, each in enumerate(self.pieces) if fit[at] and at not in one]
        cool = [each for each in cool if each.always or each.layer == "base"]
        for rule in self.rules:
            if rule.most is not None:
                least = sorted(rule.pieces, key=lambda at: warm[at])[: rule.least]
                cool += [self.pieces[at] for at in least]
        best = max(self.tops, key=_worth_of)
        under = max(self.bottoms, key=lambda bottom: sum(pad.r_value for pad in bottom.pads))
        rich = self._dressed(usable, best, under)
        bare = self._dressed(cool, self.tops[0], self.bottoms[0])
        self.now, everything, coolest = self.verdicts.of([self.person, rich, bare])
        never = self.now.keys() & everything.keys()
        return frozenset(never & (coolest.keys() | _not_hot(frozenset(self.now))))

    def _dressed(self, pieces: Sequence[Garment], top: Top, bottom: Bottom) -> Person:
        known = {piece.id for piece in pieces}
        words = tuple(word for word in self.person.overrules if word.garment in known)
        clad = self.person.model_copy(update={"garments": tuple(pieces), "overrules": words})
        return bottom.on(top.on(clad))

    def chosen_of(self, keys: Collection[str]) -> Chosen | None:
        """A set by its keys; None for no keys, and where not all of it is on offer.

        Source: none, bookkeeping.
        """
        if not keys:
            return None
        clothes = tuple(n for n, piece in enumerate(self.pieces) if piece.id in keys)
        beds = {each.key for each in self.offers if not isinstance(each.piece, Garment)}
        pads = {each.key for each in self.offers if isinstance(each.piece, Pad)}
        lies = frozenset(keys) & beds
        over, under = self.keys_of(self.tops), self.keys_of(self.bottoms)
        if lies - pads not in over or lies & pads not in under:
            return None
        return Chosen(clothes, over.index(lies - pads), under.index(lies & pads))

    def person_in(self, chosen: Chosen) -> Person:
        """The person with a set. Source: none, bookkeeping."""
        pieces = [self.pieces[at] for at in chosen.clothes]
        return self._dressed(pieces, self.tops[chosen.top], self.bottoms[chosen.bottom])

    def berths(self, sets: Sequence[Chosen]) -> Berths:
        """What sets, one or more, lie in, and where. Source: core.night.berths."""
        return self._lain.of([(each.top, each.bottom) for each in sets])

    def _berths_by(self, beds: Sequence[tuple[int, int]]) -> Berths:
        """The same by top and bottom."""
        people = [self.person_in(Chosen((), top, bottom)) for top, bottom in beds]
        return berths_of(self.course, people, self.timeline)

    def laden(self, sets: Sequence[Chosen]) -> list[Laden]:
        """What is met with what each set weighs. Source: Verdicts.laden."""
        new = [each for each in dict.fromkeys(sets) if each not in self._laden]
        if len(self._laden) + len(new) > MOST_LADEN:
            self._laden = {each: self._laden[each] for each in sets if each in self._laden}
        found = self.verdicts.laden([self.person_in(each) for each in new])
        self._laden |= dict(zip(new, found, strict=True))
        return [self._laden[each] for each in sets]

    def under(self, sets: Sequence[Chosen], grams: Sequence[float]) -> list[Person]:
        """The person with each set and as much more as makes it weigh so much [g].

        Source: none, bookkeeping.
        """
        pairs = zip(sets, grams, strict=True)
        return [_carrying(self.person_in(each), most - self.grams(each)) for each, most in pairs]

    @cached_property
    def masses(self) -> Array:
        """What each column weighs [g]. Source: none, bookkeeping."""
        found, at = np.zeros(self.columns.count), self.columns
        found[at.clothes] = [piece.mass_g for piece in self.pieces]
        found[at.tops] = [bed.grams for bed in self.tops]
        found[at.bottoms] = [bed.grams for bed in self.bottoms]
        return found

    def grams(self, chosen: Chosen) -> float:
        """What a set weighs [g]. Source: none, a sum."""
        beds = self.tops[chosen.top].grams + self.bottoms[chosen.bottom].grams
        return sum(self.pieces[at].mass_g for at in chosen.clothes) + beds

    def grams_of_better(self, bound: float, value: float) -> tuple[float, float]:
        """Between what a set weighs that others could be better than [g].

        Args:
            bound, value: of a search: under what there is none, and what the best comes to.

        Source: what is made least; a price only makes a set count more than it weighs.
        """
        least = bound - MOST_FAR_G if self.wish.plain and not self._prices else 0.0
        most = value + ROOM_G if self.wish.plain else np.inf
        return max(least, 0.0), min(most, self.most_g)

    def _warm_by_day(self) -> None:
        """How warm pieces and bags are by day, and what each moment allows to be lost."""
        needs = self.needs
        self.there = there = self._there()
        figures = warmth(self.pieces)
        soaked = self._surely_wet()
        share = np.array([MATERIALS[piece.material].wet_share for piece in self.pieces])
        surely = 1 - soaked * (1 - share)
        self.warm = figures.local * figures.cover * REGION_SHARE
        local = (there * surely)[..., None] * (figures.local * figures.cover)
        told = {(word.moment, word.garment) for word in self.person.overrules if not word.worn}
        names = [moment.id for moment in self.awake]
        sure = there.copy()
        for m, name in enumerate(names):
            sure[m] &= np.array([(name, each.id) not in told for each in self.pieces], dtype=bool)
        ids, usable = self.everything.ids(0), self.usable()
        place = np.array([ids.index(piece.id) for piece in self.pieces], dtype=np.intp)
        self._outside = outside_of(
            self.pieces, place, figures.cover, there, sure, usable, self.rules
        )
        bags = bags_round_shoulders(
            self.course,
            [each.on(self.person) for each in self.tops],
            bags_at_hand([each.on(self.person) for each in self.tops], self.awake),
            self.awake,
        )
        self.bags, self.local = bags, local
        where = self.air.where
        bare = cold.air_layer(where.air_speed[0], where.walking_speed[0])
        names = [moment.id for moment in self.awake]
        deep = slack("gap")
        short = np.array([self.may_fail.get((name, "gap"), -deep) + deep for name in names])
        need = needs.held[0] + self.dries - (TOLERANCE + short) * CLO
        watched = need > 0
        allowed = loss_allowed(np.maximum(need, 1e-6), bare)
        self.allowed = np.where(watched, allowed, np.inf)
        self._anyway = np.where(watched, need, 0.0)
        self.face = self._face_rows(there)

    def _sets_by_day(self) -> tuple[DigitSets, DigitSets]:
        """Sets for fingers and for toes."""
        needs, usable = self.needs, self.usable()
        body = body_of(self.air, needs.neutral, needs, self.course.allowances)
        ids = [piece.id for piece in self.pieces]
        columns = self.day.local.shape[1]
        everything = np.concatenate([usable, np.ones(columns - len(usable))]).astype(float)
        most = self.day.worn(self.day.at(everything)).whole

        def wetness(people: list[Person]) -> Array:
            return SURELY * self.verdicts.wetness(people, ids)[0]

        def sets_of(digit: Digit) -> DigitSets:
            seen = [(moment.id, digit) not in self.waived for moment in self.awake]
            return digit_sets(
                digit,
                self.person,
                self.pieces,
                self.air,
                body,
                self.there,
                wetness,
                usable,
                np.array(seen),
                self._anyway,
                most,
                place_before(self.air),
            )

        return sets_of("fingers"), sets_of("toes")

    def _surely_wet(self) -> Array:
        """How wet each piece is at least by its role, 0 to 1 [M x N]: of the least that was seen a
        share, SURELY."""
        ids = [piece.id for piece in self.pieces]

        def wetness(ways: Sequence[Sequence[Garment]]) -> tuple[Array, Array]:
            people = [self._dressed(way, self.tops[0], self.bottoms[0]) for way in ways]
            return self.verdicts.wetness(people, ids)

        ways = Ways(
            self.pieces,
            self.usable().tolist(),
            self.rules,
            frozenset(self._alone),
            self.turning,
            self.person.garments,
        )
        wet, held = ways.least(wetness)
        self.soaked = wet
        self.dries = DRIES * np.maximum(held - self.needs.held[0], 0.0)
        stands = np.array([moment.kind not in MOVING for moment in self.awake])
        # What people walk in is decided by what they sweat into, which differs most.
        return SURELY * wet * stands[:, None]

    def _face_rows(self, there: Flags) -> list[tuple[float, ...]]:
        """For each way in which pieces are there, how much of a bare face each leaves, as
        logarithms, where a bare one would freeze."""
        freezes = face_freezes(self.air)[0]
        left = np.log1p(-np.minimum([piece.face for piece in self.pieces], 0.999))
        found = {
            tuple((left * there[m]).tolist())
            for m, moment in enumerate(self.awake)
            if freezes[m] and (moment.id, "face") not in self.waived
        }
        return sorted(found)

    def _bounds_by_night(self) -> None:
        gone = absent(self.person, self.timeline)
        nights = [moment for moment in self.timeline.moments if moment.kind == "night"]
        there = np.array(
            [
                [piece.id not in gone.get(night.id, frozenset()) for piece in self.pieces]
                for night in nights
            ],
            dtype=bool,
        ).reshape(len(nights), len(self.pieces))
        bounds = night_bounds(
            self.course, self.person, self.timeline, self.pieces, there, self.tops, self.bottoms
        )
        if bounds is not None:
            kept = [
                row
                for row, night in enumerate(bounds.night)
                if (nights[night].id, "bed") not in self.waived
            ]
            bounds = bounds.take(kept)
        self.night = bounds
        self._drop_beaten_beds()

    def _drop_beaten_beds(self) -> None:
        """Leave out beds that another is as warm as everywhere for no more weight, and can be had
        wherever they can."""
        weights = self._bed_weights(self.tops)
        figures = [self.bags.T]
        if self.night is not None:
            night = self.night
            rows = (night.upper.transpose(0, 2, 1), night.room.transpose(0, 2, 1))
            figures += [each.reshape(-1, len(self.tops)) for each in rows]
            figures += [night.kept, -night.wet, -night.pull, night.made]
        kept = self._unbeaten(weights, np.concatenate(figures), self.tops)
        self.tops = [self.tops[at] for at in kept]
        self.bags = self.bags[kept]
        below = -self.night.below if self.night is not None else np.zeros((0, len(self.bottoms)))
        under = self._unbeaten(self._bed_weights(self.bottoms), below, self.bottoms)
        self.bottoms = [self.bottoms[at] for at in under]
        if self.night is not None:
            self.night = self.night.of_beds(kept, under).hardest()

    def _bed_weights(self, beds: Sequence[Part]) -> Array:
        each = [self._weight(offer) for offer in self.offers]
        return np.array([sum(each[at] for at in bed.offers) for bed in beds])

    def _unbeaten(
        self, weights: Array, figures: Array, beds: Sequence[Top] | Sequence[Bottom]
    ) -> list[int]:
        """Places of beds that no lighter one is as good as [of figures, F x beds], whatever prices
        what is shared may have; all with pieces that are forced in stay."""
        told = self.wish.inside | self.wish.outside
        keys = self.keys_of(beds)
        kept: list[int] = []
        order: list[int] = np.argsort(weights, kind="stable").tolist()
        for at in order:
            least = figures[:, at, None] - 1e-12
            as_good = np.logical_and.reduce(figures[:, kept] >= least, axis=0)
            beaten = any(
                not told & keys[other] and keys[other] & self._shared <= keys[at]
                for other, good in zip(kept, as_good.tolist(), strict=True)
                if good
            )
            if keys[at] & told or not beaten:
                kept.append(at)
        return sorted(kept)

    def keys_of(self, beds: Sequence[Top] | Sequence[Bottom]) -> list[frozenset[str]]:
        """Keys of the pieces of each bed. Source: none, bookkeeping."""
        return [frozenset(self.offers[at].key for at in bed.offers) for bed in beds]

    def nearest_lighter(self, chosen: Chosen, at: int, most: int) -> list[int]:
        """The heaviest pieces lighter than a chosen one that do its job, so many at most.

        Source: core.what_if.swaps.
        """
        piece, (_, high) = self.pieces[at], self.bounds
        lighter = [
            n
            for n, other in enumerate(self.pieces)
            if n not in chosen.clothes
            and high[n] > 0
            and other.mass_g < piece.mass_g
            and same_job(piece, other)
        ]
        return sorted(lighter, key=lambda n: -self.pieces[n].mass_g)[:most]

    def rule_broken(self, chosen: Chosen) -> Rule | None:
        """The first rule that a set breaks. Source: rules."""
        have = set(chosen.clothes)
        for rule in self.rules:
            count, most = len(have & set(rule.pieces)), rule.most
            if count < rule.least or (most is not None and count > most) or have & set(rule.barred):
                return rule
        return None

    def lost_below(self, bottom: int) -> float:
        """What a bottom loses over all nights, to compare it by [W/m²]."""
        return float(self.night.below[:, bottom].sum()) if self.night is not None else 0.0

    def rows(self) -> list[Row]:
        """Rows that every set keeps. Source: rules, and what takes another's place."""
        at = self.columns
        worn = {piece: at.worn.start + k for k, piece in enumerate(self.turning)}
        found = [
            Row(tuple(range(part.start, part.stop)), (1.0,) * (part.stop - part.start), 1.0, 1.0)
            for part in (at.tops, at.bottoms, at.fingers, at.toes)
        ]
        for rule in self.rules:
            most = np.inf if rule.most is None else float(rule.most)
            found.append(Row(rule.pieces, (1.0,) * len(rule.pieces), float(rule.least), most))
        for part, sets in zip((at.fingers, at.toes), self.digits, strict=True):
            for kind, pieces in enumerate(sets.kinds):
                holds = [part.start + k for k, one in enumerate(sets.sets) if kind in one]
                columns = [worn.get(piece, piece) for piece in pieces]
                ones = (*(1.0,) * len(columns), *(-1.0,) * len(holds))
                found += [Row((*columns, *holds), ones, 0.0)] if holds else []
        found += [Row((column, piece), (1.0, -1.0), most=0.0) for piece, column in worn.items()]
        found += [Row((worn[a], worn[b]), (1.0, 1.0), most=1.0) for a, b in self._turns]
        for face in self.face:
            places = tuple(n for n, left in enumerate(face) if left)
            weights = tuple(-face[n] for n in places)
            found.append(Row(places, weights, -float(np.log(BARE)) - 1e-9))
        found += [Row(pair, (1.0, 1.0), most=1.0) for pair in self.rivals()]
        if self.wish.most_pieces is not None:
            weights = np.zeros(at.count)
            weights[at.clothes] = 1.0
            weights[at.tops] = [len(top.offers) for top in self.tops]
            weights[at.bottoms] = [len(bottom.offers) for bottom in self.bottoms]
            found.append(at_most(weights, float(self.wish.most_pieces)))
        return found

    @cached_property
    def everything(self) -> Wardrobes:
        """One wardrobe with every piece on offer."""
        clad = self.person.model_copy(update={"garments": tuple(self.pieces), "overrules": ()})
        return wardrobes((clad,))

    @cached_property
    def turning(self) -> list[int]:
        """Pieces that take turns and of which a rule may keep several: one is worn all day."""
        return sorted({at for pair in self._turns for at in pair})

    @cached_property
    def _turns(self) -> list[tuple[int, int]]:
        """Pairs of which one is worn all day and the other not, though both may be carried."""
        given = set(self.rivals())
        return [
            pair
            for pair in self._beaten()
            if pair not in given
            and all(self.pieces[at].always for at in pair)
            and not any(self._goes_part_of_the_way(self.pieces[at]) for at in pair)
        ]

    def turns_with(self, piece: int) -> list[int]:
        """What cannot be worn beside a piece all day. Source: none, bookkeeping."""
        return [b if a == piece else a for a, b in self._turns if piece in (a, b)]

    def rivals(self) -> list[tuple[int, int]]:
        """Pieces of which one takes the other's place wherever they go; both only where asked, as
        nobody carries a second pair of socks to be warmer by its weight."""
        return self._rivals

    @cached_property
    def _rivals(self) -> list[tuple[int, int]]:
        kept = {at for rule in self.rules if rule.least > 1 for at in rule.pieces}
        kept |= {at for at, piece in enumerate(self.pieces) if self._goes_part_of_the_way(piece)}
        kept |= {at for at, piece in enumerate(self.pieces) if piece.id in self.wish.inside}
        return [pair for pair in self._beaten() if not kept & set(pair)]

    def _beaten(self) -> list[tuple[int, int]]:
        """Pairs of which one takes the other's place where both are worn alike."""
        ids = self.everything.ids(0)
        place = {piece.id: at for at, piece in enumerate(self.pieces)}
        found: set[tuple[int, int]] = set()
        for one, other in np.argwhere(self.everything.beats[0]).tolist():
            pair = (place[ids[one]], place[ids[other]])
            pieces = [self.pieces[each] for each in pair]
            alike = pieces[0].only_at_camp == pieces[1].only_at_camp
            # One shell may be for rain and another for dry wind.
            if alike and pieces[0].layer != "shell":
                found.add((min(pair), max(pair)))
        return sorted(found)

    @staticmethod
    def _goes_part_of_the_way(piece: Garment) -> bool:
        return piece.waits_at is not None or piece.left_at is not None

    def _bounds(self) -> tuple[Array, Array]:
        """Least and most of every column."""
        low, high = np.zeros(self.columns.count), np.ones(self.columns.count)
        high[self.columns.clothes] = self.usable()
        for at, piece in enumerate(self.pieces):
            if piece.id in self.wish.inside:
                low[at] = high[at] = 1.0
        for part, beds in ((self.columns.tops, self.tops), (self.columns.bottoms, self.bottoms)):
            keys = [{self.offers[each].key for each in bed.offers} for bed in beds]
            wanted = self.wish.inside & {key for each in keys for key in each}
            for k, each in enumerate(keys):
                if each & self.wish.outside or not wanted <= each:
                    high[part.start + k] = 0.0
        return low, high

    def _weights(self) -> Array:
        """What is made least, over the columns; own pieces first where grams are the same, as far
        as exchanges of one piece find it, since no step so small is looked for."""
        found = np.zeros(self.columns.count)
        each = [self._weight(offer) for offer in self.offers]
        found[self.columns.clothes] = [each[at] for at in self.places]
        found[self.columns.tops] = self._bed_weights(self.tops)
        found[self.columns.bottoms] = self._bed_weights(self.bottoms)
        return found

    def _weight(self, offer: Offer) -> float:
        price = 0.0 if offer.source == "own" else self._prices.get(offer.key, 0.0)
        return self._worth(offer) + price

    def priced(self, prices: Mapping[str, float]) -> Self:
        """The same question where some offers that are not their own weigh so much more, by key;
        rows of it are rows of this one.

        Raises:
            ValueError: a price under 0, or of what is not shared.

        Source: none, bookkeeping.
        """
        if min(prices.values(), default=0.0) < 0 or not self._shared.issuperset(prices):
            raise ValueError("prices are of what is shared, and none is less than 0")
        found = copy(self)
        found._prices = dict(prices)
        found.weights = found._weights()
        return found

    def _worth(self, offer: Offer) -> float:
        """What an offer counts in what is made least."""
        far = FAR_G * SOURCES.index(offer.source)
        if self.wish.objective == "cost":
            return (offer.cost or 0.0) * 100 + offer.piece.mass_g / 1000
        if self.wish.objective == "changes":
            changes = -1.0 if offer.source == "own" else 1.0
            return 1000 * changes + offer.piece.mass_g / 100
        if self.wish.objective == "litres" and not isinstance(offer.piece, Liner | Cover):
            return 100 * litres(offer.piece)[0] + offer.piece.mass_g / 1000
        return offer.piece.mass_g + far + self._beside(offer)

    @property
    def step(self) -> float:
        """The least by which a set can be lighter than another, where grams alone are made least
        and masses are whole multiples of one; next to nothing otherwise."""
        masses = [10 * each.piece.mass_g for each in self.offers]
        uneven = any(abs(each - round(each)) > 1e-6 for each in masses)
        if uneven or self._prices or not self.wish.plain:
            return SAME
        return max(math.gcd(*map(round, masses)) / 10 - MOST_FAR_G, SAME)

    def _beside(self, offer: Offer) -> float:
        """What counts as grams beside an offer's own."""
        wish, room = self.wish, 0.0
        change = -1.0 if offer.source == "own" else 1.0
        if wish.grams_a_litre and not isinstance(offer.piece, Liner | Cover):
            room = litres(offer.piece)[0]
        costs = wish.grams_a_cost * (offer.cost or 0.0)
        return costs + wish.grams_a_change * change + wish.grams_a_litre * room

    def chosen(self, point: Array) -> Chosen:
        """The set at a whole point. Source: none, bookkeeping."""
        clothes = tuple(np.flatnonzero(point[self.columns.clothes] > 0.5).tolist())
        return Chosen(
            clothes,
            int(np.argmax(point[self.columns.tops])),
            int(np.argmax(point[self.columns.bottoms])),
        )

    def bare(self, has: Array) -> Array:
        """How far sets are from covering the face where it would freeze, by the clothes that each
        has [S x N]; 0 where they do [S].

        Source: core.day.outfits.
        """
        faces = np.array(self.face).reshape(len(self.face), len(self.pieces))
        left: Array = (has @ faces.T - np.log(BARE)).max(axis=1, initial=0.0)
        return left

    def keeps_rules(self, chosen: Chosen) -> bool:
        """Whether a set keeps every rule and has what is forced in. Source: rules."""
        return self.keep_rules([chosen])[0]

    def keep_rules(self, sets: Sequence[Chosen]) -> list[bool]:
        """Which sets keep every rule, have what is forced in, and nothing that only weighs as
        another takes its place. Source: rules."""
        has = np.zeros((len(sets), len(self.pieces)))
        for row, each in enumerate(sets):
            has[row, list(each.clothes)] = 1.0
        forced, counted, least, most = self._rule_table
        counts = has @ counted
        kept = np.logical_and.reduce((counts >= least) & (counts <= most), axis=1)
        there = np.logical_and.reduce(has[:, forced] > 0, axis=1)
        found: list[bool] = np.logical_and(kept, there).tolist()
        return found

    @cached_property
    def _rule_table(self) -> tuple[NDArray[np.intp], Array, Array, Array]:
        """Pieces that are forced in, and by rule, and pair of rivals, its pieces, its least and
        its most."""
        low, _ = self.bounds
        most = [np.inf if rule.most is None else rule.most for rule in self.rules]
        asked = [
            (rule.pieces, rule.least, up_to) for rule, up_to in zip(self.rules, most, strict=True)
        ]
        asked += [(pair, 0, 1) for pair in self.rivals()]
        counted = np.zeros((len(self.pieces), len(asked)))
        for k, (pieces, _, _) in enumerate(asked):
            counted[list(pieces), k] = 1.0
        limits = np.array([(least, up_to) for _, least, up_to in asked], dtype=float)
        least, up_to = limits.reshape(-1, 2).T
        return np.flatnonzero(low[self.columns.clothes]), counted, least, up_to

    def point_of(self, chosen: Chosen) -> Array:
        """The point of a set. Source: none, bookkeeping."""
        found = np.zeros(self.columns.count)
        found[list(chosen.clothes)] = 1.0
        found[self.columns.tops.start + chosen.top] = 1.0
        found[self.columns.bottoms.start + chosen.bottom] = 1.0
        clad = self.person_in(chosen).garments
        place = {piece.id: at for at, piece in enumerate(clad)}
        waits = turns_of(clad).instead(np.ones((1, len(clad)), dtype=bool))[0]
        for k, piece in enumerate(self.turning):
            at = place.get(self.pieces[piece].id)
            found[self.columns.worn.start + k] = at is not None and not waits[at]
        return found

    def fully(
        self, tried: Sequence[Chosen], grams: Sequence[float] | None = None
    ) -> list[frozenset[Fail]]:
        """What fails of sets by the whole verdict and may not, or is worse than it may be.

        Args:
            tried: the sets.
            grams: what each weighs at least [g].
        """
        least = [0.0] * len(tried) if grams is None else grams
        found = self.verdicts.of(self.under(tried, least))
        return [worse(each, self.may_fail) for each in found]


def _carrying(person: Person, grams: float) -> Person:
    """Somebody with so much more to carry, if any."""
    if grams <= 0:
        return person
    more = Item(id="more", name="more", mass_g=grams, purpose="comfort")
    return person.model_copy(update={"items": (*person.items, more)})


def _worth_of(top: Top) -> float:
    """How warm a top is, to find the best [m² K/W]."""
    parts = (top.liner, top.cover)
    bags = sum(bag_top(bag) for bag in (top.bag, top.over) if bag is not None)
    return bags + CLO * sum(part.clo for part in parts if part is not None)


def _not_hot(failing: frozenset[Fail]) -> frozenset[Fail]:
    return frozenset(each for each in failing if each[1] not in ("hot", "bed hot"))
