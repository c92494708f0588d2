"""Load: everybody's hours beside their budget, the group's kit shared, idle grams as a ledger."""

from functools import partial
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.load.load_hours import dry_stretches
from caldarium.core.load.provisions import day_needs
from caldarium.core.load.share import FAIRNESS, Split
from caldarium.core.plan.course import Course
from caldarium.core.plan.group_kit import units, wanted
from caldarium.core.what_if.idle import Matters, ledger, when_idle_matters
from caldarium.core.worst import heaviest_laden
from caldarium.drawings.load_curve import Chip, load_curve, party_shelf
from caldarium.store.courses import Held
from caldarium.web.editing import editing
from caldarium.web.forms import Texts
from caldarium.web.load.load_edit import (
    BAG_HOW,
    KIT,
    PARTY,
    PURPOSES,
    RATIONS,
    RULES,
    apply_load_edit,
    handed_over,
    kit_texts,
    party_texts,
    split_kit,
)
from caldarium.web.page import assessed, courses_of, display_of, page, works_of
from caldarium.web.plan.person_fields import LOAD, texts_of
from caldarium.web.urls import course_url, open_query
from caldarium.words.course import course_sentence
from caldarium.words.load import (
    dry_sentence,
    group_sentence,
    ledger_sentence,
    line_sentence,
    load_hours_sentence,
    matters_sentence,
    party_sentence,
    provisions_sentence,
    split_sentence,
)
from caldarium.words.steps_load import explain_load, explain_provisions, explain_split

router = APIRouter()


@router.get("/courses/{number}/load")
def show(
    request: Request,
    number: int,
    person: Annotated[str, Query()] = "",
    worn: Annotated[str, Query()] = "in",
    apart: Annotated[str, Query()] = "in",
    beside: Annotated[str, Query()] = "",
    kit: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """One person's load by hour, everybody's side by side, shared kit and the ledger; beside it
    the load of whoever gave or took a piece."""
    course = courses_of(request).get(number).course
    form = kit_texts(course, kit, display_of(request)) or None
    return _load_page(request, number, person, worn, apart, beside, None, form)


def _load_page(
    request: Request,
    number: int,
    person: str,
    worn: str = "in",
    apart: str = "in",
    beside: str = "",
    errors: dict[str, str] | None = None,
    form: dict[str, str] | None = None,
    message: str = "",
    split: Split | None = None,
) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    who = person or heaviest_laden(result)
    member = course.person(who)
    found = next(each for each in result.people if each.person == who)
    school = {"worn": worn != "out", "apart": apart != "out"}
    address = open_query(course_url(number, "load", worn=worn, apart=apart))
    loads = [(course.person(each.person), each.load) for each in result.people]
    lines = ledger(member, found)
    moments = {each.id: each for each in result.timeline.moments}
    needs = day_needs(course, result.timeline, member, found.moments, found.nights)
    other = next(
        ((member, load) for member, load in loads if member.id == beside and beside != who), None
    )
    return page(
        request,
        "load/load.html",
        held=held,
        course=course,
        person=member,
        summary=course_sentence(course, result, display),
        message=message,
        worn=worn,
        apart=apart,
        curve=load_curve(course, member, found.load, display, **school),
        party=party_shelf(loads, who, display, address, shared=_chips(course), **school),
        beside=other
        and {
            "name": other[0].name,
            "words": load_hours_sentence(other[1], display, **school),
            "curve": load_curve(course, *other, display, **school),
        },
        group_words=group_sentence(course, display),
        line_words=[line_sentence(course, line, moments, display) for line in lines],
        party_words=party_sentence([load for _, load in loads], display, **school),
        words=load_hours_sentence(found.load, display, **school),
        dry=dry_sentence(course, dry_stretches(course, member, result.timeline), display),
        steps=explain_load(course, member, found.load, display),
        lines=lines,
        ledger_words=ledger_sentence(course, lines, display),
        provisions=provisions_sentence(course, needs, display),
        provision_steps=explain_provisions(course, needs, display),
        units=units(course),
        kits={kit.id: kit for kit in course.group},
        names={each.id: each.name for each in course.people},
        wanted={kit.id: wanted(course, kit) for kit in course.group},
        fairness=FAIRNESS,
        bag_how=BAG_HOW,
        rules=RULES,
        purposes=PURPOSES,
        planned=LOAD,
        kit_fields=KIT,
        rations=RATIONS,
        values=texts_of(course, member, LOAD, display) | (form or {}),
        errors=errors or {},
        form=form or {},
        party_fields=[field for field, _ in PARTY.values()],
        party_values=party_texts(course, display) | (form or {}),
        shared=bool(course.group) or any(tent.parts for tent in course.shelters),
        **_matters(request, held),
        split_words=split_sentence(course, split, display) if split else "",
        split_steps=explain_split(course, split, display) if split else [],
    )


def _chips(course: Course) -> dict[str, list[Chip]]:
    """The group's kit by who carries it, what nobody was given under an empty name."""
    kits = {kit.id: kit.name for kit in course.group}
    found: dict[str, list[Chip]] = {}
    for unit in units(course):
        chip = Chip(f"{unit.kit}.{unit.place}", kits[unit.kit], unit.mass_g)
        found.setdefault(unit.carrier or "", []).append(chip)
    return found


def _matters(request: Request, held: Held) -> dict[str, Any]:
    """What the panel shows that tells from which caution idle pieces would begin to matter."""
    work = works_of(request).of((held.id, held.mark, "matters"))
    names = {each.id: each.name for each in held.course.people}
    found: list[Matters] = (work.outcome if work else None) or []
    told = [(names[each.person], matters_sentence(each, display_of(request))) for each in found]
    return {"work": work, "matters": told}


@router.get("/courses/{number}/load/matters")
def show_matters(request: Request, number: int) -> HTMLResponse:
    """From which caution idle pieces would begin to matter, as far as it is worked out."""
    held = courses_of(request).get(number)
    told = _matters(request, held)
    return page(request, "load/load_matters.html", held=held, course=held.course, **told)


@router.post("/courses/{number}/load/matters")
def work_out_matters(request: Request, number: int, form: Texts) -> Response:
    """Begin to try more cautious plans, or stop."""
    held = courses_of(request).get(number)
    about = (number, held.mark, "matters")
    if form.get("act") == "stop":
        works_of(request).stop(about)
    else:
        result = assessed(request, number, held.course)
        works_of(request).begin(about, partial(when_idle_matters, held.course, result))
    return RedirectResponse(course_url(number, "load/matters"), status_code=303)


@router.post("/courses/{number}/load")
def change(request: Request, number: int, form: Texts) -> Response:
    """Whatever of the load the form changes, one step each."""
    edit, display = editing(request, number, form), display_of(request)
    who, worn, apart = (form.get(name, "") for name in ("person", "worn", "apart"))
    if form.get("act") == "split":
        split = split_kit(edit, form, assessed(request, number, edit.course))
        message = split_sentence(edit.course, split, display)
        return _load_page(request, number, who, worn, apart, message=message, split=split)
    errors, message = apply_load_edit(edit, form, display)
    if errors or message:
        typed = form if errors else None
        return _load_page(request, number, who, worn, apart, "", errors, typed, message)
    given, taken = handed_over(edit.course, edit.now)
    query = {"person": taken or given or who, "worn": worn, "apart": apart}
    if given and taken:
        query["beside"] = given
    return RedirectResponse(course_url(number, "load", **query), status_code=303)
