"""By air: everybody's bags, what is worn on the way there, and what is got on arrival."""

from collections.abc import Mapping
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.load.travel import kilograms, litres_of, travel
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.course import Course
from caldarium.core.stock.lending import got_there, to_get
from caldarium.web.editing import editing
from caldarium.web.forms import Field, Texts, read_form, written
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.lending import stored_by_key
from caldarium.web.urls import course_url
from caldarium.words.course import course_sentence
from caldarium.words.lists import party_travel_sentence, travel_sentence
from caldarium.words.steps_load import explain_travel
from caldarium.words.stock import to_get_sentence
from caldarium.words.units import Display

router = APIRouter()
CAPS = (
    Field("hold_kg", "Hold bag", "body", "no cap", may_be_empty=True),
    Field("hold_l", "Hold bag's room", "volume", "no cap", may_be_empty=True),
    Field("cabin_kg", "Cabin bag", "body", "no cap", may_be_empty=True),
    Field("cabin_l", "Cabin bag's room", "volume", "no cap", may_be_empty=True),
    Field("bag_g", "The hold bag itself", "mass", "a duffel, empty", may_be_empty=True),
)


@router.get("/courses/{number}/air")
def show(request: Request, number: int, person: Annotated[str, Query()] = "") -> HTMLResponse:
    """One person's bags by air line by line, and everybody's by their masses."""
    return _air_page(request, number, person)


def _air_page(
    request: Request,
    number: int,
    who: str,
    errors: Mapping[str, str] | None = None,
    typed: Mapping[str, str] | None = None,
) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    member = course.person(who or course.people[0].id)
    stored = stored_by_key(request)
    flights = [
        travel(course, person, result.of(person.id).moments, got_there(person, stored))
        for person in course.people
    ]
    getting = to_get(course, stored)
    names = {each.id: each.name for each in course.people}
    mine = next(each for each in flights if each.person == member.id)
    return page(
        request,
        "load/air.html",
        held=held,
        course=course,
        person=member,
        summary=course_sentence(course, result),
        errors=errors or {},
        caps=CAPS,
        cap_texts=_cap_texts(course, display) | dict(typed or {}),
        mine=mine,
        air_steps=explain_travel(course, mine, display),
        bags=(
            ("worn on the way there", "worn", mine.worn),
            ("in the hold", "hold", mine.hold),
            ("in the cabin", "cabin", mine.cabin),
            ("hired or bought on arrival", "arrival", mine.arrival),
            ("may not fly", "stays", mine.stays),
        ),
        flights=[
            (names[each.person], each, travel_sentence(each, names[each.person], display))
            for each in flights
        ],
        party_words=party_travel_sentence(flights, course, display),
        getting=getting,
        getting_words=to_get_sentence(getting),
        kilograms=kilograms,
        litres_of=litres_of,
    )


def _cap_texts(course: Course, display: Display) -> dict[str, str]:
    values = {field: getattr(course, field.name) for field in CAPS}
    return {
        field.name: "" if value is None else written(value, field.kind, display)
        for field, value in values.items()
    }


@router.post("/courses/{number}/air")
def change(request: Request, number: int, form: Texts) -> Response:
    """Keep the caps, or what somebody wears on the plane."""
    edit, display = editing(request, number, form), display_of(request)
    who = form.get("person", "")
    act, _, piece = form.get("act", "").partition("=")
    back = RedirectResponse(course_url(number, "air", person=who), 303)
    if act in ("wear", "pack"):
        chosen = {act: piece}

        def alter(now: Course) -> Course:
            member = now.person(who)
            on = set(member.on_plane or ()) - {piece}
            if chosen.get("wear"):
                on.add(piece)
            return with_person(now, member.altered(on_plane=tuple(sorted(on))))

        seen = edit.course
        if seen.person(who).on_plane is None:
            result = assessed(request, number, seen)
            worn = travel(seen, seen.person(who), result.of(who).moments, frozenset()).worn
            start = tuple(sorted(line.id for line in worn))
            edit.keep(
                "what is worn on the plane",
                lambda now: alter(with_person(now, now.person(who).altered(on_plane=start))),
            )
        else:
            edit.keep("what is worn on the plane", alter)
        return back
    before = _cap_texts(edit.course, display)
    reading = read_form(CAPS, before, form, display)
    if reading.values and not reading.errors:
        try:
            edit.keep("caps by air", lambda now: now.altered(**reading.values))
        except ValidationError as fault:
            reading.refuse(fault, display)
    if reading.errors:
        typed = {field.name: form[field.name] for field in CAPS if field.name in form}
        return _air_page(request, number, who, reading.errors, typed)
    return back
