"""The lightest set of one person, of the party, and by caution: looked for in the background, shown
beside what is, and taken whole or in parts."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import Annotated, TypeVar, cast

from fastapi import APIRouter, Depends, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.lighten.frontier import ready_of
from caldarium.core.lighten.group_choice import GroupChoice, with_group
from caldarium.core.lighten.lever import Lever, Levers, taken
from caldarium.core.lighten.offers import own_grams
from caldarium.core.lighten.party import Party, with_people
from caldarium.core.lighten.phases import Phases, with_phases
from caldarium.core.lighten.problem import OBJECTIVES
from caldarium.core.lighten.proposal import Proposal, bed_keys, with_changes
from caldarium.core.lighten.rules import RULES
from caldarium.core.lighten.shelters import Pitched, with_shelters
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Ready
from caldarium.core.stock.supply import SOURCES, Supply
from caldarium.core.what_if.progress import Heard
from caldarium.web.editing import editing
from caldarium.web.forms import Sent, Texts
from caldarium.web.lighten.group_panel import group_panel
from caldarium.web.lighten.panels import (
    found_panel,
    levers_panel,
    party_panel,
    phases_panel,
    place_rows,
    ready_rows,
    shelters_panel,
    stair_panel,
)
from caldarium.web.lighten.work import (
    SECONDS,
    Asked,
    Costs,
    SoFar,
    costs_task,
    group_task,
    levers_task,
    party_task,
    person_task,
    phases_task,
    shelters_task,
)
from caldarium.web.page import courses_of, display_of, page, works_of
from caldarium.web.stock.lending import supply_for
from caldarium.web.urls import course_url
from caldarium.words import lighten as words
from caldarium.words.stock import SOURCE_NAMES

router = APIRouter()
About = tuple[int, str, str, str, Asked]
Found = TypeVar("Found", Proposal, Party, Costs, Levers, Phases, Pitched, GroupChoice)
CHANGED = "The course has changed since that was found: look again."


@dataclass(frozen=True)
class Search:
    """Something that is looked for: the end of its address, its template, and the work."""

    end: str
    template: str
    task: Callable[[Course, Supply, Asked, SoFar], Callable[[Heard], object]]


SEARCHES = {
    "person": Search("lighten", "lighten", person_task),
    "party": Search("lighten/party", "party", party_task),
    "costs": Search("lighten/caution", "caution", costs_task),
    "levers": Search("lighten/helps-most", "levers", levers_task),
    "phases": Search("lighten/part-way", "phases", phases_task),
    "shelters": Search("lighten/shelters", "shelters", shelters_task),
    "group": Search("lighten/group-kit", "group_kit", group_task),
}


def _asked(asked: Asked, course: Course) -> Asked:
    """What is asked, for somebody of the course where nobody is named."""
    return replace(asked, person=asked.person or course.people[0].id)


def _about(number: int, mark: str, what: str, asked: Asked) -> About:
    return (number, mark, "lighten", what, asked)


def _address(number: int, what: str, asked: Asked) -> str:
    usual = vars(Asked())
    told = {name: str(value) for name, value in vars(asked).items() if value != usual[name]}
    return course_url(number, SEARCHES[what].end, **told)


def _page(
    request: Request, number: int, what: str, asked: Asked, message: str = ""
) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    asked = _asked(asked, course)
    person = course.person(asked.person)
    work = works_of(request).of(_about(number, held.mark, what, asked))
    outcome = work.outcome if work else None
    so_far = cast("SoFar | None", work.so_far if work else None)
    address = partial(_address, number, what)
    again = replace(asked, inside="", outside="", longer=0)
    longer = replace(asked, longer=asked.longer + 1)
    proposal = outcome if isinstance(outcome, Proposal) else None
    party = outcome if isinstance(outcome, Party) else None
    costs = outcome if isinstance(outcome, Costs) else None
    helps = outcome if isinstance(outcome, Levers) else None
    pitched = outcome if isinstance(outcome, Pitched) else None
    group = outcome if isinstance(outcome, GroupChoice) else None
    part_way = outcome if isinstance(outcome, Phases) else None
    return page(
        request,
        f"lighten/{SEARCHES[what].template}.html",
        held=held,
        course=course,
        person=person,
        asked=asked,
        work=work,
        so_far=so_far if so_far is not None and so_far.bound > 0 else None,
        here=address(asked),
        message=message,
        sources=[
            (SOURCE_NAMES[each], each in asked.from_where, address(asked.turned(each)))
            for each in SOURCES
        ],
        objectives=[(each, words.OBJECTIVES[each]) for each in OBJECTIVES],
        people=[
            (each.name.split()[0], address(replace(again, person=each.id)), each.id == person.id)
            for each in course.people
        ],
        longer=address(longer) if longer.longer < len(SECONDS) else "",
        rules_off=[words.RULES[each] for each in RULES if each in asked.off],
        panel=found_panel(course, proposal, asked, address, display) if proposal else None,
        party=party_panel(party, asked, display) if party else None,
        stairs=stair_panel(course, person, costs, display) if costs else None,
        helps=levers_panel(course, helps, display) if helps else None,
        part_way=phases_panel(course, part_way, display) if part_way else None,
        pitched=shelters_panel(course, pitched, display) if pitched else None,
        group=group_panel(course, group, display) if group else None,
        places=place_rows(course, asked),
        ready=ready_rows(course, display),
        own_grams=own_grams(person),
    )


@router.get("/courses/{number}/lighten")
def show(request: Request, number: int, asked: Annotated[Asked, Depends()]) -> HTMLResponse:
    """One person's lightest set, as far as it is looked for."""
    return _page(request, number, "person", asked)


@router.get("/courses/{number}/lighten/party")
def show_party(request: Request, number: int, asked: Annotated[Asked, Depends()]) -> HTMLResponse:
    """Everybody's, with what the store has shared."""
    return _page(request, number, "party", asked)


@router.get("/courses/{number}/lighten/caution")
def show_costs(request: Request, number: int, asked: Annotated[Asked, Depends()]) -> HTMLResponse:
    """What each step of caution costs one person, and what is left ready at the road."""
    return _page(request, number, "costs", asked)


@router.get("/courses/{number}/lighten/shelters")
def show_shelters(
    request: Request, number: int, asked: Annotated[Asked, Depends()]
) -> HTMLResponse:
    """The lightest shelters, filled."""
    return _page(request, number, "shelters", asked)


@router.get("/courses/{number}/lighten/group-kit")
def show_group_kit(
    request: Request, number: int, asked: Annotated[Asked, Depends()]
) -> HTMLResponse:
    """The lightest kit of the group, by its rules."""
    return _page(request, number, "group", asked)


@router.get("/courses/{number}/lighten/part-way")
def show_phases(
    request: Request,
    number: int,
    asked: Annotated[Asked, Depends()],
    place: Annotated[list[str] | None, Query()] = None,
) -> Response:
    """What of one person's clothes need not go all the way; places that were ticked go into the
    address."""
    if place:
        asked = replace(asked, places=",".join(place))
        return RedirectResponse(_address(number, "phases", asked), status_code=303)
    return _page(request, number, "phases", asked)


@router.get("/courses/{number}/lighten/helps-most")
def show_levers(request: Request, number: int, asked: Annotated[Asked, Depends()]) -> HTMLResponse:
    """The one loan or purchase that warms or lightens most people."""
    return _page(request, number, "levers", asked)


def _asked_in(form: Mapping[str, str]) -> Asked:
    known = {name: form[name] for name in vars(Asked()) if name in form and name != "longer"}
    longer = form.get("longer", "0")
    return Asked(**known, longer=int(longer) if longer.isdecimal() else 0)


def _begin(request: Request, number: int, what: str, form: Mapping[str, str]) -> Response:
    held = courses_of(request).get(number)
    asked = _asked(_asked_in(form), held.course)
    held.course.person(asked.person)
    works, about = works_of(request), _about(number, held.mark, what, asked)
    if form.get("act") == "stop":
        works.stop(about)
    else:
        works.stop_where(lambda other: _is_stale(other, about))
        supply, so_far = supply_for(request, number, held.course), SoFar()
        works.begin(about, SEARCHES[what].task(held.course, supply, asked, so_far), so_far)
    return RedirectResponse(_address(number, what, asked), status_code=303)


def _is_stale(other: object, about: About) -> bool:
    """Whether a work looks for sets of a course as it was, or otherwise for the same person."""
    if not isinstance(other, tuple) or other[:1] + other[2:3] != about[:1] + about[2:3]:
        return False
    same = other[3] == about[3] and other[4].person == about[4].person
    return other != about and (other[1] != about[1] or same)


def _found(
    request: Request, number: int, what: str, form: Mapping[str, str], kind: type[Found]
) -> tuple[Asked, Found | None]:
    """What a form asks, and what a search found of it for the course as it is; None where that has
    changed since."""
    held = courses_of(request).get(number)
    asked = _asked(_asked_in(form), held.course)
    work = works_of(request).of(_about(number, held.mark, what, asked))
    outcome = work.outcome if work else None
    return asked, outcome if isinstance(outcome, kind) else None


@router.post("/courses/{number}/lighten")
def change(request: Request, number: int, sent: Sent) -> Response:
    """Look for one person's set, stop, or take what was found, whole or some of it."""
    form = {name: value for name, value in sent.items() if isinstance(value, str)}
    if form.get("act") == "take":
        pieces = {each for each in sent.getlist("piece") if isinstance(each, str)}
        return _take(request, number, form, pieces)
    return _begin(request, number, "person", form)


def _take(request: Request, number: int, form: Mapping[str, str], pieces: set[str]) -> Response:
    asked, found = _found(request, number, "person", form, Proposal)
    if found is None:
        return _page(request, number, "person", asked, CHANGED)
    keys = pieces | bed_keys(found) if "bed" in pieces else pieces
    if not keys:
        return _page(request, number, "person", asked, "Tick what is to change.")
    _keep(request, number, form, "a lighter set", [with_changes(found, keys)])
    return RedirectResponse(_address(number, "person", asked), status_code=303)


def _keep(
    request: Request, number: int, form: Mapping[str, str], name: str, people: Sequence[Person]
) -> None:
    """Keep the clothes and beds of some people as proposed, in one step of undo."""
    edit = editing(request, number, form)
    supply = supply_for(request, number, edit.course)
    names = [person.name.split()[0] for person in people]
    who = "everybody" if len(names) == len(edit.course.people) else ", ".join(names)
    edit.keep(f"{who}: {name}", lambda course: with_people(course, people, supply))


@router.post("/courses/{number}/lighten/party")
def change_party(request: Request, number: int, form: Texts) -> Response:
    """Look for everybody's sets, stop, or take those of one or of all."""
    act, _, who = form.get("act", "").partition("=")
    if act != "take":
        return _begin(request, number, "party", form)
    asked, found = _found(request, number, "party", form, Party)
    if found is None:
        return _page(request, number, "party", asked, CHANGED)
    people = [each.after for each in found.proposals if each.after and who in ("", each.before.id)]
    if people:
        _keep(request, number, form, "a lighter set", people)
    return RedirectResponse(_address(number, "party", asked), status_code=303)


@router.post("/courses/{number}/lighten/shelters")
def change_shelters(request: Request, number: int, form: Texts) -> Response:
    """Look for the lightest shelters, stop, or take those that were found."""
    if form.get("act") != "take":
        return _begin(request, number, "shelters", form)
    asked, found = _found(request, number, "shelters", form, Pitched)
    if found is None:
        return _page(request, number, "shelters", asked, CHANGED)
    editing(request, number, form).keep("lighter shelters", partial(with_shelters, found=found))
    return RedirectResponse(_address(number, "shelters", asked), status_code=303)


@router.post("/courses/{number}/lighten/group-kit")
def change_group_kit(request: Request, number: int, sent: Sent) -> Response:
    """Look for lighter group kit, stop, or take what is ticked of it."""
    form = {name: value for name, value in sent.items() if isinstance(value, str)}
    if form.get("act") != "take":
        return _begin(request, number, "group", form)
    asked, found = _found(request, number, "group", form, GroupChoice)
    if found is None:
        return _page(request, number, "group", asked, CHANGED)
    ticked = {each for each in sent.getlist("piece") if isinstance(each, str)}
    taken = [at for at in found.changed if str(at) in ticked]
    if not taken:
        return _page(request, number, "group", asked, "Tick what is to change.")
    editing(request, number, form).keep(
        "lighter group kit", partial(with_group, found=found, taken=taken)
    )
    return RedirectResponse(_address(number, "group", asked), status_code=303)


@router.post("/courses/{number}/lighten/part-way")
def change_phases(request: Request, number: int, sent: Sent) -> Response:
    """Look for what need not go all the way, stop, or let what is ticked go home or come up."""
    form = {name: value for name, value in sent.items() if isinstance(value, str)}
    if form.get("act") != "take":
        return _begin(request, number, "phases", form)
    asked, found = _found(request, number, "phases", form, Phases)
    if found is None:
        return _page(request, number, "phases", asked, CHANGED)
    keys = {each for each in sent.getlist("piece") if isinstance(each, str)}
    if not keys:
        return _page(request, number, "phases", asked, "Tick what is to change.")
    name = f"{found.before.name.split()[0]}: part of the way"
    editing(request, number, form).keep(name, partial(with_phases, found=found, keys=keys))
    return RedirectResponse(_address(number, "phases", asked), status_code=303)


@router.post("/courses/{number}/lighten/helps-most")
def change_levers(request: Request, number: int, form: Texts) -> Response:
    """Try every piece on everybody, stop, or give one to those whom it helps."""
    act, _, key = form.get("act", "").partition("=")
    if act not in ("warm", "lighten"):
        return _begin(request, number, "levers", form)
    asked, found = _found(request, number, "levers", form, Levers)
    if found is None:
        return _page(request, number, "levers", asked, CHANGED)
    listed: tuple[Lever, ...] = found.warm if act == "warm" else found.lighten
    people = [each for lever in listed if lever.offer.key == key for each in taken(lever)]
    if people:
        _keep(request, number, form, "what helps most", people)
    return RedirectResponse(_address(number, "levers", asked), status_code=303)


@router.post("/courses/{number}/lighten/caution")
def change_costs(request: Request, number: int, form: Texts) -> Response:
    """Look for what caution costs, stop, take a step's set, or leave pieces ready at the road."""
    act, _, value = form.get("act", "").partition("=")
    if act not in ("step", "ready", "not-ready"):
        return _begin(request, number, "costs", form)
    asked, found = _found(request, number, "costs", form, Costs)
    at = int(value) if value.isdecimal() and len(value) < 4 else -1
    if act == "not-ready":
        _keep_ready(
            request, number, form, "no longer ready at the road", partial(_without_ready, at=at)
        )
        return RedirectResponse(_address(number, "costs", asked), status_code=303)
    if found is None or not 0 <= at < len(found.treads):
        return _page(request, number, "costs", asked, CHANGED)
    after, ready = found.treads[at].proposal.after, ready_of(found.treads, at)
    if act == "step" and after is not None:
        _keep(request, number, form, "a step of caution", [after])
    elif act == "ready" and ready is not None:
        _keep_ready(request, number, form, "ready at the road", partial(_with_ready, ready=ready))
    return RedirectResponse(_address(number, "costs", asked), status_code=303)


def _keep_ready(
    request: Request,
    number: int,
    form: Mapping[str, str],
    name: str,
    change: Callable[[Course], Course],
) -> None:
    """Keep what is ready at the road; what was found of the steps holds as before, and stays."""
    before = courses_of(request).get(number)
    editing(request, number, form).keep(name, change)
    after = courses_of(request).get(number)
    if after.course.altered(ready=before.course.ready) == before.course:
        asked = _asked(_asked_in(form), before.course)
        works = works_of(request)
        works.also(
            _about(number, before.mark, "costs", asked), _about(number, after.mark, "costs", asked)
        )


def _with_ready(course: Course, ready: Ready) -> Course:
    return course if ready in course.ready else course.altered(ready=(*course.ready, ready))


def _without_ready(course: Course, at: int) -> Course:
    return course.altered(ready=tuple(e for k, e in enumerate(course.ready) if k != at))
