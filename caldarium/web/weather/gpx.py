"""GPX: look at a way, cut it, take it as legs; and a course's ways out again."""

import secrets
from collections import OrderedDict
from typing import Annotated

from fastapi import APIRouter, File, Form, Request, UploadFile
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from caldarium.core.plan.track import Track, parts, totals
from caldarium.core.plan.way_legs import Cut, cuts_text, parse_cuts, proposed_cuts, with_way
from caldarium.drawings.way import way_profile
from caldarium.formats.course_json import describe
from caldarium.formats.fault import FileError
from caldarium.formats.gpx_files import read_gpx, write_gpx
from caldarium.web.page import courses_of, display_of, page
from caldarium.words.steps_weather import explain_way

router = APIRouter()
KEPT_WAYS = 8


class Ways:
    """Ways that are being looked at and not yet taken, the last few, in memory."""

    def __init__(self) -> None:
        self._kept: OrderedDict[str, tuple[str, Track]] = OrderedDict()

    def keep(self, name: str, track: Track) -> str:
        """Remember a way; returns its key."""
        key = secrets.token_urlsafe(12)
        self._kept[key] = name, track
        while len(self._kept) > KEPT_WAYS:
            self._kept.popitem(last=False)
        return key

    def find(self, key: str) -> tuple[str, Track] | None:
        """A remembered way with its file's name."""
        return self._kept.get(key)


def _gpx_page(
    request: Request,
    number: int,
    *,
    key: str = "",
    cuts: str = "",
    first_day: str = "1",
    errors: dict[str, str] | None = None,
) -> HTMLResponse:
    held = courses_of(request).get(number)
    errors = dict(errors or {})
    kept = request.app.state.ways.find(key)
    context: dict = {}
    if kept is not None:
        name, track = kept
        marked: list[Cut] = []
        try:
            marked = parse_cuts(cuts)
            pieces = parts(track, [cut.at for cut in marked])
        except ValueError as fault:
            errors.setdefault("cuts", str(fault))
            marked = []
            pieces = parts(track, []) if track.has_heights else []
        found = totals(pieces)
        context = {
            "file": name,
            "track": track,
            "pieces": pieces,
            "marked": marked,
            "profile": way_profile(track, marked, display_of(request)) if pieces else "",
            "totals": found,
            "steps": explain_way(found, display_of(request)),
        }
    return page(
        request,
        "weather/gpx.html",
        held=held,
        course=held.course,
        key=key if kept else "",
        cuts=cuts,
        first_day=first_day,
        errors=errors,
        **context,
    )


@router.get("/courses/{number}/gpx")
def show(
    request: Request, number: int, key: str = "", cuts: str = "", first_day: str = "1"
) -> HTMLResponse:
    """The form for a file, and the way that is looked at."""
    return _gpx_page(request, number, key=key, cuts=cuts, first_day=first_day)


@router.post("/courses/{number}/gpx")
async def look(request: Request, number: int, file: Annotated[UploadFile, File()]) -> Response:
    """Read a file and show its way; nothing of the course changes."""
    held = courses_of(request).get(number)
    name = file.filename or "the file"
    data = await file.read()
    try:
        track = await run_in_threadpool(read_gpx, data)
        cuts = cuts_text(proposed_cuts(track, len(held.course.days)))
    except (FileError, ValueError) as fault:
        message = f"{name}: {fault}. Nothing was changed."
        return _gpx_page(request, number, errors={"file": message})
    if not track.has_heights:
        message = (
            f"{name}: {track.distance[-1]:.1f} km without heights. Type the legs by hand, or add "
            "heights to the file. Nothing was changed."
        )
        return _gpx_page(request, number, errors={"file": message})
    key = request.app.state.ways.keep(name, track)
    return _gpx_page(request, number, key=key, cuts=cuts)


@router.post("/courses/{number}/gpx/take")
def take(
    request: Request,
    number: int,
    key: Annotated[str, Form()] = "",
    cuts: Annotated[str, Form()] = "",
    first_day: Annotated[str, Form()] = "1",
    action: Annotated[str, Form()] = "take",
) -> Response:
    """Make the way's pieces the legs of the course, in one step; or only look again."""
    kept = request.app.state.ways.find(key)
    if kept is None:
        gone = {"file": "That way is no longer in memory: choose its file again."}
        return _gpx_page(request, number, errors=gone)
    days = len(courses_of(request).get(number).course.days)
    if not first_day.isdigit() or not 1 <= int(first_day) <= days:
        wrong = {"first_day": f"a day from 1 to {days}"}
        return _gpx_page(request, number, key=key, cuts=cuts, first_day=first_day, errors=wrong)
    if action != "take":
        return _gpx_page(request, number, key=key, cuts=cuts, first_day=first_day)
    name, track = kept
    try:
        marked = parse_cuts(cuts)
        courses_of(request).change(
            number, f"way of {name}", lambda now: with_way(now, track, marked, int(first_day) - 1)
        )
    except ValueError as fault:
        message = describe(fault) if isinstance(fault, ValidationError) else str(fault)
        return _gpx_page(
            request, number, key=key, cuts=cuts, first_day=first_day, errors={"cuts": message}
        )
    return RedirectResponse(f"/courses/{number}/route", status_code=303)


@router.get("/courses/{number}/export.gpx")
def export(request: Request, number: int) -> Response:
    """The course's ways and camps as GPX."""
    course = courses_of(request).get(number).course
    return Response(
        write_gpx(course),
        media_type="application/gpx+xml",
        headers={"Content-Disposition": f'attachment; filename="course-{number}.gpx"'},
    )
