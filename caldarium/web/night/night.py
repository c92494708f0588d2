"""The night: one bed from sky to ground, hour by hour, what would change it, and all beds."""

from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import Catalogue, load_catalogue
from caldarium.core.assess import Assessment, wet_beds
from caldarium.core.night.bed_checks import bed_queries, freeze_guard
from caldarium.core.plan.changes import with_bed, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bedding
from caldarium.core.plan.value import NotThereError
from caldarium.core.what_if.bed_changes import choices, over_built, ranked
from caldarium.core.what_if.loans import Loan, loan_beds, uncovered
from caldarium.core.worst import beds_coldest_first, coldest_bed
from caldarium.drawings.bed import bed_cut
from caldarium.drawings.night import bed_shelf, night_curve
from caldarium.web.editing import editing
from caldarium.web.forms import Texts, whole
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.store import pieces_of
from caldarium.web.urls import course_url, open_query
from caldarium.words.bed_checks import bed_question, guard_sentence
from caldarium.words.course import course_sentence
from caldarium.words.faults import fault_text
from caldarium.words.night import bed_sentence, change_words, loan_words, night_hours_sentence
from caldarium.words.steps_night import explain_changes, explain_night
from caldarium.words.units import parse_quantity

router = APIRouter()
SHOWN_CHANGES = 12
MOST_OFFERED = 1000
FEET = ("nothing", "spare clothes", "sit pad")
RAISED = ("no", "cot", "hut bunk")
COT_G = 2200.0
"""A folding cot [g]: judgement."""


@router.get("/courses/{number}/night")
def show(
    request: Request,
    number: int,
    person: str = "",
    night: str = "",
) -> HTMLResponse:
    """One person's bed on one night, and everybody's."""
    return _night_page(request, number, person, whole(night))


@dataclass(frozen=True)
class Refused:
    """What was typed for a bed and not taken, and why."""

    form: dict[str, str]
    error: str


def _night_page(
    request: Request,
    number: int,
    person: str,
    night: int | None,
    refused: Refused | None = None,
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
    order = [(course.person(each), bed) for each, bed in beds_coldest_first(result, day)]
    here = next(bed for each, bed in order if each.id == who)
    catalogue = load_catalogue()
    loans = _loans(request, course, result) if days else []
    wet = wet_beds(result)
    found = ranked(course, result.timeline, member, place, _choices(member, day, catalogue), wet)
    better = [each for each in found if each.degrees > 0][:SHOWN_CHANGES]
    address = course_url(number, "night", night=day)
    return page(
        request,
        "night/night.html",
        held=held,
        course=course,
        days=days,
        day=day,
        person=member,
        bed_night=here,
        words=bed_sentence(here, display),
        hour_words=night_hours_sentence(here, display),
        drawing=bed_cut(member, here, display),
        curve=night_curve(here, display),
        shelf=bed_shelf(order, who, display, open_query(address)),
        address=address,
        queries=[bed_question(each, display) for each in bed_queries(course, member)],
        guarded=[(guard_sentence(each, display), each) for each in freeze_guard(member, here)],
        better=[(change_words(each), each) for each in better],
        lighter=[(change_words(each), each) for each in over_built(found)],
        catalogue=catalogue,
        loans=[loan_words(course, each, display) for each in loans],
        feet=FEET,
        raised=RAISED,
        form=refused.form if refused else {},
        error=refused.error if refused else "",
        steps=explain_night(here, display) + explain_changes(better, display),
        summary=course_sentence(course, result, display),
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
    try:
        if taken:
            day = night or 0
            listed = {each.key: each for each in _choices(person, day, load_catalogue())}
            if taken not in listed:
                raise NotThereError("change", taken)
            words = change_words(listed[taken])
            edit.keep(f"{name}: {words}", lambda now: _take(now, who, day, taken))
        else:
            edit.keep(f"{name}: bed", lambda now: _bedding(now, who, night or 0, form))
    except ValueError as fault:
        message = fault_text(fault, display_of(request))
        return _night_page(request, number, who, night, Refused(form, message))
    return RedirectResponse(course_url(number, "night", night=night, person=who), 303)


def _take(course: Course, who: str, day: int, taken: str) -> Course:
    listed = _choices(course.person(who), day, load_catalogue())
    found = next((each.person for each in listed if each.key == taken), None)
    return with_person(course, found) if found is not None else course


def _bedding(course: Course, who: str, day: int, form: dict[str, str]) -> Course:
    """The person's bed of that night as the form has it; what is not sent stays."""
    catalogue, person = load_catalogue(), course.person(who)
    bedding = person.on_night(day).bedding
    shelves = {
        "over": catalogue.bags,
        "liner": catalogue.liners,
        "cover": catalogue.covers,
        "hammock": catalogue.hammocks,
    }
    parts: dict[str, object] = {}
    for name, shelf in shelves.items():
        if name in form:
            own = getattr(bedding, name)
            kept = own if own is not None and own.id == form[name] else None
            parts[name] = kept or shelf.get(form[name])
    for name in ("feet_on", "raised", "turns"):
        if name in form:
            parts[name] = form[name]
    if "raised" in form and form["raised"] != bedding.raised:
        parts["cot_g"] = COT_G if form["raised"] == "cot" else 0
    if "beside" in form:
        parts["beside"] = form["beside"] or None
    if "warmers" in form:
        parts["warmers"] = parse_quantity(form["warmers"] or "0", "number")
    if "hot_bottle_l" in form:
        parts["hot_bottle_l"] = parse_quantity(form["hot_bottle_l"] or "0", "volume")
    changed: Bedding = bedding.altered(**parts)
    return with_person(course, with_bed(person, day, bedding=changed))
