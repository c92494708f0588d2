"""Whether a set holds: the course's own verdict on it, as a list of what fails where."""

from collections.abc import Callable, Mapping, Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from caldarium.core.assess import Assessment, assess_people, worn_in_bed
from caldarium.core.day.digits import body_of, fingers, glove_rungs, toes, warmest_starts
from caldarium.core.day.dressing import Air, Needs, bags_round_shoulders, worth
from caldarium.core.day.outfits import Dressers, Ready, make_ready, place_before
from caldarium.core.day.states import TOLERANCE, WET_FROM
from caldarium.core.day.wet_track import in_huts
from caldarium.core.lighten.laden import Laden, loaded, together
from caldarium.core.night.bedding import bags_at_hand
from caldarium.core.night.beds import Beds, in_clothes, to_spare, with_wet
from caldarium.core.night.berths import Berths, berths_of
from caldarium.core.person_result import PersonResult
from caldarium.core.physics import cold
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.extremities import FREEZES
from caldarium.core.physics.quantities import CLO, Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.wardrobe import Wardrobes, wardrobes
from caldarium.core.timeline.moments import Timeline

FailKind = Literal["gap", "bed", "hot", "bed hot", "fingers", "toes", "face"]
Fail = tuple[str, FailKind]
"""A moment or night, and what does not hold there."""
AT_A_TIME, BEDS_AT_A_TIME = 24, 96
"""Variants that are judged together, and of which the beds are: more do not fit the processor's
memory."""


DEEPER_CLO, DEEPER_K, DEEPER_MIN = 0.05, 0.3, 1.0
"""How much worse something that fails may become before that counts: judgement."""


def depths(result: PersonResult) -> dict[Fail, float]:
    """Everything that does not hold for one person, and how badly: gaps [clo], beds that are short
    of what this sleeper needs, wakeful or not, or too warm [K], heat as 0, and for fingers, toes
    and face at risk the minutes until they are hurt, less than none.

    Source: figures of the assessment.
    """
    found: dict[Fail, float] = {}
    for state in result.moments:
        if state.state == "gap":
            found[state.moment, "gap"] = state.gap
        elif state.state == "hot":
            found[state.moment, "hot"] = 0.0
        minutes: dict[FailKind, float] = {
            "fingers": state.fingers.safe_for,
            "toes": state.toes.safe_for,
            "face": state.frostbite,
        }
        found |= {(state.moment, part): -minutes[part] for part in minutes if part in state.at_risk}
    for night in result.nights:
        if night.state in ("gap", "cool"):
            found[night.moment, "bed"] = -night.margin
        elif night.state == "hot":
            found[night.moment, "bed hot"] = night.margin
    return found


def fails(result: PersonResult) -> frozenset[Fail]:
    """Everything that does not hold for one person. Source: figures of the assessment."""
    return frozenset(depths(result))


def slack(kind: FailKind) -> float:
    """How much deeper a failure may become before that counts. Source: judgement."""
    return {"gap": DEEPER_CLO, "bed": DEEPER_K, "bed hot": DEEPER_K}.get(kind, DEEPER_MIN)


def worse(after: Mapping[Fail, float], before: Mapping[Fail, float]) -> frozenset[Fail]:
    """What fails and did not before, or fails clearly worse.

    Args:
        after, before: from depths.

    Source: slack.
    """
    return frozenset(
        fail
        for fail, depth in after.items()
        if fail not in before or depth > before[fail] + slack(fail[1])
    )


def worse_by_person(before: Assessment, after: Assessment) -> dict[str, frozenset[Fail]]:
    """What is worse for whom in a course that was changed; only those for whom something is.

    Args:
        before, after: of the same people in the same order.

    Source: worse.
    """
    pairs = zip(before.people, after.people, strict=True)
    found = {now.person: worse(depths(now), depths(then)) for then, now in pairs}
    return {who: fails for who, fails in found.items() if fails}


def _nobody() -> None:
    """Nobody watches."""


class Verdicts:
    """Verdicts on variants of one person of a course: the whole one, and what quicker looks need
    of it.

    Args:
        course, timeline: the plan.
        air, needs: what the person meets, and what that asks [1 x M].
    """

    def __init__(self, course: Course, timeline: Timeline, air: Air, needs: Needs) -> None:
        self.course, self.timeline = course, timeline
        self.air, self.needs = air, needs
        self.asked = 0
        self.watch: Callable[[], None] = _nobody
        """Called before anything is judged; what it raises ends the work."""

    def of(self, people: Sequence[Person]) -> list[dict[Fail, float]]:
        """What fails for each variant, and how badly. Source: core.assess."""
        return [depths(each) for each in self.results(people)]

    def results(self, people: Sequence[Person]) -> list[PersonResult]:
        """What is found for each variant. Source: core.assess."""
        self.asked += len(people)
        found: list[PersonResult] = []
        for first in range(0, len(people), AT_A_TIME):
            self.watch()
            some = tuple(people[first : first + AT_A_TIME])
            found += assess_people(self.course, some, self.timeline)
        return found

    def ready(
        self, people: Sequence[Person], berths: Berths, laden: Sequence[Laden]
    ) -> tuple[Wardrobes, Ready]:
        """Their pieces, and what is known before they dress, each with their berth and laden as
        said.

        Source: core.day.outfits.
        """
        some = tuple(people)
        dress = wardrobes(some)
        return dress, self._ready(some, dress, berths, *together(laden))[0]

    def beds_short(self, berths: Berths, everything: Wardrobes, has: Flags, wet: Array) -> Array:
        """Heat that each variant's bed lacks on each night [W/m², P x nights].

        Args:
            berths: of the variants.
            everything: one wardrobe with all G pieces on offer.
            has: which of them each variant has [P x G].
            wet: of each at each moment [M x G].

        Source: core.night.beds.
        """
        found: list[Array] = []
        for first in range(0, len(has), BEDS_AT_A_TIME):
            self.watch()
            rows = range(first, min(first + BEDS_AT_A_TIME, len(has)))
            dress = everything.having(has[rows])
            beds = in_clothes(self.course, berths.take(rows), dress)
            there = np.broadcast_to(wet, (len(rows), *wet.shape))
            found.append(self._beds_lack(dress, beds, there))
        return np.concatenate(found)

    def laden(self, people: Sequence[Person]) -> list[Laden]:
        """What each variant meets with what it carries. Source: loaded."""
        if not people:
            return []
        self.watch()
        air, needs = loaded(self.course, tuple(people), self.timeline, self.air.moments)
        return [Laden.of(air, needs, row) for row in range(len(people))]

    def surely(
        self, people: Sequence[Person], berths: Berths, laden: Sequence[Laden]
    ) -> list[frozenset[Fail]]:
        """What fails of each variant whatever of it is worn: gaps and short beds with everything
        on, fingers and toes with that and any of the gloves. So does every set with less.

        Args:
            people: variants.
            berths: of each.
            laden: as what each of them is laden.

        Source: the same functions as core.assess; who is short wears everything.
        """
        found: list[frozenset[Fail]] = []
        for first in range(0, len(people), AT_A_TIME):
            self.watch()
            rows = range(first, min(first + AT_A_TIME, len(people)))
            some = slice(rows.start, rows.stop)
            found += self._surely(tuple(people[some]), berths.take(rows), laden[some])
        return found

    def _surely(
        self, people: tuple[Person, ...], berths: Berths, laden: Sequence[Laden]
    ) -> list[frozenset[Fail]]:
        dress = wardrobes(people)
        ready, beds = self._ready(people, dress, berths, *together(laden))
        air, everything = ready.air, ready.whatever.outfits[:, :, -1:]
        whole = worth(dress, everything, air).whole[..., 0]
        short = np.where(np.isfinite(whole), whole, 0.0) < ready.needs.held - TOLERANCE * CLO
        body = body_of(air, whole, ready.needs, self.course.allowances)
        before, minutes = place_before(air), 60 * body.hours[:, None]
        with_gloves = glove_rungs(dress, everything[:, :, 0])
        hurt: list[Flags] = []
        for part, outfits in ((fingers, with_gloves), (toes, everything)):
            digits = part(dress, outfits, air, body)
            start = warmest_starts(digits, body.hours, before)
            never: Flags = digits.until(FREEZES, start[..., None]) < minutes
            hurt.append(np.logical_and.reduce(never, axis=-1))
        beds_short = self._beds_lack(dress, beds, air.wet) > 0
        names = [moment.id for moment in air.moments]
        nights = [night.id for night in beds.site.nights]
        kinds: tuple[tuple[FailKind, Flags, list[str]], ...] = (
            ("gap", short, names),
            ("fingers", hurt[0], names),
            ("toes", hurt[1], names),
            ("bed", beds_short, nights),
        )
        return [
            frozenset(
                (those[at], kind)
                for kind, flags, those in kinds
                for at in np.flatnonzero(flags[row]).tolist()
            )
            for row in range(len(people))
        ]

    def wetness(self, people: Sequence[Person], names: Sequence[str]) -> tuple[Array, Array]:
        """How wet pieces are at each moment, 0 to 1 [P x M x N]; those not carried count as soaked.
        And what is to be held with what drying asks [m² K/W, P x M].

        Source: core.day.wet_track.
        """
        found = np.ones((len(people), len(self.air.moments), len(names)))
        held = np.zeros(found.shape[:2])
        for first in range(0, len(people), AT_A_TIME):
            some = tuple(people[first : first + AT_A_TIME])
            dress = wardrobes(some)
            berths = berths_of(self.course, some, self.timeline)
            ready, _ = self._ready(some, dress, berths, self.air, self.needs)
            held[first : first + len(some)] = ready.needs.held
            for row in range(len(some)):
                place = {name: g for g, name in enumerate(dress.ids(row))}
                there = [n for n, name in enumerate(names) if name in place]
                places = [place[names[n]] for n in there]
                found[first + row][:, there] = ready.air.wet[row][:, places]
        return found, held

    def _ready(
        self,
        people: tuple[Person, ...],
        dress: Wardrobes,
        berths: Berths,
        load: Air,
        needs: Needs,
    ) -> tuple[Ready, Beds]:
        """What the variants can wear and how wet that is, and their beds, in the air of one for all
        or of each, and with the needs there."""
        course, moments = self.course, self.air.moments
        beds = in_clothes(course, berths, dress)
        areas = body_area(
            np.array([person.body_mass_kg for person in people]),
            np.array([person.height_m for person in people]),
        )
        nobody: NDArray[np.intp] = np.zeros((len(people), 0), dtype=np.intp)
        who = Dressers(
            people,
            course.allowances,
            worn_in_bed(course, beds, dress),
            areas[:, None],
            nobody,
            in_huts(course, people),
        )
        bags = bags_round_shoulders(course, people, bags_at_hand(people, moments), moments)
        air = _for_many(load, len(people), dress.places, bags)
        many = Needs(*(np.broadcast_to(part, air.bag.shape) for part in vars(needs).values()))
        return make_ready(who, dress, air, many, ends=True), beds

    def _beds_lack(self, dress: Wardrobes, beds: Beds, wet: Array) -> Array:
        """Heat that each bed lacks on each night [W/m², P x N]."""
        nights = beds.site.nights
        if not nights:
            return np.zeros((len(wet), 0))
        places = {night.day: place for place, night in enumerate(nights)}
        share = np.zeros(beds.worn.shape)
        for column, moment in enumerate(self.air.moments):
            if moment.kind == "camp" and moment.day in places:
                there = wet[:, column]
                share[:, places[moment.day]] = np.where(there > WET_FROM, there, 0.0)
        if share.any():
            beds = with_wet(beds, dress, share)
        return -to_spare(beds)


def _for_many(air: Air, count: int, places: int, bags: Array) -> Air:
    """The air of one person or of each of many, for many, dry, with bags of their own."""
    shape = (count, air.where.air.shape[1])
    where, warm = (
        cold.Exposure(*(np.broadcast_to(part, shape) for part in vars(side).values()))
        for side in (air.where, air.warm)
    )
    wet = np.zeros((*shape, places))
    return Air(air.moments, where, warm, wet, bags, air.stormy, air.wet_through, air.at_camp)
