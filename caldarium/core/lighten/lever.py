"""The one piece that helps most people of a party, and what the store is short of."""

from collections import Counter
from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta

from caldarium.core.assess import assess_people
from caldarium.core.lighten.offers import Offer, Piece, counted, look_of, offers_for, own_pieces
from caldarium.core.lighten.verdict import AT_A_TIME, Fail, depths, worse
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, Cover, Garment, Liner, Pad
from caldarium.core.stock.lending import days_of
from caldarium.core.stock.supply import Source, Supply
from caldarium.core.timeline.moments import Timeline
from caldarium.core.what_if.swaps import same_job, swapped

LEAST_SAVED_G = 10.0
"""Grams that nobody would fetch another piece for: judgement."""


@dataclass(frozen=True)
class Helped:
    """One person whom a piece helps: what it closes, nothing that holds now being lost; the grams
    it adds, less those of the piece whose place it takes, if any."""

    person: str
    closes: frozenset[Fail]
    grams: float
    instead: Piece | None
    clad: Person = field(repr=False, compare=False)


@dataclass(frozen=True)
class Lever:
    """A piece, and everybody whom it helps, those first whom it helps most; how many there are of
    it, None for as many as one likes."""

    offer: Offer
    there: int | None
    helped: tuple[Helped, ...]

    @property
    def given(self) -> tuple[Helped, ...]:
        """Those for whom there is one. Source: none, counts."""
        return self.helped if self.there is None else self.helped[: self.there]

    @property
    def short(self) -> int:
        """How many more of it would help somebody. Source: none, counts."""
        return len(self.helped) - len(self.given)

    @property
    def closed(self) -> list[Fail]:
        """What all of them would close, people together. Source: none, counts."""
        return [fail for each in self.helped for fail in each.closes]

    @property
    def saved(self) -> float:
        """What all of them would save together [g]. Source: none, a sum."""
        return -sum(each.grams for each in self.helped)


@dataclass(frozen=True)
class Levers:
    """Pieces that warm people, those first that close most, and pieces that lighten people and lose
    nothing, those first that save most."""

    warm: tuple[Lever, ...]
    lighten: tuple[Lever, ...]


def levers(
    course: Course,
    timeline: Timeline,
    supply: Supply,
    sources: Collection[Source],
    heard: Callable[[float], None],
) -> Levers:
    """Which one piece, given to whoever it helps, helps most.

    Every piece on offer is tried on every person, more or in the place of what does its job, and
    judged by the course's verdict; what loses anything that holds now, or makes worse what does
    not, is left out.

    Args:
        course, timeline: the plan.
        supply, sources: what there is, and which of it may be drawn on; own pieces are none of it.
        heard: hears the share that is done; what it raises ends the work.

    Source: the course's own verdict; LEAST_SAVED_G.
    """
    wanted: list[Source] = [each for each in sources if each != "own"]
    offers: dict[str, Offer] = {}
    warm: dict[str, list[Helped]] = {}
    light: dict[str, list[Helped]] = {}
    count = max(len(course.people), 1)
    for at, person in enumerate(course.people):
        tried = [
            (offer, *way)
            for offer in offers_for(person, supply, wanted)
            for way in ways(person, offer.piece)
        ]
        now = depths(assess_people(course, (person,), timeline)[0])
        best: dict[str, Helped] = {}
        for first in range(0, len(tried), AT_A_TIME):
            heard((at + first / len(tried)) / count)
            some = tried[first : first + AT_A_TIME]
            results = assess_people(course, tuple(clad for _, clad, _ in some), timeline)
            for (offer, clad, instead), result in zip(some, results, strict=True):
                after = depths(result)
                closed = frozenset(now.keys() - after.keys())
                grams = offer.piece.mass_g - (0.0 if instead is None else instead.mass_g)
                found = Helped(person.id, closed, grams, instead, clad)
                if not worse(after, now) and _better(found, best.get(offer.key)):
                    offers[offer.key], best[offer.key] = offer, found
        for key, found in best.items():
            (warm if found.closes else light).setdefault(key, []).append(found)
    return Levers(
        tuple(sorted(_levers(warm, offers, supply), key=_warmth, reverse=True)),
        tuple(sorted(_levers(light, offers, supply), key=_lightness, reverse=True)),
    )


def _better(found: Helped, known: Helped | None) -> bool:
    """Whether one way helps at all, and more than another."""
    if not found.closes and found.grams > -LEAST_SAVED_G:
        return False
    return known is None or _worth(found) > _worth(known)


def _worth(found: Helped) -> tuple[int, float]:
    return len(found.closes), -found.grams


def _levers(
    helped: dict[str, list[Helped]], offers: dict[str, Offer], supply: Supply
) -> Iterator[Lever]:
    for key, people in helped.items():
        order = sorted(people, key=_worth, reverse=True)
        yield Lever(offers[key], counted(offers[key], supply), tuple(order))


def _warmth(lever: Lever) -> tuple[int, float]:
    return len(lever.closed), lever.saved


def _lightness(lever: Lever) -> tuple[float, int]:
    return lever.saved, len(lever.helped)


def ways(person: Person, piece: Piece) -> Iterator[tuple[Person, Piece | None]]:
    """Ways in which a piece can come into somebody's kit: more, or in the place of what does its
    job, which is told beside it.

    Source: core.what_if.swaps; common practice of beds, no published source.
    """
    bedding = person.bedding
    for own in own_pieces(person):
        if isinstance(own, Liner | Cover) or isinstance(piece, Liner | Cover):
            continue
        if own is not bedding.over and same_job(own, piece):
            yield swapped(person, own, piece), own
    if isinstance(piece, Garment):
        yield person.altered(garments=(*person.garments, piece)), None
    elif isinstance(piece, Pad):
        if person.pads or person.bag is not None:
            yield person.altered(pads=(*person.pads, piece)), None
    elif isinstance(piece, Bag):
        if person.bag is None:
            yield person.altered(bag=piece), None
        elif piece.shape == "quilt" and bedding.over is None:
            yield person.altered(bedding=bedding.altered(over=piece)), None
    elif person.bag is not None:
        place = "liner" if isinstance(piece, Liner) else "cover"
        assert isinstance(piece, Liner | Cover)
        if getattr(bedding, place) is None:
            yield person.altered(bedding=bedding.altered(**{place: piece})), None


def taken(lever: Lever) -> list[Person]:
    """Everybody for whom there is one of a piece, with it. Source: none, bookkeeping."""
    return [each.clad for each in lever.given]


@dataclass(frozen=True)
class Missing:
    """A piece that the store has too few of: on its worst day how many more would help somebody;
    what those of all courses would close, and which courses want it."""

    piece: Piece
    count: int
    people: int
    closed: tuple[Fail, ...]
    courses: tuple[str, ...]


def missing(found: Sequence[tuple[Course, Levers]], stocked: Collection[str] = ()) -> list[Missing]:
    """What the store would need for a season's courses, what closes most first.

    A piece that ends one course may go to the next; courses of the same day need one each.

    Args:
        found: courses with their levers, each by what the store has left for its own days, and by
            what can be bought.
        stocked: catalogue pieces, by id, like which the store has some: those count as the store's.

    Source: none, counts.
    """
    short: dict[str, Counter[date]] = {}
    rows: dict[str, list[tuple[Course, Piece, tuple[Helped, ...]]]] = {}
    for course, those in found:
        first, last = days_of(course)
        for lever in those.warm:
            offer = lever.offer
            there = 0 if lever.there is None else lever.there
            without = lever.helped[there:]
            if not without or (lever.there is None and offer.key in stocked):
                continue
            look = look_of(offer.piece)
            rows.setdefault(look, []).append((course, offer.piece, without))
            days = range((last - first).days + 1)
            short.setdefault(look, Counter()).update(
                {first + timedelta(days=day): len(without) for day in days}
            )
    listed: list[Missing] = []
    for look, wanted in rows.items():
        people = [each for _, _, those in wanted for each in those]
        listed.append(
            Missing(
                wanted[0][1],
                max(short[look].values()),
                len(people),
                tuple(fail for each in people for fail in each.closes),
                tuple(dict.fromkeys(course.name for course, _, _ in wanted)),
            )
        )
    return sorted(listed, key=lambda each: len(each.closed), reverse=True)
