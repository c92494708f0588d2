"""What the store would need for the courses of a season: looked for beside the pages."""

from collections.abc import Callable
from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.lighten.lever import Levers, Missing, levers, missing
from caldarium.core.plan.course import Course
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.what_if.progress import Heard
from caldarium.store.courses import Courses
from caldarium.store.pieces import Pieces, mark_of
from caldarium.web.forms import Texts
from caldarium.web.page import courses_of, display_of, page, works_of
from caldarium.web.stock.lending import supply_for
from caldarium.words import lighten as words

router = APIRouter()
MOST_SHOWN = 20
"""Pieces on the page, those first that close most."""
About = tuple[str, tuple[tuple[int, str], ...], int]


@dataclass(frozen=True)
class Season:
    """What the store lacks for some courses, and how many those are."""

    courses: int
    missing: list[Missing]


@dataclass(frozen=True)
class MissingRow:
    """A piece that the store lacks: in a sentence, the mass of one, and which courses want it."""

    told: str
    grams: str
    courses: tuple[str, ...]


def _about(request: Request, courses: Courses) -> About:
    """What a search is about: every course as it is, and the store as it is."""
    known = tuple((row.id, courses.get(row.id).mark) for row in courses.list())
    stored: Pieces = request.app.state.pieces
    return ("missing", known, hash(tuple(mark_of(piece) for piece in stored.all())))


def season_task(courses: list[tuple[Course, Supply]]) -> Callable[[Heard], Season]:
    """The work that tries every piece on everybody of every course.

    Pieces of the store that nobody has are given first; what more would help is missing.
    """

    def work(heard: Heard) -> Season:
        found: list[tuple[Course, Levers]] = []
        for at, (course, supply) in enumerate(courses):

            def part(share: float, at: int = at) -> None:
                heard((at + share) / len(courses))

            timeline = build_timeline(course)
            found.append((course, levers(course, timeline, supply, ["store", "buy"], part)))
        stocked = {piece.like for _, supply in courses for piece in supply.stored if piece.like}
        return Season(len(courses), missing(found, stocked))

    return work


@router.get("/store/missing")
def show(request: Request) -> HTMLResponse:
    """What the store lacks, as far as it is looked for."""
    work = works_of(request).of(_about(request, courses_of(request)))
    season = work.outcome if work and isinstance(work.outcome, Season) else None
    display = display_of(request)
    rows = [
        MissingRow(words.missing_words(each), display.mass(each.piece.mass_g), each.courses)
        for each in (season.missing[:MOST_SHOWN] if season else [])
    ]
    return page(
        request,
        "stock/missing.html",
        work=work,
        season=season,
        rows=rows,
        count=len(courses_of(request).list()),
        missing_steps=words.explain_missing(season.courses, season.missing) if season else [],
    )


@router.post("/store/missing")
def change(request: Request, form: Texts) -> Response:
    """Look through every course, or stop."""
    courses, works = courses_of(request), works_of(request)
    about = _about(request, courses)
    if form.get("act") == "stop":
        works.stop(about)
    else:
        works.stop_where(lambda other: isinstance(other, tuple) and other[:1] == about[:1])
        held = [courses.get(row.id) for row in courses.list()]
        asked = [(each.course, supply_for(request, each.id, each.course)) for each in held]
        works.begin(about, season_task(asked))
    return RedirectResponse("/store/missing", status_code=303)
