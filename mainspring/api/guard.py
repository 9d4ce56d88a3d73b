"""At the door: who may ask, how much may be sent, and what every answer carries."""

import re
from typing import Any

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from mainspring.api import errors

BODY_LIMIT = 1_000_000  # bytes of a request
FILE_LIMIT = 21_000_000  # of one that brings a file
FILES = ("/api/import", "/api/curves/file", "/api/families/file", "/photos/")
LOG_LIMIT = 82_000_000  # of one that brings a log
LOGS = re.compile(r"/api/lines/[^/]+/logs/[^/]+$")
PATH_LIMIT = 1000
LOOPBACK_NAMES = ("127.0.0.1", "localhost", "[::1]")
ALWAYS = {
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Content-Security-Policy": "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline';"
    " img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; worker-src 'self'; object-src 'none';"
    " base-uri 'self'; form-action 'self'; frame-ancestors 'none'",
}


class Guard:
    """Answers only to this machine's own names and pages, and to bodies of a sensible size.

    Without accounts, any web page open in the technician's browser could otherwise write here (a form posted across
    sites) or read (a name made to point at loopback). A body is counted while it is read: its header may say nothing,
    or lie.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass on, or refuse with problem details."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        answer = _with_headers(send)
        refused = _refusal(scope)
        if refused is not None:
            await refused(scope, receive, answer)
            return
        await self.app(scope, _counted(receive, _limit(scope)), answer)


def _refusal(scope: Scope) -> Any:
    headers = Headers(scope=scope)
    host = headers.get("host", "")
    if host.rsplit(":", 1)[0] not in LOOPBACK_NAMES and host not in LOOPBACK_NAMES:
        return errors.problem_response(421, "Not this machine", "Mainspring answers to 127.0.0.1 and localhost only")
    origin = headers.get("origin")
    if origin is not None and origin != f"{scope['scheme']}://{host}":
        return errors.problem_response(403, "Another page's request", "only Mainspring's own pages may ask this")
    path = scope["path"]
    if len(path) > PATH_LIMIT or not path.isprintable():
        return errors.problem_response(404, "Not found", "no such address")
    length = headers.get("content-length", "0")
    if not (length.isascii() and length.isdigit()) or int(length) > _limit(scope):
        return _too_large(_limit(scope))
    return None


def _limit(scope: Scope) -> int:
    if LOGS.match(scope["path"]):
        return LOG_LIMIT
    return FILE_LIMIT if any(part in scope["path"] for part in FILES) else BODY_LIMIT


def _too_large(limit: int) -> Any:
    return errors.problem_response(413, "Too large", f"the body may have up to {limit} bytes")


def _counted(receive: Receive, limit: int) -> Receive:
    taken = 0

    async def counted() -> Message:
        nonlocal taken
        message = await receive()
        taken += len(message.get("body", b""))
        if taken > limit:
            raise HTTPException(413, f"the body may have up to {limit} bytes")
        return message

    return counted


def _with_headers(send: Send) -> Send:
    async def told(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in ALWAYS.items():
                headers[name] = value
        await send(message)

    return told
