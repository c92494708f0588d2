"""CSV into the store: looked at, its columns told, and written all at once or not at all."""

import secrets
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.stock.kinds import KINDS
from caldarium.core.what_if.progress import Heard, unheard
from caldarium.formats.fault import FileError
from caldarium.formats.gear_csv import COLUMNS, Preview, read_gear
from caldarium.store.csv_columns import CsvColumns
from caldarium.store.pieces import Pieces
from caldarium.web.forms import Sent, Texts, file_of
from caldarium.web.page import page, works_of
from caldarium.web.stock.store import Look, pieces_of, store_page
from caldarium.web.urls import store_url

router = APIRouter()
KEPT_FILES = 4
SHOWN = 40
MANY = 500
"""Rows from which a file is written beside the page, which counts them."""
NOTE = "note"
"""What a column is told to be that stays a note."""


@dataclass(frozen=True)
class Kept:
    """A file that is looked at: its bytes, and what was told of its columns and of the kind of its
    rows."""

    data: bytes
    mapped: Mapping[str, str] = field(default_factory=dict)
    kind: str = ""


@router.get("/store/import")
def ask_file(request: Request) -> HTMLResponse:
    """Where a file is chosen."""
    return _import_page(request)


def _import_page(
    request: Request,
    preview: Preview | None = None,
    key: str = "",
    message: str = "",
    kind: str = "",
) -> HTMLResponse:
    return page(
        request,
        "stock/store_import.html",
        preview=preview,
        key=key,
        message=message,
        columns=tuple(COLUMNS),
        kinds=tuple(KINDS),
        kind=kind,
        note=NOTE,
        shown=SHOWN,
    )


@router.post("/store/import")
def look(request: Request, sent: Sent) -> HTMLResponse:
    """What a file would do, row by row, before anything is written."""
    name, data = file_of(sent)
    if not name:
        return _import_page(request, message="Choose a file first.")
    return _look(request, name, secrets.token_urlsafe(9), Kept(data))


def _look(request: Request, name: str, key: str, kept: Kept) -> HTMLResponse:
    try:
        preview = _preview(request, kept)
    except FileError as fault:
        return _import_page(request, message=f"{name} was not taken. {fault}")
    files: dict[str, Kept] = request.app.state.gear_files
    files[key] = kept
    while len(files) > KEPT_FILES:
        files.pop(next(iter(files)), None)
    return _import_page(request, preview, key, kind=kept.kind)


@router.post("/store/import/columns")
def tell_columns(request: Request, form: Texts) -> HTMLResponse:
    """The same file again, with what was told of its columns."""
    key = form.get("key", "")
    kept: Kept | None = request.app.state.gear_files.get(key)
    if kept is None:
        return _import_page(request, message="That file is no longer at hand; choose it again.")
    told = {
        name.removeprefix("column.").strip().lower(): "" if column == NOTE else column
        for name, column in form.items()
        if name.startswith("column.") and (column == NOTE or column in COLUMNS)
    }
    taken = [column for column in told.values() if column]
    twice = sorted({column for column in taken if taken.count(column) > 1})
    if twice:
        preview = _preview(request, kept)
        words = f"Two columns are both told to be {', '.join(twice)}: choose one."
        return _import_page(request, preview, key, words, kept.kind)
    kind = form.get("kind", "")
    again = Kept(kept.data, told, kind if kind in KINDS else "")
    return _look(request, "The file", key, again)


@router.post("/store/import/take")
def take(request: Request, key: Annotated[str, Form()] = "") -> Response:
    """Write a file that was looked at: all of it or nothing; what was told of its columns is
    remembered."""
    kept: Kept | None = request.app.state.gear_files.get(key)
    if kept is None:
        return _import_page(request, message="That file is no longer at hand; choose it again.")
    preview = _preview(request, kept)
    if preview.problems or preview.wanted:
        return _import_page(request, preview, key, kind=kept.kind)
    work = partial(_write, pieces_of(request), _columns(request), kept)
    if len(preview.rows) > MANY:
        works_of(request).begin(_about(key), work)
        return RedirectResponse(store_url("import/writing", key=key), status_code=303)
    request.app.state.gear_files.pop(key, None)
    return store_page(request, Look(), _written(work(unheard)))


def _about(key: str) -> tuple[str, str]:
    return "import", key


def _write(pieces: Pieces, columns: CsvColumns, kept: Kept, heard: Heard) -> tuple[int, int]:
    """Read a file's rows and write them: how many were new or changed, of how many."""
    preview = _read(pieces, columns, kept, heard)
    rows = preview.rows
    changed = pieces.put([row.piece for row in rows], f"{len(rows)} rows of a file")
    if kept.mapped:
        columns.put(kept.mapped)
    return changed, len(rows)


def _written(outcome: tuple[int, int]) -> str:
    return f"{outcome[0]:,} of {outcome[1]:,} rows were new or changed."


@router.get("/store/import/writing")
def writing(request: Request, key: Annotated[str, Query()] = "") -> HTMLResponse:
    """How far a large file is: rows read so far, until all of them are written."""
    work = works_of(request).of(_about(key))
    kept: Kept | None = request.app.state.gear_files.get(key)
    if work is None or kept is None:
        return _import_page(request, message="That file is no longer at hand; choose it again.")
    return page(
        request,
        "stock/store_writing.html",
        key=key,
        work=work,
        rows=max(kept.data.count(b"\n") - 1, 1),
        words=_written(work.outcome) if work.outcome else "",
    )


@router.post("/store/import/writing")
def stop_writing(request: Request, key: Annotated[str, Form()] = "") -> Response:
    """Stop reading a large file; nothing of it is written then."""
    works_of(request).stop(_about(key))
    return RedirectResponse(store_url("import/writing", key=key), status_code=303)


def _columns(request: Request) -> CsvColumns:
    return request.app.state.csv_columns


def _preview(request: Request, kept: Kept) -> Preview:
    return _read(pieces_of(request), _columns(request), kept, unheard)


def _read(pieces: Pieces, columns: CsvColumns, kept: Kept, heard: Heard) -> Preview:
    known = {piece.tag.lower(): piece for piece in pieces.all(retired=True)}
    mapped = columns.all() | dict(kept.mapped)
    return read_gear(kept.data, known, mapped=mapped, kind=kept.kind, heard=heard)
