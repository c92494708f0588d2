"""What is known of a shelter, as it is typed on its card: shown, read, and kept as typed."""

from collections.abc import Mapping
from typing import get_args

from pydantic import ValidationError

from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Anchor, Shelter
from caldarium.web.editing import Editing
from caldarium.web.forms import Entry, Field, as_entries, read_form, shown_text
from caldarium.words.faults import fault_text
from caldarium.words.units import Display

FIGURES = (
    Field("gust_ms", "Gust it stands", "wind"),
    Field("length_m", "Floor, length", "span", may_be_empty=True),
    Field("width_m", "Floor, width", "span", may_be_empty=True),
    Field("height_m", "Height inside", "span", may_be_empty=True),
    Field("porch_m2", "Porch", "area", may_be_empty=True),
    Field("wall_mm", "Fly's water column", "column", may_be_empty=True),
    Field("floor_mm", "Floor's water column", "column", may_be_empty=True),
)
CHOICES = {
    "gust_known": ("That gust is known", ("judged", "by its maker", "by use")),
    "condition": ("Condition", ("sound", "worn", "mended")),
}
TICKS = {
    "net": "keeps insects out",
    "inner_first": "inner is pitched first",
    "stands_free": "stands without anchors in calm air",
}
ANCHORS = get_args(Anchor)
OWN_POLES = "its own poles"


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
    values: dict[str, object] = {name: form.get(name) == "on" for name in TICKS}
    values.update(
        (name, form[name]) for name, (_, known) in CHOICES.items() if form.get(name) in known
    )
    told = tuple(each for each in ANCHORS if form.get(f"anchor.{each}") == "on")
    values["anchors"] = told or shelter.anchors
    if form.get("poles") in {OWN_POLES, *(person.id for person in course.people)}:
        poles = form["poles"]
        if poles not in shelter.poles_from:
            values["poles_from"] = () if poles == OWN_POLES else (poles,)
    values |= reading.values

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


def _key(shelter: str, name: str) -> str:
    return f"shelters.{shelter}.{name}"
