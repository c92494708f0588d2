"""All logged courses together: what the store's pieces do over the years, what was carried and
never used, how good chances were."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from caldarium.core.log.beliefs import PRIOR, Kind, about, believed, parted
from caldarium.core.log.debrief import Unused
from caldarium.core.log.learned import Teaching
from caldarium.core.log.right import Low, Outcome
from caldarium.core.log.updating import Evidence, Unknown, learn
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.kit import Bag, Pad


@dataclass(frozen=True)
class Season:
    """One logged course: its name, what it teaches, its nights and moments against the plan, lows
    against the forecast, what was never used, and clothes carried by all [g]."""

    id: int
    name: str
    teaching: Teaching
    outcomes: Sequence[Outcome]
    lows: Sequence[Low]
    unused: Sequence[Unused]
    carried_g: float


@dataclass(frozen=True)
class OverYears:
    """A piece of the store, by its tag: what it is, what was believed before any log and what is
    now, on how many nights of how many courses."""

    tag: str
    kind: Kind
    name: str
    before: Belief
    after: Belief
    nights: int
    courses: int


def over_years(courses: Sequence[Season]) -> list[OverYears]:
    """What the store's bags and pads do, from all courses solved together.

    Args:
        courses: logged ones.

    Returns:
        Pieces that bear a tag, most nights first. People are others on each course; pieces are the
        same wherever their tag is.

    Source: core.log.updating.
    """
    evidence: list[Evidence] = []
    prior: dict[Unknown, Belief] = {}
    pieces: dict[Unknown, Bag | Pad] = {}
    where: dict[Unknown, set[int]] = {}
    for course in courses:
        tagged = _tags(course.teaching)
        for each in course.teaching.beds:
            renamed = {
                _renamed(unknown, course.id, tagged): slope
                for unknown, slope in each.weights.items()
            }
            for unknown in each.weights:
                new = _renamed(unknown, course.id, tagged)
                piece = tagged.get(unknown)
                if piece is None:
                    prior[new] = believed(course.teaching.lived.course, about(*_named(unknown)))
                    continue
                prior[new], pieces[new] = PRIOR[_named(unknown)[0]], piece
                where.setdefault(new, set()).add(course.id)
            evidence.append(replace(each, weights=renamed))
    after = learn(prior, evidence)
    found = [
        OverYears(
            piece.tag,
            _named(unknown)[0],
            piece.name,
            prior[unknown],
            after[unknown],
            after[unknown].times,
            len(where[unknown]),
        )
        for unknown, piece in pieces.items()
    ]
    return sorted(found, key=lambda each: (-each.nights, each.tag))


def _named(unknown: Unknown) -> tuple[Kind, str]:
    return parted(f"{unknown[0]} {unknown[1]}")[0], unknown[1]


def _tags(teaching: Teaching) -> dict[Unknown, Bag | Pad]:
    """Bags and pads of the store that nights of a course speak of."""
    found: dict[Unknown, Bag | Pad] = {}
    for person in teaching.lived.course.people:
        for bed in person.beds:
            for piece in (bed.bag, *bed.pads):
                if piece is not None and piece.tag:
                    kind = "bag" if isinstance(piece, Bag) else "pad"
                    found[kind, f"{person.id}:{piece.id}"] = piece
    return found


def _renamed(unknown: Unknown, course: int, tagged: dict[Unknown, Bag | Pad]) -> Unknown:
    piece = tagged.get(unknown)
    if piece is not None:
        return unknown[0], piece.tag.lower()
    return unknown[0], f"{course} {unknown[1]}"
