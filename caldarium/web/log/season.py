"""All logged courses together: chances, what was carried and never used, what pieces do."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.log.season import Gone, Season, season
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Log
from caldarium.drawings.chances import chances
from caldarium.store.courses import NoSuchCourseError
from caldarium.web.forms import Texts
from caldarium.web.log.right import BIN_WORDS, bias_rows
from caldarium.web.page import courses_of, display_of, logs_of, page, works_of
from caldarium.words import debrief as words
from caldarium.words import learned as learned_words
from caldarium.words import log as log_words
from caldarium.words.course import counted
from caldarium.words.units import Display

router = APIRouter()


@dataclass(frozen=True)
class CourseRow:
    """One logged course: what was never used of what was carried, and its nights."""

    id: int
    name: str
    unused: str
    carried: str
    share: str
    nights: str


@router.get("/season")
def show(request: Request) -> HTMLResponse:
    """What all logged courses say, as far as it is worked out."""
    display = display_of(request)
    logged = _logged(request)
    work = works_of(request).of(_about(logged)) if logged else None
    found: Season = (work.outcome if work else None) or Season()
    return page(
        request,
        "log/season.html",
        work=work,
        logged=len(logged),
        rows=[_row(each, display) for each in found.courses],
        unused_steps=words.explain_season(found, display),
        lows=log_words.lows_sentence(found.lows, display),
        bands=learned_words.bands_sentence(found.lows),
        drawn=chances(found.chances, BIN_WORDS) if found.chances.count else None,
        chance_sentence=learned_words.reliability_sentence(found.chances),
        chance_steps=learned_words.explain_reliability(found.chances),
        by=bias_rows(None, found.outcomes),
        pieces=[
            (each.tag, each.name, words.over_years_words(each, display), each.nights, each.courses)
            for each in found.pieces
        ],
    )


Logged = Sequence[tuple[int, str, Course, Log]]


def _logged(request: Request) -> Logged:
    found: list[tuple[int, str, Course, Log]] = []
    for number in logs_of(request).logged():
        try:
            held = courses_of(request).get(number)
        except NoSuchCourseError:
            continue
        found.append((number, held.mark, held.course, logs_of(request).of(number)))
    return found


def _about(logged: Logged) -> tuple[object, ...]:
    return (
        "season",
        tuple(
            (number, mark, len(log.entries), len(log.thermometers), hash(log.thermometers))
            for number, mark, _, log in logged
        ),
    )


@router.post("/season")
def work_out(request: Request, form: Texts) -> Response:
    """Begin to work it out, or stop."""
    logged = _logged(request)
    works, about = works_of(request), _about(logged)
    if form.get("act") == "stop":
        works.stop(about)
    else:
        works.stop_where(
            lambda other: isinstance(other, tuple) and other[:1] == ("season",) and other != about
        )
        plans = [(number, course, log) for number, _, course, log in logged]
        works.begin(about, partial(season, plans))
    return RedirectResponse("/season", status_code=303)


def _row(each: Gone, display: Display) -> CourseRow:
    return CourseRow(
        each.id,
        each.name,
        display.mass(each.unused_g),
        display.mass(each.carried_g),
        f"{each.unused_share:.0%}",
        counted(each.nights, "night"),
    )
