"""Food, water and fuel: the party's one account of each, hour by hour, and what changes it."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.load.provisions import day_needs
from caldarium.core.load.supplies import dishes_on, food_left, food_planned, fuel_wanted, ration
from caldarium.core.load.water import water_wanted
from caldarium.core.worst import shortest_supplied, thirsty
from caldarium.drawings.supplies import supplies_strip
from caldarium.web.editing import editing
from caldarium.web.forms import Answer, Texts
from caldarium.web.load.food_edit import (
    BAG_HOW,
    CACHE,
    DISH,
    KITCHEN,
    MEALS,
    STOVES,
    TREATMENTS,
    apply_food_edit,
    fill_all,
    kitchen_texts,
)
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.plan.person_fields import PLANNED, texts_of
from caldarium.web.urls import course_url
from caldarium.words.course import course_sentence
from caldarium.words.food import (
    STOVE_WORDS,
    TREATED_WORDS,
    away_words,
    cache_words,
    camp_row,
    dry_sentence,
    energy_sentence,
    fill_words,
    food_left_sentence,
    fuel_sentence,
    hungry_sentence,
    stove_notes,
)
from caldarium.words.steps_food import explain_energy, explain_fuel, explain_water

router = APIRouter()


@dataclass(frozen=True)
class Looking:
    """Whose food and water are looked at."""

    person: str = ""


@router.get("/courses/{number}/food")
def show(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """What the party eats, drinks and burns, and what one person does."""
    return _food_page(request, number, looking, Answer())


def _food_page(request: Request, number: int, looking: Looking, answer: Answer) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    member = course.person(looking.person or shortest_supplied(result))
    found = result.of(member.id)
    fill = water_wanted(member, found.load.dry)
    load = found.load
    needs = day_needs(course, result.timeline, member, found.moments, found.nights)
    timeline = result.timeline
    return page(
        request,
        "load/food.html",
        held=held,
        course=course,
        person=member,
        summary=course_sentence(course, result),
        message=answer.message,
        errors=answer.errors,
        form=answer.form,
        strip=supplies_strip(course, member, result, display),
        dry=dry_sentence(course, timeline, load.dry, display),
        fill=fill,
        fill_words=fill_words(member, fill, display),
        water_steps=explain_water(course, member, timeline, load.dry, display),
        away_words=away_words,
        cache_words=cache_words,
        thirsty=len(thirsty(result)),
        hungry=hungry_sentence(course, timeline, load.hungry, display),
        surplus=food_left_sentence(
            food_left(course, member, timeline),
            float(food_planned(course, (member,))[0]),
            display,
        ),
        fuel=fuel_sentence(course, result.fuel, display),
        fuel_short=result.fuel.over < 0,
        burn=fuel_wanted(course, result.fuel),
        fuel_steps=explain_fuel(course, result.fuel, display),
        notes=stove_notes(course, timeline, display),
        camps=[camp_row(course, each, display) for each in result.fuel.camps],
        planned=PLANNED,
        values=texts_of(course, member, PLANNED, display) | dict(answer.form),
        kitchen=KITCHEN.values(),
        kitchen_values=kitchen_texts(course, display) | dict(answer.form),
        stoves=STOVES,
        treatments=TREATMENTS,
        stove_words=STOVE_WORDS,
        treated_words=TREATED_WORDS,
        cache_fields=CACHE,
        dish_fields=DISH,
        meals=MEALS,
        bag_how=BAG_HOW,
        away=[each for each in (*member.items, *member.garments) if each.waits_at or each.left_at],
        energy=energy_sentence(course, needs, display),
        energy_steps=explain_energy(course, needs, display),
        dishes=[dishes_on(course, day) for day in range(len(course.days))],
        eaten=[ration(course, member, day) for day in range(len(course.days))],
    )


@router.post("/courses/{number}/food")
def change(request: Request, number: int, form: Texts) -> Response:
    """Whatever of food, water and fuel the form changes, one step each."""
    edit, display = editing(request, number, form), display_of(request)
    looking = Looking(form.get("person", ""))
    if form.get("act") == "fill-all":
        fill_all(edit, assessed(request, number, edit.course))
        return RedirectResponse(course_url(number, "food", **vars(looking)), status_code=303)
    errors, message = apply_food_edit(edit, form, display)
    if errors or message:
        answer = Answer(errors, form if errors else {}, message)
        return _food_page(request, number, looking, answer)
    return RedirectResponse(course_url(number, "food", **vars(looking)), status_code=303)
