"""Packing lists: a piece swapped for another, two lists compared, and bags by air."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.load.packing import compare_lists, counted_twice, packing_list
from caldarium.core.load.travel import kilograms, travel
from caldarium.core.plan.changes import fresh_id, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.value import NotThereError
from caldarium.core.stock.inventory import as_kit, queries
from caldarium.core.what_if.swaps import Swap, Swapped, alternatives, swappable, swapped, swaps
from caldarium.store.courses import Courses
from caldarium.web.editing import Editing, editing
from caldarium.web.forms import Field, Texts, read_form, written
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.store import pieces_of
from caldarium.web.urls import course_url
from caldarium.words.course import course_sentence
from caldarium.words.lists import (
    lists_sentence,
    party_travel_sentence,
    swap_sentence,
    travel_sentence,
)
from caldarium.words.units import Display

router = APIRouter()
CAPS = (
    Field("hold_kg", "Hold bag", "body", may_be_empty=True),
    Field("cabin_kg", "Cabin bag", "body", may_be_empty=True),
)
MOST_FROM_STORE = 40
"""Pieces of the store that are tried in the place of one."""


@dataclass(frozen=True)
class Looking:
    """Whose list is looked at, which piece of it is to be swapped, and what lies beside it."""

    person: str = ""
    out: str = ""
    beside: str = ""


@router.get("/courses/{number}/lists")
def show(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """One person's list: what-if swaps, beside another list, and by air."""
    return _lists_page(request, number, looking)


def _lists_page(
    request: Request,
    number: int,
    looking: Looking,
    errors: Mapping[str, str] | None = None,
    typed: Mapping[str, str] | None = None,
) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    member = course.person(looking.person or course.people[0].id)
    mine = swappable(member)
    going = next((each for each in mine if each.id == looking.out), None)
    found = [] if going is None else _swaps(request, course, result, member, going)
    others = _others(courses_of(request), number, course)
    others.pop(f"{number}.{member.id}")
    beside = looking.beside if looking.beside in others else next(iter(others), "")
    lines = packing_list(course, member)
    names = {each.id: each.name for each in course.people}
    flights = [travel(course, course.person(each.person), each.moments) for each in result.people]
    compared, compared_words = None, ""
    if beside:
        label, other_course, other = others[beside]
        compared = compare_lists(packing_list(other_course, other), lines)
        compared_words = lists_sentence(compared, label, member.name, display)
    return page(
        request,
        "load/lists.html",
        held=held,
        course=course,
        person=member,
        mine=mine,
        going=going,
        summary=course_sentence(course, result, display),
        errors=errors or {},
        found=[
            (key, each, swap_sentence(course, each, result.timeline.moments, display))
            for key, each in found
        ],
        others=[(key, label) for key, (label, _, _) in others.items()],
        beside=beside,
        twice=counted_twice(lines),
        compared=compared,
        compared_words=compared_words,
        caps=CAPS,
        cap_texts=_cap_texts(course, display) | dict(typed or {}),
        flights=[
            (names[each.person], each, travel_sentence(each, names[each.person], display))
            for each in flights
        ],
        party_words=party_travel_sentence(flights, course, display),
        kilograms=kilograms,
    )


def _shelf(request: Request, out: Swapped) -> dict[str, Swapped]:
    """What could take a piece's place: the store's own but for those with something to ask, and
    what only the catalogue has."""
    catalogue = load_catalogue().everything
    stored = [each for each in pieces_of(request).all() if not queries(each)]
    kits = [as_kit(each, catalogue, fresh_id(each.tag, ())) for each in stored]
    tags = {id(kit): each.tag for kit, each in zip(kits, stored, strict=True)}
    own = alternatives(out, kits)[:MOST_FROM_STORE]
    there = {(kit.name, kit.mass_g) for kit in own}
    shelf = {f"store:{tags[id(kit)]}": kit for kit in own}
    for each in alternatives(out, catalogue.values()):
        if (each.name, each.mass_g) not in there:
            shelf[f"+{each.id}"] = each
    return shelf


def _swaps(
    request: Request, course: Course, result: Assessment, member: Person, out: Swapped
) -> list[tuple[str, Swap]]:
    shelf = _shelf(request, out)
    keys = {id(piece): key for key, piece in shelf.items()}
    found = swaps(course, result, member, out, list(shelf.values()))
    return [(keys[id(each.piece)], each) for each in found]


def _others(courses: Courses, number: int, course: Course) -> dict[str, tuple[str, Course, Person]]:
    """Lists that one can be laid beside: everybody's here, and in the other courses."""
    found = {f"{number}.{each.id}": (f"{each.name}, here", course, each) for each in course.people}
    for row in courses.list():
        if row.id != number:
            other = courses.get(row.id).course
            for each in other.people:
                found[f"{row.id}.{each.id}"] = (f"{each.name}, {other.name}", other, each)
    return found


def _cap_texts(course: Course, display: Display) -> dict[str, str]:
    values = {field: getattr(course, field.name) for field in CAPS}
    return {
        field.name: "" if value is None else written(value, field.kind, display)
        for field, value in values.items()
    }


@router.post("/courses/{number}/lists")
def change(request: Request, number: int, form: Texts) -> Response:
    """Take a swap, or keep the caps."""
    edit = editing(request, number, form)
    looking = Looking(*(form.get(name, "") for name in ("person", "out", "beside")))
    if form.get("take"):
        _take(request, edit, looking.person, looking.out, form["take"])
        after = replace(looking, out="")
        return RedirectResponse(course_url(number, "lists", **vars(after)), 303)
    display = display_of(request)
    before = _cap_texts(edit.course, display)
    reading = read_form(CAPS, before, form, display)
    if reading.values and not reading.errors:
        try:
            edit.keep("caps by air", lambda now: now.altered(**reading.values))
        except ValidationError as fault:
            reading.refuse(fault, display)
    if reading.errors:
        typed = {field.name: form[field.name] for field in CAPS if field.name in form}
        return _lists_page(request, number, looking, reading.errors, typed)
    return RedirectResponse(course_url(number, "lists", **vars(looking)), 303)


def _take(request: Request, edit: Editing, who: str, out: str, taken: str) -> None:
    """Swap one piece for another.

    Raises:
        NotThereError: where either is not there.
    """
    member = edit.course.person(who)
    going = next((each for each in swappable(member) if each.id == out), None)
    if going is None:
        raise NotThereError("piece", out)
    piece = _shelf(request, going).get(taken)
    if piece is None:
        raise NotThereError("piece", taken.lstrip("+"))
    words = f"{member.name.split()[0]}: {piece.name} for {going.name}"
    edit.keep(words, partial(_swapped, who=who, out=out, piece=piece))


def _swapped(course: Course, who: str, out: str, piece: Swapped) -> Course:
    member = course.person(who)
    going = next((each for each in swappable(member) if each.id == out), None)
    return course if going is None else with_person(course, swapped(member, going, piece))
