"""All logged courses together: what the store's pieces do over the years, what was carried and
never used, how good chances were."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from caldarium.core.log.beliefs import PRIOR, Kind, about, believed, parted
from caldarium.core.log.chances import NO_CHANCES, Reliability, reliability
from caldarium.core.log.learned import Teaching
from caldarium.core.log.review import Review, review
from caldarium.core.log.right import Low, Outcome
from caldarium.core.log.updating import Evidence, Unknown, learn
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Bag, Item, Pad
from caldarium.core.plan.log import Log
from caldarium.core.what_if.progress import Heard, unheard


@dataclass(frozen=True)
class Gone:
    """One logged course that is over: its number and name, clothes carried by all [g], and what
    follows from its log."""

    id: int
    name: str
    carried_g: float
    review: Review

    @property
    def unused_g(self) -> float:
        """What was carried and never used [g]. Source: none, a sum."""
        return sum(each.grams for each in self.review.debrief.unused)

    @property
    def unused_share(self) -> float:
        """Of what was carried, what was never used. Source: none, a quotient."""
        return self.unused_g / self.carried_g if self.carried_g else 0.0

    @property
    def nights(self) -> int:
        """Nights that somebody told of. Source: none, a count."""
        return sum(each.kind == "night" for each in self.review.outcomes)


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


@dataclass(frozen=True)
class Season:
    """All logged courses, and what they say together: every outcome with its shelter by name, every
    low, how good chances were, and what the store's pieces do."""

    courses: tuple[Gone, ...] = ()
    outcomes: tuple[Outcome, ...] = ()
    lows: tuple[Low, ...] = ()
    chances: Reliability = NO_CHANCES
    pieces: tuple[OverYears, ...] = ()


def season(logged: Sequence[tuple[int, Course, Log]], heard: Heard = unheard) -> Season:
    """Everything that logged courses say together.

    Args:
        logged: numbers, plans and logs.
        heard: told how far it is.

    Source: core.log.review, core.log.chances, over_years.
    """
    courses: list[Gone] = []
    for at, (number, course, log) in enumerate(logged):
        heard(at / (len(logged) + 1))
        carried = sum(
            piece.grams if isinstance(piece, Item) else piece.mass_g
            for person in course.people
            for piece in (*person.garments, *person.items)
        )
        courses.append(Gone(number, course.name, carried, review(course, log)))
    heard(len(logged) / (len(logged) + 1))
    came = tuple(
        replace(each, shelter=_name(course, each.shelter))
        for gone, (_, course, _) in zip(courses, logged, strict=True)
        for each in gone.review.outcomes
    )
    return Season(
        tuple(courses),
        came,
        tuple(low for gone in courses for low in gone.review.lows),
        reliability([(each.chance, each.short) for each in came]),
        tuple(over_years(courses)),
    )


def _name(course: Course, shelter: str) -> str:
    return next((each.name for each in course.shelters if each.id == shelter), shelter)


def over_years(courses: Sequence[Gone]) -> list[OverYears]:
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
        tagged = _tags(course.review.teaching)
        for each in course.review.teaching.beds:
            renamed = {
                _renamed(unknown, course.id, tagged): slope
                for unknown, slope in each.weights.items()
            }
            for unknown in each.weights:
                new = _renamed(unknown, course.id, tagged)
                piece = tagged.get(unknown)
                if piece is None:
                    prior[new] = believed(course.review.teaching.lived.course, unknown)
                    continue
                prior[new], pieces[new] = PRIOR[parted(unknown)[0]], piece
                where.setdefault(new, set()).add(course.id)
            evidence.append(replace(each, weights=renamed))
    after = learn(prior, evidence)
    found = [
        OverYears(
            piece.tag,
            parted(unknown)[0],
            piece.name,
            prior[unknown],
            after[unknown],
            after[unknown].times,
            len(where[unknown]),
        )
        for unknown, piece in pieces.items()
    ]
    return sorted(found, key=lambda each: (-each.nights, each.tag))


def _tags(teaching: Teaching) -> dict[Unknown, Bag | Pad]:
    """Bags and pads of the store that nights of a course speak of."""
    found: dict[Unknown, Bag | Pad] = {}
    for person in teaching.lived.course.people:
        for bed in person.beds:
            for piece in (bed.bag, *bed.pads):
                if piece is not None and piece.tag:
                    kind: Kind = "bag" if isinstance(piece, Bag) else "pad"
                    found[about(kind, f"{person.id}:{piece.id}")] = piece
    return found


def _renamed(unknown: Unknown, course: int, tagged: dict[Unknown, Bag | Pad]) -> Unknown:
    """The name of an unknown over all courses: by tag, or of one course alone."""
    piece = tagged.get(unknown)
    kind = parted(unknown)[0]
    return f"{kind} {piece.tag.lower()}" if piece is not None else f"{unknown} of {course}"
