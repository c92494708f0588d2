"""What the forms on packs can change: where pieces go, what they are like, what the pack is."""

from collections.abc import Callable, Mapping

from pydantic import ValidationError

from caldarium.core.plan.changes import with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.rucksack import (
    MARKS,
    PACKED,
    STRAPS,
    ZONES,
    Mark,
    Packed,
    Placed,
    Rucksack,
    Straps,
    Zone,
)
from caldarium.web.editing import Editing
from caldarium.web.forms import Field, faults_at, read_form, shown_text
from caldarium.words.units import Display

PACK = (
    Field("main_l", "Main compartment", "volume", may_be_empty=True),
    Field("lid_l", "Lid", "volume", may_be_empty=True),
    Field("front_l", "Front pocket", "volume", may_be_empty=True),
    Field("side_l", "Each side pocket", "volume", may_be_empty=True),
    Field("hip_l", "Hip pockets together", "volume", may_be_empty=True),
    Field("shoulder_l", "Pocket on the strap", "volume", may_be_empty=True),
    Field("chest_l", "Chest pouch", "volume", may_be_empty=True),
    Field("waist_l", "Waist bag", "volume", may_be_empty=True),
    Field("lashed_l", "Can be lashed outside", "volume", may_be_empty=True),
    Field("back_cm", "Back, length", "depth", may_be_empty=True),
    Field("rated_kg", "Made for a load of", "body", may_be_empty=True),
)
SIDES = Field("sides_g", "Left and right differ by at most", "mass")
HEAVY = {
    "by the way": "high on paths, low on rough ground and snow",
    "high": "always high",
    "low": "always low",
}
"""How high heavy things ride, by the school."""
FRAMES = {"": "not said", "frame": "with a frame", "no frame": "without a frame"}
PackChange = Callable[[Rucksack], Rucksack]


def _key(person: str, name: str) -> str:
    return f"people.{person}.rucksack.{name}"


def pack_texts(course: Course, person: Person, display: Display) -> dict[str, str]:
    """What stands in the fields of a pack: as it was typed, while it still says the same."""
    texts = {
        each.name: shown_text(
            getattr(person.rucksack, each.name),
            each,
            course.as_typed.get(_key(person.id, each.name)),
            display,
        )
        for each in PACK
    }
    typed = course.as_typed.get(SIDES.name)
    return texts | {SIDES.name: shown_text(course.sides_g, SIDES, typed, display)}


def take_figures(
    edit: Editing, who: str, form: Mapping[str, str], display: Display
) -> dict[str, str]:
    """Take figures of a pack and the party's school of packing, in one step.

    Returns:
        Messages by field for what was not taken.
    """
    person = edit.course.person(who)
    shown = pack_texts(edit.course, person, display)
    fields = {each.name: each for each in (*PACK, SIDES)}
    found = read_form(fields.values(), shown, form, display)
    if found.errors:
        return dict(found.errors)
    heavy = form.get("heavy_things", edit.course.heavy_things)
    if heavy not in HEAVY:
        return {}

    def alter(course: Course) -> Course:
        own: dict[str, object] = {
            name: value for name, value in found.values.items() if name != SIDES.name
        }
        if form.get("frame") in FRAMES:
            own["frame"] = form["frame"] or None
        if "straps" in form:
            own["straps"] = straps_in(form)
        typed = {
            name if name == SIDES.name else _key(who, name): text
            for name, text in found.texts.items()
        }
        party: dict[str, object] = {"heavy_things": heavy, "as_typed": course.as_typed | typed}
        if SIDES.name in found.values:
            party[SIDES.name] = found.values[SIDES.name]
        return with_pack(course, who, lambda pack: pack.altered(**own)).altered(**party)

    try:
        edit.keep(f"{person.name.split()[0]}'s pack", alter)
    except ValidationError as fault:
        return faults_at(fault, display, {name: name for name in fields}, SIDES.name)
    return {}


def straps_in(form: Mapping[str, str]) -> tuple[Straps, ...] | None:
    """Where a form that shows them says that a pack has straps; None for everywhere."""
    ticked: tuple[Straps, ...] = tuple(each for each in STRAPS if f"strap.{each}" in form)
    return None if ticked == STRAPS else ticked


def with_pack(course: Course, who: str, alter: PackChange) -> Course:
    """The course with somebody's pack changed."""
    person = course.person(who)
    return with_person(course, person.altered(rucksack=alter(person.rucksack)))


def change_of(form: Mapping[str, str], shown: Mapping[str, Zone]) -> PackChange | None:
    """What a form asks of a pack, None for nothing.

    Args:
        form: what was sent; `act` says what.
        shown: where each piece was in the pack that it showed.
    """
    act, _, value = form.get("act", "").partition("=")
    if act == "free":
        return lambda pack: _freed(pack, value)
    if act == "liner":
        return lambda pack: pack.altered(liner=value == "on")
    if act == "marks":
        said: tuple[Mark, ...] = tuple(each for each in MARKS if f"mark.{each}" in form)
        ways: dict[str, Packed] = {each: each for each in PACKED}
        packed = ways.get(form.get("packed", ""))
        return lambda pack: _marked(pack, value, said, packed)
    if act == "unmark":
        return lambda pack: _marked(pack, value, None, None)
    moved: dict[str, Zone] = {
        name: zone
        for name, at in shown.items()
        for zone in ZONES
        if form.get(f"zone.{name}", at) == zone != at
    }
    return (lambda pack: _placed(pack, moved)) if act == "place" and moved else None


def _freed(pack: Rucksack, piece: str) -> Rucksack:
    """The pack with one piece, or all where none is named, for the plan to place."""
    for each in pack.placed:
        if piece in ("", each.piece):
            pack = pack.with_said(each.altered(zone=None))
    return pack


def _marked(
    pack: Rucksack, piece: str, marks: tuple[Mark, ...] | None, packed: Packed | None
) -> Rucksack:
    said = pack.said_of(piece) or Placed(piece=piece)
    return pack.with_said(said.altered(marks=marks, packed=packed))


def _placed(pack: Rucksack, moved: Mapping[str, Zone]) -> Rucksack:
    for piece, zone in moved.items():
        said = pack.said_of(piece) or Placed(piece=piece)
        pack = pack.with_said(said.altered(zone=zone))
    return pack
