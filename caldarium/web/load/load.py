"""Load: everybody's hours beside their budget, the group's kit shared, idle grams as a ledger."""

from dataclasses import dataclass, replace
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.load.loads import helper_loads
from caldarium.core.load.share import FAIRNESS, Split
from caldarium.core.what_if.idle import when_idle_matters
from caldarium.core.worst import heaviest_laden
from caldarium.web import forms
from caldarium.web.editing import editing
from caldarium.web.forms import Texts
from caldarium.web.load.load_edit import (
    HELPER_KINDS,
    HELPER_LIMIT,
    KIT,
    NET,
    PURPOSES,
    RULES,
    SPOILS,
    apply_load_edit,
    handed_over,
    kit_texts,
    split_kit,
)
from caldarium.web.load.load_panels import (
    Looking,
    curve_panel,
    group_panel,
    ledger_panel,
    matters_panel,
    own_panel,
    party_panel,
)
from caldarium.web.page import assessed, courses_of, display_of, idle_of, page, works_of
from caldarium.web.urls import course_url, open_query
from caldarium.words.course import course_sentence
from caldarium.words.load import (
    split_sentence,
)

router = APIRouter()


@dataclass(frozen=True)
class Answer(forms.Answer):
    """What came of a form: faults by field, what was typed, a message, a split that was asked
    for."""

    split: Split | None = None
    tried: bool = False


@router.get("/courses/{number}/load")
def show(
    request: Request, number: int, looking: Annotated[Looking, Depends()], kit: str = ""
) -> HTMLResponse:
    """One person's load by hour, everybody's side by side, shared kit and the ledger; beside it
    the load of whoever gave or took a piece."""
    course = courses_of(request).get(number).course
    return _load_page(
        request, number, looking, Answer(form=kit_texts(course, kit, display_of(request)))
    )


def _load_page(request: Request, number: int, looking: Looking, answer: Answer) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    looking = replace(looking, person=looking.person or heaviest_laden(result))
    member = course.person(looking.person)
    address = open_query(course_url(number, "load", worn=looking.worn, apart=looking.apart))
    party = party_panel(course, result, address, looking, display)
    own = own_panel(course, member, display)
    return page(
        request,
        "load/load.html",
        curve_panel(course, result, member, looking, display),
        replace(party, party_values=party.party_values | dict(answer.form)),
        ledger_panel(course, result, member, idle_of(request, held, result, member.id), display),
        replace(own, values=own.values | dict(answer.form)),
        group_panel(course, answer.split, display),
        matters_panel(request, held),
        held=held,
        course=course,
        person=member,
        worn=looking.worn,
        apart=looking.apart,
        summary=course_sentence(course, result),
        message=answer.message,
        errors=answer.errors,
        form=answer.form,
        names={each.id: each.name for each in course.people},
        carriers={each.id: each.name for each in (*course.people, *course.helpers)},
        helped=helper_loads(course),
        helper_limit=HELPER_LIMIT,
        helper_kinds=HELPER_KINDS,
        fairness=FAIRNESS,
        rules=RULES,
        purposes=PURPOSES,
        kit_fields=KIT,
        kit_spoils=SPOILS,
        kit_net=NET,
        tried=answer.tried,
    )


@router.get("/courses/{number}/load/matters")
def show_matters(request: Request, number: int) -> HTMLResponse:
    """From which caution idle pieces would begin to matter, as far as it is worked out."""
    held = courses_of(request).get(number)
    panel = matters_panel(request, held)
    return page(request, "load/load_matters.html", panel, held=held, course=held.course)


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
    looking = Looking(*(form.get(name, "") for name in ("person", "worn", "apart")))
    if form.get("act") in ("split", "try"):
        result = assessed(request, number, edit.course)
        split = split_kit(edit, form, result, take=form["act"] == "split")
        message = split_sentence(edit.course, split, display)
        return _load_page(
            request,
            number,
            looking,
            Answer(message=message, split=split, tried=form["act"] == "try"),
        )
    errors, message = apply_load_edit(edit, form, display)
    if errors or message:
        answer = Answer(errors, form if errors else {}, message)
        return _load_page(request, number, looking, answer)
    given, taken = handed_over(edit.course, edit.now)
    looking = replace(
        looking,
        person=taken or given or looking.person,
        beside=given if given and taken else "",
    )
    return RedirectResponse(course_url(number, "load", **vars(looking)), status_code=303)
