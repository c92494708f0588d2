"""Shelters: who sleeps in which, whether each stands each night, and what settles inside."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial
from typing import get_args

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.night.camp import shelter_nights
from caldarium.core.plan.changes import carry_part, drop_part, pitch, with_day
from caldarium.core.plan.course import Course, SleepRule
from caldarium.core.plan.kit import Shelter
from caldarium.core.plan.route import Cooking, Windbreak
from caldarium.core.plan.value import NotThereError
from caldarium.core.stock.inventory import as_kit
from caldarium.core.stock.issue import kit_id
from caldarium.drawings.camp import camp_plan
from caldarium.drawings.shelter import shelter_plan
from caldarium.web.editing import Editing, editing
from caldarium.web.forms import (
    Entry,
    Field,
    Reading,
    Texts,
    as_entries,
    read_form,
    shown_text,
    whole,
)
from caldarium.web.night.shelter_facts import (
    ANCHORS,
    CHOICES,
    KINDS,
    NEW,
    TICKS,
    add_a_part,
    draft,
    enter,
    entries_of,
    fresh_entries,
    take_facts,
)
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.store import pieces_of
from caldarium.web.urls import course_url
from caldarium.words.course import course_sentence
from caldarium.words.faults import fault_text
from caldarium.words.night import (
    damp_sentence,
    note_sentence,
    open_sentence,
    shelter_sentence,
    snow_sentence,
    windbreak_sentence,
)
from caldarium.words.steps_night import explain_open, explain_shelter
from caldarium.words.units import Display

router = APIRouter()
MOST_OFFERED = 300
"""Shelters of the store that are offered at once."""
CAMP_TICKS = {
    "insects": "biting insects are about",
    "water": "water can be filled here",
    "bivouac": "a night without shelter is planned here",
}
"""What is so at a camp, by field."""
CAMP_CHOICES = {
    "windbreak": ("Between tents and wind", get_args(Windbreak)),
    "cooking": ("Stoves stand", get_args(Cooking)),
}
"""What is chosen at a camp, by field."""
CAMP_FIGURES = (
    Field("hollow_k", "A hollow, colder by", "warmth"),
    Field("slope_deg", "Slope lain on, degrees", "number"),
)
"""What is typed of a camp."""


@router.get("/courses/{number}/shelter")
def show(request: Request, number: int, night: str = "") -> HTMLResponse:
    """Every shelter of the course on one night."""
    return _camp_page(request, number, whole(night))


@dataclass(frozen=True)
class Refused:
    """What was typed and not taken: on one card with its entries, or for the camp."""

    message: str = ""
    entries: Mapping[str, Entry] = field(default_factory=dict)
    form: Mapping[str, str] = field(default_factory=dict)


def _camp_page(
    request: Request,
    number: int,
    night: int | None,
    refused: Refused | None = None,
) -> HTMLResponse:
    """The camp, with the card of one shelter as it was typed where that was refused."""
    refused = refused or Refused()
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    judged = (*result.shelters, *result.open_nights)
    days = sorted({each.day for each in judged})
    unfit = sorted(each.day for each in judged if not each.fit)
    day = night if night in days else (unfit or days or [0])[0]
    shelters = {each.id: each for each in course.shelters}
    tents = [
        {
            "shelter": shelters[each.shelter],
            "night": each,
            "sleepers": [p for p in course.on_night(day).people if p.shelter == each.shelter],
            "words": shelter_sentence(course, each, display),
            "damp": damp_sentence(each, display),
            "snow": snow_sentence(each, display),
            "notes": [note_sentence(found, display) for found in each.notes],
            "windbreak": windbreak_sentence(course, each, display),
            "steps": explain_shelter(each, display),
            "facts": refused.entries
            if refused.form.get("facts") == each.shelter
            else entries_of(course, shelters[each.shelter], display),
        }
        for each in result.shelters
        if each.day == day
    ]
    for tent in tents:
        tent["drawing"] = shelter_plan(tent["shelter"], tent["night"], tent["sleepers"], display)
    camp = course.days[day].camp
    beds = {
        each.person: night for each in result.people for night in each.nights if night.day == day
    }
    outside = [person for person in course.on_night(day).people if person.shelter is None]
    whole = [(tent["shelter"], tent["night"], tent["sleepers"]) for tent in tents]
    return page(
        request,
        "night/shelter.html",
        held=held,
        course=course,
        days=days,
        day=day,
        tents=tents,
        catalogue=load_catalogue(),
        summary=course_sentence(course, result),
        bare=[
            (each, open_sentence(course, each, display), explain_open(each, display))
            for each in result.open_nights
            if each.day == day
        ],
        stored=_stored(request, course),
        part_refused=refused.form.get("part.add", ""),
        part_entries=refused.entries if refused.form.get("part.add") else {},
        where={person.id: person.on_night(day).shelter for person in course.people},
        planned={person.id for person in course.people if person.nights},
        camp_figures=_camp_entries(course, day, refused, display),
        fresh=refused.entries if refused.form.get("facts") == NEW else fresh_entries(display),
        unfit_days=set(unfit),
        camp_ticks=CAMP_TICKS,
        camp_choices=CAMP_CHOICES,
        anchors=ANCHORS,
        kinds=KINDS,
        fact_choices=CHOICES,
        fact_ticks=TICKS,
        refused=refused.form.get("facts", ""),
        typed_form=refused.form,
        message=refused.message,
        camp_drawing=camp_plan(camp, whole, outside, beds, display) if camp else None,
        names={person.id: person.name for person in course.people},
    )


@router.post("/courses/{number}/shelter")
def assign(request: Request, number: int, form: Texts) -> Response:
    """Move whoever was given another shelter, in one step each."""
    edit, display = editing(request, number, form), display_of(request)
    night = whole(form.get("night"), most=len(edit.course.days) - 1)
    refused = _take(edit, night, form, display, _stored(request, edit.course))
    if refused:
        return _camp_page(request, number, night, refused)
    return _back(number, night)


def _take(
    edit: Editing,
    night: int | None,
    form: Mapping[str, str],
    display: Display,
    stored: Mapping[str, Shelter],
) -> Refused | None:
    """Take what one of the page's forms says; what of it is refused, where anything is."""
    entries: Mapping[str, Entry] = {}
    message = ""
    if form.get("facts") == NEW:
        entries, message = enter(edit, form, night, display)
    elif form.get("facts"):
        entries, message = take_facts(edit, form, display)
    elif form.get("part.add"):
        entries = add_a_part(edit, form, display)
    else:
        shown: dict[str, str] = {}
        if form.get("camp") and night is not None:
            shown = {e.field.name: e.text for e in _camp_entries(edit.course, night, None, display)}
        reading = read_form(CAMP_FIGURES, shown, form if shown else {}, display)
        entries = as_entries(CAMP_FIGURES, shown, form, reading)
        if not entries:
            try:
                _camp_words(edit, night, form, reading)
                _assign(edit, night, form, stored)
            except ValidationError as fault:
                return Refused(fault_text(fault, display))
    return Refused(message, entries, form) if entries or message else None


def _stored(request: Request, course: Course) -> dict[str, Shelter]:
    """Shelters of the store that can go on this course, by tag."""
    found = pieces_of(request).find(kind="shelter", most=MOST_OFFERED).pieces
    catalogue, here = load_catalogue().everything, {each.id for each in course.shelters}
    shelf: dict[str, Shelter] = {}
    for piece in found:
        kit = as_kit(piece, catalogue, kit_id(piece))
        if isinstance(kit, Shelter) and piece.condition != "unfit" and kit.id not in here:
            shelf[piece.tag] = kit
    return shelf


def _assign(
    edit: Editing, night: int | None, form: Mapping[str, str], stored: Mapping[str, Shelter]
) -> None:
    day = night if form.get("from_night") == "on" else None
    catalogue = load_catalogue().shelters
    known = {each.id: each.name for each in edit.course.shelters}
    for person in edit.course.people:
        wanted = form.get(f"in.{person.id}")
        shown = person.on_night(night or 0).shelter or ""
        if wanted is None or wanted == shown:
            continue
        fresh = catalogue.get(wanted.removeprefix("+")) or stored.get(wanted.removeprefix("="))
        if wanted and wanted not in known and fresh is None:
            raise NotThereError("shelter", wanted)
        target = wanted if wanted in known else fresh
        name = known.get(wanted) or (fresh.name if fresh else "no shelter")
        words = f"{person.name.split()[0]} in {name}"
        words += f" from night {day + 1}" if day else ""
        edit.keep(words, partial(pitch, person=person.id, shelter=target or None, day=day))


def _camp_words(
    edit: Editing, night: int | None, form: Mapping[str, str], reading: Reading
) -> None:
    """Parts carried by hand, who is to sleep with whom, and what is so at this camp."""
    course = edit.course
    people = {person.id: person.name.split()[0] for person in course.people}
    for tent in course.shelters:
        for part in tent.parts:
            wanted = form.get(f"part.{tent.id}.{part.id}")
            if wanted is None or wanted == (part.carried_by or ""):
                continue
            who = course.person(wanted).name.split()[0] if wanted else "split evenly"
            edit.keep(
                f"{part.name} of {tent.name}: {who}",
                partial(carry_part, shelter=tent.id, part=part.id, carrier=wanted or None),
            )
    if form.get("camp") and night is not None:
        said: dict[str, object] = {name: form.get(name) == "on" for name in CAMP_TICKS}
        said |= {
            name: form[name] for name, (_, known) in CAMP_CHOICES.items() if form.get(name) in known
        }
        said |= reading.values
        edit.keep(f"camp of night {night + 1}", partial(_with_camp, day=night, said=said))
    tent, _, part = form.get("part.drop", "").partition("/")
    if part:
        words = f"{course.shelter(tent).name} in fewer parts"
        edit.keep(words, partial(drop_part, shelter=tent, part=part))
    first, second, kind = (form.get(f"rule.{name}", "") for name in ("a", "b", "kind"))
    if form.get("rule.add") and first in people and second in people and first != second:
        rule = SleepRule(kind="apart" if kind == "apart" else "together", people=(first, second))
        words = f"{people[first]} and {people[second]} {rule.kind}"
        edit.keep(words, partial(_with_rule, rule=rule))
    drop = whole(form.get("rule.drop"))
    if drop is not None:
        edit.keep("a wish taken back", partial(_without_rule, place=drop))


def _camp_entries(
    course: Course, day: int, refused: Refused | None, display: Display
) -> list[Entry]:
    """What is typed of a camp, or was and is wrong."""
    camp = course.days[day].camp
    if camp is None:
        return []
    if refused and refused.form.get("camp"):
        return [refused.entries[each.name] for each in CAMP_FIGURES if each.name in refused.entries]
    return [
        Entry(each, shown_text(getattr(camp, each.name), each, None, display))
        for each in CAMP_FIGURES
    ]


@router.get("/courses/{number}/shelter/draw")
def draw(request: Request, number: int, night: str = "") -> HTMLResponse:
    """A shelter's verdict and plan as its card stands while somebody types."""
    course, display = courses_of(request).get(number).course, display_of(request)
    drawn = draft(course, dict(request.query_params), display)
    if drawn is None:
        return HTMLResponse(status_code=204)
    after, shelter = drawn
    day = whole(night, most=len(course.days) - 1) or 0
    timeline = assessed(request, number, course).timeline
    nights = shelter_nights(after, timeline)
    here = next((n for n in nights if (n.shelter, n.day) == (shelter.id, day)), None)
    if here is None:
        return HTMLResponse(status_code=204)
    sleepers = [p for p in after.on_night(day).people if p.shelter == shelter.id]
    return page(
        request,
        "night/shelter_draft.html",
        course=after,
        tent={
            "shelter": shelter,
            "night": here,
            "words": shelter_sentence(after, here, display),
            "drawing": shelter_plan(shelter, here, sleepers, display),
        },
    )


def _with_rule(course: Course, rule: SleepRule) -> Course:
    others = (each for each in course.sleep_rules if set(each.people) != set(rule.people))
    return course.altered(sleep_rules=(*others, rule))


def _without_rule(course: Course, place: int) -> Course:
    kept = (each for at, each in enumerate(course.sleep_rules) if at != place)
    return course.altered(sleep_rules=tuple(kept))


def _with_camp(course: Course, day: int, said: dict[str, object]) -> Course:
    here = course.days[day]
    if here.camp is None:
        return course
    return with_day(course, day, here.altered(camp=here.camp.altered(**said)))


def _back(number: int, night: int | None) -> Response:
    return RedirectResponse(course_url(number, "shelter", night=night), status_code=303)
