"""The store: found by a few letters, edited one by one or in bulk, out as CSV and as labels."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date
from typing import Annotated, get_args

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError
from starlette.datastructures import FormData

from caldarium.catalogue import load_catalogue, usual_masses
from caldarium.core.plan.kit import Label, MassFrom
from caldarium.core.stock.inventory import (
    Condition,
    Fly,
    Owner,
    Stored,
    queries,
    told,
    with_defaults,
)
from caldarium.core.stock.issue import give
from caldarium.core.stock.kinds import KINDS
from caldarium.core.stock.lending import days_of, left_of, loans_for
from caldarium.drawings.label import label_code
from caldarium.formats.gear_csv import (
    COLUMNS,
    fresh_tag,
    read_cell,
    write_gear,
    written_cell,
)
from caldarium.store.pieces import Pieces, mark_of
from caldarium.web.editing import editing
from caldarium.web.forms import MOST, Sent, Texts, read, whole, written
from caldarium.web.page import courses_of, display_of, page
from caldarium.web.stock.lending import lending_of, refused
from caldarium.web.urls import back_to, store_url
from caldarium.words.faults import error_text, fault_text
from caldarium.words.stock import refusal_words
from caldarium.words.units import DEFAULT_UNIT, Display

router = APIRouter()
PAGE = 50
MOST_LABELS = 400
"""Labels on one page to print."""
ALWAYS = (
    "tag",
    "name",
    "kind",
    "mass",
    "count",
    "owner",
    "owner name",
    "size",
    "condition",
    "checked",
    "mass from",
    "weighed on",
    "cost",
    "place",
    "packed",
    "fly",
)
OPTIONS = {
    "kind": tuple(KINDS),
    "owner": get_args(Owner),
    "condition": get_args(Condition),
    "fly": get_args(Fly),
    "label": get_args(Label),
    "mass from": get_args(MassFrom),
}
RETIRES = {"retire": True, "bring back": False}
DONE = ("found today", "washed", "mended")
"""What can be said to have happened to pieces, one by one or in bulk."""
BULK = ("owner", "condition", "fly")
BY_FIELD = {field: header for header, (field, _) in COLUMNS.items()}
LABELS = {
    "fly": "may fly",
    "like": "as warm as the catalogue's",
    "label": "label says",
    "label temperature": "label's figure",
}
HINTS = {
    "mass": "as 1 lb 3 oz or 540 g",
    "checked": "as 2026-09-21",
    "capacity": "1.5 L, 32 fl oz",
    "like": "warmth as this piece of the catalogue",
}


def pieces_of(request: Request) -> Pieces:
    """The store behind this application."""
    return request.app.state.pieces


@dataclass(frozen=True)
class Shown:
    """A field of a piece's form; choices where there are only some."""

    header: str
    label: str
    text: str
    error: str
    options: tuple[str, ...]
    hint: str
    estimated: bool


@dataclass(frozen=True)
class Look:
    """What of the store is looked at, and for whom; what was ticked and chosen stays."""

    q: str = ""
    kind: str = ""
    retired: bool = False
    first: int = 0
    course: int = 0
    person: str = ""
    ticked: frozenset[str] = frozenset()
    action: str = ""
    value: str = ""


def _look_of(form: FormData) -> Look:
    """The look that a form was sent from."""
    first, course = str(form.get("first", "")), str(form.get("course", ""))
    return Look(
        q=str(form.get("q", "")),
        kind=str(form.get("kind", "")),
        retired=form.get("retired") == "True",
        first=whole(first) or 0,
        course=whole(course) or 0,
        person=str(form.get("person", "")),
        ticked=frozenset(str(each) for each in form.getlist("tag")),
        action=str(form.get("action", "")),
        value=str(form.get("value", "")),
    )


@router.get("/store")
def show(
    request: Request,
    q: Annotated[str, Query()] = "",
    kind: Annotated[str, Query()] = "",
    retired: Annotated[bool, Query()] = False,
    first: Annotated[int, Query(le=MOST)] = 0,
    course: Annotated[int, Query(le=MOST)] = 0,
    person: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """The store, or what of it a few letters find."""
    return store_page(request, Look(q, kind, retired, max(first, 0), course, person))


def store_page(request: Request, look: Look, message: str = "") -> HTMLResponse:
    pieces = pieces_of(request)
    found = pieces.find(look.q, look.kind, retired=look.retired, first=look.first, most=PAGE)
    asks_part = request.headers.get("hx-request") and not request.headers.get("hx-boosted")
    whom, whom_mark, days = None, "", (date.today(), date.today())
    loans = lending_of(request).all()
    if look.course and look.person:
        held = courses_of(request).get(look.course)
        whom, whom_mark = held.course.person(look.person), held.mark
        days = days_of(held.course)
    return page(
        request,
        "stock/store_found.html" if asks_part else "stock/store.html",
        found=found,
        look=look,
        most=PAGE,
        kinds=tuple(KINDS),
        message=message,
        undo=pieces.last_change(),
        options=OPTIONS,
        whom=whom,
        whom_mark=whom_mark,
        asked={piece.tag: queries(piece, usual_masses()) for piece in found.pieces},
        out={piece.tag: loans_for(piece, loans) for piece in found.pieces},
        left={piece.tag: left_of(piece, loans_for(piece, loans), *days) for piece in found.pieces},
        done=DONE,
    )


@router.get("/store/piece")
def piece(
    request: Request, tag: Annotated[str, Query()] = "", kind: Annotated[str, Query()] = ""
) -> HTMLResponse:
    """One piece, or the form for a new one of a kind."""
    if tag:
        return _piece_page(request, pieces_of(request).get(tag))
    chosen = kind if kind in KINDS else "garment"
    blank = {"tag": "", "name": "", "kind": chosen, "mass": ""}
    return _form(request, chosen, blank, {}, None)


def _piece_page(request: Request, stored: Stored) -> HTMLResponse:
    return _form(request, stored.kind, _texts(stored, display_of(request)), {}, stored)


def _texts(stored: Stored, display: Display) -> dict[str, str]:
    """What stands in a piece's fields, in the units of this browser."""
    found: dict[str, str] = {}
    for header, (field, reads) in COLUMNS.items():
        text = written_cell(stored, header)
        found[header] = (
            written(getattr(stored, field), reads, display)
            if (text and reads in DEFAULT_UNIT and reads != "number")
            else text
        )
    return found


def _form(
    request: Request,
    kind: str,
    texts: Mapping[str, str],
    errors: Mapping[str, str],
    stored: Stored | None,
) -> HTMLResponse:
    asked = KINDS[kind].asks if kind in KINDS else ()
    headers = [*ALWAYS, *(BY_FIELD[field] for field in asked)]
    if asked and "like" not in asked and KINDS[kind].like:
        headers.append("like")
    estimated = stored.estimated if stored else ()
    catalogue = load_catalogue()
    shelves = {
        **catalogue.garments,
        **catalogue.hammocks,
        **catalogue.shelters,
        **catalogue.bags,
        **catalogue.pads,
        **catalogue.liners,
        **catalogue.covers,
    }
    fields = [
        Shown(
            header,
            LABELS.get(header, header),
            texts.get(header, ""),
            errors.get(header, ""),
            ("", *shelves) if header == "like" else OPTIONS.get(header, ()),
            HINTS.get(header, ""),
            COLUMNS[header][0] in estimated,
        )
        for header in headers
    ]
    history = pieces_of(request).history(stored.tag) if stored else []
    return page(
        request,
        "stock/store_piece.html",
        fields=fields,
        stored=stored,
        kind=kind,
        kinds=tuple(KINDS),
        mark=mark_of(stored) if stored else "",
        asked=queries(stored, usual_masses()) if stored else [],
        loans=loans_for(stored, lending_of(request).all()) if stored else [],
        masses=pieces_of(request).masses(stored.tag) if stored else [],
        done=DONE,
        today=date.today(),
        history=history,
        other=errors.get("", ""),
    )


@router.post("/store/piece")
def keep(request: Request, form: Texts) -> Response:
    """Keep a piece as the form has it; what is wrong is shown where it was typed."""
    pieces = pieces_of(request)
    was = form.get("was", "")
    before = pieces.known([was]).get(was.lower()) if was else None
    display = display_of(request)
    texts = {header: form[header] for header in COLUMNS if header in form}
    base = pieces.seen(was, form["mark"]) if before and form.get("mark") else before
    if before is not None and base is None:
        errors = {"": "Not kept: it has been changed since, more than once. Look at it again."}
        return _form(request, before.kind, texts, errors, before)
    shown = _texts(base, display) if base else {}
    figures, errors = _read_piece(texts, shown, display)
    if before is not None and base is not None:
        texts = _texts(before, display) | {
            header: text for header, text in texts.items() if text.strip() != shown.get(header, "")
        }
        errors |= _meanwhile(base, before, figures, display)
    if not figures.get("tag"):
        figures["tag"] = was or fresh_tag(form.get("kind", ""), pieces.tags(), {})
    taken = pieces.known([str(figures["tag"])])
    if taken and str(figures["tag"]).lower() != was.lower():
        errors["tag"] = f"{figures['tag']} is {next(iter(taken.values())).name} already"
    elif before is not None and str(figures["tag"]).lower() != was.lower():
        errors["tag"] = "a tag stays; duplicate the piece under another one"
    kind = form.get("kind", "garment")
    if not errors:
        try:
            after = told(before, figures) if before else Stored.model_validate(figures)
            after = with_defaults(after)
            words = f"{after.name} {'changed' if before else 'added'}"
            pieces.put([after], words)
            return _to_piece(after.tag)
        except ValidationError as fault:
            errors = _errors(fault, display)
    return _form(request, kind, texts, errors, before)


def _meanwhile(
    base: Stored, now: Stored, figures: Mapping[str, object], display: Display
) -> dict[str, str]:
    """Fields that somebody else changed too, each with what stands there now."""
    texts = _texts(now, display)
    return {
        header: f"meanwhile changed to {texts[header] or 'nothing'}; keep again to take yours"
        for header, (field, _) in COLUMNS.items()
        if field in figures and getattr(now, field) not in (getattr(base, field), figures[field])
    }


def _read_piece(
    texts: Mapping[str, str], shown: Mapping[str, str], display: Display
) -> tuple[dict[str, object], dict[str, str]]:
    """Figures of a piece that were changed from what was shown, and messages for those that
    cannot be read; what is emptied goes back to what it is for a piece of which nothing is said."""
    figures: dict[str, object] = {}
    errors: dict[str, str] = {}
    for header, typed in texts.items():
        text = typed.strip()
        field, reads = COLUMNS[header]
        if text == shown.get(header, ""):
            if not text and header in ("name", "mass"):
                errors[header] = "is needed"
            continue
        if not text:
            if header in ("name", "mass", "kind"):
                errors[header] = "is needed"
            figures[field] = Stored.model_fields[field].get_default(call_default_factory=True)
            continue
        try:
            quantity = reads in DEFAULT_UNIT and reads != "number"
            figures[field] = read(text, reads, display)[0] if quantity else read_cell(header, text)
        except ValueError as fault:
            errors[header] = str(fault)
    return figures, errors


def _errors(fault: ValidationError, display: Display) -> dict[str, str]:
    found: dict[str, str] = {}
    for error in fault.errors():
        header = BY_FIELD.get(str(error["loc"][0]), "") if error["loc"] else ""
        found[header] = error_text(error, display)
    return found


def _to_piece(tag: str) -> Response:
    return RedirectResponse(store_url("piece", tag=tag), status_code=303)


@router.post("/store/duplicate")
def duplicate(request: Request, tag: Annotated[str, Form()] = "") -> Response:
    """One more like it, under a fresh tag."""
    pieces = pieces_of(request)
    source = pieces.get(tag)
    fresh = fresh_tag(source.kind, pieces.tags(), {})
    pieces.put([source.altered(tag=fresh, retired=False)], f"{source.name} once more")
    return _to_piece(fresh)


@router.post("/store/bulk")
def bulk(request: Request, sent: Sent) -> Response:
    """One change to every ticked piece, in one step."""
    look = _look_of(sent)
    pieces = pieces_of(request)
    chosen = list(pieces.known(look.ticked).values())
    if not chosen:
        return store_page(request, look, "Nothing was ticked.")
    if look.action == "labels":
        return RedirectResponse(store_url("labels", tag=[each.tag for each in chosen]), 303)
    if look.action in RETIRES:
        changes: dict[str, object] = {"retired": RETIRES[look.action]}
    elif look.action in DONE:
        words = f"{len(chosen)} piece{'s' * (len(chosen) > 1)}: {look.action}"
        pieces.put([_happened(each, look.action) for each in chosen], words)
        return store_page(request, replace(look, ticked=frozenset()), f"{words}.")
    elif look.value in OPTIONS.get(look.action, ()) and look.action in BULK:
        changes = {look.action: look.value}
    else:
        words = look.value or look.action
        return store_page(
            request, look, f"“{words}” does not go with “{look.action}”: choose again."
        )
    words = f"{len(chosen)} piece{'s' * (len(chosen) > 1)}: {look.value or look.action}"
    pieces.put([each.altered(**changes) for each in chosen], words)
    return store_page(request, replace(look, ticked=frozenset()))


def _happened(piece: Stored, what: str) -> Stored:
    """The piece after something happened to it today."""
    if what == "washed":
        return piece.altered(washes=piece.washes + 1, checked=date.today())
    if what == "mended":
        return piece.altered(condition="good", checked=date.today())
    return piece.altered(checked=date.today())


@router.post("/store/happened")
def happened(
    request: Request, tag: Annotated[str, Form()] = "", what: Annotated[str, Form()] = ""
) -> Response:
    """Say what happened to one piece today."""
    pieces = pieces_of(request)
    piece = pieces.get(tag)
    if what in DONE:
        pieces.put([_happened(piece, what)], f"{piece.name} {what}")
    return _to_piece(piece.tag)


@router.get("/store/labels")
def labels(
    request: Request,
    tag: Annotated[list[str] | None, Query()] = None,
    q: Annotated[str, Query()] = "",
    kind: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """Labels to print, each with a code that a phone's camera reads as text."""
    pieces = pieces_of(request)
    if tag:
        chosen = list(pieces.known(tag).values())
    else:
        chosen = list(pieces.find(q, kind, most=MOST_LABELS).pieces)
    return page(
        request,
        "stock/labels.html",
        labels=[(each, label_code(each)) for each in chosen],
        most=MOST_LABELS,
    )


@router.post("/store/undo")
def undo(request: Request, back: Annotated[str, Form()] = "/store") -> Response:
    """One step back, and back to where it was asked for."""
    pieces_of(request).undo()
    return RedirectResponse(back_to(back, "/store"), status_code=303)


@router.post("/store/give")
def give_piece(request: Request, form: Texts) -> Response:
    """Give a piece to a member of a course."""
    stored = pieces_of(request).get(form.get("tag", ""))
    number, person = whole(form.get("course")) or 0, form.get("person", "")
    edit, catalogue = editing(request, number, form), load_catalogue()
    name = edit.course.person(person).name.split()[0]
    missing = refused(request, edit.course, [stored])
    if missing:
        told_why = refusal_words(*missing[0]) + "."
        return store_page(request, Look(course=number, person=person), told_why)
    try:
        edit.keep(
            f"{name}: {stored.name} ({stored.tag}) from the store",
            lambda now: give(now, person, stored, catalogue.everything),
        )
    except ValidationError as fault:
        message = fault_text(fault, display_of(request))
        return store_page(request, Look(course=number, person=person), message)
    return RedirectResponse(store_url(course=number, person=person), status_code=303)


@router.get("/store/export")
def export(request: Request) -> Response:
    """The whole store as CSV."""
    return Response(
        write_gear(pieces_of(request).all(retired=True)),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="store.csv"'},
    )
