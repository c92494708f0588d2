"""The diary: a minute a morning and a minute an evening, on a phone, with or without the server.

A page that runs its script keeps what is tapped in the browser and sends it when the server
answers; without a script every answer is a form of its own.
"""

import json
from dataclasses import dataclass, field
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, JSONResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.assess import Assessment
from caldarium.core.log.diary import Diary, asked_moments, diary_of, leader_of
from caldarium.core.night.beds import base_in_bed, bed_clothes
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.legs import stages
from caldarium.core.plan.log import Entry, Lay, Slept, Was
from caldarium.core.plan.value import NotThereError
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.timeline.moments import Moment
from caldarium.web.forms import Sent, whole
from caldarium.web.log.answers import Fields, event_of
from caldarium.web.log.logged import now_entry
from caldarium.web.page import assessed, courses_of, display_of, logs_of, page
from caldarium.web.urls import course_url
from caldarium.words import log as words
from caldarium.words.course import moment_name
from caldarium.words.faults import fault_text
from caldarium.words.food import leg_title
from caldarium.words.units import Display, clock_text

router = APIRouter()
MOST_TOLD = 500


@dataclass(frozen=True)
class Piece:
    """A piece that may have been worn or lain on, and whether it was."""

    id: str
    name: str
    on: bool


@dataclass(frozen=True)
class NightOf:
    """One person's night to tell: how it was told of, when they woke, what the plan has them wear
    and lie on, or what was said instead."""

    id: str
    name: str
    felt: str
    told: str
    woke: str
    worn: list[Piece]
    worn_planned: str
    pads: list[Piece]
    pads_planned: str
    shelter: str
    vents: str
    lay_told: str


@dataclass(frozen=True)
class MomentOf:
    """One person's moment to tell."""

    id: str
    name: str
    kind: str
    felt: str
    told: str
    fingers: str
    sweat: bool
    wet: bool
    worn: list[Piece]
    worn_planned: str


@dataclass(frozen=True)
class DayOf:
    """One person's day to tell, and what their pack weighed on its morning."""

    id: str
    name: str
    moments: list[MomentOf]
    told: int
    grams: str


@dataclass(frozen=True)
class TimeOf:
    """Halts or a way: the moment or leg, its name, as planned, and as told."""

    id: str
    name: str
    planned: str
    took: str


@dataclass(frozen=True)
class Fault:
    """An answer that was not kept: of which form, why, and what was typed."""

    key: str = ""
    why: str = ""
    typed: Fields = field(default_factory=dict)


@router.get("/courses/{number}/log/diary")
def show(request: Request, number: int, day: str = "", part: str = "") -> HTMLResponse:
    """A morning's or an evening's questions."""
    return _page(request, number, day, part, Fault())


def _page(request: Request, number: int, day: str, part: str, fault: Fault) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    diary = diary_of(logs_of(request).of(number).entries)
    nights = [moment.day for moment in result.timeline.moments if moment.kind == "night"]
    which = whole(day, most=len(course.days) - 1) or 0
    chosen = part if part in ("morning", "evening") else "evening"
    if chosen == "morning" and which not in nights:
        chosen = "evening"
    tabs = [
        (at, each)
        for at in range(len(course.days))
        for each in ("evening", "morning")
        if each == "evening" or at in nights
    ]
    shown = (
        f"Night {words.night_name(course, which)}"
        if chosen == "morning"
        else words.day_name(course, which)
    )
    moments = asked_moments(result.timeline, which)
    return page(
        request,
        "log/diary.html",
        held=held,
        course=course,
        day=which,
        part=chosen,
        tabs=tabs,
        shown=shown,
        short={(at, each): words.short_names(course, at)[each == "morning"] for at, each in tabs},
        others=(which, chosen) in diary.right,
        nights=_nights(course, diary, which) if chosen == "morning" else [],
        days=_days(course, result, diary, which, moments, display) if chosen == "evening" else [],
        halts=_halts(course, diary, moments),
        ways=_ways(course, diary, which),
        leader=leader_of(course, diary, which),
        slept_names=words.SLEPT_NAMES,
        felt_names=words.FELT_NAMES,
        finger_names=words.FINGERS_NAMES,
        vent_names=words.VENT_NAMES,
        fault=fault,
    )


def _nights(course: Course, diary: Diary, day: int) -> list[NightOf]:
    dress = wardrobes(course.people)
    asleep = bed_clothes(course, dress) | base_in_bed(dress)
    found: list[NightOf] = []
    for row, person in enumerate(course.people):
        planned = {piece.id for at, piece in enumerate(dress.garments[row]) if asleep[row, at]}
        slept, lay = diary.slept.get((person.id, day)), diary.lay.get((person.id, day))
        worn = set(lay.worn) if lay is not None and lay.worn is not None else planned
        pads = person.bed_on(day).pads
        on = {each.id for each in pads} if lay is None or lay.pads is None else set(lay.pads)
        here = person.on_night(day).shelter or "open"
        found.append(
            NightOf(
                person.id,
                person.name,
                slept.felt if slept is not None else "",
                _slept_told(slept),
                clock_text(slept.woke_h) if slept is not None and slept.woke_h is not None else "",
                [Piece(p.id, p.name, p.id in worn) for p in dress.garments[row]],
                " ".join(sorted(planned)),
                [Piece(p.id, p.name, p.id in on) for p in pads],
                " ".join(each.id for each in pads),
                (lay.shelter or "open") if lay is not None and lay.moved else here,
                lay.vents if lay is not None else "as planned",
                _lay_told(course, lay),
            )
        )
    return found


def _slept_told(slept: Slept | None) -> str:
    return "" if slept is None else words.woke_words(slept.woke_h)


def _lay_told(course: Course, lay: Lay | None) -> str:
    if lay is None:
        return ""
    parts = []
    if lay.worn is not None or lay.pads is not None:
        parts.append("bed as told")
    if lay.moved:
        name = next((each.name for each in course.shelters if each.id == lay.shelter), "")
        parts.append(f"in {name}" if name else "under the open sky")
    if lay.vents != "as planned":
        parts.append(f"vents {words.VENT_NAMES[lay.vents]}")
    return ", ".join(parts)


def _days(
    course: Course,
    result: Assessment,
    diary: Diary,
    day: int,
    moments: list[Moment],
    display: Display,
) -> list[DayOf]:
    found: list[DayOf] = []
    for person in course.people:
        states = {each.moment: each for each in result.of(person.id).moments}
        rows = [
            _moment_of(course, person, moment, states[moment.id].worn, diary)
            for moment in moments
            if moment.id in states
        ]
        grams = diary.scaled.get((person.id, day))
        found.append(
            DayOf(
                person.id,
                person.name,
                rows,
                sum(bool(each.felt) for each in rows),
                display.mass(grams) if grams is not None else "",
            )
        )
    return found


def _moment_of(
    course: Course, person: Person, moment: Moment, planned: tuple[str, ...], diary: Diary
) -> MomentOf:
    was = diary.was.get((person.id, moment.id))
    worn = was.worn if was is not None and was.worn is not None else planned
    return MomentOf(
        moment.id,
        moment_name(course, moment),
        moment.kind,
        was.felt if was is not None else "",
        _was_told(was),
        was.fingers if was is not None else "fine",
        was.sweat if was is not None else False,
        was.wet if was is not None else False,
        [Piece(each.id, each.name, each.id in worn) for each in person.garments],
        " ".join(planned),
    )


def _was_told(was: Was | None) -> str:
    if was is None:
        return ""
    parts = [f"fingers {words.FINGERS_NAMES[was.fingers]}"] if was.fingers != "fine" else []
    parts += ["sweat"] if was.sweat else []
    parts += ["wet through"] if was.wet else []
    return ", ".join(parts)


def _halts(course: Course, diary: Diary, moments: list[Moment]) -> list[TimeOf]:
    return [
        TimeOf(
            each.id,
            f"{moment_name(course, each)}"
            + (f", {each.repeats} times" if each.repeats > 1 else ""),
            f"{each.hours * 60:.0f} min",
            f"{diary.halted[each.id]:.0f} min" if each.id in diary.halted else "",
        )
        for each in moments
        if each.kind == "halt"
    ]


def _ways(course: Course, diary: Diary, day: int) -> list[TimeOf]:
    return [
        TimeOf(
            each.leg.id,
            leg_title(course, day, each.leg.id),
            f"{each.end - each.start:.1f} h",
            f"{diary.went[day, each.leg.id]:.1f} h" if (day, each.leg.id) in diary.went else "",
        )
        for each in stages(course.days[day], course.starts[day])
        if each.walk is not None
    ]


async def _body(request: Request) -> bytes:
    return await request.body()


@router.post("/courses/{number}/log/tell")
def take(request: Request, number: int, body: Annotated[bytes, Depends(_body)]) -> JSONResponse:
    """Answers kept on a page, whenever it could send them: each kept once, by its token.

    The body is JSON: `told`, a list of token, at, by, and fields as a form would send them. The
    answer says which tokens are kept now, and of the others why not.
    """
    course = courses_of(request).get(number).course
    try:
        found = json.loads(body)
    except (ValueError, RecursionError):
        found = None
    listed: Any = found.get("told") if isinstance(found, dict) else None
    if not isinstance(listed, list):
        return JSONResponse({"kept": [], "refused": [], "error": "not a list of answers"}, 400)
    good: list[Entry] = []
    refused: list[dict[str, str]] = []
    for each in listed[:MOST_TOLD]:
        token = str(each.get("token", ""))[:64] if isinstance(each, dict) else ""
        try:
            good.append(_entry(each, course, display_of(request)))
        except NotThereError as fault:
            refused.append({"token": token, "why": f"no {fault.what} {fault.identifier[:40]}"})
        except ValueError as fault:
            refused.append({"token": token, "why": fault_text(fault, display_of(request))})
    logs_of(request).tell(number, good)
    return JSONResponse({"kept": [each.token for each in good], "refused": refused})


def _entry(told: Any, course: Course, display: Display) -> Entry:
    if not isinstance(told, dict) or not isinstance(told.get("fields"), dict):
        raise ValueError("not an answer")
    fields: dict[str, str | list[str]] = {}
    for name, value in told["fields"].items():
        if isinstance(value, list):
            fields[str(name)] = [str(each)[:400] for each in value[:100]]
        else:
            fields[str(name)] = str(value)[:400]
    event = event_of(fields, course, display)
    parts = {name: told.get(name) for name in ("token", "at")}
    return Entry.model_validate(
        {**parts, "by": str(told.get("by", ""))[:120], "event": event.model_dump()}, strict=False
    )


@router.post("/courses/{number}/log/diary")
def answer(request: Request, number: int, sent: Sent) -> Response:
    """An answer without a script."""
    course = courses_of(request).get(number).course
    fields: dict[str, str | list[str]] = {}
    for name in sent:
        values = [each for each in sent.getlist(name) if isinstance(each, str)]
        fields[name] = values if len(values) > 1 else values[0] if values else ""
    day, part = str(fields.get("back_day", "")), str(fields.get("back_part", ""))
    try:
        event = event_of(fields, course, display_of(request))
    except (ValidationError, ValueError) as wrong:
        why = fault_text(wrong, display_of(request))
        return _page(request, number, day, part, Fault(_key(fields), f"Not kept: {why}.", fields))
    logs_of(request).tell(number, [now_entry(str(fields.get("by", "")), event)])
    return RedirectResponse(course_url(number, "log/diary", day=day, part=part), 303)


def _key(fields: Fields) -> str:
    names = ("kind", "person", "day", "moment", "leg", "part")
    return " ".join(str(fields.get(name, "")) for name in names)
