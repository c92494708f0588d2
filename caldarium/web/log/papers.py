"""The diary on paper and as a file."""

from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from caldarium.core.log.diary import asked_moments
from caldarium.formats.diary_csv import write_diary
from caldarium.web.page import assessed, courses_of, logs_of, page
from caldarium.words import log as words
from caldarium.words.units import clock_text

router = APIRouter()


@dataclass(frozen=True)
class SheetDay:
    """A day of the printed diary: its name, whether a night follows, and its moments."""

    name: str
    night: bool
    moments: list[str]


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
    """An empty diary of every day, to print."""
    held = courses_of(request).get(number)
    course = held.course
    timeline = assessed(request, number, course).timeline
    nights = {moment.day for moment in timeline.moments if moment.kind == "night"}
    days = [
        SheetDay(
            words.day_name(course, day),
            day in nights,
            [
                f"{clock_text(each.start)} {each.kind}"
                for each in asked_moments(timeline, day)
                if each.kind != "setting out"
            ][:MOST_MOMENTS],
        )
        for day in range(len(course.days))
    ]
    return page(
        request,
        "log/sheet.html",
        held=held,
        course=course,
        days=days,
        names=[each.name for each in course.people],
    )


MOST_MOMENTS = 6
