"""Load: everybody's hours beside their budget, the group's kit shared, idle grams as a ledger."""

from functools import partial
from typing import Annotated, cast, get_args

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.assess import Assessment
from caldarium.core.changes import find_person, fresh_id, remove_piece, with_person
from caldarium.core.course import Cache, Course
from caldarium.core.explain import explain_load
from caldarium.core.group_kit import carried_by, units, wanted
from caldarium.core.idle import ledger, when_idle_matters
from caldarium.core.kit import GroupKit, Purpose
from caldarium.core.load_hours import dry_stretches
from caldarium.core.load_sentences import (
    dry_sentence,
    load_hours_sentence,
    matters_sentence,
    provisions_sentence,
    split_sentence,
)
from caldarium.core.provisions import day_needs
from caldarium.core.sentences import course_sentence
from caldarium.core.share import FAIRNESS, Fairness, Split, besides, fair_split, with_split
from caldarium.core.units import Display, parse_quantity
from caldarium.drawings.load_curve import load_curve, party_shelf
from caldarium.drawings.strip import moment_name
from caldarium.web.page import assessed, courses_of, display_of, page

router = APIRouter()
RULES = ("party", "head", "rope", "tent")
PLANNED = {
    "water_l": ("Water filled, L", 0.0, 15.0), "containers_l": ("Bottles hold, L", 0.0, 30.0),
    "food_g_a_day": ("Food a day, g", 0.0, 3000.0), "fuel_g_a_day": ("Fuel a day, g", 0.0, 1000.0),
    "budget_kg": ("Own budget, kg", 1.0, 60.0), "strength": ("Strength, 1 is usual", 0.3, 2.0),
}  # fmt: skip
"""Fields of a person's load: label, least and most."""


@router.get("/courses/{number}/load")
def show(
    request: Request, number: int, person: Annotated[str, Query()] = "",
    worn: Annotated[str, Query()] = "in", apart: Annotated[str, Query()] = "in",
) -> HTMLResponse:  # fmt: skip
    """One person's load by hour, everybody's side by side, shared kit and the ledger."""
    return _load_page(request, number, person, worn, apart)


def _load_page(
    request: Request, number: int, person: str, worn: str = "in", apart: str = "in",
    errors: dict[str, str] | None = None, form: dict[str, str] | None = None, message: str = "",
) -> HTMLResponse:  # fmt: skip
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    known = {each.id for each in course.people}
    heaviest = max(result.people, key=lambda each: max(each.load.by_day) / each.load.budget)
    who = person if person in known else heaviest.person
    member = find_person(course, who)
    found = next(each for each in result.people if each.person == who)
    school = {"worn": worn != "out", "apart": apart != "out"}
    address = f"/courses/{number}/load?worn={worn}&apart={apart}"
    loads = [(find_person(course, each.person), each.load) for each in result.people]
    lines = ledger(course, result, member, found, display, moment_name)
    names = {each.id: each.name for each in course.people}
    return page(
        request, "load.html", held=held, course=course, person=member, found=found,
        summary=course_sentence(course, result), message=message, address=address,
        curve=load_curve(course, member, found.load, display, **school),
        party=party_shelf(loads, who, display, address, **school), worn=worn, apart=apart,
        words=load_hours_sentence(found.load, display),
        dry=dry_sentence(course, dry_stretches(course, member, result.timeline)),
        steps=explain_load(found.load, display), lines=lines,
        provisions=provisions_sentence(course, day_needs(course, result, member, found), display),
        idle_grams=sum(each.grams for each in lines if each.verdict == "idle"),
        choice_grams=sum(each.grams for each in lines if each.verdict == "choice"),
        units=units(course), kits={kit.id: kit for kit in course.group}, names=names,
        wanted={kit.id: wanted(course, kit) for kit in course.group}, fairness=FAIRNESS,
        rules=RULES, purposes=get_args(Purpose), planned=PLANNED,
        values=_values(course, who, form or {}), errors=errors or {}, form=form or {},
        shares={"budget_share": course.budget_share, "limit_share": course.limit_share},
        split_words=_split_words(course, result),
    )  # fmt: skip


def _values(course: Course, who: str, form: dict[str, str]) -> dict[str, str]:
    """What stands in the fields of a person's load: as typed, else as it is."""
    person = find_person(course, who)
    shown = {name: getattr(person, name) for name in PLANNED}
    return {
        name: form.get(name, "" if value is None else f"{value:g}") for name, value in shown.items()
    }


def _split(course: Course, result: Assessment, fairness: str) -> Split:
    loads = [each.load for each in result.people]
    known = cast(Fairness, fairness if fairness in FAIRNESS else FAIRNESS[0])
    return fair_split(course, besides(course, loads), [load.budget for load in loads], known)


def _split_words(course: Course, result: Assessment) -> str:
    """What sharing by body mass would come to; nothing where there is no kit."""
    if not course.group:
        return ""
    return split_sentence(course, _split(course, result, FAIRNESS[0]), FAIRNESS[0])


@router.get("/courses/{number}/load/matters")
def matters(request: Request, number: int) -> HTMLResponse:
    """From which caution idle pieces would begin to matter: asked for, as it takes a while."""
    course, display = courses_of(request).get(number).course, display_of(request)
    result = assessed(request, number, course)
    names = {each.id: each.name for each in course.people}
    found = [
        (names[each.person], matters_sentence(each, display))
        for each in when_idle_matters(course, result)
    ]
    return page(request, "load_matters.html", found=found)


@router.post("/courses/{number}/load")
async def change(request: Request, number: int) -> Response:
    """Whatever of the load the form changes, one step each."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    courses, display = courses_of(request), display_of(request)
    course = courses.get(number).course
    who = form.get("person", "")
    errors: dict[str, str] = {}
    message = ""
    act, _, value = form.get("act", "").partition("=")
    try:
        if act == "split":
            result = assessed(request, number, course)
            split = _split(course, result, form.get("fairness", ""))
            courses.change(number, "the group's kit split", partial(_take_split, split=split))
            message = split_sentence(course, split, form.get("fairness", FAIRNESS[0]))
        elif act == "add-kit":
            errors = _add_kit(request, number, form, display)
        elif act == "add-cache":
            errors = _add_cache(request, number, form)
        elif act == "drop-cache" and value.isdigit():
            courses.change(number, "a cache taken back", partial(_drop_cache, place=int(value)))
        elif act == "drop-kit":
            courses.change(number, f"without {value}", lambda now: now.altered(
                group=tuple(each for each in now.group if each.id != value)))  # fmt: skip
        elif act == "without" and who:
            courses.change(number, f"without {value}", lambda now: with_person(
                now, remove_piece(find_person(now, who), value)))  # fmt: skip
        elif act == "plan" and who:
            errors = _plan(request, number, who, form)
        elif act == "shares":
            errors = _shares(request, number, form)
        else:
            _carriers(request, number, form)
    except (KeyError, ValidationError):
        message = "That is no longer there."
    if errors or message:
        return _load_page(request, number, who, form.get("worn", "in"), form.get("apart", "in"),
                          errors, form if errors else None, message)  # fmt: skip
    query = f"person={who}&worn={form.get('worn', 'in')}&apart={form.get('apart', 'in')}"
    return RedirectResponse(f"/courses/{number}/load?{query}", status_code=303)


def _take_split(course: Course, split: Split) -> Course:
    return with_split(course, split) if len(split.carriers) == len(units(course)) else course


def _carriers(request: Request, number: int, form: dict[str, str]) -> None:
    """Pieces of the group's kit given by hand."""
    course = courses_of(request).get(number).course
    names = {person.id: person.name.split()[0] for person in course.people}
    kits = {kit.id: kit.name for kit in course.group}
    for unit in units(course):
        wish = form.get(f"carry.{unit.kit}.{unit.place}")
        if wish is None or wish == (unit.carrier or "") or wish not in ("", *names):
            continue
        words = f"{kits[unit.kit]} {unit.place + 1}: {names.get(wish, 'nobody yet')}"
        courses_of(request).change(number, words, partial(
            carried_by, kit=unit.kit, place=unit.place, carrier=wish or None, by_hand=True)
        )  # fmt: skip


def _add_kit(
    request: Request, number: int, form: dict[str, str], display: Display
) -> dict[str, str]:
    name = form.get("kit_name", "").strip()
    errors: dict[str, str] = {} if name else {"kit_name": "is needed"}
    mass = 0.0
    counts = {"kit_number": 1, "kit_per": 1}
    try:
        typed = form.get("kit_mass", "").strip()
        bare = typed[-1:].isdigit() and display.customary
        mass = parse_quantity(f"{typed} oz" if bare else typed, "mass")
    except ValueError as fault:
        errors["kit_mass"] = str(fault)
    for field in counts:
        text = form.get(field, "1").strip() or "1"
        if text.isdigit() and 1 <= int(text) <= 40:
            counts[field] = int(text)
        else:
            errors[field] = "a whole number from 1 to 40"
    if errors:
        return errors
    course = courses_of(request).get(number).course
    kit_of = form.get("kit_of", "party")
    whom = form.get("kit_with", "")
    try:
        kit = GroupKit(
            id=fresh_id(name, [each.id for each in course.group]), name=name, mass_g=mass,
            purpose=cast(Purpose, form.get("kit_purpose", "group")), number=counts["kit_number"],
            per=counts["kit_per"], of=kit_of if kit_of in RULES else "party",  # type: ignore[arg-type]
            bundle=form.get("kit_bundle", "").strip(), with_whom=whom or None,
        )  # fmt: skip
    except ValidationError as fault:
        first = fault.errors()[0]
        field = {"mass_g": "kit_mass", "bundle": "kit_bundle"}.get(str(first["loc"][0]), "kit_name")
        return {field: str(first["msg"]).replace("Input should be", "must be")}
    courses_of(request).change(number, f"group kit: {name}", lambda now: now.altered(
        group=(*now.group, kit)))  # fmt: skip
    return {}


def _drop_cache(course: Course, place: int) -> Course:
    kept = (each for at, each in enumerate(course.caches) if at != place)
    return course.altered(caches=tuple(kept))


def _add_cache(request: Request, number: int, form: dict[str, str]) -> dict[str, str]:
    day, _, leg = form.get("cache_at", "").partition(".")
    values, errors = _numbers(form, {"cache_rations": ("", 0.1, 21.0)})
    rations = values.get("cache_rations")
    if rations is None:
        return errors or {"cache_rations": "is needed"}
    if not day.isdigit():
        return {"cache_at": "choose where it lies"}
    try:
        cache = Cache(day=int(day), leg=leg, rations=rations)
        words = f"{rations:g} days of food at {leg}"
        courses_of(request).change(
            number, words, lambda now: now.altered(caches=(*now.caches, cache))
        )
    except ValidationError:
        return {"cache_at": "there is no such leg"}
    return {}


def _numbers(form: dict[str, str], wanted_fields: dict[str, tuple[str, float, float]]
             ) -> tuple[dict[str, float | None], dict[str, str]]:  # fmt: skip
    """Plain numbers typed, None where emptied, and what is wrong."""
    values: dict[str, float | None] = {}
    errors: dict[str, str] = {}
    for name, (_, least, most) in wanted_fields.items():
        text = form.get(name)
        if text is None:
            continue
        if not text.strip():
            values[name] = None
            continue
        try:
            value = parse_quantity(text, "percent")
        except ValueError:
            errors[name] = f"“{text.strip()}” is not a number"
            continue
        if least <= value <= most:
            values[name] = value
        else:
            errors[name] = f"from {least:g} to {most:g}"
    return values, errors


def _plan(request: Request, number: int, who: str, form: dict[str, str]) -> dict[str, str]:
    values, errors = _numbers(form, PLANNED)
    for name in ("water_l", "food_g_a_day", "fuel_g_a_day", "strength"):
        if name in values and values[name] is None:
            errors[name] = "is needed"
    holds, water = values.get("containers_l"), values.get("water_l")
    if holds is not None and water is not None and water > holds:
        errors["water_l"] = f"{water:g} L in bottles that hold {holds:g} L"
    if errors:
        return errors
    name = find_person(courses_of(request).get(number).course, who).name.split()[0]
    courses_of(request).change(number, f"{name}: load", lambda now: with_person(
        now, find_person(now, who).altered(**values)))  # fmt: skip
    return {}


def _shares(request: Request, number: int, form: dict[str, str]) -> dict[str, str]:
    limits = {"budget_share": ("", 1.0, 80.0), "limit_share": ("", 1.0, 100.0)}
    values, errors = _numbers({key: text.replace("%", "") for key, text in form.items()}, limits)
    errors |= {name: "is needed" for name, value in values.items() if value is None}
    if not errors and values:
        parts = {name: (value or 0) / 100 for name, value in values.items()}
        courses_of(request).change(number, "budget and limit", lambda now: now.altered(**parts))
    return errors


@router.post("/courses/{number}/load/undo")
def undo(request: Request, number: int, person: Annotated[str, Form()] = "") -> Response:
    """One step back."""
    courses_of(request).undo(number)
    return RedirectResponse(f"/courses/{number}/load?person={person}", status_code=303)
