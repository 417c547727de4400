"""Local by default: only this machine's own pages may talk to the product."""

from __future__ import annotations

import re
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from hearth_yield.actions.back_up import MAX_BACKUP
from hearth_yield.core.errors import TooLarge
from hearth_yield.exchange.package import MAX_UPLOAD
from hearth_yield.texts import visible

from .problems import problem_of, respond
from .schemas import Problem

LOCAL_HOST = re.compile(r"(127\.0\.0\.1|localhost|\[::1\])(:\d{1,5})?")
OWN_SITES = frozenset({"same-origin", "none"})
"""What a browser says of a request by our own page, or of an address typed by the person."""
FRAMING = 1024 * 1024
"""What a form adds to the file it carries."""
HEADERS = {
    "content-security-policy": "default-src 'self'; style-src 'self' 'unsafe-inline'; "
    "img-src 'self' data:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'",
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
    "x-frame-options": "DENY",
}


class _BodyTooLong(HTTPException):
    """Raised while a body is read: as one of HTTP's own it comes through whoever reads it."""

    def __init__(self, most: int) -> None:
        super().__init__(413, f"the upload is too large: at most {most // 2**20} MB")


class Guard:
    """Refuses requests that a foreign page makes (by Host, Origin or what the browser says of it)
    and overlong bodies; adds security headers to every answer."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return

        async def dressed(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(HEADERS)
            await send(message)

        refusal = _refusal(Headers(scope=scope), _most(scope["path"]))
        if refusal is not None:
            await respond(refusal)(scope, receive, dressed)
            return
        received, most = 0, _most(scope["path"])

        async def bounded() -> Message:
            nonlocal received
            message = await receive()
            received += len(message.get("body", b""))
            if received > most + FRAMING:
                raise _BodyTooLong(most)
            return message

        try:
            await self.app(scope, bounded, dressed)
        except _BodyTooLong:
            await respond(_too_long(received, most))(scope, receive, dressed)


def _most(path: str) -> int:
    """Bytes a request may carry: a backup holds everything at once."""
    return MAX_BACKUP if path == "/api/restore" else MAX_UPLOAD


def _too_long(size: int, most: int) -> Problem:
    return problem_of(
        TooLarge(
            "the upload is too large", field="file", value=size, rule=f"at most {most // 2**20} MB"
        )
    )


def _refusal(headers: Headers, most: int) -> Problem | None:
    host = headers.get("host", "")
    if not LOCAL_HOST.fullmatch(host):
        return _forbidden("host", host, "127.0.0.1, localhost or [::1]")
    origin = headers.get("origin")
    if origin is not None and _netloc(origin) != host:
        return _forbidden("origin", origin, f"a page served by {host}")
    site = headers.get("sec-fetch-site")
    if site is not None and site not in OWN_SITES:
        return _forbidden("sec-fetch-site", site, f"a page served by {host}")
    length = headers.get("content-length", "0")
    if length.isdigit() and int(length) > most + FRAMING:
        return _too_long(int(length), most)
    return None


def _netloc(origin: str) -> str | None:
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None


def _forbidden(field: str, value: str, rule: str) -> Problem:
    return Problem(
        type="about:foreign",
        title="Only this machine may ask",
        status=403,
        detail=f"the {field} header is not this machine's",
        field=field,
        value=visible(value[:200]),
        rule=rule,
    )
