"""The group's kit as it is proposed, laid out for its page."""

from dataclasses import dataclass

from caldarium.core.lighten.group_choice import GroupChoice, Place
from caldarium.core.plan.course import Course
from caldarium.words import group_kit as words
from caldarium.words.lighten import failing_words
from caldarium.words.steps import Step
from caldarium.words.stock import SOURCE_NAMES
from caldarium.words.units import Display


@dataclass(frozen=True)
class GroupRow:
    """A piece: its place in the list, name now and then, from where, how many by which rule, mass
    now and then, what it is for, and whether it changes."""

    at: int
    now: str
    then: str
    source: str
    rule: str
    before: str
    after: str
    told: str
    changed: bool


@dataclass(frozen=True)
class GroupPanel:
    """What was found of the group's kit: a sentence, its pieces, what nothing meets, of what there
    are too few, what gets worse, and how it was found."""

    sentence: str
    rows: list[GroupRow]
    unmet: list[str]
    too_few: list[str]
    lost: list[str]
    some: bool
    group_steps: list[Step]


def group_panel(course: Course, found: GroupChoice, display: Display) -> GroupPanel:
    """What was found of the group's kit, laid out."""
    return GroupPanel(
        words.group_sentence(found, display),
        [_row(course, at, each, display) for at, each in enumerate(found.places)],
        [words.line_words(course, each) for each in found.unmet],
        [words.too_few_words(*each) for each in found.too_few],
        [f"{course.person(who).name}: {failing_words(fails)}" for who, fails in found.lost.items()],
        bool(found.changed),
        words.explain_group(course, found, display),
    )


def _row(course: Course, at: int, place: Place, display: Display) -> GroupRow:
    before = place.before
    return GroupRow(
        at,
        "" if before is None else before.name,
        place.after.name if place.changed else "",
        SOURCE_NAMES[place.source] if place.changed else "",
        words.rule_words(place.after, place.count),
        "" if before is None else display.mass(place.count * before.mass_g),
        display.mass(place.grams),
        words.place_words(course, place),
        place.changed,
    )
