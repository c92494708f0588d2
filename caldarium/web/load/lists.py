"""Packing lists: a piece swapped for another, two lists compared, and bags by air."""

from collections.abc import Mapping
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.load.packing import compare_lists, counted_twice, packing_list
from caldarium.core.load.travel import kilograms, travel
from caldarium.core.plan.changes import find_person, fresh_id, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.stock.inventory import as_kit, queries
from caldarium.core.what_if.swaps import Swap, Swapped, alternatives, swappable, swapped, swaps
from caldarium.formats.fault import plain_words
from caldarium.store.courses import Courses
from caldarium.web.fields import Field, read, written
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.store import pieces_of
from caldarium.words.course import course_sentence
from caldarium.words.lists import (
    lists_sentence,
    party_travel_sentence,
    swap_sentence,
    travel_sentence,
)
from caldarium.words.units import Display

router = APIRouter()
CAPS = (Field("hold_kg", "Hold bag", "body"), Field("cabin_kg", "Cabin bag", "body"))
MOST_FROM_STORE = 40
"""Pieces of the store that are tried in the place of one."""


@router.get("/courses/{number}/lists")
def show(
    request: Request,
    number: int,
    person: Annotated[str, Query()] = "",
    out: Annotated[str, Query()] = "",
    beside: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """One person's list: what-if swaps, beside another list, and by air."""
    return _lists_page(request, number, person, out, beside)


def _lists_page(
    request: Request,
    number: int,
    person: str,
    out: str,
    beside: str,
    errors: Mapping[str, str] | None = None,
    typed: Mapping[str, str] | None = None,
) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    known = {each.id for each in course.people}
    member = find_person(course, person if person in known else course.people[0].id)
    mine = swappable(member)
    going = next((each for each in mine if each.id == out), None)
    found = [] if going is None else _swaps(request, course, result, member, going)
    others = _others(courses_of(request), number, course)
    others.pop(f"{number}.{member.id}")
    if beside not in others:
        beside = next(iter(others), "")
    lines = packing_list(course, member)
    names = {each.id: each.name for each in course.people}
    flights = [
        travel(course, find_person(course, each.person), each.moments) for each in result.people
    ]
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
        summary=course_sentence(course, result),
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
async def change(request: Request, number: int) -> Response:
    """Take a swap, or keep the caps."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    courses = courses_of(request)
    who, out, beside = (form.get(name, "") for name in ("person", "out", "beside"))
    if form.get("take"):
        if _take(request, number, who, out, form["take"]):
            out = ""
        return _back(number, who, out, beside)
    errors = _keep_caps(courses, number, form, display_of(request))
    if errors:
        typed = {field.name: form[field.name] for field in CAPS if field.name in form}
        return _lists_page(request, number, who, out, beside, errors, typed)
    return _back(number, who, out, beside)


def _take(request: Request, number: int, who: str, out: str, taken: str) -> bool:
    """Swap one piece for another, where both are still there."""
    courses = courses_of(request)
    members = {each.id: each for each in courses.get(number).course.people}
    if who not in members:
        return False
    going = next((each for each in swappable(members[who]) if each.id == out), None)
    piece = _shelf(request, going).get(taken) if going is not None else None
    if going is None or piece is None:
        return False
    words = f"{members[who].name.split()[0]}: {piece.name} for {going.name}"
    courses.change(number, words, partial(_swapped, who=who, out=out, piece=piece))
    return True


def _swapped(course: Course, who: str, out: str, piece: Swapped) -> Course:
    member = find_person(course, who)
    going = next((each for each in swappable(member) if each.id == out), None)
    return course if going is None else with_person(course, swapped(member, going, piece))


def _keep_caps(
    courses: Courses, number: int, form: Mapping[str, str], display: Display
) -> dict[str, str]:
    """Take the caps that were changed; messages by field for what is wrong."""
    values: dict[str, float | None] = {}
    errors: dict[str, str] = {}
    before = _cap_texts(courses.get(number).course, display)
    for field in CAPS:
        text = form.get(field.name, before[field.name]).strip()
        if text == before[field.name]:
            continue
        try:
            values[field.name] = read(text, field.kind, display)[0] if text else None
        except ValueError as fault:
            errors[field.name] = str(fault)
    if values and not errors:
        try:
            courses.change(number, "caps by air", lambda now: now.altered(**values))
        except ValidationError as fault:
            errors |= {str(error["loc"][0]): plain_words(error) for error in fault.errors()}
    return errors


@router.post("/courses/{number}/lists/undo")
def undo(request: Request, number: int, person: Annotated[str, Form()] = "") -> Response:
    """One step back."""
    courses_of(request).undo(number)
    return _back(number, person, "", "")


def _back(number: int, person: str, out: str, beside: str) -> Response:
    query = f"person={person}&out={out}&beside={beside}"
    return RedirectResponse(f"/courses/{number}/lists?{query}", status_code=303)
