"""Thermometers: read from files or a simulated device, looked at, placed, and put right."""

from dataclasses import dataclass
from datetime import datetime
from typing import get_args

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.log.odd import odd
from caldarium.core.log.readings import Channels, begins, in_utc, thermometers_of
from caldarium.core.physics.quantities import Array
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Log, Thermometer
from caldarium.core.plan.value import NotThereError
from caldarium.core.timeline.moments import Timeline
from caldarium.formats.fault import FileError
from caldarium.formats.stamps import DayFirst
from caldarium.formats.thermometer_csv import read_thermometers, write_thermometers
from caldarium.standins.thermometer import Lain, outside_and_inside
from caldarium.web.forms import Answer, Sent, Texts, file_of
from caldarium.web.page import assessed, courses_of, display_of, logs_of, page
from caldarium.web.urls import course_url
from caldarium.words import log as words
from caldarium.words.faults import fault_text
from caldarium.words.steps import Step
from caldarium.words.typed import parse_quantity
from caldarium.words.units import Display

router = APIRouter()
MOST_THERMOMETERS = 40
DATES: tuple[DayFirst, ...] = get_args(DayFirst)


@dataclass(frozen=True)
class Row:
    """A thermometer as its panel shows it."""

    id: str
    name: str
    place: str
    where: str
    facts: str
    span: str
    source: str
    clock: str
    first: str
    ahead_first: str
    ahead_last: str
    odd: list[str]
    steps: list[Step]


@router.get("/courses/{number}/log/thermometers")
def show(request: Request, number: int) -> HTMLResponse:
    """Every thermometer, and how to add one."""
    return _page(request, number, Answer())


def _page(request: Request, number: int, answer: Answer) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    timeline = assessed(request, number, course).timeline
    log = logs_of(request).of(number)
    return page(
        request,
        "log/thermometers.html",
        held=held,
        course=course,
        rows=[_row(course, timeline, each, display) for each in log.thermometers],
        places=_places(course),
        dates=DATES,
        message=answer.message,
        errors=answer.errors,
        form=answer.form,
    )


def _places(course: Course) -> list[tuple[str, str]]:
    """Every place that a thermometer can be said to have been at."""
    found = [("nowhere", words.WHERE_NAMES["nowhere"]), ("outside", words.WHERE_NAMES["outside"])]
    found += [(f"shelter {each.id}", f"in {each.name}") for each in course.shelters]
    found += [(f"bed {each.id}", f"in {each.name}’s bed") for each in course.people]
    found.append(("store", words.WHERE_NAMES["store"]))
    found += [(f"pocket {each.id}", f"in {each.name}’s pocket") for each in course.people]
    return found


def _row(course: Course, timeline: Timeline, each: Thermometer, display: Display) -> Row:
    strange = odd(course, timeline, each)
    return Row(
        each.id,
        each.name,
        f"{each.where} {each.of}".strip(),
        words.where_words(course, each),
        words.thermometer_words(each),
        words.span_words(each, display),
        each.source,
        _clock_of(course, each),
        f"{each.first:%Y-%m-%d %H:%M}",
        _seconds_text(each.ahead_first_s),
        _seconds_text(each.ahead_last_s),
        [words.odd_words(found, display) for found in strange],
        words.explain_thermometer(each, strange, display),
    )


def _clock_of(course: Course, each: Thermometer) -> str:
    if abs(each.utc_offset_h - course.place.utc_offset_h) < 1e-6:
        return "local"
    return "utc" if each.utc_offset_h == 0 else "other"


def _seconds_text(seconds: float) -> str:
    return f"{seconds / 60:.1f} min" if seconds else ""


@router.post("/courses/{number}/log/thermometers/file")
def take_file(request: Request, number: int, form: Sent) -> Response:
    """Thermometers from a file, whole or not at all."""
    course = courses_of(request).get(number).course
    name, data = file_of(form)
    typed = {key: value for key, value in form.items() if isinstance(value, str)}
    if not name:
        return _page(request, number, Answer({"file": "Choose a file first."}, typed))
    known: dict[str, DayFirst] = {each: each for each in DATES}
    dates = known.get(typed.get("dates", ""), DATES[0])
    try:
        found = read_thermometers(data, dates)
        offset = found.utc_offset_h
        if typed.get("clock") == "utc":
            offset = 0.0
        elif typed.get("clock") == "local" or offset is None:
            offset = course.place.utc_offset_h
        added = _added(course, logs_of(request).of(number), found.seconds, found.read, offset, name)
    except FileError as fault:
        return _page(request, number, Answer({"file": f"{name} was not taken. {fault}"}, typed))
    except ValidationError as fault:
        told = f"{name} was not taken: {fault_text(fault, display_of(request))}."
        return _page(request, number, Answer({"file": told}, typed))
    logs_of(request).put(number, added)
    notes = f" {'; '.join(found.notes)}." if found.notes else ""
    told = f"{len(added)} read from {name}. Say where each was.{notes}"
    return _page(request, number, Answer(message=told))


def _added(
    course: Course, log: Log, seconds: Array, channels: Channels, offset: float, source: str
) -> list[Thermometer]:
    """Channels as thermometers of a course."""
    taken = [each.id for each in log.thermometers]
    if len(taken) + len(channels) > MOST_THERMOMETERS:
        raise FileError(f"more than {MOST_THERMOMETERS} thermometers on one course")
    found = thermometers_of(course, taken, seconds, channels, offset, source)
    if not found:
        raise FileError("nothing was read in it within the course")
    return found


@router.post("/courses/{number}/log/thermometers/device")
def take_device(request: Request, number: int, form: Texts) -> Response:
    """Thermometers from the simulated device: the course's own air, somewhat other, with the
    faults that such devices have."""
    course = courses_of(request).get(number).course
    timeline = assessed(request, number, course).timeline
    text = form.get("seed", "").strip() or "1"
    if not text.isascii() or not text.isdigit() or len(text) > 8:
        return _page(request, number, Answer({"seed": "a whole number of at most 8 digits"}, form))
    seed = int(text)
    asleep = tuple((each.start, each.end) for each in timeline.moments if each.kind == "night")
    lain = Lain(timeline.hours.hour, timeline.hours.forecast, asleep)
    read = outside_and_inside(lain, seed).read_out()
    try:
        added = _added(
            course,
            logs_of(request).of(number),
            read.seconds + begins(course),
            read.channels,
            course.place.utc_offset_h,
            f"simulated thermometer, seed {seed}",
        )
    except FileError as fault:
        return _page(request, number, Answer({"seed": str(fault)}, form))
    places: dict[str, dict[str, object]] = {"outside": {"where": "outside"}}
    if course.shelters:
        places["inside"] = {"where": "shelter", "of": course.shelters[0].id}
    placed = [each.altered(**places.get(each.name, {})) for each in added]
    logs_of(request).put(number, placed)
    return _page(request, number, Answer(message="The simulated thermometer was read out."))


@router.post("/courses/{number}/log/thermometers")
def change(request: Request, number: int, form: Texts) -> Response:
    """Where a thermometer was, what its clock did; or that it goes."""
    course = courses_of(request).get(number).course
    log = logs_of(request).of(number)
    which = form.get("thermometer", "")
    known = next((each for each in log.thermometers if each.id == which), None)
    if known is None:
        raise NotThereError("thermometer", which)
    if form.get("act") == "remove":
        logs_of(request).remove(number, which)
        return RedirectResponse(course_url(number, "log/thermometers"), 303)
    errors: dict[str, str] = {}
    where, _, of = form.get("place", "").partition(" ")
    if form.get("place", "") not in {place for place, _ in _places(course)}:
        errors["place"] = "choose where it was"
    name = form.get("name", "").strip()
    if not 1 <= len(name) <= 120:
        errors["name"] = "a name of at most 120 letters"
    offsets = {"local": course.place.utc_offset_h, "utc": 0.0}
    changed: dict[str, object] = {
        "utc_offset_h": offsets.get(form.get("clock", ""), known.utc_offset_h)
    }
    for each in ("ahead_first", "ahead_last"):
        text = form.get(each, "").strip()
        try:
            changed[f"{each}_s"] = 60 * _minutes(text)
        except ValueError as fault:
            errors[each] = str(fault)
    try:
        changed["first"] = datetime.strptime(form.get("first", "").strip(), "%Y-%m-%d %H:%M")
    except ValueError:
        errors["first"] = "write it as 2031-09-14 06:00"
    if not errors:
        try:
            logs_of(request).put(number, [known.altered(name=name, where=where, of=of, **changed)])
        except ValidationError as fault:
            errors["first"] = fault_text(fault, display_of(request))
    if errors:
        at = {f"{which} {each}": told for each, told in errors.items()}
        typed = {f"{which} {each}": value for each, value in form.items()}
        return _page(request, number, Answer(at, typed))
    return RedirectResponse(course_url(number, "log/thermometers") + f"#at-{which}", 303)


def _minutes(text: str) -> float:
    """Minutes of a clock that is ahead; behind with a minus sign."""
    if not text:
        return 0.0
    behind = text[:1] in "-−"
    minutes = parse_quantity(text.lstrip("-−+ "), "minutes")
    return -minutes if behind else minutes


@router.get("/courses/{number}/log/thermometers.csv")
def export(request: Request, number: int) -> Response:
    """Every thermometer's readings in UTC, each at its own times."""
    courses_of(request).get(number)
    log = logs_of(request).of(number)
    return Response(
        write_thermometers([(each.name, *in_utc(each)) for each in log.thermometers]),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="thermometers.csv"'},
    )
