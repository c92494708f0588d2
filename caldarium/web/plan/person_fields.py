"""Figures of a person as people type them: shown, read, and kept as typed; for every page that has
some of them."""

from collections.abc import Mapping, Sequence

from caldarium.core.plan.changes import with_person
from caldarium.core.plan.course import SLEEPER_SD, Course, Person
from caldarium.web.forms import Field, Reading, read_form, shown_text
from caldarium.words.units import Display

FOOD = Field("food_g_a_day", "Food a day", "mass")
FUEL = Field("fuel_g_a_day", "Fuel a day", "mass")
WATER = Field("water_l", "Water filled", "volume")
BODY = (
    Field("body_mass_kg", "Body mass", "body"),
    Field("height_m", "Height", "height"),
    Field("age", "Age", "number", "in years", may_be_empty=True),
    Field("shoulder_cm", "Shoulders, breadth", "depth", "by height if empty", may_be_empty=True),
    Field(
        "torso_cm", "Torso, length", "depth", "from neck to hips, for the pack", may_be_empty=True
    ),
    Field("sleeper_index", "Sleeper index", "number", "0 limit sleeper, 1 comfort sleeper"),
    Field("uptake_ml", "Oxygen uptake", "number", "40 ordinarily fit, 55 trained"),
    FOOD,
    FUEL,
    WATER,
)
PLANNED = (WATER, Field("containers_l", "Bottles hold", "volume", may_be_empty=True), FOOD, FUEL)
LOAD = (
    Field("budget_kg", "Own budget", "body", may_be_empty=True),
    Field("strength", "Strength beside others", "number"),
)


def _key(person: str, field: Field) -> str:
    return f"people.{person}.{field.name}"


def texts_of(
    course: Course, person: Person, fields: Sequence[Field], display: Display
) -> dict[str, str]:
    """What stands in the fields: as it was typed, while it still says the same."""
    return {
        field.name: shown_text(
            getattr(person, field.name), field, course.as_typed.get(_key(person.id, field)), display
        )
        for field in fields
    }


def read_changes(
    course: Course,
    person: Person,
    fields: Sequence[Field],
    form: Mapping[str, str],
    display: Display,
) -> Reading:
    """Figures of a person that were changed in a form."""
    return read_form(fields, texts_of(course, person, fields, display), form, display)


def with_figures(course: Course, person: str, reading: Reading, **others: object) -> Course:
    """The course with a person's figures changed, and the texts they were typed as."""
    said: dict[str, object] = {**reading.values, **others}
    if "sleeper_index" in said:
        # An index that somebody typed rests on no night.
        said |= {"sleeper_sd": SLEEPER_SD, "sleeper_nights": 0}
    altered = course.person(person).altered(**said)
    typed = {f"people.{person}.{name}": text for name, text in reading.texts.items()}
    return with_person(course.altered(as_typed=course.as_typed | typed), altered)
