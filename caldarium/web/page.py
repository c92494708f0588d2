"""Rendering: one environment for all templates, and what every page knows."""

from collections.abc import Collection
from pathlib import Path
from typing import Any

from fastapi import Request
from fastapi.responses import HTMLResponse
from fastapi.templating import Jinja2Templates
from jinja2 import FileSystemBytecodeCache
from starlette.datastructures import FormData

from caldarium.core.assess import Assessment
from caldarium.core.lists.again import Lists, judge_again
from caldarium.core.lists.judge import Judged
from caldarium.core.lists.kept import not_there
from caldarium.core.physics.air import precipitation_kind
from caldarium.core.plan.course import Course
from caldarium.core.reassess import Assessed, reassess
from caldarium.core.what_if.idle import Idle, idle_pieces
from caldarium.drawings.svg import state_marks
from caldarium.store.courses import Courses, Held
from caldarium.store.logs import Logs
from caldarium.web.bar import Bar, bar_of
from caldarium.web.parts import SHOWN, only_changed, shown_parts
from caldarium.web.urls import back_to, course_url, store_url, with_query
from caldarium.web.work import Works
from caldarium.words.course import counted, weekday
from caldarium.words.lists import packed_name
from caldarium.words.load import candidate_words
from caldarium.words.night import shelter_label
from caldarium.words.overview import standing_words
from caldarium.words.stock import loan_words, query_words
from caldarium.words.units import Display, clock_text, hours_text
from caldarium.words.weather import hint_words, spread_source

KEPT_COURSES = 8
"""Courses whose last assessment stays in memory."""
KEPT_IDLE = 200
"""People of states of courses of whom what is idle stays in memory."""
TEMPLATES = Jinja2Templates(directory=Path(__file__).parent / "templates")
TEMPLATES.env.globals.update(
    weekday=weekday,
    with_query=with_query,
    clock=clock_text,
    hours_text=hours_text,
    state_marks=state_marks,
    query_words=query_words,
    hint_words=hint_words,
    spread_source=spread_source,
    course_url=course_url,
    store_url=store_url,
    candidate_words=candidate_words,
    packed_name=packed_name,
    loan_words=loan_words,
    counted=counted,
    shelter_label=shelter_label,
    standing_words=standing_words,
    falls_as=lambda bulb: str(precipitation_kind(bulb)),
)
TEMPLATES.env.trim_blocks = True
TEMPLATES.env.bytecode_cache = FileSystemBytecodeCache()
TEMPLATES.env.lstrip_blocks = True


def display_of(request: Request) -> Display:
    """Units chosen in this browser."""
    return Display(customary=request.cookies.get("units") == "customary")


def strips_for(request: Request) -> tuple[bool, bool]:
    """Whether this browser needs the strip of the whole course, and that of one day.

    A page that has run says how wide its window is; before that both are sent.
    """
    width = request.cookies.get("window")
    return width != "narrow", width != "wide"


def courses_of(request: Request) -> Courses:
    """The store behind this application."""
    return request.app.state.courses


def logs_of(request: Request) -> Logs:
    """What happened on courses."""
    return request.app.state.logs


def works_of(request: Request) -> Works:
    """The long work of this application."""
    return request.app.state.works


def assessed(request: Request, number: int, course: Course, *, kept: bool = True) -> Assessment:
    """The assessment of a course, computed from the last one where that is known.

    A course turned by the dial is not kept, so that the plan itself stays at hand.
    """
    known: dict[int, Assessed] = request.app.state.assessed
    found = reassess(course, known.get(number))
    if kept:
        known[number] = found
        while len(known) > KEPT_COURSES:
            known.pop(next(iter(known)), None)
    return found.result


def idle_of(request: Request, held: Held, result: Assessment, person: str) -> Idle:
    """What one person can leave at home, tried once for each state of a course."""
    return idles_of(request, held, result, (person,))[person]


def idles_of(
    request: Request, held: Held, result: Assessment, people: Collection[str]
) -> dict[str, Idle]:
    """What people can leave at home, by person; those that are not known yet tried together."""
    known: dict[tuple[int, str, str], Idle] = request.app.state.idle
    found = {who: known.get((held.id, held.mark, who)) for who in people}
    missing = tuple(who for who, idle in found.items() if idle is None)
    if missing:
        fresh = idle_pieces(held.course, result, missing)
        known.update({(held.id, held.mark, who): fresh[who] for who in missing})
        while len(known) > KEPT_IDLE:
            known.pop(next(iter(known)), None)
        found |= fresh
    return {who: idle for who, idle in found.items() if idle is not None}


def judged_of(request: Request, held: Held, result: Assessment) -> tuple[Judged, ...]:
    """What a course's lists say, from what they said before a change where that is known."""
    if not held.course.lists:
        return ()
    known: dict[int, tuple[str, Lists]] = request.app.state.judged
    mark, found = known.get(held.id, ("", None))
    if found is None or mark != held.mark:
        found = judge_again(held.course, result.timeline, found)
        known[held.id] = (held.mark, found)
        while len(known) > KEPT_COURSES:
            known.pop(next(iter(known)), None)
    return found.judged


def wants_part(request: Request) -> bool:
    """Whether a page's script asks for the part it redraws, not for the whole page."""
    asked = request.headers
    return "hx-request" in asked and "hx-boosted" not in asked


def page(
    request: Request, template: str, *panels: object, status: int = 200, **context: Any
) -> HTMLResponse:
    """A rendered template.

    Args:
        request: what is answered.
        template: its name.
        panels: small values, one for each part of the page, whose fields the template knows by
            their names; two never share one.
        status: of the answer.
        context: what belongs to no panel.
    """
    for panel in panels:
        fields = vars(panel)
        assert not fields.keys() & context.keys(), "two panels share a name"
        context |= fields
    here = _address_of(request)
    held = context.get("held")
    known = {
        "bar": _bar(request, held, here) if isinstance(held, Held) else None,
        "static": request.app.state.static_url,
        "display": display_of(request),
        "night": request.cookies.get("light") == "low",
        "here_now": here,
    }
    response = TEMPLATES.TemplateResponse(request, template, known | context, status_code=status)
    body = bytes(response.body).decode()
    if "data-part=" in body:
        shown = shown_parts(request.headers.get(SHOWN, "")) if wants_part(request) else {}
        response.body = only_changed(body, shown).encode()
        response.headers["content-length"] = str(len(response.body))
    if known["bar"] and request.method == "POST" and wants_part(request):
        # A part that a change redraws brings the bar along, which stands outside it.
        bar = TEMPLATES.get_template("course_nav.html").render(bar=known["bar"], beside_a_part=True)
        response.body = bytes(response.body) + bar.encode()
        response.headers["content-length"] = str(len(response.body))
    return response


def _bar(request: Request, held: Held, here: str) -> Bar:
    """The bar of the course that a page is of."""
    result = assessed(request, held.id, held.course)
    open_lines = not_there(held.course, judged_of(request, held, result))
    return bar_of(held.id, held.course, result, here.partition("?")[0], open_lines)


def _address_of(request: Request) -> str:
    """The page that is shown: the one asked for, or, in answer to a change, the one it was made
    from."""
    if request.method in ("GET", "HEAD"):
        query = f"?{request.url.query}" if request.url.query else ""
        return request.url.path + query
    asked = request.headers.get("hx-current-url") or request.headers.get("referer", "")
    _, _, path = asked.partition("://")
    return back_to("/" + path.partition("/")[2], "/")


def refusal_page(
    request: Request, message: str, back: str = "/", status: int = 200
) -> HTMLResponse:
    """A page that says why something was not done, and offers what was sent once more."""
    sent: FormData | None = getattr(request.state, "sent", None)
    again = [
        (name, value)
        for name, value in (sent.multi_items() if sent else ())
        if isinstance(value, str)
    ]
    posted = request.method not in ("GET", "HEAD")
    return page(
        request,
        "fault.html",
        status=status,
        message=message,
        back=back,
        posted=posted,
        again=again if posted else [],
        action=request.url.path,
    )
