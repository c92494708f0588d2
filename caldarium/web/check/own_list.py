"""A list of one's own, made by ticking what somebody carries."""

from dataclasses import dataclass, field

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.lists.from_kit import list_of
from caldarium.core.lists.holdings import BOTTLES, Holding, holdings
from caldarium.core.plan.course import Course
from caldarium.store.gear_lists import GearLists
from caldarium.web.check.lists_asked import every_list
from caldarium.web.editing import editing
from caldarium.web.forms import Sent
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.urls import course_url
from caldarium.words.check import holding_name
from caldarium.words.faults import fault_text

router = APIRouter()


@dataclass(frozen=True)
class Answer:
    """What was sent and not taken, and why, by field."""

    ticked: frozenset[str] = frozenset()
    name: str = ""
    errors: dict[str, str] = field(default_factory=dict)


@router.get("/courses/{number}/check/own")
def show(request: Request, number: int, person: str = "") -> HTMLResponse:
    """What somebody has, to tick."""
    return _page(request, number, person, None)


def _page(request: Request, number: int, person: str, answer: Answer | None) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    member = course.person(person or course.people[0].id)
    rows = [
        (each.key, holding_name(each), display.mass(each.grams * each.count), each.shared)
        for each in _to_tick(course, member.id)
    ]
    told = answer or Answer()
    ticked = told.ticked if answer is not None else {key for key, *_ in rows}
    return page(
        request,
        "check/own.html",
        held=held,
        course=course,
        person=member,
        rows=rows,
        ticked=ticked,
        name=told.name,
        errors=told.errors,
    )


def _to_tick(course: Course, person: str) -> list[Holding]:
    """One person's things, and one of each of the group's."""
    found: dict[str, Holding] = {}
    for each in holdings(course):
        if each.id == BOTTLES or each.of:
            continue
        if each.shared:
            found.setdefault(f"shared {each.piece}", each)
        elif each.who == person:
            found[each.key] = each
    return list(found.values())


@router.post("/courses/{number}/check/own")
def make(request: Request, number: int, sent: Sent) -> Response:
    """Make the list, ask it here, and keep it for other courses."""
    form = {name: str(value) for name, value in sent.items() if isinstance(value, str)}
    ticked = frozenset(str(each) for each in sent.getlist("tick"))
    name = form.get("name", "").strip()
    edit = editing(request, number, form)
    person = edit.course.person(form.get("person", "") or edit.course.people[0].id).id
    chosen = [each for each in _to_tick(edit.course, person) if each.key in ticked]
    errors: dict[str, str] = {}
    if not name:
        errors["name"] = "Give the list a name."
    if not chosen:
        errors["tick"] = "Tick what the list asks for."
    if errors:
        return _page(request, number, person, Answer(ticked, name, errors))
    taken = [*every_list(request), *(each.id for each in edit.course.lists)]
    try:
        found = list_of(name, chosen, quality="quality" in form, must="must" in form, taken=taken)
        edit.keep(f"list {found.name}", lambda now: now.altered(lists=(*now.lists, found)))
    except ValidationError as fault:
        told = f"Not kept: {fault_text(fault, display_of(request))}."
        return _page(request, number, person, Answer(ticked, name, {"name": told}))
    kept: GearLists = request.app.state.gear_lists
    kept.put(found)
    return RedirectResponse(course_url(number, "check"), 303)
