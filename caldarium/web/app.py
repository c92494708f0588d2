"""The application: routers, templates, static files with content hashes, strict headers."""

import hashlib
from functools import lru_cache
from pathlib import Path

from fastapi import FastAPI, Request, Response
from fastapi.responses import HTMLResponse, PlainTextResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.middleware.base import RequestResponseEndpoint

from caldarium.store.courses import Courses, NoSuchCourseError
from caldarium.store.database import open_database
from caldarium.store.pieces import NoSuchPieceError, Pieces
from caldarium.web.day import bench, group, outfits, story
from caldarium.web.load import lists, load
from caldarium.web.night import night, shelter
from caldarium.web.page import page
from caldarium.web.plan import courses, people
from caldarium.web.stock import store, weigh
from caldarium.web.weather import climate, gpx, route, sources

HERE = Path(__file__).parent
POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; "
    "font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; "
    "frame-ancestors 'none'"
)
LARGEST_BODY = 64_000_000
LOOPBACK = {"127.0.0.1", "localhost", "[::1]", "testserver"}


class HashedFiles(StaticFiles):
    """Static files; a request that names the content's hash may be kept for a year."""

    async def get_response(self, path: str, scope: dict) -> Response:  # type: ignore[override]
        response = await super().get_response(path, scope)
        if b"v=" in scope.get("query_string", b""):
            response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


@lru_cache(maxsize=64)
def static_url(name: str) -> str:
    """Address of a static file with its content hash."""
    digest = hashlib.sha256((HERE / "static" / name).read_bytes()).hexdigest()[:12]
    return f"/static/{name}?v={digest}"


def create_app(database: Path) -> FastAPI:
    """The application on one database file."""
    app = FastAPI(title="Caldarium", docs_url=None, redoc_url=None, openapi_url=None)
    engine = open_database(database)
    app.state.courses = Courses(engine)
    app.state.pieces = Pieces(engine)
    app.state.gear_files = {}
    app.state.scales = weigh.Bench()
    app.state.static_url = static_url
    app.state.assessed = {}
    app.state.ways = gpx.Ways()
    app.mount("/static", HashedFiles(directory=HERE / "static"), name="static")
    for room in (
        courses,
        bench,
        route,
        sources,
        gpx,
        group,
        outfits,
        night,
        shelter,
        story,
        people,
        climate,
        store,
        load,
        lists,
        weigh,
    ):
        app.include_router(room.router)

    @app.middleware("http")
    async def guard(request: Request, call_next: RequestResponseEndpoint) -> Response:
        refusal = _refusal(request)
        response = refusal if refusal is not None else await call_next(request)
        response.headers["Content-Security-Policy"] = POLICY
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "same-origin"
        return response

    @app.exception_handler(NoSuchCourseError)
    async def no_course(request: Request, _fault: NoSuchCourseError) -> HTMLResponse:
        return page(request, "fault.html", status=404, message="There is no such course here.")

    @app.exception_handler(NoSuchPieceError)
    async def no_piece(request: Request, _fault: NoSuchPieceError) -> HTMLResponse:
        return page(request, "fault.html", status=404, message="There is no such piece here.")

    @app.exception_handler(HTTPException)
    async def fault(request: Request, fault: HTTPException) -> HTMLResponse:
        return page(request, "fault.html", status=fault.status_code, message=str(fault.detail))

    return app


def _refusal(request: Request) -> Response | None:
    """Requests from other sites' pages and oversized bodies are not taken."""
    host = request.headers.get("host", "").rsplit(":", 1)[0]
    if host not in LOOPBACK:
        return PlainTextResponse("This application answers on this machine only.", 421)
    if request.method != "GET":
        origin = request.headers.get("origin")
        if origin is not None and origin.split("://")[-1] != request.headers.get("host"):
            return PlainTextResponse("Requests from other sites are not taken.", 403)
        if int(request.headers.get("content-length") or 0) > LARGEST_BODY:
            return PlainTextResponse("The file is larger than 60 MB.", 413)
    return None
