"""What is known of a shelter, as it is typed on its card: shown, read, and kept as typed."""

from collections.abc import Mapping
from typing import get_args

from pydantic import ValidationError

from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Anchor, Shelter
from caldarium.formats.fault import plain_words
from caldarium.store.courses import Courses
from caldarium.web.fields import Entry, Field, read, shown_text
from caldarium.words.units import Display

FIGURES = (
    Field("gust_ms", "Gust it stands", "wind"),
    Field("length_m", "Floor, length", "height"),
    Field("width_m", "Floor, width", "height"),
    Field("height_m", "Height inside", "height"),
    Field("porch_m2", "Porch, m²", "number"),
    Field("wall_mm", "Fly's water column, mm", "number"),
    Field("floor_mm", "Floor's water column, mm", "number"),
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
        words = "" if value is None else shown_text(value, field, typed, display)
        found[field.name] = Entry(field, words)
    return found


def take_facts(
    courses: Courses, number: int, form: Mapping[str, str], display: Display
) -> dict[str, Entry]:
    """Take what was changed on a shelter's card, all of it or nothing.

    Returns:
        The card's entries as typed, with messages, where something is wrong; else nothing.
    """
    course = courses.get(number).course
    shelter = next((each for each in course.shelters if each.id == form.get("facts")), None)
    if shelter is None:
        return {}
    entries = entries_of(course, shelter, display)
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
    typed: dict[str, str] = {}
    wrong: dict[str, str] = {}
    for name, entry in entries.items():
        text = form.get(name, entry.text).strip()
        if text == entry.text:
            continue
        entries[name] = Entry(entry.field, text)
        try:
            if text or name == "gust_ms":
                values[name], typed[_key(shelter.id, name)] = read(text, entry.field.kind, display)
            else:
                values[name] = None
        except ValueError as fault:
            wrong[name] = str(fault)

    def change(now: Course) -> Course:
        shelters = tuple(
            each.altered(**values) if each.id == shelter.id else each for each in now.shelters
        )
        return now.altered(shelters=shelters, as_typed=now.as_typed | typed)

    if not wrong:
        try:
            courses.change(number, f"{shelter.id}: what is known of it", change)
        except ValidationError as fault:
            for error in fault.errors():
                name = next((str(part) for part in error["loc"] if part in entries), "gust_ms")
                wrong[name] = plain_words(error)
    if not wrong:
        return {}
    return {
        name: Entry(entry.field, entry.text, wrong.get(name, "")) for name, entry in entries.items()
    }


def _key(shelter: str, name: str) -> str:
    return f"shelters.{shelter}.{name}"
