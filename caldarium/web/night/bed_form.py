"""The form of a bed: what lies in it, its figures as they are typed, and whose bed it is."""

from collections.abc import Mapping
from typing import Literal, get_args

from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import plan_night, with_bed, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Bag, OtherBed, Pad
from caldarium.web.editing import Editing
from caldarium.web.forms import Entry, Field, Reading, faults_at, read_form, shown_text
from caldarium.words.units import Display

FEET = ("nothing", "spare clothes", "sit pad")
RAISED = ("no", "cot", "hut bunk")
TURNS = ("little", "much")
COT_G = 2200.0
"""A folding cot [g]: judgement."""
MOST_PADS = 2
Whose = Literal["own", "other", "light", "lent"]
WHOSE: dict[Whose, str] = {
    "own": "their own",
    "other": "another, both carried, from this night on",
    "light": "another, their own waits meanwhile",
    "lent": "another that is there, from this night on",
}
BAG = (
    Field("bag.label_c", "Bag's figure", "temperature"),
    Field("bag.limit_c", "Bag's limit, if both are printed", "temperature", may_be_empty=True),
    Field("bag.width_cm", "Bag's girth, or quilt's width", "depth", may_be_empty=True),
    Field("bag.fits_to_m", "Bag fits up to", "height", may_be_empty=True),
)
PAD = (
    Field("r_value", "R-value", "number"),
    Field("length_cm", "length", "depth", may_be_empty=True),
    Field("width_cm", "width", "depth", may_be_empty=True),
)
PAD_WORDS = ("Pad's", "Second pad's")
HEAT = (
    Field("hot_bottle_l", "Hot bottle", "volume"),
    Field("warmers", "Warmers each night", "number"),
)


def whose_bed(person: Person, day: int) -> Whose:
    """Whether the bed of a night is somebody's own, another, or one lent there."""
    plan = person.plan_of(day)
    if plan is None or plan.bed is None:
        return "own"
    if plan.bed.lent:
        return "lent"
    return "light" if plan.bed.own_waits else "other"


def fields_of(lying: Person) -> tuple[Field, ...]:
    """The figures of a bed as it lies there."""
    pads = tuple(
        Field(
            f"pad{place}.{each.name}",
            f"{PAD_WORDS[place]} {each.label}",
            each.kind,
            may_be_empty=each.may_be_empty,
        )
        for place, _ in enumerate(lying.pads[:MOST_PADS])
        for each in PAD
    )
    return (*(BAG if lying.bag else ()), *pads, *HEAT)


def _part(lying: Person, name: str) -> object:
    """What a field is a figure of."""
    if name.startswith("bag."):
        return lying.bag
    if name.startswith("pad"):
        return lying.pads[int(name[3])]
    return lying.bedding


def texts_of(course: Course, person: Person, day: int, display: Display) -> dict[str, str]:
    """What stands in those fields: as it was typed, while it still says the same."""
    lying = person.on_night(day)
    found: dict[str, str] = {}
    for field in fields_of(lying):
        value = getattr(_part(lying, field.name), field.name.split(".")[-1])
        typed = course.as_typed.get(f"beds.{person.id}.{field.name}")
        found[field.name] = shown_text(value, field, typed, display)
    return found


def entries_of(
    course: Course,
    person: Person,
    day: int,
    display: Display,
    form: Mapping[str, str],
    errors: Mapping[str, str],
) -> list[Entry]:
    """The fields with what stands in them, or what was typed and what is wrong with it."""
    texts = texts_of(course, person, day, display)
    return [
        Entry(each, form.get(each.name, texts[each.name]), errors.get(each.name, ""))
        for each in fields_of(person.on_night(day))
    ]


def take(
    edit: Editing, who: str, day: int, form: Mapping[str, str], display: Display
) -> dict[str, str]:
    """Take a bed as its form has it, in one step or not at all.

    Returns:
        Messages by field where something cannot be taken, and nothing is.
    """
    person = edit.course.person(who)
    lying = person.on_night(day)
    fields = fields_of(lying)
    shown = texts_of(edit.course, person, day, display)
    reading = read_form(fields, shown, form, display)
    reading.errors |= _refused(lying, reading, display)
    if reading.errors:
        return reading.errors
    name = person.name.split()[0]
    try:
        edit.keep(f"{name}: bed", lambda now: _bed(now, who, day, form, reading))
    except ValidationError as fault:
        reading.refuse(fault, display, {each.name: each.name for each in HEAT}, HEAT[0].name)
    return reading.errors


def _bed(course: Course, who: str, day: int, form: Mapping[str, str], reading: Reading) -> Course:
    """The course with a bed as the form has it; what is not sent stays."""
    wanted = form.get("whose", "")
    person = course.person(who)
    before = whose_bed(person, day)
    if wanted in get_args(Whose) and wanted != before:
        lying = person.on_night(day)
        other = OtherBed(
            bag=lying.bag,
            pads=lying.pads,
            bedding=lying.bedding,
            lent=wanted == "lent",
            own_waits=wanted == "light",
        )
        bed = None if wanted == "own" else other
        course = plan_night(course, who, day, lying.shelter, bed)
        if bed is None:
            # What else the form says is of the bed that is left.
            return course
        person = course.person(who)
    lying = person.on_night(day)
    parts = {"bag": _bag(lying, form, reading), "pads": _pads(lying, form, reading)}
    bedding = lying.bedding.altered(**_bedding(lying, form, reading))
    changed = with_bed(person, day, **parts, bedding=bedding)
    typed = {f"beds.{who}.{name}": text for name, text in reading.texts.items()}
    return with_person(course.altered(as_typed=course.as_typed | typed), changed)


def _refused(lying: Person, reading: Reading, display: Display) -> dict[str, str]:
    """What the bag and the pads do not take of the figures typed for them, by field."""
    found: dict[str, str] = {}
    pieces = [("bag.", lying.bag), *((f"pad{n}.", pad) for n, pad in enumerate(lying.pads))]
    for head, piece in pieces:
        figures = _figures(reading, head)
        if piece is not None and figures:
            at = {name: f"{head}{name}" for name in figures}
            try:
                piece.altered(**figures)
            except ValidationError as fault:
                found |= faults_at(fault, display, at, next(iter(at.values())))
    return found


def _figures(reading: Reading, head: str) -> dict[str, float | None]:
    """What was typed of one piece, by its own names."""
    return {
        name.removeprefix(head): value
        for name, value in reading.values.items()
        if name.startswith(head)
    }


def _bag(lying: Person, form: Mapping[str, str], reading: Reading) -> Bag | None:
    wanted, own = form.get("bag"), lying.bag
    if wanted is not None and wanted != (own.id if own else ""):
        return load_catalogue().bags.get(wanted)
    figures = _figures(reading, "bag.")
    return own.altered(**figures) if own and figures else own


def _pads(lying: Person, form: Mapping[str, str], reading: Reading) -> tuple[Pad, ...]:
    """The pads chosen, from the ground up, with the figures typed for those that stay."""
    shelf = load_catalogue().pads
    found: list[Pad] = []
    for place in range(MOST_PADS):
        own = lying.pads[place] if place < len(lying.pads) else None
        wanted = form.get(f"pad{place}", own.id if own else "")
        if own is not None and wanted == own.id:
            figures = _figures(reading, f"pad{place}.")
            found.append(own.altered(**figures) if figures else own)
        elif wanted in shelf and all(each.id != wanted for each in found):
            found.append(shelf[wanted])
    return (*found, *lying.pads[MOST_PADS:])


def _bedding(lying: Person, form: Mapping[str, str], reading: Reading) -> dict[str, object]:
    """What lies over, in and under, and how the sleeper lies."""
    catalogue, bedding = load_catalogue(), lying.bedding
    shelves = {
        "over": catalogue.bags,
        "liner": catalogue.liners,
        "cover": catalogue.covers,
        "hammock": catalogue.hammocks,
    }
    heat = {each.name for each in HEAT}
    parts: dict[str, object] = {
        name: value for name, value in reading.values.items() if name in heat
    }
    for name, shelf in shelves.items():
        if name in form:
            own = getattr(bedding, name)
            kept = own if own is not None and own.id == form[name] else None
            parts[name] = kept or shelf.get(form[name])
    for name in ("feet_on", "raised", "turns"):
        if name in form:
            parts[name] = form[name]
    if "raised" in form and form["raised"] != bedding.raised:
        parts["cot_g"] = COT_G if form["raised"] == "cot" else 0
    if "beside" in form:
        parts["beside"] = form["beside"] or None
    if "bed" in form:
        parts["wet_out"] = form.get("wet_out") == "on"
    return parts
