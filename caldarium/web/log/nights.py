"""The log's own page: every night with what was forecast, measured and told."""

from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.log.readings import aligned
from caldarium.core.log.right import Band, bands
from caldarium.core.plan.log import person_of, tells_night
from caldarium.drawings.log_night import log_night
from caldarium.drawings.svg import Svg
from caldarium.web.forms import Texts, whole
from caldarium.web.log.logged import Logged, logged
from caldarium.web.page import courses_of, display_of, logs_of, page
from caldarium.web.urls import course_url
from caldarium.words import log as words
from caldarium.words.night import shelter_label
from caldarium.words.units import Display

router = APIRouter()


@dataclass(frozen=True)
class NightPanel:
    """A night: its picture, the forecast with its band, what was measured, and who slept how."""

    day: int
    name: str
    drawn: Svg
    forecast: str
    band: str
    measured: str
    lifts: list[str]
    beds: list[str]
    felt: list[tuple[str, str]]
    told: int


@dataclass(frozen=True)
class Personal:
    """Somebody of whom things were told, whether they are still on the course, and how many."""

    id: str
    name: str
    there: bool
    entries: int


@router.get("/courses/{number}/log")
def show(request: Request, number: int) -> HTMLResponse:
    """Every night, and what has been logged so far."""
    found = logged(request, number)
    display = display_of(request)
    course = found.course
    return page(
        request,
        "log/nights.html",
        held=found.held,
        course=course,
        nights=[_panel(found, each, display) for each in bands(found.teaching)],
        sentence=words.lows_sentence(found.review.lows, display),
        steps=words.explain_lows(course, found.review.lows, display),
        personal=_personal(found),
        empty=found.log.empty,
    )


def _panel(found: Logged, band: Band, display: Display) -> NightPanel:
    course, of, day = found.course, found.teaching.lived, band.day
    timeline = of.result.timeline
    night = next(m for m in timeline.moments if m.kind == "night" and m.day == day)
    low = next((each for each in found.review.lows if each.day == day), None)
    air, beds = (
        [
            (words.line_name(course, each), aligned(course, each))
            for each in found.log.thermometers
            if each.where in places
        ]
        for places in (("outside", "shelter"), ("bed",))
    )
    measured = of.measured.get(day)
    felt: dict[str, list[str]] = {}
    told = 0
    for person in course.people:
        how = found.teaching.diary.night(person.id, day)
        if how is not None:
            told += 1
            felt.setdefault(words.FELT_NAMES[how], []).append(person.name)
    name = words.night_name(course, day)
    return NightPanel(
        day,
        name,
        log_night(timeline, night, band, air, beds, display, name),
        display.temperature(band.forecast, 1),
        f"{display.temperature(band.low, 1)} to {display.temperature(band.high, 1)}",
        words.low_words(low, display) if low is not None else "not measured",
        [
            f"{_shelter(found, each)} {display.difference(lift, 1)} over outside"
            for each, lift in (measured.lifts.items() if measured else ())
        ],
        [
            f"{_person(found, each)}’s bed {display.temperature(mean, 1)} in the mean"
            for each, mean in (measured.beds.items() if measured else ())
        ],
        [(how, ", ".join(names)) for how, names in felt.items()],
        told,
    )


def _shelter(found: Logged, which: str) -> str:
    course = found.course
    there = next((each for each in course.shelters if each.id == which), None)
    return shelter_label(course, there) if there is not None else which


def _person(found: Logged, which: str) -> str:
    return next((each.name for each in found.course.people if each.id == which), which)


def _personal(found: Logged) -> list[Personal]:
    names = {each.id: each.name for each in found.course.people}
    many: dict[str, int] = {}
    for entry in found.log.entries:
        if who := person_of(entry):
            many[who] = many.get(who, 0) + 1
    for each in found.log.thermometers:
        if each.where in ("bed", "pocket") and each.of:
            many[each.of] = many.get(each.of, 0) + 1
    return [Personal(who, names.get(who, who), who in names, count) for who, count in many.items()]


@router.post("/courses/{number}/log")
def change(request: Request, number: int, form: Texts) -> Response:
    """Delete what was told of somebody, or of a night, for good."""
    course = courses_of(request).get(number).course
    act, _, value = form.get("act", "").partition("=")
    if act == "forget":
        logs_of(request).forget_person(number, value)
    elif act == "night":
        day = whole(value, most=len(course.days) - 1)
        logs_of(request).forget(
            number,
            lambda each: day is not None and tells_night(each, day),
        )
    return RedirectResponse(course_url(number, "log"), 303)
