"""People: who they are and what each has."""

from collections.abc import Callable
from functools import partial

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.load.loads import PURPOSES
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.plan.changes import (
    add_piece,
    fresh_id,
    piece_ids,
    remove_piece,
    with_person,
    without_person,
)
from caldarium.core.plan.course import MOST_PEOPLE, Course, Person
from caldarium.core.plan.figures import warmth
from caldarium.core.plan.kit import Garment, Item, slips
from caldarium.core.plan.value import NotThereError
from caldarium.web.editing import Editing, editing
from caldarium.web.forms import Field, Texts, faults_at, read
from caldarium.web.page import courses_of, display_of, page, refusal_page
from caldarium.web.plan.person_fields import BODY, read_changes, texts_of, with_figures
from caldarium.web.urls import course_url
from caldarium.words.course import age_sentence
from caldarium.words.stock import slip_words

router = APIRouter()
OWN = {
    "thickness": Field("thickness", "Thickness", "length", "ruler over the loft"),
    "permeability": Field("permeability", "Air permeability, l/(m² s)", "number"),
    "mass": Field("mass", "Mass", "mass"),
    "repels": Field("repels", "Rain shed before it wets", "rain"),
}
OWN_FIELDS = {
    "thickness_mm": "thickness",
    "air_permeability": "permeability",
    "mass_g": "mass",
    "repels_mm": "repels",
    "name": "own_name",
}


def _local_clo(piece: Garment) -> float:
    found = warmth((piece,))
    return float((found.cover * found.local).max())


def _own_cuts() -> dict[str, dict[str, float]]:
    """Covers known from the catalogue, under the name of a piece that has them."""
    cuts: dict[str, dict[str, float]] = {}
    for piece in load_catalogue().garments.values():
        if piece.cover not in cuts.values():
            cuts[f"like {piece.name}"] = piece.cover
    return cuts


def person_page(
    request: Request,
    number: int,
    identifier: str,
    *,
    form: dict[str, str] | None = None,
    errors: dict[str, str] | None = None,
) -> HTMLResponse:
    """One person's page, with what was typed and what is wrong with it."""
    held = courses_of(request).get(number)
    person = held.course.person(identifier)
    display = display_of(request)
    texts = texts_of(held.course, person, BODY, display)
    return page(
        request,
        "plan/person.html",
        held=held,
        course=held.course,
        person=person,
        fields=BODY,
        texts=texts | (form or {}),
        errors=errors or {},
        form=form or {},
        ready_sets=list(load_catalogue().sets),
        own_sets=request.app.state.kit_sets.all(),
        others=[each for each in held.course.people if each.id != identifier],
        covers_age=age_sentence(person),
        cuts=list(_own_cuts()),
        own=OWN,
        materials=list(MATERIALS),
        purposes=PURPOSES,
        clo=_local_clo,
    )


@router.get("/courses/{number}/people/{identifier}")
def show(request: Request, number: int, identifier: str) -> HTMLResponse:
    """One person's figures and pieces."""
    return person_page(request, number, identifier)


def _back(number: int, identifier: str) -> Response:
    return RedirectResponse(course_url(number, f"people/{identifier}"), status_code=303)


@router.post("/courses/{number}/people/{identifier}/body")
def body(request: Request, number: int, identifier: str, form: Texts) -> Response:
    """Change the figures of a person."""
    edit, display = editing(request, number, form), display_of(request)
    person = edit.course.person(identifier)
    reading = read_changes(edit.course, person, BODY, form, display)
    name = form.get("name", person.name).strip()
    others: dict[str, object] = {} if name == person.name else {"name": name}
    if "figures" in form and (form.get("instructor") == "on") != person.instructor:
        others["instructor"] = not person.instructor
    if not name:
        reading.errors["name"] = "a name"
    if not reading.errors:
        change = partial(with_figures, person=identifier, reading=reading, **others)
        try:
            edit.keep(f"{name}: figures", change)
            return _back(number, identifier)
        except ValidationError as fault:
            at = {each: each for each in (*reading.values, "name")}
            reading.refuse(fault, display, at, "name")
    return person_page(request, number, identifier, form=form, errors=reading.errors)


def _alter(edit: Editing, identifier: str, words: str, change: Callable[[Person], Person]) -> None:
    """Change one person in one step."""
    name = edit.course.person(identifier).name.split()[0]
    edit.keep(f"{name}: {words}", lambda now: with_person(now, change(now.person(identifier))))


@router.post("/courses/{number}/people/{identifier}/own")
def own(request: Request, number: int, identifier: str, form: Texts) -> Response:
    """Give a person a garment measured with a ruler and a scale, or another weighed item."""
    edit, display = editing(request, number, form), display_of(request)
    person = edit.course.person(identifier)
    item = form.get("layer") == "item"
    errors: dict[str, str] = {}
    values: dict[str, float] = {}
    for name in ("mass",) if item else tuple(OWN):
        if name == "repels" and not form.get(name, "").strip():
            values[name] = 0.0
            continue
        try:
            values[name], _ = read(form.get(name, ""), OWN[name].kind, display)
        except ValueError as fault:
            errors[name] = str(fault)
    name = form.get("own_name", "").strip()
    if not name:
        errors["own_name"] = "a name"
    if not errors:
        try:
            piece = _own_piece(form, values, name, fresh_id(name, piece_ids(person)))
            found = slips(piece) if isinstance(piece, Garment) else {}
            errors |= {OWN_FIELDS[at]: slip_words(why, display) for at, why in found.items()}
            if not errors:
                _alter(edit, identifier, f"with {name}", lambda one: add_piece(one, piece))
                return _back(number, identifier)
        except ValidationError as fault:
            errors |= faults_at(fault, display, OWN_FIELDS, "own_name")
    return person_page(request, number, identifier, form=form, errors=errors)


def _own_piece(
    form: dict[str, str], values: dict[str, float], name: str, identifier: str
) -> Garment | Item:
    if form.get("layer") == "item":
        return Item.model_validate(
            {
                "id": identifier,
                "name": name,
                "mass_g": values["mass"],
                "purpose": form.get("purpose", "comfort"),
            }
        )
    return Garment.model_validate(
        {
            "id": identifier,
            "name": name,
            "layer": form.get("layer", "mid"),
            "cover": _own_cuts().get(form.get("cut", ""), {}),
            "thickness_mm": values["thickness"],
            "air_permeability": values["permeability"],
            "material": form.get("material", ""),
            "mass_g": values["mass"],
            "waterproof": form.get("waterproof") == "on",
            "repels_mm": values["repels"],
            "vents": form.get("vents", "none"),
            "fingers": form.get("fingers", "apart"),
            "source": "measured by the user: ruler and scale",
        }
    )


@router.post("/courses/{number}/people/{identifier}/remove")
def remove(request: Request, number: int, identifier: str, form: Texts) -> Response:
    """Take a piece away; undo brings it back."""
    edit, piece = editing(request, number, form), form.get("piece", "")
    person = edit.course.person(identifier)
    had = [*person.garments, *person.pads, *person.items, *([person.bag] if person.bag else [])]
    name = next((each.name for each in had if each.id == piece), None)
    if name is None:
        raise NotThereError("piece", piece)
    _alter(edit, identifier, f"without {name}", lambda one: remove_piece(one, piece))
    return _back(number, identifier)


@router.post("/courses/{number}/people")
def join(request: Request, number: int, form: Texts) -> Response:
    """One more person, with an ordinary body and kit to change from."""
    edit = editing(request, number, form)
    if len(edit.course.people) >= MOST_PEOPLE:
        message = f"A course holds at most {MOST_PEOPLE} people."
        return refusal_page(request, message, course_url(number))

    def alter(course: Course) -> Course:
        name = fresh_id("new-member", [each.id for each in course.people])
        person = Person(
            id=name,
            name="New member",
            body_mass_kg=70,
            height_m=1.75,
            **load_catalogue().kit("three-season"),
        )
        return course.altered(people=(*course.people, person))

    edit.keep("one more person", alter)
    before = {each.id for each in edit.course.people}
    now = courses_of(request).get(number).course
    return _back(number, next(each.id for each in reversed(now.people) if each.id not in before))


@router.post("/courses/{number}/people/{identifier}/leave")
def leave(request: Request, number: int, identifier: str, form: Texts) -> Response:
    """Take a person off the course; undo brings them back."""
    edit = editing(request, number, form)
    person = edit.course.person(identifier)
    if len(edit.course.people) == 1:
        return person_page(
            request, number, identifier, errors={"leave": "a course needs at least one person"}
        )
    edit.keep(f"without {person.name}", lambda now: without_person(now, identifier))
    return RedirectResponse(course_url(number), status_code=303)
