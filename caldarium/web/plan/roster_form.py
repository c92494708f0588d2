"""The people of a new course as a roster: only a made-up name is asked for."""

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.course import MOST_PEOPLE, Course, Person
from caldarium.web.forms import Field, faults_at, read, whole
from caldarium.web.plan.pasted import pasted_fields
from caldarium.words.units import Display, written

COLUMNS = (
    Field("name", "Name", "words"),
    Field("mass", "Mass", "body"),
    Field("height", "Height", "height"),
    Field("age", "Age", "years"),
    Field("sleeper", "Sleeps", "sleeper"),
    Field("kit", "Has", "choice"),
    Field("role", "Role", "role"),
)
HEADINGS = {
    "name": ("name", "who", "member", "person", "participant"),
    "mass": ("mass", "weight", "body", "kg", "lb"),
    "height": ("height", "tall", "cm"),
    "age": ("age", "years"),
    "sleeper": ("sleeps", "sleeper", "sleep"),
    "kit": ("has", "kit", "set", "gear"),
    "role": ("role", "instructor", "leader"),
}
ORDINARY_KG, ORDINARY_M, ORDINARY_SLEEPER = 70.0, 1.75, 1.0
"""A person nobody described; the sleeper on the safe side: judgement."""
SLEEPERS = {
    "cold": 1.3,
    "warm": 0.3,
    "average": 0.8,
    "normal": 0.8,
    "ordinary": 0.8,
    "comfort": 1.0,
    "limit": 0.0,
}
"""Words for how warm somebody sleeps, on the scale from the limit figure to the comfort one."""
ORDINARY_KIT = "three-season"
SAME, NOTHING = "same as the one above", "nothing yet"
_AT = {"body_mass_kg": "mass", "height_m": "height", "sleeper_index": "sleeper", "age": "age"}


def key(row: int, column: str) -> str:
    """Name of the field of a row's column."""
    return f"p{row}.{column}"


def kit_names() -> list[str]:
    """What somebody can have to begin with."""
    return [*load_catalogue().sets, SAME, NOTHING]


def pasted_people(text: str) -> tuple[dict[str, str], int, list[str]]:
    """Fields of the roster as a pasted one says them, how many people, and unknown headings."""
    return pasted_fields("p", text, COLUMNS, HEADINGS)


def read_people(
    form: Mapping[str, str], rows: int, display: Display
) -> tuple[list[Person], dict[str, str], dict[str, str]]:
    """The people of a roster, texts as the course keeps them, and messages by field.

    A row without a name is nobody, unless something else stands in it; a roster without anybody
    is one ordinary member.
    """
    people: list[Person] = []
    typed: dict[str, str] = {}
    errors: dict[str, str] = {}
    wanted = [row for row in range(rows) if any(_cell(form, row, each.name) for each in COLUMNS)]
    for row in wanted:
        if not _cell(form, row, "name"):
            if any(_cell(form, row, each.name) for each in COLUMNS[1:5]):
                errors[key(row, "name")] = "a name, made up if you like"
            continue
        if len(people) < MOST_PEOPLE:
            _read_row(form, row, display, people, typed, errors)
    if not people and not errors:
        kit = load_catalogue().kit(ORDINARY_KIT)
        people.append(
            Person(id="member", name="Member", body_mass_kg=ORDINARY_KG, height_m=ORDINARY_M, **kit)
        )
    return people, typed, errors


def _cell(form: Mapping[str, str], row: int, column: str) -> str:
    return form.get(key(row, column), "").strip()


def _read_row(
    form: Mapping[str, str],
    row: int,
    display: Display,
    people: list[Person],
    typed: dict[str, str],
    errors: dict[str, str],
) -> None:
    values: dict[str, Any] = {}
    texts: dict[str, str] = {}
    for column, name, kind in (("mass", "body_mass_kg", "body"), ("height", "height_m", "height")):
        text = _cell(form, row, column)
        try:
            if text:
                values[name], texts[name] = read(text, kind, display)
        except ValueError as fault:
            errors[key(row, column)] = str(fault)
    if text := _cell(form, row, "age"):
        values["age"] = whole(text.removesuffix("years").strip(), 5, 99)
        if values["age"] is None:
            errors[key(row, "age")] = "whole years from 5 to 99"
    if text := _cell(form, row, "sleeper").lower():
        word = text.removesuffix(" sleeper").removesuffix("ly")
        try:
            values["sleeper_index"] = SLEEPERS[word] if word in SLEEPERS else float(text)
            texts["sleeper_index"] = f"{values['sleeper_index']:g}"
        except ValueError:
            errors[key(row, "sleeper")] = f"{', '.join(list(SLEEPERS)[:3])}, or a number"
    kit, kit_fault = _kit_of(_cell(form, row, "kit"), people)
    if kit_fault:
        errors[key(row, "kit")] = kit_fault
    name = _cell(form, row, "name")
    role = _cell(form, row, "role").lower()
    try:
        person = Person.model_validate(
            {
                "id": fresh_id(name, [each.id for each in people]),
                "name": name,
                "instructor": role in ("on", "yes", "x", "instructor", "leader", "guide"),
                "body_mass_kg": ORDINARY_KG,
                "height_m": ORDINARY_M,
            }
            | values
            | kit
        )
    except ValidationError as fault:
        for where, told in faults_at(fault, display, _AT, "name").items():
            errors.setdefault(key(row, where), told)
        return
    people.append(person)
    typed |= {f"people.{person.id}.{part}": text for part, text in texts.items()}


def _kit_of(text: str, people: list[Person]) -> tuple[dict[str, Any], str]:
    """What somebody has to begin with, and what is wrong with how it was said."""
    sets = load_catalogue().sets
    asked = text.lower().strip()
    if asked.startswith("same"):
        if not people:
            return {}, "nobody stands above"
        above = people[-1]
        shared = {name: getattr(above, name) for name in ("garments", "bag", "pads", "items")}
        return shared | {"bedding": above.bedding.altered(beside=None)}, ""
    if asked in ("nothing", NOTHING, "none"):
        return {}, ""
    slug = asked.replace(" ", "-")
    matching = [name for name in sets if name.startswith(slug)] if slug else [ORDINARY_KIT]
    exact = [name for name in matching if name == slug] or matching
    if len(exact) != 1 and slug:
        return {}, f"one of {', '.join(kit_names())}"
    return load_catalogue().kit(exact[0]), ""


def defaults_told(display: Display) -> dict[str, str]:
    """What stands in an empty field of the roster, by column."""
    return {
        "mass": written(ORDINARY_KG, "body", display),
        "height": written(ORDINARY_M, "height", display),
        "sleeper": "cold or warm",
        "age": "grown up",
        "kit": ORDINARY_KIT,
    }


def joined(course: Course, people: Sequence[Person], typed: Mapping[str, str]) -> Course:
    """The course with more people, under ids that nobody has yet."""
    taken = [each.id for each in course.people]
    texts: dict[str, str] = {}
    members: list[Person] = []
    for person in people:
        name = fresh_id(person.name, taken)
        taken.append(name)
        members.append(person.altered(id=name))
        texts |= {
            key.replace(f"people.{person.id}.", f"people.{name}.", 1): text
            for key, text in typed.items()
            if key.startswith(f"people.{person.id}.")
        }
    return course.altered(people=(*course.people, *members), as_typed=course.as_typed | texts)
