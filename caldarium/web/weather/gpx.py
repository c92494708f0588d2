"""GPX: look at a way, cut it, take it as legs; and a course's ways out again."""

import secrets
from collections import OrderedDict
from functools import partial

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.plan.refusal import refused
from caldarium.core.plan.track import Track, parts, totals
from caldarium.core.plan.way_legs import Cut, cuts_text, parse_cuts, proposed_cuts, with_way
from caldarium.drawings.way import way_profile
from caldarium.formats.gpx_files import read_gpx, write_gpx
from caldarium.web.editing import editing
from caldarium.web.forms import Sent, Texts, file_of, whole
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.urls import course_url
from caldarium.words.faults import fault_text
from caldarium.words.outline import far_sentence
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
            errors.setdefault("cuts", fault_text(fault, display_of(request)))
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
            "far": far_sentence(
                held.course.place,
                float(track.latitude[0]),
                float(track.longitude[0]),
                "way",
                display_of(request),
            ),
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
def look(request: Request, number: int, sent: Sent) -> Response:
    """Read a file and show its way; nothing of the course changes."""
    held, display = courses_of(request).get(number), display_of(request)
    name, data = file_of(sent)
    if not name:
        return _gpx_page(request, number, errors={"file": "Choose a file first."})
    try:
        track = read_gpx(data)
        if not track.has_heights:
            raise refused("no heights")
        cuts = cuts_text(proposed_cuts(track, len(held.course.days)))
    except ValueError as fault:
        message = f"{name}: {fault_text(fault, display)}. Nothing was changed."
        return _gpx_page(request, number, errors={"file": message})
    key = request.app.state.ways.keep(name, track)
    return _gpx_page(request, number, key=key, cuts=cuts)


@router.post("/courses/{number}/gpx/take")
def take(request: Request, number: int, form: Texts) -> Response:
    """Make the way's pieces the legs of the course, in one step; or only look again."""
    edit = editing(request, number, form)
    key, cuts, first_day = (form.get(name, "") for name in ("key", "cuts", "first_day"))
    kept = request.app.state.ways.find(key)
    if kept is None:
        gone = {"file": "That way is no longer in memory: choose its file again."}
        return _gpx_page(request, number, errors=gone)
    again = partial(_gpx_page, request, number, key=key, cuts=cuts, first_day=first_day)
    days = len(edit.course.days)
    first = whole(first_day, 1, days)
    if first is None:
        return again(errors={"first_day": f"a day from 1 to {days}"})
    if form.get("action", "take") != "take":
        return again()
    name, track = kept
    try:
        marked = parse_cuts(cuts)
        own = form.get("own_times") == "on" and track.has_times
        edit.keep(
            f"way of {name}",
            lambda now: with_way(now, track, marked, first - 1, own_times=own),
        )
    except ValueError as fault:
        return again(errors={"cuts": fault_text(fault, display_of(request))})
    return RedirectResponse(course_url(number, "route"), status_code=303)


@router.get("/courses/{number}/export.gpx")
def export(request: Request, number: int) -> Response:
    """The course's ways and camps as GPX."""
    course = courses_of(request).get(number).course
    return Response(
        write_gpx(course),
        media_type="application/gpx+xml",
        headers={"Content-Disposition": f'attachment; filename="course-{number}.gpx"'},
    )
