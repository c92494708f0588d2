"""Was the plan right: every night and moment that was told of, and chances against what came."""

from collections.abc import Sequence
from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.log.bands import band_factor, band_source, bands_off, with_bands
from caldarium.core.log.chances import biases, reliability
from caldarium.core.log.right import Outcome, on_scale
from caldarium.core.plan.course import Course
from caldarium.drawings.chances import chances
from caldarium.web.editing import editing
from caldarium.web.forms import Texts
from caldarium.web.log.logged import Logged, logged
from caldarium.web.page import display_of, page
from caldarium.web.urls import course_url
from caldarium.words import learned as words
from caldarium.words import log as log_words
from caldarium.words.course import moment_name
from caldarium.words.units import Display

router = APIRouter()
BIN_WORDS = "said {said}, happened {happened}, of {count}"


@dataclass(frozen=True)
class Row:
    """A night or moment: whose, which, how it felt, what was said, why it came so."""

    who: str
    when: str
    felt: str
    said: str
    why: str
    wrong: bool


@dataclass(frozen=True)
class BiasRow:
    """What was said and what came, of one kind."""

    by: str
    name: str
    said: str
    happened: str
    count: int


@router.get("/courses/{number}/log/right")
def show(request: Request, number: int) -> HTMLResponse:
    """This course's nights and moments against its plan."""
    found = logged(request, number)
    display = display_of(request)
    rows = [_row(found, each, display) for each in found.review.outcomes]
    judged = reliability([(each.chance, each.short) for each in found.review.outcomes])
    return page(
        request,
        "log/right.html",
        held=found.held,
        course=found.course,
        sentence=words.right_sentence(found.review.outcomes),
        lows=[
            (log_words.night_name(found.course, each.day), log_words.low_words(each, display))
            for each in found.review.lows
        ],
        low_steps=log_words.explain_lows(found.course, found.review.lows, display),
        wrong=[each for each in rows if each.wrong],
        as_said=[each for each in rows if not each.wrong],
        drawn=chances(judged, BIN_WORDS) if judged.count else None,
        chance_sentence=words.reliability_sentence(judged),
        chance_steps=words.explain_reliability(judged),
        by=bias_rows(found.course, found.review.outcomes),
        bands=words.bands_sentence(found.review.lows),
        bands_off=bands_off(found.course, found.teaching.lived.result.timeline, found.review.lows),
        pack_steps=words.explain_packs(on_scale(found.teaching), found.course, display),
        scaled=[
            (
                found.course.person(each.person).name,
                log_words.day_name(found.course, each.day),
                display.mass(each.measured_g),
                display.mass(each.computed_g),
                display.mass(each.measured_g - each.computed_g),
            )
            for each in on_scale(found.teaching)
        ],
    )


@router.post("/courses/{number}/log/right")
def change(request: Request, number: int, form: Texts) -> Response:
    """Widen or narrow this course's bands by what its nights showed."""
    factor = band_factor(logged(request, number).review.lows)
    edit = editing(request, number, form)
    if form.get("act") == "bands":
        edit.keep("bands by the log", lambda now: with_bands(now, factor, band_source(now)))
    return RedirectResponse(course_url(number, "log/right"), 303)


def _row(found: Logged, each: Outcome, display: Display) -> Row:
    course, timeline = found.teaching.lived.course, found.teaching.lived.result.timeline
    when = (
        f"night {log_words.night_name(course, each.day)}"
        if each.kind == "night"
        else moment_name(course, timeline.moment(each.moment))
    )
    return Row(
        course.person(each.person).name,
        when,
        log_words.FELT_NAMES[each.felt],
        words.outcome_said(each, display),
        words.WHY_NAMES[each.why],
        each.why != "as said",
    )


def bias_rows(course: Course | None, found: Sequence[Outcome]) -> list[BiasRow]:
    """What was said and what came by kind of moment, shelter and month."""
    return [
        BiasRow(
            each.by,
            words.bias_name(course, each),
            words.chance_words(each.said),
            words.chance_words(each.happened),
            each.count,
        )
        for each in biases(found)
    ]
