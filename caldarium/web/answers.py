"""What is answered where something cannot be done, each in words and with what was sent."""

from collections.abc import Callable
from typing import Any

from fastapi import Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import HTMLResponse
from sqlalchemy.exc import DatabaseError
from starlette.exceptions import HTTPException

from caldarium.core.plan.value import NotThereError
from caldarium.store.courses import MeanwhileError, MovedOnError, NoSuchCourseError
from caldarium.store.database import told_of
from caldarium.store.pieces import NoSuchPieceError
from caldarium.web.history import meanwhile_page, moved_on_page
from caldarium.web.page import refusal_page
from caldarium.web.urls import course_url

HTTP_WORDS = {
    404: "There is no such page here.",
    405: "That cannot be done at this address.",
}


def no_course(request: Request, _fault: NoSuchCourseError) -> HTMLResponse:
    """A course that is not there."""
    return refusal_page(request, "There is no such course here.", status=404)


def no_piece(request: Request, _fault: NoSuchPieceError) -> HTMLResponse:
    """A piece of the store that is not there."""
    return refusal_page(request, "There is no such piece in the store.", "/store", 404)


def not_there(request: Request, fault: NotThereError) -> HTMLResponse:
    """A part of a course that is not there; nothing takes its place."""
    number = request.path_params.get("number")
    message = f"There is no {fault.what} “{fault.identifier[:60]}” in this course any more."
    back = course_url(int(number)) if number else "/"
    return refusal_page(request, message, back, 404)


def unreadable(request: Request, fault: RequestValidationError) -> HTMLResponse:
    """An address or form whose figures cannot be read."""
    names = ", ".join(sorted({str(error["loc"][-1]) for error in fault.errors()}))
    return refusal_page(request, f"That cannot be read: {names}.", status=422)


def no_database(request: Request, fault: DatabaseError) -> HTMLResponse:
    """The disk or the database file does not do its part."""
    kept = "Not kept. " if request.method == "POST" else ""
    return refusal_page(request, kept + told_of(fault), str(request.url.path), 503)


def refused(request: Request, fault: HTTPException) -> HTMLResponse:
    """Everything that the framework refuses."""
    told = str(fault.detail)
    if fault.status_code in HTTP_WORDS:
        told = HTTP_WORDS[fault.status_code]
    return refusal_page(request, told, status=fault.status_code)


ANSWERS: dict[Any, Callable[[Request, Any], HTMLResponse]] = {
    NoSuchCourseError: no_course,
    NoSuchPieceError: no_piece,
    NotThereError: not_there,
    MeanwhileError: meanwhile_page,
    MovedOnError: moved_on_page,
    RequestValidationError: unreadable,
    DatabaseError: no_database,
    HTTPException: refused,
}
