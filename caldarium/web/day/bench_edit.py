"""What the bench's one form can change, and how each change is named for undo."""

from collections.abc import Callable
from functools import partial

from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.plan.changes import (
    add_piece,
    copy_outfit,
    free_outfits,
    overrule,
    pitch,
    remove_piece,
    set_pads,
    swap_garment,
    with_altitude,
    with_day,
    with_person,
)
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Pad
from caldarium.core.timeline.moments import Moment
from caldarium.web.editing import Change, Editing
from caldarium.web.forms import Entry, Field, read_form, shown_text, whole
from caldarium.words.faults import fault_text
from caldarium.words.units import Display

CONDITIONS = {
    "high_c": Field("high_c", "High", "temperature"),
    "low_c": Field("low_c", "Low", "temperature"),
    "wind_ms": Field("wind_ms", "Wind at 10 m", "wind"),
    "precipitation_mm": Field("precipitation_mm", "Rain, snow", "rain"),
    "humidity_pct": Field("humidity_pct", "Humidity", "percent"),
}
ALTITUDES = {
    "end_altitude_m": Field("end_altitude_m", "Camp", "altitude"),
    "high_point_m": Field("high_point_m", "High point", "altitude"),
}


def day_entries(course: Course, day: int, display: Display) -> list[Entry]:
    """Fields of one day as they stand."""
    here = course.days[day]
    values = {name: getattr(here.conditions, name) for name in CONDITIONS}
    if here.legs:
        values |= _altitudes(course, day)
    entries: list[Entry] = []
    for name in values:
        field = (CONDITIONS | ALTITUDES)[name]
        typed = course.as_typed.get(_key(day, name))
        entries.append(Entry(field, shown_text(values[name], field, typed, display)))
    return entries


def _altitudes(course: Course, day: int) -> dict[str, float]:
    """The day's end and its highest leg's end [m]."""
    legs = course.days[day].legs
    top = max(leg.to_altitude_m for leg in legs)
    return {"end_altitude_m": course.ends[day], "high_point_m": top}


def _key(day: int, name: str) -> str:
    room = "conditions." if name in CONDITIONS else ""
    return f"days.{day}.{room}{name}"


def apply_edit(
    edit: Editing,
    form: dict[str, str],
    display: Display,
    result: Assessment,
) -> tuple[dict[str, Entry], str]:
    """Take every change in the form that is valid.

    Args:
        edit: what is changed.
        form: what was sent.
        display: units of what was typed.
        result: the course's assessment, for outfits that are copied.

    Returns:
        Entries that were not taken, by field name, and a message for the page.
    """
    course = edit.course
    day = whole(form.get("day", "0"), most=len(course.days) - 1)
    if day is None:
        return {}, "That day is not in the course."
    person = course.person(form.get("person", ""))
    entries = day_entries(course, day, display)
    rejected = _edit_day(edit, day, form, entries, display)
    message = ""
    changes = _kit_changes(course, person.id, form) + _course_changes(course, day, form)
    changes += _outfit_changes(course, person, form, result)
    for name, change in changes:
        try:
            edit.keep(name, change)
        except ValidationError as fault:
            message = f"Not kept: {fault_text(fault, display)}."
        except KeyError as fault:
            message = f"Not kept: {fault.args[0]} is no longer there."
    return rejected, message


def _edit_day(
    edit: Editing,
    day: int,
    form: dict[str, str],
    entries: list[Entry],
    display: Display,
) -> dict[str, Entry]:
    fields = {entry.field.name: entry.field for entry in entries}
    shown = {entry.field.name: entry.text for entry in entries}
    reading = read_form(fields.values(), shown, form, display)
    rejected = {
        name: Entry(fields[name], form[name], message) for name, message in reading.errors.items()
    }
    values = {
        name: (value, reading.texts[name])
        for name, value in reading.values.items()
        if value is not None
    }
    while values:
        try:
            edit.keep(_name(values), partial(_set_day, day=day, values=values))
            break
        except ValidationError as fault:
            bad = {str(part) for error in fault.errors() for part in error["loc"]} & values.keys()
            message = fault_text(fault, display)
            for name in bad or set(values):
                field = (CONDITIONS | ALTITUDES)[name]
                rejected[name] = Entry(field, form[name], message)
                del values[name]
    return rejected


def _name(values: dict[str, tuple[float, str]]) -> str:
    fields = CONDITIONS | ALTITUDES
    return ", ".join(f"{fields[name].label.lower()} {text}" for name, (_, text) in values.items())


def _set_day(course: Course, day: int, values: dict[str, tuple[float, str]]) -> Course:
    here = course.days[day]
    conditions = {name: value for name, (value, _) in values.items() if name in CONDITIONS}
    altered = here.altered(conditions=here.conditions.altered(**conditions))
    before = _altitudes(course, day) if here.legs else {}
    for name in ("high_point_m", "end_altitude_m"):
        if name in values and before:
            altered = with_altitude(altered, before[name], values[name][0])
    typed = course.as_typed | {_key(day, name): text for name, (_, text) in values.items()}
    return with_day(course.altered(as_typed=typed), day, altered)


def _course_changes(course: Course, day: int, form: dict[str, str]) -> list[tuple[str, Change]]:
    found: list[tuple[str, Change]] = []
    caution = form.get("caution", course.caution)
    if caution != course.caution:
        found.append((f"caution {caution}", lambda now: now.altered(caution=caution)))
    camp = course.days[day].camp
    for name in ("ground", "exposure"):
        wanted = form.get(f"camp_{name}")
        if camp is not None and wanted and wanted != getattr(camp, name):
            found.append((f"{name} {wanted}", partial(_set_camp, day=day, name=name, to=wanted)))
    return found


def _set_camp(course: Course, day: int, name: str, to: str) -> Course:
    here = course.days[day]
    assert here.camp is not None
    camp = here.camp.altered(**{name: to})
    return with_day(course, day, here.altered(camp=camp))


COPIES = {
    "kind": "every {kind} of mine",
    "day": "the rest of my day",
    "all": "everybody at this {kind}",
    "all-kind": "everybody at every {kind}",
}
FREED = {"free": "let the rules dress me here", "free-all": "let the rules dress me everywhere"}


def copy_choices(moment: Moment) -> dict[str, str]:
    """Where the outfit of a moment can go, by the value that asks for it."""
    return {name: words.format(kind=moment.kind) for name, words in COPIES.items()} | FREED


def _outfit_changes(
    course: Course, person: Person, form: dict[str, str], result: Assessment
) -> list[tuple[str, Change]]:
    """An outfit copied to other moments and people, or given back to the rules."""
    wanted = form.get("copy_to", "")
    awake = [each for each in result.timeline.moments if each.kind != "night"]
    here = next((each for each in awake if each.id == form.get("moment")), None)
    if not form.get("copy") or here is None or wanted not in COPIES | FREED:
        return []
    who = person.name.split()[0]
    if wanted in FREED:
        moments = [here.id] if wanted == "free" else [each.id for each in awake]
        name = f"{who}: the rules dress {'here' if wanted == 'free' else 'everywhere'}"
        return [(name, lambda now: with_person(now, free_outfits(now.person(person.id), moments)))]
    chosen = {
        "kind": [each.id for each in awake if each.kind == here.kind],
        "day": [each.id for each in awake if each.day == here.day and each.start >= here.start],
        "all": [here.id],
        "all-kind": [each.id for each in awake if each.kind == here.kind],
    }[wanted]
    people = [each.id for each in course.people] if wanted.startswith("all") else [person.id]
    found = next(each for each in result.people if each.person == person.id)
    worn = next(state.worn for state in found.moments if state.moment == here.id)
    name = f"{who}'s outfit for {copy_choices(here)[wanted]}"
    return [(name, lambda now: copy_outfit(now, person.id, worn, chosen, people))]


def _kit_changes(course: Course, person: str, form: dict[str, str]) -> list[tuple[str, Change]]:
    catalogue = load_catalogue()
    member = course.person(person)
    who = member.name.split()[0]
    found: list[tuple[str, Change]] = []

    def alter(name: str, change: Callable) -> None:
        found.append((name, lambda now: with_person(now, change(now.person(person)))))

    toggled = form.get("toggle")
    if toggled:
        identifier, _, wanted = toggled.partition("=")
        worn = wanted == "on"
        moment = form.get("moment", "")
        alter(
            f"{who}: {'on' if worn else 'off'} {identifier}",
            lambda p: overrule(p, moment, identifier, worn),
        )
    out, into = form.get("swap_out", ""), form.get("swap_in", "")
    if form.get("swap") and (out or into):
        piece = catalogue.garments.get(into)
        if out and piece:
            alter(f"{who}: {piece.name} for {out}", lambda p: swap_garment(p, out, piece))
        elif out:
            alter(f"{who}: without {out}", lambda p: remove_piece(p, out))
        elif piece:
            alter(f"{who}: with {piece.name}", lambda p: add_piece(p, piece))
    helpful = catalogue.garments.get(form.get("add_piece", ""))
    if helpful:
        alter(f"{who}: with {helpful.name}", lambda p: add_piece(p, helpful))
    found_bag = form.get("bag")
    if found_bag is not None and found_bag != (member.bag.id if member.bag else ""):
        bag = catalogue.bags.get(found_bag)
        alter(f"{who}: {bag.name if bag else 'no bag'}", lambda p: p.altered(bag=bag))
    wanted = [form[name] for name in ("pad_1", "pad_2") if form.get(name)]
    have = [pad.id for pad in member.pads]
    if "pad_1" in form and wanted != have[:2]:
        pads: list[Pad] = []
        for each in wanted:
            own = next((pad for pad in member.pads if pad.id == each), None)
            pads.append(own or catalogue.pads[each])
        pads += list(member.pads[2:])
        alter(
            f"{who}: {' and '.join(pad.name for pad in pads) or 'no pad'}",
            lambda p: set_pads(p, pads),
        )
    shelter = form.get("shelter")
    if shelter is not None and shelter != (member.shelter or ""):
        known = {each.id for each in course.shelters}
        target = shelter if shelter in known else catalogue.shelters.get(shelter.removeprefix("+"))
        name = target.name if target and not isinstance(target, str) else shelter or "no shelter"
        found.append((f"{who} in {name}", lambda now: pitch(now, person, target or None)))
    return found
