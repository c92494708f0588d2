"""Changes to a course value: each takes a course and gives a new, validated one."""

from collections.abc import Collection, Iterable, Sequence
from math import ceil

from caldarium.core.plan.course import Course, Overrule, Person
from caldarium.core.plan.kit import (
    Bag,
    Bedding,
    Garment,
    Item,
    LegEnd,
    NightPlan,
    OtherBed,
    Pad,
    Part,
    Shelter,
)
from caldarium.core.plan.legs import stages
from caldarium.core.plan.route import STILL, Day, Leg
from caldarium.core.plan.value import NotThereError

Piece = Garment | Pad | Item | Bag


def with_person(course: Course, person: Person) -> Course:
    """The course with the person of that id replaced. Source: none, bookkeeping."""
    people = (person if each.id == person.id else each for each in course.people)
    return course.altered(people=tuple(people))


def with_day(course: Course, index: int, day: Day) -> Course:
    """The course with one day replaced, see with_days. Source: none, bookkeeping."""
    days = list(course.days)
    days[index] = day
    return with_days(course, days)


def with_days(course: Course, days: Sequence[Day], **parts: object) -> Course:
    """The course with other days, and without caches and drop bags at legs that are gone, and
    plans for nights that are.

    Source: none, bookkeeping.
    """
    ends = {(place, leg.id) for place, day in enumerate(days) for leg in day.legs}
    caches = tuple(each for each in course.caches if (each.day, each.leg) in ends)

    def still(end: LegEnd | None) -> LegEnd | None:
        return end if end is not None and (end.day, end.leg) in ends else None

    def left(person: Person) -> Person:
        things = (*person.items, *person.garments)
        ends_kept = all(
            still(end) is end for each in things for end in (each.waits_at, each.left_at)
        )
        nights = tuple(plan for plan in person.nights if plan.day < len(days))
        if ends_kept and nights == person.nights:
            return person
        parts = {
            name: tuple(
                each.altered(waits_at=still(each.waits_at), left_at=still(each.left_at))
                for each in getattr(person, name)
            )
            for name in ("items", "garments")
        }
        return person.altered(**parts, nights=nights)

    people = tuple(left(person) for person in course.people)
    return course.altered(days=tuple(days), caches=caches, people=people, **parts)


def without_person(course: Course, identifier: str) -> Course:
    """The course without a person, and without what others were to share with them.

    Kit and parts of shelters that they were given are nobody's again.

    Source: none, bookkeeping.
    """
    people = tuple(
        _without_partner(each, identifier) for each in course.people if each.id != identifier
    )
    rules = (
        each.altered(people=left) if len(left) > 1 else None
        for each in course.sleep_rules
        for left in [tuple(who for who in each.people if who != identifier)]
    )
    helpers = tuple(
        each.altered(drawn_by=None) if each.drawn_by == identifier else each
        for each in course.helpers
    )
    kept = tuple(each for each in rules if each)
    ready = tuple(each for each in course.ready if each.person != identifier)
    return course.altered(people=people, sleep_rules=kept, helpers=helpers, ready=ready)


def without_helper(course: Course, identifier: str) -> Course:
    """The course without a porter, animal or sled; what it carried goes back to its owners, and
    of the group's kit to nobody yet.

    Source: none, bookkeeping.
    """
    people = tuple(
        person
        if all(item.on != identifier for item in person.items)
        else person.altered(
            items=tuple(
                item.altered(on=None) if item.on == identifier else item for item in person.items
            )
        )
        for person in course.people
    )
    helpers = tuple(each for each in course.helpers if each.id != identifier)
    return course.altered(people=people, helpers=helpers)


def _without_partner(person: Person, gone: str) -> Person:
    """Somebody, alone in those of their beds that they shared with whoever has left."""

    def alone(bedding: Bedding) -> Bedding:
        return bedding.altered(beside=None) if bedding.beside == gone else bedding

    nights = tuple(
        plan.altered(bed=plan.bed.altered(bedding=alone(plan.bed.bedding))) if plan.bed else plan
        for plan in person.nights
    )
    return person.altered(bedding=alone(person.bedding), nights=nights)


def with_altitude(day: Day, before: float, after: float) -> Day:
    """The day with every leg that ends at one altitude ending at another [m].

    What was measured along such a leg no longer fits it and is dropped.

    Source: none, bookkeeping.
    """
    legs = tuple(
        leg.altered(to_altitude_m=after, climb_m=None, fall_m=None, points=())
        if leg.to_altitude_m == before
        else leg
        for leg in day.legs
    )
    return day.altered(legs=legs)


def set_leg(course: Course, index: int, identifier: str, **parts: object) -> Course:
    """The course with parts of one leg replaced; a stop right after it stays with its end.

    Source: none, bookkeeping.
    """
    before = find_leg(course, index, identifier)
    moved = parts.get("to_altitude_m", before.to_altitude_m) != before.to_altitude_m
    if moved and before.points:
        parts = {"climb_m": None, "fall_m": None, "points": ()} | parts
    after = before.altered(**parts)
    legs = list(course.days[index].legs)
    at = legs.index(before)
    legs[at] = after
    for later in range(at + 1, len(legs)):
        if legs[later].kind not in STILL:
            break
        legs[later] = legs[later].altered(to_altitude_m=after.to_altitude_m)
    return with_day(course, index, course.days[index].altered(legs=tuple(legs)))


def at_pace(course: Course, index: int, identifier: str, pace: float) -> Course:
    """The course with one leg walked no quicker than a pace.

    Args:
        course: the plan.
        index: of the day.
        identifier: of the leg.
        pace: [m/s].

    Returns:
        The course; the leg's hours are rounded up, so that nobody is left behind.

    Source: none, arithmetic.
    """
    hours = find_leg(course, index, identifier).distance_km / (3.6 * pace)
    return set_leg(course, index, identifier, hours=ceil(100 * hours) / 100)


def add_leg(course: Course, index: int) -> Course:
    """The course with one more leg at a day's end: level, short, to be changed.

    Source: none, bookkeeping.
    """
    day = course.days[index]
    name = fresh_id("leg", [leg.id for leg in day.legs])
    leg = Leg(id=name, kind="traverse", distance_km=2, to_altitude_m=course.ends[index])
    return with_day(course, index, day.altered(legs=(*day.legs, leg)))


def remove_leg(course: Course, index: int, identifier: str) -> Course:
    """The course without one leg, and without overrules at its moments.

    Source: none, bookkeeping.
    """
    find_leg(course, index, identifier)
    day = course.days[index]
    legs = tuple(leg for leg in day.legs if leg.id != identifier)
    start = f"{index + 1}.{identifier}."
    people = tuple(
        person.altered(
            overrules=tuple(each for each in person.overrules if not each.moment.startswith(start))
        )
        for person in course.people
    )
    return with_day(course.altered(people=people), index, day.altered(legs=legs))


def find_leg(course: Course, index: int, identifier: str) -> Leg:
    """The leg of that id on one day.

    Raises:
        NotThereError: if there is none.

    Source: none, bookkeeping.
    """
    for leg in course.days[index].legs:
        if leg.id == identifier:
            return leg
    raise NotThereError("leg", identifier)


def start_leg(course: Course, index: int, identifier: str, start: float) -> Course:
    """The course with one leg set to start at a clock time [h]; what follows moves with it.

    Source: none, bookkeeping.
    """
    leg = find_leg(course, index, identifier)
    legs = list(course.days[index].legs)
    at = legs.index(leg)
    by = start - stages(course.days[index], course.starts[index])[at].start
    legs[at] = leg.altered(start_h=start)
    for later in range(at + 1, len(legs)):
        own = legs[later].start_h
        if own is not None:
            legs[later] = legs[later].altered(start_h=own + by)
    return with_day(course, index, course.days[index].altered(legs=tuple(legs)))


def fresh_id(wanted: str, taken: Iterable[str]) -> str:
    """An id like the wanted one that is not taken. Source: none, bookkeeping."""
    kept = "".join(letter if letter.isascii() and letter.isalnum() else "-" for letter in wanted)
    base = kept.lower().strip("-")[:60] or "piece"
    used = set(taken)
    number, name = 2, base
    while name in used:
        name = f"{base}-{number}"
        number += 1
    return name


def piece_ids(person: Person) -> list[str]:
    """Ids of everything a person has but the bag. Source: none, bookkeeping."""
    return [each.id for each in (*person.garments, *person.pads, *person.items)]


def add_piece(person: Person, piece: Piece) -> Person:
    """The person with one more piece; a bag takes the place of the bag.

    Source: none, bookkeeping.
    """
    if isinstance(piece, Bag):
        return person.altered(bag=piece)
    name = fresh_id(piece.id, piece_ids(person))
    named = piece if name == piece.id else piece.altered(id=name)
    field = {Garment: "garments", Pad: "pads", Item: "items"}[type(piece)]
    return person.altered(**{field: (*getattr(person, field), named)})


def remove_piece(person: Person, identifier: str) -> Person:
    """The person without a piece, and without overrules of it; what was in it stays, loose.

    Source: none, bookkeeping.
    """
    without = {
        field: tuple(
            each.altered(inside=None)
            if isinstance(each, Item) and each.inside == identifier
            else each
            for each in getattr(person, field)
            if each.id != identifier
        )
        for field in ("garments", "pads", "items")
    }
    rules = tuple(each for each in person.overrules if each.garment != identifier)
    bag = None if person.bag is not None and person.bag.id == identifier else person.bag
    bedding = _without_part(person.bedding, identifier)
    return person.altered(**without, overrules=rules, bag=bag, bedding=bedding)


def _without_part(bedding: Bedding, identifier: str) -> Bedding:
    """Bedding without one of its pieces; the same where it has none of that id."""
    parts: dict[str, object] = {
        name: None
        for name in ("over", "liner", "cover", "hammock")
        if (part := getattr(bedding, name)) is not None and part.id == identifier
    }
    hammock = bedding.hammock
    if hammock is not None and hammock.underquilt and hammock.underquilt.id == identifier:
        parts["hammock"] = hammock.altered(underquilt=None)
    return bedding.altered(**parts) if parts else bedding


def swap_garment(person: Person, out: str, piece: Garment) -> Person:
    """The person with one garment in the place of another. Source: none, bookkeeping."""
    taken = [each for each in piece_ids(person) if each != out]
    named = piece.altered(id=fresh_id(piece.id, taken))
    garments = tuple(named if each.id == out else each for each in person.garments)
    rules = tuple(each for each in person.overrules if each.garment != out)
    return person.altered(garments=garments, overrules=rules)


def overrule(person: Person, moment: str, garment: str, worn: bool) -> Person:
    """The person with a word of the user on one piece at one moment; the same word twice is
    taken back to what the rules choose. Source: none, bookkeeping."""
    others = tuple(
        each for each in person.overrules if (each.moment, each.garment) != (moment, garment)
    )
    if len(others) < len(person.overrules):
        return person.altered(overrules=others)
    rule = Overrule(moment=moment, garment=garment, worn=worn)
    return person.altered(overrules=(*others, rule))


def wear(
    person: Person,
    moments: Iterable[str],
    worn: Collection[str],
    of: Collection[str] = (),
) -> Person:
    """The person with the user's word that exactly these pieces are worn at those moments.

    Args:
        person: whose word on other moments stays.
        moments: ids of moments.
        worn: ids of pieces.
        of: ids the word is about; where empty, all the person's waking clothes.

    Source: none, bookkeeping.
    """
    about = set(of) or {piece.id for piece in person.garments if not piece.only_asleep}
    own = [piece.id for piece in person.garments if piece.id in about]
    told = list(dict.fromkeys(moments))
    others = [
        each for each in person.overrules if each.moment not in told or each.garment not in own
    ]
    rules = [
        Overrule(moment=moment, garment=name, worn=name in worn) for moment in told for name in own
    ]
    return person.altered(overrules=(*others, *rules))


def copy_outfit(
    course: Course,
    person: str,
    worn: Collection[str],
    moments: Iterable[str],
    people: Collection[str],
) -> Course:
    """The course with one person's outfit worn by some people at some moments.

    Others wear it as far as they carry the same pieces; the rules choose among the rest of theirs.

    Source: none, bookkeeping.
    """
    source = course.person(person)
    same = {piece.id for piece in source.garments if not piece.only_asleep}
    told = list(moments)
    after = (wear(each, told, worn, same) if each.id in people else each for each in course.people)
    return course.altered(people=tuple(after))


def free_outfits(person: Person, moments: Collection[str]) -> Person:
    """The person without the user's word at those moments: the rules choose again.

    Source: none, bookkeeping.
    """
    kept = tuple(each for each in person.overrules if each.moment not in moments)
    return person.altered(overrules=kept)


def set_pads(person: Person, pads: list[Pad]) -> Person:
    """The person with exactly these pads. Source: none, bookkeeping."""
    bare = person.altered(pads=())
    for pad in pads:
        bare = add_piece(bare, pad)  # type: ignore[assignment]
    return bare


def carry_part(
    course: Course, shelter: str, part: str, carrier: str | None, *, by_hand: bool = True
) -> Course:
    """The course with a part of a shelter carried by somebody named, or split evenly again.

    Raises:
        KeyError: for a part that is not there.

    Source: none, bookkeeping.
    """
    tent = next((each for each in course.shelters if each.id == shelter), None)
    if tent is None or all(each.id != part for each in tent.parts):
        raise KeyError(part)
    parts = tuple(
        each.altered(carried_by=carrier, by_hand=by_hand) if each.id == part else each
        for each in tent.parts
    )
    return _with_shelter(course, tent.altered(parts=parts))


def add_part(course: Course, shelter: str, name: str, grams: float) -> Course:
    """The course with one more part of a shelter that is carried by itself.

    Args:
        course: the plan.
        shelter: by id.
        name, grams: of the part; what the shelter weighs as a whole stays.

    Source: none, bookkeeping.
    """
    tent = course.shelter(shelter)
    part = Part(id=fresh_id(name, [each.id for each in tent.parts]), name=name, mass_g=grams)
    return _with_shelter(course, tent.altered(parts=(*tent.parts, part)))


def drop_part(course: Course, shelter: str, part: str) -> Course:
    """The course with a part of a shelter no longer told apart. Source: none, bookkeeping."""
    tent = course.shelter(shelter)
    return _with_shelter(
        course, tent.altered(parts=tuple(each for each in tent.parts if each.id != part))
    )


def _with_shelter(course: Course, shelter: Shelter) -> Course:
    return course.altered(
        shelters=tuple(shelter if each.id == shelter.id else each for each in course.shelters)
    )


def with_bed(person: Person, day: int, **parts: object) -> Person:
    """Somebody with parts of the bed replaced that they sleep in on the night of a day.

    Args:
        person: whose bed.
        day: at the end of which the night is.
        parts: bag, pads or bedding; where the night is slept in another bed than their own, of it.

    Source: none, bookkeeping.
    """
    plan = person.plan_of(day)
    if plan is None or plan.bed is None:
        return person.altered(**parts)
    changed = plan.altered(bed=plan.bed.altered(**parts))
    return person.altered(nights=tuple(changed if p is plan else p for p in person.nights))


def plan_night(
    course: Course, person: str, day: int, shelter: str | None, bed: OtherBed | None
) -> Course:
    """The course with somebody sleeping so from one night on, until their next plan.

    Args:
        course: the plan.
        person: by id.
        day: at the end of which the night is.
        shelter: by id, or none.
        bed: None for their own.

    Returns:
        The course; a plan that says no more than the night before it is dropped.

    Source: none, bookkeeping.
    """
    member = course.person(person)
    told = NightPlan(day=day, shelter=shelter, bed=bed)
    plans = sorted([*(p for p in member.nights if p.day != day), told], key=lambda p: p.day)
    kept: list[NightPlan] = []
    before: tuple[str | None, OtherBed | None] = (member.shelter, None)
    if day == 0 and bed is None:
        member, plans = member.altered(shelter=shelter), plans[1:]
        before = (shelter, None)
    for plan in plans:
        if (plan.shelter, plan.bed) != before:
            kept.append(plan)
            before = (plan.shelter, plan.bed)
    return with_person(course, member.altered(nights=tuple(kept)))


def pitch(
    course: Course, person: str, shelter: Shelter | str | None, day: int | None = None
) -> Course:
    """Move a person into a shelter: one of the course by id, a new one, or none.

    Args:
        course: the plan.
        person: by id.
        shelter: where they sleep; one in which nobody sleeps any more leaves the course.
        day: at the end of which the first night there is, in the bed that they have then; every
            night of the course where not given.

    Source: none, bookkeeping.
    """
    if isinstance(shelter, Shelter):
        name = fresh_id(shelter.id, [each.id for each in course.shelters])
        course = course.altered(shelters=(*course.shelters, shelter.altered(id=name)))
        shelter = name
    member = course.person(person)
    if day is None:
        nights = tuple(each.altered(shelter=shelter) for each in member.nights if each.bed)
        course = with_person(course, member.altered(shelter=shelter, nights=nights))
    else:
        plan = member.plan_of(day)
        course = plan_night(course, person, day, shelter, plan.bed if plan else None)
    used = {place for each in course.people for place in each.shelters}
    return course.altered(shelters=tuple(each for each in course.shelters if each.id in used))
