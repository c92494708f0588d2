"""Packs: where every piece goes on each morning, moved by hand, and cards to print."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.assess import Assessment
from caldarium.core.pack.contents import mornings
from caldarium.core.pack.plan import PackPlan, plan_pack, since
from caldarium.core.plan.course import Person
from caldarium.core.plan.rucksack import STRAPS, Zone
from caldarium.core.stock.lending import got_there
from caldarium.store.courses import Held
from caldarium.web.editing import editing
from caldarium.web.forms import Answer, Texts
from caldarium.web.pack.pack_edit import (
    FRAMES,
    HEAVY,
    PACK,
    SIDES,
    change_of,
    pack_texts,
    take_figures,
    with_pack,
)
from caldarium.web.pack.panels import (
    bag_card,
    bundle_cards,
    pack_panel,
    piece_panel,
    shared_rows,
    since_panel,
    zone_choices,
)
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.lending import stored_by_key
from caldarium.web.urls import course_url
from caldarium.words import pack as words
from caldarium.words.faults import fault_text

router = APIRouter()
AT_ONCE = 12
"""Cards on one page."""
KEPT_PLANS = 240
"""Plans of packs that stay in memory."""


@dataclass(frozen=True)
class Looking:
    """Whose pack is looked at, on which day, and which piece of it; of cards from which person
    on."""

    person: str = ""
    day: str = ""
    piece: str = ""
    first: str = ""
    bags: str = ""


def plan_of(request: Request, held: Held, result: Assessment, person: Person, day: int) -> PackPlan:
    """The plan of one pack; worked out once for each state of a course.

    Things stay for little where they were the morning before, as that would be packed by itself.
    """
    earlier = [each for each in mornings(held.course, result.timeline) if each < day]
    before = _planned(request, held, result, person, earlier[-1], None) if earlier else None
    return _planned(request, held, result, person, day, before)


def _planned(
    request: Request,
    held: Held,
    result: Assessment,
    person: Person,
    day: int,
    before: PackPlan | None,
) -> PackPlan:
    known: dict[tuple[int, str, str, int, bool], PackPlan] = request.app.state.packs
    key = (held.id, held.mark, person.id, day, before is not None)
    found = known.get(key)
    if found is None:
        found = known[key] = plan_pack(held.course, person, result, day, before)
        while len(known) > KEPT_PLANS:
            known.pop(next(iter(known)), None)
    return found


def _day(looking: Looking, days: list[int]) -> int | None:
    """The morning that is looked at, the first where none is named."""
    chosen = int(looking.day) if looking.day.isdecimal() and len(looking.day) < 4 else -1
    return chosen if chosen in days else next(iter(days), None)


@router.get("/courses/{number}/pack")
def show(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """One person's pack on one morning."""
    return _page(request, number, looking, Answer())


def _page(request: Request, number: int, looking: Looking, answer: Answer) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    person = course.person(looking.person or course.people[0].id)
    days = mornings(course, result.timeline)
    day = _day(looking, days)
    plan = None if day is None else plan_of(request, held, result, person, day)
    earlier = [each for each in days if day is not None and each < day]
    changed = None
    if plan is not None and earlier:
        before = plan_of(request, held, result, person, earlier[-1])
        changed = since_panel(since(before, plan), before.pieces | plan.pieces, display)
    texts = pack_texts(course, person, display)
    return page(
        request,
        "pack/pack.html",
        held=held,
        course=course,
        person=person,
        day=day,
        mornings=[(each, words.morning_words(course, each)) for each in days],
        panel=pack_panel(plan, display) if plan else None,
        piece=piece_panel(plan, looking.piece, display) if plan else None,
        since=changed,
        zones=zone_choices(plan),
        fields=PACK,
        sides=SIDES,
        values=texts | dict(answer.form),
        errors=answer.errors,
        message=answer.message,
        frames=list(FRAMES.items()),
        straps=[(each, words.STRAP_NAMES[each]) for each in STRAPS],
        heavy=[(each, told, each == course.heavy_things) for each, told in HEAVY.items()],
    )


@router.get("/courses/{number}/pack/cards")
def cards(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """A card to print for everybody's pack on one morning."""
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    days = mornings(course, result.timeline)
    day = _day(looking, days)
    parts = range(0, len(course.people), AT_ONCE)
    first = int(looking.first) if looking.first.isdecimal() and len(looking.first) < 4 else 0
    first = first if first in parts else 0
    listed = [
        (person, pack_panel(plan_of(request, held, result, person, day), display))
        for person in course.people[first : first + AT_ONCE]
        if day is not None and not looking.bags
    ]
    stored = stored_by_key(request)
    return page(
        request,
        "pack/cards.html",
        bags=[
            bag_card(course, each, result, got_there(each, stored), display)
            for each in course.people[first : first + AT_ONCE]
        ]
        if looking.bags == "air"
        else [],
        by_air=looking.bags == "air",
        bundles=bundle_cards(course, display) if looking.bags == "drop" else [],
        apart=looking.bags == "drop",
        held=held,
        course=course,
        day=day,
        mornings=[(each, words.morning_words(course, each)) for each in days],
        cards=listed,
        first=first,
        parts=[
            (each, f"{each + 1} to {min(each + AT_ONCE, len(course.people))}") for each in parts
        ],
        shared=[] if looking.bags else shared_rows(course, display),
    )


@router.post("/courses/{number}/pack")
def change(request: Request, number: int, form: Texts) -> Response:
    """Move pieces, say what they are like, or what the pack is."""
    looking = Looking(form.get("person", ""), form.get("day", ""), form.get("piece", ""))
    edit, display = editing(request, number, form), display_of(request)
    who = edit.course.person(looking.person).id
    errors, message = {}, ""
    try:
        if form.get("act") == "figures":
            errors = take_figures(edit, who, form, display)
        else:
            alter = change_of(form, _zones_shown(request, number, looking, form))
            if alter is not None:
                name = edit.course.person(who).name.split()[0]
                edit.keep(f"{name}'s pack", partial(with_pack, who=who, alter=alter))
    except ValidationError as fault:
        message = f"Not kept: {fault_text(fault, display)}."
    if errors or message:
        return _page(request, number, looking, Answer(errors, form, message))
    address = course_url(
        number, "pack", person=looking.person, day=looking.day, piece=looking.piece
    )
    return RedirectResponse(address, status_code=303)


def _zones_shown(
    request: Request, number: int, looking: Looking, form: Mapping[str, str]
) -> dict[str, Zone]:
    """Where pieces are in the pack that a form showed; asked only where some are moved."""
    if form.get("act") != "place":
        return {}
    held = courses_of(request).get(number)
    result = assessed(request, number, held.course)
    day = _day(looking, mornings(held.course, result.timeline))
    if day is None:
        return {}
    person = held.course.person(looking.person)
    return plan_of(request, held, result, person, day).placing.zones
