"""One undo and redo for a course, from every page of it; and what happened to it meanwhile."""

from urllib.parse import parse_qs, urlsplit

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.plan.course import Course
from caldarium.core.timeline.moments import build_timeline
from caldarium.store.courses import MeanwhileError, MovedOnError
from caldarium.web.editing import MARK, MINE_OVER
from caldarium.web.forms import Texts, whole
from caldarium.web.page import courses_of, display_of, page, refusal_page, wants_part
from caldarium.web.urls import back_to, course_url, with_query
from caldarium.words.changes import clash_words

router = APIRouter()


@router.post("/courses/{number}/undo")
def undo(request: Request, number: int, form: Texts) -> Response:
    """One step back, and back to the page it was asked from."""
    courses_of(request).undo(number, form.get(MARK, ""))
    return _back(request, number, form)


@router.post("/courses/{number}/redo")
def redo(request: Request, number: int, form: Texts) -> Response:
    """One step forward again."""
    courses_of(request).redo(number, form.get(MARK, ""))
    return _back(request, number, form)


def _back(request: Request, number: int, form: Texts) -> Response:
    course = courses_of(request).get(number).course
    address = back_to(form.get("back", ""), course_url(number))
    return RedirectResponse(_still_there(address, number, course), status_code=303)


def _still_there(address: str, number: int, course: Course) -> str:
    """An address without the person, moment or thing that went with the step taken back."""
    split = urlsplit(address)
    people = {each.id for each in course.people}
    if split.path.startswith(course_url(number, "people/")) and (
        split.path.rpartition("/")[2] not in people
    ):
        return course_url(number)
    query = {name: values[-1] for name, values in parse_qs(split.query).items()}
    moments = {each.id for each in build_timeline(course).moments}
    for name in list(query):
        if name.endswith("person") or (name == "beside" and "." not in query[name]):
            known = people
        elif name.endswith("moment"):
            known = moments
        else:
            continue
        if query[name] not in known:
            del query[name]
    return with_query(split.path, **query)


def meanwhile_page(request: Request, fault: MeanwhileError) -> HTMLResponse:
    """What somebody else changed too, beside one's own, to choose."""
    sent = getattr(request.state, "sent", None)
    again = [
        (name, value)
        for name, value in (sent.multi_items() if sent else ())
        if isinstance(value, str) and name != MINE_OVER
    ]
    display = display_of(request)
    return page(
        request,
        "meanwhile_part.html" if wants_part(request) else "meanwhile.html",
        status=409,
        clashes=[clash_words(each, display) for each in fault.clashes],
        theirs=fault.theirs,
        stands=fault.stands,
        step=not fault.clashes and request.url.path.endswith(("/undo", "/redo")),
        again=again,
        mark=MARK,
        mine_over=MINE_OVER,
        action=request.url.path,
        back=back_to(dict(again).get("back", ""), _course_page(request)),
    )


def moved_on_page(request: Request, _fault: MovedOnError) -> HTMLResponse:
    """That a form was made from a state which is gone."""
    message = (
        "Not kept: this page showed a state of the course that has been taken back since. What "
        "you sent is below; look at the course as it stands now, then send it again if it still "
        "fits."
    )
    return refusal_page(request, message, _course_page(request), 410)


def _course_page(request: Request) -> str:
    """The page of the course that a request is about, by its address or its form."""
    sent = getattr(request.state, "sent", None)
    told = request.path_params.get("number") or (sent.get("course") if sent else None)
    number = whole(str(told or ""))
    return course_url(number) if number else "/"
