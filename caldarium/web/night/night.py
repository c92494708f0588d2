"""The night: one bed from sky to ground, hour by hour, what would change it, and all beds."""

from dataclasses import dataclass
from functools import partial

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import Catalogue, load_catalogue
from caldarium.core.assess import Assessment, wet_beds
from caldarium.core.night.bed_checks import bed_queries
from caldarium.core.night.freeze import day_guard, freeze_guard
from caldarium.core.plan.changes import pitch, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.value import NotThereError
from caldarium.core.what_if.bed_changes import choices, over_built, ranked
from caldarium.core.what_if.loans import Loan, loan_beds, uncovered
from caldarium.core.worst import beds_coldest_first, coldest_bed
from caldarium.drawings.bed import bed_cut
from caldarium.drawings.night import bed_shelf, night_curve
from caldarium.web.editing import Editing, editing
from caldarium.web.forms import Texts, whole
from caldarium.web.night.bed_form import (
    FEET,
    MOST_PADS,
    RAISED,
    TURNS,
    WHOSE,
    entries_of,
    take,
    whose_bed,
)
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.store import pieces_of
from caldarium.web.urls import course_url, open_query
from caldarium.words.bed_checks import (
    bed_question,
    guard_sentence,
    room_sentence,
    way_sentence,
)
from caldarium.words.course import course_sentence
from caldarium.words.learned import steps_in_force
from caldarium.words.night import (
    bed_sentence,
    change_words,
    loan_words,
    margin_text,
    night_hours_sentence,
    open_sentence,
)
from caldarium.words.steps_night import explain_changes, explain_guard, explain_night
from caldarium.words.units import Display

router = APIRouter()
SHOWN_CHANGES = 12
MOST_OFFERED = 1000


@router.get("/courses/{number}/night")
def show(
    request: Request,
    number: int,
    person: str = "",
    night: str = "",
    by: str = "",
) -> HTMLResponse:
    """One person's bed on one night, and everybody's."""
    return _night_page(request, number, person, whole(night), by_cost=by == "cost")


@dataclass(frozen=True)
class Refused:
    """What was typed for a bed and not taken, and why, by field."""

    form: dict[str, str]
    errors: dict[str, str]


def _night_page(
    request: Request,
    number: int,
    person: str,
    night: int | None,
    refused: Refused | None = None,
    *,
    by_cost: bool = False,
) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    if person:
        course.person(person)
    days = [each.day for each in result.people[0].nights]
    if not days:
        return page(request, "night/night.html", held=held, course=course, days=[])
    who, worst_day = coldest_bed(result, person)
    day = worst_day if night is None or night not in days else night
    place = days.index(day)
    member = course.person(who)
    lying = member.on_night(day)
    order = [(course.person(each), bed) for each, bed in beds_coldest_first(result, day)]
    here = next(bed for each, bed in order if each.id == who)
    catalogue = load_catalogue()
    loans = _loans(request, course, result)
    wet = wet_beds(result)
    guard = freeze_guard(course, lying, here, wet.get((who, day)))
    walked = [each for each in result.timeline.moments if each.day == day]
    found = ranked(course, result.timeline, member, place, _choices(member, day, catalogue), wet)
    better = [each for each in found if each.degrees > 0]
    if by_cost:
        better.sort(key=lambda each: -(each.degrees_a_100 or 0.0))
    better = better[:SHOWN_CHANGES]
    address = course_url(number, "night", night=day)
    form, errors = (refused.form, refused.errors) if refused else ({}, {})
    return page(
        request,
        "night/night.html",
        held=held,
        course=course,
        days=days,
        day=day,
        person=member,
        lying=lying,
        whose=whose_bed(member, day),
        whose_words=WHOSE,
        bed_fields=entries_of(course, member, day, display, form, errors),
        bed_night=here,
        words=bed_sentence(here, display),
        hour_words=night_hours_sentence(here, display),
        drawing=bed_cut(lying, here, display),
        curve=night_curve(here, display),
        shelf=bed_shelf(order, who, display, open_query(address)),
        address=address,
        by_cost=by_cost,
        queries=[bed_question(each, display) for each in bed_queries(course.on_night(day), lying)],
        guarded=[(guard_sentence(each, display), each) for each in guard.things],
        room_words=room_sentence(guard, display),
        on_the_way=[way_sentence(each, display) for each in day_guard(course, member, walked)],
        others=_others_guard(course, result, day, who, display),
        better=[(change_words(each), each) for each in better],
        lighter=[(change_words(each), each) for each in over_built(course, result.timeline, found)],
        catalogue=catalogue,
        loans=[loan_words(course, each, display) for each in loans],
        most_pads=MOST_PADS,
        feet=FEET,
        raised=RAISED,
        turns=TURNS,
        form=form,
        nights_table=_nights_table(course, result, days, display),
        bare=[
            open_sentence(course, each, display) for each in result.open_nights if each.day == day
        ],
        steps=explain_night(here, display)
        + steps_in_force(course, member, day, display)
        + explain_guard(guard, display)
        + explain_changes(better, display),
        summary=course_sentence(course, result),
    )


def _loans(request: Request, course: Course, result: Assessment) -> list[Loan]:
    """Bags and pads of the store for those whose beds are too cold."""
    cold = uncovered({each.person: each.nights for each in result.people})
    if not cold:
        return []
    pieces = pieces_of(request)
    shelf = [
        each
        for kind in ("bag", "quilt", "pad")
        for each in pieces.find(kind=kind, most=MOST_OFFERED).pieces
    ]
    wet = wet_beds(result)
    return loan_beds(course, result.timeline, cold, shelf, load_catalogue().everything, wet)


@router.post("/courses/{number}/night/loans")
def lend(request: Request, number: int, form: Texts) -> Response:
    """Give every cold sleeper the bed of the store that was matched to them, in one step."""
    edit = editing(request, number, form)
    loans = _loans(request, edit.course, assessed(request, number, edit.course))
    if loans:
        words = f"{len(loans)} bed{'s' * (len(loans) > 1)} lent from the store"
        edit.keep(words, lambda _now: loans[-1].course)
    return RedirectResponse(course_url(number, "night", night=form.get("night", "")), 303)


def _choices(member: Person, day: int, catalogue: Catalogue):
    return choices(
        member,
        day,
        catalogue.bags.values(),
        list(catalogue.pads.values()),
        catalogue.liners.values(),
        catalogue.covers.values(),
        catalogue.garments.values(),
    )


@router.post("/courses/{number}/night")
def change(request: Request, number: int, form: Texts) -> Response:
    """Take one of the ranked changes, or what was chosen for the bed."""
    edit = editing(request, number, form)
    who, night = form.get("person", ""), whole(form.get("night"))
    person = edit.course.person(who)
    name, taken = person.name.split()[0], form.get("take", "")
    day = night or 0
    display = display_of(request)
    if form.get("table"):
        _move(edit, form)
        return RedirectResponse(course_url(number, "night", night=night, person=who), 303)
    if taken:
        listed = {each.key: each for each in _choices(person, day, load_catalogue())}
        if taken not in listed:
            raise NotThereError("change", taken)
        words = change_words(listed[taken])
        edit.keep(f"{name}: {words}", lambda now: _take(now, who, day, taken))
        return RedirectResponse(course_url(number, "night", night=night, person=who), 303)
    errors = take(edit, who, day, form, display)
    if errors:
        return _night_page(request, number, who, night, Refused(form, errors))
    return RedirectResponse(course_url(number, "night", night=night, person=who), 303)


def _others_guard(
    course: Course, result: Assessment, day: int, who: str, display: Display
) -> list[tuple[Person, list[str]]]:
    """What everybody else has to keep from freezing that night."""
    wet = wet_beds(result)
    rows: list[tuple[Person, list[str]]] = []
    for found in result.people:
        if found.person != who:
            person = course.person(found.person).on_night(day)
            night = next(each for each in found.nights if each.day == day)
            guard = freeze_guard(course, person, night, wet.get((found.person, day)))
            told = [guard_sentence(each, display) for each in guard.things if each.at_risk]
            if told:
                rows.append((person, [*told, room_sentence(guard, display)]))
    return rows


@dataclass(frozen=True)
class Slept:
    """One person's night in the table of all: where, the bed's state and margin in words, whose bed
    it is."""

    day: int
    shelter: str
    state: str
    margin: str
    whose: str


def _nights_table(
    course: Course, result: Assessment, days: list[int], display: Display
) -> list[tuple[Person, list[Slept]]]:
    """Everybody's nights."""
    rows: list[tuple[Person, list[Slept]]] = []
    for person, found in zip(course.people, result.people, strict=True):
        slept = [
            Slept(
                day=day,
                shelter=person.on_night(day).shelter or "",
                state=night.state,
                margin=margin_text(night, display),
                whose=WHOSE_SHORT[whose_bed(person, day)],
            )
            for day, night in zip(days, found.nights, strict=True)
        ]
        rows.append((person, slept))
    return rows


WHOSE_SHORT = {"own": "", "other": "other bed", "light": "light bed", "lent": "lent bed"}


def _move(edit: Editing, form: dict[str, str]) -> None:
    """Take every night of the table on which somebody was given another shelter, one step each."""
    known = {each.id: each.name for each in edit.course.shelters}
    for person in edit.course.people:
        for day in range(len(edit.course.days)):
            wanted = form.get(f"move.{person.id}.{day}")
            now = edit.now.person(person.id).on_night(day).shelter or ""
            shown = person.on_night(day).shelter or ""
            if wanted is None or wanted in (shown, now):
                continue
            if wanted and wanted not in known:
                raise NotThereError("shelter", wanted)
            where = known.get(wanted, "no shelter")
            words = f"{person.name.split()[0]} in {where} from night {day + 1}"
            edit.keep(words, partial(pitch, person=person.id, shelter=wanted or None, day=day))


def _take(course: Course, who: str, day: int, taken: str) -> Course:
    listed = _choices(course.person(who), day, load_catalogue())
    found = next((each.person for each in listed if each.key == taken), None)
    return with_person(course, found.altered()) if found is not None else course
