"""The diary on paper and as a file."""

from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from caldarium.core.log.diary import Diary, asked_moments, diary_of
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.log import Felt
from caldarium.core.timeline.moments import Moment
from caldarium.formats.diary_csv import write_diary
from caldarium.web.page import assessed, courses_of, logs_of, page
from caldarium.words import log as words
from caldarium.words.units import clock_text

router = APIRouter()
MOST_MOMENTS = 6
"""Columns of moments that a page has room for."""


@dataclass(frozen=True)
class SheetRow:
    """One person's line of a day: how they slept and when they woke, and how they were at each
    moment; empty where nobody said."""

    name: str
    slept: str
    woke: str
    felt: list[str]


@dataclass(frozen=True)
class SheetDay:
    """A day of the printed diary: its name, whether a night follows, its moments, a line each."""

    name: str
    night: bool
    moments: list[str]
    rows: list[SheetRow]


@router.get("/courses/{number}/log/diary.csv")
def export(request: Request, number: int) -> Response:
    """Everything told, as a CSV file."""
    course = courses_of(request).get(number).course
    return Response(
        write_diary(course, logs_of(request).of(number).entries),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="diary.csv"'},
    )


@router.get("/courses/{number}/log/sheet")
def show(request: Request, number: int) -> HTMLResponse:
    """A diary of every day to print: what was told, and room for what was not."""
    held = courses_of(request).get(number)
    course = held.course
    timeline = assessed(request, number, course).timeline
    diary = diary_of(logs_of(request).of(number).entries)
    nights = {moment.day for moment in timeline.moments if moment.kind == "night"}
    days: list[SheetDay] = []
    for day in range(len(course.days)):
        asked = [each for each in asked_moments(timeline, day) if each.kind != "setting out"]
        shown = asked[:MOST_MOMENTS]
        days.append(_day(course, diary, day, shown, night=day in nights))
    return page(request, "log/sheet.html", held=held, course=course, days=days)


def _day(course: Course, diary: Diary, day: int, moments: list[Moment], *, night: bool) -> SheetDay:
    return SheetDay(
        words.day_name(course, day),
        night,
        [f"{clock_text(each.start)} {each.kind}" for each in moments],
        [_row(diary, person, day, moments) for person in course.people],
    )


def _row(diary: Diary, person: Person, day: int, moments: list[Moment]) -> SheetRow:
    slept = diary.slept.get((person.id, day))
    felt = diary.night(person.id, day)
    told: list[Felt | None] = [diary.moment(person.id, each) for each in moments]
    return SheetRow(
        person.name,
        _name(felt),
        clock_text(slept.woke_h) if slept is not None and slept.woke_h is not None else "",
        [_name(each) for each in told],
    )


def _name(felt: Felt | None) -> str:
    return words.FELT_NAMES[felt] if felt is not None else ""
