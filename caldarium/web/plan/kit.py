"""What people have, given quickly: pieces by a few letters, sets by name, a roster at once."""

import re
from dataclasses import dataclass
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import add_piece, with_person
from caldarium.core.plan.course import MOST_PEOPLE, Course
from caldarium.core.plan.kit import Bag, Garment, Item, Pad
from caldarium.core.plan.kit_sets import KitSet, set_of, with_set
from caldarium.core.plan.value import NotThereError
from caldarium.core.stock.issue import give
from caldarium.core.stock.lending import days_of, left_of, loans_for
from caldarium.web.editing import editing
from caldarium.web.forms import Sent, Texts
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.plan import roster_form
from caldarium.web.plan.people import person_page
from caldarium.web.stock.lending import lending_of, refused
from caldarium.web.urls import course_url
from caldarium.words.faults import fault_text
from caldarium.words.stock import refusal_words
from caldarium.words.units import Display

router = APIRouter()
SHOWN = 30


@dataclass(frozen=True)
class Offer:
    """A piece that can be given: the value that asks for it, its name, what it weighs, where it
    comes from, and whether there is one left."""

    value: str
    name: str
    mass: str
    whence: str
    left: bool


def _matches(words: str, name: str) -> bool:
    """Whether every word typed begins a word of a name."""
    parts, typed = (re.findall(r"[a-z0-9.]+", each.lower()) for each in (name, words))
    return all(any(part.startswith(word) for part in parts) for word in typed)


def _offers(request: Request, course: Course, words: str, display: Display) -> list[Offer]:
    """Pieces of the store and of the catalogue whose names have the letters typed."""
    loans, (first, last) = lending_of(request).all(), days_of(course)
    found: list[Offer] = []
    for piece in request.app.state.pieces.all():
        if piece.condition == "unfit" or not _matches(words, f"{piece.name} {piece.tag}"):
            continue
        left = left_of(piece, loans_for(piece, loans), first, last)
        whence = f"store {piece.tag}, {max(left, 0)} of {piece.count} left"
        mass = display.mass(piece.mass_g) if piece.mass_g is not None else "not weighed"
        found.append(Offer(f"s:{piece.tag}", piece.name, mass, whence, left > 0))
    for name, piece in load_catalogue().everything.items():
        if isinstance(piece, Garment | Bag | Pad | Item) and _matches(words, piece.name):
            mass = display.mass(piece.mass_g)
            found.append(Offer(f"c:{name}", piece.name, mass, "catalogue", True))
    return found


@router.get("/courses/{number}/people/{identifier}/shelf")
def search(
    request: Request, number: int, identifier: str, q: Annotated[str, Query()] = ""
) -> HTMLResponse:
    """Pieces by a few letters, to tick and give."""
    held = courses_of(request).get(number)
    person = held.course.person(identifier)
    found = _offers(request, held.course, q, display_of(request)) if q.strip() else []
    return page(
        request,
        "plan/shelf.html",
        held=held,
        course=held.course,
        person=person,
        q=q,
        offers=found[:SHOWN],
        more=max(len(found) - SHOWN, 0),
    )


def _back(number: int, identifier: str) -> Response:
    return RedirectResponse(course_url(number, f"people/{identifier}"), status_code=303)


@router.post("/courses/{number}/people/{identifier}/give")
def give_several(
    request: Request, number: int, identifier: str, form: Texts, sent: Sent
) -> Response:
    """Give every piece that was ticked, in one step."""
    edit, catalogue = editing(request, number, form), load_catalogue()
    wanted = [value for value in sent.getlist("piece") if isinstance(value, str)]
    name = edit.course.person(identifier).name.split()[0]
    if not wanted:
        return person_page(request, number, identifier, errors={"shelf": "tick what to give"})
    stored = {
        tag: request.app.state.pieces.get(tag)
        for kind, _, tag in (value.partition(":") for value in wanted)
        if kind == "s"
    }

    asked = [stored[value[2:]] for value in wanted if value.startswith("s:")]
    missing = refused(request, edit.course, asked)
    if missing:
        told = "; ".join(refusal_words(piece, why) for piece, why in missing)
        return person_page(request, number, identifier, errors={"shelf": told})

    def alter(now: Course) -> Course:
        for value in wanted:
            kind, _, key = value.partition(":")
            if kind == "s":
                now = give(now, identifier, stored[key], catalogue.everything)
                continue
            piece = catalogue.everything.get(key)
            if not isinstance(piece, Garment | Bag | Pad | Item):
                raise NotThereError("piece", key)
            now = with_person(now, add_piece(now.person(identifier), piece))
        return now

    try:
        edit.keep(f"{name}: {len(wanted)} piece{'s' * (len(wanted) > 1)} given", alter)
    except ValidationError as fault:
        errors = {"shelf": fault_text(fault, display_of(request))}
        return person_page(request, number, identifier, errors=errors)
    return _back(number, identifier)


def _set_named(request: Request, course: Course, wanted: str) -> KitSet | None:
    """A set by what its choice sends: of the catalogue, of the school, or of a member."""
    kind, _, key = wanted.partition(":")
    if kind == "catalogue" and key in load_catalogue().sets:
        return KitSet(name=key, **load_catalogue().kit(key))
    if kind == "own":
        return request.app.state.kit_sets.get(key)
    if kind == "like" and any(each.id == key for each in course.people):
        member = course.person(key)
        return set_of(member, f"kit of {member.name}")
    return None


@router.post("/courses/{number}/people/{identifier}/set")
def take_set(request: Request, number: int, identifier: str, form: Texts) -> Response:
    """Give a whole set, instead of what somebody has or besides it."""
    edit = editing(request, number, form)
    person = edit.course.person(identifier)
    kit = _set_named(request, edit.course, form.get("set", ""))
    if kit is None:
        return person_page(request, number, identifier, errors={"set": "choose a set"})
    instead = form.get("how", "instead") == "instead"
    try:
        edit.keep(
            f"{person.name.split()[0]}: {kit.name}",
            lambda now: with_person(now, with_set(now.person(identifier), kit, instead=instead)),
        )
    except ValidationError as fault:
        errors = {"set": fault_text(fault, display_of(request))}
        return person_page(request, number, identifier, errors=errors)
    return _back(number, identifier)


@router.post("/courses/{number}/people/{identifier}/keep-set")
def keep_set(request: Request, number: int, identifier: str, form: Texts) -> Response:
    """Keep what somebody has as a set of the school's, or forget one."""
    person = courses_of(request).get(number).course.person(identifier)
    name, sets = form.get("set_name", "").strip(), request.app.state.kit_sets
    if form.get("act") == "forget":
        sets.remove(form.get("own", ""))
        return _back(number, identifier)
    try:
        sets.put(set_of(person, name))
    except ValidationError:
        message = {"set_name": "a name of 1 to 120 letters"}
        return person_page(request, number, identifier, form=form, errors=message)
    return _back(number, identifier)


@router.post("/courses/{number}/people/{identifier}/roster")
def join_several(request: Request, number: int, identifier: str, form: Texts) -> Response:
    """People pasted from a spreadsheet join the course, all of them or none."""
    edit, display = editing(request, number, form), display_of(request)
    again = partial(person_page, request, number, identifier, form=form)
    fields, count, unknown = roster_form.pasted_people(form.get("roster", ""))
    if not count:
        return again(errors={"roster": "paste rows of a spreadsheet first"})
    people, typed, wrong = roster_form.read_people(fields, count, display)
    if wrong:
        at, told = next(iter(wrong.items()))
        row, _, column = at.partition(".")
        return again(errors={"roster": f"row {int(row[1:]) + 1}, {column}: {told}"})
    if len(edit.course.people) + len(people) > MOST_PEOPLE:
        return again(errors={"roster": f"a course holds at most {MOST_PEOPLE} people"})

    def alter(now: Course) -> Course:
        return roster_form.joined(now, people, typed)

    left_out = f"; not known: {', '.join(unknown)}" if unknown else ""
    edit.keep(f"{len(people)} more {'people' if len(people) > 1 else 'person'}{left_out}", alter)
    return _back(number, identifier)
