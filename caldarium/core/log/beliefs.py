"""Everything that a log can teach, as it stands in a plan: read, and put in its place.

What is about is a kind and whose it is, as "sleep tavi", "bag tavi:light-bag" or "tent dome".
"""

from typing import Literal, get_args

from caldarium.core.day.how_sure import RATE_SD
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Bed, Pad
from caldarium.core.plan.value import NotThereError

Kind = Literal["sleep", "walk", "bag", "pad", "tent", "halts", "pace"]
KINDS: tuple[Kind, ...] = get_args(Kind)
BAG_SD_K = 2.5
"""How far a bag's figure may lie from its label [K]: judgement; laboratories differ by one or two,
and use, washing and fit do the rest."""
PAD_SD, TENT_SD, HALTS_SD, PACE_SD = 0.15, 0.5, 0.3, 0.2
"""How far a pad's R-value, the warmth in a shelter, the length of halts and the time of ways may
lie from what is planned, as shares: judgement."""
PRIOR: dict[Kind, Belief] = {
    "walk": Belief(mean=1, sd=RATE_SD),
    "bag": Belief(mean=0, sd=BAG_SD_K),
    "pad": Belief(mean=1, sd=PAD_SD),
    "tent": Belief(mean=1, sd=TENT_SD),
    "halts": Belief(mean=1, sd=HALTS_SD),
    "pace": Belief(mean=1, sd=PACE_SD),
}
"""What is believed of everything before anything was logged; of a sleeper the plan itself says."""
_PARTS: dict[Kind, str] = {"walk": "walks", "halts": "halts", "pace": "pace"}


def about(kind: Kind, whose: str) -> str:
    """The name of something that can be learned. Source: none, bookkeeping."""
    return f"{kind} {whose}"


def parted(name: str) -> tuple[Kind, str, str]:
    """Kind, person or shelter, and piece of something that can be learned.

    Raises:
        NotThereError: for a name of nothing.

    Source: none, bookkeeping.
    """
    kind, _, whose = name.partition(" ")
    for each in KINDS:
        if each == kind and whose:
            who, _, piece = whose.partition(":")
            return each, who, piece
    raise NotThereError("thing to learn", name)


def believed(course: Course, name: str) -> Belief:
    """What a plan believes of something.

    Raises:
        NotThereError: where it is not in the plan.

    Source: none, bookkeeping.
    """
    kind, who, piece = parted(name)
    if kind == "tent":
        return course.shelter(who).as_found or PRIOR[kind]
    person = course.person(who)
    if kind == "sleep":
        return Belief(mean=person.sleeper_index, sd=person.sleeper_sd, times=person.sleeper_nights)
    if kind in ("bag", "pad"):
        return _piece(person, kind, piece).as_found or PRIOR[kind]
    found: Belief | None = getattr(person, _PARTS[kind])
    return found or PRIOR[kind]


def _piece(person: Person, kind: Kind, piece: str) -> Bag | Pad:
    for bed in person.beds:
        pieces = bed.pads if kind == "pad" else (bed.bag,)
        for each in pieces:
            if each is not None and each.id == piece:
                return each
    raise NotThereError(kind, piece)


def with_belief(course: Course, name: str, belief: Belief) -> Course:
    """A plan that believes this of something, wherever it is in it.

    Raises:
        NotThereError: where it is not in the plan.

    Source: none, bookkeeping.
    """
    kind, who, piece = parted(name)
    kept = None if belief == PRIOR.get(kind) else belief
    if kind == "tent":
        course.shelter(who)
        return course.altered(
            shelters=tuple(
                each.altered(as_found=kept) if each.id == who else each for each in course.shelters
            )
        )
    person = course.person(who)
    if kind == "sleep":
        changed = person.altered(
            sleeper_index=min(max(belief.mean, -1.0), 2.0),
            sleeper_sd=min(belief.sd, 2.0),
            sleeper_nights=belief.times,
        )
    elif kind in ("bag", "pad"):
        _piece(person, kind, piece)
        changed = _with_pieces(person, kind, piece, kept)
    else:
        changed = person.altered(**{_PARTS[kind]: kept})
    return course.altered(
        people=tuple(changed if each.id == who else each for each in course.people)
    )


def _with_pieces(person: Person, kind: Kind, piece: str, belief: Belief | None) -> Person:
    """Somebody with a bag or pad in all of their beds as it was found."""

    def found(bed: Person | Bed) -> dict[str, object]:
        if kind == "bag":
            bag = bed.bag
            here = bag is not None and bag.id == piece
            return {"bag": bag.altered(as_found=belief)} if bag is not None and here else {}
        if all(each.id != piece for each in bed.pads):
            return {}
        return {
            "pads": tuple(
                each.altered(as_found=belief) if each.id == piece else each for each in bed.pads
            )
        }

    nights = tuple(
        plan.altered(bed=plan.bed.altered(**found(plan.bed))) if plan.bed is not None else plan
        for plan in person.nights
    )
    return person.altered(**found(person), nights=nights)


def where_there(course: Course, names: list[str]) -> list[str]:
    """Those of these things that are in the plan. Source: none, bookkeeping."""

    def there(name: str) -> bool:
        try:
            believed(course, name)
        except NotThereError:
            return False
        return True

    return [name for name in names if there(name)]
