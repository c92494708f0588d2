"""What is known of a shelter, as it is typed on its card: shown, read, and kept as typed."""

from collections.abc import Mapping
from typing import get_args

from pydantic import ValidationError

from caldarium.core.plan.changes import add_part, fresh_id, pitch
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Anchor, Shelter, ShelterKind
from caldarium.web.editing import Editing
from caldarium.web.forms import Entry, Field, as_entries, read_form, shown_text
from caldarium.words.faults import fault_text
from caldarium.words.units import Display

WHOLE = (
    Field("places", "Places", "number"),
    Field("mass_g", "Mass", "mass"),
    Field("gust_ms", "Gust it stands", "wind"),
    Field("length_m", "Floor, length", "span", may_be_empty=True),
    Field("width_m", "Floor, width", "span", may_be_empty=True),
    Field("height_m", "Height inside", "span", may_be_empty=True),
)
"""What a shelter is entered with."""
FIGURES = (
    *WHOLE,
    Field("gust_at_m", "Gust measured at", "span"),
    Field("entrances", "Doors", "number"),
    Field("porch_m2", "Porch", "area", may_be_empty=True),
    Field("wall_mm", "Fly's water column", "column", may_be_empty=True),
    Field("floor_mm", "Floor's water column", "column", may_be_empty=True),
    Field("roof_deg", "Roof's slope, degrees", "number", may_be_empty=True),
    Field("poles", "Walking poles it needs", "number"),
)
KINDS: tuple[ShelterKind, ...] = get_args(ShelterKind)
CHOICES = {
    "kind": ("Kind", KINDS),
    "gust_known": ("That gust is known", ("judged", "by its maker", "by use")),
    "condition": ("Condition", ("sound", "worn", "mended")),
}
TICKS = {
    "net": "keeps insects out",
    "inner_first": "inner is pitched first",
    "stands_free": "stands without anchors in calm air",
}
ANCHORS = get_args(Anchor)
NEW = "new"
"""What the form of a shelter that is entered says it is about."""
_FRESH = Shelter(id=NEW, name=NEW, kind="double skin", places=2, gust_ms=18, mass_g=2500)


def entries_of(course: Course, shelter: Shelter, display: Display) -> dict[str, Entry]:
    """What stands in the fields of a shelter's card."""
    found: dict[str, Entry] = {}
    for field in FIGURES:
        value = getattr(shelter, field.name)
        typed = course.as_typed.get(_key(shelter.id, field.name))
        found[field.name] = Entry(field, shown_text(value, field, typed, display))
    return found


def take_facts(
    edit: Editing, form: Mapping[str, str], display: Display
) -> tuple[dict[str, Entry], str]:
    """Take what was changed on a shelter's card, all of it or nothing.

    Returns:
        The card's entries as typed, with messages, where something is wrong, else nothing; and a
        message for what no figure is to blame for.
    """
    course = edit.course
    shelter = course.shelter(form.get("facts", ""))
    shown = {name: entry.text for name, entry in entries_of(course, shelter, display).items()}
    reading = read_form(FIGURES, shown, form, display)
    values = _said(course, shelter, form) | reading.values

    def change(now: Course) -> Course:
        shelters = tuple(
            each.altered(**values) if each.id == shelter.id else each for each in now.shelters
        )
        typed = {_key(shelter.id, name): text for name, text in reading.texts.items()}
        return now.altered(shelters=shelters, as_typed=now.as_typed | typed)

    message = ""
    if not reading.errors:
        try:
            edit.keep(f"{shelter.name}: what is known of it", change)
        except ValidationError as fault:
            if reading.values:
                reading.refuse(fault, display)
            else:
                message = fault_text(fault, display)
    return as_entries(FIGURES, shown, form, reading), message


def _said(course: Course, shelter: Shelter, form: Mapping[str, str]) -> dict[str, object]:
    """What is chosen and ticked on a card, and the name."""
    values: dict[str, object] = {name: form.get(name) == "on" for name in TICKS}
    values.update(
        (name, form[name]) for name, (_, known) in CHOICES.items() if form.get(name) in known
    )
    told = tuple(each for each in ANCHORS if form.get(f"anchor.{each}") == "on")
    values["anchors"] = told or shelter.anchors
    if form.get("name", "").strip():
        values["name"] = form["name"].strip()
    if "held_up" in form:
        values["poles_from"] = tuple(
            person.id for person in course.people if form.get(f"pole.{person.id}") == "on"
        )
    return values


def draft(
    course: Course, form: Mapping[str, str], display: Display
) -> tuple[Course, Shelter] | None:
    """The course with a shelter as its card stands, for a picture; None while it makes no sense."""
    shelter = course.shelter(form.get("facts", ""))
    shown = {name: entry.text for name, entry in entries_of(course, shelter, display).items()}
    reading = read_form(FIGURES, shown, form, display)
    if reading.errors:
        return None
    try:
        drawn = shelter.altered(**_said(course, shelter, form), **reading.values)
    except ValidationError:
        return None
    shelters = tuple(drawn if each.id == drawn.id else each for each in course.shelters)
    return course.altered(shelters=shelters), drawn


def fresh_entries(display: Display) -> dict[str, Entry]:
    """What stands in the form of a shelter that is about to be entered."""
    return {
        each.name: Entry(each, shown_text(getattr(_FRESH, each.name), each, None, display))
        for each in WHOLE
    }


def enter(
    edit: Editing, form: Mapping[str, str], night: int | None, display: Display
) -> tuple[dict[str, Entry], str]:
    """Put a shelter that was typed into the course, with its first sleeper.

    Returns:
        The entries as typed, with messages, where something is wrong, else nothing; and a message
        for what no figure is to blame for.
    """
    shown = {name: entry.text for name, entry in fresh_entries(display).items()}
    reading = read_form(WHOLE, shown, form, display)
    name = form.get("name", "").strip()
    who = edit.course.person(form.get("who", ""))
    day = night if form.get("from_night") == "on" else None
    message = "" if name else "a shelter needs a name"
    if name and not reading.errors:
        kind = form.get("kind", "")
        said = {"kind": kind} if kind in KINDS else {}
        try:
            fresh = _FRESH.altered(id=fresh_id(name, ()), name=name, **said, **reading.values)
            words = f"{fresh.name}, with {who.name.split()[0]} in it"
            edit.keep(words, lambda now: _entered(now, who.id, fresh, day, reading.texts))
        except ValidationError as fault:
            if reading.values:
                reading.refuse(fault, display)
            else:
                message = fault_text(fault, display)
    if message and not reading.errors:
        entries = {each.name: Entry(each, form.get(each.name, "")) for each in WHOLE}
        return entries, message
    return as_entries(WHOLE, shown, form, reading), message


def _entered(
    course: Course, who: str, fresh: Shelter, day: int | None, texts: Mapping[str, str]
) -> Course:
    """The course with a new shelter put up, its figures as they were typed."""
    known = {each.id for each in course.shelters}
    after = pitch(course, who, fresh, day)
    put_up = next(each.id for each in after.shelters if each.id not in known)
    typed = {_key(put_up, name): text for name, text in texts.items()}
    return after.altered(as_typed=after.as_typed | typed)


PART = (Field("part_mass", "its mass", "mass"),)


def add_a_part(edit: Editing, form: Mapping[str, str], display: Display) -> dict[str, Entry]:
    """Tell a part of a shelter apart, by name and mass.

    Returns:
        What was typed, with messages, where something is wrong, else nothing.
    """
    tent, name = edit.course.shelter(form.get("part.add", "")), form.get("part_name", "").strip()
    reading = read_form(PART, {}, form, display)
    if "part_mass" not in reading.values and not reading.errors:
        reading.errors["part_mass"] = "type a number"
    if not name:
        reading.errors.setdefault("part_name", "a part needs a name")
    if not reading.errors:
        grams = reading.values["part_mass"] or 0.0
        try:
            edit.keep(
                f"{name} of {tent.name} by itself",
                lambda now: add_part(now, tent.id, name, grams),
            )
        except ValidationError as fault:
            reading.refuse(fault, display, {"mass_g": "part_mass"}, "part_mass")
    if not reading.errors:
        return {}
    named = Field("part_name", "Another part", "text")
    return {
        each.name: Entry(each, form.get(each.name, ""), reading.errors.get(each.name, ""))
        for each in (named, *PART)
    }


def _key(shelter: str, name: str) -> str:
    return f"shelters.{shelter}.{name}"
