"""What the load's forms can change: budgets, the group's kit and who carries it."""

from collections.abc import Mapping
from functools import partial
from typing import get_args

from pydantic import ValidationError

from caldarium.core.assess import Assessment
from caldarium.core.load.share import Split, fairness_of, split_of, with_split
from caldarium.core.plan.changes import fresh_id, remove_piece, with_person, without_helper
from caldarium.core.plan.course import Course
from caldarium.core.plan.group_kit import carried_by, units
from caldarium.core.plan.kit import GroupKit, Helper, HelperKind, Purpose
from caldarium.core.plan.value import NotThereError
from caldarium.web.editing import Editing
from caldarium.web.forms import Field, faults_at, read_form, shown_text, whole, written
from caldarium.web.plan.person_fields import LOAD, read_changes, with_figures
from caldarium.words.units import Display

HELPER_LIMIT = Field("helper_limit", "May carry", "body", "by local rules")
HELPER_KINDS = get_args(HelperKind)
RULES = ("party", "head", "rope", "tent")
PURPOSES = get_args(Purpose)
PARTY = {
    "budget_share": (Field("budget_share", "Budget, of body mass", "percent"), 100.0),
    "limit_share": (Field("limit_share", "Limit, of body mass", "percent"), 100.0),
    "rope_of": (Field("rope_of", "People on a rope", "number"), 1.0),
    "group_budget_kg": (
        Field("group_budget_kg", "Group kit's budget", "body", may_be_empty=True),
        1.0,
    ),
}
"""Figures of the whole party: the field, and what a typed figure is of the course's own."""
KIT = (
    Field("kit_mass", "Mass of one", "mass", "as 1 lb 3 oz or 540 g"),
    Field("kit_number", "How many", "number"),
    Field("kit_per", "for every", "number"),
)
SPOILS = Field("kit_spoils", "Must stay above, if it spoils", "temperature", may_be_empty=True)
NET = Field("kit_net", "Fuel in one, if it is a can", "mass", may_be_empty=True)
_KIT_AT = {
    "net_g": "kit_net",
    "mass_g": "kit_mass",
    "number": "kit_number",
    "per": "kit_per",
    "spoils_below_c": "kit_spoils",
    "bundle": "kit_bundle",
    "purpose": "kit_purpose",
    "of": "kit_of",
}
Errors = dict[str, str]


def party_texts(course: Course, display: Display) -> dict[str, str]:
    """What stands in the party's fields."""
    values = {name: getattr(course, name) for name in PARTY}
    return {
        name: "" if values[name] is None else written(values[name] * scale, field.kind, display)
        for name, (field, scale) in PARTY.items()
    }


def apply_load_edit(edit: Editing, form: Mapping[str, str], display: Display) -> tuple[Errors, str]:
    """Take what a form of the load's page asks for, in one step.

    Args:
        edit: what is changed.
        form: what was sent; `act` says which of the forms.
        display: units of what was typed.

    Returns:
        Messages by field for what was not taken, and a message for the page.
    """
    act, _, value = form.get("act", "").partition("=")
    try:
        if act == "pin":
            kit, _, place = value.rpartition(".")
            edit.keep("a piece stays where it is", partial(_pinned, kit=kit, place=whole(place)))
        elif act in FORMS:
            return FORMS[act](edit, form, display), ""
        elif act in ("without", "drop-kit", "drop-helper"):
            alter = partial(_leave_out, act=act, value=value, who=form.get("person", ""))
            edit.keep(f"without {value}", alter)
        else:
            _give(edit, form)
    except NotThereError:
        raise
    except KeyError:
        return {}, "That is no longer there."
    return {}, ""


def split_kit(edit: Editing, form: Mapping[str, str], result: Assessment, *, take: bool) -> Split:
    """Split the group's kit by the measure chosen, in one step where it is taken."""
    course, measure = edit.course, fairness_of(form.get("fairness", ""))
    split = split_of(course, [each.load for each in result.people], measure)
    if take:
        edit.keep("the group's kit split", partial(with_split, split=split))
    return split


def _leave_out(course: Course, act: str, value: str, who: str) -> Course:
    """The course without somebody's piece, some of the group's kit, or a helper."""
    if act == "without":
        return with_person(course, remove_piece(course.person(who), value))
    if act == "drop-helper":
        return without_helper(course, value)
    return course.altered(group=tuple(each for each in course.group if each.id != value))


def _give(edit: Editing, form: Mapping[str, str]) -> None:
    """Pieces of the group's kit given by hand."""
    course = edit.course
    names = {person.id: person.name.split()[0] for person in course.people}
    names |= {helper.id: helper.name for helper in course.helpers}
    kits = {kit.id: kit.name for kit in course.group}
    for unit in units(course):
        wish = form.get(f"carry.{unit.kit}.{unit.place}")
        if wish is None or wish == (unit.carrier or "") or wish not in ("", *names):
            continue
        words = f"{kits[unit.kit]} {unit.place + 1}: {names.get(wish, 'nobody yet')}"
        edit.keep(
            words,
            partial(carried_by, kit=unit.kit, place=unit.place, carrier=wish or None, by_hand=True),
        )


def _pinned(course: Course, kit: str, place: int | None) -> Course:
    """The course with one piece kept by whoever has it, or free again."""
    unit = next((each for each in units(course) if (each.kit, each.place) == (kit, place)), None)
    if unit is None or unit.carrier is None or place is None:
        raise KeyError(kit)
    return carried_by(course, kit, place, unit.carrier, by_hand=not unit.by_hand)


def handed_over(before: Course, after: Course) -> tuple[str, str]:
    """Who gave and who took the one piece of the group's kit that changed backs; empty for nobody,
    and where none or several did."""
    then = {(unit.kit, unit.place): unit.carrier for unit in units(before)}
    moved = [
        (then.get((unit.kit, unit.place)), unit.carrier)
        for unit in units(after)
        if then.get((unit.kit, unit.place), unit.carrier) != unit.carrier
    ]
    return (moved[0][0] or "", moved[0][1] or "") if len(moved) == 1 else ("", "")


def whole_form(
    form: Mapping[str, str], fields: tuple[Field, ...], display: Display
) -> tuple[dict[str, float], Errors]:
    """Fields of which every one is needed, as a form for something new has them."""
    reading = read_form(fields, {}, form, display)
    needed = {each.name for each in fields} - reading.values.keys() - reading.errors.keys()
    errors = reading.errors | dict.fromkeys(needed, "type a number")
    return {name: value for name, value in reading.values.items() if value is not None}, errors


def _add_kit(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    values, errors = whole_form({"kit_number": "1", "kit_per": "1"} | dict(form), KIT, display)
    cold = read_form((SPOILS, NET), {SPOILS.name: "", NET.name: ""}, form, display)
    errors |= cold.errors
    net = cold.values.get(NET.name)
    name = form.get("kit_name", "").strip()
    if not name:
        errors["kit_name"] = "is needed"
    if errors:
        return errors
    known = {each.id: each for each in edit.course.group}
    before = known.get(form.get("kit_id", ""))
    kept = {} if before is None else dict(before)
    try:
        kit = GroupKit.model_validate(
            kept
            | {
                "id": before.id if before else fresh_id(name, known),
                "name": name,
                "mass_g": values["kit_mass"],
                "number": values["kit_number"],
                "per": values["kit_per"],
                "purpose": form.get("kit_purpose", "group"),
                "of": form.get("kit_of", "party"),
                "bundle": form.get("kit_bundle", "").strip(),
                "with_whom": form.get("kit_with") or None,
                "apart": "kit_apart" in form,
                "kind": "fuel" if net else (before.kind if before else ""),
                "net_g": net,
                "spoils_below_c": cold.values.get(SPOILS.name),
            }
        )
    except ValidationError as fault:
        return faults_at(fault, display, _KIT_AT, "kit_name")
    edit.keep(f"group kit: {name}", partial(_with_kit, kit=kit))
    return {}


def _with_kit(course: Course, kit: GroupKit) -> Course:
    """The course with a kind of group kit added, or changed where it was."""
    if all(each.id != kit.id for each in course.group):
        return course.altered(group=(*course.group, kit))
    return course.altered(group=tuple(kit if each.id == kit.id else each for each in course.group))


def kit_texts(course: Course, kit: str, display: Display) -> dict[str, str]:
    """What stands in the form of a shared piece that is to be changed; nothing for a new one."""
    found = next((each for each in course.group if each.id == kit), None)
    if found is None:
        return {}
    return {
        "kit_id": found.id,
        "kit_name": found.name,
        "kit_mass": written(found.mass_g, "mass", display),
        "kit_number": str(found.number),
        "kit_per": str(found.per),
        "kit_of": found.of,
        "kit_purpose": found.purpose,
        "kit_bundle": found.bundle,
        "kit_with": found.with_whom or "",
        "kit_apart": "on" if found.apart else "",
        "kit_net": shown_text(found.net_g, NET, None, display),
        "kit_spoils": shown_text(found.spoils_below_c, SPOILS, None, display),
    }


def _add_helper(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    """A porter, an animal or a sled that carries too."""
    values, errors = whole_form(form, (HELPER_LIMIT,), display)
    name, drawn = form.get("helper_name", "").strip(), form.get("helper_drawn") or None
    if not name:
        errors["helper_name"] = "is needed"
    if errors:
        return errors
    taken = [each.id for each in (*edit.course.people, *edit.course.helpers)]
    try:
        helper = Helper.model_validate(
            {
                "id": fresh_id(name, taken),
                "name": name,
                "kind": form.get("helper_kind", "porter"),
                "limit_kg": values["helper_limit"],
                "drawn_by": drawn,
            }
        )
        alter = partial(_with_helper, helper=helper)
        alter(edit.course)
    except ValidationError as fault:
        return faults_at(fault, display, {"limit_kg": "helper_limit"}, "helper_name")
    edit.keep(f"{name} carries too", alter)
    return {}


def _with_helper(course: Course, helper: Helper) -> Course:
    return course.altered(helpers=(*course.helpers, helper))


def _own(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    """Somebody's own budget and strength."""
    person = edit.course.person(form.get("person", ""))
    reading = read_changes(edit.course, person, LOAD, form, display)
    if reading.errors:
        return reading.errors
    try:
        alter = partial(with_figures, person=person.id, reading=reading)
        edit.keep(f"{person.name.split()[0]}: load", alter)
    except ValidationError as fault:
        reading.refuse(fault, display)
    return reading.errors


def _party(edit: Editing, form: Mapping[str, str], display: Display) -> Errors:
    before = party_texts(edit.course, display)
    reading = read_form([field for field, _ in PARTY.values()], before, form, display)
    if reading.errors:
        return reading.errors
    parts = {
        name: None if value is None else value / PARTY[name][1]
        for name, value in reading.values.items()
    }
    try:
        edit.keep("the party's figures", lambda now: now.altered(**parts))
    except ValidationError as fault:
        reading.refuse(fault, display)
    return reading.errors


FORMS = {
    "add-kit": _add_kit,
    "plan": _own,
    "add-helper": _add_helper,
    "party": _party,
}
"""Forms of the load's page by what they ask for."""
