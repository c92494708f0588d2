"""What the bench's one form can change, and how each change is named for undo."""

from collections.abc import Callable, Mapping
from functools import partial, reduce
from typing import TypeVar

from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment
from caldarium.core.day.keeping_up import party_pace
from caldarium.core.plan.changes import (
    add_piece,
    at_pace,
    copy_outfit,
    free_outfits,
    overrule,
    pitch,
    remove_piece,
    set_leg,
    set_pads,
    swap_garment,
    with_day,
    with_person,
)
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.value import NotThereError
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.more_cures import DRINK_L
from caldarium.web.editing import Change, Editing
from caldarium.web.forms import Entry, whole
from caldarium.web.weather.day_fields import edit_day
from caldarium.words.faults import fault_text
from caldarium.words.typed import parse_clock
from caldarium.words.units import Display, clock_text

Kit = TypeVar("Kit")


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
    rejected = edit_day(edit, day, form, display)
    message = ""
    changes = _kit_changes(course, person.id, form) + _course_changes(course, day, form)
    changes += _outfit_changes(course, person, form, result)
    changes += _pace_change(day, form, result, display) + _start_change(course, day, form)
    changes += _drink_change(course, day, form, display)
    for name, change in changes:
        try:
            edit.keep(name, change)
        except ValidationError as fault:
            message = f"Not kept: {fault_text(fault, display)}."
        except KeyError as fault:
            message = f"Not kept: {fault.args[0]} is no longer there."
    return rejected, message


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


def _pace_change(
    day: int, form: dict[str, str], result: Assessment, display: Display
) -> list[tuple[str, Change]]:
    """A leg walked at the pace that everybody can keep."""
    leg = form.get("party_pace", "")
    walk = f"{day + 1}.{leg}.moving"
    tried = [each for found in result.people for each in found.efforts if each.moment == walk]
    pace = party_pace(tried)
    if pace is None:
        return []
    return [
        (f"{leg} at {display.pace(pace)}", partial(at_pace, index=day, identifier=leg, pace=pace))
    ]


def _start_change(course: Course, day: int, form: dict[str, str]) -> list[tuple[str, Change]]:
    """A leg begun at an hour that was offered."""
    leg, _, hour = form.get("leg_start", "").partition(" ")
    if leg not in {each.id for each in course.days[day].legs}:
        return []
    try:
        start = parse_clock(hour)
    except ValueError:
        return []
    return [
        (
            f"{leg} at {clock_text(start)}",
            partial(set_leg, index=day, identifier=leg, start_h=start),
        )
    ]


def _drink_change(
    course: Course, day: int, form: dict[str, str], display: Display
) -> list[tuple[str, Change]]:
    """A hot drink planned at a leg's halts."""
    leg = form.get("halt_drink", "")
    if leg not in {each.id for each in course.days[day].legs}:
        return []
    name = f"{display.volume(DRINK_L)} of hot drink at halts of {leg}"
    return [(name, partial(set_leg, index=day, identifier=leg, hot_drink_l=DRINK_L))]


def _set_camp(course: Course, day: int, name: str, to: str) -> Course:
    here = course.days[day]
    assert here.camp is not None
    camp = here.camp.altered(**{name: to})
    return with_day(course, day, here.altered(camp=camp))


MOST_AT_ONCE = 8
"""Pieces that are taken in one step."""
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
    """What of one person's outfit, clothes, bed and shelter differs, each with its name for undo.

    Raises:
        NotThereError: for a piece or shelter that is nowhere.
    """
    member = course.person(person)
    who = member.name.split()[0]
    found = [*_garment_changes(member, form), *_bed_changes(member, form)]
    named = [
        (f"{who}: {name}", partial(_with_changed, person=person, change=change))
        for name, change in found
    ]
    return named + _shelter_change(course, member, form)


PersonChange = Callable[[Person], Person]


def _with_changed(course: Course, person: str, change: PersonChange) -> Course:
    return with_person(course, change(course.person(person)))


def _of(shelf: Mapping[str, Kit], identifier: str, what: str = "piece") -> Kit:
    if identifier not in shelf:
        raise NotThereError(what, identifier)
    return shelf[identifier]


def _garment_changes(member: Person, form: dict[str, str]) -> list[tuple[str, PersonChange]]:
    """Pieces put on or off at the moment, swapped, added or left out."""
    shelf = load_catalogue().garments
    own = {piece.id: piece for piece in member.garments}
    found: list[tuple[str, PersonChange]] = []
    if form.get("toggle"):
        identifier, _, wanted = form["toggle"].partition("=")
        piece, on = _of(own, identifier), wanted == "on"
        moment = form.get("moment", "")[:40]
        change = partial(overrule, moment=moment, garment=identifier, worn=on)
        found.append((f"{piece.name} {'on' if on else 'off'}", change))
    out, into = form.get("swap_out", ""), form.get("swap_in", "")
    if form.get("swap") and out and into:
        old, new = _of(own, out), _of(shelf, into)
        found.append((f"{new.name} for {old.name}", lambda one: swap_garment(one, out, new)))
    elif form.get("swap") and out:
        found.append((f"without {_of(own, out).name}", lambda one: remove_piece(one, out)))
    elif form.get("swap") and into:
        new = _of(shelf, into)
        found.append((f"with {new.name}", lambda one: add_piece(one, new)))
    if form.get("add_piece"):
        helpful = [_of(shelf, each) for each in form["add_piece"].split()[:MOST_AT_ONCE]]
        names = " and ".join(each.name for each in helpful)
        found.append((f"with {names}", lambda one: reduce(add_piece, helpful, one)))
    return found


def _bed_changes(member: Person, form: dict[str, str]) -> list[tuple[str, PersonChange]]:
    """Another bag, or other pads."""
    catalogue = load_catalogue()
    found: list[tuple[str, PersonChange]] = []
    wanted_bag = form.get("bag")
    if wanted_bag is not None and wanted_bag != (member.bag.id if member.bag else ""):
        bag = _of(catalogue.bags, wanted_bag) if wanted_bag else None
        found.append((bag.name if bag else "no bag", lambda one: one.altered(bag=bag)))
    wanted = [form[name] for name in ("pad_1", "pad_2") if form.get(name)]
    own = {pad.id: pad for pad in member.pads}
    if "pad_1" in form and wanted != list(own)[:2]:
        shelf = catalogue.pads | own
        pads = [*(_of(shelf, each) for each in wanted), *member.pads[2:]]
        names = " and ".join(pad.name for pad in pads) or "no pad"
        found.append((names, lambda one: set_pads(one, pads)))
    return found


def _shelter_change(
    course: Course, member: Person, form: dict[str, str]
) -> list[tuple[str, Change]]:
    """Another shelter: one of the course, a new one of the catalogue, or none."""
    wanted = form.get("shelter")
    if wanted is None or wanted == (member.shelter or ""):
        return []
    who = member.name.split()[0]
    own = {each.id: each for each in course.shelters}
    if not wanted:
        return [(f"{who} in no shelter", partial(pitch, person=member.id, shelter=None))]
    if wanted in own:
        name = f"{who} in {own[wanted].name}"
        return [(name, partial(pitch, person=member.id, shelter=wanted))]
    fresh = _of(load_catalogue().shelters, wanted.removeprefix("+"), "shelter")
    return [(f"{who} in {fresh.name}", partial(pitch, person=member.id, shelter=fresh))]
