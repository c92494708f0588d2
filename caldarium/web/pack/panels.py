"""What the pages of packs show, laid out."""

from dataclasses import dataclass

from caldarium.core.assess import Assessment
from caldarium.core.load.travel import travel
from caldarium.core.pack.bags import bundles, in_bag
from caldarium.core.pack.contents import NOBODYS, SOFT_ROLES, Content
from caldarium.core.pack.pack_checks import PackReason
from caldarium.core.pack.plan import PackPlan, Since
from caldarium.core.pack.where import hand_placed
from caldarium.core.pack.zones import WORN_WITH
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.group_kit import units
from caldarium.core.plan.rucksack import LASHED, MARKS, PACKED, ZONES, Mark, Zone
from caldarium.drawings.pack import pack_behind, pack_cut
from caldarium.drawings.svg import Svg
from caldarium.words import pack as words
from caldarium.words.lists import travel_sentence
from caldarium.words.steps import Step
from caldarium.words.units import Display


@dataclass(frozen=True)
class PieceRow:
    """A piece in the order of going in: its number, name and figures, its zone by word and name,
    why it is there, what must come out before it, whether the user put it there, and whether it
    can be looked at by itself."""

    key: str
    number: int
    name: str
    figures: str
    zone: str
    place: str
    why: str
    reach: str
    by_hand: bool
    opens: bool


@dataclass(frozen=True)
class FindingRow:
    """What is wrong, and what one press does about it: the act and its label, empty for none; or
    the end of an address where something can be done."""

    told: str
    act: str
    label: str
    elsewhere: str


@dataclass(frozen=True)
class PackPanel:
    """A filled pack: sentence, drawings, pieces in order, what has no place, findings, steps."""

    sentence: str
    cut: Svg
    behind: Svg
    rows: list[PieceRow]
    outside: list[str]
    findings: list[FindingRow]
    pack_steps: list[Step]
    by_hand: int


def pack_panel(plan: PackPlan, display: Display) -> PackPanel:
    """A filled pack, laid out."""
    pieces = plan.pieces
    return PackPanel(
        words.pack_sentence(plan, display),
        pack_cut(plan, display),
        pack_behind(plan, display),
        [_row(plan, number, name, display) for number, name in enumerate(plan.laid.order, 1)],
        [words.piece_name(each) for each in pieces.values() if each.id not in plan.placing.zones],
        [_finding_row(plan, each, display) for each in plan.findings],
        words.explain_pack(plan, display),
        sum(hand_placed(each, plan.asked) is not None for each in pieces.values()),
    )


def _row(plan: PackPlan, number: int, name: str, display: Display) -> PieceRow:
    content, zone = plan.pieces[name], plan.placing.zones[name]
    return PieceRow(
        name,
        number,
        words.piece_name(content),
        words.piece_figures(content, display),
        zone,
        words.ZONE_NAMES[zone],
        words.place_words(plan, content),
        words.reach_words(plan.laid.before[name]),
        hand_placed(content, plan.asked) is not None,
        name != NOBODYS,
    )


def _finding_row(plan: PackPlan, found: Finding[PackReason], display: Display) -> FindingRow:
    told = words.finding_words(found, plan.pieces, display)
    placed = [n for n in found.names if hand_placed(plan.pieces[n], plan.asked) is not None]
    if placed:
        name = words.piece_name(plan.pieces[placed[0]])
        return FindingRow(told, f"free={placed[0]}", f"Let the plan place {name}", "")
    if found.reason == "no barrier" and not plan.asked.said.liner:
        return FindingRow(told, "liner=on", "Use a liner", "")
    elsewhere = {"nobody's": "load", "no place": "lists", "too full": "lists", "over rated": "load"}
    return FindingRow(told, "", "", elsewhere.get(found.reason, ""))


@dataclass(frozen=True)
class BagCard:
    """One person's bags by air: a sentence, and for each bag its name and its things in the order
    of going in, with figures and where they go."""

    name: str
    sentence: str
    bags: list[tuple[str, list[tuple[str, str, str]]]]


def bag_card(
    course: Course,
    person: Person,
    result: Assessment,
    arrival: frozenset[str],
    display: Display,
) -> BagCard:
    """Somebody's bags by air, laid out.

    Args:
        course, person, result: whose, and what was found for the course.
        arrival: ids of what is hired or bought there.
        display: units.
    """
    found = travel(course, person, result.of(person.id).moments, arrival)
    named = (("hold bag", found.hold), ("cabin bag", found.cabin))
    bags = [
        (
            name,
            [
                (each.line.name, display.mass(each.line.grams), words.bag_words(each))
                for each in in_bag(course, person, lines)
            ],
        )
        for name, lines in named
        if lines
    ]
    return BagCard(person.name, travel_sentence(found, person.name, display), bags)


@dataclass(frozen=True)
class BundleCard:
    """A drop bag or what a helper carries: its name, its mass, and its things in the order of going
    in: what, whose, where, how heavy."""

    name: str
    mass: str
    rows: list[tuple[str, str, str, str]]


def bundle_cards(course: Course, display: Display) -> list[BundleCard]:
    """Every drop bag and every helper's load, laid out."""
    names = {each.id: each.name for each in (*course.people, *course.helpers)}
    return [
        BundleCard(
            names[each.helper] if each.helper else words.drop_words(course, each.place),
            display.load(each.grams / 1000),
            [
                (
                    thing.line.name,
                    names.get(whose, "the group"),
                    words.bag_words(thing),
                    display.mass(thing.line.grams),
                )
                for whose, thing in each.things
            ],
        )
        for each in bundles(course)
    ]


@dataclass(frozen=True)
class PiecePanel:
    """One piece that is looked at: name, figures, why it is where it is, what must come out before
    it, what it is like mark by mark, whether the user said so, and how something soft is packed."""

    key: str
    name: str
    figures: str
    why: str
    before: list[str]
    marks: list[tuple[Mark, str, bool]]
    said: bool
    packed: list[tuple[str, str, bool]]


def piece_panel(plan: PackPlan, key: str, display: Display) -> PiecePanel | None:
    """The piece that is looked at; nothing where it is not in the pack."""
    content = plan.pieces.get(key)
    if content is None or key == NOBODYS:
        return None
    before = plan.laid.before.get(key, ())
    return PiecePanel(
        key,
        words.piece_name(content),
        words.piece_figures(content, display),
        words.place_words(plan, content),
        [words.piece_name(plan.pieces[name]) for name in before],
        [(mark, words.MARK_NAMES[mark], mark in content.marks) for mark in MARKS],
        content.said,
        _packed(plan, content),
    )


def _packed(plan: PackPlan, content: Content) -> list[tuple[str, str, bool]]:
    """Ways to pack something soft; none for anything else."""
    if content.role not in SOFT_ROLES:
        return []
    said = plan.asked.said.said_of(content.id)
    now = said.packed if said is not None and said.packed is not None else "sack"
    return [(each, words.PACKED_NAMES[each], each == now) for each in PACKED]


def zone_choices(plan: PackPlan | None) -> list[tuple[str, str]]:
    """Every zone that the pack has, or that something is in, with its name, from the foot up."""
    room = plan.asked.sack.room if plan is not None else {}
    used = set(plan.placing.zones.values()) if plan is not None else set[Zone]()
    said: tuple[Zone, ...] = (*WORN_WITH, *LASHED)
    there: list[Zone] = [z for z in ZONES if z not in said or room.get(z, 0.0) > 0 or z in used]
    return [(zone, words.ZONE_NAMES[zone]) for zone in there]


@dataclass(frozen=True)
class SincePanel:
    """What is otherwise than the morning before: a sentence, and what moved."""

    sentence: str
    moved: list[str]


def since_panel(found: Since, pieces: dict[str, Content], display: Display) -> SincePanel:
    """What changed since the morning before, laid out."""
    return SincePanel(
        words.since_sentence(found, pieces, display), [words.moved_words(e) for e in found.moved]
    )


def shared_rows(course: Course, display: Display) -> list[tuple[str, str, str]]:
    """Every piece of the group's kit and part of a shelter, its mass, and who carries it."""
    names = {person.id: person.name for person in course.people}
    names |= {helper.id: helper.name for helper in course.helpers}
    kits = {kit.id: kit.name for kit in course.group}
    found = [
        (kits[each.kit], display.mass(each.mass_g), names.get(each.carrier or "", "nobody yet"))
        for each in units(course)
    ]
    for shelter in course.shelters:
        found += [
            (
                f"{shelter.name}: {part.name}",
                display.mass(part.mass_g),
                names.get(part.carried_by or "", "those who sleep in it"),
            )
            for part in shelter.parts
        ]
        if not shelter.parts:
            found.append((shelter.name, display.mass(shelter.mass_g), "those who sleep in it"))
    return found
