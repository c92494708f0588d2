"""All logged courses together: chances, what was carried and never used, what pieces do."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.assess import assess
from caldarium.core.log.chances import reliability
from caldarium.core.log.debrief import debrief, worn_course
from caldarium.core.log.learned import teach
from caldarium.core.log.right import lows, outcomes
from caldarium.core.log.season import Season, over_years
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Log
from caldarium.core.what_if.progress import Heard
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
    found: list[Season] = (work.outcome if work else None) or []
    said = [each for course in found for each in course.outcomes]
    judged = reliability([(each.chance, each.short) for each in said])
    measured = [each for course in found for each in course.lows]
    return page(
        request,
        "log/season.html",
        work=work,
        logged=len(logged),
        rows=[_row(each, display) for each in found],
        lows=log_words.lows_sentence(measured, display),
        bands=learned_words.bands_sentence(measured),
        drawn=chances(judged, BIN_WORDS) if judged.count else None,
        chance_sentence=learned_words.reliability_sentence(judged),
        chance_steps=learned_words.explain_reliability(judged),
        by=bias_rows(None, said),
        pieces=[
            (
                each.tag,
                each.name,
                words.over_years_words(each, display),
                each.nights,
                each.courses,
            )
            for each in over_years(found)
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
        works.begin(about, partial(_seasons, logged))
    return RedirectResponse("/season", status_code=303)


def _seasons(logged: Logged, heard: Heard) -> list[Season]:
    found: list[Season] = []
    for at, (number, _, course, log) in enumerate(logged):
        heard(at / len(logged))
        teaching = teach(course, log)
        said = outcomes(teaching)
        plan = worn_course(teaching)
        left = debrief(teaching, said, assess(plan))
        carried = sum(piece.mass_g for person in course.people for piece in person.garments)
        found.append(
            Season(number, course.name, teaching, said, lows(teaching), left.unused, carried)
        )
    return found


def _row(each: Season, display: Display) -> CourseRow:
    grams = sum(piece.grams for piece in each.unused)
    share = grams / each.carried_g if each.carried_g else 0.0
    nights = sum(outcome.kind == "night" for outcome in each.outcomes)
    return CourseRow(
        each.id,
        each.name,
        display.mass(grams),
        display.mass(each.carried_g),
        f"{share:.0%}",
        counted(nights, "night"),
    )
