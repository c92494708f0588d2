"""The parts of the bench, each a small value of what it shows."""

from dataclasses import dataclass
from functools import partial

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.day.keeping_up import party_pace
from caldarium.core.day.states import MomentState
from caldarium.core.night.nights import Night
from caldarium.core.person_result import PersonResult
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.cures import (
    Addition,
    Cure,
    additions,
    best_by_region,
    breaking_point,
    cures,
    glove_cures,
)
from caldarium.core.what_if.more_cures import CureSet, lightest_set, otherwise
from caldarium.core.what_if.try_on import overrule_cost
from caldarium.core.worst import Worst, worst_by_kind
from caldarium.drawings.bed import bed_cut
from caldarium.drawings.load import load_days
from caldarium.drawings.outfit import outfit_cut
from caldarium.drawings.strip import states_by_cell, strip
from caldarium.drawings.svg import Svg
from caldarium.web.cursor import Cursor, jumps
from caldarium.web.day.bench_edit import copy_choices
from caldarium.words.course import course_sentence, moment_name, weekday
from caldarium.words.day import (
    beside_sentence,
    breaking_sentence,
    cure_sentence,
    digits_sentence,
    drink_label,
    effort_sentence,
    glove_sentence,
    otherwise_sentence,
    outfit_sentence,
    overrule_sentence,
    sure_sentence,
    wet_sentence,
)
from caldarium.words.learned import steps_in_force
from caldarium.words.load import load_sentence
from caldarium.words.night import bed_sentence, open_sentence, shelter_sentence
from caldarium.words.steps import Step
from caldarium.words.steps_day import (
    explain_additions,
    explain_breaking,
    explain_cures,
    explain_effort,
    explain_moment,
    explain_otherwise,
)
from caldarium.words.steps_load import explain_load
from caldarium.words.steps_night import explain_night, explain_shelter
from caldarium.words.units import Display
from caldarium.words.weather import caution_sentence

SHOWN_CURES = 6


@dataclass(frozen=True)
class CoursePanel:
    """The course as one strip, and the one day of it on a narrow screen."""

    summary: str
    caution_words: str
    strip: Svg | None
    day_strip: Svg | None
    jumps: dict[str, Cursor]
    worst: dict[str, Worst]
    moment_names: dict[str, str]
    first_moments: list[Moment]


def course_panel(
    course: Course,
    result: Assessment,
    cursor: Cursor,
    display: Display,
    strips: tuple[bool, bool],
    before: Assessment | None = None,
) -> CoursePanel:
    """The course as strips, for the widths that the browser says it has, and what became of its
    problems."""
    moments = result.timeline.moments
    states = states_by_cell(result, display)
    drawn = partial(
        strip, course, result, cursor.person, cursor.moment, display=display, states=states
    )
    wide, narrow = strips
    day = result.timeline.moment(cursor.moment).day
    return CoursePanel(
        summary=course_sentence(course, result, before),
        caution_words=caution_sentence(course, display),
        strip=drawn() if wide else None,
        day_strip=drawn(width=372, only_day=day) if narrow else None,
        jumps=jumps(course, result, cursor),
        worst=worst_by_kind(result),
        moment_names={each.id: moment_name(course, each) for each in moments},
        first_moments=list({m.day: m for m in reversed(moments)}.values())[::-1],
    )


@dataclass(frozen=True)
class OutfitPanel:
    """What one person wears at one moment: verdict, drawing, what would cure it, how it is
    computed."""

    outfit_words: str
    outfit_drawing: Svg
    outfit_steps: list[Step]
    sure_words: str
    beside_words: str
    effort_words: str
    party_pace: float | None
    digit_words: str
    wet_words: str
    overrule_words: str
    break_words: str
    cure_words: str
    cure_set: CureSet | None
    otherwise_words: str
    drink_words: str
    glove_words: str
    cures: list[Cure]
    additions: list[Addition]
    copy_choices: dict[str, str]


def outfit_panel(
    course: Course, result: Assessment, person: Person, state: MomentState, display: Display
) -> OutfitPanel:
    """The outfit at one moment of one person."""
    moment = result.timeline.moment(state.moment)
    pieces = load_catalogue().garments.values()
    added = additions(course, person, moment, state, pieces)
    helping = cures(added, state) if state.state == "gap" else []
    together = lightest_set(course, person, moment, state, helping)
    other = otherwise(course, person, moment, state) if state.state == "gap" else None
    gloves = glove_cures(course, person, moment, state, pieces)
    tried = [each for found in result.people for each in found.efforts if each.moment == moment.id]
    own = next((each for each in result.of(person.id).efforts if each.moment == moment.id), None)
    together_at = party_pace(tried)
    breaking = breaking_point(course, person, moment, state)
    return OutfitPanel(
        outfit_words=outfit_sentence(moment, state, display),
        outfit_drawing=outfit_cut(person, state, display),
        outfit_steps=explain_moment(moment, state, display)
        + explain_effort(own, moment.altitude, display)
        + (steps_in_force(course, person, None, display) if moment.walk else [])
        + explain_additions(best_by_region(added), display)
        + explain_cures(helping, state, display)
        + explain_otherwise(other, together, state, display)
        + explain_breaking(breaking, display),
        sure_words=sure_sentence(state),
        beside_words=beside_sentence(moment, state, display),
        effort_words=effort_sentence(own, together_at, display),
        party_pace=together_at,
        digit_words=digits_sentence(state, display),
        wet_words=wet_sentence(person, state, display),
        overrule_words=overrule_sentence(overrule_cost(course, result, person.id, moment.id)),
        break_words=breaking_sentence(breaking, display),
        cure_words=cure_sentence(helping, state, display, together),
        cure_set=together,
        otherwise_words=otherwise_sentence(other, display),
        drink_words=drink_label(moment, display) if other is not None and other.drink else "",
        glove_words=glove_sentence(state, gloves, display),
        cures=helping[:SHOWN_CURES],
        additions=best_by_region(added),
        copy_choices=copy_choices(moment),
    )


@dataclass(frozen=True)
class BedPanel:
    """The bed of the night that follows."""

    bed_words: str
    bed_drawing: Svg
    bed_steps: list[Step]
    shelter_words: list[tuple[bool, str]]


def bed_panel(
    course: Course, result: Assessment, person: Person, night: Night, display: Display
) -> BedPanel:
    """The bed and the shelter of one night of one person."""
    lying = person.on_night(night.day)
    shelters = [
        each for each in result.shelters if each.shelter == lying.shelter and each.day == night.day
    ]
    bare = [
        (each.fit, open_sentence(course, each, display))
        for each in result.open_nights
        if each.day == night.day and person.id in each.people
    ]
    steps = [step for each in shelters for step in explain_shelter(each, display)]
    return BedPanel(
        bed_words=bed_sentence(night, display),
        bed_drawing=bed_cut(lying, night, display),
        bed_steps=explain_night(night, display)
        + steps_in_force(course, person, night.day, display)
        + steps,
        shelter_words=bare
        + [(each.fit, shelter_sentence(course, each, display)) for each in shelters],
    )


@dataclass(frozen=True)
class LoadPanel:
    """What the person carries, morning by morning."""

    load_words: str
    load_drawing: Svg
    load_steps: list[Step]


def load_panel(course: Course, person: Person, found: PersonResult, display: Display) -> LoadPanel:
    """What one person carries."""
    return LoadPanel(
        load_words=load_sentence(found, weekday(course, 0, whole=True), display),
        load_drawing=load_days(course, found.load, display),
        load_steps=explain_load(course, person, found.load, display),
    )
