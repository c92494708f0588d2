"""Backups: the whole database as one file out, and one brought back."""

import tempfile
from datetime import date
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse, HTMLResponse, Response
from starlette.background import BackgroundTask

from caldarium.store.database import NotADatabaseError, back_up, restore_in_use
from caldarium.web.forms import Sent, file_of
from caldarium.web.page import courses_of, page

router = APIRouter()


def _backup_page(request: Request, message: str = "", kept: str = "") -> HTMLResponse:
    listed = courses_of(request).list()
    return page(request, "plan/backup.html", listed=listed, message=message, kept=kept)


@router.get("/backup")
def show(request: Request) -> HTMLResponse:
    """Where a backup is taken and brought back."""
    return _backup_page(request)


@router.get("/backup/file")
def take(request: Request) -> Response:
    """The whole database as one file."""
    folder = Path(tempfile.mkdtemp(prefix="caldarium-"))
    target = folder / f"caldarium-{date.today():%Y-%m-%d}.sqlite"
    back_up(request.app.state.database, target)

    def sweep() -> None:
        target.unlink(missing_ok=True)
        folder.rmdir()

    return FileResponse(
        target,
        media_type="application/vnd.sqlite3",
        filename=target.name,
        background=BackgroundTask(sweep),
    )


@router.post("/backup/restore")
def bring_back(request: Request, sent: Sent) -> HTMLResponse:
    """Put a backup in the place of what is here, which is kept beside it."""
    name, data = file_of(sent)
    if not name:
        return _backup_page(request, "Choose a backup first. Nothing was changed.")
    with tempfile.TemporaryDirectory(prefix="caldarium-") as folder:
        brought = Path(folder) / "brought.sqlite"
        brought.write_bytes(data)
        state = request.app.state
        try:
            aside = restore_in_use(state.engine, state.database, brought)
        except NotADatabaseError as fault:
            told = str(fault).replace(str(brought), name)
            return _backup_page(request, f"{told}. Nothing was changed.")
    state.assessed.clear()
    return _backup_page(request, f"{name} is back.", aside.name)
