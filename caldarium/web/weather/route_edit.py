"""What the form of ways and weather can change, and how each change is named for undo."""

from dataclasses import dataclass, field, replace
from functools import partial
from typing import get_args

from pydantic import ValidationError

from caldarium.core.physics.allowances import Allowance
from caldarium.core.physics.effort import TERRAIN
from caldarium.core.plan.changes import add_leg, find_leg, remove_leg, set_leg, start_leg, with_day
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Anchor
from caldarium.core.plan.legs import Stage, climb_and_fall, stages, walking_hours
from caldarium.core.plan.route import STILL, Leg, LegKind
from caldarium.web.editing import Change, Editing
from caldarium.web.forms import Entry, Field, read_form, whole, written
from caldarium.web.weather.day_fields import edit_days, with_pasted
from caldarium.words.faults import fault_text
from caldarium.words.typed import parse_quantity
from caldarium.words.units import Display, clock_text
from caldarium.words.weather import leg_sentence

KINDS: tuple[str, ...] = get_args(LegKind)
ANCHORS: tuple[str, ...] = get_args(Anchor)
ALLOWANCES: dict[Allowance, str] = {
    "altitude": "altitude",
    "fatigue": "tired people",
    "low food": "hungry people",
}
SCHOOLS = {
    "clothes_in_bed": "clothes are part of the bed",
    "hold_in_bag": "the bag goes round in a hold",
    "hold_in_shelter": "a hold is sat out in a group shelter",
    "liner_claims": "liners as their makers claim",
    "wear_counts": "bags lose warmth by use",
}
TERRAINS = (*TERRAIN, "snow")
LEG_FIELDS = {
    "start_h": Field("start_h", "Starts", "clock", "follows"),
    "distance_km": Field("distance_km", "Distance", "distance"),
    "to_altitude_m": Field("to_altitude_m", "Ends at", "altitude"),
    "climb_m": Field("climb_m", "Up", "altitude", "from the ends"),
    "fall_m": Field("fall_m", "Down", "altitude", "from the ends"),
    "hours": Field("hours", "Time", "hours", "Naismith"),
    "pace_kmh": Field("pace_kmh", "Level pace", "pace"),
    "sinkage_cm": Field("sinkage_cm", "Sinking in", "depth"),
    "halt_every_h": Field("halt_every_h", "Halt every", "hours"),
    "halt_min": Field("halt_min", "Halt for", "minutes"),
    "hot_drink_l": Field("hot_drink_l", "Drunk hot", "volume"),
    "eaten_kcal": Field("eaten_kcal", "Eaten, kcal", "number"),
}
TITLE = Field("title", "Name", "text")
OPTIONAL = ("start_h", "climb_m", "fall_m", "hours")
STILL_FIELDS: dict[str, tuple[str, ...]] = {
    "rest": ("start_h", "hours", "hot_drink_l", "eaten_kcal"),
    "camp": ("start_h", "hours"),
}
"""Of a leg without a way, by its kind."""
CAUTION_FIELDS = {
    "halt_factor": Field("halt_factor", "A halt holds, times its length", "number"),
    "halt_least_h": Field("halt_least_h", "and at least, h", "number"),
    "jacket_after_min": Field("jacket_after_min", "Jacket on at a halt after, min", "number"),
    "camp_sit_h": Field("camp_sit_h", "Sat still at camp, h", "number"),
    "kept_share": Field("kept_share", "Kept up, share of capacity", "number"),
    "hold_h": Field("hold_h", "Hold to survive, h", "number"),
    "hold_wind_share": Field("hold_wind_share", "Wind left in a lee, share", "number"),
    "cautious_sd": Field("cautious_sd", "Cautious, standard deviations", "number"),
    "expedition_sd": Field("expedition_sd", "Expedition, standard deviations", "number"),
}
STEP_HOURS = 0.25


@dataclass(frozen=True)
class LegRow:
    """A leg as the form shows it: its name, its entries by field, its time in words, and what is
    computed for it."""

    leg: Leg
    stage: Stage
    title: Entry
    words: str
    entries: dict[str, Entry]
    computed: dict[str, str]


@dataclass(frozen=True)
class RouteFaults:
    """Texts that were not taken, with their messages, and a message for the page."""

    entries: dict[str, Entry] = field(default_factory=dict)
    message: str = ""


def leg_rows(course: Course, day: int, display: Display, faults: RouteFaults) -> list[LegRow]:
    """A day's legs for the form."""
    rows: list[LegRow] = []
    for stage in stages(course.days[day], course.starts[day]):
        entries = {entry.field.name: entry for entry in _entries(stage.leg, display)}
        shown = {
            name: faults.entries.get(_name(stage.leg, name), entry)
            for name, entry in entries.items()
        }
        title = faults.entries.get(_name(stage.leg, "title"), Entry(TITLE, stage.leg.title))
        words = leg_sentence(stage, display)
        rows.append(LegRow(stage.leg, stage, title, words, shown, _computed(stage, display)))
    return rows


def _entries(leg: Leg, display: Display) -> list[Entry]:
    found: list[Entry] = []
    for name, each in LEG_FIELDS.items():
        if name not in STILL_FIELDS.get(leg.kind, LEG_FIELDS):
            continue
        value = getattr(leg, name)
        found.append(Entry(each, "" if value is None else written(value, each.kind, display)))
    return found


def _computed(stage: Stage, display: Display) -> dict[str, str]:
    """What stands behind an empty field."""
    found = {"start_h": clock_text(stage.start)}
    if stage.walk is not None:
        climb, fall = climb_and_fall(stage.leg, stage.from_altitude)
        hours = walking_hours(stage.leg.altered(hours=None), stage.from_altitude)
        found |= {
            "climb_m": written(round(climb), "altitude", display),
            "fall_m": written(round(fall), "altitude", display),
            "hours": written(hours, "hours", display),
        }
    return found


def _name(leg: Leg, field_name: str) -> str:
    return f"leg.{leg.id}.{field_name}"


def apply_route_edit(edit: Editing, form: dict[str, str], display: Display) -> RouteFaults:
    """Take every change in the form that is valid.

    Returns:
        Entries that were not taken, by field name, and a message for the page.
    """
    course = edit.course
    day = whole(form.get("day", "0"), most=len(course.days) - 1)
    if day is None:
        return RouteFaults(message="Not kept: that day is not in the course.")
    message = ""
    if form.get("act") == "paste":
        form, message = with_pasted(course, form)
    rejected = edit_days(edit, form, display)
    for leg in course.days[day].legs:
        rejected |= _edit_leg(edit, day, leg, form, display)
    rejected |= _edit_cautions(edit, form, display)
    for name, change in _changes(course, day, form):
        try:
            edit.keep(name, change)
        except ValueError as fault:
            message = f"Not kept: {fault_text(fault, display)}."
    return RouteFaults(rejected, message)


def _edit_leg(
    edit: Editing, day: int, leg: Leg, form: dict[str, str], display: Display
) -> dict[str, Entry]:
    own = {
        name.rpartition(".")[2]: text
        for name, text in form.items()
        if name.startswith(f"leg.{leg.id}.")
    }
    entries = {entry.field.name: entry for entry in _entries(leg, display)}
    fields = [replace(each.field, may_be_empty=name in OPTIONAL) for name, each in entries.items()]
    shown = {name: each.text for name, each in entries.items()}
    reading = read_form(fields, shown, own, display)
    rejected = {
        _name(leg, name): Entry(entries[name].field, own[name], message)
        for name, message in reading.errors.items()
    }
    parts: dict[str, object] = dict(reading.values)
    rejected |= _edit_choices(edit, day, leg, own, display)
    if not parts:
        return rejected
    told = ", ".join(LEG_FIELDS[name].label.lower() for name in parts)
    try:
        edit.keep(
            f"{leg.title or leg.kind}: {told}",
            partial(_set_leg, day=day, leg=leg.id, parts=parts),
        )
    except ValidationError as fault:
        bad = {str(part) for error in fault.errors() for part in error["loc"]} & parts.keys()
        for name in bad or set(parts):
            entry = Entry(LEG_FIELDS[name], own.get(name, ""), fault_text(fault, display))
            rejected[_name(leg, name)] = entry
    return rejected


def _edit_choices(
    edit: Editing, day: int, leg: Leg, own: dict[str, str], display: Display
) -> dict[str, Entry]:
    """Take the name, selects and ticks of a leg; a name that is refused stays where it stands."""
    parts = _choices(leg, own)
    if not parts:
        return {}
    try:
        edit.keep(
            f"{leg.title or leg.kind}: {', '.join(parts)}",
            partial(_set_leg, day=day, leg=leg.id, parts=parts),
        )
    except ValidationError as fault:
        return {_name(leg, "title"): Entry(TITLE, own.get("title", ""), fault_text(fault, display))}
    return {}


def _set_leg(course: Course, day: int, leg: str, parts: dict[str, object]) -> Course:
    return set_leg(course, day, leg, **parts)


def _choices(leg: Leg, own: dict[str, str]) -> dict[str, object]:
    """Selects, the title, and ticks; a tick that is not sent is off where its twin is."""
    found: dict[str, object] = {}
    for name in ("kind", "terrain", "exposure", "title"):
        if name in own and own[name].strip() != getattr(leg, name):
            found[name] = own[name].strip()
    for name in ("river", "glacier", "scrub", "water", "lightning"):
        if "ticks" in own and (name in own) != getattr(leg, name):
            found[name] = name in own
    if "kind" in found and (found["kind"] in STILL) != (leg.kind in STILL):
        still = found["kind"] in STILL
        found |= {
            "distance_km": 0 if still else 2,
            "hours": 0.5 if still else None,
            "climb_m": None,
            "fall_m": None,
            "points": (),
        }
    return found


def _edit_cautions(edit: Editing, form: dict[str, str], display: Display) -> dict[str, Entry]:
    shown = {name: f"{getattr(edit.course, name):g}" for name in CAUTION_FIELDS}
    reading = read_form(CAUTION_FIELDS.values(), shown, form, display)
    rejected = {
        name: Entry(CAUTION_FIELDS[name], form[name], message)
        for name, message in reading.errors.items()
    }
    for name, value in reading.values.items():
        words = f"{CAUTION_FIELDS[name].label.lower()}: {value:g}"
        try:
            edit.keep(words, partial(_set_caution, name=name, value=value))
        except ValidationError as fault:
            entry = Entry(CAUTION_FIELDS[name], form[name], fault_text(fault, display))
            rejected[name] = entry
    return rejected


def _set_caution(course: Course, name: str, value: float | None) -> Course:
    return course.altered(**{name: value})


def _changes(course: Course, day: int, form: dict[str, str]) -> list[tuple[str, Change]]:
    found: list[tuple[str, Change]] = []
    caution = form.get("caution", course.caution)
    if caution != course.caution:
        found.append((f"caution {caution}", lambda now: now.altered(caution=caution)))
    lapse = form.get("lapse", "")
    if lapse and lapse != f"{course.lapse_k_per_km:g}":
        found.append((f"lapse rate {lapse}", lambda now: now.altered(lapse_k_per_km=lapse)))
    if "allowances" in form:
        wanted = tuple(each for each in ALLOWANCES if f"allow.{each}" in form)
        if set(wanted) != set(course.allowances):
            words = f"allowances: {', '.join(wanted) or 'none'}"
            found.append((words, lambda now: now.altered(allowances=wanted)))
        for name, words in SCHOOLS.items():
            chosen = f"school.{name}" in form
            if chosen != getattr(course, name):
                told = words if chosen else f"{words}: no longer"
                found.append((told, partial(_set_school, name=name, chosen=chosen)))
    found += _camp_changes(course, day, form)
    found += _source_changes(course, form)
    action, _, target = form.get("act", "").partition("=")
    if action == "add":
        found.append(("one more leg", lambda now: add_leg(now, day)))
    elif action == "remove":
        found.append((f"without leg {target}", lambda now: remove_leg(now, day, target)))
    elif action in ("earlier", "later", "start"):
        leg, _, to = target.partition("@")
        move = partial(_move, day=day, leg=leg, how=action, to=to)
        found.append((f"{leg} starts {'elsewhere' if to else action}", move))
    return found


def _set_school(course: Course, name: str, chosen: bool) -> Course:
    return course.altered(**{name: chosen})


def _move(course: Course, day: int, leg: str, how: str, to: str) -> Course:
    """A leg dragged or stepped to another start; the first of a day may not begin before 0:00."""
    find_leg(course, day, leg)
    planned = {each.leg.id: each.start for each in stages(course.days[day], course.starts[day])}
    if how == "start":
        start = round(parse_quantity(to, "hours") * 12) / 12
    else:
        start = planned[leg] + (STEP_HOURS if how == "later" else -STEP_HOURS)
    return start_leg(course, day, leg, min(max(start, 0.0), 23.0))


def _camp_changes(course: Course, day: int, form: dict[str, str]) -> list[tuple[str, Change]]:
    camp = course.days[day].camp
    if camp is None or "camp_ground" not in form:
        return []
    anchors = tuple(each for each in ANCHORS if f"anchor.{each}" in form)
    wanted = {
        "ground": form["camp_ground"],
        "exposure": form.get("camp_exposure", camp.exposure),
        "anchors": anchors,
    }
    differing = {name: value for name, value in wanted.items() if value != getattr(camp, name)}
    if not differing:
        return []

    def change(now: Course) -> Course:
        here = now.days[day]
        if here.camp is None:
            return now
        return with_day(now, day, here.altered(camp=here.camp.altered(**differing)))

    return [(f"camp: {', '.join(differing)}", change)]


def _source_changes(course: Course, form: dict[str, str]) -> list[tuple[str, Change]]:
    found: list[tuple[str, Change]] = []
    if "sources" in form:
        for source in course.sources:
            used = f"used.{source.id}" in form
            if used != source.used:
                word = "used" if used else "set aside"
                found.append((f"{source.name} {word}", partial(_use, source=source.id, used=used)))
    action, _, target = form.get("act", "").partition("=")
    if action in ("first", "drop"):
        found.append((f"source {target} {action}", partial(_place, source=target, how=action)))
    return found


def _use(course: Course, source: str, used: bool) -> Course:
    return course.altered(
        sources=tuple(
            each.altered(used=used) if each.id == source else each for each in course.sources
        )
    )


def _place(course: Course, source: str, how: str) -> Course:
    chosen = [each for each in course.sources if each.id == source]
    if not chosen:
        raise KeyError(source)
    others = [each for each in course.sources if each.id != source]
    return course.altered(sources=tuple(chosen + others if how == "first" else others))
