"""Figures of a person as people type them: shown, read, and kept as typed; for every page that has
some of them."""

from collections.abc import Mapping, Sequence

from caldarium.core.plan.changes import find_person, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.web.fields import Field, read, shown_text
from caldarium.words.units import Display

FOOD = Field("food_g_a_day", "Food a day", "mass")
FUEL = Field("fuel_g_a_day", "Fuel a day", "mass")
WATER = Field("water_l", "Water filled", "volume")
BODY = (
    Field("body_mass_kg", "Body mass", "body"),
    Field("height_m", "Height", "height"),
    Field("sleeper_index", "Sleeper index", "number", "0 limit sleeper, 1 comfort sleeper"),
    FOOD, FUEL, WATER,
)  # fmt: skip
LOAD = (
    WATER, Field("containers_l", "Bottles hold", "volume"), FOOD, FUEL,
    Field("budget_kg", "Own budget", "body"),
    Field("strength", "Strength beside others", "number"),
)  # fmt: skip
MAY_BE_EMPTY = {"containers_l", "budget_kg"}


def _key(person: Person, field: Field) -> str:
    return f"people.{person.id}.{field.name}"


def texts_of(
    course: Course, person: Person, fields: Sequence[Field], display: Display
) -> dict[str, str]:
    """What stands in the fields: as it was typed, while it still says the same."""
    found: dict[str, str] = {}
    for field in fields:
        value = getattr(person, field.name)
        typed = course.as_typed.get(_key(person, field))
        found[field.name] = "" if value is None else shown_text(value, field, typed, display)
    return found


def read_changes(
    course: Course,
    person: Person,
    fields: Sequence[Field],
    form: Mapping[str, str],
    display: Display,
) -> tuple[dict[str, float | None], dict[str, str], dict[str, str]]:
    """Figures that were changed in a form.

    Returns:
        Their values, their texts for as_typed, and messages by field for what is wrong.
    """
    values: dict[str, float | None] = {}
    typed: dict[str, str] = {}
    errors: dict[str, str] = {}
    before = texts_of(course, person, fields, display)
    for field in fields:
        text = form.get(field.name, before[field.name]).strip()
        if text == before[field.name]:
            continue
        if not text and field.name in MAY_BE_EMPTY:
            values[field.name] = None
            continue
        try:
            values[field.name], typed[_key(person, field)] = read(text, field.kind, display)
        except ValueError as fault:
            errors[field.name] = str(fault)
    return values, typed, errors


def with_figures(
    course: Course, person: str, values: Mapping[str, object], typed: Mapping[str, str]
) -> Course:
    """The course with a person's figures changed, and the texts they were typed as."""
    altered = find_person(course, person).altered(**values)
    return with_person(course.altered(as_typed=course.as_typed | dict(typed)), altered)
