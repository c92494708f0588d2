"""Shelters: who sleeps in which, whether each stands each night, and what settles inside."""

from functools import partial
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import load_catalogue
from caldarium.core.changes import pitch
from caldarium.core.explain import explain_shelter
from caldarium.core.sentences import (
    course_sentence,
    damp_sentence,
    shelter_sentence,
    snow_sentence,
)
from caldarium.drawings.shelter import shelter_plan
from caldarium.web.page import assessed, courses_of, display_of, page

router = APIRouter()


@router.get("/courses/{number}/shelter")
def show(
    request: Request, number: int, night: Annotated[int, Query()] = -1
) -> HTMLResponse:  # fmt: skip
    """Every shelter of the course on one night."""
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
            "snow": snow_sentence(each),
            "steps": explain_shelter(each, display),
        }
        for each in result.shelters
        if each.day == day
    ]
    for tent in tents:
        tent["drawing"] = shelter_plan(tent["shelter"], tent["night"], tent["sleepers"], display)
    return page(
        request, "shelter.html", held=held, course=course, days=days, day=day, tents=tents,
        catalogue=load_catalogue(), summary=course_sentence(course, result),
        outside=[person for person in course.people if person.shelter is None],
        unfit_days=set(unfit),
    )  # fmt: skip


@router.post("/courses/{number}/shelter")
async def assign(request: Request, number: int) -> Response:
    """Move whoever was given another shelter, in one step each."""
    form = {key: str(value) for key, value in (await request.form()).items()}
    courses = courses_of(request)
    catalogue = load_catalogue().shelters
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
    return RedirectResponse(f"/courses/{number}/shelter?night={form.get('night', '')}", 303)


@router.post("/courses/{number}/shelter/undo")
def undo(request: Request, number: int, night: Annotated[str, Form()] = "") -> Response:
    """One step back."""
    courses_of(request).undo(number)
    return RedirectResponse(f"/courses/{number}/shelter?night={night}", 303)
