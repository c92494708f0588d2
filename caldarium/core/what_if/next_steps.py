"""The next best steps: of everything that could be done, the few that put most in order."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, TypeVar

from caldarium.core.assess import Assessment, wet_beds
from caldarium.core.day.states import MomentState
from caldarium.core.night.bedding import fits
from caldarium.core.night.camp import shelter_nights
from caldarium.core.night.nights import bed_margins
from caldarium.core.plan.changes import (
    add_piece,
    pitch,
    remove_piece,
    set_leg,
    with_person,
)
from caldarium.core.plan.course import MOST_GROUP, Course
from caldarium.core.plan.figures import regions_covered
from caldarium.core.plan.kit import Bag, Garment, GroupKit, Pad, Shelter
from caldarium.core.plan.value import NotThereError
from caldarium.core.reassess import Assessed, reassess
from caldarium.core.stock.inventory import Kit, Stored
from caldarium.core.stock.issue import give
from caldarium.core.tally import Tally, tally
from caldarium.core.what_if.cures import GapMoment, additions, cures, gap_moments, shared_cures
from caldarium.core.what_if.idle import idle_pieces
from caldarium.core.what_if.loans import loan_beds, uncovered
from caldarium.core.what_if.more_cures import lightest_set
from caldarium.core.what_if.other_hours import other_hours
from caldarium.core.what_if.progress import Heard

Kind = Literal["pieces", "lend", "roof", "hours", "shelter", "leave out"]
Aim = Literal["day", "holds", "fingers", "toes", "face", "beds", "heat", "shelter", "idle grams"]
Found = TypeVar("Found")
SHOWN = 3
USUAL = 30
"""Steps that are tried on an ordinary course, for the share that is done."""
MOMENTS, OFFERS = 3, 2
"""Moments with gaps that are looked at, and pieces tried at each."""
WEIGHTS = {"unfit": 8, "overladen": 3, "cold_beds": 6, "gaps": 4, "hot": 2, "at_risk": 1}
"""What putting one problem of a kind in order counts: judgement, by what each can do to people."""
PROBLEM_G, SAVED_G = 120.0, 600.0
"""Grams more that undo one point of WEIGHTS, and grams less that are worth one: judgement."""
LEAST_G = 150.0
"""Idle grams that are worth a step of their own [g]: judgement."""
ROOF, ROOF_KIND = "hold-shelter", "group-bag-8"
"""Group kit that a hold's shelter is, and the piece of the catalogue it is like."""


@dataclass(frozen=True)
class Step:
    """Something that can be done, and what for.

    who by id; what by id in the catalogue, tag of the store, or leg of the day; where a moment, a
    shelter or a day; at the hour of a start [h].
    """

    kind: Kind
    aim: Aim
    who: tuple[str, ...] = ()
    what: tuple[str, ...] = ()
    where: str = ""
    at: float = 0.0


@dataclass(frozen=True)
class Weighed:
    """A step with what the party would carry more [g], and the problems before and after it."""

    step: Step
    grams: float
    before: Tally
    after: Tally

    @property
    def gain(self) -> float:
        """What it puts in order, by WEIGHTS, less what its grams cost. Source: WEIGHTS."""
        return self.closes - self.grams / (PROBLEM_G if self.grams > 0 else SAVED_G)

    @property
    def opens_nothing(self) -> bool:
        """Whether no kind of problem is there more often than before. Source: none, bookkeeping."""
        return all(getattr(self.after, name) <= getattr(self.before, name) for name in WEIGHTS)

    @property
    def closes(self) -> int:
        """Problems that it puts in order, less those that it opens, by WEIGHTS. Source: WEIGHTS."""
        return sum(
            weight * (getattr(self.before, name) - getattr(self.after, name))
            for name, weight in WEIGHTS.items()
        )


@dataclass(frozen=True)
class Shelves:
    """What there is to take: the catalogue's pieces by id, and the store's."""

    everything: Mapping[str, Kit]
    stored: Sequence[Stored] = ()

    @property
    def garments(self) -> list[Garment]:
        """Clothing of the catalogue. Source: none, bookkeeping."""
        return [each for each in self.everything.values() if isinstance(each, Garment)]


def taken(course: Course, step: Step, shelves: Shelves) -> Course:
    """The course with a step done.

    Raises:
        NotThereError: where somebody or something that the step names is not there.
        ValidationError: where the course cannot have it.

    Source: none, bookkeeping.
    """
    for each in step.who:
        course.person(each)
    return _DOING[step.kind](course, step, shelves)


def _with_pieces(course: Course, step: Step, shelves: Shelves) -> Course:
    for each in step.who:
        for name in step.what:
            piece = _there(shelves.everything.get(name), name)
            if not isinstance(piece, Garment | Bag | Pad):
                raise NotThereError("piece", name)
            course = with_person(course, add_piece(course.person(each), piece))
    return course


def _with_loans(course: Course, step: Step, shelves: Shelves) -> Course:
    by_tag = {piece.tag: piece for piece in shelves.stored}
    for each, tag in zip(step.who, step.what, strict=False):
        course = give(course, each, _there(by_tag.get(tag), tag), shelves.everything)
    return course


def _at_other_hours(course: Course, step: Step, shelves: Shelves) -> Course:
    day = int(step.where) if step.where.isdecimal() and len(step.where) < 4 else len(course.days)
    if day >= len(course.days) or not step.what:
        raise NotThereError("day", step.where)
    return set_leg(course, day, step.what[0], start_h=step.at)


def _in_a_shelter(course: Course, step: Step, shelves: Shelves) -> Course:
    name = step.what[0] if step.what else ""
    tent = _there(shelves.everything.get(name), name)
    if not isinstance(tent, Shelter) or not step.who:
        raise NotThereError("shelter", name)
    return _pitched(course, step.who, tent)


def _without_pieces(course: Course, step: Step, shelves: Shelves) -> Course:
    for pair in step.what:
        who, _, piece = pair.partition(" ")
        course = with_person(course, remove_piece(course.person(who), piece))
    return course


def _there(found: Found | None, name: str) -> Found:
    if found is None:
        raise NotThereError("piece", name)
    return found


def _under_a_roof(course: Course, step: Step, shelves: Shelves) -> Course:
    """Everybody sits in a group shelter in a hold; where none is carried, enough of them are."""
    group = course.group
    if all(kit.id != ROOF for kit in group) and len(group) < MOST_GROUP:
        piece = shelves.everything.get(ROOF_KIND)
        if isinstance(piece, Shelter):
            kit = GroupKit(
                id=ROOF,
                name=piece.name,
                mass_g=piece.mass_g,
                per=piece.places,
                of="head",
                purpose="safety",
            )
            group = (*group, kit)
    return course.altered(hold_in_shelter=True, group=group)


def _pitched(course: Course, people: Sequence[str], tent: Shelter) -> Course:
    course = pitch(course, people[0], tent)
    place = course.person(people[0]).shelter
    for each in people[1:]:
        course = pitch(course, each, place)
    return course


_DOING: Mapping[Kind, Callable[[Course, Step, Shelves], Course]] = {
    "pieces": _with_pieces,
    "lend": _with_loans,
    "roof": _under_a_roof,
    "hours": _at_other_hours,
    "shelter": _in_a_shelter,
    "leave out": _without_pieces,
}


def next_steps(
    course: Course, result: Assessment, shelves: Shelves, heard: Heard | None = None
) -> list[Weighed]:
    """The steps that put most in order for their grams.

    Args:
        course: the plan.
        result: its assessment.
        shelves: what there is to take.
        heard: told the share that is done.

    Returns:
        At most SHOWN, best first, each weighed by itself against the course as it stands; none
        that leaves as much to do as before, but leaving idle grams at home.

    Source: the whole assessment with each step done; the choice by WEIGHTS is judgement.
    """
    known = Assessed(course, result)
    before = tally(result)
    party = _party_grams(result)
    found: list[Weighed] = []
    tried: set[Step] = set()
    for step in _candidates(course, result, shelves):
        if step in tried:
            continue
        tried.add(step)
        if heard is not None:
            heard(min(len(tried) / USUAL, 0.99))
        try:
            after = reassess(taken(course, step, shelves), known).result
        except ValueError:
            continue
        grams = _party_grams(after) - party
        weighed = Weighed(step, grams, before, tally(after))
        # Things are left at home only where that opens nothing; anything else must close something.
        worth = weighed.opens_nothing if step.kind == "leave out" else weighed.closes > 0
        if worth and weighed.gain > 0:
            found.append(weighed)
    return _apart(sorted(found, key=lambda each: -each.gain))


def _apart(found: Iterable[Weighed]) -> list[Weighed]:
    """The best of them that are no two ways to the same end."""
    kept: list[Weighed] = []
    for each in found:
        another = any(
            (each.step.aim == other.step.aim and each.step.aim != "shelter")
            or (each.step.what == other.step.what and each.step.kind == other.step.kind)
            for other in kept
        )
        if not another and len(kept) < SHOWN:
            kept.append(each)
    return kept


def _party_grams(result: Assessment) -> float:
    """What everybody together carries and wears on the first morning [g]."""
    return 1000 * sum(each.load.by_day[0] for each in result.people)


def _candidates(course: Course, result: Assessment, shelves: Shelves) -> Iterable[Step]:
    """Everything that is worth trying on this course."""
    yield from _against_gaps(course, result, shelves)
    yield from _against_cold_hands(course, result, shelves)
    yield from _against_cold_beds(course, result, shelves)
    yield from _against_heat(course, result)
    yield from _shelters(course, result, shelves)
    idle = idle_pieces(course, result)
    if sum(idle[each.id].grams(each) for each in course.people) >= LEAST_G:
        what = tuple(f"{who} {piece}" for who, mine in idle.items() for piece in mine.pieces)
        yield Step("leave out", "idle grams", what=what)


def _against_gaps(course: Course, result: Assessment, shelves: Shelves) -> Iterable[Step]:
    found = gap_moments(result)
    aims: dict[str, Aim] = {
        each.moment: "holds" if result.timeline.moment(each.moment).kind == "hold" else "day"
        for each in found
    }
    if "holds" in aims.values() and not course.hold_in_shelter:
        yield Step("roof", "holds")
    looked_at = [each for aim in ("day", "holds") for each in found if aims[each.moment] == aim]
    for gap in (*found[:MOMENTS], *looked_at[:1]):
        moment, aim = result.timeline.moment(gap.moment), aims[gap.moment]
        shared = shared_cures(course, result, moment, shelves.garments)
        whole = [each for each in shared if each.cured]
        by_grams = sorted(whole, key=lambda each: -len(each.cured) / max(each.piece.mass_g, 1.0))
        for each in (*whole[:OFFERS], *by_grams[:OFFERS]):
            yield Step("pieces", aim, each.cured, (each.piece.id,), gap.moment)
        closing = sorted(shared, key=lambda each: -each.closes / max(each.piece.mass_g, 1.0))
        for each in closing[:OFFERS]:
            yield Step("pieces", aim, (*each.cured, *each.helped), (each.piece.id,), gap.moment)
        if not whole:
            yield from _sets(course, result, shelves, gap, aim)


def _sets(
    course: Course, result: Assessment, shelves: Shelves, gap: GapMoment, aim: Aim
) -> Iterable[Step]:
    """The lightest set that cures the one who is shortest, for everybody who is short there."""
    moment = result.timeline.moment(gap.moment)
    states = {who: _state(result, who, gap.moment) for who in gap.people}
    worst = max(gap.people, key=lambda who: states[who].gap)
    person, state = course.person(worst), states[worst]
    helping = cures(additions(course, person, moment, state, shelves.garments), state)
    together = lightest_set(course, person, moment, state, helping)
    if together is not None:
        names = tuple(piece.id for piece in together.pieces)
        for who in dict.fromkeys(((worst,), gap.people)):
            yield Step("pieces", aim, who, names, gap.moment)


def _state(result: Assessment, person: str, moment: str) -> MomentState:
    return next(each for each in result.of(person).moments if each.moment == moment)


_OVER = {"fingers": {"hands"}, "toes": {"feet"}}
"""Regions that pieces against cold fingers and toes cover, and no others."""


def _against_cold_hands(course: Course, result: Assessment, shelves: Shelves) -> Iterable[Step]:
    """Pieces over hands, feet or face for everybody who has none as good."""
    parts: tuple[Aim, ...] = ("fingers", "toes", "face")
    for part in parts:
        at_risk = tuple(
            each.person
            for each in result.people
            if any(part in state.at_risk for state in each.moments)
        )
        if not at_risk:
            continue
        if part == "face":
            pieces = [each for each in shelves.garments if each.face >= 0.5]
        else:
            pieces = [
                each
                for each in shelves.garments
                if regions_covered(each) == _OVER[part] and not each.always
            ]
        warmest = sorted(pieces, key=lambda each: (-each.face, -(each.thickness_mm or 0)))
        lightest = sorted(pieces, key=lambda each: each.mass_g)
        for piece in dict.fromkeys(each.id for each in (*warmest[:3], *lightest[:2])):
            without = tuple(
                who
                for who in at_risk
                if all(own.id != piece for own in course.person(who).garments)
            )
            if without:
                yield Step("pieces", part, without, (piece,))


def _against_cold_beds(course: Course, result: Assessment, shelves: Shelves) -> Iterable[Step]:
    cold = uncovered({each.person: each.nights for each in result.people})
    if not cold:
        return
    wet = wet_beds(result)
    shelf = [each for each in shelves.stored if each.kind in ("bag", "quilt", "pad")]
    loans = loan_beds(course, result.timeline, cold, shelf, shelves.everything, wet)
    if loans:
        people = tuple(each.person for each in loans)
        yield Step("lend", "beds", people, tuple(each.tag for each in loans))
    worst = min(cold, key=lambda who: cold[who].margin)
    person = course.person(worst)
    offers = [
        piece
        for piece in shelves.everything.values()
        if isinstance(piece, Bag | Pad) and fits(person, piece)
    ]
    if offers:
        variants = [add_piece(person, piece) for piece in offers]
        margins = bed_margins(course, result.timeline, variants, wet).min(axis=1).tolist()
        ranked = sorted(
            zip(offers, margins, strict=True),
            key=lambda each: (each[1] < 0, each[0].mass_g if each[1] >= 0 else -each[1]),
        )
        yield Step("pieces", "beds", (worst,), (ranked[0][0].id,))


def _against_heat(course: Course, result: Assessment) -> Iterable[Step]:
    """Other hours on the hottest day, as they serve whoever is hot most."""
    hot = [
        (state.day, each.person)
        for each in result.people
        for state in each.moments
        if state.state == "hot"
    ]
    if not hot:
        return
    days = [day for day, _ in hot]
    day = max(sorted(set(days)), key=days.count)
    people = [who for when, who in hot if when == day]
    worst = max(sorted(set(people)), key=people.count)
    for other in other_hours(course, course.person(worst), day).others:
        yield Step("hours", "heat", what=(other.leg,), where=str(day), at=other.start)


def _shelters(course: Course, result: Assessment, shelves: Shelves) -> Iterable[Step]:
    """The lightest shelter that stands every night, for those whose own does not, or who have
    none."""
    tents = sorted(
        (
            each
            for each in shelves.everything.values()
            if isinstance(each, Shelter) and each.mass_g and each.kind != "group shelter"
        ),
        key=lambda each: each.mass_g,
    )
    unfit = dict.fromkeys(each.shelter for each in result.shelters if not each.fit)
    parties = [
        (shelter, tuple(each.id for each in course.people if each.shelter == shelter))
        for shelter in unfit
    ]
    bare = [each for each in result.open_nights if not each.fit]
    if bare:
        parties.append(("", bare[0].people))
    for shelter, people in parties:
        for tent in tents if people else ():
            if tent.places < len(people):
                continue
            trial = _pitched(course, people, tent)
            place = trial.person(people[0]).shelter
            nights = shelter_nights(trial, result.timeline)
            if all(each.fit for each in nights if each.shelter == place):
                yield Step("shelter", "shelter", people, (tent.id,), shelter)
                break
