"""What is let in and what goes out: hosts, sizes, headers."""

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.responses import PlainTextResponse
from starlette.staticfiles import StaticFiles
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from caldarium.web.work import Answering

POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; "
    "font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; "
    "frame-ancestors 'none'"
)
LOOPBACK = frozenset({"127.0.0.1", "localhost", "[::1]"})
LARGEST_FILE = 64_000_000
LARGEST_FORM = 2_000_000
"""Bytes of a request with a file, and of one without."""
SAFE = ("GET", "HEAD")


class HashedFiles(StaticFiles):
    """Static files; a request that names the content's hash may be kept for a year."""

    async def get_response(self, path: str, scope: Scope):  # type: ignore[override]
        response = await super().get_response(path, scope)
        if b"v=" in scope.get("query_string", b""):
            response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


class Guard:
    """Refuses other sites and bodies without end, answers HEAD, and sets every page's headers.

    It counts what is being answered, for long work to give way.
    """

    def __init__(self, app: ASGIApp, answering: Answering) -> None:
        self.app, self._answering = app, answering

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        refusal = _refusal(scope["method"], Headers(scope=scope))
        if refusal is not None:
            await refusal(scope, receive, _with_headers(scope, send))
            return
        head = scope["method"] == "HEAD"
        inner = dict(scope, method="GET") if head else scope
        outward = _without_body(send) if head else send
        self._answering.now += 1
        try:
            await self.app(inner, _counted(scope, receive), _with_headers(scope, outward))
        finally:
            self._answering.now -= 1


def _refusal(method: str, headers: Headers) -> PlainTextResponse | None:
    """Requests to other hosts and from other sites' pages, and sizes that are told beforehand."""
    if headers.get("host", "").rsplit(":", 1)[0] not in LOOPBACK:
        return PlainTextResponse("This application answers on this machine only.", 421)
    if method in SAFE:
        return None
    origin = headers.get("origin")
    if origin is not None and origin.split("://")[-1] != headers.get("host"):
        return PlainTextResponse("Requests from other sites are not taken.", 403)
    told = headers.get("content-length", "0")
    if not (told.isascii() and told.isdigit()):
        return PlainTextResponse("The request's length is no number.", 400)
    if len(told) > 12 or int(told) > _largest(headers):
        return PlainTextResponse(_too_large(headers), 413)
    return None


def _largest(headers: Headers) -> int:
    kind = headers.get("content-type", "")
    return LARGEST_FILE if kind.startswith("multipart/form-data") else LARGEST_FORM


def _too_large(headers: Headers) -> str:
    return f"Not taken: larger than {_largest(headers) // 1_000_000} MB."


def _counted(scope: Scope, receive: Receive) -> Receive:
    """The body as it comes in, refused once it is too large, whatever its length was told to be."""
    headers = Headers(scope=scope)
    largest, seen = _largest(headers), 0

    async def counted() -> Message:
        nonlocal seen
        message = await receive()
        seen += len(message.get("body", b""))
        if seen > largest:
            raise HTTPException(413, _too_large(headers))
        return message

    return counted


def _without_body(send: Send) -> Send:
    async def bare(message: Message) -> None:
        if message["type"] == "http.response.body":
            message = {**message, "body": b""}
        await send(message)

    return bare


def _with_headers(scope: Scope, send: Send) -> Send:
    asked = Headers(scope=scope)
    static = scope["path"].startswith("/static/")

    async def dressed(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            headers["Content-Security-Policy"] = POLICY
            headers["X-Content-Type-Options"] = "nosniff"
            headers["Referrer-Policy"] = "same-origin"
            if not static:
                headers["Cache-Control"] = "no-store"
            if scope["method"] not in SAFE and "hx-request" in asked:
                # A page shown in answer to a change stands at the address it was made from.
                headers["HX-Push-Url"] = "false"
        await send(message)

    return dressed
