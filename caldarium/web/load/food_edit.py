"""What the forms on food, water and fuel can change: plans, menu, stoves, caches, drop bags."""

from collections.abc import Mapping
from functools import partial
from typing import get_args

from pydantic import ValidationError

from caldarium.core.assess import Assessment
from caldarium.core.load.water import water_wanted
from caldarium.core.plan.changes import fresh_id, with_person
from caldarium.core.plan.course import Cache, Course, Person
from caldarium.core.plan.kit import Garment, Item, LegEnd
from caldarium.core.plan.provisions import Dish, Meal, Provisions, Stove, Treated
from caldarium.web.editing import Editing
from caldarium.web.forms import Field, faults_at, read_form, shown_text, whole, written
from caldarium.web.load.load_edit import Errors, whole_form
from caldarium.web.plan.person_fields import PLANNED, read_changes, with_figures
from caldarium.words.faults import fault_text
from caldarium.words.units import Display

BAG_HOW = ("waits at", "is left at", "is fetched again at", "goes all the way")
"""What becomes of an own thing at a place."""
CACHE = (
    Field("cache_rations", "Days of food and fuel", "number", may_be_empty=True),
    Field("cache_water", "Water a head", "volume", may_be_empty=True),
)
STOVES, TREATMENTS = get_args(Stove), get_args(Treated)
MEALS: tuple[Meal, ...] = get_args(Meal)
KITCHEN = {
    "boiled_l_a_day": Field("boiled_l_a_day", "Boiled a head and night", "volume"),
    "pot_l": Field("pot_l", "A pot holds", "volume"),
    "stove_kw": Field("stove_kw", "A flame gives, kW", "number"),
    "stoves": Field(
        "stoves", "Stoves", "number", "one for every three heads if empty", may_be_empty=True
    ),
    "spare_share": Field("spare_share", "Fuel to spare", "percent"),
}
DISH = (
    Field("dish_mass", "Mass a head", "mass", "90 g, 3 oz"),
    Field("dish_kcal", "kcal a head", "number", "by its label", may_be_empty=True),
)


def kitchen_texts(course: Course, display: Display) -> dict[str, str]:
    """What stands in the fields of the party's stoves."""
    plan = course.provisions
    texts = {"boiled_l_a_day": course.boiled_l_a_day, "pot_l": plan.pot_l}
    return {
        name: shown_text(value, KITCHEN[name], course.as_typed.get(name), display)
        for name, value in texts.items()
    } | {
        "stove_kw": written(plan.stove_kw, "number", display),
        "stoves": str(plan.stoves or ""),
        "spare_share": written(100 * plan.spare_share, "percent", display),
    }


def apply_food_edit(edit: Editing, form: Mapping[str, str], display: Display) -> tuple[Errors, str]:
    """Take what a form on food, water and fuel asks for, in one step.

    Args:
        edit: what is changed.
        form: what was sent; `act` says which of the forms.
        display: units of what was typed.

    Returns:
        Messages by field for what was not taken, and a message for the page.
    """
    act, _, value = form.get("act", "").partition("=")
    if act in FORMS:
        return FORMS[act](edit, form, display), ""
    if act == "drop-cache":
        edit.keep("a cache taken back", partial(_without_cache, place=value))
    elif act == "drop-dish":
        edit.keep("a dish off the menu", partial(_without_dish, dish=value))
    elif act in _CURES:
        try:
            figure = float(value)
        except ValueError:
            return {}, "That was no figure."
        if not 0 <= figure <= 3000:
            return {}, "That was no figure."
        words, alter = _CURES[act]
        try:
            edit.keep(words, partial(alter, who=form.get("person", ""), figure=figure))
        except ValidationError as fault:
            return {}, f"Not kept: {fault_text(fault, display)}."
    return {}, ""


def _without_cache(course: Course, place: str) -> Course:
    kept = (each for at, each in enumerate(course.caches) if str(at) != place)
    return course.altered(caches=tuple(kept))


def _with_menu(course: Course, menu: tuple[Dish, ...]) -> Course:
    return course.altered(provisions=course.provisions.altered(menu=menu))


def _without_dish(course: Course, dish: str) -> Course:
    return _with_menu(course, tuple(e for e in course.provisions.menu if e.id != dish))


def _fill(course: Course, who: str, figure: float) -> Course:
    """The course with somebody filling so much water, and bottles that hold it."""
    person = course.person(who)
    holds = person.containers_l
    parts = {"water_l": figure}
    if holds is not None and holds < figure:
        parts["containers_l"] = figure
    return with_person(course, person.altered(**parts))


def fill_all(edit: Editing, result: Assessment) -> None:
    """Everybody who runs dry fills what they lack."""
    wanted = {
        person.id: water_wanted(person, result.of(person.id).load.dry)
        for person in edit.course.people
        if result.of(person.id).load.dry
    }

    def alter(now: Course) -> Course:
        for who, litres in wanted.items():
            now = _fill(now, who, litres)
        return now

    if wanted:
        edit.keep("more water for everybody who runs dry", alter)


def _burn(course: Course, who: str, figure: float) -> Course:
    """The course with so much fuel a day for everybody; who asked for it does not matter."""
    del who
    people = tuple(person.altered(fuel_g_a_day=figure) for person in course.people)
    return course.altered(people=people)


_CURES = {"fill": ("more water filled", _fill), "burn": ("more fuel taken", _burn)}


def _add_cache(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    reading = read_form(CACHE, dict.fromkeys((each.name for each in CACHE), ""), form, display)
    day, _, leg = form.get("cache_at", "").partition(".")
    at, errors = whole(day), reading.errors
    if at is None:
        errors["cache_at"] = "choose where it lies"
    if not errors and not any(reading.values.values()):
        errors["cache_rations"] = "type what it holds: days of food and fuel, or water"
    if errors or at is None:
        return errors
    rations, water = (reading.values.get(each.name) or 0.0 for each in CACHE)
    try:
        cache = Cache(day=at, leg=leg, rations=rations, water_l=water)
        words = f"a cache at {leg.replace('-', ' ')}"
        edit.keep(words, lambda now: now.altered(caches=(*now.caches, cache)))
    except ValidationError as fault:
        where = {"rations": "cache_rations", "water_l": "cache_water"}
        return faults_at(fault, display, where, "cache_at")
    return {}


def _drop_bag(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    """Something of somebody's that waits at a place for them, is left there, is fetched there
    again, or goes all the way."""
    course = edit.course
    person = course.person(form.get("person", ""))
    things: tuple[Item | Garment, ...] = (*person.items, *person.garments)
    piece = next((each for each in things if each.id == form.get("bag_item")), None)
    if piece is None:
        return {"bag_item": "choose something of theirs"}
    day, _, leg = form.get("bag_at", "").partition(".")
    at = whole(day)
    if at is None:
        return {"bag_at": "choose where"}
    how = form.get("bag_how", "")
    try:
        end = LegEnd(day=at, leg=leg)
        if how == "is fetched again at" and piece.left_at is None:
            return {"bag_how": "say first where it is left"}
        parts: dict[str, LegEnd | None] = {
            "waits at": {"waits_at": end, "left_at": None},
            "is left at": {"waits_at": None, "left_at": end},
            "is fetched again at": {"waits_at": end},
        }.get(how, {"waits_at": None, "left_at": None})
        moved = piece.altered(**parts)
        words = f"{piece.name} {how if how in BAG_HOW[:3] else 'goes all the way'}"
        edit.keep(words, partial(_with_thing, who=person.id, thing=moved))
    except ValidationError as fault:
        return faults_at(fault, display, {}, "bag_at")
    return {}


def _with_thing(course: Course, who: str, thing: Item | Garment) -> Course:
    person = course.person(who)
    name = "items" if isinstance(thing, Item) else "garments"
    listed = tuple(thing if each.id == thing.id else each for each in getattr(person, name))
    return with_person(course, person.altered(**{name: listed}))


def _plan(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    person = edit.course.person(form.get("person", ""))
    reading = read_changes(edit.course, person, PLANNED, form, display)
    holds = reading.values.get("containers_l", person.containers_l)
    water = reading.values.get("water_l", person.water_l)
    if holds is not None and water is not None and water > holds and not reading.errors:
        name = "water_l" if "water_l" in reading.values else "containers_l"
        told = f"{display.volume(water)} in bottles that hold {display.volume(holds)}"
        reading.errors[name] = told
    if reading.errors:
        return reading.errors
    words = f"{person.name.split()[0]}: food, water and fuel"
    try:
        edit.keep(words, partial(with_figures, person=person.id, reading=reading))
    except ValidationError as fault:
        reading.refuse(fault, display)
    return reading.errors


def for_everybody(person: Person) -> dict[str, object]:
    """What of somebody's plan is as well everybody's."""
    return {name: getattr(person, name) for name in ("food_g_a_day", "fuel_g_a_day", "water_l")}


def _everybody(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    """What one person plans, planned for everybody."""
    errors = _plan(edit, form, display)
    if errors:
        return errors
    figures = for_everybody(edit.now.person(form.get("person", "")))

    def alter(now: Course) -> Course:
        return now.altered(people=tuple(each.altered(**figures) for each in now.people))

    edit.keep("one plan of food, water and fuel for everybody", alter)
    return {}


def _kitchen(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    course = edit.course
    reading = read_form(KITCHEN.values(), kitchen_texts(course, display), form, display)
    if reading.errors:
        return reading.errors
    values = dict(reading.values)
    if values.get("spare_share") is not None:
        values["spare_share"] = float(values["spare_share"] or 0) / 100
    if "stoves" in values:
        number = values["stoves"] or 0
        if number != int(number):
            return {"stoves": "write a whole number"}
        values["stoves"] = int(number)
    boiled = values.pop("boiled_l_a_day", course.boiled_l_a_day)
    chosen = {"stove": (STOVES, form.get("stove")), "treated": (TREATMENTS, form.get("treated"))}
    values |= {name: told for name, (known, told) in chosen.items() if told in known}
    typed = {k: v for k, v in reading.texts.items() if k in ("boiled_l_a_day", "pot_l")}
    try:
        plan = course.provisions.altered(**values)
        if plan == course.provisions and boiled == course.boiled_l_a_day:
            return {}
        edit.keep(
            "stoves and water",
            lambda now: now.altered(
                provisions=now.provisions.altered(**values),
                boiled_l_a_day=boiled,
                as_typed=now.as_typed | typed,
            ),
        )
    except ValidationError as fault:
        reading.refuse(fault, display)
    return reading.errors


def _add_dish(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    mass, errors = whole_form(form, DISH[:1], display)
    kcal = read_form(DISH[1:], {"dish_kcal": ""}, form, display)
    errors |= kcal.errors
    name = form.get("dish_name", "").strip()
    if not name:
        errors["dish_name"] = "is needed"
    if errors:
        return errors
    day = whole(form.get("dish_day"))
    menu = edit.course.provisions.menu
    try:
        dish = Dish.model_validate(
            {
                "id": fresh_id(name, [each.id for each in menu]),
                "name": name,
                "meal": form.get("dish_meal", "dinner"),
                "day": day if day is not None and day < len(edit.course.days) else None,
                "mass_g": mass["dish_mass"],
                "kcal": kcal.values.get("dish_kcal"),
                "cooked": "dish_cooked" in form,
            }
        )
        Provisions(menu=(*menu, dish))
    except ValidationError as fault:
        return faults_at(fault, display, {"mass_g": "dish_mass", "kcal": "dish_kcal"}, "dish_name")
    edit.keep(f"menu: {name}", lambda now: _with_menu(now, (*now.provisions.menu, dish)))
    return {}


FORMS = {
    "plan": _plan,
    "everybody": _everybody,
    "kitchen": _kitchen,
    "add-cache": _add_cache,
    "add-dish": _add_dish,
    "bag": _drop_bag,
}
"""Forms of the page by what they ask for."""
