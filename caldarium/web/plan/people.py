"""People: who they are and what each has."""

from collections.abc import Callable

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.load.loads import PURPOSES
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.plan.changes import (
    add_piece,
    find_person,
    fresh_id,
    piece_ids,
    remove_piece,
    with_person,
    without_person,
)
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Garment, Item, slips
from caldarium.core.plan.wardrobe import warmth
from caldarium.formats.fault import plain_words
from caldarium.web.fields import Field, read
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.plan.person_fields import BODY, read_changes, texts_of, with_figures
from caldarium.words.stock import slip_words

router = APIRouter()
OWN = {
    "thickness": Field("thickness", "Thickness", "length", "ruler over the loft"),
    "permeability": Field("permeability", "Air permeability, l/(m² s)", "number"),
    "mass": Field("mass", "Mass", "mass"),
    "repels": Field("repels", "Rain shed before it wets", "rain"),
}
OWN_FIELDS = {
    "thickness_mm": "thickness", "air_permeability": "permeability", "mass_g": "mass",
    "repels_mm": "repels", "name": "own_name",
}  # fmt: skip


def _local_clo(piece: Garment) -> float:
    return float(warmth((piece,)).local[0])


def _own_cuts() -> dict[str, dict[str, float]]:
    """Covers known from the catalogue, under the name of a piece that has them."""
    cuts: dict[str, dict[str, float]] = {}
    for piece in load_catalogue().garments.values():
        if piece.cover not in cuts.values():
            cuts[f"like {piece.name}"] = piece.cover
    return cuts


def _person_page(
    request: Request,
    number: int,
    identifier: str,
    *,
    form: dict[str, str] | None = None,
    errors: dict[str, str] | None = None,
) -> HTMLResponse:
    held = courses_of(request).get(number)
    person = _find(held.course, identifier)
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
        catalogue=load_catalogue(),
        cuts=list(_own_cuts()),
        own=OWN,
        materials=list(MATERIALS),
        purposes=PURPOSES,
        clo=_local_clo,
    )


def _find(course: Course, identifier: str) -> Person:
    try:
        return find_person(course, identifier)
    except KeyError:
        return course.people[0]


@router.get("/courses/{number}/people/{identifier}")
def show(request: Request, number: int, identifier: str) -> HTMLResponse:
    """One person's figures and pieces."""
    return _person_page(request, number, identifier)


def _back(number: int, identifier: str) -> Response:
    return RedirectResponse(f"/courses/{number}/people/{identifier}", status_code=303)


@router.post("/courses/{number}/people/{identifier}/body")
async def body(request: Request, number: int, identifier: str) -> Response:
    """Change the figures of a person."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    course = courses_of(request).get(number).course
    person = _find(course, identifier)
    values, typed, errors = read_changes(course, person, BODY, form, display_of(request))
    name = form.get("name", "").strip()
    if not name:
        errors["name"] = "a name"
    if not errors:
        figures = values | {"name": name}
        try:
            courses_of(request).change(
                number, f"{name}: figures", lambda now: with_figures(now, person.id, figures, typed)
            )
            return _back(number, identifier)
        except ValidationError as fault:
            errors = {str(error["loc"][-1]): plain_words(error) for error in fault.errors()}
    return _person_page(request, number, identifier, form=form, errors=errors)


def _alter(
    request: Request, number: int, identifier: str, words: str, change: Callable[[Person], Person]
) -> None:
    """Change one person in one step."""
    courses_of(request).change(
        number,
        f"{identifier}: {words}",
        lambda now: with_person(now, change(find_person(now, identifier))),
    )


@router.post("/courses/{number}/people/{identifier}/add")
async def add(request: Request, number: int, identifier: str) -> Response:
    """Give a person a piece of the catalogue."""
    form = await request.form()
    catalogue = load_catalogue()
    wanted = str(form.get("piece", ""))
    everything = catalogue.garments | catalogue.bags | catalogue.pads | catalogue.items  # type: ignore[operator]
    piece = everything.get(wanted)
    if piece is None:
        return _person_page(request, number, identifier, errors={"piece": "choose a piece"})
    _alter(request, number, identifier, f"with {piece.name}", lambda one: add_piece(one, piece))
    return _back(number, identifier)


@router.post("/courses/{number}/people/{identifier}/own")
async def own(request: Request, number: int, identifier: str) -> Response:
    """Give a person a garment measured with a ruler and a scale, or another weighed item."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    errors: dict[str, str] = {}
    values: dict[str, float] = {}
    item = form.get("layer") == "item"
    wanted = ("mass",) if item else tuple(OWN)
    for name in wanted:
        if name == "repels" and not form.get(name, "").strip():
            values[name] = 0.0
            continue
        try:
            values[name], _ = read(form.get(name, ""), OWN[name].kind, display_of(request))
        except ValueError as fault:
            errors[name] = str(fault)
    name = form.get("own_name", "").strip()
    if not name:
        errors["own_name"] = "a name"
    if not errors:
        try:
            held = courses_of(request).get(number)
            taken = piece_ids(find_person(held.course, identifier))
            piece = _own_piece(form, values, name, fresh_id(name, taken))
            found = slips(piece) if isinstance(piece, Garment) else {}
            errors |= {
                OWN_FIELDS[at]: slip_words(why, display_of(request)) for at, why in found.items()
            }
            if not errors:
                _alter(
                    request, number, identifier, f"with {name}", lambda one: add_piece(one, piece)
                )
                return _back(number, identifier)
        except ValidationError as fault:
            for error in fault.errors():
                part = OWN_FIELDS.get(str(error["loc"][-1]) if error["loc"] else "", "own_name")
                errors[part] = plain_words(error)
    return _person_page(request, number, identifier, form=form, errors=errors)


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
async def remove(request: Request, number: int, identifier: str) -> Response:
    """Take a piece away; undo brings it back."""
    piece = str((await request.form()).get("piece", ""))
    _alter(request, number, identifier, f"without {piece}", lambda one: remove_piece(one, piece))
    return _back(number, identifier)


@router.post("/courses/{number}/people")
async def join(request: Request, number: int) -> Response:
    """One more person, with an ordinary body and kit to change from."""

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

    courses = courses_of(request)
    courses.change(number, "one more person", alter)
    return _back(number, courses.get(number).course.people[-1].id)


@router.post("/courses/{number}/people/{identifier}/leave")
async def leave(request: Request, number: int, identifier: str) -> Response:
    """Take a person off the course; undo brings them back."""
    courses = courses_of(request)
    if len(courses.get(number).course.people) == 1:
        return _person_page(
            request, number, identifier, errors={"leave": "a course needs at least one person"}
        )
    courses.change(number, f"without {identifier}", lambda now: without_person(now, identifier))
    return RedirectResponse(f"/courses/{number}", status_code=303)
