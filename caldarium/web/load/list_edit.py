"""What can be changed on somebody's list in place: one line, or several at once."""

from collections.abc import Mapping, Sequence
from functools import partial
from typing import get_args

from pydantic import ValidationError

from caldarium.core.plan.changes import add_piece, fresh_id, remove_piece, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import (
    Bag,
    Bedding,
    BedPart,
    Garment,
    Item,
    ItemKind,
    MassFrom,
    Purpose,
)
from caldarium.core.plan.value import NotThereError
from caldarium.core.stock.kinds import KINDS as STORE_KINDS
from caldarium.web.editing import Editing
from caldarium.web.forms import Field, faults_at, read_form, whole, written
from caldarium.words.units import Display

KINDS: tuple[ItemKind, ...] = get_args(ItemKind)
FROM: tuple[MassFrom, ...] = get_args(MassFrom)
PURPOSES = get_args(Purpose)
Listed = Garment | BedPart | Item
Errors = dict[str, str]
ROW = (
    Field("row_mass", "Mass of one", "mass", "as 1 lb 3 oz or 540 g"),
    Field("row_litres", "Room, packed", "volume", may_be_empty=True),
    Field("row_cost", "Cost", "number", may_be_empty=True),
    Field("row_net", "Fuel in one", "mass", may_be_empty=True),
    Field("row_holds", "Holds", "volume", may_be_empty=True),
    Field("row_kcal", "Energy in one, kcal", "number", may_be_empty=True),
    Field("row_light", "Light of one", "hours", may_be_empty=True),
    Field("row_column", "Water column", "column", may_be_empty=True),
)
TAPED: dict[str, bool | None] = {"not said": None, "yes": True, "no": False}
"""Whether seams are taped, as a form has it."""
NEW_MASS = Field("new_mass", "Mass", "mass", "as 1 lb 3 oz or 540 g")
_AT = {
    "mass_g": "row_mass",
    "packed_l": "row_litres",
    "cost": "row_cost",
    "net_g": "row_net",
    "capacity_l": "row_holds",
    "kcal": "row_kcal",
    "light_h": "row_light",
    "water_mm": "row_column",
    "count": "row_count",
    "name": "row_name",
    "inside": "row_inside",
}
_FIELDS = {
    "row_mass": "mass_g",
    "row_litres": "packed_l",
    "row_cost": "cost",
    "row_net": "net_g",
    "row_holds": "capacity_l",
    "row_kcal": "kcal",
    "row_light": "light_h",
    "row_column": "water_mm",
}
ACTS = {
    "leave": "leave at home",
    "spare": "mark as a spare",
    "needed": "no spare",
    "listed": "mark as mandatory",
    "unlisted": "not mandatory",
    "worn": "worn",
    "packed": "packed",
    "apart": "teaching or camera kit",
    "together": "no teaching or camera kit",
    "loose": "in nothing",
    "own back": "on one's own back",
}
"""What can be done to several lines at once, in words."""


def listed_pieces(person: Person) -> list[Listed]:
    """Everything on somebody's list that is theirs to change."""
    return [*person.garments, *person.bed_parts, *person.items]


def find_piece(person: Person, identifier: str) -> Listed:
    """A piece of somebody's list.

    Raises:
        NotThereError: where there is none of that id.
    """
    for each in listed_pieces(person):
        if each.id == identifier:
            return each
    raise NotThereError("piece", identifier)


def row_texts(piece: Listed, display: Display) -> dict[str, str]:
    """What stands in the fields of one line."""
    texts = {"row_name": piece.name, "row_count": str(getattr(piece, "count", 1))}
    for each in ROW:
        value: float | None = getattr(piece, _FIELDS[each.name], None)
        texts[each.name] = "" if value is None else written(value, each.kind, display)
    return texts


def fields_of(piece: Listed) -> list[Field]:
    """The fields of a line that its piece has."""
    return [each for each in ROW if _FIELDS[each.name] in type(piece).model_fields]


def keep_row(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    """Keep one line as its fields have it."""
    who = form.get("person", "")
    piece = find_piece(edit.course.person(who), form.get("edit", ""))
    shown = row_texts(piece, display)
    reading = read_form(fields_of(piece), shown, form, display)
    errors = reading.errors
    parts: dict[str, object] = {_FIELDS[name]: value for name, value in reading.values.items()}
    name = form.get("row_name", piece.name).strip()
    if not name:
        errors["row_name"] = "is needed"
    parts["name"] = name
    source = form.get("row_from")
    if source in FROM:
        parts["mass_from"] = source
    if isinstance(piece, Garment) and form.get("row_taped") in TAPED:
        parts["taped"] = TAPED[form["row_taped"]]
    if isinstance(piece, Item):
        count = whole(form.get("row_count", "1"))
        if count is None or count < 1:
            errors["row_count"] = "write a whole number from 1"
        parts["count"] = count or 1
        parts["inside"] = form.get("row_inside") or None
        if form.get("row_kind") in KINDS:
            parts["kind"] = form["row_kind"]
        if form.get("row_purpose") in PURPOSES:
            parts["purpose"] = form["row_purpose"]
    if errors:
        return errors
    try:
        after = piece.altered(**parts)
        if after == piece:
            return {}
        _with_piece(edit.course, who, after)
        words = f"{edit.course.person(who).name.split()[0]}: {after.name}"
        edit.keep(words, partial(_with_piece, who=who, piece=after))
    except ValidationError as fault:
        return faults_at(fault, display, _AT, "row_name")
    return {}


def _with_piece(course: Course, who: str, piece: Listed) -> Course:
    """The course with a piece of somebody's replaced by another state of it."""
    return with_person(course, replaced(course.person(who), piece))


def replaced(person: Person, piece: Listed) -> Person:
    """Somebody with another state of one of their pieces, wherever it is."""
    if isinstance(piece, Garment | Item):
        name = "garments" if isinstance(piece, Garment) else "items"
        rows = tuple(piece if e.id == piece.id else e for e in getattr(person, name))
        return person.altered(**{name: rows})
    parts: dict[str, object] = {
        "pads": tuple(piece if e.id == piece.id else e for e in person.pads),
        "bedding": _bedding(person.bedding, piece),
        "nights": tuple(
            plan
            if plan.bed is None
            else plan.altered(
                bed=plan.bed.altered(
                    bag=piece if plan.bed.bag and plan.bed.bag.id == piece.id else plan.bed.bag,
                    pads=tuple(piece if e.id == piece.id else e for e in plan.bed.pads),
                    bedding=_bedding(plan.bed.bedding, piece),
                )
            )
            for plan in person.nights
        ),
    }
    if person.bag is not None and person.bag.id == piece.id:
        parts["bag"] = piece
    return person.altered(**parts)


def _bedding(bedding: Bedding, piece: BedPart) -> Bedding:
    parts = {
        name: piece
        for name in ("over", "liner", "cover", "hammock")
        if (part := getattr(bedding, name)) is not None and part.id == piece.id
    }
    hammock = bedding.hammock
    under = hammock.underquilt if hammock else None
    if (
        hammock is not None
        and under is not None
        and under.id == piece.id
        and isinstance(piece, Bag)
    ):
        return bedding.altered(hammock=hammock.altered(underquilt=piece))
    return bedding.altered(**parts) if parts else bedding


def keep_several(edit: Editing, form: Mapping[str, str], ticked: Sequence[str]) -> str:
    """Do one thing to every ticked line, in one step.

    Returns:
        A message for the page, empty where it was done.
    """
    who, act = form.get("person", ""), form.get("several", "")
    person = edit.course.person(who)
    known = {each.id for each in listed_pieces(person)}
    chosen = [name for name in ticked if name in known]
    if not chosen:
        return "Tick lines first."
    source = act.removeprefix("from ")
    inside = act.removeprefix("in ")
    try:
        if act.startswith("from ") and source in FROM:
            words, alter = f"masses from {source}", partial(_told, mass_from=source)
        elif act.startswith("in ") and inside in {item.id for item in person.items}:
            words, alter = "packed into another thing", partial(_told, inside=inside)
        elif act.startswith("on ") and act[3:] in {each.id for each in edit.course.helpers}:
            words, alter = "carried by a helper", partial(_told, on=act[3:])
        elif act in ACTS:
            words, alter = ACTS[act], partial(_done, act=act)
        else:
            return "Choose what to do with them."
        alter(person, chosen)
    except ValidationError:
        return "A thing cannot be inside itself."
    many = "one line" if len(chosen) == 1 else f"{len(chosen)} lines"
    edit.keep(
        f"{person.name.split()[0]}, {many}: {words}",
        lambda now: with_person(now, alter(now.person(who), chosen)),
    )
    return ""


def _told(person: Person, chosen: Sequence[str], **parts: object) -> Person:
    """Somebody with the same said of several pieces, as far as they have such a thing."""
    for name in chosen:
        piece = next((e for e in listed_pieces(person) if e.id == name), None)
        if piece is None or parts.get("inside") == name:
            continue
        own = {key: value for key, value in parts.items() if key in type(piece).model_fields}
        if own:
            person = replaced(person, piece.altered(**own))
    return person


_MARKS: dict[str, dict[str, object]] = {
    "spare": {"spare": True},
    "needed": {"spare": False},
    "listed": {"listed": True},
    "unlisted": {"listed": False},
    "worn": {"worn": True},
    "packed": {"worn": False},
    "apart": {"apart": True},
    "together": {"apart": False},
    "loose": {"inside": None},
    "own back": {"on": None},
}


def _done(person: Person, chosen: Sequence[str], act: str) -> Person:
    if act == "leave":
        for name in chosen:
            person = remove_piece(person, name)
        return person
    return _told(person, chosen, **_MARKS[act])


def add_thing(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    """One more thing on somebody's list."""
    who = form.get("person", "")
    reading = read_form((NEW_MASS,), {NEW_MASS.name: ""}, form, display)
    errors = reading.errors
    mass, name = reading.values.get(NEW_MASS.name), form.get("new_name", "").strip()
    if not name:
        errors["new_name"] = "is needed"
    if mass is None and "new_mass" not in errors:
        errors["new_mass"] = "type a mass"
    if errors:
        return errors
    kind = form.get("new_kind", "")
    try:
        item = Item.model_validate(
            {
                "id": fresh_id(name, [each.id for each in listed_pieces(edit.course.person(who))]),
                "name": name,
                "kind": kind if kind in KINDS else "",
                "mass_g": mass,
                "purpose": STORE_KINDS[kind].purpose if kind in STORE_KINDS else "comfort",
                "mass_from": "estimate",
            }
        )
    except ValidationError as fault:
        return faults_at(fault, display, {"mass_g": "new_mass", "name": "new_name"}, "new_name")
    edit.keep(
        f"{edit.course.person(who).name.split()[0]}: {name}",
        lambda now: with_person(now, add_piece(now.person(who), item)),
    )
    return {}
