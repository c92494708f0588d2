"""Shelters: who sleeps in which, whether each stands each night, and what settles inside."""

from collections.abc import Mapping
from functools import partial
from typing import Annotated, get_args

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import carry_part, pitch, with_day
from caldarium.core.plan.course import Course, SleepRule
from caldarium.core.plan.route import Cooking, Windbreak
from caldarium.drawings.camp import camp_plan
from caldarium.drawings.shelter import shelter_plan
from caldarium.store.courses import Courses
from caldarium.web.fields import Entry
from caldarium.web.night.shelter_facts import (
    ANCHORS,
    CHOICES,
    OWN_POLES,
    TICKS,
    entries_of,
    take_facts,
)
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.words.course import course_sentence
from caldarium.words.night import (
    damp_sentence,
    note_sentence,
    shelter_sentence,
    snow_sentence,
    windbreak_sentence,
)
from caldarium.words.steps_night import explain_shelter

router = APIRouter()
CAMP_TICKS = {
    "insects": "biting insects are about",
    "water": "water can be filled here",
}
"""What is so at a camp, by field."""
CAMP_CHOICES = {
    "windbreak": ("Between tents and wind", get_args(Windbreak)),
    "cooking": ("Stoves stand", get_args(Cooking)),
}
"""What is chosen at a camp, by field."""


@router.get("/courses/{number}/shelter")
def show(request: Request, number: int, night: Annotated[int, Query()] = -1) -> HTMLResponse:
    """Every shelter of the course on one night."""
    return _camp_page(request, number, night)


def _camp_page(
    request: Request,
    number: int,
    night: int,
    entries: Mapping[str, Entry] | None = None,
    refused: Mapping[str, str] | None = None,
) -> HTMLResponse:
    """The camp, with the card of one shelter as it was typed where that was refused."""
    refused = refused or {}
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    days = sorted({each.day for each in result.shelters})
    unfit = [each.day for each in result.shelters if not each.fit]
    day = night if night in days else (unfit or days or [0])[0]
    shelters = {each.id: each for each in course.shelters}
    tents = [
        {
            "shelter": shelters[each.shelter],
            "night": each,
            "sleepers": [p for p in course.people if p.shelter == each.shelter],
            "words": shelter_sentence(course, each, display),
            "damp": damp_sentence(each, display),
            "snow": snow_sentence(each, display),
            "notes": [note_sentence(found, display) for found in each.notes],
            "windbreak": windbreak_sentence(course, each, display),
            "steps": explain_shelter(each, display),
            "facts": entries
            if refused.get("facts") == each.shelter
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
    outside = [person for person in course.people if person.shelter is None]
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
        outside=outside,
        unfit_days=set(unfit),
        camp_ticks=CAMP_TICKS,
        camp_choices=CAMP_CHOICES,
        anchors=ANCHORS,
        own_poles=OWN_POLES,
        fact_choices=CHOICES,
        fact_ticks=TICKS,
        refused=refused.get("facts", ""),
        typed=refused,
        camp_drawing=camp_plan(camp, whole, outside, beds, display) if camp else None,
        names={person.id: person.name for person in course.people},
    )


@router.post("/courses/{number}/shelter")
async def assign(request: Request, number: int) -> Response:
    """Move whoever was given another shelter, in one step each."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    courses = courses_of(request)
    catalogue = load_catalogue().shelters
    if form.get("facts"):
        entries = take_facts(courses, number, form, display_of(request))
        if entries:
            night = form.get("night", "")
            day = int(night) if night.isdigit() else -1
            return _camp_page(request, number, day, entries, form)
        return _back(number, form.get("night", ""))
    _camp_words(courses, number, form)
    for person in courses.get(number).course.people:
        wanted = form.get(f"in.{person.id}")
        course = courses.get(number).course
        if wanted is None or wanted == (person.shelter or ""):
            continue
        known = {each.id for each in course.shelters}
        target = wanted if wanted in known else catalogue.get(wanted.removeprefix("+"))
        if wanted and target is None:
            continue
        words = f"{person.name.split()[0]} in {wanted.removeprefix('+') or 'no shelter'}"
        courses.change(number, words, partial(pitch, person=person.id, shelter=target or None))
    return _back(number, form.get("night", ""))


def _camp_words(courses: Courses, number: int, form: dict[str, str]) -> None:
    """Parts carried by hand, who is to sleep with whom, and what is so at this camp."""
    course = courses.get(number).course
    people = {person.id: person.name.split()[0] for person in course.people}
    for tent in course.shelters:
        for part in tent.parts:
            wanted = form.get(f"part.{tent.id}.{part.id}")
            if wanted is None or wanted == (part.carried_by or "") or wanted not in ("", *people):
                continue
            words = f"{part.name} of {tent.id}: {people.get(wanted, 'split evenly')}"
            courses.change(
                number,
                words,
                partial(carry_part, shelter=tent.id, part=part.id, carrier=wanted or None),
            )
    night = form.get("night", "")
    if form.get("camp") and night.isdigit() and int(night) < len(course.days):
        said: dict[str, object] = {name: form.get(name) == "on" for name in CAMP_TICKS}
        said |= {
            name: form[name] for name, (_, known) in CAMP_CHOICES.items() if form.get(name) in known
        }
        words = f"camp of night {int(night) + 1}"
        courses.change(number, words, partial(_with_camp, day=int(night), said=said))
    first, second, kind = (form.get(f"rule.{name}", "") for name in ("a", "b", "kind"))
    if form.get("rule.add") and first in people and second in people and first != second:
        rule = SleepRule(kind="apart" if kind == "apart" else "together", people=(first, second))
        words = f"{people[first]} and {people[second]} {rule.kind}"
        courses.change(number, words, partial(_with_rule, rule=rule))
    drop = form.get("rule.drop", "")
    if drop.isdigit():
        courses.change(number, "a wish taken back", partial(_without_rule, place=int(drop)))


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


@router.post("/courses/{number}/shelter/undo")
def undo(request: Request, number: int, night: Annotated[str, Form()] = "") -> Response:
    """One step back."""
    courses_of(request).undo(number)
    return _back(number, night)


def _back(number: int, night: str) -> Response:
    shown = night if night.isdigit() else "-1"
    return RedirectResponse(f"/courses/{number}/shelter?night={shown}", status_code=303)
